package songs

import (
	"cmp"
	"context"
	"math"
	"slices"

	"arplin/core/bind"
	"arplin/core/bpm"
	"arplin/core/fretboard"
	"arplin/sound"
	"arplin/teach/answer"
)

// PlayAlong is what of a score is rendered to take home.
type PlayAlong struct {
	Tempo   int         // 0 for the slow one
	Click   bool        // on every beat
	CountIn bool        // a bar of clicks first
	Without []bind.Hand // parts that are left out: the student's own
}

// longestAlong is how long a play-along can be, in seconds.
const longestAlong = 360

// tail is how long the last strings ring.
const tail = 3.0

// chordStrings sets the strings of who plays the chords apart from those of the figure.
const chordStrings = fretboard.MaxStrings

// click is a click of the metronome.
type click struct {
	tick  int
	first bool // of its bar
}

// clicks are the beats of every bar, and the eighths of a compound meter whose beat is too
// slow to feel.
func (s Score) clicks(tempo int) (list []click) {
	every := s.Beat
	if s.Eighth > 0 && tempo < s.Slower {
		every = s.Eighth
	}
	for _, bar := range s.Bars {
		for tick := 0; tick < bar.Beats*s.Beat; tick += every {
			list = append(list, click{bar.From + tick, tick == 0})
		}
	}
	return list
}

// rendering are the play-alongs that are rendered at the same time: each takes some tens of
// megabytes, for less than a second.
var rendering = make(chan struct{}, 2)

var errBusy = answer.Refuse("Arplin is making other recordings right now. Try again in a minute")

// WAV renders a score once through.
func (s Score) WAV(ctx context.Context, p PlayAlong) (wav []byte, err error) {
	err = s.rendered(ctx, p, func(mix []float32) error { wav = sound.WAV(mix); return nil })
	return wav, err
}

// FLAC renders a score once through, for what goes home: a quarter of the size, and every browser
// plays it.
func (s Score) FLAC(ctx context.Context, p PlayAlong) (flac []byte, err error) {
	err = s.rendered(ctx, p, func(mix []float32) error { flac, err = sound.FLAC(mix); return err })
	return flac, err
}

// rendered mixes a score and gives it to what writes it; both end when nobody waits any more.
func (s Score) rendered(ctx context.Context, p PlayAlong, write func([]float32) error) error {
	notes, seconds, err := s.notes(p)
	if err != nil {
		return err
	}
	select {
	case rendering <- struct{}{}:
	case <-ctx.Done():
		return errBusy
	}
	defer func() { <-rendering }()
	mix := sound.MixUntil(notes, seconds, func() bool { return ctx.Err() != nil })
	if mix == nil {
		return errBusy
	}
	return write(mix)
}

// notes are the notes of a score at a tempo, with how long it is in seconds.
func (s Score) notes(p PlayAlong) (notes []sound.Note, seconds float64, err error) {
	if p.Tempo == 0 {
		p.Tempo = s.Slow
	}
	if p.Tempo < bpm.Min || p.Tempo > bpm.Max {
		return nil, 0, answer.Refuse("a tempo is %d to %d BPM", bpm.Min, bpm.Max)
	}
	tick := 60 / float64(p.Tempo) / float64(s.Beat)
	begins := 0.0
	clicks := s.clicks(p.Tempo)
	if p.CountIn && len(s.Bars) > 0 {
		bar := s.Bars[0].Beats * s.Beat
		for _, c := range clicks {
			if c.tick < bar {
				notes = append(notes, sound.Note{At: float64(c.tick) * tick, Tone: sound.Click(c.first), Loud: 1})
			}
		}
		begins = float64(bar) * tick
	}
	seconds = begins + float64(s.Ticks)*tick + tail
	if seconds > longestAlong {
		return nil, 0, answer.Refuse("at %d this is %d minutes long, and a play-along has up to six", p.Tempo, int(math.Ceil(seconds/60)))
	}
	for _, n := range s.Notes {
		if slices.Contains(p.Without, n.By) {
			continue
		}
		note := sound.Note{At: begins + float64(n.Tick)*tick + n.Late/1000, Loud: n.Loud, String: n.String}
		if n.By == bind.ByChords {
			note.String += chordStrings
		}
		switch n.Kind {
		case bind.StopSound:
			note.Stop = true
		case bind.KnockSound:
			note.Tone = sound.Knock()
		default:
			note.Of = sound.Tone{Strings: s.Strings, Touch: sound.Touch(n.Kind), Hertz: sound.Hertz(n.MIDI)}
		}
		notes = append(notes, note)
	}
	if p.Click {
		for _, c := range clicks {
			notes = append(notes, sound.Note{At: begins + float64(c.tick)*tick, Tone: sound.Click(c.first), Loud: 0.8})
		}
	}
	slices.SortStableFunc(notes, func(a, b sound.Note) int { return cmp.Compare(a.At, b.At) })
	return notes, seconds, nil
}
