package measure

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Source of the conversion: international yard and pound agreement 1959, NIST
// SP 811: 1 lb = 453.59237 g exactly. Values worked by hand.
func TestReadMassReference(t *testing.T) {
	for _, c := range []struct {
		text, decimal string
		unit          Unit
		grams         int64
		assumed       bool
	}{
		{"16", "16", Kilogram, 16000, true},
		{"16kg", "16", Kilogram, 16000, false},
		{"16,5 kg", "16.5", Kilogram, 16500, false},
		{"35 lbs", "35", Pound, 15876, false},        // 35 x 453.59237 = 15875.73
		{"1 lb 8 oz", "24", PoundOunce, 680, false},  // 1.5 x 453.59237 = 680.39
		{" 17.6 lb", "17.6", Pound, 7983, false},     // 17.6 x 453.59237 = 7983.23
		{"0.5 LB", "0.5", Pound, 227, false},         // 226.796
		{"455 g", "455", Gram, 455, false},           //
		{".5kg", "0.5", Kilogram, 500, false},        //
		{"200 lb", "200", Pound, 90718, false},       // 90718.47
		{"16.50 kg", "16.5", Kilogram, 16500, false}, //
	} {
		r, err := ReadMass(c.text, Kilogram, MaxLoad)
		require.NoError(t, err, c.text)
		assert.Equal(t, Reading{Typed{c.decimal, c.unit}, c.assumed, c.grams}, r, c.text)
	}
	r, err := ReadMass("35", Pound, MaxLoad)
	require.NoError(t, err)
	assert.Equal(t, Reading{Typed{"35", Pound}, true, 15876}, r)
	l, err := ReadLength("18 in", Centimetre, 2000)
	require.NoError(t, err)
	assert.EqualValues(t, 457, l.Whole) // 457.2 mm
}

func TestReadMassRefuses(t *testing.T) {
	for text, code := range map[string]string{
		"": "empty", "  ": "empty", "-3": "negative", "−3 kg": "negative", "1e9": "exponent", "1.234,5": "ambiguous",
		"1,234 kg": "ambiguous", "1 234": "ambiguous", "16 stone": "unit", "16 cm": "unit", "heavy": "number",
		"0": "zero", "301 kg": "too-large", "99999999999999999999999 kg": "number", "16 kg 2": "number", "NaN": "number",
	} {
		_, err := ReadMass(text, Kilogram, MaxLoad)
		var f *Fault
		require.ErrorAs(t, err, &f, text)
		assert.Equal(t, code, f.Code, text)
		assert.NotEmpty(t, f.Mend)
	}
}

func TestRoundHalfAwayFromZero(t *testing.T) {
	assert.Equal(t, 0.287, Round(0.2865, 3))
	assert.Equal(t, -0.287, Round(-0.2865, 3))
	assert.Equal(t, 2.5, Round(2.45, 1))
	assert.Equal(t, 1.88, Round(1.875, 2))
}

// What is typed is the truth: reading back what was stored gives the same
// decimal, unit and grams, whatever the display unit.
func TestReadingAgainChangesNothing(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 299_999).Draw(t, "thousandths")
		unit := rapid.SampledFrom([]Unit{Kilogram, Pound, Ounce}).Draw(t, "unit")
		text := plainWhole(int64(n), Kilogram)
		text = text[:len(text)-2] + string(unit)
		first, err := ReadMass(text, Kilogram, MaxLoad)
		if err != nil {
			t.Skip("rounds to nothing")
		}
		again, err := ReadMass(first.Decimal+" "+string(first.Unit), Pound, MaxLoad)
		require.NoError(t, err)
		assert.Equal(t, first, again)
	})
}

// Whatever is typed, it is read or refused with a reason, and what is read can be
// written out and read again.
func FuzzReadMass(f *testing.F) {
	for _, s := range []string{"16", "16kg", "16,5 kg", "35 lbs", "1 lb 8 oz", " 17.6 lb", "-3", "1e9", "1.234,5", "16 stone", "", "0.0000000000001", "１６", "16\u00a0kg", "1 lb 99 oz"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		r, err := ReadMass(text, Kilogram, MaxLoad)
		if err != nil {
			var fault *Fault
			if !errors.As(err, &fault) || fault.Code == "" || fault.Mend == "" {
				t.Fatalf("%q: %v", text, err)
			}
			return
		}
		if r.Whole <= 0 || r.Whole > int64(MaxLoad) || len(r.Decimal) > 20 {
			t.Fatalf("%q: %+v", text, r)
		}
		if whole, err := r.Typed.Whole(); err != nil || whole != r.Whole {
			t.Fatalf("%q: %+v: %d %v", text, r, whole, err)
		}
	})
}

// A US gallon is 231 cubic inches, 3785.411784 ml (published: NIST SP 811). What is
// written can be read again and is the same.
func TestVolumesAndWriting(t *testing.T) {
	for text, ml := range map[string]int64{"1.5 l": 1500, "750 ml": 750, "2": 2000, "1 gal": 3785, "0,5 litres": 500} {
		r, err := ReadVolume(text, Litre, 500_000)
		require.NoError(t, err, text)
		assert.Equal(t, ml, r.Whole, text)
	}
	for _, text := range []string{"2 kg", "600 l", "0 l", "a lot"} {
		_, err := ReadVolume(text, Litre, 500_000)
		assert.Error(t, err, text)
	}
	_, err := ReadMass("2 l", Kilogram, MaxLoad)
	assert.Error(t, err, "a litre is no mass")
	for _, text := range []string{"16.5 kg", "1 lb 8 oz", "0 lb 8.5 oz", "35 lb"} {
		r, err := ReadMass(text, Kilogram, MaxLoad)
		require.NoError(t, err)
		again, err := ReadMass(Write(r.Typed), Pound, MaxLoad)
		require.NoError(t, err, Write(r.Typed))
		assert.Equal(t, r.Typed, again.Typed, text)
	}
}
