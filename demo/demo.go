// Package demo fills an empty database with an invented school, so that a
// newcomer sees Arplin at work.
package demo

import (
	"context"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/alexedwards/argon2id"

	"arplin/core/bind"
	"arplin/core/demand"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/song"
	"arplin/core/vary"
	"arplin/format/chordpro"
	"arplin/store"
)

//go:embed school.json songs/*.cho
var files embed.FS

// School is the demo data.
type School struct {
	Teacher struct{ Email, Name, Password string }
	Class   struct {
		Name    string
		Minutes int
	}
	Students []struct {
		Name       string
		Instrument string
		LeftHanded bool `json:"left_handed"`
		Step       int
		Tempos     []int // clean tempos, a week apart, the last one a week ago
	}
	Songs  []string
	Ladder struct{ Song, Pattern string }
}

// Read returns the demo school.
func Read() (School, error) {
	var school School
	data, err := files.ReadFile("school.json")
	if err == nil {
		err = json.Unmarshal(data, &school)
	}
	if err != nil {
		return School{}, fmt.Errorf("demo: %w", err)
	}
	return school, nil
}

// Load stores the demo school once; a second call changes nothing.
func Load(ctx context.Context, s *store.Store, now time.Time) (School, error) {
	school, err := Read()
	if err != nil {
		return School{}, err
	}
	_, err = s.TeacherByEmail(ctx, school.Teacher.Email)
	if err == nil {
		return school, nil
	}
	if !errors.Is(err, store.ErrNotFound) {
		return School{}, fmt.Errorf("demo: %w", err)
	}
	l := loader{s, school, 0}
	if err := l.load(ctx, now); err != nil {
		return School{}, fmt.Errorf("demo: %w", err)
	}
	return school, nil
}

type loader struct {
	store   *store.Store
	school  School
	teacher int64
}

func (l *loader) load(ctx context.Context, now time.Time) error {
	hash, err := argon2id.CreateHash(l.school.Teacher.Password, argon2id.DefaultParams)
	if err != nil {
		return err
	}
	l.teacher, err = l.store.AddTeacher(ctx, l.school.Teacher.Email, l.school.Teacher.Name, hash)
	if err != nil {
		return err
	}
	class, err := l.store.AddClass(ctx, l.teacher, store.Class{
		Name: l.school.Class.Name, LessonMinutes: l.school.Class.Minutes, Fingers: "moving", LowFifth: true,
	})
	if err != nil {
		return err
	}
	songs, texts := map[string]int64{}, map[string]song.Song{}
	for _, name := range l.school.Songs {
		if songs[name], texts[name], err = l.addSong(ctx, name); err != nil {
			return err
		}
	}
	entry, ok := hand.ByID(l.school.Ladder.Pattern)
	if !ok {
		return fmt.Errorf("no pattern %q", l.school.Ladder.Pattern)
	}
	sg := texts[l.school.Ladder.Song]
	ladder, err := l.store.AddLadder(ctx, l.teacher, store.Ladder{
		ClassID: class, SongID: songs[l.school.Ladder.Song], PatternName: entry.Name,
		Target: entry.Pattern, Steps: vary.Steps(vary.ThumbFirst, demand.NewTask(entry.Pattern, sg, fretboard.Instruments[0], bind.DefaultSchool, sg.Tempo), demand.Fitted),
	})
	if err != nil {
		return err
	}
	return l.addStudents(ctx, class, ladder, now)
}

func (l *loader) addSong(ctx context.Context, name string) (int64, song.Song, error) {
	sheet, err := files.ReadFile("songs/" + name + ".cho")
	if err != nil {
		return 0, song.Song{}, err
	}
	sg, problems := chordpro.Read(string(sheet))
	if len(problems) > 0 {
		return 0, sg, fmt.Errorf("%s: %s", name, problems[0])
	}
	id, err := l.store.AddSong(ctx, l.teacher, sg)
	return id, sg, err
}

func (l *loader) addStudents(ctx context.Context, class, ladder int64, now time.Time) error {
	const week = 7 * 24 * time.Hour
	for _, st := range l.school.Students {
		id, err := l.store.AddStudent(ctx, l.teacher, store.Student{ClassID: class, Name: st.Name, Instrument: st.Instrument, LeftHanded: st.LeftHanded})
		if err != nil {
			return err
		}
		if _, err := l.store.Place(ctx, l.teacher, ladder, id, st.Step); err != nil {
			return err
		}
		for i, tempo := range st.Tempos {
			at := now.Add(-time.Duration(len(st.Tempos)-i) * week)
			e := store.Entry{StudentID: id, LadderID: ladder, Step: st.Step, Tempo: tempo, At: at}
			if _, err := l.store.AddEntry(ctx, l.teacher, e, fmt.Sprintf("demo-%d-%d", id, i)); err != nil {
				return err
			}
		}
	}
	return nil
}
