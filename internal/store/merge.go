package store

import (
	"context"
	"encoding/json"
	"errors"

	"gorm.io/gorm"
)

// moved is what was somebody's who was joined to another, so that it can be given back.
type moved struct {
	Person       Person
	Participants []int64
	Records      []int64
	Health       []int64
	Merges       []int64
	// SameName is what the first's was.
	SameName bool
	// Members are the other's, Added those that the first was not yet.
	Members []SeriesMember
	Added   []int64
}

// Merged is two people who were made one, by an id.
type Merged struct {
	PublicID string
	// Name and Person are the other's.
	Name, Person string
}

// maxMerges bounds how many merges of one person are listed.
const maxMerges = 100

// Merges lists whom a person was made one with, the newest first.
func (s *Store) Merges(ctx context.Context, sc Scope, person string) ([]Merged, error) {
	p, err := get[Person](s.db.WithContext(ctx), sc, person)
	if err != nil {
		return nil, err
	}
	var rows []PersonMerge
	err = s.in(ctx, sc).Where("person_id = ?", p.ID).Order("id DESC").Limit(maxMerges).Find(&rows).Error
	out := make([]Merged, 0, len(rows))
	for _, r := range rows {
		var m moved
		err = errors.Join(err, json.Unmarshal(r.Moved, &m))
		out = append(out, Merged{r.PublicID, m.Person.Name, m.Person.PublicID})
	}
	return out, err
}

// JoinPeople makes two people one: what the other did and all that is known of them is the
// first's. It can be undone.
func (s *Store) JoinPeople(ctx context.Context, sc Scope, publicID, otherID string, spare Spare) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		// Locked in one order, whoever is joined to whom.
		first, second := min(publicID, otherID), max(publicID, otherID)
		a, err := lock[Person](tx, sc, first)
		if err != nil {
			return err
		}
		b, err := lock[Person](tx, sc, second)
		if err != nil {
			return err
		}
		stays, goes := a, b
		if a.PublicID != publicID {
			stays, goes = b, a
		}
		if stays.ID == goes.ID {
			return ErrConflict
		}
		var both int64
		err = tx.Raw(`SELECT COUNT(*) FROM participant p JOIN participant q ON q.studio_id = p.studio_id AND q.occurrence_id = p.occurrence_id
			WHERE p.studio_id = ? AND p.person_id = ? AND q.person_id = ?`, sc.StudioID, stays.ID, goes.ID).
			Scan(&both).
			Error
		if err != nil {
			return err
		}
		if both > 0 {
			return ErrTogether
		}
		if err := errors.Join(raiseSeriesOf(tx, sc, stays.ID), raiseSeriesOf(tx, sc, goes.ID)); err != nil {
			return err
		}
		if err := errors.Join(s.carryOver(tx, sc, stays.ID, spare), s.carryOver(tx, sc, goes.ID, spare)); err != nil {
			return err
		}
		if err := s.keepMoved(tx, sc, stays, goes); err != nil {
			return err
		}
		for _, q := range []string{
			"UPDATE participant SET person_id = @stays WHERE studio_id = @studio AND person_id = @goes",
			"UPDATE person_record SET person_id = @stays WHERE studio_id = @studio AND person_id = @goes",
			"UPDATE health_record SET person_id = @stays WHERE studio_id = @studio AND person_id = @goes",
			"UPDATE person_merge SET person_id = @stays WHERE studio_id = @studio AND person_id = @goes",
			"INSERT IGNORE INTO series_member (studio_id, series_id, person_id, regular, created_at) SELECT studio_id, series_id, @stays, regular, created_at FROM series_member WHERE studio_id = @studio AND person_id = @goes",
			"DELETE FROM series_member WHERE studio_id = @studio AND person_id = @goes",
			"DELETE FROM person WHERE studio_id = @studio AND id = @goes",
		} {
			err := tx.Exec(q, map[string]any{"studio": sc.StudioID, "stays": stays.ID, "goes": goes.ID}).Error
			if err != nil {
				return err
			}
		}
		return errors.Join(settleName(tx, sc, stays), spareAnew(tx, sc, stays.ID, spare))
	})
}

