package plan

import (
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/people"
)

// On is the context as the day of a document came: without those who are absent and what is
// missing. Of a document whose day is as planned it is what it was.
func (c Context) On(d circuit.Document) Context {
	if c.planned != nil {
		c = *c.planned
	}
	if d.Day.Plain() {
		return c
	}
	whole := c
	c.planned = &whole
	gone := map[people.Party]int{}
	for _, f := range d.Day.Fewer {
		gone[people.OfLane(f.Lane)] += f.People
	}
	c.Parties = nil
	for _, p := range whole.Parties {
		if p.Participant != "" && !d.Day.Here(p.ID()) {
			gone[people.OfLane(p.Lane)]++
			continue
		}
		c.Parties = append(c.Parties, p)
	}
	for i, p := range c.Parties {
		if p.Participant == "" {
			c.Parties[i].People = max(c.namedIn(p), p.People-gone[p.ID()])
		}
	}
	c.Out = slices.DeleteFunc(slices.Clone(c.Out), func(p people.Party) bool { return !d.Day.Here(p) })
	lacks := map[string]int{}
	for _, m := range d.Day.Missing {
		lacks[m.Item] = m.Count
	}
	c.Stock = c.Stock.Less(lacks)
	return c
}

// Alike counts who of a party are there and do the same: of a lane those without a name, and one
// of somebody by name.
func (c Context) Alike(p Party) int {
	if p.Participant != "" {
		return 1
	}
	return p.People - c.namedIn(p)
}

// namedIn counts a lane's people who are there by name.
func (c Context) namedIn(lane Party) int {
	n := 0
	for _, p := range c.Parties {
		if p.Participant != "" && p.Lane == lane.Lane {
			n++
		}
	}
	return n
}
