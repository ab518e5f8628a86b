package store

import (
	"cmp"
	"context"
	"encoding/json"
	"slices"
	"time"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/strength"
)

// How much of a group's past is read: the newest lines, and the plans of the last classes.
const (
	maxPastLines    = 5000
	maxPastCircuits = 26
)

// pastColumns are what is read of a line of the log.
const pastColumns = `l.lane, l.variant, l.hold, l.planned, l.dose, l.told, l.done, l.in_form, l.reserve, COALESCE(r.pain, 'none') AS pain, COALESCE(r.joint, '') AS joint, COALESCE(r.others, FALSE) AS others, l.load_g, l.too_light, l.slot,
	o.local_date, o.local_time, l.id, COALESCE(q.public_id, p.public_id, '') AS who, '' AS here, NULL AS document, q.id IS NOT NULL AS named`

// pastQuery reads lines, plans and participants of the earlier classes of a series in one
// statement: rows of a plan have a document, those of a participant say who is here. What
// those whom the studio knows did by name in classes of other series is read as well, and the
// plans there that set something aside.
const pastQuery = `(SELECT ` + pastColumns + `, FALSE AS elsewhere
	FROM occurrence o JOIN log_line l ON l.studio_id = o.studio_id AND l.occurrence_id = o.id
	LEFT JOIN pain_report r ON r.studio_id = l.studio_id AND r.line_id = l.id
	LEFT JOIN participant p ON p.studio_id = l.studio_id AND p.id = l.participant_id
	LEFT JOIN person q ON q.studio_id = p.studio_id AND q.id = p.person_id
	WHERE o.studio_id = @studio AND o.series_id = @series AND (o.local_date, o.local_time) < (@day, @time)
	ORDER BY o.local_date DESC, o.local_time DESC, l.id DESC LIMIT @lines)
UNION ALL (SELECT ` + pastColumns + `, TRUE
	FROM participant me JOIN person q ON q.studio_id = me.studio_id AND q.id = me.person_id
	JOIN participant p ON p.studio_id = q.studio_id AND p.person_id = q.id
	JOIN occurrence o ON o.studio_id = p.studio_id AND o.id = p.occurrence_id
	JOIN log_line l ON l.studio_id = p.studio_id AND l.participant_id = p.id
	LEFT JOIN pain_report r ON r.studio_id = l.studio_id AND r.line_id = l.id
	WHERE me.studio_id = @studio AND me.occurrence_id = @class AND o.series_id <> @series AND (o.local_date, o.local_time) < (@day, @time)
	ORDER BY o.local_date DESC, o.local_time DESC, l.id DESC LIMIT @lines)
UNION ALL (SELECT '', '', '', 0, '{}', '{}', 0, 0, NULL, '', '', FALSE, 0, FALSE, '', o.local_date, o.local_time, o.id, '', '', v.document, FALSE, FALSE
	FROM occurrence o JOIN circuit c ON c.studio_id = o.studio_id AND c.occurrence_id = o.id
	JOIN circuit_version v ON v.studio_id = c.studio_id AND v.circuit_id = c.id AND v.version = c.head
	WHERE o.studio_id = @studio AND o.series_id = @series AND (o.local_date, o.local_time) < (@day, @time) AND o.removed_at IS NULL
	ORDER BY o.local_date DESC, o.local_time DESC, o.id DESC LIMIT @plans)
UNION ALL (SELECT p.lane, '', '', 0, '{}', '{}', 0, 0, NULL, '', '', FALSE, 0, FALSE, '', o.local_date, o.local_time, p.id, COALESCE(q.public_id, p.public_id), p.public_id, NULL, FALSE, FALSE
	FROM occurrence o JOIN participant p ON p.studio_id = o.studio_id AND p.occurrence_id = o.id
	LEFT JOIN person q ON q.studio_id = p.studio_id AND q.id = p.person_id
	WHERE o.studio_id = @studio AND o.series_id = @series AND (o.local_date, o.local_time) < (@day, @time)
	ORDER BY o.local_date DESC, o.local_time DESC, p.id DESC LIMIT @lines)
UNION ALL (SELECT '', '', '', 0, '{}', '{}', 0, 0, NULL, '', '', FALSE, 0, FALSE, '', o.local_date, o.local_time, o.id, '', '', v.document, FALSE, TRUE
	FROM occurrence o JOIN circuit c ON c.studio_id = o.studio_id AND c.occurrence_id = o.id
	JOIN circuit_version v ON v.studio_id = c.studio_id AND v.circuit_id = c.id AND v.version = c.head
	WHERE o.studio_id = @studio AND o.series_id <> @series AND (o.local_date, o.local_time) < (@day, @time) AND o.removed_at IS NULL
	AND o.id IN (SELECT p.occurrence_id FROM participant me JOIN participant p ON p.studio_id = me.studio_id AND p.person_id = me.person_id
		WHERE me.studio_id = @studio AND me.occurrence_id = @class)
	AND JSON_LENGTH(v.document, '$.overruled') > 0
	ORDER BY o.local_date DESC, o.local_time DESC, o.id DESC LIMIT @plans)
UNION ALL (SELECT p.lane, '', '', 0, '{}', '{}', 0, 0, NULL, '', '', FALSE, 0, FALSE, '', o.local_date, o.local_time, p.id, q.public_id, p.public_id, NULL, TRUE, TRUE
	FROM participant me JOIN person q ON q.studio_id = me.studio_id AND q.id = me.person_id
	JOIN participant p ON p.studio_id = q.studio_id AND p.person_id = q.id
	JOIN occurrence o ON o.studio_id = p.studio_id AND o.id = p.occurrence_id
	WHERE me.studio_id = @studio AND me.occurrence_id = @class AND o.series_id <> @series AND (o.local_date, o.local_time) < (@day, @time)
	ORDER BY o.local_date DESC, o.local_time DESC, p.id DESC LIMIT @lines)`

