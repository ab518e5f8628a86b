package store

import (
	"cmp"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"maps"
	"slices"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/strength"
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
		Where("o.studio_id = ?", sc.StudioID).
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
	return err
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
			" LEFT JOIN circuit c ON c.studio_id = o.studio_id AND c.occurrence_id = o.id WHERE o.studio_id = ? AND "+which, sc.StudioID, arg).
		Scan(&row).
		Error
	if err != nil {
		return Class{}, err
	}
	c, err := row.Class.class()
	if row.CircuitPublicID != nil {
		c.CircuitPublicID = *row.CircuitPublicID
	}
	return c, err
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
		if err := raiseSeries(tx, sc, old.SeriesID); err != nil {
			return err
		}
		cols := []string{"PlaceID", "SeriesID", "Name", "LocalDate", "LocalTime", "TimeZone", "Minutes"}
		if err := tx.Model(&old).Select(cols).Updates(next.Occurrence).Error; err != nil {
			return err
		}
		if err := renameSeries(tx, sc, old.SeriesID, next.Name); err != nil {
			return err
		}
		return putLanes(tx, sc, next.ID, next.Lanes)
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

// Attendee is a participant with the person that they are, if any.
type Attendee struct {
	Participant
	Name           string
	SameName       bool
	PersonPublicID string
}

// PutParticipant adds somebody to a class or changes them: a person by their id, or one of
// a name, who is recognized or made; neither for somebody nobody knows. A person who is
// here already is ErrTogether.
func (s *Store) PutParticipant(ctx context.Context, sc Scope, occurrence string, next Attendee) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		o, err := lock[Occurrence](tx, sc, occurrence)
		if err != nil {
			return err
		}
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
		if fresh {
			if err := checkCapacity[Participant](tx, sc, "occurrence_id", o.ID, MaxParticipants); err != nil {
				return err
			}
			return errors.Join(tx.Create(&row).Error, raiseSeries(tx, sc, o.SeriesID))
		}
		if err := tx.Model(&old).Select("PersonID", "Lane").Updates(row).Error; err != nil {
			return err
		}
		return raiseSeries(tx, sc, o.SeriesID)
	})
}

// RemoveParticipant takes somebody out of a class of whom nothing is written down there and
// whom the circuit does not name; else it is ErrInUse.
func (s *Store) RemoveParticipant(ctx context.Context, sc Scope, occurrence, publicID string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		o, err := lock[Occurrence](tx, sc, occurrence)
		if err != nil {
			return err
		}
		p, err := lock[Participant](tx, sc, publicID)
		if err == nil && p.OccurrenceID != o.ID {
			err = ErrNotFound
		}
		if err != nil {
			return err
		}
		var used int64
		err = tx.Raw(`SELECT (SELECT COUNT(*) FROM log_line WHERE studio_id = @studio AND occurrence_id = @class AND subject = @who)
			+ (SELECT COUNT(*) FROM circuit c JOIN circuit_version v ON v.studio_id = c.studio_id AND v.circuit_id = c.id AND v.version = c.head
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
		return errors.Join(tx.Delete(&p).Error, raiseSeries(tx, sc, o.SeriesID))
	})
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
			WHERE m.studio_id = ? AND m.series_id = ? AND q.name = ?`, sc.StudioID, o.SeriesID, next.Name).
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

// LogLines lists what was logged in a class.
func (s *Store) LogLines(ctx context.Context, sc Scope, occurrence int64) ([]LogLine, error) {
	return list[LogLine](s.db.WithContext(ctx), sc, "occurrence_id", occurrence, MaxLogLines)
}

// PutLogLines writes or changes lines of a class, all or none. A subject that is a
// participant of the class is linked to it. UpdatedAt is when a line was typed (now if
// zero): of two, the one typed later stays, whichever comes first, of equals the one that
// comes later. What one device types, which it numbers, is never older than what it typed
// before. What is overtaken stays readable.
func (s *Store) PutLogLines(ctx context.Context, sc Scope, occurrence string, lines []LogLine) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		o, err := lock[Occurrence](tx, sc, occurrence)
		if err != nil {
			return err
		}
		here, err := participantsOf(tx, sc, o.ID, lines)
		if err != nil {
			return err
		}
		for _, l := range lines {
			if id, ok := here[l.Subject]; ok {
				l.ParticipantID = &id
			}
			if err := s.putLogLine(tx, sc, o, l); err != nil {
				return err
			}
		}
		return raiseSeries(tx, sc, o.SeriesID)
	})
}

