package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/formats/studiofile"
)

// maxExport bounds each list of an export; a studio that has more is refused
// rather than cut.
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

// Export gives everything of a studio as of one instant.
func (s *Store) Export(ctx context.Context, sc Scope) (studiofile.File, error) {
	f := studiofile.File{Format: studiofile.Format, V: studiofile.Version, Library: moves.Version, Places: []studiofile.Place{}, Classes: []studiofile.Class{}}
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var st Studio
		if err := tx.First(&st, sc.StudioID).Error; err != nil {
			return translate(err)
		}
		f.Studio = studiofile.Studio{Name: st.Name, TimeZone: st.TimeZone, MassUnit: st.MassUnit}
		if err := exportTeaching(tx, sc, st, &f); err != nil {
			return err
		}
		places, err := all(tx, sc, func(Place) int64 { return 0 })
		if err != nil {
			return err
		}
		ids, err := exportPlaces(tx, sc, places[0], &f)
		if err != nil {
			return err
		}
		return exportClasses(tx, sc, ids, &f)
	})
	return f, err
}

func exportTeaching(tx *gorm.DB, sc Scope, st Studio, f *studiofile.File) error {
	var err error
	if f.Style, err = moves.ParseStyle(st.Style); err != nil {
		return err
	}
	rows, err := ownMoves(tx, sc)
	if err != nil {
		return err
	}
	f.Moves, err = moves.ParseOwn(stored(rows))
	return err
}

func exportPlaces(tx *gorm.DB, sc Scope, places []Place, f *studiofile.File) (map[int64]string, error) {
	implements, err := all(tx, sc, func(r Implement) int64 { return r.PlaceID })
	if err != nil {
		return nil, err
	}
	objects, err := all(tx, sc, func(r Object) int64 { return r.PlaceID })
	if err != nil {
		return nil, err
	}
	containers, err := all(tx, sc, func(r Container) int64 { return r.PlaceID })
	ids := map[int64]string{}
	typed := func(decimal, unit *string) *studiofile.Quantity {
		if decimal == nil || unit == nil {
			return nil
		}
		return &studiofile.Quantity{Decimal: *decimal, Unit: *unit}
	}
	for _, p := range places {
		ids[p.ID] = p.PublicID
		out := studiofile.Place{ID: p.PublicID, Name: p.Name, Kind: p.Kind, MassUnit: p.MassUnit, Retired: p.RetiredAt,
			Implements: []studiofile.Implement{}, Objects: []studiofile.Object{}, Containers: []studiofile.Container{}}
		for _, x := range implements[p.ID] {
			out.Implements = append(out.Implements, studiofile.Implement{ID: x.PublicID, Name: x.Name, Kind: x.Kind, Mass: typed(x.MassDecimal, x.MassUnit),
				Height: typed(x.HeightDecimal, x.HeightUnit), Count: x.Count, Checked: x.Checked, Details: &x.Details, Retired: x.RetiredAt})
		}
		for _, x := range objects[p.ID] {
			out.Objects = append(out.Objects, studiofile.Object{ID: x.PublicID, Name: x.Name, Use: x.UseAs, Mass: *typed(&x.MassDecimal, &x.MassUnit), Count: x.Count, Details: &x.Details, Retired: x.RetiredAt})
		}
		for _, x := range containers[p.ID] {
			out.Containers = append(out.Containers, studiofile.Container{ID: x.PublicID, Name: x.Name, Mass: *typed(&x.MassDecimal, &x.MassUnit),
				Max: *typed(&x.MaxDecimal, &x.MaxUnit), Details: &x.Details, Retired: x.RetiredAt})
		}
		f.Places = append(f.Places, out)
	}
	return ids, err
}

