package pattern

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// Read reads a figure as it comes: the notation, with or without its meter where that is known, or
// what is said of it.
func Read(text string, m Meter) (Pattern, error) {
	if strings.Contains(text, ":") {
		return Parse(text)
	}
	if p, err := Parse(m.String() + ": " + text); err == nil {
		return p, nil
	}
	grid := m.Grids()[0]
	if !m.Compound() {
		grid = m.Grids()[1]
	}
	return Spoken(text, m, grid)
}

// Spoken puts what is said on the grid. Strums, "down, down-up, up-down-up" or "D DU UDU": each takes
// the earliest slot after the one before whose direction is right; two equal words joined by a hyphen
// follow without a gap, the second against the hand. A bass among them goes with the hand down. What
// fingers do, "thumb, index, thumb, middle", "6 3 2 3", is spread evenly over the bar. A wait takes the
// place of a stroke.
func Spoken(words string, meter Meter, grid int) (Pattern, error) {
	if !meter.allows(grid) {
		return Pattern{}, fmt.Errorf("words: a bar of %s has %s slots, not %d", meter, orList(meter.Grids()), grid)
	}
	p := Pattern{Meter: meter, Bars: []Bar{make(Bar, grid)}}
	spoken, err := splitWords(words)
	if err != nil {
		return Pattern{}, err
	}
	every := 0 // slots from word to word, where they are spread
	if !slices.ContainsFunc(spoken, func(w spokenWord) bool { return w.sign().Strum() }) {
		every = 1
		if n := len(spoken); grid%n == 0 {
			every = grid / n
		}
	}
	at := -1
	for i, w := range spoken {
		slot := at + 1
		if every > 0 {
			slot = i * every
		} else if !(w.joined && w.sign() == spoken[i-1].sign()) {
			for slot < grid && (w.sign() == Up) != (p.direction(slot) == MoveUp) {
				slot++
			}
		}
		if slot >= grid {
			return Pattern{}, fmt.Errorf("words: word %d, %q, finds no place left in the bar", i+1, w.text)
		}
		if len(w.strokes) > 0 {
			p.Bars[0][slot] = Slot{Strokes: slices.Clone(w.strokes)}
		}
		at = slot
	}
	if p.Count() == 0 {
		return Pattern{}, fmt.Errorf("words: nothing but waits")
	}
	again, err := Parse(p.String()) // in order within a slot
	if err != nil {
		return Pattern{}, fmt.Errorf("words: %w", err)
	}
	return again, nil
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
	text    string
	strokes []Stroke // none for a wait
	joined  bool     // to the word before, by a hyphen
}

// sign is the word's first stroke; the zero value for a wait.
func (w spokenWord) sign() Sign {
	if len(w.strokes) == 0 {
		return 0
	}
	return w.strokes[0].Sign
}

// said are the words for strokes. Source: common practice: inside and outside are the strings of the
// index and of the middle finger, a pinch is the thumb with the middle finger.
var said = map[string][]Sign{
	"down": {Down}, "d": {Down}, "strum": {Down}, "up": {Up}, "u": {Up},
	"bass": {Thumb}, "thumb": {Thumb}, "root": {Thumb}, "p": {Thumb}, "index": {Index}, "i": {Index}, "inside": {Index}, "middle": {Middle}, "m": {Middle}, "outside": {Middle},
	"ring": {Ring}, "a": {Ring}, "pinch": {Thumb, Middle}, "wait": {}, "rest": {}, "miss": {}, "hold": {},
}

// stringFingers are the fingers of strings that are said by their numbers, from the thinnest.
var stringFingers = []Sign{Ring, Middle, Index, Thumb, Thumb, Thumb}

// arrows are strums as they are drawn.
var arrows = strings.NewReplacer("↓", "D", "↑", "U", "⬇", "D", "⬆", "U", "–", "-")

// dashed are letters that a dash only parts: "D-D-U-U-D-U".
var dashed = regexp.MustCompile(`^(?i:[du]-)+(?i:[du])$`)

func strokesOf(text string) (strokes []Stroke, ok bool) {
	signs, ok := said[text]
	if ok {
		for _, sign := range signs {
			strokes = append(strokes, Stroke{Sign: sign})
		}
		return strokes, true
	}
	if n, err := strconv.Atoi(text); err == nil && n >= 1 && n <= len(stringFingers) {
		return []Stroke{{Sign: stringFingers[n-1], Target: Target{Kind: Given, Strings: Strings(n)}}}, true
	}
	return nil, false
}

func splitWords(words string) ([]spokenWord, error) {
	var list []spokenWord
	words = arrows.Replace(words)
	for _, group := range strings.FieldsFunc(words, func(r rune) bool { return r == ',' || r == ' ' || r == '\t' || r == '\n' || r == '\r' }) {
		parts := strings.Split(group, "-")
		if len(group) > 1 && strings.Trim(strings.ToUpper(group), "DU") == "" { // DU is down-up
			parts = strings.Split(group, "")
		}
		for i, text := range parts {
			strokes, ok := strokesOf(strings.ToLower(strings.Trim(text, ".;")))
			if !ok {
				return nil, fmt.Errorf("words: word %d, %q, isn’t one I know; say down, up, bass, thumb, index, middle, ring, pinch, inside, outside, wait, or the number of a string", len(list)+1, text)
			}
			list = append(list, spokenWord{text, strokes, i > 0 && !dashed.MatchString(group)})
		}
	}
	if len(list) == 0 {
		return nil, fmt.Errorf("words: say at least one down or up, a finger or a string")
	}
	return list, nil
}

// aloud are the names of signs as they are read aloud.
var aloud = map[Sign]string{
	Thumb: "thumb", Index: "index", Middle: "middle finger", Ring: "ring finger", Little: "little finger", Down: "down strum", Up: "up strum",
	AirDown: "missed down", AirUp: "missed up", Nails: "brush", Sweep: "sweep", Knock: "palm hit", StopSign: "stop",
}

// Aloud reads a pattern as a sentence, for who hears a page: "4/4: thumb and middle finger on 1, other
// bass on 2, index on the “and” of 2".
func (p Pattern) Aloud() string {
	var parts []string
	for b, bar := range p.Bars {
		first := len(p.Bars) > 1
		for i, slot := range bar {
			var names []string
			if slot.Stop {
				names = append(names, aloud[StopSign])
			}
			for _, st := range slot.Strokes {
				name := aloud[st.Sign]
				if st.Sign == Thumb && (st.Target.Kind == Alternate || st.Target.Kind == LowFifth) {
					name = map[TargetKind]string{Alternate: "other bass", LowFifth: "low fifth"}[st.Target.Kind]
				}
				names = append(names, name)
			}
			if len(names) == 0 {
				continue
			}
			part := strings.Join(names, " and ") + " on " + p.Spot(i)
			if first {
				part, first = fmt.Sprintf("bar %d, %s", b+1, part), false
			}
			parts = append(parts, part)
		}
	}
	if len(parts) == 0 {
		return p.Meter.String() + ": nothing yet"
	}
	return p.Meter.String() + ": " + strings.Join(parts, ", ")
}
