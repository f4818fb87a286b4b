package web_test

import (
	"fmt"
	"net/url"
	"regexp"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A class of the test's own, from nothing to its schools.
func TestAClassAndItsSchools(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "classes")
	b.get("/class")
	res, body := b.post("/class", url.Values{"name": {"   "}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "The class needs a name.")
	res, _ = b.post("/class", url.Values{"name": {"  Friday,   at five "}})
	assert.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, body = b.get("/class")
	assert.Contains(t, body, "Friday, at five", "blanks are tidied")
	assert.Contains(t, body, "There are no students yet.")
	assert.Contains(t, body, id.in(`name="class" value="%[5]d"`), "the other class is one click away")
	_, body = b.get("/")
	assert.Contains(t, body, "There are no students in this class yet.")

	res, _ = b.post("/class/choose", url.Values{"class": {id.in("%[5]d")}, "back": {"/songs?x=1"}})
	assert.Equal(t, "/songs?x=1", res.Header.Get("Location"), "back where the choice was made")
	res, _ = b.post("/class/choose", url.Values{"class": {id.in("%[5]d")}, "back": {"//elsewhere.test"}})
	assert.Equal(t, "/", res.Header.Get("Location"), "and nowhere else")
	settings := url.Values{
		"name": {"Upside down"}, "minutes": {"50"}, "fingers": {"fixed"}, "low_fifth": {"no"}, "anchor": {"yes"}, "long_nails": {"yes"},
		"wrist": {"no"}, "lean": {"yes"}, "thick_on_top": {"yes"}, "sing_low": {"G3"}, "sing_high": {"C5"}, "version": {"1"},
	}
	res, _ = b.post(id.in("/class/%[5]d"), settings)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, body = b.get("/class")
	for _, want := range []string{`value="fixed" selected`, "50 minutes", `value="G3"`, `value="C5"`} {
		assert.Contains(t, body, want)
	}
	for field, c := range map[string]struct{ bad, want string }{
		"minutes":   {"3", "A lesson has 5 to 240 minutes."},
		"fingers":   {"third", "is not a school of fingers"},
		"sing_low":  {"H9", "is not a pitch"},
		"sing_high": {"A2", "is not lower than"},
		"name":      {"", "The class needs a name."},
	} {
		wrong := url.Values{}
		for k, v := range settings {
			wrong[k] = v
		}
		wrong.Set(field, c.bad)
		res, body := b.post(id.in("/class/%[5]d"), wrong)
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, field)
		assert.Contains(t, body, c.want, field)
		assert.Contains(t, body, "<option value=\"yes\" selected>little finger lightly anchored", "what was chosen is kept")
	}
}

// Students: a name once in a class, any tuning, a hand of their own.
func TestStudentsOfAClass(t *testing.T) {
	b, id := ownSchool(t, "students")
	b.get("/class")
	add := func(fields url.Values) (int, string) {
		res, body := b.post(id.in("/class/%[5]d/students"), fields)
		return res.StatusCode, body
	}
	code, _ := add(url.Values{"name": {"Kim"}, "tuning": {"C2 G2 D3 G3 A3 D4"}, "left_handed": {"yes"}, "own_fingers": {"fixed"}, "day_minutes": {"25"}})
	require.Equal(t, fiber.StatusSeeOther, code)
	_, body := b.get("/class")
	assert.Contains(t, body, "left-handed")
	assert.Contains(t, body, "25 minutes a day")
	for _, c := range []struct {
		fields url.Values
		want   string
	}{
		{url.Values{"name": {"Momo"}, "instrument": {"guitar"}}, "There’s already a Momo in this class"},
		{url.Values{"name": {""}, "instrument": {"guitar"}}, "The student needs a name."},
		{url.Values{"name": {"Lu"}, "instrument": {"harp"}}, "is not an instrument that Arplin knows"},
		{url.Values{"name": {"Lu"}, "tuning": {"E2 X"}}, "an instrument has 3 to 10 strings"},
		{url.Values{"name": {"Lu"}, "instrument": {"guitar"}, "day_minutes": {"2"}}, "5 to 120 minutes"},
	} {
		code, body := add(c.fields)
		assert.Equal(t, fiber.StatusUnprocessableEntity, code)
		assert.Contains(t, body, c.want)
	}
	edit := regexp.MustCompile(`href="(/class\?student=\d+)#add" aria-label="Edit Kim"`).FindStringSubmatch(body)
	require.NotNil(t, edit)
	_, body = b.get(edit[1])
	assert.Contains(t, body, `value="C2 G2 D3 G3 A3 D4"`)
	assert.Contains(t, body, `value="25"`)
	res, _ := b.post(id.in("/students/%[4]d"), url.Values{"name": {"Momo the second"}, "instrument": {"baritone"}, "version": {"1"}})
	assert.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, body = b.get("/class")
	assert.Contains(t, body, "Momo the second")
	assert.Contains(t, body, "Baritone ukulele")
}

