package web

import (
	"bytes"
	"cmp"
	"fmt"
	"html/template"
	"io"
	"slices"
	"strings"
	"sync"

	"arplin/core/ladder/order"
	"arplin/core/plan"
	"arplin/core/say"
	"arplin/draw"
	"arplin/teach/files"
	"arplin/teach/people"
)

// views renders the templates. A page is rendered first and then put into its
// layout, so that a template that gives up is an error and never half a page.
type views struct{ set *template.Template }

// loadViews reads the templates once; any number of requests may render them at a time.
var loadViews = sync.OnceValues(func() (*views, error) {
	set, err := template.New("").Funcs(template.FuncMap{
		"add":        func(a, b int) int { return a + b },
		"dict":       dict,
		"list":       func(items ...any) []any { return items },
		"modules":    modulesOf,
		"styles":     stylesOf,
		"plural":     say.Count,
		"instrument": people.InstrumentName,
		"said":       plan.Words.Say, // a line about a student
		"orders":     func() any { return order.All },
		"sizes":      func() any { return order.Sizes },
		"come":       func() any { return order.ChordsCome },
		"byparts":    func() any { return order.PartsCome },
		"formats":    func() []files.FormatOf { return files.Formats },
		"icon":       icon,
		"helpfor":    func(active string) string { return cmp.Or(topicOf[active], "start") },
		"stair":      func(i int) int { return min(i, 12) },
		"svg":        func(s draw.SVG) template.HTML { return template.HTML(s) }, // drawn by us, its texts escaped there
	}).ParseFS(templateFiles, "templates/*.html")
	if err != nil {
		return nil, fmt.Errorf("templates: %w", err)
	}
	return &views{set}, nil
})

// icon is a picture of the shipped icons, in the colour of the words beside it.
func icon(name string) (template.HTML, error) {
	svg, err := staticFiles.ReadFile("static/vendor/icons/" + name + ".svg")
	if err != nil {
		return "", fmt.Errorf("icon %s: %w", name, err)
	}
	return template.HTML(strings.Replace(string(svg), "<svg ", `<svg aria-hidden="true" `, 1)), nil // of a locked package
}

// Load has nothing to do: the templates are in the program.
func (v *views) Load() error { return nil }

// Render writes a template, alone or in a layout.
func (v *views) Render(w io.Writer, name string, data any, layout ...string) error {
	if len(layout) == 0 || layout[0] == "" {
		return v.set.ExecuteTemplate(w, name+".html", data)
	}
	var body bytes.Buffer
	if err := v.set.ExecuteTemplate(&body, name+".html", data); err != nil {
		return err
	}
	// A piece on a page of its own has no heading: the page's title is one.
	bare := !bytes.Contains(body.Bytes(), []byte("<h1"))
	return v.set.ExecuteTemplate(w, layout[0]+".html", map[string]any{"Data": data, "Bare": bare, "Body": template.HTML(body.String())})
}

// modules are the scripts that the pages of a view need, also for what comes into them later.
var modules = map[string][]string{
	"songs": {"bars", "tunebars", "playbar"}, "ladders": {"ladder", "playbar", "together"}, "patterns": {"bench", "playbar"}, "lesson": {"lesson", "playbar"},
	"tune": {"tuner", "player"},
}

// marked are those that other pages need, by what stands in them.
var marked = []struct{ mark, module string }{{`x-data="playbar"`, "playbar"}, {`x-data="bench"`, "bench"}, {`x-data="stairs"`, "ladder"}, {`x-data="together"`, "together"}}

// modulesOf are the scripts of a page; app.js is everywhere.
func modulesOf(active string, body template.HTML) []string {
	list := slices.Clone(modules[active])
	for _, m := range marked {
		if strings.Contains(string(body), m.mark) && !slices.Contains(list, m.module) {
			list = append(list, m.module)
		}
	}
	return list
}

// dict passes several values to a partial.
func dict(pairs ...any) (map[string]any, error) {
	m := map[string]any{}
	for i := 0; i+1 < len(pairs); i += 2 {
		key, ok := pairs[i].(string)
		if !ok {
			return nil, fmt.Errorf("dict: %v is not a name", pairs[i])
		}
		m[key] = pairs[i+1]
	}
	return m, nil
}
