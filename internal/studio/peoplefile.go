package studio

import (
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"slices"
	"strings"
	"time"

	"nimbleanvil/internal/core/calendar"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/formats/peoplefile"
	"nimbleanvil/internal/formats/table"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/store"
)

// PeopleText is a file of people as it was chosen.
type PeopleText struct {
	Text string `json:"text" maxLength:"900000" doc:"CSV or JSON"`
	Hash string `json:"hash,omitempty" maxLength:"64" doc:"of the preview that was looked at; to commit only"`
	// Who answers for rows without an id whose name is known.
	Who []PeopleWho `json:"who,omitempty" nullable:"false" maxItems:"2000"`
}

// PeopleWho says who a row without an id is.
type PeopleWho struct {
	Line     int    `json:"line" minimum:"1"`
	PersonID string `json:"personId,omitempty" pattern:"^([0-9a-z]{26})?$" doc:"left out for somebody else of the name"`
}

// PeoplePreview is what a file of people would do.
type PeoplePreview struct {
	Hash    string          `json:"hash" doc:"of the file, the answers and everybody there now"`
	Rows    []PeopleRow     `json:"rows"`
	Faults  []table.Mistake `json:"faults" doc:"with any of them nothing can be brought in; at most 20"`
	More    int             `json:"more" doc:"how many faults are not named"`
	New     int             `json:"new"`
	Changed int             `json:"changed"`
	Same    int             `json:"same"`
	Asked   int             `json:"asked" doc:"rows of whom it must be said who they are, before anything is brought in"`
}

// PeopleRow is one row of a file and what it would do.
type PeopleRow struct {
	Line int    `json:"line"`
	Name string `json:"name"`
	Does string `json:"does" enum:"new,changed,same,asked"`
	// Known are those of the name, where it is asked who it is.
	Known []PeopleKnown `json:"known"`
}

// PeopleKnown is somebody whom a row may mean.
type PeopleKnown struct {
	ID       string   `json:"id"`
	Groups   []string `json:"groups" doc:"by name"`
	LastDate string   `json:"lastDate,omitempty"`
}

// PersonRows writes everybody down as rows of a file.
func (s Studio) PersonRows(ctx context.Context) ([]peoplefile.Row, error) {
	r, err := s.peopleReader(ctx)
	if err != nil {
		return nil, err
	}
	rows := make([]peoplefile.Row, 0, len(r.people))
	for _, p := range r.people {
		rows = append(rows, p.row)
	}
	return rows, nil
}

// PreviewPeople says what a file of people would do.
func (s Studio) PreviewPeople(ctx context.Context, in PeopleText) (PeoplePreview, error) {
	r, err := s.lookAtPeople(ctx, in)
	if err != nil {
		return PeoplePreview{}, err
	}
	return r.out, nil
}

// ImportPeople brings in what was looked at, all or nothing.
func (s Studio) ImportPeople(ctx context.Context, in PeopleText) (PeoplePreview, error) {
	r, err := s.lookAtPeople(ctx, in)
	switch {
	case err != nil:
		return PeoplePreview{}, err
	case in.Hash != r.out.Hash:
		return r.out, Refusal{Stale, "the file or the people are no longer what was looked at: look again first"}
	case len(r.out.Faults) > 0:
		f := r.out.Faults[0]
		return r.out, fault.List{{Path: "text", Message: f.Message, Value: f.Value}}
	case r.out.Asked > 0:
		return r.out, fault.List{{Path: "who", Message: "say of every row whose name is known who it is"}}
	}
	switch err := s.store.BringPeople(ctx, s.scope, r.bring); {
	case errors.Is(err, store.ErrFull):
		return r.out, Refusal{Full, "with this file a list would be over its limit: nothing was brought in"}
	default:
		return r.out, err
	}
}

// filedPerson is somebody as a row of a file with what is known of them.
type filedPerson struct {
	row      peoplefile.Row
	standing people.Standing
	known    store.Known
}

