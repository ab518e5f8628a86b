// Package store keeps a studio's data in MariaDB through GORM. Every function
// works within a Scope, every write is one transaction, every list has a limit.
// It decides nothing about the job.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log"
	"log/slog"
	"time"

	driver "github.com/go-sql-driver/mysql"
	"github.com/pressly/goose/v3"
	"github.com/sethvargo/go-retry"
	"gorm.io/driver/mysql"
	"gorm.io/gorm"
)

// Errors the store gives; everything else is the database's.
var (
	// ErrNotFound: there is no such row in the scope.
	ErrNotFound = errors.New("not found")
	// ErrConflict: the version the change came from is no longer the newest.
	ErrConflict = errors.New("conflict")
	// ErrFull: the list is at its limit.
	ErrFull = errors.New("list is full")
	// ErrElsewhere: the id is that of another kind of thing, or of one of another place.
	ErrElsewhere = errors.New("the id is another thing's")
	// ErrInUse: something else still points at it.
	ErrInUse = errors.New("in use")
	// ErrSchema: the database's schema is not the program's.
	ErrSchema = errors.New("schema does not match")
)

// Limits of the lists.
const (
	MaxPlaces       = 100
	MaxOwnMoves     = 300
	MaxTemplates    = 200
	MaxItems        = 300 // implements, objects or containers of a place
	everItems       = 4 * MaxItems
	MaxOccurrences  = 200 // of a span of days that is looked at
	MaxClasses      = 20_000
	MaxRuns         = 100 // of a class
	MaxParticipants = 500
	MaxVersions     = 10_000
	MaxRunEvents    = 5_000
	MaxLogLines     = 24 * (MaxParticipants + 3)
	MaxPastOfLine   = 20 // overtaken ones of one line of a log
)

// Scope is the studio a request may see. The zero value sees nothing.
type Scope struct{ StudioID int64 }

// Store is safe for use by many goroutines; the caller owns it and must Close
// it.
type Store struct {
	db  *gorm.DB
	sql *sql.DB
	now func() time.Time
}

//go:embed migrations/*.sql
var migrations embed.FS

// poolSize is how many connections a program holds.
const poolSize = 16

// Open connects to a database. Now gives the program's instant; rows are stamped
// with it.
func Open(dsn string, now func() time.Time) (*Store, error) { return OpenPool(dsn, now, poolSize) }

// OpenPool is Open with another number of connections. No call needs more than one of
// them at a time, but for those that change the schema, which need two.
func OpenPool(dsn string, now func() time.Time, connections int) (*Store, error) {
	c, err := driver.ParseDSN(dsn)
	if err != nil {
		return nil, fmt.Errorf("database address: %w", err)
	}
	c.ParseTime, c.Loc, c.ClientFoundRows = true, time.UTC, true
	c.Collation = "utf8mb4_unicode_520_ci"
	c.Timeout, c.ReadTimeout, c.WriteTimeout = 3*time.Second, 30*time.Second, 30*time.Second
	if c.Params == nil {
		c.Params = map[string]string{}
	}
	c.Params["time_zone"] = "'+00:00'"
	c.Params["max_statement_time"] = "20"         // a ceiling: a cancelled request's statement runs on in the server
	c.Params["group_concat_max_len"] = "67108864" // lists of a class are read as one value
	// Values are put into statements by the driver, which saves a round trip as
	// prepared statements would; GORM's are shared by connections, so that one which
	// waits for a connection to be prepared on holds up transactions that have one.
	c.InterpolateParams = true
	_ = driver.SetLogger(log.New(io.Discard, "", 0))
	db, err := gorm.Open(mysql.Open(c.FormatDSN()), &gorm.Config{TranslateError: true, SkipDefaultTransaction: true,
		Logger: slowLog{}, NowFunc: func() time.Time { return now().UTC().Truncate(time.Microsecond) }})
	if err != nil {
		return nil, err
	}
	s, err := db.DB()
	if err != nil {
		return nil, err
	}
	// As many idle as open: the default of two idle ones closes thousands of
	// connections under load.
	s.SetMaxOpenConns(connections)
	s.SetMaxIdleConns(connections)
	s.SetConnMaxLifetime(time.Hour)
	return &Store{db: db, sql: s, now: now}, nil
}

