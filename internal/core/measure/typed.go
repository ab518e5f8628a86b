package measure

import (
	"fmt"
	"math/big"
	"regexp"
	"strconv"
	"strings"
)

// Unit is a unit people type.
type Unit string

// The units that are understood. PoundOunce is a pounds-and-ounces entry such
// as "1 lb 8 oz", kept as its whole number of ounces.
const (
	Kilogram   Unit = "kg"
	Gram       Unit = "g"
	Pound      Unit = "lb"
	Ounce      Unit = "oz"
	PoundOunce Unit = "lb-oz"
	Centimetre Unit = "cm"
	Millimetre Unit = "mm"
	Metre      Unit = "m"
	Inch       Unit = "in"
	Litre      Unit = "l"
	Millilitre Unit = "ml"
	Gallon     Unit = "gal" // of the United States: 231 cubic inches
)

// OfLength is what a bare length means to somebody whose bare masses mean the unit.
func (u Unit) OfLength() Unit {
	if u == Pound {
		return Inch
	}
	return Centimetre
}

// Typed is a quantity as somebody typed it: decimal text and unit. It is the
// truth that is stored; grams or millimetres are derived from it once.
type Typed struct {
	Decimal string `json:"decimal"`
	Unit    Unit   `json:"unit"`
}

// writtenOut is a number written out: no exponent can blow it up.
var writtenOut = regexp.MustCompile(`^[0-9]{1,12}(\.[0-9]{1,11})?$`)

// WrittenOut tells whether the number of a quantity from elsewhere is one that can be read.
func (t Typed) WrittenOut() bool { return writtenOut.MatchString(t.Decimal) }

// Whole writes a whole number as the decimal of a Typed.
func Whole(n int64) string { return strconv.FormatInt(n, 10) }

// Write gives a typed quantity as somebody would type it, so that reading it gives
// the same again.
func Write(t Typed) string {
	r, ok := new(big.Rat).SetString(t.Decimal)
	if t.Unit != PoundOunce || !ok {
		return t.Decimal + " " + string(t.Unit)
	}
	pounds := new(big.Int).Quo(r.Num(), new(big.Int).Mul(r.Denom(), big.NewInt(16)))
	ounces := r.Sub(r, new(big.Rat).SetInt(new(big.Int).Mul(pounds, big.NewInt(16))))
	return fmt.Sprintf("%s lb %s oz", pounds, plain(ounces))
}

// Reading is a typed quantity that was understood.
type Reading struct {
	Typed
	// Assumed is true when no unit was typed and the place's unit was taken.
	Assumed bool
	// Whole is the quantity in grams (masses), millimetres (lengths) or millilitres
	// (volumes).
	Whole int64
}

// Fault says why typed text was not understood.
type Fault struct {
	// Code is one of: empty, negative, exponent, ambiguous, unit, number, zero,
	// too-large.
	Code string
	// Text is what was typed.
	Text string
	// Mend says what to type instead.
	Mend string
}

func (f *Fault) Error() string { return f.Mend }

var exact = map[Unit]*big.Rat{
	Kilogram:   big.NewRat(1000, 1),
	Gram:       big.NewRat(1, 1),
	Pound:      big.NewRat(45359237, 100000),
	Ounce:      big.NewRat(45359237, 1600000),
	PoundOunce: big.NewRat(45359237, 1600000),
	Millimetre: big.NewRat(1, 1),
	Centimetre: big.NewRat(10, 1),
	Metre:      big.NewRat(1000, 1),
	Inch:       big.NewRat(254, 10),
	Litre:      big.NewRat(1000, 1),
	Millilitre: big.NewRat(1, 1),
	Gallon:     big.NewRat(3785411784, 1000000),
}

var spellings = map[string]Unit{
	"kg": Kilogram, "kgs": Kilogram, "kilo": Kilogram, "kilos": Kilogram,
	"g": Gram, "gr": Gram, "grams": Gram, "gram": Gram,
	"lb": Pound, "lbs": Pound, "pound": Pound, "pounds": Pound,
	"oz": Ounce, "ounce": Ounce, "ounces": Ounce,
	"cm": Centimetre, "mm": Millimetre, "m": Metre, "in": Inch, "inch": Inch, "inches": Inch, "\"": Inch,
	"l": Litre, "litre": Litre, "litres": Litre, "liter": Litre, "liters": Litre, "ml": Millilitre,
	"gal": Gallon, "gallon": Gallon, "gallons": Gallon,
}

// Whole gives the quantity in grams or millimetres, rounded half away from
// zero. It returns an error when the decimal or the unit is not one that
// ReadMass or ReadLength would store.
func (t Typed) Whole() (int64, error) {
	f, ok := exact[t.Unit]
	r, ok2 := new(big.Rat).SetString(t.Decimal)
	if !ok || !ok2 {
		return 0, fmt.Errorf("quantity %q %q is not a decimal with a known unit", t.Decimal, t.Unit)
	}
	return roundRat(r.Mul(r, f)).Int64(), nil
}

