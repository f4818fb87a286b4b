package home

import (
	"context"
	"fmt"
	"regexp"
	"slices"
	"time"

	"arplin/core/bpm"
	"arplin/core/ladder"
	"arplin/core/plan"
	"arplin/core/practice"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
)

// Sent is an entry as a phone sends it.
type Sent struct {
	ID      string        `json:"id"` // of the phone
	At      int64         `json:"at"` // when it was played, in milliseconds of the phone's clock
	Card    plan.TaskKind `json:"card"`
	Ladder  ref.Ladder    `json:"ladder"`
	Step    ladder.StepID `json:"step"`
	Drill   ref.Drill     `json:"drill"`
	Went    practice.Went `json:"went"`
	Tempo   int           `json:"tempo"`
	Minutes int           `json:"minutes"`
	Even    int           `json:"even"`
	Word    practice.Word `json:"word"`
}

// Batch is what a phone sends in one go. By its own time, Now, the age of each entry is known even where
// its clock is wrong.
type Batch struct {
	Now     int64  `json:"now"` // milliseconds of the phone's clock
	Entries []Sent `json:"entries"`
}

// Left is an entry that was not kept, and why. It stays on the phone.
type Left struct {
	ID  string `json:"id"`
	Why string `json:"why"`
}

// Taken is what became of a batch.
type Taken struct {
	Kept []string `json:"kept"`
	Left []Left   `json:"left,omitempty"`
}

// MostSent is how many entries a phone sends in one go.
const MostSent = 500

// mostADay bounds what is kept of one student in a day: nobody practises so often, and a script does.
const mostADay = 2000

// oldest is how long ago an entry can have been played: a summer without a net.
const oldest = 92 * 24 * time.Hour

var clientID = regexp.MustCompile(`^[A-Za-z0-9-]{8,64}$`)

// cards are the kinds of card that an entry stands on; the empty one is a word about the day.
var cards = []plan.TaskKind{"", plan.TaskWarmUp, plan.TaskReview, plan.TaskDrill, plan.TaskStep, plan.TaskSong}

// Take keeps what a phone sends: each entry once, at the time at which it was played. What cannot be kept
// is named with the reason; everything else is kept.
func (t *Room) Take(ctx context.Context, of store.Phone, b Batch, now time.Time) (Taken, error) {
	taken := Taken{Kept: []string{}}
	if len(b.Entries) > MostSent {
		return taken, answer.Refuse("send at most %d entries at a time; nothing of this was kept", MostSent)
	}
	today, err := t.Store.CameSince(ctx, of.Teacher, of.Student, now.Add(-24*time.Hour))
	if err != nil {
		return taken, err
	}
	if today > mostADay {
		return taken, answer.Refuse("a phone keeps at most %d entries a day with your teacher; send the rest tomorrow", mostADay)
	}
	var list []store.HomeEntry
	for _, e := range b.Entries {
		kept, err := e.entry(of.Student, b.Now, now)
		if err != nil {
			taken.Left = append(taken.Left, Left{e.ID, answer.Sentence(err.Error())})
			continue
		}
		list = append(list, kept)
	}
	slices.SortStableFunc(list, func(a, b store.HomeEntry) int { return a.At.Compare(b.At) })
	left, err := t.Store.AddHome(ctx, of.Teacher, of.Student, list)
	if err != nil {
		return taken, err
	}
	for _, id := range left {
		taken.Left = append(taken.Left, Left{id, "Your teacher has removed this song."})
	}
	for _, e := range list {
		if !slices.Contains(left, e.ClientID) {
			taken.Kept = append(taken.Kept, e.ClientID)
		}
	}
	return taken, nil
}

// entry reads an entry; the error is a clause for people.
func (e Sent) entry(student ref.Student, phone int64, now time.Time) (store.HomeEntry, error) {
	out := store.HomeEntry{
		StudentID: student, LadderID: e.Ladder, Step: e.Step, DrillID: e.Drill, Card: string(e.Card), Went: e.Went,
		Tempo: e.Tempo, Minutes: e.Minutes, Even: e.Even, Word: e.Word, ClientID: e.ID, Came: now,
	}
	age := time.Duration(max(0, phone-e.At)) * time.Millisecond
	_, known := e.Word.Line()
	switch {
	case !clientID.MatchString(e.ID):
		return out, fmt.Errorf("the entry has no id")
	case !slices.Contains(cards, e.Card) || e.Step < 0 || e.Step > 1_000_000 || e.Ladder < 0 || e.Drill < 0:
		return out, fmt.Errorf("the entry is about nothing on this page")
	case e.Went != "" && !slices.Contains(practice.Wents, e.Went) || e.Word != "" && !known || e.Went == "" && e.Word == "":
		return out, fmt.Errorf("the entry doesn’t say how it went")
	case e.Tempo != 0 && (e.Tempo < bpm.Min || e.Tempo > bpm.Max):
		return out, fmt.Errorf("write a tempo from %d to %d", bpm.Min, bpm.Max)
	case e.Minutes < 0 || e.Minutes > 24*60 || e.Even < 0 || e.Even > 10_000:
		return out, fmt.Errorf("the entry’s minutes can’t be right")
	case phone-e.At > oldest.Milliseconds() || phone < 0 || e.At < 0:
		return out, fmt.Errorf("this was played more than three months ago")
	}
	out.At = now.Add(-age)
	return out, nil
}
