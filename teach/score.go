package teach

import (
	"context"
	"slices"
	"strings"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/sound"
	"arplin/store"
)

// Score is what is played: everything in ticks from the beginning, so that the tempo is
// the player's.
type Score struct {
	Title   string        `json:"title"`
	Beat    int           `json:"beat"` // ticks of a tapped beat
	Unit    string        `json:"unit"` // its name
	Slow    int           `json:"slow"`
	Medium  int           `json:"medium"`
	Goal    int           `json:"goal"`
	Strings sound.Strings `json:"strings"` // whose tones
	Ticks   int           `json:"ticks"`   // of the whole
	Bars    []ScoreBar    `json:"bars"`
	Notes   []ScoreNote   `json:"notes"` // in the order in which they sound
}

// ScoreBar is a bar under the playhead.
type ScoreBar struct {
	From   int    `json:"from"`
	Beats  int    `json:"beats"`
	Chords string `json:"chords"`
	Words  string `json:"words,omitempty"`
}

// ScoreNote is a string, a knock, or a stop of all strings.
type ScoreNote struct {
	Tick   int            `json:"t"`
	Late   float64        `json:"late,omitempty"` // milliseconds
	String int            `json:"s,omitempty"`
	MIDI   int            `json:"m,omitempty"`
	Kind   bind.SoundKind `json:"k"`
	By     bind.Hand      `json:"by,omitempty"`
	Loud   float64        `json:"loud,omitempty"`
}

// family is whose strings an instrument has.
func family(ins fretboard.Instrument) sound.Strings {
	if ins.Family == fretboard.Guitar {
		return sound.Steel
	}
	return sound.Nylon
}

// scored is a song with the figure of each of its sections.
type scored struct {
	view   songView
	figure func(song.Section) (pattern.Pattern, bool)
	stage  []string // chords that are played, as they are fingered; nil for all
	play   difficulty.Play
}

// score binds the bars as they are sung.
func (s scored) score(title string, tempos song.Tempos, capo int) Score {
	v := s.view
	out := Score{Title: title, Beat: v.song.Meter.BeatTicks(), Unit: v.song.Meter.BeatName(), Slow: tempos.Slow, Medium: tempos.Medium, Goal: tempos.Goal, Strings: family(v.ins)}
	bound := make([][]bind.SongBar, len(v.song.Sections))
	figures := make([]pattern.Pattern, len(v.song.Sections))
	for i, sec := range v.song.Sections {
		if p, ok := s.figure(sec); ok {
			figures[i], bound[i] = p, bind.Section(v.ins, v.school, p, sec, v.shapes)
		}
	}
	for _, at := range v.song.Form() {
		bar := v.song.Sections[at.Section].Bars[at.Bar]
		ticks := bar.Ticks()
		out.Bars = append(out.Bars, ScoreBar{out.Ticks, (ticks + out.Beat - 1) / out.Beat, song.BarText(bar.Changes, v.song.MeterOf(bar)), bar.Words})
		if bound[at.Section] != nil && s.sounds(bar) {
			out.add(s.play, bind.Sounds(v.school, bound[at.Section][at.Bar].Events, out.Ticks), capo)
			if bar.Role == "" {
				out.add(s.play, bind.Stops(figures[at.Section], bound[at.Section][at.Bar].PatternBar, out.Ticks), 0)
			}
		}
		out.Ticks += ticks
	}
	slices.SortStableFunc(out.Notes, func(a, b ScoreNote) int { return a.Tick - b.Tick })
	return out
}

// sounds reports that the chords of a bar are of the stage.
func (s scored) sounds(bar song.Bar) bool {
	return s.stage == nil || !slices.ContainsFunc(bar.Changes, func(c song.Change) bool { return !slices.Contains(s.stage, c.Symbol) })
}

