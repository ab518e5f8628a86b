package store

import (
	"context"
	"database/sql"
	"errors"
	"slices"
	"time"

	"gorm.io/gorm"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/strength"
)

// Class is an occurrence with its lanes.
type Class struct {
	Occurrence
	Lanes         []OccurrenceLane
	PlacePublicID string
	PlaceName     string
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
	err := s.db.WithContext(ctx).Table("occurrence o").Select("o.*, p.public_id AS place_public_id, p.name AS place_name").
		Joins("JOIN place p ON p.studio_id = o.studio_id AND p.id = o.place_id").
		Where("o.studio_id = ?", sc.StudioID).Where(where, args...).Order("o.local_date, o.local_time, o.id").Limit(MaxOccurrences).Scan(&rows).Error
	return rows, err
}

// Work is the state of the work on some classes, each map by the class's key.
type Work struct {
	Lanes map[int64][]OccurrenceLane
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
	w := Work{map[int64][]OccurrenceLane{}, map[int64]string{}, map[int64][]byte{}, map[int64]string{}, map[int64]int{}}
	tx := s.db.WithContext(ctx)
	var lanes []OccurrenceLane
	if err := s.in(ctx, sc).Where("occurrence_id IN ?", classes).Order("id").Limit(3 * MaxOccurrences).Find(&lanes).Error; err != nil {
		return w, err
	}
	for _, l := range lanes {
		w.Lanes[l.OccurrenceID] = append(w.Lanes[l.OccurrenceID], l)
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
		Where("c.studio_id = ? AND c.occurrence_id IN ?", sc.StudioID, classes).Limit(MaxOccurrences).Scan(&circuits).Error
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
	err = tx.Table("run").Select("occurrence_id, public_id").Where("studio_id = ? AND occurrence_id IN ?", sc.StudioID, classes).
		Order("id").Limit(100 * MaxOccurrences).Scan(&runs).Error
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
	err = tx.Table("log_line").Select("occurrence_id, COUNT(*) AS n").Where("studio_id = ? AND occurrence_id IN ?", sc.StudioID, classes).
		Group("occurrence_id").Limit(MaxOccurrences).Scan(&lines).Error
	for _, r := range lines {
		w.Logged[r.OccurrenceID] = r.N
	}
	return w, err
}

// Class finds a class with its lanes.
func (s *Store) Class(ctx context.Context, sc Scope, publicID string) (Class, error) {
	return s.class(ctx, sc, "o.public_id = ?", publicID)
}

// ClassByID finds a class by its key inside.
func (s *Store) ClassByID(ctx context.Context, sc Scope, id int64) (Class, error) {
	return s.class(ctx, sc, "o.id = ?", id)
}

// class reads a class, its lanes and the name of its place in one query.
func (s *Store) class(ctx context.Context, sc Scope, which string, arg any) (Class, error) {
	var rows []struct {
		Listed
		In OccurrenceLane `gorm:"embedded;embeddedPrefix:in_"`
	}
	err := s.db.WithContext(ctx).Table("occurrence o").
		Select("o.*, p.public_id AS place_public_id, p.name AS place_name, l.lane AS in_lane, l.people AS in_people, l.body_decimal AS in_body_decimal, l.body_unit AS in_body_unit, "+
			"l.body_g AS in_body_g, l.body_known AS in_body_known, l.stature_decimal AS in_stature_decimal, l.stature_unit AS in_stature_unit, l.stature_mm AS in_stature_mm").
		Joins("JOIN place p ON p.studio_id = o.studio_id AND p.id = o.place_id").
		Joins("LEFT JOIN occurrence_lane l ON l.studio_id = o.studio_id AND l.occurrence_id = o.id").
		Where("o.studio_id = ? AND "+which, sc.StudioID, arg).Order("l.id").Limit(len(moves.Lanes)).Scan(&rows).Error
	if err != nil {
		return Class{}, err
	}
	if len(rows) == 0 {
		return Class{}, ErrNotFound
	}
	c := Class{Occurrence: rows[0].Occurrence, PlacePublicID: rows[0].PlacePublicID, PlaceName: rows[0].PlaceName}
	for _, r := range rows {
		if r.In.Lane != "" {
			c.Lanes = append(c.Lanes, r.In)
		}
	}
	return c, nil
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
		switch {
		case errors.Is(err, ErrNotFound):
			if err := room[Occurrence](tx, sc, "", 0, MaxClasses); err != nil {
				return err
			}
			if err := tx.Create(&next.Occurrence).Error; err != nil {
				return err
			}
		case err != nil:
			return err
		default:
			next.ID = old.ID
			cols := []string{"PlaceID", "Name", "LocalDate", "LocalTime", "TimeZone", "Minutes"}
			if err := tx.Model(&old).Select(cols).Updates(next.Occurrence).Error; err != nil {
				return err
			}
		}
		return putLanes(tx, sc, next.ID, next.Lanes)
	})
}

