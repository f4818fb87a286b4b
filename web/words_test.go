package web_test

import (
	"fmt"
	"net/url"
	"strings"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Words and chords on paper: a song, and several as a book with a list of contents; songs are found by
// their tags, too.
func TestWordsAndChords(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "words")
	tag := func(tags string) (int, string) {
		_, body := b.get(id.in("/songs/%[1]d"))
		res, body := b.fragment(id.in("/songs/%[1]d/edit"), url.Values{"op": {"tags"}, "text": {tags}, "version": {version(t, body)}})
		return res.StatusCode, body
	}
	code, body := tag("Campfire, in three ,campfire")
	require.Equal(t, fiber.StatusOK, code)
	assert.Contains(t, body, "Tagged campfire, in three.")
	code, _ = tag(strings.Repeat("x", 31))
	assert.Equal(t, fiber.StatusUnprocessableEntity, code)
	b.get("/songs/new")
	res, _ := b.post("/songs", url.Values{"title": {"Other Tune"}, "text": {"Verse\n[D]Lanterns [A]by the door\n"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	other := strings.TrimPrefix(res.Header.Get("Location"), "/songs/")
	other, _, _ = strings.Cut(other, "?")
	_, found := b.get("/songs?q=campfire")
	assert.Contains(t, found, "Upside")
	assert.Contains(t, found, "campfire, in three")
	assert.NotContains(t, found, "Other Tune")

	_, page := b.get(id.in("/songs/%[1]d/words"))
	assert.Contains(t, page, "<b>Am</b>")
	_, book := b.get(id.in("/songs/book?song=") + other + id.in("&song=%[1]d&song=999999"))
	contents := book[strings.Index(book, "contents"):]
	assert.Less(t, strings.Index(contents, "Other Tune"), strings.Index(contents, "Upside"), "in the order that was chosen")
	assert.Contains(t, book, `<span>Upside</span> <span class="num">3</span>`)
	assert.Contains(t, book, "<span>Lanterns</span>")
	assert.Equal(t, 3, strings.Count(book, "<article"))
	res, body = b.get("/songs/book")
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "Choose 1 to 60 songs for the book.")
	another, _ := ownSchool(t, "words-another")
	for _, path := range []string{id.in("/songs/%[1]d/words"), id.in("/songs/book?song=%[1]d"), id.in("/class/%[5]d/attendance")} {
		res, _ = another.get(path)
		assert.Equal(t, fiber.StatusNotFound, res.StatusCode, path)
	}
}

// Attendance: who came, counted, and who has missed the last lessons.
func TestAttendance(t *testing.T) {
	t.Parallel()
	b, id, students := classOfThree(t, "attendance")
	_, body := b.get(id.in("/class/%[5]d/attendance"))
	assert.Contains(t, body, "No lesson is over yet")
	for range 2 {
		b.get("/lesson")
		b.fragment("/lesson/register?away=yes", url.Values{"class": {id.in("%[5]d")}, "student": {fmt.Sprint(students[2])}})
		b.post("/lesson/move", url.Values{"do": {"begin"}})
		b.get("/lesson/live")
		b.fragment("/lesson/move?sure=yes", url.Values{"back": {"live"}, "version": {b.version}, "do": {"end"}})
	}
	_, body = b.get(id.in("/class/%[5]d/attendance"))
	assert.Contains(t, body, "2 lessons, the newest first")
	assert.Contains(t, body, "missed the last 2")
	assert.Contains(t, body, "<td class=\"num\">2 of 2</td>")
	assert.Contains(t, body, "<td class=\"num\">0 of 2</td>")
}
