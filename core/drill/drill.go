package drill

import (
	"fmt"
	"strings"

	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
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
	{"open-strings", "The figure on open strings", "The left hand is free; only the figure is to be learned."},
	{"easy-shape", "On one easy shape", "The same figure on a chord that costs nothing."},
	{"moving-shape", "On a shape that moves", "Frets 2 3 2 3 on four strings, up one fret each time; it never sounds finished, so it goes on."},
	{"easy-progression", "Over an easy progression", "The chords come in another order, so that the hand cannot lean on the song."},
	{"the-bar", "The bar itself", "Back to where it went wrong."},
	{"bar-before", "With the bar before", "The way in is part of the trouble."},
	{"bar-after", "With the bar after", "The way out, without a stop."},
	{"the-phrase", "The phrase", "At the goal, as it is sung."},
	{"change-silent", "The change, silent", "The finger for the root string comes down first; the others follow."},
	{"one-stroke", "One stroke a bar", "The last finger may come a little late; the stroke does not wait."},
	{"with-the-figure", "With the figure", "Leave the last note of the bar out if the hand needs the time."},
	{"in-the-song", "In the song", "With a bar before and after, at the goal."},
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
}

// MinutesOf is a drill's part of the minutes that a student practises a day:
// half, since the song comes after it, from three to the usual ten. From memory.
func MinutesOf(day int) int { return min(usualMinutes, max(3, day/2)) }

// tempos are the song's, or those of what is clean so far: a drill is not played
// faster than the student can.
func (d Day) tempos(goal int) song.Tempos {
	if d.Clean > 0 {
		goal = min(goal, d.Clean)
	}
	return song.TemposFor(goal)
}

// stage is an exercise before tempo and time are shared out.
type stage struct {
	id     StageID
	over   string
	advice string // what this one drill adds to the words of the stage
	figure pattern.Pattern
	bars   []song.Bar
	tempo  func(song.Tempos) int
	weight float64 // of the minutes
}

func slow(t song.Tempos) int   { return t.Slow }
func medium(t song.Tempos) int { return t.Medium }
func goal(t song.Tempos) int   { return t.Goal }

// Bar makes the drill of one bar, counted from 0, that fits the day. The figure of the bar stays as it is, stage by
// stage, until it is back in the song. Source of the sequence: common practice.
func Bar(t difficulty.Task, bar int, day Day) ([]Exercise, error) {
	if bar < 0 || bar >= len(t.Bars) {
		return nil, fmt.Errorf("bar: the song has bars 1 to %d, not %d", len(t.Bars), bar+1)
	}
	figure := lifted(t.Pattern, bar)
	at := t.Bars[bar : bar+1]
	stages := []stage{
		{"open-strings", "open strings", "", figure, nil, slow, 1},
		{"easy-shape", easiest(t), "", figure, line(t, easiest(t)), slow, 1},
		{"moving-shape", moving(t.Instrument), "", figure, nil, medium, 1},
		{"easy-progression", progression(t), "", figure, line(t, progression(t)), medium, 1.5},
		{"the-bar", text(at, t), "", figure, at, medium, 1.5},
	}
	if before, after := t.Around(bar); len(t.Bars) > 1 {
		in, out := []song.Bar{t.Bars[before], t.Bars[bar]}, []song.Bar{t.Bars[bar], t.Bars[after]}
		stages = append(stages,
			stage{"bar-before", text(in, t), "", pair(t.Pattern, before, bar), in, medium, 1.5},
			stage{"bar-after", text(out, t), "", pair(t.Pattern, bar, after), out, medium, 1.5})
	}
	from := max(0, bar-bar%4)
	phrase := t.Bars[from:min(from+4, len(t.Bars))]
	stages = append(stages, stage{"the-phrase", text(phrase, t), "", window(t.Pattern, from, len(phrase)), phrase, goal, 2})
	return share(stages, t, day), nil
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
	if bar < 0 || bar >= len(t.Bars) {
		return nil, fmt.Errorf("bar: the song has bars 1 to %d, not %d", len(t.Bars), bar+1)
	}
	from, to, ok := changeInto(t, bar)
	if !ok {
		return nil, fmt.Errorf("bar: no chord changes at bar %d", bar+1)
	}
	before, after := t.Around(bar)
	there := t.Held(bar)[to]
	ch := fretboard.ChangeBetween(t.Instrument, t.Held(before)[from], there)
	two := line(t, fmt.Sprintf("%s | %s", from, to))
	two[0].Shapes, two[1].Shapes = t.Bars[before].Shapes, t.Bars[bar].Shapes
	once := pattern.Pattern{Meter: t.Pattern.Meter, Bars: []pattern.Bar{make(pattern.Bar, t.Pattern.Meter.Grids()[0])}}
	once.Bars[0][0].Strokes = []pattern.Stroke{{Sign: pattern.Down}}
	silent := once.Clone()
	silent.Bars[0][0].Strokes = []pattern.Stroke{{Sign: pattern.AirDown}}
	advice := fmt.Sprintf("The root is on string %d.", there.Root)
	if len(ch.Kept) > 0 {
		advice = fmt.Sprintf("%s %s where %s. %s", fingerList(ch.Kept), stay(len(ch.Kept)), theyAre(len(ch.Kept)), advice)
	}
	around := []song.Bar{t.Bars[before], t.Bars[bar], t.Bars[after]}
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

// lifted is the bar of the figure that falls on a bar of the song.
func lifted(p pattern.Pattern, bar int) pattern.Pattern { return window(p, bar, 1) }

// window is n bars of the repeating figure from a bar of the song on; a whole
// number of figures is the figure.
func window(p pattern.Pattern, from, n int) pattern.Pattern {
	if len(p.Bars) == 1 || from%len(p.Bars) == 0 && n%len(p.Bars) == 0 {
		return p
	}
	q := pattern.Pattern{Meter: p.Meter, Swing: p.Swing}
	for i := range n {
		q.Bars = append(q.Bars, p.Bars[(from+i)%len(p.Bars)])
	}
	return q.Clone()
}

// pair is the bars of the repeating figure that fall on two bars of the song.
func pair(p pattern.Pattern, a, b int) pattern.Pattern {
	n := len(p.Bars)
	if n == 1 || n == 2 && a%n == 0 && b%n == 1 {
		return p
	}
	return pattern.Pattern{Meter: p.Meter, Swing: p.Swing, Bars: []pattern.Bar{p.Bars[a%n], p.Bars[b%n]}}.Clone()
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

// changeInto finds the chord of a bar and the one before it; the song goes round.
func changeInto(t difficulty.Task, bar int) (from, to theory.Chord, ok bool) {
	prior, _ := t.Around(bar)
	before := t.Bars[prior].Changes
	here := t.Bars[bar].Changes
	if len(before) == 0 || len(here) == 0 {
		return from, to, false
	}
	from, err := before[len(before)-1].Chord()
	if err != nil {
		return from, to, false
	}
	to, err = here[0].Chord()
	return from, to, err == nil && (from != to || t.Held(prior)[from].Shape != t.Held(bar)[to].Shape)
}

func fingerList(fingers []int8) string {
	var names []string
	for _, f := range fingers {
		names = append(names, fretboard.FingerName(f))
	}
	s := strings.Join(names, " and ")
	return strings.ToUpper(s[:1]) + s[1:]
}