// Close frees the connections.
func (s *Store) Close() error { return s.sql.Close() }

// Ready tells whether the database answers, takes changes, and has room for the
// temporary tables that reading needs too.
func (s *Store) Ready(ctx context.Context) error {
	c, err := s.sql.Conn(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = c.Close() }()
	var closed bool
	if err := c.QueryRowContext(ctx, "SELECT @@read_only").Scan(&closed); err != nil {
		return err
	}
	if closed {
		return errReadOnly
	}
	_, err = c.ExecContext(
		ctx,
		"CREATE OR REPLACE TEMPORARY TABLE ready (filler LONGTEXT) ENGINE=Aria AS SELECT REPEAT('x', 1 << 20) AS filler",
	)
	_, dropped := c.ExecContext(context.WithoutCancel(ctx), "DROP TEMPORARY TABLE IF EXISTS ready")
	return errors.Join(err, dropped)
}

// Statements counts the statements that the database has answered, besides those that
// begin and end transactions. It is one for all who use the database.
func (s *Store) Statements(ctx context.Context) (int, error) {
	var n sql.NullInt64
	err := s.sql.QueryRowContext(ctx, `SELECT SUM(variable_value) FROM information_schema.global_status
		WHERE variable_name IN ('COM_SELECT', 'COM_INSERT', 'COM_UPDATE', 'COM_UPDATE_MULTI', 'COM_DELETE', 'COM_INSERT_SELECT', 'COM_REPLACE')`).Scan(&n)
	return int(n.Int64), err
}

// lockMigration holds a lock of the database while migrating, so that several
// servers may start at once; it frees itself when the connection dies.
func lockMigration(ctx context.Context, c *sql.Conn) error {
	var got sql.NullInt64
	if err := c.QueryRowContext(ctx, "SELECT GET_LOCK(CONCAT(DATABASE(), ':migrate'), 60)").Scan(&got); err != nil {
		return err
	}
	if got.Int64 != 1 {
		return errors.New("another program has been migrating for a minute")
	}
	return nil
}

func unlockMigration(ctx context.Context, c *sql.Conn) {
	_, _ = c.ExecContext(ctx, "DO RELEASE_LOCK(CONCAT(DATABASE(), ':migrate'))")
}

func (s *Store) provider() (*goose.Provider, error) {
	sub, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	return goose.NewProvider(goose.DialectMySQL, s.sql, sub, goose.WithGoMigrations(s.goMigrations()...))
}

// SchemaVersion is the number of the last migration the program knows.
func SchemaVersion() (int64, error) {
	var last int64
	names, err := fs.Glob(migrations, "migrations/*.sql")
	for _, n := range names {
		v, verr := goose.NumericComponent(n)
		last, err = max(last, v), errors.Join(err, verr)
	}
	return last, err
}

// Migrate brings the schema to the program's. Every statement of it can be repeated, so
// that one which was killed goes on where it was. A newer schema is ErrSchema.
func (s *Store) Migrate(ctx context.Context) error {
	return s.migrating(ctx, func(p *goose.Provider) error {
		if have, want, err := s.schema(ctx); err != nil {
			return err
		} else if have > want {
			return newer(have, want)
		}
		done, err := p.Up(ctx)
		for _, r := range done {
			slog.Debug("migrated", "version", r.Source.Version)
		}
		if err != nil {
			return err
		}
		if err := s.eraseAgain(ctx); err != nil { // a restore that was killed may have brought some back
			return err
		}
		return s.restored(ctx) // what a restore that was killed had put in is migrated now
	})
}

