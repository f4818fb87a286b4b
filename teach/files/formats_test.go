package files

import (
	"strings"
	"testing"

	"arplin/teach/songs"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/teach/people"
)

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
			line := songs.LineOf(sg, guitar, people.Class{}, songs.Figures(bind.Always(p).In(sg.Meter)))
			assert.Equal(t, p.Meter == m, line.Bars[0].Grid > 0, "%s in %s", figure, m)
			for _, f := range Formats {
				_, err := Write(line, f.Format)
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
				line := songs.LineOf(sg, guitar, people.Class{}, songs.Figures(bind.Always(p).In(sg.Meter)))
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
					_, err := Write(line, f.Format)
					assert.NoError(t, err, "%s in %s as %s", p, own, f.Format)
				}
				_, err = songs.BarStrip(line, 2)
				assert.NoError(t, err)
			}
		}
	}
}
