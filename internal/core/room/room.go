// Package room keeps count of who has what in hand: nobody shares an implement
// within one interval, whatever the lane.
package room

import (
	"sort"

	"nimbleanvil/internal/core/kit"
)

// Tally counts how many pieces of everything are in use at once.
type Tally map[string]int

// PerWave gives how many of people work at once in the fullest of waves.
func PerWave(people, waves int) int { return (people + waves - 1) / waves }

// Take adds what users people need with a load and their anchors.
func (t Tally) Take(users int, load kit.Load, anchors []string) {
	for _, u := range load.Uses() {
		t[u.ID] += u.Count * users
	}
	for _, a := range anchors {
		t[a] += users
	}
}

// Short is a piece of kit that more people need at once than there are.
type Short struct {
	Item          string
	Used, Present int
}

// Shorts lists what the stock cannot cover, by id.
func (t Tally) Shorts(s kit.Stock) []Short {
	var out []Short
	for id, used := range t {
		if have := s.Pieces(id); used > have {
			out = append(out, Short{id, used, have})
		}
	}
	sort.Slice(out, func(i, j int) bool { return out[i].Item < out[j].Item })
	return out
}
