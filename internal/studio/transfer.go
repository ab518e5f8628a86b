package studio

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"time"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/formats/studiofile"
	"nimbleanvil/internal/store"
)

// Imported counts what a file brings and what stands there already.
type Imported struct {
	Moves     int `json:"moves" doc:"of the studio's own"`
	Templates int `json:"templates" doc:"sessions that the house keeps"`
	Places    int `json:"places"`
	Items     int `json:"items" doc:"implements, objects and containers"`
	Classes   int `json:"classes"`
	People    int `json:"people" doc:"in classes"`
	Persons   int `json:"persons" doc:"whom the studio did not know"`
	Records   int `json:"records" doc:"of what is known of people"`
	Circuits  int `json:"circuits"`
	Runs      int `json:"runs"`
	Lines     int `json:"lines" doc:"of logs"`
	Kept      int `json:"kept" doc:"things of the file that stand there already and stay as they are"`
}

// Export gives everything of the studio as one document: people's health, and what hurt, only
// where it is asked for.
func (s Studio) Export(ctx context.Context, health bool) (studiofile.File, error) {
	e, err := s.store.Export(ctx, s.scope, health)
	if err != nil {
		return studiofile.File{}, err
	}
	f := studiofile.File{
		Format:  studiofile.Format,
		V:       studiofile.Version,
		Library: moves.Version,
		Places:  []studiofile.Place{},
		Classes: []studiofile.Class{},
		Studio:  studiofile.Studio{Name: e.Studio.Name, TimeZone: e.Studio.TimeZone, MassUnit: e.Studio.MassUnit},
	}
	if f.Style, err = moves.ParseStyle(e.Studio.Style); err != nil {
		return f, err
	}
	own := make([][]byte, 0, len(e.Moves))
	for _, m := range e.Moves {
		own = append(own, m.Variant)
	}
	if f.Moves, err = moves.ParseOwn(own); err != nil {
		return f, err
	}
	for _, x := range e.Templates {
		f.Templates = append(f.Templates, studiofile.Template{
			ID: x.PublicID, Name: x.Name, Minutes: x.Minutes, Document: x.Document, Made: x.CreatedAt,
		})
	}
	for _, x := range e.Series {
		f.Series = append(f.Series, studiofile.Series{ID: x.PublicID, Name: x.Name})
	}
	for _, x := range e.People {
		p, err := filePersonOf(x)
		if err != nil {
			return f, err
		}
		f.People = append(f.People, p)
	}
	for _, x := range e.Erased {
		f.Erased = append(f.Erased, x.Hash)
	}
	for _, p := range e.Places {
		f.Places = append(f.Places, filePlaceOf(p))
	}
	for _, k := range e.Classes {
		f.Classes = append(f.Classes, fileClassOf(k))
	}
	return f, nil
}

func filePlaceOf(p store.PlaceRows) studiofile.Place {
	out := studiofile.Place{ID: p.PublicID, Name: p.Name, Kind: p.Kind, MassUnit: p.MassUnit, Retired: p.RetiredAt,
		Implements: []studiofile.Implement{}, Objects: []studiofile.Object{}, Containers: []studiofile.Container{}}
	for i, r := range p.Implements {
		out.Add(r.PublicID, implementThing(r))
		out.Implements[i].Retired = r.RetiredAt
	}
	for i, r := range p.Objects {
		out.Add(r.PublicID, objectThing(r))
		out.Objects[i].Retired = r.RetiredAt
	}
	for i, r := range p.Containers {
		out.Add(r.PublicID, containerThing(r))
		out.Containers[i].Retired = r.RetiredAt
	}
	return out
}

