package patterns

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"arplin/core/ladder/fit"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/pattern/skill"
	"arplin/core/song"
	"arplin/core/song/edit"
	"arplin/draw"
	"arplin/letters"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

// Pattern is a pattern of the catalogue or the teacher's own, by one name in
// addresses and forms: "common-strum" or "own-12".
type Pattern struct {
	catalogue.Entry
	OwnID   ref.Pattern // 0 for the catalogue
	Version int
}

// OwnPrefix begins the name of a teacher's own pattern.
const OwnPrefix = "own-"

// Own names a stored pattern.
func Own(p store.Pattern) Pattern {
	feel := "straight"
	if p.Pattern.Swing {
		feel = "swung"
	}
	return Pattern{
		Entry: catalogue.Entry{ID: fmt.Sprintf("%s%d", OwnPrefix, p.ID), Name: p.Name, Notation: p.Pattern.String(), Family: "yours", Feel: feel, Pattern: p.Pattern},
		OwnID: p.ID, Version: p.Version,
	}
}

// Pattern looks up the name of an address; ErrNotFound for one that is not there.
func (t *Room) Pattern(ctx context.Context, teacher ref.Teacher, name string) (Pattern, error) {
	text, own := strings.CutPrefix(name, OwnPrefix)
	if !own {
		e, ok := catalogue.ByID(name)
		if !ok {
			return Pattern{}, store.ErrNotFound
		}
		return Pattern{Entry: e}, nil
	}
	id, err := strconv.ParseInt(text, 10, 64)
	if err != nil {
		return Pattern{}, store.ErrNotFound
	}
	p, err := t.Store.Pattern(ctx, teacher, ref.Pattern(id))
	return Own(p), err
}

// InMeter lists the teacher's own patterns and the catalogue's in a meter.
func InMeter(own []store.Pattern, meter pattern.Meter) []catalogue.Entry {
	var list []catalogue.Entry
	for _, p := range own {
		if p.Pattern.Meter == meter {
			list = append(list, Own(p).Entry)
		}
	}
	return append(list, catalogue.InMeter(meter)...)
}

// all lists the teacher's own patterns and then the catalogue.
func all(own []store.Pattern) (list []Pattern) {
	for _, p := range own {
		list = append(list, Own(p))
	}
	for _, e := range catalogue.All {
		list = append(list, Pattern{Entry: e})
	}
	return list
}

// Filter is what the library is asked for.
type Filter struct {
	Meter, Family, Feel, Instrument string
	Hand                            skill.Doing
	Tempo                           int
	TwoFingers, NoPinch, NoSkip     bool
	Song                            ref.Song
}

// takes asks for all but what the hand does.
func (f Filter) takes(e catalogue.Entry) bool {
	return (f.Meter == "" || e.Pattern.Meter.String() == f.Meter) &&
		(f.Family == "" || e.Family == f.Family) &&
		(f.Feel == "" || e.Feel == f.Feel) &&
		(f.Instrument == "" || e.Instruments == nil || slices.Contains(e.Instruments, f.Instrument)) &&
		(f.Tempo == 0 || e.Tempo[1] == 0 || e.Tempo[0] <= f.Tempo && f.Tempo <= e.Tempo[1]) &&
		(!f.TwoFingers || e.Pattern.OnlyThumbAndIndex()) &&
		(!f.NoPinch || !e.Pattern.Together()) &&
		(!f.NoSkip || !e.Pattern.Skips())
}

// Library is the list of patterns.
type Library struct {
	Filter   Filter
	Meters   []pattern.Meter
	Families []string
	Hands    []Hand            // ways in
	Start    []catalogue.Entry // to begin with, where nothing is asked for
	Songs    []store.SongLine
	Fits     string // the song whose fit orders the list
	Count    int    // of all that is asked for
	Cards    []PatternCard
	Next     int // the first card that is not among them; 0 for none

	class    people.Class
	own      []store.Pattern
	song     *store.Song
	learners fit.Learners // of the class, where a song is chosen
}

// Hand is what a hand does, with how many figures do it.
type Hand struct {
	Doing skill.Doing
	Name  string
	Count int
	On    bool
}

// startWith are figures to begin with.
var startWith = []string{"thumb-beats", "downs-on-the-beat", "roll-up"}

