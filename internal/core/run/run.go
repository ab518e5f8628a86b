// Package run is what a class runs by: the plan that it began with, frozen, since the
// circuit may be changed after.
package run

import (
	"cmp"
	"encoding/json"
	"fmt"
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
)

// PlanVersion is the shape of plans written today: 2 names parties and has the calls, 3 has
// blocks. Plans of before there were versions have none, and may have left lists out.
const PlanVersion = 3

// Plan is what a run keeps of the circuit it began with.
type Plan struct {
	V      int       `json:"v"`
	Order  cue.Order `json:"order"`
	Blocks []Block   `json:"blocks"`
	Slots  []Slot    `json:"slots"`
	// Floors are where people stand in blocks of stations and partners.
	Floors []plan.Floor `json:"floors,omitempty"`
	// Prep are mobility moves for the prep, by id.
	Prep []string `json:"prep"`
	// Ramp is the lighter, shorter set before the first heavy one, where there is one.
	Ramp  *plan.Drill `json:"ramp,omitempty"`
	Items []kit.Item  `json:"items"`
	// Goal, Bans, Known and Overruled are the document's, for what else might be done.
	Goal      goal.Goal           `json:"goal,omitempty"`
	Bans      []string            `json:"bans,omitempty"`
	Known     []string            `json:"known,omitempty"`
	Overruled []circuit.Overruled `json:"overruled,omitempty"`
	// Day is how the day had come.
	Day *circuit.Day `json:"day,omitempty"`
	// ChangeOverPct and TeachPct are the house's own times that it was planned with; 0 for
	// none.
	ChangeOverPct int `json:"changeOverPct,omitempty"`
	TeachPct      int `json:"teachPct,omitempty"`
}

// Block is what screen and log need of a block.
type Block struct {
	ID     string          `json:"id"`
	Kind   circuit.Kind    `json:"kind"`
	Scheme *circuit.Scheme `json:"scheme,omitempty"`
	// Layout is left out by runs of before there were stations.
	Layout circuit.Layout `json:"layout,omitempty"`
}

// Slot is what screen and log need of a slot.
type Slot struct {
	ID      string        `json:"id"`
	Block   string        `json:"block"`
	Kind    circuit.Kind  `json:"kind"`
	Scheme  scheme.Name   `json:"scheme"`
	Pattern moves.Pattern `json:"pattern"`
	Waves   int           `json:"waves"`
	Cells   []plan.Cell   `json:"cells"`
	// Grown tells that the rest after it is as long as the change-over to the next.
	Grown bool `json:"grown,omitempty"`
}

// Freeze takes what a run keeps of a document and its plan; items names the kit of the
// place.
func Freeze(d circuit.Document, p plan.Plan, c plan.Context, items []kit.Item) Plan {
	out := Plan{
		V: PlanVersion, Order: p.Order, Blocks: []Block{}, Slots: Slots(d, p), Prep: plan.IDs(p.Prep), Items: items,
		Goal: d.Goal, Bans: d.Bans, Known: d.Known, Overruled: d.Overruled, Day: d.Day,
		ChangeOverPct: c.Library.Times().ChangeOverPct, TeachPct: c.Library.Times().TeachPct, Floors: p.Floors,
	}
	for _, x := range p.Prep {
		if x.Slot != "" {
			out.Ramp = &x
		}
	}
	for _, b := range d.Blocks {
		out.Blocks = append(out.Blocks, Block{b.ID, b.Kind, b.Scheme, b.Layout})
	}
	return out
}

// Document is what is run as a document, with what parties do instead in place of what was
// planned for them: whatever could be done in a slot is looked for in it.
func (p Plan) Document() circuit.Document {
	d := circuit.Document{
		V: circuit.DocumentVersion, Goal: p.Goal, Bans: p.Bans, Known: p.Known, Overruled: p.Overruled, Day: p.Day,
		Blocks: []circuit.Block{},
	}
	for _, b := range p.Blocks {
		block := circuit.Block{
			ID:     b.ID,
			Kind:   b.Kind,
			Auto:   b.Scheme == nil,
			Scheme: b.Scheme,
			Layout: cmp.Or(b.Layout, circuit.Together),
		}
		for _, s := range p.Slots {
			if s.Block != b.ID {
				continue
			}
			if b.Layout == "" && s.Waves > 1 {
				block.Layout = circuit.InWaves
			}
			slot := circuit.Slot{
				ID:      s.ID,
				Pattern: s.Pattern,
				Waves:   s.Waves,
				Entries: map[people.Party]circuit.Entry{},
			}
			for _, c := range s.Cells {
				slot.Entries[c.Party] = c.Entry
			}
			block.Slots = append(block.Slots, slot)
		}
		d.Blocks = append(d.Blocks, block)
	}
	return d
}

