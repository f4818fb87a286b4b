package drill

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/pattern/skill"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/core/theory"
)

// StageID names a stage of a drill for good.
type StageID string

// Stages are the stages with their titles and why they are there, in order.
// Source of the sequence: common practice.
var Stages = []struct {
	ID         StageID
	Title, Why string
}{
	{"open-strings", "The pattern on open strings", "Your left hand is free, so you only learn the pattern."},
	{"easy-shape", "On one easy shape", "The same pattern on an easy chord."},
	{"moving-shape", "On a shape that moves", "Frets 2 3 2 3 on four strings, up one fret each time; it never resolves, so you keep going."},
	{"easy-progression", "Over an easy progression", "Easy chords from outside the song, so you listen to the pattern."},
	{"chosen-progression", "Over a progression", "Keep the pattern going while the chords loop."},
	{"shape-silent", "The shape, silent", "Rest your right hand. Put the shape down finger by finger, bass first, then all at once. Press no harder than you need."},
	{"shape-once", "The shape, one stroke a bar", "Listen to each string. If one buzzes, fix it before the next bar."},
	{"the-bar-slowly", "The bar itself, slowly", "The bar that went wrong, at the slow tempo first."},
	{"the-bar", "The bar itself", "The same bar, closer to the song’s tempo."},
	{"bar-before", "With the bar before", "Getting into the bar is part of the trouble."},
	{"bar-after", "With the bar after", "Getting out of the bar without stopping."},
	{"the-phrase", "The phrase", "At the goal tempo, as you sing it."},
	{"change-silent", "The change, silent", "Put your bass finger down first, unless it’s an open string. The others follow."},
	{"one-stroke", "One stroke a bar", "The last finger may come a little late. Don’t wait for it."},
	{"with-the-figure", "With the figure", "Leave out the last note of the bar if you need the time."},
	{"in-the-song", "In the song", "With the bars before and after, at the goal tempo."},
}

// Exercise is one stage of a drill.
type Exercise struct {
	ID      StageID
	Title   string
	Pattern pattern.Pattern
	Over    string // chords a bar, "open strings", or a shape that moves
	Bars    []song.Bar
	Tempo   int
	Repeats int
	Minutes float64
	Why     string
}

// Stages of tempo and time, from memory: slow while the hand learns, the goal
// only in the song.
const (
	usualMinutes = 10
	maxRepeats   = 12
)

// Day is what a student has for a drill.
type Day struct {
	Minutes float64 // for this drill; 0 is the usual ten
	Clean   int     // the last clean tempo on the song; 0 when nothing was heard yet
	Over    Over    // the progression that a teacher wants under the figure; the zero value is the easiest
}

// MinutesOf is a drill's part of the minutes that a student practises a day:
// half, since the song comes after it, from three to the usual ten. From memory.
func MinutesOf(day int) int { return min(usualMinutes, max(3, day/2)) }

// tempos are the song's, or those of what is clean so far: a drill is not played
// faster than the student can.
func (d Day) tempos(goal int) bpm.Tempos {
	if d.Clean > 0 {
		goal = min(goal, d.Clean)
	}
	return bpm.Of(goal)
}

// stage is an exercise before tempo and time are shared out.
type stage struct {
	id     StageID
	over   string
	advice string // what this one drill adds to the words of the stage
	figure pattern.Pattern
	bars   []song.Bar
	tempo  func(bpm.Tempos) int
	weight float64 // of the minutes
}

func slow(t bpm.Tempos) int   { return t.Slow }
func medium(t bpm.Tempos) int { return t.Medium }
func goal(t bpm.Tempos) int   { return t.Goal }

// Bar makes the drill of one bar, counted from 0, that fits the day. The figure of the bar stays as it is, stage by
// stage, until it is back in the song. Source of the sequence: common practice.
func Bar(t difficulty.Task, bar int, day Day) ([]Exercise, error) {
	around, err := find(t, bar)
	if err != nil {
		return nil, err
	}
	mine := around[1:2]
	figure := figureIn(t.Pattern, mine)
	at := barsOf(t, mine)
	easy, found := progression(t), StageID("easy-progression")
	if own := joined(day.Over.Chords); own != "" && own != easy {
		easy, found = own, "chosen-progression"
	}
	one := easyShape(t, easy)
	stages := []stage{
		{"open-strings", "open strings", "", figure, nil, slow, 1},
		{"easy-shape", one, "", figure, line(t, one), slow, 1},
		{"moving-shape", moving(t.Instrument), "", figure, nil, medium, 1},
		{found, easy, "", figure, line(t, easy), medium, 1.5},
	}
	if plain(figure) && hardShape(t, bar) { // the right hand knows it; the shape is the trouble
		silent, once := onOne(t, pattern.AirDown), onOne(t, pattern.Down)
		stages = []stage{
			{"shape-silent", text(at, t), "", silent, at, slow, 1.5},
			{"shape-once", text(at, t), "", once, at, slow, 1.5},
		}
	}
	stages = append(stages,
		stage{"the-bar-slowly", text(at, t), "", figure, at, slow, 1},
		stage{"the-bar", text(at, t), "", figure, at, medium, 1.5})
	if len(t.Sung()) > 1 {
		in, out := barsOf(t, around[:2]), barsOf(t, around[1:])
		stages = append(stages,
			stage{"bar-before", text(in, t), "", figureIn(t.Pattern, around[:2]), in, medium, 1.5},
			stage{"bar-after", text(out, t), "", figureIn(t.Pattern, around[1:]), out, medium, 1.5})
	}
	phrase := phraseOf(t, bar)
	stages = append(stages, stage{"the-phrase", text(barsOf(t, phrase), t), "", figureIn(t.Pattern, phrase), barsOf(t, phrase), goal, 2})
	return share(stages, t, day), nil
}