func fileClassOf(o store.ClassRows) studiofile.Class {
	k := studiofile.Class{
		ID:       o.PublicID,
		Place:    o.PlacePublicID,
		Name:     o.Name,
		Date:     o.LocalDate.Format(time.DateOnly),
		Time:     o.LocalTime,
		TimeZone: o.TimeZone,
		Minutes:  o.Minutes,
		Lanes:    []studiofile.Lane{},
		Series:   o.SeriesPublicID,
		People:   []studiofile.Participant{},
		Runs:     []studiofile.Run{},
	}
	for _, l := range o.Lanes {
		k.Lanes = append(k.Lanes, studiofile.Lane{
			Lane:      l.Lane,
			People:    l.People,
			Body:      studiofile.Quantity{Decimal: l.BodyDecimal, Unit: l.BodyUnit},
			BodyKnown: l.BodyKnown,
			Stature:   studiofile.Quantity{Decimal: l.StatureDecimal, Unit: l.StatureUnit},
		})
	}
	for _, p := range o.People {
		k.People = append(k.People, studiofile.Participant{ID: p.PublicID, Person: p.PersonPublicID, Lane: p.Lane})
	}
	if c := o.Circuit; c != nil {
		k.Circuit = &studiofile.Circuit{ID: c.PublicID, Head: c.Head}
		for _, v := range o.Versions {
			k.Circuit.Versions = append(
				k.Circuit.Versions,
				studiofile.State{Version: v.Version, Base: v.Base, ClientID: v.ClientID, Kind: v.Kind, Side: v.Side,
					Ops: v.Ops, Inverse: v.Inverse, Document: v.Document, Notes: v.Notes, UndoTo: v.UndoTo, RedoTo: v.RedoTo, Made: v.CreatedAt},
			)
		}
	}
	for _, r := range o.Runs {
		out := studiofile.Run{
			ID:      r.PublicID,
			Version: r.CircuitVersion,
			Plan:    r.Plan,
			Made:    r.CreatedAt,
			Presses: []studiofile.Press{},
		}
		for _, p := range r.Events {
			out.Presses = append(out.Presses,
				studiofile.Press{ID: p.ClientID, Kind: p.Kind, At: p.At, Ms: p.Ms, Device: p.Device, N: p.N,
					Party: p.Party, Slot: p.Slot, Detail: said(p.Detail)})
		}
		k.Runs = append(k.Runs, out)
	}
	k.Log = fileLinesOf(o.Lines, o.Past)
	return k
}

// fileLinesOf writes lines of one log down with what they overtook.
func fileLinesOf(lines []store.LogLine, past []store.LogLinePast) []studiofile.Line {
	overtaken := map[store.Line][]studiofile.Past{}
	for _, p := range past {
		at := store.Line{Subject: p.Subject, Slot: p.Slot}
		overtaken[at] = append(overtaken[at], studiofile.Past{
			Done:    p.Done,
			InForm:  p.InForm,
			Reserve: p.Reserve,
			Pain:    cmp.Or(p.Pain, string(progress.NoPain)),
			Joint:   p.Joint,
			Others:  p.Others,
			Told:    said(p.Told),
			LoadG:   p.LoadG,
			Device:  p.Device,
			N:       p.N,
			Written: p.WrittenAt,
		})
	}
	out := []studiofile.Line{}
	for _, l := range lines {
		out = append(out, studiofile.Line{
			Device:      l.Device,
			N:           l.N,
			Overtaken:   overtaken[store.Line{Subject: l.Subject, Slot: l.Slot}],
			Subject:     l.Subject,
			Slot:        l.Slot,
			Lane:        l.Lane,
			Variant:     l.Variant,
			Planned:     l.Planned,
			Dose:        said(l.Dose),
			Told:        said(l.Told),
			Done:        l.Done,
			InForm:      l.InForm,
			Reserve:     l.Reserve,
			Pain:        cmp.Or(l.Pain, string(progress.NoPain)),
			Joint:       l.Joint,
			Others:      l.Others,
			LoadG:       l.LoadG,
			Hold:        l.Hold,
			TooLight:    l.TooLight,
			ResistanceG: l.ResistanceG,
			Library:     l.LibraryVersion,
			Written:     l.UpdatedAt,
		})
	}
	return out
}

