package web_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/ref"
	"arplin/store/storetest"
	"arplin/teach"
)

// aPhone is a phone of a school's student: its link, and what sends to it.
func aPhone(t *testing.T, id ids) (link string, send func(body string) (*http.Response, string)) {
	t.Helper()
	s := storetest.Open(t)
	room := teach.New(s)
	c, err := room.People.Class(t.Context(), id.teacher, id.class)
	require.NoError(t, err)
	l, err := room.Home.LinkOf(t.Context(), id.teacher, c, id.student, time.Now())
	require.NoError(t, err)
	require.Len(t, l.Secret, 26, "128 bits")
	b := newBrowser(t, s)
	return l.Path(), func(body string) (*http.Response, string) {
		req := httptest.NewRequest(fiber.MethodPost, l.Path()+"/log", strings.NewReader(body))
		req.Header.Set(fiber.HeaderContentType, fiber.MIMEApplicationJSON)
		return b.send(req)
	}
}

// homeOf is what came from the homes of a school.
func homeOf(t *testing.T, id ids) []store.HomeEntry {
	t.Helper()
	list, err := storetest.Open(t).Home(t.Context(), id.teacher, id.class, 0, time.Unix(0, 0))
	require.NoError(t, err)
	return list
}

// A link shows a page without a name, says how browsers are to handle it, and leaves no cookie.
func TestAPhonesPageNamesNobody(t *testing.T) {
	t.Parallel()
	teacher, id := ownSchool(t, "phone-page")
	_, _, err := storetest.Open(t).Place(t.Context(), id.teacher, id.ladder, store.Places{id.student: id.steps[0]})
	require.NoError(t, err)
	link, _ := aPhone(t, id)
	b := newBrowser(t, storetest.Open(t))
	res, body := b.get(link)
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, body, "Upside down", "what the teacher calls the class")
	for _, name := range []string{"Momo", "Nobody", "@arplin.test"} {
		assert.NotContains(t, body, name)
	}
	assert.Equal(t, "no-referrer", res.Header.Get("Referrer-Policy"))
	assert.Contains(t, res.Header.Get("X-Robots-Tag"), "noindex")
	assert.Contains(t, res.Header.Get("Content-Security-Policy"), "'wasm-unsafe-eval'")
	assert.NotContains(t, res.Header.Get("Content-Security-Policy"), "'unsafe-eval'")
	assert.Empty(t, res.Header.Values("Set-Cookie"))
	typed := "/p/" + strings.ToUpper(link[3:10]) + "-" + strings.ToUpper(link[10:])
	res, _ = b.get(typed)
	assert.Equal(t, fiber.StatusOK, res.StatusCode, "as it is typed from paper")
	res, _ = b.get(fmt.Sprintf("%s/score/%d/%d", link, id.ladder, id.steps[0]))
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	res, _ = b.get(fmt.Sprintf("%s/drill/%d?exercise=1", link, id.drill))
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	res, _ = teacher.get("/songs")
	assert.NotContains(t, res.Header.Get("Content-Security-Policy"), "wasm", "on a student's pages only")
	_, body = teacher.get("/class/phones/slips")
	assert.Contains(t, body, link, "for the teacher it is on paper")
	_, body = teacher.get(fmt.Sprintf("/students/%d/week", id.student))
	assert.Contains(t, body, link)
	_, body = teacher.get(fmt.Sprintf("/ladders/%d/sheet?student=%d", id.ladder, id.student))
	assert.Contains(t, body, link)
	_, body = teacher.get(fmt.Sprintf("/ladders/%d/sheets", id.ladder))
	assert.Contains(t, body, link)
	_, body = teacher.get(fmt.Sprintf("/ladders/%d/sheet", id.ladder))
	assert.NotContains(t, body, "/p/", "a sheet for everyone has nobody's link")
}

// A link opens nothing of a teacher's, in whatever way it is shown.
func TestAPhoneOpensNoTeachersRoute(t *testing.T) {
	t.Parallel()
	teacher, id := ownSchool(t, "phone-walk")
	link, _ := aPhone(t, id)
	secret := strings.TrimPrefix(link, "/p/")
	b := newBrowser(t, storetest.Open(t))
	before := everything(t, storetest.Open(t), id)
	walked := 0
	for _, route := range teacher.app.GetRoutes(true) {
		if strings.HasPrefix(route.Path, "/p/") || strings.HasPrefix(route.Path, "/static") || route.Method == fiber.MethodHead {
			continue
		}
		switch route.Path {
		case "/signin", "/signout", "/token", "/healthz", "/", "/invite/:secret":
			continue // a stranger's, too; the first page leads to the sign-in
		}
		path := strings.NewReplacer(":id", fmt.Sprint(id.ladder), ":step", fmt.Sprint(id.steps[0]), ":kind", "student", ":ref", "thumb-once", ":topic", "start", ":name", "start.png").Replace(route.Path)
		req := httptest.NewRequest(route.Method, path+"?secret="+secret, nil)
		req.Header.Set(fiber.HeaderAuthorization, "Bearer "+secret)
		req.Header.Set(fiber.HeaderReferer, "http://example.com"+link)
		req.AddCookie(&http.Cookie{Name: "arplin_session", Value: secret})
		res, body := b.send(req)
		assert.Contains(t, []int{fiber.StatusSeeOther, fiber.StatusUnauthorized, fiber.StatusForbidden, fiber.StatusNotFound}, res.StatusCode, "%s %s", route.Method, path)
		assert.NotContains(t, body, "Momo", path)
		walked++
	}
	assert.Greater(t, walked, 120)
	assert.Equal(t, before, everything(t, storetest.Open(t), id))
}

