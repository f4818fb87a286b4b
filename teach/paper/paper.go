package paper

import (
	"math"
	"slices"
	"strings"
	"unicode/utf8"

	"arplin/draw"
	"arplin/teach/people"
	"arplin/teach/songs"
)

// Paper is how a sheet is laid out: on one page by choosing what to show, the roomiest
// way that fits; else the song has pages of its own. Nothing is cut.
type Paper struct {
	Density int            // 0 roomy to 4 dense; the style sheet has the sizes
	Strips  int            // how many chords have a strip; the others a small shape
	Song    []SheetSection // on the first page
	More    []SheetPage    // further pages
}

// Pages is how many sheets of A4 it takes.
func (p Paper) Pages() int { return 1 + len(p.More) }

// SheetPage is a page behind the first.
type SheetPage struct {
	Number int
	Song   []SheetSection
}

// SheetSection is a section as rows of bars.
type SheetSection struct {
	Name  string
	Times int
	Goes  bool // it began on the page before
	Short bool // eight bars a row, where no words are sung
	Rows  []SheetRow
}

// SheetRow is a row of bars; rows that are alike stand once.
type SheetRow struct {
	Bars  []songs.BarView
	Times int
}

// densities are the ways to lay out a sheet. Sizes are those of sheet.css, in
// millimetres; they are checked by printing (e2e/tests/paper.spec.mjs).
var densities = []struct {
	strips   int
	strip    float64 // the most that a strip is high
	shape    float64 // the width of a small shape
	line     float64 // from one line of text to the next
	letter   float64 // the width of an average letter
	collapse bool    // rows that are alike stand once
}{
	{strips: 4, strip: 60, shape: 26, line: 3.9, letter: 1.52},
	{strips: 2, strip: 36, shape: 26, line: 3.9, letter: 1.52},
	{strips: 1, strip: 33, shape: 25, line: 3.7, letter: 1.44, collapse: true},
	{strips: 1, strip: 28, shape: 20, line: 3.5, letter: 1.36, collapse: true},
	{strips: 1, strip: 25, shape: 18, line: 3.15, letter: 1.22, collapse: true},
}

const (
	// A4 within its margins; what is counted here comes out about four parts in a
	// hundred higher than what is printed, which leaves a little to spare.
	pageHeight, pageWidth = 283.0, 190.0
	mmPerPixel            = 25.4 / 96
	heading               = 5.2
	barsInRow, shortRow   = 4, 8
	besideStrip           = 36.0 // for a chord's name and shape at the left of its strip
)

// layOut chooses the roomiest density whose sheet is one page.
func (sh *Sheet) layOut() {
	for density := range densities {
		sh.Paper = Paper{Density: density, Strips: densities[density].strips, Song: rowsOfSections(sh.Sections, density)}
		if sh.height()+songHeight(sh.Paper.Song, density) <= pageHeight {
			return
		}
	}
	const apart = 1 // the first page has room again when the song is not on it
	sh.Paper = Paper{Density: apart, Strips: densities[apart].strips, More: pagesOfSong(rowsOfSections(sh.Sections, apart), apart)}
	for sh.height() > pageHeight && sh.Paper.Density+1 < len(densities) {
		sh.Paper.Density++
		sh.Paper.Strips = densities[sh.Paper.Density].strips
	}
}

// rowsOfSections puts bars in rows.
func rowsOfSections(sections []songs.SectionView, density int) (list []SheetSection) {
	for _, sec := range sections {
		s := SheetSection{Name: sec.Name, Times: sec.Times}
		s.Short = densities[density].collapse && !slices.ContainsFunc(sec.Bars, func(b songs.BarView) bool { return b.Words != "" || len(b.Chords) > 2 })
		n := barsInRow
		if s.Short {
			n = shortRow
		}
		for bars := range slices.Chunk(sec.Bars, n) {
			last := len(s.Rows) - 1
			if densities[density].collapse && last >= 0 && slices.EqualFunc(s.Rows[last].Bars, bars, alikeOnPaper) {
				s.Rows[last].Times++
				continue
			}
			s.Rows = append(s.Rows, SheetRow{bars, 1})
		}
		list = append(list, s)
	}
	return list
}

// alikeOnPaper reports bars that print the same.
func alikeOnPaper(a, b songs.BarView) bool {
	return a.Words == b.Words && a.Role == b.Role && a.Ending == b.Ending && a.Meter == b.Meter && slices.Equal(a.Chords, b.Chords)
}

// pagesOfSong fills pages with rows; a section that does not fit goes on overleaf.
func pagesOfSong(sections []SheetSection, density int) (pages []SheetPage) {
	const head = 14.0
	room := 0.0
	for _, sec := range sections {
		for i, row := range sec.Rows {
			need := rowHeight(row, sec.Short, density)
			if room < need+heading {
				pages = append(pages, SheetPage{Number: len(pages) + 2})
				room = pageHeight - head
			}
			page := &pages[len(pages)-1]
			if n := len(page.Song); i == 0 || n == 0 {
				page.Song = append(page.Song, SheetSection{Name: sec.Name, Times: sec.Times, Goes: i > 0, Short: sec.Short})
				room -= heading
			}
			part := &page.Song[len(page.Song)-1]
			part.Rows = append(part.Rows, row)
			room -= need
		}
	}
	return pages
}