// participantsOf gives the keys of those participants of a class that are subjects of
// lines.
func participantsOf(tx *gorm.DB, sc Scope, occurrence int64, lines []LogLine) (map[string]int64, error) {
	subjects := map[string]bool{}
	for _, l := range lines {
		if l.Subject != l.Lane {
			subjects[l.Subject] = true
		}
	}
	out := map[string]int64{}
	if len(subjects) == 0 {
		return out, nil
	}
	var rows []Participant
	err := tx.Where("studio_id = ? AND public_id IN ? AND occurrence_id = ?", sc.StudioID, slices.Sorted(maps.Keys(subjects)), occurrence).
		Limit(MaxParticipants).
		Find(&rows).
		Error
	for _, r := range rows {
		out[r.PublicID] = r.ID
	}
	return out, err
}

func (s *Store) putLogLine(tx *gorm.DB, sc Scope, o Occurrence, next LogLine) error {
	next.StudioID, next.OccurrenceID = sc.StudioID, o.ID
	if next.UpdatedAt.IsZero() {
		next.UpdatedAt = s.now().UTC()
	}
	known, err := steadied(tx, &next)
	if err != nil || known {
		return err
	}
	var old LogLine
	err = tx.Where("studio_id = ? AND occurrence_id = ? AND subject = ? AND slot = ?", sc.StudioID, o.ID, next.Subject, next.Slot).
		Take(&old).
		Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return tx.Create(&next).Error
	}
	if err != nil {
		return err
	}
	if next.UpdatedAt.Before(old.UpdatedAt) {
		return overtake(tx, next, s.now().UTC())
	}
	if err := overtake(tx, old, s.now().UTC()); err != nil {
		return err
	}
	cols := []string{
		"Lane",
		"Variant",
		"Planned",
		"Done",
		"InForm",
		"Reserve",
		"Pain",
		"Joint",
		"Others",
		"LoadG",
		"Hold",
		"TooLight",
		"ResistanceG",
		"LibraryVersion",
		"Device",
		"N",
		"UpdatedAt",
	}
	// Not Updates: that would stamp the line with now, and not with when it was typed.
	return tx.Model(&old).Select(cols).UpdateColumns(next).Error
}

// steadied gives what a device typed the instant of what it typed before, where its clock
// went back since; known tells that the very line has come already.
func steadied(tx *gorm.DB, l *LogLine) (known bool, err error) {
	if l.Device == "" {
		return false, nil
	}
	for table, column := range map[string]string{"log_line": "updated_at", "log_line_past": "written_at"} {
		mine := tx.Table(table).
			Where("studio_id = ? AND occurrence_id = ? AND device = ?", l.StudioID, l.OccurrenceID, l.Device).
			Session(&gorm.Session{})
		var same int64
		if err := mine.Where("n = ? AND subject = ? AND slot = ?", l.N, l.Subject, l.Slot).Count(&same).Error; err != nil ||
			same > 0 {
			return same > 0, err
		}
		var before sql.NullTime
		if err := mine.Where("n < ?", l.N).Select("MAX(" + column + ")").Scan(&before).Error; err != nil {
			return false, err
		}
		if before.Time.After(l.UpdatedAt) {
			l.UpdatedAt = before.Time
		}
	}
	return false, nil
}

// overtake keeps what does not stand in the log any more, the newest MaxPastOfLine of a
// line.
func overtake(tx *gorm.DB, l LogLine, now time.Time) error {
	p := LogLinePast{
		Row:          Row{StudioID: l.StudioID},
		OccurrenceID: l.OccurrenceID,
		Subject:      l.Subject,
		Slot:         l.Slot,
		Done:         l.Done,
		InForm:       l.InForm,
		Reserve:      l.Reserve,
		Pain:         l.Pain,
		Joint:        l.Joint,
		Others:       l.Others,
		LoadG:        l.LoadG,
		Device:       l.Device,
		N:            l.N,
		WrittenAt:    l.UpdatedAt,
		CreatedAt:    now,
	}
	var ids []int64
	of := tx.Model(&LogLinePast{}).
		Where("studio_id = ? AND occurrence_id = ? AND subject = ? AND slot = ?", l.StudioID, l.OccurrenceID, l.Subject, l.Slot)
	if err := of.Order("id DESC").Limit(2*MaxPastOfLine).Pluck("id", &ids).Error; err != nil {
		return err
	}
	if len(ids) >= MaxPastOfLine {
		if err := tx.Where("studio_id = ? AND id IN ?", l.StudioID, ids[MaxPastOfLine-1:]).Delete(&LogLinePast{}).Error; err != nil {
			return err
		}
	}
	return tx.Create(&p).Error
}

