package files

import (
	"arplin/core/played"
	"arplin/format/chordpro"
	"arplin/format/midifile"
	"arplin/format/musicxml"
	"arplin/format/tabtext"
	"arplin/teach/answer"
)

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

// FormatOf is a format: what its file is called, what it is, how a line is written in it.
type FormatOf struct {
	Format Format
	Ending string
	Type   string
	Name   string
	Write  func(played.Line) ([]byte, error)
}

// Formats lists those in which a song leaves.
var Formats = []FormatOf{
	{ChordSheet, ".cho", "text/plain; charset=utf-8", "chord sheet", func(l played.Line) ([]byte, error) { return []byte(chordpro.Write(l.Song)), nil }},
	{MusicXML, ".musicxml", "application/vnd.recordare.musicxml+xml", "MusicXML", musicxml.Write},
	{MIDI, ".mid", "audio/midi", "MIDI", func(l played.Line) ([]byte, error) { return midifile.Write(midifile.OfLine(l)) }},
	{TabText, ".txt", "text/plain; charset=utf-8", "tablature as text", func(l played.Line) ([]byte, error) { return []byte(tabtext.Write(l)), nil }},
}

// Write writes what is played in a format that needs no more than it.
func Write(l played.Line, f Format) ([]byte, error) {
	for _, of := range Formats {
		if of.Format == f {
			data, err := of.Write(l)
			return data, answer.Refused(err)
		}
	}
	return nil, answer.Refuse("%q is no format of a song: chordpro, musicxml, midi, text", string(f))
}
