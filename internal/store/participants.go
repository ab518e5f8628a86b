package store

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/plan"
)

// Attendee is a participant with the person that they are, if any.
type Attendee struct {
	Participant
	Name           string
	SameName       bool
	PersonPublicID string
	// Facts is what is known of the person.
	Facts Facts
}

// PutParticipant adds somebody to a class or changes them: a person by their id, or one of
// a name, who is recognized or made; neither for somebody nobody knows. A person who is
// here already is ErrTogether.
func (s *Store) PutParticipant(ctx context.Context, sc Scope, occurrence string, next Attendee) error {
	return s.PutAttendance(ctx, sc, occurrence, []Attendee{next}, nil)
}

// PutAttendance adds people to a class or changes them, and takes others out, by their ids as
// participants, all or none. A lane has as many people as are in it by name, or more.
func (s *Store) PutAttendance(ctx context.Context, sc Scope, occurrence string, here []Attendee, gone []string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		o, err := lockClass(tx, sc, occurrence)
		if err != nil {
			return err
		}
		for _, id := range gone {
			if err := s.removeParticipant(tx, sc, o, id); err != nil {
				return err
			}
		}
		for _, next := range here {
			if err := s.putParticipant(tx, sc, o, next); err != nil {
				return err
			}
		}
		return errors.Join(growLanes(tx, sc, o.ID), raiseSeries(tx, sc, o.SeriesID))
	})
}

// growLanes gives the lanes of a class as many people as are in them by name; one that it has
// not yet is for the usual body.
func growLanes(tx *gorm.DB, sc Scope, occurrence int64) error {
	var named []struct {
		Lane string
		N    int
	}
	err := tx.Raw("SELECT lane, COUNT(*) AS n FROM participant WHERE studio_id = ? AND occurrence_id = ? GROUP BY lane ORDER BY lane", sc.StudioID, occurrence).
		Scan(&named).
		Error
	if err != nil {
		return err
	}
	for _, x := range named {
		usual := OccurrenceLane{
			Row: Row{StudioID: sc.StudioID}, OccurrenceID: occurrence, Lane: x.Lane, People: x.N,
			BodyDecimal: "70", BodyUnit: "kg", BodyG: int64(plan.DefaultBody),
			StatureDecimal: "170", StatureUnit: "cm", StatureMm: int64(plan.DefaultStature),
		}
		grow := clause.OnConflict{
			DoUpdates: clause.Assignments(map[string]any{"people": gorm.Expr("GREATEST(people, VALUES(people))")}),
		}
		if err := tx.Clauses(grow).Create(&usual).Error; err != nil {
			return err
		}
	}
	return nil
}

func (s *Store) putParticipant(tx *gorm.DB, sc Scope, o Occurrence, next Attendee) error {
	old, err := lock[Participant](tx, sc, next.PublicID)
	fresh := errors.Is(err, ErrNotFound)
	if err != nil && !fresh {
		return err
	}
	if !fresh && old.OccurrenceID != o.ID {
		return ErrNotFound
	}
	row := next.Participant
	row.StudioID, row.OccurrenceID = sc.StudioID, o.ID
	if row.PersonID, err = s.personFor(tx, sc, o, old, next); err != nil {
		return err
	}
	if !fresh {
		return tx.Model(&old).Select("PersonID", "Lane").Updates(row).Error
	}
	if err := checkCapacity[Participant](tx, sc, "occurrence_id", o.ID, MaxParticipants); err != nil {
		return err
	}
	return tx.Create(&row).Error
}

// RemoveParticipant takes somebody out of a class of whom nothing is written down there and
// whom no version of the circuit names, since any may be brought back; else it is ErrInUse.
func (s *Store) RemoveParticipant(ctx context.Context, sc Scope, occurrence, publicID string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		o, err := lockClass(tx, sc, occurrence)
		if err != nil {
			return err
		}
		return errors.Join(s.removeParticipant(tx, sc, o, publicID), raiseSeries(tx, sc, o.SeriesID))
	})
}

func (s *Store) removeParticipant(tx *gorm.DB, sc Scope, o Occurrence, publicID string) error {
	p, err := lock[Participant](tx, sc, publicID)
	if err == nil && p.OccurrenceID != o.ID {
		err = ErrNotFound
	}
	if err != nil {
		return err
	}
	var used int64
	err = tx.Raw(`SELECT (SELECT COUNT(*) FROM log_line WHERE studio_id = @studio AND occurrence_id = @class AND subject = @who)
		+ (SELECT COUNT(*) FROM circuit c JOIN circuit_version v ON v.studio_id = c.studio_id AND v.circuit_id = c.id
		WHERE c.studio_id = @studio AND c.occurrence_id = @class AND v.document LIKE CONCAT('%"', @who, '"%'))`,
		map[string]any{"studio": sc.StudioID, "class": o.ID, "who": publicID}).
		Scan(&used).
		Error
	if err != nil {
		return err
	}
	if used > 0 {
		return ErrInUse
	}
	return tx.Delete(&p).Error
}

