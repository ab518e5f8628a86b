package store

import (
	"context"
	"database/sql"
	"errors"
	"maps"
	"slices"
	"time"

	"gorm.io/gorm"
)

// LogLines lists what was logged in a class, without what was felt.
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
		o, err := lockClass(tx, sc, occurrence)
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
		return raiseSeriesAround(tx, sc, o)
	})
}

// AddLogLines writes those lines of a class that are not written yet, all or none, and leaves the
// others as they are. They are of one hand: the device and number of each are the same.
func (s *Store) AddLogLines(ctx context.Context, sc Scope, occurrence string, lines []LogLine) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		o, err := lockClass(tx, sc, occurrence)
		if err != nil {
			return err
		}
		var there []Line
		if err := tx.Model(&LogLine{}).Where("studio_id = ? AND occurrence_id = ?", sc.StudioID, o.ID).
			Limit(MaxLogLines).Find(&there).Error; err != nil {
			return err
		}
		lines := slices.DeleteFunc(slices.Clone(lines), func(l LogLine) bool {
			return slices.Contains(there, Line{l.Subject, l.Slot})
		})
		if len(lines) == 0 {
			return nil
		}
		here, err := participantsOf(tx, sc, o.ID, lines)
		if err != nil {
			return err
		}
		// A device never typed it before what it had typed already.
		first := s.prepared(sc, o, lines[0])
		if _, err := steadied(tx, &first); err != nil {
			return err
		}
		for i, l := range lines {
			l = s.prepared(sc, o, l)
			l.UpdatedAt = first.UpdatedAt
			if id, ok := here[l.Subject]; ok {
				l.ParticipantID = &id
			}
			lines[i] = l
		}
		if err := tx.CreateInBatches(&lines, manyRows).Error; err != nil {
			return err
		}
		for _, l := range lines {
			if err := s.report(tx, PainReport{Row: Row{StudioID: sc.StudioID}, LineID: &l.ID}, l.Felt); err != nil {
				return err
			}
		}
		return raiseSeriesAround(tx, sc, o)
	})
}

// prepared is a line as it is kept in a class.
func (s *Store) prepared(sc Scope, o Occurrence, l LogLine) LogLine {
	l.StudioID, l.OccurrenceID = sc.StudioID, o.ID
	l.Dose, l.Told = object(l.Dose), object(l.Told)
	if l.UpdatedAt.IsZero() {
		l.UpdatedAt = s.now().UTC()
	}
	return l
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
	next = s.prepared(sc, o, next)
	known, err := steadied(tx, &next)
	if err != nil || known {
		return err
	}
	var old LogLine
	err = tx.Where("studio_id = ? AND occurrence_id = ? AND subject = ? AND slot = ?", sc.StudioID, o.ID, next.Subject, next.Slot).
		Take(&old).
		Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		if err := tx.Create(&next).Error; err != nil {
			return err
		}
		return s.report(tx, PainReport{Row: Row{StudioID: sc.StudioID}, LineID: &next.ID}, next.Felt)
	}
	if err != nil {
		return err
	}
	if next.UpdatedAt.Before(old.UpdatedAt) {
		past, err := overtake(tx, next, s.now().UTC())
		if err != nil {
			return err
		}
		return s.report(tx, PainReport{Row: Row{StudioID: sc.StudioID}, PastID: &past}, next.Felt)
	}
	past, err := overtake(tx, old, s.now().UTC())
	if err != nil {
		return err
	}
	if err := reportPast(tx, sc, old.ID, past); err != nil {
		return err
	}
	cols := []string{
		"Lane",
		"Variant",
		"Planned",
		"Dose",
		"Told",
		"Done",
		"InForm",
		"Reserve",
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
	if err := tx.Model(&old).Select(cols).UpdateColumns(next).Error; err != nil {
		return err
	}
	return s.report(tx, PainReport{Row: Row{StudioID: sc.StudioID}, LineID: &old.ID}, next.Felt)
}

// object is JSON that is never left out.
func object(b []byte) []byte {
	if len(b) == 0 {
		return []byte("{}")
	}
	return b
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
// line, and gives its key.
func overtake(tx *gorm.DB, l LogLine, now time.Time) (int64, error) {
	p := LogLinePast{
		Row:          Row{StudioID: l.StudioID},
		OccurrenceID: l.OccurrenceID,
		Subject:      l.Subject,
		Slot:         l.Slot,
		Done:         l.Done,
		InForm:       l.InForm,
		Reserve:      l.Reserve,
		Told:         l.Told,
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
		return 0, err
	}
	if len(ids) >= MaxPastOfLine {
		if err := tx.Where("studio_id = ? AND id IN ?", l.StudioID, ids[MaxPastOfLine-1:]).Delete(&LogLinePast{}).Error; err != nil {
			return 0, err
		}
	}
	err := tx.Create(&p).Error
	return p.ID, err
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
	var rows []struct {
		LoggedLine
		Seen felt `gorm:"embedded"`
	}
	err := s.db.WithContext(ctx).Table("log_line l").
		Select("l.*, "+feltColumns+", (SELECT COUNT(*) FROM log_line_past p WHERE p.studio_id = l.studio_id AND p.occurrence_id = l.occurrence_id AND p.subject = l.subject AND p.slot = l.slot) AS overtaken").
		Joins("LEFT JOIN pain_report r ON r.studio_id = l.studio_id AND r.line_id = l.id").
		Where("l.studio_id = ? AND l.occurrence_id = ?", sc.StudioID, occurrence).
		Order("l.id").Limit(MaxLogLines).Scan(&rows).Error
	out := make([]LoggedLine, 0, len(rows))
	for _, r := range rows {
		r.LoggedLine.Felt = Felt(r.Seen)
		out = append(out, r.LoggedLine)
	}
	return out, err
}

// Overtaken lists what was typed in a line of the log and does not stand there any more,
// the newest first.
func (s *Store) Overtaken(
	ctx context.Context,
	sc Scope,
	occurrence int64,
	subject, slot string,
) ([]LogLinePast, error) {
	var rows []struct {
		LogLinePast
		Seen felt `gorm:"embedded"`
	}
	err := s.db.WithContext(ctx).Table("log_line_past l").Select("l.*, "+feltColumns).
		Joins("LEFT JOIN pain_report r ON r.studio_id = l.studio_id AND r.past_id = l.id").
		Where("l.studio_id = ? AND l.occurrence_id = ? AND l.subject = ? AND l.slot = ?", sc.StudioID, occurrence, subject, slot).
		Order("l.id DESC").
		Limit(MaxPastOfLine).
		Scan(&rows).
		Error
	out := make([]LogLinePast, 0, len(rows))
	for _, r := range rows {
		r.LogLinePast.Felt = Felt(r.Seen)
		out = append(out, r.LogLinePast)
	}
	return out, err
}
