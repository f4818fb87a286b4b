package ladders

import (
	"fmt"
	"slices"

	"arplin/core/arrange"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/draw"
	"arplin/teach/songs"
)

// way is how a step is played: by a figure, or as a station of the tune. What differs between the
// two is here, and nobody else asks which of them a step is.
type way interface {
	plays() songs.Plays
	// apart says why its bars do not add up on paper; empty where they do.
	apart() string
	// inRoom gives a score what the room shows of each bar, where it is not a figure that goes round.
	inRoom(songs.Score) songs.Score
	// row fills in what the row of a step shows beside its name.
	row(v *Step)
	// strips are the step on strings, for each of some instruments.
	strips(on []fretboard.Instrument) []InstrumentStrip
	stage() []draw.SVG
	// paper is the tune in full; nil for a figure, which stands on the chords of the song.
	paper(songs.View) []songs.MelodySection
	part() string
	reading() difficulty.Reading
}

func (l Ladder) way(i int) way {
	if st, ok := arrange.ByID(l.Steps[i].Station); ok {
		return byStation{l, i, st}
	}
	return byFigure{l, i}
}

type byFigure struct {
	Ladder
	at int
}

func (f byFigure) step() ladder.Step { return f.Steps[f.at] }

func (f byFigure) plays() songs.Plays { return songs.Figures(figuresOf(f.step())) }

func (f byFigure) apart() string {
	if f.Target.Meter != f.Song.Meter {
		return f.Apart()
	}
	return ""
}

func (f byFigure) inRoom(s songs.Score) songs.Score { return s }

func (f byFigure) stage() []draw.SVG { return draw.StageBars(f.step().Pattern) }

func (f byFigure) paper(songs.View) []songs.MelodySection { return nil }

func (f byFigure) part() string { return partOf(f.step()) }

func (f byFigure) reading() difficulty.Reading {
	return difficulty.Of(f.step().Task(f.Task), f.Class.Weigh())
}

func (f byFigure) row(v *Step) {
	i, step := f.at, f.step()
	if step.BeforeStrings() {
		v.Lane = draw.CountedLane(step.Pattern, step.Pattern.Aloud())
		return
	}
	v.Lane = draw.Lane(step.Pattern, FreshStrokes(f.Steps, i), step.Pattern.Aloud())
	if i == 0 || !step.Pattern.Equal(f.Steps[i-1].Pattern) {
		return
	}
	below := f.Steps[i-1] // the figure is that of the step below
	names := below.ChordNames(f.Task)
	for _, name := range step.ChordNames(f.Task) {
		v.Beside = append(v.Beside, Word{name, !slices.Contains(names, name)})
	}
	v.Faster = step.Over == below.Over && step.Pace != below.Pace
}

// strips show a step on the chord that is new in it, else on the chord of its stage.
func (f byFigure) strips(on []fretboard.Instrument) (list []InstrumentStrip) {
	i, step := f.at, f.step()
	if step.BeforeStrings() {
		return nil
	}
	stage := f.firstStage()
	if own := step.Stage(f.Task); len(step.Pattern.Bars) < len(f.Target.Bars) && len(own) == 1 { // a bar of the figure can have a chord of its own
		stage = own
	}
	if i > 0 {
		had := f.Steps[i-1].ChordNames(f.Task)
		for _, name := range step.ChordNames(f.Task) {
			if len(had) > 0 && !slices.Contains(had, name) {
				stage = []string{name}
				break
			}
		}
	}
	for _, ins := range on {
		if o := f.shown(ins, stage); o.ok {
			list = append(list, InstrumentStrip{ins.Name, o.chord.String(), f.Strip(i, ins, o.chord, o.shape, f.Class, o.target)})
		}
	}
	return list
}

// byStation is a station of the tune.
type byStation struct {
	Ladder
	at int
	st arrange.Station
}

func (s byStation) plays() songs.Plays { return songs.Tune(s.st.ID) }

func (s byStation) apart() string { return "" }

func (s byStation) inRoom(score songs.Score) songs.Score {
	part, sung := s.part(), s.WrittenBars()
	for i := range score.Bars {
		score.Bars[i].Plays, score.Bars[i].Picture = part, sung[i]
	}
	return score
}

func (s byStation) stage() []draw.SVG {
	_, k := s.TuneOn(s.Instrument)
	return draw.StageBars(s.st.Play(k).Figure(k.Meter))
}

func (s byStation) paper(v songs.View) (sections []songs.MelodySection) {
	k := songs.TuneTask(v)
	played := s.st.Play(k)
	number := 0
	for _, sec := range v.Song.Sections {
		view := songs.MelodySection{ID: sec.ID, Name: sec.Name}
		for _, bar := range sec.Bars {
			b := songs.MelodyBar{ID: bar.ID, Number: number + 1}
			b.Fill(v, k, bar, number, played, s.st)
			view.Bars = append(view.Bars, b)
			number++
		}
		sections = append(sections, view)
	}
	return sections
}

func (s byStation) part() string {
	if s.st.Tune {
		return "tune"
	}
	return partOf(s.Steps[s.at])
}

func (s byStation) reading() difficulty.Reading { return s.stations[s.at].reading }

func (s byStation) row(v *Step) { v.Bar = s.shownBar() + 1 }

func (s byStation) strips(on []fretboard.Instrument) (list []InstrumentStrip) {
	number := s.shownBar()
	for _, ins := range on {
		list = append(list, InstrumentStrip{ins.Name, fmt.Sprintf("bar %d", number+1), s.strip(number, ins)})
	}
	return list
}

// shownBar is the bar that shows what is new at a station, from 0.
func (s byStation) shownBar() int {
	var below arrange.Played
	if s.at > 0 {
		below = s.stations[s.at-1].played
	}
	return s.stations[s.at].played.Shown(below)
}

// strip draws a bar on an instrument.
func (s byStation) strip(number int, ins fretboard.Instrument) draw.SVG {
	v, k := s.TuneOn(ins)
	if number >= len(k.Bars) {
		return ""
	}
	played := s.st.Play(k)
	return songs.StationBar(v, k.Bars[number], number+1, played.Grid, played.Bars[number], s.st.Name)
}
