package web_test

import (
	"fmt"
	"net/url"
	"regexp"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/storetest"
)

// A chord has one shape in the song, another in one bar, with fingers of the teacher's;
// the page stays on the instrument that was chosen.
func TestShapesOfOneBarWithFingers(t *testing.T) {
	t.Parallel()
	b, _ := ownSchool(t, "bar-shapes")
	b.get("/songs/new")
	res, _ := b.post("/songs", url.Values{"text": {"{title: Two shapes}\n| F | C | F | C |"}})
	path := res.Header.Get("Location")
	_, body := b.get(path + "?instrument=guitar&pattern=thumb-once&chord=F")
	assert.Contains(t, body, `href="`+path+`?instrument=guitar&amp;pattern=thumb-once&amp;chord=C#chord"`, "the next chord keeps what is chosen")
	third := nth(t, body, `<option value="(\d+)">only in bar 3`, 1)
	shape := func(fields url.Values) string {
		fields.Set("op", "shape")
		fields.Set("instrument", "guitar")
		fields.Set("chord", "F")
		fields.Set("version", version(t, body))
		res, answer := b.fragment(path+"/edit?instrument=guitar&chord=F", fields)
		if res.StatusCode == fiber.StatusOK {
			body = answer
		}
		return answer
	}
	assert.Contains(t, shape(url.Values{"own": {"133211"}, "fingers": {"134211"}}), "F on Guitar is 133211/134211.")
	said := shape(url.Values{"text": {"xx3211"}, "bar": {third}})
	assert.Contains(t, said, "F on Guitar is xx3211 in bar 3 of Part 1.")
	assert.Contains(t, said, "In bar 3, Part 1 it is <b>xx3211</b>.")
	assert.Contains(t, shape(url.Values{"own": {"133211"}, "fingers": {"111111"}}), "the index finger cannot be on fret 1 and on fret 3")
	assert.Contains(t, shape(url.Values{"own": {""}, "fingers": {"134211"}}), "rite the frets of the shape too")
	assert.Contains(t, shape(url.Values{"text": {""}, "bar": {third}}), "F on Guitar has its usual shape again in bar 3 of Part 1.")
	assert.NotContains(t, body, "<b>xx3211</b>.")
}

// A student who holds a chord in another way has it on every sheet of their own.
func TestAStudentsOwnShapes(t *testing.T) {
	b, id := ownSchool(t, "own-hands")
	_, body := b.get(id.in("/class?student=%[4]d"))
	student := url.Values{"name": {"Momo"}, "instrument": {"ukulele"}, "day_minutes": {"15"}, "version": {version(t, body)}}
	student.Set("shapes", "C 5437, Am 2003")
	res, _ := b.post(id.in("/students/%[4]d"), student)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, body = b.get(id.in("/ladders/%[2]d/sheet?student=%[4]d&all=yes"))
	assert.Contains(t, body, "5437")
	_, body = b.get(id.in("/ladders/%[2]d/sheet?instrument=ukulele&all=yes"))
	assert.NotContains(t, body, "5437", "the others keep the song's")
	_, body = b.get(id.in("/class?student=%[4]d"))
	assert.Contains(t, body, `value="Am 2003, C 5437"`)
	student.Set("version", version(t, body))
	student.Set("shapes", "C x32010")
	res, body = b.post(id.in("/students/%[4]d"), student)
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "6 strings")
	assert.Contains(t, body, `value="C x32010"`, "what was typed is kept")
}

