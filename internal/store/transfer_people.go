package store

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"slices"
	"time"

	"gorm.io/gorm"

	"nimbleanvil/internal/core/moves"
)

// exportPeople reads all people with what is known of them.
func exportPeople(tx *gorm.DB, sc Scope, health bool, out *Everything) error {
	persons, err := all(tx, sc, func(Person) int64 { return 0 })
	records, err2 := all(tx, sc, func(r PersonRecord) int64 { return r.PersonID })
	members, err3 := all(tx, sc, func(r SeriesMember) int64 { return r.PersonID })
	series, err4 := publicIDs(tx, sc, &Series{})
	if err := errors.Join(err, err2, err3, err4); err != nil {
		return err
	}
	gone, err := all(tx, sc, func(Erased) int64 { return 0 })
	if err != nil {
		return err
	}
	out.Erased = gone[0]
	kept := map[int64][]HealthRecord{}
	if health {
		if kept, err = all(tx, sc, func(r HealthRecord) int64 { return r.PersonID }); err != nil {
			return err
		}
		if err := exportFelt(tx, sc, out.Classes); err != nil {
			return err
		}
	}
	for _, p := range persons[0] {
		x := PersonRows{Person: p, Records: records[p.ID], Health: kept[p.ID]}
		for _, m := range members[p.ID] {
			if m.Regular {
				x.Groups = append(x.Groups, series[m.SeriesID])
			}
		}
		out.People = append(out.People, x)
	}
	return nil
}

// publicIDs gives the ids outside of a table by key.
func publicIDs(tx *gorm.DB, sc Scope, model any) (map[int64]string, error) {
	var rows []keyed
	err := tx.Model(model).
		Select("id, public_id").
		Where("studio_id = ?", sc.StudioID).
		Order("id").
		Limit(maxExport).
		Scan(&rows).
		Error
	out := make(map[int64]string, len(rows))
	for _, r := range rows {
		out[r.ID] = r.PublicID
	}
	return out, err
}

// exportFelt adds what was felt to the lines of logs.
func exportFelt(tx *gorm.DB, sc Scope, classes []ClassRows) error {
	reports, err := all(tx, sc, func(PainReport) int64 { return 0 })
	if err != nil {
		return err
	}
	lines, past := map[int64]Felt{}, map[int64]Felt{}
	for _, r := range reports[0] {
		f := Felt{r.Pain, r.Joint, r.Others}
		if r.LineID != nil {
			lines[*r.LineID] = f
		} else if r.PastID != nil {
			past[*r.PastID] = f
		}
	}
	for n := range classes {
		k := &classes[n]
		for m := range k.Lines {
			k.Lines[m].Felt = lines[k.Lines[m].ID]
		}
		for m := range k.Past {
			k.Past[m].Felt = past[k.Past[m].ID]
		}
	}
	return nil
}

