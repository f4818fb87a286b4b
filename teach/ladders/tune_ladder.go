package ladders

import (
	"cmp"
	"context"
	"fmt"

	"arplin/core/arrange"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/song"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
	"arplin/teach/songs"
)

// A tune's ladder has the stations of its tune for steps: its students stand on them, and what
// they play is logged as on any other.

// MakeTuneLadder makes the ladder of a song's tune for a class.
func (t *Room) MakeTuneLadder(ctx context.Context, teacher ref.Teacher, c people.Class, id ref.Song, instrument string) (ref.Ladder, error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return 0, err
	}
	if !sg.HasMelody() {
		return 0, answer.Refuse("%s has no melody yet. Write its notes first", sg.Title)
	}
	ins := c.Instrument(instrument)
	v := songs.NewView(sg.Song, ins, c)
	steps, _ := songs.TuneTask(v).Steps(v.Song, v.School, c.Weigh())
	return t.Store.AddLadder(ctx, teacher, store.Ladder{
		ClassID: c.ID, SongID: sg.ID, Instrument: ins.ID, PatternName: tuneNameOf(sg.Song), Target: steps[len(steps)-1].Pattern,
		Ladder: ladder.Ladder{Steps: steps, Tune: sg.TuneID},
	})
}

// tuneName stands where another ladder has the name of its pattern.
const tuneName = "the melody"

// tuneNameOf is that, with the name of the tune where the song has several.
func tuneNameOf(sg song.Song) string {
	if len(sg.Tunes) == 0 && sg.TuneName == "" {
		return tuneName
	}
	return tuneName + ": " + sg.InUse().Says()
}

// stationed is a station of a ladder on its own instrument.
type stationed struct {
	played  arrange.Played
	reading difficulty.Reading
}

// stations puts the steps of a tune's ladder on strings, and gives them the levels that they
// have now.
func (t *Room) stations(on Ladder, steps []ladder.Step) []stationed {
	list := answer.Keep(t.From, "stations", answer.RowsOf(on.Song.ID, on.Song.Version, on.Class.Class, on.Instrument.ID, on.ID, on.Version), func() (list []stationed) {
		v, k := on.TuneOn(on.Instrument)
		for _, step := range steps {
			st, _ := arrange.ByID(step.Station)
			p := st.Play(k)
			list = append(list, stationed{p, p.Reading(k, v.Song, v.School, on.Class.Weigh())})
		}
		return list
	})
	for i := range steps {
		steps[i].Level = list[i].reading.Level
	}
	return list
}

// TuneOn is the ladder's part of the song on an instrument, and its tune to be put on strings.
func (l Ladder) TuneOn(ins fretboard.Instrument) (songs.View, arrange.Task) {
	v := songs.NewView(l.Song.Part(l.Sections), ins, l.Class)
	return v, songs.TuneTask(v)
}

// WrittenBars is, of each bar as it is sung, its place among those that are written.
func (l Ladder) WrittenBars() (sung []int) {
	for _, at := range l.Song.Part(l.Sections).Sung() {
		sung = append(sung, at.Number)
	}
	return sung
}

// withoutTune says that a tune's ladder has lost its tune; empty while it has one.
func (l Ladder) withoutTune() string {
	switch {
	case !l.OfTune():
		return ""
	case l.Song.TuneID != l.Tune:
		return fmt.Sprintf("The melody this ladder was made from is no longer in %s, so the steps show the melody that is there now.", cmp.Or(l.SongTitle, "the song"))
	case l.Song.HasMelody():
		return ""
	}
	return fmt.Sprintf("%s has no melody any more. Write its notes again, or change the song back.", cmp.Or(l.SongTitle, "The song"))
}
