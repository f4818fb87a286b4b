package musicxml

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"strconv"
	"strings"

	"arplin/core/bpm"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/theory"
	"arplin/letters"
)

// reader makes a song of a score.
type reader struct {
	score    scorePartwise
	problems []Problem
	out      song.Song

	tune, chords int // parts; -1 for none
	voice        string
	divisions    []int // a quarter, by part
	meter        pattern.Meter
	chord        string // that goes on
	section      *song.Section
	ending       int
	ended        bool // a part has come to its repeat: the next bar begins another, if it is no ending
	tied         bool
	shift        []int      // half steps from what is written to what sounds, by part
	again        []int      // bars that a sign of repetition takes again, by part; 0 for none
	made         []song.Bar // so far
	tempoSaid    bool
	left         map[string][]int // what was left out, with its bars
	leftOrder    []string
}

func (r *reader) song() (song.Song, error) {
	if len(r.score.Parts) == 0 || len(r.score.Parts[0].Measures) == 0 {
		return song.Song{}, errors.New("musicxml: there is no bar in it")
	}
	r.out = song.Song{Title: letters.Cut(strings.TrimSpace(cmp.Or(r.score.Title, r.score.Movement, "A song without a title")), song.MaxTitle), Tempo: bpm.Usual}
	r.choose()
	r.divisions, r.shift, r.again = make([]int, len(r.score.Parts)), make([]int, len(r.score.Parts)), make([]int, len(r.score.Parts))
	bars := 0
	for _, p := range r.score.Parts {
		bars = max(bars, len(p.Measures))
	}
	if bars > song.MaxBars {
		r.problem(0, "it has %d bars. Arplin reads up to %d, so the rest is left out", bars, song.MaxBars)
		bars = song.MaxBars
	}
	for i := range bars {
		if err := r.bar(i); err != nil {
			return song.Song{}, err
		}
	}
	r.close()
	r.sayLeft()
	if len(r.out.Sections) == 0 {
		return song.Song{}, errors.New("musicxml: there is no bar in it")
	}
	if r.chords < 0 {
		r.problem(0, "there are no chord symbols in it. Write the chords over the melody")
	}
	return r.out.Numbered(), nil
}

// choose finds the part with the tune, which has words, or else is the first that is neither
// tablature nor drums, and the part with the chords, which has the most.
func (r *reader) choose() {
	r.tune, r.chords = -1, -1
	best, most := 0, 0
	for i, p := range r.score.Parts {
		points, chords := 0, 0
		tab := false
		for _, m := range p.Measures {
			for _, item := range m.Items {
				switch x := item.(type) {
				case *attributes:
					tab = tab || x.Clef != nil && (x.Clef.Sign == "TAB" || x.Clef.Sign == "percussion")
				case *note:
					if x.Pitch != nil && !tab && x.Notehead != slashHead {
						points = max(points, 1)
						if len(x.Lyrics) > 0 {
							points = 2
						}
					}
				case *harmony:
					chords++
				}
			}
		}
		if points > best {
			best, r.tune = points, i
		}
		if chords > most {
			most, r.chords = chords, i
		}
	}
	for i, p := range r.score.List {
		if i != r.tune && len(r.score.List) > 1 && i < len(r.score.Parts) && i != r.chords {
			r.problem(0, "the part “%s” is left out: a song takes the chords and one melody", letters.Cut(p.Name, 60))
		}
	}
}

// slashHead is the head of a note that is no note: something is strummed for so long.
const slashHead = "slash"

// placedChord is a chord while its bar is read.
type placedChord struct {
	tick   int
	symbol string
}

// read is what is found in a bar.
type read struct {
	harmonies []placedChord
	melody    []song.MelodyNote
	words     string
	name      string // of the part that begins here
	role      song.Role
	forward   bool
	backward  int // times; 0 for none
	start     int // of an ending
	stop      bool
	ticks     int

	sameTune, sameChords int // bars that a sign takes again; 0 for none
}

