package calendar

import (
	"testing"
	"time"
	_ "time/tzdata"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Sources: the IANA time zone database for the dates of the changes (Europe: last Sunday
// of March and October, 01:00 UTC; United States: second Sunday of March and first of
// November, 02:00 local; Lord Howe: half an hour, 02:00 local; Samoa skipped 30 December
// 2011), RFC 5545 section 3.3.5 for times that are skipped or come twice. From memory.
func TestInstantReference(t *testing.T) {
	for _, x := range []struct{ zone, day, clock, utc string }{
		{"Europe/Berlin", "2026-11-25", "18:30", "2026-11-25T17:30:00Z"},
		{"Europe/Berlin", "2026-07-01", "18:30", "2026-07-01T16:30:00Z"},
		{"Europe/Berlin", "2026-03-29", "01:59", "2026-03-29T00:59:00Z"},
		{"Europe/Berlin", "2026-03-29", "02:00", "2026-03-29T01:00:00Z"}, // skipped: 03:00 summer time
		{"Europe/Berlin", "2026-03-29", "02:30", "2026-03-29T01:30:00Z"}, // skipped: 03:30
		{"Europe/Berlin", "2026-03-29", "03:00", "2026-03-29T01:00:00Z"},
		{"Europe/Berlin", "2026-10-25", "01:30", "2026-10-24T23:30:00Z"},
		{"Europe/Berlin", "2026-10-25", "02:30", "2026-10-25T00:30:00Z"}, // twice: the first
		{"Europe/Berlin", "2026-10-25", "03:00", "2026-10-25T02:00:00Z"},
		{"America/New_York", "2026-03-08", "02:30", "2026-03-08T07:30:00Z"},
		{"America/New_York", "2026-11-01", "01:30", "2026-11-01T05:30:00Z"},
		{"America/New_York", "2026-11-01", "18:00", "2026-11-01T23:00:00Z"},
		{"Australia/Lord_Howe", "2026-10-04", "02:15", "2026-10-03T15:45:00Z"}, // half an hour is skipped
		{"Australia/Lord_Howe", "2026-04-05", "01:45", "2026-04-04T14:45:00Z"}, // half an hour comes twice
		{"Asia/Kathmandu", "2026-01-01", "06:00", "2026-01-01T00:15:00Z"},
		{"Pacific/Apia", "2011-12-30", "09:00", "2011-12-30T19:00:00Z"}, // the day was skipped
		{"Pacific/Kiritimati", "2026-06-01", "00:00", "2026-05-31T10:00:00Z"},
		{"UTC", "2026-06-01", "23:59", "2026-06-01T23:59:00Z"},
	} {
		zone, err := time.LoadLocation(x.zone)
		require.NoError(t, err)
		day, err := time.Parse(time.DateOnly, x.day)
		require.NoError(t, err)
		got, err := Instant(day, x.clock, zone)
		require.NoError(t, err)
		assert.Equal(t, x.utc, got.UTC().Format(time.RFC3339), "%s %s %s", x.zone, x.day, x.clock)
	}
	_, err := Instant(time.Time{}, "25:00", time.UTC)
	assert.ErrorContains(t, err, "18:30")
}

// A weekly class keeps its hour through a year of any zone, but for the weeks in which
// its hour does not exist, and its weeks never change their order.
func TestWeeklyClassKeepsItsHour(t *testing.T) {
	zones := []string{"Europe/Berlin", "America/New_York", "Australia/Lord_Howe", "America/St_Johns", "Africa/Casablanca", "Asia/Tokyo", "Pacific/Chatham"}
	rapid.Check(t, func(t *rapid.T) {
		zone, err := time.LoadLocation(rapid.SampledFrom(zones).Draw(t, "zone"))
		require.NoError(t, err)
		day := time.Date(rapid.IntRange(1990, 2035).Draw(t, "year"), 1, rapid.IntRange(1, 7).Draw(t, "day"), 0, 0, 0, 0, time.UTC)
		clock := time.Date(0, 1, 1, rapid.IntRange(0, 23).Draw(t, "hour"), rapid.IntRange(0, 59).Draw(t, "minute"), 0, 0, time.UTC).Format(Clock)
		last := time.Time{}
		moved := 0
		for range 53 {
			at, err := Instant(day, clock, zone)
			require.NoError(t, err)
			if at.Format(Clock) != clock {
				moved++
			}
			if !last.IsZero() && at.Sub(last) < 6*24*time.Hour {
				t.Fatalf("%s to %s", last, at)
			}
			last, day = at, day.AddDate(0, 0, 7)
		}
		if moved > 3 {
			t.Fatalf("%d weeks at another hour than %s", moved, clock)
		}
	})
}
