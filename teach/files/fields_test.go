package files

import (
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"

	"arplin/core/ladder"
	"arplin/format/bundle"
	"arplin/store"
)

// Every field of what is stored is in the bundle, or it is said here why not: a new one fails until
// somebody has decided.
func TestEveryFieldIsTakenAlong(t *testing.T) {
	for _, c := range []struct {
		stored, taken any
		as            map[string]string // where it is called otherwise
		not           map[string]string // why it stays behind
	}{
		{store.Student{}, bundle.Student{}, map[string]string{"ClassID": "Class"}, map[string]string{
			"ID": "the uid is its name elsewhere", "Version": "counts the saves of one account", "Joined": "the day of an account: who is taken in joins there",
			"Left": "who has left stays behind", "BeforeMinutes": "news of a week", "MinutesSince": "news of a week",
		}},
		{store.Class{}, bundle.Class{}, map[string]string{"LessonMinutes": "Minutes"}, map[string]string{
			"ID": "the uid is its name elsewhere", "Version": "counts the saves of one account", "WeightsNo": "counts the saves of one account",
		}},
		{store.Ladder{}, bundle.Ladder{}, map[string]string{"ClassID": "Class", "SongID": "Song"}, map[string]string{
			"ID": "the uid is its name elsewhere", "SongTitle": "the song has it", "Archived": "what is archived stays behind", "Version": "counts the saves of one account",
			"Moves": "undo stays with the account", "Concert": "the term has it",
		}},
		{store.Entry{}, bundle.Entry{}, map[string]string{"StudentID": "Student", "LadderID": "Ladder"}, map[string]string{"ID": "the uid is its name elsewhere"}},
		{store.HomeEntry{}, bundle.HomeEntry{}, map[string]string{"StudentID": "Student", "LadderID": "Ladder"}, map[string]string{"DrillID": "drills of a week stay with the account"}},
		{store.Take{}, bundle.Take{}, map[string]string{"StudentID": "Student", "LadderID": "Ladder"}, map[string]string{"ID": "the uid is its name elsewhere", "Bytes": "its sound has as many"}},
		{store.Pattern{}, bundle.Pattern{}, map[string]string{"Pattern": "Notation"}, map[string]string{"ID": "the uid is its name elsewhere", "Version": "counts the saves of one account"}},
		{store.Term{}, bundle.Term{}, map[string]string{"ClassID": "Class", "LadderID": "Ladder"}, map[string]string{"Version": "counts the saves of one account"}},
		{ladder.Ladder{}, ladder.Ladder{}, nil, nil}, // goes as it is
	} {
		from, to := reflect.TypeOf(c.stored), reflect.TypeOf(c.taken)
		for i := range from.NumField() {
			name := from.Field(i).Name
			if as, other := c.as[name]; other {
				name = as
			}
			_, taken := to.FieldByName(name)
			why, left := c.not[name]
			assert.True(t, taken != left, "%s.%s: in the bundle, or a reason why not (%q)", from.Name(), name, why)
		}
		for name := range c.not {
			_, there := from.FieldByName(name)
			assert.True(t, there, "%s has no %s any more", from.Name(), name)
		}
	}
}
