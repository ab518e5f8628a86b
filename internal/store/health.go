package store

import (
	"cmp"
	"context"
	"errors"
	"time"

	"gorm.io/gorm"

	"nimbleanvil/internal/core/progress"
)

// Health is what is kept of people's health: apart from all else, in tables of its own that a
// backup may leave out. What plans are to know of it leaves it as what a person is spared,
// never why.
type Health struct{ s *Store }

// Health gives it.
func (s *Store) Health() Health { return Health{s} }

// HealthRecord is what somebody answered, or who cleared them, on a day: codes as JSON, which
// the core reads.
type HealthRecord struct {
	Row
	PersonID  int64
	PublicID  string
	LocalDate time.Time `gorm:"type:date"`
	Data      []byte
	CreatedAt time.Time
}

// PainReport is what was felt in a line of a log, or in one that was overtaken.
type PainReport struct {
	Row
	LineID    *int64
	PastID    *int64
	Pain      string
	Joint     string // that hurt, where somebody said
	Others    bool   // somebody else's pain than the time before
	CreatedAt time.Time
}

// Felt is what was felt in a line of a log.
type Felt struct {
	Pain   string
	Joint  string
	Others bool
}

// felt is Felt as queries give it.
type felt Felt

// feltColumns are those of a report r that may not be there.
const feltColumns = "COALESCE(r.pain, 'none') AS pain, COALESCE(r.joint, '') AS joint, COALESCE(r.others, FALSE) AS others"

// pain is what was felt; nothing where nobody said.
func (f Felt) pain() progress.Pain { return progress.Pain(cmp.Or(f.Pain, string(progress.NoPain))) }

// reports gives the report of what was felt, with where it belongs; none where nothing was.
func (f Felt) reports(r PainReport) []PainReport {
	if f.pain() == progress.NoPain {
		return nil
	}
	r.Pain, r.Joint, r.Others = f.Pain, f.Joint, f.Others
	return []PainReport{r}
}

// report keeps what was felt, where something was.
func (s *Store) report(tx *gorm.DB, r PainReport, f Felt) error {
	r.CreatedAt = s.now().UTC()
	for _, r := range f.reports(r) {
		if err := tx.Create(&r).Error; err != nil {
			return err
		}
	}
	return nil
}

// reportPast moves what was felt in a line to what it was overtaken as.
func reportPast(tx *gorm.DB, sc Scope, line, past int64) error {
	return tx.Model(&PainReport{}).Where("studio_id = ? AND line_id = ?", sc.StudioID, line).
		Updates(map[string]any{"line_id": nil, "past_id": past}).Error
}

// MaxHealthRecords bounds what is kept of one person.
const MaxHealthRecords = 200

// Of lists what is kept of a person, the oldest first.
func (h Health) Of(ctx context.Context, sc Scope, person string) ([]HealthRecord, error) {
	p, err := get[Person](h.s.db.WithContext(ctx), sc, person)
	if err != nil {
		return nil, err
	}
	return healthOf(h.s.db.WithContext(ctx), sc, p.ID)
}

func healthOf(tx *gorm.DB, sc Scope, person int64) ([]HealthRecord, error) {
	var rows []HealthRecord
	err := tx.Where("studio_id = ? AND person_id = ?", sc.StudioID, person).Order("local_date, id").
		Limit(2 * MaxHealthRecords).Find(&rows).Error
	return rows, err
}

// Spare is what the core makes of health records.
type Spare struct {
	// Of works out what leaves somebody's records.
	Of func([]HealthRecord) (spared []byte, err error)
	// Carry makes a first record of what somebody is spared of whom no record is left, as after
	// a backup without health; none where they are spared nothing.
	Carry func(spared []byte) ([]HealthRecord, error)
}

// carryOver makes what somebody is spared without a record a record of its own, so that what
// comes next is added to it.
func (s *Store) carryOver(tx *gorm.DB, sc Scope, person int64, spare Spare) error {
	all, err := healthOf(tx, sc, person)
	if err != nil || len(all) > 0 {
		return err
	}
	var p Person
	if err := tx.Where("studio_id = ? AND id = ?", sc.StudioID, person).First(&p).Error; err != nil {
		return translate(err)
	}
	rows, err := spare.Carry(p.Spared)
	for _, r := range rows {
		r.Row, r.PersonID, r.PublicID, r.CreatedAt = Row{StudioID: sc.StudioID}, person, drawID(), s.now().UTC()
		err = errors.Join(err, tx.Create(&r).Error)
	}
	return err
}

// Put keeps a record of a person under its id, once, and what follows from all of theirs.
func (h Health) Put(ctx context.Context, sc Scope, person string, r HealthRecord, spare Spare) error {
	return h.s.write(ctx, func(tx *gorm.DB) error {
		p, err := lock[Person](tx, sc, person)
		if err != nil {
			return err
		}
		old, err := get[HealthRecord](tx, sc, r.PublicID)
		switch {
		case err == nil && old.PersonID != p.ID:
			return ErrElsewhere
		case err == nil:
			return nil // sent twice
		case !errors.Is(err, ErrNotFound):
			return err
		}
		if err := checkCapacity[HealthRecord](tx, sc, "person_id", p.ID, MaxHealthRecords); err != nil {
			return err
		}
		if err := h.s.carryOver(tx, sc, p.ID, spare); err != nil {
			return err
		}
		r.StudioID, r.PersonID = sc.StudioID, p.ID
		if err := tx.Create(&r).Error; err != nil {
			return err
		}
		return spareAnew(tx, sc, p.ID, spare)
	})
}

// Remove takes a record back, and what followed from it.
func (h Health) Remove(ctx context.Context, sc Scope, person, record string, spare Spare) error {
	return h.s.write(ctx, func(tx *gorm.DB) error {
		p, err := lock[Person](tx, sc, person)
		if err != nil {
			return err
		}
		gone := tx.Where("studio_id = ? AND person_id = ? AND public_id = ?", sc.StudioID, p.ID, record)
		if err := found(gone.Delete(&HealthRecord{})); err != nil {
			return err
		}
		return spareAnew(tx, sc, p.ID, spare)
	})
}

// spareAnew writes what leaves a person's health, of which plans know.
func spareAnew(tx *gorm.DB, sc Scope, person int64, spare Spare) error {
	all, err := healthOf(tx, sc, person)
	if err != nil {
		return err
	}
	spared, err := spare.Of(all)
	if err != nil {
		return err
	}
	err = tx.Model(&Person{}).
		Where("studio_id = ? AND id = ?", sc.StudioID, person).
		Update("spared", object(spared)).
		Error
	return errors.Join(err, raiseSeriesOf(tx, sc, person))
}
