package moves

import (
	"embed"
	"encoding/json"
	"slices"
	"sync"

	"nimbleanvil/internal/core/measure"
)

//go:embed words/*.json
var words embed.FS

// Beyond says what some kit cannot do, and what comes nearest. What is a pattern,
// or a direction within one.
type Beyond struct {
	What    string   `json:"what"`
	Needs   string   `json:"needs"`
	Nearest []string `json:"nearest"`
	Say     string   `json:"say"`
}

// BeyondKit lists what cannot be done with a weight in the hand or without one.
var BeyondKit = sync.OnceValue(func() []Beyond { return wordsOf[[]Beyond]("beyond") })

// Word is a word of the trade and what it means here.
type Word struct {
	Term  string   `json:"term"`
	Also  []string `json:"also"` // other forms of it in the texts
	Means string   `json:"means"`
}

// Glossary lists the words of the trade that the library's texts use.
var Glossary = sync.OnceValue(func() []Word { return wordsOf[[]Word]("glossary") })

// caution is what is said of a touch, a joint or a thing.
type caution struct {
	Touch string `json:"touch"`
	Say   string `json:"say"`
}

var cautions = sync.OnceValue(func() []caution { return wordsOf[[]caution]("cautions") })

// holdLines says where the load goes, by hold.
var holdLines = sync.OnceValue(func() map[HoldID]string {
	out := map[HoldID]string{}
	for _, l := range wordsOf[[]struct {
		Hold HoldID `json:"hold"`
		Say  string `json:"say"`
	}]("holds") {
		out[l.Hold] = l.Say
	}
	return out
})

// ScaleMark is where a lane stands on the scale of resistance: a body may be asked K
// times what its lane's mark asks of the reference body.
type ScaleMark struct {
	Patterns []Pattern       `json:"patterns"`
	Ladders  []string        `json:"ladders"`
	K        float64         `json:"k"`
	Moves    map[Lane]string `json:"moves"`
	// Itself says that the move is its own mark.
	Itself bool `json:"itself"`
	// Share and CeilingG are the mark's own starting load, where the move itself is
	// done without one.
	Share    float64      `json:"share"`
	CeilingG measure.Mass `json:"ceilingG"`
}

// starting is where lanes stand and begin.
type starting struct {
	Source  string                        `json:"source"`
	Marks   []ScaleMark                   `json:"marks"`
	Easiest []string                      `json:"easiest"`
	First   map[Pattern]map[Lane][]string `json:"first"`
}

var start = sync.OnceValue(func() starting { return wordsOf[starting]("starting") })

// MarkOnScale finds the mark that bounds a move for a lane; ok is false where the
// body does not share in it or nobody set a mark.
func (l *Library) MarkOnScale(v *Variant, lane Lane) (m ScaleMark, mark *Variant, ok bool) {
	if !v.BodyShares() {
		return m, nil, false
	}
	find := func(is func(ScaleMark) bool) bool {
		i := slices.IndexFunc(start().Marks, is)
		if i >= 0 {
			m = start().Marks[i]
		}
		return i >= 0
	}
	if !find(func(m ScaleMark) bool { return v.Ladder != "" && slices.Contains(m.Ladders, v.Ladder) }) &&
		!find(func(m ScaleMark) bool { return slices.Contains(m.Patterns, v.Pattern) }) {
		return m, nil, false
	}
	if m.Itself {
		return m, v, true
	}
	mark, ok = l.Get(m.Moves[lane])
	return m, mark, ok
}

// Easiest tells whether a move is the easiest rung of its pattern, which anybody may
// be given.
func (v *Variant) Easiest() bool { return slices.Contains(start().Easiest, v.ID) }

// Firsts lists what a lane may be given in its first two sessions of a pattern, the
// usual first; nil where the house says nothing of the pattern.
func Firsts(p Pattern, lane Lane) (ids []string, said bool) {
	by, said := start().First[p]
	return by[lane], said
}

// wordsOf reads one of the library's files of words.
func wordsOf[T any](name string) T {
	b, err := words.ReadFile("words/" + name + ".json")
	if err != nil {
		panic(err) // embedded
	}
	var out T
	if err := json.Unmarshal(b, &out); err != nil {
		panic(err) // checked by the tests
	}
	return out
}
