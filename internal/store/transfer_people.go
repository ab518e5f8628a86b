package store

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"time"

	"nimbleanvil/internal/core/moves"
)

// people brings the people of a file and who they are in its classes, and gives the keys of
// the participants. Where a file says no more than a name, the name says who it is.
func (i *importer) people(s *Store, e Everything) (map[string]keyed, error) {
	now := s.now().UTC()
	persons := make([]Person, 0, len(e.People))
	for _, p := range e.People {
		p.Row, p.CreatedAt = i.row(), now
		persons = append(persons, p)
	}
	named, err := i.namedPeople(e, now)
	if err != nil {
		return nil, err
	}
	keys, _, err := insertMissing(
		i,
		"0",
		append(persons, named...),
		func(p Person) string { return p.PublicID },
		&i.done.Persons,
	)
	if err != nil {
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
			x := Person{Row: i.row(), PublicID: who.publicID, Name: who.Name, SameName: who.SameName, CreatedAt: now}
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
