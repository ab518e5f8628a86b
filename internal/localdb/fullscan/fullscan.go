// Package fullscan finds statements that would read a table from end to end:
// what a test program sent to its database is explained on large tables.
package fullscan

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"

	"nimbleanvil/internal/localdb"
	"nimbleanvil/internal/localdb/dbtest"
	"nimbleanvil/internal/store"
)

// tableRows is how many rows every table of the large database has; a statement
// that would look at a tenth of them is one that grows with the house.
const tableRows = 100_000

// Watch looks at a test program's database: every statement it sends is kept, at
// the end each is explained on tables of 100,000 rows, and one that reads a table
// from end to end, or a tenth of it, fails the program. One that begins with a comment
// is a test's own.
var Watch = dbtest.Watch{Before: record, After: explain}

// record keeps every statement from now on, in the server's own table.
func record(ctx context.Context, db *localdb.Server) error {
	return asAdmin(db, func(admin *sql.DB) error {
		for _, s := range []string{"SET GLOBAL log_output = 'TABLE'", "SET GLOBAL general_log = 1"} {
			if _, err := admin.ExecContext(ctx, s); err != nil {
				return err
			}
		}
		return nil
	})
}

func asAdmin(db *localdb.Server, f func(*sql.DB) error) error {
	dsn, err := db.Admin()
	if err != nil {
		return err
	}
	admin, err := sql.Open("mysql", dsn)
	if err != nil {
		return err
	}
	defer func() { _ = admin.Close() }()
	return f(admin)
}

var (
	literal = regexp.MustCompile(`'(?:[^'\\]|\\.)*'|\b[0-9]+\b`)
	checked = regexp.MustCompile(`(?i)^(SELECT|UPDATE|DELETE|INSERT INTO .* SELECT)\b`)
	// What reads everything because everything is asked for, a migration's update among it.
	whole = regexp.MustCompile(
		"(?i)^SELECT \\* FROM `[a-z_]+` ORDER BY id$|^DELETE FROM `[a-z_]+`$|^SELECT COUNT\\(\\*\\) FROM `[a-z_]+`$|^UPDATE occurrence_lane SET body_known = ",
	)
	other = regexp.MustCompile(
		`(?i)information_schema|goose_|GET_LOCK|RELEASE_LOCK|@@|seq_1_to|VERSION\(\)|general_log`,
	)
)

// canary reads a table from end to end: there is no index it could use.
const canary = "SELECT * FROM log_line WHERE hold = 'hug'"

func explain(ctx context.Context, db *localdb.Server) (problems []string, err error) {
	seen, err := statements(ctx, db)
	if err != nil {
		return nil, err
	}
	dsn, err := large(ctx, db)
	if err != nil {
		return nil, fmt.Errorf("the large database: %w", err)
	}
	big, err := sql.Open("mysql", dsn)
	if err != nil {
		return nil, err
	}
	defer func() { _ = big.Close() }()
	if found, err := scans(ctx, big, canary); err != nil || len(found) == 0 {
		return nil, errors.Join(err, errors.New("the watch is blind: it does not see "+canary))
	}
	for _, s := range seen {
		found, err := scans(ctx, big, s)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", s, err)
		}
		problems = append(problems, found...)
	}
	fmt.Printf("%d statements explained on tables of %d rows, %d read too much\n", len(seen), tableRows, len(problems))
	return problems, nil
}

// statements gives one example of each shape of statement that was asked.
func statements(ctx context.Context, db *localdb.Server) ([]string, error) {
	examples := map[string]string{}
	err := asAdmin(db, func(admin *sql.DB) error {
		if _, err := admin.ExecContext(ctx, "SET GLOBAL general_log = 0"); err != nil {
			return err
		}
		rows, err := admin.QueryContext(ctx,
			"SELECT argument FROM mysql.general_log WHERE command_type = 'Query' AND user_host LIKE ?",
			localdb.User+"%")
		if err != nil {
			return err
		}
		defer func() { _ = rows.Close() }()
		for rows.Next() {
			var s string
			if err := rows.Scan(&s); err != nil {
				return err
			}
			if !checked.MatchString(s) || whole.MatchString(s) || other.MatchString(s) {
				continue
			}
			examples[literal.ReplaceAllString(s, "?")] = s
		}
		return rows.Err()
	})
	out := make([]string, 0, len(examples))
	for _, s := range examples {
		out = append(out, s)
	}
	slices.Sort(out)
	return out, err
}

