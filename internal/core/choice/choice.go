// Package choice says what may be given to whom: which faults an entry has for a party
// in a class, what it costs term by term, and which set it makes. Proposals,
// alternatives, edits, take-home and substitutes all ask here.
package choice

import (
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/strength"
)

// Party is who an entry is for: a lane, or somebody in it.
type Party struct {
	Lane moves.Lane
	// Who is the person, by id, where it is one that is known; empty for a lane.
	Who     string
	Body    measure.Mass
	Stature measure.Length
	// BodyUnknown says that Body is only what is reckoned with: supports are then
	// judged for the mass that is assumed where nobody's is known.
	BodyUnknown bool
	// Standing is how a known person stands, nil for a lane and a drop-in.
	Standing *people.Standing
}

// Heaviest is the body that supports are judged for.
func (p Party) Heaviest() measure.Mass {
	if p.BodyUnknown {
		return max(p.Body, body.AssumedMass)
	}
	return p.Body
}

// Class is what entries are looked at against.
type Class struct {
	Library *moves.Library
	Stock   kit.Stock
	// Work is the length of an interval by the clock; 0 counts by repetitions.
	Work measure.Span
	// Bans are patterns, variants and limits (see CheckBan).
	Bans []string
	// Chosen are moves that somebody asked for by name: those that are chosen rather
	// than proposed may stand then.
	Chosen []string
	// Aim is what the session aims at; Asked, where it is not 0, the repetitions a side that
	// were asked for whatever that.
	Aim   goal.Aim
	Asked int
	Past  progress.Past
}

// Entry is a move in a hold with a load on supports, one for each need of the move.
type Entry struct {
	Variant *moves.Variant
	Hold    moves.HoldID
	kit.Option
	Supports []string
}

// CheckBan tells whether a ban is a pattern, a variant of the library or a limit.
func CheckBan(lib *moves.Library, ban string) bool {
	if _, ok := lib.Get(ban); ok {
		return true
	}
	_, limit := moves.LimitID(ban).Expand()
	return limit || slices.Contains(moves.Patterns, moves.Pattern(ban))
}

// agreed is a set that the instructor asked for: what is as hard, on the same scale,
// needs no benchmark.
type agreed struct {
	variant *moves.Variant
	load    measure.Mass
}

// Judge judges entries for one party in one class.
type Judge struct {
	Class
	Party
	limits    []moves.LimitID
	own       []moves.LimitID // of the person alone
	decisions map[string]progress.Decision
	hurts     []progress.Hurt
	agreed    agreed
	firstTime bool // said by whoever asks, whatever the past says
	// marks keeps what was reckoned of the lane's marks, by move; said what the past says
	// of a move, which is asked for every load of it.
	marks map[string]onScale
	said  map[*moves.Variant]pastOf
	// ability is reckoned when it is first asked for.
	ability *progress.Ability
}

// pastOf is what the past says of a move for the party.
type pastOf struct{ met, starting, shown, unceiled bool }

func (j *Judge) past(v *moves.Variant) pastOf {
	p, asked := j.said[v]
	if !asked {
		p = pastOf{j.Past.Met(j.Lane, v), j.starting(v), j.isShown(v), j.isUnceiled(v)}
		j.standingSays(v, &p)
		j.said[v] = p
	}
	return p
}

// onScale is a lane's mark for a move.
type onScale struct {
	mark, most float64
	ok         bool
}

// For makes the judge of a party in a class.
func For(c Class, p Party) *Judge {
	if p.Standing != nil && p.Standing.Ground {
		p.Lane = moves.Ground
	}
	if p.Who != "" {
		c.Past = c.Past.Of(p.Lane, p.Who)
	}
	j := &Judge{
		Class:     c,
		Party:     p,
		decisions: map[string]progress.Decision{},
		marks:     map[string]onScale{},
		said:      map[*moves.Variant]pastOf{},
	}
	for _, b := range c.Bans {
		if _, isMove := c.Library.Get(b); isMove {
			continue
		}
		if plain, ok := moves.LimitID(b).Expand(); ok {
			j.limits = append(j.limits, plain...)
		}
	}
	if p.Standing != nil {
		j.own = p.Standing.Plain()
	}
	j.hurts = progress.Pains(c.Library, c.Past, p.Lane, p.Who != "")
	for _, h := range j.hurts {
		for _, l := range h.Limits() {
			if !slices.Contains(j.own, l) {
				j.own = append(j.own, l)
			}
		}
	}
	for _, l := range c.Past.Lines {
		if l.Lane == p.Lane && l.Who == "" && !l.Bare {
			j.decisions[l.Variant] = progress.Decision{}
		}
	}
	for id := range j.decisions {
		j.decide(id)
	}
	return j
}