// putLanes replaces the lanes of a class.
func putLanes(tx *gorm.DB, sc Scope, occurrence int64, lanes []OccurrenceLane) error {
	if err := tx.Where("studio_id = ? AND occurrence_id = ?", sc.StudioID, occurrence).Delete(&OccurrenceLane{}).Error; err != nil {
		return err
	}
	for i := range lanes {
		lanes[i].ID, lanes[i].StudioID, lanes[i].OccurrenceID = 0, sc.StudioID, occurrence
	}
	if len(lanes) == 0 {
		return nil
	}
	return tx.Create(&lanes).Error
}

// Participants lists who is in a class.
func (s *Store) Participants(ctx context.Context, sc Scope, occurrence int64) ([]Participant, error) {
	return list[Participant](s.db.WithContext(ctx), sc, "occurrence_id", occurrence, MaxParticipants)
}

// PutParticipant adds somebody to a class or changes them.
func (s *Store) PutParticipant(ctx context.Context, sc Scope, occurrence string, next Participant) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		o, err := lock[Occurrence](tx, sc, occurrence)
		if err != nil {
			return err
		}
		old, err := lock[Participant](tx, sc, next.PublicID)
		if errors.Is(err, ErrNotFound) {
			if err := room[Participant](tx, sc, "occurrence_id", o.ID, MaxParticipants); err != nil {
				return err
			}
			next.StudioID, next.OccurrenceID = sc.StudioID, o.ID
			return tx.Create(&next).Error
		}
		if err != nil {
			return err
		}
		return found(tx.Model(&old).Where("occurrence_id = ?", o.ID).Select("Name", "Lane").Updates(next))
	})
}

// LogLines lists what was logged in a class.
func (s *Store) LogLines(ctx context.Context, sc Scope, occurrence int64) ([]LogLine, error) {
	return list[LogLine](s.db.WithContext(ctx), sc, "occurrence_id", occurrence, MaxLogLines)
}

// PutLogLine writes or changes one line; participant is empty for a lane. Its
// UpdatedAt is when it was typed (now if zero): of two, the one typed later stays, whichever
// comes first, of equals the one that comes later. What one device types, which it numbers,
// is never older than what it typed before. What is overtaken stays readable.
func (s *Store) PutLogLine(ctx context.Context, sc Scope, occurrence, participant string, next LogLine) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		o, err := lock[Occurrence](tx, sc, occurrence)
		if err != nil {
			return err
		}
		if participant != "" {
			p, err := get[Participant](tx.Where("occurrence_id = ?", o.ID), sc, participant)
			if err != nil {
				return err
			}
			next.ParticipantID = &p.ID
		}
		return s.putLogLine(tx, sc, o, next)
	})
}

// PutLogLines writes lines of lanes, all or none.
func (s *Store) PutLogLines(ctx context.Context, sc Scope, occurrence string, lines []LogLine) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		o, err := lock[Occurrence](tx, sc, occurrence)
		if err != nil {
			return err
		}
		for _, l := range lines {
			if err := s.putLogLine(tx, sc, o, l); err != nil {
				return err
			}
		}
		return nil
	})
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
	err = tx.Where("studio_id = ? AND occurrence_id = ? AND subject = ? AND slot = ?", sc.StudioID, o.ID, next.Subject, next.Slot).Take(&old).Error
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
	cols := []string{"Lane", "Variant", "Planned", "Done", "InForm", "Reserve", "Pain", "Joint", "Others", "LoadG", "Hold", "TooLight", "ResistanceG", "LibraryVersion", "Device", "N", "UpdatedAt"}
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
		mine := tx.Table(table).Where("studio_id = ? AND occurrence_id = ? AND device = ?", l.StudioID, l.OccurrenceID, l.Device).Session(&gorm.Session{})
		var same int64
		if err := mine.Where("n = ? AND subject = ? AND slot = ?", l.N, l.Subject, l.Slot).Count(&same).Error; err != nil || same > 0 {
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
	p := LogLinePast{Row: Row{StudioID: l.StudioID}, OccurrenceID: l.OccurrenceID, Subject: l.Subject, Slot: l.Slot, Done: l.Done, InForm: l.InForm, Reserve: l.Reserve, Pain: l.Pain,
		Joint: l.Joint, Others: l.Others, LoadG: l.LoadG, Device: l.Device, N: l.N, WrittenAt: l.UpdatedAt, CreatedAt: now}
	var ids []int64
	of := tx.Model(&LogLinePast{}).Where("studio_id = ? AND occurrence_id = ? AND subject = ? AND slot = ?", l.StudioID, l.OccurrenceID, l.Subject, l.Slot)
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
		Where("l.studio_id = ? AND l.occurrence_id = ?", sc.StudioID, occurrence).Order("l.id").Limit(MaxLogLines).Scan(&rows).Error
	return rows, err
}