// plain reports a figure that asks nothing of the right hand but to go on.
func plain(p pattern.Pattern) bool { return len(skill.Coordinations(p)) == 0 && !p.OffBeat() }

// hardShape reports a bar with a shape that is hard by itself.
func hardShape(t difficulty.Task, bar int) bool {
	held := t.Held(bar)
	return slices.ContainsFunc(t.Bars[bar].Changes, func(ch song.Change) bool {
		c, err := ch.Chord()
		v := held[c]
		return err == nil && (v.Fingering.Barre.From != 0 || v.Hold > easyHold+2)
	})
}

// onOne is a bar with one stroke.
func onOne(t difficulty.Task, sign pattern.Sign) pattern.Pattern {
	once := pattern.Pattern{Meter: t.Pattern.Meter, Bars: []pattern.Bar{make(pattern.Bar, t.Pattern.Meter.Grids()[0])}}
	once.Bars[0][0].Strokes = []pattern.Stroke{{Sign: sign}}
	return once
}

// find is a bar with those that are sung before and after it.
func find(t difficulty.Task, bar int) ([3]difficulty.Sung, error) {
	if bar < 0 || bar >= len(t.Bars) {
		return [3]difficulty.Sung{}, fmt.Errorf("bar: the song has bars 1 to %d, not %d", len(t.Bars), bar+1)
	}
	around, ok := t.Around(bar)
	if !ok {
		return around, fmt.Errorf("bar: the pattern is in %s and is not played in bar %d", t.Pattern.Meter, bar+1)
	}
	return around, nil
}

// phraseOf is the four bars, counted from the beginning of its part, in which a bar is
// sung.
func phraseOf(t difficulty.Task, bar int) []difficulty.Sung {
	const phrase = 4
	order := t.Sung()
	i := slices.IndexFunc(order, func(s difficulty.Sung) bool { return s.Bar == bar })
	from := max(0, i-order[i].Count%phrase)
	to := from + 1
	for to < len(order) && to < from+phrase && order[to].Count == order[to-1].Count+1 {
		to++
	}
	return order[from:max(to, i+1)]
}

// barsOf are the song's bars where they are sung.
func barsOf(t difficulty.Task, order []difficulty.Sung) (bars []song.Bar) {
	for _, s := range order {
		bars = append(bars, t.Bars[s.Bar])
	}
	return bars
}

// figureIn is the bars of the figure that fall on bars of the song, the whole pattern
// where they are that.
func figureIn(p pattern.Pattern, order []difficulty.Sung) pattern.Pattern {
	n := len(p.Bars)
	q := pattern.Pattern{Meter: p.Meter, Swing: p.Swing}
	whole := len(order)%n == 0
	for i, s := range order {
		q.Bars = append(q.Bars, p.Bars[s.Count%n])
		whole = whole && s.Count%n == i%n
	}
	if n == 1 || whole {
		return p
	}
	return q.Clone()
}

func stay(n int) string {
	if n == 1 {
		return "stays"
	}
	return "stay"
}

func theyAre(n int) string {
	if n == 1 {
		return "it is"
	}
	return "they are"
}

// ChangeTo makes the drill of the change into a bar, counted from 0: the hand
// silent first, then one stroke a bar, then at rate.
func ChangeTo(t difficulty.Task, bar int, day Day) ([]Exercise, error) {
	sung, err := find(t, bar)
	if err != nil {
		return nil, err
	}
	before := sung[0].Bar
	from, to, ok := changeInto(t, before, bar)
	if !ok {
		return nil, fmt.Errorf("bar: no chord changes at bar %d", bar+1)
	}
	there := t.Held(bar)[to]
	ch := fretboard.ChangeBetween(t.Instrument, t.Held(before)[from], there)
	two := line(t, fmt.Sprintf("%s | %s", from, to))
	two[0].Shapes, two[1].Shapes = t.Bars[before].Shapes, t.Bars[bar].Shapes
	silent, once := onOne(t, pattern.AirDown), onOne(t, pattern.Down)
	advice := fmt.Sprintf("The root is on string %d.", there.Root)
	if len(ch.Kept) > 0 {
		advice = fmt.Sprintf("%s %s where %s. %s", fingerList(ch.Kept), stay(len(ch.Kept)), theyAre(len(ch.Kept)), advice)
	}
	around := barsOf(t, sung[:])
	stages := []stage{
		{"change-silent", text(two, t), advice, silent, two, slow, 1.5},
		{"one-stroke", text(two, t), "", once, two, slow, 1.5},
		{"with-the-figure", text(two, t), "", t.Pattern, two, medium, 2},
		{"in-the-song", text(around, t), "", t.Pattern, around, goal, 2},
	}
	return share(stages, t, day), nil
}

