package midifile

import (
	"bytes"
	"cmp"
	"errors"
	"fmt"
	"math/bits"
	"slices"

	"gitlab.com/gomidi/midi/v2"
	"gitlab.com/gomidi/midi/v2/smf"
)

// File is a piece as such a file holds it. Ticks count from the beginning.
type File struct {
	Title    string
	Division int // ticks a quarter
	Tempos   []Tempo
	Meters   []Meter
	Markers  []Marker
	Tracks   []Track
}

// Tempo is so many quarters a minute from a tick on.
type Tempo struct {
	Tick     int
	Quarters float64
}

// Meter is a meter from a tick on.
type Meter struct{ Tick, Beats, Unit int }

// Marker names a place.
type Marker struct {
	Tick int
	Text string
}

// Track is a part.
type Track struct {
	Name    string
	Program int // of General MIDI, from 0; -1 for none
	Notes   []Note
}

// Note is a note on a channel, from 0 to 15.
type Note struct {
	Channel     int
	Tick, Ticks int
	Key         int // MIDI number
	Velocity    int // 1 to 127
	Lyric       string
}

// Limits of what is read: files as teachers have them are far smaller.
const (
	MaxBytes    = 4 << 20
	maxNotes    = 200_000
	maxDivision = 1<<15 - 1
)

// timed is a message at a tick; what ends comes before what begins.
type timed struct {
	tick, order int
	message     []byte
}

func track(list []timed) (t smf.Track) {
	slices.SortStableFunc(list, func(a, b timed) int { return cmp.Or(a.tick-b.tick, a.order-b.order) })
	at := 0
	for _, m := range list {
		t.Add(uint32(m.tick-at), m.message)
		at = m.tick
	}
	t.Close(0)
	return t
}

// Write writes a file of format 1: a track of tempo, meter and markers, and one for each part.
func Write(f File) ([]byte, error) {
	if f.Division < 1 || f.Division > maxDivision {
		return nil, fmt.Errorf("midi: %d ticks a quarter are not from 1 to %d", f.Division, maxDivision)
	}
	s := smf.NewSMF1()
	s.TimeFormat = smf.MetricTicks(f.Division)
	head := []timed{{0, 0, smf.MetaTrackSequenceName(f.Title)}}
	for _, m := range f.Meters {
		if m.Beats < 1 || m.Beats > 255 || bits.OnesCount(uint(m.Unit)) != 1 {
			return nil, fmt.Errorf("midi: %d/%d is no time signature of such a file", m.Beats, m.Unit)
		}
		head = append(head, timed{m.Tick, 1, smf.MetaMeter(uint8(m.Beats), uint8(m.Unit))})
	}
	for _, t := range f.Tempos {
		head = append(head, timed{t.Tick, 2, smf.MetaTempo(t.Quarters)})
	}
	for _, m := range f.Markers {
		head = append(head, timed{m.Tick, 3, smf.MetaMarker(m.Text)})
	}
	if err := s.Add(track(head)); err != nil {
		return nil, fmt.Errorf("midi: %w", err)
	}
	for _, t := range f.Tracks {
		if err := s.Add(track(t.messages())); err != nil {
			return nil, fmt.Errorf("midi: %w", err)
		}
	}
	var out bytes.Buffer
	if _, err := s.WriteTo(&out); err != nil {
		return nil, fmt.Errorf("midi: %w", err)
	}
	return out.Bytes(), nil
}

func (t Track) messages() []timed {
	list := []timed{{0, 0, smf.MetaTrackSequenceName(t.Name)}}
	said := map[int]bool{}
	for _, n := range t.Notes {
		channel := uint8(n.Channel & 15)
		if t.Program >= 0 && !said[n.Channel] {
			said[n.Channel] = true
			list = append(list, timed{0, 1, midi.ProgramChange(channel, uint8(t.Program&127))})
		}
		if n.Lyric != "" {
			list = append(list, timed{n.Tick, 3, smf.MetaLyric(n.Lyric)})
		}
		list = append(list, timed{n.Tick, 4, midi.NoteOn(channel, uint8(n.Key&127), uint8(min(127, max(1, n.Velocity))))},
			timed{n.Tick + max(1, n.Ticks), 2, midi.NoteOff(channel, uint8(n.Key&127))})
	}
	return list
}

