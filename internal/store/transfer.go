package store

import (
	"context"
	"errors"
	"maps"
	"slices"

	"nimbleanvil/internal/core/moves"

	"gorm.io/gorm"
)

// Everything is all rows of a studio. Keys are those inside: rows that belong together
// stand together, and a place that is named is named by its id outside.
type Everything struct {
	Studio    Studio
	Moves     []OwnMove
	Templates []HouseTemplate
	Series    []Series
	People    []PersonRows
	Erased    []Erased
	Places    []PlaceRows
	Classes   []ClassRows
}

// PersonRows is a person with all that is known of them; Health only where it was asked for.
type PersonRows struct {
	Person
	// Groups are the series that they are a regular of, by id outside.
	Groups  []string
	Records []PersonRecord
	Health  []HealthRecord
}

// PlaceRows is a place with all it ever had.
type PlaceRows struct {
	Place
	Implements []Implement
	Objects    []Object
	Containers []Container
}

// ClassRows is a class with all that belongs to it.
type ClassRows struct {
	Occurrence
	PlacePublicID string
	// SeriesPublicID is empty where only its name says which series a class is one of.
	SeriesPublicID string
	Lanes          []OccurrenceLane
	People         []Attendee
	Circuit        *Circuit // nil for none
	Versions       []CircuitVersion
	Runs           []RunRows
	Lines          []LogLine
	Past           []LogLinePast
}

// RunRows is a run with its presses.
type RunRows struct {
	Run
	Events []RunEvent
}

// maxExport bounds each list of an export; a studio that has more is refused rather than
// cut.
const maxExport = 1_000_000

// all reads the rows of a studio, by parent, in the order they were made.
func all[T any](tx *gorm.DB, sc Scope, parent func(T) int64) (map[int64][]T, error) {
	var rows []T
	if err := tx.Where("studio_id = ?", sc.StudioID).Order("id").Limit(maxExport + 1).Find(&rows).Error; err != nil {
		return nil, err
	}
	if len(rows) > maxExport {
		return nil, ErrFull
	}
	out := map[int64][]T{}
	for _, r := range rows {
		out[parent(r)] = append(out[parent(r)], r)
	}
	return out, nil
}

// Export reads everything of a studio as of one instant, people's health where it is asked for.
func (s *Store) Export(ctx context.Context, sc Scope, health bool) (Everything, error) {
	var out Everything
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.First(&out.Studio, sc.StudioID).Error; err != nil {
			return translate(err)
		}
		var err error
		if out.Moves, err = ownMoves(tx, sc); err != nil {
			return err
		}
		if out.Templates, err = templates(tx, sc); err != nil {
			return err
		}
		ids, err := exportPlaces(tx, sc, &out)
		if err != nil {
			return err
		}
		if err := exportClasses(tx, sc, ids, &out); err != nil {
			return err
		}
		return exportPeople(tx, sc, health, &out)
	})
	return out, err
}

func exportPlaces(tx *gorm.DB, sc Scope, out *Everything) (map[int64]string, error) {
	places, err := all(tx, sc, func(Place) int64 { return 0 })
	implements, err2 := all(tx, sc, func(r Implement) int64 { return r.PlaceID })
	objects, err3 := all(tx, sc, func(r Object) int64 { return r.PlaceID })
	containers, err4 := all(tx, sc, func(r Container) int64 { return r.PlaceID })
	ids := map[int64]string{}
	for _, p := range places[0] {
		ids[p.ID] = p.PublicID
		out.Places = append(out.Places, PlaceRows{p, implements[p.ID], objects[p.ID], containers[p.ID]})
	}
	return ids, errors.Join(err, err2, err3, err4)
}

