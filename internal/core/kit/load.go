package kit

import (
	"cmp"
	"slices"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

// Load kinds.
const (
	None       = "none"
	Implements = "implement"
	Objects    = "object"
	Made       = "made"
)

// Load names what is held, by ids: nothing; Count equal implements; Count equal
// objects; or Parts packed in a container, without one vessels filled in part.
type Load struct {
	Kind      string    `json:"kind"`
	Item      string    `json:"item,omitempty"` // id of the implement or object
	Count     int       `json:"count,omitempty"`
	Container string    `json:"container,omitempty"`
	Parts     []Portion `json:"parts,omitempty"` // what a made load is packed with
}

// Nothing is no load.
var Nothing = Load{Kind: None}

// Weighing is a load of which no more is known than what it weighs.
func Weighing(m measure.Mass) Load {
	if m == 0 {
		return Nothing
	}
	return Load{Kind: Objects, Count: 1}
}

// Equal tells whether two loads take the same things.
func (l Load) Equal(o Load) bool {
	return l.Kind == o.Kind && l.Item == o.Item && l.Count == o.Count && l.Container == o.Container &&
		slices.EqualFunc(
			l.Parts,
			o.Parts,
			func(a, b Portion) bool { return a.ID == b.ID && a.Count == b.Count && slices.Equal(a.Fills, b.Fills) },
		)
}

// Mass gives the total mass of a load; ok is false when an id is unknown to the
// stock.
func (s Stock) Mass(l Load) (total measure.Mass, ok bool) {
	switch l.Kind {
	case None:
		return 0, true
	case Implements:
		if i, ok := s.Implement(l.Item); ok {
			return i.Mass * measure.Mass(l.Count), true
		}
	case Objects:
		if o, ok := s.object(l.Item); ok {
			return o.Mass * measure.Mass(l.Count), true
		}
	case Made:
		c, ok := s.container(l.Container)
		ok = ok || l.Container == ""
		total := c.Mass
		for _, p := range l.Parts {
			o, known := s.object(p.ID)
			ok = ok && known
			total += o.Mass * measure.Mass(p.Count)
			for _, f := range p.Fills {
				total += o.Empty + f
			}
		}
		if ok {
			return total, true
		}
	}
	return 0, false
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
		var out []Use
		if l.Container != "" {
			out = append(out, Use{l.Container, 1})
		}
		for _, p := range l.Parts {
			out = append(out, Use{p.ID, p.Count + len(p.Fills)})
		}
		return out
	}
	return nil
}

// Option is a load a place can make, with its mass.
type Option struct {
	Load  Load
	Total measure.Mass
}

// Options lists every load the place can make for a variant in a hold, lightest
// first: equal implements, single objects, and packed containers to 50 g. What does
// not exist often enough for one person is left out, and what the limits on objects
// and bags keep from the move (rules beside Supply).
func (s Stock) Options(v *moves.Variant, h moves.Hold) []Option {
	return options(s.offers(v, h))
}

// Spaced lists Options without the packed loads that are hardly heavier than the one
// before: under so many per cent.
func (s Stock) Spaced(v *moves.Variant, h moves.Hold, apartPct measure.Mass) []Option {
	var out []offer
	last := measure.Mass(0)
	for _, o := range s.offers(v, h) {
		if o.Load.Kind == Made {
			if 100*o.Total < (100+apartPct)*last {
				continue
			}
			last = o.Total
		}
		out = append(out, o)
	}
	return options(out)
}

// Totals lists what the loads of Options weigh.
func (s Stock) Totals(v *moves.Variant, h moves.Hold) []measure.Mass {
	all := s.offers(v, h)
	out := make([]measure.Mass, 0, len(all))
	for _, o := range all {
		out = append(out, o.Total)
	}
	return out
}

func options(offers []offer) []Option {
	out := make([]Option, 0, len(offers))
	for _, o := range offers {
		out = append(out, o.option())
	}
	return out
}

// offers lists what Options gives, before it is packed.
func (s Stock) offers(v *moves.Variant, h moves.Hold) []offer {
	if h.Count == 0 {
		return []offer{{Option: Option{Load: Nothing}}}
	}
	out := append(offered(s.single(v, h)), s.packed(v, h)...)
	slices.SortStableFunc(out, func(a, b offer) int { return cmp.Compare(a.Total, b.Total) })
	return out
}

