package moves

import (
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"slices"
	"sort"
	"strings"
	"sync"
)

//go:embed data/*.json
var data embed.FS

// Library is a checked set of variants.
type Library struct {
	all    []*Variant
	byID   map[string]*Variant
	hidden map[string]bool
	say    func(string) string // its language, where it is not its own
	style  Style               // of the house; its times are in times
	times  Times
}

// All lists the variants, hidden ones too, by pattern in teaching order, then by ladder and rung,
// then by id.
func (l *Library) All() []*Variant { return l.all }

// Get finds a variant by id.
func (l *Library) Get(id string) (*Variant, bool) {
	v, ok := l.byID[id]
	return v, ok
}

// OfPattern lists the variants of a pattern that the house offers, in the order
// of All.
func (l *Library) OfPattern(p Pattern) []*Variant {
	var out []*Variant
	for _, v := range l.all {
		if v.Pattern == p && !l.hidden[v.ID] {
			out = append(out, v)
		}
	}
	return out
}

// Offers tells whether the house offers a variant.
func (l *Library) Offers(v *Variant) bool { return !l.hidden[v.ID] }

// Towards lists the moves that are a step on the way to a lift.
func (l *Library) Towards(step ToLift) []*Variant {
	return slices.DeleteFunc(slices.Clone(l.all), func(v *Variant) bool { return v.ToLift != step })
}

// Neighbour finds the variant one rung up (+1) or down (-1) on the ladder.
func (l *Library) Neighbour(v *Variant, by int) (*Variant, bool) {
	if v.Ladder == "" {
		return nil, false
	}
	for _, x := range l.all {
		if x.Ladder == v.Ladder && x.Rung == v.Rung+by {
			return x, true
		}
	}
	return nil, false
}

// Above finds the rung above that may be proposed to anybody: none where a gate
// stands before it.
func (l *Library) Above(v *Variant) (*Variant, bool) {
	up, ok := l.Neighbour(v, 1)
	return up, ok && up.Gate == "" && !l.hidden[up.ID]
}

// FirstSteps lists what a move asks to be known first and is not, in order: static
// before moving, reverse before forward.
func (l *Library) FirstSteps(v *Variant, known func(id string) bool) []string {
	out := []string{}
	for _, id := range v.Learn {
		if !known(id) {
			out = append(out, id)
		}
	}
	return out
}

// Standard is the library that ships with the program.
var Standard = sync.OnceValue(func() *Library {
	l, err := load(data)
	if err != nil {
		panic(err) // the embedded data is checked by the tests
	}
	return l
})

func load(f fs.FS) (*Library, error) {
	l := &Library{byID: map[string]*Variant{}}
	names, err := fs.Glob(f, "data/*.json")
	if err != nil {
		return nil, err
	}
	for _, name := range names {
		b, err := fs.ReadFile(f, name)
		if err != nil {
			return nil, err
		}
		var vs []*Variant
		dec := json.NewDecoder(strings.NewReader(string(b)))
		dec.DisallowUnknownFields()
		if err := dec.Decode(&vs); err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		for _, v := range vs {
			if err := v.Check(); err != nil {
				return nil, fmt.Errorf("%s: %s: %w", name, v.ID, err)
			}
			if l.byID[v.ID] != nil {
				return nil, fmt.Errorf("%s: %s stands twice", name, v.ID)
			}
			l.byID[v.ID] = v
			l.all = append(l.all, v)
		}
	}
	l.order()
	return l, nil
}

// order sorts by pattern in teaching order, then by ladder and rung, then by id.
func (l *Library) order() {
	rank := map[Pattern]int{}
	for i, p := range Patterns {
		rank[p] = i
	}
	sort.Slice(l.all, func(i, j int) bool {
		a, b := l.all[i], l.all[j]
		if rank[a.Pattern] != rank[b.Pattern] {
			return rank[a.Pattern] < rank[b.Pattern]
		}
		if a.Ladder != b.Ladder {
			return a.Ladder < b.Ladder
		}
		if a.Rung != b.Rung {
			return a.Rung < b.Rung
		}
		return a.ID < b.ID
	})
}

// With gives a library that has some own moves too. Each must stand by itself,
// have an id of its own that begins with "own-", and, on a ladder, take the next
// free rung.
func (l *Library) With(own []*Variant) (*Library, error) {
	out := &Library{all: slices.Clone(l.all), byID: maps.Clone(l.byID)}
	for _, v := range own {
		if err := out.admit(v); err != nil {
			return nil, fmt.Errorf("%s: %w", v.ID, err)
		}
		out.all = append(out.all, v)
		out.byID[v.ID] = v
	}
	out.order()
	return out, nil
}

// admit says what keeps an own move out of the library.
func (l *Library) admit(v *Variant) error {
	if err := v.Check(); err != nil {
		return err
	}
	if v.HouseCues != 0 || v.HouseRep != 0 || v.InTurn {
		return errors.New("houseCues, houseRepMs, inTurn: these are the house style's to say, leave them out")
	}
	switch {
	case !strings.HasPrefix(v.ID, OwnPrefix):
		return fmt.Errorf("id: an own move's begins with %s", OwnPrefix)
	case l.byID[v.ID] != nil:
		return errors.New("id: it is another move's already")
	}
	for _, x := range v.Learn {
		if l.byID[x] == nil {
			return fmt.Errorf("learn: there is no move %q", x)
		}
	}
	if v.Ladder == "" {
		return nil
	}
	top := 0
	for _, x := range l.all {
		if x.Ladder == v.Ladder {
			top = max(top, x.Rung)
		}
	}
	if v.Rung != top+1 {
		return fmt.Errorf("rung: the next free one on this ladder is %d", top+1)
	}
	return nil
}

// OwnPrefix begins the id of every move of an instructor's own.
const OwnPrefix = "own-"

// Ordered lists the moves as a card index has them: by pattern, within one ladders before
// what stands by itself.
func (l *Library) Ordered() []*Variant {
	out := slices.Clone(l.All())
	rank := func(v *Variant) int {
		n := 2 * slices.Index(Patterns, v.Pattern)
		if v.Ladder == "" {
			n++
		}
		return n
	}
	slices.SortStableFunc(out, func(a, b *Variant) int { return rank(a) - rank(b) })
	return out
}
