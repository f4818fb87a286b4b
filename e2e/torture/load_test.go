package main

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store"
	"arplin/store/storetest"
)

func TestMain(m *testing.M) { storetest.Main(m) }

// What counts lost, doubled and wrong lines sees each of them: a count that is always none would say
// that all is well.
func TestTheCountOfLinesBites(t *testing.T) {
	ctx, s := t.Context(), storetest.Open(t)
	sc, err := loadSchool(ctx, s)
	require.NoError(t, err)
	l := &logger{tempos: map[string]int{}, sent: map[string]bool{}}
	require.NoError(t, l.remember(ctx, storetest.DSN, sc.teacher))
	on, err := s.Ladder(ctx, sc.teacher, sc.ladder)
	require.NoError(t, err)
	add := func(id string, tempo int) {
		_, err := s.AddEntry(ctx, sc.teacher, store.Entry{StudentID: sc.students[0], LadderID: sc.ladder, Step: on.Steps[0], Tempo: tempo, At: time.Now()}, id)
		require.NoError(t, err)
	}
	count := func() [3]int {
		lost, doubled, wrong, err := l.check(ctx, storetest.DSN, sc.teacher)
		require.NoError(t, err)
		return [3]int{lost, doubled, wrong}
	}
	add("here", 70)
	l.acked, l.tempos["here"], l.sent["here"] = []string{"here"}, 70, true
	assert.Equal(t, [3]int{0, 0, 0}, count())
	l.tempos["here"] = 71
	assert.Equal(t, [3]int{0, 0, 1}, count(), "another tempo than was sent")
	add("nobody sent it", 70)
	assert.Equal(t, [3]int{0, 1, 1}, count())
	l.acked = append(l.acked, "gone")
	assert.Equal(t, [3]int{1, 1, 1}, count())

	l.edits = []edit{{90, true}, {91, false}}
	assert.ErrorIs(t, l.checkEdits(ctx, storetest.DSN, sc.song), errBroken, "the song has neither tempo")
}
