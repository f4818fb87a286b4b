package patterns

import (
	"context"
	"errors"
	"fmt"
	"strconv"
	"strings"

	"arplin/core/pattern"
	"arplin/core/say"
	"arplin/draw"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

// Bench is a pattern under the hand. Nothing of it is kept between keys: the
// notation line is the whole state.
type Bench struct {
	Pattern pattern.Pattern
	Cursor  pattern.Cursor
	Said    string // what the last key did, or could not do
}

// BenchPage is the bench as it is shown.
type BenchPage struct {
	Notation string
	Grid     int
	Counts   string
	Words    string
	Strip    draw.SVG
	Level    Level // empty for a pattern without strokes
}

// benchWidth is the room for the strip on a laptop, in pixels.
const benchWidth = 1060.0

// Show draws the bench.
func (b Bench) Show(c people.Class) BenchPage {
	p := b.Pattern
	page := BenchPage{Notation: p.String(), Grid: p.Grid(), Counts: counted(p)}
	page.Words, _ = p.Words()
	d := NewDrawer(c)
	strip, _ := d.bound(p, d.ins[0], BenchChord)
	strip.Cursor = &b.Cursor
	strip.SlotWidth = min(70, max(32, benchWidth/float64(p.Grid()*len(p.Bars))))
	page.Strip = strip.SVG()
	if p.Count() > 0 {
		task, on := OnOneChord(p, d.ins[0], c)
		page.Level = LevelIn(c, task, p, on)
	}
	return page
}

// OnChords draws a pattern on the chords of the bench, for every instrument.
func (t *Room) OnChords(c people.Class, p pattern.Pattern, choice string) []OnChord {
	return answer.Keep(t.From, "on chords", answer.RowsOf(p, choice, c.Class, c.Instruments()), func() []OnChord { return NewDrawer(c).onAll(p, choice) })
}

// BenchDo is one thing that is done on the bench.
type BenchDo string

// What can be done.
const (
	BenchKey   BenchDo = "key"   // a key of the strip
	BenchAt    BenchDo = "at"    // the cursor to "bar slot"
	BenchGrid  BenchDo = "grid"  // so many slots a bar
	BenchMeter BenchDo = "meter" // another meter
	BenchSwing BenchDo = "swing" // straight or swung
	BenchWords BenchDo = "words" // spoken strums
	BenchBar   BenchDo = "bar"   // a copied bar over this one
)

// Press does one thing and returns the bench after it.
func (b Bench) Press(do BenchDo, with string) (Bench, error) {
	var err error
	switch do {
	case BenchKey:
		b.Pattern, b.Cursor, err = b.Pattern.Press(b.Cursor, with)
	case BenchAt:
		bar, slot, _ := strings.Cut(with, " ")
		b.Cursor = pattern.Cursor{}
		b.Cursor.Bar, _ = strconv.Atoi(bar)
		b.Cursor.Slot, _ = strconv.Atoi(slot)
		b.Pattern, b.Cursor, err = b.Pattern.Press(b.Cursor, "")
	case BenchGrid:
		grid, _ := strconv.Atoi(with)
		was, lost := b.Pattern, 0
		if b.Pattern, lost, err = b.Pattern.Regrid(grid); lost > 0 {
			b.Said = went(was, lost, "between the new slots", func(slot int) bool { return slot*grid%was.Grid() != 0 })
		}
		b.Cursor = pattern.Cursor{}
	case BenchMeter:
		was := b.Pattern
		b.Pattern, err = inNewMeter(b.Pattern, with)
		if lost := was.Count() - b.Pattern.Count(); err == nil && lost > 0 {
			b.Said = went(was, lost, "at the end of the bar", func(slot int) bool { return slot >= b.Pattern.Grid() })
		}
		b.Cursor = pattern.Cursor{}
	case BenchSwing:
		b.Pattern.Swing = !b.Pattern.Swing
		b.Pattern, err = pattern.Parse(b.Pattern.String())
	case BenchWords:
		spoken, wordsErr := pattern.Spoken(with, b.Pattern.Meter, b.Pattern.Grid())
		if err = wordsErr; err == nil {
			spoken.Swing = b.Pattern.Swing
			b.Pattern, b.Cursor = spoken, pattern.Cursor{}
		}
	case BenchBar:
		pasted, parseErr := pattern.Parse(with)
		if err = parseErr; err == nil && (pasted.Meter != b.Pattern.Meter || pasted.Grid() != b.Pattern.Grid()) {
			err = errors.New("the copied bar has another time signature or grid")
		}
		if err == nil {
			b.Pattern = b.Pattern.Clone()
			b.Pattern.Bars[min(max(b.Cursor.Bar, 0), len(b.Pattern.Bars)-1)] = pasted.Bars[0]
		}
	}
	return b, answer.Refused(err)
}

// counted is how a figure is counted: by the beat and, where it has them, in its groups.
func counted(p pattern.Pattern) string {
	counts := strings.Join(p.Counts(), " ")
	if groups, ok := p.GroupCounts(); ok {
		counts += ", or in groups " + strings.Join(groups, " ")
	}
	return counts
}

// maxWent is how many lost strokes are named.
const maxWent = 6

// went says which strokes a change has taken away.
func went(p pattern.Pattern, lost int, where string, gone func(slot int) bool) string {
	var names []string
	for i, bar := range p.Bars {
		for j, slot := range bar {
			if slot.Empty() || !gone(j) {
				continue
			}
			name := fmt.Sprintf("%s on %s", slot, p.Spot(j))
			if len(p.Bars) > 1 {
				name += fmt.Sprintf(" of bar %d", i+1)
			}
			names = append(names, name)
		}
	}
	more := ""
	if len(names) > maxWent {
		names, more = names[:maxWent], ", …"
	}
	return fmt.Sprintf("%s %s went (%s%s); undo brings them back.", say.Count(lost, "stroke", "strokes"), where, strings.Join(names, ", "), more)
}

// inNewMeter begins anew in another meter, with what fits of each bar from its start.
func inNewMeter(p pattern.Pattern, text string) (pattern.Pattern, error) {
	m, err := pattern.ParseMeter(text)
	if err != nil {
		return p, err
	}
	grid := m.Grids()[0]
	if !m.Compound() {
		grid = m.Grids()[1]
	}
	q := pattern.Pattern{Meter: m, Swing: p.Swing && !m.Compound()}
	for _, bar := range p.Clone().Bars {
		fresh := make(pattern.Bar, grid)
		copy(fresh, bar)
		q.Bars = append(q.Bars, fresh)
	}
	return q, nil
}

// Keep stores a figure of the bench: a new pattern, or the next version of one. What another
// window has stored comes as an answer.Stale.
func (t *Room) Keep(ctx context.Context, teacher ref.Teacher, own store.Pattern) (ref.Pattern, error) {
	var err error
	if own.Name, err = people.ShortName(own.Name, "the pattern", mostName); err != nil {
		return own.ID, err
	}
	if own.Pattern.Count() == 0 {
		return own.ID, answer.Refuse("the pattern has no stroke yet")
	}
	if own.ID == 0 {
		return t.Store.AddPattern(ctx, teacher, own.Name, own.Pattern)
	}
	err = t.Store.ChangePattern(ctx, teacher, own)
	return own.ID, answer.IfStale(err, func() (store.Pattern, error) { return t.Store.Pattern(ctx, teacher, own.ID) })
}

// mostName is how many letters the name of a pattern has at most.
const mostName = 80
