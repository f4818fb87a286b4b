package web_test

import (
	"fmt"
	"html"
	"net/url"
	"strings"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/storetest"
)

// The conductor's page proposes a part for each group in each part of the song, takes changes,
// says who is stretched, keeps them when somebody joins or leaves, and proposes anew; each group
// has a sheet and a lane in the room, in which its part changes on the way.
func TestWhoPlaysWhat(t *testing.T) {
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
	assert.Contains(t, body, "Proposed from where everybody stands")
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
	assert.Contains(t, body, "As you arranged it")
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
	assert.Contains(t, sheet, "Stop at pain")
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
	move := func(version string, student store.StudentID, to string) string {
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
		student store.StudentID
		to      string
	}{{999999, "1"}, {students[1], "9"}, {students[1], "-1"}} {
		assert.Regexp(t, `data-problem>[^<]+<`, move("5", bad.student, bad.to))
	}
	yours := func(body string) bool { return strings.Contains(body, "As you arranged it") }
	res, body = b.fragment(page, url.Values{"do": {"anew"}, "version": {"5"}})
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.False(t, yours(body))
	res, body = b.fragment(page+"?do=restore", url.Values{"version": {"6"}})
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.True(t, yours(body))
	assert.Contains(t, body, `<option value="rest" selected>`, "Undo brings back what was arranged")
	_, body = b.fragment(page+"?do=restore", url.Values{"version": {"7"}})
	assert.Contains(t, body, "here is nothing to bring back")
}
