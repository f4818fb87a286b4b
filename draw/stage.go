package draw

import (
	"strings"

	"arplin/core/pattern"
)

// Sizes of a bar on the stage, in SVG units. Strokes stand as far from the bar line as they
// are late in the bar, whatever the grid, so that lanes above one another line up.
const (
	stageWidth  = 640.0
	stagePad    = 30.0 // before the first slot
	stageRow    = 50.0
	stageRadius = 23.0
	stageCount  = 40.0
)

// StageBars draws each bar of a pattern by itself, large, to be read from the back of a
// room. All bars are equally wide.
func StageBars(p pattern.Pattern) []SVG {
	most := 1
	for _, bar := range p.Bars {
		for _, slot := range bar {
			most = max(most, len(slot.Strokes))
		}
	}
	height := stageRow*float64(most) + 12
	width := (stageWidth - stagePad) / float64(p.Grid())
	var list []SVG
	for b, bar := range p.Bars {
		c := stageCanvas{}
		c.grid(stagePad-width/2, width, p.Grid(), 0)
		for i, slot := range bar {
			x := stagePad + width*float64(i)
			if p.OnBeat(i) {
				c.rect("band", x-stagePad+2, 1, 2*stagePad-4, height-2, 6)
			}
			c.slot(x, height, slot)
		}
		list = append(list, c.svg("stage", pattern.Pattern{Meter: p.Meter, Swing: p.Swing, Bars: p.Bars[b : b+1]}.String(), stageWidth, height))
	}
	return list
}

// StageCount is the count under the lanes.
func StageCount(p pattern.Pattern) SVG {
	c := canvas{}
	width := (stageWidth - stagePad) / float64(p.Grid())
	c.grid(stagePad-width/2, width, p.Grid(), 0)
	for i, word := range p.Counts() {
		class := "count"
		if p.OnBeat(i) {
			class = "count beat"
		}
		c.text(class, stagePad+width*float64(i), stageCount/2, word)
	}
	return c.svg("stage counts", strings.Join(p.Counts(), " "), stageWidth, stageCount)
}

type stageCanvas struct{ canvas }

// slot draws the strokes of a slot above one another, the thumb lowest.
func (c *stageCanvas) slot(x, height float64, slot pattern.Slot) {
	if slot.Stop {
		c.line("stop", x-6, 10, x-6, height-10)
		c.line("stop", x+6, 10, x+6, height-10)
		return
	}
	if slot.Empty() {
		c.circle("rest", x, height/2, 3)
		return
	}
	bottom := height/2 + stageRow*float64(len(slot.Strokes)-1)/2
	if n := len(slot.Strokes); n > 1 {
		c.line("join", x, bottom, x, bottom-stageRow*float64(n-1))
	}
	for i, st := range slot.Strokes {
		c.stroke(x, bottom-stageRow*float64(i), height, st)
	}
}

func (c *stageCanvas) stroke(x, y, height float64, st pattern.Stroke) {
	letter := st.Sign.String()
	class := "mark"
	if st.Marks.Has(pattern.Accent) {
		class += " accent"
	}
	switch {
	case st.Sign.Air():
		c.circle("rest", x, y, 7)
		return
	case st.Sign == pattern.Knock:
		c.rect("knock", x-stageRadius, y-9, 2*stageRadius, 18, 5)
		return
	case st.Sign.Strum() || st.Sign == pattern.Sweep:
		w := 14.0
		if st.Marks.Has(pattern.Accent) {
			w = 24
		}
		strum := "strum"
		if st.Marks.Has(pattern.Soft) {
			strum += " soft"
		}
		c.rect(strum, x-w/2, 6, w, height-12, 4)
		if st.Marks.Has(pattern.Chuck) {
			c.rect(strum, x-20, 4, 40, 7, 2)
			c.rect(strum, x-20, height-11, 40, 7, 2)
		}
		c.text("way", x+w/2+15, y, letter)
		return
	}
	c.finger(class, letter, x, y, stageRadius)
	if st.Target.Kind == pattern.Alternate || st.Target.Kind == pattern.LowFifth {
		letter += strings.TrimPrefix(pattern.Stroke{Sign: st.Sign, Target: st.Target}.String(), letter)
	}
	c.text("letter", x, y, letter)
}