// Line names a line of a class's log.
type Line struct{ Subject, Slot string }

// LoggedLine is a line of a log with how often something else stood there.
type LoggedLine struct {
	LogLine
	Overtaken int
}

// LoggedLines lists what was logged in a class, with how much of it was overtaken.
func (s *Store) LoggedLines(ctx context.Context, sc Scope, occurrence int64) ([]LoggedLine, error) {
	var rows []LoggedLine
	err := s.db.WithContext(ctx).Table("log_line l").
		Select("l.*, (SELECT COUNT(*) FROM log_line_past p WHERE p.studio_id = l.studio_id AND p.occurrence_id = l.occurrence_id AND p.subject = l.subject AND p.slot = l.slot) AS overtaken").
		Where("l.studio_id = ? AND l.occurrence_id = ?", sc.StudioID, occurrence).
		Order("l.id").Limit(MaxLogLines).Scan(&rows).Error
	return rows, err
}

// Overtaken lists what was typed in a line of the log and does not stand there any more,
// the newest first.
func (s *Store) Overtaken(
	ctx context.Context,
	sc Scope,
	occurrence int64,
	subject, slot string,
) ([]LogLinePast, error) {
	var rows []LogLinePast
	err := s.in(ctx, sc).
		Where("occurrence_id = ? AND subject = ? AND slot = ?", occurrence, subject, slot).
		Order("id DESC").
		Limit(MaxPastOfLine).
		Find(&rows).
		Error
	return rows, err
}

// How much of a group's past is read: the newest lines, and the plans of the last classes.
const (
	maxPastLines    = 5000
	maxPastCircuits = 26
)

// pastQuery reads lines, plans and participants of the earlier classes of a series in one
// statement: rows of a plan have a document, those of a participant say who is here.
const pastQuery = `(SELECT l.lane, l.variant, l.hold, l.planned, l.done, l.in_form, l.reserve, l.pain, l.joint, l.others, l.load_g, l.too_light, l.slot,
	o.local_date, o.local_time, l.id, COALESCE(q.public_id, p.public_id, '') AS who, '' AS here, NULL AS document
	FROM occurrence o JOIN log_line l ON l.studio_id = o.studio_id AND l.occurrence_id = o.id
	LEFT JOIN participant p ON p.studio_id = l.studio_id AND p.id = l.participant_id
	LEFT JOIN person q ON q.studio_id = p.studio_id AND q.id = p.person_id
	WHERE o.studio_id = @studio AND o.series_id = @series AND (o.local_date, o.local_time) < (@day, @time)
	ORDER BY o.local_date DESC, o.local_time DESC, l.id DESC LIMIT @lines)
UNION ALL (SELECT '', '', '', 0, 0, 0, NULL, '', '', FALSE, 0, FALSE, '', o.local_date, o.local_time, o.id, '', '', v.document
	FROM occurrence o JOIN circuit c ON c.studio_id = o.studio_id AND c.occurrence_id = o.id
	JOIN circuit_version v ON v.studio_id = c.studio_id AND v.circuit_id = c.id AND v.version = c.head
	WHERE o.studio_id = @studio AND o.series_id = @series AND (o.local_date, o.local_time) < (@day, @time)
	ORDER BY o.local_date DESC, o.local_time DESC, o.id DESC LIMIT @plans)
UNION ALL (SELECT p.lane, '', '', 0, 0, 0, NULL, '', '', FALSE, 0, FALSE, '', o.local_date, o.local_time, p.id, COALESCE(q.public_id, p.public_id), p.public_id, NULL
	FROM occurrence o JOIN participant p ON p.studio_id = o.studio_id AND p.occurrence_id = o.id
	LEFT JOIN person q ON q.studio_id = p.studio_id AND q.id = p.person_id
	WHERE o.studio_id = @studio AND o.series_id = @series AND (o.local_date, o.local_time) < (@day, @time)
	ORDER BY o.local_date DESC, o.local_time DESC, p.id DESC LIMIT @lines)`

// pastRow is a row of pastQuery.
type pastRow struct {
	LogLine
	LocalDate time.Time
	LocalTime string
	Who       string
	Here      string // a participant
	Document  []byte
}

