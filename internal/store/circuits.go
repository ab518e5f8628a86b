package store

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"

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
	c := Circuit{
		Row:          Row{ID: row.CircuitID, StudioID: sc.StudioID},
		OccurrenceID: row.OccurrenceID,
		PublicID:     row.PublicID,
		Head:         row.Head,
	}
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

// CreateCircuit makes the circuit of a class with its first version, and the class's
// minutes and lanes where they are given, in one transaction. The same create again
// changes nothing; another circuit for the class is ErrConflict. It gives the stamps
// there are then, where the plan was worked out from what class says: none where the circuit
// was there.
func (s *Store) CreateCircuit(
	ctx context.Context,
	sc Scope,
	class Class,
	c Circuit,
	first CircuitVersion,
	with *Class,
) (Stamps, error) {
	var at Stamps
	err := s.write(ctx, func(tx *gorm.DB) error {
		at = Stamps{}
		next, minutes := newStamp(), class.Minutes
		if with != nil {
			minutes = with.Minutes
		}
		r := tx.Exec(
			"UPDATE occurrence o JOIN series s ON s.studio_id = o.studio_id AND s.id = o.series_id SET o.minutes = ?, s.stamp = IF(s.stamp = ?, ?, ?) WHERE o.studio_id = ? AND o.id = ?",
			minutes,
			class.Stamps.SeriesAt,
			next,
			newStamp(),
			sc.StudioID,
			class.ID,
		)
		if err := found(r); err != nil {
			return err
		}
		var old Circuit
		err := tx.Where("studio_id = ? AND occurrence_id = ?", sc.StudioID, class.ID).Take(&old).Error
		if err == nil {
			if old.PublicID == c.PublicID {
				return nil
			}
			return ErrConflict
		}
		if !errors.Is(err, gorm.ErrRecordNotFound) {
			return err
		}
		c.ID, c.StudioID, c.OccurrenceID, c.Head, c.Newest = 0, sc.StudioID, class.ID, 1, 1
		if err := tx.Create(&c).Error; err != nil {
			return err
		}
		first.ID, first.StudioID, first.CircuitID, first.Version = 0, sc.StudioID, c.ID, 1
		first.Notes = listOrNone(first.Notes)
		if err := tx.Create(&first).Error; err != nil {
			return err
		}
		at = class.Stamps
		at.Circuit, at.Head, at.SeriesAt = c.ID, 1, next
		if err := raiseWhereOverruled(tx, sc, class.Occurrence, nil, first.Document); err != nil {
			return err
		}
		return putChangedLanes(tx, sc, class, with)
	})
	return at, err
}

// putChangedLanes changes the lanes of a class where a proposal was asked for others.
func putChangedLanes(tx *gorm.DB, sc Scope, class Class, with *Class) error {
	same := func(a, b OccurrenceLane) bool {
		a.Row, b.Row, a.OccurrenceID, b.OccurrenceID = Row{}, Row{}, 0, 0
		return a == b
	}
	if with == nil || slices.EqualFunc(class.Lanes, with.Lanes, same) {
		return nil
	}
	return putLanes(tx, sc, class.ID, slices.Clone(with.Lanes))
}

// listOrNone gives an empty list for none.
func listOrNone(b []byte) []byte {
	if len(b) == 0 {
		return []byte("[]")
	}
	return b
}

