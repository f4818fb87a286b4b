package web_test

import (
	"fmt"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/ref"
	"arplin/store/storetest"
)

// newLadder makes a ladder on a song and returns its path; it is archived at the
// end, since the desk shows the newest.
func (b *browser) newLadder(song string, fields url.Values) string {
	b.t.Helper()
	fields.Set("song", strings.TrimPrefix(song, "/songs/"))
	res, body := b.post("/ladders", fields)
	require.Equal(b.t, fiber.StatusSeeOther, res.StatusCode, body)
	path := res.Header.Get("Location")
	b.t.Cleanup(func() { b.archive(path) })
	return path
}

// archive takes what a path leads to off its list.
func (b *browser) archive(path string) {
	b.t.Helper()
	kind, id, _ := strings.Cut(strings.TrimPrefix(path, "/"), "/")
	b.post("/archive/"+strings.TrimSuffix(kind, "s")+"/"+id, url.Values{})
}

// step is the id of a step on a ladder, from 1.
func (b *browser) step(path string, number int) string {
	b.t.Helper()
	_, body := b.get(path)
	return stepsOf(body)[number-1]
}

// stepsOf lists the ids of the steps on a page, the easiest first.
func stepsOf(body string) (ids []string) {
	for _, m := range regexp.MustCompile(`<li class="step[^>]* data-step="(\d+)"`).FindAllStringSubmatch(body, -1) {
		ids = append([]string{m[1]}, ids...)
	}
	return ids
}

// Each thing that can be done to a staircase says what it did, and can be taken
// back.
func TestEveryChangeOfALadderAndBack(t *testing.T) {
	b := signedIn(t)
	path := b.newLadder(b.newSong("Changes"), url.Values{"pattern": {"thumb-one-between"}})
	_, before := b.get(path)
	ids := stepsOf(before)
	notations := func(body string) []string {
		var list []string
		for _, m := range regexp.MustCompile(`(?s)<li class="step[^>]*>.*?aria-label="(\d+/\d+[^"]*: [^"]+)"`).FindAllStringSubmatch(body, -1) {
			list = append(list, m[1])
		}
		return list
	}
	for _, c := range []struct {
		fields url.Values
		want   string
	}{
		{url.Values{"op": {"pin"}, "step": {ids[2]}}, "Pinned step 3."},
		{url.Values{"op": {"drop"}, "step": {ids[1]}}, "Removed step 2."},
		{url.Values{"op": {"join"}, "step": {ids[2]}}, "Joined steps 2 and 3."},
		{url.Values{"op": {"thin"}, "pick": {ids[1], ids[3]}}, "Removed 2 steps."},
		{url.Values{"op": {"split"}, "step": {ids[len(ids)-1]}}, "Added a step below"},
		{url.Values{"op": {"raise"}, "step": {ids[2]}}, "Swapped steps 3 and 4."},
		{url.Values{"op": {"lower"}, "step": {ids[3]}}, "Swapped steps 3 and 4."},
		{url.Values{"op": {"write"}, "step": {ids[1]}, "text": {"4/4: p . . . p . . ."}}, "Changed step 2."},
		{url.Values{"op": {"insert"}, "text": {"4/4: p . . . p . p ."}}, "Added your step as step"},
		{url.Values{"op": {"insert"}, "text": {"4/4: p . . . p . p ."}, "after": {ids[4]}, "over": {"two-chords"}, "pace": {"slow"}}, "Added your step as step 6."},
		{url.Values{"op": {"rebuild"}, "order": {"two chords first"}}, "Rebuilt unpinned steps."},
		{url.Values{"op": {"rebuild"}, "order": {"cell by cell"}, "size": {"small"}, "chords": {"each"}}, "Rebuilt unpinned steps."},
	} {
		_, page := b.get(path)
		c.fields.Set("version", version(t, page))
		res, body := b.fragment(path+"/edit", c.fields)
		require.Equal(t, fiber.StatusOK, res.StatusCode, body)
		assert.Contains(t, body, c.want)
		_, body = b.move(path, "undo")
		assert.Contains(t, body, "Undone: "+strings.TrimSuffix(c.want, "."))
		assert.Equal(t, notations(before), notations(body), "%v and back", c.fields)
	}
	_, body := b.move(path, "undo")
	assert.Contains(t, body, "There’s nothing more to undo.")
}

