package web_test

import (
	"bytes"
	"database/sql"
	"fmt"
	"html"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/storetest"
	"arplin/web"
)

// database is the tests' own server, for what no page shows.
func database(t testing.TB) *sql.DB {
	t.Helper()
	db, err := sql.Open("mysql", storetest.DSN)
	require.NoError(t, err)
	t.Cleanup(func() { db.Close() })
	return db
}

func count(t testing.TB, query string, args ...any) (n int) {
	t.Helper()
	require.NoError(t, database(t).QueryRow(query, args...).Scan(&n))
	return n
}

// tab is another tab of the same browser.
func (b *browser) tab() *browser { other := *b; return &other }

// sendAgain presses the button of an error page, with what stands on it.
func (b *browser) sendAgain(page string) (*http.Response, string) {
	b.t.Helper()
	action := regexp.MustCompile(`<form method="post" action="([^"]+)" class="stack" data-again>`).FindStringSubmatch(page)
	require.NotNil(b.t, action, page)
	fields := url.Values{}
	for _, m := range regexp.MustCompile(`(?s)<textarea class="form-control" id="sent-\d+" name="([^"]+)" rows="\d+">(.*?)</textarea>`).FindAllStringSubmatch(page, -1) {
		fields.Add(m[1], html.UnescapeString(m[2]))
	}
	for _, m := range regexp.MustCompile(`<input type="hidden" name="([^"]+)" value="([^"]*)">`).FindAllStringSubmatch(page, -1) {
		fields.Add(html.UnescapeString(m[1]), html.UnescapeString(m[2]))
	}
	require.Contains(b.t, page, "Send it again")
	return b.post(html.UnescapeString(action[1]), fields)
}

// A lesson lasts 45 minutes, and the page of its beginning is still good at its
// end: what the server keeps, and what the browser keeps, lasts for days.
func TestAFormOutlastsALesson(t *testing.T) {
	b, id := ownSchool(t, "long-lesson")
	_, _, err := storetest.Open(t).Place(t.Context(), id.teacher, id.ladder, store.Places{id.student: id.steps[0]})
	require.NoError(t, err)
	res, _ := b.get("/")
	for _, c := range res.Cookies() {
		assert.Greater(t, time.Until(c.Expires), 13*24*time.Hour, c.Name)
	}
	_, err = database(t).Exec("UPDATE keyvalues SET expires_at = expires_at - 46 * 60 WHERE expires_at > 0")
	require.NoError(t, err)
	res, body := b.fragment("/log", url.Values{"line": {"momo 66"}})
	assert.Equal(t, fiber.StatusOK, res.StatusCode, body)
	assert.Contains(t, body, "Momo: 66, clean, on step 1.")
}

// What could not be done is sent again from the page that says so: after a token
// that is not the browser's, after a sign-out in another tab, with or without a
// file.
func TestSendingItAgain(t *testing.T) {
	b, _ := ownSchool(t, "again")
	b.get("/songs/new")
	good := b.token
	b.token = "made up"
	res, page := b.post("/songs", url.Values{"title": {"An <evening>"}, "text": {"[C]all of it\n[F]stays"}})
	require.Equal(t, fiber.StatusForbidden, res.StatusCode)
	res, body := b.sendAgain(page)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
	_, body = b.get(res.Header.Get("Location"))
	assert.Contains(t, body, "An &lt;evening&gt;")

	var form bytes.Buffer
	w := multipart.NewWriter(&form)
	require.NoError(t, w.WriteField("title", "From a file"))
	require.NoError(t, w.WriteField("text", ""))
	part, err := w.CreateFormFile("file", "song.cho")
	require.NoError(t, err)
	_, err = part.Write([]byte("[G]in a [D]file"))
	require.NoError(t, err)
	require.NoError(t, w.Close())
	req := httptest.NewRequest("POST", "/songs", &form)
	req.Header.Set("Content-Type", w.FormDataContentType())
	res, page = b.send(req) // without a token
	require.Equal(t, fiber.StatusForbidden, res.StatusCode)
	assert.Contains(t, page, "[G]in a [D]file")
	res, body = b.sendAgain(page)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)

	b.token = good
	tab := b.tab()
	tab.cookies = map[string]string{"arplin_csrf": b.cookies["arplin_csrf"]} // signed out elsewhere
	res, page = tab.post("/class", url.Values{"name": {"Tuesday, at six"}})
	require.Equal(t, fiber.StatusUnauthorized, res.StatusCode)
	assert.Contains(t, page, "You are signed out")
	res, body = b.sendAgain(page)
	assert.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
}

