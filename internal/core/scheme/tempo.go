// Package scheme holds the arithmetic of sets and time: tempo, timed and rep
// schemes, sides, and how many rounds fit the minutes.
package scheme

import (
	"fmt"
	"strconv"
	"strings"

	"nimbleanvil/internal/core/measure"
)

// Tempo is lowering, pause, lifting and pause in whole counts of a second. A
// part written X is "as fast as is safe" and counts one second (house).
type Tempo struct {
	Parts     [4]int
	Explosive [4]bool
}

// ParseTempo reads "2-0-1-0" or "5-5-X-0". Parts are 0 to 60.
func ParseTempo(s string) (Tempo, error) {
	var t Tempo
	parts := strings.Split(s, "-")
	if len(parts) != 4 {
		return t, fmt.Errorf("write four counts: lowering-pause-lifting-pause, such as 2-0-1-0")
	}
	for i, p := range parts {
		if p == "X" {
			t.Parts[i], t.Explosive[i] = 1, true
			continue
		}
		n, err := strconv.Atoi(p)
		if err != nil || n < 0 || n > 60 || strconv.Itoa(n) != p {
			return t, fmt.Errorf("each count is a whole number from 0 to 60 or X, such as 2-0-1-0")
		}
		t.Parts[i] = n
	}
	return t, nil
}

// PerRep is the time of one repetition.
func (t Tempo) PerRep() measure.Span {
	n := 0
	for _, p := range t.Parts {
		n += p
	}
	return measure.Span(n) * measure.Second
}

// Slower gives the tempo with two counts added to lowering, or one to the first
// pause when lowering is already 4 or more (house); it is how a light load is
// made to last.
func (t Tempo) Slower() Tempo {
	if t.Parts[0] >= 4 {
		t.Parts[1]++
	} else {
		t.Parts[0] += 2
	}
	return t
}

func (t Tempo) String() string {
	var out [4]string
	for i, p := range t.Parts {
		out[i] = strconv.Itoa(p)
		if t.Explosive[i] {
			out[i] = "X"
		}
	}
	return strings.Join(out[:], "-")
}
