package kit

import (
	"slices"
	"sort"

	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

// Limits on packed loads (house and plain caution): a bag stays at or under its
// safe maximum and MaxBag. Glass, hot and sharp things are never a load, loose things
// only in a closed container, and an open one goes no higher than the hip. A bag is
// never over the face; of ballistic moves it serves snatch and high pull alone, closed,
// up to MaxSnatch, the snatch with soft contents. On the back it needs straps, and in a
// hinge it stays under a tenth of the body.
const (
	MaxBag    measure.Mass = 20_000
	MaxSnatch measure.Mass = 8_000
	// BackHingeShare of body mass is the most on the back in a hinge.
	BackHingeShare = 0.1
)

// What to look at before a load is used.
const (
	CheckGrip   = "grip"
	CheckClosed = "closure"
	CheckStraps = "straps"
	CheckWeigh  = "weigh"
)

// packStep is how fine the rule of a packed container is.
const packStep measure.Mass = 50

// Supply is what a place has to fill one of its containers with; soft takes soft contents
// only. Without a container it is what a hand holds: one thing that it closes round, so
// that a hand is a vessel with room for one.
func (s Stock) Supply(container string, soft bool) (Supply, bool) {
	out := Supply{Container: &Vessel{Max: measure.MaxLoad, Volume: 1}}
	closed := s.closed(container)
	if container != "" {
		c, ok := s.container(container)
		if !ok {
			return out, false
		}
		room := c.Volume
		if room == 0 {
			room = mostVolume
		}
		out.Container = &Vessel{ID: c.ID, Mass: c.Mass, Max: min(c.Max, MaxBag), Volume: room}
	}
	for _, o := range s.Objects {
		if container == "" {
			o.Volume = 1
		}
		o.Count = s.free(o)
		switch {
		case keptOut(o, container, closed, soft) != "":
		case o.Empty > 0 && o.Step > 0 && o.Empty < o.Mass:
			out.Fillables = append(out.Fillables,
				Fillable{ID: o.ID, Empty: o.Empty, Full: o.Mass, Step: o.Step, Volume: o.Volume, Count: o.Count})
		default:
			out.Objects = append(out.Objects, Pieces{ID: o.ID, Mass: o.Mass, Volume: o.Volume, Count: o.Count})
		}
	}
	return out, true
}

// Reasons why a thing stays out of a container or a hand.
const (
	OutUncarried = "uncarried" // glass, hot or sharp
	OutLoose     = "loose"     // falls out of what does not close
	OutHard      = "hard"      // soft contents only
	OutNoGrip    = "no-grip"   // a hand does not close round it
)

// LeftOut is an object that does not go into a load, and why.
type LeftOut struct {
	ID     string `json:"id"`
	Reason string `json:"reason"`
}

// LeftOut lists what Supply leaves out.
func (s Stock) LeftOut(container string, soft bool) []LeftOut {
	out := []LeftOut{}
	closed := s.closed(container)
	for _, o := range s.Objects {
		if reason := keptOut(o, container, closed, soft); reason != "" {
			out = append(out, LeftOut{o.ID, reason})
		}
	}
	return out
}

func (s Stock) closed(container string) bool {
	c, ok := s.container(container)
	return ok && c.Closed
}

// keptOut says why an object stays out, nothing where it goes in.
func keptOut(o Object, container string, closed, soft bool) string {
	switch {
	case !o.Carried():
		return OutUncarried
	case o.Has(Loose) && !closed:
		return OutLoose
	case soft && !o.Has(Soft):
		return OutHard
	case container == "" && o.Use != Grip:
		return OutNoGrip
	}
	return ""
}

// Packed writes a recipe as a load of a container.
func Packed(container string, r Recipe) Load {
	return Load{Kind: Made, Container: container, Parts: r.Parts}
}

// WornAt lists where a container goes on the body; nothing for none.
func (s Stock) WornAt(container string) []string {
	c, ok := s.container(container)
	if !ok {
		return []string{}
	}
	return c.Places()
}

// PackingChecks lists what to look at before a made load is used: the closure and the
// straps of its container, and that it is weighed once packed, since labels and tables
// are estimates.
func (s Stock) PackingChecks(container string) []string {
	out := []string{}
	if c, ok := s.container(container); ok {
		out = append(out, CheckClosed)
		if c.Straps {
			out = append(out, CheckStraps)
		}
	} else {
		out = append(out, CheckGrip)
	}
	return append(out, CheckWeigh)
}

// packed lists the loads of every size that a move in a hold may take: containers,
// and vessels filled in part.
func (s Stock) packed(v *moves.Variant, h moves.Hold) []offer {
	return s.packedWithin(v, h, func(r *rule) (from, until int) { return 0, len(r.contents) })
}

// packedNear lists of packed the loads of each container that are next to a mass, so
// many on either side.
func (s Stock) packedNear(v *moves.Variant, h moves.Hold, wanted measure.Mass, limit int) []offer {
	return s.packedWithin(v, h, func(r *rule) (from, until int) {
		at := sort.Search(len(r.contents), func(i int) bool { return r.total(i) > wanted })
		return max(0, at-limit), min(len(r.contents), at+limit)
	})
}

func (s Stock) packedWithin(v *moves.Variant, h moves.Hold, within func(*rule) (from, until int)) []offer {
	soft := softOnly(v)
	out := offered(s.filled(v, h))
	for _, c := range s.bags(v, h) {
		if s.Over() {
			break
		}
		if o, fixed := s.only[c.ID]; fixed {
			if o.Total > 0 && (!v.BagThrown || o.Total <= MaxSnatch) && (!soft || s.softly(o.Load)) {
				out = append(out, offer{Option: o})
			}
			continue
		}
		r := s.rule(c, soft)
		from, until := within(r)
		for i := from; i < until; i++ {
			o := offer{Option: Option{Load{Kind: Made, Container: c.ID}, r.total(i)}, rule: r, at: i}
			if v.BagThrown && o.Total > MaxSnatch {
				break
			}
			out = append(out, o)
		}
	}
	return out
}

// softOnly tells whether a bag in a move may hold soft things only: where it goes high.
func softOnly(v *moves.Variant) bool { return v.BagThrown && v.Overhead }

// softly tells whether a packed load has soft contents only.
func (s Stock) softly(l Load) bool {
	for _, p := range l.Parts {
		if o, ok := s.object(p.ID); !ok || !o.Has(Soft) {
			return false
		}
	}
	return true
}

// PackedOnce gives the same stock with a container that is packed once, as a load; with
// none it stays empty. A session packs a container once: what is in it is nowhere else.
func (s Stock) PackedOnce(container string, o Option) Stock {
	only, taken := map[string]Option{container: o}, map[string]int{}
	for id, x := range s.only {
		if id != container {
			only[id] = x
		}
	}
	for _, x := range only {
		for _, p := range x.Load.Parts {
			taken[p.ID] += p.Count + len(p.Fills)
		}
	}
	s.only, s.taken = only, taken
	if s.shelf != nil {
		s.shelf = s.newShelf()
	}
	return s
}

// WithoutObjects gives the stock without some objects, by id.
func (s Stock) WithoutObjects(gone map[string]bool) Stock {
	s.Objects = slices.DeleteFunc(slices.Clone(s.Objects), func(o Object) bool { return gone[o.ID] })
	if s.shelf != nil {
		s.shelf = s.newShelf()
	}
	return s
}

// free gives how many of an object no container holds for the whole session.
func (s Stock) free(o Object) int { return max(0, o.Count-s.taken[o.ID]) }

// bags lists the containers that a move in a hold may take.
func (s Stock) bags(v *moves.Variant, h moves.Hold) []Container {
	if !h.Bag || (aloft(v) || v.Ballistic) && !v.BagThrown {
		return nil
	}
	var out []Container
	for _, c := range s.Containers {
		if c.Goes(h) && (!v.BagThrown || c.Closed) && (!c.open() || h.Low) {
			out = append(out, c)
		}
	}
	return out
}

// About finds the load of a mass for a variant in a hold that somebody would pack: what
// is there as it is, or, to within packStep, the one of the fewest objects; else what a
// container holds to the gram.
func (s Stock) About(v *moves.Variant, h moves.Hold, total measure.Mass) (Option, bool) {
	var best Option
	found := false
	rank := func(o Option) [2]int64 {
		n := 0
		for _, u := range o.Load.Uses() {
			n += u.Count
		}
		return [2]int64{int64(n), int64(max(o.Total-total, total-o.Total))}
	}
	for _, x := range s.offers(v, h) {
		if x.Total == total && x.Load.Kind != Made {
			return x.Option, true
		}
		if x.Load.Kind != Made || max(x.Total-total, total-x.Total) >= packStep {
			continue
		}
		o := x.option()
		if x, y := rank(o), rank(best); !found || x[0] < y[0] || x[0] == y[0] && x[1] < y[1] {
			best, found = o, true
		}
	}
	for _, c := range s.bags(v, h) {
		if found {
			break
		}
		supply, _ := s.Supply(c.ID, softOnly(v))
		if m := supply.Make(s.context(), total, 0, 1); m.Feasible() && len(m.Loads[0].Parts) > 0 {
			best, found = Option{Packed(c.ID, m.Loads[0]), total}, true
		}
	}
	return best, found
}

// TooMuchOnBack tells whether a load on the back is over what a hinge allows.
func TooMuchOnBack(v *moves.Variant, h moves.HoldID, total, bodyMass measure.Mass) bool {
	return h == "back" && v.Pattern == moves.Hinge && float64(total) > BackHingeShare*float64(bodyMass)
}

// offer is a load that may be had; what a container is packed with is worked out when it
// is wanted, since a place offers thousands of which a few are looked at.
type offer struct {
	Option
	rule *rule
	at   int
}

// option gives the load with what it is packed with.
func (o offer) option() Option {
	if o.rule == nil {
		return o.Option
	}
	return o.rule.option(o.at)
}

func offered(options []Option) []offer {
	out := make([]offer, 0, len(options))
	for _, o := range options {
		out = append(out, offer{Option: o})
	}
	return out
}

// rule lists the loads of a container, one in every packStep: the one of the fewest
// objects, the container without contents left out.
type rule struct {
	container string
	m         *maker
	contents  []int
	packed    map[int]Option
}

func (r *rule) total(i int) measure.Mass { return r.m.total(r.contents[i]) }

func (r *rule) option(i int) Option {
	o, ok := r.packed[i]
	if !ok {
		o = Option{Packed(r.container, r.m.load(r.contents[i])), r.total(i)}
		r.packed[i] = o
	}
	return o
}

// rule gives the rule of a container, kept on the shelf if there is one.
func (s Stock) rule(c Container, soft bool) *rule {
	if s.shelf == nil {
		s.shelf = s.newShelf()
	}
	key := shelfKey{c.ID, soft}
	if r, ok := s.shelf.rules[key]; ok {
		return r
	}
	supply, _ := s.Supply(c.ID, soft)
	shared, ok := s.shelf.makers[makerKey{c.Closed, soft}]
	if !ok {
		all := supply
		all.Container = &Vessel{Max: MaxBag}
		tightest, roomiest := s.rooms()
		shared = makerFor(s.shelf.work, all, MaxBag, 1, tightest, roomiest)
		s.shelf.makers[makerKey{c.Closed, soft}] = shared
	}
	r := &rule{container: c.ID, m: shared.within(supply), packed: map[int]Option{}}
	r.contents = r.m.simplest(packStep)
	s.shelf.rules[key] = r
	return r
}

// rooms is the least and the most that any container of the stock takes.
func (s Stock) rooms() (tightest, roomiest measure.Volume) {
	tightest = mostVolume
	for _, c := range s.Containers {
		room := measure.Volume(mostVolume) // nobody has measured it: it keeps nothing out
		if c.Volume > 0 {
			room = min(c.Volume, mostVolume)
		}
		tightest, roomiest = min(tightest, room), max(roomiest, room)
	}
	return tightest, roomiest
}

// shelf keeps the rules of a stock that is asked again and again, and the tables that the
// containers which take the same things share.
type shelf struct {
	rules  map[shelfKey]*rule
	makers map[makerKey]*maker
	at     map[string]int // where each row stands in its list
	// work is for all the recipes of the stock, whatever containers it has; when it is
	// spent, what a load is packed with is no longer sure to be the fewest things.
	work *work
}

// recipesShare is what part of the work of a question all recipes of a stock may take.
const recipesShare = 2

type shelfKey struct {
	container string
	soft      bool
}

// makerKey is what decides which objects a container takes.
type makerKey struct{ closed, soft bool }

func (s Stock) newShelf() *shelf {
	at := map[string]int{}
	for i, x := range s.Implements {
		at[x.ID] = i
	}
	for i, x := range s.Objects {
		at[x.ID] = i
	}
	for i, x := range s.Containers {
		at[x.ID] = i
	}
	left := newWork(s.context(), enough/recipesShare)
	if s.shelf != nil {
		left = s.shelf.work
	}
	return &shelf{map[shelfKey]*rule{}, map[makerKey]*maker{}, at, left}
}

// Memoized gives the same stock that computes the rule of each container once. What it
// holds must not be changed after that, and it is asked by one goroutine at a time.
func (s Stock) Memoized() Stock {
	if s.shelf == nil {
		s.shelf = s.newShelf()
	}
	return s
}
