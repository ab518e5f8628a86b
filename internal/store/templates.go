package store

import (
	"context"
	"errors"

	"gorm.io/gorm"
)

// Templates lists the sessions that the house keeps, in the order they were made.
func (s *Store) Templates(ctx context.Context, sc Scope) ([]HouseTemplate, error) {
	return templates(s.db.WithContext(ctx), sc)
}

func templates(tx *gorm.DB, sc Scope) ([]HouseTemplate, error) {
	var rows []HouseTemplate
	err := tx.Where("studio_id = ?", sc.StudioID).Order("id").Limit(MaxTemplates).Find(&rows).Error
	return rows, err
}

// Template finds one by its id.
func (s *Store) Template(ctx context.Context, sc Scope, publicID string) (HouseTemplate, error) {
	return get[HouseTemplate](s.db.WithContext(ctx), sc, publicID)
}

// PutTemplate keeps a session under an id, or changes the one that is there: its name, and
// where a document is given that and its minutes. A name alone of one that is not there is
// ErrNotFound.
func (s *Store) PutTemplate(ctx context.Context, sc Scope, t HouseTemplate) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		// Writers of the studio's templates take turns, so that the limit holds.
		if err := tx.Clauses(forUpdate).Select("id").First(&Studio{}, sc.StudioID).Error; err != nil {
			return translate(err)
		}
		old, err := get[HouseTemplate](tx, sc, t.PublicID)
		switch {
		case errors.Is(err, ErrNotFound) && len(t.Document) > 0:
			if err := checkCapacity[HouseTemplate](tx, sc, "", 0, MaxTemplates); err != nil {
				return err
			}
			t.Row = Row{StudioID: sc.StudioID}
			return tx.Create(&t).Error
		case err != nil:
			return err
		}
		t.UpdatedAt = s.now().UTC()
		columns := []string{"Name", "UpdatedAt"}
		if len(t.Document) > 0 {
			columns = append(columns, "Document", "Minutes")
		}
		return tx.Model(&old).Select(columns).Updates(t).Error
	})
}

// RemoveTemplate takes one away.
func (s *Store) RemoveTemplate(ctx context.Context, sc Scope, publicID string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		return found(tx.Where("studio_id = ? AND public_id = ?", sc.StudioID, publicID).Delete(&HouseTemplate{}))
	})
}

// Earlier is an earlier class that has a plan.
type Earlier struct {
	OccurrencePublicID string
	CircuitPublicID    string
	Name               string
	LocalDate          string
	Minutes            int
	SameSeries         bool
}

// maxEarlier is how many earlier classes are offered.
const maxEarlier = 30

// Earlier lists the classes before one that have a plan, those of its series first, the newest
// first.
func (s *Store) Earlier(ctx context.Context, sc Scope, class Class) ([]Earlier, error) {
	var rows []Earlier
	err := s.db.WithContext(ctx).
		Raw(`SELECT o.public_id AS occurrence_public_id, c.public_id AS circuit_public_id, o.name,
			CAST(o.local_date AS CHAR) AS local_date, o.minutes, o.series_id = @series AS same_series
		FROM occurrence o JOIN circuit c ON c.studio_id = o.studio_id AND c.occurrence_id = o.id
		WHERE o.studio_id = @studio AND o.local_date <= @day AND o.id <> @id AND o.removed_at IS NULL
		ORDER BY same_series DESC, o.local_date DESC, o.local_time DESC, o.id DESC LIMIT @most`,
			map[string]any{
				"series": class.SeriesID, "studio": sc.StudioID, "day": class.LocalDate.Format("2006-01-02"), "id": class.ID,
				"most": maxEarlier,
			}).
		Scan(&rows).
		Error
	return rows, err
}
