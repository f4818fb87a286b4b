package web_test

import (
	"net/url"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A series goes on the term with one click: the term, the lesson's warm-up and the calendar have the
// figure of the week; another takes its place and gives it back.
func TestASeriesOnTheTerm(t *testing.T) {
	t.Parallel()
	b, id, _ := classOfThree(t, "onterm")
	put := func(colour string, figures ...string) {
		form := url.Values{"class": {id.in("%[5]d")}, "key": {"G"}, "over": {"I vi IV V"}, "instrument": {"ukulele"}, "colour": {colour}, "figure": figures}
		b.get("/term/series")
		res, _ := b.post("/term/series", form)
		require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
		require.Equal(t, "/term", res.Header.Get("Location"))
	}
	put("plain", "thumb-once", "thumb-beats")
	_, term := b.get("/term")
	assert.Contains(t, term, "The series is on the term.")
	assert.Contains(t, term, "Pattern of the week")
	assert.Contains(t, term, "<b>G | Em | C | D</b>")
	assert.Contains(t, term, "this week")
	_, lesson := b.get("/lesson")
	assert.Contains(t, lesson, `Pattern of the week: <a href="/patterns/thumb-once">`)
	_, calendar := b.get("/term.ics")
	assert.Contains(t, calendar, "pattern of the week")

	put("", "common-strum", "four-up")
	_, term = b.get("/term")
	assert.Contains(t, term, "/patterns/common-strum")
	assert.Contains(t, term, "coloured", "the last pattern comes again over coloured chords")
	assert.NotContains(t, term, "/patterns/thumb-once")
	res, _ := b.post("/term/series/back", url.Values{})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, term = b.get("/term")
	assert.NotContains(t, term, "taken off the term")
	assert.Contains(t, term, "The term has the series it had before.")
	assert.Contains(t, term, "/patterns/thumb-once", "what it took the place of is back")
	assert.Contains(t, term, `action="/term/series/off"><input type="hidden" name="class" value="`+id.in("%[5]d")+`">`, "another window may have changed the class since")
	_, _ = b.post("/term/series/off", url.Values{"class": {id.in("%[5]d")}})
	_, term = b.get("/term")
	assert.NotContains(t, term, "Pattern of the week")

	res, body := b.post("/term/series", url.Values{"class": {id.in("%[5]d")}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "Choose the patterns of the series first.")
	res, _ = b.post("/term/series", url.Values{"class": {id.in("%[5]d")}, "figure": {"thumb-once"}, "over": {"Hx"}, "key": {"G"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
}