func exportClasses(tx *gorm.DB, sc Scope, places map[int64]string, out *Everything) error {
	classes, err := all(tx, sc, func(Occurrence) int64 { return 0 })
	lanes, err2 := all(tx, sc, func(r OccurrenceLane) int64 { return r.OccurrenceID })
	attendees, err3 := all(tx, sc, func(r Participant) int64 { return r.OccurrenceID })
	series, err10 := all(tx, sc, func(Series) int64 { return 0 })
	circuits, err4 := all(tx, sc, func(r Circuit) int64 { return r.OccurrenceID })
	versions, err5 := all(tx, sc, func(r CircuitVersion) int64 { return r.CircuitID })
	runs, err6 := all(tx, sc, func(r Run) int64 { return r.OccurrenceID })
	events, err7 := all(tx, sc, func(r RunEvent) int64 { return r.RunID })
	lines, err8 := all(tx, sc, func(r LogLine) int64 { return r.OccurrenceID })
	past, err9 := all(tx, sc, func(r LogLinePast) int64 { return r.OccurrenceID })
	if err := errors.Join(err, err2, err3, err4, err5, err6, err7, err8, err9, err10); err != nil {
		return err
	}
	people, err := publicIDs(tx, sc, &Person{})
	if err != nil {
		return err
	}
	out.Series = series[0]
	seriesOf := map[int64]string{}
	for _, x := range out.Series {
		seriesOf[x.ID] = x.PublicID
	}
	for _, o := range classes[0] {
		if o.RemovedAt != nil { // nothing happened in it
			continue
		}
		k := ClassRows{
			Occurrence:     o,
			PlacePublicID:  places[o.PlaceID],
			SeriesPublicID: seriesOf[o.SeriesID],
			Lanes:          lanes[o.ID],
			Lines:          lines[o.ID],
			Past:           past[o.ID],
		}
		for _, p := range attendees[o.ID] {
			a := Attendee{Participant: p}
			if p.PersonID != nil {
				a.PersonPublicID = people[*p.PersonID]
			}
			k.People = append(k.People, a)
		}
		for _, c := range circuits[o.ID] {
			k.Circuit, k.Versions = &c, versions[c.ID]
		}
		for _, r := range runs[o.ID] {
			k.Runs = append(k.Runs, RunRows{r, events[r.ID]})
		}
		out.Classes = append(out.Classes, k)
	}
	return nil
}

// Imported counts what was brought in and what stood there already.
type Imported struct {
	Moves, Templates, Places, Items, Classes, People, Persons, Records, Circuits, Runs, Lines, Kept int
}

// errTry ends an import that was only tried.
var errTry = errors.New("only tried")

// Import puts into a studio what it has not yet, by id, in one transaction; what stands
// there stays as it is. The number of statements grows with hundreds of rows, not with
// rows. Tried only, nothing is kept of it, and the answer says what it would bring. An id
// that is another class's is ErrConflict, a list that would be over its limit ErrFull.
func (s *Store) Import(ctx context.Context, sc Scope, e Everything, try bool, spare Spare) (Imported, error) {
	var done Imported
	err := s.teach(ctx, sc, func(tx *gorm.DB, st *Studio) error {
		i := importer{tx: tx, sc: sc, spare: spare}
		mine, err := moves.ParseStyle(st.Style)
		if err != nil {
			return err
		}
		if len(mine.Studio)+len(mine.Moves)+len(mine.Prep) == 0 && mine.Times == nil &&
			len(e.Studio.Style) > 0 { // a house that has not chosen
			st.Style = e.Studio.Style
		}
		err = i.forget(&e)
		if err == nil {
			err = i.places(e)
		}
		if err == nil {
			err = i.classes(s, e)
		}
		if err == nil {
			err = i.raise()
		}
		if done = i.done; err == nil && try {
			err = errTry
		}
		return err
	})
	if errors.Is(err, errTry) {
		err = nil
	}
	return done, err
}

type importer struct {
	tx    *gorm.DB
	sc    Scope
	done  Imported
	spare Spare
}

// manyRows is how many rows one statement reads or makes.
const manyRows = 500

// keyed is a row as it is found by its id outside.
type keyed struct {
	ID       int64
	PublicID string
	Parent   int64
}

// found reads the keys of the rows that are there, by id outside; parent is the column of
// what they belong to, "0" for none.
func (i *importer) found(model any, parent string, ids []string) (map[string]keyed, error) {
	out := map[string]keyed{}
	for some := range slices.Chunk(ids, manyRows) {
		var rows []keyed
		err := i.tx.Model(model).
			Select("id, public_id, "+parent+" AS parent").
			Where("studio_id = ? AND public_id IN ?", i.sc.StudioID, some).
			Limit(manyRows).
			Scan(&rows).
			Error
		if err != nil {
			return nil, err
		}
		for _, r := range rows {
			out[r.PublicID] = r
		}
	}
	return out, nil
}