var (
	shape      = regexp.MustCompile(`^([0-9.,' ]*[0-9.,])\s*(\pL*|")\.?$`)
	poundOunce = regexp.MustCompile(`^([0-9]+)\s*(?:lbs?|pounds?)\s*([0-9]+(?:[.,][0-9]+)?)\s*(?:oz|ounces?)$`)
	decimal    = regexp.MustCompile(`^[0-9]+(?:[.,][0-9]+)?$|^[.,][0-9]+$`)
	thousands  = regexp.MustCompile(`^[1-9][0-9]{0,2},[0-9]{3}$`)
	exponent   = regexp.MustCompile(`^[0-9.,]+[eE][-+]?[0-9]+`)
)

// ReadMass reads a mass such as "16", "16kg", "16,5 kg", "35 lbs" or
// "1 lb 8 oz". A bare number takes the unit given. The result is more than 0 and
// at most max; errors are of type *Fault.
func ReadMass(text string, bare Unit, max Mass) (Reading, error) {
	return read(text, bare, int64(max), []Unit{Kilogram, Gram, Pound, Ounce}, "a mass such as 16 kg or 35 lb")
}

// ReadLength reads a length such as "45 cm", "450 mm" or "18 in". A bare number
// takes the unit given. The result is more than 0 and at most max; errors are
// of type *Fault.
func ReadLength(text string, bare Unit, max Length) (Reading, error) {
	return read(text, bare, int64(max), []Unit{Centimetre, Millimetre, Metre, Inch}, "a length such as 45 cm or 18 in")
}

// ReadVolume reads a volume such as "1.5 l", "750 ml" or "1 gal". A bare number
// takes the unit given. The result is more than 0 and at most max; errors are of
// type *Fault.
func ReadVolume(text string, bare Unit, max Volume) (Reading, error) {
	return read(text, bare, int64(max), []Unit{Litre, Millilitre, Gallon}, "a volume such as 1.5 l or 750 ml")
}

func read(text string, bare Unit, max int64, units []Unit, example string) (Reading, error) {
	s := strings.ToLower(strings.Join(strings.Fields(text), " "))
	fault := func(code, mend string) (Reading, error) {
		return Reading{}, &Fault{Code: code, Text: text, Mend: mend}
	}
	switch {
	case s == "":
		return fault("empty", "type "+example)
	case strings.HasPrefix(s, "-") || strings.HasPrefix(s, "−"):
		return fault("negative", "it must be more than nothing: type "+example)
	case exponent.MatchString(s):
		return fault("exponent", "write the number out: type "+example)
	}
	var t Typed
	assumed := false
	if m := poundOunce.FindStringSubmatch(s); m != nil && contains(units, Pound) {
		oz, _ := new(big.Rat).SetString(strings.Replace(m[2], ",", ".", 1))
		lb, _ := new(big.Rat).SetString(m[1])
		t = Typed{plain(oz.Add(oz, lb.Mul(lb, big.NewRat(16, 1)))), PoundOunce}
	} else {
		m := shape.FindStringSubmatch(s)
		if m == nil {
			return fault("number", "that is no number: type "+example)
		}
		number, unit := strings.TrimSpace(m[1]), m[2]
		if !decimal.MatchString(number) || thousands.MatchString(number) {
			return fault("ambiguous", "leave out separators of thousands and use one decimal mark: 1234.5")
		}
		r, ok := new(big.Rat).SetString(strings.Replace(number, ",", ".", 1))
		if !ok {
			return fault("number", "that is no number: type "+example)
		}
		t.Decimal = plain(r)
		if unit == "" {
			t.Unit, assumed = bare, true
		} else if u, ok := spellings[unit]; ok && contains(units, u) {
			t.Unit = u
		} else {
			return fault("unit", fmt.Sprintf("the unit %q is not known here: type %s", unit, example))
		}
	}
	if len(t.Decimal) > 20 {
		return fault("number", "too many digits: type "+example)
	}
	whole, err := t.Whole()
	if err != nil {
		return fault("unit", "type "+example)
	}
	if whole <= 0 {
		return fault("zero", "it must be more than nothing: type "+example)
	}
	if whole > max || whole < 0 {
		return fault("too-large", fmt.Sprintf("at most %s here", plainWhole(max, units[0])))
	}
	return Reading{Typed: t, Assumed: assumed, Whole: whole}, nil
}

// plain writes an exact decimal without trailing noughts.
func plain(r *big.Rat) string {
	s := r.FloatString(12)
	s = strings.TrimRight(s, "0")
	return strings.TrimSuffix(s, ".")
}

func plainWhole(n int64, u Unit) string {
	r := new(big.Rat).Quo(big.NewRat(n, 1), exact[u])
	return plain(r) + " " + string(u)
}

func contains(us []Unit, u Unit) bool {
	for _, x := range us {
		if x == u {
			return true
		}
	}
	return false
}

// Quantity is a typed quantity with its grams, millimetres or millilitres.
type Quantity struct {
	Typed
	Whole int64 `json:"whole"`
}

// QuantityOf derives the whole of a typed quantity, which was read before it was kept.
func QuantityOf(t Typed) Quantity {
	whole, _ := t.Whole()
	return Quantity{t, whole}
}
