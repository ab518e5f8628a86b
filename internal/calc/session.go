package calc

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/scheme"
)

type sessionRequest struct {
	LeadInS float64        `json:"leadInS,omitempty" minimum:"0" maximum:"14400" default:"0"`
	Blocks  []sessionBlock `json:"blocks"                                                    minItems:"1" maxItems:"50"`
}

// sessionBlock has the fields of every scheme; which a scheme takes is in blockFields.
type sessionBlock struct {
	Scheme      scheme.Name   `json:"scheme"                enum:"circuit,sets,superset,chain,interval,window,ladder,drop,called"`
	By          string        `json:"by,omitempty"          enum:"clock,reps"                                                     doc:"of a circuit"`
	WorkS       *float64      `json:"workS,omitempty"       nullable:"false" minimum:"0" maximum:"14400"`
	RestS       *float64      `json:"restS,omitempty"       nullable:"false" minimum:"0" maximum:"14400"`
	Rounds      *int          `json:"rounds,omitempty"      nullable:"false" minimum:"1" maximum:"1000"`
	RoundRestS  *float64      `json:"roundRestS,omitempty"  nullable:"false" minimum:"0" maximum:"14400"`
	ChangeoverS *float64      `json:"changeoverS,omitempty" nullable:"false" minimum:"0" maximum:"14400"`
	Sets        *int          `json:"sets,omitempty"        nullable:"false" minimum:"1" maximum:"1000"`
	Sides       *int          `json:"sides,omitempty"       nullable:"false" minimum:"1" maximum:"2"     doc:"of a chain"`
	SideChangeS *float64      `json:"sideChangeS,omitempty" nullable:"false" minimum:"0" maximum:"14400" doc:"of a chain"`
	EveryS      *float64      `json:"everyS,omitempty"      nullable:"false" minimum:"0.001" maximum:"14400"`
	WindowS     *float64      `json:"windowS,omitempty"     nullable:"false" minimum:"0.001" maximum:"14400"`
	Rungs       []int         `json:"rungs,omitempty"       nullable:"false" minItems:"1" maxItems:"100"`
	Stages      []int         `json:"stages,omitempty"      nullable:"false" minItems:"1" maxItems:"100"`
	ChangeS     *float64      `json:"changeS,omitempty"     nullable:"false" minimum:"0" maximum:"14400"`
	CalledS     *float64      `json:"calledS,omitempty"     nullable:"false" minimum:"0.001" maximum:"14400"`
	AfterS      *float64      `json:"afterS,omitempty"      nullable:"false" minimum:"0" maximum:"14400" doc:"the pause after a block; the last has none"`
	Slots       []sessionSlot `json:"slots,omitempty"       nullable:"false" minItems:"1" maxItems:"100"`
}

type sessionSlot struct {
	Reps        *int            `json:"reps,omitempty"        nullable:"false" minimum:"1" maximum:"1000" doc:"a side where there are two"`
	RepsLow     *int            `json:"repsLow,omitempty"     nullable:"false" minimum:"1" maximum:"1000"`
	RepsHigh    *int            `json:"repsHigh,omitempty"    nullable:"false" minimum:"1" maximum:"1000"`
	Tempo       *string         `json:"tempo,omitempty"       nullable:"false" maxLength:"20"`
	Parts       []sessionPart   `json:"parts,omitempty"       nullable:"false" minItems:"1" maxItems:"40"`
	Sides       *int            `json:"sides,omitempty"       nullable:"false" minimum:"1" maximum:"2"`
	SideChangeS *float64        `json:"sideChangeS,omitempty" nullable:"false" minimum:"0" maximum:"14400"`
	Mode        scheme.SideMode `json:"mode,omitempty"        enum:"split,rounds"`
}

type sessionPart struct {
	S     float64 `json:"s"     minimum:"0.001" maximum:"600"`
	Count int     `json:"count" minimum:"1"     maximum:"1000"`
}

type blockTime struct {
	TotalS float64 `json:"totalS"`
	WorkS  float64 `json:"workS"`
	RestS  float64 `json:"restS"`
}

