package store

import "time"

// WeekOf is the Monday of a time's week, as a date in that time's place.
func WeekOf(t time.Time) time.Time {
	back := (int(t.Weekday()) + 6) % 7
	return time.Date(t.Year(), t.Month(), t.Day()-back, 0, 0, 0, 0, t.Location())
}
