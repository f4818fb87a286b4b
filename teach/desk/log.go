package desk

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"arplin/core/ladder"
	"arplin/core/practice"
	"arplin/core/say"
	"arplin/letters"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

// Log is what was typed to log tempos: a line, "pia 72, wim 66 x", or a student's own field.
type Log struct {
	Line     string
	Student  string // an id; empty for the line
	Tempo    string
	Ladder   ref.Ladder // the one in front on the page; 0 for the newest
	ClientID string
	Take     string // what Listen proposed to log; empty where the line is the teacher's own
	Anyway   bool   // also of somebody who is marked away
}

// Logged is what was logged, or whom it would have been about.
type Logged struct {
	Student store.Student
	Says    string
	Entries []ref.Entry
}

// Read is one tempo of a line as it was understood.
type Read struct {
	Student store.Student
	Step    int // its number, from 1
	Clean   bool
	Says    string // "clean at 72, on step 5"
	entry   store.Entry
}

// LogTempo logs what was heard on the step on which each student stands: several in one
// line, or one in a field of its own. Of several nothing is logged unless all can be.
func (t *Room) LogTempo(ctx context.Context, teacher ref.Teacher, c people.Class, l Log, now time.Time) (Logged, error) {
	var logged Logged
	list, students, err := t.read(ctx, teacher, c, l, now)
	if len(students) > 0 {
		logged.Student = students[0]
	}
	if err != nil {
		return logged, err
	}
	if err := t.askAway(ctx, teacher, c, l, students, now); err != nil {
		return logged, err
	}
	sent := make([]store.Sent, len(list))
	said := make([]string, len(list))
	for i, r := range list {
		said[i] = r.Student.Name + ": " + r.Says
		sent[i] = store.Sent{Entry: r.entry, ClientID: l.ClientID}
		if i > 0 {
			sent[i].ClientID = fmt.Sprintf("%s.%d", l.ClientID, i)
		}
	}
	logged.Entries, err = t.Store.AddEntries(ctx, teacher, sent)
	if errors.Is(err, store.ErrReused) {
		return logged, answer.Refuse("this line was sent before with another name or tempo, which was logged. This one wasn’t, so send it again")
	}
	if err != nil {
		return logged, err
	}
	logged.Says = strings.Join(said, "; ") + "."
	return logged, nil
}

// taken reports a line that is what Listen proposed, with a name in front of it where it had none.
func (l Log) taken() bool {
	take := strings.TrimSpace(l.Take)
	return take != "" && !strings.ContainsAny(l.Line, ",;\n") && strings.HasSuffix(" "+strings.TrimSpace(l.Line), " "+take)
}

// ReadLine says how a line would be logged, while it is typed; nothing is stored. What is at its end
// and not whole yet is left out.
func (t *Room) ReadLine(ctx context.Context, teacher ref.Teacher, c people.Class, l Log, now time.Time) (list []Read, problem string, err error) {
	list, _, err = t.read(ctx, teacher, c, l, now)
	var refusal *answer.Refusal
	if !errors.As(err, &refusal) {
		return list, "", err
	}
	whole, _, several := cutLast(l.Line)
	if !several {
		return nil, answer.Sentence(refusal.Clause), nil
	}
	l.Line = whole
	list, before, err := t.ReadLine(ctx, teacher, c, l, now)
	if before != "" {
		return list, before, err
	}
	return list, answer.Sentence(refusal.Clause), err
}

// cutLast parts a line before its last comma.
func cutLast(line string) (before, last string, found bool) {
	at := strings.LastIndexAny(line, ",;\n")
	if at < 0 {
		return "", line, false
	}
	return line[:at], line[at+1:], true
}

