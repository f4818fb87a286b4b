package pattern

import (
	"fmt"
	"strings"
)

// Spoken puts words such as "down, down-up, up-down-up" on the grid: each word
// takes the earliest slot after the one before whose direction is right. Two
// equal words joined by a hyphen follow without a gap, the second against the
// hand.
func Spoken(words string, meter Meter, grid int) (Pattern, error) {
	if !meter.allows(grid) {
		return Pattern{}, fmt.Errorf("words: a bar of %s has %s slots, not %d", meter, orList(meter.Grids()), grid)
	}
	p := Pattern{Meter: meter, Bars: []Bar{make(Bar, grid)}}
	spoken, err := splitWords(words)
	if err != nil {
		return Pattern{}, err
	}
	at := -1
	for i, w := range spoken {
		slot := at + 1
		if !(w.joined && w.sign == spoken[i-1].sign) {
			for slot < grid && (w.sign == Up) != (p.direction(slot) == MoveUp) {
				slot++
			}
		}
		if slot >= grid {
			return Pattern{}, fmt.Errorf("words: word %d, %q, finds no place left in the bar", i+1, w.text)
		}
		p.Bars[0][slot] = Slot{Strokes: []Stroke{{Sign: w.sign}}}
		at = slot
	}
	return p, nil
}

// Words is the inverse of Spoken for one bar of plain strums: strokes on
// neighbouring slots are joined by hyphens, others parted by commas. ok is false
// for a pattern that down and up cannot say.
func (p Pattern) Words() (words string, ok bool) {
	if len(p.Bars) != 1 {
		return "", false
	}
	last := -2
	for i, slot := range p.Bars[0] {
		if slot.Empty() {
			continue
		}
		if slot.Stop || len(slot.Strokes) != 1 {
			return "", false
		}
		st := slot.Strokes[0]
		if st != (Stroke{Sign: Down}) && st != (Stroke{Sign: Up}) {
			return "", false
		}
		switch {
		case words == "":
		case i == last+1 && !p.OnBeat(i) || i == last+1 && words[len(words)-1] == 'p':
			words += "-"
		default:
			words += ", "
		}
		words += map[Sign]string{Down: "down", Up: "up"}[st.Sign]
		last = i
	}
	again, err := Spoken(words, p.Meter, p.Grid())
	return words, err == nil && again.Equal(Pattern{Meter: p.Meter, Bars: p.Bars})
}

type spokenWord struct {
	text   string
	sign   Sign
	joined bool // to the word before, by a hyphen
}

func splitWords(words string) ([]spokenWord, error) {
	var list []spokenWord
	for _, group := range strings.FieldsFunc(words, func(r rune) bool { return r == ',' || r == ' ' || r == '\t' || r == '\n' || r == '\r' }) {
		for i, text := range strings.Split(group, "-") {
			w := spokenWord{text: text, joined: i > 0}
			switch strings.ToLower(text) {
			case "down":
				w.sign = Down
			case "up":
				w.sign = Up
			default:
				return nil, fmt.Errorf("words: word %d, %q, is neither down nor up", len(list)+1, text)
			}
			list = append(list, w)
		}
	}
	if len(list) == 0 {
		return nil, fmt.Errorf("words: say at least one down or up")
	}
	return list, nil
}
