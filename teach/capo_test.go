package teach

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/store"
	"arplin/teach/ladders"
	"arplin/teach/paper"
	"arplin/teach/people"
	"arplin/teach/songs"
)

// Somebody who always plays with a capo, another instrument than the ladder's, or none of that:
// each has the chords of the step with shape and strip, and hears them. A song in G, capo 2.
func TestASheetAndAScoreForWhoPlaysWithACapo(t *testing.T) {
	p := pattern.MustParse("4/4: p . p'+m . p i p' .")
	bars, err := song.ParseChords("G | C | D | Em", p.Meter)
	require.NoError(t, err)
	sg := song.Song{Title: "Capo", Meter: p.Meter, Tempo: 80, Sections: []song.Section{{Name: "Verse", Bars: bars}}}.Numbered()
	c := people.Class{Class: store.Class{ID: 1}, Students: []store.Student{{ID: 1, Name: "Ada", Instrument: "guitar", Capo: 2}, {ID: 2, Name: "Ben", Instrument: "ukulele"}, {ID: 3, Name: "Cleo", Instrument: "guitar"}}}
	l := ladders.Ladder{Song: store.Song{Song: sg}, Class: c, Places: store.Places{}}
	l.SongTitle, l.Target, l.Ladder.Instrument = "Capo", p, "guitar"
	on := New(nil)
	l.Steps = grow.Build(order.Choice{}, ladders.LadderTask(p, nil, ladder.Beginning{}, sg, nil, c.Instrument("guitar"), c), c.Weigh(), 0)
	on.Ladders.Measure(&l)
	for _, st := range c.Students {
		for i, step := range l.Steps {
			sheet := on.Paper.SheetOf(l, paper.Ask{Step: step.ID, Student: st.ID}, nil)
			want := len(sg.Chords())
			if stage := step.Stage(l.Task); stage != nil {
				want = len(stage)
			}
			require.Len(t, sheet.Chords, want, "step %d of %s", i+1, st.Name)
			for _, ch := range sheet.Chords {
				assert.NotEmpty(t, ch.Shape, "step %d of %s, %s", i+1, st.Name, ch.Symbol)
				assert.NotEmpty(t, ch.Strip, "step %d of %s, %s", i+1, st.Name, ch.Symbol)
			}
			played := 0
			for _, bar := range sheet.Sections[0].Bars {
				if !bar.Chords[0].Rest {
					played++
				}
			}
			assert.Equal(t, want, played, "step %d of %s: bars that are played", i+1, st.Name)
			score, err := l.StepScore(step.ID, songs.ScoreAsk{Student: st.ID})
			require.NoError(t, err)
			sounding := map[int]bool{}
			for _, n := range score.Notes {
				sounding[n.Tick/(4*score.Beat)] = true
			}
			assert.Len(t, sounding, want, "step %d of %s: bars that sound", i+1, st.Name)
		}
	}
}
