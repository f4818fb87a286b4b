package ladders

import (
	"context"
	"fmt"
	"maps"
	"strings"
	"time"

	"arplin/core/difficulty"
	"arplin/core/drill"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

// PutDrill is a drill that goes on a student's week.
type PutDrill struct {
	Student     ref.Student
	Kind        string
	Bar         song.BarID
	Minutes     int
	Pattern     pattern.Pattern
	PatternName string
	Over        string // chords under the figure, a bar each
}

// PutOnWeek puts a drill on a student's week and says so.
func (t *Room) PutOnWeek(ctx context.Context, teacher ref.Teacher, c people.Class, id ref.Song, p PutDrill, now time.Time) (drillID ref.Drill, says string, err error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return 0, "", err
	}
	st, ok := c.Student(p.Student)
	switch {
	case !ok:
		return 0, "", answer.Refuse("choose a student for the drill")
	case sg.NumberOf(p.Bar) == 0 || p.Minutes < 3 || p.Minutes > 60:
		return 0, "", answer.Refuse("choose a bar of the song, and 3 to 60 minutes for the drill")
	}
	if p.Over != "" {
		over, err := drill.ParseOver(p.Over, sg.KeyGuess().Key)
		if err != nil {
			return 0, "", answer.Refuse("%s", err)
		}
		p.Over = strings.Join(over.Chords, " | ")
	}
	if p.Kind != ChangeDrill {
		p.Kind = BarDrill
	}
	there, err := t.Store.Drills(ctx, teacher, st.ClassID)
	if err != nil {
		return 0, "", err
	}
	for _, d := range there {
		if d.StudentID == st.ID && d.SongID == sg.ID && d.Kind == p.Kind && d.Bar == p.Bar && d.Pattern.Equal(p.Pattern) {
			return 0, "", answer.Refuse("this drill is already on %s’s week, for %d minutes. Remove it there to change it", st.Name, d.Minutes)
		}
	}
	drillID, err = t.Store.AddDrill(ctx, teacher, store.WeekDrill{
		StudentID: st.ID, SongID: sg.ID, Week: now, Kind: p.Kind, Bar: p.Bar, Pattern: p.Pattern, PatternName: p.PatternName, Minutes: p.Minutes, Over: p.Over,
	})
	return drillID, fmt.Sprintf("It’s on %s’s week and sheets now, until it’s done or removed.", st.Name), err
}

// WeekDrill is a drill in a list.
type WeekDrill struct {
	store.WeekDrill
	What string // "bar 3" or "the change into bar 3"
	Of   string // what is played: "Two between, over C | F | G7", or "C to F"
}

// WeekDrills lists the drills of a class by student.
func (t *Room) WeekDrills(ctx context.Context, teacher ref.Teacher, c people.Class, known ...Ladder) (map[ref.Student][]WeekDrill, error) {
	list, err := t.Store.Drills(ctx, teacher, c.ID)
	if err != nil || len(list) == 0 {
		return nil, err
	}
	songs := map[ref.Song]store.Song{}
	for _, l := range known {
		songs[l.SongID] = l.Song
	}
	var ids []ref.Song
	for _, d := range list {
		if _, there := songs[d.SongID]; !there {
			ids = append(ids, d.SongID)
		}
	}
	if len(ids) > 0 {
		others, err := t.Store.SongsOf(ctx, teacher, ids)
		if err != nil {
			return nil, err
		}
		maps.Copy(songs, others)
	}
	by := map[ref.Student][]WeekDrill{}
	for _, d := range list {
		what := "a bar that’s gone"
		if n := songs[d.SongID].NumberOf(d.Bar); n > 0 {
			what = fmt.Sprintf("bar %d", n)
		}
		of := d.PatternName
		if d.Over != "" {
			of += ", over " + d.Over
		}
		if d.Kind == ChangeDrill {
			what = "the change into " + what
			st, _ := c.Student(d.StudentID)
			if from, to, ok := drill.ChangeAt(people.Held(st, songs[d.SongID].Song).Fingering(c.Instrument(st.Instrument)), songs[d.SongID].NumberOf(d.Bar)-1); ok {
				of += fmt.Sprintf(", %s to %s", from, to)
			}
		}
		by[d.StudentID] = append(by[d.StudentID], WeekDrill{d, what, of})
	}
	return by, nil
}

// DrillOnSheet is a drill as a few lines of paper.
type DrillOnSheet struct {
	WeekDrill
	Exercises []drill.Exercise
}

// DrillsOnSheets makes the exercises of the weeks of some students, by student.
func (t *Room) DrillsOnSheets(ctx context.Context, teacher ref.Teacher, c people.Class, students []store.Student, now time.Time) (map[ref.Student][]DrillOnSheet, error) {
	week, err := t.WeekDrills(ctx, teacher, c)
	if err != nil || len(week) == 0 {
		return nil, err
	}
	var ids []ref.Song
	for _, st := range students {
		for _, d := range week[st.ID] {
			ids = append(ids, d.SongID)
		}
	}
	if len(ids) == 0 {
		return nil, nil
	}
	songs, err := t.Store.SongsOf(ctx, teacher, ids)
	if err != nil {
		return nil, err
	}
	var only ref.Student // 0 for all
	if len(students) == 1 {
		only = students[0].ID
	}
	cleans, err := t.Store.LastCleans(ctx, teacher, c.ID, only, Since(now))
	if err != nil {
		return nil, err
	}
	by := map[ref.Student][]DrillOnSheet{}
	for _, st := range students {
		ins := c.Instrument(st.Instrument)
		for _, d := range week[st.ID] {
			sg := songs[d.SongID]
			task := difficulty.NewTask(d.Pattern, people.Held(st, sg.Song), ins, c.For(st).School(), sg.Tempo)
			day := drill.Day{Minutes: float64(d.Minutes), Clean: cleans[store.OnSong{Student: st.ID, Song: sg.ID}]}
			day.Over, _ = drill.ParseOver(d.Over, sg.KeyGuess().Key)                              // what was stored was read
			if exercises, err := exercisesOf(task, d.Kind, sg.NumberOf(d.Bar), day); err == nil { // a bar that the song has no more has no drill
				by[st.ID] = append(by[st.ID], DrillOnSheet{d, exercises})
			}
		}
	}
	return by, nil
}