// people brings the people of a file and who they are in its classes, and gives the keys of
// the participants. Where a file says no more than a name, the name says who it is. Somebody who
// was made one with another here is that one.
func (i *importer) people(s *Store, e Everything, series map[string]int64) (map[string]keyed, error) {
	now := s.now().UTC()
	joined, err := i.joined()
	if err != nil {
		return nil, err
	}
	persons := make([]Person, 0, len(e.People))
	for _, p := range e.People {
		if _, one := joined[p.PublicID]; one {
			i.done.Kept++
			continue
		}
		p.Row, p.CreatedAt, p.Spared = i.row(), now, object(p.Spared)
		persons = append(persons, p.Person)
	}
	named, err := i.namedPeople(e, now)
	if err != nil {
		return nil, err
	}
	keys, made, err := insertMissing(
		i,
		"0",
		append(persons, named...),
		func(p Person) string { return p.PublicID },
		&i.done.Persons,
	)
	if err != nil {
		return nil, err
	}
	maps.Copy(keys, joined)
	if err := i.known(s, e, keys, made, series, now); err != nil {
		return nil, err
	}
	var rows []Participant
	for _, k := range e.Classes {
		for _, p := range k.People {
			p.Row, p.OccurrenceID = i.row(), k.ID
			if q, ok := keys[p.PersonPublicID]; ok {
				p.PersonID = &q.ID
			}
			rows = append(rows, p.Participant)
		}
	}
	who, _, err := insertMissing(
		i,
		"occurrence_id",
		rows,
		func(r Participant) string { return r.PublicID },
		&i.done.People,
	)
	if err != nil {
		return nil, err
	}
	for _, p := range rows { // an id is one person's in one class
		if who[p.PublicID].Parent != p.OccurrenceID {
			return nil, fmt.Errorf("person %s: %w", p.PublicID, ErrConflict)
		}
	}
	return who, i.tx.Exec(`INSERT IGNORE INTO series_member (studio_id, series_id, person_id, created_at)
		SELECT DISTINCT p.studio_id, o.series_id, p.person_id, ? FROM participant p JOIN occurrence o ON o.studio_id = p.studio_id AND o.id = p.occurrence_id
		WHERE p.studio_id = ? AND p.person_id IS NOT NULL`, now, i.sc.StudioID).Error
}

// joined gives those who were made one with another here, by their own ids, with the other's
// key.
func (i *importer) joined() (map[string]keyed, error) {
	var rows []PersonMerge
	if err := i.tx.Where("studio_id = ?", i.sc.StudioID).Order("id").Limit(maxExport).Find(&rows).Error; err != nil {
		return nil, err
	}
	out := map[string]keyed{}
	for _, r := range rows {
		var m moved
		if err := json.Unmarshal(r.Moved, &m); err != nil {
			return nil, err
		}
		out[m.Person.PublicID] = keyed{ID: r.PersonID, PublicID: m.Person.PublicID}
	}
	return out, nil
}

// known brings what is known of people and is not here: records by their ids, and of those who
// come with the file the groups that they are a regular of.
func (i *importer) known(
	s *Store, e Everything, keys map[string]keyed, made map[string]bool, series map[string]int64, now time.Time,
) error {
	var records []PersonRecord
	var health []HealthRecord
	var members []SeriesMember
	for _, p := range e.People {
		id := keys[p.PublicID].ID
		for _, r := range p.Records {
			r.Row, r.PersonID, r.CreatedAt = i.row(), id, now
			records = append(records, r)
		}
		for _, r := range p.Health {
			r.Row, r.PersonID, r.CreatedAt = i.row(), id, now
			health = append(health, r)
		}
		for _, g := range p.Groups {
			if made[p.PublicID] {
				members = append(
					members,
					SeriesMember{Row: i.row(), SeriesID: series[g], PersonID: id, Regular: true, CreatedAt: now},
				)
			}
		}
	}
	if err := create(i, members); err != nil {
		return err
	}
	_, _, err := insertMissing(
		i,
		"person_id",
		records,
		func(r PersonRecord) string { return r.PublicID },
		&i.done.Records,
	)
	if err != nil {
		return err
	}
	for _, p := range e.People {
		if len(p.Health) > 0 && !made[p.PublicID] {
			if err := s.carryOver(i.tx, i.sc, keys[p.PublicID].ID, i.spare); err != nil {
				return err
			}
		}
	}
	_, fresh, err := insertMissing(
		i,
		"person_id",
		health,
		func(r HealthRecord) string { return r.PublicID },
		&i.done.Records,
	)
	if err != nil {
		return err
	}
	anew := map[int64]bool{}
	for _, r := range health {
		if fresh[r.PublicID] {
			anew[r.PersonID] = true
		}
	}
	for _, id := range slices.Sorted(maps.Keys(anew)) {
		if err := spareAnew(i.tx, i.sc, id, i.spare); err != nil {
			return err
		}
	}
	return errors.Join(i.checkCapacity(&PersonRecord{}, "person_id", MaxRecords),
		i.checkCapacity(&HealthRecord{}, "person_id", MaxHealthRecords))
}

