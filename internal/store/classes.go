package store

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"slices"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"nimbleanvil/internal/core/moves"
)

// Class is an occurrence with its lanes and participants.
type Class struct {
	Occurrence
	Lanes         []OccurrenceLane
	People        []Attendee
	PlacePublicID string
	PlaceName     string
	// MassUnit is the studio's, CircuitPublicID the circuit's where there is one; Stamps are
	// of what a plan for the class follows from, of its circuit once there is one.
	MassUnit        string
	CircuitPublicID string
	Stamps          Stamps
}

// Listed is a class in a list, with the name of its place.
type Listed struct {
	Occurrence
	PlacePublicID string
	PlaceName     string
}

// Occurrences lists the classes of a span of local days, by day and time.
func (s *Store) Occurrences(ctx context.Context, sc Scope, from, until time.Time) ([]Listed, error) {
	return s.listed(ctx, sc, "o.local_date BETWEEN ? AND ?", from, until)
}

// Occurrence finds a class as a list shows it.
func (s *Store) Occurrence(ctx context.Context, sc Scope, publicID string) (Listed, error) {
	rows, err := s.listed(ctx, sc, "o.public_id = ?", publicID)
	if err == nil && len(rows) == 0 {
		err = ErrNotFound
	}
	if err != nil {
		return Listed{}, err
	}
	return rows[0], nil
}

func (s *Store) listed(ctx context.Context, sc Scope, where string, args ...any) ([]Listed, error) {
	var rows []Listed
	err := s.db.WithContext(ctx).
		Table("occurrence o").
		Select("o.*, p.public_id AS place_public_id, p.name AS place_name").
		Joins("JOIN place p ON p.studio_id = o.studio_id AND p.id = o.place_id").
		Where("o.studio_id = ? AND o.removed_at IS NULL", sc.StudioID).
		Where(where, args...).
		Order("o.local_date, o.local_time, o.id").
		Limit(MaxOccurrences).
		Scan(&rows).
		Error
	return rows, err
}

// Work is the state of the work on some classes, each map by the class's key.
type Work struct {
	Lanes  map[int64][]OccurrenceLane
	People map[int64][]Attendee
	// Circuit and Document are the newest version's.
	Circuit  map[int64]string
	Document map[int64][]byte
	// Run is the newest run.
	Run    map[int64]string
	Logged map[int64]int
}

// WorkOn reads the state of the work on classes in four queries, however many
// they are.
func (s *Store) WorkOn(ctx context.Context, sc Scope, classes []int64) (Work, error) {
	w := Work{
		Lanes:    map[int64][]OccurrenceLane{},
		People:   map[int64][]Attendee{},
		Circuit:  map[int64]string{},
		Document: map[int64][]byte{},
		Run:      map[int64]string{},
		Logged:   map[int64]int{},
	}
	tx := s.db.WithContext(ctx)
	if err := w.whoComes(tx, sc, classes); err != nil {
		return w, err
	}
	// Each query scans into a list of its own: one that finds nothing leaves what
	// stood in the list before.
	var circuits []struct {
		OccurrenceID int64
		PublicID     string
		Document     []byte
	}
	err := tx.Table("circuit c").Select("c.occurrence_id, c.public_id, v.document").
		Joins("JOIN circuit_version v ON v.studio_id = c.studio_id AND v.circuit_id = c.id AND v.version = c.head").
		Where("c.studio_id = ? AND c.occurrence_id IN ?", sc.StudioID, classes).
		Limit(MaxOccurrences).Scan(&circuits).Error
	if err != nil {
		return w, err
	}
	for _, r := range circuits {
		w.Circuit[r.OccurrenceID], w.Document[r.OccurrenceID] = r.PublicID, r.Document
	}
	var runs []struct {
		OccurrenceID int64
		PublicID     string
	}
	err = tx.Table("run").
		Select("occurrence_id, public_id").
		Where("studio_id = ? AND occurrence_id IN ?", sc.StudioID, classes).
		Order("id").
		Limit(100 * MaxOccurrences).
		Scan(&runs).
		Error
	if err != nil {
		return w, err
	}
	for _, r := range runs {
		w.Run[r.OccurrenceID] = r.PublicID
	}
	var lines []struct {
		OccurrenceID int64
		N            int
	}
	err = tx.Table("log_line").
		Select("occurrence_id, COUNT(*) AS n").
		Where("studio_id = ? AND occurrence_id IN ?", sc.StudioID, classes).
		Group("occurrence_id").
		Limit(MaxOccurrences).
		Scan(&lines).
		Error
	for _, r := range lines {
		w.Logged[r.OccurrenceID] = r.N
	}
	return w, err
}

