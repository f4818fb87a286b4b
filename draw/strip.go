package draw

import (
	"slices"
	"strconv"
	"strings"

	"arplin/core/bind"
	"arplin/core/theory"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
)

// Strip is a hand strip: strings as lines, time to the right, the count below.
type Strip struct {
	Instrument fretboard.Instrument
	Pattern    pattern.Pattern
	Events     []played.Event
	Ghosts     []played.Event         // what the target has and this step leaves out
	New        map[pattern.Place]bool // strokes drawn as the new thing
	Frets      bool                   // a fret beside each mark
	ThickOnTop bool                   // strings turned over, as the player sees them
	SlotWidth  float64                // 0 for the usual one
	Cursor     *pattern.Cursor        // the slot that is being edited
	Tune       []TuneNote             // of the one bar, drawn as a line of its own over the strings
	Label      string                 // for screen readers
}

// TuneNote is a note of the tune over a strip, in slots of its bar.
type TuneNote struct {
	From, Long float64
	MIDI       int
	Name, Word string
}

// OnShape is the strip of a figure on a shape of a chord.
func OnShape(ins fretboard.Instrument, school bind.School, p pattern.Pattern, c theory.Chord, sh fretboard.Shape) Strip {
	return OfBars(ins, p, bind.Pattern(ins, school, p, c, sh).Events)
}

// OfBars is the strip of what is played in the bars of a figure, with its frets.
func OfBars(ins fretboard.Instrument, p pattern.Pattern, events []played.Event) Strip {
	return Strip{Instrument: ins, Pattern: p, Events: events, Frets: true}
}

// Sizes in SVG units, which are CSS pixels at full size.
const (
	stringGap   = 21.0
	markRadius  = 9.5
	usualSlot   = 38.0
	narrowSlot  = 30.0 // for more than eight slots a bar
	nameWidth   = 22.0
	countHeight = 24.0
	pathHeight  = 46.0
	edge        = 12.0
	barGap      = 6.0
	tuneHeight  = 62.0
)

// stripLayout turns strings and slots into coordinates.
type stripLayout struct {
	Strip
	canvas
	left, top, slot float64
	strings         int
}

// SVG draws the strip.
func (s Strip) SVG() SVG {
	l := &stripLayout{Strip: s, left: edge + nameWidth, top: edge + 4, slot: s.SlotWidth, strings: s.Instrument.Strings()}
	if l.slot == 0 {
		l.slot = usualSlot
		if s.Pattern.Grid() > 8 {
			l.slot = narrowSlot
		}
	}
	if len(s.Tune) > 0 {
		l.top += tuneHeight
	}
	l.grid(l.left, l.slot, l.Pattern.Grid(), barGap)
	l.ground()
	l.tune()
	if at := l.Cursor; at != nil {
		l.rect("cursor", l.x(at.Bar, at.Slot)-l.slot/2, l.top-edge-2, l.slot, l.bottom()-l.top+2*edge+4, 4)
	}
	for _, e := range s.Ghosts {
		l.event(e, "ghost")
	}
	l.joins()
	for _, e := range s.Events {
		class := ""
		if s.New[pattern.Place{Bar: e.Bar, Slot: e.Slot, Sign: e.Stroke.Sign}] {
			class = "new"
		}
		if s.chosen(e) {
			class = strings.TrimSpace(class + " chosen")
		}
		l.event(e, class)
	}
	l.stops()
	height := l.bottom() + edge/2 + countHeight
	if l.words(height) {
		height += countHeight - 4
	}
	if s.Pattern.HasStrums() {
		l.handPath(height)
		height += pathHeight
	}
	return l.svg("strip", s.Label, l.right()+edge, height)
}

// chosen reports the stroke under the cursor, where a slot has several.
func (s Strip) chosen(e played.Event) bool {
	at := s.Cursor
	if at == nil || e.Bar != at.Bar || e.Slot != at.Slot {
		return false
	}
	strokes := s.Pattern.Bars[at.Bar][at.Slot].Strokes
	return at.Stroke < len(strokes) && strokes[at.Stroke].Sign == e.Stroke.Sign
}

func (l *stripLayout) y(s fretboard.String) float64 {
	if l.ThickOnTop {
		return l.top + float64(l.strings-int(s))*stringGap
	}
	return l.top + float64(s-1)*stringGap
}

func (l *stripLayout) bottom() float64 { return l.top + float64(l.strings-1)*stringGap }

// x is the middle of a slot; a tick-exact place is not needed, since slots are
// wide enough for one mark.
func (l *stripLayout) x(bar, slot int) float64 {
	return l.barX(bar) + (float64(slot)+0.5)*l.slot
}

