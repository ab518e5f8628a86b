package store

import (
	"cmp"
	"context"
	"errors"
	"slices"

	"gorm.io/gorm"
)

// PersonClassRows is a class that somebody was in, with what they did there.
type PersonClassRows struct {
	Occurrence
	Participant string
	Lane        string
	Lines       []LogLine
	Past        []LogLinePast
}

// WholePerson is a person with the names of their groups.
type WholePerson struct {
	PersonRows
	GroupNames map[string]string
}

// ExportPerson reads all that is known of somebody, their health with it, as of one instant.
func (s *Store) ExportPerson(ctx context.Context, sc Scope, person string) (WholePerson, []PersonClassRows, error) {
	x := WholePerson{GroupNames: map[string]string{}}
	var classes []PersonClassRows
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var err error
		if x.Person, err = get[Person](tx, sc, person); err != nil {
			return err
		}
		err = errors.Join(
			tx.Where("studio_id = ? AND person_id = ?", sc.StudioID, x.ID).
				Order("local_date, id").
				Limit(2*MaxRecords).
				Find(&x.Records).
				Error,
			tx.Where("studio_id = ? AND person_id = ?", sc.StudioID, x.ID).
				Order("local_date, id").
				Limit(2*MaxHealthRecords).
				Find(&x.Health).
				Error,
		)
		if err != nil {
			return err
		}
		var groups []Group
		err = tx.Raw(`SELECT s.public_id, s.name FROM series_member m JOIN series s ON s.studio_id = m.studio_id AND s.id = m.series_id
			WHERE m.studio_id = ? AND m.person_id = ? AND m.regular ORDER BY s.name, s.id LIMIT ?`, sc.StudioID, x.ID, maxGroups).
			Scan(&groups).
			Error
		for _, g := range groups {
			x.Groups, x.GroupNames[g.PublicID] = append(x.Groups, g.PublicID), g.Name
		}
		if err != nil {
			return err
		}
		classes, err = classesOf(tx, sc, x.ID)
		return err
	})
	return x, classes, err
}

// classesOf reads the classes that somebody was in, the oldest first.
func classesOf(tx *gorm.DB, sc Scope, person int64) ([]PersonClassRows, error) {
	var rows []struct {
		Occurrence
		Participant string
		Lane        string
	}
	type line struct {
		LogLine
		Seen felt `gorm:"embedded"`
	}
	type pastLine struct {
		LogLinePast
		Seen felt `gorm:"embedded"`
	}
	var lines []line
	var past []pastLine
	const mine = " FROM participant p JOIN occurrence o ON o.studio_id = p.studio_id AND o.id = p.occurrence_id "
	const whose = " WHERE p.studio_id = ? AND p.person_id = ?"
	err := errors.Join(
		tx.Raw("SELECT o.*, p.public_id AS participant, p.lane"+mine+whose+" ORDER BY o.local_date, o.local_time, o.id LIMIT ?",
			sc.StudioID, person, MaxClasses).
			Scan(&rows).
			Error,
		tx.Raw("SELECT l.*, "+feltColumns+mine+`JOIN log_line l ON l.studio_id = p.studio_id AND l.participant_id = p.id
			LEFT JOIN pain_report r ON r.studio_id = l.studio_id AND r.line_id = l.id`+whose+" LIMIT ?",
			sc.StudioID, person, maxExport).Scan(&lines).Error,
		tx.Raw("SELECT l.*, "+feltColumns+mine+`JOIN log_line_past l ON l.studio_id = p.studio_id AND l.occurrence_id = p.occurrence_id AND l.subject = p.public_id
			LEFT JOIN pain_report r ON r.studio_id = l.studio_id AND r.past_id = l.id`+whose+" LIMIT ?",
			sc.StudioID, person, maxExport).
			Scan(&past).
			Error,
	)
	out := make([]PersonClassRows, 0, len(rows))
	at := map[int64]int{}
	for _, r := range rows {
		at[r.ID] = len(out)
		out = append(out, PersonClassRows{Occurrence: r.Occurrence, Participant: r.Participant, Lane: r.Lane})
	}
	slices.SortFunc(lines, func(a, b line) int { return cmp.Compare(a.ID, b.ID) })
	slices.SortFunc(past, func(a, b pastLine) int { return cmp.Compare(a.ID, b.ID) })
	for _, l := range lines {
		if i, ok := at[l.OccurrenceID]; ok {
			l.LogLine.Felt = Felt(l.Seen)
			out[i].Lines = append(out[i].Lines, l.LogLine)
		}
	}
	for _, l := range past {
		if i, ok := at[l.OccurrenceID]; ok {
			l.LogLinePast.Felt = Felt(l.Seen)
			out[i].Past = append(out[i].Past, l.LogLinePast)
		}
	}
	return out, err
}