// A song whose parts are written with figures of their own has a ladder of both, and a
// line of the teacher's stands on the step and on its sheet.
func TestALadderOfTwoFigures(t *testing.T) {
	b := signedIn(t)
	b.get("/songs/new")
	res, _ := b.post("/songs", url.Values{"text": {"{title: Both hands}\n{sov}\n[C]one [Am]two [C]three [G7]four\n{eov}\n{soc}\n[F]five [C]six\n{eoc}"}})
	song := res.Header.Get("Location")
	_, body := b.get(song)
	for i, ref := range []string{"outside-inside", "common-strum"} {
		_, body = b.fragment(song+"/edit", url.Values{"op": {"part"}, "section": {regexp.MustCompile(aSection).FindAllStringSubmatch(body, -1)[i][1]}, "text": {ref}, "version": {version(t, body)}})
	}
	path := b.newLadder(song, url.Values{})
	_, body = b.get(path)
	assert.Regexp(t, `<span class="adds">\+ [^<]*, in Chorus</span>`, body)
	step := nth(t, body, `data-step="([1-9]\d*)"`, 1)
	_, body = b.get(path + "?open=" + step)
	assert.Contains(t, body, `aria-label="4/4: down strum on 1, down strum on 2`, "the chorus as a lane")
	_, body = b.fragment(path+"/edit", url.Values{"op": {"note"}, "step": {step}, "text": {"  mind <the> change "}, "version": {version(t, body)}})
	assert.Contains(t, body, `mind &lt;the&gt; change</p>`)
	_, sheet := b.get(path + "/sheet?step=" + step)
	assert.Contains(t, sheet, "mind &lt;the&gt; change")
	assert.Contains(t, sheet, "Chorus, on F:", "the sheet has the pattern of the chorus")
	_, body = b.move(path, "undo")
	assert.NotContains(t, body, "mind")
}

// A hand that cannot do a barre yet gets other shapes on its sheet, a capo that always
// sits changes what is fingered, and both are the student's own.
func TestWhatAHandCannotDoYet(t *testing.T) {
	b, id := ownSchool(t, "hands")
	s, ctx := storetest.Open(t), t.Context()
	st, err := s.AddStudent(ctx, id.teacher, store.Student{ClassID: id.class, Name: "Nele", Instrument: "guitar"})
	require.NoError(t, err)
	sheet := fmt.Sprintf("/ladders/%d/sheet?student=%d&all=yes&step=%d", id.ladder, st, id.steps[1])
	_, before := b.get(sheet)
	_, form := b.get(fmt.Sprintf("/class?student=%d", st))
	assert.Contains(t, form, `name="no_barre"`)
	change := url.Values{"name": {"Nele"}, "instrument": {"guitar"}, "no_barre": {"yes"}, "no_little": {"yes"}, "capo": {"2"}, "version": {"1"}}
	res, body := b.post(fmt.Sprintf("/students/%d", st), change)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
	_, after := b.get(sheet)
	assert.NotContains(t, before, "capo 2")
	assert.Contains(t, after, "capo 2")
	kept, err := s.Student(ctx, id.teacher, st)
	require.NoError(t, err)
	assert.Equal(t, "barre,little", kept.Cannot)
	change.Set("capo", "12")
	change.Set("version", "2")
	res, body = b.post(fmt.Sprintf("/students/%d", st), change)
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "A capo sits on fret 1 to 7")
	assert.Regexp(t, `id="no_barre"[^>]*checked`, body, "what was ticked is kept")
}

// What was heard on a drill is logged on it, once, and shown with its day; a drill stays on
// the desk until it is done.
func TestADrillIsHeard(t *testing.T) {
	b, id := ownSchool(t, "drill-heard")
	path := id.in("/drills/%[3]d")
	b.get(path)
	form := url.Values{"tempo": {"60 x"}, "client_id": {"0123456789abcdefdrill"}}
	res, _ := b.post(path+"/log", form)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	b.post(path+"/log", form)
	b.post(path+"/log", url.Values{"tempo": {"66"}, "client_id": {"1123456789abcdefdrill"}})
	_, body := b.get(path)
	assert.Regexp(t, `<b>66</b> \d+ \w+, <b>60</b> x \d+ \w+</span>`, body, "sent twice is once")
	res, body = b.post(path+"/log", url.Values{"tempo": {"fast"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "isn’t a tempo")
	assert.Contains(t, body, `value="fast"`, "what was typed is kept")
	_, body = b.get("/")
	assert.Contains(t, body, path)
	b.post(path+"/done", url.Values{})
	_, body = b.get("/")
	assert.NotContains(t, body, path+`"`)
	assert.Contains(t, body, "Marked as done.")
	b.post(path+"/restore", url.Values{})
	_, body = b.get("/")
	assert.Contains(t, body, path)
}
