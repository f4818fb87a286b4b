package web

import (
	"fmt"
	"html/template"
	"slices"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/practice"
	"arplin/core/theory"
	"arplin/core/vary"
	"arplin/draw"
	"arplin/store"
)

type libraryData struct {
	Page
	Filter   libraryFilter
	Meters   []hand.Meter
	Families []string
	Songs    []store.SongLine
	Cards    []patternCard
	Fits     string // the song whose fit orders the list
}

// libraryFilter is what the form asks for.
type libraryFilter struct {
	Meter, Family, Feel, Instrument string
	Tempo                           int
	TwoFingers, NoPinch, NoSkip     bool
	Song                            int64
}

type patternCard struct {
	patternRef
	Strip   template.HTML
	Reasons []string
}

func readFilter(c fiber.Ctx) libraryFilter {
	tempo, _ := strconv.Atoi(c.Query("tempo"))
	return libraryFilter{
		Meter: c.Query("meter"), Family: c.Query("family"), Feel: c.Query("feel"), Instrument: c.Query("instrument"), Tempo: tempo,
		TwoFingers: c.Query("two") != "", NoPinch: c.Query("pinch") != "", NoSkip: c.Query("skip") != "", Song: fiber.Query[int64](c, "song"),
	}
}

func (f libraryFilter) takes(e hand.Entry) bool {
	return (f.Meter == "" || e.Pattern.Meter.String() == f.Meter) &&
		(f.Family == "" || e.Family == f.Family) &&
		(f.Feel == "" || e.Feel == f.Feel) &&
		(f.Instrument == "" || e.Instruments == nil || slices.Contains(e.Instruments, f.Instrument)) &&
		(f.Tempo == 0 || e.Tempo[1] == 0 || e.Tempo[0] <= f.Tempo && f.Tempo <= e.Tempo[1]) &&
		(!f.TwoFingers || e.Pattern.OnlyThumbAndIndex()) &&
		(!f.NoPinch || !e.Pattern.Together()) &&
		(!f.NoSkip || !e.Pattern.Skips())
}

// patternList is the library: the teacher's own patterns, then the catalogue;
// or, for a song, the catalogue by how well it fits.
func (s *server) patternList(c fiber.Ctx) error {
	cur, _, err := s.maybeClass(c)
	if err != nil {
		return err
	}
	data := libraryData{Page: page(c, "Patterns", "patterns"), Filter: readFilter(c), Meters: hand.Meters, Families: hand.Families()}
	if data.Songs, err = s.Store.Songs(c.Context(), teacherID(c)); err != nil {
		return err
	}
	refs, reasons, err := s.listed(c, &data, cur)
	if err != nil {
		return err
	}
	d := newDrawer(cur)
	for _, ref := range refs {
		if data.Filter.takes(ref.Entry) {
			data.Cards = append(data.Cards, patternCard{ref, d.strip(ref.Pattern, d.ins[0], "C", nil, 34), reasons[ref.ID]})
		}
	}
	return c.Render("patterns", data)
}

// listed is what the library can show, in its order.
func (s *server) listed(c fiber.Ctx, data *libraryData, cur current) (refs []patternRef, reasons map[string][]string, err error) {
	if data.Filter.Song != 0 {
		sg, err := s.Store.Song(c.Context(), teacherID(c), data.Filter.Song)
		if err != nil {
			return nil, nil, err
		}
		data.Fits = sg.Title
		reasons = map[string][]string{}
		for _, f := range vary.Fits(sg.Song, cur.playersByInstrument()) {
			refs = append(refs, patternRef{Entry: f.Entry})
			reasons[f.ID] = f.Reasons
		}
		return refs, reasons, nil
	}
	own, err := s.Store.Patterns(c.Context(), teacherID(c))
	for _, p := range own {
		refs = append(refs, ownRef(p))
	}
	for _, e := range hand.Catalogue {
		refs = append(refs, patternRef{Entry: e})
	}
	return refs, nil, err
}

// drawer draws patterns on chords for a class.
type drawer struct {
	ins        []fretboard.Instrument
	school     bind.School
	thickOnTop bool
}

func newDrawer(cur current) drawer {
	return drawer{cur.instruments(), cur.school(), cur.class.ThickOnTop}
}

// strip draws a pattern on the easiest shape of a chord.
func (d drawer) strip(p hand.Pattern, ins fretboard.Instrument, chord string, fresh map[vary.Place]bool, slot float64) template.HTML {
	st, _ := d.bound(p, ins, chord)
	st.New, st.SlotWidth = fresh, slot
	return template.HTML(st.SVG())
}

// bound is the strip of a pattern on a chord, with the notices of its binding.
func (d drawer) bound(p hand.Pattern, ins fretboard.Instrument, chord string) (draw.Strip, []bind.Notice) {
	st := draw.Strip{Instrument: ins, Pattern: p, ThickOnTop: d.thickOnTop, Label: fmt.Sprintf("%s on %s, %s", p, chord, ins.Name)}
	ch, err := theory.ParseChord(chord)
	if err != nil {
		return st, nil
	}
	v, ok := fretboard.Easiest(ins, ch)
	if !ok {
		return st, nil
	}
	r := bind.Pattern(ins, d.school, p, ch, v.Shape)
	st.Events = r.Events
	return st, r.Notices
}

// onChord is a pattern on one chord of one instrument.
type onChord struct {
	Chord, Instrument string
	Root              fretboard.String
	Strip             template.HTML
	Notices           []string
}

// benchChords have their roots on strings 6, 5 and 4 of a guitar; the teacher's
// choice follows.
var benchChords = []string{"G", "C", "D"}

