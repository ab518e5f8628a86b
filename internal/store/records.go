package store

import (
	"cmp"
	"context"
	"errors"
	"slices"
	"time"

	"gorm.io/gorm"
)

// MaxRecords bounds what is known of one person.
const MaxRecords = 1000

// Records lists what is known of a person, by day, those of one day as they were made.
func (s *Store) Records(ctx context.Context, sc Scope, person string) ([]PersonRecord, error) {
	p, err := get[Person](s.db.WithContext(ctx), sc, person)
	if err != nil {
		return nil, err
	}
	var rows []PersonRecord
	err = s.in(ctx, sc).Where("person_id = ?", p.ID).Order("local_date, id").Limit(2 * MaxRecords).Find(&rows).Error
	return rows, err
}

// PutRecord keeps something of a person under an id, or changes what is there.
func (s *Store) PutRecord(ctx context.Context, sc Scope, person string, r PersonRecord) error {
	return s.write(ctx, func(tx *gorm.DB) error { return s.putRecord(tx, sc, person, r) })
}

func (s *Store) putRecord(tx *gorm.DB, sc Scope, person string, r PersonRecord) error {
	p, err := lock[Person](tx, sc, person)
	if err != nil {
		return err
	}
	old, err := get[PersonRecord](tx, sc, r.PublicID)
	switch {
	case err == nil && (old.PersonID != p.ID || old.Kind != r.Kind):
		return ErrElsewhere
	case err == nil:
		err = tx.Model(&old).Select("LocalDate", "Data").Updates(r).Error
		return errors.Join(err, raiseSeriesOf(tx, sc, p.ID))
	case !errors.Is(err, ErrNotFound):
		return err
	}
	if err := checkCapacity[PersonRecord](tx, sc, "person_id", p.ID, MaxRecords); err != nil {
		return err
	}
	r.StudioID, r.PersonID = sc.StudioID, p.ID
	return errors.Join(tx.Create(&r).Error, raiseSeriesOf(tx, sc, p.ID))
}

// RemoveRecord takes something back that was known of a person.
func (s *Store) RemoveRecord(ctx context.Context, sc Scope, person, record string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		p, err := lock[Person](tx, sc, person)
		if err != nil {
			return err
		}
		gone := tx.Where("studio_id = ? AND person_id = ? AND public_id = ?", sc.StudioID, p.ID, record)
		if err := found(gone.Delete(&PersonRecord{})); err != nil {
			return err
		}
		return raiseSeriesOf(tx, sc, p.ID)
	})
}

// maxLinesOf bounds the lines of one person that are read.
const maxLinesOf = 4000

// DidRow is a line of a person's log with its day.
type DidRow struct {
	LogLine
	Seen      felt `gorm:"embedded"`
	LocalDate time.Time
	LocalTime string
	Class     string
}

// Did lists what a person did by name in whatever classes, the oldest first: the newest
// maxLinesOf of it.
func (s *Store) Did(ctx context.Context, sc Scope, person string) ([]DidRow, error) {
	var rows []DidRow
	err := s.db.WithContext(ctx).
		Raw(`SELECT l.*, `+feltColumns+`, o.local_date, o.local_time, o.name AS class FROM person q
		JOIN participant p ON p.studio_id = q.studio_id AND p.person_id = q.id
		JOIN log_line l ON l.studio_id = p.studio_id AND l.participant_id = p.id
		JOIN occurrence o ON o.studio_id = l.studio_id AND o.id = l.occurrence_id
		LEFT JOIN pain_report r ON r.studio_id = l.studio_id AND r.line_id = l.id
		WHERE q.studio_id = ? AND q.public_id = ? LIMIT ?`, sc.StudioID, person, maxExport).
		Scan(&rows).Error
	slices.SortFunc(rows, func(a, b DidRow) int {
		return cmp.Or(a.LocalDate.Compare(b.LocalDate), cmp.Compare(a.LocalTime, b.LocalTime), cmp.Compare(a.ID, b.ID))
	})
	rows = rows[max(0, len(rows)-maxLinesOf):]
	for i := range rows {
		rows[i].LogLine.Felt = Felt(rows[i].Seen)
	}
	return rows, err
}

// NewestPlace gives the key of the place where a person was last, 0 for nowhere.
func (s *Store) NewestPlace(ctx context.Context, sc Scope, person string) (int64, error) {
	var id int64
	err := s.db.WithContext(ctx).
		Raw("SELECT COALESCE((SELECT o.place_id"+newestClass+", 0) FROM person q WHERE q.studio_id = ? AND q.public_id = ?", sc.StudioID, person).
		Scan(&id).Error
	return id, err
}