// Slots gives what screen and log need of a plan's slots.
func Slots(d circuit.Document, p plan.Plan) []Slot {
	out := []Slot{}
	i := 0
	for _, b := range d.Blocks {
		for _, s := range b.Slots {
			out = append(
				out,
				Slot{s.ID, b.ID, b.Kind, b.Scheme.Kind, s.Pattern, b.WavesOf(s), p.Slots[i].Cells, p.Slots[i].Grown},
			)
			i++
		}
	}
	return out
}

// Logged lists the slots of some that are logged: those of the blocks that the class is
// trained by, but for what is read out.
func Logged(slots []Slot) []Slot {
	out := []Slot{}
	for _, s := range slots {
		if s.Kind.Loaded() && s.Scheme != scheme.CalledOut {
			out = append(out, s)
		}
	}
	return out
}

// CellFor looks at what a party does in a slot instead of what the plan says, as the plan
// looks at its own; ok is false for a slot or a party that is not there.
func (p Plan) CellFor(c plan.Context, slot string, who people.Party, e circuit.Entry) (plan.Cell, bool) {
	i := slices.IndexFunc(p.Slots, func(s Slot) bool { return s.ID == slot })
	if i < 0 {
		return plan.Cell{}, false
	}
	s := p.Slots[i]
	b := circuit.Block{ID: s.Block, Kind: circuit.Work}
	if n := slices.IndexFunc(p.Blocks, func(x Block) bool { return x.ID == s.Block }); n >= 0 {
		b.Kind, b.Scheme, b.Layout = p.Blocks[n].Kind, p.Blocks[n].Scheme, p.Blocks[n].Layout
	}
	b.Slots = []circuit.Slot{
		{ID: slot, Pattern: s.Pattern, Waves: s.Waves, Entries: map[people.Party]circuit.Entry{who: e}},
	}
	return c.CellFor(b, who)
}

// Swapped is the plan with a party's cell in place of what it had in a slot: their own, or
// their lane's, of whom there is then one less.
func (p Plan) Swapped(slot string, cell plan.Cell) Plan {
	p.Slots = slices.Clone(p.Slots)
	for i, s := range p.Slots {
		if s.ID != slot {
			continue
		}
		cells := slices.Clone(s.Cells)
		at := slices.IndexFunc(cells, func(c plan.Cell) bool { return c.Party == cell.Party })
		if at >= 0 {
			cell.People = cells[at].People
			cells[at] = cell
		} else {
			lane := slices.IndexFunc(cells, func(c plan.Cell) bool { return c.Party == people.OfLane(cell.Lane) })
			if lane >= 0 {
				cells[lane].People--
			}
			cell.People = 1
			cells = append(cells, cell)
		}
		p.Slots[i].Cells = cells
	}
	p.Order.Events = slices.Clone(p.Order.Events)
	for i, e := range p.Order.Events {
		if e.Party == cell.Party && e.Slot == slot && e.Variant != "" {
			p.Order.Events[i].Variant = cell.Entry.Variant
		}
	}
	return p
}

// Encode writes a plan: the same plan gives the same bytes.
func Encode(p Plan) ([]byte, error) { return json.Marshal(p) }

