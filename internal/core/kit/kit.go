// Package kit knows what a place has: implements, household objects and
// containers, which loads they make, and which of them suits a move.
package kit

import (
	"context"
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

// Kinds of implement.
const (
	Kettlebell   = "kettlebell"
	Dumbbell     = "dumbbell"
	DumbbellPair = "dumbbell-pair"
	Barbell      = "barbell" // with what is on it
	Band         = "band"
	Bench        = "bench"
	Box          = "box"
	Table        = "table"
	Plate        = "plate"        // to stand or sit on, to raise something, to load a bar
	Post         = "post"         // or door frame, to hold
	Mat          = "mat"          // or pad
	Wall         = "wall"         // to lean on
	SmoothFloor  = "smooth-floor" // with socks or sliders
	FootHold     = "foot-hold"    // low, holds the feet down
	Wedge        = "wedge"        // under the heels
	Door         = "door"         // with points to anchor a band
)

// Points of a door that a band may be anchored to.
const (
	DoorTop    = "top"
	DoorMiddle = "middle"
	DoorFoot   = "foot"
)

// Points lists them.
var Points = []string{DoorTop, DoorMiddle, DoorFoot}

// Granted are the kinds that a place has unless it says that it has none, by a row of 0, or
// how many, by another (house): walls to lean on, something to hold, something soft.
var Granted = []string{Wall, Post, Mat}

// Stays tells whether a kind stands where it is, so that people come to it and those at one
// station share it.
func Stays(kind string) bool {
	return slices.Contains([]string{Bench, Box, Table, Post, Wall, SmoothFloor, FootHold, Door}, kind)
}

// Implement is a row of equal implements.
type Implement struct {
	ID    string
	Kind  string
	Mass  measure.Mass // of one piece; 0 for bands and furniture
	Count int          // pieces, or pairs for DumbbellPair
	// Height of a bench, box or table; the lowest of a bench that is set, up to Highest.
	Height, Highest measure.Length
	// Checked says that somebody has looked at a table: four fixed legs, heavy, it
	// does not tip; or at a hold for the feet: it gives way to nobody. Unchecked ones hold
	// nobody.
	Checked bool
	// Rated is what a bench or box may carry; 0 is unknown.
	Rated measure.Mass
	// Table says how a table stands and weighs; its zero value is unmeasured.
	Table body.Table
	// Pulls of a band, measured twice; nil unmeasured: it serves drills only.
	Pulls []Pull
	// Points of a door that a band may be anchored to.
	Points []string
}

// At is the height that something has for whoever wants it in a range: its own, or what of
// it comes nearest where it can be set.
func (i Implement) At(fit body.Range) measure.Length {
	return max(i.Height, min(fit.From, i.Highest))
}

// Serves tells whether an implement is what a move needs.
func (i Implement) Serves(need string) bool {
	if point, ok := moves.DoorPoint(need); ok && i.Kind == Door {
		return slices.Contains(i.Points, point)
	}
	return slices.Contains(moves.AnchorKinds(need), i.Kind)
}

// Grants tells whether a place has what a move needs though no row says so.
func (s Stock) Grants(need string) bool {
	kinds := moves.AnchorKinds(need)
	return slices.ContainsFunc(kinds, func(k string) bool { return slices.Contains(Granted, k) }) &&
		!slices.ContainsFunc(
			s.Implements,
			func(i Implement) bool { return slices.Contains(Granted, i.Kind) && slices.Contains(kinds, i.Kind) },
		)
}

// Has tells whether something of a place serves what a move needs.
func (s Stock) Has(need string) bool {
	return slices.ContainsFunc(s.Implements, func(i Implement) bool { return i.Count > 0 && i.Serves(need) })
}

// Pull is what a band pulls with at a stretch.
type Pull struct {
	Stretch measure.Length
	Force   measure.Mass // as a hanging mass
}

// PullAt gives a band's pull at a stretch, on the line through two measured ones;
// ok is false unmeasured or outside them.
func (i Implement) PullAt(stretch measure.Length) (pull measure.Mass, ok bool) {
	if len(i.Pulls) != 2 || i.Pulls[0].Stretch == i.Pulls[1].Stretch {
		return 0, false
	}
	a, b := i.Pulls[0], i.Pulls[1]
	if a.Stretch > b.Stretch {
		a, b = b, a
	}
	if stretch < a.Stretch || stretch > b.Stretch {
		return 0, false
	}
	part := float64(stretch-a.Stretch) / float64(b.Stretch-a.Stretch)
	return measure.Grams(float64(a.Force) + part*float64(b.Force-a.Force)), true
}

// Holds tells whether a table may be rowed under by a body with what it wears, the
// body level, as the hardest: somebody has looked at it, and measured it does not tip.
func (i Implement) Holds(bodyMass measure.Mass) bool {
	return i.Checked && (i.Table.Kind == "" || i.Table.Tips(bodyMass, 0, 0).Allowed)
}

// Tips says how a measured table takes the hardest row of a class of nobody in
// particular; ok is false unmeasured.
func (i Implement) Tips() (t body.Tipping, ok bool) {
	if i.Kind != Table || i.Table.Mass == 0 {
		return t, false
	}
	return i.Table.Tips(hardestRow, 0, 0), true
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

// Traits of an object: what keeps it from some places.
const (
	Soft  = "soft"       // may be thrown about in a closed bag
	Loose = "loose"      // falls apart or out
	Glass = "glass"      // breaks
	Hot   = "hot"        // burns
	Hard  = "hard-edged" // hurts where it strikes
	Sharp = "sharp"      // cuts
)

// Traits lists them.
var Traits = []string{Soft, Loose, Glass, Hot, Hard, Sharp}

// Object is a row of equal household objects, weighed with their packaging.
type Object struct {
	ID     string
	Mass   measure.Mass // full, where it can be filled
	Count  int
	Use    string
	Volume measure.Volume // 0 is unknown and takes no room
	// Empty and Step, where present, say that it may be filled by steps.
	Empty, Step measure.Mass
	Traits      []string
}

// Has tells whether an object has a trait.
func (o Object) Has(trait string) bool { return slices.Contains(o.Traits, trait) }

// Carried tells whether it may be a load at all: nothing of glass, hot or sharp.
func (o Object) Carried() bool { return !o.Has(Glass) && !o.Has(Hot) && !o.Has(Sharp) }

// OverFace tells whether it may be held overhead or over the face: a hand closes
// round it, and nothing about it is loose, glass, hot or hard-edged.
func (o Object) OverFace() bool {
	return o.Use == Grip && o.Carried() && !o.Has(Loose) && !o.Has(Hard)
}

// Where a packed container goes on the body.
const (
	InFront = "front"
	InHand  = "hand"
	OnHips  = "hips"
	OnBack  = "back"
)

// Container is something that holds objects.
type Container struct {
	ID     string
	Mass   measure.Mass
	Max    measure.Mass   // the most it may weigh packed
	Volume measure.Volume // 0 is unknown and limits nothing
	// Closed containers have a zip, buckle or drawstring that keeps the contents in.
	Closed bool
	// Straps hold it high and tight on the back.
	Straps bool
	// Wear lists where it goes; empty is anywhere its straps allow.
	Wear []string
}

// open tells whether what is in it may fall out: nothing closes it and no straps hold it
// tight to the back.
func (c Container) open() bool { return !c.Closed && !c.Straps }

// Goes tells whether a container may be held so.
func (c Container) Goes(h moves.Hold) bool {
	place := InFront
	switch {
	case h.ID == "back":
		place = OnBack
	case h.ID == "hips":
		place = OnHips
	case h.Grip || h.OneHand || h.ID == "bag-grip":
		place = InHand
	}
	return slices.Contains(c.Places(), place)
}

// Places lists where a container goes on the body.
func (c Container) Places() []string {
	out := []string{}
	for _, p := range []string{InFront, InHand, OnHips, OnBack} {
		if (len(c.Wear) == 0 || slices.Contains(c.Wear, p)) && (p != OnBack || c.Straps) {
			out = append(out, p)
		}
	}
	return out
}

// Stock is what a place has.
type Stock struct {
	Implements []Implement
	Objects    []Object
	Containers []Container
	shelf      *shelf
	// only are containers that are packed once, and as what; taken is what is in them.
	only  map[string]Option
	taken map[string]int
	// ctx is the request's that the stock was read for; nil never ends.
	ctx context.Context
}

// Until gives the same stock for as long as somebody waits: once the context has ended,
// what is asked of the stock is cut short, and whoever asked looks at Over.
func (s Stock) Until(ctx context.Context) Stock {
	s.ctx = ctx
	return s
}

// Over tells whether nobody waits any more.
func (s Stock) Over() bool { return s.ctx != nil && s.ctx.Err() != nil }

func (s Stock) context() context.Context {
	if s.ctx == nil {
		return context.Background()
	}
	return s.ctx
}

// hardestRow is the body a measured table must hold before it serves a class of
// nobody in particular (house).
const hardestRow measure.Mass = 100_000

// BoxesFor lists the boxes to sit back to that fit a knee height in millimetres.
func (s Stock) BoxesFor(knee float64) []string {
	var out []string
	for _, i := range s.Implements {
		if i.Kind == Box && body.SitBackBox(knee).Holds(i.Height) {
			out = append(out, i.ID)
		}
	}
	return out
}

// BenchFor is a bench under somebody who thrusts from it.
type BenchFor struct {
	Item    string
	Verdict body.BenchVerdict
	Raise   measure.Length
}

// BenchesFor judges every bench for a knee height in millimetres.
func (s Stock) BenchesFor(knee float64) []BenchFor {
	var out []BenchFor
	for _, i := range s.Implements {
		if i.Kind == Bench {
			fit := body.ThrustBench(knee)
			v, raise := body.JudgeBench(i.At(fit), fit)
			out = append(out, BenchFor{i.ID, v, raise})
		}
	}
	return out
}

// Pieces gives the number of pieces of an implement, objects or containers of
// an id; 0 when it is unknown.
func (s Stock) Pieces(id string) int {
	if i, ok := s.Implement(id); ok {
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

// Implement finds a row of implements by id.
func (s Stock) Implement(id string) (Implement, bool) {
	return rowOf(s, s.Implements, id, func(i *Implement) string { return i.ID })
}

// Without gives the stock with a row of implements away: what is lent, broken or taken by
// somebody else is not answered by another piece just like it.
func (s Stock) Without(id string) Stock {
	s = s.Memoized()
	s.Implements = slices.DeleteFunc(slices.Clone(s.Implements), func(i Implement) bool { return i.ID == id })
	return s
}

// Less gives the stock without so many pieces of things, by their ids, or with so many more where
// the number is under 0; of a pair the other is left by itself.
func (s Stock) Less(gone map[string]int) Stock {
	left := func(id string, n int) int { return max(0, n-gone[id]) }
	implements, objects, containers := s.Implements, s.Objects, s.Containers
	s.Implements, s.Objects, s.Containers = nil, nil, nil
	for _, i := range implements {
		switch n := left(i.ID, i.Pieces()); {
		case i.Kind == DumbbellPair && n%2 == 0:
			i.Count = n / 2
		case i.Kind == DumbbellPair:
			i.Kind, i.Count = Dumbbell, n
		default:
			i.Count = n
		}
		if i.Count > 0 {
			s.Implements = append(s.Implements, i)
		}
	}
	for _, o := range objects {
		if o.Count = left(o.ID, o.Count); o.Count > 0 {
			s.Objects = append(s.Objects, o)
		}
	}
	for _, c := range containers {
		if left(c.ID, 1) > 0 {
			s.Containers = append(s.Containers, c)
		}
	}
	if s.shelf != nil {
		s.shelf = s.newShelf()
	}
	return s
}

func (s Stock) object(id string) (Object, bool) {
	return rowOf(s, s.Objects, id, func(o *Object) string { return o.ID })
}

func (s Stock) container(id string) (Container, bool) {
	return rowOf(s, s.Containers, id, func(c *Container) string { return c.ID })
}

// rowOf finds a row by id, first where it stood when the stock was kept.
func rowOf[T any](s Stock, in []T, id string, of func(*T) string) (row T, ok bool) {
	if s.shelf != nil {
		if i, known := s.shelf.at[id]; known && i < len(in) && of(&in[i]) == id {
			return in[i], true
		}
	}
	for i := range in {
		if of(&in[i]) == id {
			return in[i], true
		}
	}
	return row, false
}
