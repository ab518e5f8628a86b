package store

import (
	"bufio"
	"compress/gzip"
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/pressly/goose/v3"
)

// A backup is gzipped JSON lines: a header with the schema's version, then one
// line for each row, every value as MariaDB writes it or null, then a line that
// counts them and has the hash of all lines before. docs/formats/backup.md describes
// it. Version 1 had no hash, version 2 no section of health.
const (
	backupFormat  = "nimbleanvil-backup"
	backupVersion = 3
	maxLine       = 64 << 20
)

type backupHead struct {
	Format  string `json:"format"`
	Version int    `json:"version"`
	Schema  int64  `json:"schema"`
}

type backupLine struct {
	// Section begins what a backup may leave out: health.
	Section string    `json:"section,omitempty"`
	Table   string    `json:"table,omitempty"`
	Columns []string  `json:"columns,omitempty"`
	Row     []*string `json:"row,omitempty"`
	// Rows is the count of the last line, Hash the SHA-256 of the lines before it.
	Rows *int   `json:"rows,omitempty"`
	Hash string `json:"sha256,omitempty"`
}

// tables lists the program's tables, parents before children.
var tables = []string{
	"studio",
	"own_move",
	"house_template",
	"place",
	"implement",
	"object",
	"container",
	"series",
	"occurrence",
	"occurrence_lane",
	"person",
	"series_member",
	"person_record",
	"person_merge",
	"participant",
	"circuit",
	"circuit_version",
	"run",
	"run_event",
	"log_line",
	"log_line_past",
	"erased",
	// Of health, last: a backup may leave them out.
	"health_record",
	"pain_report",
}

// healthSection is the name of the section that begins with the first of healthTables.
const healthSection = "health"

var healthTables = []string{"health_record", "pain_report"}

// Tables names the program's tables, parents before children.
func Tables() []string { return slices.Clone(tables) }

