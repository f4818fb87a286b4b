package web_test

import (
	"html"
	"net/url"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/storetest"
)

// A sheet is shown as it was understood before it is saved; nothing of it is lost,
// and what was kept as a note is mended on the song's page.
func TestAPreviewAndItsNotes(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "preview")
	b.get("/songs/new")
	sheet := "Found\n\nVerse 1:\nC        G\nChords above it\ne|--0--1--|\nVerse 2:\nsung on the same\n{time: 3/4}\n| [F]three |\nodd <line>"
	res, body := b.fragment("/songs/preview", url.Values{"text": {sheet}})
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	for _, want := range []string{"5 bars", "C major, from the chords", "above it", "sung", "e|--0--1--|", "3/4", "odd &lt;line&gt;"} {
		assert.Contains(t, body, want)
	}
	assert.Equal(t, 1, count(t, "SELECT COUNT(*) FROM songs WHERE teacher_id = ?", id.teacher), "nothing is stored")
	res, _ = b.post("/songs", url.Values{"text": {sheet}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	path := res.Header.Get("Location")
	_, body = b.get(path)
	assert.Contains(t, body, "e|--0--1--|")
	assert.Contains(t, body, "odd &lt;line&gt;")
	bar := nth(t, body, `name="op" value="notes"><input type="hidden" name="bar" value="(\d+)"`, 1)
	_, body = b.fragment(path+"/edit", url.Values{"op": {"notes"}, "bar": {bar}, "text": {"slowly"}, "version": {version(t, body)}})
	assert.Contains(t, body, "slowly")
	assert.NotContains(t, body, "e|--0--1--|")
	_, body = b.fragment(path+"/edit", url.Values{"op": {"barmeter"}, "bar": {bar}, "text": {"6/8"}, "version": {version(t, body)}})
	assert.Contains(t, body, `<span class="role">6/8</span>`)
	_, body = b.fragment(path+"/edit", url.Values{"op": {"title"}, "text": {"Renamed"}, "version": {version(t, body)}})
	_, body = b.fragment(path+"/edit", url.Values{"op": {"say-key"}, "text": {"G"}, "version": {version(t, body)}})
	assert.Contains(t, body, "G major, set by you")
	assert.Contains(t, body, "Renamed")
}

// Each part of a song may have a pattern of its own, which undo takes off.
func TestAPatternForEachPart(t *testing.T) {
	b := signedIn(t)
	b.get("/songs/new")
	res, _ := b.post("/songs", url.Values{"text": {"{title: Parts}\n[Verse]\n[C]a [Am]b\n[Chorus]\n[F]c [G7]d"}})
	path := res.Header.Get("Location")
	_, body := b.get(path)
	sections := regexp.MustCompile(`id="section-(\d+)"`).FindAllStringSubmatch(body, -1)
	require.Len(t, sections, 2)
	for i, ref := range []string{"thumb-once", "common-strum"} {
		_, body = b.fragment(path+"/edit?instrument=guitar", url.Values{"op": {"part"}, "section": {sections[i][1]}, "text": {ref}, "version": {version(t, body)}})
	}
	assert.Contains(t, body, `<span class="sub">Thumb, once a bar</span>`)
	assert.Regexp(t, `(?s)id="section-`+sections[1][1]+`".*aria-label="bar 3[^"]*4/4: D`, body, "the chorus is strummed")
	assert.Regexp(t, `(?s)aria-label="bar 1[^"]*4/4: p`, body, "the verse is not")
	_, body = b.move(path, "undo")
	assert.NotRegexp(t, `aria-label="bar 3`, body, "undo takes the chorus's off")
	_, body = b.fragment(path+"/edit", url.Values{"op": {"part"}, "section": {sections[0][1]}, "text": {"own-99999"}, "version": {version(t, body)}})
	assert.Contains(t, body, "isn’t there any more")
}

// A shape of the teacher's own is allowed, and said what it is.
func TestAnOwnShapeIsSaidWhatItIs(t *testing.T) {
	b, id := ownSchool(t, "own-shapes")
	path := id.in("/songs/%[1]d")
	_, body := b.get(path)
	set := func(frets string) string {
		_, body = b.fragment(path+"/edit?instrument=guitar", url.Values{"op": {"shape"}, "instrument": {"guitar"}, "chord": {"C"}, "text": {frets}, "version": {version(t, body)}})
		return body
	}
	assert.Contains(t, set("999999"), "These notes are C# F# B E G#, not C.")
	assert.NotContains(t, set("332010"), "These notes are", "the fifth in the bass is the chord still")
	assert.Contains(t, set("xx5533"), "These notes are G C", "without its third it is not")
}

// A key is put on with any tuning in the class, its capo too.
func TestAKeyWithATuningOfOnesOwn(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "tunings")
	_, err := storetest.Open(t).AddStudent(t.Context(), id.teacher, store.Student{ClassID: id.class, Name: "Kim", Instrument: "tuning:C2-G2-D3-G3-A3-D4"})
	require.NoError(t, err)
	_, body := b.get(id.in("/songs/%[1]d/keys"))
	forms := regexp.MustCompile(`(?s)<form method="post" action="/songs/\d+/edit">.*?</form>`).FindAllString(body, -1)
	put := 0
	for _, form := range forms {
		if !strings.Contains(form, `name="capo tuning:`) {
			continue
		}
		put++
		fields := url.Values{}
		for _, m := range regexp.MustCompile(`name="([^"]+)" value="([^"]*)"`).FindAllStringSubmatch(form, -1) {
			fields.Set(html.UnescapeString(m[1]), html.UnescapeString(m[2]))
		}
		fields.Set("version", "")
		_, page := b.get(id.in("/songs/%[1]d"))
		fields.Set("version", version(t, page))
		res, body := b.post(id.in("/songs/%[1]d/edit"), fields)
		require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
	}
	assert.Positive(t, put)
}

// Choosing a student on a sheet goes to that student's step; a step that is chosen
// afterwards stays.
func TestASheetGoesToItsStudentsStep(t *testing.T) {
	b, id := ownSchool(t, "sheet-steps")
	_, _, err := storetest.Open(t).Place(t.Context(), id.teacher, id.ladder, store.Places{id.student: id.steps[0]})
	require.NoError(t, err)
	sheet := func(student, was string, step int) string {
		_, body := b.get(id.in("/ladders/%[2]d/sheet?") + url.Values{"student": {student}, "was": {was}, "step": {strconv.Itoa(int(id.steps[step]))}}.Encode())
		return nth(t, body, `<option value="(\d+)" selected>`, 1)
	}
	momo := id.in("%[4]d")
	assert.Equal(t, strconv.Itoa(int(id.steps[0])), sheet(momo, "everybody", 1), "Momo is on the first")
	assert.Equal(t, strconv.Itoa(int(id.steps[1])), sheet(momo, momo, 1), "the teacher wants another")
	assert.Equal(t, strconv.Itoa(int(id.steps[1])), sheet("", "everybody", 1))
}