// insertMissing makes those rows that are not there by their ids outside, and gives the
// keys of all of them and which were made.
func insertMissing[T any](
	i *importer,
	parent string,
	rows []T,
	id func(T) string,
	count *int,
) (keys map[string]keyed, made map[string]bool, err error) {
	ids := make([]string, 0, len(rows))
	for _, r := range rows {
		ids = append(ids, id(r))
	}
	if keys, err = i.found(new(T), parent, ids); err != nil {
		return nil, nil, err
	}
	made = map[string]bool{}
	var fresh []T
	for _, r := range rows {
		if _, there := keys[id(r)]; there {
			i.done.Kept++
			continue
		}
		fresh, made[id(r)] = append(fresh, r), true
	}
	if len(fresh) == 0 {
		return keys, made, nil
	}
	*count += len(fresh)
	if err := i.tx.CreateInBatches(&fresh, manyRows).Error; err != nil {
		return nil, nil, err
	}
	got, err := i.found(new(T), parent, slices.Collect(maps.Keys(made)))
	maps.Copy(keys, got)
	return keys, made, err
}

// checkCapacity refuses what has made a list longer than it may be: of the studio, or, by
// a column, of anything in it.
func (i *importer) checkCapacity(model any, parent string, most int) error {
	var over []int64
	q := i.tx.Model(model).Select("COUNT(*) AS n").Where("studio_id = ?", i.sc.StudioID)
	if parent != "" {
		q = q.Group(parent)
	}
	if err := q.Having("n > ?", most).Limit(1).Pluck("n", &over).Error; err != nil {
		return err
	}
	if len(over) > 0 {
		return ErrFull
	}
	return nil
}

func (i *importer) row() Row { return Row{StudioID: i.sc.StudioID} }

// places brings own moves and places with what they have.
func (i *importer) places(e Everything) error {
	for n := range e.Moves {
		e.Moves[n].Row = i.row()
	}
	if _, _, err := insertMissing(i, "0", e.Moves, func(r OwnMove) string { return r.PublicID }, &i.done.Moves); err != nil {
		return err
	}
	for n := range e.Templates {
		e.Templates[n].Row = i.row()
	}
	_, _, err := insertMissing(
		i, "0", e.Templates, func(r HouseTemplate) string { return r.PublicID }, &i.done.Templates,
	)
	if err != nil {
		return err
	}
	places := make([]Place, 0, len(e.Places))
	for _, p := range e.Places {
		p.Row = i.row()
		places = append(places, p.Place)
	}
	keys, _, err := insertMissing(i, "0", places, func(r Place) string { return r.PublicID }, &i.done.Places)
	if err != nil {
		return err
	}
	var implements []Implement
	var objects []Object
	var containers []Container
	for _, p := range e.Places {
		at := keys[p.PublicID].ID
		for _, x := range p.Implements {
			x.Row = Row{}
			implements = append(implements, x.at(i.sc, at))
		}
		for _, x := range p.Objects {
			x.Row = Row{}
			objects = append(objects, x.at(i.sc, at))
		}
		for _, x := range p.Containers {
			x.Row = Row{}
			containers = append(containers, x.at(i.sc, at))
		}
	}
	_, _, err = insertMissing(i, "place_id", implements, func(r Implement) string { return r.PublicID }, &i.done.Items)
	_, _, err2 := insertMissing(i, "place_id", objects, func(r Object) string { return r.PublicID }, &i.done.Items)
	_, _, err3 := insertMissing(
		i,
		"place_id",
		containers,
		func(r Container) string { return r.PublicID },
		&i.done.Items,
	)
	if err := errors.Join(err, err2, err3); err != nil {
		return err
	}
	return errors.Join(
		i.checkCapacity(&OwnMove{}, "", MaxOwnMoves),
		i.checkCapacity(&HouseTemplate{}, "", MaxTemplates),
		i.checkCapacity(&Place{}, "", MaxPlaces),
		i.checkCapacity(&Implement{}, "place_id", MaxItems),
		i.checkCapacity(&Object{}, "place_id", MaxItems),
		i.checkCapacity(&Container{}, "place_id", MaxItems),
	)
}

