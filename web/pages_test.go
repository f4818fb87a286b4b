package web_test

import (
	"fmt"
	"html"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// fragment posts as Arplin's own script does.
func (b *browser) fragment(path string, fields url.Values) (*http.Response, string) {
	b.t.Helper()
	fields.Set("_csrf", b.token)
	req := httptest.NewRequest("POST", path, strings.NewReader(fields.Encode()))
	req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	req.Header.Set("HX-Request", "true")
	return b.send(req)
}

// piece asks for what is folded, as the script does when it is opened.
func (b *browser) piece(path string) string {
	b.t.Helper()
	req := httptest.NewRequest("GET", path, nil)
	req.Header.Set("HX-Request", "true")
	res, body := b.send(req)
	require.Equal(b.t, fiber.StatusOK, res.StatusCode, body)
	return body
}

// nth finds what a pattern captures, for the nth time on a page from 1: a bar, a
// section or a step by its id.
func nth(t testing.TB, body, pattern string, n int) string {
	t.Helper()
	found := regexp.MustCompile(pattern).FindAllStringSubmatch(body, -1)
	require.GreaterOrEqual(t, len(found), n, pattern)
	return found[n-1][1]
}

const (
	aBar     = `data-bar="(\d+)"`
	aSection = `id="section-(\d+)"`
)

// newSong adds a song and returns its path and version.
func (b *browser) newSong(title string) string {
	b.t.Helper()
	b.get("/songs/new")
	res, body := b.post("/songs", url.Values{"text": {"{title: " + title + "}\n{sov}\n[C]one [Am]two [F]three [G7]four\n{eov}"}})
	require.Equal(b.t, fiber.StatusSeeOther, res.StatusCode, body)
	return res.Header.Get("Location")
}

func version(t *testing.T, body string) string {
	t.Helper()
	m := regexp.MustCompile(`data-version="(\d+)"|name="version" value="(\d+)"`).FindStringSubmatch(body)
	require.NotNil(t, m)
	return m[1] + m[2]
}

func TestEditingASong(t *testing.T) {
	b := signedIn(t)
	path := b.newSong("Edits")
	_, body := b.get(path)
	v, second := version(t, body), nth(t, body, aBar, 2)
	edit := func(more url.Values) (*http.Response, string) {
		more.Set("version", v)
		return b.fragment(path+"/edit", more)
	}
	res, body := edit(url.Values{"op": {"bar"}, "bar": {second}, "text": {"Dm G7"}, "words": {"two <b>"}})
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, body, "Changed bar 2 of Verse.")
	assert.Contains(t, body, "two &lt;b&gt;")
	assert.NotContains(t, body, "<!doctype", "the script gets the body alone")

	res, body = edit(url.Values{"op": {"bar"}, "bar": {second}, "text": {"Em"}}) // the version is stale now
	assert.Equal(t, fiber.StatusConflict, res.StatusCode)
	assert.Contains(t, body, "<dd>Em  </dd>")
	assert.Contains(t, body, "<dd>Dm G7  two &lt;b&gt;</dd>")

	v = version(t, body)
	res, body = edit(url.Values{"op": {"tempo"}, "text": {"fast"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Equal(t, `Write the tempo as a number, not "fast".`, body, "a sentence and nothing else")

	_, body = b.move(path, "undo")
	assert.Contains(t, body, "Undone: Changed bar 2 of Verse.")
	_, body = b.move(path, "undo")
	assert.Contains(t, body, "There’s nothing more to undo.")
	_, body = b.move(path, "redo")
	assert.Contains(t, body, "Again: Changed bar 2 of Verse.")

	v = version(t, body)
	_, body = edit(url.Values{"op": {"bar"}, "bar": {second}, "text": {"C Gmin7x"}})
	assert.Contains(t, body, "Arplin doesn’t know “Gmin7x”, so it has no shape there and isn’t played.")
}

func TestKeyTablePage(t *testing.T) {
	b := signedIn(t)
	path := b.newSong("Keys")
	_, body := b.get(path + "/keys")
	assert.Equal(t, 12, strings.Count(body, `<th scope="row">`))
	assert.Contains(t, body, "Guitar (4)")
	apply := regexp.MustCompile(`name="text" value="D major">(?:<input type="hidden" name="(capo [a-z-]+)" value="(\d+)">)+`).FindStringSubmatch(body)
	require.NotNil(t, apply, "someone has a capo in D")
	res, _ := b.post(path+"/edit", url.Values{"op": {"key"}, "text": {"D major"}, apply[1]: {apply[2]}, "version": {version(t, body)}, "back": {"keys"}})
	assert.Equal(t, path+"/keys", res.Header.Get("Location"))
	_, body = b.get(path + "/keys")
	assert.Contains(t, body, "Key of D major.")
	assert.Contains(t, body, "current")
}

func TestTheBenchKeepsItsStateInTheForm(t *testing.T) {
	b := signedIn(t)
	b.get("/bench")
	state := func(do, with string) url.Values {
		return url.Values{"notation": {"4/4: p . . . . . . ."}, "chord": {"Am"}, "at_bar": {"0"}, "at_slot": {"2"}, "do": {do}, "with": {with}}
	}
	for _, c := range []struct{ do, with, want string }{
		{"key", "p", "4/4: p . p . . . . ."}, {"key", "+", "4/4: p . . . . . . . | p . . . . . . ."}, {"grid", "4", "4/4: p . . ."},
		{"meter", "3/4", "3/4: p . . . . ."}, {"swing", "", "4/4 swing: p . . . . . . ."}, {"words", "down, down-up", "4/4: D . D U . . . ."},
		{"bar", "4/4: D U D U D U D U", "4/4: D U D U D U D U"},
	} {
		_, body := b.fragment("/bench", state(c.do, c.with))
		assert.Contains(t, body, `data-notation="`+c.want+`"`, c.do)
	}
	for _, c := range []struct{ do, with, want string }{
		{"key", "3", "Place a stroke first, then say where it goes."},
		{"words", "down sideways", `Words: word 2, "sideways", isn’t one I know; say down, up, bass, thumb, index, middle, ring, pinch, inside, outside, wait, or the number of a string.`},
		{"meter", "7/8", `"7/8" is not a time signature that patterns use: 2/4, 3/4, 4/4, 5/4, 6/8, 9/8 or 12/8.`},
		{"bar", "3/4: D D D", "The copied bar has another time signature or grid."},
	} {
		res, body := b.fragment("/bench", state(c.do, c.with))
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
		assert.Equal(t, c.want, body)
	}
}

func TestOwnPatterns(t *testing.T) {
	b := signedIn(t)
	b.get("/bench")
	fields := url.Values{"notation": {"4/4: p . i . p . i ."}, "chord": {"Am"}, "name": {"Rocking <chair>"}, "own": {"0"}}
	res, _ := b.post("/patterns", fields)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	path := res.Header.Get("Location")
	_, body := b.get(path)
	assert.Contains(t, body, "Rocking &lt;chair&gt;")
	id := strings.TrimPrefix(path, "/patterns/own-")
	change := url.Values{"notation": {"4/4: p . m . p . m ."}, "chord": {"Am"}, "name": {"Rocking"}, "own": {id}, "version": {"1"}}
	res, _ = b.post("/patterns", change)
	assert.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, body = b.fragment("/patterns", change) // the version is stale now
	assert.Contains(t, body, "This pattern was changed while you were editing it")
	assert.Contains(t, body, "4/4: p . m . p . m .")

	song := b.newSong("Rocked")
	res, body = b.post(path+"/song", url.Values{"song": {strings.TrimPrefix(song, "/songs/")}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
	b.post("/archive/pattern/"+id, url.Values{})
	_, body = b.get(song)
	assert.Contains(t, body, `aria-label="bar 1: 4/4: p . m . p . m ."`, "an archived pattern stays in its song")
}

func TestLadderOfAnOwnSong(t *testing.T) {
	b := signedIn(t)
	song := b.newSong("Laddered")
	res, _ := b.post("/ladders", url.Values{"song": {strings.TrimPrefix(song, "/songs/")}, "pattern": {"four-up"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	path := res.Header.Get("Location")
	_, body := b.get(path)
	steps := strings.Count(body, `<li class="step`)
	assert.GreaterOrEqual(t, steps, 6)
	v, ids := version(t, body), stepsOf(body)
	res, body = b.fragment(path+"/edit", url.Values{"op": {"drop"}, "step": {ids[1]}, "version": {v}})
	require.Equal(t, fiber.StatusOK, res.StatusCode, body)
	assert.Equal(t, steps-1, strings.Count(body, `<li class="step`))
	res, body = b.fragment(path+"/edit", url.Values{"op": {"drop"}, "step": {ids[2]}, "version": {v}})
	assert.Equal(t, fiber.StatusConflict, res.StatusCode)
	assert.Contains(t, body, "Nothing was changed here. This ladder was changed in another window")
	_, body = b.move(path, "undo")
	assert.Equal(t, steps, strings.Count(body, `<li class="step`))
	for i, step := range stepsOf(body) {
		res, body = b.get(path + "/sheet?step=" + step + "&instrument=ukulele")
		assert.Equal(t, fiber.StatusOK, res.StatusCode)
		assert.Contains(t, body, fmt.Sprintf("Step %d of %d.", i+1, steps))
		assert.Contains(t, body, "see a doctor")
	}
	other := b.newSong("Laddered again")
	res, body = b.post(path+"/reuse", url.Values{"song": {strings.TrimPrefix(other, "/songs/")}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
	again := res.Header.Get("Location")
	_, body = b.get(again)
	assert.Contains(t, body, "Laddered again")
	assert.Equal(t, steps, strings.Count(body, `<li class="step`))
	b.archive(again)
	b.archive(path) // the desk shows the newest, which is the demo's again
	_, body = b.get("/ladders")
	assert.Contains(t, body, "The ladder is archived, with everything in it.")
}

// Every page answers every pattern and instrument without a fault.
func TestPagesStandUpToTheWholeCatalogue(t *testing.T) {
	t.Parallel()
	b := signedIn(t)
	_, body := b.get("/patterns")
	assert.Less(t, len(body), 60_000, "what is not in sight yet is not sent")
	next := regexp.MustCompile(`hx-get="(/patterns[^"]*)"`)
	for more, pages := next.FindStringSubmatch(body), 0; more != nil; pages++ {
		page := b.piece(html.UnescapeString(more[1]))
		body, more = body+page, next.FindStringSubmatch(page)
		require.Less(t, pages, 20)
	}
	refs := regexp.MustCompile(`href="/patterns/([a-z][a-z0-9-]+)"`).FindAllStringSubmatch(body, -1)
	require.Greater(t, len(refs), 48)
	for i, ref := range refs {
		if ref[1] == "compare" || ref[1] == "read" {
			continue // pages of their own
		}
		res, _ := b.get("/patterns/" + ref[1])
		assert.Equal(t, fiber.StatusOK, res.StatusCode, ref[1])
		if i%8 == 0 {
			for _, path := range []string{"/bench?from=", "/patterns/compare?a=", "/songs/1/drill?pattern=", "/songs/1?instrument=baritone&pattern="} {
				res, _ := b.get(path + ref[1])
				assert.Equal(t, fiber.StatusOK, res.StatusCode, path+ref[1])
			}
		}
	}
}

func TestAClassWeighsTheParts(t *testing.T) {
	b := signedIn(t)
	_, body := b.get("/class/weights")
	assert.Contains(t, body, "Nothing. Every factor counts as before.")
	fields := url.Values{"version": {"1"}}
	for _, m := range regexp.MustCompile(`<select class="form-select" id="w-\w+" name="(\w+)"`).FindAllStringSubmatch(body, -1) {
		fields.Set(m[1], "1")
	}
	require.Len(t, fields, 16)
	assert.Contains(t, body, "Nine Umbrellas", "what the class is on shows what the parts do")
	_, body = b.get("/class/weights?touch=3&rate=nonsense")
	assert.Contains(t, body, "Pinch, nails and notes after", "what would move, before anything is saved")
	action := regexp.MustCompile(`action="(/class/\d+/weights)"`).FindStringSubmatch(body)
	require.NotNil(t, action)
	assert.Contains(t, body, `<input type="hidden" name="touch" value="3">`)
	before := levelOn(t, b, "/patterns/percussive-hybrid")
	fields.Set("touch", "3")
	res, body := b.post(action[1], fields)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
	_, body = b.get("/class/weights")
	assert.Contains(t, body, "Pinch, nails and notes after")
	assert.NotContains(t, body, "Save it for")
	assert.Greater(t, levelOn(t, b, "/patterns/percussive-hybrid"), before)
	fields.Set("touch", "1000")
	res, _ = b.post(action[1], fields)
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	fields.Set("touch", "1")
	b.post(action[1], fields)
}

func levelOn(t *testing.T, b *browser, path string) string {
	t.Helper()
	_, body := b.get(path)
	m := regexp.MustCompile(`Level <b>([\d.]+)</b>`).FindStringSubmatch(body)
	require.NotNil(t, m)
	return m[1]
}

// A neighbour that is used stands on the song, and undo brings the other back.
func TestNeighboursAndMovesOnASong(t *testing.T) {
	b := signedIn(t)
	path := b.newSong("Around")
	b.post("/patterns/thumb-two-between/song", url.Values{"song": {strings.TrimPrefix(path, "/songs/")}})
	_, page := b.get(path)
	assert.NotContains(t, page, "one rule away", "what is folded is not computed")
	around := b.piece(path + "/around")
	assert.Contains(t, around, "Alternating thumb, two notes between on this song, one rule away", "the song's own pattern is measured without being asked for")
	assert.Contains(t, around, `value="Alternating thumb, two notes between (a pinch split)"`)
	assert.Contains(t, b.piece(path+"/around?deep=yes"), ", then ")
	do := func(op, text, words string) string {
		_, page := b.get(path)
		res, body := b.fragment(path+"/edit", url.Values{"op": {op}, "text": {text}, "words": {words}, "version": {version(t, page)}})
		require.Equal(t, fiber.StatusOK, res.StatusCode, body)
		assert.Contains(t, res.Header.Get("HX-Replace-Url"), path, "loading the page again shows the same")
		return body
	}
	body := do("pattern", "4/4: p m p' i p m p' .", "Alternating thumb (a pinch split)")
	assert.Contains(t, body, "Alternating thumb (a pinch split)")
	assert.Contains(t, b.piece(path+"/around"), `value="Alternating thumb (varied)"`, "names do not grow with every change")
	_, body = b.move(path, "undo")
	assert.Contains(t, body, "<h2>Alternating thumb, two notes between</h2>")

	assert.Contains(t, do("move", `{"id":"sevenths"}`, ""), "Fmaj7")
	assert.Contains(t, do("move", `{"id":"half-the-changes"}`, ""), "One chord every 2 bars.")
	other := nth(t, b.piece(path+"/around"), `name="text" value="([^"]*other-meter[^"]*)"`, 1)
	assert.Contains(t, do("move", html.UnescapeString(other), ""), "The song is in 3/4 now")
	_, body = b.move(path, "undo")
	assert.Contains(t, body, "Undone: The song is in")
	_, page = b.get(path)
	res, body := b.fragment(path+"/edit", url.Values{"op": {"move"}, "text": {"sideways"}, "version": {version(t, page)}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "can’t be done to the song in its current state")
}

func TestLadderOfAPartInAnotherOrder(t *testing.T) {
	b := signedIn(t)
	b.get("/songs/new")
	res, _ := b.post("/songs", url.Values{"text": {"{title: In parts}\n{sov}\n[C]one [Am]two\n{eov}\n{soc}\n[F]three [G7]four\n{eoc}"}})
	song := res.Header.Get("Location")
	_, page := b.get(song)
	res, body := b.post("/ladders", url.Values{"song": {strings.TrimPrefix(song, "/songs/")}, "pattern": {"common-strum"}, "section": {nth(t, page, aSection, 2)}, "order": {"rhythm first"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
	path := res.Header.Get("Location")
	_, body = b.get(path)
	for _, want := range []string{"In parts</a>: Chorus", "rhythm first", "say the count", "muted strings", "Why this step", "Harder than the target", "see a doctor"} {
		assert.Contains(t, body, want)
	}
	assert.NotContains(t, body, "C Am", "the verse is not in it")
	_, body = b.fragment(path+"/edit", url.Values{"op": {"rebuild"}, "order": {"thumb first"}, "version": {version(t, body)}})
	assert.Contains(t, body, "Rebuilt unpinned steps.")
	assert.NotContains(t, body, "+ say the count")
	_, sheet := b.get(path + "/sheet?step=" + stepsOf(body)[2])
	assert.Contains(t, sheet, "In parts: Chorus")
	res, body = b.post("/ladders", url.Values{"song": {strings.TrimPrefix(song, "/songs/")}, "pattern": {"common-strum"}, "order": {"backwards"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "is not an order of steps")
	b.archive(path)
}

// A drill on a week is on the desk and on the student's sheet, and fits the
// student's day and instrument.
func TestADrillOnAWeek(t *testing.T) {
	b := signedIn(t)
	_, body := b.get("/songs/1/drill?pattern=thumb-two-between&bar=3&student=6")
	assert.Contains(t, body, "Add to Pia’s week")
	assert.Contains(t, body, "clean at 76 so far")
	assert.Contains(t, body, "7 minutes", "half of a day of fifteen")
	fields := url.Values{"student": {"6"}, "kind": {"bar"}, "bar": {nth(t, body, `type="hidden" name="bar" value="(\d+)"`, 1)}, "minutes": {"7"}, "notation": {"4/4: p+m . p' i p m p' ."}, "pattern_name": {"Alternating thumb"}}
	res, body := b.post("/songs/1/drill", fields)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
	path := res.Header.Get("Location")
	_, body = b.get(path)
	assert.Contains(t, body, "It’s on Pia’s week")
	assert.Contains(t, body, "Ukulele")
	_, body = b.get("/")
	assert.Contains(t, body, "Drill: bar 3, 7 min")
	_, body = b.get("/ladders/1/sheet?student=6")
	assert.Contains(t, body, "Drill of the week: Nine Umbrellas, bar 3, 7 minutes")
	res, body = b.post("/songs/1/drill", fields)
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "already on Pia’s week, for 7 minutes")
	b.post(path+"/withdraw", url.Values{})
	_, body = b.get("/")
	assert.Contains(t, body, "Removed from the week.")
	assert.NotContains(t, body, "Drill: bar 3")
	b.post(path+"/restore", url.Values{})
	_, body = b.get("/")
	assert.Contains(t, body, "Drill: bar 3, 7 min")
	b.post(path+"/withdraw", url.Values{})
	for field, bad := range map[string]string{"student": "999", "bar": "9999", "minutes": "0", "notation": "4/4: q", "pattern_name": " "} {
		wrong := url.Values{}
		for k, v := range fields {
			wrong[k] = v
		}
		wrong.Set(field, bad)
		res, body := b.post("/songs/1/drill", wrong)
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, "%s: %s", field, body)
	}
	b.get("/class")
	res, body = b.post("/students/6", url.Values{"name": {"Pia"}, "instrument": {"ukulele"}, "day_minutes": {"500"}, "version": {"1"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "5 to 120 minutes of practice")
	assert.Contains(t, body, `value="500"`, "what was typed is kept")
}

// The list of patterns has ways in, by what the hand does, and three figures to start with.
func TestPatternsByWhatTheHandDoes(t *testing.T) {
	b := signedIn(t)
	_, page := b.get("/patterns")
	assert.Contains(t, page, "Three to start with")
	count := regexp.MustCompile(`href="/patterns\?hand=percussive" >knocks and stops <span class="sub">(\d+)<`).FindStringSubmatch(page)
	require.NotNil(t, count)
	_, page = b.get("/patterns?hand=percussive")
	assert.NotContains(t, page, "Three to start with")
	assert.Contains(t, page, count[1]+" patterns")
	assert.Regexp(t, `href="/patterns\?" aria-current="true">knocks and stops`, page, "another press takes it back")
	assert.Contains(t, page, `name="hand" value="percussive"`, "the other choices keep it")
	_, page = b.get("/patterns?meter=3/4")
	assert.Regexp(t, `href="/patterns\?hand=bass-strum&amp;meter=3%2F4" >bass and strum <span class="sub">4<`, page, "counted in what is asked for, which stays")
	_, page = b.get("/patterns?hand=percussive&meter=5/4")
	assert.Contains(t, page, "No pattern matches.")
}
