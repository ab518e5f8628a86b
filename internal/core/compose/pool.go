package compose

import "nimbleanvil/internal/core/kit"

// pool is what a slot is shared out of: every thing of a place by its number, and how many pieces
// of each there are.
type pool struct {
	number map[string]int
	ids    []string
	have   []int
}

// poolOf lays a place's things out; left says how many of a thing's pieces there are for the
// slot.
func poolOf(s kit.Stock, left func(id string, pieces int) int) pool {
	p := pool{number: map[string]int{}}
	put := func(id string, pieces int) {
		p.number[id] = len(p.ids)
		p.ids = append(p.ids, id)
		p.have = append(p.have, max(0, left(id, pieces)))
	}
	for _, i := range s.Implements {
		put(i.ID, i.Pieces())
	}
	for _, o := range s.Objects {
		put(o.ID, o.Count)
	}
	for _, c := range s.Containers {
		put(c.ID, 1)
	}
	return p
}