func (l *stripLayout) barX(bar int) float64 {
	return l.left + float64(bar)*(float64(l.Pattern.Grid())*l.slot+barGap)
}

func (l *stripLayout) right() float64 { return l.barX(len(l.Pattern.Bars)) - barGap }

// ground draws beat bands, strings, string names, bar lines and the count.
func (l *stripLayout) ground() {
	counts := l.Pattern.Counts()
	for bar := range l.Pattern.Bars {
		for slot := range l.Pattern.Grid() {
			if l.Pattern.OnBeat(slot) {
				l.rect("band", l.x(bar, slot)-l.slot/2+1, l.top-edge, l.slot-2, l.bottom()-l.top+2*edge, 3)
			}
		}
		if bar > 0 {
			l.line("barline", l.barX(bar)-3, l.top, l.barX(bar)-3, l.bottom())
		}
		for slot, word := range counts {
			class := "count"
			if l.Pattern.OnBeat(slot) {
				class = "count beat"
			}
			l.text(class, l.x(bar, slot), l.bottom()+edge+12, word)
		}
	}
	for s := fretboard.String(1); int(s) <= l.strings; s++ {
		l.line("string", l.left, l.y(s), l.right(), l.y(s))
		l.text("name", l.left-nameWidth/2-3, l.y(s), StringName(l.Instrument, s))
	}
}

// StringName is a string's letter: small for the thinnest string of a guitar
// and for a high fourth string of a ukulele.
func StringName(ins fretboard.Instrument, s fretboard.String) string {
	name := ins.Open(s).Note.String()
	n := fretboard.String(ins.Strings())
	high := s == n && n > 1 && ins.Open(n).MIDI() > ins.Open(n-1).MIDI()
	if high || s == 1 && !ins.ThumbStays() {
		return strings.ToLower(name[:1]) + name[1:]
	}
	return name
}

// tune draws the melody over the strings: length as time, height as pitch, names above and words below.
func (l *stripLayout) tune() {
	low, high := 127, 0
	for _, n := range l.Tune {
		low, high = min(low, n.MIDI), max(high, n.MIDI)
	}
	const above, rise, wordLine = 12.0, 26.0, 14.0
	for _, n := range l.Tune {
		y := above + rise/2
		if high > low {
			y = above + rise*float64(high-n.MIDI)/float64(high-low)
		}
		x := l.left + n.From*l.slot + 4
		l.rect("tuneline", x, y, max(8, n.Long*l.slot-8), 5, 2.5)
		l.text("tunename", x, y-7, n.Name)
		if n.Word != "" {
			l.text("syllable tuneword", x, above+rise+wordLine+3, n.Word)
		}
	}
}

// words writes what is sung under its notes, below the count.
func (l *stripLayout) words(top float64) (any bool) {
	for _, e := range l.Events {
		if e.Word != "" && len(l.Tune) == 0 {
			l.text("syllable", l.x(e.Bar, e.Slot), top+6, e.Word)
			any = true
		}
	}
	return any
}

// joins draws the bar that ties strokes which sound together.
func (l *stripLayout) joins() {
	type span struct{ top, bottom float64 }
	spans := map[[2]int]span{}
	for _, e := range l.Events {
		if e.Kind != played.Pluck {
			continue
		}
		y, at := l.y(e.Strings[0]), [2]int{e.Bar, e.Slot}
		sp, ok := spans[at]
		if !ok {
			sp = span{y, y}
		}
		spans[at] = span{min(sp.top, y), max(sp.bottom, y)}
	}
	for bar := range l.Pattern.Bars {
		for slot := range l.Pattern.Grid() {
			if sp := spans[[2]int{bar, slot}]; sp.bottom > sp.top {
				l.line("join", l.x(bar, slot), sp.top, l.x(bar, slot), sp.bottom)
			}
		}
	}
}

func (l *stripLayout) event(e played.Event, class string) {
	x := l.x(e.Bar, e.Slot)
	switch e.Kind {
	case played.Knock:
		l.knock(x, class)
	case played.Pluck:
		l.pluck(x, e, class)
	default:
		l.strum(x, e, class)
	}
}

func (l *stripLayout) pluck(x float64, e played.Event, class string) {
	y := l.y(e.Strings[0])
	letter := e.Finger
	if letter == "" { // a pick
		letter = strings.ToUpper(e.Direction[:1])
	}
	if e.Melody && class == "" {
		class = "tune" // filled: heard above the rest
	}
	markClass := strings.TrimSpace("mark " + class)
	if e.Accent {
		markClass += " accent"
	}
	l.finger(markClass, letter, x, y, markRadius)
	dy := 0.0
	if letter == "a" {
		dy = 2.5
	}
	l.text(strings.TrimSpace("letter "+class), x, y+dy, letter)
	if e.Slurred {
		l.line("slur", x-l.slot+markRadius+2, y+markRadius, x-markRadius-2, y+markRadius)
	}
	l.touch(x, y, e)
	if l.Frets && class != "ghost" {
		l.text("fret", x+markRadius+6, y-8, strconv.Itoa(int(e.Frets[0])))
	}
}