// single lists the implements and objects that suit a hold as they are.
func (s Stock) single(v *moves.Variant, h moves.Hold) []Option {
	var out []Option
	for _, i := range s.Implements {
		if i.Mass > 0 && h.Suits(i.holdKind()) && i.Pieces() >= h.Count {
			out = append(out,
				Option{Load{Kind: Implements, Item: i.ID, Count: h.Count}, i.Mass * measure.Mass(h.Count)})
		}
	}
	for _, o := range s.Objects {
		if s.suits(o, v, h) {
			out = append(out, Option{Load{Kind: Objects, Item: o.ID, Count: h.Count}, o.Mass * measure.Mass(h.Count)})
		}
	}
	return out
}

// suits tells whether enough of an object may be held so in a move.
func (s Stock) suits(o Object, v *moves.Variant, h moves.Hold) bool {
	held := h.Grip && o.Use == Grip || h.Hug && h.Count == 1 && (o.Use == Hug || o.Use == Grip)
	return held && o.Carried() && !o.Has(Loose) && s.free(o) >= h.Count && (!aloft(v) || o.OverFace()) && !v.Ballistic
}

// Holds tells whether a load may be held so in a move: the right number of pieces of a
// kind that suits the hold, of an object that a hand closes round, of a container that
// goes there. What the load weighs is not its business.
func (s Stock) Holds(v *moves.Variant, h moves.Hold, l Load) bool {
	switch l.Kind {
	case None:
		return h.Count == 0
	case Implements:
		i, ok := s.Implement(l.Item)
		return ok && h.Suits(i.holdKind()) && l.Count == h.Count
	case Objects:
		o, ok := s.object(l.Item)
		return ok && l.Count == h.Count && s.suits(o, v, h)
	case Made:
		if l.Container == "" {
			return slices.ContainsFunc(s.filled(v, h), func(o Option) bool { return o.Load.Equal(l) })
		}
		carried := !slices.ContainsFunc(
			l.Parts,
			func(p Portion) bool { o, ok := s.object(p.ID); return ok && !o.Carried() },
		)
		return carried && slices.ContainsFunc(s.bags(v, h), func(c Container) bool { return c.ID == l.Container })
	}
	return false
}

// Near lists what suits a hold as it is and, of the packed loads, which come in every
// size, the few next to what is wanted.
func (s Stock) Near(v *moves.Variant, h moves.Hold, wanted measure.Mass, limit int) []Option {
	if h.Count == 0 {
		return []Option{{Load: Nothing}}
	}
	out := s.single(v, h)
	packed := s.packedNear(v, h, wanted, limit)
	if len(packed) > 0 {
		slices.SortStableFunc(packed, func(a, b offer) int { return cmp.Compare(a.Total, b.Total) })
		at, _ := slices.BinarySearchFunc(
			packed,
			wanted+1,
			func(o offer, m measure.Mass) int { return cmp.Compare(o.Total, m) },
		)
		out = append(out, options(packed[max(0, at-limit):min(len(packed), at+limit)])...)
	}
	slices.SortStableFunc(out, func(a, b Option) int { return cmp.Compare(a.Total, b.Total) })
	return out
}

// filled lists vessels in the hand that are filled in part, each as full as the
// other.
func (s Stock) filled(v *moves.Variant, h moves.Hold) []Option {
	var out []Option
	for _, o := range s.Objects {
		if o.Step <= 0 || o.Empty <= 0 || !s.suits(o, v, h) {
			continue
		}
		for fill := o.Step; o.Empty+fill < o.Mass; fill += o.Step {
			p := Portion{ID: o.ID, Fills: slices.Repeat([]measure.Mass{fill}, h.Count)}
			out = append(out, Option{Load{Kind: Made, Parts: []Portion{p}}, (o.Empty + fill) * measure.Mass(h.Count)})
		}
	}
	return out
}

// aloft tells whether a load is over the head or the face.
func aloft(v *moves.Variant) bool { return v.Overhead || v.OverFace }
