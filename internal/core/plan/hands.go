package plan

import (
	"slices"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/room"
)

// Rehearsal is a class as its kit sees it: who has what in hand at every second, and who waits
// for what.
type Rehearsal struct {
	TotalMs measure.Span `json:"totalMs"`
	// Guests are who is there, one by one; hands name them by their places from 0.
	Guests []Guest `json:"guests"`
	// Stretches are those of the running order.
	Stretches []cue.Stretch `json:"stretches"`
	// Hands are what is held in a slot by each wave, or at the stations of a block in each turn.
	Hands []Hands `json:"hands"`
	// Kit is what is used, and how many pieces of it there are.
	Kit []Piece `json:"kit"`
}

// Hands are what people have in hand in one wave of a slot, or in one turn of a block of
// stations, and who waits for what meanwhile.
type Hands struct {
	Block string   `json:"block"`
	Slot  string   `json:"slot,omitempty"`
	Wave  int      `json:"wave,omitempty"`
	Turn  int      `json:"turn,omitempty"`
	Holds []InHand `json:"holds"`
	Waits []InHand `json:"waits"`
}

// InHand is what somebody uses in a slot: pieces of the kit, supports among them.
type InHand struct {
	Guest int     `json:"guest"`
	Slot  string  `json:"slot"`
	Items []Piece `json:"items"`
}

// Rehearse tells who has what in hand through a class.
func Rehearse(d circuit.Document, c Context) Rehearsal {
	c = c.On(d)
	p := Look(d, c)
	who, parties := c.guests()
	r := Rehearsal{
		TotalMs: p.TotalMs, Guests: append([]Guest{}, who...), Stretches: p.Order.Stretches, Hands: []Hands{},
		Kit: []Piece{},
	}
	for _, b := range d.Blocks {
		if b.Rotates() {
			r.Hands = append(r.Hands, c.atStations(b, p.Floors, who, parties)...)
			continue
		}
		for n := range b.Slots {
			r.Hands = append(r.Hands, c.inWaves(b, n, parties)...)
		}
	}
	seen := map[string]bool{}
	for _, h := range r.Hands {
		for _, x := range slices.Concat(h.Holds, h.Waits) {
			for _, i := range x.Items {
				if !seen[i.Item] {
					seen[i.Item] = true
					r.Kit = append(r.Kit, Piece{i.Item, c.Stock.Pieces(i.Item)})
				}
			}
		}
	}
	return r
}

// pieces is what an entry uses, supports among it.
func pieces(e circuit.Entry) map[string]int {
	t := room.Tally{}
	t.Take(1, e.Load, e.Anchors)
	return t.AtOnce(1)
}

func inHand(guest int, s circuit.Slot, p Party) (InHand, map[string]int, bool) {
	e, ok := s.Of(p.ID(), p.Lane)
	uses := pieces(e)
	x := InHand{Guest: guest, Slot: s.ID, Items: []Piece{}}
	for _, id := range sortedKeys(uses) {
		x.Items = append(x.Items, Piece{id, uses[id]})
	}
	return x, uses, ok
}

// inWaves deals the people of a slot to its waves; partners to those who work first and second.
func (c Context) inWaves(b circuit.Block, n int, parties []Party) []Hands {
	s := b.Slots[n]
	var all []InHand
	var uses []map[string]int
	for g, p := range parties {
		if x, u, ok := inHand(g, s, p); ok {
			all, uses = append(all, x), append(uses, u)
		}
	}
	waves := b.WavesOf(s)
	var dealt [][]int
	if b.Layout == circuit.Partners {
		dealt = make([][]int, waves)
		for i, x := range all {
			dealt[x.Guest%waves] = append(dealt[x.Guest%waves], i)
		}
	} else {
		dealt, _ = room.InTurns(uses, waves, c.Stock.Pieces)
	}
	var out []Hands
	for w := range dealt {
		h := Hands{Block: b.ID, Slot: s.ID, Wave: w + 1, Holds: []InHand{}, Waits: []InHand{}}
		for v, group := range dealt {
			for _, i := range group {
				if v == w {
					h.Holds = append(h.Holds, all[i])
				} else {
					h.Waits = append(h.Waits, all[i])
				}
			}
		}
		out = append(out, h)
	}
	return out
}

// atStations is what people have in hand in each turn of a block of stations.
func (c Context) atStations(b circuit.Block, floors []Floor, who []Guest, parties []Party) []Hands {
	at := slices.IndexFunc(floors, func(f Floor) bool { return f.Block == b.ID })
	var out []Hands
	for turn := range b.Slots {
		h := Hands{Block: b.ID, Turn: turn + 1, Holds: []InHand{}, Waits: []InHand{}}
		for n, station := range floors[at].Stations {
			if turn >= len(station.Groups) {
				continue
			}
			for _, guest := range floors[at].Groups[station.Groups[turn]].Who {
				g := slices.Index(who, guest)
				if x, _, ok := inHand(g, b.Slots[n], parties[g]); ok {
					h.Holds = append(h.Holds, x)
				}
			}
		}
		out = append(out, h)
	}
	return out
}
