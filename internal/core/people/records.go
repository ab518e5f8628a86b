package people

import (
	"fmt"
	"slices"

	"nimbleanvil/internal/core/calendar"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

// Kind is what a record says of somebody.
type Kind string

// The kinds of records. None is of health: what leaves health is Spared.
const (
	OfBody      Kind = "measure"
	OfLevel     Kind = "level"
	OfScreen    Kind = "screen"
	OfBenchmark Kind = "benchmark"
	OfLimit     Kind = "limit"
	OfLearned   Kind = "learned"
	OfTable     Kind = "table"
)

// Kinds lists them.
var Kinds = []Kind{OfBody, OfLevel, OfScreen, OfBenchmark, OfLimit, OfLearned, OfTable}

// Record is something that is known of a person from a day on. One of its parts is there.
type Record struct {
	// Day counts local days from any fixed one.
	Day       int        `json:"-"`
	Measure   *Measure   `json:"measure,omitempty"`
	Level     *Level     `json:"level,omitempty"`
	Screen    *Screening `json:"screen,omitempty"`
	Benchmark *Benchmark `json:"benchmark,omitempty"`
	Limit     *Limit     `json:"limit,omitempty"`
	Learned   *Learned   `json:"learned,omitempty"`
	Table     *Table     `json:"table,omitempty"`
}

// Measure is a body as it was measured: mass, stature, or both.
type Measure struct {
	Body    *measure.Quantity `json:"body,omitempty"`
	Stature *measure.Quantity `json:"stature,omitempty"`
}

// Cause says why somebody came to stand on a rung.
type Cause string

// The causes.
const (
	ByHand Cause = "by-hand"
	ByTest Cause = "test"
	ByLog  Cause = "log"
)

// Causes lists them.
var Causes = []Cause{ByHand, ByTest, ByLog}

// Level is the rung that somebody stands on from a day on: a move of a ladder.
type Level struct {
	Move  string `json:"move"`
	Cause Cause  `json:"cause"`
}

// Benchmark is a set that was done to see what somebody can: Load is all implements
// together, Reps those in form a side, Reserve what was left.
type Benchmark struct {
	Move    string       `json:"move"`
	LoadG   measure.Mass `json:"loadG"`
	Reps    int          `json:"reps"`
	Reserve int          `json:"reserve"`
	Day     int          `json:"-"`
}

// BenchmarkDays is how long a benchmark says what somebody can: eight weeks (house).
const BenchmarkDays = 8 * 7

// Old tells whether a benchmark says nothing any more on a day.
func (b Benchmark) Old(day int) bool { return day-b.Day > BenchmarkDays }

// Limit is what somebody must be spared, as they or the instructor say; Until is the last
// day of it, 0 for none yet.
type Limit struct {
	Limit moves.LimitID `json:"limit"`
	Until calendar.Date `json:"until,omitempty"`
}

// Skill is something that is learned once and asked for by a gate.
type Skill string

// The skills: to brace before every repetition; five counts down, five held and up fast for
// five, with at least 40 kg (rules of the gate, house).
const (
	Bracing  Skill = "bracing"
	SlowFive Skill = "slow-five"
)

// Skills lists them.
var Skills = []Skill{Bracing, SlowFive}

// Learned says that somebody has learned something.
type Learned struct {
	Skill Skill `json:"skill"`
}

// Table says that a stance factor that was learned from somebody's log is the table's again.
type Table struct {
	Stance string `json:"stance"`
}

// Bounds of benchmarks.
const (
	MostReps    = 100
	MostReserve = 20
)

// Kind tells what a record says; empty where it says nothing or more than one thing.
func (r Record) Kind() Kind {
	var out Kind
	n := 0
	is := func(there bool, k Kind) {
		if there {
			out = k
			n++
		}
	}
	is(r.Measure != nil, OfBody)
	is(r.Level != nil, OfLevel)
	is(r.Screen != nil, OfScreen)
	is(r.Benchmark != nil, OfBenchmark)
	is(r.Limit != nil, OfLimit)
	is(r.Learned != nil, OfLearned)
	is(r.Table != nil, OfTable)
	if n != 1 {
		return ""
	}
	return out
}

// Check says what of a record cannot be: moves are those of a library, and somebody stands
// on a rung only of a ladder.
func (r Record) Check(lib *moves.Library) fault.List {
	var wrong fault.List
	switch r.Kind() {
	case OfBody:
		if r.Measure.Body == nil && r.Measure.Stature == nil {
			wrong.Note("measure", "give body mass, stature or both", nil)
		}
	case OfLevel:
		if v, ok := lib.Get(r.Level.Move); !ok || v.Ladder == "" {
			wrong.Note("level.move", "name a move that is a rung of a ladder", r.Level.Move)
		}
		if !slices.Contains(Causes, r.Level.Cause) {
			wrong.Note("level.cause", "by-hand, test or log", string(r.Level.Cause))
		}
	case OfScreen:
		for _, f := range r.Screen.Check().Under("screen") {
			wrong.Note(f.Path, f.Message, f.Value)
		}
	case OfBenchmark:
		checkBenchmark(*r.Benchmark, lib, &wrong)
	case OfLimit:
		if _, ok := r.Limit.Limit.Expand(); !ok {
			wrong.Note("limit.limit", "there is no such limit", string(r.Limit.Limit))
		} else if r.Limit.Limit.OfHealth() {
			wrong.Note("limit.limit", "name what is to be spared, not why: that belongs to the health questions",
				string(r.Limit.Limit))
		}
		if r.Limit.Until != 0 && int(r.Limit.Until) < r.Day {
			wrong.Note("limit.until", "not before the day it begins", nil)
		}
	case OfLearned:
		if !slices.Contains(Skills, r.Learned.Skill) {
			wrong.Note("learned.skill", "bracing or slow-five", string(r.Learned.Skill))
		}
	case OfTable:
		if !slices.Contains(lib.Stances(), r.Table.Stance) {
			wrong.Note("table.stance", "there is no such stance factor", r.Table.Stance)
		}
	default:
		wrong.Note("", "a record says one thing: measure, level, screen, benchmark, limit, learned or table", nil)
	}
	return wrong
}

func checkBenchmark(b Benchmark, lib *moves.Library, wrong *fault.List) {
	v, ok := lib.Get(b.Move)
	switch {
	case !ok:
		wrong.Note("benchmark.move", "there is no such move", b.Move)
	case v.ByRungs():
		wrong.Note("benchmark.move", "failing at it is unsafe: it goes by rungs, not by a benchmark", b.Move)
	case !v.Numbered():
		wrong.Note("benchmark.move", "nothing is reckoned from this move: it has no number", b.Move)
	case b.LoadG > 0 && v.Start == nil:
		wrong.Note("benchmark.loadG", "this move takes no load", int64(b.LoadG))
	}
	wrong.Within("benchmark.loadG", int64(b.LoadG), 0, int64(measure.MaxLoad))
	wrong.Within("benchmark.reps", int64(b.Reps), 1, MostReps)
	wrong.Within("benchmark.reserve", int64(b.Reserve), 0, MostReserve)
	if wrong.Good("benchmark.reps", "benchmark.reserve") && b.Reps+b.Reserve > 30 {
		wrong.Note("benchmark.reps", "from over 30 repetitions nothing is reckoned: take a harder set", b.Reps)
	}
}

// CheckTyped says what of a record from elsewhere is not what its typed quantities come to.
func (r Record) CheckTyped() fault.List {
	var wrong fault.List
	same := func(at string, q *measure.Quantity, read func(string, measure.Unit) (measure.Quantity, error)) {
		if q == nil {
			return
		}
		if !q.Typed.WrittenOut() {
			wrong.Note(at, "write the number out", q.Decimal)
			return
		}
		got, err := read(measure.Write(q.Typed), q.Unit)
		if err != nil {
			wrong.Note(at, err.Error(), q.Decimal)
		} else if got.Whole != q.Whole {
			wrong.Note(at+".whole", fmt.Sprintf("what was typed comes to %d", got.Whole), q.Whole)
		}
	}
	if m := r.Measure; m != nil {
		same("measure.body", m.Body, ReadBody)
		same("measure.stature", m.Stature, ReadStature)
	}
	if x := r.Screen; x != nil {
		for _, name := range sorted(x.Typed) {
			at, t := "screen.typed."+name, x.Typed[name]
			same(
				at,
				&measure.Quantity{Typed: t, Whole: int64(x.Values[name])},
				func(text string, u measure.Unit) (measure.Quantity, error) {
					got, err := measure.ReadLength(text, u, MostToWall)
					return measure.Quantity{Typed: got.Typed, Whole: got.Whole}, err
				},
			)
		}
	}
	return wrong
}
