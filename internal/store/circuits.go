package store

import (
	"context"
	"database/sql"
	"errors"

	"gorm.io/gorm"
)

// CircuitOf finds the circuit of a class with its newest version.
func (s *Store) CircuitOf(ctx context.Context, sc Scope, occurrence int64) (Circuit, CircuitVersion, error) {
	return s.withHead(ctx, sc, "c.occurrence_id = ?", occurrence)
}

// Circuit finds a circuit with its newest version.
func (s *Store) Circuit(ctx context.Context, sc Scope, publicID string) (Circuit, CircuitVersion, error) {
	return s.withHead(ctx, sc, "c.public_id = ?", publicID)
}

// withHead reads a circuit and its newest version in one query.
func (s *Store) withHead(ctx context.Context, sc Scope, where string, arg any) (Circuit, CircuitVersion, error) {
	var row struct {
		CircuitVersion
		OccurrenceID int64
		PublicID     string
		Head         int
	}
	err := s.db.WithContext(ctx).Table("circuit c").Select("v.*, c.occurrence_id, c.public_id, c.head").
		Joins("JOIN circuit_version v ON v.studio_id = c.studio_id AND v.circuit_id = c.id AND v.version = c.head").
		Where("c.studio_id = ?", sc.StudioID).Where(where, arg).Take(&row).Error
	c := Circuit{Row: Row{ID: row.CircuitID, StudioID: sc.StudioID}, OccurrenceID: row.OccurrenceID, PublicID: row.PublicID, Head: row.Head}
	return c, row.CircuitVersion, translate(err)
}

// Version finds one version of a circuit.
func (s *Store) Version(ctx context.Context, sc Scope, circuit int64, n int) (CircuitVersion, error) {
	return version(s.db.WithContext(ctx), sc, circuit, n)
}

func version(tx *gorm.DB, sc Scope, circuit int64, n int) (CircuitVersion, error) {
	var v CircuitVersion
	err := tx.Where("studio_id = ? AND circuit_id = ? AND version = ?", sc.StudioID, circuit, n).Take(&v).Error
	return v, translate(err)
}

// CreateCircuit makes the circuit of a class with its first version, and the
// class's minutes and lanes where they are given, in one transaction. The same
// create again changes nothing; another circuit for the class is ErrConflict.
func (s *Store) CreateCircuit(ctx context.Context, sc Scope, occurrence string, c Circuit, first CircuitVersion, with *Class) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		o, err := lock[Occurrence](tx, sc, occurrence)
		if err != nil {
			return err
		}
		var old Circuit
		err = tx.Where("studio_id = ? AND occurrence_id = ?", sc.StudioID, o.ID).Take(&old).Error
		if err == nil {
			if old.PublicID == c.PublicID {
				return nil
			}
			return ErrConflict
		}
		if !errors.Is(err, gorm.ErrRecordNotFound) {
			return err
		}
		c.StudioID, c.OccurrenceID, c.Head = sc.StudioID, o.ID, 1
		if err := tx.Create(&c).Error; err != nil {
			return err
		}
		first.StudioID, first.CircuitID, first.Version = sc.StudioID, c.ID, 1
		first.Notes = listOrNone(first.Notes)
		if err := tx.Create(&first).Error; err != nil {
			return err
		}
		return putBrief(tx, sc, o.ID, with)
	})
}

// listOrNone gives an empty list for none.
func listOrNone(b []byte) []byte {
	if len(b) == 0 {
		return []byte("[]")
	}
	return b
}

// Append says how a version is added.
type Append struct {
	// ClientID is made anew for every change; one stored already changes nothing.
	ClientID string
	// Base is the version the change came from.
	Base int
	// With, where given, changes minutes and lanes of the class too.
	With *Class
	// Beside lets a change from an older version become a side version instead of
	// nothing.
	Beside bool
}

// BesideError tells that a change came from an older version and was kept as a
// side version.
type BesideError struct{ Version int }

func (e *BesideError) Error() string { return "kept beside the newest version" }

