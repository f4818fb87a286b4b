package listen

import (
	"math"
	"slices"
)

// followed is a score as it was gone through: at the tempo that was played, a bar again where it was played again, without the
// bars that were left out.
type followed struct {
	score Score
	swing float64  // by how many ms the off-beats are late
	asked []moment // with it
	pairs []pair
	again []int // bars that were played twice, from 0
	left  []int // bars that were left out
	from  int   // the bar in which the take begins
}

// Tempos that are tried where the one asked for does not fit, as parts of it: steps of a tenth, between which the alignment follows.
var tempos = []float64{0.9, 1.1, 0.8, 1.22, 0.72, 1.35, 0.65, 1.5, 0.58, 1.7, 0.5, 2}

// What a take may cost a moment before another tempo is tried, and how much better another idea of it must be.
const (
	fits   = 22.0
	better = 0.85
	surely = 0.6 // for another swing, which a hand that rushes is near to
)

// follow finds how a score was gone through.
func follow(score Score, heard []moment) followed {
	type idea struct {
		score Score
		swing float64
		asked []moment
		pairs []pair
		cost  float64
	}
	try := func(s Score, swing float64) idea {
		asked := s.asked(swing)
		pairs, cost := align(asked, heard, s.BarMS())
		return idea{s, swing, asked, pairs, cost}
	}
	best := try(score, 0)
	swings := slices.ContainsFunc(score.Strokes, func(st Stroke) bool { return st.Offbeat })
	consider := func(i idea, part float64) {
		if i.cost < part*best.cost {
			best = i
		}
	}
	enough := func() bool { return best.cost <= fits*float64(len(heard)) }
	part := swingPart
	if score.Figure.Swing {
		part = -swingPart // what is asked for swung may be played straight
	}
	if swings && !enough() {
		consider(try(score, part*score.BeatMS()), surely)
	}
	for _, tempo := range tempos {
		if enough() {
			break
		}
		s := score.atTempo(tempo)
		consider(try(s, 0), better)
		if swings {
			consider(try(s, part*s.BeatMS()), surely)
		}
	}
	return straighten(best.score, best.swing, best.pairs)
}

// straighten lays the bars of a score in the order in which they were played.
func straighten(score Score, swing float64, pairs []pair) followed {
	asked := score.asked(swing)
	f := followed{score: score, swing: swing, asked: asked, pairs: pairs}
	if len(pairs) == 0 {
		return f
	}
	first := asked[pairs[0].asked]
	if first.begins && first.bar > 0 {
		f.from = first.bar
	}
	path := []int{f.from}
	var jumps []int // pairs that come after a jump
	for i := 1; i < len(pairs); i++ {
		a, b := asked[pairs[i-1].asked], asked[pairs[i].asked]
		switch jumped := b.bar <= a.bar && pairs[i].asked <= pairs[i-1].asked || b.bar > a.bar+1 && b.begins && pairs[i].asked > pairs[i-1].asked+1; {
		case !jumped:
			for bar := a.bar + 1; bar <= b.bar; bar++ {
				path = append(path, bar)
			}
			continue
		case b.bar <= a.bar:
			for bar := b.bar; bar <= a.bar; bar++ {
				f.again = append(f.again, bar)
			}
		default:
			for _, m := range asked[pairs[i-1].asked+1 : pairs[i].asked] {
				if m.begins && m.bar > a.bar {
					f.left = append(f.left, m.bar)
				}
			}
		}
		path = append(path, b.bar)
		jumps = append(jumps, i)
	}
	if len(jumps) == 0 && f.from == 0 {
		return f
	}
	for bar := asked[pairs[len(pairs)-1].asked].bar + 1; bar < score.Bars; bar++ {
		path = append(path, bar)
	}
	f.score = score.along(path)
	f.asked = f.score.asked(swing)
	f.pairs = renumbered(asked, f.asked, path, pairs, jumps)
	return f
}

// renumbered are pairs in the moments of a score whose bars lie along a path.
func renumbered(old, now []moment, path []int, pairs []pair, jumps []int) (list []pair) {
	firsts := make([]int, len(path)) // the first moment of each bar of the path
	for i, m := range now {
		if m.begins {
			firsts[m.bar] = i
		}
	}
	first := map[int]int{}
	for i, m := range old {
		if m.begins {
			first[m.bar] = i
		}
	}
	at := 0
	for i, p := range pairs {
		bar := old[p.asked].bar
		if slices.Contains(jumps, i) {
			at++
		}
		for at < len(path) && path[at] != bar {
			at++
		}
		if at == len(path) {
			break
		}
		list = append(list, pair{firsts[at] + p.asked - first[bar], p.heard})
	}
	return list
}

// along is a score whose bars lie along a path: Bar counts along it, Asked is the bar of the score.
func (s Score) along(path []int) Score {
	out := Score{Figure: s.Figure, Tempo: s.Tempo, Bars: len(path)}
	for n, bar := range path {
		for _, st := range s.Strokes {
			if st.Bar == bar {
				st.At += float64(n-bar) * s.BarMS()
				st.Bar = n
				out.Strokes = append(out.Strokes, st)
			}
		}
	}
	return out
}

// atTempo is a score at a part of its tempo.
func (s Score) atTempo(part float64) Score {
	out := s
	out.Tempo = max(1, int(math.Round(float64(s.Tempo)*part)))
	out.Strokes = slices.Clone(s.Strokes)
	for i := range out.Strokes {
		out.Strokes[i].At *= float64(s.Tempo) / float64(out.Tempo)
	}
	return out
}
