package fretboard

// Fingering says which left-hand finger presses each string: 0 none, 1 index
// to 4 little finger.
type Fingering struct {
	n       int8
	fingers [MaxStrings]int8 // thickest position first
	Barre   Barre
}

// Barre is one finger across several strings. The zero value is no barre.
type Barre struct {
	Fret     Fret
	From, To String // thickest and thinnest string
	Finger   int8
}

// At is the finger on a string.
func (f Fingering) At(s String) int8 {
	if s < 1 || int8(s) > f.n {
		return 0
	}
	return f.fingers[f.n-int8(s)]
}

// List is the fingers, thickest position first.
func (f Fingering) List() []int8 { return append([]int8(nil), f.fingers[:f.n]...) }

// Count is how many fingers press.
func (f Fingering) Count() int {
	var used [5]bool
	n := 0
	for _, finger := range f.fingers[:f.n] {
		if finger > 0 && !used[finger] {
			used[finger] = true
			n++
		}
	}
	return n
}

// uses reports whether the finger presses anything.
func (f Fingering) uses(finger int8) bool {
	for _, at := range f.fingers[:f.n] {
		if at == finger {
			return true
		}
	}
	return false
}

// FingerName is what a finger of the left hand is called, 1 to 4.
func FingerName(finger int8) string {
	return [...]string{"", "index", "middle", "ring", "little"}[min(max(finger, 0), 4)]
}

// Finger assigns fingers to a shape, as charts do: in the order of the frets,
// from the thick string to the thin within a fret, one finger a string; with the
// index across as a barre where that is what players do; with other fingers
// across neighbours where four would not be enough. ok is false when no hand
// can hold the shape.
//
// Source of the order and of when a barre is taken: common practice, settled
// against two thirds of the open data set chords-db (docs/shapes.md).
func Finger(sh Shape) (f Fingering, ok bool) {
	f.n = sh.n
	low, _ := sh.Span()
	if low == 0 {
		return f, true
	}
	groups, n := f.groups(sh, low)
	if sh.n == 4 {
		n = mergePair(sh, groups[:n], low)
	}
	if n = mergeNeighbours(groups[:n], f.Barre.From != 0); n > 4 {
		return f, false
	}
	f.assign(sh, groups[:n], low)
	return f, true
}

// group is a run of strings under one finger, as places from the thick side.
type group struct {
	fret     Fret
	from, to int8
}

// groups lists the strings to be pressed by fret and then from the thick side;
// a barre at the lowest fret is one group.
func (f *Fingering) groups(sh Shape, low Fret) (groups [MaxStrings]group, n int) {
	if b, ok := indexBarre(sh, low); ok {
		f.Barre = b
		groups[0] = group{low, sh.n - int8(b.From), sh.n - int8(b.To)}
		n = 1
	}
	_, high := sh.Span()
	for fret := low; fret <= high; fret++ {
		if n == 1 && f.Barre.From != 0 && fret == low {
			continue
		}
		for i := int8(0); i < sh.n; i++ {
			if sh.frets[i] == fret {
				groups[n] = group{fret, i, i}
				n++
			}
		}
	}
	return groups, n
}

// indexBarre finds the barre at the lowest fret, from the thickest string
// pressed there to the thinnest, with no open string under it, and decides
// whether players take it.
func indexBarre(sh Shape, low Fret) (Barre, bool) {
	b := Barre{Fret: low, Finger: 1}
	atLow, others, first, last := 0, 0, -1, -1
	for i, fret := range sh.frets[:sh.n] {
		switch {
		case fret == low:
			if first < 0 {
				first = i
			}
			last = i
			atLow++
		case fret > low:
			others++
		}
	}
	for _, fret := range sh.frets[first : last+1] {
		if fret == 0 {
			return Barre{}, false
		}
	}
	b.From, b.To = String(int(sh.n)-first), String(int(sh.n)-last)
	neighbours := last-first == atLow-1
	take := false
	switch {
	case atLow < 2:
	case atLow >= 4, atLow == 3 && others >= 1:
		take = true
	case atLow == 2 && neighbours:
		take = others >= 2 || others == 1 && b.To == 1 && sh.n > 4
	case atLow == 2: // over higher frets: where the hand is full, and on four strings
		take = others >= 3 || others == 2 && sh.n == 4 && !interleaved(sh, low)
	}
	return b, take
}

// interleaved reports two frets taking turns over four strings: four fingers lie
// better than a barre with two above it.
func interleaved(sh Shape, low Fret) bool {
	return sh.frets[0] == sh.frets[2] && sh.frets[1] == sh.frets[3] && (sh.frets[0] == low || sh.frets[1] == low)
}

// mergePair lays one finger across two neighbours one fret above the lowest
// when all four strings of a small neck are pressed, unless the frets climb
// towards the thin side, where the fingers fall into place by themselves.
func mergePair(sh Shape, groups []group, low Fret) int {
	for _, fret := range sh.frets[:sh.n] {
		if fret <= 0 {
			return len(groups)
		}
	}
	for i := 0; i+1 < len(groups); i++ {
		a, b := groups[i], groups[i+1]
		if a.fret != low+1 || b.fret != a.fret || a.to+1 != b.from || b.to-a.from != 1 {
			continue
		}
		if i+2 < len(groups) && groups[i+2].fret == a.fret {
			continue // three side by side take a finger each
		}
		if a.from == 1 && sh.frets[0] == low && sh.frets[3] > b.fret {
			continue
		}
		groups[i].to = b.to
		copy(groups[i+1:], groups[i+2:])
		return len(groups) - 1
	}
	return len(groups)
}

// mergeNeighbours lays fingers across neighbouring strings of one fret until
// four are enough, the thinnest strings of the highest fret first; a fret whose
// strings lie side by side goes under one finger whole. It returns how many
// groups are left.
func mergeNeighbours(groups []group, barred bool) int {
	n := len(groups)
	first := 0
	if barred {
		first = 1
	}
	for n > 4 {
		at := -1
		for i := first; i+1 < n; i++ {
			if groups[i].fret == groups[i+1].fret && groups[i].to+1 == groups[i+1].from {
				at = i
			}
		}
		if at < 0 {
			return n
		}
		groups[at].to = groups[at+1].to
		n -= 1
		copy(groups[at+1:n], groups[at+2:n+1])
	}
	return n
}

// assign gives the groups their fingers: a fret further up is a finger further
// on, as long as fingers are left.
func (f *Fingering) assign(sh Shape, groups []group, low Fret) {
	home := low // the fret over which the index waits
	if len(groups) <= 2 && hasOpen(sh) && (low == 2 || low == 3 && len(groups) == 1) {
		home = 1 // the hand keeps to the first position
	}
	if f.Barre.From != 0 {
		home = low
	}
	next := int8(1)
	for i, g := range groups {
		want := int8(g.fret-home) + 1
		left := int8(len(groups) - i - 1)
		finger := min(max(next, want), 4-left)
		if f.Barre.From != 0 && len(groups) == 2 && i == 1 && g.fret == low+2 && g.from == sh.n-1 && sh.n > 4 {
			finger = 4 // alone on the thinnest string above a barre
		}
		for at := g.from; at <= g.to; at++ {
			if sh.frets[at] == g.fret {
				f.fingers[at] = finger
			}
		}
		next = finger + 1
	}
}

func hasOpen(sh Shape) bool {
	for _, fret := range sh.frets[:sh.n] {
		if fret == 0 {
			return true
		}
	}
	return false
}