func exportClasses(tx *gorm.DB, sc Scope, places map[int64]string, f *studiofile.File) error {
	classes, err := all(tx, sc, func(Occurrence) int64 { return 0 })
	lanes, err2 := all(tx, sc, func(r OccurrenceLane) int64 { return r.OccurrenceID })
	people, err3 := all(tx, sc, func(r Participant) int64 { return r.OccurrenceID })
	circuits, err4 := all(tx, sc, func(r Circuit) int64 { return r.OccurrenceID })
	versions, err5 := all(tx, sc, func(r CircuitVersion) int64 { return r.CircuitID })
	runs, err6 := all(tx, sc, func(r Run) int64 { return r.OccurrenceID })
	presses, err7 := all(tx, sc, func(r RunEvent) int64 { return r.RunID })
	lines, err8 := all(tx, sc, func(r LogLine) int64 { return r.OccurrenceID })
	past, err9 := all(tx, sc, func(r LogLinePast) int64 { return r.OccurrenceID })
	if err := errors.Join(err, err2, err3, err4, err5, err6, err7, err8, err9); err != nil {
		return err
	}
	for _, o := range classes[0] {
		k := studiofile.Class{ID: o.PublicID, Place: places[o.PlaceID], Name: o.Name, Date: o.LocalDate.Format(time.DateOnly), Time: o.LocalTime, TimeZone: o.TimeZone,
			Minutes: o.Minutes, Lanes: []studiofile.Lane{}, People: []studiofile.Person{}, Runs: []studiofile.Run{}, Log: []studiofile.Line{}}
		for _, l := range lanes[o.ID] {
			k.Lanes = append(k.Lanes, studiofile.Lane{Lane: l.Lane, People: l.People, Body: studiofile.Quantity{Decimal: l.BodyDecimal, Unit: l.BodyUnit}, BodyKnown: l.BodyKnown,
				Stature: studiofile.Quantity{Decimal: l.StatureDecimal, Unit: l.StatureUnit}})
		}
		for _, p := range people[o.ID] {
			k.People = append(k.People, studiofile.Person{ID: p.PublicID, Name: p.Name, Lane: p.Lane})
		}
		for _, c := range circuits[o.ID] {
			k.Circuit = &studiofile.Circuit{ID: c.PublicID, Head: c.Head}
			for _, v := range versions[c.ID] {
				k.Circuit.Versions = append(k.Circuit.Versions, studiofile.State{Version: v.Version, Base: v.Base, ClientID: v.ClientID, Kind: v.Kind, Side: v.Side,
					Ops: v.Ops, Inverse: v.Inverse, Document: v.Document, Notes: v.Notes, UndoTo: v.UndoTo, RedoTo: v.RedoTo, Made: v.CreatedAt})
			}
		}
		for _, r := range runs[o.ID] {
			run := studiofile.Run{ID: r.PublicID, Version: r.CircuitVersion, Plan: r.Plan, Made: r.CreatedAt, Presses: []studiofile.Press{}}
			for _, p := range presses[r.ID] {
				run.Presses = append(run.Presses, studiofile.Press{ID: p.ClientID, Kind: p.Kind, At: p.At, Ms: p.Ms, Device: p.Device, N: p.N})
			}
			k.Runs = append(k.Runs, run)
		}
		overtaken := map[Line][]studiofile.Past{}
		for _, p := range past[o.ID] {
			at := Line{p.Subject, p.Slot}
			overtaken[at] = append(overtaken[at], studiofile.Past{Done: p.Done, InForm: p.InForm, Reserve: p.Reserve, Pain: p.Pain, Joint: p.Joint, Others: p.Others, LoadG: p.LoadG,
				Device: p.Device, N: p.N, Written: p.WrittenAt})
		}
		for _, l := range lines[o.ID] {
			k.Log = append(k.Log, studiofile.Line{Device: l.Device, N: l.N, Overtaken: overtaken[Line{l.Subject, l.Slot}], Subject: l.Subject, Slot: l.Slot, Lane: l.Lane, Variant: l.Variant, Planned: l.Planned, Done: l.Done, InForm: l.InForm,
				Reserve: l.Reserve, Pain: l.Pain, Joint: l.Joint, Others: l.Others, LoadG: l.LoadG, Hold: l.Hold, TooLight: l.TooLight, ResistanceG: l.ResistanceG, Library: l.LibraryVersion, Written: l.UpdatedAt})
		}
		f.Classes = append(f.Classes, k)
	}
	return nil
}