type slotCount struct {
	Block     int `json:"block"`
	Slot      int `json:"slot"`
	Low       int `json:"low"`
	High      int `json:"high"`
	LeftLow   int `json:"leftLow"`
	LeftHigh  int `json:"leftHigh"`
	RightLow  int `json:"rightLow"`
	RightHigh int `json:"rightHigh"`
}

type sessionAnswer struct {
	TotalS float64     `json:"totalS"`
	Blocks []blockTime `json:"blocks"`
	Counts []slotCount `json:"counts" doc:"over the whole block; a window counts one round"`
	Low    int         `json:"low"`
	High   int         `json:"high"`
}

// blockFields are what a scheme takes besides scheme and afterS; of a circuit by what it
// goes by.
var blockFields = map[string][]string{
	"circuit clock": {"by", "workS", "restS", "rounds", "roundRestS", "slots"},
	"circuit reps":  {"by", "rounds", "changeoverS", "roundRestS", "slots"},
	"sets":          {"sets", "restS", "changeoverS", "slots"},
	"superset":      {"rounds", "changeoverS", "restS", "slots"},
	"chain":         {"rounds", "restS", "sides", "sideChangeS", "slots"},
	"interval":      {"everyS", "sets", "slots"},
	"window":        {"windowS", "slots"},
	"ladder":        {"rungs", "restS", "changeoverS", "slots"},
	"drop":          {"stages", "changeS", "slots"},
	"called":        {"calledS"},
}

// blockNeeds are those that have no usual number.
var blockNeeds = map[scheme.Name][]string{
	scheme.Circuit: {"by", "slots"}, scheme.Sets: {"slots"}, scheme.Superset: {"slots"}, scheme.Chain: {"slots"},
	scheme.Interval: {"everyS", "slots"}, scheme.Windowed: {"windowS", "slots"}, scheme.Ladder: {"rungs", "slots"},
	scheme.Drop: {"stages", "slots"}, scheme.CalledOut: {"calledS"},
}

// said lists which fields a value has, by their names.
func said(v any) map[string]json.RawMessage {
	b, _ := json.Marshal(v)
	var out map[string]json.RawMessage
	_ = json.Unmarshal(b, &out) // it was just written
	return out
}

func or[T any](p *T, usual T) T {
	if p == nil {
		return usual
	}
	return *p
}

func span(p *float64) measure.Span { return measure.Seconds(or(p, 0)) }

// sessionReader turns a request into a session and its counts.
type sessionReader struct {
	*check
	counts []slotCount
}

var session = define[sessionAnswer](
	"session",
	"How long blocks of every scheme take, and how much is done in them",
	`{"leadInS":10,"blocks":[{"scheme":"circuit","by":"clock","workS":40,"restS":20,"rounds":3,"roundRestS":60,"afterS":120,`+
		`"slots":[{"repsLow":10,"repsHigh":15,"tempo":"2-0-2-0","sides":2,"sideChangeS":5,"mode":"split"}]}]}`,
	one(shapeOf(func(r sessionRequest, c *check) any {
		if c.Failed() {
			return nil
		}
		read := sessionReader{check: c}
		s := scheme.Session{LeadIn: measure.Seconds(r.LeadInS)}
		for i, b := range r.Blocks {
			s.Blocks = append(s.Blocks, read.block(i, b))
		}
		if c.Failed() {
			return nil
		}
		a := sessionAnswer{TotalS: s.Times().Total().InSeconds(), Blocks: []blockTime{}, Counts: read.counts}
		for _, b := range s.Blocks {
			t := b.Times()
			a.Blocks = append(a.Blocks,
				blockTime{t.Total().InSeconds(), t.Working().InSeconds(), (t.Total() - t.Working()).InSeconds()})
		}
		for _, n := range a.Counts {
			a.Low, a.High = a.Low+n.Low, a.High+n.High
		}
		return a
	})),
)