// Unwrap makes it a conflict.
func (e *BesideError) Unwrap() error { return ErrConflict }

// Start is what a new version is worked out from. Versions are only ever added, so it
// stays what it is until AppendVersion looks whether it is still the newest.
type Start struct {
	Base CircuitVersion
	// Undo and Redo are the versions that one step back or forth from Base leads to.
	Undo, Redo *CircuitVersion
	// Kept tells that the change was stored before: there is nothing to work out.
	Kept bool
}

// StartFrom reads what a change is worked out from. Base must be the newest version
// unless the change may stand beside it; else the answer is ErrConflict. A change
// stored before as a side version is a *BesideError again.
func (s *Store) StartFrom(ctx context.Context, sc Scope, publicID string, how Append) (Start, error) {
	var out Start
	c, err := get[Circuit](s.db.WithContext(ctx), sc, publicID)
	if err != nil {
		return out, err
	}
	if out.Kept, err = keptVersion(s.db.WithContext(ctx), sc, c, how.ClientID); err != nil || out.Kept {
		return out, err
	}
	if c.Head != how.Base && !how.Beside {
		return out, ErrConflict
	}
	if out.Base, err = s.Version(ctx, sc, c.ID, how.Base); err != nil {
		return out, err
	}
	step := func(n *int) (*CircuitVersion, error) {
		if n == nil {
			return nil, nil
		}
		v, err := s.Version(ctx, sc, c.ID, *n)
		return &v, err
	}
	if out.Undo, err = step(out.Base.UndoTo); err != nil {
		return out, err
	}
	out.Redo, err = step(out.Base.RedoTo)
	return out, err
}

// keptVersion tells whether a change is stored; as a side version it is a *BesideError.
func keptVersion(tx *gorm.DB, sc Scope, c Circuit, clientID string) (bool, error) {
	var seen []CircuitVersion
	err := tx.Where("studio_id = ? AND circuit_id = ? AND client_id = ?", sc.StudioID, c.ID, clientID).Select("version", "side").Limit(1).Find(&seen).Error
	if err != nil || len(seen) == 0 {
		return false, err
	}
	if seen[0].Side {
		return true, &BesideError{seen[0].Version}
	}
	return true, nil
}

// AppendVersion adds a version that was worked out from how.Base, which must still be
// the newest, or the answer is ErrConflict: of type *BesideError where the change has
// been kept beside, which is so again when it is sent twice. Nothing is computed and
// nothing else is read while the circuit is locked.
func (s *Store) AppendVersion(ctx context.Context, sc Scope, publicID string, how Append, next CircuitVersion) error {
	beside := 0
	err := s.write(ctx, func(tx *gorm.DB) error {
		beside = 0
		c, err := lock[Circuit](tx, sc, publicID)
		if err != nil {
			return err
		}
		if kept, err := keptVersion(tx, sc, c, how.ClientID); err != nil || kept {
			return err
		}
		if c.Head != how.Base && !how.Beside {
			return ErrConflict
		}
		var last int
		if err := tx.Model(&CircuitVersion{}).Where("studio_id = ? AND circuit_id = ?", sc.StudioID, c.ID).Select("MAX(version)").Scan(&last).Error; err != nil {
			return err
		}
		if last >= MaxVersions {
			return ErrFull
		}
		base, row := how.Base, next
		row.Row, row.CircuitID, row.Version, row.ClientID, row.Base, row.Side = Row{StudioID: sc.StudioID}, c.ID, last+1, how.ClientID, &base, c.Head != how.Base
		row.Notes = listOrNone(row.Notes)
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
		if row.Side {
			beside = row.Version
			return nil
		}
		if err := putBrief(tx, sc, c.OccurrenceID, how.With); err != nil {
			return err
		}
		return tx.Model(&c).Update("head", row.Version).Error
	})
	if err == nil && beside > 0 {
		return &BesideError{beside}
	}
	return err
}

