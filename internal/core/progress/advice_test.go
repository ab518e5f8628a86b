package progress

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/strength"
)

func line(done, form, reserve int, pain Pain) Line {
	return Line{Set: strength.Set{Planned: 10, Done: done, InForm: form, Reserve: &reserve}, Pain: pain, Load: 16000}
}

// Common practice, no source, for pain, form and "two sessions running";
// 16 -> 20 kg goblet at 70 kg: iron +25 %, resistance (61.46 + 20) / (61.46 + 16)
// = +5.2 %: allowed. 8 -> 12 kg: +50 % iron: bridged.
func TestAdviceReference(t *testing.T) {
	get := func(id string) *moves.Variant { v, _ := moves.Standard().Get(id); return v }
	goblet := get("goblet-squat")
	base := Case{Variant: goblet, Next: get("paused-goblet-squat"), Easier: get("squat"), Body: 70000, NextLoad: 20000}
	light, right, lost, joint := line(12, 12, 3, NoPain), line(10, 10, 2, Burn), line(10, 7, 2, NoPain), line(10, 10, 2, Joint)
	for _, c := range []struct {
		name   string
		now    Line
		before *Line
		next   measure.Mass
		want   Advice
	}{
		{"joint pain", joint, nil, 20000, StopMove},
		{"joint pain again", joint, &joint, 20000, OffPlan},
		{"form lost", lost, &right, 20000, LessLoad},
		{"form lost twice", lost, &lost, 20000, RungDown},
		{"heavy", line(6, 6, 0, NoPain), nil, 20000, LessLoad},
		{"right, burn is expected", right, nil, 20000, Keep},
		{"at the limit", line(9, 9, 0, NoPain), nil, 20000, KeepAtLimit},
		{"light once", light, &right, 20000, OneMore},
		{"light twice", light, &light, 20000, NextLoad},
		{"far too light", line(15, 15, 5, NoPain), nil, 20000, NextLoad},
		{"light twice, the step is too far", light, &light, 22000, MoreReps}, // +37.5 % iron
		{"light twice, nothing heavier", light, &light, 0, NextRung},
	} {
		in := base
		in.Now, in.Before, in.NextLoad = c.now, c.before, c.next
		assert.Equal(t, c.want, Advise(in).Advice, c.name)
	}
}
