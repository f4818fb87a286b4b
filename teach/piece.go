package teach

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/played"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/draw"
	"arplin/format/chordpro"
	"arplin/format/midifile"
	"arplin/format/musicxml"
	"arplin/format/tabtext"
	"arplin/store"
)

// What a song is written down as, whatever the format: the figure of each part, or one that is
// asked for on all of it, or a station of its tune, on an instrument.

// PieceAsk says what of a song is written down.
type PieceAsk struct {
	Figure  figureOf       // nil for what each part is written with
	Station ladder.Station // of the tune, instead
}

// PieceOf binds a song as it is written.
func PieceOf(sg song.Song, ins fretboard.Instrument, c Class, ask PieceAsk) played.Line {
	_, l := pieceOf(sg, ins, c, ask, "")
	return l
}

func pieceOf(sg song.Song, ins fretboard.Instrument, c Class, ask PieceAsk, feel Feel) (songView, played.Line) {
	v := newSongView(sg, ins, c)
	if ask.Station != "" {
		return v, v.stationLine(sg, tuneTask(v).Station(ask.Station), feel)
	}
	figure := ask.Figure
	if figure == nil {
		figure = ownFigures(sg.Meter)
	}
	return v, v.lineOf(sg, feel.on(figure.in(sg.Meter)))
}

// SongPiece is one of the teacher's songs with what its parts are written with, a pattern on all of
// it, or a station of its tune.
func (t *Teach) SongPiece(ctx context.Context, teacher store.TeacherID, c Class, id store.SongID, instrument, ref string, ask PieceAsk) (played.Line, error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return played.Line{}, err
	}
	if ref != "" && ask.Station == "" {
		p, err := t.Pattern(ctx, teacher, ref)
		if err != nil {
			return played.Line{}, err
		}
		if p.Entry.Pattern.Meter != sg.Meter {
			return played.Line{}, refuse("this pattern is in %s, the song in %s", p.Entry.Pattern.Meter, sg.Meter)
		}
		ask.Figure = always(p.Entry.Pattern)
	}
	return PieceOf(sg.Song, c.Instrument(instrument), c, ask), nil
}

// PatternPiece is a pattern of the catalogue or the teacher's own over the chords of its page.
func (t *Teach) PatternPiece(ctx context.Context, teacher store.TeacherID, c Class, ref, instrument string) (played.Line, error) {
	p, err := t.Pattern(ctx, teacher, ref)
	if err != nil {
		return played.Line{}, err
	}
	bars, err := benchBars(p.Entry.Pattern)
	if err != nil {
		return played.Line{}, err
	}
	sg := song.Song{Title: p.Name, Meter: p.Entry.Pattern.Meter, Tempo: tempoOf(p.Entry), Swing: p.Entry.Pattern.Swing, Sections: []song.Section{{Name: p.Name, Bars: bars}}}
	return PieceOf(sg.Numbered(), c.Instrument(instrument), c, PieceAsk{Figure: always(p.Entry.Pattern)}), nil
}

// StepPiece is a step of a ladder on its part of the song.
func (l Ladder) StepPiece(id ladder.StepID, instrument string) (played.Line, error) {
	at := ladder.Find(l.Steps, id)
	if at < 0 {
		return played.Line{}, store.ErrNotFound
	}
	step, ins := l.Steps[at], l.Instrument
	if step.BeforeStrings() {
		return played.Line{}, refuse("step %d is not on strings yet: there is nothing to write down", at+1)
	}
	if step.Station == "" && l.Target.Meter != l.Song.Meter { // it can be heard, but its bars do not add up on paper
		return played.Line{}, refuse("%s", l.Apart())
	}
	if i, err := fretboard.ByID(instrument); err == nil {
		ins = i
	}
	_, p := l.stepLine(step, ins, l.fingered(), "")
	return p, nil
}

// Format is a way to write a song down, or to read one.
type Format string

// The formats.
const (
	ChordSheet Format = "chordpro"
	MusicXML   Format = "musicxml"
	MIDI       Format = "midi"
	TabText    Format = "text"
	SVGStrip   Format = "svg"
	WAVSound   Format = "wav"
	BundleZip  Format = "bundle"
)

// FormatOf is a format with what its file is called and what it is.
type FormatOf struct {
	Format Format
	Ending string
	Type   string
	Name   string
}

// Formats lists those in which a song leaves.
var Formats = []FormatOf{
	{ChordSheet, ".cho", "text/plain; charset=utf-8", "chord sheet"},
	{MusicXML, ".musicxml", "application/vnd.recordare.musicxml+xml", "MusicXML"},
	{MIDI, ".mid", "audio/midi", "MIDI"},
	{TabText, ".txt", "text/plain; charset=utf-8", "tablature as text"},
}

// WritePiece writes a piece in a format that needs no more than it.
func WritePiece(p played.Line, f Format) ([]byte, error) {
	switch f {
	case ChordSheet:
		return []byte(chordpro.Write(p.Song)), nil
	case MusicXML:
		data, err := musicxml.Write(p)
		return data, refused(err)
	case TabText:
		return []byte(tabtext.Write(p)), nil
	case MIDI:
		data, err := midifile.Write(midiOf(p))
		return data, refused(err)
	}
	return nil, refuse("%q is no format of a song: chordpro, musicxml, midi, text", string(f))
}

// Programs of General MIDI, from 0: nylon and steel strings.
const (
	nylonProgram = 24
	steelProgram = 25
	voiceProgram = 73 // a flute, for the tune
)

