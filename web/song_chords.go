package web

import (
	"fmt"
	"html/template"
	"strings"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/song"
	"arplin/core/theory"
)

// chordCard is a chord of the song with the shape in use.
type chordCard struct {
	Symbol, Degree string
	Sounds         string // what is heard when a capo is on
	Frets          string
	Root           fretboard.String
	Shape          template.HTML
	Lean           bool   // drawn without what the pattern does not strike
	Late           string // the finger that may come late, in words
	Chosen         bool   // by the teacher, not by the search
}

func (v songView) cards(e hand.Entry) []chordCard {
	var cards []chordCard
	for _, ch := range v.song.Chords() {
		cards = append(cards, v.card(e, ch))
	}
	return cards
}

func (v songView) card(e hand.Entry, ch theory.Chord) chordCard {
	card := chordCard{Symbol: ch.String(), Degree: v.key.Degree(ch)}
	if v.key != v.sounding {
		card.Sounds = ch.Transpose(v.key, v.sounding).String()
	}
	voicing, ok := v.shapes[ch]
	if !ok {
		return card
	}
	_, card.Chosen = v.song.Shapes[v.ins.ID][ch.String()]
	if e.Name != "" {
		events := bind.Pattern(v.ins, v.school, e.Pattern, ch, voicing.Shape).Events
		if lean := bind.Lean(events, voicing.Shape); v.lean && lean != voicing.Shape {
			voicing, card.Lean = fretboard.Read(v.ins, ch, lean), true
		}
		card.Late = lateWords(e.Pattern, events, voicing)
	}
	card.Frets, card.Root = voicing.String(), voicing.Root
	card.Shape = v.shape(ch, voicing, false)
	return card
}

var fingerWords = [5]string{"", "index", "middle", "ring", "little"}

// lateWords says which finger may come late. A strum needs all at once.
func lateWords(p hand.Pattern, events []bind.Event, v fretboard.Voicing) string {
	late, ok := bind.LateFinger(p, events, v)
	if !ok {
		return ""
	}
	return fmt.Sprintf("%s finger may come late, by %s", fingerWords[late.Finger], countWord(p, late.Slot))
}

// countWord names a slot as it is counted: "3" or "the & of 2".
func countWord(p hand.Pattern, slot int) string {
	counts := p.Counts()
	word, beat := counts[slot], slot
	for beat > 0 && !strings.ContainsAny(counts[beat][:1], "0123456789") {
		beat--
	}
	if beat == slot {
		return word
	}
	return fmt.Sprintf("the %s of %s", word, counts[beat])
}

// chordPanel is one chord opened: the other shapes, easier stand-ins.
type chordPanel struct {
	chordCard
	Instrument fretboard.Instrument
	Others     []shapeOffer
	StandIns   []shapeOffer
}

// shapeOffer is a shape that one click puts on.
type shapeOffer struct {
	Symbol  string
	Frets   string
	Shape   template.HTML
	Fingers int
	Notes   string // what it gives up, or what is special
	InUse   bool
}

const offeredShapes = 6

func (v songView) panel(e hand.Entry, symbol string) *chordPanel {
	ch, err := theory.ParseChord(symbol)
	if err != nil {
		return nil
	}
	used, ok := v.shapes[ch]
	if !ok {
		return nil
	}
	p := &chordPanel{chordCard: v.card(e, ch), Instrument: v.ins}
	for _, voicing := range fretboard.Find(v.ins, ch, offeredShapes) {
		p.Others = append(p.Others, v.offer(ch, voicing, used, shapeWords(voicing)))
	}
	for _, s := range fretboard.StandIns(v.ins, ch, used) {
		p.StandIns = append(p.StandIns, v.offer(s.Chord, s.Voicing, used, "gives up "+s.GivesUp))
	}
	return p
}

func (v songView) offer(ch theory.Chord, voicing, used fretboard.Voicing, notes string) shapeOffer {
	return shapeOffer{
		Symbol: ch.String(), Frets: voicing.String(), Shape: v.shape(ch, voicing, false), Fingers: voicing.Fingering.Count(),
		Notes: notes, InUse: voicing.Shape == used.Shape,
	}
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

// leftHandLine is what a song asks of one instrument, in words.
type leftHandLine struct {
	Instrument string
	Shape      string
	ShapeWhy   string
	Change     string
	ChangeWhy  string
	PerMinute  float64
	Pair       string
}

func leftHandOf(sg song.Song, ins fretboard.Instrument) leftHandLine {
	lh := sg.LeftHandOn(ins)
	line := leftHandLine{Instrument: ins.Name, PerMinute: lh.ChangesPerMinute}
	if lh.Hold > 0 {
		v := sg.ShapesOn(ins)[lh.HardestShape]
		line.Shape = lh.HardestShape.String()
		line.ShapeWhy = fmt.Sprintf("%s, %d fingers", v, v.Fingering.Count())
		if v.Fingering.Barre.From != 0 {
			line.ShapeWhy += ", barre"
		}
	}
	if lh.Change.Effort > 0 {
		line.Change = fmt.Sprintf("%s to %s", lh.HardestChange[0], lh.HardestChange[1])
		line.ChangeWhy = fmt.Sprintf("%d of %d fingers travel, about %.1f s", len(lh.Change.Moved), len(lh.Change.Moved)+len(lh.Change.Kept), lh.Change.Seconds)
	}
	if lh.HasPair {
		line.Pair = fmt.Sprintf("%s and %s", lh.EasyPair[0], lh.EasyPair[1])
	}
	return line
}
