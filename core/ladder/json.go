package ladder

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"

	"arplin/core/difficulty"
	"arplin/core/ladder/order"
	"arplin/core/ladder/station"
	"arplin/core/pattern"
	"arplin/core/song"
	"arplin/core/variation"
)

// format is the number of the JSON form. Form 1 was a list of steps without ids,
// with English words for what they add.
const format = 2

type ladderRow struct {
	Format int         `json:"format"`
	Order  string      `json:"order"`
	Size   string      `json:"size,omitempty"`
	Chords string      `json:"chords,omitempty"`
	Parts  string      `json:"parts,omitempty"`
	Next   int         `json:"next"`
	Steps  []stepRow   `json:"steps"`
	Begin  Beginning   `json:"begin,omitzero"`
	Tune   song.TuneID `json:"tune,omitempty"`
}

type stepRow struct {
	ID      StepID          `json:"id"`
	Pattern string          `json:"pattern"`
	Adds    []Thing         `json:"adds"`
	Over    Over            `json:"over,omitempty"`
	Play    difficulty.Play `json:"play,omitempty"`
	Pace    int             `json:"pace,omitempty"`
	Level   float64         `json:"level,omitempty"`
	Pinned  bool            `json:"pinned,omitempty"`
	Remark  string          `json:"remark,omitempty"`
	Home    bool            `json:"home,omitempty"`
	Parts   []partRow       `json:"parts,omitempty"`
	Station station.ID      `json:"station,omitempty"`
}

type partRow struct {
	Sections []song.SectionID `json:"sections"`
	Pattern  string           `json:"pattern"`
}

// Encode writes a ladder as JSON.
func (l Ladder) Encode() ([]byte, error) {
	row := ladderRow{Format: format, Order: string(l.Order), Size: string(l.Size), Chords: string(l.Chords), Parts: string(l.Parts), Next: l.Next, Steps: []stepRow{}, Begin: l.Begin, Tune: l.Tune}
	for _, s := range l.Steps {
		r := stepRow{s.ID, s.Pattern.String(), s.Adds, s.Over, s.Play, s.Pace, s.Level, s.Pinned, s.Remark, s.Home, nil, s.Station}
		for _, part := range s.Parts {
			r.Parts = append(r.Parts, partRow{part.Sections, part.Pattern.String()})
		}
		row.Steps = append(row.Steps, r)
	}
	return json.Marshal(row)
}

// Decode is the inverse of Encode; it also reads form 1, whose order was kept
// beside it and whose steps are numbered from below.
func Decode(data []byte) (Ladder, error) {
	if bytes.HasPrefix(bytes.TrimSpace(data), []byte("[")) {
		return decodeFirst(data)
	}
	var row ladderRow
	if err := json.Unmarshal(data, &row); err != nil {
		return Ladder{}, fmt.Errorf("ladder: %w", err)
	}
	if row.Format > format {
		return Ladder{}, fmt.Errorf("ladder: it is in form %d, and this program reads up to %d", row.Format, format)
	}
	choice, err := order.Parse(row.Order, row.Size, row.Chords, row.Parts) // a step that was played has none
	if err != nil {
		return Ladder{}, fmt.Errorf("ladder: %w", err)
	}
	l := Ladder{Choice: choice, Next: row.Next, Begin: row.Begin, Tune: row.Tune}
	for _, r := range row.Steps {
		p, err := pattern.Decode(r.Pattern)
		if err != nil {
			return Ladder{}, fmt.Errorf("ladder, step %d: %w", r.ID, err)
		}
		s := Step{ID: r.ID, Pattern: p, Adds: r.Adds, Over: r.Over, Play: r.Play, Pace: r.Pace, Level: r.Level, Pinned: r.Pinned, Remark: r.Remark, Home: r.Home, Station: r.Station}
		for _, part := range r.Parts {
			p, err := pattern.Decode(part.Pattern)
			if err != nil {
				return Ladder{}, fmt.Errorf("ladder, step %d: %w", r.ID, err)
			}
			s.Parts = append(s.Parts, difficulty.Figure{Sections: part.Sections, Pattern: p})
		}
		l.Steps = append(l.Steps, s)
	}
	l.Steps, l.Next = Numbered(l.Steps, l.Next)
	return l, nil
}

// The words of form 1.
var (
	firstOver = map[string]Over{"one chord": OneChord, "two chords": TwoChords, "two chords, a bar each": TwoChordsABar, "all chords": AllChords}
	firstPlay = map[string]difficulty.Play{"muted strings": difficulty.Muted, "tapped": difficulty.Tapped, "said": difficulty.Said}
	firstStep = map[string]Stage{
		"the first stroke of the bar": FirstStroke, "the whole figure": WholeFigure, "the count, said": CountSaid, "the rhythm, tapped": Tapped,
		"muted strings": MutedStrings, "the first chord": FirstChord, "the second chord": SecondChord, "the change twice as often": Oftener,
		"all chords": WholeSong, "medium tempo": MediumTempo, "the goal tempo": GoalTempo, "by hand": Own,
	}
)

func decodeFirst(data []byte) (Ladder, error) {
	var rows []struct {
		Pattern, Adds, Over, Play string
		Level                     float64
		Pinned                    bool
		Pace                      int
	}
	if err := json.Unmarshal(data, &rows); err != nil {
		return Ladder{}, fmt.Errorf("ladder: %w", err)
	}
	l := Ladder{Choice: order.Choice{Order: order.ThumbFirst}}
	for i, r := range rows {
		p, err := pattern.Decode(r.Pattern)
		if err != nil {
			return Ladder{}, fmt.Errorf("ladder, step %d: %w", i+1, err)
		}
		l.Steps = append(l.Steps, Step{Pattern: p, Adds: firstAdds(r.Adds), Over: firstOver[r.Over], Play: firstPlay[r.Play], Pace: r.Pace, Level: r.Level, Pinned: r.Pinned})
	}
	l.Steps, l.Next = Numbered(l.Steps, 1)
	return l, nil
}

// firstAdds reads the words of form 1: names joined by commas, of which some hold
// a comma themselves. What is not known is the teacher's own.
func firstAdds(text string) (things []Thing) {
	for text != "" {
		short := false
		for _, prefix := range []string{"up to ", "part of "} {
			var cut bool
			if text, cut = strings.CutPrefix(text, prefix); cut {
				short = true
			}
		}
		thing, length := Thing{Stage: Own}, len(text)
		if i := strings.Index(text, ", "); i >= 0 {
			length = i
		}
		longest := 0
		for name, stage := range firstStep {
			if strings.HasPrefix(text, name) && len(name) > longest {
				thing, longest = Thing{Stage: stage}, len(name)
			}
		}
		for _, r := range variation.Rules { // ids are the first names with hyphens
			name := strings.ReplaceAll(string(r.ID), "-", " ")
			if r.ID == "first-off-beat" || r.ID == "other-off-beats" {
				name = strings.ReplaceAll(name, "off beat", "off-beat")
			}
			if strings.HasPrefix(text, name) && len(name) > longest {
				thing, longest = Thing{Rule: r.ID}, len(name)
			}
		}
		if longest > 0 {
			length = longest
		}
		thing.Short = short
		things = append(things, thing)
		text = strings.TrimPrefix(text[length:], ", ")
	}
	if len(things) == 0 {
		things = []Thing{{Stage: Own}}
	}
	return things
}
