// Command contact writes docs/contact/: every pattern of the catalogue on three
// chords for guitar and ukulele, and the ladder of every pattern in every order, one page a
// family, to be read from top to bottom. "contact ways" writes docs/ways, a picture of each way in
// which a figure grows.
package main

import (
	"fmt"
	"html/template"
	"log"
	"os"
	"path/filepath"
	"strings"

	"arplin/core/bind"
	"arplin/core/difficulty"
	"arplin/core/fretboard"
	"arplin/core/ladder"
	"arplin/core/ladder/grow"
	"arplin/core/ladder/order"
	"arplin/core/pattern"
	"arplin/core/pattern/catalogue"
	"arplin/core/theory"
	"arplin/draw"
)

var page = template.Must(template.New("page").Parse(`<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>{{.Title}}</title>
<link rel="stylesheet" href="../../web/static/app.css"><link rel="stylesheet" href="../../web/static/page.css"><link rel="stylesheet" href="../../web/static/marks.css"><link rel="stylesheet" href="contact.css"></head>
<body><h1>{{.Title}}</h1>
{{range .Rows}}<section><h2>{{.Title}}</h2><p><code>{{.Notation}}</code> {{.Says}}</p><div class="row">{{range .Strips}}<figure><figcaption>{{.Caption}}</figcaption>{{.SVG}}</figure>{{end}}</div></section>
{{end}}</body></html>
`))

type sheet struct {
	Title string
	Rows  []row
}

type row struct {
	Title, Notation, Says string
	Strips                []picture
}

type picture struct {
	Caption string
	SVG     template.HTML
}

func main() {
	do := func() error { return write("docs/contact") }
	if len(os.Args) > 1 && os.Args[1] == "ways" {
		do = func() error { return writeWays("docs/ways") }
	}
	if err := do(); err != nil {
		log.Fatal(err)
	}
}

func write(dir string) error {
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return err
	}
	css := "body{margin:1rem}.row{display:flex;flex-wrap:wrap;gap:.3rem 1rem}figure{margin:0}section{break-inside:avoid;border-top:1px solid #ded5c3;margin-top:.5rem}"
	if err := os.WriteFile(filepath.Join(dir, "contact.css"), []byte(css+"\n"), 0o644); err != nil {
		return err
	}
	for _, family := range catalogue.Families() {
		name := strings.ReplaceAll(family, " ", "-")
		patterns := sheet{Title: "Patterns: " + family}
		files := map[string]sheet{}
		for _, e := range catalogue.All {
			if e.Family != family {
				continue
			}
			patterns.Rows = append(patterns.Rows, onChords(e))
			for _, o := range order.All {
				file := "ladders-" + name + "-" + strings.ReplaceAll(o.Name, " ", "-")
				s := files[file]
				s.Title = "Ladders: " + family + ", " + o.Name
				s.Rows = append(s.Rows, steps(e, o.Value)...)
				files[file] = s
			}
		}
		files["patterns-"+name] = patterns
		for file, s := range files {
			if err := writePage(filepath.Join(dir, file+".html"), s); err != nil {
				return err
			}
		}
	}
	return nil
}

func writePage(path string, s sheet) error {
	f, err := os.Create(path)
	if err != nil {
		return err
	}
	if err := page.Execute(f, s); err != nil {
		f.Close()
		return fmt.Errorf("%s: %w", path, err)
	}
	return f.Close()
}

// onChords shows a pattern on chords with their roots on strings 6, 5 and 4.
func onChords(e catalogue.Entry) row {
	r := row{Title: e.Name, Notation: e.Notation, Says: e.Says}
	for _, id := range []string{"guitar", "ukulele"} {
		for _, chord := range []string{"G", "C", "D"} {
			r.Strips = append(r.Strips, strip(e.Pattern, nil, id, chord))
		}
	}
	return r
}

// usualTempo is the one at which the library measures.
const usualTempo = 80

// steps shows every step of a pattern's ladder with its new strokes.
func steps(e catalogue.Entry, o order.Order) []row {
	var rows []row
	t := difficulty.OneChord(e.Pattern, theory.MustChord("C"), fretboard.Instruments[0], bind.DefaultSchool, usualTempo)
	steps := grow.Build(order.Choice{Order: o, Size: order.Small}, t, difficulty.Fitted, 0)
	for i, s := range steps {
		var fresh map[pattern.Place]bool
		if i > 0 {
			fresh = pattern.New(s.Pattern, steps[i-1].Pattern)
		}
		words := ladder.Describe(steps, i, t)
		rows = append(rows, row{
			Title: fmt.Sprintf("%s, step %d: %s (%.1f)", e.Name, i+1, words.Name, s.Level), Notation: s.Pattern.String(), Says: words.Says,
			Strips: []picture{strip(s.Pattern, fresh, "guitar", "C"), strip(s.Pattern, fresh, "ukulele", "C")},
		})
	}
	return rows
}

func strip(p pattern.Pattern, fresh map[pattern.Place]bool, id, chord string) picture {
	ins, err := fretboard.ByID(id)
	if err != nil {
		log.Fatal(err)
	}
	c := theory.MustChord(chord)
	v, _ := fretboard.Easiest(ins, c)
	r := bind.Pattern(ins, bind.DefaultSchool, p, c, v.Shape)
	caption := chord + ", " + ins.Name
	for _, n := range r.Notices {
		caption += "; " + n.String()
	}
	st := draw.OfBars(ins, p, r.Events)
	st.New, st.SlotWidth, st.Label = fresh, 26, caption
	return picture{caption, template.HTML(st.SVG())}
}