func TestWhatALadderRefuses(t *testing.T) {
	b := signedIn(t)
	song := b.newSong("Refusals")
	path := b.newLadder(song, url.Values{"pattern": {"thumb-one-between"}})
	_, page := b.get(path)
	v, ids := version(t, page), stepsOf(page)
	for _, c := range []struct {
		path   string
		fields url.Values
		want   string
	}{
		{"/edit", url.Values{"op": {"split"}, "step": {ids[0]}, "version": {v}}, "Nothing fits below step 1"},
		{"/edit", url.Values{"op": {"thin"}, "version": {v}}, "Tick the steps you want to remove."},
		{"/edit", url.Values{"op": {"rebuild"}, "size": {"huge"}, "version": {v}}, "is not a size of steps"},
		{"/edit", url.Values{"op": {"insert"}, "text": {"3/4: p . ."}, "version": {v}}, "cannot be played together"},
		{"/edit", url.Values{"op": {"insert"}, "text": {"4/4: p q"}, "version": {v}}, "is not a stroke"},
		{"/edit", url.Values{"op": {"drop"}, "step": {"99"}, "version": {v}}, "That step isn’t on the ladder any more."},
		{"/edit", url.Values{"op": {"rebuild"}, "order": {"sideways"}, "version": {v}}, "is not an order of steps"},
		{"/edit", url.Values{"op": {"pin"}}, "Part of the page is missing"},
		{"/place", url.Values{"place": {"1 77"}}, "That step isn’t on the ladder any more"},
		{"/place", url.Values{"place": {"Ruth 1"}}, "Choose a student and a step."},
		{"/reuse", url.Values{"song": {"3"}}, "This ladder is in 4/4, Frost on the Garden Gate in 3/4."},
	} {
		res, body := b.fragment(path+c.path, c.fields)
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, "%s %v", c.path, c.fields)
		assert.Contains(t, body, c.want)
	}
	res, body := b.post("/ladders", url.Values{"song": {strings.TrimPrefix(song, "/songs/")}, "pattern": {"four-up"}, "section": {"999"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "That section is not in the song any more")
	res, body = b.post("/ladders", url.Values{"song": {strings.TrimPrefix(song, "/songs/")}, "pattern": {"three-roll"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "Choose a pattern in 4/4 for this song.")
}

// Without a pattern in the form, the ladder is for what the part is written with.
func TestALadderForWhatAPartIsWrittenWith(t *testing.T) {
	b := signedIn(t)
	b.get("/songs/new")
	res, _ := b.post("/songs", url.Values{"text": {"{title: Two hands}\n{sov}\n[C]one [Am]two\n{eov}\n{soc}\n[F]three [G7]four\n{eoc}"}})
	song := res.Header.Get("Location")
	_, page := b.get(song)
	res, body := b.fragment(song+"/edit", url.Values{"op": {"pattern"}, "section": {nth(t, page, aSection, 2)}, "text": {"4/4: D . D U . U D U"}, "words": {"The strum"}, "version": {version(t, page)}})
	require.Equal(t, fiber.StatusOK, res.StatusCode, body)
	path := b.newLadder(song, url.Values{"section": {nth(t, page, aSection, 2)}})
	_, body = b.get(path)
	assert.Contains(t, body, "The strum")
	assert.Contains(t, body, "Two hands</a>: Chorus")
	_, body = b.get("/ladders")
	assert.Contains(t, body, "Chorus · The strum")
}

// When the song moves away from a ladder, every page of the ladder says so.
func TestALadderWhoseSongHasMovedAway(t *testing.T) {
	b := signedIn(t)
	song := b.newSong("Turning")
	_, page := b.get(song)
	verse := nth(t, page, aSection, 1)
	path := b.newLadder(song, url.Values{"pattern": {"thumb-two-between"}, "section": {verse}})
	change := func(op, text string) {
		_, page := b.get(song)
		res, body := b.fragment(song+"/edit", url.Values{"op": {op}, "section": {verse}, "text": {text}, "version": {version(t, page)}})
		require.Equal(t, fiber.StatusOK, res.StatusCode, body)
	}
	says := func(want string, there bool) {
		for _, page := range []string{path, path + "/sheet", "/?ladder=" + strings.TrimPrefix(path, "/ladders/")} {
			_, body := b.get(page)
			assert.Equal(t, there, strings.Contains(body, want), "%s: %s", page, want)
		}
	}
	says("any more", false)
	change("rename", "Strophe")
	says("any more", false) // a name is not what a section is known by
	says(": Strophe", true)
	change("copy", "")
	change("drop", "")
	says("This ladder’s section isn’t in the song any more", true)
	change("meter", "3/4")
	says("The song is in 3/4 now, and this ladder in 4/4.", true)
	for range 4 {
		b.move(song, "undo")
	}
	says("this ladder in", false)
	says("any more", false)
}

// The sheets of steps before the strings show the rhythm and its count, and no
// shapes: the left hand has nothing to hold yet.
func TestSheetsBeforeTheStrings(t *testing.T) {
	b := signedIn(t)
	path := b.newLadder(b.newSong("Rhythm"), url.Values{"pattern": {"common-strum"}, "order": {"rhythm first"}})
	_, swung := b.get(path + "/sheet?step=" + b.step(path, 1))
	assert.Contains(t, swung, "empty hand")
	assert.Contains(t, swung, "keep your hand moving for 4 bars")
	_, said := b.get(path + "/sheet?step=" + b.step(path, 2))
	assert.Contains(t, said, "say the count")
	assert.Equal(t, 4, strings.Count(said, `class="count beat"`))
	assert.NotContains(t, said, "The hand", "no posture without an instrument")
	assert.NotContains(t, said, `class="shape"`)
	assert.Contains(t, said, "4 clean bars")
	_, played := b.get(path + "/sheet")
	assert.Contains(t, played, `class="shape"`)
	assert.Contains(t, played, "cleanly three times at 80")
}

// Who is on two chords gets those two; in the other bars they rest, or play a root
// that the sheet names.
func TestSheetsOfTwoChords(t *testing.T) {
	b := signedIn(t)
	path := b.newLadder(b.newSong("Two chords"), url.Values{"pattern": {"common-strum"}})
	_, body := b.get(path)
	m := regexp.MustCompile(`(?s)href="/ladders/\d+\?instrument=guitar&amp;open=(\d+)#step-\d+" tabindex="-1"><span class="visually-hidden">Step \d+: </span><span class="adds">\+ second chord</span>`).FindStringSubmatch(body)
	require.NotNil(t, m)
	_, two := b.get(path + "/sheet?step=" + m[1])
	assert.Equal(t, 2, strings.Count(two, `class="shape"`))
	assert.Contains(t, two, `<span class="rests">(F)</span>`)
	assert.NotContains(t, two, `(Am)`)
	assert.Contains(t, two, "rest or play its root on 1: F string 4, fret 3; G7 string 6, fret 3.")
	_, ukulele := b.get(path + "/sheet?instrument=ukulele&step=" + m[1])
	assert.Contains(t, ukulele, "F string 2, fret 1; G7 string 4, open.")
	_, page := b.get(path)
	assert.Contains(t, page, "Guitar · C", "the chord that the steps of one chord are on")
	_, asked := b.get(path + "/sheet?all=yes&step=" + m[1])
	assert.Equal(t, 4, strings.Count(asked, `class="shape"`), "unless all are asked for")
	_, all := b.get(path + "/sheet")
	assert.Equal(t, 4, strings.Count(all, `class="shape"`))
	assert.NotContains(t, all, `class="rests"`)
	assert.NotContains(t, all, "play its root")
}

// A step at the slow tempo of the song has a goal of its own, on the ladder, the
// sheet and the desk.
func TestTempoStepsHaveTheirOwnGoal(t *testing.T) {
	b := signedIn(t)
	path := b.newLadder(b.newSong("Slowly"), url.Values{"pattern": {"four-up"}})
	_, body := b.get(path)
	m := regexp.MustCompile(`(?s)href="/ladders/\d+\?instrument=guitar&amp;open=(\d+)#step-\d+" tabindex="-1"><span class="visually-hidden">Step \d+: </span><span class="adds">\+ all chords</span>`).FindStringSubmatch(body)
	require.NotNil(t, m, "the song at the slow tempo comes first")
	assert.Contains(t, body, `<span class="adds">F</span>`, "the chord that is new is amber")
	assert.Contains(t, body, `<span class="adds">64 BPM</span>`, "and so is the tempo")
	_, sheet := b.get(path + "/sheet?step=" + m[1])
	assert.Contains(t, sheet, "goal <b>48</b>", "60 per cent of 80")
	assert.Contains(t, sheet, "cleanly three times at 48")
}

// A change drill works on the left hand.
func TestChangeDrillPage(t *testing.T) {
	b := signedIn(t)
	_, body := b.get("/songs/1/drill?pattern=thumb-two-between&kind=change&bar=3")
	assert.Contains(t, body, "The change, silent")
	assert.Contains(t, body, "the change into bar 3")
	silent, rest, _ := strings.Cut(body, "2. One stroke a bar")
	assert.Equal(t, 2, strings.Count(silent, `class="shape"`), "both shapes while the right hand is silent")
	assert.Contains(t, rest, "<figcaption>Am</figcaption><svg class=\"shape\"", "and each chord of the bars afterwards")
	_, body = b.get("/songs/1/drill?pattern=thumb-two-between")
	assert.Regexp(t, `the change into bar \d+ · .* Hardest spot: bar \d+, .*for the chord change`, body, "the hardest spot is a change here")
	_, body = b.get("/songs/1/drill?pattern=thumb-two-between&bar=3")
	assert.Contains(t, body, "The pattern on open strings", "a bar that was chosen is a pattern")
	_, body = b.get("/songs/1/drill?pattern=thumb-two-between&bar=15")
	itself := body[strings.Index(body, "6. The bar itself"):strings.Index(body, "7. With the bar before")]
	for _, chord := range []string{"F", "G7"} {
		assert.Contains(t, itself, "<figcaption>"+chord+"</figcaption>", "every chord of the bar")
	}
	_, body = b.get("/songs/1/drill?pattern=thumb-two-between&kind=change&bar=99")
	assert.Contains(t, body, "the song has bars 1 to 16, not 99.")
	_, body = b.get("/songs/1/drill?pattern=thumb-two-between&minutes=500")
	assert.Contains(t, body, "60 minutes", "an hour is the most")
}

// What a ladder is made of is asked before it is made, with what is proposed filled in; the class's own
// choice is the one that is set.
func TestHowALadderIsBuiltIsAskedFirst(t *testing.T) {
	b := signedIn(t)
	song := strings.TrimPrefix(b.newSong("Asked"), "/songs/")
	at := "/ladders/choices?song=" + song + "&pattern=thumb-one-between&instrument=guitar"
	res, page := b.get(at)
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, page, "Create ladder", "a page of its own, too")
	assert.Regexp(t, `<option value="usual"[^>]*selected`, page)
	assert.Contains(t, page, `<option value="end"`, "ids, not words")
	assert.Regexp(t, `id="ladder-first" name="first"><option value="">\w+ \(suggested\)`, page)
	assert.Contains(t, b.piece(at), `name="chords"`, "and a piece of the song's")
	path := b.newLadder("/songs/"+song, url.Values{"pattern": {"thumb-one-between"}, "order": {"cell by cell"}, "size": {"small"}, "chords": {"each"}, "first": {"Am"}, "second": {"C"}})
	_, page = b.get(path)
	for _, want := range []string{"How it grows: cell by cell", "Size of steps: small steps", "Chords: chords after each pattern"} {
		assert.Contains(t, page, want)
	}
	assert.Contains(t, page, "Guitar · Am", "the step that is open is on the chord to start with")
}

// The sheet of a song with a figure for each part has each part's strips on each of its chords.
func TestASheetHasEachPartOnEachOfItsChords(t *testing.T) {
	b := signedIn(t)
	b.get("/songs/new")
	res, _ := b.post("/songs", url.Values{"text": {"{title: Two Patterns}\n[Verse]\n| C | Am |\n[Chorus]\n| F | G7 |"}, "keep": {"yes"}})
	song := res.Header.Get("Location")
	require.Regexp(t, `^/songs/\d+$`, song)
	for n, pattern := range map[int]string{1: "thumb-one-between", 2: "common-strum"} {
		_, page := b.get(song)
		section := nth(t, page, `id="part-(\d+)"`, n)
		res, body := b.fragment(song+"/edit?instrument=guitar", url.Values{"op": {"part"}, "section": {section}, "text": {pattern}, "version": {version(t, page)}})
		require.Equal(t, fiber.StatusOK, res.StatusCode, body)
	}
	path := b.newLadder(song, url.Values{"size": {"big"}})
	_, page := b.get(path)
	ids := stepsOf(page)
	_, sheet := b.get(path + "/sheet?step=" + ids[len(ids)-1])
	for _, want := range []string{"Chorus, on F:", "Chorus, on G7:"} {
		assert.Contains(t, sheet, want)
	}
	assert.Contains(t, page, `aria-label="Sections: `, "which section comes first is a choice")
}

// A drill goes over the teacher's chords, is kept with them, and says on the week and the sheet what
// it is.
func TestADrillOverTheTeachersChords(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "drill-chords")
	path := id.in("/songs/%[1]d/drill?student=%[4]d&pattern=thumb-two-between&bar=2")
	_, body := b.get(path + "&over=C+F+G7")
	assert.Contains(t, body, "<b>C | F | G7</b>")
	assert.Contains(t, body, "over=C&#43;F&#43;G7", "what is heard is over them, too")
	_, degrees := b.get(path + "&over=I+IV+V7")
	assert.Contains(t, degrees, "<b>C | F | G7</b>")
	res, wrong := b.get(path + "&over=C+Hx")
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, wrong, "“Hx” is neither a chord nor a degree")
	assert.Contains(t, wrong, `value="C Hx"`, "what was typed is kept")
	res, _ = b.post(id.in("/songs/%[1]d/drill"), url.Values{"student": {id.in("%[4]d")}, "kind": {"bar"}, "bar": {fmt.Sprint(id.bars[1])}, "minutes": {"8"}, "notation": {"4/4: p i p m"}, "pattern_name": {"Two between"}, "over": {"C | F | G7"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, on := b.get(res.Header.Get("Location"))
	assert.Contains(t, on, "over C | F | G7")
	_, week := b.get(id.in("/students/%[4]d/week"))
	assert.Contains(t, week, "bar 2 of Upside (Two between, over C | F | G7)")
	_, sheet := b.get(id.in("/ladders/%[2]d/sheet?student=%[4]d"))
	assert.Contains(t, sheet, "Two between, over C | F | G7")
	res, _ = b.post(id.in("/songs/%[1]d/drill"), url.Values{"student": {id.in("%[4]d")}, "kind": {"bar"}, "bar": {fmt.Sprint(id.bars[0])}, "minutes": {"8"}, "notation": {"4/4: p i p m"}, "pattern_name": {"Two between"}, "over": {"<b>"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
}

// A second ladder of a song does not take the place of the one on which the class stands: the desk says
// that there are two, each has its name, one click chooses, and a line goes where somebody stands.
func TestTwoLaddersOfASong(t *testing.T) {
	t.Parallel()
	b, id, students := classOfThree(t, "twoladders")
	s, ctx := storetest.Open(t), t.Context()
	b.get(id.in("/songs/%[1]d"))
	res, body := b.post("/ladders", url.Values{"song": {id.in("%[1]d")}, "pattern": {"thumb-two-between"}, "instrument": {"guitar"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
	second := res.Header.Get("Location")
	_, desk := b.get("/")
	assert.NotContains(t, desk, "Nobody stands on a step yet")
	assert.Contains(t, desk, "This page shows Thumb.", "the one in use stays in front")
	assert.Contains(t, desk, "nobody on it")
	_, lesson := b.get("/lesson")
	assert.NotContains(t, lesson, "nobody is on a step yet")
	res, _ = b.post("/ladders", url.Values{"song": {id.in("%[1]d")}, "pattern": {"thumb-two-between"}, "instrument": {"guitar"}, "section": {"all"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)

	// Nele moves to the second ladder: her line goes there by itself.
	var number int64
	_, err := fmt.Sscanf(second, "/ladders/%d", &number)
	require.NoError(t, err)
	other, err := s.Ladder(ctx, id.teacher, ref.Ladder(number))
	require.NoError(t, err)
	_, _, err = s.Place(ctx, id.teacher, id.ladder, store.Places{students[1]: 0})
	require.NoError(t, err)
	_, _, err = s.Place(ctx, id.teacher, other.ID, store.Places{students[1]: other.Steps[0].ID})
	require.NoError(t, err)
	require.NoError(t, s.SetProgress(ctx, id.teacher, other.ID, store.Now))
	b.get("/")
	b.post("/log", url.Values{"line": {"nele 60, momo 61"}, "ladder": {id.in("%[2]d")}, "class": {id.in("%[5]d")}})
	_, body = b.get("/")
	assert.Contains(t, body, fmt.Sprintf("Nele: 60, clean, on step 1 of Upside, %s; Momo: 61, clean, on step 1.", other.PatternName))

	res, _ = b.post(second+"/name", url.Values{"name": {"  For the   pickers "}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, body = b.get(second)
	assert.Contains(t, body, `value="For the pickers"`)
	res, body = b.post(second+"/name", url.Values{"name": {" "}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "A ladder’s name has 1 to 120 characters.")
	another, _ := ownSchool(t, "twoladders-another")
	another.get("/")
	res, _ = another.post(second+"/name", url.Values{"name": {"mine"}})
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode)

	_, desk = b.get(fmt.Sprintf("/?ladder=%d", id.ladder))
	assert.Contains(t, desk, "For the pickers")
	assert.Contains(t, desk, "1 person on it")
	res, _ = b.post(id.in("/ladders/%[2]d/progress"), url.Values{"to": {"aside"}, "back": {"/"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, desk = b.get("/")
	assert.Contains(t, desk, "For the pickers")
	assert.NotContains(t, desk, "has another ladder here: <a href=\""+id.in("/?ladder=%[2]d"))
}