// Limits are the plain limits of the class, and of the party.
func (j *Judge) Limits() []moves.LimitID { return append(slices.Clone(j.limits), j.own...) }

// decide asks the log about a move.
func (j *Judge) decide(id string) {
	v, ok := j.Library.Get(id)
	if !ok {
		delete(j.decisions, id)
		return
	}
	c := progress.Case{Variant: v, Body: j.Body, Day: j.Past.Day}
	for _, l := range j.Past.Lines {
		if l.Lane == j.Lane && l.Who == "" && !l.Bare && l.Variant == id {
			c.Lines = append(c.Lines, l)
		}
	}
	j.Neighbours(&c)
	d := progress.Decide(c)
	for _, o := range j.Past.Overruled {
		d.Overruled = d.Overruled || o.Lane == j.Lane && o.Who == "" && o.What == id && o.Day >= d.Day
	}
	j.decisions[id] = d
}

// Neighbours fills in what ladder and place offer to a history whose lines are there.
func (j *Judge) Neighbours(c *progress.Case) {
	if up, ok := j.Library.Above(c.Variant); ok {
		c.Next = up
	}
	if down, ok := j.Library.Neighbour(c.Variant, -1); ok {
		c.Easier = down
	}
	c.Loads, c.OneHand = Loads(j.Stock, c.Variant, c.Lines[len(c.Lines)-1].Hold)
	if j.Lane == moves.Ground && c.Variant.OnOneLeg() {
		c.Loads = nil // they carry nothing: there is no next load
	}
}

// Loads lists what a place has for a hold of a variant, or for all its holds where the
// hold is not known, and whether one hand carries it.
func Loads(s kit.Stock, v *moves.Variant, hold moves.HoldID) (out []measure.Mass, oneHand bool) {
	holds := []moves.HoldID{hold}
	if h, ok := moves.HoldOf(hold); !ok || h.Count == 0 {
		holds = v.Holds
	}
	for _, id := range holds {
		h, _ := moves.HoldOf(id)
		if h.Count == 0 {
			continue
		}
		oneHand = h.OneHand
		out = append(out, s.Totals(v, h)...)
	}
	return out, oneHand
}

// nearEach is how many loads are named on either side of one.
const nearEach = 3

// Near lists the loads that a place has for a hold of a variant next to one, the lightest first,
// without that one and none: at most nearEach on either side.
func Near(s kit.Stock, v *moves.Variant, hold moves.HoldID, load measure.Mass) []measure.Mass {
	all, _ := Loads(s, v, hold)
	all = append(all, load)
	slices.Sort(all)
	all = slices.Compact(all)
	at := slices.Index(all, load)
	out := []measure.Mass{}
	for _, m := range all[max(0, at-nearEach):min(len(all), at+nearEach+1)] {
		if m != load && m > 0 {
			out = append(out, m)
		}
	}
	return out
}

// Decision gives what the log says of a move for the party; ok is false where it says
// nothing that binds.
func (j *Judge) Decision(v *moves.Variant) (d progress.Decision, ok bool) {
	d, ok = j.decisions[v.ID]
	return d, ok && !d.Overruled && d.Advice != progress.StartAgain && d.Advice != progress.AsBefore
}

// Decisions lists all that the log says of the party's moves, set aside or not, in the
// library's order.
func (j *Judge) Decisions() []progress.Decision {
	out := []progress.Decision{}
	for _, v := range j.Library.All() {
		if d, ok := j.decisions[v.ID]; ok {
			out = append(out, d)
		}
	}
	return out
}

// Hurts lists what pain in the log asks of the party's moves.
func (j *Judge) Hurts() []progress.Hurt { return j.hurts }

// Beside names the joints for which an easier move should stand beside a move, for
// whoever asks; nil for none.
func (j *Judge) Beside(v *moves.Variant) []string {
	for _, h := range j.hurts {
		if h.Move == v.ID && !h.Out && !h.Overruled && !h.Own {
			return h.Joints
		}
	}
	return nil
}

// New tells whether the party meets a move for the first time.
func (j *Judge) New(v *moves.Variant) bool { return j.firstTime || !j.past(v).met }

// firstSessions is how many sessions of a pattern somebody stands below the marks
// (house).
const firstSessions = 2

// Starting tells whether the party is in its first two sessions of a pattern.
func (j *Judge) Starting(v *moves.Variant) bool {
	return j.agreed.variant == nil && j.past(v).starting
}

