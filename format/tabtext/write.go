package tabtext

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/song"
)

// width is how many letters a line has at most: what a mail shows without breaking it.
const width = 76

// slotWidth is how many letters a slot has: a fret of two digits and a dash.
const slotWidth = 3

// Write writes a piece, the thinnest string on top.
func Write(p played.Line) string {
	var out strings.Builder
	sg := p.Song
	fmt.Fprintf(&out, "%s\n%s, %s, %s, %d", sg.Title, p.Instrument.Name, tuningText(p.Instrument), sg.Meter, sg.Tempo)
	if p.Capo > 0 {
		fmt.Fprintf(&out, ", capo %d", p.Capo)
	}
	if sg.Swing {
		out.WriteString(", swung")
	}
	out.WriteString("\n")
	at := 0
	for i, sec := range sg.Sections {
		fmt.Fprintf(&out, "\n%s", sec.Name)
		if sec.Times > 1 {
			fmt.Fprintf(&out, ", %d times", sec.Times)
		}
		out.WriteString("\n\n")
		var blocks []block
		for b, bar := range sec.Bars {
			fingered := p.Fingered.Sections[i].Bars[b]
			blocks = append(blocks, writer{p}.block(bar, fingered, p.Bars[at]))
			at++
		}
		for len(blocks) > 0 {
			n, sum := 1, labelWidth+blocks[0].width()
			for n < len(blocks) && sum+blocks[n].width() <= width {
				sum += blocks[n].width()
				n++
			}
			system(&out, p.Instrument, blocks[:n])
			blocks = blocks[n:]
		}
	}
	return out.String()
}

// writer is a piece under the hand.
type writer struct{ played.Line }

func tuningText(ins fretboard.Instrument) string {
	var names []string
	for _, p := range ins.Tuning {
		names = append(names, p.Note.String())
	}
	return strings.Join(names, " ")
}

// block is a bar as it is written.
type block struct {
	slots                       int
	chords, count, hands, words []byte
	lines                       [][]byte // by string, the thinnest first
	line                        string   // of the words under all of it
	ending                      int
}

func (b block) width() int { return b.slots*slotWidth + 2 }

// put writes a text into a row at a column, as far as there is room.
func put(row []byte, at int, text string) {
	if at >= 0 && at < len(row) {
		copy(row[at:], text)
	}
}

func (p writer) block(bar, fingered song.Bar, on played.Bar) block {
	m := p.Song.MeterOf(bar)
	grid := on.Grid
	if grid == 0 {
		grid = m.Grids()[0]
	}
	slot := m.BarTicks() / grid
	b := block{slots: max(1, (bar.Ticks()+slot-1)/slot), ending: bar.Ending}
	blank := func() []byte { return []byte(strings.Repeat(" ", b.slots*slotWidth+1)) }
	b.chords, b.count, b.hands, b.words = blank(), blank(), blank(), blank()
	for range p.Instrument.Strings() {
		b.lines = append(b.lines, []byte(strings.Repeat("-", b.slots*slotWidth+1)))
	}
	column := func(tick int) int { return tick/slot*slotWidth + 1 }
	tick := 0
	for _, ch := range fingered.Changes {
		put(b.chords, column(tick), ascii(ch.Symbol))
		tick += ch.Ticks
	}
	counts := pattern.Pattern{Meter: m, Bars: []pattern.Bar{make(pattern.Bar, grid)}}.Counts()
	late := 0
	if bar.Role == song.Pickup {
		late = grid - b.slots
	}
	for i := range b.slots {
		word := counts[(late+i)%grid]
		if word == "" || len(word) >= slotWidth {
			word = "." // a place all the same
		}
		put(b.count, i*slotWidth+1, word)
	}
	for _, e := range on.Events {
		if e.Tick >= bar.Ticks() {
			continue
		}
		at := column(e.Tick)
		for k, s := range e.Strings {
			fret := strconv.Itoa(int(e.Frets[k]))
			if e.Kind == played.Chuck || e.Kind == played.Knock {
				fret = "x"
			}
			put(b.lines[s-1], at, fret)
		}
		free := at
		for free < at+slotWidth && free < len(b.hands) && b.hands[free] != ' ' {
			free++
		}
		if free < at+slotWidth {
			put(b.hands, free, handOf(e))
		}
	}
	b.line = bar.Words
	return b
}

func handOf(e played.Event) string {
	switch {
	case e.Kind == played.Knock:
		return "T"
	case e.Direction == "up":
		return "U"
	case e.Direction == "down":
		return "D"
	}
	return e.Finger
}

// ascii keeps a symbol to letters of one byte each, so that columns stay under one another.
func ascii(s string) string {
	s = strings.NewReplacer("♯", "#", "♭", "b", "°", "dim", "ø", "m7b5", "Δ", "maj7").Replace(s)
	return strings.Map(func(r rune) rune {
		if r >= utf8.RuneSelf {
			return '?'
		}
		return r
	}, s)
}

const labelWidth = 3

// system writes bars side by side.
func system(out *strings.Builder, ins fretboard.Instrument, blocks []block) {
	row := func(label string, of func(block) []byte, joint string) {
		text := label
		for _, b := range blocks {
			text += string(of(b)) + joint
		}
		if text = strings.TrimRight(text, " "); text != "" {
			out.WriteString(text + "\n")
		}
	}
	row("   ", func(b block) []byte { return b.chords }, " ")
	for s := range ins.Strings() {
		row(fmt.Sprintf("%-2s|", stringName(ins, s)), func(b block) []byte { return b.lines[s] }, "|")
	}
	row("   ", func(b block) []byte { return b.count }, " ")
	row("   ", func(b block) []byte { return b.hands }, " ")
	if slices.ContainsFunc(blocks, func(b block) bool { return b.line != "" }) {
		var words []string
		for _, b := range blocks {
			words = append(words, b.line)
		}
		fmt.Fprintf(out, "   %s\n", strings.TrimRight(strings.Join(words, " / "), " /"))
	}
	if slices.ContainsFunc(blocks, func(b block) bool { return b.ending > 0 }) {
		var endings []string
		for i, b := range blocks {
			if b.ending > 0 {
				endings = append(endings, fmt.Sprintf("bar %d of this line: ending %d", i+1, b.ending))
			}
		}
		fmt.Fprintf(out, "   %s\n", strings.Join(endings, ", "))
	}
	out.WriteString("\n")
}

// stringName is a string's name, the thinnest, 0, in a small letter where the thickest has the same.
func stringName(ins fretboard.Instrument, s int) string {
	n := ins.Tuning[len(ins.Tuning)-1-s].Note.String()
	if s == 0 && len(ins.Tuning) > 4 {
		return strings.ToLower(n[:1]) + n[1:]
	}
	return n
}