// Past reads what earlier classes of the same series say to a class, as the core's value.
func (s *Store) Past(ctx context.Context, sc Scope, c Occurrence) (progress.Past, error) {
	past := progress.Past{Day: dayOf(c.LocalDate)}
	var rows []pastRow
	err := s.db.WithContext(ctx).
		Raw(pastQuery, map[string]any{"studio": sc.StudioID, "series": c.SeriesID, "day": c.LocalDate, "time": c.LocalTime,
			"lines": maxPastLines, "plans": maxPastCircuits}).
		Scan(&rows).
		Error
	if err != nil {
		return past, err
	}
	// A union keeps no order.
	slices.SortFunc(rows, func(a, b pastRow) int {
		return cmp.Or(a.LocalDate.Compare(b.LocalDate), cmp.Compare(a.LocalTime, b.LocalTime), cmp.Compare(a.ID, b.ID))
	})
	here := map[people.Party]progress.Presence{}
	for _, r := range rows {
		switch {
		case r.Document != nil:
		case r.Here != "":
			x := progress.Presence{Day: dayOf(r.LocalDate), Lane: moves.Lane(r.Lane), Who: r.Who}
			here[people.Party(r.Here)] = x
			past.Present = append(past.Present, x)
		default:
			past.Lines = append(past.Lines, r.Past(r.LocalDate, r.Who))
		}
	}
	whose := func(p people.Party) (moves.Lane, string) {
		if lane, ok := p.Lane(); ok {
			return lane, ""
		}
		return here[p].Lane, cmp.Or(here[p].Who, string(p))
	}
	for _, r := range slices.Backward(rows) { // the newest plan first
		if r.Document == nil {
			continue
		}
		d, err := circuit.Decode(r.Document)
		if err != nil {
			return past, err
		}
		past.Known = append(past.Known, d.Known...)
		for _, o := range d.Overruled {
			lane, who := whose(o.Party)
			past.Overruled = append(past.Overruled,
				progress.Overrule{Day: dayOf(r.LocalDate), Lane: lane, Who: who, What: o.What})
		}
		if len(past.Last) < progress.LastClasses {
			past.Last = append(past.Last, d.UsedBy(whose))
		}
	}
	return past, nil
}

// dayOf numbers local days.
func dayOf(date time.Time) int { return int(date.Unix() / (24 * 60 * 60)) }

// Past gives the line as the core reads it, of a day and somebody's name.
func (l LogLine) Past(date time.Time, who string) progress.Line {
	return progress.Line{
		Day:     dayOf(date),
		Lane:    moves.Lane(l.Lane),
		Who:     who,
		Variant: l.Variant,
		Hold:    moves.HoldID(l.Hold),
		Set: strength.Set{
			Planned: l.Planned,
			Done:    l.Done,
			InForm:  l.InForm,
			Reserve: l.Reserve,
		},
		Pain:     progress.Pain(l.Pain),
		Joint:    l.Joint,
		Others:   l.Others,
		Load:     measure.Mass(l.LoadG),
		TooLight: l.TooLight,
	}
}

// maxSessions bounds how far back a group's sessions are read.
const maxSessions = 300

// Sessions lists what was logged in earlier classes of the same series, the oldest
// class first, each its variants in the order of the log, at most the last 300
// classes' worth.
func (s *Store) Sessions(ctx context.Context, sc Scope, c Occurrence) ([][]string, error) {
	var rows []struct {
		OccurrenceID int64
		Variant      string
	}
	err := s.db.WithContext(ctx).Table("log_line l").Select("l.occurrence_id, l.variant").
		Joins("JOIN occurrence o ON o.studio_id = l.studio_id AND o.id = l.occurrence_id").
		Where("l.studio_id = ? AND o.series_id = ? AND (o.local_date, o.local_time) < (?, ?)", sc.StudioID, c.SeriesID, c.LocalDate, c.LocalTime).
		Group("l.occurrence_id, l.variant").
		Order("o.local_date DESC, o.local_time DESC, l.occurrence_id DESC, MIN(l.id) DESC").
		Limit(24 * maxSessions).Scan(&rows).Error
	out := [][]string{}
	for i := len(rows) - 1; i >= 0; i-- {
		if i == len(rows)-1 || rows[i].OccurrenceID != rows[i+1].OccurrenceID {
			out = append(out, nil)
		}
		out[len(out)-1] = append(out[len(out)-1], rows[i].Variant)
	}
	return out, err
}
