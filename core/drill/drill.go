// Package drill makes exercises of a trouble spot: the right hand lifted out of
// a bar, or the left hand's way from one chord to the next.
package drill

import (
	"fmt"
	"strings"

	"arplin/core/demand"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/core/vary"
)

// Exercise is one stage of a drill.
type Exercise struct {
	Title   string
	Pattern hand.Pattern
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
}

// MinutesOf is a drill's part of the minutes that a student practises a day:
// half, since the song comes after it, from three to the usual ten. From memory.
func MinutesOf(day int) int { return min(usualMinutes, max(3, day/2)) }

// tempos are the song's, or those of what is clean so far: a drill is not played
// faster than the student can.
func (d Day) tempos(goal int) vary.Tempos {
	if d.Clean > 0 {
		goal = min(goal, d.Clean)
	}
	return vary.TemposFor(goal)
}

// stage is an exercise before tempo and time are shared out.
type stage struct {
	title, over, why string
	pattern          hand.Pattern
	bars             []song.Bar
	tempo            func(vary.Tempos) int
	weight           float64 // of the minutes
}

func slow(t vary.Tempos) int   { return t.Slow }
func medium(t vary.Tempos) int { return t.Medium }
func goal(t vary.Tempos) int   { return t.Goal }

// Bar makes the drill of one bar, counted from 0, that fits the day. The figure of the bar stays as it is, stage by
// stage, until it is back in the song. Source of the sequence: common practice.
func Bar(t demand.Task, bar int, day Day) ([]Exercise, error) {
	if bar < 0 || bar >= len(t.Bars) {
		return nil, fmt.Errorf("bar: the song has bars 1 to %d, not %d", len(t.Bars), bar+1)
	}
	figure := lifted(t.Pattern, bar)
	at := t.Bars[bar : bar+1]
	stages := []stage{
		{"The figure on open strings", "open strings", "The left hand is free; only the figure is to be learned.", figure, nil, slow, 1},
		{"On one easy shape", easiest(t), "The same figure on a chord that costs nothing.", figure, line(t, easiest(t)), slow, 1},
		{"On a shape that moves", moving(t.Instrument), "Frets 2 3 2 3 on four strings, up one fret each time; it never sounds finished, so it goes on.", figure, nil, medium, 1},
		{"Over an easy progression", progression(t), "The chords come in another order, so that the hand cannot lean on the song.", figure, line(t, progression(t)), medium, 1.5},
		{"The bar itself", text(at, t), "Back to where it went wrong.", figure, at, medium, 1.5},
	}
	if bar > 0 {
		before := t.Bars[bar-1 : bar+1]
		stages = append(stages, stage{"With the bar before", text(before, t), "The way in is part of the trouble.", window(t.Pattern, bar-1, 2), before, medium, 1.5})
	}
	if bar+1 < len(t.Bars) {
		after := t.Bars[bar : bar+2]
		stages = append(stages, stage{"With the bar after", text(after, t), "The way out, without a stop.", window(t.Pattern, bar, 2), after, medium, 1.5})
	}
	from := max(0, bar-bar%4)
	phrase := t.Bars[from:min(from+4, len(t.Bars))]
	stages = append(stages, stage{"The phrase", text(phrase, t), "At the goal, as it is sung.", window(t.Pattern, from, len(phrase)), phrase, goal, 2})
	return share(stages, t, day), nil
}

