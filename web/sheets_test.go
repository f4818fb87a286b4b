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

// The whole figure for each instrument, and large type.
func TestSheetsByInstrument(t *testing.T) {
	b, id, _ := classOfThree(t, "instruments")
	_, body := b.get(id.in("/ladders/%[2]d/sheets?by=instrument"))
	assert.Contains(t, body, "a sheet for each instrument")
	assert.Equal(t, 2, strings.Count(body, "<article"), "guitar and ukulele")
	assert.NotContains(t, body, "not on a step yet")
	_, body = b.get(id.in("/ladders/%[2]d/sheets?large=yes"))
	assert.Contains(t, body, `class="papers large"`)
	assert.Contains(t, body, "in large type")
}

// Only the fingers you need: as the song page draws a chord, so do sheet, drill and the sheet of a
// group. The figure strikes strings 6, 4, 3 and 2 of a G7, so the middle and the index finger are free.
// Common practice.
func TestOnlyTheFingersYouNeed(t *testing.T) {
	t.Parallel()
	b, id, students := classOfThree(t, "needed")
	pages := []string{
		id.in("/songs/%[1]d?instrument=guitar&pattern=thumb-two-between"),
		id.in("/ladders/%[2]d/sheet?instrument=guitar"),
		id.in("/ladders/%[2]d/sheets?by=instrument"),
		id.in("/songs/%[1]d/drill?instrument=guitar&kind=change&bar=4&pattern=thumb-two-between") + fmt.Sprintf("&student=%d", students[1]),
		id.in("/ladders/%[2]d/grow/sheet?group=1"),
	}
	whole, lean := "G7 as 320001 on Guitar", "G7 as 3x000x on Guitar"
	for _, path := range pages {
		_, body := b.get(path)
		assert.Contains(t, body, whole, path)
		assert.NotContains(t, body, lean, path)
	}
	settings := url.Values{"name": {"Upside down"}, "minutes": {"45"}, "fingers": {"moving"}, "low_fifth": {"no"}, "anchor": {"no"}, "long_nails": {"no"}, "wrist": {"no"}, "thick_on_top": {"no"}, "lean": {"yes"}, "sing_low": {"A3"}, "sing_high": {"D5"}, "version": {"1"}}
	b.get("/class")
	res, _ := b.post(id.in("/class/%[5]d"), settings)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	for _, path := range pages {
		_, body := b.get(path)
		assert.Contains(t, body, lean, path)
		assert.NotContains(t, body, whole, path)
	}
	_, body := b.get(pages[1])
	assert.Contains(t, body, "The shapes show only the fingers you need.")
}

// The letters that are explained are those on the sheet: a strum has no fingers.
func TestTheLettersOfASheet(t *testing.T) {
	b := signedIn(t)
	ladder := b.newLadder(b.newSong("Letters"), url.Values{"pattern": {"common-strum"}})
	_, strum := b.get(ladder + "/sheet?instrument=guitar")
	assert.Contains(t, strum, "D down, U up. Numbers")
	assert.NotContains(t, strum, "p thumb")
	ladder = b.newLadder(b.newSong("Letters too"), url.Values{"pattern": {"thumb-two-between"}})
	_, pick := b.get(ladder + "/sheet?instrument=guitar")
	assert.Contains(t, pick, "p thumb, i index, m middle. Numbers")
	assert.NotContains(t, pick, "D down")
}