// An id of a line is for one line: with another it is neither stored nor said to
// be. A line is for the class of its page, whatever another tab has chosen since.
func TestALineIsWhatItsPageShowed(t *testing.T) {
	b, id := ownSchool(t, "lines")
	s, ctx := storetest.Open(t), t.Context()
	_, _, err := s.Place(ctx, id.teacher, id.ladder, store.Places{id.student: id.steps[0]})
	require.NoError(t, err)
	b.get("/")
	line := url.Values{"line": {"momo 61"}, "client_id": {"ABCDEFGHIJKLMNOPQRST"}}
	_, body := b.fragment("/log", line)
	assert.Contains(t, body, "Momo: 61, clean")
	res, _ := b.fragment("/log", line)
	assert.Equal(t, fiber.StatusOK, res.StatusCode, "sent twice is once")
	line.Set("line", "momo 99")
	res, body = b.fragment("/log", line)
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "This one wasn’t, so send it again")
	assert.Contains(t, body, `value="momo 99"`, "the line is kept")
	assert.NotContains(t, body, "ABCDEFGHIJKLMNOPQRST", "with another id")
	assert.Equal(t, 1, count(t, "SELECT COUNT(*) FROM log_entries WHERE teacher_id = ?", id.teacher))

	other, err := s.AddClass(ctx, id.teacher, store.Class{Name: "The other", LessonMinutes: 45, Fingers: "moving"})
	require.NoError(t, err)
	twin, err := s.AddStudent(ctx, id.teacher, store.Student{ClassID: other, Name: "Momo", Instrument: "guitar"})
	require.NoError(t, err)
	b.tab().post("/class/choose", url.Values{"class": {fmt.Sprint(other)}, "back": {"/"}})
	_, body = b.fragment("/log", url.Values{"line": {"momo 62"}, "class": {fmt.Sprint(id.class)}, "ladder": {fmt.Sprint(id.ladder)}, "client_id": {"ABCDEFGHIJKLMNOPQRSU"}})
	assert.Contains(t, body, "Momo: 62, clean")
	assert.Equal(t, 0, count(t, "SELECT COUNT(*) FROM log_entries WHERE student_id = ?", twin))
	res, body = b.fragment("/log", url.Values{"line": {"momo 63"}, "class": {fmt.Sprint(other)}, "ladder": {fmt.Sprint(id.ladder)}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "isn’t on the Desk any more")
}

