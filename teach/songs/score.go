package songs

import (
	"cmp"
	"slices"

	"arplin/core/bind"
	"arplin/core/bpm"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
	"arplin/sound"
	"arplin/store/ref"
	"arplin/teach/people"
)

// Score is what is played: everything in ticks from the beginning, so that the tempo is
// the player's.
type Score struct {
	Title   string        `json:"title"`
	Beat    int           `json:"beat"`             // ticks of a tapped beat
	Unit    string        `json:"unit"`             // its name
	Eighth  int           `json:"eighth,omitempty"` // ticks of what is clicked under the tempo Slower, in a compound meter
	Slower  int           `json:"slower,omitempty"`
	Slow    int           `json:"slow"`
	Medium  int           `json:"medium"`
	Goal    int           `json:"goal"`
	Start   int           `json:"start,omitempty"` // where it begins, if not slow
	Feel    Feel          `json:"feel,omitempty"`  // as it is played; none where it cannot be changed
	Strings sound.Strings `json:"strings"`         // whose tones
	Capo    int           `json:"capo,omitempty"`  // the chords are named as they are fingered above it
	Ticks   int           `json:"ticks"`           // of the whole
	Figures []ScoreFigure `json:"figures"`
	Bars    []ScoreBar    `json:"bars"`
	Notes   []ScoreNote   `json:"notes"` // in the order in which they sound
}

// Feel is how eighths are played.
type Feel string

// The feels.
const (
	Straight Feel = "straight"
	Swung    Feel = "swung"
)

// ScoreFigure is where the slots of a figure's bar begin, in ticks.
type ScoreFigure struct {
	Slots    []int  `json:"slots"`
	Bar      int    `json:"bar"` // ticks of its bar: in a longer one it begins again
	Notation string `json:"n"`
}

// ScoreBar is a bar under the playhead.
type ScoreBar struct {
	ID         song.BarID    `json:"id,omitempty"` // of the song
	From       int           `json:"from"`
	Beats      int           `json:"beats"`
	Chords     string        `json:"chords"`
	Words      string        `json:"words,omitempty"`
	Changes    []ScoreChange `json:"ch,omitempty"`
	Section    string        `json:"sec,omitempty"`   // which begins here
	Figure     int           `json:"f"`               // of Figures; -1 for none
	PatternBar int           `json:"p,omitempty"`     // of the figure
	Plays      string        `json:"plays,omitempty"` // what a group plays in it
	Picture    int           `json:"pic,omitempty"`   // of the lane, where it is not the pattern's bar
	Late       int           `json:"late,omitempty"`  // ticks of the figure's bar that are left out before a pickup
}

// ScoreChange is a chord that begins.
type ScoreChange struct {
	Tick   int      `json:"t"`
	Symbol string   `json:"c"`
	Held   [][2]int `json:"h,omitempty"` // what its strings give: the string, and its pitch as MIDI
}

// ScoreNote is a string, a knock, or a stop of all strings.
type ScoreNote struct {
	Tick   int            `json:"t"`
	Late   float64        `json:"late,omitempty"` // milliseconds
	String int            `json:"s,omitempty"`
	MIDI   int            `json:"m,omitempty"`
	Kind   bind.SoundKind `json:"k"`
	By     bind.Hand      `json:"by,omitempty"`
	Loud   float64        `json:"loud,omitempty"`
}

// ScoreAsk is how a score is wanted.
type ScoreAsk struct {
	Over       string // chords, a bar between lines, for a figure that is on no song
	Instrument string
	Student    ref.Student // as one of the class plays it, on the own instrument; 0 for nobody
	Feel       Feel        // none: as it is written
	Chords     bool        // each chord softly strummed as well, to play over
}

// In gives a figure the feel that is asked for, where it can have it.
func (f Feel) In(p pattern.Pattern) pattern.Pattern {
	if f != "" && swings(p) {
		p.Swing = f == Swung
	}
	return p
}

// swings reports that a figure can be swung.
func swings(p pattern.Pattern) bool {
	n := p.SlotsPerBeat()
	return !p.Meter.Compound() && (n == 2 || n == 4)
}