// migrating runs a change of the schema while nobody else makes one.
func (s *Store) migrating(ctx context.Context, f func(*goose.Provider) error) error {
	p, err := s.provider()
	if err != nil {
		return err
	}
	// The lock is taken before goose looks at its table of versions: while another
	// server makes that table it is there and empty for a moment.
	conn, err := s.sql.Conn(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = conn.Close() }()
	if err := lockMigration(ctx, conn); err != nil {
		return err
	}
	defer unlockMigration(context.WithoutCancel(ctx), conn)
	// Goose makes its table and its first row in two steps, and goes no further when it was
	// killed between them: here both can be repeated.
	for _, q := range []string{
		"CREATE TABLE IF NOT EXISTS " + versionTable + " (id BIGINT(20) UNSIGNED NOT NULL AUTO_INCREMENT, version_id BIGINT NOT NULL, is_applied BOOLEAN NOT NULL, tstamp DATETIME NULL DEFAULT CURRENT_TIMESTAMP, PRIMARY KEY (id))",
		"INSERT INTO " + versionTable + " (version_id, is_applied) SELECT 0, TRUE FROM DUAL WHERE NOT EXISTS (SELECT 1 FROM " + versionTable + " WHERE version_id = 0)",
	} {
		if _, err := conn.ExecContext(ctx, q); err != nil {
			return err
		}
	}
	return f(p)
}

// versionTable is goose's.
const versionTable = "goose_db_version"

// schema gives the version of the database's schema, 0 for none, and of the program's.
func (s *Store) schema(ctx context.Context) (have, want int64, err error) {
	if want, err = SchemaVersion(); err != nil {
		return 0, 0, err
	}
	var there int
	err = s.sql.QueryRowContext(ctx, "SELECT COUNT(*) FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name = '"+versionTable+"'").
		Scan(&there)
	if err != nil || there == 0 {
		return 0, want, err
	}
	err = s.sql.QueryRowContext(ctx, "SELECT COALESCE(MAX(version_id), 0) FROM "+versionTable+" WHERE is_applied").
		Scan(&have)
	return have, want, err
}

func newer(have, want int64) error {
	return fmt.Errorf("%w: the database is at %d, this program knows %d only: run a newer nimbleanvil", ErrSchema,
		have, want)
}

// CheckSchema gives ErrSchema with what to run when the schema is older or newer
// than the program's.
func (s *Store) CheckSchema(ctx context.Context) error {
	have, want, err := s.schema(ctx)
	switch {
	case err != nil:
		return err
	case have < want:
		return fmt.Errorf("%w: the database is at %d, the program needs %d: run nimbleanvil migrate", ErrSchema, have,
			want)
	case have > want:
		return newer(have, want)
	}
	return nil
}

// in gives the session of a scope: every query is bound to the studio.
func (s *Store) in(ctx context.Context, sc Scope) *gorm.DB {
	return s.db.WithContext(ctx).Where("studio_id = ?", sc.StudioID)
}

// A transaction that met a deadlock or a lock wait is tried so often again, so much later.
const (
	retries = 4
	later   = 10 * time.Millisecond
)

// write runs a transaction, again when the database chose it as the victim of a
// deadlock, and when another was a moment faster with the same create: the second
// time round it is a change.
func (s *Store) write(ctx context.Context, f func(tx *gorm.DB) error) error {
	err := retry.Do(ctx, retry.WithMaxRetries(retries, retry.NewFibonacci(later)), func(ctx context.Context) error {
		err := s.transact(ctx, f)
		var my *driver.MySQLError
		if errors.Is(err, gorm.ErrDuplicatedKey) || errors.As(err, &my) && (my.Number == 1213 || my.Number == 1205) {
			return retry.RetryableError(err)
		}
		return err
	})
	return translate(err)
}

// transact runs a transaction once and notes what is known of it.
func (s *Store) transact(ctx context.Context, f func(tx *gorm.DB) error) error {
	committing := false
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		err := f(tx)
		committing = err == nil
		return err
	})
	switch {
	case err == nil:
		note(ctx, Committed)
	case committing && lost(err):
		note(ctx, Unknown)
	}
	return err
}

func translate(err error) error {
	switch {
	case errors.Is(err, gorm.ErrRecordNotFound):
		return ErrNotFound
	case errors.Is(err, gorm.ErrForeignKeyViolated):
		return ErrInUse
	case errors.Is(err, gorm.ErrDuplicatedKey):
		return ErrConflict
	}
	return err
}