// Import brings in what a studio's document has and the studio has not; try only says what
// it would bring.
func (s Studio) Import(ctx context.Context, f studiofile.File, try bool, wrong *fault.List) (Imported, error) {
	if err := wrong.Err(); err != nil {
		return Imported{}, err
	}
	for _, x := range f.Check() {
		wrong.Note(x.Path, x.Message, nil)
	}
	if err := wrong.Err(); err != nil {
		return Imported{}, err
	}
	e, err := rowsOf(f)
	if err != nil {
		return Imported{}, err
	}
	n, err := s.store.Import(ctx, s.scope, e, try, spare)
	if errors.Is(err, store.ErrFull) {
		return Imported{}, Refusal{Full, "with this file a list would be over its limit: nothing was brought in"}
	}
	return Imported(n), err
}

// rowsOf gives the rows of a file that was checked.
func rowsOf(f studiofile.File) (store.Everything, error) {
	var e store.Everything
	var err error
	if len(f.Style.Studio)+len(f.Style.Moves)+len(f.Style.Prep) > 0 || f.Style.Times != nil {
		if e.Studio.Style, err = json.Marshal(f.Style); err != nil {
			return e, err
		}
	}
	for _, v := range f.Moves {
		b, err := json.Marshal(v)
		if err != nil {
			return e, err
		}
		e.Moves = append(e.Moves, store.OwnMove{PublicID: v.ID, Variant: b})
	}
	for _, x := range f.Templates {
		e.Templates = append(e.Templates, store.HouseTemplate{
			PublicID: x.ID, Name: x.Name, Minutes: x.Minutes, Document: x.Document, CreatedAt: x.Made,
		})
	}
	for _, x := range f.Series {
		e.Series = append(e.Series, store.Series{PublicID: x.ID, Name: x.Name})
	}
	for _, x := range f.People {
		rows, err := personRowsOf(x)
		if err != nil {
			return e, err
		}
		e.People = append(e.People, rows)
	}
	for _, h := range f.Erased {
		e.Erased = append(e.Erased, store.Erased{Hash: h})
	}
	for _, p := range f.Places {
		e.Places = append(e.Places, placeRowsOf(p))
	}
	for _, k := range f.Classes {
		rows, err := classRowsOf(k)
		if err != nil {
			return e, err
		}
		e.Classes = append(e.Classes, rows)
	}
	return e, nil
}

func placeRowsOf(p studiofile.Place) store.PlaceRows {
	out := store.PlaceRows{
		Place: store.Place{PublicID: p.ID, Name: p.Name, Kind: p.Kind, MassUnit: p.MassUnit, RetiredAt: p.Retired},
	}
	for _, x := range p.Implements {
		r := rowAs[store.Implement](x.ID, x.Thing())
		r.RetiredAt = x.Retired
		out.Implements = append(out.Implements, r)
	}
	for _, x := range p.Objects {
		r := rowAs[store.Object](x.ID, x.Thing())
		r.RetiredAt = x.Retired
		out.Objects = append(out.Objects, r)
	}
	for _, x := range p.Containers {
		r := rowAs[store.Container](x.ID, x.Thing())
		r.RetiredAt = x.Retired
		out.Containers = append(out.Containers, r)
	}
	return out
}

// rowAs gives the row of a thing as what it is.
func rowAs[T store.Thing](id string, t kit.Thing) T {
	r, _ := rowOf(id, t).(T)
	return r
}