// waysIn are what the hands do in figures, each with how many.
func waysIn(list []Pattern, chosen skill.Doing) (hands []Hand) {
	count := map[skill.Doing]int{}
	for _, p := range list {
		count[skill.Does(p.Entry.Pattern)]++
	}
	for _, d := range skill.Doings {
		hands = append(hands, Hand{d.Doing, d.Name, count[d.Doing], d.Doing == chosen})
	}
	return hands
}

// firstOnes are what to begin with, where nothing is asked for.
func firstOnes(f Filter) (list []catalogue.Entry) {
	if f != (Filter{}) {
		return nil
	}
	for _, id := range startWith {
		if e, ok := catalogue.ByID(id); ok {
			list = append(list, e)
		}
	}
	return list
}

// PatternCard is a pattern in the library.
type PatternCard struct {
	Pattern
	Strip   draw.SVG
	Reasons []string
}

// LoadLibrary reads what the library is made of.
func (t *Room) LoadLibrary(ctx context.Context, teacher ref.Teacher, c people.Class, f Filter, now time.Time) (l Library, rows answer.Rows, err error) {
	l = Library{Filter: f, Meters: pattern.Meters, Families: catalogue.Families(), class: c}
	if l.Songs, err = t.Store.SongsIn(ctx, teacher, ""); err != nil {
		return l, "", err
	}
	if l.own, err = t.Store.Patterns(ctx, teacher); err != nil {
		return l, "", err
	}
	l.Start = firstOnes(f)
	version := 0
	if f.Song != 0 {
		sg, err := t.Store.Song(ctx, teacher, f.Song)
		if err != nil {
			return l, "", err
		}
		l.song, l.Fits, version = &sg, sg.Title, sg.Version
		if l.learners, err = t.Learners(ctx, teacher, c, sg.Song, now); err != nil {
			return l, "", err
		}
	}
	return l, answer.RowsOf(f, c.Class, c.Students, l.own, l.Songs, version, l.learners.Heard, l.learners.Had), nil
}

// shownAtOnce is how many cards a page brings at once; the next come when they are reached.
const shownAtOnce = 12

// FillLibrary draws cards from one on: of the teacher's own patterns, then the catalogue; or, for a
// song, of the catalogue by how well it fits.
func (t *Room) FillLibrary(l Library, rows answer.Rows, from int) Library {
	type kept struct {
		cards []PatternCard
		hands []Hand
	}
	found := answer.Keep(t.From, "library", rows, func() (k kept) {
		list, reasons := all(l.own), map[string][]string{}
		if l.song != nil {
			list = nil
			for _, f := range fit.Fits(l.song.Song, l.learners) {
				list = append(list, Pattern{Entry: f.Entry})
				reasons[f.ID] = f.Reasons
			}
		}
		list = slices.DeleteFunc(list, func(p Pattern) bool { return !l.Filter.takes(p.Entry) })
		k.hands = waysIn(list, l.Filter.Hand)
		for _, p := range list {
			if l.Filter.Hand == "" || skill.Does(p.Entry.Pattern) == l.Filter.Hand {
				k.cards = append(k.cards, PatternCard{Pattern: p, Reasons: reasons[p.ID]})
			}
		}
		return k
	})
	listed := found.cards
	l.Count, l.Hands = len(listed), found.hands
	from = min(max(0, from), l.Count)
	to := min(from+shownAtOnce, l.Count)
	if to < l.Count {
		l.Next = to
	}
	l.Cards = answer.Keep(t.From, fmt.Sprint("library cards ", from, " "), rows, func() []PatternCard {
		cards, d := slices.Clone(listed[from:to]), NewDrawer(l.class)
		for i, c := range cards {
			cards[i].Strip = d.strip(c.Pattern.Entry.Pattern, d.ins[0], BenchChord, nil, 34)
		}
		return cards
	})
	return l
}

// PatternPage explains a pattern and how to practise it, by the class's schools.
type PatternPage struct {
	Pattern Pattern
	Counts  string
	Words   string  // spoken, for plain strums
	First   OnChord // of On, the chord on which the level is measured
	On      []OnChord
	Level   Level
	Posture []string
	HowTo   []string
	Before  []catalogue.Entry
	Songs   []store.SongLine // of its meter
	Class   string
}

