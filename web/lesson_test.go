package web_test

import (
	"fmt"
	"html"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/ladder"
	"arplin/store"
	"arplin/store/ref"
	"arplin/store/storetest"
)

// classOfThree adds two to a school of one and puts all on steps.
func classOfThree(t *testing.T, name string) (b *browser, id ids, students []ref.Student) {
	t.Helper()
	b, id = ownSchool(t, name)
	s, ctx := storetest.Open(t), t.Context()
	students = []ref.Student{id.student}
	for _, name := range []string{"Nele", "Otis"} {
		st, err := s.AddStudent(ctx, id.teacher, store.Student{ClassID: id.class, Name: name, Instrument: "guitar"})
		require.NoError(t, err)
		students = append(students, st)
	}
	_, _, err := s.Place(ctx, id.teacher, id.ladder, store.Places{students[0]: id.steps[0], students[1]: id.steps[0], students[2]: id.steps[1]})
	require.NoError(t, err)
	return b, id, students
}

// heardBefore logs something that was heard a month ago, on a step that is behind: it is not the class's
// first lesson.
func heardBefore(t *testing.T, id ids, students []ref.Student) {
	t.Helper()
	s, ctx := storetest.Open(t), t.Context()
	l, err := s.Ladder(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	_, err = s.AddEntry(ctx, id.teacher, store.Entry{StudentID: students[2], LadderID: id.ladder, Step: l.Steps[0], Tempo: 60, At: time.Now().AddDate(0, 0, -30)}, fmt.Sprintf("before-%d", students[2]))
	require.NoError(t, err)
}

// pieces are the minutes of the band on a page, by name.
func pieces(body string) (names []string, minutes map[string]int, sum int) {
	minutes = map[string]int{}
	for _, m := range regexp.MustCompile(`<td colspan="(\d+)" class="is-[^"]*">\s*<(?:a href="#piece-\d+"|span)>([^<]*)<`).FindAllStringSubmatch(body, -1) {
		var n int
		_, _ = fmt.Sscan(m[1], &n)
		names = append(names, m[2])
		minutes[m[2]] += n
		sum += n
	}
	return names, minutes, sum
}

// A lesson of 45 minutes is there in one click, adds up, is regrouped for who came, and
// its borders move; what another window has changed is said.
func TestPlanningALesson(t *testing.T) {
	t.Parallel()
	b, id, students := classOfThree(t, "planning")
	s, ctx := storetest.Open(t), t.Context()
	_, body := b.get("/lesson")
	names, _, sum := pieces(body)
	assert.Equal(t, []string{"tune", "warm-up", "something new", "rest", "group work", "the song", "home practice"}, names, "a first lesson has no last time")
	assert.Equal(t, 45, sum)
	heardBefore(t, id, students)
	_, body = b.get("/lesson")
	names, minutes, sum := pieces(body)
	assert.Equal(t, []string{"tune", "warm-up", "review", "something new", "rest", "group work", "the song", "home practice"}, names)
	assert.Equal(t, 45, sum)
	assert.Contains(t, body, "Stop if you feel pain")
	lessons, err := s.Lessons(ctx, id.teacher, id.class, 5, time.Now())
	require.NoError(t, err)
	assert.Empty(t, lessons, "looking stores nothing")

	res, body := b.fragment("/lesson/register?away=yes", url.Values{"class": {id.in("%[5]d")}, "student": {fmt.Sprint(students[2])}})
	require.Equal(t, fiber.StatusOK, res.StatusCode, body)
	assert.Contains(t, body, "Otis is away")
	assert.Contains(t, body, fmt.Sprintf(`/students/%d/week`, students[2]), "a sheet to catch up")
	groups := body[strings.Index(body, `class="groups"`):]
	assert.NotContains(t, groups[:strings.Index(groups, "The song")+1], "Otis:", "regrouped for who came")

	at := strings.Index(strings.Join(names, "|"), "group work")
	require.Positive(t, at)
	version := b.version
	res, body = b.fragment("/lesson/minutes", url.Values{"class": {id.in("%[5]d")}, "version": {version}, "border": {"5"}, "by": {"2"}})
	require.Equal(t, fiber.StatusOK, res.StatusCode, body)
	_, moved, sum := pieces(body)
	assert.Equal(t, 45, sum)
	assert.Equal(t, minutes["group work"]+2, moved["group work"])
	assert.Equal(t, minutes["the song"]-2, moved["the song"])
	res, body = b.fragment("/lesson/minutes", url.Values{"class": {id.in("%[5]d")}, "version": {version}, "border": {"5"}, "by": {"1"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "changed in another window")
	for fields, says := range map[string]string{"border=5&by=90": "at least a minute", "border=x&by=1": "a number of minutes", "minutes=4": "5 to 240 minutes", "minutes=soon": "as a number"} {
		form, err := url.ParseQuery(fields)
		require.NoError(t, err)
		form.Set("class", id.in("%[5]d"))
		res, body = b.fragment("/lesson/minutes", form)
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, fields)
		assert.Contains(t, body, says, fields)
		_, _, sum = pieces(body)
		assert.Equal(t, 45, sum, "the plan stays on the page")
	}
	_, body = b.fragment("/lesson/minutes", url.Values{"class": {id.in("%[5]d")}, "minutes": {"20"}})
	names, _, sum = pieces(body)
	assert.Equal(t, 20, sum)
	assert.NotContains(t, names, "rest")
}

// What an item says comes from the log: without the entry it says something else.
func TestAnItemHangsOnItsEntries(t *testing.T) {
	t.Parallel()
	b, id, students := classOfThree(t, "reasons")
	heardBefore(t, id, students)
	s, ctx := storetest.Open(t), t.Context()
	l, err := s.Ladder(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	entry, err := s.AddEntry(ctx, id.teacher, store.Entry{StudentID: students[1], LadderID: id.ladder, Step: l.Steps[0], Tempo: 66, Failed: true, At: time.Now().AddDate(0, 0, -7)}, "reasons-entry-0001")
	require.NoError(t, err)
	_, body := b.get("/lesson")
	assert.Contains(t, body, "Nele: not clean last time")
	require.NoError(t, s.Withdraw(ctx, id.teacher, entry, time.Now()))
	_, body = b.get("/lesson")
	assert.NotContains(t, body, "not clean last time")
	assert.Contains(t, body, "nothing logged on these steps yet")
}

// A lesson runs: next, back, cut, extend, end; what was cut comes first the next time, who
// was away gets it to catch up, and what is kept of it names nobody.
func TestALessonRuns(t *testing.T) {
	t.Parallel()
	b, id, students := classOfThree(t, "running")
	heardBefore(t, id, students)
	s, ctx := storetest.Open(t), t.Context()
	b.get("/lesson")
	b.fragment("/lesson/register?away=yes", url.Values{"student": {fmt.Sprint(students[2])}})
	res, _ := b.post("/lesson/move", url.Values{"do": {"begin"}})
	require.Equal(t, "/lesson/live", res.Header.Get("Location"))
	_, body := b.get("/lesson/live")
	assert.Contains(t, body, `data-bs-theme="dark"`, "stage theme")
	assert.Contains(t, body, "<h1>tune</h1>")
	assert.Regexp(t, `data-left="1[78]\d"`, body, "three minutes")
	do := func(what string) string {
		res, body := b.fragment("/lesson/move", url.Values{"back": {"live"}, "version": {b.version}, "do": {what}})
		require.Less(t, res.StatusCode, 500)
		return html.UnescapeString(body)
	}
	assert.Contains(t, do("back"), "There’s no item that way.")
	assert.Contains(t, do("next"), "<h1>warm-up</h1>")
	assert.Contains(t, do("back"), "<h1>tune</h1>")
	do("next")
	do("next")
	assert.Contains(t, do("next"), "<h1>something new</h1>")
	body = do("extend")
	assert.Contains(t, body, "2 minutes more, taken from “group work”.")
	_, minutes, sum := pieces(body)
	assert.Equal(t, 45, sum)
	assert.Equal(t, 12, minutes["something new"])
	body = do("cut")
	assert.Contains(t, body, "“something new” is skipped. Its minutes go to “rest”.")
	undo := func(body string) (*http.Response, string) {
		path := nth(t, body, `<form method="post" action="(/lesson/move\?do=undo[^"]*)"`, 1)
		v := nth(t, body, `name="version" value="(\d+)"><button class="btn btn-link">Undo`, 1)
		return b.post(path, url.Values{"version": {v}})
	}
	res, _ = undo(body)
	require.Equal(t, "/lesson/live", res.Header.Get("Location"))
	_, body = b.get("/lesson/live")
	assert.Contains(t, body, "<h1>something new</h1>", "a cut is taken back")
	_, minutes, sum = pieces(body)
	assert.Equal(t, 45, sum)
	assert.Equal(t, 12, minutes["something new"], "with its minutes")
	assert.Contains(t, do("cut"), "“something new” is skipped")
	stale, answer := b.fragment("/lesson/move", url.Values{"back": {"live"}, "version": {"2"}, "do": {"next"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, stale.StatusCode)
	assert.Contains(t, answer, "changed in another window")
	assert.Contains(t, answer, "<h1>rest</h1>", "the page shows it as it is")

	res, body = b.fragment("/log", url.Values{"back": {"live"}, "line": {"momo 61"}, "client_id": {"0123456789abcdef0"}})
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, body, "Momo: 61, clean, on step 1")
	assert.Contains(t, body, "<h1>rest</h1>", "logged from the same page")
	res, body = b.fragment("/log", url.Values{"back": {"live"}, "line": {"nobody 61"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, `value="nobody 61"`, "what was typed is kept")

	lesson, err := s.Lessons(ctx, id.teacher, id.class, 1, time.Now())
	require.NoError(t, err)
	for _, name := range []string{"Momo", "Nele", "Otis", "Upside"} {
		assert.NotContains(t, lesson[0].Body, name, "what is kept of a lesson names nobody")
	}
	res, body = b.fragment("/log", url.Values{"back": {"live"}, "line": {"otis 60"}, "client_id": {"0123456789abcdef1"}})
	assert.Equal(t, fiber.StatusOK, res.StatusCode)
	assert.Contains(t, body, "Otis is marked as away today. Log it anyway?")
	assert.Equal(t, 1, count(t, "SELECT COUNT(*) FROM log_entries WHERE student_id = ?", students[2]), "the one of a month ago: not before someone says yes")
	_, body = b.fragment("/log", url.Values{"line": {"otis 60"}, "client_id": {"0123456789abcdef2"}})
	assert.Contains(t, body, "Otis is here: log it", "on the desk, too")

	b.get("/lesson/live")
	asked := do("end")
	assert.Contains(t, asked, "Not reached yet: “something new”, “group work”, “the song”, “home practice”. End the lesson now?")
	_, body = b.get("/lesson/live")
	assert.Contains(t, body, "<h1>rest</h1>", "it goes on until someone says yes")
	end := func() string {
		b.get("/lesson/live")
		b.fragment("/lesson/move?sure=yes", url.Values{"back": {"live"}, "version": {b.version}, "do": {"end"}})
		_, body := b.get("/lesson")
		return html.UnescapeString(body)
	}
	body = end()
	assert.Contains(t, body, "Not reached: “something new”, “group work”, “the song”, “home practice”.")
	res, _ = undo(body)
	require.Equal(t, "/lesson/live", res.Header.Get("Location"), "one key too many")
	_, body = b.get("/lesson/live")
	assert.Contains(t, body, "<h1>rest</h1>")
	res, _ = b.post("/lesson/move?do=undo&back=live", url.Values{"version": {"3"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, "what is undone cannot be undone again")
	body = end()
	assert.Contains(t, html.UnescapeString(body), "“something new” comes first next time.")
	assert.Contains(t, html.UnescapeString(body), "“something new” was not reached in the last lesson")
	_, week := b.get(fmt.Sprintf("/students/%d/week", students[2]))
	assert.Contains(t, week, "To catch up: the lesson of")
	assert.NotContains(t, week, "<b>new together</b>", "nobody had it")
	_, week = b.get(fmt.Sprintf("/students/%d/week", students[0]))
	assert.NotContains(t, week, "To catch up")
	assert.Contains(t, week, "Slow, soft notes on open strings.")
	res, _ = b.post("/lesson/move", url.Values{"do": {"next"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, "it is over")
}

// A list is pasted, students leave and come back, are moved, and get a note; each says
// what was done.
func TestStudentsComeAndGo(t *testing.T) {
	t.Parallel()
	b, id := ownSchool(t, "comings")
	s, ctx := storetest.Open(t), t.Context()
	b.get("/class")
	res, _ := b.post(id.in("/class/%[5]d/list"), url.Values{"list": {"Zoë Brook, ukulele\nBen - guitar, left\n"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	_, body := b.get("/class")
	assert.Contains(t, body, "Added 2 students: Zoë, Ben. Surnames were left out")
	assert.Contains(t, body, "Ukulele, high g")
	res, body = b.post(id.in("/class/%[5]d/list"), url.Values{"list": {"Ada\nzoë"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "Line 2, “zoë”: there’s already a Zoë in this class")
	assert.Contains(t, body, "Ada\nzoë</textarea>", "the list is kept")
	assert.Contains(t, body, "Add this one", "Ada could be read")
	assert.NotContains(t, body, `<th scope="row"><a href="/students/0">Ada`, "all or nothing")
	all, err := s.Students(ctx, id.teacher, id.class)
	require.NoError(t, err)
	require.Len(t, all, 3)

	student := id.in("/students/%[4]d")
	b.get(student)
	res, _ = b.post(student+"/note", url.Values{"note": {"Thumb is heavy; lighter pick helped."}, "version": {"1"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	res, body = b.post(student+"/note", url.Values{"note": {"Other"}, "version": {"1"}})
	assert.Equal(t, fiber.StatusConflict, res.StatusCode)
	assert.Contains(t, body, "Thumb is heavy; lighter pick helped.")
	assert.Contains(t, body, ">Other</textarea>")
	res, body = b.post(student+"/note", url.Values{"note": {strings.Repeat("x", 2001)}, "version": {"2"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "at most 2000 characters")

	b.post(student+"/leave", url.Values{})
	_, body = b.get("/class")
	assert.Contains(t, body, "1 student has left")
	assert.Contains(t, body, "The log is kept")
	_, body = b.get("/")
	assert.NotContains(t, body, "Momo")
	b.post(student+"/leave?back=yes", url.Values{})
	_, body = b.get("/")
	assert.Contains(t, body, "Momo")

	res, _ = b.post("/class", url.Values{"name": {"Later"}, "list": {"Ida\nMomo"}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode, "a class in one go")
	classes, err := s.Classes(ctx, id.teacher)
	require.NoError(t, err)
	later := classes[1]
	res, body = b.post(student+"/move", url.Values{"to": {fmt.Sprint(later.ID)}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "someone with that name in Later")
	res, _ = b.post(fmt.Sprintf("/students/%d/move", all[2].ID), url.Values{"to": {fmt.Sprint(later.ID)}})
	require.Equal(t, fiber.StatusSeeOther, res.StatusCode)
	res, body = b.post("/class", url.Values{"name": {"None"}, "list": {"Ida\nIda"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "two called Ida")
	assert.Contains(t, body, `value="None"`)
}

// The log goes to a spreadsheet and comes back; what is there already is not added again,
// and a line that cannot be meant keeps the whole file out.
func TestLogAsCSV(t *testing.T) {
	t.Parallel()
	b, id, students := classOfThree(t, "csv")
	s, ctx := storetest.Open(t), t.Context()
	l, err := s.Ladder(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	_, err = s.AddEntry(ctx, id.teacher, store.Entry{StudentID: students[0], LadderID: id.ladder, Step: l.Steps[0], Tempo: 61, Word: "=cmd", Bar: id.bars[1], Fault: "stopped", Failed: true, At: time.Now().AddDate(0, 0, -3)}, "csv-entry-00000001")
	require.NoError(t, err)
	path := id.in("/class/%[5]d/log")
	res, text := b.get(path + ".csv")
	assert.Contains(t, res.Header.Get("Content-Type"), "text/csv")
	assert.Contains(t, text, "Momo,Upside,1,61,no,,,sc,2,'=cmd")
	b.get("/class")
	b.post(path, url.Values{"csv": {text + "2026-11-01,nele,,,70,yes,,12,,,steady\r\n"}})
	_, body := b.get("/class")
	assert.Contains(t, body, "1 line was added to the log; 1 was there already.")
	b.post(path, url.Values{"csv": {text + "2026-11-01,nele,,,70,yes,,12,,,steady\r\n"}})
	_, body = b.get("/class")
	assert.Contains(t, body, "0 lines were added to the log; 2 were there already.")
	for csv, says := range map[string]string{
		"name,bpm\nNele,70\nEve,70":         "Line 3: there’s nobody",
		"name,bpm,step\nNele,70,9":          "has steps 1 to 2",
		"name,bpm,song\nNele,70,Waltz":      "no ladder for a song called",
		"name,bpm\nNele,700":                "not a tempo from 20 to 300",
		"name,bpm,date\nNele,70,2099-01-01": "has not come yet",
		"name,bpm,bar\nNele,70,99":          "has 4 bars",
		"nonsense":                          "none called",
	} {
		res, body := b.post(path, url.Values{"csv": {csv}})
		assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode, csv)
		assert.Contains(t, html.UnescapeString(body), says, csv)
	}
	log, err := s.LogOf(ctx, id.teacher, id.class, time.Unix(0, 0))
	require.NoError(t, err)
	assert.Len(t, log, 2, "nothing of a file that cannot be read is taken")
	assert.Equal(t, ladder.StepID(id.steps[0]), log[0].Step.ID)
}

// Long minutes get a rest, and a week of many more a caution.
func TestMinutesAreMinded(t *testing.T) {
	t.Parallel()
	b, id, students := classOfThree(t, "minutes")
	s, ctx := storetest.Open(t), t.Context()
	l, err := s.Ladder(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	b.get("/")
	_, body := b.fragment("/log", url.Values{"line": {"momo 60 40m"}, "client_id": {"0123456789abcdefmin"}})
	assert.Contains(t, body, "after 25 minutes hands need a five-minute break")
	_, err = s.AddEntry(ctx, id.teacher, store.Entry{StudentID: students[0], LadderID: id.ladder, Step: l.Steps[0], Tempo: 60, Minutes: 30, At: time.Now().AddDate(0, 0, -9)}, "minutes-entry-0001")
	require.NoError(t, err)
	_, body = b.get(id.in("/students/%[4]d"))
	assert.Contains(t, body, "<b>40 minutes</b>, the week before 30")
	assert.Contains(t, body, "That’s over a fifth more")
	assert.Regexp(t, `this step should take \d+ to \d+ days more`, body)
}

// A whole group moves on with one click, and back; a newcomer stands in the plan and has a week; all that
// are ready where nobody is says why.
func TestGroupsMoveAndNewcomersStandInThePlan(t *testing.T) {
	t.Parallel()
	b, id, students := classOfThree(t, "groupsmove")
	s, ctx := storetest.Open(t), t.Context()
	st, err := s.AddStudent(ctx, id.teacher, store.Student{ClassID: id.class, Name: "Quinn", Instrument: "guitar", DayMinutes: 15})
	require.NoError(t, err)
	b.get("/")
	res, body := b.post("/decisions", url.Values{"class": {id.in("%[5]d")}, "ladder": {id.in("%[2]d")}, "all": {"yes"}})
	assert.Equal(t, fiber.StatusUnprocessableEntity, res.StatusCode)
	assert.Contains(t, body, "Nobody is ready to move up: 2 with nothing logged on their step, 1 already on the last step and 1 not on a step yet.")

	_, lesson := b.get("/lesson")
	assert.Contains(t, lesson, fmt.Sprintf(`<b>Place <a href="/students/%d/placement">Quinn</a></b>: five minutes each`, st))
	_, week := b.get(fmt.Sprintf("/students/%d/week", st))
	assert.Contains(t, week, "no step yet, so begin with the first")
	b.post("/lesson/move", url.Values{"do": {"begin"}})
	_, err = s.AddStudent(ctx, id.teacher, store.Student{ClassID: id.class, Name: "Rosa", Instrument: "guitar", DayMinutes: 15})
	require.NoError(t, err)
	_, running := b.get("/lesson")
	assert.Contains(t, running, ">Rosa</a></b>", "who comes in the middle of the lesson, too")
	decisions := regexp.MustCompile(`name="decision" value="(\d+ move-on \d+)"`).FindAllStringSubmatch(lesson, -1)
	require.Len(t, decisions, 2, "the two on step 1; step 2 is the last")
	form := url.Values{"class": {id.in("%[5]d")}, "ladder": {id.in("%[2]d")}, "back": {"/lesson"}}
	for _, d := range decisions {
		form.Add("decision", d[1])
	}
	res, _ = b.post("/decisions", form)
	require.Equal(t, "/lesson", res.Header.Get("Location"))
	places, err := s.Placements(ctx, id.teacher, id.ladder)
	require.NoError(t, err)
	assert.Equal(t, store.Places{students[0]: id.steps[1], students[1]: id.steps[1], students[2]: id.steps[1]}, places)
	_, lesson = b.get("/lesson")
	assert.NotContains(t, lesson, "Move the group up", "nobody has a step further")
}
