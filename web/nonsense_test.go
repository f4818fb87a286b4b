package web_test

import (
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/alexedwards/argon2id"
	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/store"
	"arplin/store/ref"
	"arplin/store/storetest"
	"arplin/teach/people"
)

// Whatever stands in an address or a form, a page answers with a sentence and
// never with a fault of its own.
func TestPagesStandUpToNonsense(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "nonsense")
	values := []string{"", "0", "-1", "1", "7", "999999999999999999999", "x", "4/4: p i m a", "4/4: q", "12/8: p . . . . . . . . . . .", "own-0", "own-x", "yes", "C | ", "guitar", "lute", "\x00", "<b>", "'; --", "Verse", "1 1", "3 -1", "//elsewhere", "desk", "now", "1 move-on 1", "x 70 sc b2, y", "begin", "move", "anew", "restore", "next", "cut", "extend", "back", "end", "2026-12-01", "2027-02-01", "name,bpm\nMomo,70", "Momo, lute", "clean", "not"}
	value := rapid.SampledFrom(values)
	gets := []string{
		"/songs/%[1]d", "/songs/%[1]d/keys", "/songs/%[1]d/drill", "/patterns", "/patterns/compare", "/bench", "/level", "/ladders/%[2]d", "/ladders/%[2]d/sheet", "/class", "/class/weights", "/drills/%[3]d", "/ladders", "/songs/%[1]d/around", "/songs/%[1]d/left", "/ladders/%[2]d/step/1", "/ladders/%[2]d/beyond", "/patterns/x/around", "/archive", "/archive/song/%[1]d/export", "/account", "/account/export", "/songs/999", "/drills/x", "/", "/students/%[4]d", "/ladders/%[2]d/sheets", "/lesson", "/lesson/live", "/students/%[4]d/week", "/students/%[4]d/placement", "/term", "/term/tried", "/term/series", "/term.ics", "/class/%[5]d/log.csv", "/tune", "/tones", "/songs/%[1]d/file?as=midi", "/files", "/files/bundle.zip", "/files/schema.json", "/patterns/read", "/class/%[5]d/register.csv", "/ladders/%[2]d/step/1/file?as=text", "/songs/%[1]d/melody", "/songs/%[1]d/melody/score", "/bench/score", "/songs/%[1]d/score", "/songs/%[1]d/drill/score", "/drills/%[3]d/score", "/patterns/thumb-once/score", "/ladders/%[2]d/step/1/score", "/ladders/%[2]d/together", "/ladders/%[2]d/grow", "/ladders/%[2]d/grow/score", "/ladders/%[2]d/grow/sheet", "/ladders/%[2]d/together/1",
	}
	posts := []string{
		"/songs/%[1]d/edit", "/songs/%[1]d/drill", "/songs/%[1]d/undo", "/ladders", "/ladders/%[2]d/edit", "/ladders/%[2]d/grow", "/ladders/%[2]d/place", "/archive/song/%[1]d/delete", "/archive/x/1", "/class/choose", "/stage", "/ladders/%[2]d/reuse", "/bench", "/patterns", "/log", "/log/1/withdraw", "/students/%[4]d", "/class/%[5]d", "/drills/%[3]d/withdraw", "/patterns/x/song", "/class/%[5]d/weights", "/decisions", "/ladders/%[2]d/progress", "/ladders/%[2]d/undo", "/lesson/register", "/lesson/minutes", "/lesson/move", "/term", "/class/%[5]d/list", "/class/%[5]d/log", "/students/%[4]d/note", "/students/%[4]d/leave", "/students/%[4]d/move", "/drills/%[3]d/done", "/drills/%[3]d/log", "/class",
	}
	names := []string{"instrument", "pattern", "chord", "bar", "kind", "minutes", "student", "step", "deep", "notation", "song", "part", "order", "op", "at", "text", "words", "section", "version", "do", "with", "at_bar", "at_slot", "at_stroke", "name", "line", "tempo", "from", "copy", "a", "b", "meter", "family", "ghosts", "day_minutes", "place", "all", "touch", "class", "back", "stage", "ladder", "beside", "decision", "to", "more", "away", "border", "by", "do", "begins", "concert", "list", "csv", "note", "capo", "heard0", "heard1", "key", "weeks", "feel", "chords", "exercise", "on", "midi", "of", "as", "station", "put", "pass", "group", "grow"}
	rapid.Check(t, func(rt *rapid.T) {
		fields := url.Values{}
		for range rapid.IntRange(0, 6).Draw(rt, "fields") {
			fields.Set(rapid.SampledFrom(names).Draw(rt, "name"), value.Draw(rt, "value"))
		}
		var res *http.Response
		var body string
		path := ""
		if rapid.Bool().Draw(rt, "a form") {
			path = id.in(rapid.SampledFrom(posts).Draw(rt, "post"))
			res, body = b.post(path, fields)
		} else {
			path = id.in(rapid.SampledFrom(gets).Draw(rt, "get")) + "?" + fields.Encode()
			res, body = b.get(path)
		}
		assert.Less(rt, res.StatusCode, 500, "%s %v", path, fields)
		assert.NotContains(rt, body, "executing &#34;", "a template gave up: %s %v", path, fields)
		assert.NotContains(rt, body, "goroutine", "a stack trace: %s", path)
	})
}