// Undo takes back what its page showed, and nothing that another tab has done.
func TestUndoIsOfItsPage(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "tabs")
	path := id.in("/songs/%[1]d")
	_, body := b.get(path)
	v := version(t, body)
	b.fragment(path+"/edit", url.Values{"op": {"tempo"}, "text": {"90"}, "version": {v}})
	mine := b.tab()
	b.fragment(path+"/edit", url.Values{"op": {"tempo"}, "text": {"100"}, "version": {b.version}})
	res, body := mine.move(path, "undo")
	assert.Equal(t, fiber.StatusConflict, res.StatusCode)
	assert.Contains(t, body, "undo this window’s last change")
	assert.Contains(t, body, "last change: ")
	assert.Contains(t, body, "100 BPM", "nothing was undone")
	res, body = b.fragment(path+"/undo", url.Values{})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, body)

	_, body = b.get(path)
	last := b.tab()
	last.version = version(t, body)
	var wait sync.WaitGroup
	codes := make([]int, 6)
	for i := range codes {
		tab := last.tab()
		tab.cookies = map[string]string{"arplin_csrf": b.cookies["arplin_csrf"], "arplin_session": b.cookies["arplin_session"]}
		wait.Go(func() {
			res, _ := tab.move(path, "undo")
			codes[i] = res.StatusCode
		})
	}
	wait.Wait()
	assert.ElementsMatch(t, []int{200, 409, 409, 409, 409, 409}, codes, "several at once undo once")

	ladder := id.in("/ladders/%[2]d")
	b.get(ladder)
	for _, stale := range []string{"0", "-1", "99"} {
		res, _ = b.fragment(ladder+"/edit", url.Values{"op": {"pin"}, "step": {fmt.Sprint(id.steps[0])}, "version": {stale}})
		assert.Equal(t, fiber.StatusConflict, res.StatusCode, stale)
		res, body = b.fragment(ladder+"/undo", url.Values{"version": {stale}})
		assert.Equal(t, fiber.StatusConflict, res.StatusCode, stale)
		assert.Contains(t, body, "Nothing was changed here. This ladder was changed in another window")
	}
	// The note after a move carries the version of what it would undo.
	res, _ = b.post(ladder+"/place", url.Values{"place": {fmt.Sprintf("%d %d", id.student, id.steps[1])}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, body = b.get(ladder)
	assert.Regexp(t, `action="/ladders/\d+/undo[^"]*"[^>]*>.*?name="version" value="`+version(t, body)+`"`, body)
}

// Settings that another window has changed in the meantime are not overwritten:
// what was typed stays in the form beside what is there.
func TestStaleSettings(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "stale")
	b.get("/class")
	student := url.Values{"name": {"Momo"}, "instrument": {"baritone"}, "version": {"1"}}
	res, _ := b.post(id.in("/students/%[4]d"), student)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	student.Set("name", "Mo")
	res, body := b.post(id.in("/students/%[4]d"), student)
	assert.Equal(t, fiber.StatusConflict, res.StatusCode)
	assert.Contains(t, body, "in another window: Momo, Baritone ukulele")
	assert.Contains(t, body, `id="name" name="name" value="Mo"`)
	student.Set("version", nth(t, body, `action="/students/\d+">\s*<input[^>]*><input type="hidden" name="version" value="(\d+)"`, 1))
	res, _ = b.post(id.in("/students/%[4]d"), student)
	assert.Equal(t, fiber.StatusSeeOther, res.StatusCode, "saved again it counts")

	class := url.Values{"name": {"Up"}, "minutes": {"60"}, "fingers": {"moving"}, "sing_low": {"A3"}, "sing_high": {"D5"}, "version": {"1"}}
	res, body = b.post(id.in("/class/%[5]d"), class)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, body)
	class.Set("minutes", "30")
	res, body = b.post(id.in("/class/%[5]d"), class)
	assert.Equal(t, fiber.StatusConflict, res.StatusCode)
	assert.Contains(t, body, "60 minutes, sings from")
	assert.Contains(t, body, `name="minutes" inputmode="numeric" value="30"`)

	_, body = b.get("/class/weights")
	weights := url.Values{"version": {"1"}}
	for _, m := range regexp.MustCompile(`<select class="form-select" id="w-\w+" name="(\w+)"`).FindAllStringSubmatch(body, -1) {
		weights.Set(m[1], "1")
	}
	weights.Set("rate", "2")
	res, _ = b.post(id.in("/class/%[5]d/weights"), weights)
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	weights.Set("rate", "3")
	res, body = b.post(id.in("/class/%[5]d/weights"), weights)
	assert.Equal(t, fiber.StatusConflict, res.StatusCode)
	assert.Contains(t, body, `name="rate" value="3"`, "what was chosen is still chosen")
}

