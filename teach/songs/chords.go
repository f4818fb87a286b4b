package songs

import (
	"fmt"
	"slices"
	"strings"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/played"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/draw"
)

// ChordCard is a chord of the song with the shape in use.
type ChordCard struct {
	Symbol, Degree string
	Sounds         string // what is heard when a capo is on
	Frets          string
	Fingers        string // from the thickest string
	Root           fretboard.String
	Bass           string // where the thumb strikes it
	Shape          draw.SVG
	Lean           bool   // drawn without what the pattern does not strike
	Late           string // the finger that may come late, in words
	Chosen         bool   // by the teacher, not by the search
	Says           string // what a shape of the teacher's is, where it is not the chord
}

func (v View) cards(e catalogue.Entry) []ChordCard {
	var cards []ChordCard
	for _, ch := range v.Song.Chords() {
		cards = append(cards, v.card(e, ch))
	}
	return cards
}

func (v View) card(e catalogue.Entry, ch theory.Chord) ChordCard {
	card := ChordCard{Symbol: ch.String(), Degree: v.Key.Degree(ch)}
	if v.Key != v.sounding {
		card.Sounds = ch.Transpose(v.Key, v.sounding).String()
	}
	voicing, ok := v.Shapes[ch]
	if !ok {
		return card
	}
	if _, card.Chosen = v.Song.Shapes[v.Ins.ID][ch.String()]; card.Chosen {
		card.Says = saysOf(v.Ins, ch, voicing)
	}
	if e.Name != "" {
		events := bind.Pattern(v.Ins, v.School, e.Pattern, ch, voicing.Shape).Events
		voicing, card.Lean = v.Needed(ch, voicing, e.Pattern)
		card.Late = v.late(e.Pattern, events, ch, voicing)
	}
	card.Frets, card.Fingers, card.Root, card.Bass = voicing.String(), voicing.Fingering.String(), voicing.Root, v.Ins.Bass(voicing.Root)
	card.Shape = v.Shape(ch, voicing, false)
	return card
}

// late says which finger may come late wherever the song comes to a chord, and by when; a strum needs
// all at once.
func (v View) late(p pattern.Pattern, events []played.Event, ch theory.Chord, voicing fretboard.Voicing) string {
	var finger int8
	var by []string
	for _, stay := range v.stays(ch) {
		late, ok := bind.LateFinger(p, events, voicing, stay)
		if !ok || finger != 0 && late.Finger != finger {
			return ""
		}
		finger = late.Finger
		if spot := p.Spot(late.Slot); !slices.Contains(by, spot) {
			by = append(by, spot)
		}
	}
	if finger == 0 {
		return ""
	}
	return fmt.Sprintf("left-hand %s finger may come late, by %s", fretboard.FingerName(finger), strings.Join(by, " or "))
}

// stays are the parts of bars in which the song comes to a chord, each once.
func (v View) stays(ch theory.Chord) (list []bind.Stay) {
	var before theory.Chord
	for _, bar := range v.Song.Bars() {
		tick := 0
		for _, change := range bar.Changes {
			c, err := change.Chord()
			stay := bind.Stay{From: tick, To: tick + change.Ticks}
			if tick = stay.To; err == nil && c == ch && before != ch && !slices.Contains(list, stay) {
				list = append(list, stay)
			}
			before = c
		}
	}
	return list
}

// Needed is a chord's shape with only the fingers that figures need on it, where the class wants it
// so; lean is false where that is all of them.
func (v View) Needed(ch theory.Chord, whole fretboard.Voicing, figures ...pattern.Pattern) (needed fretboard.Voicing, lean bool) {
	if !v.lean {
		return whole, false
	}
	needed = bind.Needed(v.Ins, v.School, ch, whole, figures...)
	return needed, needed.Shape != whole.Shape
}

// FiguresOn are the figures that are played in the parts that have a chord.
func (v View) FiguresOn(ch theory.Chord, figure bind.Figure) (list []pattern.Pattern) {
	for _, sec := range v.Song.Sections {
		has := slices.ContainsFunc(sec.Bars, func(bar song.Bar) bool {
			return slices.ContainsFunc(bar.Changes, func(change song.Change) bool { c, err := change.Chord(); return err == nil && c == ch })
		})
		if p, plays := figure(sec); has && plays {
			list = append(list, p)
		}
	}
	return list
}

// ChordPanel is one chord opened: the other shapes, easier stand-ins.
type ChordPanel struct {
	ChordCard
	Instrument fretboard.Instrument
	Others     []ShapeOffer
	StandIns   []ShapeOffer
	Bars       []BarChoice // that have the chord
	LowFifth   bool        // the pattern wants one, or the thumb keeps to the root
	RootKept   bool
}