// ids are those of a school of the test's own, which it may turn upside down.
type ids struct {
	song    ref.Song
	ladder  ref.Ladder
	drill   ref.Drill
	student ref.Student
	class   ref.Class
	bars    []song.BarID
	steps   []ladder.StepID
	teacher ref.Teacher
}

func (id ids) in(path string) string {
	if !strings.Contains(path, "%") {
		return path
	}
	path, _, _ = strings.Cut(fmt.Sprintf(path, id.song, id.ladder, id.drill, id.student, id.class), "%!")
	return path
}

// ownSchool is a browser of a teacher who has one of everything.
func ownSchool(t testing.TB, name string) (b *browser, id ids) {
	t.Helper()
	signedIn(t) // the demo comes first: other tests know its numbers
	s, ctx := storetest.Open(t), t.Context()
	hash, err := argon2id.CreateHash("nonsense all over", people.Hashing)
	require.NoError(t, err)
	teacher, err := s.AddTeacher(ctx, name+"@arplin.test", "Nobody", hash)
	require.NoError(t, err)
	id.class, err = s.AddClass(ctx, teacher, store.Class{Name: "Upside down", LessonMinutes: 45, Fingers: "moving"})
	require.NoError(t, err)
	id.student, err = s.AddStudent(ctx, teacher, store.Student{ClassID: id.class, Name: "Momo", Instrument: "ukulele"})
	require.NoError(t, err)
	p := pattern.MustParse("4/4: p . p'+m . p i p' .")
	bars, err := song.ParseChords("C | Am | F | G7", p.Meter)
	require.NoError(t, err)
	id.song, err = s.AddSong(ctx, teacher, song.Song{Title: "Upside", Meter: p.Meter, Tempo: 80, Sections: []song.Section{{Name: "Verse", Bars: bars}}})
	require.NoError(t, err)
	steps := []ladder.Step{{Pattern: pattern.MustParse("4/4: p . . ."), Over: ladder.OneChord}, {Pattern: p, Over: ladder.AllChords}}
	id.ladder, err = s.AddLadder(ctx, teacher, store.Ladder{ClassID: id.class, SongID: id.song, PatternName: "Thumb", Target: p, Ladder: ladder.Ladder{Steps: steps}})
	require.NoError(t, err)
	sg, err := s.Song(ctx, teacher, id.song)
	require.NoError(t, err)
	for _, bar := range sg.Bars() {
		id.bars = append(id.bars, bar.ID)
	}
	on, err := s.Ladder(ctx, teacher, id.ladder)
	require.NoError(t, err)
	for _, step := range on.Steps {
		id.steps = append(id.steps, step.ID)
	}
	id.teacher = teacher
	id.drill, err = s.AddDrill(ctx, teacher, store.WeekDrill{StudentID: id.student, SongID: id.song, Week: time.Now(), Kind: "bar", Bar: id.bars[1], Pattern: p, PatternName: "Thumb", Minutes: 5})
	require.NoError(t, err)
	b = browserWith(t, s, 1000)
	b.get("/signin")
	res, _ := b.post("/signin", url.Values{"email": {name + "@arplin.test"}, "password": {"nonsense all over"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	b.get("/account")
	return b, id
}