// Score is a line as it is sung.
func (v View) Score(l played.Line, play difficulty.Play, title string, tempos bpm.Tempos, ask ScoreAsk) Score {
	sg, meter := l.Fingered, l.Fingered.Meter
	out := Score{Notes: []ScoreNote{}, Bars: []ScoreBar{}, Figures: []ScoreFigure{}, Title: title, Beat: meter.BeatTicks(), Unit: meter.BeatName(), Slow: tempos.Slow, Medium: tempos.Medium, Goal: tempos.Goal, Strings: people.Family(v.Ins), Capo: l.Capo}
	if meter.Compound() {
		out.Eighth, out.Slower = meter.BeatTicks()/3, bpm.SlowCompound
	}
	figures := make([]int, len(l.Bars))
	for i, on := range l.Bars {
		figures[i] = out.figure(on)
	}
	for _, at := range sg.Sung() {
		bar, on := sg.Sections[at.Section].Bars[at.Bar], l.Bars[at.Number]
		out.bar(v, sg, at, on, figures[at.Number])
		out.add(play, bind.Sounds(v.School, on.Events, at.From), l.Capo)
		if on.Grid > 0 && !on.Rests && bar.Role == "" {
			out.add(play, bind.Stops(on.Figure, on.FigureBar, at.From), 0)
		}
		if ask.Chords {
			out.add(difficulty.OnStrings, bind.Chords(v.Ins, bind.HeldIn(v.Ins, bar, v.Shapes), at.From), l.Capo)
		}
		out.Ticks = at.From + bar.Ticks()
	}
	slices.SortStableFunc(out.Notes, func(a, b ScoreNote) int { return cmp.Compare(a.Tick, b.Tick) })
	return out
}

// figure is which of the score's figures a bar is played with; -1 for none.
func (s *Score) figure(on played.Bar) int {
	if on.Grid == 0 {
		return -1
	}
	p := on.Figure
	if swings(p) {
		s.Feel = Straight
		if p.Swing {
			s.Feel = Swung
		}
	}
	f := ScoreFigure{Bar: p.Meter.BarTicks(), Notation: p.String()}
	for slot := range p.Grid() {
		f.Slots = append(f.Slots, p.SlotStart(slot))
	}
	at := slices.IndexFunc(s.Figures, func(g ScoreFigure) bool { return g.Notation == f.Notation })
	if at < 0 {
		at = len(s.Figures)
		s.Figures = append(s.Figures, f)
	}
	return at
}

// bar adds a bar as it is sung.
func (s *Score) bar(v View, sg song.Song, at song.Sung, on played.Bar, figure int) {
	sec := sg.Sections[at.Section]
	bar := sec.Bars[at.Bar]
	ticks := bar.Ticks()
	b := ScoreBar{ID: bar.ID, From: at.From, Beats: (ticks + s.Beat - 1) / s.Beat, Chords: song.BarText(bar.Changes, sg.MeterOf(bar)), Words: bar.Words, Figure: figure, PatternBar: on.FigureBar}
	if at.Bar == 0 {
		b.Section = sec.Name
	}
	if bar.Role == song.Pickup {
		b.Late = max(0, sg.Meter.BarTicks()-ticks)
	}
	tick := at.From
	for _, ch := range bar.Changes {
		change := ScoreChange{Tick: tick, Symbol: ch.Symbol}
		for _, h := range on.Held {
			if h.From <= tick-at.From {
				change.Held = v.held(h, s.Capo)
			}
		}
		b.Changes = append(b.Changes, change)
		tick += ch.Ticks
	}
	s.Bars = append(s.Bars, b)
}

// held is what the strings of a shape give above a capo.
func (v View) held(h played.Held, capo int) (list [][2]int) {
	ins := v.Ins.WithCapo(capo)
	for n := 1; n <= ins.Strings(); n++ {
		str := fretboard.String(n)
		if fret := h.Voicing.At(str); fret >= 0 {
			list = append(list, [2]int{n, ins.Open(str).MIDI() + int(fret)})
		}
	}
	return list
}

// add takes sounds; before the strings they are knocks, and on muted strings chucks.
func (s *Score) add(play difficulty.Play, sounds []bind.Sound, capo int) {
	for _, x := range sounds {
		n := ScoreNote{x.Tick, x.Late, int(x.String), x.MIDI, x.Kind, x.By, x.Loud}
		onString := x.Kind != bind.StopSound && x.Kind != bind.KnockSound
		if pitch := n.MIDI + capo; onString && (pitch < sound.Lowest || pitch > sound.Highest) {
			continue // a tuning of the teacher's own can be beyond what sounds
		}
		switch {
		case x.Kind == bind.StopSound || x.Kind == bind.KnockSound:
		case play == difficulty.Said || play == difficulty.Tapped || play == difficulty.Swings:
			n = ScoreNote{Tick: x.Tick, Kind: bind.KnockSound, By: x.By, Loud: x.Loud}
			if k := len(s.Notes); k > 0 && s.Notes[k-1].Tick == n.Tick { // a strum is one tap
				continue
			}
		case play == difficulty.Muted:
			n.Kind = bind.ChuckSound
		default:
			n.MIDI += capo
		}
		s.Notes = append(s.Notes, n)
	}
}
