package teach

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/song"
)

// tuned is a bar of eighths in C, and one of a half note.
func tuned(t *testing.T) song.Song {
	t.Helper()
	four := pattern.Meter{Beats: 4, Unit: 4}
	bars, err := song.ParseChords("C | G", four)
	require.NoError(t, err)
	notes, err := song.ParseMelody("C4:1/2 E4 G4 E4 C4 E4 G4 E4 | D4:2 G4", four.BeatTicks(), func(int) int { return four.BarTicks() })
	require.NoError(t, err)
	for i := range bars {
		bars[i].Melody = notes[i]
	}
	return song.Song{Title: "Eighths", Meter: four, Tempo: 90, Swing: true, Sections: []song.Section{{Bars: bars}}}.Numbered()
}

// Where a song is swung, its tune is, and what is lit comes with what is struck: the second of a
// pair at two thirds of the beat. Source: common practice.
func TestASwungTuneLightsWhereItIsStruck(t *testing.T) {
	sg := tuned(t)
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	s := ScoreOf(sg, guitar, Class{}, PieceAsk{Station: ladder.TuneAlone})
	assert.Equal(t, Swung, s.Feel)
	require.Len(t, s.Figures, 1)
	assert.Equal(t, s.Beat*2/3, s.Figures[0].Slots[1])
	late := 0
	for _, n := range s.Notes {
		assert.Contains(t, s.Figures[0].Slots, n.Tick%s.Figures[0].Bar)
		if n.Tick%s.Beat != 0 {
			late++
		}
	}
	assert.Equal(t, 4, late, "four of the eighths are off the beat")
}

// A figure of another meter than the song's is not written down. Source: a bar adds up.
func TestAFigureOfAnotherMeterIsNotWritten(t *testing.T) {
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	for _, m := range pattern.Meters {
		bars, err := song.ParseChords("C | G", m)
		require.NoError(t, err)
		sg := song.Song{Title: "Other", Meter: m, Tempo: 90, Sections: []song.Section{{Bars: bars}}}.Numbered()
		for _, figure := range []string{"3/4: p i m", "5/4: p i m a m | p . p . p", "4/4: D U D U D U D U D U D U D U D U"} {
			p := pattern.MustParse(figure)
			line := PieceOf(sg, guitar, Class{}, PieceAsk{Figure: always(p)})
			assert.Equal(t, p.Meter == m, line.Bars[0].Grid > 0, "%s in %s", figure, m)
			for _, f := range Formats {
				_, err := WritePiece(line, f.Format)
				assert.NoError(t, err, "%s in %s as %s", figure, m, f.Format)
			}
		}
	}
}

// In a bar of its own meter the strokes of a figure stand in slots of that meter's count, whatever
// the figure's: quarters in six eight are on 1, 3 and 5. Source: common practice.
func TestAFigureStandsInTheCountOfEveryBar(t *testing.T) {
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	for _, m := range pattern.Meters {
		for _, own := range pattern.Meters {
			for _, grid := range m.Grids() {
				p := pattern.MustParse(m.String() + ": " + strings.TrimSpace(strings.Repeat("p ", grid)))
				bars, err := song.ParseChords("C", m)
				require.NoError(t, err)
				last, err := song.ParseChords("F", own)
				require.NoError(t, err)
				if own != m {
					last[0].Meter = own
				}
				sg := song.Song{Title: "Mixed", Meter: m, Tempo: 90, Sections: []song.Section{{Bars: append(bars, last...)}}}.Numbered()
				line := PieceOf(sg, guitar, Class{}, PieceAsk{Figure: always(p)})
				bar := line.Bars[1]
				assert.Contains(t, own.Grids(), bar.Grid, "%s in %s", p, own)
				finest := own.BarTicks() / own.Grids()[len(own.Grids())-1]
				for _, e := range bar.Events {
					off := e.Tick - e.Slot*own.BarTicks()/bar.Grid
					if p.SlotTicks()%finest == 0 {
						assert.Zero(t, off, "%s in %s", p, own)
					}
					assert.True(t, off >= 0 && off < own.BarTicks()/bar.Grid, "triplets where there are none: %s in %s", p, own)
				}
				for _, f := range Formats {
					_, err := WritePiece(line, f.Format)
					assert.NoError(t, err, "%s in %s as %s", p, own, f.Format)
				}
				_, err = BarStrip(line, 2)
				assert.NoError(t, err)
			}
		}
	}
}

// A part without a figure is silent, however it is asked for, and is written as chords alone.
func TestAPartWithoutAFigureIsSilent(t *testing.T) {
	sg := tuned(t)
	guitar, err := fretboard.ByID("guitar")
	require.NoError(t, err)
	v, line := pieceOf(sg, guitar, Class{}, PieceAsk{}, Swung)
	require.Len(t, line.Bars, 2)
	assert.Len(t, line.Bars[0].Held, 1)
	s := v.score(line, difficulty.OnStrings, sg.Title, song.TemposFor(sg.Tempo), ScoreAsk{})
	assert.Empty(t, s.Notes)
	assert.Empty(t, s.Feel)
	assert.Equal(t, -1, s.Bars[0].Figure)
	s = v.score(line, difficulty.OnStrings, sg.Title, song.TemposFor(sg.Tempo), ScoreAsk{Chords: true})
	assert.NotEmpty(t, s.Notes, "the chords softly under it")
}
