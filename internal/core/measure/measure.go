// Package measure holds the quantities of the job as types of their own, so
// that a mass is never added to a length, and reads what people type.
//
// Conversions are exact: 1 lb = 453.59237 g and 1 in = 25.4 mm (published:
// international yard and pound agreement of 1959; NIST SP 811). Whole units are
// reached by rounding once, half away from zero.
package measure

import (
	"math"
	"math/big"
	"strconv"
)

// Mass is a mass in whole grams.
type Mass int64

// Length is a length in whole millimetres.
type Length int64

// Volume is a volume in whole millilitres.
type Volume int64

// Span is a stretch of time in whole milliseconds.
type Span int64

// Second is one second as a Span.
const Second Span = 1000

// Minute is one minute as a Span.
const Minute = 60 * Second

// MaxLoad is the largest external load the job knows, 300 kg.
const MaxLoad Mass = 300_000

// Grams rounds a computed mass in grams to a Mass, half away from zero.
func Grams(g float64) Mass { return Mass(Round(g, 0)) }

// Seconds rounds a number of seconds to a Span of whole milliseconds.
func Seconds(s float64) Span { return Span(Round(s*1000, 0)) }

// InSeconds gives the span in seconds, exact to the millisecond.
func (s Span) InSeconds() float64 { return float64(s) / 1000 }

// Round rounds x to the given number of decimals, half away from zero. It
// works on x written with twelve significant digits, so that 0.2865 rounds up as
// it is written although its binary value lies just below, and so does a sum
// that misses a half by the noise of 64-bit floats.
func Round(x float64, decimals int) float64 {
	if math.IsNaN(x) || math.IsInf(x, 0) {
		return x
	}
	p := math.Pow10(decimals)
	if y := x * p; math.Abs(math.Abs(y-math.Trunc(y))-0.5) > 1e-3 && math.Abs(y) < 1e9 {
		return math.Round(y) / p // far from a half: noise cannot matter
	}
	r, ok := new(big.Rat).SetString(strconv.FormatFloat(x, 'g', 12, 64))
	if !ok {
		return math.Round(x*p) / p
	}
	r.Mul(r, new(big.Rat).SetFloat64(p))
	f, _ := new(big.Float).SetInt(roundRat(r)).Float64()
	return f / p
}

// roundRat rounds an exact ratio to a whole number, half away from zero.
func roundRat(r *big.Rat) *big.Int {
	num, den := new(big.Int).Abs(r.Num()), r.Denom()
	num.Mul(num, big.NewInt(2)).Add(num, den)
	q := num.Quo(num, new(big.Int).Mul(den, big.NewInt(2)))
	if r.Sign() < 0 {
		q.Neg(q)
	}
	return q
}
