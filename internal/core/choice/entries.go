package choice

import (
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/why"
)

// packedNear is how many packed loads on either side of the wanted one are looked at:
// they come in every size.
const packedNear = 3

// Entries lists every entry of a move without a fault, its supports in every way the
// place has; of packed loads those near the wanted one.
func (j *Judge) Entries(v *moves.Variant) []Entry {
	// What keeps a move away without a load keeps it away with any: its loads need not be
	// looked at, and a place may have hundreds.
	var whatever faults
	if j.moveFaults(&whatever, Entry{Variant: v}); len(whatever.list) > 0 {
		return nil
	}
	var out []Entry
	j.each(v, func(e Entry) {
		if j.Allowed(e) {
			out = append(out, e)
		}
	})
	return out
}

// each calls f with everything the place's kit can hold for a move.
func (j *Judge) each(v *moves.Variant, f func(Entry)) {
	supports := j.supports(v)
	for _, id := range v.Holds {
		if j.Stock.Over() {
			return
		}
		h, _ := moves.HoldOf(id)
		wanted := measure.Mass(0)
		if h.Count > 0 {
			wanted = measure.Grams(j.Wanted(Entry{Variant: v, Hold: id}, h.Count, j.Reps(v)).Total)
		}
		for _, o := range j.Stock.Near(v, h, wanted, packedNear) {
			for _, s := range supports {
				f(Entry{Variant: v, Hold: id, Option: o, Supports: s})
			}
		}
	}
}

// mostWays is how many ways to serve a move's needs are looked at: all that a place with
// forty supports has for a move of one need, and twenty of each for two.
const mostWays = 400

// served is a want of a move with what serves it, where something does.
type served struct {
	need string
	by   kit.Implement
	ok   bool
}

// served gives for every want of a move the support of an entry that is for it: each is for
// the first want that it serves and nothing before it does.
func (j *Judge) served(e Entry) []served {
	wants := e.Variant.Wants()
	out := make([]served, 0, len(wants))
	used := make([]bool, len(e.Supports))
	for _, need := range wants {
		x := served{need: need}
		for n, id := range e.Supports {
			s, ok := j.Stock.Implement(id)
			if ok && !used[n] && s.Count > 0 && s.Serves(need) {
				used[n], x.by, x.ok = true, s, true
				break
			}
		}
		out = append(out, x)
	}
	return out
}

// supports lists the ways in which the place's kit serves the needs of a move, one
// implement for each need; a single empty way where nothing is needed, none where
// something is not there. Of more than mostWays those of the rows named first are left.
func (j *Judge) supports(v *moves.Variant) [][]string {
	ways := [][]string{{}}
	for _, need := range v.Wants() {
		if j.Stock.Grants(need) {
			continue
		}
		var next [][]string
		for _, kind := range moves.AnchorKinds(need) {
			for _, i := range j.Stock.Implements {
				if i.Kind != kind || i.Count == 0 || !i.Serves(need) {
					continue
				}
				for _, w := range ways {
					if len(next) == mostWays {
						break
					}
					next = append(next, append(slices.Clone(w), i.ID))
				}
			}
		}
		ways = next
	}
	return ways
}

// Best gives the cheapest entry of a move for what the kit can hold: of those that are
// allowed, or else, where nothing is, of all, with what is wrong. ok is false where the
// kit cannot do the move at all.
func (j *Judge) Best(v *moves.Variant) (best Entry, faults []why.Why, ok bool) {
	cost := 0.0
	j.each(v, func(e Entry) {
		f := j.Faults(e)
		c := Total(j.Cost(e))
		if !ok || len(f) < len(faults) || len(f) == len(faults) && c < cost {
			best, faults, cost, ok = e, f, c, true
		}
	})
	return best, faults, ok
}

// Why explains a load: what is wanted, what was chosen, the resistance it makes.
func (j *Judge) Why(e Entry, r Reckoning) why.Why {
	v := e.Variant
	w := why.Of(why.LoadChosen, why.House, why.G("wanted", float64(measure.Grams(r.Wanted.Total))),
		why.G("chosen", float64(e.Total)), why.Pct("iron", measure.Round(r.IronPct, 1)),
		why.Pct("resistance", measure.Round(r.ResistancePct, 1)))
	if r.Wanted.Total == 0 && e.Total == 0 {
		w = why.Of(why.LoadBody, why.House)
	}
	w = w.With(r.Wanted.Why)
	if v.BodyShares() || v.Family != body.None && e.Total > 0 {
		w = w.With(v.ResistanceWhy(j.Body, e.Total, r.Resistance))
	}
	switch {
	case e.Total == 0:
	case v.NeverUp():
		w = w.With(why.Of(why.NeverUpMove, why.House))
	case j.Lane == moves.Ground || j.New(v):
		w = w.With(why.Of(why.NeverUpGround, why.House, why.Pct("most", CarefulOverPct)))
	}
	return w
}

// Serves lists the variants, in the library's order, that a place's kit serves for
// somebody in some lane who knows them all: a load that may be given, or none is
// needed, and supports that fit.
func Serves(s kit.Stock, lib *moves.Library, bodyMass measure.Mass, stature measure.Length) []string {
	var judges []*Judge
	for _, l := range moves.Lanes {
		c := Class{Library: lib, Stock: s.Memoized()}
		c.Past.Known = []string{progress.All}
		for _, v := range lib.All() {
			c.Chosen = append(c.Chosen, v.ID)
		}
		judges = append(judges, For(c, Party{Lane: l, Body: bodyMass, Stature: stature}))
	}
	out := []string{}
	for _, v := range lib.All() {
		if slices.ContainsFunc(judges, func(j *Judge) bool {
			_, faults, ok := j.Best(v)
			return ok && !slices.ContainsFunc(faults, func(w why.Why) bool {
				return w.Code != why.FaultGate && w.Code != why.FaultByLog && w.Code != why.FaultBody
			})
		}) {
			out = append(out, v.ID)
		}
	}
	return out
}