// Overtaken lists what was typed in a line of the log and does not stand there any more,
// the newest first.
func (s *Store) Overtaken(ctx context.Context, sc Scope, occurrence int64, subject, slot string) ([]LogLinePast, error) {
	var rows []LogLinePast
	err := s.in(ctx, sc).Where("occurrence_id = ? AND subject = ? AND slot = ?", occurrence, subject, slot).Order("id DESC").Limit(MaxPastOfLine).Find(&rows).Error
	return rows, err
}

// How much of a group's past is read: the newest lines, and the plans of the last classes.
const (
	maxPastLines    = 5000
	maxPastCircuits = 26
)

// Past reads what earlier classes of the same name say to a class, as the core's value:
// a renamed class begins anew, and people of one name are one.
func (s *Store) Past(ctx context.Context, sc Scope, c Occurrence) (progress.Past, error) {
	past := progress.Past{Day: dayOf(c.LocalDate)}
	earlier := "o.studio_id = ? AND o.name = ? AND (o.local_date, o.local_time) < (?, ?)"
	args := []any{sc.StudioID, c.Name, c.LocalDate, c.LocalTime}
	var lines []struct {
		LogLine
		LocalDate time.Time
		Who       string
	}
	err := s.db.WithContext(ctx).Table("occurrence o").Select("l.*, o.local_date, COALESCE(p.name, '') AS who").
		Joins("JOIN log_line l ON l.studio_id = o.studio_id AND l.occurrence_id = o.id").
		Joins("LEFT JOIN participant p ON p.studio_id = l.studio_id AND p.id = l.participant_id").
		Where(earlier, args...).Order("o.local_date DESC, o.local_time DESC, l.id DESC").Limit(maxPastLines).Scan(&lines).Error
	if err != nil {
		return past, err
	}
	for _, l := range slices.Backward(lines) {
		past.Lines = append(past.Lines, l.Past(l.LocalDate, l.Who))
	}
	var circuits []struct {
		LocalDate time.Time
		Document  []byte
	}
	err = s.db.WithContext(ctx).Table("occurrence o").Select("o.local_date, v.document").
		Joins("JOIN circuit c ON c.studio_id = o.studio_id AND c.occurrence_id = o.id").
		Joins("JOIN circuit_version v ON v.studio_id = c.studio_id AND v.circuit_id = c.id AND v.version = c.head").
		Where(earlier, args...).Order("o.local_date DESC, o.local_time DESC, o.id DESC").Limit(maxPastCircuits).Scan(&circuits).Error
	if err != nil {
		return past, err
	}
	for _, c := range circuits {
		d, err := circuit.Decode(c.Document)
		if err != nil {
			return past, err
		}
		past.Known = append(past.Known, d.Known...)
		for _, o := range d.Overruled {
			past.Overruled = append(past.Overruled, progress.Overrule{Day: dayOf(c.LocalDate), Lane: o.Lane, What: o.What})
		}
		if len(past.Last) < progress.LastClasses {
			past.Last = append(past.Last, circuit.Used(d))
		}
	}
	return past, nil
}

// dayOf numbers local days.
func dayOf(date time.Time) int { return int(date.Unix() / (24 * 60 * 60)) }

// Past gives the line as the core reads it, of a day and somebody's name.
func (l LogLine) Past(date time.Time, who string) progress.Line {
	return progress.Line{Day: dayOf(date), Lane: moves.Lane(l.Lane), Who: who, Variant: l.Variant, Hold: moves.HoldID(l.Hold),
		Set: strength.Set{Planned: l.Planned, Done: l.Done, InForm: l.InForm, Reserve: l.Reserve}, Pain: progress.Pain(l.Pain),
		Joint: l.Joint, Others: l.Others, Load: measure.Mass(l.LoadG), TooLight: l.TooLight}
}

// maxSessions bounds how far back a group's sessions are read.
const maxSessions = 300

// Sessions lists what was logged in earlier classes of the same name, the oldest
// class first, each its variants in the order of the log, at most the last 300
// classes' worth.
func (s *Store) Sessions(ctx context.Context, sc Scope, c Occurrence) ([][]string, error) {
	var rows []struct {
		OccurrenceID int64
		Variant      string
	}
	err := s.db.WithContext(ctx).Table("log_line l").Select("l.occurrence_id, l.variant").
		Joins("JOIN occurrence o ON o.studio_id = l.studio_id AND o.id = l.occurrence_id").
		Where("l.studio_id = ? AND o.name = ? AND (o.local_date, o.local_time) < (?, ?)", sc.StudioID, c.Name, c.LocalDate, c.LocalTime).
		Group("l.occurrence_id, l.variant").Order("o.local_date DESC, o.local_time DESC, l.occurrence_id DESC, MIN(l.id) DESC").Limit(24 * maxSessions).Scan(&rows).Error
	out := [][]string{}
	for i := len(rows) - 1; i >= 0; i-- {
		if i == len(rows)-1 || rows[i].OccurrenceID != rows[i+1].OccurrenceID {
			out = append(out, nil)
		}
		out[len(out)-1] = append(out[len(out)-1], rows[i].Variant)
	}
	return out, err
}