// Imported counts what a file brought and what stood there already.
type Imported struct {
	Moves, Places, Items, Classes, People, Circuits, Runs, Lines, Kept int
}

// errTry ends an import that was only tried.
var errTry = errors.New("only tried")

// Import puts into a studio what a checked file has and the studio has not, by
// id, in one transaction; what stands there stays as it is. Tried only, nothing
// is kept of it, and the answer says what it would bring.
func (s *Store) Import(ctx context.Context, sc Scope, f studiofile.File, try bool) (Imported, error) {
	var done Imported
	err := s.teach(ctx, sc, func(tx *gorm.DB, st *Studio) error {
		i := importer{tx: tx, sc: sc}
		if err := i.teaching(st, f); err != nil {
			return err
		}
		for n, p := range f.Places {
			if err := i.place(p); err != nil {
				return fmt.Errorf("places[%d]: %w", n, err)
			}
		}
		for n, k := range f.Classes {
			if err := i.class(k); err != nil {
				return fmt.Errorf("classes[%d]: %w", n, err)
			}
		}
		done = i.done
		if try {
			return errTry
		}
		return nil
	})
	if errors.Is(err, errTry) {
		err = nil
	}
	return done, err
}

type importer struct {
	tx   *gorm.DB
	sc   Scope
	done Imported
}

// once makes a row unless one of its id is there; either way it gives the row's
// key inside.
func once[T any](i *importer, publicID string, count *int, row T, key func(T) int64, check func() error) (int64, bool, error) {
	old, err := get[T](i.tx, i.sc, publicID)
	if err == nil {
		i.done.Kept++
		return key(old), false, nil
	}
	if !errors.Is(err, ErrNotFound) {
		return 0, false, err
	}
	if check != nil {
		if err := check(); err != nil {
			return 0, false, err
		}
	}
	*count++
	err = i.tx.Create(&row).Error
	return key(row), true, err
}

func (i *importer) row() Row { return Row{StudioID: i.sc.StudioID} }

// teaching brings own moves, and the style of a house that has not chosen one.
func (i *importer) teaching(st *Studio, f studiofile.File) error {
	for _, v := range f.Moves {
		b, err := json.Marshal(v)
		if err != nil {
			return err
		}
		_, _, err = once(i, v.ID, &i.done.Moves, OwnMove{Row: i.row(), PublicID: v.ID, Variant: b}, func(r OwnMove) int64 { return r.ID },
			func() error { return room[OwnMove](i.tx, i.sc, "", 0, MaxOwnMoves) })
		if err != nil {
			return err
		}
	}
	mine, err := moves.ParseStyle(st.Style)
	if err != nil || len(mine.Studio)+len(mine.Moves) > 0 || len(f.Style.Studio)+len(f.Style.Moves) == 0 {
		return err
	}
	st.Style, err = json.Marshal(f.Style)
	return err
}

func (i *importer) place(p studiofile.Place) error {
	id, _, err := once(i, p.ID, &i.done.Places, Place{Row: i.row(), PublicID: p.ID, Name: p.Name, Kind: p.Kind, MassUnit: p.MassUnit, RetiredAt: p.Retired},
		func(r Place) int64 { return r.ID }, func() error { return room[Place](i.tx, i.sc, "", 0, MaxPlaces) })
	if err != nil {
		return err
	}
	for _, x := range p.Implements {
		row := Implement{Row: i.row(), PlaceID: id, PublicID: x.ID, Name: x.Name, Kind: x.Kind, Count: x.Count, Checked: x.Checked, Details: valueOf(x.Details), RetiredAt: x.Retired}
		row.MassDecimal, row.MassUnit, row.MassG = typedColumns(x.Mass)
		row.HeightDecimal, row.HeightUnit, row.HeightMm = typedColumns(x.Height)
		if err := importItem(i, x.ID, id, row, func(r Implement) int64 { return r.ID }); err != nil {
			return err
		}
	}
	for _, x := range p.Objects {
		g, _ := x.Mass.Whole()
		row := Object{Row: i.row(), PlaceID: id, PublicID: x.ID, Name: x.Name, UseAs: x.Use, MassDecimal: x.Mass.Decimal, MassUnit: x.Mass.Unit, MassG: g, Count: x.Count, Details: valueOf(x.Details), RetiredAt: x.Retired}
		if err := importItem(i, x.ID, id, row, func(r Object) int64 { return r.ID }); err != nil {
			return err
		}
	}
	for _, x := range p.Containers {
		g, _ := x.Mass.Whole()
		most, _ := x.Max.Whole()
		row := Container{Row: i.row(), PlaceID: id, PublicID: x.ID, Name: x.Name, MassDecimal: x.Mass.Decimal, MassUnit: x.Mass.Unit, MassG: g,
			MaxDecimal: x.Max.Decimal, MaxUnit: x.Max.Unit, MaxG: most, Details: valueOf(x.Details), RetiredAt: x.Retired}
		if err := importItem(i, x.ID, id, row, func(r Container) int64 { return r.ID }); err != nil {
			return err
		}
	}
	return nil
}

