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
	"nimbleanvil/internal/core/goal"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/room"
	"nimbleanvil/internal/core/scheme"
	"nimbleanvil/internal/core/strength"
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
	// Standing is how a known person stands, nil for a lane and a drop-in.
	Standing *people.Standing
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
	return choice.Party{
		Lane: p.Lane, Who: p.who(), Body: p.Body, Stature: p.Stature, BodyUnknown: p.BodyUnknown, Standing: p.Standing,
	}
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
	// Out are participants who are not in the class until they are cleared: no party is theirs.
	Out []people.Party
	// Unread says that the past was not read: what depends on it is not called wrong.
	Unread bool
	// planned is what it was before the day came otherwise.
	planned *Context
}

// Class gathers what entries are judged against: the place, the past with what the
// document marks as known or sets aside, its bans, and moves that were chosen by name.
func (c Context) Class(d circuit.Document, chosen []string) choice.Class {
	past := c.Past
	past.Known = append(slices.Clone(past.Known), d.Known...)
	past.Overruled = slices.Clone(past.Overruled)
	for _, o := range d.Overruled {
		lane, who := c.whose(o.Party)
		past.Overruled = append(past.Overruled, progress.Overrule{Day: past.Day, Lane: lane, Who: who, What: o.What})
	}
	return choice.Class{
		Library: c.Library, Stock: c.Stock, Bans: d.Bans, Chosen: chosen, Past: past, Aim: goal.Of(d.Goal),
	}
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

// Judges are those of every party for a document as it stands, by the interval that a slot
// has: its moves are there because somebody wanted them.
type Judges struct {
	class   choice.Class
	parties []Party
	by      map[measure.Span]map[people.Party]*choice.Judge
	// bound are participants whom something binds and who may do what their lane does.
	bound   []Party
	boundBy map[measure.Span]map[people.Party]*choice.Judge
	// named are participants whom the studio knows.
	named   []Party
	namedBy map[measure.Span]map[people.Party]*choice.Judge
}

// Judges makes the judges of a document.
func (c Context) Judges(d circuit.Document) Judges {
	j := Judges{
		class: c.Class(d, circuit.Moves(d)), by: map[measure.Span]map[people.Party]*choice.Judge{},
		boundBy: map[measure.Span]map[people.Party]*choice.Judge{},
		namedBy: map[measure.Span]map[people.Party]*choice.Judge{},
		named:   c.Named(),
		bound:   c.Bound(),
	}
	for _, p := range c.Parties {
		if p.People > 0 && (p.Participant == "" || d.Names(p.ID())) {
			j.parties = append(j.parties, p)
		}
	}
	return j
}

// Of gives the judges of a slot, by party.
func (j Judges) Of(b circuit.Block, s circuit.Slot) map[people.Party]*choice.Judge {
	return j.kept(j.by, j.parties, b, s)
}

// Bound gives the judges of those whom something binds, by participant.
func (j Judges) Bound(b circuit.Block, s circuit.Slot) map[people.Party]*choice.Judge {
	return j.kept(j.boundBy, j.bound, b, s)
}

// Named gives the judges of those whom the studio knows, by participant.
func (j Judges) Named(b circuit.Block, s circuit.Slot) map[people.Party]*choice.Judge {
	return j.kept(j.namedBy, j.named, b, s)
}

// For gives the judge of a party in a slot, also of one whom neither the document nor the studio
// names.
func (j Judges) For(b circuit.Block, s circuit.Slot, p Party) *choice.Judge {
	if known := j.Named(b, s)[p.ID()]; known != nil {
		return known
	}
	if named := j.Of(b, s)[p.ID()]; named != nil {
		return named
	}
	class := j.class
	class.Work, _ = b.ByClock(s)
	return choice.For(class, p.Judged())
}

func (j Judges) kept(
	by map[measure.Span]map[people.Party]*choice.Judge, parties []Party, b circuit.Block, s circuit.Slot,
) map[people.Party]*choice.Judge {
	work, _ := b.ByClock(s)
	out, ok := by[work]
	if !ok {
		class := j.class
		class.Work = work
		out = map[people.Party]*choice.Judge{}
		for _, p := range parties {
			out[p.ID()] = choice.For(class, p.Judged())
		}
		by[work] = out
	}
	return out
}

// All gives the judges of whatever interval: what does not depend on it may be asked of
// them.
func (j Judges) All() map[people.Party]*choice.Judge {
	for _, out := range j.by {
		return out
	}
	return j.Of(circuit.Block{}, circuit.Slot{})
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
	out := make([]User, 0, len(s.Entries))
	for _, p := range c.Parties {
		n := p.People
		if p.Participant == "" {
			n -= own[p.Lane]
		}
		if e, ok := s.Entries[p.ID()]; ok && n > 0 {
			out = append(out, User{p, e, n})
		}
	}
	if len(own) > 0 { // lanes stand in their order already
		slices.SortStableFunc(out, func(a, b User) int {
			return cmp.Compare(slices.Index(moves.Lanes, a.Lane), slices.Index(moves.Lanes, b.Lane))
		})
	}
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
	TotalMs measure.Span `json:"totalMs"`
	ClassMs measure.Span `json:"classMs"` // the minutes of the class
	SlackMs measure.Span `json:"slackMs"` // negative when the class does not fit
	Fits    bool         `json:"fits"`
	Why     why.Why      `json:"why"`
	Order   cue.Order    `json:"order"`
	Blocks  []BlockPlan  `json:"blocks"`
	Slots   []SlotPlan   `json:"slots"`
	// Totals say how much each party does, block by block added up.
	Totals   []Total    `json:"totals"`
	Pressure []Pressure `json:"pressure"`
	Balance  []Beam     `json:"balance"`
	Flags    []Flag     `json:"flags"` // what is worth a look; nothing is forbidden
	// Prep are the steps of the prep that times itself.
	Prep []Drill `json:"prep"`
	// Teach are the moves that are taught before the clock, where teaching times itself.
	Teach []Lesson `json:"teach"`
	// Floors are where people stand in blocks of stations and partners.
	Floors []Floor `json:"floors"`
}

// BlockPlan is one block's times. AfterMs is the pause after it, grown where the change-over
// to the next is longer.
type BlockPlan struct {
	ID      string       `json:"id"`
	TotalMs measure.Span `json:"totalMs"` // without the pause
	WorkMs  measure.Span `json:"workMs"`
	RestMs  measure.Span `json:"restMs"`
	AfterMs measure.Span `json:"afterMs"`
	Grown   bool         `json:"grown"`
	About   bool         `json:"about"` // what is done until few are left is only reckoned
}

// SlotPlan is one slot's times and cells.
type SlotPlan struct {
	ID      string        `json:"id"`
	Block   string        `json:"block"`
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
	Party    people.Party  `json:"party"`
	Lane     moves.Lane    `json:"lane"`
	People   int           `json:"people"`
	Entry    circuit.Entry `json:"entry"`
	LoadG    measure.Mass  `json:"loadG"` // all implements together
	WantedG  measure.Mass  `json:"wantedG"`
	IronPct  float64       `json:"ironPct"`
	PerSide  int           `json:"perSide"` // repetitions a side, or in all for two-sided moves
	Reps     int           `json:"reps"`    // of both sides in one set
	TwoSides bool          `json:"twoSides"`
	// Sets are how many there are of it in its block, Count what they come to.
	Sets  int        `json:"sets"`
	Count CountPlan  `json:"count"`
	Parts []PartPlan `json:"parts"` // of a combined move, over the block
	// Does are the parts of a repetition, as the entry has them or the library.
	Does        []circuit.Part `json:"does"`
	SetMs       measure.Span   `json:"setMs"`
	SwitchAtMs  measure.Span   `json:"switchAtMs"` // 0 when no switch is called
	PerLimbG    measure.Mass   `json:"perLimbG"`
	ComparableG measure.Mass   `json:"comparableG"` // 0 for moves without a comparable resistance
	LoadWhy     why.Why        `json:"loadWhy"`
	TimeWhy     why.Why        `json:"timeWhy"`
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
	// Breaks is what those who do it with the lane are to be spared of it, each with who.
	Breaks  []why.Why `json:"breaks,omitempty"`
	Missing bool      `json:"missing"` // the kit does not cover this load
	Unknown bool      `json:"unknown"` // the load names something the place does not have
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
	c = c.On(d)
	p := Plan{
		ClassMs:  measure.Span(c.Minutes) * measure.Minute,
		Blocks:   []BlockPlan{},
		Prep:     []Drill{},
		Teach:    []Lesson{},
		Slots:    []SlotPlan{},
		Pressure: []Pressure{},
		Flags:    []Flag{},
	}
	session := Session(d, c)
	if slices.ContainsFunc(d.Blocks, func(b circuit.Block) bool { return b.Auto && b.Kind == circuit.Prep }) {
		p.Prep = Prep(d, c)
	}
	order := cue.Plan{Session: session}
	for _, x := range p.Prep {
		order.Drills = append(order.Drills, cue.Drill{Move: x.Move, Long: x.Ms, Slot: x.Slot})
	}
	judges := c.Judges(d)
	for i, b := range d.Blocks {
		x := session.Blocks[i]
		p.Blocks = append(p.Blocks, lookBlock(d, i, x, c))
		order.Blocks = append(order.Blocks, cueBlock(b))
		for n, s := range b.Slots {
			sp := lookSlot(d, b, n, x.Slots[n], c, judges.Of(b, s))
			c.lookBreaks(&sp, b, s, judges)
			if n < len(b.Slots)-1 || b.Rotates() {
				sp.RestMs, sp.Grown, sp.RestWhy = restBetween(b, n, c)
			}
			p.Slots = append(p.Slots, sp)
			order.Slots = append(order.Slots, cue.Slot{ID: s.ID, Parts: sp.parts(b, n, c.Library)})
		}
	}
	for at, b := range session.Blocks {
		for _, l := range b.Learn {
			sp := &p.Slots[l.Slot]
			sp.LearnMs = l.Long
			i, n := d.At(sp.ID)
			s := d.Blocks[i].Slots[n]
			p.Teach = append(p.Teach, c.lesson(d.Blocks[at].ID, s, l.Long, judges.Of(d.Blocks[i], s)))
		}
	}
	p.Order = cue.Unroll(order)
	p.TotalMs = measure.Span(p.Order.Total)
	p.SlackMs = p.ClassMs - p.TotalMs
	p.Fits = p.SlackMs >= 0 && len(p.Slots) > 0
	p.Why = whyTotal(p, session.Times())
	p.Totals = totals(p, d, c)
	p.Pressure = pressure(p, d, c)
	p.Balance = Balance(d, c)
	p.Floors = c.floors(d, judges)
	p.Flags = flags(p, d, c, judges)
	return p
}

func lookBlock(d circuit.Document, i int, x scheme.Block, c Context) BlockPlan {
	t := x.Times()
	out := BlockPlan{
		ID:      d.Blocks[i].ID,
		TotalMs: t.Total(),
		WorkMs:  t.Working(),
		RestMs:  t.Total() - t.Working(),
		AfterMs: x.After,
	}
	if i+1 < len(d.Blocks) {
		_, out.Grown, _ = c.pause(d, i)
	}
	for _, s := range d.Blocks[i].Slots {
		for _, e := range s.Entries {
			out.About = out.About || e.Dose.Kind == circuit.ToFailure
		}
	}
	return out
}

// cueBlock is what the running order must know of a block besides its times.
func cueBlock(b circuit.Block) cue.Block {
	out := cue.Block{ID: b.ID, Changes: b.Layout == circuit.Stations || b.Layout == circuit.Partners}
	if b.Scheme == nil {
		return out
	}
	out.Scheme = b.Scheme.Kind
	if x := b.Scheme.Called; x != nil {
		words := make([]string, 0, len(x.Words))
		for _, w := range x.Words {
			words = append(words, string(w))
		}
		out.Every, out.Words = x.EveryMs, moves.CalledOut(uint64(x.Seed), words, int(x.CalledMs/x.EveryMs))
	}
	return out
}

func lookSlot(
	d circuit.Document, b circuit.Block, n int, times scheme.Slot, c Context, judges map[people.Party]*choice.Judge,
) SlotPlan {
	s := b.Slots[n]
	waves, work := measure.Span(b.WavesOf(s)), slices.Max(append([]measure.Span{0}, times.Works...))
	sp := SlotPlan{
		ID:      s.ID,
		Block:   b.ID,
		Pattern: s.Pattern,
		WorkMs:  work,
		SlotMs:  waves*work + (waves-1)*times.HandOver,
		RestMs:  times.Rest,
		Cells:   []Cell{},
		Shorts:  []Short{},
	}
	for _, u := range c.Users(s) {
		sp.Cells = append(sp.Cells, lookCell(d, b, n, u, c, judges[u.ID()]))
	}
	inHand, in := c.InHand(b, n)
	for _, x := range inHand.Shorts(c.Stock, in) {
		if !slices.ContainsFunc(sp.Cells, func(c Cell) bool { return c.uses(x.Item) }) {
			continue // of a window or of stations another slot's
		}
		sp.Shorts = append(sp.Shorts, Short(x))
		for i := range sp.Cells {
			sp.Cells[i].Missing = sp.Cells[i].Missing || sp.Cells[i].uses(x.Item)
		}
	}
	return sp
}

// InHand counts who uses what at once in a slot, and in how many waves. In a window everybody
// comes to every slot at a time of their own, and keeps by them what they use in any; of
// stations it is what lives at all of them.
func (c Context) InHand(b circuit.Block, n int) (t room.Tally, waves int) {
	t, s := room.Tally{}, b.Slots[n]
	if b.Rotates() {
		return c.AtStations(b, len(b.Slots)), 1
	}
	if !b.Is(scheme.Windowed) {
		for _, u := range c.Users(s) {
			t.Take(u.N, u.Entry.Load, u.Entry.Anchors)
		}
		return t, b.WavesOf(s)
	}
	named := map[moves.Lane]int{}
	keep := func(p Party, users int) {
		var each []room.Held
		for _, s := range b.Slots {
			if e, ok := s.Of(p.ID(), p.Lane); ok {
				each = append(each, room.Held{Load: e.Load, Anchors: e.Anchors})
			}
		}
		t.Keep(users, each)
	}
	for _, s := range b.Slots {
		waves = max(waves, b.WavesOf(s))
	}
	for _, p := range c.Parties {
		own := slices.ContainsFunc(b.Slots, func(s circuit.Slot) bool { _, ok := s.Entries[p.ID()]; return ok })
		if p.Participant != "" && own {
			named[p.Lane]++
			keep(p, 1)
		}
	}
	for _, p := range c.Parties {
		if n := p.People - named[p.Lane]; p.Participant == "" && n > 0 {
			keep(p, n)
		}
	}
	return t, waves
}

// parts are what each party does in the slot's interval.
func (sp SlotPlan) parts(b circuit.Block, n int, lib *moves.Library) []cue.Part {
	var out []cue.Part
	for _, c := range sp.Cells {
		x := cue.Part{
			Party: c.Party, Lane: c.Lane, Variant: c.Entry.Variant, First: c.Entry.First,
			Works: works(b, n, c.Entry, lib), Sides: calls(b, b.Slots[n], c.Entry, lib),
		}
		if _, byClock := b.ByClock(b.Slots[n]); !byClock && b.Scheme.Ladder == nil {
			x.PerRep, x.Actions = c.Entry.PerRep(lib), actions(c.Entry, lib)
		}
		out = append(out, x)
	}
	return out
}

// actions are the parts of one repetition as they are called, one after the other; of a
// skill its stages by name.
func actions(e circuit.Entry, lib *moves.Library) []cue.Action {
	v, ok := lib.Get(e.Variant)
	if !ok {
		return nil
	}
	var out []cue.Action
	if v.Staged() && len(e.Parts) == 0 && e.Tempo == "" {
		for _, p := range e.PartsOf(lib) {
			for _, stage := range lib.StagesOf(v) {
				out = append(out, cue.Action{Name: stage, Long: p.Ms})
			}
		}
		return out
	}
	if e.Tempo != "" {
		return nil
	}
	for _, p := range e.PartsOf(lib) {
		for range p.Count {
			out = append(out, cue.Action{Name: p.Move, Long: p.Ms})
		}
	}
	return out
}

func lookCell(d circuit.Document, b circuit.Block, n int, u User, c Context, j *choice.Judge) Cell {
	s, e := b.Slots[n], u.Entry
	set := setOf(b, s, e, c.Library)
	cell := Cell{
		Party:    u.ID(),
		Lane:     u.Lane,
		People:   u.N,
		Entry:    e,
		PerSide:  set.PerSide,
		Reps:     set.Reps,
		SetMs:    set.Work,
		TimeWhy:  whySet(b, s, e, set, c.Library),
		Sets:     b.RoundsOf(s),
		Count:    countOf(b, s, e, set),
		TwoSides: e.Sides != scheme.BothSides || b.Is(scheme.Chain) && b.Scheme.Chain.Sides == 2,
		Parts:    []PartPlan{},
		Does:     []circuit.Part{},
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
	cell.Parts = partsOf(b, s, e, cell, c.Library)
	cell.Does = append([]circuit.Part{}, e.PartsOf(c.Library)...)
	cell.Setup, cell.Cautions = v.SetupFor(e.Hold), v.CautionsFor(x.Total > 0)
	reps := j.Reps(v)
	if _, byClock := b.ByClock(s); byClock {
		reps = max(set.PerSide, 1)
	}
	r := j.Reckon(x, reps)
	cell.WantedG, cell.IronPct = measure.Grams(r.Wanted.Total), measure.Round(r.IronPct, 1)
	if b.Role() == strength.Alone { // in a superset and a finisher light is meant
		cell.ShortPct = measure.Round(r.ShortPct, 1)
		cell.LeftPct = measure.Round(j.Left(x, reps, set.PerSide, e.ReadTempo()), 1)
		// More repetitions make up for a light load, as many as are done.
		cell.FarTooLight = choice.FarTooLight(r.ShortPct) && choice.FarTooLight(-cell.LeftPct)
	}
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
		cell.Beside = beside(d, b, s, c, u.Party, v, joints)
	}
	return cell
}

// CellFor looks at a party's entry in the only slot of a block by itself; ok is false where
// the party is not among the context's.
func (c Context) CellFor(b circuit.Block, who people.Party) (Cell, bool) {
	d := circuit.Document{Blocks: []circuit.Block{b}}
	for _, p := range c.Parties {
		if p.ID() == who {
			p.People = max(p.People, 1)
			c.Parties = []Party{p}
			return lookCell(
				d,
				b,
				0,
				User{p, b.Slots[0].Entries[who], p.People},
				c,
				c.Judges(d).Of(b, b.Slots[0])[who],
			), true
		}
	}
	return Cell{}, false
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
	slots := d.Slots()
	i := 0
	for _, b := range d.Blocks {
		for n := range b.Slots {
			inHand, waves := c.InHand(b, n)
			for id, n := range inHand.AtOnce(waves) {
				if used[id] == nil {
					used[id] = make([]int, len(slots))
				}
				used[id][i] = n
			}
			i++
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
