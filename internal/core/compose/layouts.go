package compose

import (
	"math"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/room"
)

// turns are in how many groups the people of a slot may take turns, so that the kit covers
// them: by the layout that is asked for, of stations as many as there are of these.
func (c *composer) turns() []int {
	switch c.Layout {
	case circuit.Together:
		return []int{1}
	case circuit.Partners:
		return []int{circuit.OfPartners}
	case circuit.Stations:
		return []int{max(c.stations, 1)}
	}
	out := make([]int, mostWaves)
	for i := range out {
		out[i] = i + 1
	}
	return out
}

// written is what a slot's waves are written as where people take so many turns: stations and
// partners are the layout's, not the slot's.
func (c *composer) written(turns int) int {
	if c.Layout == circuit.Partners || c.Layout == circuit.Stations {
		return 1
	}
	return turns
}

// keep counts what lives at a station that is filled by its cheapest option, so that the
// stations after it have what is left.
func (c *composer) keep(pl place) {
	if c.Layout != circuit.Stations || len(pl.options) == 0 {
		return
	}
	best := pl.options[0]
	for _, x := range pl.options {
		if x.total < best.total {
			best = x
		}
	}
	if c.elsewhere == nil {
		c.elsewhere = room.Tally{}
	}
	block := circuit.Block{Slots: []circuit.Slot{{Waves: 1, Entries: best.entries}}}
	for id, n := range c.AtStations(block, c.stations).AtOnce(1) {
		c.elsewhere[room.Use{ID: id, Pieces: n}]++
	}
}

// fewestStations is how many stations the composer makes: as many as the template has places,
// or two or four less where that comes out cheaper, since fewer have more people each, which
// need more of a thing at one.
func (c *composer) fewestStations() int {
	most := len(c.wanted())
	best, cost := most, math.Inf(1)
	for _, n := range []int{most, most - 2, most - 4} {
		try := *c
		try.stations = n
		places, _ := try.places()
		if n < 1 || len(places) == 0 {
			continue
		}
		if s := try.search(places); s.total < cost {
			best, cost = n, s.total
		}
	}
	return best
}

// livesThere tells whether the kit holds what lives at a circuit's stations.
func (c *composer) livesThere(d circuit.Single) bool {
	if c.Layout != circuit.Stations {
		return true
	}
	return c.AtStations(circuit.Block{Slots: d.Slots}, len(d.Slots)).Covered(c.Stock, 1)
}