func importItem[T item](i *importer, publicID string, place int64, row T, key func(T) int64) error {
	_, _, err := once(i, publicID, &i.done.Items, row, key, func() error { return room[T](i.tx, i.sc, "place_id", place, MaxItems) })
	return err
}

// valueOf gives what a file may leave out.
func valueOf[T any](p *T) T {
	if p == nil {
		return *new(T)
	}
	return *p
}

// typedColumns gives the three columns of a quantity that may be missing; the
// file has been checked.
func typedColumns(q *studiofile.Quantity) (decimal, unit *string, whole *int64) {
	if q == nil {
		return nil, nil, nil
	}
	n, _ := q.Whole()
	return &q.Decimal, &q.Unit, &n
}

func (i *importer) class(k studiofile.Class) error {
	p, err := get[Place](i.tx, i.sc, k.Place)
	if err != nil {
		return err
	}
	day, err := time.Parse(time.DateOnly, k.Date)
	if err != nil {
		return err
	}
	id, fresh, err := once(i, k.ID, &i.done.Classes, Occurrence{Row: i.row(), PlaceID: p.ID, PublicID: k.ID, Name: k.Name, LocalDate: day, LocalTime: k.Time,
		TimeZone: k.TimeZone, Minutes: k.Minutes}, func(r Occurrence) int64 { return r.ID }, nil)
	if err != nil {
		return err
	}
	if fresh {
		var lanes []OccurrenceLane
		for _, l := range k.Lanes {
			g, _ := l.Body.Whole()
			mm, _ := l.Stature.Whole()
			lanes = append(lanes, OccurrenceLane{Row: i.row(), OccurrenceID: id, Lane: l.Lane, People: l.People, BodyDecimal: l.Body.Decimal, BodyUnit: l.Body.Unit, BodyG: g, BodyKnown: l.BodyKnown,
				StatureDecimal: l.Stature.Decimal, StatureUnit: l.Stature.Unit, StatureMm: mm})
		}
		if err := i.tx.Create(&lanes).Error; err != nil {
			return err
		}
	}
	people := map[string]int64{}
	for _, x := range k.People {
		key, fresh, err := once(i, x.ID, &i.done.People, Participant{Row: i.row(), OccurrenceID: id, PublicID: x.ID, Name: x.Name, Lane: x.Lane},
			func(r Participant) int64 { return r.ID }, func() error { return room[Participant](i.tx, i.sc, "occurrence_id", id, MaxParticipants) })
		if err != nil {
			return err
		}
		if !fresh { // an id is one person's in one class
			var n int64
			if err := i.tx.Model(&Participant{}).Where("studio_id = ? AND id = ? AND occurrence_id = ?", i.sc.StudioID, key, id).Count(&n).Error; err != nil || n == 0 {
				return errors.Join(err, ErrConflict)
			}
		}
		people[x.ID] = key
	}
	if k.Circuit != nil {
		if err := i.circuit(id, *k.Circuit); err != nil {
			return err
		}
	}
	for _, r := range k.Runs {
		if err := i.run(id, r); err != nil {
			return err
		}
	}
	return i.lines(id, people, k.Log)
}

