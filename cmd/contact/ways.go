package main

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/theory"
	"arplin/draw"
)

// shownBy is the figure on which each way is seen best.
var shownBy = map[order.Order]string{
	order.ThumbFirst:      "4/4: p+m . p' i p m p' .",
	order.AlternationLast: "4/4: p i p' m p i p' m",
	order.RhythmFirst:     "4/4: D . D U . U D U",
	order.AccentsEarly:    "4/4: D! D D D! D D D! D",
	order.CellByCell:      "4/4: p+m! . N+X m . i p' i",
	order.FullFirst:       "4/4: p+m . p' i p m p' .",
}

// wayStyles are those of a lane, in the colours of the light theme.
const wayStyles = `text{font-family:sans-serif;fill:#22262e;font-size:14px}.lane text{text-anchor:middle;dominant-baseline:central;font-size:13px}` +
	`.band{fill:#f3ecdd}.laneletter{font-weight:600}.newbox{fill:#b45309}.laneletter.new{fill:#fff;font-weight:800}.rest{fill:#b9b2a4}.strum{fill:#22262e}.strum.new,.knock.new{fill:#b45309}.palm,.knock{fill:#22262e}.mark{fill:#fffdf8;stroke:#22262e;stroke-width:2}.stop{stroke:#22262e;stroke-width:2}.barline{stroke:#22262e}`

// Of the picture of a way, in pixels.
const (
	wayWidth = 620
	wayRow   = 44
	wayNames = 220 // where the names begin
)

// writeWays writes a picture of each way for docs/ladder.md: the steps on one chord, the first at the
// bottom, what is new in amber.
func writeWays(dir string) error {
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return err
	}
	for _, o := range order.All {
		svg, err := drawWay(o.Value)
		if err != nil {
			return fmt.Errorf("%s: %w", o.Name, err)
		}
		if err := os.WriteFile(filepath.Join(dir, strings.ReplaceAll(o.Name, " ", "-")+".svg"), []byte(svg), 0o644); err != nil {
			return err
		}
	}
	return nil
}

func drawWay(o order.Order) (string, error) {
	p, err := pattern.Parse(shownBy[o])
	if err != nil {
		return "", err
	}
	t := difficulty.OneChord(p, theory.MustChord("C"), fretboard.Instruments[0], bind.DefaultSchool, usualTempo)
	steps := grow.Build(order.Choice{Order: o}, t, difficulty.Fitted, 0)
	var out strings.Builder
	height := wayRow*len(steps) + 10
	fmt.Fprintf(&out, `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %d %d" width="%d" height="%d" role="img" aria-label="%s, step by step">`, wayWidth, height, wayWidth, height, o)
	fmt.Fprintf(&out, "<style>%s</style><rect width=\"%d\" height=\"%d\" fill=\"#fffdf8\"/>\n", wayStyles, wayWidth, height)
	for i, s := range steps {
		var fresh map[pattern.Place]bool
		if i > 0 && s.Play == steps[i-1].Play {
			fresh = pattern.New(s.Pattern, steps[i-1].Pattern)
		}
		y := wayRow*(len(steps)-1-i) + 5
		fmt.Fprintf(&out, `<text x="8" y="%d">%d</text><g transform="translate(36,%d)">%s</g><text x="%d" y="%d">%s</text>`+"\n",
			y+20, i+1, y, draw.Lane(s.Pattern, fresh, s.Pattern.String()), wayNames, y+20, ladder.Describe(steps, i, t).Name)
	}
	out.WriteString("</svg>\n")
	return out.String(), nil
}
