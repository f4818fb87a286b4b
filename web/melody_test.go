package web_test

import (
	"fmt"
	"html"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/format/bundle"
	"arplin/store/storetest"
)

// A tune is written, lies on strings, is heard as it is written, goes on another string and
// back, and is in the file that is exported; what cannot be read is said, what another window
// has changed is not overwritten.
func TestATuneOnItsPage(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "tune")
	page := id.in("/songs/%[1]d/melody?instrument=guitar")
	_, body := b.get(page)
	assert.Contains(t, body, "There’s no melody yet")
	edit := id.in("/songs/%[1]d/edit?instrument=guitar&station=alternating&back=melody")
	section := nth(t, body, `name="section" value="(\d+)"`, 1)
	first := version(t, body)
	write := func(text, v string) (int, string) {
		res, body := b.fragment(edit, url.Values{"op": {"melody"}, "section": {section}, "text": {text}, "version": {v}})
		return res.StatusCode, body
	}
	code, said := write("E4:1 H4", first)
	assert.Equal(t, fiber.StatusUnprocessableEntity, code)
	assert.Contains(t, said, `"H4" is not a note`)
	code, said = write("E4:1=la G A:2 | C5:1 A4 E:2", first)
	require.Equal(t, fiber.StatusOK, code, said)
	assert.Contains(t, said, "Wrote the melody of Verse")
	assert.Contains(t, said, `class="mark tune"`)
	assert.Contains(t, said, "sounds as C6")
	code, said = write("D4:1", first)
	assert.Equal(t, fiber.StatusConflict, code)
	assert.Contains(t, said, "in another window")

	score := scoreAt(t, b, id.in("/songs/%[1]d/melody/score?instrument=guitar&station=alternating"))
	var tune []int
	thumb := 0
	for _, n := range score.Notes {
		if n.By == bind.ByMelody {
			tune = append(tune, n.MIDI)
		}
		if n.By == bind.ByThumb {
			thumb++
		}
	}
	assert.Equal(t, []int{64, 67, 69, 72, 69, 64}, tune, "E4 G4 A4 C5 A4 E4 (MIDI 1.0)")
	assert.Equal(t, 16, thumb, "four bars of four beats")
	alone := scoreAt(t, b, id.in("/songs/%[1]d/melody/score?instrument=guitar&station=tune"))
	assert.Len(t, alone.Notes, 6)

	_, body = b.get(page)
	bar := fmt.Sprint(id.bars[0])
	assert.Contains(t, body, "E4 on string 1; press for string 2")
	res, body := b.fragment(edit, url.Values{"op": {"put"}, "bar": {bar}, "put": {"0 2"}, "version": {version(t, body)}})
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, body, "E4 on string 2, your choice")
	undo := nth(t, body, `action="(/songs/\d+/undo\?[^"]*)"`, 1)
	res, body = b.fragment(html.UnescapeString(undo), url.Values{"version": {version(t, body)}})
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, body, "E4 on string 1; press for string 2")
	for _, put := range []string{"", "x", "0 9", "7 1"} {
		res, _ := b.fragment(edit, url.Values{"op": {"put"}, "bar": {bar}, "put": {put}, "version": {version(t, body)}})
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, put)
	}
	_, file := b.get(id.in("/archive/song/%[1]d/export"))
	one, err := bundle.Read([]byte(file))
	require.NoError(t, err)
	assert.Contains(t, string(one.Songs[0].Song), `"w": "la"`, "the melody goes with the song")
}