// read finds out what a line is about: whom, on which ladder, on which step.
func (t *Room) read(ctx context.Context, teacher ref.Teacher, c people.Class, l Log, now time.Time) (list []Read, students []store.Student, err error) {
	onNow, err := t.Store.OnNow(ctx, teacher, c.ID)
	if err != nil {
		return nil, nil, err
	}
	students, lines, err := readLog(c, l, onNow)
	if err != nil {
		return nil, students, answer.Refused(err)
	}
	ids := make([]ref.Ladder, len(lines)) // which song each is about
	for i, line := range lines {
		if ids[i], err = t.loggedOn(ctx, teacher, onNow, line.Song, l.Ladder); err != nil {
			return nil, students, err
		}
	}
	places := placesOn{room: t, teacher: teacher, known: map[ref.Ladder]store.Places{}}
	elsewhere := make([]bool, len(lines)) // logged on another ladder than the one in front
	if l.Student == "" {
		for i, line := range lines {
			if line.Song == "" {
				id, err := places.where(ctx, onNow, ids[i], students[i])
				if err != nil {
					return nil, students, err
				}
				ids[i], elsewhere[i] = id, id != ids[i]
			}
		}
	}
	ladders, err := t.Ladders.LaddersOf(ctx, teacher, c, ids)
	if err != nil {
		return nil, students, err
	}
	for i, line := range lines {
		st, on := students[i], ladders[ids[i]]
		place, err := places.of(ctx, on.ID)
		if err != nil {
			return nil, students, err
		}
		at := ladder.Find(on.Steps, place[st.ID])
		if at < 0 {
			return nil, students, answer.Refuse("%s isn’t on a step of “%s”. Place %s on the ladder first", st.Name, on.SongTitle, st.Name)
		}
		bars := on.Song.Bars()
		if line.Bar > len(bars) {
			return nil, students, answer.Refuse("“%s” has %d bars", on.SongTitle, len(bars))
		}
		e := store.Entry{StudentID: st.ID, LadderID: on.ID, Step: on.Steps[at], Tempo: line.Tempo, Failed: !line.Clean, Errors: line.Errors, Minutes: line.Minutes, Fault: line.Fault, Word: line.Word, At: now}
		e.Taken = l.taken()
		if line.Bar > 0 {
			e.Bar = bars[line.Bar-1].ID
		}
		where := ""
		if line.Song != "" {
			where = " of " + on.SongTitle
		}
		if elsewhere[i] {
			where = fmt.Sprintf(" of %s, %s", on.SongTitle, on.PatternName)
		}
		rest := ""
		if line.Minutes > practice.LongestPlay {
			rest = fmt.Sprintf("; after %d minutes hands need a five-minute break", practice.LongestPlay)
		}
		list = append(list, Read{st, at + 1, line.Clean, fmt.Sprintf("%d, %s, on step %d%s%s", line.Tempo, heardWords(e, on.Song), at+1, where, rest), e})
	}
	return list, students, nil
}

// placesOn looks up who stands where, each ladder once.
type placesOn struct {
	room    *Room
	teacher ref.Teacher
	known   map[ref.Ladder]store.Places
}

func (p placesOn) of(ctx context.Context, id ref.Ladder) (store.Places, error) {
	places, known := p.known[id]
	if known {
		return places, nil
	}
	places, err := p.room.Store.Placements(ctx, p.teacher, id)
	p.known[id] = places
	return places, err
}

// where is the ladder that a line without a song is about: the one in front, or for somebody who is on no
// step of it the one on the desk on which they stand.
func (p placesOn) where(ctx context.Context, onNow []store.LadderLine, front ref.Ladder, st store.Student) (ref.Ladder, error) {
	places, err := p.of(ctx, front)
	if err != nil || places[st.ID] != 0 {
		return front, err
	}
	var found []store.LadderLine
	for _, l := range onNow {
		if places, err = p.of(ctx, l.ID); err != nil {
			return front, err
		}
		if places[st.ID] != 0 {
			found = append(found, l)
		}
	}
	switch len(found) {
	case 0:
		return front, nil
	case 1:
		return found[0].ID, nil
	}
	var names []string
	for _, l := range found {
		names = append(names, fmt.Sprintf("%s on %s", l.PatternName, l.SongTitle))
	}
	return front, answer.Refuse("%s isn’t on a step of this ladder, but is on %s. Open that song, or write its name after the student’s", st.Name, say.And(names))
}

// askAway asks whether a tempo is of somebody who is marked away from the lesson; a yes marks
// them as there.
func (t *Room) askAway(ctx context.Context, teacher ref.Teacher, c people.Class, l Log, students []store.Student, now time.Time) error {
	lessons, err := t.Store.Lessons(ctx, teacher, c.ID, 1, now)
	if err != nil || len(lessons) == 0 || !lessons[0].Running() {
		return err
	}
	var away []string
	for _, st := range students {
		if !slices.Contains(lessons[0].Away, st.ID) || slices.Contains(away, st.Name) {
			continue
		}
		if !l.Anyway {
			away = append(away, st.Name)
		} else if err := t.Store.SetAway(ctx, teacher, lessons[0].ID, st.ID, false); err != nil {
			return err
		}
	}
	switch len(away) {
	case 0:
		return nil
	case 1:
		return &answer.Question{Asks: fmt.Sprintf("%s is marked as away today. Log it anyway?", away[0]), Yes: fmt.Sprintf("%s is here: log it", away[0])}
	}
	return &answer.Question{Asks: fmt.Sprintf("%s are marked as away today. Log it anyway?", strings.Join(away, ", ")), Yes: "They’re here: log it"}
}

