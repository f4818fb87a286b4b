package song

import (
	"cmp"
	"slices"

	"arplin/core/bpm"
	"arplin/core/pattern"
	"arplin/core/theory"
)

// Song is a whole song. As JSON it is what the store keeps.
type Song struct {
	Title    string        `json:"title"`
	Key      string        `json:"key,omitempty"` // as written; empty to be found from the chords
	Meter    pattern.Meter `json:"-"`
	Tempo    int           `json:"tempo"` // of the meter's tapped beat, a minute
	Swing    bool          `json:"swing,omitempty"`
	Sections []Section     `json:"sections"`
	Next     int           `json:"next,omitempty"` // the next id that no section or bar has had

	// Lowest and highest sung note, "A3"; empty when nobody has said.
	Low  string `json:"low,omitempty"`
	High string `json:"high,omitempty"`

	// Tags are words by which its teacher finds it.
	Tags []string `json:"tags,omitempty"`

	// Lines of the sheet after the last bar, as they stand there.
	Notes []string `json:"notes,omitempty"`

	Capo   map[string]int `json:"capo,omitempty"`   // fret by instrument id
	Shapes Shapes         `json:"shapes,omitempty"` // the teacher's choice

	// Tunes are those besides the one in the bars, which TuneID and TuneName name.
	Tunes    []Tune `json:"tunes,omitempty"`
	TuneID   TuneID `json:"tune_id,omitempty"`
	TuneName string `json:"tune_name,omitempty"`

	// Roots are chords on which the thumb keeps to the root where a figure wants the low fifth, by
	// instrument id and as they are fingered there.
	Roots map[string][]string `json:"roots,omitempty"`
}

// Section is a verse, a chorus or another part.
type Section struct {
	ID    SectionID `json:"id,omitempty"`
	Name  string    `json:"name"`
	Times int       `json:"times,omitempty"` // how often it is played; 0 is once
	Bars  []Bar     `json:"bars"`

	// The right hand of this part, in the stroke notation; kept here by its text,
	// so that a pattern that is changed or put away stays in its songs.
	Pattern     string `json:"pattern,omitempty"`
	PatternName string `json:"pattern_name,omitempty"`
}

// Bar is one bar: its chords in order, and the words sung in it.
type Bar struct {
	ID      BarID         `json:"id,omitempty"`
	Changes []Change      `json:"changes"`
	Words   string        `json:"words,omitempty"`
	Role    Role          `json:"role,omitempty"`
	Ending  int           `json:"ending,omitempty"` // 1 to 3: played in that pass only; 0 always
	Meter   pattern.Meter `json:"meter,omitzero"`   // where it is another than the song's
	Notes   []string      `json:"notes,omitempty"`  // lines of the sheet that stand before it
	Shapes  Shapes        `json:"shapes,omitempty"` // the teacher's choice in this bar only
	Melody  []MelodyNote  `json:"melody,omitempty"` // the tune, in the order in which it sounds
}

// MeterOf is the meter of a bar: its own, or the song's.
func (s Song) MeterOf(b Bar) pattern.Meter { return cmp.Or(b.Meter, s.Meter) }

// NoChord is written where nothing is played.
const NoChord = "N.C."

// Silent reports a place where nothing is played.
func (c Change) Silent() bool { return c.Symbol == NoChord }

// Role is what is special about a bar.
type Role string

// The roles; most bars have none.
const (
	Plain  Role = ""
	Pickup Role = "pickup" // before the first full bar; may be short
	Intro  Role = "intro"  // played, not sung
	Short  Role = "short"  // has fewer beats on purpose
	Stop   Role = "stop"   // struck once, then silence
	End    Role = "end"    // the closing stroke; nothing follows
)

// Roles lists the roles with what they mean.
var Roles = []struct {
	Role Role
	Says string
}{
	{Plain, "a bar like others"}, {Pickup, "pickup before the first full bar"}, {Intro, "intro, without words"},
	{Short, "a short bar on purpose"}, {Stop, "a stop: struck once, then silence"}, {End, "the ending: one closing stroke"},
}

// Change is a chord and how long it lasts. Symbol is kept as it was written,
// also when no chord can be read from it.
type Change struct {
	Symbol string `json:"symbol"`
	Ticks  int    `json:"ticks"`
}

// Chord reads the symbol.
func (c Change) Chord() (theory.Chord, error) { return theory.ParseChord(c.Symbol) }

// Figure is the pattern of the part; ok is false when it has none in the meter.
func (sec Section) Figure(meter pattern.Meter) (p pattern.Pattern, ok bool) {
	p, err := pattern.Decode(sec.Pattern)
	return p, err == nil && p.Meter == meter
}

// Bars lists the bars of all sections in order.
func (s Song) Bars() []Bar {
	var bars []Bar
	for _, sec := range s.Sections {
		bars = append(bars, sec.Bars...)
	}
	return bars
}

// Part is the song with only some of its sections; with none of them, or for no
// ids, the whole song.
func (s Song) Part(ids []SectionID) Song {
	var parts []Section
	for _, sec := range s.Sections {
		if slices.Contains(ids, sec.ID) && len(sec.Bars) > 0 {
			parts = append(parts, sec)
		}
	}
	if len(parts) > 0 {
		s.Sections = parts
	}
	return s
}

// Named lists the sections with bars that bear a name.
func (s Song) Named(name string) (ids []SectionID) {
	for _, sec := range s.Sections {
		if sec.Name == name && len(sec.Bars) > 0 {
			ids = append(ids, sec.ID)
		}
	}
	return ids
}

// Spans lists the chords that can be read, with their lengths.
func (s Song) Spans() []theory.Span {
	var spans []theory.Span
	for _, bar := range s.Bars() {
		for _, ch := range bar.Changes {
			if c, err := ch.Chord(); err == nil {
				spans = append(spans, theory.Span{Chord: c, Length: ch.Ticks})
			}
		}
	}
	return spans
}

// Chords lists the different chords in the order of their first appearance.
func (s Song) Chords() []theory.Chord {
	var chords []theory.Chord
	seen := map[theory.Chord]bool{}
	for _, sp := range s.Spans() {
		if !seen[sp.Chord] {
			seen[sp.Chord] = true
			chords = append(chords, sp.Chord)
		}
	}
	return chords
}

// KeyGuess is the written key, with full confidence, or the one that the chords
// point to.
func (s Song) KeyGuess() theory.KeyGuess {
	if k, err := theory.ParseKey(s.Key); err == nil {
		return theory.KeyGuess{Key: k, Confidence: 1}
	}
	return theory.FindKey(s.Spans())
}

// Share gives chords equal parts of a bar, to the tick: what does not divide
// goes to the last.
func Share(meter pattern.Meter, symbols []string) []Change {
	total := meter.BarTicks()
	changes := make([]Change, len(symbols))
	for i, symbol := range symbols {
		from, to := total*i/len(symbols), total*(i+1)/len(symbols)
		changes[i] = Change{symbol, to - from}
	}
	return changes
}

// Ticks is how long the bar's chords last together.
func (b Bar) Ticks() (sum int) {
	for _, ch := range b.Changes {
		sum += ch.Ticks
	}
	return sum
}

// Eighths is bpm.Eighths for the song's goal.
func (s Song) Eighths() int { return bpm.Eighths(s.Meter, s.Tempo) }

// SlowEighths is bpm.Eighths for the song's slow tempo.
func (s Song) SlowEighths() int { return bpm.Eighths(s.Meter, bpm.Of(s.Tempo).Slow) }
