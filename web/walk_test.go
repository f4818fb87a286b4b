package web_test

import (
	"fmt"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/difficulty"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/store"
	"arplin/store/storetest"
)

// Every route that takes an id answers 404 to the id of another teacher’s row, and changes
// nothing. A new route is walked without being named here; one whose id is of a new kind
// fails until its kind is known.
func TestOtherTeachersIdsAreNotThere(t *testing.T) {
	t.Parallel()
	_, theirs := ownSchool(t, "walk-theirs")
	b, mine := ownSchool(t, "walk-mine")
	s, ctx := storetest.Open(t), t.Context()
	on, err := s.Ladder(ctx, theirs.teacher, theirs.ladder)
	require.NoError(t, err)
	entry, err := s.AddEntry(ctx, theirs.teacher, store.Entry{StudentID: theirs.student, LadderID: theirs.ladder, Step: on.Steps[0], Tempo: 60, At: time.Now()}, "walk-entry-000001")
	require.NoError(t, err)
	require.NoError(t, s.KeepTake(ctx, theirs.teacher, store.Take{StudentID: theirs.student, Tempo: 60, At: time.Now()}, []byte("fLaC")))
	kept, err := s.Takes(ctx, theirs.teacher, theirs.class, 0)
	require.NoError(t, err)
	own, err := s.AddPattern(ctx, theirs.teacher, "Theirs", pattern.MustParse("4/4: p . . ."))
	require.NoError(t, err)
	ids := map[string]int64{"class": int64(theirs.class), "students": int64(theirs.student), "songs": int64(theirs.song), "ladders": int64(theirs.ladder), "drills": int64(theirs.drill), "log": int64(entry), "takes": int64(kept[0].ID)}
	kinds := map[string]int64{"class": int64(theirs.class), "student": int64(theirs.student), "song": int64(theirs.song), "ladder": int64(theirs.ladder), "pattern": int64(own)}
	before := everything(t, s, theirs)

	walked := 0
	for _, route := range b.app.GetRoutes(true) {
		if !strings.Contains(route.Path, ":") || route.Method == fiber.MethodHead {
			continue
		}
		room := strings.Split(route.Path, "/")[1]
		var paths []string
		switch id, known := ids[room]; {
		case room == "archive":
			for kind, id := range kinds {
				paths = append(paths, strings.NewReplacer(":kind", kind, ":id", fmt.Sprint(id)).Replace(route.Path))
			}
		case strings.Contains(route.Path, ":ref"):
			paths = []string{strings.Replace(route.Path, ":ref", fmt.Sprintf("own-%d", own), 1)}
		case strings.Contains(route.Path, ":secret"): // not an id: 128 bits that nobody guesses
			paths = []string{strings.Replace(route.Path, ":secret", strings.Repeat("A", 22), 1)}
		case room == "help": // nobody's
			continue
		case known:
			paths = []string{strings.NewReplacer(":id", fmt.Sprint(id), ":step", fmt.Sprint(theirs.steps[0])).Replace(route.Path)}
		default:
			t.Fatalf("%s has an id of a kind that this test does not know", route.Path)
		}
		for _, path := range paths {
			fields := url.Values{"version": {"1"}, "name": {"Eve"}, "instrument": {"guitar"}, "list": {"Eve"}, "csv": {"name,bpm\nMomo,60"}, "note": {"x"}, "to": {fmt.Sprint(mine.class)}, "progress": {"now"},
				"minutes": {"45"}, "fingers": {"moving"}, "sing_low": {"A3"}, "sing_high": {"D5"}, "song": {fmt.Sprint(mine.song)}, "student": {fmt.Sprint(mine.student)}, "bar": {fmt.Sprint(theirs.bars[0])}, "notation": {"4/4: p . . ."},
				"text": {"Upside"}, "place": {fmt.Sprintf("%d %d", theirs.student, theirs.steps[0])}, "op": {"pin"}, "step": {fmt.Sprint(theirs.steps[0])}, "pattern_name": {"Thumb"}}
			if strings.HasSuffix(path, "/weights") {
				for _, part := range difficulty.Definitions() {
					fields.Set(string(part.ID), "1")
				}
			}
			if room == "songs" {
				fields.Set("op", "title")
			}
			if route.Method == fiber.MethodGet {
				res, body := b.send(httptest.NewRequest(route.Method, path, nil))
				assert.Equal(t, fiber.StatusNotFound, res.StatusCode, "%s %s: %.200s", route.Method, path, body)
			} else {
				res, body := b.post(path, fields)
				assert.Equal(t, fiber.StatusNotFound, res.StatusCode, "%s %s: %s", route.Method, path, regexp.MustCompile(`(?s).*data-problem>([^<]*)<.*`).ReplaceAllString(body, "$1"))
			}
			walked++
		}
	}
	require.Greater(t, walked, 60)

	// Ids that a form carries.
	their := func(id any) []string { return []string{fmt.Sprint(id)} }
	for path, fields := range map[string]url.Values{
		"/class/choose":    {"class": their(theirs.class)},
		"/log":             {"class": their(theirs.class), "line": {"momo 60"}},
		"/log?":            {"ladder": their(theirs.ladder), "line": {"momo 60"}},
		"/decisions":       {"class": their(theirs.class), "ladder": their(theirs.ladder), "decision": {fmt.Sprintf("%d move-on %d", theirs.student, theirs.steps[0])}},
		"/lesson/register": {"class": their(theirs.class), "student": their(theirs.student), "away": {"yes"}},
		"/lesson/minutes":  {"class": their(theirs.class), "minutes": {"30"}},
		"/lesson/move":     {"class": their(theirs.class), "do": {"begin"}},
		"/term":            {"class": their(theirs.class), "ladder": their(theirs.ladder), "begins": {"2026-12-01"}, "concert": {"2027-02-01"}, "version": {"0"}},
		"/term?":           {"class": their(mine.class), "ladder": their(theirs.ladder), "begins": {"2026-12-01"}, "concert": {"2027-02-01"}, "version": {"0"}},
		"/ladders":         {"song": their(theirs.song), "pattern": {"thumb-once"}, "order": {string(order.ThumbFirst)}},
		fmt.Sprintf("/students/%d/move", mine.student): {"to": their(theirs.class)},
	} {
		res, body := b.post(path, fields)
		assert.Equal(t, fiber.StatusNotFound, res.StatusCode, "%s %v: %.200s", path, fields, body)
	}
	choices, _ := b.get(fmt.Sprintf("/ladders/choices?song=%d&pattern=thumb-once", theirs.song))
	assert.Equal(t, fiber.StatusNotFound, choices.StatusCode, "how a ladder of someone else's song is built")
	res, body := b.post("/lesson/register", url.Values{"student": their(theirs.student), "away": {"yes"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, "%.200s", body)
	assert.Equal(t, before, everything(t, s, theirs), "nothing of theirs has changed")
}

// everything is what a teacher has, as far as a stranger would change it.
func everything(t *testing.T, s *store.Store, id ids) string {
	t.Helper()
	ctx := t.Context()
	things, err := s.Everything(ctx, id.teacher)
	require.NoError(t, err)
	students, err := s.AllStudents(ctx, id.teacher, id.class)
	require.NoError(t, err)
	log, err := s.LogOf(ctx, id.teacher, id.class, time.Unix(0, 0))
	require.NoError(t, err)
	l, err := s.Ladder(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	sg, err := s.Song(ctx, id.teacher, id.song)
	require.NoError(t, err)
	class, err := s.Class(ctx, id.teacher, id.class)
	require.NoError(t, err)
	lessons, err := s.Lessons(ctx, id.teacher, id.class, 5, time.Now())
	require.NoError(t, err)
	places, err := s.Placements(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	return fmt.Sprintf("%v %+v %+v %d %v %d %+v %v %v", things, students, log, l.Version, l.Progress, sg.Version, class, lessons, places)
}