// Decode reads a plan that some version of the program wrote. One that none did is refused
// by a fault.Fault; lists that an older one left out are empty.
func Decode(b []byte) (Plan, error) {
	var p Plan
	b, err := upgraded(b)
	if err == nil {
		err = json.Unmarshal(b, &p)
	}
	if err != nil {
		return p, fault.Fault{Message: fmt.Sprintf("it is not the plan of a run: %v", err)}
	}
	if p.V < 0 || p.V > PlanVersion {
		return p, fault.Fault{
			Path:    "v",
			Message: fmt.Sprintf("plans are known up to version %d, not %d", PlanVersion, p.V),
		}
	}
	if err := p.Order.Check(); err != nil {
		return p, fault.Fault{Path: "order", Message: fmt.Sprintf("it is not the plan of a run: %v", err)}
	}
	if len(p.Slots) > circuit.MaxSlots {
		return p, fault.Fault{Path: "slots", Message: fmt.Sprintf("at most %d", circuit.MaxSlots)}
	}
	p.V = PlanVersion
	p.Order.Events, p.Prep, p.Items, p.Slots = filled(p.Order.Events), filled(p.Prep), filled(p.Items), filled(p.Slots)
	p.Blocks = filled(p.Blocks)
	for i := range p.Order.Events {
		e := &p.Order.Events[i]
		e.Party = cmp.Or(e.Party, people.OfLane(e.Lane))
	}
	if p.Order.Calls == nil { // of before calls were part of it
		p.Order.Calls = cue.Calls(p.Order)
	}
	for i := range p.Slots {
		s := &p.Slots[i]
		s.Kind, s.Scheme = cmp.Or(s.Kind, circuit.Work), cmp.Or(s.Scheme, scheme.Circuit)
		p.Slots[i].Cells = filled(p.Slots[i].Cells)
		for n := range p.Slots[i].Cells {
			c := &p.Slots[i].Cells[n]
			if !slices.Contains(moves.Lanes, c.Lane) {
				return p, fault.Fault{
					Path:    fmt.Sprintf("slots[%d].cells[%d].lane", i, n),
					Message: "ground, middle or reach",
				}
			}
			c.Party = cmp.Or(c.Party, people.OfLane(c.Lane))
			c.Faults, c.Asks = filled(c.Faults), filled(c.Asks)
			c.Setup, c.Cautions, c.Parts, c.Does = filled(c.Setup), filled(c.Cautions), filled(c.Parts), filled(c.Does)
			c.Entry.Anchors = filled(c.Entry.Anchors)
		}
	}
	return p, nil
}

// filled gives a list that is never null.
func filled[T any](in []T) []T { return append([]T{}, in...) }

// CameTo lists the slots that a run that has ended came to; all of one that goes on, and of a
// window and of stations, where somebody is at each from the beginning.
func (p Plan) CameTo(a cue.Anchor) []Slot {
	if a.State != cue.Ended {
		return p.Slots
	}
	out := []Slot{}
	for _, s := range p.Slots {
		if slices.ContainsFunc(
			p.Order.Stretches,
			func(b cue.Stretch) bool {
				here := b.Slot == s.ID || b.Slot == "" && b.Block == s.Block
				return b.Kind == scheme.Work && here && b.From < a.PositionMs
			},
		) {
			out = append(out, s)
		}
	}
	return out
}

// Moves lists the moves of some slots in their order, those of one slot by their parties: as a
// document lists its own, so that the one new cue is the same before a class and in it.
func Moves(slots []Slot) []string {
	out := []string{}
	for _, s := range slots {
		of := map[people.Party]string{}
		for _, c := range s.Cells {
			of[c.Party] = c.Entry.Variant
		}
		for _, p := range people.Parties(of) {
			out = append(out, of[p])
		}
	}
	return out
}

// Asked lists what some slots ask of a party who is in a lane, as a sheet of the log begins
// with: their own cells, else the lane's.
func Asked(slots []Slot, party people.Party, lane moves.Lane) []progress.Asked {
	var out []progress.Asked
	for _, s := range slots {
		c, ok := cellOf(s, party, lane)
		if !ok {
			continue
		}
		out = append(out, counted(progress.Asked{
			Slot:        s.ID,
			Pattern:     s.Pattern,
			Variant:     c.Entry.Variant,
			Hold:        c.Entry.Hold,
			Load:        c.Entry.Load,
			LoadG:       c.LoadG,
			TwoSides:    c.TwoSides,
			Reps:        c.PerSide,
			ComparableG: c.ComparableG,
			TooLight:    c.FarTooLight,
			Scheme:      s.Scheme,
			Aside:       s.Kind == circuit.Finisher || s.Scheme == scheme.Superset,
		}, s, c))
	}
	return out
}

