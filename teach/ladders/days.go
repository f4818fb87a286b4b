package ladders

import (
	"time"

	"arplin/core/practice"
	"arplin/store"
	"arplin/store/ref"
)

// TriesOf parts entries by student.
func TriesOf(entries []store.Entry) map[ref.Student][]store.Entry {
	of := map[ref.Student][]store.Entry{}
	for _, e := range entries {
		of[e.StudentID] = append(of[e.StudentID], e)
	}
	return of
}

// DayOf is the day of the practice model, where the program runs: an evening is one day,
// also where midnight in Greenwich falls into it.
func DayOf(at time.Time) int {
	y, m, d := at.Local().Date()
	return int(time.Date(y, m, d, 0, 0, 0, 0, time.UTC).Unix() / (24 * 60 * 60))
}

// DateOf is the date of a day of the practice model.
func DateOf(day int) time.Time { return time.Unix(int64(day)*24*60*60, 0).UTC() }

// ConcertDay is the day of the ladder's concert as the practice model counts, 0 for none.
func (l Ladder) ConcertDay() int {
	if l.Concert.IsZero() {
		return 0
	}
	return int(l.Concert.Unix() / (24 * 60 * 60))
}

// TryOf is an entry of the log as the practice model takes it.
func (l Ladder) TryOf(e store.Entry) practice.Try {
	return practice.Try{ID: int64(e.ID), Day: DayOf(e.At), Tempo: e.Tempo, Clean: !e.Failed, Fault: e.Fault, Bar: l.Song.NumberOf(e.Bar), Taken: e.Taken}
}

// EntryIDs are the entries of a log by which what was made from them is known again: an entry never
// changes once it is stored.
func EntryIDs(entries []store.Entry) []ref.Entry {
	ids := make([]ref.Entry, len(entries))
	for i, e := range entries {
		ids[i] = e.ID
	}
	return ids
}