// peopleReader turns a file into what would be brought in.
type peopleReader struct {
	lib    *moves.Library
	unit   measure.Unit
	day    int
	people []filedPerson
	byID   map[string]int
	byName map[string][]int
	file   peoplefile.Parsed
	who    map[int]*PeopleWho
	out    PeoplePreview
	bring  []store.PersonWith
	used   map[string]bool
	line   int
	bad    bool
}

// peopleReader reads everybody who is there.
func (s Studio) peopleReader(ctx context.Context) (*peopleReader, error) {
	r := &peopleReader{
		byID:   map[string]int{},
		byName: map[string][]int{},
		used:   map[string]bool{},
		who:    map[int]*PeopleWho{},
	}
	var err error
	if r.lib, r.day, err = s.libraryToday(ctx); err != nil {
		return nil, err
	}
	if r.unit, err = s.unit(ctx); err != nil {
		return nil, err
	}
	rows, err := s.store.People(ctx, s.scope, "", store.MaxPeople)
	if err != nil {
		return nil, err
	}
	for _, k := range rows {
		p, err := filedOf(k, r.lib, r.day)
		if err != nil {
			return nil, err
		}
		r.byID[k.PublicID] = len(r.people)
		r.byName[k.Name] = append(r.byName[k.Name], len(r.people))
		r.people = append(r.people, p)
	}
	return r, nil
}

func filedOf(k store.Known, lib *moves.Library, day int) (filedPerson, error) {
	facts, err := knownFacts(k)
	st := facts.On(day, lib, plan.DefaultStature)
	p := filedPerson{known: k, standing: st, row: peoplefile.Row{
		ID: k.PublicID, Name: k.Name, Unit: k.MassUnit, Weaker: k.Weaker, Note: k.Note,
	}}
	var named []string
	for _, g := range k.Groups {
		named = append(named, g.Name)
	}
	p.row.Groups = peoplefile.JoinGroups(named)
	for i := len(facts.Records) - 1; i >= 0 && p.row.Measured == ""; i-- {
		if facts.Records[i].Measure != nil {
			p.row.Measured = dateOf(facts.Records[i].Day)
		}
	}
	if st.Body != nil {
		p.row.Body = measure.Write(st.Body.Typed)
	}
	if st.Stature != nil {
		p.row.Stature = measure.Write(st.Stature.Typed)
	}
	var levels, limits []string
	for _, v := range lib.All() {
		if l, ok := st.On(v); ok && l.Move == v.ID {
			levels = append(levels, l.Move)
		}
	}
	for _, h := range st.Limits {
		if h.From == people.FromTyped {
			limits = append(limits, string(h.Limit))
		}
	}
	p.row.Levels, p.row.Limits = strings.Join(levels, " "), strings.Join(limits, " ")
	return p, err
}

// lookAtPeople reads a file against who is there now.
func (s Studio) lookAtPeople(ctx context.Context, in PeopleText) (*peopleReader, error) {
	r, err := s.peopleReader(ctx)
	if err != nil {
		return nil, err
	}
	for i := range in.Who {
		r.who[in.Who[i].Line] = &in.Who[i]
	}
	r.out.Rows = []PeopleRow{}
	r.file = peoplefile.Form.Parse([]byte(in.Text))
	gone, err := s.store.ErasedOf(ctx, s.scope, idsOf(r.file.Rows))
	if err != nil {
		return nil, err
	}
	for i, row := range r.file.Rows {
		r.line, r.bad = r.file.Lines[i], false
		if gone[row.ID] {
			r.fault("id", "somebody of this id was erased here: leave it out for somebody else", row.ID)
			continue
		}
		r.row(row)
	}
	r.out.Faults, r.out.More = append([]table.Mistake{}, r.file.Faults...), r.file.More
	slices.SortStableFunc(r.out.Faults, func(a, b table.Mistake) int {
		return cmp.Or(cmp.Compare(a.Line, b.Line), cmp.Compare(a.Column, b.Column))
	})
	return r, r.hash(in)
}

