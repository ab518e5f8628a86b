package studio

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/formats/studiofile"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/store"
)

// filePersonOf writes a person down with all that comes with their rows.
func filePersonOf(x store.PersonRows) (studiofile.Person, error) {
	p := studiofile.Person{
		ID: x.PublicID, Name: x.Name, SameName: x.SameName, MassUnit: x.MassUnit, Weaker: x.Weaker, Note: x.Note,
		Groups: x.Groups,
	}
	var spared people.Spared
	err := json.Unmarshal(x.Spared, &spared)
	if spared.Any() {
		p.Spared = &spared
	}
	for _, r := range x.Records {
		out := studiofile.Record{ID: r.PublicID, Date: r.LocalDate.Format(time.DateOnly)}
		err = errors.Join(err, json.Unmarshal(r.Data, &out.Record))
		p.Records = append(p.Records, out)
	}
	health, err2 := healthRecords(x.Health)
	for i, h := range health {
		p.Health = append(p.Health, studiofile.HealthRecord{
			ID: x.Health[i].PublicID, Date: x.Health[i].LocalDate.Format(time.DateOnly), HealthRecord: h,
		})
	}
	return p, errors.Join(err, err2)
}

// personRowsOf gives the rows of a person of a file that was checked.
func personRowsOf(p studiofile.Person) (store.PersonRows, error) {
	out := store.PersonRows{Groups: p.Groups, Person: store.Person{
		PublicID: p.ID, Name: p.Name, SameName: p.SameName, MassUnit: p.MassUnit, Weaker: p.Weaker, Note: p.Note,
	}}
	var err error
	if p.Spared != nil {
		out.Spared, err = json.Marshal(p.Spared)
	}
	for _, r := range p.Records {
		day, bad := names.Day(r.Date)
		row, bad2 := recordRow(r.ID, day, r.Record)
		err = errors.Join(err, bad, bad2)
		out.Records = append(out.Records, row)
	}
	for _, h := range p.Health {
		day, bad := names.Day(h.Date)
		data, bad2 := json.Marshal(h.HealthRecord)
		err = errors.Join(err, bad, bad2)
		out.Health = append(out.Health, store.HealthRecord{PublicID: h.ID, LocalDate: day, Data: data})
	}
	return out, err
}

// PersonFile writes somebody down whole, their health with it.
func (s Studio) PersonFile(ctx context.Context, id string) (studiofile.PersonFile, error) {
	f := studiofile.PersonFile{
		Format: studiofile.PersonFormat, V: studiofile.PersonVersion, Library: moves.Version, Classes: []studiofile.PersonClass{},
	}
	x, classes, err := s.store.ExportPerson(ctx, s.scope, id)
	if err != nil {
		return f, err
	}
	if f.Person, err = filePersonOf(x.PersonRows); err != nil {
		return f, err
	}
	for _, g := range x.Groups {
		f.Groups = append(f.Groups, studiofile.Series{ID: g, Name: x.GroupNames[g]})
	}
	for _, k := range classes {
		f.Classes = append(f.Classes, studiofile.PersonClass{
			ID: k.PublicID, Name: k.Name, Date: k.LocalDate.Format(time.DateOnly), Participant: k.Participant, Lane: k.Lane,
			Log: fileLinesOf(k.Lines, k.Past),
		})
	}
	return f, nil
}
