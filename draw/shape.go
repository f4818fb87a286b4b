package draw

import (
	"fmt"
	"strconv"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

// Shape is a picture of the left hand. It lies like the strip: strings run from
// left to right with the thinnest on top, the nut stands at the left, so that a
// reader of strips finds every string at the same height.
type Shape struct {
	Instrument fretboard.Instrument
	Chord      theory.Chord
	Voicing    fretboard.Voicing
	LeftHanded bool // the nut at the right
	ThickOnTop bool
}

const (
	shapeGap  = 20.0
	fretWidth = 36.0
	dotRadius = 9.0
)

// SVG draws the shape: fingers as numbered dots, a barre as one long dot, open
// and muted strings at the nut, the root string's dot with a second ring.
func (s Shape) SVG() SVG {
	l := &shapeLayout{Shape: s, n: s.Instrument.Strings(), frets: 4}
	low, high := s.Voicing.Span()
	if int(high) > l.frets {
		l.first = int(low) - 1
		l.frets = max(4, int(high)-l.first)
	}
	l.width = 52 + float64(l.frets)*fretWidth + 10
	l.height = 2*14 + float64(l.n-1)*shapeGap
	if l.first > 0 {
		l.height += 18
	}
	l.ground()
	l.fingers()
	return l.svg("shape", s.label(), l.width, l.height)
}

type shapeLayout struct {
	Shape
	canvas
	n, frets, first int // first: frets passed over before the picture begins
	width, height   float64
}

// x mirrors the neck for left-handers.
func (l *shapeLayout) x(x float64) float64 {
	if l.LeftHanded {
		return l.width - x
	}
	return x
}

func (l *shapeLayout) y(s fretboard.String) float64 {
	if l.ThickOnTop {
		return 14 + float64(l.n-int(s))*shapeGap
	}
	return 14 + float64(s-1)*shapeGap
}

func (l *shapeLayout) fretX(f int) float64 { return 52 + float64(f)*fretWidth }

func (l *shapeLayout) ground() {
	top, bottom := min(l.y(1), l.y(fretboard.String(l.n))), max(l.y(1), l.y(fretboard.String(l.n)))
	for s := fretboard.String(1); int(s) <= l.n; s++ {
		l.line("string", l.x(52), l.y(s), l.x(l.fretX(l.frets)), l.y(s))
		l.text("name", l.x(10), l.y(s), StringName(l.Instrument, s))
	}
	for f := 1; f <= l.frets; f++ {
		l.line("fretline", l.x(l.fretX(f)), top, l.x(l.fretX(f)), bottom)
	}
	if l.first == 0 {
		l.line("nut", l.x(52), top, l.x(52), bottom)
		return
	}
	l.line("fretline", l.x(52), top, l.x(52), bottom)
	l.text("fretno", l.x(l.fretX(0)+fretWidth/2), bottom+22, fmt.Sprintf("fret %d", l.first+1))
}

func (l *shapeLayout) fingers() {
	v := l.Voicing
	if b := v.Fingering.Barre; b.From != 0 {
		x := l.x(l.fretX(int(b.Fret)-l.first) - fretWidth/2)
		y1, y2 := l.y(b.From), l.y(b.To)
		l.rect("barre", x-dotRadius, min(y1, y2)-dotRadius, 2*dotRadius, max(y1, y2)-min(y1, y2)+2*dotRadius, dotRadius)
	}
	for s := fretboard.String(1); int(s) <= l.n; s++ {
		y := l.y(s)
		switch f := v.At(s); {
		case f == fretboard.Muted:
			x := l.x(34)
			l.line("mute", x-5, y-5, x+5, y+5)
			l.line("mute", x-5, y+5, x+5, y-5)
		case f == 0:
			l.circle("open", l.x(34), y, 6)
			l.rootRing(s, l.x(34), y, 9.5)
		default:
			x := l.x(l.fretX(int(f)-l.first) - fretWidth/2)
			l.circle("dot", x, y, dotRadius)
			l.rootRing(s, x, y, dotRadius+2.5)
			if finger := v.Fingering.At(s); finger > 0 {
				l.text("finger", x, y, strconv.Itoa(int(finger)))
			}
		}
	}
}

func (l *shapeLayout) rootRing(s fretboard.String, x, y, r float64) {
	if s == l.Voicing.Root {
		l.circle("rootring", x, y, r)
	}
}

func (s Shape) label() string {
	return fmt.Sprintf("%s as %s on %s, %s", s.Chord, s.Voicing.Shape, s.Instrument.Name, s.Instrument.Bass(s.Voicing.Root))
}