func classRowsOf(k studiofile.Class) (store.ClassRows, error) {
	day, err := time.Parse(time.DateOnly, k.Date)
	out := store.ClassRows{
		Occurrence: store.Occurrence{
			PublicID:  k.ID,
			Name:      k.Name,
			LocalDate: day,
			LocalTime: k.Time,
			TimeZone:  k.TimeZone,
			Minutes:   k.Minutes,
		},
		PlacePublicID:  k.Place,
		SeriesPublicID: k.Series,
	}
	for _, l := range k.Lanes {
		body, stature := filled(l.Body.Typed()), filled(l.Stature.Typed())
		out.Lanes = append(out.Lanes, store.OccurrenceLane{
			Lane:           l.Lane,
			People:         l.People,
			BodyDecimal:    body.Decimal,
			BodyUnit:       string(body.Unit),
			BodyG:          body.Whole,
			BodyKnown:      l.BodyKnown,
			StatureDecimal: stature.Decimal,
			StatureUnit:    string(stature.Unit),
			StatureMm:      stature.Whole,
		})
	}
	for _, p := range k.People {
		out.People = append(out.People, store.Attendee{
			Participant:    store.Participant{PublicID: p.ID, Lane: p.Lane},
			Name:           p.Name,
			PersonPublicID: p.Person,
		})
	}
	if c := k.Circuit; c != nil {
		out.Circuit = &store.Circuit{PublicID: c.ID, Head: c.Head}
		for _, v := range c.Versions {
			out.Versions = append(
				out.Versions,
				store.CircuitVersion{Version: v.Version, Base: v.Base, ClientID: v.ClientID, Kind: v.Kind, Side: v.Side,
					Ops: v.Ops, Inverse: v.Inverse, Document: v.Document, Notes: v.Notes, UndoTo: v.UndoTo, RedoTo: v.RedoTo, CreatedAt: v.Made},
			)
		}
	}
	for _, r := range k.Runs {
		rows := store.RunRows{
			Run: store.Run{PublicID: r.ID, CircuitVersion: r.Version, Plan: r.Plan, CreatedAt: r.Made},
		}
		for _, p := range r.Presses {
			rows.Events = append(rows.Events,
				store.RunEvent{ClientID: p.ID, Kind: p.Kind, At: p.At, Ms: p.Ms, Device: p.Device, N: p.N,
					Party: p.Party, Slot: p.Slot, Detail: orNothing(p.Detail)})
		}
		out.Runs = append(out.Runs, rows)
	}
	for _, l := range k.Log {
		out.Lines = append(out.Lines, store.LogLine{
			Subject:        l.Subject,
			Slot:           l.Slot,
			Lane:           l.Lane,
			Variant:        l.Variant,
			Planned:        l.Planned,
			Dose:           orNothing(l.Dose),
			Told:           orNothing(l.Told),
			Done:           l.Done,
			InForm:         l.InForm,
			Reserve:        l.Reserve,
			Felt:           store.Felt{Pain: l.Pain, Joint: l.Joint, Others: l.Others},
			LoadG:          l.LoadG,
			Hold:           l.Hold,
			TooLight:       l.TooLight,
			ResistanceG:    l.ResistanceG,
			LibraryVersion: l.Library,
			Device:         l.Device,
			N:              l.N,
			UpdatedAt:      l.Written,
		})
		for _, p := range l.Overtaken {
			out.Past = append(out.Past, store.LogLinePast{
				Subject:   l.Subject,
				Slot:      l.Slot,
				Done:      p.Done,
				InForm:    p.InForm,
				Reserve:   p.Reserve,
				Felt:      store.Felt{Pain: p.Pain, Joint: p.Joint, Others: p.Others},
				Told:      orNothing(p.Told),
				LoadG:     p.LoadG,
				Device:    p.Device,
				N:         p.N,
				WrittenAt: p.Written,
				CreatedAt: p.Written,
			})
		}
	}
	return out, err
}

// nothing is JSON of which nothing is said.
const nothing = "{}"

// said is JSON as it goes out: left out where it says nothing.
func said(b []byte) json.RawMessage {
	if string(b) == nothing {
		return nil
	}
	return b
}

func orNothing(b json.RawMessage) []byte {
	if len(b) == 0 {
		return []byte(nothing)
	}
	return b
}
