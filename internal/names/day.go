package names

import (
	"errors"
	"time"
)

// The days that are taken for one of a class: a year out of them is a slip of the hand,
// and the database and calendars elsewhere do not take every other one.
const (
	firstYear = 1970
	lastYear  = 2199
)

// Day reads a local day such as 2026-11-25, as midnight UTC.
func Day(text string) (time.Time, error) {
	day, err := time.Parse(time.DateOnly, text)
	if err != nil || day.Year() < firstYear || day.Year() > lastYear {
		return time.Time{}, errors.New("type a day such as 2026-11-25, from 1970 to 2199")
	}
	return day, nil
}
