package grow

import (
	"slices"

	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/ladder"
	"arplin/core/ladder/order"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/core/variation"
)

// Build is the way to a target as steps, the easiest first, each adding one thing: the figure as the
// choice has it grow; then the chords at the slow tempo, as soon as the choice wants them; then the
// tempo. The figures depend on the figure and the choice alone; levels are what comes out. Steps below
// the level from are left out, except the last of them.
func Build(c order.Choice, t difficulty.Task, w difficulty.Weights, from float64) []ladder.Step {
	b := builder{Setting: ladder.SettingOf(t), weights: w, choice: c.Whole()}
	figures := b.figures()
	for b.choice.Size != order.Big && len(figures) > mostFigures { // too many for a ladder
		b.choice.Size = larger[b.choice.Size]
		figures = b.figures()
	}
	if b.choice.Order == order.RhythmFirst {
		b.beforeTheStrings(figures[0])
	}
	b.stages(figures)
	for len(b.steps) > 1 && b.steps[1].Level <= from {
		b.steps = b.steps[1:]
	}
	steps, _ := ladder.Numbered(b.steps, 1)
	return steps
}

// mostFigures leaves room for the chords and the tempo.
const mostFigures = ladder.MaxSteps - 16

var larger = map[order.Size]order.Size{order.Small: order.Usual, order.Usual: order.Big}

// builder puts a ladder together, stage by stage.
type builder struct {
	ladder.Setting
	weights difficulty.Weights
	choice  order.Choice
	steps   []ladder.Step
}

func (b *builder) level(s ladder.Step) float64 { return difficulty.LevelOf(b.Task(s), b.weights) }

// add puts a step on top, unless it is played as the one below.
func (b *builder) add(s ladder.Step) {
	if n := len(b.steps); n > 0 && b.steps[n-1].Same(s) {
		return
	}
	s.Level = b.level(s)
	b.steps = append(b.steps, s)
}

// beforeTheStrings is the count and the rhythm without an instrument, and the figure on muted strings.
func (b *builder) beforeTheStrings(s ladder.Step) {
	s.Over = ladder.OneChord
	for _, way := range []struct {
		play difficulty.Play
		adds ladder.Stage
	}{{difficulty.Swings, ladder.HandSwings}, {difficulty.Said, ladder.CountSaid}, {difficulty.Tapped, ladder.Tapped}, {difficulty.Muted, ladder.MutedStrings}} {
		if way.play == difficulty.Swings && (len(s.Parts) > 0 || !pureStrums(s.Pattern)) {
			continue // a hand that plucks has nothing to swing
		}
		s.Play, s.Adds = way.play, stage(way.adds)
		b.add(s)
	}
}

// stages is the figures on the first chord, the chords when the choice wants them, and the tempo.
func (b *builder) stages(figures []ladder.Step) {
	whole := figures[len(figures)-1]
	over, pace := ladder.OneChord, 0
	for i, s := range figures {
		s.Over, s.Pace = over, pace
		if i == 0 && b.choice.Order == order.RhythmFirst {
			s.Adds = stage(ladder.FirstChord)
		}
		b.add(s)
		if i > 0 || b.One == nil {
			continue
		}
		switch b.choice.Chords {
		case order.Each:
			b.chords(s)
		case order.Two:
			b.twoChords(s)
		}
		over, pace = b.top().Over, b.top().Pace
	}
	if b.One == nil {
		return
	}
	b.chords(whole)
	b.tempo(whole)
}

// chords adds the chords to a figure at the slow tempo, the first pair, then one or two more at a time,
// then the song; those that are there are not added again.
func (b *builder) chords(figure ladder.Step) {
	if b.top().Over == ladder.AllChords {
		return
	}
	b.twoChords(figure)
	all := len(b.Whole.Order)
	for have := 2; have < all; {
		if have += b.atOnce(have); have >= all {
			break
		}
		b.stage(figure, ladder.SomeChords(have), ladder.MoreChords)
	}
	b.stage(figure, ladder.AllChords, ladder.WholeSong)
}

func (b *builder) top() ladder.Step { return b.steps[len(b.steps)-1] }

// twoChords is the first pair, two bars each, where the song has more to it than that.
func (b *builder) twoChords(figure ladder.Step) {
	if b.Two != nil && b.top().Over == ladder.OneChord && (len(b.Whole.Order) > 2 || !b.isPair()) {
		b.stage(figure, ladder.TwoChords, ladder.SecondChord)
	}
}

// isPair reports a song that is its first two chords, two bars each.
func (b *builder) isPair() bool {
	return len(b.Whole.Rest) == 0 && slices.EqualFunc(b.Whole.Sung(), b.Two, func(at difficulty.Sung, bar song.Bar) bool {
		have := b.Whole.Bars[at.Bar].Changes
		return len(have) == 1 && have[0].Symbol == bar.Changes[0].Symbol
	})
}

// fewChords is how many chords a song has at most for them to come by ones and twos.
const fewChords = 14

// atOnce is how many further chords come in one step: two, or one where either is a barre; more in a
// song of many.
func (b *builder) atOnce(have int) int {
	if all := len(b.Whole.Order); all > fewChords {
		return all / (fewChords / 2)
	}
	for _, symbol := range b.Whole.Order[have:min(have+2, len(b.Whole.Order))] {
		if c, err := theory.ParseChord(symbol); err != nil || b.Whole.Shapes[c].Fingering.Barre.From != 0 {
			return 1
		}
	}
	return 2
}

// stage puts a figure on more chords, slowly; where it sounds in no more bars than before it is none.
func (b *builder) stage(s ladder.Step, over ladder.Over, adds ladder.Stage) {
	s.Over, s.Pace, s.Adds = over, b.slow(), stage(adds)
	if b.top().Over.Chords() > 0 && len(b.Task(s).Sung()) == len(b.Task(b.top()).Sung()) && over != ladder.AllChords {
		return
	}
	b.add(s)
}

// slow is the pace of the slow tempo; 0 where that is the goal.
func (b *builder) slow() int {
	if bpm.Part(b.Whole.Tempo, bpm.SlowPercent) >= b.Whole.Tempo {
		return 0
	}
	return bpm.SlowPercent
}

// tempo is the goal, and the medium tempo before it where the way is far.
func (b *builder) tempo(goal ladder.Step) {
	goal.Over, goal.Pace, goal.Adds = ladder.AllChords, 0, stage(ladder.GoalTempo)
	medium := goal
	medium.Pace, medium.Adds = bpm.MediumPercent, stage(ladder.MediumTempo)
	if m := b.level(medium); m > b.top().Level+worthAStep && b.level(goal) > m+worthAStep {
		b.add(medium)
	}
	b.add(goal)
}

// worthAStep is in levels; a smaller rise needs no step of its own tempo.
const worthAStep = 0.15

// Beyond lists harder steps for those who are ready: what one rule adds to the
// target and can be played together with it.
func Beyond(t difficulty.Task, w difficulty.Weights) []variation.Variation {
	var list []variation.Variation
	for _, v := range variation.PerRule(variation.Neighbours(t, w).ByTenths().Harder) {
		if v.Together {
			list = append(list, v)
		}
	}
	return list
}