// whoComes reads lanes and participants of classes in one statement: a participant's row has
// no people and no body. It is neither grouped nor sorted, so that a database which has no
// room left for a table of its own reads it still.
func (w Work) whoComes(tx *gorm.DB, sc Scope, classes []int64) error {
	type comer struct {
		OccurrenceLane
		PublicID, Name, PersonPublicID string
		SameName                       bool
	}
	var rows []comer
	err := tx.Raw(`SELECT l.id, l.occurrence_id, l.lane, l.people, l.body_decimal, l.body_unit, l.body_g, l.body_known, l.stature_decimal, l.stature_unit, l.stature_mm,
		'' AS public_id, '' AS name, FALSE AS same_name, '' AS person_public_id FROM occurrence_lane l WHERE l.studio_id = @studio AND l.occurrence_id IN @classes
		UNION ALL SELECT p.id, p.occurrence_id, p.lane, 0, '', '', 0, FALSE, '', '', 0, p.public_id, COALESCE(q.name, ''), COALESCE(q.same_name, FALSE), COALESCE(q.public_id, '')
		FROM participant p LEFT JOIN person q ON q.studio_id = p.studio_id AND q.id = p.person_id WHERE p.studio_id = @studio AND p.occurrence_id IN @classes
		LIMIT @most`, map[string]any{"studio": sc.StudioID, "classes": classes, "most": 100 * MaxOccurrences}).
		Scan(&rows).
		Error
	slices.SortFunc(rows, func(a, b comer) int { return cmp.Compare(a.ID, b.ID) })
	for _, r := range rows {
		if r.PublicID == "" {
			w.Lanes[r.OccurrenceID] = append(w.Lanes[r.OccurrenceID], r.OccurrenceLane)
			continue
		}
		w.People[r.OccurrenceID] = append(w.People[r.OccurrenceID], Attendee{
			Participant:    Participant{PublicID: r.PublicID, OccurrenceID: r.OccurrenceID, Lane: r.Lane},
			Name:           r.Name,
			SameName:       r.SameName,
			PersonPublicID: r.PersonPublicID,
		})
	}
	if err != nil {
		return err
	}
	var all [][]Attendee
	for _, people := range w.People {
		all = append(all, people)
	}
	return fillFacts(tx, sc, all...)
}

// Class finds a class with its lanes.
func (s *Store) Class(ctx context.Context, sc Scope, publicID string) (Class, error) {
	return s.class(ctx, sc, "o.public_id = ?", publicID)
}

// ClassByID finds a class by its key inside.
func (s *Store) ClassByID(ctx context.Context, sc Scope, id int64) (Class, error) {
	return s.class(ctx, sc, "o.id = ?", id)
}

// classColumns are a class with its place, lanes, participants, studio and stamps.
const classColumns = `o.*, p.public_id AS place_public_id, p.name AS place_name, st.mass_unit, p.id AS at_place, p.stamp AS at_place_at, st.library_stamp AS at_library,
	s.id AS at_series, s.stamp AS at_series_at, ` + whoComes

// whoComes are the lanes and the participants of a class, each as one list.
const whoComes = `(SELECT JSON_ARRAYAGG(JSON_OBJECT('Lane', l.lane, 'People', l.people, 'BodyDecimal', l.body_decimal, 'BodyUnit', l.body_unit,
	'BodyG', l.body_g, 'BodyKnown', IF(l.body_known, TRUE, FALSE), 'StatureDecimal', l.stature_decimal, 'StatureUnit', l.stature_unit, 'StatureMm', l.stature_mm) ORDER BY l.id)
	FROM occurrence_lane l WHERE l.studio_id = o.studio_id AND l.occurrence_id = o.id) AS lane_list,
	(SELECT JSON_ARRAYAGG(JSON_OBJECT('PublicID', p.public_id, 'Lane', p.lane, 'Name', COALESCE(q.name, ''), 'SameName', IF(COALESCE(q.same_name, FALSE), TRUE, FALSE), 'PersonPublicID', COALESCE(q.public_id, '')) ORDER BY p.id)
	FROM participant p LEFT JOIN person q ON q.studio_id = p.studio_id AND q.id = p.person_id WHERE p.studio_id = o.studio_id AND p.occurrence_id = o.id) AS people_list`

// lists reads what whoComes gives.
func lists(laneList, peopleList []byte) (lanes []OccurrenceLane, people []Attendee, err error) {
	for list, into := range map[*[]byte]any{&laneList: &lanes, &peopleList: &people} {
		if len(*list) > 0 {
			err = errors.Join(err, json.Unmarshal(*list, into))
		}
	}
	return lanes, people, err
}

// classJoins join what classColumns names to an occurrence.
const classJoins = ` JOIN place p ON p.studio_id = o.studio_id AND p.id = o.place_id JOIN series s ON s.studio_id = o.studio_id AND s.id = o.series_id JOIN studio st ON st.id = o.studio_id`

// classRow is a row of classColumns.
type classRow struct {
	Occurrence
	PlacePublicID string
	PlaceName     string
	MassUnit      string
	LaneList      []byte
	PeopleList    []byte
	At            Stamps `gorm:"embedded;embeddedPrefix:at_"`
}

func (r classRow) class() (Class, error) {
	c := Class{
		Occurrence:    r.Occurrence,
		PlacePublicID: r.PlacePublicID,
		PlaceName:     r.PlaceName,
		MassUnit:      r.MassUnit,
		Stamps:        r.At,
	}
	if r.ID == 0 {
		return c, ErrNotFound
	}
	var err error
	c.Lanes, c.People, err = lists(r.LaneList, r.PeopleList)
	return c, err
}