// midiOf is a piece through the song as it is sung: a track for each part of the hand, a channel
// a string, and one for the tune.
func midiOf(p played.Line) midifile.File {
	const beatsAhead = 2 // bars that a string rings at most
	sg := p.Song
	f := midifile.File{Title: sg.Title, Division: pattern.TicksPerQuarter}
	quarters := float64(sg.Tempo)
	if sg.Meter.Compound() {
		quarters *= 1.5
	}
	f.Tempos = []midifile.Tempo{{Quarters: quarters}}
	program := nylonProgram
	if p.Instrument.Family == fretboard.Guitar {
		program = steelProgram
	}
	tracks := map[bind.Hand]*midifile.Track{}
	tune := midifile.Track{Name: "tune", Program: voiceProgram}
	end, meter := 0, pattern.Meter{}
	for _, at := range sg.Sung() {
		sec := sg.Sections[at.Section]
		bar, tick := sec.Bars[at.Bar], at.From
		if m := sg.MeterOf(bar); m != meter {
			meter = m
			f.Meters = append(f.Meters, midifile.Meter{Tick: tick, Beats: int(m.Beats), Unit: int(m.Unit)})
		}
		if at.Bar == 0 {
			f.Markers = append(f.Markers, midifile.Marker{Tick: tick, Text: sec.Name})
		}
		for _, s := range bind.Sounds(bind.School{}, p.Bars[at.Number].Events, tick) {
			if s.String == 0 || s.Tick >= tick+bar.Ticks() {
				continue
			}
			by := s.By
			if tracks[by] == nil {
				tracks[by] = &midifile.Track{Name: string(by), Program: program}
			}
			late := int(s.Late / 60000 * quarters * pattern.TicksPerQuarter)
			length := beatsAhead * meter.BarTicks()
			if s.Kind == bind.ChuckSound {
				length = meter.BeatTicks() / 8
			}
			tracks[by].Notes = append(tracks[by].Notes, midifile.Note{Channel: channelOf(s.String), Tick: s.Tick + late, Ticks: length, Key: s.MIDI + p.Capo, Velocity: int(40 + 80*s.Loud)})
		}
		for _, n := range bar.Melody {
			if k := len(tune.Notes); n.Mark == song.Tied && k > 0 {
				tune.Notes[k-1].Ticks += n.Ticks
				continue
			}
			tune.Notes = append(tune.Notes, midifile.Note{Channel: tuneChannel, Tick: tick + n.Tick, Ticks: n.Ticks, Key: n.MIDI, Velocity: 100, Lyric: n.Word})
		}
		end = tick + bar.Ticks()
	}
	f.Tracks = ringing(tracks, end)
	if len(tune.Notes) > 0 {
		f.Tracks = append([]midifile.Track{tune}, f.Tracks...)
	}
	return f
}

// channelOf is the channel of a string: from 0, past that of the drums.
func channelOf(s fretboard.String) int {
	if s >= 10 {
		return int(s)
	}
	return int(s) - 1
}

// tuneChannel is the channel of the tune, apart from those of strings and drums.
const tuneChannel = 15

// ringing ends each note where its string is struck again, by whatever part of the hand, or
// with the piece.
func ringing(tracks map[bind.Hand]*midifile.Track, end int) (list []midifile.Track) {
	struck := map[int][]int{} // by channel
	for _, t := range tracks {
		for _, n := range t.Notes {
			struck[n.Channel] = append(struck[n.Channel], n.Tick)
		}
	}
	for _, ticks := range struck {
		slices.Sort(ticks)
	}
	for _, by := range []bind.Hand{bind.ByMelody, bind.ByFingers, bind.ByThumb, bind.ByStrum} {
		t := tracks[by]
		if t == nil {
			continue
		}
		for i, n := range t.Notes {
			ticks := struck[n.Channel]
			next := end
			if at, _ := slices.BinarySearch(ticks, n.Tick+1); at < len(ticks) {
				next = ticks[at]
			}
			t.Notes[i].Ticks = max(1, min(n.Ticks, next-n.Tick))
		}
		slices.SortStableFunc(t.Notes, func(a, b midifile.Note) int { return cmp.Compare(a.Tick, b.Tick) })
		list = append(list, *t)
	}
	return list
}

// ScoreOf is a song as it is heard, with what is written down of it.
func ScoreOf(sg song.Song, ins fretboard.Instrument, c Class, ask PieceAsk) Score {
	v, l := pieceOf(sg, ins, c, ask, tuneFeel(ask.Station, sg.Swing, ""))
	return v.score(l, difficulty.OnStrings, sg.Title, song.TemposFor(sg.Tempo), ScoreAsk{})
}

// BarStrip draws a bar of a piece, counted from 1, as a picture.
func BarStrip(p played.Line, number int) (draw.SVG, error) {
	bars := p.Fingered.Bars()
	if number < 1 || number > len(bars) {
		return "", refuse("bar %d: it has %s", number, say.Count(len(bars), "bar", "bars"))
	}
	bar, on := bars[number-1], p.Bars[number-1]
	if on.Grid == 0 {
		return "", refuse("nothing is played in bar %d: put a pattern on the song first", number)
	}
	one := pattern.Pattern{Meter: p.Fingered.MeterOf(bar), Bars: []pattern.Bar{make(pattern.Bar, on.Grid)}}
	return barStrip(p.Instrument, one, on.Events, narrowSlot, false, fmt.Sprintf("%s, bar %d", p.Song.Title, number)), nil
}
