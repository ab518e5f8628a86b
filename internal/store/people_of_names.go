package store

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"errors"
	"fmt"
	"time"

	"github.com/pressly/goose/v3"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
)

// peopleMigration is the number of the migration that makes people of the names that
// participants had. It is no statement: who a name is, the core says.
const peopleMigration = 41

// goMigrations are those that are no files.
func (s *Store) goMigrations() []*goose.Migration {
	return []*goose.Migration{goose.NewGoMigration(peopleMigration,
		&goose.GoFunc{RunDB: func(ctx context.Context, db *sql.DB) error { return s.makePeople(ctx, db) }},
		&goose.GoFunc{RunDB: func(ctx context.Context, db *sql.DB) error {
			_, err := db.ExecContext(
				ctx,
				"/* every studio at once */ UPDATE participant p JOIN person q ON q.studio_id = p.studio_id AND q.id = p.person_id SET p.name = q.name",
			)
			return err
		}})}
}

// makePeople makes people of names, a studio at a time, each in a transaction of its own.
// What was done is not done again: participants who have their person keep it.
func (s *Store) makePeople(ctx context.Context, db *sql.DB) error {
	var studios []int64
	rows, err := db.QueryContext(ctx, "/* every studio */ SELECT id FROM studio ORDER BY id")
	if err != nil {
		return err
	}
	defer func() { _ = rows.Close() }()
	for rows.Next() {
		var id int64
		if err := rows.Scan(&id); err != nil {
			return err
		}
		studios = append(studios, id)
	}
	if err := errors.Join(rows.Err(), rows.Close()); err != nil {
		return err
	}
	for _, id := range studios {
		tx, err := db.BeginTx(ctx, nil)
		if err != nil {
			return err
		}
		if err := s.makePeopleOf(ctx, tx, id); err != nil {
			return errors.Join(fmt.Errorf("people of studio %d: %w", id, err), tx.Rollback())
		}
		if err := tx.Commit(); err != nil {
			return err
		}
	}
	return nil
}

// named is a participant without a person.
type named struct {
	id, series, class int64
	public, name      string
	lane              moves.Lane
	came              time.Time
}

func (s *Store) makePeopleOf(ctx context.Context, tx *sql.Tx, studio int64) error {
	rows, err := tx.QueryContext(
		ctx,
		`/* a studio at a time */ SELECT p.id, o.series_id, o.id, p.public_id, p.name, p.lane, p.created_at FROM participant p
		JOIN occurrence o ON o.studio_id = p.studio_id AND o.id = p.occurrence_id
		WHERE p.studio_id = ? AND p.person_id IS NULL AND p.name <> ''
		ORDER BY o.series_id, o.local_date, o.local_time, o.id, p.id FOR UPDATE`,
		studio,
	)
	if err != nil {
		return err
	}
	defer func() { _ = rows.Close() }()
	bySeries := map[int64][]named{}
	var series []int64
	for rows.Next() {
		var n named
		if err := rows.Scan(&n.id, &n.series, &n.class, &n.public, &n.name, &n.lane, &n.came); err != nil {
			return err
		}
		if bySeries[n.series] == nil {
			series = append(series, n.series)
		}
		bySeries[n.series] = append(bySeries[n.series], n)
	}
	if err := errors.Join(rows.Err(), rows.Close()); err != nil {
		return err
	}
	for _, id := range series {
		for _, who := range identify(bySeries[id]) {
			if err := makePerson(ctx, tx, studio, id, who); err != nil {
				return err
			}
		}
	}
	return nil
}

// identified are participants who are one person.
type identified struct {
	people.Identity
	publicID     string
	participants []int64
	since        time.Time
}

// identify tells who the participants of a series are, in the order of their classes.
func identify(all []named) []identified {
	var in []people.Appearance
	class := map[int64]int{}
	for _, n := range all {
		if _, seen := class[n.class]; !seen {
			class[n.class] = len(class)
		}
		in = append(in, people.Appearance{Class: class[n.class], Lane: n.lane, Name: n.name})
	}
	var out []identified
	for _, id := range people.Identify(in) {
		x := identified{
			Identity: id,
			publicID: personOf(all[id.Appearances[0]].public),
			since:    all[id.Appearances[0]].came,
		}
		for _, i := range id.Appearances {
			x.participants = append(x.participants, all[i].id)
		}
		out = append(out, x)
	}
	return out
}

// personOf is the id of the person that is made for a participant: the same again for the
// same.
func personOf(participant string) string {
	sum := sha256.Sum256([]byte("person/" + participant))
	return hex.EncodeToString(sum[:13])
}

func makePerson(ctx context.Context, tx *sql.Tx, studio, series int64, who identified) error {
	r, err := tx.ExecContext(
		ctx,
		"/* a studio at a time */ INSERT INTO person (studio_id, public_id, name, same_name, created_at) VALUES (?, ?, ?, ?, ?) ON DUPLICATE KEY UPDATE id = LAST_INSERT_ID(id)",
		studio,
		who.publicID,
		who.Name,
		who.SameName,
		who.since,
	)
	if err != nil {
		return err
	}
	person, err := r.LastInsertId()
	if err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx,
		"/* a studio at a time */ INSERT IGNORE INTO series_member (studio_id, series_id, person_id, created_at) VALUES (?, ?, ?, ?)",
		studio, series, person, who.since); err != nil {
		return err
	}
	for _, p := range who.participants {
		if _, err := tx.ExecContext(ctx, "/* a studio at a time */ UPDATE participant SET person_id = ? WHERE studio_id = ? AND id = ?",
			person, studio, p); err != nil {
			return err
		}
	}
	return nil
}
