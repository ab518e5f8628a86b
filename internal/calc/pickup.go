package calc

import (
	"fmt"
	"math"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/pickup"
)

type pickupRequest struct {
	Implements []pickupImplement `json:"implements" maxItems:"40"`
	People     []pickupPerson    `json:"people" maxItems:"40"`
	PerPerson  int               `json:"perPerson" minimum:"1" maximum:"4" doc:"how many implements one takes at most; two equal ones for two hands are two"`
}

type pickupImplement struct {
	ID    string       `json:"id" minLength:"1" maxLength:"60"`
	MassG measure.Mass `json:"massG" minimum:"1" maximum:"300000"`
	Count int          `json:"count" minimum:"0" maximum:"500"`
	Kind  string       `json:"kind" minLength:"1" maxLength:"60"`
}

type pickupPerson struct {
	ID      string         `json:"id" minLength:"1" maxLength:"60"`
	Targets []pickupTarget `json:"targets" maxItems:"20"`
}

type pickupTarget struct {
	Slot    int          `json:"slot" minimum:"1" maximum:"1000"`
	TargetG measure.Mass `json:"targetG" minimum:"1" maximum:"300000" doc:"of one implement"`
	MinG    measure.Mass `json:"minG" minimum:"0" maximum:"300000"`
	MaxG    measure.Mass `json:"maxG" minimum:"0" maximum:"300000"`
	Weight  float64      `json:"weight" minimum:"0" maximum:"100"`
	Hands   int          `json:"hands" minimum:"1" maximum:"2" doc:"2 needs two of the same id"`
	Kinds   []string     `json:"kinds" maxItems:"20"`
}

type pickupAnswer struct {
	Assignments []pickupTaken `json:"assignments"`
	Cost        float64       `json:"cost"`
	Bound       float64       `json:"bound" doc:"no list costs less"`
	Proven      bool          `json:"proven" doc:"the bound is met"`
	Short       []pickupShort `json:"short" doc:"who is left with nothing in which slot"`
}

type pickupTaken struct {
	Person string       `json:"person"`
	Take   []string     `json:"take"`
	Slots  []pickupSlot `json:"slots"`
}

type pickupSlot struct {
	Slot  int           `json:"slot"`
	Use   []string      `json:"use"`
	MissG *measure.Mass `json:"missG" doc:"used less target; null where nothing is used"`
}

type pickupShort struct {
	Person string `json:"person"`
	Slot   int    `json:"slot"`
}

// millionths rounds a cost to six decimals.
func millionths(x float64) float64 { return math.Round(x*1e6) / 1e6 }

var pickupList = define[pickupAnswer](
	"pickup",
	"Who takes which implements for the whole class",
	`{"implements":[{"id":"kb16","massG":16000,"count":3,"kind":"kettlebell"}],"people":[{"id":"p1","targets":[{"slot":1,"targetG":14000,"minG":0,"maxG":16000,"weight":1,"hands":1,"kinds":["kettlebell"]}]}],"perPerson":1}`,
	one(shapeOf(func(r pickupRequest, c *check) any {
		implements, people := r.read(c)
		if c.Failed() {
			return nil
		}
		list := pickup.Allot(implements, people, r.PerPerson)
		out := pickupAnswer{
			Assignments: []pickupTaken{}, Short: []pickupShort{},
			Cost: millionths(list.Cost), Bound: millionths(list.Bound), Proven: list.Proven,
		}
		for _, t := range list.Taken {
			x := pickupTaken{t.Person, t.Take, []pickupSlot{}}
			for _, s := range t.Slots {
				slot := pickupSlot{Slot: s.Slot, Use: s.Use}
				if len(s.Use) > 0 {
					slot.MissG = &s.Miss
				} else {
					out.Short = append(out.Short, pickupShort{t.Person, s.Slot})
				}
				x.Slots = append(x.Slots, slot)
			}
			out.Assignments = append(out.Assignments, x)
		}
		return out
	})),
)

// read checks what a schema cannot see: ids and slots that stand once, bounds the right way
// round.
func (r pickupRequest) read(c *check) ([]pickup.Implement, []pickup.Person) {
	once := func(seen map[any]bool, path string, id any) {
		if seen[id] {
			c.add(path, "it stands twice: each once", id)
		}
		seen[id] = true
	}
	var implements []pickup.Implement
	ids := map[any]bool{}
	for i, x := range r.Implements {
		once(ids, fmt.Sprintf("implements[%d].id", i), x.ID)
		implements = append(implements, pickup.Implement{ID: x.ID, Mass: x.MassG, Count: x.Count, Kind: x.Kind})
	}
	var people []pickup.Person
	who := map[any]bool{}
	for i, x := range r.People {
		once(who, fmt.Sprintf("people[%d].id", i), x.ID)
		p := pickup.Person{ID: x.ID}
		slots := map[any]bool{}
		for n, t := range x.Targets {
			at := fmt.Sprintf("people[%d].targets[%d]", i, n)
			once(slots, at+".slot", t.Slot)
			if t.MaxG < t.MinG && c.good(at) {
				c.add(at+".maxG", "not under minG", t.MaxG)
			}
			p.Targets = append(p.Targets, pickup.Target{
				Slot: t.Slot, Mass: t.TargetG, Min: t.MinG, Max: t.MaxG, Weight: t.Weight, Hands: t.Hands, Kinds: t.Kinds,
			})
		}
		people = append(people, p)
	}
	return implements, people
}