// add takes sounds; before the strings they are knocks, and on muted strings chucks.
func (s *Score) add(play difficulty.Play, sounds []bind.Sound, capo int) {
	for _, x := range sounds {
		n := ScoreNote{x.Tick, x.Late, int(x.String), x.MIDI, x.Kind, x.By, x.Loud}
		switch {
		case x.Kind == bind.StopSound || x.Kind == bind.KnockSound:
		case play == difficulty.Said || play == difficulty.Tapped:
			n = ScoreNote{Tick: x.Tick, Kind: bind.KnockSound, By: x.By, Loud: x.Loud}
			if k := len(s.Notes); k > 0 && s.Notes[k-1].Tick == n.Tick { // a strum is one tap
				continue
			}
		case play == difficulty.Muted:
			n.Kind = bind.ChuckSound
		default:
			n.MIDI += capo
		}
		s.Notes = append(s.Notes, n)
	}
}

// PatternScore is a pattern over the four chords of its page, a bar each or as many as the
// pattern has.
func (t *Teach) PatternScore(ctx context.Context, teacher store.TeacherID, c Class, ref, instrument string) (Score, error) {
	p, err := t.Pattern(ctx, teacher, ref)
	if err != nil {
		return Score{}, err
	}
	var chords []string
	for _, chord := range append(slices.Clone(benchChords), benchChords[0]) {
		for range p.Entry.Pattern.Bars {
			chords = append(chords, chord)
		}
	}
	bars, err := song.ParseChords(strings.Join(chords, " | "), p.Entry.Pattern.Meter)
	if err != nil {
		return Score{}, refused(err)
	}
	tempo := 80
	if p.Tempo[1] > 0 {
		tempo = (p.Tempo[0] + p.Tempo[1]) / 2
	}
	sg := song.Song{Title: p.Name, Meter: p.Entry.Pattern.Meter, Tempo: tempo, Sections: []song.Section{{Bars: bars}}}
	s := scored{view: newSongView(sg, c.Instrument(instrument), c), figure: func(song.Section) (pattern.Pattern, bool) { return p.Entry.Pattern, true }, play: difficulty.OnStrings}
	return s.score(p.Name, song.TemposFor(tempo), 0), nil
}

// SongScore is a song with a pattern on all of it, or with each section's own.
func (t *Teach) SongScore(ctx context.Context, teacher store.TeacherID, c Class, id store.SongID, ref, instrument string) (Score, error) {
	sg, err := t.Store.Song(ctx, teacher, id)
	if err != nil {
		return Score{}, err
	}
	figure := func(sec song.Section) (pattern.Pattern, bool) { return sec.Figure(sg.Meter) }
	if ref != "" {
		p, err := t.Pattern(ctx, teacher, ref)
		if err != nil {
			return Score{}, err
		}
		if p.Entry.Pattern.Meter != sg.Meter {
			return Score{}, refuse("this pattern is in %s, the song in %s", p.Entry.Pattern.Meter, sg.Meter)
		}
		figure = func(song.Section) (pattern.Pattern, bool) { return p.Entry.Pattern, true }
	}
	ins := c.Instrument(instrument)
	s := scored{view: newSongView(sg.Song, ins, c), figure: figure, play: difficulty.OnStrings}
	return s.score(sg.Title, song.TemposFor(sg.Tempo), sg.Capo[ins.ID]), nil
}

// StepScore is a step of a ladder on its song: the chords of its stage sound, where others
// are sung it rests.
func (l Ladder) StepScore(id ladder.StepID, instrument string) (Score, error) {
	at := ladder.Find(l.Steps, id)
	if at < 0 {
		return Score{}, store.ErrNotFound
	}
	step := l.Steps[at]
	ins := l.Instrument
	if i, err := fretboard.ByID(instrument); err == nil {
		ins = i
	}
	part := l.Song.Part(l.Sections)
	s := scored{view: newSongView(part, ins, l.Class), play: step.Play}
	s.figure = func(sec song.Section) (pattern.Pattern, bool) {
		for _, f := range step.Parts {
			if slices.Contains(f.Sections, sec.ID) {
				return f.Pattern, true
			}
		}
		return step.Pattern, true
	}
	if ins.ID == l.Instrument.ID { // the stage is written as the ladder's own instrument fingers it
		s.stage = step.Stage(l.task)
	}
	return s.score(l.SongTitle, step.Tempos(l.Song.Tempo), part.Capo[ins.ID]), nil
}
