package web_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/practice"
	"arplin/core/say"
	"arplin/store"
	"arplin/store/ref"
	"arplin/store/storetest"
)

// year is what a class has behind it after one: a new song each eight lessons, four tries of each student
// in each of forty lessons, the holidays without any.
type year struct {
	gone, back ref.Student // who left, and who left and came back
	entries    int
}

const lessonsOfYear = 40

// aYear gives a class of ten a year, or the first lessons of it: two leave in spring, one of them comes back in summer.
func aYear(t testing.TB, id ids, lessons int) (y year) {
	t.Helper()
	s, ctx := storetest.Open(t), t.Context()
	students := []ref.Student{id.student}
	for _, name := range []string{"Nele", "Otis", "Pim", "Quinn", "Rosa", "Sam", "Tove", "Ulla", "Vito"} {
		st, err := s.AddStudent(ctx, id.teacher, store.Student{ClassID: id.class, Name: name, Instrument: "guitar", DayMinutes: 15})
		require.NoError(t, err)
		students = append(students, st)
	}
	y.gone, y.back = students[8], students[9]
	var steps []ladder.Step
	for _, p := range []string{"4/4: p . . .", "4/4: p . p .", "4/4: p p p p", "4/4: p . p' .", "4/4: p . p'+m .", "4/4: p . p'+m . p i p' ."} {
		steps = append(steps, ladder.Step{Pattern: pattern.MustParse(p), Over: ladder.OneChord, Level: 1.5 + float64(len(steps))})
	}
	l, err := s.AddLadder(ctx, id.teacher, store.Ladder{ClassID: id.class, SongID: id.song, PatternName: "The year", Target: steps[5].Pattern, Ladder: ladder.Ladder{Steps: steps}})
	require.NoError(t, err)
	on, err := s.Ladder(ctx, id.teacher, l)
	require.NoError(t, err)
	now := time.Now()
	for n := range lessons {
		week := lessons - n + (lessons-n)/4 // a week without a lesson after each four, more or less
		at := now.AddDate(0, 0, -7*week)
		step := on.Steps[min(5, n/7)]
		if n%7 == 0 {
			var kept []store.Decision
			places := store.Places{}
			for _, st := range students {
				places[st] = step.ID
				if n > 0 {
					kept = append(kept, store.Decision{StudentID: st, LadderID: l, Step: on.Steps[min(5, n/7)-1].ID, To: step.ID, Kind: practice.MoveOn, Why: say.Of("by-you"), At: at})
				}
			}
			_, _, err := s.Place(ctx, id.teacher, l, places, kept...)
			require.NoError(t, err)
		}
		lesson, err := s.NextLesson(ctx, id.teacher, id.class, at)
		require.NoError(t, err)
		lesson.Minutes, lesson.Began, lesson.Ended, lesson.Body, lesson.PieceAt = 45, at, at.Add(45*time.Minute), `{"plan":{}}`, at
		require.NoError(t, s.SaveLesson(ctx, id.teacher, lesson))
		var sent []store.Sent
		for k, st := range students {
			if k >= 8 && n >= 20 && (k == 8 || n < 30) { // left
				continue
			}
			if (n+k)%9 == 0 {
				require.NoError(t, s.SetAway(ctx, id.teacher, lesson.ID, st, true))
				continue
			}
			for try := range 4 {
				e := store.Entry{StudentID: st, LadderID: l, Step: step, Tempo: 50 + n%7*4 + try, Failed: (n+k+try)%5 == 0, At: at.Add(time.Duration(try) * time.Minute)}
				sent = append(sent, store.Sent{Entry: e, ClientID: fmt.Sprintf("year-%d-%d-%d-%d", id.class, n, k, try)})
			}
		}
		_, err = s.AddEntries(ctx, id.teacher, sent)
		require.NoError(t, err)
		y.entries += len(sent)
		if n == 20 {
			require.NoError(t, s.SetLeft(ctx, id.teacher, y.gone, at))
			require.NoError(t, s.SetLeft(ctx, id.teacher, y.back, at))
		}
		if n == 30 {
			require.NoError(t, s.SetLeft(ctx, id.teacher, y.back, time.Time{}))
		}
	}
	return y
}

// After a year every page of the class still says something true: who is there, who has left, who came
// back, how many came.
func TestAfterAYear(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "year")
	y := aYear(t, id, lessonsOfYear)
	assert.InDelta(t, 1400, y.entries, 200)
	for _, path := range []string{"/", "/lesson", "/term", "/class", id.in("/class/%[5]d/attendance"), fmt.Sprintf("/students/%d", y.back), fmt.Sprintf("/students/%d/week", y.back), "/ladders", id.in("/students/%[4]d"), "/term.ics", id.in("/class/%[5]d/log.csv"), id.in("/class/%[5]d/register.csv")} {
		res, body := b.get(path)
		assert.Equal(t, fiber.StatusOK, res.StatusCode, path)
		assert.NotContains(t, body, "omebody who has left", path)
	}
	_, desk := b.get("/")
	assert.Contains(t, desk, "Vito", "who came back stands on the desk")
	assert.NotContains(t, desk, "Ulla", "who left does not")
	_, class := b.get("/class")
	assert.Contains(t, class, "1 student has left")
	_, attended := b.get(id.in("/class/%[5]d/attendance"))
	assert.Contains(t, attended, "40 lessons, the newest first")
	assert.Contains(t, attended, " of 40</td>")
	_, lesson := b.get("/lesson")
	assert.Contains(t, lesson, "review", "it is not a first lesson")
	_, term := b.get("/term")
	assert.Contains(t, term, "steps took", "the pace is the one of the year")
}

// BenchmarkAYear is a class's pages in the first week and after a year.
func BenchmarkAYear(b *testing.B) {
	for _, after := range []bool{false, true} {
		name := map[bool]string{false: "first week", true: "after a year"}[after]
		br, id := ownSchool(b, fmt.Sprint("bench-year-", time.Now().UnixNano()))
		lessons := 1
		if after {
			lessons = lessonsOfYear
		}
		aYear(b, id, lessons)
		for _, path := range []string{"/", "/lesson", "/term", id.in("/students/%[4]d"), id.in("/class/%[5]d/attendance")} {
			b.Run(name+path, func(b *testing.B) {
				defer reportCPU(b)()
				for b.Loop() {
					br.direct(path, "", fiber.StatusOK)
				}
			})
		}
	}
}
