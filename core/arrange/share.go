package arrange

import (
	"slices"

	"arplin/core/song"
)

// MayShare reports two songs that can have a part in common: the same meter, and no chord in the
// one that is not in the other, as they are fingered. Who knows a figure on the chords of that
// one can play it on this. Source: common practice, forms that share their chords.
func MayShare(mine, known song.Song) bool {
	if mine.Meter != known.Meter {
		return false
	}
	chords := known.Chords()
	for _, c := range mine.Chords() {
		if !slices.Contains(chords, c) {
			return false
		}
	}
	return len(mine.Chords()) > 0
}

// Shared is a rung of another song's ladder, which a group knows from there.
func (b *Band) Shared(group int, r Rung) {
	known := Part{Kind: OnStep, Step: r.ID, Of: r.Of}
	if b.rung(known) < 0 {
		b.Rungs = append(b.Rungs, r)
	}
	b.Groups[group].Knows = append(b.Groups[group].Knows, known)
}

// known is the hardest part that a group knows from other songs.
func (b Band) known(g Group) (best Part, ok bool) {
	for _, p := range g.Knows {
		if !ok || b.Level(p) > b.Level(best) {
			best, ok = p, true
		}
	}
	return best, ok
}

// TakeTurns has two groups swap their parts every second time that a section comes, or in
// every second pass where none comes twice, so that both learn both. Nobody is given more than
// they play clean. It returns the passes that were swapped, from 0.
func (b Band) TakeTurns(parts [][]Part, one, other int) (swapped []int) {
	again := slices.ContainsFunc(b.Passes, func(p Pass) bool { return p.Time > 1 })
	for p, pass := range b.Passes {
		turn := p%2 == 1
		if again {
			turn = pass.Time%2 == 0
		}
		mine, theirs := parts[p][one], parts[p][other]
		if !turn || mine == theirs || b.Above(mine, other) || b.Above(theirs, one) {
			continue
		}
		parts[p][one], parts[p][other] = theirs, mine
		swapped = append(swapped, p)
	}
	return swapped
}
