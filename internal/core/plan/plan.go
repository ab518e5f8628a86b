// Package plan is what follows from a circuit for who comes and where: times, loads with
// their whys, kit, balance, what is worth a look and what is still needed.
package plan

import (
	"cmp"
	"slices"

	"nimbleanvil/internal/core/body"
	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/cue"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/room"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/why"
)

// Party is who entries are for: a lane with the people in it, or a participant who may
// have entries of their own. Without named people a lane is 70 kg and 170 cm, which every
// why says; what bears a body is then judged for more.
type Party struct {
	Lane moves.Lane
	// Participant is the id of one in this class, Who the person that they are, both empty
	// for a lane.
	Participant, Who string
	// People of a lane, those participants included.
	People      int
	Body        measure.Mass
	Stature     measure.Length
	BodyUnknown bool
}

// ID is how documents name the party.
func (p Party) ID() people.Party {
	if p.Participant != "" {
		return people.Party(p.Participant)
	}
	return people.OfLane(p.Lane)
}

// DefaultBody and DefaultStature are whom a lane without named people is computed
// for.
const (
	DefaultBody    measure.Mass   = 70_000
	DefaultStature measure.Length = 1700
)

// Judged is who the judge sees in a party. Of a drop-in nothing is known.
func (p Party) Judged() choice.Party {
	return choice.Party{Lane: p.Lane, Who: p.who(), Body: p.Body, Stature: p.Stature, BodyUnknown: p.BodyUnknown}
}

func (p Party) who() string { return cmp.Or(p.Who, p.Participant) }

// Neighbours fills in what ladder and place offer a party's history of a move.
func (p Party) Neighbours(c Context, history *progress.Case) {
	choice.For(choice.Class{Library: c.Library, Stock: c.Stock}, p.Judged()).Neighbours(history)
}

// Context is what a document is looked at against.
type Context struct {
	Library *moves.Library
	Stock   kit.Stock
	// Parties are the lanes from Ground up, and the participants of the class.
	Parties []Party
	Minutes int
	// Past is what earlier classes of the group say.
	Past progress.Past
}

// Class gathers what entries are judged against: the place, the past with what the
// document marks as known or sets aside, its bans and interval, and moves that were
// chosen by name.
func (c Context) Class(d circuit.Document, chosen []string) choice.Class {
	past := c.Past
	past.Known = append(slices.Clone(past.Known), d.Known...)
	past.Overruled = slices.Clone(past.Overruled)
	for _, o := range d.Overruled {
		lane, who := c.whose(o.Party)
		past.Overruled = append(past.Overruled, progress.Overrule{Day: past.Day, Lane: lane, Who: who, What: o.What})
	}
	class := choice.Class{Library: c.Library, Stock: c.Stock, Bans: d.Bans, Chosen: chosen, Past: past}
	if d.Format == circuit.Timed {
		class.Work = d.WorkMs
	}
	return class
}

// whose is the lane of a party, and of a participant the person.
func (c Context) whose(id people.Party) (moves.Lane, string) {
	if lane, ok := id.Lane(); ok {
		return lane, ""
	}
	for _, p := range c.Parties {
		if p.ID() == id {
			return p.Lane, p.who()
		}
	}
	return "", string(id)
}

// Judges makes the judge of every party for a document as it stands: its moves are there
// because somebody wanted them.
func (c Context) Judges(d circuit.Document) map[people.Party]*choice.Judge {
	class := c.Class(d, circuit.Moves(d))
	out := map[people.Party]*choice.Judge{}
	for _, p := range c.Parties {
		if p.People > 0 && (p.Participant == "" || d.Names(p.ID())) {
			out[p.ID()] = choice.For(class, p.Judged())
		}
	}
	return out
}

// User is a party that has an entry in a slot, and how many people do it.
type User struct {
	Party
	Entry circuit.Entry
	N     int
}

