package files

import (
	"bytes"
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"arplin/core/bpm"
	"arplin/core/pattern"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/format/chordpro"
	"arplin/format/midifile"
	"arplin/format/musicxml"
	"arplin/format/tabtext"
	"arplin/letters"
	"arplin/teach/answer"
)

// Opened is a song that was read from a file.
type Opened struct {
	Song   song.Song
	From   Format
	Text   string   // the song as a chord sheet, in which it can be mended before it is kept
	Unused []string // what of the file could not be used, with its place
}

// maxUnused is how much of what could not be used is listed.
const maxUnused = 40

// ErrTab is a text that is tablature: it becomes a figure, not a song.
var ErrTab = errors.New("this is tablature. Import it under Patterns, Import tablature")

// OpenSong reads a song from a file of any format that Arplin knows: the bytes say which.
func OpenSong(data []byte) (o Opened, err error) {
	switch {
	case bytes.HasPrefix(data, []byte("MThd")):
		o.From = MIDI
		o.Song, o.Unused, err = songOfMIDI(data)
	case bytes.HasPrefix(data, []byte("PK")) || isXML(data):
		o.From = MusicXML
		var problems []musicxml.Problem
		o.Song, problems, err = musicxml.Read(data)
		for _, p := range problems {
			o.Unused = append(o.Unused, p.String())
		}
	default:
		o.From = ChordSheet
		if o.Text, err = letters.Text(data); err != nil {
			return o, answer.Refuse("this is no chord sheet, MusicXML or MIDI file")
		}
		var problems []chordpro.Problem
		o.Song, problems = chordpro.Read(o.Text)
		for _, p := range problems {
			o.Unused = append(o.Unused, p.String())
		}
		if tabtext.Mostly(o.Text) {
			return o, ErrTab
		}
		return o, nil
	}
	if err != nil {
		return o, answer.Refused(err)
	}
	if n := len(o.Unused) - maxUnused; n > 0 {
		o.Unused = append(o.Unused[:maxUnused], fmt.Sprintf("and %d more like these", n))
	}
	o.Text = chordpro.Write(o.Song)
	return o, nil
}

// isXML reports bytes that begin as XML does, in one byte a letter or two.
func isXML(data []byte) bool {
	if letters.Is16(data) {
		return bytes.HasPrefix(bytes.Trim(data[2:min(len(data), 4)], "\x00"), []byte("<"))
	}
	return bytes.HasPrefix(bytes.TrimLeft(bytes.TrimPrefix(data, []byte("\xef\xbb\xbf")), " \t\r\n"), []byte("<"))
}

// songOfMIDI takes the tune of a MIDI file: what a program has named so, else the track with words,
// else the highest.
func songOfMIDI(data []byte) (sg song.Song, unused []string, err error) {
	f, err := midifile.Read(data)
	if err != nil {
		return sg, nil, err
	}
	if len(f.Tracks) == 0 {
		return sg, nil, errors.New("midi: there is no note in it")
	}
	if n := withoutDrums(&f); len(f.Tracks) == 0 {
		return sg, nil, errors.New("midi: there are only drums in it (channel 10)")
	} else if n > 0 {
		unused = append(unused, fmt.Sprintf("left out: %s of drums (channel 10)", say.Count(n, "note", "notes")))
	}
	sg = song.Song{Title: letters.Cut(strings.TrimSpace(strings.Map(printable, f.Title)), song.MaxTitle), Meter: pattern.Meter{Beats: 4, Unit: 4}, Tempo: bpm.Usual}
	if sg.Title == "" {
		sg.Title = "A melody without a title"
	}
	if len(f.Meters) > 0 {
		written := fmt.Sprintf("%d/%d", f.Meters[0].Beats, f.Meters[0].Unit)
		if m, err := pattern.ParseMeter(written); err == nil {
			sg.Meter = m
		} else {
			unused = append(unused, fmt.Sprintf("Arplin doesn’t know the time signature %s, so it’s read as 4/4", written))
		}
		if slices.ContainsFunc(f.Meters, func(m midifile.Meter) bool { return m.Beats != f.Meters[0].Beats || m.Unit != f.Meters[0].Unit }) {
			unused = append(unused, "the time signature changes. The first one is used throughout")
		}
	}
	if len(f.Tempos) > 0 {
		quarters := f.Tempos[0].Quarters
		if sg.Meter.Compound() {
			quarters /= 1.5
		}
		sg.Tempo = max(bpm.Min, min(bpm.Max, int(quarters+0.5)))
		if slices.ContainsFunc(f.Tempos, func(t midifile.Tempo) bool { return abs(int(t.Quarters)-int(f.Tempos[0].Quarters)) > 0 }) {
			unused = append(unused, "the tempo changes. The first one is used")
		}
	}
	at := tuneTrack(f)
	for i, t := range f.Tracks {
		if i != at {
			unused = append(unused, fmt.Sprintf("the track “%s” is left out: a song takes one melody", letters.Cut(strings.Map(printable, t.Name), 60)))
		}
	}
	notes, moved, lower := quantised(f.Tracks[at].Notes, f.Division)
	if lower > 0 {
		unused = append(unused, fmt.Sprintf("left out: %s of chords. A melody has one note at a time, the highest", say.Count(lower, "lower note", "lower notes")))
	}
	if moved > 0 {
		unused = append(unused, fmt.Sprintf("%s moved to the nearest sixteenth or triplet", say.Count(moved, "note was", "notes were")))
	}
	sg.Sections = tuneSections(f, sg.Meter, notes, &unused)
	unused = append(unused, "a MIDI file has no chord symbols. Write the chords over the melody")
	return sg.Numbered(), unused, nil
}

