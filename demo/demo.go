package demo

import (
	"context"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"sync"
	"time"

	"github.com/alexedwards/argon2id"
	"golang.org/x/sync/errgroup"

	"arplin/format/chordpro"
	"arplin/store"
	"arplin/teach"
	"arplin/teach/ladders"
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
		Before     []Before
	}
	Songs    []string
	Ladder   struct{ Song, Pattern string }
	Lesson   struct{ Away []string }        // the last one
	Grows    struct{ Song, Pattern string } // four times the same bars, set aside
	Finished struct{ Song, Pattern string } // before the ladder of now
}

// Before is a step that a student has left behind.
type Before struct {
	Step  int
	Heard []string // "72", or "72x" for not clean, half a week apart, before the tempos of now
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
	return school, load(ctx, s, school, now)
}

// atOnce is how many copies are loaded at the same time.
const atOnce = 8

// LoadCopies stores further schools like it, each with a teacher of its own whose
// address begins with the copy's number: tests at the same time share nothing.
func LoadCopies(ctx context.Context, s *store.Store, copies int, now time.Time) error {
	group, ctx := errgroup.WithContext(ctx)
	group.SetLimit(atOnce)
	for i := range copies {
		group.Go(func() error {
			school, err := Read()
			if err != nil {
				return err
			}
			school.Teacher.Email = fmt.Sprintf("%d.%s", i+1, school.Teacher.Email)
			return load(ctx, s, school, now)
		})
	}
	return group.Wait()
}

func load(ctx context.Context, s *store.Store, school School, now time.Time) error {
	_, err := s.TeacherByEmail(ctx, school.Teacher.Email)
	if err == nil {
		return nil
	}
	if errors.Is(err, store.ErrNotFound) {
		err = loadWhole(ctx, s, school, now)
	}
	if err != nil {
		return fmt.Errorf("demo: %w", err)
	}
	return nil
}

// unfinished begins the address of a school that is being loaded: a load that was
// cut short is begun anew.
const unfinished = "unfinished."

func loadWhole(ctx context.Context, s *store.Store, school School, now time.Time) error {
	address := school.Teacher.Email
	school.Teacher.Email = unfinished + address
	left, err := s.TeacherByEmail(ctx, school.Teacher.Email)
	if err == nil {
		err = errors.Join(s.ArchiveTeacher(ctx, left.ID, true), s.DeleteTeacher(ctx, left.ID))
	}
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return err
	}
	l := loader{Teach: teach.New(s), school: school}
	if err := l.load(ctx, now); err != nil {
		return err
	}
	return s.SetEmail(ctx, l.teacher, address)
}

// hashOnce hashes the demo's password, which all copies share.
var hashOnce = sync.OnceValues(func() (string, error) {
	school, err := Read()
	if err != nil {
		return "", err
	}
	return argon2id.CreateHash(school.Teacher.Password, argon2id.DefaultParams)
})

type loader struct {
	*teach.Teach
	school  School
	teacher store.TeacherID
}

func (l *loader) load(ctx context.Context, now time.Time) error {
	hash, err := hashOnce()
	if err != nil {
		return err
	}
	l.teacher, err = l.Store.AddTeacher(ctx, l.school.Teacher.Email, l.school.Teacher.Name, hash)
	if err != nil {
		return err
	}
	class, err := l.Store.AddClass(ctx, l.teacher, store.Class{
		Name: l.school.Class.Name, LessonMinutes: l.school.Class.Minutes, Fingers: "moving", LowFifth: true,
	})
	if err != nil {
		return err
	}
	songs := map[string]store.SongID{}
	for _, name := range l.school.Songs {
		if songs[name], err = l.addSong(ctx, name); err != nil {
			return err
		}
	}
	at, err := l.People.Class(ctx, l.teacher, class)
	if err != nil {
		return err
	}
	id, err := l.Ladders.Make(ctx, l.teacher, at, ladders.NewLadder{Song: songs[l.school.Ladder.Song], Pattern: l.school.Ladder.Pattern})
	if err != nil {
		return err
	}
	if err := l.addStudents(ctx, class, id, now); err != nil {
		return err
	}
	if err := l.addPast(ctx, class, id, songs[l.school.Finished.Song], now); err != nil {
		return err
	}
	return l.addGrowing(ctx, class, songs[l.school.Grows.Song])
}

func (l *loader) addSong(ctx context.Context, name string) (store.SongID, error) {
	sheet, err := files.ReadFile("songs/" + name + ".cho")
	if err != nil {
		return 0, err
	}
	sg, problems := chordpro.Read(string(sheet))
	if len(problems) > 0 {
		return 0, fmt.Errorf("%s: %s", name, problems[0])
	}
	return l.Store.AddSong(ctx, l.teacher, sg)
}

func (l *loader) addStudents(ctx context.Context, class store.ClassID, id store.LadderID, now time.Time) error {
	const week = 7 * 24 * time.Hour
	on, err := l.Store.Ladder(ctx, l.teacher, id)
	if err != nil {
		return err
	}
	for _, st := range l.school.Students {
		student, err := l.Store.AddStudent(ctx, l.teacher, store.Student{ClassID: class, Name: st.Name, Instrument: st.Instrument, LeftHanded: st.LeftHanded})
		if err != nil {
			return err
		}
		step := on.Steps[st.Step]
		if _, _, err := l.Store.Place(ctx, l.teacher, id, store.Places{student: step.ID}); err != nil {
			return err
		}
		if err := l.addBefore(ctx, student, on, st.Before, now.Add(-time.Duration(len(st.Tempos))*week), step.ID); err != nil {
			return err
		}
		for i, tempo := range st.Tempos {
			e := store.Entry{StudentID: student, LadderID: id, Step: step, Tempo: tempo, At: now.Add(-time.Duration(len(st.Tempos)-i) * week)}
			if _, err := l.Store.AddEntry(ctx, l.teacher, e, fmt.Sprintf("demo-%d-%d", student, i)); err != nil {
				return err
			}
		}
	}
	return nil
}