// class reads a class in one query.
func (s *Store) class(ctx context.Context, sc Scope, which string, arg any) (Class, error) {
	var row struct {
		Class           classRow `gorm:"embedded"`
		CircuitPublicID *string
	}
	err := s.db.WithContext(ctx).
		Raw("SELECT "+classColumns+", c.public_id AS circuit_public_id FROM occurrence o"+classJoins+
			" LEFT JOIN circuit c ON c.studio_id = o.studio_id AND c.occurrence_id = o.id WHERE o.studio_id = ? AND o.removed_at IS NULL AND "+which, sc.StudioID, arg).
		Scan(&row).
		Error
	if err != nil {
		return Class{}, err
	}
	c, err := row.Class.class()
	if row.CircuitPublicID != nil {
		c.CircuitPublicID = *row.CircuitPublicID
	}
	if err != nil {
		return c, err
	}
	return c, fillFacts(s.db.WithContext(ctx), sc, c.People)
}

// PutClass makes a class or changes it with its lanes.
func (s *Store) PutClass(ctx context.Context, sc Scope, place string, next Class) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		p, err := get[Place](tx, sc, place)
		if err != nil {
			return err
		}
		next.StudioID, next.PlaceID = sc.StudioID, p.ID
		old, err := lock[Occurrence](tx, sc, next.PublicID)
		fresh := errors.Is(err, ErrNotFound)
		if err != nil && !fresh {
			return err
		}
		if fresh {
			if next.SeriesID, err = s.seriesNamed(tx, sc, next.Name); err != nil {
				return err
			}
			if err := checkCapacity[Occurrence](tx, sc, "", 0, MaxClasses); err != nil {
				return err
			}
			if err := tx.Create(&next.Occurrence).Error; err != nil {
				return err
			}
			return putLanes(tx, sc, next.ID, next.Lanes)
		}
		// A class that is renamed stays among its classes: it keeps its past.
		next.ID, next.SeriesID = old.ID, old.SeriesID
		if err := raiseSeriesAround(tx, sc, old); err != nil {
			return err
		}
		cols := []string{"PlaceID", "SeriesID", "Name", "LocalDate", "LocalTime", "TimeZone", "Minutes", "RemovedAt"}
		if err := tx.Model(&old).Select(cols).Updates(next.Occurrence).Error; err != nil {
			return err
		}
		if err := renameSeries(tx, sc, old.SeriesID, next.Name); err != nil {
			return err
		}
		return putLanes(tx, sc, next.ID, next.Lanes)
	})
}

// lockClass reads a class for change; one that was taken away is not there.
func lockClass(tx *gorm.DB, sc Scope, publicID string) (Occurrence, error) {
	o, err := lock[Occurrence](tx, sc, publicID)
	if err == nil && o.RemovedAt != nil {
		err = ErrNotFound
	}
	return o, err
}

// RemoveClass takes a class away in which nothing has happened: no run, no line of a log and
// nobody by name; else it is ErrInUse. It is kept, and put again it is there again.
func (s *Store) RemoveClass(ctx context.Context, sc Scope, publicID string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		o, err := lockClass(tx, sc, publicID)
		if err != nil {
			return err
		}
		var used int64
		err = tx.Raw(`SELECT (SELECT COUNT(*) FROM run WHERE studio_id = @studio AND occurrence_id = @class)
			+ (SELECT COUNT(*) FROM log_line WHERE studio_id = @studio AND occurrence_id = @class)
			+ (SELECT COUNT(*) FROM participant WHERE studio_id = @studio AND occurrence_id = @class)`,
			map[string]any{"studio": sc.StudioID, "class": o.ID}).
			Scan(&used).
			Error
		if err != nil {
			return err
		}
		if used > 0 {
			return ErrInUse
		}
		return errors.Join(tx.Model(&o).Update("removed_at", s.now().UTC()).Error, raiseSeriesAround(tx, sc, o))
	})
}

// laneColumns are what may be changed of a lane.
var laneColumns = []string{
	"people",
	"body_decimal",
	"body_unit",
	"body_g",
	"body_known",
	"stature_decimal",
	"stature_unit",
	"stature_mm",
}

// putLanes makes the lanes of a class what they are in a list.
func putLanes(tx *gorm.DB, sc Scope, occurrence int64, lanes []OccurrenceLane) error {
	var stay []string
	for i := range lanes {
		lanes[i].ID, lanes[i].StudioID, lanes[i].OccurrenceID = 0, sc.StudioID, occurrence
		stay = append(stay, lanes[i].Lane)
	}
	if len(lanes) > 0 {
		err := tx.Clauses(clause.OnConflict{DoUpdates: clause.AssignmentColumns(laneColumns)}).Create(&lanes).Error
		if err != nil || len(lanes) == len(moves.Lanes) {
			return err
		}
	}
	gone := tx.Where("studio_id = ? AND occurrence_id = ?", sc.StudioID, occurrence)
	if len(stay) > 0 {
		gone = gone.Where("lane NOT IN ?", stay)
	}
	return gone.Delete(&OccurrenceLane{}).Error
}
