package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"slices"
	"strings"

	driver "github.com/go-sql-driver/mysql"
)

// Numbers of the server's own errors, by what they mean for whoever asked.
var (
	away     = []uint16{1040, 1053, 1205, 1213, 1927, 3100} // too many connections, shutdown, lock, killed
	noRoom   = []uint16{1021, 1026, 1114}                   // disk full, error on write, table full
	readOnly = []uint16{1036, 1290, 1792, 1836}             // table, server, transaction, engine read-only
)

// Away tells whether an error means that the database cannot be reached now, so
// that the same request may succeed in a moment.
func Away(err error) bool {
	var my *driver.MySQLError
	if errors.As(err, &my) {
		return slices.Contains(away, my.Number)
	}
	var timeout interface{ Timeout() bool }
	return errors.Is(err, driver.ErrInvalidConn) || errors.Is(err, sql.ErrConnDone) ||
		errors.Is(err, context.DeadlineExceeded) ||
		errors.As(err, &timeout)
}

// NoRoom tells whether the database could not write for want of room.
func NoRoom(err error) bool {
	var my *driver.MySQLError
	if !errors.As(err, &my) {
		return false
	}
	// A file that cannot be written tells the system's number: 28 is ENOSPC.
	return slices.Contains(noRoom, my.Number) || strings.Contains(my.Message, "rrcode: 28") ||
		strings.Contains(my.Message, "rrno: 28")
}

var errReadOnly = &driver.MySQLError{Number: 1290, Message: "the database is read-only"}

// ReadOnly tells whether the database answers and takes no changes.
func ReadOnly(err error) bool { return numbered(err, readOnly) }

func numbered(err error, list []uint16) bool {
	var my *driver.MySQLError
	return errors.As(err, &my) && slices.Contains(list, my.Number)
}

// Cause is what may be logged of an error. A database quotes what it was given in many of
// its messages, and that is a person's business: of those only the number stays; the
// messages about the database's own state stay whole.
func Cause(err error) string {
	var my *driver.MySQLError
	if !errors.As(err, &my) || Away(err) || NoRoom(err) || ReadOnly(err) {
		return err.Error()
	}
	return strings.ReplaceAll(err.Error(), my.Error(),
		fmt.Sprintf("error %d (%s) of the database", my.Number, my.SQLState[:]))
}