// Users lists who does what in a slot, lane by lane: a participant with an entry of their
// own does not do the lane's.
func (c Context) Users(s circuit.Slot) []User {
	own := map[moves.Lane]int{}
	for _, p := range c.Parties {
		if _, ok := s.Entries[p.ID()]; ok && p.Participant != "" {
			own[p.Lane]++
		}
	}
	var out []User
	for _, p := range c.Parties {
		n := p.People
		if p.Participant == "" {
			n -= own[p.Lane]
		}
		if e, ok := s.Entries[p.ID()]; ok && n > 0 {
			out = append(out, User{p, e, n})
		}
	}
	slices.SortStableFunc(out, func(a, b User) int {
		return cmp.Compare(slices.Index(moves.Lanes, a.Lane), slices.Index(moves.Lanes, b.Lane))
	})
	return out
}

// ChoiceOf turns a lane's version into what the judge looks at; ok is false where move
// or load are not known.
func (c Context) ChoiceOf(e circuit.Entry) (choice.Entry, bool) {
	v, ok := c.Library.Get(e.Variant)
	total, known := c.Stock.Mass(e.Load)
	return choice.Entry{
			Variant:  v,
			Hold:     e.Hold,
			Option:   kit.Option{Load: e.Load, Total: total},
			Supports: e.Anchors,
		}, ok &&
			known
}

// Plan is everything that follows from a document in its context.
type Plan struct {
	TotalMs  measure.Span `json:"totalMs"`
	ClassMs  measure.Span `json:"classMs"` // the minutes of the class
	SlackMs  measure.Span `json:"slackMs"` // negative when the class does not fit
	Fits     bool         `json:"fits"`
	Why      why.Why      `json:"why"`
	Order    cue.Order    `json:"order"`
	Slots    []SlotPlan   `json:"slots"`
	Pressure []Pressure   `json:"pressure"`
	Balance  []Beam       `json:"balance"`
	Flags    []Flag       `json:"flags"` // what is worth a look; nothing is forbidden
}

// SlotPlan is one slot's times and cells.
type SlotPlan struct {
	ID      string        `json:"id"`
	Pattern moves.Pattern `json:"pattern"`
	WorkMs  measure.Span  `json:"workMs"`           // one wave
	SlotMs  measure.Span  `json:"slotMs"`           // all waves and hand-overs
	RestMs  measure.Span  `json:"restMs"`           // rest to the next slot, grown where the change-over is longer
	RestWhy why.Why       `json:"restWhy,omitzero"` // none after the last
	Grown   bool          `json:"grown"`            // the change-over made the rest longer than planned
	LearnMs measure.Span  `json:"learnMs"`
	Cells   []Cell        `json:"cells"`
	Shorts  []Short       `json:"shorts"`
}

// Cell is one party's version of a slot with its numbers.
type Cell struct {
	// Party is the lane, or a participant of it with an entry of their own.
	Party       people.Party  `json:"party"`
	Lane        moves.Lane    `json:"lane"`
	People      int           `json:"people"`
	Entry       circuit.Entry `json:"entry"`
	LoadG       measure.Mass  `json:"loadG"` // all implements together
	WantedG     measure.Mass  `json:"wantedG"`
	IronPct     float64       `json:"ironPct"`
	PerSide     int           `json:"perSide"` // repetitions a side, or in all for two-sided moves
	Reps        int           `json:"reps"`    // of both sides in one set
	TwoSides    bool          `json:"twoSides"`
	SetMs       measure.Span  `json:"setMs"`
	SwitchAtMs  measure.Span  `json:"switchAtMs"` // 0 when no switch is called
	PerLimbG    measure.Mass  `json:"perLimbG"`
	ComparableG measure.Mass  `json:"comparableG"` // 0 for moves without a comparable resistance
	LoadWhy     why.Why       `json:"loadWhy"`
	TimeWhy     why.Why       `json:"timeWhy"`
	// ShortPct is what the load is short of what the lane should be asked, before mends;
	// LeftPct what the set as it stands still is short by, negative.
	ShortPct    float64   `json:"shortPct"`
	LeftPct     float64   `json:"leftPct"`
	FarTooLight bool      `json:"farTooLight"`      // too light by far, and said so
	Faults      []why.Why `json:"faults"`           // what would keep it from being proposed
	Asks        []why.Why `json:"asks"`             // what is to be asked before it is used
	Log         *why.Why  `json:"log,omitempty"`    // what the log decided
	Beside      *Beside   `json:"beside,omitempty"` // an easier move for whoever asks
	Setup       []string  `json:"setup"`            // for the hold in use
	Cautions    []string  `json:"cautions"`
	Missing     bool      `json:"missing"` // the kit does not cover this load
	Unknown     bool      `json:"unknown"` // the load names something the place does not have
}

