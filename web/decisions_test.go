package web_test

import (
	"fmt"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/say"
	"arplin/store"
	"arplin/store/ref"
	"arplin/store/storetest"
)

// Several tempos in one line, one of them not clean, names without their accents; taking
// it back takes all of it back.
func TestSeveralTempos(t *testing.T) {
	b, id := ownSchool(t, "several")
	s, ctx := storetest.Open(t), t.Context()
	zoe, err := s.AddStudent(ctx, id.teacher, store.Student{ClassID: id.class, Name: "Zoë", Instrument: "guitar"})
	require.NoError(t, err)
	_, _, err = s.Place(ctx, id.teacher, id.ladder, store.Places{id.student: id.steps[0], zoe: id.steps[1]})
	require.NoError(t, err)
	b.get("/")
	res, body := b.post("/log", url.Values{"line": {"momo 60, zoe 55 x, max 3"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, body)
	res, body = b.post("/log", url.Values{"student": {fmt.Sprint(id.student)}, "tempo": {" "}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "Write one tempo here, such as &#34;72&#34;.")
	res, _ = b.post("/log", url.Values{"line": {"momo 60, zoe 55 x 10m Stiff"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, body = b.get("/")
	assert.Contains(t, body, "Momo: 60, clean, on step 1; Zoë: 55, not clean, 10 minutes, on step 2.")
	entries, err := s.Entries(ctx, id.teacher, id.class, time.Now().Add(-time.Hour))
	require.NoError(t, err)
	require.Len(t, entries, 2, "nothing of the line that could not be read")
	assert.True(t, entries[1].Failed)
	_, page := b.get(fmt.Sprintf("/students/%d", zoe))
	assert.Contains(t, page, "not clean, 10 minutes: Stiff", "a remark stays as it was written")
	undo := regexp.MustCompile(`action="(/log/\d+/withdraw\?[^"]+)"`).FindStringSubmatch(body)
	require.NotNil(t, undo)
	b.post(strings.ReplaceAll(undo[1], "&amp;", "&"), url.Values{})
	entries, err = s.Entries(ctx, id.teacher, id.class, time.Now().Add(-time.Hour))
	require.NoError(t, err)
	assert.Empty(t, entries, "both are taken back")
}

// Three times clean at the goal on two days: the desk proposes the next step, one click
// takes it, and what was decided is kept with its reason.
func TestADecisionOnTheDesk(t *testing.T) {
	b, id := ownSchool(t, "decisions")
	s, ctx := storetest.Open(t), t.Context()
	_, _, err := s.Place(ctx, id.teacher, id.ladder, store.Places{id.student: id.steps[0]})
	require.NoError(t, err)
	l, err := s.Ladder(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	add := func(days, tempo int, failed bool) {
		_, err := s.AddEntry(ctx, id.teacher, store.Entry{StudentID: id.student, LadderID: id.ladder, Step: l.Steps[0], Tempo: tempo, Failed: failed, At: time.Now().AddDate(0, 0, -days)}, fmt.Sprintf("decided-%d-%d-%v", days, tempo, failed))
		require.NoError(t, err)
	}
	add(7, 84, false)
	add(7, 85, false)
	_, body := b.get("/")
	assert.Contains(t, body, "ready after 3 times on 2 days")
	assert.NotContains(t, body, "who is ready")
	add(0, 86, false)
	_, body = b.get("/")
	assert.Contains(t, body, "Move up Momo")
	assert.Contains(t, body, "clean 3 times at")
	form := url.Values{"class": {id.in("%[5]d")}, "ladder": {id.in("%[2]d")}, "decision": {fmt.Sprintf("%d move-on %d", id.student, l.Steps[0].ID)}}
	res, answer := b.post("/decisions", form)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, answer)
	res, answer = b.post("/decisions", form)
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, "sent twice")
	assert.Contains(t, answer, "already decided")
	places, err := s.Placements(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	assert.Equal(t, l.Steps[1].ID, places[id.student])
	kept, err := s.Decisions(ctx, id.teacher, id.student)
	require.NoError(t, err)
	require.Len(t, kept, 1)
	assert.Equal(t, say.ID("move-on"), kept[0].Why.ID)
	_, body = b.get("/")
	assert.Contains(t, body, "Momo is on step 2 now.")
	assert.NotContains(t, body, "at goal", "a new step starts without a tempo")
	_, page := b.get(id.in("/students/%[4]d"))
	assert.Contains(t, page, "<b>moved up to step 2</b>")
	assert.Contains(t, page, "clean 3 times at")
	assert.Contains(t, page, "nothing logged yet", "step 2 is new")
	undo := regexp.MustCompile(`action="(/ladders/\d+/undo\?back=desk[^"]*)"[^>]*>.*?name="version" value="(\d+)"`).FindStringSubmatch(body)
	require.NotNil(t, undo)
	res, answer = b.fragment(strings.ReplaceAll(undo[1], "&amp;", "&"), url.Values{"version": {"1"}})
	assert.Equal(t, fiber.StatusConflict, res.StatusCode, "an older page")
	assert.Contains(t, answer, `id="log"`, "the desk stays the desk")
	assert.NotContains(t, answer, `id="stairs"`)
	b.post(strings.ReplaceAll(undo[1], "&amp;", "&"), url.Values{"version": {undo[2]}})
	places, err = s.Placements(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	assert.Equal(t, l.Steps[0].ID, places[id.student])
	_, page = b.get(id.in("/students/%[4]d"))
	assert.Contains(t, page, "<s>moved up to step 2</s>", "what was undone is not what was decided")
	stands, err := s.DecisionsOf(ctx, id.teacher, id.class, time.Now().AddDate(0, 0, -1))
	require.NoError(t, err)
	assert.Empty(t, stands)
	b.move(id.in("/ladders/%[2]d"), "redo")
	b.get(id.in("/ladders/%[2]d"))
	b.move(id.in("/ladders/%[2]d"), "redo")
	stands, err = s.DecisionsOf(ctx, id.teacher, id.class, time.Now().AddDate(0, 0, -1))
	require.NoError(t, err)
	assert.Len(t, stands, 1, "done again")
	b.get(id.in("/ladders/%[2]d"))
	b.move(id.in("/ladders/%[2]d"), "undo")

	_, body = b.get("/")
	assert.Contains(t, body, "Move up Momo")
	res, answer = b.fragment("/decisions", url.Values{"class": {id.in("%[5]d")}, "ladder": {id.in("%[2]d")}, "decision": {fmt.Sprintf("%d stay %d", id.student, l.Steps[0].ID)}})
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, answer, "Momo stays")
	assert.NotContains(t, answer, "who is ready", "what is ignored is not proposed again")
	assert.Contains(t, answer, "you decided to stay")
	time.Sleep(5 * time.Millisecond) // the log counts thousandths of a second
	_, err = s.AddEntry(ctx, id.teacher, store.Entry{StudentID: id.student, LadderID: id.ladder, Step: l.Steps[0], Tempo: 86, At: time.Now()}, "decided-once-more-01")
	require.NoError(t, err)
	_, body = b.get("/")
	assert.Contains(t, body, "Move up Momo", "until more is heard")
	_, page = b.get(id.in("/students/%[4]d"))
	assert.Contains(t, page, "<b>stays on step 1</b>")

	res, answer = b.post("/decisions", url.Values{"class": {id.in("%[5]d")}, "ladder": {id.in("%[2]d")}, "decision": {fmt.Sprintf("%d ease %d", id.student, l.Steps[0].ID)}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, answer, "no step that way")
	res, _ = b.post("/decisions", url.Values{"class": {id.in("%[5]d")}, "ladder": {"1"}, "decision": {fmt.Sprintf("%d move-on %d", id.student, l.Steps[0].ID)}})
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode, "another teacher’s ladder")
}

// Two songs on the desk: a line names the one it is about, side by side each has its own
// fields, and one that is finished takes no tempos and keeps its places.
func TestTwoSongsOnTheDesk(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "two-songs")
	s, ctx := storetest.Open(t), t.Context()
	first, err := s.Ladder(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	sg, err := s.Song(ctx, id.teacher, first.SongID)
	require.NoError(t, err)
	sg.Song.Title = "Slow Harbour Waltz"
	song, err := s.AddSong(ctx, id.teacher, sg.Song)
	require.NoError(t, err)
	waltz := first
	waltz.SongID = song
	waltz.ID, err = s.AddLadder(ctx, id.teacher, waltz)
	require.NoError(t, err)
	for _, l := range []ref.Ladder{first.ID, waltz.ID} {
		_, _, err := s.Place(ctx, id.teacher, l, store.Places{id.student: id.steps[0]})
		require.NoError(t, err)
	}
	class, old := id.in("%[5]d"), id.in("%[2]d")
	_, body := b.get("/?ladder=" + old)
	assert.Contains(t, body, "Slow Harbour Waltz</a>")
	assert.Contains(t, body, `name="ladder" value="`+old+`"`)

	for line, want := range map[string]string{
		"momo harb 70":           "Momo: 70, clean, on step 1 of Slow Harbour Waltz.",
		"mo waltz 66 x, momo 80": "Momo: 66, not clean, on step 1 of Slow Harbour Waltz; Momo: 80, clean, on step 1.",
	} {
		res, _ := b.post("/log", url.Values{"line": {line}, "class": {class}, "ladder": {old}})
		require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
		assert.Equal(t, "/?ladder="+old, res.Header.Get("Location"), "the song in front stays there")
		_, body = b.get("/?ladder=" + old)
		assert.Contains(t, body, want)
	}
	assert.Equal(t, 2, count(t, "SELECT COUNT(*) FROM log_entries WHERE ladder_id = ?", waltz.ID))
	res, body := b.post("/log", url.Values{"line": {"momo sore 70"}, "class": {class}, "ladder": {old}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "There’s no song on the Desk called “sore”")
	assert.Contains(t, body, `value="momo sore 70"`, "what was typed is kept")

	_, body = b.get("/?beside=yes")
	assert.Contains(t, body, id.in("tempo-%[4]d-%[2]d"))
	assert.Contains(t, body, fmt.Sprintf("tempo-%d-%d", id.student, waltz.ID))
	_, piece := b.fragment("/log", url.Values{"student": {fmt.Sprint(id.student)}, "tempo": {"x"}, "class": {class}, "ladder": {old}, "beside": {"yes"}})
	assert.Equal(t, 1, strings.Count(piece, `aria-invalid="true"`), "the problem stands at one field")

	b.post(fmt.Sprintf("/ladders/%d/progress", waltz.ID), url.Values{"to": {"finished"}})
	_, body = b.get(fmt.Sprintf("/ladders/%d", waltz.ID))
	assert.Contains(t, body, "“Slow Harbour Waltz” is finished. Everyone’s step is kept.")
	_, body = b.get("/")
	assert.NotContains(t, body, "Slow Harbour Waltz")
	res, body = b.post("/log", url.Values{"line": {"momo 71"}, "class": {class}, "ladder": {fmt.Sprint(waltz.ID)}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "isn’t on the Desk any more")
	places, err := s.Placements(ctx, id.teacher, waltz.ID)
	require.NoError(t, err)
	assert.Equal(t, id.steps[0], places[id.student])
	res, _ = b.post("/ladders/1/progress", url.Values{"to": {"finished"}})
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode, "another teacher’s ladder")
}

// What failed and where: it is said by two keys, three times propose a drill of that
// bar with the remedy beside it, and the drill page begins there. Tension stops every
// proposal until something is heard without it.
func TestFaults(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "faults")
	s, ctx := storetest.Open(t), t.Context()
	_, _, err := s.Place(ctx, id.teacher, id.ladder, store.Places{id.student: id.steps[0]})
	require.NoError(t, err)
	l, err := s.Ladder(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	sg, err := s.Song(ctx, id.teacher, l.SongID)
	require.NoError(t, err)
	last := len(sg.Bars())
	b.get("/")
	res, body := b.post("/log", url.Values{"line": {"momo 60 sc b900"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, fmt.Sprintf("has %d bars", last))
	for range 3 {
		b.post("/log", url.Values{"line": {fmt.Sprintf("momo 60 sc b%d", last)}})
	}
	_, body = b.get("/")
	assert.Contains(t, body, fmt.Sprintf("Momo: 60, not clean, stopped at the change, bar %d, on step 1.", last))
	assert.Contains(t, body, fmt.Sprintf("stopped at the change 3 times, at bar %d", last))
	assert.Contains(t, body, "The two chords alone")
	drill := fmt.Sprintf("/songs/%d/drill?student=%d", l.SongID, id.student)
	assert.Contains(t, body, "drill bar")
	_, body = b.get(drill)
	assert.Contains(t, body, fmt.Sprintf("Bar %d failed 3 times in the log: stopped at the change.", last))
	_, body = b.get(id.in("/students/%[4]d"))
	assert.Contains(t, body, fmt.Sprintf("not clean, stopped at the change, bar %d", last))
	assert.Contains(t, body, "<b>Step 1</b>")
	_, body = b.get(drill + "&kind=bar&bar=900")
	assert.NotContains(t, body, "By the log")
	another, _ := ownSchool(t, "faults-another")
	res, _ = another.get(drill)
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode)
	res, _ = another.get(id.in("/students/%[4]d"))
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode)

	b.post("/log", url.Values{"line": {"momo 60 te"}})
	_, body = b.get("/")
	assert.Contains(t, body, "tension was noted last time")
	assert.Contains(t, body, "see a doctor or a physiotherapist")
	b.post("/log", url.Values{"line": {"momo 60"}})
	_, body = b.get("/")
	assert.NotContains(t, body, "tension was noted last time")
}

// With a concert, who is nearly clean goes on when the step's share of the days is used
// up, with the reason; the decision is carried out and kept with it.
func TestAConcertHurries(t *testing.T) {
	b, id := ownSchool(t, "hurries")
	s, ctx := storetest.Open(t), t.Context()
	l, err := s.Ladder(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	_, _, err = s.Place(ctx, id.teacher, id.ladder, store.Places{id.student: l.Steps[0].ID})
	require.NoError(t, err)
	for i, days := range []int{20, 2} {
		_, err := s.AddEntry(ctx, id.teacher, store.Entry{StudentID: id.student, LadderID: id.ladder, Step: l.Steps[0], Tempo: 70 + i, At: time.Now().AddDate(0, 0, -days)}, fmt.Sprint("hurries-entry-000", i))
		require.NoError(t, err)
	}
	_, body := b.get("/")
	assert.Contains(t, body, "next 75")
	day := time.Now().UTC().Truncate(24 * time.Hour)
	require.NoError(t, s.SetTerm(ctx, id.teacher, store.Term{ClassID: id.class, LadderID: id.ladder, Begins: day, Concert: day.AddDate(0, 0, 14), Name: "the evening"}))
	_, body = b.get("/")
	assert.Regexp(t, `close: clean at 71, with 1[345] days left for 1 step`, body)
	res, _ := b.post("/decisions", url.Values{"class": {id.in("%[5]d")}, "ladder": {id.in("%[2]d")}, "decision": {fmt.Sprintf("%d move-on %d", id.student, l.Steps[0].ID)}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	kept, err := s.Decisions(ctx, id.teacher, id.student)
	require.NoError(t, err)
	assert.Equal(t, say.ID("nearly"), kept[0].Why.ID, "it is not “by you”")
}