// Versions lists the versions of a circuit before a number, the newest first,
// without their documents.
func (s *Store) Versions(ctx context.Context, sc Scope, circuit int64, before, limit int) ([]CircuitVersion, error) {
	var rows []CircuitVersion
	err := s.in(ctx, sc).Where("circuit_id = ? AND version < ?", circuit, before).Omit("document", "inverse").Order("version DESC").Limit(limit).Find(&rows).Error
	return rows, err
}

// putBrief changes minutes and lanes of a class where a proposal was asked for
// others.
func putBrief(tx *gorm.DB, sc Scope, occurrence int64, with *Class) error {
	if with == nil {
		return nil
	}
	r := tx.Model(&Occurrence{}).Where("studio_id = ? AND id = ?", sc.StudioID, occurrence).Update("minutes", with.Minutes)
	if r.Error != nil {
		return r.Error
	}
	return putLanes(tx, sc, occurrence, with.Lanes)
}

// CreateRun makes a run of a class; the same run twice is one.
func (s *Store) CreateRun(ctx context.Context, sc Scope, occurrence string, r Run) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		o, err := lock[Occurrence](tx, sc, occurrence)
		if err != nil {
			return err
		}
		if _, err := get[Run](tx, sc, r.PublicID); !errors.Is(err, ErrNotFound) {
			return err
		}
		if err := room[Run](tx, sc, "occurrence_id", o.ID, MaxRuns); err != nil {
			return err
		}
		r.StudioID, r.OccurrenceID = sc.StudioID, o.ID
		return tx.Create(&r).Error
	})
}

// Run finds a run with its events in order.
func (s *Store) Run(ctx context.Context, sc Scope, publicID string) (Run, []RunEvent, error) {
	r, err := get[Run](s.db.WithContext(ctx), sc, publicID)
	if err != nil {
		return r, nil, err
	}
	events, err := s.RunEvents(ctx, sc, r.ID)
	return r, events, err
}

// NewestRun finds the newest run of a class; ErrNotFound when it has not been run.
func (s *Store) NewestRun(ctx context.Context, sc Scope, occurrence int64) (Run, error) {
	var row Run
	err := s.in(ctx, sc).Where("occurrence_id = ?", occurrence).Order("id DESC").Take(&row).Error
	return row, translate(err)
}

// RunEvents lists the presses of a run in their order.
func (s *Store) RunEvents(ctx context.Context, sc Scope, run int64) ([]RunEvent, error) {
	var rows []RunEvent
	err := s.in(ctx, sc).Where("run_id = ?", run).Order("seq").Limit(MaxRunEvents).Find(&rows).Error
	return rows, err
}

// AddRunEvent appends a press; one sent twice counts once. None is older than its run,
// nor than an earlier one of the same device, whose clock went back.
func (s *Store) AddRunEvent(ctx context.Context, sc Scope, run string, e RunEvent) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		r, err := lock[Run](tx.Omit("plan"), sc, run)
		if err != nil {
			return err
		}
		var last, seen int64
		mine := tx.Model(&RunEvent{}).Where("studio_id = ? AND run_id = ?", sc.StudioID, r.ID).Session(&gorm.Session{})
		if err := mine.Where("client_id = ?", e.ClientID).Count(&seen).Error; err != nil || seen > 0 {
			return err
		}
		if err := mine.Select("COALESCE(MAX(seq), 0)").Scan(&last).Error; err != nil {
			return err
		}
		if last >= MaxRunEvents {
			return ErrFull
		}
		e.StudioID, e.RunID, e.Seq = sc.StudioID, r.ID, int(last)+1
		least := r.CreatedAt
		if e.Device != "" {
			var before sql.NullTime
			if err := mine.Where("device = ? AND n < ?", e.Device, e.N).Select("MAX(at)").Scan(&before).Error; err != nil {
				return err
			}
			if before.Time.After(least) {
				least = before.Time
			}
		}
		if e.At.Before(least) {
			e.At = least
		}
		return tx.Create(&e).Error
	})
}
