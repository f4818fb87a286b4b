package web_test

import (
	"fmt"
	"html"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/ladder"
	"arplin/store"
	"arplin/store/ref"
	"arplin/store/storetest"
)

// The conductor's page proposes a part for each group in each part of the song, takes changes,
// says who is stretched, keeps them when somebody joins or leaves, and proposes anew; each group
// has a sheet and a lane in the room, in which its part changes on the way.
func TestWhoPlaysWhat(t *testing.T) {
	t.Parallel()
	b, id, students := classOfThree(t, "grows")
	s, ctx := storetest.Open(t), t.Context()
	b.get("/songs")
	sg, err := s.Song(ctx, id.teacher, id.song)
	require.NoError(t, err)
	section := fmt.Sprint(sg.Sections[0].ID)
	res, body := b.fragment(id.in("/songs/%[1]d/edit"), url.Values{"op": {"times"}, "section": {section}, "text": {"3"}, "version": {fmt.Sprint(sg.Version)}})
	require.Equal(t, fiber.StatusOK, res.StatusCode, body)

	page := id.in("/ladders/%[2]d/grow")
	_, body = b.get(page)
	assert.Contains(t, body, "Suggested from where everyone is")
	assert.Equal(t, 6, strings.Count(body, `name="part"`), "two groups, three times the section")
	assert.Contains(t, body, "Verse, time 3")
	assert.NotContains(t, body, "is stretched")
	assert.NotContains(t, body, "lacks a bass")
	change := func(version, pass, group, part string) (int, string) {
		res, body := b.fragment(page, url.Values{"version": {version}, "pass": {pass}, "group": {group}, "part": {part}})
		return res.StatusCode, body
	}
	code, body := change("0", "1", "2", fmt.Sprintf("step %d", id.steps[1]))
	require.Equal(t, fiber.StatusOK, code)
	assert.Contains(t, body, "Your arrangement")
	undo := html.UnescapeString(nth(t, body, `action="(/ladders/\d+/grow\?[^"]*)"`, 1))
	assert.Contains(t, undo, "part=chords", "what was there")
	assert.Contains(t, html.UnescapeString(body), "Momo, Nele is stretched in part 1")
	for _, bad := range [][4]string{{"0", "1", "1", "rest"}, {"1", "9", "1", "rest"}, {"1", "1", "9", "rest"}, {"1", "1", "1", "solo"}, {"1", "1", "1", "step 99"}} {
		_, body := change(bad[0], bad[1], bad[2], bad[3])
		assert.Regexp(t, `data-problem>[^<]+<`, body, "%v", bad)
	}
	code, _ = change("1", "2", "1", "rest")
	assert.Equal(t, fiber.StatusOK, code)

	// The room: the second group's lane has the figure in part 1 and is heard with it.
	_, room := b.get(id.in("/ladders/%[2]d/together?grow=yes"))
	assert.Equal(t, 2, strings.Count(room, `data-lane data-step`))
	first := scoreAt(t, b, fmt.Sprintf("%s/score?group=1&instrument=guitar", page))
	second := scoreAt(t, b, fmt.Sprintf("%s/score?group=2&instrument=guitar", page))
	require.Len(t, first.Bars, 12)
	assert.Equal(t, "rest", first.Bars[4].Plays)
	assert.Equal(t, "picking", second.Bars[0].Plays)
	for _, n := range first.Notes {
		assert.False(t, n.Tick >= first.Bars[4].From && n.Tick < first.Bars[8].From, "it rests in part 2")
	}
	whole := scoreAt(t, b, fmt.Sprintf("/ladders/%d/step/%d/score?instrument=guitar", id.ladder, id.steps[1]))
	for i, n := range second.Notes {
		if n.Tick >= second.Bars[4].From {
			break
		}
		assert.Equal(t, whole.Notes[i], n, "what it plays in part 1 is the step")
	}
	_, sheet := b.get(page + "/sheet?group=1")
	assert.Contains(t, sheet, "Verse, time 2")
	assert.Contains(t, sheet, "Stop if you feel pain")
	res, _ = b.get(page + "/sheet?group=9")
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode)

	// Somebody joins, somebody leaves: groups stay, who is new is one of their own.
	require.NoError(t, err)
	_, err = s.AddStudent(ctx, id.teacher, store.Student{ClassID: id.class, Name: "Quirin", Instrument: "guitar"})
	require.NoError(t, err)
	_, _, err = s.Place(ctx, id.teacher, id.ladder, store.Places{students[2]: 0})
	require.NoError(t, err)
	_, body = b.get(page)
	assert.Contains(t, body, "Quirin")
	assert.Equal(t, 9, strings.Count(body, `name="part"`))
	// Somebody goes to another group, and back by Undo; from a group of one, the group goes along.
	move := func(version string, student ref.Student, to string) string {
		_, body := b.fragment(page, url.Values{"do": {"move"}, "version": {version}, "student": {fmt.Sprint(student)}, "to": {to}})
		return html.UnescapeString(body)
	}
	body = move("2", students[1], "0")
	assert.Contains(t, body, "Nele is a group of their own.")
	assert.Equal(t, 12, strings.Count(body, `name="part"`))
	body = move("3", students[1], "1")
	assert.Regexp(t, `Nele plays with [A-Z]`, body)
	assert.Equal(t, 9, strings.Count(body, `name="part"`), "nobody is left in the group")
	res, body = b.fragment(page+"?do=restore", url.Values{"version": {"4"}})
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Equal(t, 12, strings.Count(body, `name="part"`))
	for _, bad := range []struct {
		student ref.Student
		to      string
	}{{999999, "1"}, {students[1], "9"}, {students[1], "-1"}} {
		assert.Regexp(t, `data-problem>[^<]+<`, move("5", bad.student, bad.to))
	}
	yours := func(body string) bool { return strings.Contains(body, "Your arrangement") }
	res, body = b.fragment(page, url.Values{"do": {"anew"}, "version": {"5"}})
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.False(t, yours(body))
	res, body = b.fragment(page+"?do=restore", url.Values{"version": {"6"}})
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.True(t, yours(body))
	assert.Contains(t, body, `<option value="rest" selected>`, "Undo brings back what was arranged")
	_, body = b.fragment(page+"?do=restore", url.Values{"version": {"7"}})
	assert.Contains(t, body, "here’s nothing to bring back")
}