// Backup writes everything the database holds, as of one instant, while the program goes on;
// without what is kept of people's health where that is said. Restored from such a one, people
// are spared what they were, and nothing is known of why.
func (s *Store) Backup(ctx context.Context, w io.Writer, health bool) error {
	schema, _, err := s.schema(ctx)
	if err != nil {
		return err
	}
	tx, err := s.sql.BeginTx(ctx, &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
	if err != nil {
		return err
	}
	defer func() { _ = tx.Rollback() }()
	zip, sum := gzip.NewWriter(w), sha256.New()
	out := json.NewEncoder(io.MultiWriter(zip, sum))
	if err := out.Encode(backupHead{backupFormat, backupVersion, schema}); err != nil {
		return err
	}
	rows := 0
	for _, t := range tables {
		if slices.Contains(healthTables, t) && !health {
			continue
		}
		if t == healthTables[0] {
			if err := out.Encode(backupLine{Section: healthSection}); err != nil {
				return err
			}
			rows++
		}
		n, err := backupTable(ctx, tx, t, out)
		if err != nil {
			return fmt.Errorf("table %s: %w", t, err)
		}
		rows += n
	}
	if err := out.Encode(backupLine{Rows: &rows, Hash: hex.EncodeToString(sum.Sum(nil))}); err != nil {
		return err
	}
	return zip.Close()
}

func backupTable(ctx context.Context, tx *sql.Tx, table string, out *json.Encoder) (int, error) {
	rows, err := tx.QueryContext(ctx, "SELECT * FROM `"+table+"` ORDER BY id") // a name of ours
	if err != nil {
		return 0, err
	}
	defer func() { _ = rows.Close() }()
	columns, err := rows.ColumnTypes()
	if err != nil {
		return 0, err
	}
	names := make([]string, len(columns))
	for i, c := range columns {
		names[i] = c.Name()
	}
	cells, refs := make([]sql.NullString, len(names)), make([]any, len(names))
	for i := range cells {
		refs[i] = &cells[i]
	}
	n := 0
	for ; rows.Next(); n++ {
		if err := rows.Scan(refs...); err != nil {
			return n, err
		}
		line := backupLine{Table: table, Columns: names, Row: make([]*string, len(cells))}
		for i, c := range cells {
			if c.Valid {
				v := sqlText(c.String, columns[i].DatabaseTypeName())
				line.Row[i] = &v
			}
		}
		if err := out.Encode(line); err != nil {
			return n, err
		}
	}
	return n, rows.Err()
}

// sqlText gives a value as MariaDB reads it back: the driver hands times over in
// another notation.
func sqlText(v, kind string) string {
	switch kind {
	case "DATETIME":
		return strings.TrimSuffix(strings.Replace(v, "T", " ", 1), "Z")
	case "DATE":
		return v[:min(len(v), 10)]
	}
	return v
}

// ErrBackup means that a file is no backup, is cut short, or does not suit the
// database.
var ErrBackup = errors.New("backup")

// Restore replaces everything in the database by a backup, in one transaction:
// until it is done, readers see what was there, and on any error that stays. The file is
// read to its end and its sums are checked before anything is touched. A backup of
// another schema than the database's goes into an empty database only, which is brought
// to the backup's, filled, and then migrated; one of a newer schema than the program's
// is refused.
func (s *Store) Restore(ctx context.Context, file io.ReadSeeker) error {
	head, err := checkBackup(file)
	if err != nil {
		return err
	}
	if _, err := file.Seek(0, io.SeekStart); err != nil {
		return err
	}
	return s.migrating(ctx, func(p *goose.Provider) error {
		if err := s.suit(ctx, p, head.Schema); err != nil {
			return err
		}
		if err := s.fill(ctx, file); err != nil {
			return err
		}
		if _, err := p.Up(ctx); err != nil {
			return err
		}
		if err := s.eraseAgain(ctx); err != nil {
			return err
		}
		return s.restored(ctx)
	})
}

// checkBackup reads a backup to its end and tells whether it is whole and unchanged.
func checkBackup(file io.Reader) (head backupHead, err error) {
	sum := sha256.New()
	rows := 0
	var last backupLine
	err = backupLines(file, func(n int, line []byte) error {
		switch {
		case n == 1:
			if json.Unmarshal(line, &head) != nil || head.Format != backupFormat {
				return errors.New("this is no backup of nimbleanvil")
			}
			if head.Version < 1 || head.Version > backupVersion {
				return fmt.Errorf("its format is %d, this program knows %d", head.Version, backupVersion)
			}
		case last.Rows != nil:
			return fmt.Errorf("line %d stands after its end", n)
		default:
			last = backupLine{}
			if err := json.Unmarshal(line, &last); err != nil {
				return fmt.Errorf("line %d: %w", n, err)
			}
			rows++
		}
		if last.Rows == nil {
			sum.Write(line)
			sum.Write([]byte{'\n'})
		}
		return nil
	})
	switch {
	case err != nil:
		return head, fmt.Errorf("%w: %w", ErrBackup, err)
	case last.Rows == nil:
		return head, fmt.Errorf("%w: it is cut short after %d rows", ErrBackup, rows)
	case *last.Rows != rows-1:
		return head, fmt.Errorf("%w: it should hold %d rows and holds %d", ErrBackup, *last.Rows, rows-1)
	case head.Version > 1 && last.Hash != hex.EncodeToString(sum.Sum(nil)):
		return head, fmt.Errorf("%w: its lines are not what was written: the file has been changed", ErrBackup)
	}
	return head, nil
}

// backupLines calls f with every line of a backup, numbered from 1, and reads on to the
// end of the file, where its checksum stands.
func backupLines(file io.Reader, f func(n int, line []byte) error) error {
	zip, err := gzip.NewReader(file)
	if err != nil {
		return fmt.Errorf("this is no backup of nimbleanvil: %w", err)
	}
	lines := bufio.NewScanner(zip)
	lines.Buffer(make([]byte, 1<<20), maxLine)
	for n := 1; lines.Scan(); n++ {
		if err := f(n, lines.Bytes()); err != nil {
			return err
		}
	}
	if err := lines.Err(); err != nil {
		return fmt.Errorf("it is cut short or damaged: %w", err)
	}
	return zip.Close()
}

// begunTable stands in a database while a backup of another schema is put into it, from
// before the first row until it is migrated. One that was killed meanwhile has left rows of
// an older schema behind: they are no studio's yet, and the next restore replaces them.
const begunTable = "restore_begun"

// restored takes away the sign of a restore that has not ended.
func (s *Store) restored(ctx context.Context) error {
	_, err := s.sql.ExecContext(ctx, "DROP TABLE IF EXISTS "+begunTable)
	return err
}

// begin makes sure that a database is empty, or holds what a restore that was killed has
// left, which is taken away and told, and signs that a restore has begun.
func (s *Store) begin(ctx context.Context, schema, have int64) (again bool, err error) {
	var begun, studios int
	err = s.sql.QueryRowContext(ctx, "SELECT COUNT(*) FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name = ?", begunTable).
		Scan(&begun)
	if err != nil {
		return false, err
	}
	if have > 0 && begun == 0 {
		if err := s.sql.QueryRowContext(ctx, "SELECT COUNT(*) FROM studio").Scan(&studios); err != nil {
			return false, err
		}
	}
	if studios > 0 {
		return false, fmt.Errorf(
			"%w: it is of schema %d and the database of %d: restore it into an empty database, which is then migrated",
			ErrBackup,
			schema,
			have,
		)
	}
	if _, err := s.sql.ExecContext(ctx, "CREATE TABLE IF NOT EXISTS "+begunTable+" (id INT PRIMARY KEY)"); err != nil {
		return false, err
	}
	if begun == 0 {
		return false, nil
	}
	tx, err := s.sql.BeginTx(ctx, nil)
	if err != nil {
		return false, err
	}
	defer func() { _ = tx.Rollback() }()
	there, err := present(ctx, tx)
	if err != nil {
		return false, err
	}
	for i := len(tables) - 1; i >= 0; i-- {
		if !there[tables[i]] {
			continue
		}
		if _, err := tx.ExecContext(ctx, "DELETE FROM `"+tables[i]+"`"); err != nil { // a name of ours
			return false, err
		}
	}
	return true, tx.Commit()
}

// suit brings an empty database to the backup's schema and refuses others that
// differ. A database is empty while no studio is in it, whatever its schema: a restore
// that failed leaves it so.
func (s *Store) suit(ctx context.Context, p *goose.Provider, schema int64) error {
	have, want, err := s.schema(ctx)
	switch {
	case err != nil:
		return err
	case schema > want:
		return fmt.Errorf("%w: it is of schema %d, this program knows %d: use a newer nimbleanvil", ErrBackup, schema,
			want)
	case have == schema:
		return nil
	}
	again, err := s.begin(ctx, schema, have)
	if err != nil {
		return err
	}
	if again { // the last migration may be half there, and only its own way up is sure
		if _, err := p.Up(ctx); err != nil {
			return err
		}
		have = want
	}
	if have > schema {
		_, err = p.DownTo(ctx, schema)
		return err
	}
	_, err = p.UpTo(ctx, schema)
	return err
}

// fill puts the rows of a backup that has been checked into the tables.
func (s *Store) fill(ctx context.Context, file io.Reader) error {
	tx, err := s.sql.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer func() { _ = tx.Rollback() }()
	there, err := present(ctx, tx)
	if err != nil {
		return err
	}
	erased, err := erasedHashes(ctx, tx, there)
	if err != nil {
		return err
	}
	for i := len(tables) - 1; i >= 0; i-- {
		if !there[tables[i]] { // a backup of an older schema goes into that schema
			continue
		}
		if _, err := tx.ExecContext(ctx, "DELETE FROM `"+tables[i]+"`"); err != nil { // a name of ours
			return err
		}
	}
	known := map[string]bool{}
	for _, t := range tables {
		known[t] = true
	}
	err = backupLines(file, func(n int, line []byte) error {
		var l backupLine
		if err := json.Unmarshal(line, &l); n == 1 || err != nil || l.Rows != nil || l.Section == healthSection {
			return err
		}
		if !known[l.Table] || len(l.Columns) != len(l.Row) || len(l.Row) == 0 {
			return fmt.Errorf("%w: line %d is of no known table", ErrBackup, n)
		}
		if err := insertLine(ctx, tx, l); err != nil {
			return fmt.Errorf("%w: line %d: %w", ErrBackup, n, err)
		}
		return nil
	})
	if err != nil {
		return err
	}
	for _, e := range erased { // who was erased since the backup stays so
		if _, err := tx.ExecContext(ctx, "INSERT IGNORE INTO erased (studio_id, hash, created_at) VALUES (?, ?, ?)", e.StudioID, e.Hash, e.CreatedAt); err != nil {
			return err
		}
	}
	return tx.Commit()
}

// erasedHashes reads who was erased, where the database knows of that.
func erasedHashes(ctx context.Context, tx *sql.Tx, there map[string]bool) ([]Erased, error) {
	if !there["erased"] {
		return nil, nil
	}
	rows, err := tx.QueryContext(ctx, "/* every studio at once */ SELECT studio_id, hash, created_at FROM erased")
	if err != nil {
		return nil, err
	}
	defer func() { _ = rows.Close() }()
	var out []Erased
	for rows.Next() {
		var e Erased
		if err := rows.Scan(&e.StudioID, &e.Hash, &e.CreatedAt); err != nil {
			return nil, err
		}
		out = append(out, e)
	}
	return out, rows.Err()
}

// present gives the tables that the database has.
func present(ctx context.Context, tx *sql.Tx) (map[string]bool, error) {
	rows, err := tx.QueryContext(ctx,
		"SELECT table_name FROM information_schema.tables WHERE table_schema = DATABASE()")
	if err != nil {
		return nil, err
	}
	defer func() { _ = rows.Close() }()
	out := map[string]bool{}
	for rows.Next() {
		var name string
		if err := rows.Scan(&name); err != nil {
			return nil, err
		}
		out[name] = true
	}
	return out, rows.Err()
}

func insertLine(ctx context.Context, tx *sql.Tx, l backupLine) error {
	names, marks, args := make([]string, len(l.Columns)), make([]string, len(l.Columns)), make([]any, len(l.Row))
	for i, c := range l.Columns {
		if strings.ContainsAny(c, "`\\") {
			return errors.New("a column's name is none")
		}
		names[i], marks[i] = "`"+c+"`", "?"
		if l.Row[i] != nil {
			args[i] = *l.Row[i]
		}
	}
	_, err := tx.ExecContext(
		ctx,
		"INSERT INTO `"+l.Table+"` ("+strings.Join(names, ",")+") VALUES ("+strings.Join(marks, ",")+")",
		args...) // names are checked
	return err
}
