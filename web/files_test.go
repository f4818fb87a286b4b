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
)

// A song comes as a file of any format, is shown before it is kept, with what of it is left out; a
// tablature becomes a pattern or a ladder; songs, steps and stations leave as files.
func TestOpenFiles(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "openfiles")
	get := func(path, contains string) string {
		res, body := b.get(path)
		require.Equal(t, fiber.StatusOK, res.StatusCode, path)
		assert.Contains(t, body, contains, path)
		assert.Contains(t, res.Header.Get("Content-Disposition"), "attachment", path)
		return body
	}
	notation := "pattern=thumb-two-between"
	xml := get(id.in("/songs/%[1]d/file?as=musicxml&instrument=guitar&")+notation, "<fret>3</fret>")
	midi := get(id.in("/songs/%[1]d/file?as=midi&")+notation, "MThd")
	get(id.in("/songs/%[1]d/file?as=text&instrument=ukulele&")+notation, "A |-3--")
	get(id.in("/songs/%[1]d/file?as=chordpro"), "{title: Upside}")
	get(id.in("/songs/%[1]d/file?as=svg&bar=2&instrument=guitar&")+notation, "<style>")
	get(fmt.Sprintf("/ladders/%d/step/%d/file?as=musicxml", id.ladder, id.steps[1]), "<pluck>p</pluck>")
	get("/patterns/thumb-two-between/file?as=svg&instrument=ukulele", "Alternating thumb, two notes between, bar 1")
	get("/patterns/thumb-two-between/file?as=text", "Alternating thumb, two notes between")
	for path, code := range map[string]int{
		"/songs/%[1]d/file": fiber.StatusNotFound, "/songs/%[1]d/file?as=exe": fiber.StatusNotFound, "/songs/%[1]d/file?as=svg&bar=99&" + notation: fiber.StatusUnprocessableEntity, "/songs/%[1]d/file?as=svg": fiber.StatusUnprocessableEntity,
		"/songs/%[1]d/file?as=midi&pattern=nobodys": fiber.StatusNotFound, "/ladders/%[2]d/step/99/file?as=midi": fiber.StatusNotFound,
	} {
		res, _ := b.get(id.in(path))
		assert.Equal(t, code, res.StatusCode, path)
	}

	b.get("/songs/new")
	res, page := b.sendFile("/songs", "up.musicxml", []byte(xml), url.Values{"title": {"Up again"}, "look": {"yes"}})
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, page, "4 bars")
	assert.Contains(t, html.UnescapeString(page), "{title: Upside}")
	res, _ = b.sendFile("/songs", "up.musicxml", []byte(xml), url.Values{"title": {"Up again"}, "keep": {"yes"}})
	require.Regexp(t, `^/songs/\d+$`, res.Header.Get("Location"))
	_, page = b.get(res.Header.Get("Location"))
	assert.Contains(t, page, "Up again")
	res, page = b.sendFile("/songs", "up.mid", []byte(midi), nil)
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, page, "Left out of the song")
	bare := midiTune(t)
	res, page = b.sendFile("/songs", "tune.mid", bare, url.Values{"keep": {"yes"}})
	require.Regexp(t, `^/songs/\d+$`, res.Header.Get("Location"), page)
	tune := res.Header.Get("Location")
	for _, path := range []string{"", "/melody", "/melody?station=alternating", "/keys", "/drill", "/around", "/left", "/score?pattern=thumb-once", "/melody/score?station=shapes", "/file?as=musicxml", "/file?as=text&pattern=thumb-once"} {
		res, _ := b.get(tune + path)
		assert.Equal(t, fiber.StatusOK, res.StatusCode, "a melody without chords: %s", path)
	}
	for _, form := range []url.Values{{"tune": {"yes"}}, {"pattern": {"thumb-once"}}} {
		form.Set("song", strings.TrimPrefix(tune, "/songs/"))
		res, _ := b.post("/ladders", form)
		require.Regexp(t, `^/ladders/\d+$`, res.Header.Get("Location"), "%v", form)
		for _, path := range []string{"", "/grow", "/together", "/sheet"} {
			page, _ := b.get(res.Header.Get("Location") + path)
			assert.Equal(t, fiber.StatusOK, page.StatusCode, path)
		}
	}
	for name, data := range map[string]string{"x.xml": "<score-partwise>", "x.mid": midi[:40], "x.bin": "\x00\xff\x01"} {
		res, page := b.sendFile("/songs", name, []byte(data), nil)
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, name)
		assert.Regexp(t, `data-problem>[^<]+<`, page, name)
	}

	res, page = b.sendFile("/songs", "empty.txt", nil, url.Values{"text": {"Title: From the field\n| C | G |"}, "look": {"yes"}})
	require.Equal(t, fiber.StatusOK, res.StatusCode, "a file without a letter is none")
	assert.Contains(t, page, "From the field")

	tab := "e|-------0-------0-|\nB|---1-------1-----|\nG|-----0-------0---|\nD|-----------------|\nA|-3-------3-------|\nE|-----------------|\n"
	res, page = b.sendFile("/songs", "roll.txt", []byte(tab), nil)
	require.Equal(t, fiber.StatusOK, res.StatusCode, "tablature goes where patterns are read")
	assert.Contains(t, page, "4/4: p m i a p m i a")
	b.get("/patterns/read")
	res, page = b.post("/patterns/read", url.Values{"text": {tab}})
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, page, "x32010")
	assert.Regexp(t, `level \d\.\d on these chords`, page)
	res, page = b.sendFile("/patterns/read", "up.mid", []byte(midi), nil)
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, page, "4/4: p+m . p&#39; i p m p&#39; .", "a channel a string is a pattern")
	res, page = b.sendFile("/patterns/read", "cut.mid", []byte(midi[:60]), nil)
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, page, "the file is cut")
	for _, bad := range []string{"", "C G Am", strings.Repeat("x", 300_000)} {
		res, page := b.post("/patterns/read", url.Values{"text": {bad}})
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
		assert.Regexp(t, `data-problem>[^<]+<`, page)
	}
	res, page = b.post("/patterns/read/keep", url.Values{"text": {tab}, "name": {" "}, "do": {"pattern"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, html.UnescapeString(page), "e|-------0", "what was pasted stays")
	res, _ = b.post("/patterns/read/keep", url.Values{"text": {tab}, "name": {"Roll"}, "do": {"pattern"}})
	assert.Regexp(t, `^/patterns/own-\d+$`, res.Header.Get("Location"))
	res, _ = b.post("/patterns/read/keep", url.Values{"text": {tab}, "name": {"Roll"}, "do": {"ladder"}})
	require.Regexp(t, `^/ladders/\d+$`, res.Header.Get("Location"))
	_, page = b.get(res.Header.Get("Location"))
	assert.Contains(t, page, "p m i a p m i a")
	assert.GreaterOrEqual(t, len(stepsOf(page)), 4)
}

// Where the song has another meter now than its ladder, there is nothing that could be written down
// of a step, and a sentence says so; it is still heard.
func TestAStepOfAnotherMeterIsNoFile(t *testing.T) {
	b, id := ownSchool(t, "othermeter")
	path := id.in("/songs/%[1]d")
	_, body := b.get(path)
	res, body := b.post(path+"/edit", url.Values{"op": {"meter"}, "version": {version(t, body)}, "text": {"6/8"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
	step := fmt.Sprintf("%s/step/%d", id.in("/ladders/%[2]d"), id.steps[len(id.steps)-1])
	for _, as := range []string{"text", "musicxml", "midi", "svg"} {
		res, body = b.get(step + "/file?as=" + as)
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, as)
		assert.Contains(t, body, "The song is in 6/8 now, and this ladder in 4/4", as)
	}
	res, _ = b.get(step + "/score")
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
}