// Beside is an easier move that stands beside a lane's for whoever asks, since it hurt
// somebody.
type Beside struct {
	Entry  circuit.Entry `json:"entry"`
	Joints []string      `json:"joints"`
	Why    why.Why       `json:"why"`
}

// Short is kit that a slot needs and the place lacks.
type Short struct {
	Item    string `json:"item"`
	Used    int    `json:"used"`
	Present int    `json:"present"`
}

// Pressure is the use of one thing that some slot uses, slot by slot.
type Pressure struct {
	Item    string `json:"item"`
	Present int    `json:"present"`
	Used    []int  `json:"used"` // in the order of the slots
}

// Beam weighs two kinds of slot against each other.
type Beam struct {
	Left   string `json:"left"`
	Right  string `json:"right"`
	LeftN  int    `json:"leftN"`
	RightN int    `json:"rightN"`
	Uneven bool   `json:"uneven"`
}

// Flag points at something worth a look.
type Flag struct {
	Slot string  `json:"slot,omitempty"`
	Why  why.Why `json:"why"`
	// Wrong is what would not be proposed: a limit, a support, a load.
	Wrong bool `json:"wrong,omitempty"`
}

// Look computes the plan of a document. It never fails: what is wrong is in
// Flags, Fits and Missing.
func Look(d circuit.Document, c Context) Plan {
	p := Plan{
		ClassMs:  measure.Span(c.Minutes) * measure.Minute,
		Slots:    []SlotPlan{},
		Pressure: []Pressure{},
		Flags:    []Flag{},
	}
	session := Session(d, c)
	order := cue.Plan{Session: session, Drills: PrepMoves(d, c)}
	judges := c.Judges(d)
	for i, s := range d.Slots {
		sp := lookSlot(d, s, session.Blocks[workBlock].Slots[i], c, judges)
		sp.LearnMs = session.Blocks[teachBlock].Learn[i].Long
		if i < len(d.Slots)-1 {
			_, sp.Grown, sp.RestWhy = restBetween(d, s, d.Slots[i+1], c)
		}
		p.Slots = append(p.Slots, sp)
		order.Slots = append(order.Slots, cue.Slot{ID: s.ID, Parts: sp.parts(d)})
	}
	p.Order = cue.Unroll(order)
	p.TotalMs = measure.Span(p.Order.Total)
	p.SlackMs = p.ClassMs - p.TotalMs
	p.Fits = p.SlackMs >= 0 && len(d.Slots) > 0
	p.Why = whyTotal(p, session.Times())
	p.Pressure = pressure(p, d, c)
	p.Balance = Balance(d, c)
	p.Flags = flags(p, d, c, judges)
	return p
}

