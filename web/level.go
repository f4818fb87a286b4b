package web

import (
	"cmp"
	"fmt"
	"html/template"
	"slices"
	"strings"

	"arplin/core/bind"
	"arplin/core/demand"
	"arplin/core/fretboard"
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
func viewOf(d demand.Demand, on string) levelView {
	v := levelView{Level: fmt.Sprintf("%.1f", d.Level), On: on, Hardest: fmt.Sprintf("bar %d, slot %d: %s", d.Hardest.Bar+1, d.Hardest.Slot+1, d.Hardest.Why)}
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
	More                          bool // further off: shown on demand
	Lane                          template.HTML
	Together                      bool
}

// neighbours are the two sides of a pattern, and what is as hard.
type neighbours struct {
	Simpler, Beside, Harder []neighbour
	Buttons                 bool // taken on the spot; else they lead to the bench
	Deep                    bool // two rules away
}

const (
	benchTempo = 80 // at which the bench and the library measure
	benchChord = "C"
	shownFirst = 5 // on each side; the rest on demand
	shownSides = 14
)

// measured is the level of a pattern on C, and what lies about it.
func measured(p hand.Pattern, ins fretboard.Instrument, school bind.School, w demand.Weights, deep bool) (levelView, neighbours) {
	t := demand.OneChord(p, theory.MustChord(benchChord), ins, school, benchTempo)
	return viewOf(demand.Of(t, w), fmt.Sprintf("on %s, %s, at %d", benchChord, ins.Name, benchTempo)), neighboursOf(t, w, deep)
}

func neighboursOf(t demand.Task, w demand.Weights, deep bool) neighbours {
	find := vary.Neighbours
	if deep {
		find = vary.Deeper
	}
	a := find(t, w)
	return neighbours{Simpler: shown(t.Pattern, a.Simpler), Beside: shown(t.Pattern, a.Beside), Harder: shown(t.Pattern, a.Harder), Deep: deep}
}

// shown draws the nearest of a side, one for each rule.
func shown(p hand.Pattern, list []vary.Variation) []neighbour {
	var out []neighbour
	list = vary.PerRule(list)
	for i, v := range list[:min(shownSides, len(list))] {
		n := neighbour{More: i >= shownFirst, Change: v.Change, Says: v.Says, Level: fmt.Sprintf("%.1f", v.Level), Notation: v.Pattern.String(), Together: v.Together}
		n.Lane = template.HTML(draw.Lane(v.Pattern, vary.New(v.Pattern, p), n.Notation))
		out = append(out, n)
	}
	return out
}
