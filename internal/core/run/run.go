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
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/scheme"
)

// PlanVersion is the shape of plans written today: 2 names parties and has the calls. Plans of before there
// were versions have none, and may have left lists out.
const PlanVersion = 2

// Plan is what a run keeps of the circuit it began with.
type Plan struct {
	V     int       `json:"v"`
	Order cue.Order `json:"order"`
	Slots []Slot    `json:"slots"`
	// Prep are mobility moves for the prep, by id.
	Prep  []string   `json:"prep"`
	Items []kit.Item `json:"items"`
}

// Slot is what screen and log need of a slot.
type Slot struct {
	ID      string        `json:"id"`
	Pattern moves.Pattern `json:"pattern"`
	Waves   int           `json:"waves"`
	Cells   []plan.Cell   `json:"cells"`
}

// Freeze takes what a run keeps of a document and its plan; items names the kit of the
// place.
func Freeze(d circuit.Document, p plan.Plan, c plan.Context, items []kit.Item) Plan {
	return Plan{V: PlanVersion, Order: p.Order, Slots: Slots(d, p), Prep: plan.PrepMoves(d, c), Items: items}
}

// Slots gives what screen and log need of a plan's slots.
func Slots(d circuit.Document, p plan.Plan) []Slot {
	out := []Slot{}
	for i, sp := range p.Slots {
		out = append(out, Slot{sp.ID, sp.Pattern, d.Slots[i].Waves, sp.Cells})
	}
	return out
}

// Encode writes a plan: the same plan gives the same bytes.
func Encode(p Plan) ([]byte, error) { return json.Marshal(p) }

// Decode reads a plan that some version of the program wrote. One that none did is refused
// by a fault.Fault; lists that an older one left out are empty.
func Decode(b []byte) (Plan, error) {
	var p Plan
	if err := json.Unmarshal(b, &p); err != nil {
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
	for i := range p.Order.Events {
		e := &p.Order.Events[i]
		e.Party = cmp.Or(e.Party, people.OfLane(e.Lane))
	}
	if p.Order.Calls == nil { // of before calls were part of it
		p.Order.Calls = cue.Calls(p.Order)
	}
	for i := range p.Slots {
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
			c.Setup, c.Cautions = filled(c.Setup), filled(c.Cautions)
			c.Entry.Anchors = filled(c.Entry.Anchors)
		}
	}
	return p, nil
}

// filled gives a list that is never null.
func filled[T any](in []T) []T { return append([]T{}, in...) }

// CameTo lists the slots that a run that has ended came to; all of one that goes on.
func (p Plan) CameTo(a cue.Anchor) []Slot {
	if a.State != cue.Ended {
		return p.Slots
	}
	out := []Slot{}
	for _, s := range p.Slots {
		if slices.ContainsFunc(
			p.Order.Blocks,
			func(b cue.Block) bool { return b.Kind == scheme.Work && b.Slot == s.ID && b.From < a.PositionMs },
		) {
			out = append(out, s)
		}
	}
	return out
}

// Moves lists the moves of some slots in their order.
func Moves(slots []Slot) []string {
	out := []string{}
	for _, s := range slots {
		for _, c := range s.Cells {
			out = append(out, c.Entry.Variant)
		}
	}
	return out
}

// Asked lists what some slots ask of a party who is in a lane, as a sheet of the log begins
// with: their own cells, else the lane's.
func Asked(slots []Slot, party people.Party, lane moves.Lane) []progress.Asked {
	var out []progress.Asked
	for _, s := range slots {
		at := slices.IndexFunc(s.Cells, func(c plan.Cell) bool { return c.Party == party })
		if at < 0 {
			at = slices.IndexFunc(s.Cells, func(c plan.Cell) bool { return c.Party == people.OfLane(lane) })
		}
		if at < 0 {
			continue
		}
		c := s.Cells[at]
		out = append(out, progress.Asked{
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
		})
	}
	return out
}