// ChangeTo makes the drill of the change into a bar, counted from 0: the hand
// silent first, then one stroke a bar, then at rate.
func ChangeTo(t demand.Task, bar int, day Day) ([]Exercise, error) {
	if bar < 0 || bar >= len(t.Bars) {
		return nil, fmt.Errorf("bar: the song has bars 1 to %d, not %d", len(t.Bars), bar+1)
	}
	from, to, ok := changeInto(t, bar)
	if !ok {
		return nil, fmt.Errorf("bar: no chord changes at bar %d", bar+1)
	}
	ch := fretboard.ChangeBetween(t.Instrument, t.Shapes[from], t.Shapes[to])
	two := line(t, fmt.Sprintf("%s | %s", from, to))
	once := hand.Pattern{Meter: t.Pattern.Meter, Bars: []hand.Bar{make(hand.Bar, t.Pattern.Meter.Grids()[0])}}
	once.Bars[0][0].Strokes = []hand.Stroke{{Sign: hand.Down}}
	silent := once.Clone()
	silent.Bars[0][0].Strokes = []hand.Stroke{{Sign: hand.AirDown}}
	advice := fmt.Sprintf("Finger for the root string %d first; the others follow.", t.Shapes[to].Root)
	if len(ch.Kept) > 0 {
		advice = fmt.Sprintf("%s stay where they are. %s", fingerList(ch.Kept), advice)
	}
	around := t.Bars[max(0, bar-1):min(bar+2, len(t.Bars))]
	if bar == 0 { // the song goes round
		around = append([]song.Bar{t.Bars[len(t.Bars)-1]}, around...)
	}
	stages := []stage{
		{"The change, silent", text(two, t), advice, silent, two, slow, 1.5},
		{"One stroke a bar", text(two, t), "The last finger may come a little late; the stroke does not wait.", once, two, slow, 1.5},
		{"With the figure", text(two, t), "Leave the last note of the bar out if the hand needs the time.", t.Pattern, two, medium, 2},
		{"In the song", text(around, t), "With a bar before and after, at the goal.", t.Pattern, around, goal, 2},
	}
	return share(stages, t, day), nil
}

// share gives the stages their minutes, and repeats that fit into them.
func share(stages []stage, t demand.Task, day Day) []Exercise {
	minutes := day.Minutes
	if minutes <= 0 {
		minutes = usualMinutes
	}
	weights := 0.0
	for _, s := range stages {
		weights += s.weight
	}
	tempos := day.tempos(t.Tempo)
	var out []Exercise
	for _, s := range stages {
		e := Exercise{Title: s.title, Pattern: s.pattern, Over: s.over, Bars: s.bars, Tempo: s.tempo(tempos), Minutes: minutes * s.weight / weights, Why: s.why}
		bars := max(1, len(s.bars), len(s.pattern.Bars))
		barMinutes := float64(t.Pattern.Meter.TappedBeats()) / float64(e.Tempo)
		e.Repeats = min(maxRepeats, max(1, int(e.Minutes/(barMinutes*float64(bars)))))
		out = append(out, e)
	}
	return out
}

// lifted is the bar of the figure that falls on a bar of the song.
func lifted(p hand.Pattern, bar int) hand.Pattern { return window(p, bar, 1) }

// window is n bars of the repeating figure from a bar of the song on; a whole
// number of figures is the figure.
func window(p hand.Pattern, from, n int) hand.Pattern {
	if len(p.Bars) == 1 || from%len(p.Bars) == 0 && n%len(p.Bars) == 0 {
		return p
	}
	q := hand.Pattern{Meter: p.Meter, Swing: p.Swing}
	for i := range n {
		q.Bars = append(q.Bars, p.Bars[(from+i)%len(p.Bars)])
	}
	return q.Clone()
}

// easiest is the song's chord that is easiest to hold.
func easiest(t demand.Task) string {
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

func line(t demand.Task, chords string) []song.Bar {
	bars, err := song.ParseChords(chords, t.Pattern.Meter)
	if err != nil {
		return nil
	}
	return bars
}

func text(bars []song.Bar, t demand.Task) string {
	var parts []string
	for _, b := range bars {
		parts = append(parts, song.BarText(b.Changes, t.Pattern.Meter))
	}
	return strings.Join(parts, " | ")
}

// changeInto finds the chord of a bar and the one before it; the song goes round.
func changeInto(t demand.Task, bar int) (from, to theory.Chord, ok bool) {
	before := t.Bars[(bar+len(t.Bars)-1)%len(t.Bars)].Changes
	here := t.Bars[bar].Changes
	if len(before) == 0 || len(here) == 0 {
		return from, to, false
	}
	from, err := before[len(before)-1].Chord()
	if err != nil {
		return from, to, false
	}
	to, err = here[0].Chord()
	return from, to, err == nil && from != to
}

var fingerNames = [5]string{"", "index", "middle", "ring", "little"}

func fingerList(fingers []int8) string {
	var names []string
	for _, f := range fingers {
		names = append(names, fingerNames[f])
	}
	s := strings.Join(names, " and ")
	return strings.ToUpper(s[:1]) + s[1:]
}
