package store

import (
	"cmp"
	"context"
	"errors"
	"slices"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
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
	// Groups are those that they are a regular of, by name.
	Groups []InGroup `gorm:"-"`
	Facts  Facts     `gorm:"-"`
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

// ListedPeople is how many people one list gives.
const ListedPeople = 1000

// People lists the people of a studio by name, or those of one name where it is said; at most so
// many.
func (s *Store) People(ctx context.Context, sc Scope, name string, most int) ([]Known, error) {
	where := "q.name >= ''"
	if name != "" {
		where = sameName
	}
	var out []Known
	err := s.db.WithContext(ctx).
		Raw(personQuery+where+" ORDER BY q.name, q.id LIMIT @most", map[string]any{"studio": sc.StudioID, "name": name, "most": most}).
		Scan(&out).
		Error
	if err != nil {
		return nil, err
	}
	return out, fillKnown(s.db.WithContext(ctx), sc, out)
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
	return out[0], fillKnown(s.db.WithContext(ctx), sc, out)
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

// PutPerson makes a person under an id, or changes name, unit, weaker side and note. One whose
// name changes is no other of that name.
func (s *Store) PutPerson(ctx context.Context, sc Scope, next Person) error {
	return s.write(ctx, func(tx *gorm.DB) error { return s.putPerson(tx, sc, next) })
}

func (s *Store) putPerson(tx *gorm.DB, sc Scope, next Person) error {
	p, err := lock[Person](tx, sc, next.PublicID)
	if errors.Is(err, ErrNotFound) {
		if err := checkCapacity[Person](tx, sc, "", 0, MaxPeople); err != nil {
			return err
		}
		next.Row, next.Spared = Row{StudioID: sc.StudioID}, object(nil)
		gone, err := erased(tx, sc, []string{next.PublicID})
		if err == nil && len(gone) > 0 {
			err = ErrErased
		}
		if err != nil {
			return err
		}
		return tx.Create(&next).Error
	}
	if err != nil {
		return err
	}
	err = tx.Model(&p).Select("Name", "SameName", "MassUnit", "Weaker", "Note").Updates(next).Error
	return errors.Join(err, raiseSeriesOf(tx, sc, p.ID))
}

// ErrErased means that somebody of an id was erased here: nobody has it again.
var ErrErased = errors.New("somebody of this id was erased here")

// raiseSeriesOf changes the stamps of all series that a person is in, or was in a class of.
func raiseSeriesOf(tx *gorm.DB, sc Scope, person int64) error {
	return tx.Exec(`UPDATE series SET stamp = @stamp WHERE studio_id = @studio AND (id IN
		(SELECT m.series_id FROM series_member m WHERE m.studio_id = @studio AND m.person_id = @person) OR id IN
		(SELECT o.series_id FROM participant p JOIN occurrence o ON o.studio_id = p.studio_id AND o.id = p.occurrence_id
		WHERE p.studio_id = @studio AND p.person_id = @person))`,
		map[string]any{"stamp": newStamp(), "studio": sc.StudioID, "person": person}).Error
}

// raiseSeriesAround changes the stamps of the series of a class, and of all that those in it
// whom the studio knows are in a class of: what they do in one binds in the others.
func raiseSeriesAround(tx *gorm.DB, sc Scope, o Occurrence) error {
	return errors.Join(raiseSeries(tx, sc, o.SeriesID), raiseSeriesBeside(tx, sc, o))
}

// raiseSeriesBeside changes the stamps of the other series that those in a class are in.
func raiseSeriesBeside(tx *gorm.DB, sc Scope, o Occurrence) error {
	return tx.Exec(`UPDATE series SET stamp = @stamp WHERE studio_id = @studio AND id <> @series AND id IN
		(SELECT x.series_id FROM participant me JOIN participant p ON p.studio_id = me.studio_id AND p.person_id = me.person_id
		JOIN occurrence x ON x.studio_id = p.studio_id AND x.id = p.occurrence_id
		WHERE me.studio_id = @studio AND me.occurrence_id = @class AND me.person_id IS NOT NULL)`,
		map[string]any{"stamp": newStamp(), "studio": sc.StudioID, "series": o.SeriesID, "class": o.ID}).Error
}

// Group is a series with how many regulars it has.
type Group struct {
	PublicID string
	Name     string
	Regulars int
}

// maxGroups bounds the groups that are listed.
const maxGroups = 1000

// Groups lists the series of a studio by name.
func (s *Store) Groups(ctx context.Context, sc Scope) ([]Group, error) {
	var out []Group
	err := s.db.WithContext(ctx).Raw(`SELECT s.public_id, s.name,
		(SELECT COUNT(*) FROM series_member m WHERE m.studio_id = s.studio_id AND m.series_id = s.id AND m.regular) AS regulars
		FROM series s WHERE s.studio_id = ? ORDER BY s.name, s.id LIMIT ?`, sc.StudioID, maxGroups).Scan(&out).Error
	return out, err
}

// PutGroups makes somebody a regular of just these series, by their ids; of others they are
// known there still.
func (s *Store) PutGroups(ctx context.Context, sc Scope, person string, series []string) error {
	return s.write(ctx, func(tx *gorm.DB) error { return s.putGroups(tx, sc, person, series) })
}

func (s *Store) putGroups(tx *gorm.DB, sc Scope, person string, series []string) error {
	p, err := lock[Person](tx, sc, person)
	if err != nil {
		return err
	}
	var rows []Series
	if len(series) > 0 {
		if err := tx.Where("studio_id = ? AND public_id IN ?", sc.StudioID, series).Order("id").Limit(maxGroups).Find(&rows).Error; err != nil {
			return err
		}
	}
	if len(rows) != len(series) { // of another studio, or one twice
		return ErrNotFound
	}
	if err := tx.Model(&SeriesMember{}).Where("studio_id = ? AND person_id = ?", sc.StudioID, p.ID).Update("regular", false).Error; err != nil {
		return err
	}
	for _, x := range rows {
		m := SeriesMember{
			Row: Row{StudioID: sc.StudioID}, SeriesID: x.ID, PersonID: p.ID, Regular: true, CreatedAt: s.now().UTC(),
		}
		again := clause.OnConflict{DoUpdates: clause.AssignmentColumns([]string{"regular"})}
		if err := tx.Clauses(again).Create(&m).Error; err != nil {
			return err
		}
	}
	return raiseSeriesOf(tx, sc, p.ID)
}

// Regular is somebody who comes to a group's classes: with the lane that they were in last, and
// who they are in a class where they are here.
type Regular struct {
	PublicID    string
	Name        string
	Lane        string
	Spared      []byte
	Participant string
}

// Regulars lists those of a class's series by name, and who is here besides.
func (s *Store) Regulars(ctx context.Context, sc Scope, class Occurrence) ([]Regular, error) {
	var out []Regular
	err := s.db.WithContext(ctx).Raw(`SELECT q.public_id, q.name, q.spared,
		COALESCE((SELECT p.lane`+newestClass+`, '') AS lane,
		COALESCE((SELECT p.public_id FROM participant p WHERE p.studio_id = q.studio_id AND p.occurrence_id = @class AND p.person_id = q.id LIMIT 1), '') AS participant
		FROM series_member m JOIN person q ON q.studio_id = m.studio_id AND q.id = m.person_id
		WHERE m.studio_id = @studio AND m.series_id = @series AND (m.regular OR EXISTS (SELECT 1 FROM participant p
		WHERE p.studio_id = q.studio_id AND p.occurrence_id = @class AND p.person_id = q.id)) LIMIT @most`,
		map[string]any{"class": class.ID, "studio": sc.StudioID, "series": class.SeriesID, "most": MaxPeople}).
		Scan(&out).Error
	slices.SortFunc(out, func(a, b Regular) int {
		return cmp.Or(cmp.Compare(a.Name, b.Name), cmp.Compare(a.PublicID, b.PublicID))
	})
	return out[:min(len(out), MaxParticipants)], err
}

// ErrTogether means that two people were in one class, so that they cannot be one.
var ErrTogether = errors.New("they were in one class together")

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
		other := Person{
			Row:       Row{StudioID: sc.StudioID},
			PublicID:  newID,
			Name:      p.Name,
			Spared:    object(nil),
			CreatedAt: s.now().UTC(),
		}
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
