package web

import (
	"fmt"
	"html/template"
	"net/url"
	"slices"
	"strings"

	"github.com/gofiber/fiber/v3"

	"arplin/core/bind"
	"arplin/core/demand"
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
	Key         theory.Key // that sounds
	KeyFound    bool       // found from the chords, not written
	Capo        int
	Fingered    theory.Key
	Beat        string
	Instruments []fretboard.Instrument
	Instrument  fretboard.Instrument
	Patterns    []hand.Entry
	Pattern     hand.Entry   // zero when none is chosen
	Query       template.URL // instrument, pattern and chord, for the addresses of forms
	Chords      []chordCard
	Open        *chordPanel
	LeftHands   []leftHandLine
	Sections    []sectionView
	Chosen      bool      // the pattern was asked for; else it is the one that the song is written with
	Level       levelView // of the pattern on this song
	Near        neighbours
	Here        string // the page's own address, to be continued
	Moves       []moveLine
	Parts       []string // with bars, by name
	Orders      any
	Wide        bool // bars too wide for four to a line
	HasClass    bool
	Tempos      vary.Tempos
	Meters      []hand.Meter
	Roles       any
	Undo, Redo  bool
	Conflict    *conflict
}

func (s *server) songPage(c fiber.Ctx) error { return s.renderSong(c, Note{}, nil) }

// renderSong shows the song, as a page or, for the script, as its body alone.
func (s *server) renderSong(c fiber.Ctx, note Note, clash *conflict) error {
	on, err := s.loadSong(c)
	if err != nil {
		return err
	}
	sg, cur := on.Song, on.cur
	guess := sg.KeyGuess()
	data := songData{
		Page: page(c, sg.Title, "songs"), Song: sg, Key: guess.Key, KeyFound: sg.Key == "", Beat: sg.Meter.BeatName(),
		Instruments: cur.instruments(), HasClass: on.hasClass, Tempos: vary.TemposFor(sg.Tempo),
		Meters: hand.Meters, Roles: song.Roles, Conflict: clash,
	}
	if note.Text != "" {
		data.Note = note
	}
	data.Instrument = chosenInstrument(c, data.Instruments)
	if data.Patterns, err = s.patternsIn(c, sg.Meter); err != nil {
		return err
	}
	for _, e := range data.Patterns {
		if e.ID == c.Query("pattern") {
			data.Pattern = e
		}
	}
	if data.Chosen = data.Pattern.ID != ""; !data.Chosen {
		data.Pattern, _ = writtenOn(sg.Song)
	}
	data.Orders = vary.Orders
	for _, sec := range sg.Sections {
		if len(sec.Bars) > 0 && !slices.Contains(data.Parts, sec.Name) {
			data.Parts = append(data.Parts, sec.Name)
		}
	}
	data.Query = template.URL(url.Values{"instrument": {data.Instrument.ID}, "pattern": {c.Query("pattern")}, "chord": {c.Query("chord")}}.Encode())
	v := newSongView(sg.Song, data.Instrument, cur)
	data.Capo, data.Fingered = sg.Capo[data.Instrument.ID], v.key
	data.Chords = v.cards(data.Pattern)
	data.Open = v.panel(data.Pattern, c.Query("chord"))
	written := hand.Entry{} // every part keeps its own
	if data.Chosen {
		written = data.Pattern
	}
	data.Sections = v.sections(written, sg.Song)
	if data.Pattern.Name != "" {
		data.Wide = data.Pattern.Pattern.Grid() > 8
		data.measure(c, cur, v)
	}
	for _, ins := range data.Instruments {
		data.LeftHands = append(data.LeftHands, leftHandOf(sg.Song, ins))
	}
	if data.Undo, data.Redo, err = s.Store.CanMove(c.Context(), teacherID(c), sg.ID); err != nil {
		return err
	}
	if clash != nil {
		c.Status(fiber.StatusConflict)
	}
	if wantsFragment(c) {
		return c.Render("song_body", data, "")
	}
	return c.Render("song", data)
}

// moveLine is something that can be done to the whole song.
type moveLine struct {
	vary.Move
	Now, Then string
	Easier    bool
}

// measure fills in the level of the pattern and what lies about it: neighbours,
// and what can be done to the song.
func (data *songData) measure(c fiber.Ctx, cur current, v songView) {
	p, sg, w := data.Pattern.Pattern, data.Song.Song, cur.weights()
	t := demand.NewTask(p, sg, data.Instrument, v.school, sg.Tempo)
	d := demand.Of(t, w)
	data.Level = viewOf(d, data.Pattern.Pattern, fmt.Sprintf("on this song, %s, at %d", data.Instrument.Name, sg.Tempo))
	data.Here = fmt.Sprintf("/songs/%d?%s&", data.Song.ID, data.Query)
	data.Near = neighboursOf(newDrawer(cur), t, w, firstChord(v.song).String(), c.Query("deep") != "")
	for _, m := range vary.Moves(sg, p, data.Instrument, cur.playersByInstrument(), v.school, w) {
		data.Moves = append(data.Moves, moveLine{m, fmt.Sprintf("%.1f", d.Level), fmt.Sprintf("%.1f", m.Level), m.Level < d.Level-0.05})
	}
}