// Before a concert the parts are those that are clean by its day; who is on no step here plays what
// they know from a song with these chords; groups take turns, and Undo puts them back.
func TestWhoPlaysWhatByTheConcert(t *testing.T) {
	t.Parallel()
	b, id, students := classOfThree(t, "growsby")
	s, ctx := storetest.Open(t), t.Context()
	page := id.in("/ladders/%[2]d/grow")
	begins := time.Now().UTC().AddDate(0, 0, -7).Truncate(24 * time.Hour)
	require.NoError(t, s.SetTerm(ctx, id.teacher, store.Term{ClassID: id.class, LadderID: id.ladder, Begins: begins, Concert: begins.AddDate(0, 0, 7*20), Name: "the evening"}))
	_, body := b.get(page)
	assert.Contains(t, body, "likely to play clean by "+begins.AddDate(0, 0, 7*20).Format("2 January"))
	assert.Contains(t, body, "step 2<", "twenty weeks are enough for two steps")
	assert.Contains(t, body, `<option value="bass-strum"`)
	assert.NotContains(t, body, `<option value="tune"`, "there is none to play")

	// Otis knows the second step of another song with these chords, and is on no step here.
	sg, err := s.Song(ctx, id.teacher, id.song)
	require.NoError(t, err)
	sg.Song.Title = "Sideways"
	other, err := s.AddSong(ctx, id.teacher, sg.Song)
	require.NoError(t, err)
	on, err := s.Ladder(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	third := on.Steps[1]
	third.ID = 0
	known, err := s.AddLadder(ctx, id.teacher, store.Ladder{ClassID: id.class, SongID: other, PatternName: "Thumb", Target: on.Target, Ladder: ladder.Ladder{Steps: append(on.Steps[:2:2], third)}})
	require.NoError(t, err)
	from, err := s.Ladder(ctx, id.teacher, known)
	require.NoError(t, err)
	_, _, err = s.Place(ctx, id.teacher, id.ladder, store.Places{students[2]: 0})
	require.NoError(t, err)
	_, _, err = s.Place(ctx, id.teacher, known, store.Places{students[2]: from.Steps[2].ID})
	require.NoError(t, err)
	_, body = b.get(page)
	value := fmt.Sprintf("step %d of %d", from.Steps[1].ID, known)
	assert.Contains(t, body, fmt.Sprintf(`<option value="%s" selected>from Sideways: `, value))
	assert.Contains(t, body, "they know it from another song with these chords")
	score := scoreAt(t, b, page+"/score?group=2&instrument=guitar")
	assert.Equal(t, "picking", score.Bars[0].Plays)
	assert.NotEmpty(t, score.Notes)
	res, body := b.fragment(page, url.Values{"version": {"0"}, "pass": {"1"}, "group": {"1"}, "part": {value}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "is no part", "Momo and Nele do not know it")

	// Two groups take turns; with one pass there is nothing to swap.
	turns := url.Values{"do": {"turns"}, "version": {"0"}, "group": {"1"}, "to": {"2"}}
	_, body = b.fragment(page, turns)
	assert.Contains(t, body, "There’s no section they could swap")
	sg, err = s.Song(ctx, id.teacher, id.song)
	require.NoError(t, err)
	res, body = b.fragment(id.in("/songs/%[1]d/edit"), url.Values{"op": {"times"}, "section": {fmt.Sprint(sg.Sections[0].ID)}, "text": {"2"}, "version": {fmt.Sprint(sg.Version)}})
	require.Equal(t, fiber.StatusOK, res.StatusCode, body)
	for pass := range 2 { // what both can play
		b.fragment(page, url.Values{"version": {fmt.Sprint(2 * pass)}, "pass": {fmt.Sprint(pass + 1)}, "group": {"1"}, "part": {"bass"}})
		b.fragment(page, url.Values{"version": {fmt.Sprint(2*pass + 1)}, "pass": {fmt.Sprint(pass + 1)}, "group": {"2"}, "part": {"chords"}})
	}
	turns.Set("version", "4")
	_, body = b.fragment(page, turns)
	assert.Contains(t, body, "swap in part 2.")
	assert.Regexp(t, `id="part-2-1"[^>]*>.*<option value="chords" selected>`, body)
	_, body = b.fragment(page+"?do=restore", url.Values{"version": {"5"}})
	assert.Regexp(t, `id="part-2-1"[^>]*>.*<option value="bass" selected>`, body)
	for _, bad := range [][2]string{{"1", "1"}, {"1", "9"}, {"0", "1"}} {
		_, body := b.fragment(page, url.Values{"do": {"turns"}, "version": {"6"}, "group": {bad[0]}, "to": {bad[1]}})
		assert.Contains(t, body, "hoose another group")
	}
}

// A song with a figure for each part has that as its plan: everyone on their own step in each part, drawn
// with the figure that the part has, and judged by it.
func TestWhoPlaysWhatWhereEachPartHasItsFigure(t *testing.T) {
	b, id := ownSchool(t, "twofigures")
	b.get("/songs/new")
	res, body := b.post("/songs", url.Values{"text": {"Two patterns\n\nVerse\nPattern: 4/4: p . . .\n[C]one [Am]two [F]three [G7]four\n\nChorus\nPattern: 4/4: p p' p p'\n[C]one [Am]two [F]three [G7]four\n"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
	path := b.newLadder(res.Header.Get("Location"), url.Values{})
	_, steps := b.get(path)
	top := nth(t, steps, `data-step="(\d+)" data-score`, 1)
	res, body = b.fragment(path+"/place", url.Values{"place": {fmt.Sprintf("%d %s", id.student, top)}})
	require.Equal(t, fiber.StatusOK, res.StatusCode, body)
	_, page := b.get(path + "/grow")
	assert.Contains(t, page, "Each section has its own pattern")
	assert.Equal(t, 1, strings.Count(page, "lacks a beat")+strings.Count(page, "a beat: someone who plays every one"), "the thumb is on every beat of the chorus")
}