// pastRow is a row of pastQuery.
type pastRow struct {
	LogLine
	Seen      felt `gorm:"embedded"`
	LocalDate time.Time
	LocalTime string
	Who       string
	Here      string // a participant
	Document  []byte
	Named     bool // whoever it is, the studio knows them
	Elsewhere bool // of another series
}

// Past reads what earlier classes of the same series say to a class, and of those who are in it
// what they did by name in others, as the core's value.
func (s *Store) Past(ctx context.Context, sc Scope, c Occurrence) (progress.Past, error) {
	past := progress.Past{Day: dayOf(c.LocalDate)}
	var rows []pastRow
	err := s.db.WithContext(ctx).
		Raw(pastQuery, map[string]any{"studio": sc.StudioID, "series": c.SeriesID, "class": c.ID, "day": c.LocalDate, "time": c.LocalTime,
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
			if !r.Elsewhere {
				past.Present = append(past.Present, x)
			}
		default:
			r.LogLine.Felt = Felt(r.Seen)
			l := r.LogLine.Past(r.LocalDate, r.Who)
			if l.Named = r.Named; r.Elsewhere {
				past.Elsewhere = append(past.Elsewhere, l)
			} else {
				past.Lines = append(past.Lines, l)
			}
		}
	}
	whose := func(p people.Party) (moves.Lane, string) {
		if lane, ok := p.Lane(); ok {
			return lane, ""
		}
		return here[p].Lane, cmp.Or(here[p].Who, string(p))
	}
	var absent []people.Party
	for _, r := range slices.Backward(rows) { // the newest plan first
		if r.Document == nil {
			continue
		}
		d, err := circuit.Decode(r.Document)
		if err != nil {
			return past, err
		}
		for _, o := range d.Overruled {
			if _, known := here[o.Party]; r.Elsewhere && !known {
				continue // of that group, or of somebody who is not in this class
			}
			lane, who := whose(o.Party)
			past.Overruled = append(past.Overruled,
				progress.Overrule{Day: dayOf(r.LocalDate), Lane: lane, Who: who, What: o.What})
		}
		if r.Elsewhere {
			continue
		}
		past.Known = append(past.Known, d.Known...)
		absent = append(absent, d.Day.Away()...)
		if len(past.Last) < progress.LastClasses {
			past.Last = append(past.Last, d.UsedBy(whose))
		}
	}
	for _, p := range absent {
		if i := slices.Index(past.Present, here[p]); i >= 0 {
			past.Present = slices.Delete(past.Present, i, i+1)
		}
	}
	return past, nil
}

// dayOf numbers local days.
func dayOf(date time.Time) int { return int(date.Unix() / (24 * 60 * 60)) }

// Past gives the line as the core reads it, of a day and somebody's name.
func (l LogLine) Past(date time.Time, who string) progress.Line {
	var planned progress.PlannedDose
	var told progress.Told
	_ = json.Unmarshal(object(l.Dose), &planned) // it was checked when it was written
	_ = json.Unmarshal(object(l.Told), &told)
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

			High: planned.High, ToFailure: planned.Counted == progress.ToFailure, Seconds: planned.Counted == progress.BySeconds,
		},
		Told:     told,
		Aside:    planned.Aside,
		Pain:     l.pain(),
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
