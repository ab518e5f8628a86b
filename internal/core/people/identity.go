package people

import (
	"cmp"
	"slices"

	"nimbleanvil/internal/core/moves"
)

// Appearance is a name in a class.
type Appearance struct {
	Class int // classes of a series count in the order of time
	Lane  moves.Lane
	Name  string
}

// Identity is somebody that appearances come to.
type Identity struct {
	Name string
	// Appearances by their index.
	Appearances []int
	// SameName says that another has the name and that nothing tells them apart for sure.
	SameName bool
}

// Identify tells who the names in the classes of one series are (house): one name is one
// person, except that two of one name in one class are two, told apart by lane. Where that
// does not tell they stay two, and are marked. The answer is in the order of first
// appearance, and follows from the appearances alone.
func Identify(all []Appearance) []Identity {
	byName := map[string][]int{}
	for i, a := range all {
		byName[a.Name] = append(byName[a.Name], i)
	}
	var out []Identity
	for name, at := range byName {
		for _, id := range apart(all, at) {
			id.Name = name
			out = append(out, id)
		}
	}
	slices.SortFunc(out, func(a, b Identity) int { return cmp.Compare(a.Appearances[0], b.Appearances[0]) })
	return out
}

// apart tells the bearers of one name apart.
func apart(all []Appearance, at []int) []Identity {
	if most(all, at, func(Appearance) moves.Lane { return "" }) == 1 {
		return []Identity{{Appearances: at}}
	}
	byLane := map[moves.Lane][]int{}
	for _, i := range at {
		byLane[all[i].Lane] = append(byLane[all[i].Lane], i)
	}
	// A lane more than there ever were at once: one of them has been in two lanes.
	unsure := len(byLane) > most(all, at, func(Appearance) moves.Lane { return "" })
	var out []Identity
	for _, lane := range moves.Lanes {
		ofLane := byLane[lane]
		if len(ofLane) == 0 {
			continue
		}
		n := most(all, ofLane, func(a Appearance) moves.Lane { return a.Lane })
		ids := make([]Identity, n)
		nth := map[int]int{} // by class
		for _, i := range ofLane {
			k := nth[all[i].Class]
			nth[all[i].Class]++
			ids[k].Appearances = append(ids[k].Appearances, i)
			ids[k].SameName = unsure || n > 1
		}
		out = append(out, ids...)
	}
	return out
}

// most is how many of some appearances are in one class at the most, by a part of it.
func most(all []Appearance, at []int, part func(Appearance) moves.Lane) int {
	type place struct {
		class int
		part  moves.Lane
	}
	n, top := map[place]int{}, 0
	for _, i := range at {
		p := place{all[i].Class, part(all[i])}
		n[p]++
		top = max(top, n[p])
	}
	return top
}

// Bearer is somebody of a series who bears a name.
type Bearer struct {
	Person string
	Lane   moves.Lane // that they were in last
	Here   bool       // in the class already
}

// Recognize tells which bearer of a name it is that is put into a lane of a class; empty
// for somebody new. SameName says that it may be another: nothing told them apart.
func Recognize(bearers []Bearer, lane moves.Lane) (person string, sameName bool) {
	var free []Bearer
	for _, b := range bearers {
		if !b.Here {
			free = append(free, b)
		}
	}
	if len(free) == 1 {
		return free[0].Person, false
	}
	inLane := func(list []Bearer) (out []Bearer) {
		return slices.DeleteFunc(slices.Clone(list), func(b Bearer) bool { return b.Lane != lane })
	}
	if some := inLane(free); len(some) == 1 {
		return some[0].Person, false
	}
	if len(free) == 0 { // a second of the name: their lane tells them apart from then on
		return "", len(inLane(bearers)) > 0
	}
	return "", true
}