// A database that hangs is not waited for: within the patience of a request a page
// says so, with what was typed.
func TestADatabaseThatHangs(t *testing.T) {
	b, id := ownSchool(t, "hangs")
	app, err := web.New(web.Config{Store: storetest.Open(t), Log: quiet, Patience: 400 * time.Millisecond})
	require.NoError(t, err)
	b.get("/class")
	tx, err := database(t).Begin()
	require.NoError(t, err)
	defer tx.Rollback() //nolint:errcheck // it only holds
	_, err = tx.Exec("UPDATE classes SET name = CONCAT(name, '!') WHERE id = ?", id.class)
	require.NoError(t, err)
	b.app = app
	res, body := b.post(id.in("/class/%[5]d"), url.Values{"name": {"Kept"}, "minutes": {"60"}, "fingers": {"moving"}, "sing_low": {"A3"}, "sing_high": {"D5"}, "version": {"1"}})
	assert.Equal(t, fiber.StatusServiceUnavailable, res.StatusCode)
	assert.Contains(t, body, "This took too long", "a row is held; the database itself answers")
	assert.Contains(t, body, "Kept</textarea>")
	require.NoError(t, tx.Rollback())
	res, body = b.sendAgain(body)
	// The server may carry out what it had begun once the row is free: then sending
	// it again shows that it is there.
	assert.True(t, res.StatusCode == fiber.StatusSeeOther || res.StatusCode == fiber.StatusConflict && strings.Contains(body, "in another window: “Kept”"), "%d", res.StatusCode)
}

