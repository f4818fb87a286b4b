package teach

import (
	"cmp"
	"context"
	"fmt"

	"arplin/core/arrange"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/draw"
	"arplin/store"
)

// A tune's ladder has the stations of its tune for steps: its students stand on them, and what
// they play is logged as on any other.

// MakeTuneLadder makes the ladder of a song's tune for a class.
func (t *Teach) MakeTuneLadder(ctx context.Context, teacher store.TeacherID, c Class, id store.SongID, instrument string) (store.LadderID, error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return 0, err
	}
	if !sg.HasMelody() {
		return 0, refuse("%s has no tune yet; write its notes first", sg.Title)
	}
	ins := c.Instrument(instrument)
	v := newSongView(sg.Song, ins, c)
	steps, _ := tuneTask(v).Steps(v.song, v.school, c.Weigh())
	return t.Store.AddLadder(ctx, teacher, store.Ladder{
		ClassID: c.ID, SongID: sg.ID, Instrument: ins.ID, PatternName: tuneName, Target: steps[len(steps)-1].Pattern,
		Ladder: ladder.Ladder{Order: ladder.ThumbFirst, Steps: steps},
	})
}

// tuneName stands where another ladder has the name of its pattern.
const tuneName = "the tune"

// stationed is a station of a ladder on its own instrument.
type stationed struct {
	played  arrange.Played
	reading difficulty.Reading
}

// stations puts the steps of a tune's ladder on strings, and gives them the levels that they
// have now.
func (t *Teach) stations(on Ladder, steps []ladder.Step) []stationed {
	list := keep(t, "stations", rowsOf(on.Song.ID, on.Song.Version, on.Class.Class, on.Instrument.ID, on.ID, on.Version), func() (list []stationed) {
		v, k := on.tuneOn(on.Instrument)
		for _, step := range steps {
			p := stationOf(step).Play(k)
			list = append(list, stationed{p, p.Reading(k, v.song, v.school, on.Class.Weigh())})
		}
		return list
	})
	for i := range steps {
		steps[i].Level = list[i].reading.Level
	}
	return list
}

// tuneOn is the ladder's part of the song on an instrument, and its tune to be put on strings.
func (l Ladder) tuneOn(ins fretboard.Instrument) (songView, arrange.Task) {
	v := newSongView(l.Song.Part(l.Sections), ins, l.Class)
	return v, tuneTask(v)
}

func stationOf(s ladder.Step) arrange.Station {
	st, _ := arrange.ByID(s.Station)
	return st
}

// shownBar is the bar that shows what is new at a station, from 0.
func (l Ladder) shownBar(i int) int {
	if i == 0 {
		return l.stations[i].played.Shown(arrange.Played{})
	}
	return l.stations[i].played.Shown(l.stations[i-1].played)
}

// stationStrip draws that bar on an instrument.
func (l Ladder) stationStrip(i int, ins fretboard.Instrument) draw.SVG {
	v, k := l.tuneOn(ins)
	st, number := stationOf(l.Steps[i]), l.shownBar(i)
	played := st.Play(k)
	if number >= len(k.Bars) {
		return ""
	}
	return stationBar(v, k.Bars[number], number+1, played.Grid, played.Bars[number], st.Name)
}

// tuneFeel is how a station of a song's tune is heard: as the song is sung, where nothing is asked
// for. A figure says itself how it is played.
func tuneFeel(st ladder.Station, swing bool, asked Feel) Feel {
	if st == "" || asked != "" || !swing {
		return asked
	}
	return Swung
}

// asStages has a score show in the room the picture of each bar of the tune.
func asStages(s Score, part string, sung []int) Score {
	for i := range s.Bars {
		s.Bars[i].Plays, s.Bars[i].Picture = part, sung[i]
	}
	return s
}

// writtenBars is, of each bar as it is sung, its place among those that are written.
func (l Ladder) writtenBars() (sung []int) {
	for _, at := range l.Song.Part(l.Sections).Sung() {
		sung = append(sung, at.Number)
	}
	return sung
}

// stageBars are the pictures of a step for the room: of a station every bar, else those of its figure.
func (l Ladder) stageBars(step ladder.Step) []draw.SVG {
	if step.Station == "" {
		return draw.StageBars(step.Pattern)
	}
	_, k := l.tuneOn(l.Instrument)
	return draw.StageBars(stationOf(step).Play(k).Figure(k.Meter))
}

// sheetBars are the bars of a station for paper.
func (l Ladder) sheetBars(step ladder.Step, v songView) (sections []MelodySection) {
	k := tuneTask(v)
	st := stationOf(step)
	played := st.Play(k)
	number := 0
	for _, sec := range v.song.Sections {
		view := MelodySection{ID: sec.ID, Name: sec.Name}
		for _, bar := range sec.Bars {
			b := MelodyBar{ID: bar.ID, Number: number + 1}
			b.fill(v, k, bar, number, played, st)
			view.Bars = append(view.Bars, b)
			number++
		}
		sections = append(sections, view)
	}
	return sections
}

// withoutTune says that a tune's ladder has lost its tune; empty while it has one.
func (l Ladder) withoutTune() string {
	if !l.OfTune() || l.Song.HasMelody() {
		return ""
	}
	return fmt.Sprintf("%s has no tune any more: write its notes again, or put the song back.", cmp.Or(l.SongTitle, "The song"))
}