func lookSlot(
	d circuit.Document, s circuit.Slot, times scheme.Slot, c Context, judges map[people.Party]*choice.Judge,
) SlotPlan {
	waves := measure.Span(s.Waves)
	sp := SlotPlan{
		ID:      s.ID,
		Pattern: s.Pattern,
		WorkMs:  times.Work(1),
		SlotMs:  waves*times.Work(1) + (waves-1)*times.HandOver,
		RestMs:  times.Rest,
		Cells:   []Cell{},
		Shorts:  []Short{},
	}
	tally := room.Tally{}
	for _, u := range c.Users(s) {
		tally.Take(u.N, u.Entry.Load, u.Entry.Anchors)
		sp.Cells = append(sp.Cells, lookCell(d, u, c, judges[u.ID()]))
	}
	for _, x := range tally.Shorts(c.Stock, s.Waves) {
		sp.Shorts = append(sp.Shorts, Short(x))
		for i := range sp.Cells {
			sp.Cells[i].Missing = sp.Cells[i].Missing || sp.Cells[i].uses(x.Item)
		}
	}
	return sp
}

// parts are what each party does in the slot's interval.
func (sp SlotPlan) parts(d circuit.Document) []cue.Part {
	var out []cue.Part
	for _, c := range sp.Cells {
		set := setOf(d, c.Entry)
		out = append(
			out,
			cue.Part{Party: c.Party, Lane: c.Lane, Variant: c.Entry.Variant, Work: set.Work, Sides: set.Calls},
		)
	}
	return out
}

func lookCell(d circuit.Document, u User, c Context, j *choice.Judge) Cell {
	e, set := u.Entry, setOf(d, u.Entry)
	cell := Cell{
		Party:    u.ID(),
		Lane:     u.Lane,
		People:   u.N,
		Entry:    e,
		PerSide:  set.PerSide,
		Reps:     set.Reps,
		SetMs:    set.Work,
		TimeWhy:  whySet(d, e, set),
		TwoSides: e.Sides != scheme.BothSides,
		Faults:   []why.Why{},
		Asks:     []why.Why{},
		Setup:    []string{},
		Cautions: []string{},
	}
	if len(set.Calls) == 1 {
		cell.SwitchAtMs = set.Calls[0].SwitchAt
	}
	x, known := c.ChoiceOf(e)
	cell.LoadG, cell.Unknown, cell.Missing = x.Total, !known, !known
	if x.Variant == nil {
		return cell
	}
	v := x.Variant
	cell.Setup, cell.Cautions = v.SetupFor(e.Hold), v.CautionsFor(x.Total > 0)
	reps := j.Reps(v)
	if d.Format == circuit.Timed {
		reps = max(set.PerSide, 1)
	}
	r := j.Reckon(x, reps)
	cell.WantedG, cell.IronPct = measure.Grams(r.Wanted.Total), measure.Round(r.IronPct, 1)
	cell.ShortPct = measure.Round(r.ShortPct, 1)
	cell.LeftPct = measure.Round(j.Left(x, reps, set.PerSide, e.ReadTempo()), 1)
	cell.FarTooLight = choice.FarTooLight(r.ShortPct)
	cell.LoadWhy = j.Why(x, r).With(setRepairs(v, reps, cell, e.ReadTempo())...)
	cell.PerLimbG = measure.Grams(r.Resistance.PerLimb)
	if v.Family != body.None {
		cell.ComparableG = measure.Grams(r.Resistance.Comparable)
	}
	if known {
		cell.Faults = append(cell.Faults, j.Faults(x)...)
		cell.Asks = append(cell.Asks, j.Asks(x)...)
	}
	if dec, ok := j.Decision(v); ok {
		cell.Log = &dec.Why
	}
	if joints := j.Beside(v); joints != nil {
		cell.Beside = beside(d, c, u.Party, v, joints)
	}
	return cell
}