// withoutDrums takes out what is on the channel of the drums, and says how many notes that are.
// Source: General MIDI System Level 1, 1991: channel 10.
func withoutDrums(f *midifile.File) (n int) {
	const drums = 9 // from 0
	for i := range f.Tracks {
		notes := slices.DeleteFunc(slices.Clone(f.Tracks[i].Notes), func(x midifile.Note) bool { return x.Channel == drums })
		n += len(f.Tracks[i].Notes) - len(notes)
		f.Tracks[i].Notes = notes
	}
	f.Tracks = slices.DeleteFunc(f.Tracks, func(t midifile.Track) bool { return len(t.Notes) == 0 })
	return n
}

func printable(r rune) rune {
	if r < ' ' || r == utf8.RuneError {
		return -1
	}
	return r
}

func tuneTrack(f midifile.File) int {
	best, at := -1.0, 0
	for i, t := range f.Tracks {
		points, sum := 0.0, 0
		name := strings.ToLower(t.Name)
		for _, word := range []string{"tune", "melod", "vocal", "voice", "lead"} {
			if strings.Contains(name, word) {
				points += 1000
			}
		}
		for _, n := range t.Notes {
			if n.Lyric != "" {
				points += 500
				break
			}
		}
		for _, n := range t.Notes {
			sum += n.Key
		}
		if points += float64(sum) / float64(len(t.Notes)); points > best || i == 0 {
			best, at = points, i
		}
	}
	return at
}

// quantised puts notes on sixteenths or triplets of the quarter, of those that begin together the
// highest, each at most to the next; moved is how many stood more than a hair beside, lower how
// many were not the highest.
func quantised(notes []midifile.Note, division int) (list []song.MelodyNote, moved, lower int) {
	const q = pattern.TicksPerQuarter
	nearest := func(ticks int) int {
		exact := ticks * q / division
		best := exact / q * q
		for _, part := range []int{0, q / 4, q / 3, q / 2, 2 * q / 3, 3 * q / 4, q} {
			if at := exact/q*q + part; abs(at-exact) < abs(best-exact) {
				best = at
			}
		}
		if abs(best-exact) > q/48 {
			moved++
		}
		return best
	}
	for _, n := range notes {
		at := nearest(n.Tick)
		end := (n.Tick+n.Ticks)*q/division + q/24
		end = max(at+q/4, end-end%(q/12))
		w := song.MelodyNote{Tick: at, Ticks: end - at, MIDI: n.Key, Word: strings.Map(printable, strings.Join(strings.Fields(n.Lyric), "_"))}
		if k := len(list); k > 0 && list[k-1].Tick == at {
			lower++
			if w.MIDI > list[k-1].MIDI {
				list[k-1] = w
			}
			continue
		} else if k > 0 {
			list[k-1].Ticks = min(list[k-1].Ticks, at-list[k-1].Tick)
		}
		list = append(list, w)
	}
	return list, moved, lower
}

func abs(n int) int { return max(n, -n) }

// tuneSections cuts a tune into bars, and these at the markers of the file.
func tuneSections(f midifile.File, m pattern.Meter, notes []song.MelodyNote, unused *[]string) []song.Section {
	bar := m.BarTicks()
	last := notes[len(notes)-1]
	count := (last.Tick + last.Ticks + bar - 1) / bar
	if count > song.MaxBars {
		*unused = append(*unused, fmt.Sprintf("it has %d bars. Arplin reads up to %d, so the rest is left out", count, song.MaxBars))
		count = song.MaxBars
	}
	bars := make([]song.Bar, count)
	for i := range bars {
		bars[i].Changes = []song.Change{{Symbol: song.NoChord, Ticks: bar}}
	}
	for _, n := range notes {
		if n.MIDI < song.LowestNote || n.MIDI > song.HighestNote {
			*unused = append(*unused, fmt.Sprintf("bar %d: a note is left out because it’s too high or too low to play", n.Tick/bar+1))
			continue
		}
		for n.Ticks > 0 && n.Tick/bar < count { // over the bar line it is tied
			part := n
			at := n.Tick / bar
			part.Tick = n.Tick % bar
			part.Ticks = min(n.Ticks, bar-part.Tick)
			if len(bars[at].Melody) < song.MaxMelodyNotes {
				bars[at].Melody = append(bars[at].Melody, part)
			} else if says := fmt.Sprintf("bar %d: a bar holds up to %d notes, so the rest is left out", at+1, song.MaxMelodyNotes); !slices.Contains(*unused, says) {
				*unused = append(*unused, says)
			}
			n.Tick, n.Ticks, n.Mark, n.Word = n.Tick+part.Ticks, n.Ticks-part.Ticks, song.Tied, ""
		}
	}
	var sections []song.Section
	for i, b := range bars {
		name := ""
		for _, mark := range f.Markers {
			if mark.Tick*pattern.TicksPerQuarter/f.Division/bar == i {
				name = strings.TrimSpace(strings.Map(printable, mark.Text))
			}
		}
		if i == 0 || name != "" {
			if name == "" {
				name = "Part 1"
			}
			sections = append(sections, song.Section{Name: letters.Cut(name, song.MaxSectionName)})
		}
		k := len(sections) - 1
		sections[k].Bars = append(sections[k].Bars, b)
	}
	return sections
}