func (j *Judge) starting(v *moves.Variant) bool {
	return !j.Past.MarkedKnown(v) && j.Past.Sessions(j.Lane, func(l progress.Line) bool {
		x, ok := j.Library.Get(l.Variant)
		return ok && x.Pattern == v.Pattern
	}) < firstSessions
}

// Taught tells whether a move that is new to the party must be taught with a practice
// set, or is one of the simplest of push, pull and trunk, which are shown.
func (j *Judge) Taught(v *moves.Variant) bool {
	if !j.New(v) {
		return false
	}
	switch v.Pattern {
	case moves.PushLevel, moves.PushOverhead, moves.Pull, moves.TrunkBrace, moves.TrunkTurn, moves.Carry:
		ids, _ := moves.Firsts(v.Pattern, j.Lane)
		return !slices.Contains(ids, v.ID)
	}
	return true
}

// shown tells whether the log has two sessions in form of a move or the rung below.
func (j *Judge) shown(v *moves.Variant) bool { return j.past(v).shown }

func (j *Judge) isShown(v *moves.Variant) bool {
	below, has := j.Library.Neighbour(v, -1)
	return j.Past.Shown(j.Lane, func(l progress.Line) bool { return l.Variant == v.ID || has && l.Variant == below.ID })
}

// unceiled tells whether the log ends a ceiling: two sessions in form of the move, of a
// harder one on its ladder, or for overhead of the floor press.
func (j *Judge) unceiled(v *moves.Variant) bool { return j.past(v).unceiled }

func (j *Judge) isUnceiled(v *moves.Variant) bool {
	return j.Past.Shown(j.Lane, func(l progress.Line) bool {
		x, ok := j.Library.Get(l.Variant)
		if !ok {
			return false
		}
		harder := v.Ladder != "" && x.Ladder == v.Ladder && x.Rung > v.Rung && x.Start != nil && l.Load > 0
		return x.ID == v.ID || harder || v.Overhead && x.ReadiesOverhead() && l.Load > 0
	})
}

// comparable is what a load asks of the limb in a setting, in grams.
func (j *Judge) comparable(v *moves.Variant, load measure.Mass, set body.Setting) float64 {
	r, _ := v.Resistance.Resist(j.Body, load, set)
	return r.Comparable
}

// Setting is how an entry is set up: the height of a push-up follows the thing in use.
func (j *Judge) Setting(e Entry) body.Setting {
	set := e.Variant.Setting()
	if len(e.Variant.Resistance.Heights) == 0 {
		return set
	}
	for _, x := range j.served(e) {
		need, s := x.need, x.by
		switch {
		case s.Height == 0:
		case need == "edge":
			set.Height = -min(s.Height, body.MostFeetUp)
		case need == "foot-rest":
			set.Height = min(s.Height, body.MostFeetUp)
		}
	}
	return set
}

// reference is what a move is measured by: the mark's resistance at the reference body
// with the mark's own starting load, and how many times that a body may be asked.
func (j *Judge) reference(v *moves.Variant) (mark, most float64, ok bool) {
	kept, had := j.marks[v.ID]
	if !had {
		kept.mark, kept.most, kept.ok = j.reckonMark(v)
		j.marks[v.ID] = kept
	}
	return kept.mark, kept.most, kept.ok
}

func (j *Judge) reckonMark(v *moves.Variant) (mark, most float64, ok bool) {
	m, x, ok := j.Library.MarkOnScale(v, j.Lane)
	if !ok {
		return 0, 0, false
	}
	ref := measure.Grams(strength.ReferenceBody(j.Body, j.Stature))
	load := strength.Starting(x, heaviestHold(x), j.Lane, ref, j.Stature).Total
	if m.Share > 0 {
		load = min(m.Share*strength.Reference(j.Lane, ref, j.Stature), float64(m.CeilingG))
	}
	r, _ := x.Resistance.Resist(ref, measure.Grams(load), x.Setting())
	return r.Comparable, m.K * r.Comparable, true
}

func heaviestHold(v *moves.Variant) int {
	n := 0
	for _, id := range v.Holds {
		if h, ok := moves.HoldOf(id); ok {
			n = max(n, h.Count)
		}
	}
	return n
}

// Fresh tells whether the party is in its first two classes with a move.
func (j *Judge) Fresh(v *moves.Variant) bool {
	return !j.Past.MarkedKnown(v) &&
		j.Past.Sessions(j.Lane, func(l progress.Line) bool { return l.Variant == v.ID }) < firstSessions
}