func songHeight(sections []SheetSection, density int) (mm float64) {
	for _, sec := range sections {
		mm += heading
		for _, row := range sec.Rows {
			mm += rowHeight(row, sec.Short, density)
		}
	}
	return mm
}

// rowHeight is the highest bar of a row: its chords, and its words below them.
func rowHeight(row SheetRow, short bool, density int) float64 {
	d := densities[density]
	width := pageWidth/barsInRow - 3.5
	if short {
		width = pageWidth/shortRow - 3.5
	}
	most := 0
	for _, b := range row.Bars {
		var chords []string
		for _, c := range b.Chords {
			chords = append(chords, c.Symbol)
		}
		lines := linesOf(strings.Join(chords, "  ")+"    ", width, 1.15*d.letter)
		if b.Words != "" {
			lines += linesOf(b.Words, width, d.letter)
		}
		most = max(most, lines)
	}
	return float64(most)*d.line + 0.7
}

// linesOf is how many lines a text takes, a little on the long side: words do not
// break.
func linesOf(text string, width, letter float64) int {
	return max(1, int(math.Ceil(float64(utf8.RuneCountInString(text))*letter*1.06/width)))
}

// height is that of all but the song.
func (sh *Sheet) height() float64 {
	d := densities[sh.Paper.Density]
	text := func(parts ...string) float64 {
		return float64(linesOf(strings.Join(parts, " "), pageWidth, d.letter))*d.line + 0.7
	}
	mm := 10 + text("Step 10 of 10. New:", sh.Step.Name, sh.Step.Says) + d.line + 1.5 // title, what is new, tempos
	if sh.Remark != "" {
		mm += text(sh.Remark) + 1.5
	}
	if sh.Lane != "" {
		mm += 17
	}
	mm += sh.chordsHeight()
	if len(sh.Chords) > 0 {
		mm += text(keyToStrips)
	}
	if len(sh.Roots) > 0 {
		mm += text("For a chord in brackets, rest or play its root on 1:", strings.Join(sh.Roots, "; "))
	}
	if len(sh.Posture) > 0 {
		mm += heading + text(sh.Posture...)
	}
	mm += heading + text(sh.How) + 2 + text("Ready when", sh.Ready, ". If it breaks down", sh.FallBack)
	for _, line := range sh.HowTo {
		mm += text(line) - 0.7
	}
	for _, drill := range sh.Drills {
		mm += heading + 1 + d.line*math.Ceil(float64(len(drill.Exercises))/2)*1.6
	}
	care := heading + 2 + text(people.Care...)
	if sh.For.ID != 0 { // beside it the code of the student's own page
		care = max(phoneCode, care*pageWidth/(pageWidth-phoneWide))
	}
	return mm + care
}

// The code of a student's own page with its address, in millimetres.
const phoneCode, phoneWide = 22.0, 62.0

// chordsHeight is that of the strips and shapes.
func (sh *Sheet) chordsHeight() (mm float64) {
	d := densities[sh.Paper.Density]
	column, perRow := (pageWidth-6)/2, 2
	if sh.Long {
		column, perRow = pageWidth, 1
	}
	const gap = 1.2
	shape := 34.0 // the width of a shape over or beside its strip
	if sh.Paper.Density == len(densities)-1 {
		shape = 24
	}
	beside := sh.Paper.Density > 1 // the strip stands at the right of its shape
	if beside {
		column, perRow = pageWidth-besideStrip, 1
	}
	strips := min(sh.Paper.Strips, len(sh.Chords))
	for i := 0; i < strips; i += perRow {
		most := 0.0
		for _, c := range sh.Chords[i:min(i+perRow, strips)] {
			w, h := c.Shape.Size()
			if strip := fitted(c.Strip, column, d.strip); beside {
				most = max(most, strip, shape*h/max(1, w)+7)
			} else {
				most = max(most, max(12, shape*h/max(1, w))+strip)
			}
		}
		mm += most + gap
	}
	if n := len(sh.Chords) - strips; n > 0 {
		per := math.Floor(pageWidth / (d.shape + 2))
		w, h := sh.Chords[strips].Shape.Size()
		lines := 2.0 // its name, and its root string where there is room
		if beside {
			lines = 1.1
		}
		mm += math.Ceil(float64(n)/per)*(d.shape*h/max(1, w)+lines*d.line+gap+0.6) + 1
	}
	for i := 0; i < len(sh.Parts); i += perRow {
		most := 0.0
		for _, p := range sh.Parts[i:min(i+perRow, len(sh.Parts))] {
			most = max(most, fitted(p.Lane, column, d.strip))
		}
		mm += most + d.line + gap
	}
	return mm
}

// fitted is the height of a picture that is no wider than its column and no higher
// than the most.
func fitted(svg draw.SVG, column, most float64) float64 {
	w, h := svg.Size()
	scale := min(mmPerPixel, column/max(1, w))
	return min(most, h*scale)
}