// Names move on the ladder, say so, and can be moved back; what is put away
// comes back by undo.
func TestPlacesAndUndo(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "places")
	ladder := id.in("/ladders/%[2]d")
	_, body := b.get("/")
	assert.Contains(t, body, "Find a step")
	put := func(step int) url.Values { return url.Values{"place": {fmt.Sprintf("%d %d", id.student, step)}} }
	res, body := b.fragment(ladder+"/place", put(int(id.steps[1])))
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, body, "Momo is on step 2 now.")
	res, body = b.fragment(ladder+"/place", put(0))
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, body, "Momo isn’t placed yet.")
	_, body = b.move(ladder, "undo")
	assert.Contains(t, body, "Undone: Momo on step 2.")
	_, body = b.move(ladder, "redo")
	assert.Contains(t, body, "Again: Momo waits.")
	res, _ = b.post(ladder+"/place", put(int(id.steps[0]))) // without the script
	assert.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, body = b.get("/")
	assert.Contains(t, body, "Drill: bar 2, 5 min")

	b.archive(ladder)
	_, body = b.get("/ladders")
	assert.Contains(t, body, "The ladder is archived, with everything in it.")
	assert.NotContains(t, body, id.in(`href="/ladders/%[2]d"`))
	b.post(id.in("/archive/ladder/%[2]d/restore"), url.Values{})
	_, body = b.get("/ladders")
	assert.Contains(t, body, id.in(`href="/ladders/%[2]d"`))

	song := id.in("/songs/%[1]d")
	b.archive(song)
	_, body = b.get("/songs")
	assert.NotContains(t, body, `href="`+song+`"`)
	assert.Contains(t, body, "The song is archived, with everything in it.")
	b.post(id.in("/archive/song/%[1]d/restore"), url.Values{})
	_, body = b.get("/songs")
	assert.Contains(t, body, `href="`+song+`"`)
	b.post("/signout", url.Values{})
	res, _ = b.get("/")
	assert.Equal(t, "/signin", res.Header.Get("Location"))
}

// The shapes of a chord: others by effort, easier ones with what they give up,
// one of the teacher's own.
func TestShapesOfAChord(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "shapes")
	song := id.in("/songs/%[1]d?instrument=guitar&chord=F")
	_, body := b.get(song)
	for _, want := range []string{"Other shapes of F", "Your own shape", "133211"} {
		assert.Contains(t, body, want)
	}
	take := func(text string) (int, string) {
		_, page := b.get(song)
		res, body := b.fragment(id.in("/songs/%[1]d/edit?instrument=guitar"), url.Values{"op": {"shape"}, "instrument": {"guitar"}, "chord": {"F"}, "text": {text}, "version": {version(t, page)}})
		return res.StatusCode, body
	}
	code, body := take("133211")
	require.Equal(t, fiber.StatusOK, code)
	assert.Contains(t, body, "F on Guitar is 133211.")
	_, body = b.get(song)
	assert.Contains(t, body, "Easier shapes, and what they give up")
	code, body = take("13321")
	assert.Equal(t, fiber.StatusUnprocessableEntity, code)
	assert.Contains(t, body, "strings")
	code, body = take("")
	require.Equal(t, fiber.StatusOK, code)
	assert.NotContains(t, body, "133211 · root", "the easiest shape is back")
}

// Where a pattern takes the low fifth, the teacher keeps the thumb on the root of a chord, and takes
// that back.
func TestTheThumbKeepsToTheRoot(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "roots")
	page := id.in("/songs/%[1]d?instrument=guitar&pattern=thumb-low-fifth&chord=F")
	press := func(text string) string {
		_, body := b.get(page)
		res, body := b.fragment(id.in("/songs/%[1]d/edit?instrument=guitar&pattern=thumb-low-fifth&chord=F"), url.Values{"op": {"root"}, "instrument": {"guitar"}, "chord": {"F"}, "text": {text}, "version": {version(t, body)}})
		require.Equal(t, fiber.StatusOK, res.StatusCode)
		return body
	}
	_, body := b.get(page)
	assert.Contains(t, body, "Keep the thumb on the root")
	body = press("keep")
	assert.Contains(t, body, "the thumb keeps to the root of F on Guitar")
	assert.Contains(t, body, "Use the low fifth again")
	assert.Contains(t, press(""), "Keep the thumb on the root")
	_, body = b.get(id.in("/songs/%[1]d?instrument=guitar&chord=F&pattern=four-up"))
	assert.NotContains(t, body, "Keep the thumb on the root", "this one has no low fifth")
}

// A day has five minutes of practice at least and two hours at most; without any said it has the
// usual ones. Source: from memory, core/practice.
func TestTheMinutesOfADayHaveBounds(t *testing.T) {
	b, id := ownSchool(t, "bounds")
	for minutes, ok := range map[string]bool{"4": false, "5": true, "120": true, "121": false, "ten": false, "": true} {
		_, page := b.get(fmt.Sprintf("/class?student=%d", id.student))
		res, body := b.post(id.in("/students/%[4]d"), url.Values{"name": {"Momo"}, "instrument": {"guitar"}, "day_minutes": {minutes}, "version": {nth(t, page, fmt.Sprintf(`(?s)action="/students/%d".*?name="version" value="(\d+)"`, id.student), 1)}})
		assert.Equal(t, ok, res.StatusCode == fiber.StatusSeeOther, "%q: %d %s", minutes, res.StatusCode, body)
		if !ok {
			assert.Contains(t, body, "5 to 120 minutes of practice", minutes)
		}
	}
}
