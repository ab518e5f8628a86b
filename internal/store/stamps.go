package store

import (
	"context"
	"crypto/rand"
	"database/sql"
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

// seriesNamed gives the series of a name, made where there is none, with its stamp
// changed.
func (s *Store) seriesNamed(tx *gorm.DB, sc Scope, name string) (int64, error) {
	var r sql.Result
	r, err := tx.Statement.ConnPool.ExecContext(
		tx.Statement.Context,
		"INSERT INTO series (studio_id, name, stamp, created_at) VALUES (?, ?, ?, ?) ON DUPLICATE KEY UPDATE id = LAST_INSERT_ID(id), stamp = VALUES(stamp)",
		sc.StudioID,
		name,
		newStamp(),
		s.now().UTC(),
	)
	if err != nil {
		return 0, err
	}
	return r.LastInsertId()
}