// Change says how a version is added.
type Change struct {
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

// Planned is a version of a circuit with its class, and the stamps of what its plan follows
// from. Versions are only ever added, so it stays what it is until AppendVersion looks
// whether it is still the newest.
type Planned struct {
	Circuit Circuit
	Class   Class
	Base    CircuitVersion
	// Undo and Redo are the versions that one step back or forth from Base leads to.
	Undo, Redo *CircuitVersion
	// Stored tells that the change was stored before: there is nothing to work out.
	Stored bool
}

// versionColumns are what is read of a version, besides its key.
var versionColumns = []string{
	"id",
	"version",
	"base",
	"client_id",
	"kind",
	"side",
	"ops",
	"inverse",
	"document",
	"notes",
	"undo_to",
	"redo_to",
	"created_at",
}

// versionAs names the columns of a version that is joined as an alias.
func versionAs(alias string) string {
	var out strings.Builder
	for _, c := range versionColumns {
		fmt.Fprintf(&out, ", %s.%s AS %s_%s", alias, c, alias, c)
	}
	return out.String()
}

// plannedQuery reads the head of a circuit, or a version by its number, with everything
// about it.
var plannedQuery = "SELECT " + classColumns + `, c.id AS c_id, c.public_id AS c_public_id, c.head AS c_head,
		c.newest AS c_newest, k.version AS stored_version, COALESCE(k.side, FALSE) AS stored_beside` +
	versionAs("v") + versionAs("u") + versionAs("r") + `
	FROM circuit c JOIN occurrence o ON o.studio_id = c.studio_id AND o.id = c.occurrence_id` + classJoins + `
	LEFT JOIN circuit_version v ON v.studio_id = c.studio_id AND v.circuit_id = c.id AND v.version = COALESCE(@base, c.head)
	LEFT JOIN circuit_version u ON u.studio_id = c.studio_id AND u.circuit_id = c.id AND u.version = v.undo_to
	LEFT JOIN circuit_version r ON r.studio_id = c.studio_id AND r.circuit_id = c.id AND r.version = v.redo_to
	LEFT JOIN circuit_version k ON k.studio_id = c.studio_id AND k.circuit_id = c.id AND k.client_id = @client
	WHERE c.studio_id = @studio AND c.public_id = @circuit`

// Planned reads the newest version of a circuit with its class in one statement.
func (s *Store) Planned(ctx context.Context, sc Scope, publicID string) (Planned, error) {
	return s.planned(ctx, sc, publicID, nil, "")
}

// PlannedFrom reads what a change is worked out from, in one statement. Its base must be
// the newest version unless the change may stand beside it; else the answer is
// ErrConflict. A change stored before as a side version is a *BesideError again.
func (s *Store) PlannedFrom(ctx context.Context, sc Scope, publicID string, how Change) (Planned, error) {
	p, err := s.planned(ctx, sc, publicID, &how.Base, how.ClientID)
	switch {
	case err != nil || p.Stored:
		return p, err
	case p.Circuit.Head != how.Base && !how.Beside:
		return p, ErrConflict
	case p.Base.ID == 0:
		return p, ErrNotFound
	}
	return p, nil
}

func (s *Store) planned(ctx context.Context, sc Scope, publicID string, base *int, clientID string) (Planned, error) {
	var row struct {
		Class         classRow       `gorm:"embedded"`
		C             Circuit        `gorm:"embedded;embeddedPrefix:c_"`
		V             CircuitVersion `gorm:"embedded;embeddedPrefix:v_"`
		U             CircuitVersion `gorm:"embedded;embeddedPrefix:u_"`
		R             CircuitVersion `gorm:"embedded;embeddedPrefix:r_"`
		StoredVersion *int
		StoredBeside  bool
	}
	err := s.db.WithContext(ctx).
		Raw(plannedQuery, map[string]any{"base": base, "client": clientID, "studio": sc.StudioID, "circuit": publicID}).
		Scan(&row).
		Error
	if err != nil {
		return Planned{}, err
	}
	class, err := row.Class.class()
	if err == nil {
		err = fillFacts(s.db.WithContext(ctx), sc, class.People)
	}
	if err != nil {
		return Planned{}, err
	}
	row.C.StudioID, row.C.OccurrenceID = sc.StudioID, class.ID
	class.Stamps.Circuit, class.Stamps.Head = row.C.ID, row.C.Head
	p := Planned{Circuit: row.C, Class: class, Base: row.V, Stored: row.StoredVersion != nil}
	p.Class.CircuitPublicID = row.C.PublicID
	for v, to := range map[*CircuitVersion]**CircuitVersion{&row.U: &p.Undo, &row.R: &p.Redo} {
		if v.ID != 0 {
			*to = v
		}
	}
	if p.Stored && row.StoredBeside {
		return p, &BesideError{*row.StoredVersion}
	}
	return p, nil
}

// keptVersion tells whether a change is stored; as a side version it is a *BesideError.
func keptVersion(tx *gorm.DB, sc Scope, c Circuit, clientID string) (bool, error) {
	var seen []CircuitVersion
	err := tx.Where("studio_id = ? AND circuit_id = ? AND client_id = ?", sc.StudioID, c.ID, clientID).
		Select("version", "side").
		Limit(1).
		Find(&seen).
		Error
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
// been kept beside, which is so again when it is sent twice. It gives the stamps there
// are then: of what the version was worked out from, and of the version itself. Where
// something else was changed meanwhile they are nobody's. Nothing is computed and nothing
// else is read while the circuit is locked.
func (s *Store) AppendVersion(
	ctx context.Context,
	sc Scope,
	from Planned,
	how Change,
	next CircuitVersion,
) (Stamps, error) {
	if from.Circuit.Newest >= MaxVersions {
		return Stamps{}, ErrFull
	}
	var at Stamps
	beside := 0
	err := s.write(ctx, func(tx *gorm.DB) error {
		at, beside = from.Class.Stamps, 0
		c := from.Circuit
		if c.Head == how.Base {
			mine, err := s.advance(tx, sc, &at, from, how)
			if err != nil {
				return err
			}
			if mine {
				return addVersion(tx, sc, from, how, next, c.Newest+1)
			}
		}
		// Somebody else was a moment faster, or the change came from an older version.
		at = Stamps{}
		c, err := lock[Circuit](tx, sc, from.Circuit.PublicID)
		if err != nil {
			return err
		}
		if kept, err := keptVersion(tx, sc, c, how.ClientID); err != nil || kept {
			return err
		}
		if c.Head != how.Base && !how.Beside {
			return ErrConflict
		}
		if c.Newest >= MaxVersions {
			return ErrFull
		}
		n, changes := c.Newest+1, map[string]any{"newest": c.Newest + 1}
		if next.Side = c.Head != how.Base; next.Side {
			beside = n
		} else {
			changes["head"] = n
		}
		if err := tx.Model(&c).Updates(changes).Error; err != nil {
			return err
		}
		if how.With != nil && !next.Side {
			if err := tx.Model(&Occurrence{}).Where("studio_id = ? AND id = ?", sc.StudioID, c.OccurrenceID).Update("minutes", how.With.Minutes).Error; err != nil {
				return err
			}
		}
		if err := addVersion(tx, sc, from, how, next, n); err != nil {
			return err
		}
		return raiseSeries(tx, sc, from.Class.SeriesID)
	})
	if err == nil && beside > 0 {
		return at, &BesideError{beside}
	}
	return at, err
}

// advance makes the next version the newest, with the minutes of the class and the stamp
// of its series, while the circuit is still what it was read as; mine tells whether it was.
func (s *Store) advance(tx *gorm.DB, sc Scope, at *Stamps, from Planned, how Change) (mine bool, err error) {
	c, next, minutes := from.Circuit, newStamp(), from.Class.Minutes
	if how.With != nil {
		minutes = how.With.Minutes
	}
	r := tx.Exec(
		`UPDATE circuit c JOIN occurrence o ON o.studio_id = c.studio_id AND o.id = c.occurrence_id JOIN series s ON s.studio_id = o.studio_id AND s.id = o.series_id
		SET c.head = ?, c.newest = ?, o.minutes = IF(?, ?, o.minutes), s.stamp = IF(s.stamp = ?, ?, ?) WHERE c.studio_id = ? AND c.id = ? AND c.head = ? AND c.newest = ?`,
		c.Newest+1,
		c.Newest+1,
		how.With != nil,
		minutes,
		at.SeriesAt,
		next,
		newStamp(),
		sc.StudioID,
		c.ID,
		c.Head,
		c.Newest,
	)
	if r.Error != nil || r.RowsAffected == 0 {
		return false, r.Error
	}
	at.Head, at.SeriesAt = c.Newest+1, next
	return true, nil
}

func addVersion(tx *gorm.DB, sc Scope, from Planned, how Change, v CircuitVersion, n int) error {
	base := how.Base
	v.Row, v.CircuitID, v.Version, v.ClientID, v.Base = Row{
		StudioID: sc.StudioID,
	}, from.Circuit.ID, n, how.ClientID, &base
	v.Notes = listOrNone(v.Notes)
	if err := tx.Create(&v).Error; err != nil || v.Side {
		return err
	}
	if err := raiseWhereOverruled(tx, sc, from.Class.Occurrence, from.Base.Document, v.Document); err != nil {
		return err
	}
	return putChangedLanes(tx, sc, from.Class, how.With)
}

// raiseWhereOverruled changes the stamps of the other series that people of a class are in,
// where a plan of it sets something else aside than before: it is set aside for them there too.
func raiseWhereOverruled(tx *gorm.DB, sc Scope, o Occurrence, before, after []byte) error {
	var a, b struct{ Overruled json.RawMessage }
	_ = json.Unmarshal(object(before), &a) // a document was checked before it was written
	_ = json.Unmarshal(object(after), &b)
	if bytes.Equal(a.Overruled, b.Overruled) {
		return nil
	}
	return raiseSeriesBeside(tx, sc, o)
}

// Versions lists the versions of a circuit before a number, the newest first,
// without their documents.
func (s *Store) Versions(ctx context.Context, sc Scope, circuit int64, before, limit int) ([]CircuitVersion, error) {
	var rows []CircuitVersion
	err := s.in(ctx, sc).
		Where("circuit_id = ? AND version < ?", circuit, before).
		Omit("document", "inverse").
		Order("version DESC").
		Limit(limit).
		Find(&rows).
		Error
	return rows, err
}

// CreateRun makes a run of a class; the same run twice is one.
func (s *Store) CreateRun(ctx context.Context, sc Scope, occurrence string, r Run) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		o, err := lockClass(tx, sc, occurrence)
		if err != nil {
			return err
		}
		if _, err := get[Run](tx, sc, r.PublicID); !errors.Is(err, ErrNotFound) {
			return err
		}
		if err := checkCapacity[Run](tx, sc, "occurrence_id", o.ID, MaxRuns); err != nil {
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

// RunWith is a run with its presses, and what was logged of its class where it is that
// class's newest.
type RunWith struct {
	Run
	Events []RunEvent
	Lines  []LogLine
}

// RecentRuns lists the studio's newest runs with what happened in them, the newest first.
func (s *Store) RecentRuns(ctx context.Context, sc Scope, limit int) ([]RunWith, error) {
	var rows []Run
	if err := s.in(ctx, sc).Order("id DESC").Limit(limit).Find(&rows).Error; err != nil || len(rows) == 0 {
		return nil, err
	}
	out, at, newest := make([]RunWith, len(rows)), map[int64]int{}, map[int64]int{}
	for i, r := range rows {
		out[i].Run, at[r.ID] = r, i
		if _, had := newest[r.OccurrenceID]; !had {
			newest[r.OccurrenceID] = i
		}
	}
	var events []RunEvent
	err := s.in(ctx, sc).
		Where("run_id IN ?", slices.Sorted(maps.Keys(at))).
		Order("run_id, seq").
		Limit(limit * MaxRunEvents).
		Find(&events).
		Error
	if err != nil {
		return nil, err
	}
	for _, e := range events {
		r := &out[at[e.RunID]]
		r.Events = append(r.Events, e)
	}
	var lines []LogLine
	err = s.in(ctx, sc).
		Where("occurrence_id IN ?", slices.Sorted(maps.Keys(newest))).
		Limit(limit * MaxLogLines).
		Find(&lines).
		Error
	for _, l := range lines {
		r := &out[newest[l.OccurrenceID]]
		r.Lines = append(r.Lines, l)
	}
	return out, err
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
		e.Detail = object(e.Detail)
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
