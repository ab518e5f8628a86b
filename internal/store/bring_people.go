package store

import (
	"context"
	"maps"
	"slices"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// PersonWith is a person of a file: New without an id gets one. Groups are those that they are
// a regular of, by name, where any are said; Records are added.
type PersonWith struct {
	Person
	New     bool
	Groups  []string
	Records []PersonRecord
}

// BringPeople makes and changes people, all or none. A group that there is not yet is made.
func (s *Store) BringPeople(ctx context.Context, sc Scope, all []PersonWith) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		i := importer{tx: tx, sc: sc}
		now := s.now().UTC()
		var fresh []Person
		var ids []string
		for n := range all {
			p := &all[n]
			if p.PublicID == "" {
				p.PublicID = drawID()
			}
			ids = append(ids, p.PublicID)
			if p.New {
				x := p.Person
				x.Row, x.Spared, x.CreatedAt = i.row(), object(nil), now
				fresh = append(fresh, x)
			}
		}
		gone, err := erased(tx, sc, ids)
		if err == nil && len(gone) > 0 {
			err = ErrErased
		}
		if err != nil {
			return err
		}
		if err := create(&i, fresh); err != nil {
			return err
		}
		keys, err := i.found(&Person{}, "0", ids)
		if err != nil {
			return err
		}
		for _, p := range all {
			if _, there := keys[p.PublicID]; !there {
				return ErrNotFound
			}
			if p.New {
				continue
			}
			err := tx.Model(&Person{}).Where("studio_id = ? AND id = ?", sc.StudioID, keys[p.PublicID].ID).
				Select("Name", "SameName", "MassUnit", "Weaker", "Note").Updates(p.Person).Error
			if err != nil {
				return err
			}
		}
		if err := s.bringGroups(i, all, keys); err != nil {
			return err
		}
		var records []PersonRecord
		for _, p := range all {
			for _, r := range p.Records {
				r.Row, r.PersonID, r.PublicID, r.CreatedAt = i.row(), keys[p.PublicID].ID, drawID(), now
				records = append(records, r)
			}
		}
		if err := create(&i, records); err != nil {
			return err
		}
		if err := i.checkCapacity(&Person{}, "", MaxPeople); err != nil {
			return err
		}
		if err := i.checkCapacity(&PersonRecord{}, "person_id", MaxRecords); err != nil {
			return err
		}
		return tx.Model(&Series{}).Where("studio_id = ?", sc.StudioID).Update("stamp", newStamp()).Error
	})
}

// bringGroups makes people regulars of just the groups that a file names.
func (s *Store) bringGroups(i importer, all []PersonWith, keys map[string]keyed) error {
	series := map[string]int64{}
	for _, p := range all {
		for _, g := range p.Groups {
			series[g] = 0
		}
	}
	for _, g := range slices.Sorted(maps.Keys(series)) {
		var err error
		if series[g], err = s.seriesNamed(i.tx, i.sc, g); err != nil {
			return err
		}
	}
	var members []SeriesMember
	for _, p := range all {
		if len(p.Groups) == 0 {
			continue
		}
		id := keys[p.PublicID].ID
		if !p.New {
			err := i.tx.Model(&SeriesMember{}).
				Where("studio_id = ? AND person_id = ?", i.sc.StudioID, id).
				Update("regular", false).
				Error
			if err != nil {
				return err
			}
		}
		for _, g := range p.Groups {
			members = append(members, SeriesMember{
				Row: i.row(), SeriesID: series[g], PersonID: id, Regular: true, CreatedAt: s.now().UTC(),
			})
		}
	}
	if len(members) == 0 {
		return nil
	}
	again := clause.OnConflict{DoUpdates: clause.AssignmentColumns([]string{"regular"})}
	return i.tx.Clauses(again).CreateInBatches(&members, manyRows).Error
}
