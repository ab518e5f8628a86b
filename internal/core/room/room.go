// Package room keeps count of who has what in hand: nobody shares an implement
// within one interval, whatever the lane.
package room

import (
	"maps"
	"slices"
	"sort"

	"nimbleanvil/internal/core/kit"
)

// Tally counts who uses what in a slot: of everything, how many people use how many
// pieces of it.
type Tally map[Use]int

// Use is how many pieces of a thing one person uses.
type Use struct {
	ID     string
	Pieces int
}

// Take adds what users people need with a load and their anchors; fewer than none takes it
// away again.
func (t Tally) Take(users int, load kit.Load, anchors []string) {
	for _, u := range load.Uses() {
		t[Use{u.ID, u.Count}] += users
	}
	for n, a := range anchors {
		if pieces := countOf(anchors, a); slices.Index(anchors, a) == n {
			t[Use{a, pieces}] += users
		}
	}
}

// Clone copies a tally.
func (t Tally) Clone() Tally {
	if t == nil {
		return Tally{}
	}
	return maps.Clone(t)
}

// Keep adds what users people keep by them who come to some loads with their anchors at
// times of their own: of everything as much as they need at once.
func (t Tally) Keep(users int, each []Held) {
	most := map[string]int{}
	for _, h := range each {
		one := Tally{}
		one.Take(1, h.Load, h.Anchors)
		for id, n := range one.AtOnce(1) {
			most[id] = max(most[id], n)
		}
	}
	for id, n := range most {
		t[Use{id, n}] += users
	}
}

// Held is what somebody uses in a set.
type Held struct {
	Load    kit.Load
	Anchors []string
}

func countOf(all []string, x string) int {
	n := 0
	for _, a := range all {
		if a == x {
			n++
		}
	}
	return n
}

// AtOnce gives how many pieces of everything are in use in the fullest of waves: people are
// dealt so that the users of each thing are spread evenly.
func (t Tally) AtOnce(waves int) map[string]int {
	out := map[string]int{}
	for use, users := range t {
		out[use.ID] += use.Pieces * PerWave(users, waves)
	}
	return out
}

// PerWave gives how many of people work at once in the fullest of waves.
func PerWave(people, waves int) int { return (people + waves - 1) / waves }

// Short is a piece of kit that more people need at once than there are.
type Short struct {
	Item          string
	Used, Present int
}

// Shorts lists what the stock cannot cover in so many waves, by id.
func (t Tally) Shorts(s kit.Stock, waves int) []Short {
	var out []Short
	for id, used := range t.AtOnce(waves) {
		if have := s.Pieces(id); used > have {
			out = append(out, Short{id, used, have})
		}
	}
	sort.Slice(out, func(i, j int) bool { return out[i].Item < out[j].Item })
	return out
}

// Covered tells whether the stock covers it all in so many waves.
func (t Tally) Covered(s kit.Stock, waves int) bool {
	for use := range t {
		used := 0
		for other, users := range t {
			if other.ID == use.ID {
				used += other.Pieces * PerWave(users, waves)
			}
		}
		if used > s.Pieces(use.ID) {
			return false
		}
	}
	return true
}