// bar reads a bar of all parts.
func (r *reader) bar(i int) error {
	var b read
	for p, part := range r.score.Parts {
		if i < len(part.Measures) {
			if err := r.measure(&b, i, p, part.Measures[i]); err != nil {
				return err
			}
			if p == r.tune {
				b.sameTune = r.again[p]
			}
			if p == r.chords {
				b.sameChords = r.again[p]
			}
		}
	}
	if r.meter == (pattern.Meter{}) {
		r.meter = pattern.Meter{Beats: 4, Unit: 4}
		r.problem(i+1, "no time signature is written; it is read as 4/4")
	}
	if r.out.Meter == (pattern.Meter{}) {
		r.out.Meter = r.meter
	}
	bar := r.fill(i, b)
	r.place(i, b, bar)
	return nil
}

// measure reads a bar of one part.
func (r *reader) measure(b *read, i, p int, m measure) error {
	at, last := 0, 0
	for _, item := range m.Items {
		switch x := item.(type) {
		case *attributes:
			if err := r.attributes(i, p, x); err != nil {
				return err
			}
		case *moved:
			if x.XMLName.Local == "backup" {
				at -= r.ticks(p, x.Duration)
			} else {
				at += r.ticks(p, x.Duration)
			}
		case *harmony:
			if p != r.chords {
				continue
			}
			symbol, ok := x.symbol()
			if !ok {
				r.problem(i+1, "a chord was read as %s: its symbol says more", symbol)
			}
			b.harmonies = append(b.harmonies, placedChord{max(0, at+r.ticks(p, x.Offset)), r.sounding(p, symbol)})
		case *said:
			r.said(b, i, x)
		case *soundTempo:
			r.tempo(i, x.Tempo)
		case *barline:
			r.barline(b, i, x)
		case *note:
			if x.Grace != nil {
				if p == r.tune {
					r.problem(i+1, "a grace note is left out")
				}
				continue
			}
			start := at
			if x.Chord != nil {
				start = last
			} else {
				last, at = at, at+r.ticks(p, x.Duration)
			}
			switch {
			case x.Notehead == slashHead && (p == r.tune || r.tune < 0):
				r.leave(i, leftSlash)
			case x.Unpitched != nil && (p == r.tune || r.tune < 0):
				r.leave(i, leftDrums)
			case p == r.tune:
				r.note(b, i, start, r.ticks(p, x.Duration), r.shift[p], x)
			}
		}
		b.ticks = max(b.ticks, at)
	}
	if m.Implicit == "yes" && i == 0 {
		b.role = song.Pickup
	}
	return nil
}

// ticks are divisions of a part in ticks.
func (r *reader) ticks(p, divisions int) int {
	return int(math.Round(float64(divisions) * pattern.TicksPerQuarter / float64(max(1, r.divisions[p]))))
}

func (r *reader) attributes(i, p int, a *attributes) error {
	if a.Divisions > 0 {
		r.divisions[p] = a.Divisions
	}
	if a.Transpose != nil {
		r.shift[p] = a.Transpose.Chromatic + 12*a.Transpose.Octaves
	}
	for _, s := range a.Styles {
		if s.Repeat == nil {
			continue
		}
		if r.again[p] = 0; s.Repeat.Type == "start" {
			n, err := strconv.Atoi(strings.TrimSpace(s.Repeat.Bars))
			if err != nil || n < 1 {
				n = 1
			}
			r.again[p] = n
		}
	}
	if a.Key != nil && p == max(0, r.tune) {
		k := keyOf(a.Key.Fifths, a.Key.Mode == "minor").Up(((r.shift[p] % 12) + 12) % 12).Symbol()
		switch {
		case r.out.Key == "" && i == 0:
			r.out.Key = k
		case r.out.Key != k:
			r.leave(i, leftKey)
		}
	}
	if a.Time == nil {
		return nil
	}
	written := a.Time.Beats + "/" + a.Time.Unit
	m, err := pattern.ParseMeter(written)
	switch {
	case err == nil:
	case written == "2/2" || written == "4/2":
		m = pattern.Meter{Beats: 4, Unit: 4}
		r.problem(i+1, "%s is read as 4/4", written)
	case r.meter == (pattern.Meter{}):
		return fmt.Errorf("musicxml: bar %d: Arplin doesn’t know the time signature %s. It knows 2/4, 3/4, 4/4, 5/4, 6/8, 9/8 or 12/8", i+1, letters.Cut(written, 12))
	default:
		r.problem(i+1, "Arplin doesn’t know the time signature %s, so the bar is read in %s", letters.Cut(written, 12), r.meter)
		m = r.meter
	}
	r.meter = m
	return nil
}