// Page loads a pattern's page; what lies around it is found when it is
// asked for.
func (t *Room) Page(ctx context.Context, teacher ref.Teacher, c people.Class, name string) (PatternPage, error) {
	p, err := t.Pattern(ctx, teacher, name)
	if err != nil {
		return PatternPage{}, err
	}
	songs, err := t.Store.SongsIn(ctx, teacher, p.Entry.Pattern.Meter.String())
	if err != nil {
		return PatternPage{}, err
	}
	page := answer.Keep(t.From, "pattern", answer.RowsOf(p.Entry, c.Class, c.Students), func() PatternPage {
		d := NewDrawer(c)
		page := PatternPage{Pattern: p, Counts: counted(p.Entry.Pattern), On: d.onAll(p.Entry.Pattern, "Am"), HowTo: people.HowTo, Posture: people.Posture(c, p.Entry.Pattern), Class: c.Name}
		if i := slices.IndexFunc(page.On, func(on OnChord) bool { return on.Chord == BenchChord }); i >= 0 {
			page.First = page.On[i]
		}
		task, on := OnOneChord(p.Entry.Pattern, d.ins[0], c)
		page.Level = LevelIn(c, task, p.Entry.Pattern, on)
		page.Words, _ = p.Entry.Pattern.Words()
		for _, id := range p.After {
			if e, ok := catalogue.ByID(id); ok {
				page.Before = append(page.Before, e)
			}
		}
		return page
	})
	page.Pattern = p
	page.Songs = songs
	return page, nil
}

// AroundPattern is what lies about a pattern on one chord.
func (t *Room) AroundPattern(c people.Class, p pattern.Pattern, deep bool) Neighbours {
	deep = deep && len(p.Bars) <= pattern.MaxBars // longer ones are of another time, and take seconds
	return answer.Keep(t.From, "around", answer.RowsOf(p, c.Class, c.Instruments(), deep), func() Neighbours {
		d := NewDrawer(c)
		task, _ := OnOneChord(p, d.ins[0], c)
		return NeighboursOf(d, task, c.Weigh(), BenchChord, deep)
	})
}

// Comparison is two patterns side by side.
type Comparison struct {
	A, B     Pattern
	All      []Pattern
	Pairs    []ComparedChord
	Together string
}

// ComparedChord is both patterns on one chord.
type ComparedChord struct {
	Chord string
	A, B  draw.SVG
}

// Compare shows two patterns; what each has and the other has not is amber.
func (t *Room) Compare(ctx context.Context, teacher ref.Teacher, c people.Class, a, b string) (Comparison, error) {
	own, err := t.Store.Patterns(ctx, teacher)
	if err != nil {
		return Comparison{}, err
	}
	page := Comparison{All: all(own)}
	if a == "" {
		a = page.All[0].ID
	}
	if b == "" {
		b = a
	}
	var errA, errB error
	page.A, errA = t.Pattern(ctx, teacher, a)
	page.B, errB = t.Pattern(ctx, teacher, b)
	if err := errors.Join(errA, errB); err != nil {
		return page, err
	}
	p, q := page.A.Entry.Pattern, page.B.Entry.Pattern
	var newInA, newInB map[pattern.Place]bool
	switch {
	case p.Meter != q.Meter:
		page.Together = fmt.Sprintf("One is in %s, the other in %s, so they don’t go with the same song.", p.Meter, q.Meter)
	case p.Grid() != q.Grid():
		page.Together = "They share the time signature, and one counts more finely. A class can play them together."
	default:
		newInA, newInB = pattern.New(p, q), pattern.New(q, p)
		page.Together = "They share time signature and grid, so a class plays them together. Amber is what the other has not."
	}
	d := NewDrawer(c)
	for _, chord := range BenchChords {
		page.Pairs = append(page.Pairs, ComparedChord{chord, d.strip(p, d.ins[0], chord, newInA, 0), d.strip(q, d.ins[0], chord, newInB, 0)})
	}
	return page, nil
}

// PutOn is the edit that puts a pattern on every section of a song.
func PutOn(e catalogue.Entry) song.Edit { return edit.SetPattern{Pattern: e.Pattern, Name: e.Name} }

// Named are the patterns that have each of some words in their names, the teacher's own first.
func (t *Room) Named(ctx context.Context, teacher ref.Teacher, words string) (list []Pattern, err error) {
	own, err := t.Store.Patterns(ctx, teacher)
	if err != nil {
		return nil, err
	}
	wanted := strings.Fields(letters.Fold(words))
	for _, p := range all(own) {
		name := letters.Fold(p.Name)
		if !slices.ContainsFunc(wanted, func(word string) bool { return !strings.Contains(name, word) }) {
			list = append(list, p)
		}
	}
	return list, nil
}