func idsOf(rows []peoplefile.Row) []string {
	var out []string
	for _, r := range rows {
		if r.ID != "" {
			out = append(out, r.ID)
		}
	}
	return out
}

// hash names what was looked at.
func (r *peopleReader) hash(in PeopleText) error {
	var there []peoplefile.Row
	for _, p := range r.people {
		there = append(there, p.row)
	}
	b, err := json.Marshal([]any{there, append([]PeopleWho{}, in.Who...), in.Text})
	sum := sha256.Sum256(b)
	r.out.Hash = hex.EncodeToString(sum[:])
	return err
}

func (r *peopleReader) fault(field, message, value string) {
	r.bad = true
	r.file.Fault(
		table.Mistake{Line: r.line, Column: r.file.Column(field), Field: field, Message: message, Value: value},
	)
}

// row reads one row and says what it would do. Somebody is found by their id; of a name without
// an id that is known it is asked who it is.
func (r *peopleReader) row(row peoplefile.Row) {
	next := store.PersonWith{New: true}
	read := func(field, text string, by func(string) (string, error)) string {
		out, err := by(text)
		if err != nil {
			r.fault(field, err.Error(), text)
		}
		return out
	}
	name := read("name", row.Name, names.Read)
	note := read("note", row.Note, names.ReadNote)
	groups := row.GroupNames()
	for i := range groups {
		groups[i] = read("groups", groups[i], names.Read)
	}
	slices.Sort(groups)
	groups = slices.Compact(groups)
	if row.Unit != "" && row.Unit != string(measure.Kilogram) && row.Unit != string(measure.Pound) {
		r.fault("unit", "kg or lb", row.Unit)
	}
	if row.Weaker != "" && row.Weaker != "left" && row.Weaker != "right" {
		r.fault("weaker", "left or right", row.Weaker)
	}
	who, asked := r.whom(row, name)
	var old *filedPerson
	if who != "" {
		if i, there := r.byID[who]; there {
			old, next.New = &r.people[i], false
			next.Person = old.known.Person
		}
		if r.used[who] {
			r.fault("id", "each person once", who)
		}
		r.used[who] = true
	}
	records := r.records(row, old)
	if r.bad {
		return
	}
	said := PeopleRow{Line: r.line, Name: name, Does: "new", Known: asked}
	if len(asked) > 0 {
		said.Does = "asked"
		r.out.Asked++
		r.out.Rows = append(r.out.Rows, said)
		return
	}
	was := next.Person
	next.PublicID, next.Name = cmp.Or(was.PublicID, who), name
	next.MassUnit, next.Weaker, next.Note = cmp.Or(
		row.Unit,
		was.MassUnit,
	), cmp.Or(
		row.Weaker,
		was.Weaker,
	), cmp.Or(
		note,
		was.Note,
	)
	next.Records = records
	if old == nil || len(groups) > 0 && !sameGroups(groups, old.row) {
		next.Groups = groups
	}
	changed := next.Name != was.Name || next.MassUnit != was.MassUnit || next.Weaker != was.Weaker ||
		next.Note != was.Note
	switch {
	case old == nil:
		r.out.New++
	case changed || next.Groups != nil || len(records) > 0:
		said.Does = "changed"
		r.out.Changed++
	default:
		said.Does = "same"
		r.out.Same++
	}
	r.out.Rows = append(r.out.Rows, said)
	if said.Does != "same" {
		r.bring = append(r.bring, next)
	}
}

func sameGroups(sorted []string, row peoplefile.Row) bool {
	there := row.GroupNames()
	slices.Sort(there)
	return slices.Equal(sorted, there)
}

