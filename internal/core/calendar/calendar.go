// Package calendar turns the local day and time of a class into an instant. A class keeps
// its day, time and zone, so that it keeps its hour when clocks change.
package calendar

import (
	"fmt"
	"time"
)

// Clock is the layout of a local time of day.
const Clock = "15:04"

// Day gives the local day of an instant, as midnight UTC.
func Day(t time.Time) time.Time {
	return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC)
}

// Instant gives the instant of a local day and time of day, such as 18:30, in a zone. A
// time that comes twice when clocks go back is the first of the two; one that is skipped
// when they go forward is read by the offset before the change, so that a class at 02:30
// starts at what the clocks then call 03:30 (RFC 5545, section 3.3.5). An error says that
// the time of day is none.
func Instant(day time.Time, clock string, zone *time.Location) (time.Time, error) {
	at, err := time.Parse(Clock, clock)
	if err != nil {
		return time.Time{}, fmt.Errorf("%q is no time such as 18:30", clock)
	}
	// Two offsets come into question: that of the day before and that of the day after.
	wall := time.Date(day.Year(), day.Month(), day.Day(), at.Hour(), at.Minute(), 0, 0, time.UTC)
	before := wall.Add(-offset(wall.Add(-24*time.Hour), zone)).In(zone)
	after := wall.Add(-offset(wall.Add(24*time.Hour), zone)).In(zone)
	if !shows(before, wall) && shows(after, wall) {
		return after, nil
	}
	return before, nil
}

func offset(t time.Time, zone *time.Location) time.Duration {
	_, seconds := t.In(zone).Zone()
	return time.Duration(seconds) * time.Second
}

// shows tells whether clocks at an instant show a day and time.
func shows(t, wall time.Time) bool {
	return t.Day() == wall.Day() && t.Hour() == wall.Hour() && t.Minute() == wall.Minute()
}

// Date is a local day by its number from the first of January 1970; written as 2026-11-25.
type Date int

// DateOf gives the day that a time stands on.
func DateOf(t time.Time) Date { return Date(Day(t).Unix() / (24 * 60 * 60)) }

// Time gives a day as midnight UTC.
func (d Date) Time() time.Time { return time.Unix(int64(d)*24*60*60, 0).UTC() }

// String writes a day.
func (d Date) String() string { return d.Time().Format(time.DateOnly) }

// MarshalText writes a day.
func (d Date) MarshalText() ([]byte, error) { return []byte(d.String()), nil }

// UnmarshalText reads a day; the error says what is none.
func (d *Date) UnmarshalText(b []byte) error {
	t, err := time.Parse(time.DateOnly, string(b))
	if err != nil {
		return fmt.Errorf("%q is no day such as 2026-11-25", b)
	}
	*d = DateOf(t)
	return nil
}