// strum draws the upright bar with its letter and, at reading size, the frets
// that it crosses.
func (l *stripLayout) strum(x float64, e played.Event, class string) {
	y1, y2 := l.y(e.Strings[0]), l.y(e.Strings[len(e.Strings)-1])
	top, bottom := min(y1, y2)-5, max(y1, y2)+5
	w := 5.0
	if e.Accent {
		w = 9
	}
	barClass := strings.TrimSpace("strum " + class)
	if e.Soft {
		barClass += " soft"
	}
	l.rect(barClass, x-w/2, top, w, bottom-top, 2)
	if e.Kind == played.Brush { // nails: a second, thin bar before the first
		l.rect(barClass, x-w/2-4.5, top, 2.5, bottom-top, 1)
	}
	if e.Kind == played.Chuck { // stopped: a beam across either end
		l.rect(barClass, x-8, top-2, 16, 3, 1)
		l.rect(barClass, x-8, bottom-1, 16, 3, 1)
	}
	if e.Muted {
		l.palm(x, bottom+3)
	}
	between := l.y(e.Strings[len(e.Strings)/2]) + stringGap/2 // not on a string, where it would be crossed out
	l.text(strings.TrimSpace("way "+class), x-11, min(between, bottom-6), strings.ToUpper(e.Direction[:1]))
	if l.Frets && class != "ghost" && l.firstStrum(e) {
		for i, s := range e.Strings {
			l.text("fret", x+w/2+7, l.y(s), strconv.Itoa(int(e.Frets[i])))
		}
	}
}

// firstStrum reports the first strum of its bar across these strings: the frets
// that follow are the same until the chord changes.
func (l *stripLayout) firstStrum(e played.Event) bool {
	for _, o := range l.Events {
		if o.Bar == e.Bar && o.Slot < e.Slot && o.Kind != played.Pluck && slices.Equal(o.Strings, e.Strings) && slices.Equal(o.Frets, e.Frets) {
			return false
		}
	}
	return true
}

// touch adds the marks for soft and palm-muted plucks.
func (l *stripLayout) touch(x, y float64, e played.Event) {
	if e.Soft {
		l.line("touch", x-markRadius, y+markRadius+3, x+markRadius, y+markRadius+3)
	}
	if e.Muted {
		l.palm(x, y+markRadius+2)
	}
}

// palm is the sign of the palm on the strings: a small solid arch.
func (l *stripLayout) palm(x, y float64) {
	l.polygon("palm", x-6, y+5, x-4, y, x+4, y, x+6, y+5)
}

// knock is a solid bar under the strings, where the hand lands on the body.
func (l *stripLayout) knock(x float64, class string) {
	l.rect(strings.TrimSpace("knock "+class), x-9, l.bottom()+4, 18, 6, 2)
}

// stops draws two short bars across all strings.
func (l *stripLayout) stops() {
	for b, bar := range l.Pattern.Bars {
		for i, slot := range bar {
			if slot.Stop {
				class := "stop"
				if l.New[pattern.Place{Bar: b, Slot: i, Sign: pattern.StopSign}] {
					class = "stop new"
				}
				for _, dx := range []float64{-3, 3} {
					l.line(class, l.x(b, i)+dx, l.top, l.x(b, i)+dx, l.bottom())
				}
			}
		}
	}
}

// handPath is one line that falls on the beat and rises after it: a filled turn
// where strings are struck, a hollow one where the hand passes in the air.
func (l *stripLayout) handPath(top float64) {
	grid := l.Pattern.Grid()
	var points []float64
	type turn struct {
		x, y float64
		m    pattern.Motion
	}
	var turns []turn
	for i, m := range l.Pattern.Motions() {
		if m == pattern.MoveNone {
			continue
		}
		y := top + 18
		if m == pattern.MoveUp || m == pattern.MoveAirUp {
			y = top + 6
		}
		x := l.x(i/grid, i%grid)
		points = append(points, x, y)
		turns = append(turns, turn{x, y, m})
	}
	l.polyline("path", points...)
	for _, t := range turns {
		switch t.m {
		case pattern.MoveDown:
			l.circle("turn struck", t.x, t.y, 4)
			l.text("wayword", t.x, top+34, "D")
		case pattern.MoveUp:
			l.circle("turn struck", t.x, t.y, 4)
			l.text("wayword", t.x, top+34, "U")
		default:
			l.circle("turn", t.x, t.y, 4)
		}
	}
}