// raise changes the stamp of everything, since anything may have changed.
func (i *importer) raise() error {
	err := i.tx.Model(&Place{}).Where("studio_id = ?", i.sc.StudioID).Update("stamp", newStamp()).Error
	return errors.Join(err,
		i.tx.Model(&Series{}).Where("studio_id = ?", i.sc.StudioID).Update("stamp", newStamp()).Error)
}

// seriesOf gives the keys of the series that classes are one of, by id outside and, where
// they have none, by name. A series of a name that another has here is that one.
func (i *importer) seriesOf(s *Store, e Everything) (byID, byName map[string]int64, err error) {
	byID, byName = map[string]int64{}, map[string]int64{}
	var ids []string
	for _, x := range e.Series {
		ids = append(ids, x.PublicID)
	}
	there, err := i.found(&Series{}, "0", ids)
	if err != nil {
		return nil, nil, err
	}
	for _, x := range e.Series {
		if k, ok := there[x.PublicID]; ok {
			byID[x.PublicID] = k.ID
			continue
		}
		if byID[x.PublicID], err = s.seriesWithID(i.tx, i.sc, x.PublicID, x.Name); err != nil {
			return nil, nil, err
		}
	}
	for _, k := range e.Classes {
		if k.SeriesPublicID == "" && byName[k.Name] == 0 { // few names, however many classes
			if byName[k.Name], err = s.seriesNamed(i.tx, i.sc, k.Name); err != nil {
				return nil, nil, err
			}
		}
	}
	return byID, byName, nil
}

// classes brings classes with all that belongs to them.
func (i *importer) classes(s *Store, e Everything) error {
	all := e.Classes
	at, err := i.placesOf(all)
	if err != nil {
		return err
	}
	byID, byName, err := i.seriesOf(s, e)
	if err != nil {
		return err
	}
	rows := make([]Occurrence, 0, len(all))
	for n := range all {
		k := &all[n]
		k.Row, k.PlaceID, k.SeriesID = i.row(), at[k.PlacePublicID].ID, byName[k.Name]
		if k.SeriesPublicID != "" {
			k.SeriesID = byID[k.SeriesPublicID]
		}
		rows = append(rows, k.Occurrence)
	}
	classes, made, err := insertMissing(i, "0", rows, func(r Occurrence) string { return r.PublicID }, &i.done.Classes)
	if err != nil {
		return err
	}
	var lanes []OccurrenceLane
	for n := range all {
		k := &all[n]
		k.ID = classes[k.PublicID].ID
		for _, l := range k.Lanes {
			if l.Row, l.OccurrenceID = i.row(), k.ID; made[k.PublicID] {
				lanes = append(lanes, l)
			}
		}
	}
	if err := create(i, lanes); err != nil {
		return err
	}
	who, err := i.people(s, e, byID)
	if err != nil {
		return err
	}
	if err := errors.Join(i.checkCapacity(&Occurrence{}, "", MaxClasses), i.checkCapacity(&Person{}, "", MaxPeople),
		i.checkCapacity(&Participant{}, "occurrence_id", MaxParticipants)); err != nil {
		return err
	}
	if err := i.circuits(all); err != nil {
		return err
	}
	if err := i.runs(all); err != nil {
		return err
	}
	return i.lines(all, who)
}

// placesOf gives the keys of the places that classes are at.
func (i *importer) placesOf(all []ClassRows) (map[string]keyed, error) {
	ids := map[string]bool{}
	for _, k := range all {
		ids[k.PlacePublicID] = true
	}
	at, err := i.found(&Place{}, "0", slices.Sorted(maps.Keys(ids)))
	if err == nil && len(at) < len(ids) {
		err = ErrNotFound
	}
	return at, err
}

// create makes rows in few statements.
func create[T any](i *importer, rows []T) error {
	if len(rows) == 0 {
		return nil
	}
	return i.tx.CreateInBatches(&rows, manyRows).Error
}

