package files

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"arplin/core/bpm"
	"arplin/core/ladder"
	"arplin/core/practice"
	"arplin/core/practice/fault"
	"arplin/core/say"
	"arplin/format/logcsv"
	"arplin/format/registercsv"
	"arplin/letters"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/ladders"
	"arplin/teach/people"
)

// LogFile is the whole log of a class as CSV.
func (t *Room) LogFile(ctx context.Context, teacher ref.Teacher, c people.Class) (string, error) {
	entries, ladders, err := t.wholeLog(ctx, teacher, c)
	if err != nil {
		return "", err
	}
	students, err := t.Store.AllStudents(ctx, teacher, c.ID)
	if err != nil {
		return "", err
	}
	names := map[ref.Student]string{}
	for _, st := range students {
		names[st.ID] = st.Name
	}
	var rows []logcsv.Row
	for _, e := range entries {
		on := ladders[e.LadderID]
		fault, _ := e.Fault.Line()
		rows = append(rows, logcsv.Row{
			At: e.At, Name: names[e.StudentID], Song: on.SongTitle, Step: ladder.Find(on.Steps, e.Step.ID) + 1, Tempo: e.Tempo, Clean: !e.Failed,
			Errors: string(e.Errors), Minutes: e.Minutes, Fault: fault.Keys, Bar: on.Song.NumberOf(e.Bar), Word: e.Word,
		})
	}
	return logcsv.String(rows)
}

func (t *Room) wholeLog(ctx context.Context, teacher ref.Teacher, c people.Class) ([]store.Entry, map[ref.Ladder]ladders.Ladder, error) {
	entries, err := t.Store.LogOf(ctx, teacher, c.ID, time.Unix(0, 0))
	if err != nil {
		return nil, nil, err
	}
	var ids []ref.Ladder
	for _, e := range entries {
		if !slices.Contains(ids, e.LadderID) {
			ids = append(ids, e.LadderID)
		}
	}
	ladders, err := t.Ladders.LaddersOf(ctx, teacher, c, ids)
	return entries, ladders, err
}

// ReadLogFile adds the lines of a CSV file to the log of a class, all of them or none. A
// line that is there already is not added again.
func (t *Room) ReadLogFile(ctx context.Context, teacher ref.Teacher, c people.Class, text string, now time.Time) (says string, err error) {
	rows, err := logcsv.Read(text)
	if err != nil {
		return "", answer.Refused(err)
	}
	entries, _, err := t.wholeLog(ctx, teacher, c)
	if err != nil {
		return "", err
	}
	there := map[string]bool{}
	for _, e := range entries {
		there[sameTry(e)] = true
	}
	stored, err := t.Store.LaddersNow(ctx, teacher, c.ID)
	if err != nil {
		return "", err
	}
	list, _, err := t.Store.Ladders(ctx, teacher, c.ID, store.Find{})
	if err != nil {
		return "", err
	}
	var ids []ref.Ladder
	for _, on := range stored {
		ids = append(ids, on.Ladder.ID)
	}
	for _, l := range list {
		if !slices.Contains(ids, l.ID) {
			ids = append(ids, l.ID)
		}
	}
	ladders, err := t.Ladders.LaddersOf(ctx, teacher, c, ids)
	if err != nil {
		return "", err
	}
	places := map[ref.Ladder]store.Places{}
	var sent []store.Sent
	known := 0
	for _, row := range rows {
		e, err := t.entryOf(ctx, teacher, c, row, ids, ladders, places, now)
		var refusal *answer.Refusal
		if errors.As(err, &refusal) {
			return "", answer.Refuse("line %d: %s; nothing of the file was taken", row.Line, refusal.Clause)
		}
		if err != nil {
			return "", err
		}
		key := sameTry(e)
		if there[key] {
			known++
			continue
		}
		there[key] = true
		sum := sha256.Sum256([]byte(fmt.Sprint(c.ID, key)))
		sent = append(sent, store.Sent{Entry: e, ClientID: "csv-" + hex.EncodeToString(sum[:12])})
	}
	if _, err := t.Store.AddEntries(ctx, teacher, sent); err != nil {
		return "", err
	}
	says = say.Count(len(sent), "line was added to the log", "lines were added to the log")
	if known > 0 {
		says += fmt.Sprintf("; %s there already", say.Count(known, "was", "were"))
	}
	return says + ".", nil
}