// BarChoice is a bar with the chord that is open.
type BarChoice struct {
	ID    song.BarID
	Name  string // "bar 3, Verse"
	Frets string // of a shape in this bar only
}

// ShapeOffer is a shape that one click puts on.
type ShapeOffer struct {
	Symbol  string
	Frets   string
	Shape   draw.SVG
	Fingers int
	Notes   string // what it gives up, or what is special
	InUse   bool
}

const offeredShapes = 6

func (v View) panel(e catalogue.Entry, symbol string) *ChordPanel {
	ch, err := theory.ParseChord(symbol)
	if err != nil {
		return nil
	}
	used, ok := v.Shapes[ch]
	if !ok {
		return nil
	}
	p := &ChordPanel{ChordCard: v.card(e, ch), Instrument: v.Ins}
	for _, voicing := range fretboard.Find(v.Ins, ch, offeredShapes) {
		p.Others = append(p.Others, v.offer(ch, voicing, used, shapeWords(voicing)))
	}
	var figures []pattern.Pattern
	if e.Name != "" {
		figures = append(figures, e.Pattern)
	}
	before := bind.Displaced(v.Ins, v.School, ch, used.Shape, figures...)
	var unfit []ShapeOffer // the figure would not keep its strings there
	for _, s := range fretboard.StandIns(v.Ins, ch, used) {
		offer := v.offer(s.Chord, s.Voicing, used, "gives up "+s.GivesUp)
		if n := bind.Displaced(v.Ins, v.School, s.Chord, s.Voicing.Shape, figures...) - before; n > 0 {
			offer.Notes += fmt.Sprintf("; doesn’t suit this pattern: %s would land on another string", say.Count(n, "stroke", "strokes"))
			unfit = append(unfit, offer)
			continue
		}
		p.StandIns = append(p.StandIns, offer)
	}
	p.StandIns = append(p.StandIns, unfit...)
	p.Bars = v.barsWith(ch)
	p.RootKept = slices.Contains(v.Song.Roots[v.Ins.ID], ch.String())
	p.LowFifth = p.RootKept || e.Name != "" && e.Pattern.UsesTarget(pattern.LowFifth, "p")
	return p
}

// barsWith lists the bars that a chord is in.
func (v View) barsWith(ch theory.Chord) (list []BarChoice) {
	number := 0
	for _, sec := range v.Song.Sections {
		for _, bar := range sec.Bars {
			number++
			for _, change := range bar.Changes {
				if c, err := change.Chord(); err == nil && c == ch {
					list = append(list, BarChoice{bar.ID, fmt.Sprintf("bar %d, %s", number, sec.Name), bar.Shapes[v.Ins.ID][ch.String()]})
					break
				}
			}
		}
	}
	return list
}

func (v View) offer(ch theory.Chord, voicing, used fretboard.Voicing, notes string) ShapeOffer {
	return ShapeOffer{
		Symbol: ch.String(), Frets: voicing.String(), Shape: v.Shape(ch, voicing, false), Fingers: voicing.Fingering.Count(),
		Notes: notes, InUse: voicing.Shape == used.Shape,
	}
}

// saysOf names the notes of a shape that is not the chord's: it has notes of its
// own, or is without the root or the third.
func saysOf(ins fretboard.Instrument, ch theory.Chord, voicing fretboard.Voicing) string {
	var without []string
	for _, d := range voicing.Missing {
		if name := map[int8]string{1: "its root", 3: "its third"}[d.Number]; name != "" {
			without = append(without, name)
		}
	}
	foreign := len(fretboard.Foreign(ins, ch, voicing.Shape)) > 0
	if !foreign && len(without) == 0 {
		return ""
	}
	var names []string
	for _, n := range fretboard.NotesOf(ins, ch, voicing.Shape) {
		names = append(names, n.String())
	}
	if !foreign {
		return fmt.Sprintf("These notes are %s: %s without %s.", strings.Join(names, " "), ch, say.And(without))
	}
	return fmt.Sprintf("These notes are %s, not %s.", strings.Join(names, " "), ch)
}

// shapeWords says what is special about a shape.
func shapeWords(voicing fretboard.Voicing) string {
	var words []string
	if voicing.Fingering.Barre.From != 0 {
		words = append(words, "barre")
	}
	if voicing.Inverted {
		words = append(words, fmt.Sprintf("%s in the bass", voicing.Bass.Note))
	}
	for _, d := range voicing.Missing {
		words = append(words, "without the "+d.String())
	}
	return strings.Join(words, ", ")
}
