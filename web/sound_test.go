package web_test

import (
	"archive/zip"
	"encoding/json"
	"fmt"
	"html"
	"io"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/store"
	"arplin/store/storetest"
	"arplin/teach/songs"
)

// Tones are WAV files that a browser keeps; what is no tone is not there.
func TestTones(t *testing.T) {
	b := signedIn(t)
	for _, path := range []string{"/tones?of=guitar&as=flesh&midi=48", "/tones?of=ukulele&as=nail&midi=67", "/tones?as=knock", "/tones?as=click", "/tones?as=first"} {
		res, body := b.get(path)
		require.Equal(t, fiber.StatusOK, res.StatusCode, path)
		assert.Equal(t, "audio/wav", res.Header.Get("Content-Type"))
		assert.Equal(t, "RIFF", body[:4])
		tag := res.Header.Get("ETag")
		assert.Regexp(t, `^"[0-9a-f]+"$`, tag, "a strong tag")
		req := httptest.NewRequest("GET", path, nil)
		req.Header.Set("If-None-Match", tag)
		res, _ = b.send(req)
		assert.Equal(t, fiber.StatusNotModified, res.StatusCode)
	}
	for _, path := range []string{"/tones", "/tones?of=guitar&as=flesh&midi=5", "/tones?of=lute&as=flesh&midi=60", "/tones?of=guitar&as=bow&midi=60", "/tones?of=guitar&as=flesh&midi=x"} {
		res, _ := b.get(path)
		assert.Equal(t, fiber.StatusNotFound, res.StatusCode, path)
	}
}

func scoreAt(t *testing.T, b *browser, path string) (s songs.Score) {
	t.Helper()
	res, body := b.get(path)
	require.Equal(t, fiber.StatusOK, res.StatusCode, "%s: %s", path, body)
	require.NoError(t, json.Unmarshal([]byte(body), &s))
	last := 0
	for _, n := range s.Notes {
		require.GreaterOrEqual(t, n.Tick, last, "in the order in which they sound")
		require.Less(t, n.Tick, s.Ticks)
		last = n.Tick
	}
	total := 0
	for _, bar := range s.Bars {
		require.Equal(t, total, bar.From)
		total += bar.Beats * s.Beat
	}
	assert.Equal(t, s.Ticks, total, "the bars are the whole")
	return s
}

// A score is the song as it is sung, with the figure of the step: chords that are not of
// its stage rest, what is tapped is a knock, what is muted a chuck.
func TestScores(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "scores")
	s, ctx := storetest.Open(t), t.Context()
	whole := scoreAt(t, b, id.in("/songs/%[1]d/score?pattern=thumb-once&instrument=guitar"))
	require.Len(t, whole.Bars, 4)
	require.Len(t, whole.Notes, 4, "once a bar")
	assert.Equal(t, "C", whole.Bars[0].Chords)
	assert.Equal(t, songs.ScoreNote{String: 5, MIDI: 48, Kind: bind.FleshSound, By: bind.ByThumb, Loud: 0.8}, whole.Notes[0], "C3 on the fifth string: common practice")
	assert.Equal(t, []int{48, 64, 80}, []int{whole.Slow, whole.Medium, whole.Goal})
	assert.Empty(t, scoreAt(t, b, id.in("/songs/%[1]d/score")).Notes, "a song without a pattern is its bars")
	res, body := b.get(id.in("/songs/%[1]d/score?pattern=three-roll"))
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "in 3/4")

	one := scoreAt(t, b, fmt.Sprintf("/ladders/%d/step/%d/score?instrument=ukulele", id.ladder, id.steps[0]))
	all := scoreAt(t, b, fmt.Sprintf("/ladders/%d/step/%d/score?instrument=ukulele", id.ladder, id.steps[1]))
	assert.Less(t, len(one.Notes), len(one.Bars)+1, "one chord: the others rest")
	assert.Greater(t, len(all.Notes), 4*len(one.Notes))
	assert.Equal(t, one.Ticks, all.Ticks, "a class plays the steps together")
	assert.Equal(t, "ukulele", string(all.Strings))

	p := pattern.MustParse("4/4: D D D D")
	before := []ladder.Step{{Pattern: p, Over: ladder.AllChords, Play: difficulty.Tapped}, {Pattern: p, Over: ladder.AllChords, Play: difficulty.Muted}, {Pattern: p, Over: ladder.AllChords}}
	strums, err := s.AddLadder(ctx, id.teacher, store.Ladder{ClassID: id.class, SongID: id.song, PatternName: "Downs", Target: p, Ladder: ladder.Ladder{Steps: before}})
	require.NoError(t, err)
	on, err := s.Ladder(ctx, id.teacher, strums)
	require.NoError(t, err)
	tapped := scoreAt(t, b, fmt.Sprintf("/ladders/%d/step/%d/score", strums, on.Steps[0].ID))
	require.Len(t, tapped.Notes, 16, "four taps a bar, however many strings")
	muted := scoreAt(t, b, fmt.Sprintf("/ladders/%d/step/%d/score", strums, on.Steps[1].ID))
	for _, n := range tapped.Notes {
		assert.Equal(t, bind.KnockSound, n.Kind)
	}
	for _, n := range muted.Notes {
		assert.Equal(t, bind.ChuckSound, n.Kind)
	}
	res, body = b.get(id.in("/songs/%[1]d/score?pattern=thumb-once&as=wav&tempo=120&countin=yes&click=yes"))
	assert.Equal(t, "audio/wav", res.Header.Get("Content-Type"))
	assert.Contains(t, res.Header.Get("Content-Disposition"), "Upside at 120.wav")
	assert.InDelta(t, 44+2*44100*(5*2+3), len(body), 44100/5, "five bars of two seconds, and what rings")
	_, silent := b.get(id.in("/songs/%[1]d/score?pattern=thumb-once&as=wav&tempo=120&thumb=no"))
	assert.Empty(t, strings.Trim(silent[44:], "\x00"), "without the own part there is nothing left of it")
	res, _ = b.get(id.in("/songs/%[1]d/score?pattern=thumb-once&as=wav&tempo=9"))
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	for _, e := range catalogue.All {
		assert.NotEmpty(t, scoreAt(t, b, "/patterns/"+e.ID+"/score?instrument=guitar").Notes, e.ID)
	}
}