// namedPeople makes people of those participants of a file who are not there yet and of whom
// it says the name only, series by series, and notes with each who they are. Somebody of the
// series who is the only one of the name, and in none of these classes, is it.
func (i *importer) namedPeople(e Everything, now time.Time) ([]Person, error) {
	var fresh []*Attendee
	class := map[*Attendee]*ClassRows{}
	var ids []string
	for n := range e.Classes {
		for k := range e.Classes[n].People {
			if p := &e.Classes[n].People[k]; p.PersonPublicID == "" && p.Name != "" {
				fresh, ids = append(fresh, p), append(ids, p.PublicID)
				class[p] = &e.Classes[n]
			}
		}
	}
	there, err := i.found(&Participant{}, "occurrence_id", ids)
	if err != nil {
		return nil, err
	}
	fresh = slices.DeleteFunc(fresh, func(p *Attendee) bool { _, had := there[p.PublicID]; return had })
	slices.SortStableFunc(fresh, func(a, b *Attendee) int {
		x, y := class[a], class[b]
		return cmp.Or(x.LocalDate.Compare(y.LocalDate), cmp.Compare(x.LocalTime, y.LocalTime), cmp.Compare(x.ID, y.ID))
	})
	bySeries := map[int64][]named{}
	for n, p := range fresh {
		k := class[p]
		bySeries[k.SeriesID] = append(bySeries[k.SeriesID], named{
			id: int64(n), series: k.SeriesID, class: k.ID, public: p.PublicID, name: p.Name, lane: moves.Lane(p.Lane),
		})
	}
	members, err := i.members()
	if err != nil {
		return nil, err
	}
	var out []Person
	for _, series := range slices.Sorted(maps.Keys(bySeries)) {
		for _, who := range identify(bySeries[series]) {
			x := Person{
				Row:       i.row(),
				PublicID:  who.publicID,
				Name:      who.Name,
				SameName:  who.SameName,
				Spared:    object(nil),
				CreatedAt: now,
			}
			together := func(m member) bool {
				return slices.ContainsFunc(who.participants, func(p int64) bool { return m.in[class[fresh[p]].ID] })
			}
			if all := members[memberKey{series, who.Name}]; len(all) == 1 && !who.SameName && !together(all[0]) {
				x.PublicID = all[0].publicID
			}
			out = append(out, x)
			for _, p := range who.participants {
				fresh[p].PersonPublicID = x.PublicID
			}
		}
	}
	return out, nil
}

// member is somebody of a series, with the classes that they are in.
type member struct {
	publicID string
	in       map[int64]bool
}

type memberKey struct {
	series int64
	name   string
}

// members gives the people of all series by name.
func (i *importer) members() (map[memberKey][]member, error) {
	var rows []struct {
		SeriesID     int64
		Name         string
		PublicID     string
		OccurrenceID *int64
	}
	err := i.tx.Raw(`SELECT m.series_id, q.name, q.public_id, p.occurrence_id FROM series_member m
		JOIN person q ON q.studio_id = m.studio_id AND q.id = m.person_id
		LEFT JOIN participant p ON p.studio_id = q.studio_id AND p.person_id = q.id
		WHERE m.studio_id = ? ORDER BY m.id, p.id LIMIT ?`, i.sc.StudioID, maxExport).
		Scan(&rows).
		Error
	out := map[memberKey][]member{}
	for _, r := range rows {
		key := memberKey{r.SeriesID, r.Name}
		at := slices.IndexFunc(out[key], func(m member) bool { return m.publicID == r.PublicID })
		if at < 0 {
			at, out[key] = len(out[key]), append(out[key], member{r.PublicID, map[int64]bool{}})
		}
		if r.OccurrenceID != nil {
			out[key][at].in[*r.OccurrenceID] = true
		}
	}
	return out, err
}
