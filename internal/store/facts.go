package store

import (
	"cmp"
	"encoding/json"
	"slices"

	"gorm.io/gorm"
)

// Facts is what is known of a person, for plans; Records by day.
type Facts struct {
	Weaker  string
	Spared  json.RawMessage
	Records []FactRecord
}

// FactRecord is one record of them.
type FactRecord struct {
	Day  int
	ID   int64
	Data json.RawMessage
}

// InGroup is a group that somebody is a regular of.
type InGroup struct {
	PublicID string
	Name     string
}

// factsOf reads what is known of some people by their ids, in one statement that is neither
// grouped nor sorted: a database which has no room left for a table of its own reads them still.
func factsOf(tx *gorm.DB, sc Scope, persons []string) (map[string]Facts, error) {
	out := map[string]Facts{}
	for some := range slices.Chunk(persons, manyRows) {
		var rows []struct {
			PublicID string
			Weaker   string
			Spared   []byte
			ID       *int64 // of a record
			Day      int
			Data     []byte
		}
		err := tx.Raw(`SELECT q.public_id, q.weaker, q.spared, r.id, COALESCE(DATEDIFF(r.local_date, '1970-01-01'), 0) AS day, r.data
			FROM person q LEFT JOIN person_record r ON r.studio_id = q.studio_id AND r.person_id = q.id
			WHERE q.studio_id = ? AND q.public_id IN ? LIMIT ?`, sc.StudioID, some, maxExport).
			Scan(&rows).
			Error
		if err != nil {
			return nil, err
		}
		for _, r := range rows {
			f, seen := out[r.PublicID]
			if !seen {
				f = Facts{Weaker: r.Weaker, Spared: r.Spared}
			}
			if r.ID != nil {
				f.Records = append(f.Records, FactRecord{Day: r.Day, ID: *r.ID, Data: r.Data})
			}
			out[r.PublicID] = f
		}
	}
	for _, f := range out {
		slices.SortFunc(f.Records, func(a, b FactRecord) int {
			return cmp.Or(cmp.Compare(a.Day, b.Day), cmp.Compare(a.ID, b.ID))
		})
	}
	return out, nil
}

// fillFacts writes beside participants what is known of who they are.
func fillFacts(tx *gorm.DB, sc Scope, classes ...[]Attendee) error {
	seen := map[string]bool{}
	var ids []string
	for _, people := range classes {
		for _, p := range people {
			if id := p.PersonPublicID; id != "" && !seen[id] {
				seen[id] = true
				ids = append(ids, id)
			}
		}
	}
	if len(ids) == 0 {
		return nil
	}
	facts, err := factsOf(tx, sc, ids)
	for _, people := range classes {
		for i := range people {
			people[i].Facts = facts[people[i].PersonPublicID]
		}
	}
	return err
}

// fillKnown writes beside people what is known of them, and their groups.
func fillKnown(tx *gorm.DB, sc Scope, people []Known) error {
	ids, who := make([]int64, 0, len(people)), make([]string, 0, len(people))
	for _, p := range people {
		ids, who = append(ids, p.ID), append(who, p.PublicID)
	}
	facts, err := factsOf(tx, sc, who)
	if err != nil {
		return err
	}
	groups := map[int64][]InGroup{}
	for some := range slices.Chunk(ids, manyRows) {
		var rows []struct {
			InGroup
			PersonID int64
		}
		err := tx.Raw(`SELECT m.person_id, s.public_id, s.name FROM series_member m
			JOIN series s ON s.studio_id = m.studio_id AND s.id = m.series_id
			WHERE m.studio_id = ? AND m.person_id IN ? AND m.regular LIMIT ?`, sc.StudioID, some, maxExport).Scan(&rows).Error
		if err != nil {
			return err
		}
		for _, r := range rows {
			groups[r.PersonID] = append(groups[r.PersonID], r.InGroup)
		}
	}
	for i := range people {
		p := &people[i]
		p.Facts, p.Groups = facts[p.PublicID], groups[p.ID]
		slices.SortFunc(p.Groups, func(a, b InGroup) int {
			return cmp.Or(cmp.Compare(a.Name, b.Name), cmp.Compare(a.PublicID, b.PublicID))
		})
	}
	return nil
}