// keyOf is the key with so many sharps, flats below zero.
func keyOf(fifths int, minor bool) theory.Key {
	fifths = max(-7, min(7, fifths))
	letter := []theory.Letter{3, 0, 4, 1, 5, 2, 6} // F C G D A E B, by fifths from F
	at := fifths + 1
	if minor {
		at += 3
	}
	n := theory.Note{Letter: letter[((at%7)+7)%7], Alter: int8(math.Floor(float64(at) / 7))}
	return theory.Key{Tonic: n, Minor: minor}
}

// tempo takes the first tempo that is written.
func (r *reader) tempo(i int, quarters float64) {
	if quarters <= 0 {
		return
	}
	if r.meter.Compound() {
		quarters /= 1.5
	}
	tempo := max(bpm.Min, min(bpm.Max, int(math.Round(quarters))))
	if r.tempoSaid && tempo != r.out.Tempo {
		r.leave(i, leftTempo)
	}
	if !r.tempoSaid {
		r.out.Tempo, r.tempoSaid = tempo, true
	}
}

// sounding is a chord of a part that is written for an instrument in another key as it sounds.
func (r *reader) sounding(p int, symbol string) string {
	up := ((r.shift[p] % 12) + 12) % 12
	c, err := theory.ParseChord(symbol)
	if up == 0 || err != nil {
		return symbol
	}
	from := theory.Key{Tonic: c.Root, Minor: c.Minor()}
	return c.Transpose(from, from.Up(up)).String()
}

// said reads what stands over or under a bar.
func (r *reader) said(b *read, i int, d *said) {
	for _, name := range d.Rehearsal {
		b.name = strings.TrimSpace(name)
	}
	if d.Sound != nil && d.Sound.Tempo > 0 {
		r.tempo(i, d.Sound.Tempo)
	} else if d.Metronome != nil {
		if n, err := strconv.ParseFloat(strings.TrimSpace(d.Metronome.PerMinute), 64); err == nil {
			unit := map[string]float64{"quarter": 1, "half": 2, "eighth": 0.5}[d.Metronome.Unit]
			if d.Metronome.Dot != nil {
				unit *= 1.5
			}
			r.tempo(i, n*unit)
		}
	}
	for _, text := range d.Words {
		text = strings.Join(strings.Fields(text), " ")
		role := song.Plain
		for known, says := range roleWords {
			if says == text {
				role = known
			}
		}
		switch {
		case text == "":
		case text == swung:
			r.out.Swing = true
		case role != song.Plain:
			b.role = role
		case d.Placement == "below":
			b.words = strings.TrimSpace(b.words + " " + text)
		default:
			r.problem(i+1, "“%s” is left out", letters.Cut(text, 60))
		}
	}
	if d.Segno != nil || d.Coda != nil {
		r.problem(i+1, "a jump (segno or coda) is left out, so the bars come as written")
	}
}

func (r *reader) barline(b *read, i int, x *barline) {
	if x.Repeat != nil && x.Repeat.Direction == "forward" {
		b.forward = true
	}
	if x.Repeat != nil && x.Repeat.Direction == "backward" {
		b.backward = max(2, x.Repeat.Times)
	}
	if x.Ending == nil {
		return
	}
	if x.Ending.Type != "start" {
		b.stop = true
		return
	}
	first, _, several := strings.Cut(x.Ending.Number, ",")
	n, err := strconv.Atoi(strings.TrimSpace(first))
	if err != nil || n < 1 || n > song.MaxEnding {
		r.problem(i+1, "the ending %q is left out", letters.Cut(x.Ending.Number, 20))
		return
	}
	if several {
		r.problem(i+1, "the ending %q is taken for the first of these", letters.Cut(x.Ending.Number, 20))
	}
	b.start = n
}
