package moves

import (
	"cmp"
	"maps"
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
	// Ms is how long it takes in a combination where it is not as the house has it.
	Ms measure.Span `json:"ms,omitempty"`
}

// partTakes is how long parts take in a combination (house): alone a move keeps its tempo.
var partTakes = map[string]measure.Span{
	"row": 2000, "pull": 2500, "clean": 2500, "swing": 1500, "squat": 4000, "press": 3000, "squat-press": 7000,
	"push-up": 3000, "curl": 2500, "walk": 1000, "pulse": 1000, "jump": 2000, "hinge": 3000, "stage": 3000,
}

// PartTimes gives the parts of combined moves that the house has numbers for, with how long
// each takes.
func PartTimes() map[string]measure.Span { return maps.Clone(partTakes) }

// otherPart is how long a part takes that the house has no number for (house).
const otherPart = 3 * measure.Second

// Most is how often a part comes in a repetition at the most.
func (p Part) Most() int { return max(p.Reps, p.To) }

// Takes is how long it takes once.
func (p Part) Takes() measure.Span {
	if p.Ms > 0 {
		return p.Ms
	}
	return cmp.Or(partTakes[p.Move], otherPart)
}

// patternParts is what a move is as a part of a chain, by its pattern; dead-stop pulls and
// cleans by their ballistic hinge.
var patternParts = map[Pattern]string{
	Squat: "squat", Lunge: "squat", Lateral: "squat", Hinge: "hinge", Pull: "row", PushOverhead: "press", PushLevel: "push-up",
}

// AsPart is the move as a part of a chain: what it is called there, with the time of that.
func (v *Variant) AsPart() (name string, takes measure.Span) {
	name = cmp.Or(v.Part, patternParts[v.Pattern], v.ID)
	return name, Part{Move: name}.Takes()
}

// stagePart is a stage of a get-up, up or down.
const stagePart = "stage"

// TimedParts are the parts that a repetition's time is the sum of: those of a complex or a
// unit, of a skill its stages up and the same down again; none of any other move.
func (v *Variant) TimedParts() []Part {
	if v.Staged() {
		return []Part{{Move: stagePart, Reps: 2 * v.Rung}}
	}
	return v.Parts
}

// PerRep is how long a repetition takes as the library has it: as the house has measured it,
// else as its parts do or by its tempo.
func (v *Variant) PerRep() measure.Span {
	if v.HouseRep > 0 {
		return v.HouseRep
	}
	return v.Reckoned()
}

// Reckoned is how long a repetition takes by its parts, else by its tempo, whatever the house
// has measured.
func (v *Variant) Reckoned() measure.Span {
	parts := v.TimedParts()
	if len(parts) == 0 {
		return v.TempoOf().PerRep()
	}
	var sum measure.Span
	for _, p := range parts {
		sum += measure.Span(p.Most()) * p.Takes()
	}
	return sum
}

// TempoWritten is the tempo that an entry of the move is written with: none where its time
// is that of its parts.
func (v *Variant) TempoWritten() string {
	if len(v.TimedParts()) > 0 {
		return ""
	}
	return v.Tempo
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
		a, b := p.Reps*low, p.Most()*high
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

// StagesOf lists the stages of one rung of a skill as they are called: up to it and the same
// down again.
func (l *Library) StagesOf(v *Variant) []string {
	var up []string
	for _, x := range l.all {
		if x.Ladder == v.Ladder && x.Rung <= v.Rung {
			up = append(up, x.ID)
		}
	}
	down := slices.Clone(up)
	slices.Reverse(down)
	return append(up, down...)
}

// CalledOut gives n calls out of some words: every word as often as any other, but for one,
// none twice running, and what stands for a side as often as its opposite; the same for the
// same seed.
func CalledOut(seed uint64, words []string, n int) []string {
	r := rand.New(rand.NewPCG(seed, 0x63616c6c)) // a game, not a secret
	var out []string
	for len(out) < n {
		round := slices.Clone(words)
		r.Shuffle(len(round), func(i, j int) { round[i], round[j] = round[j], round[i] })
		if len(out) > 0 && round[0] == out[len(out)-1] && len(round) > 1 {
			round[0], round[1] = round[1], round[0]
		}
		if left := n - len(out); left < len(round) {
			round = evenly(round, left)
			if len(out) > 0 && len(round) > 1 && round[0] == out[len(out)-1] {
				round[0], round[1] = round[1], round[0]
			}
		}
		out = append(out, round...)
	}
	return out
}

// evenly takes n of some words, in their order, so that left comes as often as right where
// both are among them and n allows it.
func evenly(words []string, n int) []string {
	var sides, others []string
	for _, w := range words {
		if w == "left" || w == "right" {
			sides = append(sides, w)
		} else {
			others = append(others, w)
		}
	}
	kept := append(slices.Clone(others), sides...)[:n]
	if len(sides) == 2 && n >= 2 && n > len(others) {
		kept = append(slices.Clone(sides), others[:n-2]...)
	}
	return slices.DeleteFunc(slices.Clone(words), func(w string) bool { return !slices.Contains(kept, w) })
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
