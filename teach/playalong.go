package teach

import (
	"cmp"
	"math"
	"slices"

	"arplin/core/bind"
	"arplin/core/fretboard"
	"arplin/core/practice"
	"arplin/sound"
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

// WAV renders a score once through.
func (s Score) WAV(p PlayAlong) ([]byte, error) {
	if p.Tempo == 0 {
		p.Tempo = s.Slow
	}
	if p.Tempo < practice.MinTempo || p.Tempo > practice.MaxTempo {
		return nil, refuse("a tempo has %d to %d beats a minute", practice.MinTempo, practice.MaxTempo)
	}
	tick := 60 / float64(p.Tempo) / float64(s.Beat)
	begins := 0.0
	var notes []sound.Note
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
	seconds := begins + float64(s.Ticks)*tick + tail
	if seconds > longestAlong {
		return nil, refuse("at %d this is %d minutes long; a play-along has six at most", p.Tempo, int(math.Ceil(seconds/60)))
	}
	rendering <- struct{}{}
	defer func() { <-rendering }()
	tones := map[sound.Tone][]float64{}
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
			tone := sound.Tone{Strings: s.Strings, Touch: sound.Touch(n.Kind), Hertz: sound.Hertz(n.MIDI)}
			if tones[tone] == nil {
				tones[tone] = tone.Samples()
			}
			note.Tone = tones[tone]
		}
		notes = append(notes, note)
	}
	if p.Click {
		for _, c := range clicks {
			notes = append(notes, sound.Note{At: begins + float64(c.tick)*tick, Tone: sound.Click(c.first), Loud: 0.8})
		}
	}
	slices.SortStableFunc(notes, func(a, b sound.Note) int { return cmp.Compare(a.At, b.At) })
	return sound.WAV(sound.Mix(notes, seconds)), nil
}