// No statement is prepared for one use, and a page asks at most eleven questions, the desk seven,
// for a class of two as for one of thirty. Source: MariaDB Server Documentation,
// Server Status Variables (Questions, Com_stmt_prepare).
func TestQuestionsOfAPage(t *testing.T) {
	b, id := ownSchool(t, "questions")
	s, ctx := storetest.Open(t), t.Context()
	db := database(t)
	db.SetMaxOpenConns(1)
	status := func(name string) (n int) {
		var key string
		require.NoError(t, db.QueryRow("SHOW GLOBAL STATUS LIKE '"+name+"'").Scan(&key, &n))
		return n
	}
	paths := []string{"/", "/?beside=yes", "/lesson", "/term", "/term/series", id.in("/students/%[4]d/week"), id.in("/students/%[4]d/placement"), "/class", id.in("/students/%[4]d"), "/class/weights", "/songs", id.in("/songs/%[1]d"), id.in("/songs/%[1]d/keys"), id.in("/songs/%[1]d/drill"), "/patterns", "/patterns/thumb-once", "/patterns/compare", "/bench",
		"/ladders", id.in("/ladders/%[2]d"), id.in("/ladders/%[2]d/sheet"), id.in("/ladders/%[2]d/sheets"), id.in("/ladders/%[2]d/reuse"), id.in("/drills/%[3]d"), "/archive", "/account", "/tune", id.in("/songs/%[1]d/melody"), id.in("/ladders/%[2]d/together?grow=yes"), id.in("/ladders/%[2]d/grow"), id.in("/songs/%[1]d/score"), id.in("/drills/%[3]d/score?exercise=1")}
	asked := func() map[string]int {
		by := map[string]int{}
		for _, path := range paths {
			before := status("Questions")
			res, _ := b.get(path)
			require.Equal(t, fiber.StatusOK, res.StatusCode, path)
			by[path] = status("Questions") - before - 1
		}
		return by
	}
	prepared := status("Com_stmt_prepare")
	asked() // connections are made
	small := asked()
	l, err := s.Ladder(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	for i := range 28 {
		st, err := s.AddStudent(ctx, id.teacher, store.Student{ClassID: id.class, Name: fmt.Sprint("More ", i), Instrument: "guitar"})
		require.NoError(t, err)
		other, err := s.AddLadder(ctx, id.teacher, store.Ladder{ClassID: id.class, SongID: id.song, PatternName: "Thumb", Target: l.Target, Ladder: l.Ladder})
		require.NoError(t, err)
		on, err := s.Ladder(ctx, id.teacher, other)
		require.NoError(t, err)
		_, err = s.AddEntry(ctx, id.teacher, store.Entry{StudentID: st, LadderID: other, Step: on.Steps[0], Tempo: 70, At: time.Now()}, fmt.Sprint("questions-", i))
		require.NoError(t, err)
	}
	large := asked()
	for _, path := range paths {
		assert.LessOrEqual(t, large[path], 11, path)
		assert.LessOrEqual(t, large[path], small[path]+2, "%s: %d for two, %d for thirty", path, small[path], large[path])
	}
	assert.LessOrEqual(t, large["/"], 6, "the desk")
	assert.Equal(t, prepared, status("Com_stmt_prepare"))
}

// What is no letter in UTF-8 gives a page and never a fault; names that differ in
// an accent or a sign are two.
func TestLettersOfAllKinds(t *testing.T) {
	b, id := ownSchool(t, "letters")
	b.get("/class")
	const junk = "\xff\xfe\x00"
	for path, fields := range map[string]url.Values{
		"/class":                       {"name": {"C" + junk}},
		id.in("/class/%[5]d/students"): {"name": {"S" + junk}, "instrument": {"guitar" + junk}},
		"/songs":                       {"text": {"[C]a" + junk}, "title": {"T" + junk}},
		"/patterns":                    {"name": {"P" + junk}, "notation": {"4/4: p . . ."}, "chord": {"C"}},
		"/log":                         {"line": {"momo" + junk + " 70"}},
		id.in("/songs/%[1]d/edit"):     {"op": {"rename"}, "section": {"1"}, "text": {"R" + junk}, "version": {"1"}},
		id.in("/songs/%[1]d/drill"):    {"student": {id.in("%[4]d")}, "bar": {"1"}, "notation": {"4/4: p . . ."}, "pattern_name": {"N" + junk}, "minutes": {"5"}},
	} {
		res, body := b.post(path, fields)
		assert.Less(t, res.StatusCode, 500, path)
		assert.NotContains(t, body, "\xff", path)
	}
	res, _ := b.get("/songs?q=%ff%fe")
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	for _, name := range []string{"Zoe", "Zoë", "Zo\u00e9 \U0001F3B8", "Zo\u00e9 \U0001F3B9"} {
		res, body := b.post(id.in("/class/%[5]d/students"), url.Values{"name": {name}, "instrument": {"guitar"}})
		assert.Equal(t, fiber.StatusSeeOther, res.StatusCode, "%s: %s", name, body)
	}
	res, body := b.post(id.in("/class/%[5]d/students"), url.Values{"name": {"Zoe\u0308"}, "instrument": {"guitar"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, "the same name with its accent apart")
	assert.Contains(t, body, "There’s already a Zoë in this class")
}

// The longest that can be pasted stays a page: a song has 400 bars, on one line or
// many, a pattern eight; an address of the longest pattern is not too long.
func TestTheLongest(t *testing.T) {
	t.Parallel()
	b, _ := ownSchool(t, "longest")
	b.get("/songs/new")
	for _, text := range []string{strings.Repeat("[C][Am7][F#m7b5][Bbmaj7]", 2600), "{soc}\n" + strings.Repeat("[C]a\n", 300) + "{eoc}\n" + strings.Repeat("{chorus}\n", 5000), strings.Repeat("[C]la ", 401)} {
		res, body := b.post("/songs", url.Values{"text": {text}, "title": {"Long"}})
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
		assert.Contains(t, body, "the sheet has more than 400 bars")
		assert.Less(t, len(body), 200_000)
	}
	res, _ := b.post("/songs", url.Values{"text": {strings.Repeat("[C]la ", 400)}, "title": {"Just so"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	path := res.Header.Get("Location")
	_, body := b.get(path)
	res, body = b.fragment(path+"/edit", url.Values{"op": {"insert"}, "bar": {nth(t, body, `data-bar="(\d+)"`, 1)}, "version": {version(t, body)}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "A song has at most 400 bars")

	bar := strings.TrimSpace(strings.Repeat("p+i+m+a ", 16))
	eight := "4/4: " + strings.TrimSuffix(strings.Repeat(bar+" | ", 8), " | ")
	link := "/bench?notation=" + url.QueryEscape(eight)
	require.Less(t, len(link), 4096, "two of them fit into a head of 32 thousand")
	res, _ = b.get(link)
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	res, body = b.get("/bench?notation=" + url.QueryEscape(eight+" | p . . ."))
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "it has 9 bars; 8 are the most")
}
