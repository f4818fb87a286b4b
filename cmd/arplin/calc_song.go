package main

import (
	"errors"
	"fmt"
	"io"
	"strings"
	"unicode/utf8"

	"arplin/core/fretboard"
	"arplin/core/song"
	"arplin/format/chordpro"
)

type songAnswer struct {
	Title  string     `json:"title"`
	Key    string     `json:"key"`
	Meter  string     `json:"meter"`
	Tempo  int        `json:"tempo"`
	Capo   int        `json:"capo,omitempty"`
	Parts  []songPart `json:"parts"`
	Played []int      `json:"played"`
	Left   []leftLine `json:"left"`
}

type songPart struct {
	Name  string    `json:"name"`
	Times int       `json:"times"`
	Bars  []songBar `json:"bars"`
}

type songBar struct {
	Meter  string      `json:"meter"`
	Chords []songChord `json:"chords"`
	Words  string      `json:"words"`
	Ending int         `json:"ending,omitempty"`
	Role   string      `json:"role,omitempty"`
}

type songChord struct {
	Chord string  `json:"chord"`
	Beats float64 `json:"beats"`
}

type leftLine struct {
	Line int    `json:"line"`
	Text string `json:"text"`
	Why  string `json:"why"`
}

// calcSong reads a chord sheet of any kind from the standard input. Chords are as
// the sheet has them: with a capo, its shapes.
func calcSong(f *calcFlags) (any, error) {
	text, err := io.ReadAll(io.LimitReader(f.in, chordpro.MaxBytes+1))
	if err != nil {
		return nil, fmt.Errorf("sheet: %w", err)
	}
	if !utf8.Valid(text) || strings.ContainsRune(string(text), 0) {
		return nil, errors.New("sheet: this is not plain text")
	}
	names := chordpro.Names(f.names)
	if names != chordpro.ByThemselves && names != chordpro.English && names != chordpro.German {
		return nil, fmt.Errorf("names: %q is neither english nor german", f.names)
	}
	sheet := chordpro.ReadSheet(string(text), names)
	if len(sheet.Song.Bars()) == 0 {
		return nil, fmt.Errorf("sheet: %s", sheet.Problems[len(sheet.Problems)-1])
	}
	guitar, err := fretboard.ByID("guitar")
	if err != nil {
		return nil, err
	}
	s := sheet.Song.Fingering(guitar)
	a := songAnswer{Title: s.Title, Key: s.KeyGuess().Key.String(), Meter: s.Meter.String(), Tempo: s.Tempo, Capo: sheet.Capo, Parts: []songPart{}, Played: []int{}, Left: []leftLine{}}
	for _, sec := range s.Sections {
		part := songPart{Name: sec.Name, Times: max(1, sec.Times), Bars: []songBar{}}
		for _, b := range sec.Bars {
			part.Bars = append(part.Bars, songBarOf(s, b))
		}
		a.Parts = append(a.Parts, part)
	}
	for _, at := range s.Sung() {
		a.Played = append(a.Played, at.Number+1)
	}
	a.Left = leftOf(sheet)
	return a, nil
}

func songBarOf(s song.Song, b song.Bar) songBar {
	meter := s.MeterOf(b)
	beat := float64(meter.BarTicks()) / float64(meter.Beats)
	a := songBar{Meter: meter.String(), Chords: []songChord{}, Words: b.Words, Ending: b.Ending, Role: string(b.Role)}
	for _, ch := range b.Changes {
		a.Chords = append(a.Chords, songChord{ch.Symbol, float64(ch.Ticks) / beat})
	}
	return a
}

// leftOf lists the lines that were kept as notes or not wholly understood.
func leftOf(sheet chordpro.Sheet) []leftLine {
	left := []leftLine{}
	why := map[int]string{}
	for _, p := range sheet.Problems {
		if why[p.Line] == "" {
			why[p.Line] = p.Reason
		}
	}
	for _, l := range sheet.Lines {
		reason := why[l.Number]
		if reason == "" && (l.As == chordpro.AsTab || l.As == chordpro.AsNote || l.As == chordpro.AsUnread) {
			reason = string(l.As)
		}
		if reason != "" {
			left = append(left, leftLine{l.Number, strings.TrimSpace(l.Text), reason})
		}
	}
	return left
}