// counted says how much is asked: what fits by the clock, else the dose; of a ladder all
// its rungs.
func counted(a progress.Asked, s Slot, c plan.Cell) progress.Asked {
	d := c.Entry.Dose
	switch {
	case d.Kind == circuit.Seconds:
		a.Reps, a.Counted = int(d.Ms.InSeconds()), progress.BySeconds
	case d.Kind == circuit.ToFailure:
		a.Reps, a.High, a.Counted = d.Low, d.High, progress.ToFailure
	case s.Scheme == scheme.Ladder:
		a.Reps = c.Count.Low
		if c.TwoSides {
			a.Reps = min(c.Count.LeftLow, c.Count.RightLow)
		}
	case d.Low < d.High && c.PerSide == d.High:
		a.Reps, a.High = d.Low, d.High
	}
	for _, p := range c.Parts {
		if c.Count.Low > 0 {
			a.Parts = append(a.Parts, progress.PartDone{Move: p.Move, Done: p.Low / c.Count.Low * a.Reps})
		}
	}
	return a
}

// Told is what the deeds of a run say of a party's set in a slot: the rounds of its window,
// and whether it stopped.
func (p Plan) Told(deeds []cue.Deed, slot Slot, who people.Party) progress.Told {
	var out progress.Told
	in := map[string]bool{}
	for _, s := range p.Slots {
		in[s.ID] = s.Block == slot.Block
	}
	rounds := 0
	for _, d := range deeds {
		switch {
		case d.Party != who:
		case d.Kind == cue.Round && in[d.Slot]:
			rounds += d.Count
		case d.Kind == cue.Stopped && d.Slot == slot.ID:
			out.Stopped = true
		}
	}
	if slot.Scheme == scheme.Windowed && rounds > 0 {
		out.Rounds = &rounds
	}
	return out
}

// Hand is what a party does with its hands from one slot to the next.
type Hand struct {
	Party people.Party `json:"party"`
	From  string       `json:"from,omitempty"`
	To    string       `json:"to"`
	Do    HandDo       `json:"do"`
	// Hold is how what is in hand is held otherwise.
	Hold moves.HoldID `json:"hold,omitempty"`
}

// HandDo is what is done with what is in hand.
type HandDo string

// What hands do: take another load up, keep the one they have, keep it in another hold, or
// put it down.
const (
	PickUp  HandDo = "pick-up"
	Keep    HandDo = "keep"
	Regrip  HandDo = "regrip"
	PutDown HandDo = "put-down"
)

// HandDos lists them all.
var HandDos = []HandDo{PickUp, Keep, Regrip, PutDown}

// Hands gives for every step from a slot to another that the running order takes what each
// party does with its hands; nothing where they are empty and stay so.
func (p Plan) Hands() []Hand {
	out := []Hand{}
	slots := map[string]Slot{}
	for _, s := range p.Slots {
		slots[s.ID] = s
	}
	type step struct{ from, to string }
	seen := map[step]bool{}
	before := ""
	for _, x := range p.Order.Stretches {
		to, ok := slots[x.Slot]
		if x.Kind != scheme.Work || !ok {
			continue
		}
		at := step{before, to.ID}
		before = to.ID
		if seen[at] {
			continue
		}
		seen[at] = true
		for _, c := range to.Cells {
			had, _ := cellOf(slots[at.from], c.Party, c.Lane)
			if h, any := handOf(had.Entry, c.Entry); any {
				h.Party, h.From, h.To = c.Party, at.from, at.to
				out = append(out, h)
			}
		}
	}
	return out
}

// handOf is what hands do between two entries.
func handOf(had, next circuit.Entry) (h Hand, any bool) {
	empty := func(e circuit.Entry) bool { return e.Load.Kind == kit.None || e.Load.Kind == "" }
	switch {
	case empty(had) && empty(next):
		return h, false
	case empty(next):
		h.Do = PutDown
	case empty(had) || !had.Load.Equal(next.Load):
		h.Do = PickUp
	case had.Hold != next.Hold:
		h.Do, h.Hold = Regrip, next.Hold
	default:
		h.Do = Keep
	}
	return h, true
}

// cellOf is a party's cell in a slot: their own, else their lane's.
func cellOf(s Slot, who people.Party, lane moves.Lane) (plan.Cell, bool) {
	at := slices.IndexFunc(s.Cells, func(c plan.Cell) bool { return c.Party == who })
	if at < 0 {
		at = slices.IndexFunc(s.Cells, func(c plan.Cell) bool { return c.Party == people.OfLane(lane) })
	}
	if at < 0 {
		return plan.Cell{}, false
	}
	return s.Cells[at], true
}
