package desk

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"
	"golang.org/x/sync/semaphore"

	"arplin/core/ladder"
	"arplin/core/practice"
	"arplin/format/wavfile"
	"arplin/letters"
	"arplin/sound"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
)

// Keep is a take that is to be kept: a recording as the page sends it, and what Listen said of it.
type Keep struct {
	UID     string // of the page, so that one that is sent twice is one
	Student ref.Student
	Ladder  ref.Ladder // 0 for none
	Step    ladder.StepID
	Tempo   string
	Says    string
	WAV     []byte // at sound.Rate
	Home    bool   // sent from the student's phone
}

// longestTake is in seconds: sixteen slow bars of six.
const longestTake = 120

// packing bounds how many takes are read and packed at once: each has megabytes.
var packing = semaphore.NewWeighted(2)

// KeepTake keeps a take with its student, and says so; to a phone it names nobody.
func (t *Room) KeepTake(ctx context.Context, teacher ref.Teacher, k Keep, now time.Time) (says string, err error) {
	tempo, err := practice.ParseTempo(k.Tempo)
	if err != nil {
		return "", answer.Refused(err)
	}
	st, err := t.Store.Student(ctx, teacher, k.Student)
	if err != nil {
		return "", err
	}
	if err := packing.Acquire(ctx, 1); err != nil {
		return "", err
	}
	defer packing.Release(1)
	take, err := wavfile.Read(bytes.NewReader(k.WAV))
	switch {
	case err != nil:
		return "", answer.Refused(err)
	case take.Rate != sound.Rate:
		return "", answer.Refuse("a take that is kept has %d samples a second, and this one %d", sound.Rate, take.Rate)
	case len(take.Samples) == 0 || len(take.Samples) > longestTake*take.Rate:
		return "", answer.Refuse("a take that is kept has up to %d seconds", longestTake)
	}
	flac, err := sound.FLAC(take.Samples)
	if err != nil {
		return "", err
	}
	kept := store.Take{
		StudentID: k.Student, LadderID: k.Ladder, Step: k.Step, Tempo: tempo, Seconds: len(take.Samples) / take.Rate, Says: letters.Cut(letters.Clean(k.Says), store.MostTakeWords), At: now, Home: k.Home,
	}
	if id, err := uuid.Parse(k.UID); err == nil {
		kept.UID = ref.UID(id.String())
	}
	err = t.Store.KeepTake(ctx, teacher, kept, flac)
	switch full := errors.Is(err, store.ErrFull); {
	case full && k.Home:
		return "", answer.Refuse("your teacher has no room for another recording. Say so in the lesson")
	case full:
		return "", answer.Refuse("there’s room for %d takes or %d MB, and it’s full. Delete an older one on a student’s page first", store.MostTakes, store.MostTakeBytes>>20)
	case k.Home:
		return "Sent. Your teacher can hear it.", err
	}
	return fmt.Sprintf("Kept for %s.", st.Name), err
}

// TakeLine is a take that was kept, in words.
type TakeLine struct {
	store.Take
	Song string
}

// takeLines are a student's takes.
func (t *Room) takeLines(ctx context.Context, teacher ref.Teacher, p *Student) error {
	kept, err := t.Store.Takes(ctx, teacher, p.ClassID, p.ID)
	if err != nil || len(kept) == 0 {
		return err
	}
	titles, err := t.Store.LadderTitles(ctx, teacher)
	if err != nil {
		return err
	}
	for _, k := range kept {
		p.Takes = append(p.Takes, TakeLine{k, titles[k.LadderID]})
	}
	return nil
}

// TakeSound is the FLAC of a take.
func (t *Room) TakeSound(ctx context.Context, teacher ref.Teacher, id ref.Take) ([]byte, error) {
	return t.Store.TakeSound(ctx, teacher, id)
}

// DeleteTake deletes a take for good, and says whose it was.
func (t *Room) DeleteTake(ctx context.Context, teacher ref.Teacher, id ref.Take) (ref.Student, error) {
	return t.Store.DeleteTake(ctx, teacher, id)
}

// TakeBack deletes what a student's phone sent, by the name that it gave it.
func (t *Room) TakeBack(ctx context.Context, of store.Phone, uid string) error {
	name, err := uuid.Parse(uid)
	if err != nil {
		return nil // nothing was sent under it
	}
	return t.Store.DeleteHomeTake(ctx, of.Teacher, of.Student, ref.UID(name.String()))
}
