package vary

import (
	"fmt"
	"strings"

	"arplin/core/bind"
	"arplin/core/demand"
	"arplin/core/fretboard"
	"arplin/core/hand"
	"arplin/core/song"
)

// Move is something that can be done to a whole song to make it simpler or
// harder, as an edit that the song's history can take back.
type Move struct {
	Name  string
	Says  string
	Edit  song.Edit
	Level float64 // of the pattern on the changed song
	Class bool    // changes what sounds, so for the whole class at once
}

// Moves lists what can be done to a song under a pattern on one instrument: an
// easier shape, a capo, colours, half the changes, another meter. The class is
// who plays the song. Moves that a song has no use for are left out.
func Moves(sg song.Song, p hand.Pattern, ins fretboard.Instrument, class []song.Players, school bind.School, w demand.Weights) []Move {
	levelOn := func(sg song.Song, q hand.Pattern) float64 {
		return demand.Of(demand.NewTask(q, sg, ins, school, sg.Tempo), w).Level
	}
	measured := func(m Move) (Move, bool) {
		changed, _, err := sg.Apply(m.Edit)
		q := p
		if err == nil && m.Edit.Op == song.Remeter {
			q, err = hand.Parse(m.Edit.Text)
		}
		if err != nil {
			return m, false
		}
		m.Level = levelOn(changed, q)
		return m, true
	}
	var list []Move
	add := func(m Move) {
		if m, ok := measured(m); ok {
			list = append(list, m)
		}
	}
	// Of the easier shapes the one that helps most: a shape that is easier to
	// hold can lie further from its neighbours.
	best := Move{Level: levelOn(sg, p)}
	for _, m := range easierShapes(sg, ins) {
		if m, ok := measured(m); ok && m.Level < best.Level {
			best = m
		}
	}
	if best.Name != "" {
		list = append(list, best)
	}
	if m, ok := easierCapo(sg, ins, class); ok {
		add(m)
	}
	add(Move{Name: "half the changes", Says: "Every second change is left out; the root stays where both chords have it.", Edit: song.Edit{Op: song.Halve}, Class: true})
	add(Move{Name: "colour chords", Says: "Each triad becomes the seventh that its degree has in the key.", Edit: song.Edit{Op: song.Recolour, Text: "sevenths"}, Class: true})
	add(Move{Name: "plain triads", Says: "Each chord becomes its triad.", Edit: song.Edit{Op: song.Recolour, Text: "triads"}, Class: true})
	inMeter := func(found []hand.Pattern, says string) {
		for _, q := range found {
			if q.Meter != p.Meter {
				add(Move{Name: "in " + q.Meter.String(), Says: strings.TrimSuffix(says, " "+forTheClass), Edit: song.Edit{Op: song.Remeter, Text: q.String(), Words: "The figure in " + q.Meter.String()}, Class: true})
			}
		}
	}
	for _, r := range Rules {
		inMeter(r.Simpler(p), r.LeaveOut())
		inMeter(r.Harder(p), r.Says)
	}
	return list
}

// easierShapes are the stand-ins of the shapes in use, one move each.
func easierShapes(sg song.Song, ins fretboard.Instrument) (moves []Move) {
	shapes := sg.ShapesOn(ins)
	for _, c := range sg.Fingering(ins).Chords() {
		used, ok := shapes[c]
		if !ok {
			continue
		}
		for _, s := range fretboard.StandIns(ins, c, used) {
			moves = append(moves, Move{
				Name: "an easier " + c.String(),
				Says: fmt.Sprintf("%s for %s on %s; it gives up %s.", s.Voicing.Shape, used.Shape, ins.Name, s.GivesUp),
				Edit: song.Edit{Op: song.SetShape, Text: fmt.Sprintf("%s %s %s", ins.ID, c, s.Voicing.Shape)},
			})
		}
	}
	return moves
}

// easierCapo is the capo with which the instrument's shapes are easiest while
// the song sounds as before.
func easierCapo(sg song.Song, ins fretboard.Instrument, class []song.Players) (Move, bool) {
	key := sg.KeyGuess().Key
	for _, row := range sg.KeyTable(class, song.DefaultRange) {
		if row.By != 0 {
			continue
		}
		text := key.Symbol()
		fret := sg.Capo[ins.ID]
		for _, line := range row.Lines {
			at := sg.Capo[line.Instrument.ID]
			if line.Instrument.ID == ins.ID {
				at, fret = line.Capo, line.Capo
			}
			text += fmt.Sprintf(" %s:%d", line.Instrument.ID, at)
		}
		if fret == sg.Capo[ins.ID] {
			return Move{}, false
		}
		return Move{
			Name: fmt.Sprintf("capo %d", fret),
			Says: fmt.Sprintf("%s plays the shapes of %s; it sounds as before.", ins.Name, key.Fingered(fret)),
			Edit: song.Edit{Op: song.SetKey, Text: text},
		}, true
	}
	return Move{}, false
}