// What is another student's, another class's, another teacher's is not there.
func TestAPhoneReadsItsOwnOnly(t *testing.T) {
	t.Parallel()
	_, mine := ownSchool(t, "phone-mine")
	_, theirs := ownSchool(t, "phone-theirs")
	s, ctx := storetest.Open(t), t.Context()
	link, send := aPhone(t, mine)
	sister, err := s.AddStudent(ctx, mine.teacher, store.Student{ClassID: mine.class, Name: "Mimi", Instrument: "guitar"})
	require.NoError(t, err)
	d, err := s.Drill(ctx, mine.teacher, mine.drill)
	require.NoError(t, err)
	d.StudentID = sister
	hers, err := s.AddDrill(ctx, mine.teacher, d)
	require.NoError(t, err)
	elsewhere, err := s.AddClass(ctx, mine.teacher, store.Class{Name: "Another", LessonMinutes: 45, Fingers: "moving"})
	require.NoError(t, err)
	l, err := s.Ladder(ctx, mine.teacher, mine.ladder)
	require.NoError(t, err)
	l.ClassID = elsewhere
	far, err := s.AddLadder(ctx, mine.teacher, l)
	require.NoError(t, err)
	b := newBrowser(t, s)
	for _, path := range []string{
		fmt.Sprintf("/score/%d/%d", theirs.ladder, theirs.steps[0]), fmt.Sprintf("/score/%d/%d", far, mine.steps[0]), fmt.Sprintf("/score/%d/999", mine.ladder),
		fmt.Sprintf("/drill/%d?exercise=1", theirs.drill), fmt.Sprintf("/drill/%d?exercise=1", hers), "/score/x/y", "/drill/0", "/week", "/../class",
	} {
		res, _ := b.get(link + path)
		assert.Equal(t, fiber.StatusNotFound, res.StatusCode, path)
	}
	now := time.Now().UnixMilli()
	for _, ladder := range []ref.Ladder{theirs.ladder, far, 1 << 40} {
		res, body := send(fmt.Sprintf(`{"now":%d,"entries":[{"id":"foreign-%d","at":%d,"card":"step","ladder":%d,"step":1,"went":"done","tempo":70}]}`, now, ladder, now, ladder))
		assert.Equal(t, fiber.StatusOK, res.StatusCode)
		assert.Contains(t, body, "Your teacher has removed this song.")
	}
	res, _ := send(fmt.Sprintf(`{"now":%d,"entries":[{"id":"drill-of-hers","at":%d,"card":"drill","drill":%d,"went":"done"}]}`, now, now, hers))
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	list := homeOf(t, mine)
	require.Len(t, list, 1)
	assert.Zero(t, list[0].DrillID, "no drill of somebody else's")
	assert.Empty(t, homeOf(t, theirs))
}

