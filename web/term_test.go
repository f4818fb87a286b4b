package web_test

import (
	"fmt"
	"net/url"
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/store"
	"arplin/store/storetest"
)

// A term: days and song are kept, what makes no sense is said with what was typed, the
// calendar is read by a kept reader, and simulated classes are tried on demand.
func TestATerm(t *testing.T) {
	t.Parallel()
	b, id, _ := classOfThree(t, "term")
	_, body := b.get("/term")
	assert.Contains(t, body, "12 weeks to the evening")
	assert.Contains(t, body, "no pace yet")
	assert.NotContains(t, body, "simulated classes of 3", "nothing that is folded away is computed")
	begins := time.Now().Format(time.DateOnly)
	form := url.Values{"class": {id.in("%[5]d")}, "version": {"0"}, "ladder": {id.in("%[2]d")}, "name": {"the hall"}, "begins": {begins}, "concert": {time.Now().AddDate(0, 0, 35).Format(time.DateOnly)}}
	res, _ := b.post("/term", form)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, body = b.get("/term")
	assert.Contains(t, body, "5 weeks to the hall")
	form.Set("concert", "soon")
	form.Set("version", "1")
	res, body = b.post("/term", form)
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "Write the days as 2026-12-01")
	assert.Contains(t, body, `value="the hall"`)
	form.Set("concert", "2090-01-01")
	_, body = b.post("/term", form)
	assert.Contains(t, body, "A term has 2 to 26 weeks")
	form.Set("concert", time.Now().AddDate(0, 0, 42).Format(time.DateOnly))
	form.Set("version", "7")
	_, body = b.post("/term", form)
	assert.Contains(t, body, "changed in another window")

	res, text := b.get("/term.ics")
	assert.Contains(t, res.Header.Get("Content-Type"), "text/calendar")
	cal, err := ics.ParseCalendar(strings.NewReader(text))
	require.NoError(t, err)
	assert.Len(t, cal.Events(), 6, "five lessons and the concert")
	_, tried := b.get("/term/tried")
	assert.Contains(t, tried, "10 simulated classes of 3")
	for _, law := range []string{"steady", "slow starters", "fast forgetters", "irregular practice"} {
		assert.Contains(t, tried, law)
	}
}

// A term with an hour, a week off and two songs: the calendar has the lessons at that hour, none in the
// week off, and both songs on the evening; what is typed wrong is said and kept. Read by a kept reader.
func TestATermWithHoursWeeksOffAndTwoSongs(t *testing.T) {
	b, id, students := classOfThree(t, "twosongs")
	s, ctx := storetest.Open(t), t.Context()
	p := pattern.MustParse("4/4: D . D . D . D .")
	bars, err := song.ParseChords("C | F | C | G7", p.Meter)
	require.NoError(t, err)
	other, err := s.AddSong(ctx, id.teacher, song.Song{Title: "Second Wind", Meter: p.Meter, Tempo: 90, Sections: []song.Section{{Name: "Verse", Bars: bars}}})
	require.NoError(t, err)
	more, err := s.AddLadder(ctx, id.teacher, store.Ladder{ClassID: id.class, SongID: other, PatternName: "Downs", Target: p, Ladder: ladder.Ladder{Steps: []ladder.Step{{Pattern: pattern.MustParse("4/4: D . . ."), Over: ladder.OneChord}, {Pattern: p}}}})
	require.NoError(t, err)
	l, err := s.Ladder(ctx, id.teacher, more)
	require.NoError(t, err)
	_, _, err = s.Place(ctx, id.teacher, more, store.Places{students[0]: l.Steps[0].ID})
	require.NoError(t, err)
	b.get("/term")
	day := func(n int) string { return time.Now().AddDate(0, 0, n).Format(time.DateOnly) }
	form := url.Values{"class": {id.in("%[5]d")}, "version": {"0"}, "ladder": {id.in("%[2]d")}, "more": {fmt.Sprint(more)}, "name": {"the hall"}, "begins": {day(0)}, "concert": {day(35)}, "at": {"17:30"}, "off": {day(9) + ", someday"}}
	res, body := b.post("/term", form)
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, day(9)+", someday", "what was typed is kept")
	form.Set("off", day(9))
	form.Set("at", "half past")
	_, body = b.post("/term", form)
	assert.Contains(t, body, "Write the hour of the lessons as 17:30.")
	form.Set("at", "17:30")
	res, _ = b.post("/term", form)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, body = b.get("/term")
	assert.Contains(t, body, time.Now().Format("Monday")+"s at 17:30")
	assert.Contains(t, body, `class="termoff"`)
	assert.Contains(t, body, `<h2><a href="`+fmt.Sprintf("/ladders/%d", more)+`">Second Wind</a></h2>`)
	assert.Contains(t, body, "checked> Second Wind: Downs")

	_, text := b.get("/term.ics")
	cal, err := ics.ParseCalendar(strings.NewReader(text))
	require.NoError(t, err)
	require.Len(t, cal.Events(), 5, "four lessons, since one week is off, and the concert")
	var starts []string
	for _, e := range cal.Events()[:4] {
		starts = append(starts, e.GetProperty(ics.ComponentPropertyDtStart).Value)
	}
	at := func(n int) string { return time.Now().AddDate(0, 0, n).Format("20060102") + "T173000" }
	assert.Equal(t, []string{at(0), at(14), at(21), at(28)}, starts)
	concert := cal.Events()[4].GetProperty(ics.ComponentPropertyDescription).Value
	assert.Contains(t, ics.FromText(concert), "Upside and Second Wind")
	got, err := s.Ladder(ctx, id.teacher, more)
	require.NoError(t, err)
	assert.False(t, got.Concert.IsZero(), "the second song has the concert, too")
}