// whom tells who a row is, or who it may be where that is to be asked.
func (r *peopleReader) whom(row peoplefile.Row, name string) (id string, asked []PeopleKnown) {
	asked = []PeopleKnown{}
	if row.ID != "" {
		if !publicID.MatchString(row.ID) {
			r.fault("id", "26 small letters and digits; leave it out for new people", row.ID)
		}
		return row.ID, asked
	}
	of := r.byName[name]
	if len(of) == 0 {
		return "", asked
	}
	if a := r.who[r.line]; a != nil {
		if _, there := r.byID[a.PersonID]; a.PersonID != "" && !there {
			r.fault("name", "there is nobody of the id that was said", a.PersonID)
		}
		return a.PersonID, asked
	}
	for _, i := range of {
		k := PeopleKnown{ID: r.people[i].known.PublicID, Groups: append([]string{}, r.people[i].row.GroupNames()...)}
		if d := r.people[i].known.LastDate; d != nil {
			k.LastDate = d.Format(time.DateOnly)
		}
		asked = append(asked, k)
	}
	return "", asked
}

// records gives what a row says that is not known yet.
func (r *peopleReader) records(row peoplefile.Row, old *filedPerson) []store.PersonRecord {
	day, err := calendar.Date(r.day).Time(), error(nil)
	if row.Measured != "" {
		if day, err = names.Day(row.Measured); err != nil {
			r.fault("measured", err.Error(), row.Measured)
		} else if dayOf(day) > r.day {
			r.fault("measured", "not after today", row.Measured)
		}
	}
	standing, there := people.Standing{Rungs: map[string]people.Rung{}}, peoplefile.Row{}
	if old != nil {
		standing, there = old.standing, old.row
	}
	var all []people.Record
	if m := r.measured(row, there); m != nil {
		all = append(all, people.Record{Measure: m})
	}
	for _, id := range strings.Fields(row.Levels) {
		x := people.Record{Level: &people.Level{Move: id, Cause: people.ByHand}}
		if v, ok := r.lib.Get(id); ok && standing.Rungs[v.Ladder].Move == id {
			continue
		}
		all = append(all, x)
	}
	had := strings.Fields(there.Limits)
	for _, id := range strings.Fields(row.Limits) {
		if !slices.Contains(had, id) {
			all = append(all, people.Record{Limit: &people.Limit{Limit: moves.LimitID(id)}})
		}
	}
	var out []store.PersonRecord
	for _, x := range all {
		at := day
		if x.Measure == nil {
			at = calendar.Date(r.day).Time()
		}
		x.Day = dayOf(at)
		for _, f := range x.Check(r.lib) {
			field := map[people.Kind]string{people.OfLevel: "levels", people.OfLimit: "limits"}[x.Kind()]
			value, _ := f.Value.(string)
			r.fault(cmp.Or(field, "body"), f.Message, value)
		}
		rec, err := recordRow("", at, x)
		if err != nil {
			r.fault("", err.Error(), "")
		}
		out = append(out, rec)
	}
	return out
}

// measured reads body and stature where they are others than those known.
func (r *peopleReader) measured(row, there peoplefile.Row) *people.Measure {
	unit := measure.Unit(cmp.Or(row.Unit, there.Unit, string(r.unit)))
	var m people.Measure
	take := func(field, text, had, on string, q measure.Quantity, err error) *measure.Quantity {
		switch {
		case text == "":
		case err != nil:
			r.fault(field, err.Error(), text)
		case measure.Write(q.Typed) != had || on != "" && on != there.Measured:
			return &q
		}
		return nil
	}
	body, err := people.ReadBody(row.Body, unit)
	m.Body = take("body", row.Body, there.Body, row.Measured, body, err)
	stature, err := people.ReadStature(row.Stature, unit.OfLength())
	m.Stature = take("stature", row.Stature, there.Stature, row.Measured, stature, err)
	if m.Body == nil && m.Stature == nil {
		return nil
	}
	return &m
}
