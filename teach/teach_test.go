package teach_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/demo"
	"arplin/store"
	"arplin/store/storetest"
	"arplin/teach"
	"arplin/teach/desk"
	"arplin/teach/people"
)

func TestMain(m *testing.M) { storetest.Main(m) }

var (
	plucked  = pattern.MustParse("4/4: p . i . p . m .")
	strummed = pattern.MustParse("4/4: D . D U . U D U")
	both     = pattern.MustParse("4/4: p i D U p m D U")
)

// Where teachers disagree the class's side is told, never both. Source: common
// practice, the questions of the schools.
func TestPostureTellsTheClassesSide(t *testing.T) {
	for _, c := range []struct {
		class          store.Class
		says, withheld string
	}{
		{store.Class{Anchor: true}, "little finger lightly on the top", "hand float"},
		{store.Class{}, "Let your hand float", "finger lightly"},
		{store.Class{LongNails: true}, "filed smooth", "fingertip"},
		{store.Class{}, "fingertip", "filed smooth"},
		{store.Class{Wrist: true}, "from the wrist and keep your elbow still", "forearm"},
		{store.Class{}, "from the forearm", "elbow still"},
		{store.Class{Fingers: "moving"}, "follow the chord", "stays on its string"},
		{store.Class{Fingers: "fixed"}, "stays on its string", "follow the chord"},
	} {
		text := strings.Join(people.Posture(people.Class{Class: c.class, Has: true}, both), " ")
		assert.Contains(t, text, c.says, "%+v", c.class)
		assert.NotContains(t, text, c.withheld, "%+v", c.class)
	}
}

// A strum needs no word about plucking, nor the other way round.
func TestPostureIsAboutWhatIsPlayed(t *testing.T) {
	finger := strings.Join(people.Posture(people.Class{}, plucked), " ")
	strum := strings.Join(people.Posture(people.Class{}, strummed), " ")
	assert.Contains(t, finger, "pull the string out")
	assert.NotContains(t, finger, "Strum from")
	assert.Contains(t, strum, "Keep your hand moving")
	assert.NotContains(t, strum, "string out")
	assert.Empty(t, people.Posture(people.Class{}, pattern.MustParse("4/4: . . . .")))
}

// The usual cautions, all of them. Source: common practice.
// A figure has the posture of what it does. Source: common practice.
func TestPostureOfAFigure(t *testing.T) {
	pick := people.Class{Class: store.Class{Pick: true, Wrist: true}, Has: true}
	middle := people.Class{Class: store.Class{Roll: "middle"}, Has: true}
	for _, c := range []struct {
		class    people.Class
		notation string
		says     []string
		not      []string
	}{
		{people.Class{}, "4/4: D6 . D3 U2 D5 . D3 U2", []string{"Hold the pick"}, []string{"Strum from", "hand moving"}},
		{people.Class{}, "4/4: Dr . Dt Ut D' . Dt Ut", []string{"Hold the pick", "Strum from"}, []string{"Fingers pull", "nails"}},
		{people.Class{}, "4/4: p i m a p i m a", []string{"strings 3, 2 and 1", "behind your thumb", "ring until"}, []string{"follow the chord", "stays on its string", "Strum from"}},
		{middle, "4/4: p i m a p i m a", []string{"4, 3 and 2"}, []string{"strings 3, 2 and 1"}},
		{middle, "4/4: p i m i p i m i", []string{"Index and middle follow", "behind your thumb"}, []string{" ring stay", "ring until"}},
		{people.Class{}, "4/4: m . a . m . a .", []string{"Fingers pull", "nails", "hand float"}, []string{"thumb"}},
		{pick, "4/4: p i m i p i m i", []string{"Hold the pick"}, []string{"nails", "Fingers pull", "behind your thumb", "Strum from"}},
		{pick, "4/4: p+m i p' i p+m i p' i", []string{"Hold the pick", "Fingers pull"}, []string{"follow the chord"}},
		{people.Class{}, "4/4: p+m . N+X . p+m . N+X .", []string{"Nails and palm", "Strum from"}, []string{"behind your thumb"}},
	} {
		says := strings.Join(people.Posture(c.class, pattern.MustParse(c.notation)), " ")
		for _, want := range c.says {
			assert.Contains(t, says, want, c.notation)
		}
		for _, not := range c.not {
			assert.NotContains(t, says, not, c.notation)
		}
	}
}

func TestCare(t *testing.T) {
	text := strings.ToLower(strings.Join(people.Care, " "))
	for _, want := range []string{"warm up", "breaks", "pain", "doctor", "slowly", "without tension"} {
		assert.Contains(t, text, want)
	}
}

