package moves

import (
	"math/rand/v2"
	"slices"

	"nimbleanvil/internal/core/measure"
)

// Part is one part of a complex, a chain or a unit, and how often it comes in one
// repetition; To, where given, is the most it may come.
type Part struct {
	Move string `json:"move"`
	Reps int    `json:"reps"`
	To   int    `json:"to,omitempty"`
	// Share is the part's own starting share; the weakest part sets the load of all.
	Share float64 `json:"share,omitempty"`
}

// partPatterns says what a part of a combined move trains; what is missing trains
// nothing by itself.
var partPatterns = map[string][]Pattern{
	"squat": {
		Squat,
	}, "press": {PushOverhead}, "squat-press": {Squat, PushOverhead}, "clean": {Hinge}, "pull": {Hinge}, "row": {Pull},
	"push-up": {PushLevel}, "swing": {Hinge}, "hinge": {Hinge},
}

// Trains lists the patterns that a move covers: its own, what it is marked to cover
// besides, and those of its parts.
func (v *Variant) Trains() []Pattern {
	out := append([]Pattern{v.Pattern}, v.Covers...)
	for _, p := range v.Parts {
		for _, x := range partPatterns[p.Move] {
			if !slices.Contains(out, x) {
				out = append(out, x)
			}
		}
	}
	return out
}

// PartCount is how often a part comes in a set, a side and in all.
type PartCount struct {
	Move        string `json:"move"`
	PerSide     int    `json:"perSide"`
	Total       int    `json:"total"`
	PerSideMost int    `json:"perSideMost"`
	TotalMost   int    `json:"totalMost"`
}

// CountParts counts the parts of a set of from low to high repetitions a side.
func (v *Variant) CountParts(low, high int) []PartCount {
	out := []PartCount{}
	for _, p := range v.Parts {
		a, b := p.Reps*low, max(p.Reps, p.To)*high
		out = append(out, PartCount{p.Move, a, a * v.SideCount(), b, b * v.SideCount()})
	}
	return out
}

// WeakestPart gives the part that sets the load, and those it is light for, which
// are called so. ok is false where the parts carry no load.
func (v *Variant) WeakestPart() (weakest Part, light []Part, ok bool) {
	for _, p := range v.Parts {
		if p.Share > 0 && (!ok || p.Share < weakest.Share) {
			weakest, ok = p, true
		}
	}
	for _, p := range v.Parts {
		if ok && p.Share > weakest.Share {
			light = append(light, p)
		}
	}
	return weakest, light, ok
}

// Stages lists a skill's stages as they are called: up the ladder and the same down
// again.
func (l *Library) Stages(ladder string) []string {
	var up []string
	for _, v := range l.all {
		if v.Ladder == ladder {
			up = append(up, v.ID)
		}
	}
	down := slices.Clone(up)
	slices.Reverse(down)
	return append(up, down...)
}

// Directions of called footwork in a square, clockwise from the front.
var Directions = []string{"front", "front-right", "right", "back-right", "back", "back-left", "left", "front-left"}

// A bout of called footwork: 45 s, a call every three (common practice, house).
const (
	BoutCalls = 15
	CallEvery = 3 * measure.Second
)

// Footwork gives the calls of a bout: every direction at least once, none twice
// running, the same for the same seed. At least as many calls as directions are
// given.
func Footwork(seed uint64, calls int) []string {
	r := rand.New(rand.NewPCG(seed, 0x666f6f74)) // a game, not a secret
	calls = max(calls, len(Directions))
	out := slices.Clone(Directions)
	for len(out) < calls {
		out = append(out, Directions[r.IntN(len(Directions))])
	}
	for {
		r.Shuffle(len(out), func(i, j int) { out[i], out[j] = out[j], out[i] })
		// Where a direction stands twice running, another is put between.
		for i := 1; i < len(out); i++ {
			for j := 0; out[i] == out[i-1] && j < len(out); j++ {
				if out[j] != out[i] && (j == 0 || out[j-1] != out[i]) && (j == len(out)-1 || out[j+1] != out[i]) {
					out[i], out[j] = out[j], out[i]
				}
			}
		}
		if !repeats(out) {
			return out
		}
	}
}

func repeats(list []string) bool {
	for i := 1; i < len(list); i++ {
		if list[i] == list[i-1] {
			return true
		}
	}
	return false
}