// having gives those classes that have rows of a table already.
func (i *importer) having(model any, all []ClassRows) (map[int64]bool, error) {
	out := map[int64]bool{}
	for some := range slices.Chunk(all, manyRows) {
		var ids, has []int64
		for _, k := range some {
			ids = append(ids, k.ID)
		}
		err := i.tx.Model(model).
			Distinct("occurrence_id").
			Where("studio_id = ? AND occurrence_id IN ?", i.sc.StudioID, ids).
			Limit(manyRows).
			Pluck("occurrence_id", &has).
			Error
		if err != nil {
			return nil, err
		}
		for _, id := range has {
			out[id] = true
		}
	}
	return out, nil
}

// circuits brings the circuits of classes that have none: a class has one, and the one
// there stays.
func (i *importer) circuits(all []ClassRows) error {
	has, err := i.having(&Circuit{}, all)
	if err != nil {
		return err
	}
	var rows []Circuit
	for _, k := range all {
		switch {
		case k.Circuit == nil:
		case has[k.ID]:
			i.done.Kept++
		default:
			c := *k.Circuit
			c.Row, c.OccurrenceID = i.row(), k.ID
			for _, v := range k.Versions {
				c.Newest = max(c.Newest, v.Version)
			}
			rows = append(rows, c)
		}
	}
	keys, made, err := insertMissing(
		i,
		"occurrence_id",
		rows,
		func(r Circuit) string { return r.PublicID },
		&i.done.Circuits,
	)
	if err != nil {
		return err
	}
	for _, k := range all {
		if k.Circuit == nil || !made[k.Circuit.PublicID] || has[k.ID] {
			continue
		}
		for n := range k.Versions {
			v := &k.Versions[n]
			v.Row, v.CircuitID, v.Notes = i.row(), keys[k.Circuit.PublicID].ID, listOrNone(v.Notes)
		}
		if len(k.Versions) > 0 {
			if err := i.tx.CreateInBatches(&k.Versions, 50).Error; err != nil { // documents are long
				return err
			}
		}
	}
	return nil
}

func (i *importer) runs(all []ClassRows) error {
	var rows []Run
	for _, k := range all {
		for _, r := range k.Runs {
			r.Row, r.OccurrenceID = i.row(), k.ID
			rows = append(rows, r.Run)
		}
	}
	keys, made, err := insertMissing(i, "occurrence_id", rows, func(r Run) string { return r.PublicID }, &i.done.Runs)
	if err != nil {
		return err
	}
	var events []RunEvent
	for _, k := range all {
		for _, r := range k.Runs {
			for n, e := range r.Events {
				if e.Row, e.RunID, e.Seq = i.row(), keys[r.PublicID].ID, n+1; made[r.PublicID] {
					events = append(events, e)
				}
			}
		}
	}
	return create(i, events)
}

func (i *importer) lines(all []ClassRows, who map[string]keyed) error {
	has, err := i.having(&LogLine{}, all)
	if err != nil {
		return err
	}
	var rows []LogLine
	var past []LogLinePast
	for _, k := range all {
		there := map[Line]bool{}
		if has[k.ID] {
			old, err := list[LogLine](i.tx, i.sc, "occurrence_id", k.ID, MaxLogLines)
			if err != nil {
				return err
			}
			for _, l := range old {
				there[Line{l.Subject, l.Slot}] = true
			}
		}
		for _, l := range k.Lines {
			if there[Line{l.Subject, l.Slot}] {
				i.done.Kept++
				continue
			}
			l.Row, l.OccurrenceID, l.ParticipantID = i.row(), k.ID, nil
			if p, ok := who[l.Subject]; ok {
				l.ParticipantID = &p.ID
			}
			rows = append(rows, l)
		}
		for _, p := range k.Past {
			if p.Row, p.OccurrenceID = i.row(), k.ID; !there[Line{p.Subject, p.Slot}] {
				past = append(past, p)
			}
		}
	}
	i.done.Lines += len(rows)
	if err := errors.Join(create(i, rows), create(i, past)); err != nil {
		return err
	}
	var felt []PainReport // the keys are those that making the rows gave them
	for _, l := range rows {
		felt = append(felt, l.Felt.reports(PainReport{Row: i.row(), LineID: &l.ID, CreatedAt: l.UpdatedAt})...)
	}
	for _, p := range past {
		felt = append(felt, p.Felt.reports(PainReport{Row: i.row(), PastID: &p.ID, CreatedAt: p.WrittenAt})...)
	}
	return create(i, felt)
}
