package musicxml

import (
	"cmp"
	"slices"
	"strconv"
	"strings"

	"arplin/core/song"
	"arplin/core/theory"
	"arplin/letters"
)

// note reads a note of the tune: of the first voice that comes, of a chord the highest.
func (r *reader) note(b *read, i, tick, ticks, shift int, x *note) {
	voice := cmp.Or(x.Voice, "1")
	if r.voice == "" && x.Pitch != nil {
		r.voice = voice
	}
	if x.Pitch != nil && (voice != r.voice || x.Staff > 1) {
		r.leave(i, leftVoice)
	}
	if x.Pitch == nil || voice != r.voice || x.Staff > 1 || ticks <= 0 {
		if x.Rest != nil && voice == r.voice {
			r.tied = false
		}
		return
	}
	p, err := theory.ParsePitch(noteText(x.Pitch.Step, int(x.Pitch.Alter)) + strconv.Itoa(x.Pitch.Octave))
	if err != nil {
		r.problem(i+1, "a note is left out: %v", err)
		return
	}
	n := song.MelodyNote{Tick: tick, Ticks: ticks, MIDI: p.MIDI() + shift}
	if len(x.Lyrics) > 0 {
		n.Word = wordOf(x.Lyrics[0])
	}
	if len(x.Lyrics) > 1 {
		r.leave(i, leftVerse)
	}
	for _, t := range x.Ties {
		if t.Type == "stop" {
			n.Mark = song.Tied
		}
	}
	if x.Notations != nil && n.Mark == song.Struck {
		if slices.ContainsFunc(x.Notations.Slides, func(s spanner) bool { return s.Type == "stop" }) {
			n.Mark = song.Slid
		}
		if t := x.Notations.Technical; t != nil && slices.ContainsFunc(t.Hammers, func(s spanner) bool { return s.Type == "stop" }) {
			n.Mark = song.Hammered
		}
	}
	if k := len(b.melody); k > 0 && b.melody[k-1].Tick == tick { // a chord: the highest
		r.leave(i, leftLower)
		if n.MIDI > b.melody[k-1].MIDI {
			n.Word = cmp.Or(n.Word, b.melody[k-1].Word)
			b.melody[k-1] = n
		}
		return
	}
	b.melody = append(b.melody, n)
}

func wordOf(l lyric) string {
	text := strings.Join(strings.FieldsFunc(l.Text, func(r rune) bool { return strings.ContainsRune(" \t\n{}|=\u00a0", r) }), "_")
	if text != "" && (l.Syllabic == "begin" || l.Syllabic == "middle") && !strings.HasSuffix(text, "-") {
		text += "-"
	}
	return letters.Cut(text, 40)
}
