package store

import (
	"context"
	"crypto/rand"
	"encoding/binary"

	"gorm.io/gorm"
)

// Stamps say what the plan of a circuit follows from: the newest version of the circuit,
// what its place has, how the studio teaches, and its series: the classes of its group,
// with what was planned and logged in them. While they are the same, so is the plan. Each
// is changed in the transaction of every write that it covers. They are drawn and not
// counted, so that none comes again after a backup was restored.
type Stamps struct {
	Circuit  int64
	Head     int
	Place    int64
	PlaceAt  int64
	Library  string
	Series   int64
	SeriesAt int64
}

// newStamp draws a stamp.
func newStamp() int64 {
	var b [8]byte
	_, _ = rand.Read(b[:]) // never fails
	return int64(binary.BigEndian.Uint64(b[:]) >> 2)
}

// Stamps reads the stamps of a circuit in one statement.
func (s *Store) Stamps(ctx context.Context, sc Scope, circuit string) (Stamps, error) {
	var row struct {
		Stamps
		Found bool
	}
	err := s.db.WithContext(ctx).
		Raw(`SELECT c.id AS circuit, c.head, p.id AS place, p.stamp AS place_at, st.library_stamp AS library, s.id AS series, s.stamp AS series_at, TRUE AS found
		FROM circuit c JOIN occurrence o ON o.studio_id = c.studio_id AND o.id = c.occurrence_id
		JOIN place p ON p.studio_id = o.studio_id AND p.id = o.place_id
		JOIN series s ON s.studio_id = o.studio_id AND s.id = o.series_id
		JOIN studio st ON st.id = c.studio_id
		WHERE c.studio_id = ? AND c.public_id = ?`, sc.StudioID, circuit).
		Scan(&row).
		Error
	if err == nil && !row.Found {
		err = ErrNotFound
	}
	return row.Stamps, err
}

// raiseSeries changes the stamps of series that a write covers.
func raiseSeries(tx *gorm.DB, sc Scope, ids ...int64) error {
	return tx.Model(&Series{}).Where("studio_id = ? AND id IN ?", sc.StudioID, ids).Update("stamp", newStamp()).Error
}

// raisePlace changes the stamp of a place that a write covers.
func raisePlace(tx *gorm.DB, sc Scope, id int64) error {
	return tx.Model(&Place{}).Where("studio_id = ? AND id = ?", sc.StudioID, id).Update("stamp", newStamp()).Error
}

// seriesNamed gives the series that a class of a name is one of: the one of that name, else
// that of the newest class of that name, since classes are renamed; made where there is
// none. Its stamp is changed.
func (s *Store) seriesNamed(tx *gorm.DB, sc Scope, name string) (int64, error) {
	var found struct{ ID int64 }
	err := tx.Raw(`(SELECT id, 0 AS later FROM series WHERE studio_id = @studio AND name = @name)
		UNION ALL (SELECT series_id, 1 FROM occurrence WHERE studio_id = @studio AND name = @name ORDER BY local_date DESC, local_time DESC, id DESC LIMIT 1)
		ORDER BY later LIMIT 1`, map[string]any{"studio": sc.StudioID, "name": name}).
		Scan(&found).
		Error
	if err != nil {
		return 0, err
	}
	if found.ID != 0 {
		return found.ID, raiseSeries(tx, sc, found.ID)
	}
	return s.seriesWithID(tx, sc, drawID(), name)
}

// seriesWithID makes a series, or gives the one of that name that there is.
func (s *Store) seriesWithID(tx *gorm.DB, sc Scope, id, name string) (int64, error) {
	r, err := tx.Statement.ConnPool.ExecContext(
		tx.Statement.Context,
		"INSERT INTO series (studio_id, public_id, name, stamp, created_at) VALUES (?, ?, ?, ?, ?) ON DUPLICATE KEY UPDATE id = LAST_INSERT_ID(id), stamp = VALUES(stamp)",
		sc.StudioID,
		id,
		name,
		newStamp(),
		s.now().UTC(),
	)
	if err != nil {
		return 0, err
	}
	return r.LastInsertId()
}

// renameSeries lets a series be called what its newest class is, where no other is.
func renameSeries(tx *gorm.DB, sc Scope, id int64, name string) error {
	return tx.Exec(`UPDATE IGNORE series SET name = ? WHERE studio_id = ? AND id = ? AND NOT EXISTS
		(SELECT 1 FROM (SELECT o.name FROM occurrence o WHERE o.studio_id = ? AND o.series_id = ? ORDER BY o.local_date DESC, o.local_time DESC, o.id DESC LIMIT 1) newest WHERE newest.name <> ?)`,
		name, sc.StudioID, id, sc.StudioID, id, name).Error
}
