package demo

import (
	"context"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/argon2id"
	"golang.org/x/sync/errgroup"

	"arplin/core/ladder"
	"arplin/core/practice"
	"arplin/format/chordpro"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach"
	"arplin/teach/ladders"
	"arplin/teach/people"
)

//go:embed school.json plain.json songs/*.cho
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
		LeftHanded bool     `json:"left_handed"`
		Step       int      // from 0; -1 for one who has none yet
		Heard      []string // on that step: how many days ago, and a line of the log without the name, "6 66 x st b3"
		Before     []Before
		Also       int // the step on the second song of the desk, from 1
	}
	Songs   []string
	Ladder  struct{ Song, Pattern string }
	Also    struct{ Song, Pattern string } // a second song on the desk
	Lessons []struct {
		Days int // ago
		Away []string
	}
	Term struct {
		Weeks    int // from now to the concert
		Name, At string
	}
	Grows    struct{ Song, Pattern string } // four times the same bars, set aside
	Finished struct{ Song, Pattern string } // before the ladder of now
}

// Before is a step that a student has left behind.
type Before struct {
	Step  int
	Heard []string // "72", or "72x" for not clean, half a week apart, before the tempos of now
}

// Read returns the demo school: nine histories that differ as people do.
func Read() (School, error) { return read("school.json") }

// ReadPlain returns the same class with steady histories, which tests start from.
func ReadPlain() (School, error) { return read("plain.json") }

func read(name string) (School, error) {
	var school School
	data, err := files.ReadFile(name)
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

// LoadPlain stores the school that tests start from.
func LoadPlain(ctx context.Context, s *store.Store, now time.Time) (School, error) {
	school, err := ReadPlain()
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
			school, err := ReadPlain()
			if err != nil {
				return err
			}
			shown, err := Read()
			if err != nil {
				return err
			}
			school.Teacher.Email = fmt.Sprintf("%d.%s", i+1, shown.Teacher.Email)
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
	return argon2id.CreateHash(school.Teacher.Password, people.Hashing)
})

type loader struct {
	*teach.Teach
	school  School
	teacher ref.Teacher
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
	_, _, err = l.fill(ctx, now)
	return err
}

// AddSample gives a teacher the class of the demo to look around in, with its songs.
func AddSample(ctx context.Context, s *store.Store, teacher ref.Teacher, now time.Time) (ref.Class, error) {
	if class, err := s.SampleOf(ctx, teacher); !errors.Is(err, store.ErrNotFound) {
		return class, err // it is there
	}
	school, err := Read()
	if err != nil {
		return 0, err
	}
	school.Class.Name = "Sample class"
	l := loader{Teach: teach.New(s), school: school, teacher: teacher}
	class, songs, err := l.fill(ctx, now)
	if class == 0 {
		return 0, err
	}
	return class, errors.Join(err, s.AddSample(ctx, teacher, class, songs)) // half of one can be removed, too
}

// fill gives the teacher the class, its songs and all that was done with them.
func (l *loader) fill(ctx context.Context, now time.Time) (class ref.Class, list []ref.Song, err error) {
	class, err = l.Store.AddClass(ctx, l.teacher, store.Class{
		Name: l.school.Class.Name, LessonMinutes: l.school.Class.Minutes, Fingers: "moving", LowFifth: true,
	})
	if err != nil {
		return class, list, err
	}
	songs := map[string]ref.Song{}
	for _, name := range l.school.Songs {
		if songs[name], err = l.addSong(ctx, name); err != nil {
			return class, list, err
		}
		list = append(list, songs[name])
	}
	at, err := l.People.Class(ctx, l.teacher, class)
	if err != nil {
		return class, list, err
	}
	var also ref.Ladder
	if song, ok := songs[l.school.Also.Song]; ok { // the newest stands in front, so this one is made first
		if also, err = l.Ladders.Make(ctx, l.teacher, at, ladders.NewLadder{Song: song, Pattern: l.school.Also.Pattern}); err != nil {
			return class, list, err
		}
	}
	id, err := l.Ladders.Make(ctx, l.teacher, at, ladders.NewLadder{Song: songs[l.school.Ladder.Song], Pattern: l.school.Ladder.Pattern})
	if err != nil {
		return class, list, err
	}
	if err := l.addStudents(ctx, class, id, now); err != nil {
		return class, list, err
	}
	if err := l.addPast(ctx, class, id, songs[l.school.Finished.Song], now); err != nil {
		return class, list, err
	}
	if err := l.addGrowing(ctx, class, songs[l.school.Grows.Song]); err != nil {
		return class, list, err
	}
	if also != 0 {
		if err := l.placeAlso(ctx, class, also); err != nil {
			return class, list, err
		}
	}
	return class, list, l.addTerm(ctx, class, id, now)
}

func (l *loader) addSong(ctx context.Context, name string) (ref.Song, error) {
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

func (l *loader) addStudents(ctx context.Context, class ref.Class, id ref.Ladder, now time.Time) error {
	on, err := l.Store.Ladder(ctx, l.teacher, id)
	if err != nil {
		return err
	}
	for _, st := range l.school.Students {
		student, err := l.Store.AddStudent(ctx, l.teacher, store.Student{ClassID: class, Name: st.Name, Instrument: st.Instrument, LeftHanded: st.LeftHanded})
		if err != nil {
			return err
		}
		if st.Step < 0 {
			continue
		}
		step := on.Steps[st.Step]
		if _, _, err := l.Store.Place(ctx, l.teacher, id, store.Places{student: step.ID}); err != nil {
			return err
		}
		heard, err := l.heard(ctx, student, on, step, st.Heard, now)
		if err != nil {
			return err
		}
		if err := l.addBefore(ctx, student, on, st.Before, heard, step.ID); err != nil {
			return err
		}
	}
	return nil
}

// heard logs what is heard of a student on the step of now, and says when it began.
func (l *loader) heard(ctx context.Context, student ref.Student, on store.Ladder, step ladder.Step, lines []string, now time.Time) (time.Time, error) {
	sg, err := l.Store.Song(ctx, l.teacher, on.SongID)
	if err != nil {
		return now, err
	}
	bars, began := sg.Bars(), now
	var sent []store.Sent
	for i, text := range lines {
		days, rest, _ := strings.Cut(text, " ")
		ago, err := strconv.Atoi(days)
		if err != nil {
			return now, fmt.Errorf("%q begins with no number of days", text)
		}
		line, err := practice.ParseOwn(rest, nil, strings.ToLower)
		if err != nil {
			return now, err
		}
		e := store.Entry{StudentID: student, LadderID: on.ID, Step: step, Tempo: line.Tempo, Failed: !line.Clean, Fault: line.Fault, At: now.AddDate(0, 0, -ago)}
		if line.Bar > 0 {
			e.Bar = bars[line.Bar-1].ID
		}
		if i == 0 {
			began = e.At
		}
		sent = append(sent, store.Sent{Entry: e, ClientID: fmt.Sprintf("demo-%d-%d", student, i)})
	}
	_, err = l.Store.AddEntries(ctx, l.teacher, sent)
	return began, err
}