func (i *importer) circuit(class int64, k studiofile.Circuit) error {
	var n int64
	if err := i.tx.Model(&Circuit{}).Where("studio_id = ? AND occurrence_id = ?", i.sc.StudioID, class).Count(&n).Error; err != nil {
		return err
	}
	if n > 0 { // a class has one circuit, and the one there stays
		i.done.Kept++
		return nil
	}
	id, fresh, err := once(i, k.ID, &i.done.Circuits, Circuit{Row: i.row(), OccurrenceID: class, PublicID: k.ID, Head: k.Head}, func(r Circuit) int64 { return r.ID }, nil)
	if err != nil || !fresh {
		return err
	}
	rows := make([]CircuitVersion, 0, len(k.Versions))
	for _, v := range k.Versions {
		rows = append(rows, CircuitVersion{Row: i.row(), CircuitID: id, Version: v.Version, Base: v.Base, ClientID: v.ClientID, Kind: v.Kind, Side: v.Side,
			Ops: v.Ops, Inverse: v.Inverse, Document: v.Document, Notes: listOrNone(v.Notes), UndoTo: v.UndoTo, RedoTo: v.RedoTo, CreatedAt: v.Made})
	}
	return i.tx.CreateInBatches(&rows, 50).Error
}

func (i *importer) run(class int64, r studiofile.Run) error {
	id, fresh, err := once(i, r.ID, &i.done.Runs, Run{Row: i.row(), OccurrenceID: class, PublicID: r.ID, CircuitVersion: r.Version, Plan: r.Plan, CreatedAt: r.Made},
		func(r Run) int64 { return r.ID }, nil)
	if err != nil || !fresh || len(r.Presses) == 0 {
		return err
	}
	rows := make([]RunEvent, 0, len(r.Presses))
	for n, p := range r.Presses {
		rows = append(rows, RunEvent{Row: i.row(), RunID: id, Seq: n + 1, ClientID: p.ID, Kind: p.Kind, At: p.At, Ms: p.Ms, Device: p.Device, N: p.N})
	}
	return i.tx.CreateInBatches(&rows, 500).Error
}

func (i *importer) lines(class int64, people map[string]int64, lines []studiofile.Line) error {
	old, err := list[LogLine](i.tx, i.sc, "occurrence_id", class, MaxLogLines)
	if err != nil {
		return err
	}
	there := map[string]bool{}
	for _, l := range old {
		there[l.Subject+"/"+l.Slot] = true
	}
	var rows []LogLine
	var past []LogLinePast
	for _, l := range lines {
		if there[l.Subject+"/"+l.Slot] {
			i.done.Kept++
			continue
		}
		row := LogLine{Row: i.row(), OccurrenceID: class, Subject: l.Subject, Slot: l.Slot, Lane: l.Lane, Variant: l.Variant, Planned: l.Planned, Done: l.Done,
			InForm: l.InForm, Reserve: l.Reserve, Pain: l.Pain, Joint: l.Joint, Others: l.Others, LoadG: l.LoadG, Hold: l.Hold, TooLight: l.TooLight, ResistanceG: l.ResistanceG, LibraryVersion: l.Library, Device: l.Device, N: l.N, UpdatedAt: l.Written}
		if id, ok := people[l.Subject]; ok {
			row.ParticipantID = &id
		}
		rows = append(rows, row)
		for _, p := range l.Overtaken {
			past = append(past, LogLinePast{Row: i.row(), OccurrenceID: class, Subject: l.Subject, Slot: l.Slot, Done: p.Done, InForm: p.InForm, Reserve: p.Reserve, Pain: p.Pain,
				Joint: p.Joint, Others: p.Others, LoadG: p.LoadG, Device: p.Device, N: p.N, WrittenAt: p.Written, CreatedAt: p.Written})
		}
	}
	i.done.Lines += len(rows)
	if len(past) > 0 {
		if err := i.tx.CreateInBatches(&past, 200).Error; err != nil {
			return err
		}
	}
	if len(rows) == 0 {
		return nil
	}
	return i.tx.CreateInBatches(&rows, 200).Error
}
