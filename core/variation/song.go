package variation

import (
	"fmt"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/pattern"
	"arplin/core/say"
	"arplin/core/song"
	"arplin/core/song/edit"
	"arplin/core/song/keys"
)

// MoveID names a kind of move for good.
type MoveID string

// The moves of a song.
const (
	EasierShape MoveID = "easier-shape"
	Capo        MoveID = "capo"
	HalfChanges MoveID = "half-the-changes"
	Sevenths    MoveID = "sevenths"
	Triads      MoveID = "triads"
	OtherMeter  MoveID = "other-meter"
)

// MoveWords are the words of the moves, in the order in which they are offered;
// name and sentence take what the move is about.
var MoveWords = []struct {
	ID         MoveID
	Name, Says string
	Class      bool // changes what sounds, so for the whole class at once
}{
	{EasierShape, "easier %s", "%s for %s on %s; it gives up %s.", false},
	{Capo, "capo %d", "%s plays the shapes of %s; it sounds as before.", false},
	{HalfChanges, "half the chord changes", "Every second change is left out; the root stays where both chords have it.", true},
	{Sevenths, "sevenths for triads", "Each triad becomes the seventh that its degree has in the key.", true},
	{Triads, "plain triads", "Each chord becomes its triad.", true},
	{OtherMeter, "in %s", "%s", true},
}

// Move is something that can be done to a whole song to make it simpler or
// harder, as an edit that the song's history can take back.
type Move struct {
	ID    MoveID
	Key   string // of this move among those with its id, by what it is about
	Name  string
	Says  string
	Edit  song.Edit
	Level float64 // of the pattern on the changed song
	Class bool
}

// moveOf words a move.
func moveOf(id MoveID, edit song.Edit, name, says []any) Move {
	for _, w := range MoveWords {
		if w.ID == id {
			return Move{ID: id, Key: say.Of(say.ID(id), name...).String(), Name: fmt.Sprintf(w.Name, name...), Says: fmt.Sprintf(w.Says, says...), Edit: edit, Class: w.Class}
		}
	}
	panic("variation: a move without words: " + string(id))
}

// Moves lists what can be done to a song under a pattern on one instrument: an
// easier shape, a capo, colours, half the changes, another meter. The class is
// who plays the song. Moves that a song has no use for are left out.
func Moves(sg song.Song, p pattern.Pattern, ins fretboard.Instrument, class []keys.Players, school bind.School, w difficulty.Weights) []Move {
	levelOn := func(sg song.Song, q pattern.Pattern) float64 {
		return difficulty.LevelOf(difficulty.NewTask(q, sg, ins, school, sg.Tempo), w)
	}
	measured := func(m Move) (Move, bool) {
		changed, _, err := sg.Apply(m.Edit)
		if err != nil {
			return m, false
		}
		q := p
		if other, ok := m.Edit.(edit.Remeter); ok {
			q = other.Pattern
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
	for _, m := range easierShapes(sg, p, ins, school) {
		if m, ok := measured(m); ok && m.Level < best.Level {
			best = m
		}
	}
	if best.ID != "" {
		list = append(list, best)
	}
	if m, ok := easierCapo(sg, ins, class); ok {
		add(m)
	}
	add(moveOf(HalfChanges, edit.Halve{}, nil, nil))
	add(moveOf(Sevenths, edit.Recolour{Sevenths: true}, nil, nil))
	add(moveOf(Triads, edit.Recolour{}, nil, nil))
	for _, r := range Rules {
		inMeter := func(found []pattern.Pattern, says string) {
			for _, q := range found {
				if q.Meter != p.Meter {
					add(moveOf(OtherMeter, edit.Remeter{Pattern: q, Name: "The pattern in " + q.Meter.String()}, []any{q.Meter}, []any{says}))
				}
			}
		}
		inMeter(r.Simpler(p), r.Less.Says)
		inMeter(r.Harder(p), r.More.Says)
	}
	return list
}

// easierShapes are the stand-ins of the shapes in use on which the figure keeps its strings, one move
// each.
func easierShapes(sg song.Song, p pattern.Pattern, ins fretboard.Instrument, school bind.School) (moves []Move) {
	shapes := sg.ShapesOn(ins)
	for _, c := range sg.Fingering(ins).Chords() {
		used, ok := shapes[c]
		if !ok {
			continue
		}
		before := bind.Displaced(ins, school, c, used.Shape, p)
		for _, s := range fretboard.StandIns(ins, c, used) {
			if bind.Displaced(ins, school, s.Chord, s.Voicing.Shape, p) > before {
				continue
			}
			edit := edit.SetShape{Instrument: ins, Chord: c, Grip: fretboard.Grip{Shape: s.Voicing.Shape}}
			moves = append(moves, moveOf(EasierShape, edit, []any{c}, []any{s.Voicing.Shape, used.Shape, ins.Name, s.GivesUp}))
		}
	}
	return moves
}

// easierCapo is the capo with which the instrument's shapes are easiest while
// the song sounds as before.
func easierCapo(sg song.Song, ins fretboard.Instrument, class []keys.Players) (Move, bool) {
	key := sg.KeyGuess().Key
	for _, row := range keys.KeyTable(sg, class, keys.DefaultRange) {
		if row.By != 0 {
			continue
		}
		edit, fret := edit.SetKey{Key: key, Capo: map[string]int{}}, sg.Capo[ins.ID]
		for _, line := range row.Lines {
			at := sg.Capo[line.Instrument.ID]
			if line.Instrument.ID == ins.ID {
				at, fret = line.Capo, line.Capo
			}
			edit.Capo[line.Instrument.ID] = at
		}
		if fret == sg.Capo[ins.ID] {
			return Move{}, false
		}
		return moveOf(Capo, edit, []any{fret}, []any{ins.Name, key.Fingered(fret)}), true
	}
	return Move{}, false
}
