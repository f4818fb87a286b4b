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

// Finger assigns fingers to a shape: in the order of the frets, from the thick
// string to the thin within a fret, one finger a string; with the index across
// as a barre where four fingers are not enough or where it saves the hand two.
// ok is false when no hand can hold the shape.
func Finger(sh Shape) (f Fingering, ok bool) {
	f.n = sh.n
	low, high := sh.Span()
	if low == 0 {
		return f, true
	}
	pressed, atLow := 0, 0
	for _, fret := range sh.frets[:sh.n] {
		if fret > 0 {
			pressed++
		}
		if fret == low {
			atLow++
		}
	}
	barre, barreOK := indexBarre(sh, low)
	held := pressed
	if barreOK && wantsBarre(barre, pressed, atLow) {
		f.Barre = barre
		for i, fret := range sh.frets[:sh.n] {
			if fret == low {
				f.fingers[i] = 1
			}
		}
		held = pressed - atLow + 1
	}
	if held > 4 {
		return f, false
	}
	f.assign(sh, low, high, held)
	return f, true
}

// wantsBarre: four strings at one fret or more than four pressed strings need
// it; two neighbours at the lowest fret with two more above take it too (the
// small F), since the hand would otherwise be full.
func wantsBarre(b Barre, pressed, atLow int) bool {
	switch {
	case pressed > 4, atLow >= 4:
		return true
	case atLow == 3:
		return pressed == 4
	case atLow == 2:
		return int(b.From-b.To) == 1 && pressed >= 3 && b.To == 1
	}
	return false
}

// indexBarre finds the barre at the lowest fret: from the thickest string
// pressed there to the thinnest string, with no open string under it.
func indexBarre(sh Shape, low Fret) (Barre, bool) {
	b := Barre{Fret: low, Finger: 1}
	for s := String(sh.n); s >= 1; s-- {
		switch fret := sh.At(s); {
		case fret == low && b.From == 0:
			b.From = s
			b.To = s
		case b.From == 0:
		case fret == 0:
			return Barre{}, false
		case fret == low:
			b.To = s
		}
	}
	return b, b.From > b.To
}

// assign gives the remaining strings their fingers. Fingers keep to frets: from
// the second finger on, a fret further up is a finger further on while enough
// fingers are left.
func (f *Fingering) assign(sh Shape, low, high Fret, held int) {
	next := int8(1)
	left := held
	switch {
	case f.Barre.From != 0:
		next = 2
		left--
	case low == 2 && held <= 2 && hasOpen(sh):
		next = 2 // the index keeps its place over the first fret
	}
	for fret := low; fret <= high; fret++ {
		if f.Barre.From != 0 && fret == low {
			continue
		}
		// A skipped fret skips a finger when one can be spared.
		if want := int8(fret-low) + 1; fret > low && next < want && int(4-want)+1 >= left {
			next = want
		}
		for i := range f.fingers[:f.n] {
			if sh.frets[i] == fret && f.fingers[i] == 0 {
				f.fingers[i] = next
				next++
				left--
			}
		}
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