// onAll draws the pattern on the four chords of every instrument.
func (d drawer) onAll(p hand.Pattern, choice string) []onChord {
	var list []onChord
	for _, ins := range d.ins {
		for _, chord := range append(slices.Clone(benchChords), choice) {
			ch, err := theory.ParseChord(chord)
			if err != nil {
				continue
			}
			st, notices := d.bound(p, ins, chord)
			st.Frets = true
			on := onChord{Chord: chord, Instrument: ins.Name, Strip: template.HTML(st.SVG())}
			if v, ok := fretboard.Easiest(ins, ch); ok {
				on.Root = v.Root
			}
			for _, n := range notices {
				on.Notices = append(on.Notices, n.String())
			}
			list = append(list, on)
		}
	}
	return list
}

type patternData struct {
	Page
	Pattern    patternRef
	Counts     string
	Words      string  // spoken, for plain strums
	First      onChord // of On, the chord on which the level is measured
	On         []onChord
	Level      levelView
	Neighbours neighbours
	Posture    []string
	HowTo      []string
	Care       []string
	Before     []hand.Entry
	Songs      []store.SongLine // of its meter
	Archived   bool
	ClassNamed string
}

// patternPage explains a pattern and how to practise it, by the class's schools.
func (s *server) patternPage(c fiber.Ctx) error {
	ref, err := s.findPattern(c, c.Params("ref"))
	if err != nil {
		return err
	}
	cur, _, err := s.maybeClass(c)
	if err != nil {
		return err
	}
	data := patternData{
		Page: page(c, ref.Name, "patterns"), Pattern: ref, Counts: strings.Join(ref.Pattern.Counts(), " "),
		On: newDrawer(cur).onAll(ref.Pattern, "Am"), HowTo: practice.HowTo, Care: practice.Care, ClassNamed: cur.class.Name,
	}
	if i := slices.IndexFunc(data.On, func(on onChord) bool { return on.Chord == benchChord }); i >= 0 {
		data.First = data.On[i]
	}
	data.Level, data.Neighbours = measured(newDrawer(cur), ref.Pattern, cur.weights(), c.Query("deep") != "")
	data.Words, _ = ref.Pattern.Words()
	plucks := ref.Pattern.Uses(hand.Thumb) || ref.Pattern.Uses(hand.Index) || ref.Pattern.Uses(hand.Sweep)
	data.Posture = practice.Posture(cur.schools(), plucks, ref.Pattern.HasStrums())
	for _, id := range ref.After {
		if e, ok := hand.ByID(id); ok {
			data.Before = append(data.Before, e)
		}
	}
	songs, err := s.Store.Songs(c.Context(), teacherID(c))
	for _, sg := range songs {
		if sg.Meter == ref.Pattern.Meter.String() {
			data.Songs = append(data.Songs, sg)
		}
	}
	if err != nil {
		return err
	}
	return c.Render("pattern", data)
}

func (cur current) schools() practice.Schools {
	return practice.Schools{
		Anchor: cur.class.Anchor, LongNails: cur.class.LongNails, Wrist: cur.class.Wrist || cur.class.ID == 0,
		Moving: cur.school().Fingers != bind.Fixed,
	}
}

// putPattern puts a pattern on every part of a song.
func (s *server) putPattern(c fiber.Ctx) error {
	ref, err := s.findPattern(c, c.Params("ref"))
	if err != nil {
		return err
	}
	id, _ := strconv.ParseInt(c.FormValue("song"), 10, 64)
	sg, err := s.Store.Song(c.Context(), teacherID(c), id)
	if err != nil {
		return err
	}
	return s.saveEdit(c, sg, patternEdit(ref.Entry))
}

type compareData struct {
	Page
	A, B     patternRef
	ARef     string
	BRef     string
	All      []patternRef
	Pairs    []comparedChord
	Together string
}

type comparedChord struct {
	Chord string
	A, B  template.HTML
}

// comparePatterns shows two patterns side by side; what each has and the other
// has not is amber.
func (s *server) comparePatterns(c fiber.Ctx) error {
	cur, _, err := s.maybeClass(c)
	if err != nil {
		return err
	}
	own, err := s.Store.Patterns(c.Context(), teacherID(c))
	if err != nil {
		return err
	}
	data := compareData{Page: page(c, "Compare", "patterns")}
	for _, p := range own {
		data.All = append(data.All, ownRef(p))
	}
	for _, e := range hand.Catalogue {
		data.All = append(data.All, patternRef{Entry: e})
	}
	if data.A, err = s.findPattern(c, c.Query("a", data.All[0].ID)); err != nil {
		return err
	}
	if data.B, err = s.findPattern(c, c.Query("b", data.A.ID)); err != nil {
		return err
	}
	a, b := data.A.Pattern, data.B.Pattern
	d := newDrawer(cur)
	var newInA, newInB map[vary.Place]bool
	if a.Meter == b.Meter && a.Grid() == b.Grid() {
		newInA, newInB = vary.New(a, b), vary.New(b, a)
		data.Together = "They share meter and grid, so a class plays them together. Amber is what the other has not."
	} else if a.Meter == b.Meter {
		data.Together = "They share the meter but not the grid: one counts finer."
	} else {
		data.Together = fmt.Sprintf("One is in %s, the other in %s: not for the same song.", a.Meter, b.Meter)
	}
	for _, chord := range benchChords {
		data.Pairs = append(data.Pairs, comparedChord{chord, d.strip(a, d.ins[0], chord, newInA, 0), d.strip(b, d.ins[0], chord, newInB, 0)})
	}
	return c.Render("compare", data)
}