// Taken is what the pattern is called after a change: with the change behind its
// name, or as varied when it has been changed before.
func (data songData) Taken(change string) string {
	name, _, before := strings.Cut(data.Pattern.Name, " (")
	if before {
		change = "varied"
	}
	room := song.MaxPatternName - len([]rune(" ()"+change))
	return string([]rune(name)[:min(room, len([]rune(name)))]) + " (" + change + ")"
}

// chosenInstrument is the one asked for, or the first of the class.
func chosenInstrument(c fiber.Ctx, list []fretboard.Instrument) fretboard.Instrument {
	if ins, err := fretboard.ByID(c.Query("instrument")); err == nil {
		return ins
	}
	return list[0]
}

// songView draws a song for one instrument, as it is fingered there.
type songView struct {
	song       song.Song // under the instrument's capo
	key        theory.Key
	ins        fretboard.Instrument
	school     bind.School
	shapes     bind.Shapes
	lean       bool
	thickOnTop bool
	sounding   theory.Key
}

func newSongView(sg song.Song, ins fretboard.Instrument, cur current) songView {
	fingered := sg.Fingering(ins)
	return songView{
		song: fingered, key: fingered.KeyGuess().Key, ins: ins, school: cur.school(), shapes: sg.ShapesOn(ins),
		lean: cur.class.Lean, thickOnTop: cur.class.ThickOnTop, sounding: sg.KeyGuess().Key,
	}
}

func (v songView) shape(ch theory.Chord, voicing fretboard.Voicing, leftHanded bool) template.HTML {
	return template.HTML(draw.Shape{Instrument: v.ins, Chord: ch, Voicing: voicing, LeftHanded: leftHanded, ThickOnTop: v.thickOnTop}.SVG())
}

type sectionView struct {
	Index   int
	Name    string
	Times   int
	Pattern string // the part's own, by name
	Bars    []barView
}

// barView is one bar on the page.
type barView struct {
	Section, Index int
	Number         int // counted through the song, from 1
	Text           string
	Chords         []chordInBar
	Words          string
	Role           song.Role
	Ending         int
	Open           string // a sentence when the chords do not fill the bar
	Strip          template.HTML
	Notices        []string
}

type chordInBar struct {
	Symbol, Degree string
	Root           fretboard.String // 0 when there is no shape
	Problem        string           // a sentence for a chord that cannot be read
	Rest           bool             // not of the step's stage: on a sheet it is rested, or its root played
}

// sections lays out the bars, with a strip each when a pattern is chosen;
// written is the song as it sounds, whose text is edited.
func (v songView) sections(e hand.Entry, written song.Song) []sectionView {
	var views []sectionView
	number := 0
	for i, sec := range v.song.Sections {
		view := sectionView{Index: i, Name: sec.Name, Times: max(1, sec.Times)}
		var bound []bind.SongBar
		p, has := e.Pattern, e.ID != "" // the pattern asked for, or the part's own
		if !has {
			if p, has = sec.Hand(v.song.Meter); has {
				view.Pattern = sec.PatternName
			}
		}
		if has {
			bound = bind.Section(v.ins, v.school, p, sec, v.shapes)
		}
		for j, bar := range sec.Bars {
			number++
			b := barView{
				Section: i, Index: j, Number: number, Words: bar.Words, Role: bar.Role, Ending: bar.Ending, Chords: v.chordsIn(bar),
				Text: song.BarText(written.Sections[i].Bars[j].Changes, written.Meter), Open: v.open(bar),
			}
			if bound != nil {
				b.Strip = v.strip(p, bound[j], number)
				for _, n := range bound[j].Notices {
					b.Notices = append(b.Notices, n.Text)
				}
			}
			view.Bars = append(view.Bars, b)
		}
		views = append(views, view)
	}
	return views
}

// open says in words that a bar does not add up.
func (v songView) open(bar song.Bar) string {
	if bar.Adds(v.song.Meter) {
		return ""
	}
	if len(bar.Changes) == 0 {
		return "No chord stands in this bar yet."
	}
	beat := float64(v.song.Meter.BarTicks()) / float64(v.song.Meter.Beats)
	return fmt.Sprintf("%.3g of %d beats: the bar does not add up.", float64(bar.Ticks())/beat, v.song.Meter.Beats)
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
