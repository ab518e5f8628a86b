package circuit

import (
	"fmt"
	"regexp"
	"strconv"

	"nimbleanvil/internal/core/measure"
)

var doseShape = regexp.MustCompile(`^(about )?([0-9]{1,3})(?: ?- ?([0-9]{1,3}))?( in all| units| s)?$`)

// ReadDose reads a dose as people write it: 10, 10-15, 20 in all, 10-15 units, 45 s, about 8-12
// for what is done until few are left. The error says what may be written.
func ReadDose(text string) (Dose, error) {
	m := doseShape.FindStringSubmatch(text)
	if m == nil {
		return Dose{}, fmt.Errorf("write 10, 10-15, 20 in all, 10-15 units, 45 s, or about 8-12 until few are left")
	}
	low, _ := strconv.Atoi(m[2])
	d := Dose{Kind: Count, Low: low, High: low}
	if m[3] != "" {
		d.High, _ = strconv.Atoi(m[3])
	}
	switch unit := m[4]; {
	case unit == " s" && (m[1] != "" || m[3] != ""):
		return Dose{}, fmt.Errorf("seconds are one number: 45 s")
	case unit == " s":
		d = Dose{Kind: Seconds, Ms: measure.Span(low) * measure.Second}
	case unit == " units":
		d.Kind = Units
	case unit == " in all":
		d.InAll = true
	}
	if m[1] != "" {
		d.Kind = ToFailure
	}
	for _, f := range d.faults("") {
		return Dose{}, fmt.Errorf("%s: %s", f.Path[1:], f.Message)
	}
	return d, nil
}