// loggedOn is the ladder on the desk that a line is about: the one whose song it names,
// else the one that the page showed, else the newest.
func (t *Room) loggedOn(ctx context.Context, teacher ref.Teacher, onNow []store.LadderLine, named string, shown ref.Ladder) (ref.Ladder, error) {
	if named != "" {
		return namedOn(onNow, named)
	}
	if shown == 0 {
		if len(onNow) == 0 {
			return 0, answer.Refuse("create a ladder first, as a tempo belongs to one of its steps")
		}
		return onNow[0].ID, nil
	}
	if !slices.ContainsFunc(onNow, func(l store.LadderLine) bool { return l.ID == shown }) {
		if _, err := t.Store.Ladder(ctx, teacher, shown); err != nil {
			return 0, err
		}
		return 0, answer.Refuse("this page’s ladder isn’t on the Desk any more. Reload the Desk")
	}
	return shown, nil
}

// namedOn finds a ladder on the desk by the beginning of its song's title, or of a word
// in it.
func namedOn(onNow []store.LadderLine, named string) (ref.Ladder, error) {
	var matches []store.LadderLine
	for _, l := range onNow {
		if title := letters.Fold(l.SongTitle); strings.HasPrefix(title, named) || strings.Contains(title, " "+named) {
			matches = append(matches, l)
		}
	}
	switch len(matches) {
	case 0:
		return 0, answer.Refuse("there’s no song on the Desk called “%s”. Write a song between the name and the tempo, and anything else after the tempo", named)
	case 1:
		return matches[0].ID, nil
	}
	return 0, answer.Refuse("“%s” could be %s on %s, or %s on %s. Open the one you mean", named, matches[0].PatternName, matches[0].SongTitle, matches[1].PatternName, matches[1].SongTitle)
}

// readLog finds whom a log line is about; the student is known even when the tempo
// cannot be read. Accents and capitals of names do not matter.
func readLog(c people.Class, l Log, onNow []store.LadderLine) (students []store.Student, lines []practice.Line, err error) {
	var titles []string
	for _, on := range onNow {
		titles = append(titles, on.SongTitle)
	}
	if l.Student != "" {
		id, _ := strconv.ParseInt(l.Student, 10, 64) // none is in no class
		st, ok := c.Student(ref.Student(id))
		if !ok {
			return nil, nil, answer.Refuse("this student isn’t in the class any more")
		}
		line, err := practice.ParseOwn(l.Tempo, titles, letters.Fold)
		return []store.Student{st}, []practice.Line{line}, err
	}
	names := make([]string, len(c.Students))
	for i, st := range c.Students {
		names[i] = st.Name
	}
	if lines, err = practice.ParseLines(l.Line, names, titles, letters.Fold); err != nil {
		return nil, nil, err
	}
	for _, line := range lines {
		students = append(students, c.Students[line.Who])
	}
	return students, lines, nil
}

// heardWords says how a try was.
func heardWords(e store.Entry, on store.Song) string {
	says := "clean"
	if e.Failed {
		says = "not clean"
	}
	if e.Errors != practice.NoErrors {
		says += fmt.Sprintf(", %s mistakes", e.Errors)
	}
	if fault, ok := e.Fault.Line(); ok {
		says += ", " + fault.Name
	}
	if n := on.NumberOf(e.Bar); n > 0 {
		says += fmt.Sprintf(", bar %d", n)
	}
	if e.Minutes > 0 {
		says += ", " + say.Count(e.Minutes, "minute", "minutes")
	}
	if e.Taken {
		says += ", as Listen heard it"
	}
	return says
}

// OtherWord is how a song that is not in front can be named in a line; empty where there
// is none of another title.
func (d Desk) OtherWord() string {
	for _, l := range d.Now {
		if l.SongID != d.Ladder.SongID {
			words := strings.Fields(letters.Fold(l.SongTitle))
			return slices.MaxFunc(words, func(a, b string) int { return len(a) - len(b) })
		}
	}
	return ""
}

// Withdraw takes entries of the log back.
func (t *Room) Withdraw(ctx context.Context, teacher ref.Teacher, entries []ref.Entry, now time.Time) error {
	for _, id := range entries {
		if err := t.Store.Withdraw(ctx, teacher, id, now); err != nil {
			return err
		}
	}
	return nil
}
