package web

import (
	"errors"
	"fmt"
	"html/template"

	"github.com/gofiber/fiber/v3"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/core/vary"
	"arplin/draw"
	"arplin/store"
)

type songData struct {
	Page
	Song        store.Song
	Key         theory.Key
	KeyFound    bool // found from the chords, not written
	Beat        string
	Instruments []fretboard.Instrument
	Instrument  fretboard.Instrument
	Patterns    []hand.Entry
	Pattern     hand.Entry // zero when none is chosen
	Chords      []chordCard
	Sections    []sectionView
	Wide        bool // bars too wide for four to a line
	HasClass    bool
	Tempos      vary.Tempos
}

// chordCard is a chord of the song with the shape in use.
type chordCard struct {
	Symbol, Degree string
	Frets          string
	Root           fretboard.String
	Shape          template.HTML
}

type sectionView struct {
	Name string
	Bars []barView
}

// barView is one bar on the page.
type barView struct {
	Number  int
	Chords  []chordInBar
	Words   string
	Strip   template.HTML
	Notices []string
}

type chordInBar struct {
	Symbol, Degree string
	Root           fretboard.String // 0 when there is no shape
	Problem        string           // a sentence for a chord that cannot be read
}

func (s *server) songPage(c fiber.Ctx) error {
	id, err := pathID(c)
	if err != nil {
		return err
	}
	sg, err := s.Store.Song(c.Context(), teacherID(c), id)
	if err != nil {
		return err
	}
	cur, err := s.currentClass(c)
	if err != nil && !errors.Is(err, errNoClass) {
		return err
	}
	guess := sg.KeyGuess()
	data := songData{
		Page: page(c, sg.Title, "songs"), Song: sg, Key: guess.Key, KeyFound: sg.Key == "", Beat: sg.Meter.BeatName(),
		Instruments: cur.instruments(), Patterns: hand.InMeter(sg.Meter), HasClass: err == nil, Tempos: vary.TemposFor(sg.Tempo),
	}
	data.Instrument = chosenInstrument(c, data.Instruments)
	for _, e := range data.Patterns {
		if e.ID == c.Query("pattern") {
			data.Pattern = e
		}
	}
	v := songView{sg.Song, guess.Key, data.Instrument, cur.school(), sg.ShapesOn(data.Instrument), cur.class.ThickOnTop}
	data.Chords = v.cards()
	data.Sections = v.sections(data.Pattern)
	data.Wide = data.Pattern.ID != "" && data.Pattern.Pattern.Grid() > 8
	return c.Render("song", data)
}

// chosenInstrument is the one asked for, or the first of the class.
func chosenInstrument(c fiber.Ctx, list []fretboard.Instrument) fretboard.Instrument {
	if ins, err := fretboard.ByID(c.Query("instrument")); err == nil {
		return ins
	}
	return list[0]
}

// songView draws a song for one instrument.
type songView struct {
	song       song.Song
	key        theory.Key
	ins        fretboard.Instrument
	school     bind.School
	shapes     bind.Shapes
	thickOnTop bool
}

func (v songView) cards() []chordCard {
	var cards []chordCard
	for _, ch := range v.song.Chords() {
		card := chordCard{Symbol: ch.String(), Degree: v.key.Degree(ch)}
		if voicing, ok := v.shapes[ch]; ok {
			card.Frets, card.Root = voicing.String(), voicing.Root
			card.Shape = v.shape(ch, voicing, false)
		}
		cards = append(cards, card)
	}
	return cards
}

func (v songView) shape(ch theory.Chord, voicing fretboard.Voicing, leftHanded bool) template.HTML {
	return template.HTML(draw.Shape{Instrument: v.ins, Chord: ch, Voicing: voicing, LeftHanded: leftHanded, ThickOnTop: v.thickOnTop}.SVG())
}

// sections lays out the bars, with a strip each when a pattern is chosen.
func (v songView) sections(e hand.Entry) []sectionView {
	var views []sectionView
	number := 0
	for _, sec := range v.song.Sections {
		view := sectionView{Name: sec.Name}
		var bound []bind.SongBar
		if e.ID != "" {
			bound = bind.Section(v.ins, v.school, e.Pattern, sec, v.shapes)
		}
		for i, bar := range sec.Bars {
			number++
			b := barView{Number: number, Words: bar.Words, Chords: v.chordsIn(bar)}
			if bound != nil {
				b.Strip = v.strip(e.Pattern, bound[i], number)
				for _, n := range bound[i].Notices {
					b.Notices = append(b.Notices, n.Text)
				}
			}
			view.Bars = append(view.Bars, b)
		}
		views = append(views, view)
	}
	return views
}

func (v songView) chordsIn(bar song.Bar) []chordInBar {
	var list []chordInBar
	for _, change := range bar.Changes {
		in := chordInBar{Symbol: change.Symbol}
		if ch, err := change.Chord(); err != nil {
			in.Problem = sentenceOf(err)
		} else {
			in.Degree = v.key.Degree(ch)
			in.Root = v.shapes[ch].Root
			if in.Root == 0 {
				in.Problem = fmt.Sprintf("No shape for %s was found on this instrument.", ch)
			}
		}
		list = append(list, in)
	}
	return list
}

// strip draws one bar of the song.
func (v songView) strip(p hand.Pattern, sb bind.SongBar, number int) template.HTML {
	one := hand.Pattern{Meter: p.Meter, Swing: p.Swing, Bars: p.Bars[sb.PatternBar : sb.PatternBar+1]}
	events := make([]bind.Event, len(sb.Events))
	for i, e := range sb.Events {
		e.Bar = 0
		events[i] = e
	}
	slot := 29.0
	if p.Grid() <= 6 {
		slot = 38
	}
	return template.HTML(draw.Strip{
		Instrument: v.ins, Pattern: one, Events: events, Frets: true, SlotWidth: slot, ThickOnTop: v.thickOnTop,
		Label: fmt.Sprintf("bar %d: %s", number, one),
	}.SVG())
}