// personFor gives the key of the person that a participant is to be.
func (s *Store) personFor(tx *gorm.DB, sc Scope, o Occurrence, old Participant, next Attendee) (*int64, error) {
	if next.PersonPublicID != "" {
		p, err := lock[Person](tx, sc, next.PersonPublicID)
		if err != nil {
			return nil, err
		}
		var here int64
		err = tx.Model(&Participant{}).
			Where("studio_id = ? AND occurrence_id = ? AND person_id = ? AND public_id <> ?", sc.StudioID, o.ID, p.ID, next.PublicID).
			Count(&here).
			Error
		if err != nil {
			return nil, err
		}
		if here > 0 {
			return nil, ErrTogether
		}
		m := SeriesMember{
			Row:       Row{StudioID: sc.StudioID},
			SeriesID:  o.SeriesID,
			PersonID:  p.ID,
			Regular:   true,
			CreatedAt: s.now().UTC(),
		}
		return &p.ID, tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&m).Error
	}
	if next.Name == "" {
		return old.PersonID, nil
	}
	if old.PersonID != nil { // somebody whose name is written otherwise now, or not at all
		var p Person
		if err := tx.Where("studio_id = ? AND id = ?", sc.StudioID, *old.PersonID).Take(&p).Error; err != nil {
			return nil, translate(err)
		}
		if p.Name == next.Name {
			return old.PersonID, nil
		}
		var others int64
		err := tx.Raw(`SELECT COUNT(*) FROM series_member m JOIN person q ON q.studio_id = m.studio_id AND q.id = m.person_id
			WHERE m.studio_id = @studio AND m.series_id = @series AND `+sameName,
			map[string]any{"studio": sc.StudioID, "series": o.SeriesID, "name": next.Name}).
			Scan(&others).
			Error
		if err != nil {
			return nil, err
		}
		if others == 0 {
			err := tx.Model(&p).Select("Name", "SameName").Updates(Person{Name: next.Name}).Error
			return old.PersonID, errors.Join(err, raiseSeriesOf(tx, sc, p.ID))
		}
	}
	id, err := s.recognized(tx, sc, o, next.PublicID, next.Name, next.Lane)
	return &id, err
}

// bearer is somebody of a series who bears a name.
type bearer struct {
	Person
	Lane string
	Here bool
}

// recognized gives the person of a name that is put into a lane of a class, made where
// nobody of the series is it.
func (s *Store) recognized(tx *gorm.DB, sc Scope, o Occurrence, participant, name, lane string) (int64, error) {
	var all []bearer
	err := tx.Raw(`SELECT q.*, (SELECT p.lane`+newestClass+` AS lane, EXISTS (SELECT 1 FROM participant p
		WHERE p.studio_id = q.studio_id AND p.person_id = q.id AND p.occurrence_id = @class AND p.public_id <> @self) AS here
		FROM series_member m JOIN person q ON q.studio_id = m.studio_id AND q.id = m.person_id
		WHERE m.studio_id = @studio AND m.series_id = @series AND `+sameName+` ORDER BY q.id`,
		map[string]any{"studio": sc.StudioID, "series": o.SeriesID, "class": o.ID, "self": participant, "name": name}).
		Scan(&all).
		Error
	if err != nil {
		return 0, err
	}
	bearers := make([]people.Bearer, 0, len(all))
	for _, b := range all {
		bearers = append(bearers, people.Bearer{Person: b.PublicID, Lane: moves.Lane(b.Lane), Here: b.Here})
	}
	who, unsure := people.Recognize(bearers, moves.Lane(lane))
	for _, b := range all {
		if unsure && !b.SameName {
			if err := tx.Model(&Person{}).Where("studio_id = ? AND id = ?", sc.StudioID, b.ID).Update("same_name", true).Error; err != nil {
				return 0, err
			}
		}
		if b.PublicID == who {
			return b.ID, nil
		}
	}
	if err := checkCapacity[Person](tx, sc, "", 0, MaxPeople); err != nil {
		return 0, err
	}
	p := Person{
		Row: Row{
			StudioID: sc.StudioID,
		}, PublicID: personOf(participant), Name: name, SameName: unsure, Spared: object(nil),
		CreatedAt: s.now().UTC(),
	}
	// A participant who was somebody else before: the id of that person is taken.
	var taken int64
	if err := tx.Model(&Person{}).Where("studio_id = ? AND public_id = ?", sc.StudioID, p.PublicID).Count(&taken).Error; err != nil {
		return 0, err
	}
	if taken > 0 {
		p.PublicID = drawID()
	}
	err = s.addMember(tx, sc, o.SeriesID, &p)
	return p.ID, err
}

// addMember makes a person who is in a series.
func (s *Store) addMember(tx *gorm.DB, sc Scope, series int64, p *Person) error {
	if err := tx.Create(p).Error; err != nil {
		return err
	}
	m := SeriesMember{
		Row:       Row{StudioID: sc.StudioID},
		SeriesID:  series,
		PersonID:  p.ID,
		Regular:   true,
		CreatedAt: s.now().UTC(),
	}
	return tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&m).Error
}

// drawID draws an id of 26 characters.
func drawID() string {
	var b [13]byte
	_, _ = rand.Read(b[:]) // never fails
	return hex.EncodeToString(b[:])
}