// large makes a database of a thousand studios with tableRows rows in every table
// but studio's: row n belongs to studio (n - 1) / 100 + 1 and to row n of its parent.
func large(ctx context.Context, db *localdb.Server) (string, error) {
	dsn, err := db.Fresh(ctx)
	if err != nil {
		return "", err
	}
	st, err := store.Open(dsn, time.Now)
	if err != nil {
		return "", err
	}
	err = errors.Join(st.Migrate(ctx), st.Close())
	if err != nil {
		return "", err
	}
	big, err := sql.Open("mysql", dsn)
	if err != nil {
		return "", err
	}
	defer func() { _ = big.Close() }()
	big.SetMaxOpenConns(1)
	if _, err := big.ExecContext(ctx, "SET SESSION foreign_key_checks = 0, unique_checks = 0"); err != nil {
		return "", err
	}
	for _, table := range store.Tables() {
		n := tableRows
		if table == "studio" {
			n = tableRows / 100
		}
		if err := fill(ctx, big, table, n); err != nil {
			return "", fmt.Errorf("%s: %w", table, err)
		}
	}
	return dsn, nil
}

// fill gives a table n rows, by the types and names of its columns.
func fill(ctx context.Context, db *sql.DB, table string, n int) error {
	rows, err := db.QueryContext(
		ctx,
		"SELECT column_name, data_type, COALESCE(character_maximum_length, 0) FROM information_schema.columns WHERE table_schema = DATABASE() AND table_name = ? ORDER BY ordinal_position",
		table,
	)
	if err != nil {
		return err
	}
	var names, values []string
	for rows.Next() {
		var name, kind string
		var most int64
		if err := rows.Scan(&name, &kind, &most); err != nil {
			return err
		}
		value := "1"
		switch {
		case name == "studio_id":
			value = "(seq - 1) DIV 100 + 1"
		case name == "id" || strings.HasSuffix(name, "_id") && kind == "bigint":
			value = "seq"
		case name == "public_id" || name == "client_id":
			value = "LPAD(seq, 26, 'x')"
		case name == "retired_at":
			value = "NULL"
		case name == "lane" || name == "subject":
			value = "'middle'"
		case kind == "char":
			value = fmt.Sprintf("LPAD(seq, %d, '0')", most)
		case kind == "datetime":
			value = "NOW(6)"
		case kind == "date":
			value = "DATE '2020-01-01' + INTERVAL seq % 100 * 20 DAY"
		case kind == "longtext":
			value = "'{}'"
		case kind == "varchar":
			value = fmt.Sprintf("LEFT(CONCAT('v', seq %% 100), %d)", most) // some must be each once in a studio
		}
		names, values = append(names, "`"+name+"`"), append(values, value)
	}
	if err := errors.Join(rows.Err(), rows.Close()); err != nil {
		return err
	}
	_, err = db.ExecContext(ctx, fmt.Sprintf(
		"INSERT INTO `%s` (%s) SELECT %s FROM seq_1_to_%d",
		table,
		strings.Join(names, ","),
		strings.Join(values, ","),
		n,
	)) // names of ours
	if err != nil {
		return err
	}
	_, err = db.ExecContext(ctx, "ANALYZE TABLE `"+table+"`") // a name of ours
	return err
}

// scans explains a statement and names the tables it would read too much of.
func scans(ctx context.Context, db *sql.DB, statement string) ([]string, error) {
	rows, err := db.QueryContext(ctx, "EXPLAIN "+statement) // from our own log
	if err != nil {
		return nil, err
	}
	defer func() { _ = rows.Close() }()
	columns, err := rows.Columns()
	if err != nil {
		return nil, err
	}
	var out []string
	for rows.Next() {
		cells, refs := make([]sql.NullString, len(columns)), make([]any, len(columns))
		for i := range cells {
			refs[i] = &cells[i]
		}
		if err := rows.Scan(refs...); err != nil {
			return nil, err
		}
		row := map[string]string{}
		for i, c := range columns {
			row[c] = cells[i].String
		}
		var read int
		_, _ = fmt.Sscan(row["rows"], &read)
		if base := row["table"] != "" && !strings.HasPrefix(row["table"], "<"); base &&
			(row["type"] == "ALL" || read > tableRows/10) {
			out = append(out,
				fmt.Sprintf("%s by %s reads %d rows of %s: %s", row["type"], row["key"], read, row["table"], statement))
		}
	}
	return out, rows.Err()
}
