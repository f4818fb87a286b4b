package hand

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"arplin/core/fretboard"
	"arplin/core/theory"
)

// MaxOwn is how many chords somebody can hold in a way of their own.
const MaxOwn = 24

// ParseOwn reads how somebody holds chords on an instrument: "F xx3211, Bm x24432/013421".
func ParseOwn(text string, ins fretboard.Instrument) (own map[string]string, err error) {
	for _, part := range strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ';' || r == '\n' }) {
		words := strings.Fields(strings.NewReplacer(":", " ", "=", " ").Replace(part)) // "F: xx3211"
		if len(words) == 0 {
			continue
		}
		if len(words) != 2 {
			return nil, fmt.Errorf("a shape is a chord and its frets, as in F xx3211, not %q", strings.Join(words, " "))
		}
		c, err := theory.ParseChord(words[0])
		if err != nil {
			return nil, err
		}
		g, err := fretboard.ParseGrip(words[1])
		if err != nil {
			return nil, err
		}
		if g.Strings() != ins.Strings() {
			return nil, fmt.Errorf("%s has %d strings, and %s has %d", g.Shape, g.Strings(), ins.Name, ins.Strings())
		}
		if own == nil {
			own = map[string]string{}
		}
		if own[c.String()] = g.String(); len(own) > MaxOwn {
			return nil, fmt.Errorf("more than %d shapes", MaxOwn)
		}
	}
	return own, nil
}

// OwnText is how ParseOwn reads it, by chord.
func OwnText(own map[string]string) string {
	var parts []string
	for _, chord := range slices.Sorted(maps.Keys(own)) {
		parts = append(parts, chord+" "+own[chord])
	}
	return strings.Join(parts, ", ")
}
