package web

import (
	"cmp"
	"fmt"
	"html/template"
	"slices"
	"strings"

	"arplin/core/demand"
	"arplin/core/hand"
	"arplin/core/theory"
	"arplin/core/vary"
	"arplin/draw"
)

// levelView opens a level into its parts.
type levelView struct {
	Level   string
	On      string // what it was measured on
	Parts   []partView
	Hardest string
}

type partView struct {
	Name, Says string
	Share      string
	Width      int // of a hundred
}

// viewOf shows the parts that count for something, the weightiest first.
func viewOf(d demand.Demand, p hand.Pattern, on string) levelView {
	v := levelView{Level: fmt.Sprintf("%.1f", d.Level), On: on, Hardest: fmt.Sprintf("bar %d, %s: %s", d.Hardest.Bar+1, p.Spot(d.Hardest.Slot), d.Hardest.Why)}
	parts := slices.Clone(d.Parts)
	slices.SortStableFunc(parts, func(a, b demand.Part) int { return cmp.Compare(b.Share, a.Share) })
	for _, p := range parts {
		if p.Share < 0.005 {
			continue
		}
		v.Parts = append(v.Parts, partView{
			Name: strings.ReplaceAll(p.Name, "_", " "), Says: p.Says, Share: fmt.Sprintf("+%.2f", p.Share), Width: int(100*p.Share/parts[0].Share + 0.5),
		})
	}
	return v
}

// neighbour is a simpler or harder pattern, one click away.
type neighbour struct {
	Change, Says, Level, Notation string
	More                          bool          // further off: shown on demand
	Strip                         template.HTML // of the nearest ones that are not too long
	Lane                          template.HTML // of the others
	Together                      bool
}

// neighbours are the two sides of a pattern, and what is as hard.
type neighbours struct {
	Simpler, Beside, Harder []neighbour
	Buttons                 bool // taken on the spot; else they lead to the bench
	Deep                    bool // two rules away
}

const (
	benchTempo   = 80 // at which the bench and the library measure
	benchChord   = "C"
	shownPlucked = 4 // on each side as strips; the rest on demand
	shownStrums  = 3 // their strips are taller by the hand's path
	shownSides   = 14
	longestStrip = 16 // slots; longer figures are shown as lanes
	smallSlot    = 26.0
)

// measured is the level of a pattern on C, and what lies about it.
func measured(d drawer, p hand.Pattern, w demand.Weights, deep bool) (levelView, neighbours) {
	t := demand.OneChord(p, theory.MustChord(benchChord), d.ins[0], d.school, benchTempo)
	return viewOf(demand.Of(t, w), p, fmt.Sprintf("on %s, %s, at %d", benchChord, d.ins[0].Name, benchTempo)), neighboursOf(d, t, w, benchChord, deep)
}

// neighboursOf draws what lies about a task on one chord of its instrument.
func neighboursOf(d drawer, t demand.Task, w demand.Weights, chord string, deep bool) neighbours {
	find := vary.Neighbours
	if deep {
		find = vary.Deeper
	}
	a := find(t, w).ByTenths()
	first := shownPlucked
	if t.Pattern.HasStrums() {
		first = shownStrums
	}
	list := func(found []vary.Variation, strips int) (out []neighbour) {
		found = vary.PerRule(found)
		for i, v := range found[:min(shownSides, len(found))] {
			n := neighbour{More: i >= first, Change: v.Change, Says: v.Says, Level: fmt.Sprintf("%.1f", v.Level), Notation: v.Pattern.String(), Together: v.Together}
			fresh := vary.New(v.Pattern, t.Pattern)
			if i < strips && v.Pattern.Grid()*len(v.Pattern.Bars) <= longestStrip {
				n.Strip = d.neighbourStrip(v.Pattern, t, chord, fresh)
			} else {
				n.Lane = template.HTML(draw.Lane(v.Pattern, fresh, n.Notation))
			}
			out = append(out, n)
		}
		return out
	}
	return neighbours{Simpler: list(a.Simpler, first), Beside: list(a.Beside, 0), Harder: list(a.Harder, first), Deep: deep}
}

// neighbourStrip draws a neighbour with what it adds in amber and what it leaves
// out as ghosts.
func (d drawer) neighbourStrip(p hand.Pattern, t demand.Task, chord string, fresh map[vary.Place]bool) template.HTML {
	st, _ := d.bound(p, t.Instrument, chord)
	st.New, st.SlotWidth = fresh, smallSlot
	now, _ := d.bound(t.Pattern, t.Instrument, chord)
	st.Ghosts = ghostsOf(now.Events, vary.Missing(p, t.Pattern))
	return template.HTML(st.SVG())
}