// The stations of a tune are a ladder: students stand on its steps, what they play is logged, each
// step has a sheet with every bar and sounds as its station; what is found from the tune is not
// edited by hand; a tune that is taken away is missed.
func TestALadderOfATune(t *testing.T) {
	t.Parallel()
	b, id, students := classOfThree(t, "tuneladder")
	_, body := b.get(id.in("/songs/%[1]d/melody?instrument=guitar"))
	section := nth(t, body, `name="section" value="(\d+)"`, 1)
	edit := id.in("/songs/%[1]d/edit?instrument=guitar&back=melody")
	form := url.Values{"song": {fmt.Sprint(id.song)}, "instrument": {"guitar"}, "tune": {"yes"}}
	res, said := b.post("/ladders", form)
	require.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, said, "has no melody yet")
	res, body = b.fragment(edit, url.Values{"op": {"melody"}, "section": {section}, "text": {"E4:1=la G A:1/2 ^B A:1 | C5:1 A4 E:2"}, "version": {version(t, body)}})
	require.Equal(t, fiber.StatusOK, res.StatusCode, body)
	res, _ = b.post("/ladders", form)
	ladder := res.Header.Get("Location")
	require.Regexp(t, `^/ladders/\d+$`, ladder)

	_, page := b.get(ladder)
	for _, station := range []string{"each chord once", "the melody alone", "the melody over alternating bass", "slides and hammered notes"} {
		assert.Contains(t, page, station)
	}
	assert.NotContains(t, page, "Beyond the target")
	steps := stepsOf(page)
	require.GreaterOrEqual(t, len(steps), 7)
	first, second := steps[0], steps[1]
	for _, op := range []url.Values{{"op": {"split"}, "step": {second}}, {"op": {"write"}, "step": {second}, "text": {"4/4: p . . ."}}, {"op": {"rebuild"}, "order": {"rhythm first"}}, {"op": {"raise"}, "step": {first}}} {
		op.Set("version", version(t, page))
		res, said := b.fragment(ladder+"/edit", op)
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, op)
		assert.Contains(t, said, "the stations of the melody")
	}
	res, page = b.fragment(ladder+"/place", url.Values{"place": {fmt.Sprintf("%d %s", students[0], second)}})
	require.Equal(t, fiber.StatusOK, res.StatusCode, page)
	_, desk := b.get("/")
	assert.Contains(t, desk, "the melody alone")

	alone := scoreAt(t, b, fmt.Sprintf("%s/step/%s/score?instrument=guitar", ladder, second))
	assert.Len(t, alone.Notes, 8)
	assert.Equal(t, "tune", alone.Bars[0].Plays)
	_, sheet := b.get(ladder + "/sheet?step=" + second)
	assert.Equal(t, 4, strings.Count(sheet, `class="onebar"`), "every bar of it")
	assert.Contains(t, sheet, "Sing the line before you play it")
	_, why := b.get(ladder + "/step/" + second)
	assert.Contains(t, why, "Sing a line, then play it")
	_, room := b.get(ladder + "/together")
	assert.Contains(t, room, "Tune")
	_, grow := b.get(ladder + "/grow")
	assert.Contains(t, grow, "2 the melody alone")

	_, body = b.get(id.in("/songs/%[1]d/melody?instrument=guitar"))
	res, _ = b.fragment(edit, url.Values{"op": {"melody"}, "section": {section}, "text": {""}, "version": {version(t, body)}})
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	res, page = b.get(ladder)
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, page, "has no melody any more")
	for _, path := range []string{"/sheet?step=" + second, "/step/" + second, "/together", "/grow", "/step/" + second + "/score"} {
		res, _ := b.get(ladder + path)
		assert.Equal(t, fiber.StatusOK, res.StatusCode, path)
	}
}

// Two tunes of a song: each has its ladder, and what is in the bars is said.
func TestTwoTunesAndTheirLadders(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "twotunes")
	edit := func(op, text string, more url.Values) string {
		_, page := b.get(id.in("/songs/%[1]d/melody?instrument=guitar"))
		form := url.Values{"op": {op}, "text": {text}, "version": {version(t, page)}}
		for k, v := range more {
			form[k] = v
		}
		res, body := b.fragment(id.in("/songs/%[1]d/edit?instrument=guitar&back=melody"), form)
		require.Equal(t, fiber.StatusOK, res.StatusCode, body)
		return body
	}
	s, ctx := storetest.Open(t), t.Context()
	sg, err := s.Song(ctx, id.teacher, id.song)
	require.NoError(t, err)
	section := url.Values{"section": {fmt.Sprint(sg.Sections[0].ID)}}
	edit("melody", "E4:2 G | A:4 | F:4 | D:4", section)
	ladder := func() string {
		b.get(id.in("/songs/%[1]d/melody"))
		res, body := b.post("/ladders", url.Values{"song": {id.in("%[1]d")}, "instrument": {"guitar"}, "tune": {"yes"}})
		require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
		return res.Header.Get("Location")
	}
	plain := ladder()
	body := edit("tune-add", "syncopated", nil)
	assert.Contains(t, body, "Began another melody, syncopated, with a copy.")
	assert.Contains(t, body, "Current melody: <b>syncopated</b>")
	assert.Contains(t, body, "Switch to the first melody")
	edit("melody", "E4:3/2 G:5/2 | A:4 | F:4 | D:4", section)
	bent := ladder()
	_, first := b.get(plain)
	_, second := b.get(bent)
	assert.NotContains(t, first, "syncopated")
	assert.Contains(t, second, "the melody: syncopated")
	assert.Contains(t, edit("tune-take", "0", nil), "Switched to melody the first melody.")
	_, again := b.get(bent)
	assert.Contains(t, again, "the melody: syncopated")
	syncopated := regexp.MustCompile(`name="text" value="(\d+)">Remove syncopated`).FindStringSubmatch(edit("melody", "E4:2 G | A:4 | F:4 | D:4", section))
	require.NotNil(t, syncopated)
	edit("tune-drop", syncopated[1], nil)
	_, gone := b.get(bent)
	assert.Contains(t, gone, "The melody this ladder was made from is no longer in Upside")
}