// sameTry is what makes two lines one.
func sameTry(e store.Entry) string {
	return fmt.Sprint(e.StudentID, e.LadderID, e.Step.ID, e.Tempo, e.Failed, e.At.Unix())
}

// entryOf finds whom and what a row is about; what cannot be found is a refusal. Of
// ladders for the same song the one that comes first is meant.
func (t *Room) entryOf(ctx context.Context, teacher ref.Teacher, c people.Class, row logcsv.Row, order []ref.Ladder, ladders map[ref.Ladder]ladders.Ladder, places map[ref.Ladder]store.Places, now time.Time) (e store.Entry, err error) {
	who := slices.IndexFunc(c.Students, func(st store.Student) bool { return letters.Fold(st.Name) == letters.Fold(row.Name) })
	if who < 0 {
		return e, answer.Refuse("there’s nobody called %q in this class", row.Name)
	}
	st := c.Students[who]
	at := slices.IndexFunc(order, func(id ref.Ladder) bool {
		return row.Song == "" || letters.Fold(ladders[id].SongTitle) == letters.Fold(row.Song)
	})
	if at < 0 {
		return e, answer.Refuse("this class has no ladder for a song called %q", row.Song)
	}
	on := ladders[order[at]]
	step := row.Step - 1
	if row.Step == 0 {
		if _, loaded := places[on.ID]; !loaded {
			if places[on.ID], err = t.Store.Placements(ctx, teacher, on.ID); err != nil {
				return e, err
			}
		}
		step = ladder.Find(on.Steps, places[on.ID][st.ID])
	}
	faults, ok := fault.ByKeys(row.Fault)
	slips, known := practice.ParseErrors(row.Errors)
	bars := on.Song.Bars()
	switch {
	case step < 0 || step >= len(on.Steps):
		return e, answer.Refuse("“%s” has steps 1 to %d, and %s isn’t on any of them. Write the step", on.SongTitle, len(on.Steps), st.Name)
	case row.Tempo < bpm.Min || row.Tempo > bpm.Max:
		return e, answer.Refuse("%d is not a tempo from %d to %d", row.Tempo, bpm.Min, bpm.Max)
	case row.Fault != "" && !ok:
		return e, answer.Refuse("“%s” isn’t a fault code", row.Fault)
	case !known:
		return e, answer.Refuse("mistakes are few or many, not %q", row.Errors)
	case row.Bar > len(bars):
		return e, answer.Refuse("“%s” has %d bars", on.SongTitle, len(bars))
	case row.At.After(now.Add(24 * time.Hour)):
		return e, answer.Refuse("%s has not come yet", row.At.Format("2 January 2006"))
	}
	when := row.At
	if when.IsZero() {
		when = people.DateOf(now)
	}
	e = store.Entry{StudentID: st.ID, LadderID: on.ID, Step: on.Steps[step], Tempo: row.Tempo, Failed: !row.Clean, Errors: slips, Minutes: min(row.Minutes, practice.MaxDay), Fault: faults, Word: letters.Cut(strings.TrimSpace(row.Word), practice.MaxWord), At: when}
	if row.Bar > 0 {
		e.Bar = bars[row.Bar-1].ID
	}
	return e, nil
}

// mostRegistered is how many lessons a register has.
const mostRegistered = 500

// RegisterFile is who was there in the lessons of a class, as CSV, the oldest first.
func (t *Room) RegisterFile(ctx context.Context, teacher ref.Teacher, c people.Class, now time.Time) (string, error) {
	lessons, err := t.Store.Lessons(ctx, teacher, c.ID, mostRegistered, now)
	if err != nil {
		return "", err
	}
	var names []string
	for _, st := range c.Students {
		names = append(names, st.Name)
	}
	var rows []registercsv.Lesson
	for _, l := range slices.Backward(lessons) {
		if l.Ended.IsZero() {
			continue
		}
		row := registercsv.Lesson{On: l.Ended.Local(), Minutes: l.Minutes}
		for _, st := range c.Students {
			row.There = append(row.There, !slices.Contains(l.Away, st.ID))
		}
		rows = append(rows, row)
	}
	var out strings.Builder
	err = registercsv.Write(&out, names, rows)
	return out.String(), err
}