// block reads one block; what is wrong with it is said by its path.
func (r *sessionReader) block(i int, b sessionBlock) scheme.Block {
	at := fmt.Sprintf("blocks[%d].", i)
	if !r.fields(at, b) {
		return scheme.Block{}
	}
	out := scheme.Block{
		Scheme:    b.Scheme,
		Rounds:    or(b.Rounds, 1),
		RoundRest: span(b.RoundRestS),
		After:     span(b.AfterS),
	}
	between := span(b.ChangeoverS)
	switch b.Scheme {
	case scheme.Circuit:
		if b.By == "clock" {
			between = span(b.RestS)
		}
	case scheme.Sets, scheme.Interval:
		out.Rounds, out.Every = or(b.Sets, 1), span(b.EveryS)
	case scheme.Superset:
		out.RoundRest = span(b.RestS)
	case scheme.Chain:
		out.RoundRest, out.Sides, out.SideChange = span(b.RestS), or(b.Sides, 1), span(b.SideChangeS)
	case scheme.Windowed:
		out.Length = span(b.WindowS)
	case scheme.Ladder:
		out.Rounds, out.RoundRest = len(b.Rungs), span(b.RestS)
		r.counted(at+"rungs", b.Rungs)
	case scheme.Drop:
		r.counted(at+"stages", b.Stages)
		return r.drop(i, b, out)
	case scheme.CalledOut:
		out.Length = span(b.CalledS)
	}
	need := measure.Span(0)
	for n, x := range b.Slots {
		slot := r.slot(i, n, b, x, out)
		slot.Rest, slot.SetRest = between, span(b.RestS)
		out.Slots = append(out.Slots, slot)
		need += slot.Work(1)
	}
	if b.Scheme == scheme.Interval && need > out.Every {
		r.add(at+"everyS", fmt.Sprintf("the sets take %g s: at least as much", need.InSeconds()), *b.EveryS)
	}
	return out
}

// fields checks which fields a block has.
func (r *sessionReader) fields(at string, b sessionBlock) bool {
	key, has := string(b.Scheme), said(b)
	if b.Scheme == scheme.Circuit {
		if b.By == "" {
			r.add(at+"by", "say whether it goes by the clock or by repetitions: clock or reps", nil)
			return false
		}
		key += " " + b.By
	}
	ok := true
	for _, name := range slices.Sorted(maps.Keys(has)) {
		if name != "scheme" && name != "afterS" && !slices.Contains(blockFields[key], name) {
			r.add(at+name, "a "+key+" has no such number: leave it out", has[name])
			ok = false
		}
	}
	for _, name := range blockNeeds[b.Scheme] {
		if _, there := has[name]; !there {
			r.add(at+name, "expected required property "+name+" to be present", nil)
			ok = false
		}
	}
	return ok
}

func (r *sessionReader) counted(at string, counts []int) {
	for i, n := range counts {
		if n < 1 || n > 1000 {
			r.add(fmt.Sprintf("%s[%d]", at, i), "from 1 to 1000", n)
		}
	}
}