// keepMoved writes down what will be somebody else's.
func (s *Store) keepMoved(tx *gorm.DB, sc Scope, stays, goes Person) error {
	m := moved{Person: goes, SameName: stays.SameName}
	of := func(model any) *gorm.DB {
		return tx.Model(model).Where("studio_id = ? AND person_id = ?", sc.StudioID, goes.ID).Order("id")
	}
	var has []int64
	err := errors.Join(
		of(&Participant{}).Limit(MaxClasses).Pluck("id", &m.Participants).Error,
		of(&PersonRecord{}).Limit(2*MaxRecords).Pluck("id", &m.Records).Error,
		of(&HealthRecord{}).Limit(2*MaxHealthRecords).Pluck("id", &m.Health).Error,
		of(&PersonMerge{}).Limit(maxMerges).Pluck("id", &m.Merges).Error,
		of(&SeriesMember{}).Limit(maxGroups).Find(&m.Members).Error,
		tx.Model(&SeriesMember{}).Where("studio_id = ? AND person_id = ?", sc.StudioID, stays.ID).Limit(maxGroups).
			Pluck("series_id", &has).Error,
	)
	if err != nil {
		return err
	}
	there := map[int64]bool{}
	for _, id := range has {
		there[id] = true
	}
	for _, x := range m.Members {
		if !there[x.SeriesID] {
			m.Added = append(m.Added, x.SeriesID)
		}
	}
	row := PersonMerge{
		Row:       Row{StudioID: sc.StudioID},
		PublicID:  drawID(),
		PersonID:  stays.ID,
		CreatedAt: s.now().UTC(),
	}
	if row.Moved, err = json.Marshal(m); err != nil {
		return err
	}
	return tx.Create(&row).Error
}

// UndoJoin makes two people again of whom one was made, with what was each one's then; what
// came after stays the first's.
func (s *Store) UndoJoin(ctx context.Context, sc Scope, person, merge string, spare Spare) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		stays, err := lock[Person](tx, sc, person)
		if err != nil {
			return err
		}
		row, err := lock[PersonMerge](tx, sc, merge)
		if err == nil && row.PersonID != stays.ID {
			err = ErrNotFound
		}
		if err != nil {
			return err
		}
		var m moved
		if err := json.Unmarshal(row.Moved, &m); err != nil {
			return err
		}
		goes := m.Person
		goes.StudioID = sc.StudioID
		if err := tx.Create(&goes).Error; err != nil {
			return err
		}
		args := map[string]any{"studio": sc.StudioID, "stays": stays.ID, "goes": goes.ID}
		for table, ids := range map[string][]int64{
			"participant": m.Participants, "person_record": m.Records, "health_record": m.Health,
			"person_merge": m.Merges,
		} {
			if len(ids) == 0 {
				continue
			}
			args["ids"] = ids
			err := tx.Exec(
				"UPDATE "+table+" SET person_id = @goes WHERE studio_id = @studio AND person_id = @stays AND id IN @ids",
				args,
			).Error
			if err != nil {
				return err
			}
		}
		if len(m.Added) > 0 {
			args["ids"] = m.Added
			if err := tx.Exec("DELETE FROM series_member WHERE studio_id = @studio AND person_id = @stays AND series_id IN @ids", args).Error; err != nil {
				return err
			}
		}
		for _, x := range m.Members {
			x.Row, x.PersonID = Row{StudioID: sc.StudioID}, goes.ID
			if err := tx.Create(&x).Error; err != nil {
				return err
			}
		}
		err = tx.Model(&stays).Select("SameName").Updates(Person{SameName: m.SameName}).Error
		return errors.Join(
			err,
			tx.Delete(&row).Error,
			spareAnew(tx, sc, stays.ID, spare),
			spareAnew(tx, sc, goes.ID, spare),
		)
	})
}
