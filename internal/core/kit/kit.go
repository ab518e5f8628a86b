// Package kit knows what a place has: implements, household objects and
// containers, which loads they make, and which of them suits a move.
package kit

import (
	"sort"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

// Kinds of implement.
const (
	Kettlebell   = "kettlebell"
	Dumbbell     = "dumbbell"
	DumbbellPair = "dumbbell-pair"
	Band         = "band"
	Bench        = "bench"
	Box          = "box"
	Table        = "table"
)

// MaxBag is the most a packed container may weigh whatever its own limit
// (house).
const MaxBag measure.Mass = 20_000

// Implement is a row of equal implements.
type Implement struct {
	ID    string
	Kind  string
	Mass  measure.Mass // of one piece; 0 for bands and furniture
	Count int          // pieces, or pairs for DumbbellPair
	// Height of a bench, box or table.
	Height measure.Length
	// Checked says that somebody has looked at a table: four fixed legs, heavy, it
	// does not tip. Unchecked tables hold nobody.
	Checked bool
}

// Pieces is the number of single pieces.
func (i Implement) Pieces() int {
	if i.Kind == DumbbellPair {
		return 2 * i.Count
	}
	return i.Count
}

func (i Implement) holdKind() string {
	if i.Kind == DumbbellPair {
		return Dumbbell
	}
	return i.Kind
}

// Uses of a household object.
const (
	Grip = "grip" // a handle or neck that a hand closes round
	Hug  = "hug"  // held against the body
	Pack = "pack" // only inside a container
)

// Object is a row of equal household objects, weighed with their packaging.
type Object struct {
	ID    string
	Mass  measure.Mass
	Count int
	Use   string
}

// Container is something that closes and holds objects.
type Container struct {
	ID   string
	Mass measure.Mass
	Max  measure.Mass // the most it may weigh packed
}

// Stock is what a place has.
type Stock struct {
	Implements []Implement
	Objects    []Object
	Containers []Container
}

// Load kinds.
const (
	None       = "none"
	Implements = "implement"
	Objects    = "object"
	Made       = "made"
)

// Load names what is held, by ids: nothing; Count equal implements; Count equal
// objects; or Count objects of one kind packed in a container.
type Load struct {
	Kind      string `json:"kind" enum:"none,implement,object,made"`
	Item      string `json:"item,omitempty" maxLength:"26" doc:"id of the implement or object"`
	Count     int    `json:"count,omitempty" minimum:"0" maximum:"500"`
	Container string `json:"container,omitempty" maxLength:"26"`
}

// Nothing is no load.
var Nothing = Load{Kind: None}

// Mass gives the total mass of a load; ok is false when an id is unknown to the
// stock.
func (s Stock) Mass(l Load) (total measure.Mass, ok bool) {
	switch l.Kind {
	case None:
		return 0, true
	case Implements:
		if i, ok := s.implement(l.Item); ok {
			return i.Mass * measure.Mass(l.Count), true
		}
	case Objects:
		if o, ok := s.object(l.Item); ok {
			return o.Mass * measure.Mass(l.Count), true
		}
	case Made:
		o, ok := s.object(l.Item)
		c, ok2 := s.container(l.Container)
		if ok && ok2 {
			return c.Mass + o.Mass*measure.Mass(l.Count), true
		}
	}
	return 0, false
}

// Option is a load a place can make, with its mass.
type Option struct {
	Load  Load
	Total measure.Mass
}

// Options lists every load the place can make for a hold, lightest first: equal
// implements, single objects, and containers packed with one kind by count.
// What does not exist often enough for one person is left out. The work grows
// with implements plus containers times the objects' counts.
func (s Stock) Options(h moves.Hold) []Option {
	var out []Option
	if h.Count == 0 {
		return []Option{{Load: Nothing}}
	}
	for _, i := range s.Implements {
		if i.Mass > 0 && h.Suits(i.holdKind()) && i.Pieces() >= h.Count {
			out = append(out, Option{Load{Kind: Implements, Item: i.ID, Count: h.Count}, i.Mass * measure.Mass(h.Count)})
		}
	}
	for _, o := range s.Objects {
		if o.Count >= h.Count && (h.Grip && o.Use == Grip || h.Hug && h.Count == 1 && (o.Use == Hug || o.Use == Grip)) {
			out = append(out, Option{Load{Kind: Objects, Item: o.ID, Count: h.Count}, o.Mass * measure.Mass(h.Count)})
		}
	}
	if h.Bag {
		out = append(out, s.packed()...)
	}
	sort.SliceStable(out, func(a, b int) bool { return out[a].Total < out[b].Total })
	return out
}

func (s Stock) packed() []Option {
	var out []Option
	for _, c := range s.Containers {
		for _, o := range s.Objects {
			for n := 1; n <= o.Count; n++ {
				total := c.Mass + o.Mass*measure.Mass(n)
				if total > min(c.Max, MaxBag) {
					break
				}
				out = append(out, Option{Load{Kind: Made, Item: o.ID, Count: n, Container: c.ID}, total})
			}
		}
	}
	return out
}

// Anchor finds an implement that serves a variant's need, the best kind first
// and then the order of the stock; it skips what has fewer than users pieces
// left by left. ok is false when there is none.
func (s Stock) Anchor(need string, users int, left func(id string) int) (string, bool) {
	for _, kind := range moves.AnchorKinds(need) {
		for _, i := range s.Implements {
			if i.Kind == kind && (kind != Table || i.Checked) && left(i.ID) >= users {
				return i.ID, true
			}
		}
	}
	return "", false
}

// Pieces gives the number of pieces of an implement, objects or containers of
// an id; 0 when it is unknown.
func (s Stock) Pieces(id string) int {
	if i, ok := s.implement(id); ok {
		return i.Pieces()
	}
	if o, ok := s.object(id); ok {
		return o.Count
	}
	if _, ok := s.container(id); ok {
		return 1
	}
	return 0
}

// Use is a number of pieces of one thing.
type Use struct {
	ID    string
	Count int
}

// Uses lists what one person has in hand or under them with a load.
func (l Load) Uses() []Use {
	switch l.Kind {
	case Implements, Objects:
		return []Use{{l.Item, l.Count}}
	case Made:
		return []Use{{l.Container, 1}, {l.Item, l.Count}}
	}
	return nil
}

func (s Stock) implement(id string) (Implement, bool) {
	return find(s.Implements, func(i Implement) bool { return i.ID == id })
}

func (s Stock) object(id string) (Object, bool) {
	return find(s.Objects, func(o Object) bool { return o.ID == id })
}

func (s Stock) container(id string) (Container, bool) {
	return find(s.Containers, func(c Container) bool { return c.ID == id })
}

func find[T any](in []T, is func(T) bool) (T, bool) {
	for _, x := range in {
		if is(x) {
			return x, true
		}
	}
	var zero T
	return zero, false
}