// What is practised, and when it is safe, fits the way of playing. Source: common
// practice.
func TestPractise(t *testing.T) {
	for _, c := range []struct {
		step         ladder.Step
		first, ready string
		lines        int
	}{
		{ladder.Step{Play: difficulty.Said}, "walking on the spot", "you play 4 clean bars at 60 BPM, then 4 without the metronome", 3},
		{ladder.Step{Play: difficulty.Tapped}, "One hand alone", "you stay in time for 4 bars at 60 BPM, counting aloud", 3},
		{ladder.Step{Play: difficulty.Muted}, "One bar, counting aloud", "you play it cleanly three times at 60 BPM, counting aloud", 3},
		{ladder.Step{Over: ladder.OneChord}, "Pluck each string", "you play it cleanly three times at 60 BPM, counting aloud", 3},
		{ladder.Step{Over: ladder.TwoChords}, "Pluck each string", "you play it cleanly three times at 60 BPM, counting aloud", 3},
		{ladder.Step{Over: ladder.AllChords}, "Pluck each string", "you play it cleanly three times at 60 BPM, counting aloud", 4},
	} {
		lines := people.Practise(c.step)
		assert.Len(t, lines, c.lines)
		assert.Contains(t, lines[0], c.first)
		assert.Equal(t, c.ready, people.ReadyWhen(c.step, 60))
	}
	assert.NotContains(t, strings.Join(people.Practise(ladder.Step{Over: ladder.OneChord}), " "), "Two chords")
	assert.Contains(t, strings.Join(people.HowTo, " "), "Two chords", "the lists are not changed by one another")
}

// Every text has an id of its own and words that are whole.
func TestWords(t *testing.T) {
	seen := map[string]bool{}
	for _, text := range people.Words() {
		if text.ID != "posture" {
			assert.False(t, seen[text.ID], text.ID)
		}
		seen[text.ID] = true
		for i, says := range text.Says {
			assert.Equal(t, strings.TrimSpace(says), says, text.ID)
			assert.False(t, i == 1 && strings.Contains(says, " ") && !strings.HasSuffix(says, ".") && strings.HasPrefix(text.ID, "rule/"), "%s: %q is no sentence", text.ID, says)
		}
	}
	for _, want := range []string{"rule/accents/more", "stage/goal-tempo", "part/rate", "drill/the-bar", "done/ladder/pinned", "care"} {
		assert.True(t, seen[want], want)
	}
}

// What was computed is kept by content: the same again is the same, and an edit
// by another copy of the program is seen at once.
func TestWhatIsKeptIsNeverStale(t *testing.T) {
	s, ctx, now := storetest.Open(t), t.Context(), time.Now()
	school, err := demo.LoadPlain(ctx, s, now)
	require.NoError(t, err)
	owner, err := s.TeacherByEmail(ctx, school.Teacher.Email)
	require.NoError(t, err)
	here, there := teach.New(s), teach.New(s)
	class, err := here.People.Class(ctx, owner.ID, 0)
	require.NoError(t, err)
	shown, rows, err := here.Desk.Load(ctx, owner.ID, class, desk.DeskView{}, now)
	require.NoError(t, err)
	_, same, err := there.Desk.Load(ctx, owner.ID, class, desk.DeskView{}, now)
	require.NoError(t, err)
	assert.Equal(t, rows, same)
	_, err = there.Desk.LogTempo(ctx, owner.ID, class, desk.Log{Line: "jonas 77", ClientID: "kept-0123456789abcdef"}, now)
	require.NoError(t, err)
	after, changed, err := here.Desk.Load(ctx, owner.ID, class, desk.DeskView{}, now)
	require.NoError(t, err)
	assert.NotEqual(t, rows, changed)
	for i, line := range after.Lines {
		if line.Student.Name == "Jonas" {
			assert.Equal(t, 77, line.Last)
			assert.Zero(t, shown.Lines[i].Last)
		}
	}
}

// A level does not depend on who enrolled first: it is measured for an instrument
// that is named.
func TestALevelIsForAnInstrument(t *testing.T) {
	c := people.Class{Has: true, Students: []store.Student{{ID: 1, Instrument: "ukulele"}, {ID: 2, Instrument: "guitar"}, {ID: 3, Instrument: "tuning:C2-G2-D3-G3-A3-D4"}}}
	turned := people.Class{Has: true, Students: []store.Student{c.Students[2], c.Students[1], c.Students[0]}}
	assert.Equal(t, c.Instruments(), turned.Instruments())
	assert.Equal(t, "guitar", c.Instrument("").ID)
	assert.Equal(t, "ukulele", c.Instrument("ukulele").ID)
	assert.Equal(t, "guitar", people.Class{}.Instrument("lute").ID)
}
