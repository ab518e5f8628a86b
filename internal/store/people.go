package store

import (
	"context"
	"errors"
	"time"

	"gorm.io/gorm"
)

// MaxPeople bounds the people of a studio.
const MaxPeople = 20_000

// Known is a person with where they were.
type Known struct {
	Person
	Classes  int
	Lane     string // of the last class
	LastDate *time.Time
	Series   string // of the last class
}

// newestClass asks for something of the newest class that a person was in. Not grouped: a
// database that has no room left for a table of its own reads it still.
const newestClass = ` FROM participant p JOIN occurrence o ON o.studio_id = p.studio_id AND o.id = p.occurrence_id
	JOIN series s ON s.studio_id = o.studio_id AND s.id = o.series_id WHERE p.studio_id = q.studio_id AND p.person_id = q.id
	ORDER BY o.local_date DESC, o.local_time DESC, o.id DESC LIMIT 1)`

// personQuery reads people with their newest class.
const personQuery = `SELECT q.*, (SELECT COUNT(*) FROM participant p WHERE p.studio_id = q.studio_id AND p.person_id = q.id) AS classes,
	(SELECT o.local_date` + newestClass + ` AS last_date, (SELECT p.lane` + newestClass + ` AS lane, (SELECT s.name` + newestClass + ` AS series
	FROM person q WHERE q.studio_id = @studio AND `

// sameName finds people of exactly a name, by the index of names, in which Ada and ada are
// one: who is meant by a name is told by its very letters, as in people.Identify.
const sameName = "q.name = @name AND BINARY q.name = BINARY @name"

// People lists the people of a studio by name, or those of one name where it is said.
func (s *Store) People(ctx context.Context, sc Scope, name string) ([]Known, error) {
	where := "q.name >= ''"
	if name != "" {
		where = sameName
	}
	var out []Known
	err := s.db.WithContext(ctx).
		Raw(personQuery+where+" ORDER BY q.name, q.id LIMIT 1000", map[string]any{"studio": sc.StudioID, "name": name}).
		Scan(&out).
		Error
	return out, err
}

// Person finds one by their id.
func (s *Store) Person(ctx context.Context, sc Scope, publicID string) (Known, error) {
	var out []Known
	err := s.db.WithContext(ctx).
		Raw(personQuery+"q.public_id = @id", map[string]any{"studio": sc.StudioID, "id": publicID}).
		Scan(&out).
		Error
	if err != nil {
		return Known{}, err
	}
	if len(out) == 0 {
		return Known{}, ErrNotFound
	}
	return out[0], nil
}

// AttendedRow is a class that a person was in.
type AttendedRow struct {
	PublicID   string // of the participant
	Lane       string
	Occurrence string
	ClassName  string
	LocalDate  time.Time
}

// Attended lists the classes that a person was in, the newest first, at most 500.
func (s *Store) Attended(ctx context.Context, sc Scope, publicID string) ([]AttendedRow, error) {
	var out []AttendedRow
	err := s.db.WithContext(ctx).
		Raw(`SELECT p.public_id, p.lane, o.public_id AS occurrence, o.name AS class_name, o.local_date
		FROM person q JOIN participant p ON p.studio_id = q.studio_id AND p.person_id = q.id
		JOIN occurrence o ON o.studio_id = p.studio_id AND o.id = p.occurrence_id
		WHERE q.studio_id = ? AND q.public_id = ? ORDER BY o.local_date DESC, o.local_time DESC, p.id DESC LIMIT 500`, sc.StudioID, publicID).
		Scan(&out).
		Error
	return out, err
}

// NamePerson gives a person a name, and says that they are no other of that name.
func (s *Store) NamePerson(ctx context.Context, sc Scope, publicID, name string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		p, err := lock[Person](tx, sc, publicID)
		if err != nil {
			return err
		}
		if err := tx.Model(&p).Select("Name", "SameName").Updates(Person{Name: name}).Error; err != nil {
			return err
		}
		return raiseSeriesOf(tx, sc, p.ID)
	})
}

// raiseSeriesOf changes the stamps of all series that a person is in.
func raiseSeriesOf(tx *gorm.DB, sc Scope, person int64) error {
	return tx.Exec(`UPDATE series s JOIN series_member m ON m.studio_id = s.studio_id AND m.series_id = s.id
		SET s.stamp = ? WHERE m.studio_id = ? AND m.person_id = ?`, newStamp(), sc.StudioID, person).Error
}

// ErrTogether means that two people were in one class, so that they cannot be one.
var ErrTogether = errors.New("they were in one class together")

// JoinPeople makes two people one: what the other did is the first's.
func (s *Store) JoinPeople(ctx context.Context, sc Scope, publicID, otherID string) error {
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
		for _, q := range []string{
			"UPDATE participant SET person_id = @stays WHERE studio_id = @studio AND person_id = @goes",
			"INSERT IGNORE INTO series_member (studio_id, series_id, person_id, created_at) SELECT studio_id, series_id, @stays, created_at FROM series_member WHERE studio_id = @studio AND person_id = @goes",
			"DELETE FROM series_member WHERE studio_id = @studio AND person_id = @goes",
			"DELETE FROM person WHERE studio_id = @studio AND id = @goes",
		} {
			err := tx.Exec(q, map[string]any{"studio": sc.StudioID, "stays": stays.ID, "goes": goes.ID}).Error
			if err != nil {
				return err
			}
		}
		return settleName(tx, sc, stays)
	})
}

// settleName takes the mark off a person who is the only one of the name.
func settleName(tx *gorm.DB, sc Scope, p Person) error {
	var n int64
	err := tx.Raw("SELECT COUNT(*) FROM person q WHERE q.studio_id = @studio AND "+sameName, map[string]any{"studio": sc.StudioID, "name": p.Name}).
		Scan(&n).
		Error
	if err != nil || n > 1 {
		return err
	}
	return tx.Model(&p).Select("SameName").Updates(Person{}).Error
}

// PartPerson makes somebody else, by an id, of a person in some classes, by the ids of the
// participants there.
func (s *Store) PartPerson(ctx context.Context, sc Scope, publicID, newID string, participants []string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		p, err := lock[Person](tx, sc, publicID)
		if err != nil {
			return err
		}
		if err := checkCapacity[Person](tx, sc, "", 0, MaxPeople); err != nil {
			return err
		}
		other := Person{Row: Row{StudioID: sc.StudioID}, PublicID: newID, Name: p.Name, CreatedAt: s.now().UTC()}
		if err := tx.Create(&other).Error; err != nil {
			return err
		}
		r := tx.Model(&Participant{}).
			Where("studio_id = ? AND person_id = ? AND public_id IN ?", sc.StudioID, p.ID, participants).
			Update("person_id", other.ID)
		if r.Error != nil {
			return r.Error
		}
		if r.RowsAffected != int64(len(participants)) {
			return ErrNotFound
		}
		err = tx.Exec(`INSERT IGNORE INTO series_member (studio_id, series_id, person_id, created_at)
			SELECT p.studio_id, o.series_id, p.person_id, ? FROM participant p JOIN occurrence o ON o.studio_id = p.studio_id AND o.id = p.occurrence_id
			WHERE p.studio_id = ? AND p.person_id = ?`, s.now().UTC(), sc.StudioID, other.ID).Error
		return errors.Join(err, raiseSeriesOf(tx, sc, p.ID), raiseSeriesOf(tx, sc, other.ID))
	})
}