// A link that was turned off, replaced or has ended opens nothing, also for a page that is open.
func TestALinkEnds(t *testing.T) {
	teacher, id := ownSchool(t, "phone-ends")
	link, send := aPhone(t, id)
	b := newBrowser(t, storetest.Open(t))
	opens := func(at string) int { res, _ := b.get(at); return res.StatusCode }
	require.Equal(t, fiber.StatusOK, opens(link))
	res, _ := teacher.post(fmt.Sprintf("/students/%d/phone", id.student), url.Values{"do": {"revoke"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	res, body := b.get(link)
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode)
	assert.Contains(t, body, "Ask your teacher for a new one.")
	res, _ = send(`{"now":1,"entries":[]}`)
	assert.Equal(t, fiber.StatusNotFound, res.StatusCode)
	_, body = teacher.get(fmt.Sprintf("/students/%d/week", id.student))
	assert.NotContains(t, body, "On a phone")
	teacher.post(fmt.Sprintf("/students/%d/phone", id.student), url.Values{"do": {"renew"}})
	assert.Equal(t, fiber.StatusNotFound, opens(link), "the one before")
	fresh, _ := aPhone(t, id)
	assert.NotEqual(t, link, fresh)
	assert.Equal(t, fiber.StatusOK, opens(fresh))
	for day, says := range map[string]string{"": "choose the day", "1999-01-01": "that day is over", "2999-01-01": "within a year"} {
		res, body = teacher.post("/class/phones", url.Values{"do": {"end"}, "ends": {day}})
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, day)
		assert.Contains(t, strings.ToLower(body), says)
	}
	teacher.post("/class/phones", url.Values{"do": {"revoke"}})
	assert.Equal(t, fiber.StatusNotFound, opens(fresh), "all of them")
	teacher.post("/class/phones", url.Values{"do": {"renew"}})
	fresh, _ = aPhone(t, id)
	assert.Equal(t, fiber.StatusOK, opens(fresh))
	_, err := database(t).Exec("UPDATE phone_links SET ends = ? WHERE student_id = ?", time.Now().AddDate(0, 0, -1).Format(time.DateOnly), id.student)
	require.NoError(t, err)
	assert.Equal(t, fiber.StatusNotFound, opens(fresh), "ended")
	_, body = teacher.get("/class/phones")
	assert.Contains(t, body, "ended ")
}

// Guesses open nothing and are refused after some; a link that is right is never locked out by them.
func TestGuessedLinks(t *testing.T) {
	_, id := ownSchool(t, "phone-guess")
	link, _ := aPhone(t, id)
	b := newBrowser(t, storetest.Open(t))
	forget := func() { // other tests come from the same network
		_, err := database(t).Exec("DELETE FROM keyvalues WHERE k LIKE 'phone-network-%'")
		require.NoError(t, err)
	}
	forget()
	t.Cleanup(forget)
	refused := 0
	for n := range 300 {
		res, _ := b.get(fmt.Sprintf("/p/%s%04d", link[3:25], n)) // near misses
		require.NotEqual(t, fiber.StatusOK, res.StatusCode)
		if res.StatusCode == fiber.StatusTooManyRequests {
			refused++
		}
	}
	assert.Greater(t, refused, 200)
	res, _ := b.get(link)
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
}

// Whatever a phone sends: a sentence, what is right is kept once at the time at which it was played, and what is
// not is named.
func TestWhatAPhoneSends(t *testing.T) {
	_, id := ownSchool(t, "phone-sends")
	_, send := aPhone(t, id)
	now := time.Now()
	entry := func(name string, at time.Time, more string) string {
		return fmt.Sprintf(`{"id":%q,"at":%d,"card":"step","ladder":%d,"step":%d,"went":"done","tempo":70%s}`, name, at.UnixMilli(), id.ladder, id.steps[0], more)
	}
	batch := func(clock time.Time, entries ...string) string {
		return fmt.Sprintf(`{"now":%d,"entries":[%s]}`, clock.UnixMilli(), strings.Join(entries, ","))
	}
	read := func(body string) (taken struct {
		Kept []string
		Left []struct{ ID, Why string }
	}) {
		require.NoError(t, json.Unmarshal([]byte(body), &taken), body)
		return taken
	}
	ahead := now.Add(48 * time.Hour) // a phone whose clock is two days ahead
	for range 2 {
		res, body := send(batch(ahead, entry("entry-0001", ahead.Add(-3*time.Hour), ""), entry("entry-0002", ahead.Add(-26*time.Hour), `,"minutes":10,"even":24`)))
		require.Equal(t, fiber.StatusOK, res.StatusCode)
		assert.ElementsMatch(t, []string{"entry-0001", "entry-0002"}, read(body).Kept)
	}
	list := homeOf(t, id)
	require.Len(t, list, 2, "sent twice is kept once")
	assert.Equal(t, "entry-0002", list[0].ClientID, "in the order in which it was played")
	assert.WithinDuration(t, now.Add(-26*time.Hour), list[0].At, time.Minute)
	assert.WithinDuration(t, now.Add(-3*time.Hour), list[1].At, time.Minute, "the day of the server, not of the phone")
	assert.Equal(t, 24, list[0].Even)

	res, body := send(batch(now, entry("entry-0003", now.Add(-200*24*time.Hour), ""), entry("entry-0004", now, `,"went":"perfect"`), entry("entry-0005", now, `,"tempo":5`), entry("x", now, ""), entry("entry-0006", now, `,"card":"song"`), entry("entry-0007", now, `,"word":"boring"`), entry("entry-0008", now, `,"minutes":-4`), entry("entry-0009", now.Add(90*time.Minute), "")))
	require.Equal(t, fiber.StatusOK, res.StatusCode)
	taken := read(body)
	assert.ElementsMatch(t, []string{"entry-0006", "entry-0009"}, taken.Kept)
	var why []string
	for _, l := range taken.Left {
		why = append(why, l.ID+": "+l.Why)
	}
	assert.ElementsMatch(t, []string{
		"entry-0003: This was played more than three months ago.", "entry-0004: The entry doesn’t say how it went.", "entry-0005: Write a tempo from 20 to 300.",
		"x: The entry has no id.", "entry-0007: The entry doesn’t say how it went.", "entry-0008: The entry’s minutes can’t be right.",
	}, why)
	assert.False(t, homeOf(t, id)[len(homeOf(t, id))-1].At.After(time.Now().Add(time.Second)), "nothing is played tomorrow")

	stored := len(homeOf(t, id))
	for name, c := range map[string]struct {
		body   string
		status int
		says   string
	}{
		"no JSON":        {"fish", fiber.StatusBadRequest, "kept on this phone"},
		"another form":   {`[1,2]`, fiber.StatusBadRequest, "kept on this phone"},
		"10,000 entries": {`{"now":1,"entries":[` + strings.Repeat(`{"id":"aaaaaaaa"},`, 9_999) + `{}]}`, fiber.StatusUnprocessableEntity, "Send at most 500 entries at a time"},
		"nothing":        {`{}`, fiber.StatusOK, `"kept":[]`},
	} {
		res, body := send(c.body)
		assert.Equal(t, c.status, res.StatusCode, name)
		assert.Contains(t, body, c.says, name)
	}
	assert.Len(t, homeOf(t, id), stored)
}

// What came from home is on the teacher's pages, apart from what was heard, and moves nobody.
func TestTheTeacherReadsWhatCameFromHome(t *testing.T) {
	teacher, id := ownSchool(t, "phone-teacher")
	_, _, err := storetest.Open(t).Place(t.Context(), id.teacher, id.ladder, store.Places{id.student: id.steps[0]})
	require.NoError(t, err)
	_, send := aPhone(t, id)
	now := time.Now()
	say := func(n int, ago time.Duration, more string) {
		res, body := send(fmt.Sprintf(`{"now":%d,"entries":[{"id":"teacher-%04d","at":%d,%s}]}`, now.UnixMilli(), n, now.Add(-ago).UnixMilli(), more))
		require.Equal(t, fiber.StatusOK, res.StatusCode)
		require.NotContains(t, body, "left")
	}
	on := fmt.Sprintf(`"card":"step","ladder":%d,"step":%d`, id.ladder, id.steps[0])
	say(1, 25*time.Hour, on+`,"went":"done","tempo":200`)
	say(2, 49*time.Hour, on+`,"went":"done","tempo":210`)
	_, body := teacher.get("/")
	assert.Contains(t, body, "home 2 days, 200")
	assert.Contains(t, body, "clean at 210 at home on 2 days, so hear it first")
	assert.NotContains(t, body, "is ready")
	_, body = teacher.get(fmt.Sprintf("/students/%d", id.student))
	assert.Contains(t, body, "From home, last 7 days")
	_, body = teacher.get("/lesson")
	assert.Contains(t, body, "Momo practised on 2 days.")
	say(3, time.Hour, `"word":"hurts"`)
	_, body = teacher.get("/")
	assert.Contains(t, body, "said at home that it hurts, so ask before anything is played")
	_, body = teacher.get("/lesson")
	assert.Contains(t, body, "Momo said it hurts: ask before anything is played.")
	teacher.post("/decisions", url.Values{"class": {fmt.Sprint(id.class)}, "ladder": {fmt.Sprint(id.ladder)}, "decision": {fmt.Sprintf("%d stay %d", id.student, id.steps[0])}})
	_, body = teacher.get("/")
	assert.NotContains(t, body, "said at home that it hurts", "the teacher has read it")
	entries, err := storetest.Open(t).LogOf(t.Context(), id.teacher, id.class, time.Unix(0, 0))
	require.NoError(t, err)
	assert.Empty(t, entries, "the log is what was heard")
	places, err := storetest.Open(t).Placements(t.Context(), id.teacher, id.ladder)
	require.NoError(t, err)
	assert.Equal(t, store.Places{id.student: id.steps[0]}, places)
}

// A script that sends without end is refused in a sentence; nothing of what it has is lost.
func TestAPhoneHasItsMeasure(t *testing.T) {
	_, id := ownSchool(t, "phone-measure")
	_, send := aPhone(t, id)
	_, err := database(t).Exec(`INSERT INTO home_entries (teacher_id, student_id, card, went, client_id, at, came)
		SELECT ?, ?, 'warm-up', 'done', CONCAT('endless-', seq), UTC_TIMESTAMP(), UTC_TIMESTAMP() FROM seq_1_to_2001`, id.teacher, id.student)
	require.NoError(t, err)
	res, body := send(`{"now":1,"entries":[{"id":"one-too-many","at":1,"card":"warm-up","went":"done"}]}`)
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "send the rest tomorrow")
}
