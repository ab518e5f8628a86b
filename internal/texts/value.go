package texts

import (
	"fmt"
	"math"
	"reflect"
	"strconv"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"nimbleanvil/internal/core/measure"
)

// The types of arguments: what a number is measured in, and so how it is written. Masses
// and lengths are converted to the reader's unit.
type (
	Grams        float64 // to a tenth from ten units on, to a hundredth below
	ScaleGrams   float64 // as a scale shows it, to a thousandth
	Millimetres  float64 // "45.5 cm", "18 in"
	Millilitres  float64 // "0.5 l", "250 ml"
	Span         float64 // milliseconds as seconds: "17.5 s"
	Clock        float64 // milliseconds as a clock: "7:05"
	Percent      float64 // a difference: "+3.9 %"
	Share        float64 // of one: ".878"
	WholePercent float64 // a share of one in per cent: "62 %"
	Number       float64 // to a thousandth
	Count        int
	Date         string // "2026-11-25" as "Wed 25 Nov"
	Name         string // as it is
	List         []string
	And          []string
	Semicolons   []string
)

// value is an argument as it is written and as a choice reads it.
type value struct {
	text, id string
	number   float64
	none     bool
}

const (
	gramsPerPound      = 453.59237 // NIST SP 811
	millimetresPerInch = 25.4
)

// digits of times/by, rounded half away from zero: a multiplication and a division at most,
// so that every machine gets the same.
func digits(times, by float64, decimals int) (minus bool, text string) {
	scaled := float64(math.Abs(times) * math.Pow10(decimals))
	whole := math.Floor(scaled/by + 0.5)
	s := strconv.FormatFloat(whole, 'f', 0, 64)
	if len(s) <= decimals {
		s = strings.Repeat("0", decimals+1-len(s)) + s
	}
	if decimals > 0 {
		s = s[:len(s)-decimals] + "." + s[len(s)-decimals:]
	}
	return times < 0 && whole > 0, s
}

func short(times, by float64, decimals int) string {
	minus, s := digits(times, by, decimals)
	if decimals > 0 {
		s = strings.TrimSuffix(strings.TrimRight(s, "0"), ".")
	}
	if minus {
		return "-" + s
	}
	return s
}

func plain(n float64) string { return short(n, 1, 3) }

func (p Printer) mass(g float64) string {
	by, unit := 1000.0, measure.Kilogram
	if p.Unit == measure.Pound {
		by, unit = gramsPerPound, measure.Pound
	}
	decimals := 2
	if math.Abs(g) >= 9.995*by {
		decimals = 1
	}
	return short(g, by, decimals) + " " + string(unit)
}

func (p Printer) scale(g float64) string {
	by, unit := 1000.0, measure.Kilogram
	if p.Unit == measure.Pound {
		by, unit = gramsPerPound, measure.Pound
	}
	minus, s := digits(g, by, 3)
	if minus {
		s = "-" + s
	}
	return s + " " + string(unit)
}

func (p Printer) length(mm float64) string {
	if p.Unit == measure.Pound {
		return short(mm, millimetresPerInch, 1) + " in"
	}
	return short(mm, 10, 1) + " cm"
}

func volume(ml float64) string {
	if ml >= 1000 {
		return short(ml, 1000, 2) + " l"
	}
	return short(ml, 1, 0) + " ml"
}

func span(ms float64) string { return short(ms, 1000, 3) + " s" }

func clock(ms float64) string {
	s := max(0, int(math.Floor(ms/1000+0.5)))
	if s >= 3600 {
		return fmt.Sprintf("%d:%02d:%02d", s/3600, s/60%60, s%60)
	}
	return fmt.Sprintf("%d:%02d", s/60, s%60)
}

func percent(n float64) string {
	minus, s := digits(n, 1, 1)
	sign := "+"
	switch {
	case minus:
		sign = "−"
	case s == "0.0":
		sign = ""
	}
	return sign + strings.TrimSuffix(s, ".0") + " %"
}

func share(n float64) string {
	s := short(n, 1, 3)
	if strings.HasPrefix(s, "0.") {
		return s[1:]
	}
	return s
}

func whole(n float64) string { return short(n*100, 1, 0) + " %" }

// day is a local date as it stands in the calendar; one that is none as it is.
func (p Printer) day(date string) string {
	d, err := time.Parse(time.DateOnly, date)
	if err != nil {
		return date
	}
	weekday := int(d.Weekday())
	if weekday == 0 {
		weekday = 7
	}
	return p.say("date.day", strconv.Itoa(weekday), Count(d.Day()), strconv.Itoa(int(d.Month())))
}

// value writes an argument by its type, which for names of values is the table they are in:
// "pattern.within" inside a sentence, "wear*" several, "theJoint*and" several with an and.
func (p Printer) value(a argument, v any) value {
	table, many := strings.CutSuffix(strings.TrimSuffix(a.Type, "?"), "*")
	by := "list"
	if t, ok := strings.CutSuffix(table, "*and"); ok {
		table, many, by = t, true, "and"
	}
	table, isWithin := strings.CutSuffix(table, ".within")
	name := func(id string) string {
		if isWithin {
			return within(p.name(table, id))
		}
		return p.name(table, id)
	}
	switch v := v.(type) {
	case string:
		return value{text: name(v), id: v, none: v == ""}
	case []string:
		if !many {
			return value{text: p.joined("list", v), none: len(v) == 0}
		}
		parts := make([]string, 0, len(v))
		for _, id := range v {
			parts = append(parts, name(id))
		}
		return value{text: p.joined(by, parts), none: len(v) == 0}
	}
	return p.quantity(v)
}

// quantity writes a value whose type says how; a nil pointer is an argument that is absent.
func (p Printer) quantity(v any) value {
	if of := reflect.ValueOf(v); of.Kind() == reflect.Pointer {
		if of.IsNil() {
			return value{none: true}
		}
		v = of.Elem().Interface()
	}
	switch v := v.(type) {
	case Grams:
		return value{text: p.mass(float64(v)), number: float64(v)}
	case ScaleGrams:
		return value{text: p.scale(float64(v)), number: float64(v)}
	case Millimetres:
		return value{text: p.length(float64(v)), number: float64(v)}
	case Millilitres:
		return value{text: volume(float64(v)), number: float64(v)}
	case Span:
		return value{text: span(float64(v)), number: float64(v)}
	case Clock:
		return value{text: clock(float64(v)), number: float64(v)}
	case Percent:
		return value{text: percent(float64(v)), number: float64(v)}
	case Share:
		return value{text: share(float64(v)), number: float64(v)}
	case WholePercent:
		return value{text: whole(float64(v)), number: float64(v)}
	case Number:
		return value{text: plain(float64(v)), number: float64(v)}
	case Count:
		return value{text: strconv.Itoa(int(v)), number: float64(v)}
	case Date:
		return value{text: p.day(string(v))}
	case Name:
		return value{text: string(v), id: string(v), none: v == ""}
	case List:
		return value{text: p.joined("list", v), none: len(v) == 0}
	case And:
		return value{text: p.joined("and", v), none: len(v) == 0}
	case Semicolons:
		return value{text: p.joined("semicolons", v), none: len(v) == 0}
	}
	panic(fmt.Sprintf("texts: no argument is a %T", v))
}

// within is a name as it stands inside a sentence; sentence a text by itself.
func within(s string) string   { return first(s, unicode.ToLower) }
func sentence(s string) string { return first(s, unicode.ToUpper) }

func first(s string, change func(rune) rune) string {
	r, n := utf8.DecodeRuneInString(s)
	if n == 0 {
		return s
	}
	return string(change(r)) + s[n:]
}