// setOf reads how a slot is done: seconds of a repetition, sides, and its count.
func (r *sessionReader) setOf(at string, b sessionBlock, x sessionSlot) (s scheme.Set, low, high int) {
	has := said(x)
	leave := func(names ...string) {
		for _, n := range names {
			if _, there := has[n]; there {
				r.add(at+n, "not in a "+string(b.Scheme)+": leave it out", has[n])
			}
		}
	}
	counted := b.Scheme != scheme.Ladder && b.Scheme != scheme.Drop
	if !counted {
		leave("reps", "repsLow", "repsHigh")
	}
	if b.Scheme == scheme.Chain {
		leave("sides", "sideChangeS", "mode")
	}
	switch {
	case !counted:
	case x.Reps != nil && (x.RepsLow != nil || x.RepsHigh != nil):
		r.add(at+"reps", "either reps or repsLow and repsHigh", *x.Reps)
	case x.Reps != nil:
		low, high = *x.Reps, *x.Reps
	case x.RepsLow == nil && x.RepsHigh == nil:
		r.add(at+"reps", "say how many: reps, or repsLow and repsHigh", nil)
	case x.RepsLow == nil || x.RepsHigh == nil:
		missing := map[bool]string{true: "repsLow", false: "repsHigh"}[x.RepsLow == nil]
		r.add(at+missing, "expected required property "+missing+" to be present", nil)
	case *x.RepsHigh < *x.RepsLow:
		r.add(at+"repsHigh", "it is not under repsLow", *x.RepsHigh)
	default:
		low, high = *x.RepsLow, *x.RepsHigh
	}
	switch {
	case (x.Tempo == nil) == (len(x.Parts) == 0):
		r.add(at+"tempo", "either tempo or parts", nil)
	case x.Tempo != nil:
		t, err := someTempo(*x.Tempo)
		if err != nil {
			r.add(at+"tempo", err.Error(), *x.Tempo)
		}
		s.PerRep = t.PerRep()
	default:
		for _, p := range x.Parts {
			s.PerRep += measure.Seconds(p.S) * measure.Span(p.Count)
		}
	}
	s.Sides, s.Change = scheme.BothSides, span(x.SideChangeS)
	if or(x.Sides, 1) == 2 {
		s.Sides = scheme.Split
	}
	if x.Mode == scheme.ByRound {
		if s.Sides == scheme.BothSides || b.Scheme != scheme.Circuit && b.Scheme != scheme.Sets {
			r.add(at+"mode", "sides take turns by rounds in circuits and sets of moves with two sides only", x.Mode)
		}
		s.Sides = scheme.ByRound
	}
	return s, low, high
}

// slot reads a slot of any scheme but a drop.
func (r *sessionReader) slot(i, n int, b sessionBlock, x sessionSlot, of scheme.Block) scheme.Slot {
	set, low, high := r.setOf(fmt.Sprintf("blocks[%d].slots[%d].", i, n), b, x)
	set.Rounds = of.Rounds
	slot := scheme.Slot{Waves: 1, Sets: of.Rounds}
	sides := or(x.Sides, 1)
	var count scheme.Count
	switch b.Scheme {
	case scheme.Ladder:
		for _, reps := range b.Rungs {
			slot.Works = append(slot.Works, set.ByReps(reps).Work)
			count = count.Add(scheme.CountSets(1, reps, reps, sides, set.Sides, scheme.Left))
		}
	case scheme.Chain:
		set.Sides = scheme.BothSides
		slot.Works = []measure.Span{set.ByReps(high).Work}
		count = scheme.CountSets(of.Rounds, low, high, of.Sides, scheme.Split, scheme.Left)
	default:
		sets := of.Rounds
		if b.Scheme == scheme.Windowed {
			sets = 1
		}
		slot.Works = set.Works(high)
		if b.By == "clock" {
			slot.Works = []measure.Span{span(b.WorkS)}
		}
		count = scheme.CountSets(sets, low, high, sides, set.Sides, scheme.Left)
	}
	r.count(i, n, count)
	return slot
}

// drop reads stages of the one slot that a drop has, without rest between.
func (r *sessionReader) drop(i int, b sessionBlock, out scheme.Block) scheme.Block {
	if len(b.Slots) != 1 {
		r.add(fmt.Sprintf("blocks[%d].slots", i), "a drop has one slot", len(b.Slots))
		return out
	}
	x := b.Slots[0]
	set, _, _ := r.setOf(fmt.Sprintf("blocks[%d].slots[0].", i), b, x)
	var count scheme.Count
	for n, reps := range b.Stages {
		one := set
		if n > 0 {
			one.Change = 0 // sides are changed once
		}
		out.Slots = append(out.Slots,
			scheme.Slot{Waves: 1, Works: []measure.Span{one.ByReps(reps).Work}, Rest: span(b.ChangeS)})
		count = count.Add(scheme.CountSets(1, reps, reps, or(x.Sides, 1), set.Sides, scheme.Left))
	}
	r.count(i, 0, count)
	return out
}

func (r *sessionReader) count(i, n int, c scheme.Count) {
	r.counts = append(r.counts,
		slotCount{i + 1, n + 1, c.Low, c.High, c.LeftLow, c.LeftHigh, c.RightLow, c.RightHigh})
}