// share gives the stages repeats that fit into their part of the minutes; what that
// leaves over goes to the last. The minutes of each are what its repeats take.
func share(stages []stage, t difficulty.Task, day Day) []Exercise {
	minutes := day.Minutes
	if minutes <= 0 {
		minutes = usualMinutes
	}
	weights := 0.0
	for _, s := range stages {
		weights += s.weight
	}
	tempos := day.tempos(t.Tempo)
	left := minutes
	var out []Exercise
	for i, s := range stages {
		e := Exercise{ID: s.id, Pattern: s.figure, Over: s.over, Bars: s.bars, Tempo: s.tempo(tempos)}
		for _, w := range Stages {
			if w.ID == s.id {
				e.Title, e.Why = w.Title, strings.TrimSpace(s.advice+" "+w.Why)
			}
		}
		bars := max(1, len(s.bars), len(s.figure.Bars))
		once := float64(t.Pattern.Meter.TappedBeats()) / float64(e.Tempo) * float64(bars) // in minutes
		mine := minutes * s.weight / weights
		if i == len(stages)-1 {
			mine = left
		}
		e.Repeats = min(maxRepeats, max(1, int(mine/once)))
		e.Minutes = float64(e.Repeats) * once
		left -= e.Minutes
		out = append(out, e)
	}
	return out
}

// easyShape is the song's easiest chord, or the easiest of an easy progression where none of the
// song's is easy.
func easyShape(t difficulty.Task, progression string) string {
	own := easiest(t)
	best, least := own, math.Inf(1)
	if hold, ok := holding(t.Instrument, []string{own}); ok && hold <= easyHold {
		return own
	}
	for _, symbol := range strings.Split(progression, " | ") {
		if hold, ok := holding(t.Instrument, []string{symbol}); ok && hold < least {
			best, least = symbol, hold
		}
	}
	return best
}

// easiest is the song's chord that is easiest to hold.
func easiest(t difficulty.Task) string {
	best, hold := "", 0.0
	for _, bar := range t.Bars {
		for _, ch := range bar.Changes {
			c, err := ch.Chord()
			if v, ok := t.Shapes[c]; err == nil && ok && (best == "" || v.Hold < hold) {
				best, hold = c.String(), v.Hold
			}
		}
	}
	return best
}

// moving is the diminished seventh on the four thin strings.
func moving(ins fretboard.Instrument) string {
	n := ins.Strings()
	return strings.Repeat("x", max(0, n-4)) + "2323"
}

func line(t difficulty.Task, chords string) []song.Bar {
	bars, err := song.ParseChords(chords, t.Pattern.Meter)
	if err != nil {
		return nil
	}
	return bars
}

func text(bars []song.Bar, t difficulty.Task) string {
	var parts []string
	for _, b := range bars {
		parts = append(parts, song.BarText(b.Changes, t.Pattern.Meter))
	}
	return strings.Join(parts, " | ")
}

// changeInto finds the chord of a bar and the one before it.
func changeInto(t difficulty.Task, prior, bar int) (from, to theory.Chord, ok bool) {
	if from, to, ok = chordsAt(t, prior, bar); !ok {
		return from, to, false
	}
	return from, to, from != to || t.Held(prior)[from].Shape != t.Held(bar)[to].Shape
}

// ChangeAt is the change into a bar of a song, counted from 0, as it is sung; ok is false where no chord
// changes there.
func ChangeAt(fingered song.Song, bar int) (from, to theory.Chord, ok bool) {
	var t difficulty.Task
	t.Bars, t.Played = difficulty.BarsOf(fingered)
	around, ok := t.Around(bar)
	if !ok {
		return from, to, false
	}
	from, to, ok = chordsAt(t, around[0].Bar, bar)
	return from, to, ok && from != to
}

// chordsAt are the last chord of a bar and the first of the one that follows it.
func chordsAt(t difficulty.Task, prior, bar int) (from, to theory.Chord, ok bool) {
	before, here := t.Bars[prior].Changes, t.Bars[bar].Changes
	if len(before) == 0 || len(here) == 0 {
		return from, to, false
	}
	from, err := before[len(before)-1].Chord()
	if err != nil {
		return from, to, false
	}
	to, err = here[0].Chord()
	return from, to, err == nil
}

func fingerList(fingers []int8) string {
	var names []string
	for _, f := range fingers {
		names = append(names, fretboard.FingerName(f))
	}
	s := say.And(names)
	return strings.ToUpper(s[:1]) + s[1:]
}