// What goes home is a zip: a step slow, medium and at its goal, and a student's week with its
// page, which stands by itself and names the files that lie beside it.
func TestTakingItHome(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "home")
	s, ctx := storetest.Open(t), t.Context()
	_, _, err := s.Place(ctx, id.teacher, id.ladder, store.Places{id.student: id.steps[0]})
	require.NoError(t, err)
	files := func(path string) map[string]string {
		res, body := b.get(path)
		require.Equal(t, fiber.StatusOK, res.StatusCode, path)
		assert.Equal(t, "application/zip", res.Header.Get("Content-Type"))
		z, err := zip.NewReader(strings.NewReader(body), int64(len(body)))
		require.NoError(t, err)
		all := map[string]string{}
		for _, f := range z.File {
			r, err := f.Open()
			require.NoError(t, err)
			data, err := io.ReadAll(r)
			require.NoError(t, err)
			all[f.Name] = string(data)
		}
		return all
	}
	step := files(fmt.Sprintf("/ladders/%d/step/%d/score?as=zip", id.ladder, id.steps[1]))
	require.Len(t, step, 6)
	for _, name := range []string{"Upside at 48.flac", "Upside at 64, to play over.flac", "Upside at 80.flac"} {
		assert.Equal(t, "fLaC", step[name][:4], name)
	}
	week := files(id.in("/students/%[4]d/week.zip"))
	page := week["Momo, this week.html"]
	require.NotEmpty(t, page)
	assert.NotRegexp(t, `(src|href)="(https?:)?/`, page, "it asks nobody for anything")
	assert.Contains(t, page, "Stop if you feel pain")
	var named int
	for _, m := range regexp.MustCompile(`<audio[^>]* src="([^"]+)"`).FindAllStringSubmatch(page, -1) {
		name, err := url.PathUnescape(html.UnescapeString(m[1]))
		require.NoError(t, err)
		assert.Contains(t, week, name)
		named++
	}
	assert.Positive(t, named)
}

// The room has a lane for each step that somebody is on, a voice for each instrument of it,
// and no number of a step; another step is handed to a lane.
func TestTogether(t *testing.T) {
	b, id, students := classOfThree(t, "together")
	_, body := b.get(id.in("/ladders/%[2]d/together"))
	assert.Equal(t, 2, strings.Count(body, `data-lane data-step`))
	assert.Regexp(t, `data-part="bass">bass</b><span class="sub">ukulele, high g; guitar</span>`, body, "one of each is on it")
	assert.Regexp(t, `data-names>Momo, Nele</span>`, body)
	assert.Contains(t, body, `data-part="picking"`)
	assert.NotRegexp(t, `(?i)>[^<]*\blevel\b`, body)
	voices := regexp.MustCompile(`data-scores="([^"]+)"`).FindAllStringSubmatch(body, -1)
	require.Len(t, voices, 2)
	assert.Len(t, strings.Fields(voices[1][1]), 2, "the lower lane, of two instruments")
	for _, url := range strings.Fields(html.UnescapeString(voices[1][1])) {
		assert.NotEmpty(t, scoreAt(t, b, url).Notes)
	}
	_, lane := b.get(id.in("/ladders/%[2]d/together/") + fmt.Sprint(id.steps[1]) + "?on=guitar,lute")
	assert.Contains(t, lane, `data-part="picking"`)
	assert.NotContains(t, lane, "<html")
	assert.NotContains(t, lane, "Momo")
	res, _ := b.get(id.in("/ladders/%[2]d/together/999"))
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode)

	s, ctx := storetest.Open(t), t.Context()
	for _, st := range students {
		_, _, err := s.Place(ctx, id.teacher, id.ladder, store.Places{st: 0})
		require.NoError(t, err)
	}
	_, body = b.get(id.in("/ladders/%[2]d/together"))
	assert.Equal(t, 1, strings.Count(body, `data-lane data-step`), "before anybody is on a step: the target")
}

// Who has a capo hears the step as it sounds above it, with their own shapes.
func TestAStudentsOwnScore(t *testing.T) {
	b, id := ownSchool(t, "own-score")
	path := fmt.Sprintf("/ladders/%d/step/%d/score", id.ladder, id.steps[1])
	plain := scoreAt(t, b, path+"?instrument=ukulele")
	s, ctx := storetest.Open(t), t.Context()
	st, err := s.Student(ctx, id.teacher, id.student)
	require.NoError(t, err)
	st.Capo = 3
	require.NoError(t, s.ChangeStudent(ctx, id.teacher, st))
	own := scoreAt(t, b, path+fmt.Sprintf("?student=%d", id.student))
	assert.Equal(t, 3, own.Capo)
	assert.NotEqual(t, plain.Bars[0].Chords, own.Bars[0].Chords, "another shape")
	for _, s := range []songs.Score{plain, own} {
		for _, n := range s.Notes {
			if n.Tick < s.Bars[1].From {
				assert.Contains(t, []int{0, 4, 7}, n.MIDI%12, "C, E and G, whatever is fingered")
			}
		}
	}
}