// Read reads a file. Tracks without a note are left out; a note that is never ended ends with
// its track.
func Read(data []byte) (f File, err error) {
	if len(data) > MaxBytes {
		return f, fmt.Errorf("midi: the file has %d bytes; %d are the most", len(data), MaxBytes)
	}
	if !bytes.HasPrefix(data, []byte("MThd")) {
		return f, errors.New("midi: byte 0: this is not a MIDI file")
	}
	if err := whole(data); err != nil {
		return f, err
	}
	const at, frames = 12, 0x80 // the division, of which the highest bit says that it counts frames
	switch {
	case len(data) > at+1 && data[at]&frames != 0:
		return f, errFrames
	case len(data) > at+1 && data[at] == 0 && data[at+1] == 0:
		return f, fmt.Errorf("midi: byte %d: the file says that a quarter has no length", at)
	}
	defer func() { // the library can panic on bytes that are cut in the middle
		if p := recover(); p != nil {
			f, err = File{}, errors.New("midi: the file is cut or broken")
		}
	}()
	s, err := smf.ReadFrom(bytes.NewReader(data))
	if err != nil {
		return f, fmt.Errorf("midi: the file is cut or broken: %w", err)
	}
	division, ok := s.TimeFormat.(smf.MetricTicks)
	if !ok {
		return f, errFrames
	}
	f.Division = int(division)
	count := 0
	for i, t := range s.Tracks {
		read := f.track(i, t)
		if count += len(read.Notes); count > maxNotes {
			return File{}, fmt.Errorf("midi: more than %d notes", maxNotes)
		}
		if len(read.Notes) > 0 {
			f.Tracks = append(f.Tracks, read)
		}
	}
	return f, nil
}

var errFrames = errors.New("midi: byte 12: the file counts in frames of film, not in beats")

type sounding struct{ channel, key uint8 }

// track reads one track; what is said for all goes to the file.
func (f *File) track(number int, t smf.Track) (out Track) {
	out.Program = -1
	on := map[sounding]int{} // places in the notes
	tick, lyric, lyricAt := 0, "", -1
	end := func(s sounding) {
		if at, there := on[s]; there {
			out.Notes[at].Ticks = tick - out.Notes[at].Tick
			delete(on, s)
		}
	}
	for _, e := range t {
		tick += int(e.Delta)
		var a, b, c uint8
		var text string
		var tempo float64
		switch m := e.Message; {
		case m.GetMetaTrackName(&text) && number == 0 && f.Title == "":
			f.Title, out.Name = text, text
		case m.GetMetaTrackName(&text):
			out.Name = text
		case m.GetMetaTempo(&tempo):
			f.Tempos = append(f.Tempos, Tempo{tick, tempo})
		case m.GetMetaMeter(&a, &b):
			f.Meters = append(f.Meters, Meter{tick, int(a), int(b)})
		case m.GetMetaMarker(&text):
			f.Markers = append(f.Markers, Marker{tick, text})
		case m.GetMetaLyric(&text):
			lyric, lyricAt = text, tick
		case m.GetProgramChange(&a, &b) && out.Program < 0:
			out.Program = int(b)
		case m.GetNoteStart(&a, &b, &c):
			end(sounding{a, b})
			n := Note{Channel: int(a), Tick: tick, Key: int(b), Velocity: int(c)}
			if lyricAt == tick {
				n.Lyric, lyricAt = lyric, -1
			}
			on[sounding{a, b}] = len(out.Notes)
			out.Notes = append(out.Notes, n)
		case m.GetNoteEnd(&a, &b):
			end(sounding{a, b})
		}
	}
	for s := range on {
		end(s)
	}
	slices.SortStableFunc(out.Notes, func(x, y Note) int { return cmp.Or(x.Tick-y.Tick, x.Channel-y.Channel, x.Key-y.Key) })
	return out
}
