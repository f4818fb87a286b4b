package teach

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern/patterntest"
	"arplin/core/song"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/desk"
	"arplin/teach/files"
	"arplin/teach/ladders"
	"arplin/teach/paper"
	"arplin/teach/people"
	"arplin/teach/songs"
)

// Whatever the notation can write has its page, sheets, scores, play-along and files on any
// instrument, step by step: nothing of it fails.
func TestAnyFigureOfTheNotationIsDrawnHeardAndWritten(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		p := patterntest.OfNotation(func(n int) int { return rapid.IntRange(0, n-1).Draw(rt, "pick") })
		bars, err := song.ParseChords(rapid.SampledFrom([]string{"C", "G | D", "F#m7b5 | G13 | Bb/D Eb"}).Draw(rt, "chords"), p.Meter)
		require.NoError(rt, err)
		sg := song.Song{Title: "Any", Meter: p.Meter, Tempo: 90, Sections: []song.Section{{Name: "Verse", Bars: bars}}}.Numbered()
		ins := rapid.SampledFrom(fretboard.Instruments).Draw(rt, "instrument")
		c := people.Class{Class: store.Class{ID: 1, Name: "Any"}, Students: []store.Student{{ID: 1, Name: "Ada", Instrument: ins.ID}, {ID: 2, Name: "Ben", Instrument: "ukulele"}}}
		l := ladders.Ladder{Song: store.Song{Song: sg}, Class: c, Places: store.Places{}}
		l.SongTitle, l.Target, l.Ladder.Instrument = "Any", p, ins.ID
		choice := order.Choice{Order: rapid.SampledFrom(order.All).Draw(rt, "order").Value}
		l.Steps = grow.Build(choice, ladders.LadderTask(p, nil, ladder.Beginning{}, sg, nil, ins, c), c.Weigh(), 0)
		on := New(nil) // nothing is kept of another song with the same number
		on.Ladders.Measure(&l)
		ladders.Draw(l)
		on.Ladders.Beyond(l)
		for i, step := range l.Steps {
			_, err := on.Ladders.Open(l, "ukulele", step.ID)
			require.NoError(rt, err)
			on.Paper.SheetOf(l, paper.Ask{Step: step.ID, Instrument: ins.ID, AllChords: true, Ghosts: true}, nil)
			on.Paper.SheetOf(l, paper.Ask{Step: step.ID, Student: 2}, nil)
			score, err := l.StepScore(step.ID, songs.ScoreAsk{Chords: true})
			require.NoError(rt, err)
			if i == len(l.Steps)-1 && rapid.IntRange(0, 7).Draw(rt, "heard") == 0 {
				_, err = score.WAV(t.Context(), songs.PlayAlong{Tempo: 200, Click: true})
				require.NoError(rt, err)
			}
			if step.BeforeStrings() || i > 0 && i < len(l.Steps)-1 {
				continue
			}
			piece, err := l.StepLine(step.ID, "")
			require.NoError(rt, err)
			for _, f := range files.Formats {
				_, err := files.Write(piece, f.Format)
				require.NoError(rt, err, fmt.Sprint(f.Format, " of ", p))
			}
			l.Places[ref.Student(1)] = step.ID
			desk.LineOf(l, c.Students[0], nil, false, 0, 20000)
		}
		l.Together()
		on.Lesson.PlanSong(l)
	})
}