// setRepairs says what of the set as it stands makes up for its load: more or fewer
// repetitions than usual, slower counts, and what is still missing.
func setRepairs(v *moves.Variant, usual int, cell Cell, tempo scheme.Tempo) []why.Why {
	var out []why.Why
	own := v.TempoOf()
	switch {
	case cell.ShortPct > 0 && cell.PerSide > usual:
		out = append(out, why.Of(why.RepairMoreReps, why.Model, why.N("reps", cell.PerSide)))
	case cell.IronPct > 0 && cell.PerSide < usual:
		out = append(out, why.Of(why.RepairFewerReps, why.Model, why.N("reps", cell.PerSide)))
	}
	if cell.ShortPct > 0 && tempo.Parts[0] > own.Parts[0] {
		out = append(out,
			why.Of(why.RepairSlower, why.House, why.ID("tempo", cell.Entry.Tempo), why.Pct("stands", choice.SlowerPct)))
	}
	if cell.ShortPct > 0 && tempo.Parts[1] > own.Parts[1] {
		out = append(out, why.Of(why.RepairPause, why.House, why.Pct("stands", choice.PausedPct)))
	}
	if cell.LeftPct <= -shortInWords {
		out = append(out, why.Of(why.FlagShortEffort, why.House, why.Pct("left", cell.LeftPct)))
	}
	return out
}

func (c Cell) uses(item string) bool {
	for _, u := range c.Entry.Load.Uses() {
		if u.ID == item {
			return true
		}
	}
	for _, a := range c.Entry.Anchors {
		if a == item {
			return true
		}
	}
	return false
}

// restBetween gives the rest before the next slot: the planned one, or the
// longest change-over of any party where that is longer.
func restBetween(d circuit.Document, a, b circuit.Slot, c Context) (measure.Span, bool, why.Why) {
	longest := measure.Span(-1)
	var reason why.Why
	for _, p := range c.Parties {
		ea, oka := a.Of(p.ID(), p.Lane)
		eb, okb := b.Of(p.ID(), p.Lane)
		if !oka || !okb || p.People == 0 {
			continue
		}
		if long, w := ChangeOver(ea, eb, c.Library); long > longest {
			longest, reason = long, w
			reason.Terms = append([]why.Term{why.ID("lane", string(p.ID()))}, reason.Terms...)
		}
	}
	if longest > d.RestMs {
		return longest, true, why.Of(why.RestGrown, why.House, why.Ms("planned", int64(d.RestMs)), why.Ms("rest", int64(longest))).
			With(reason)
	}
	return d.RestMs, false, why.Of(why.RestPlanned, why.House, why.Ms("rest", int64(d.RestMs))).With(reason)
}

func whyTotal(p Plan, times scheme.Times) why.Why {
	w := why.Of(why.TimeTotal, why.Arithmetic)
	for _, k := range scheme.Kinds {
		if times[k] > 0 {
			w.Terms = append(w.Terms, why.Ms(string(k), int64(times[k])))
		}
	}
	w.Terms = append(w.Terms, why.Ms("total", int64(p.TotalMs)), why.Ms("class", int64(p.ClassMs)))
	return w
}

func pressure(p Plan, d circuit.Document, c Context) []Pressure {
	used := map[string][]int{}
	for i, s := range d.Slots {
		tally := room.Tally{}
		for _, cell := range p.Slots[i].Cells {
			tally.Take(cell.People, cell.Entry.Load, cell.Entry.Anchors)
		}
		for id, n := range tally.AtOnce(s.Waves) {
			if used[id] == nil {
				used[id] = make([]int, len(d.Slots))
			}
			used[id][i] = n
		}
	}
	out := []Pressure{}
	row := func(id string) {
		if u := used[id]; u != nil {
			delete(used, id)
			out = append(out, Pressure{Item: id, Present: c.Stock.Pieces(id), Used: u})
		}
	}
	for _, i := range c.Stock.Implements {
		row(i.ID)
	}
	for _, o := range c.Stock.Objects {
		row(o.ID)
	}
	for _, o := range c.Stock.Containers {
		row(o.ID)
	}
	for _, id := range sortedKeys(used) {
		row(id)
	}
	return out
}
