package web_test

import (
	"html"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var (
	linkOf      = regexp.MustCompile(`href="(/[^"#]*)`)
	laterOf     = regexp.MustCompile(`data-lazy="([^"]+)"`)
	sheetOf     = regexp.MustCompile(`/static/(\w+)\.css`)
	classOf     = regexp.MustCompile(`\s(class|id)="([^"]*)"`)
	attributeOf = regexp.MustCompile(` (data-[\w-]+)`)
	forms       = regexp.MustCompile(`\?.*|\d+|/patterns/\w+-[\w-]+`)
	ruleOf      = regexp.MustCompile(`([^{}]+)\{`)
	nameIn      = regexp.MustCompile(`[.#[][A-Za-z][\w-]*`)
	eitherIn    = regexp.MustCompile(`:(?:not|is)\([^)]*\)`)
	commentOf   = regexp.MustCompile(`(?s)/\*.*?\*/`)
)

// ownStyles is how many bytes of our own styles a page may load: what it shows, and no more.
const ownStyles = 36_000

// Every page loads the styles of all that stands in it or comes into it later, and no more than
// it may weigh. Pages are found by following links from the desk, one of each form of address.
func TestAPageLoadsTheStylesOfWhatItShows(t *testing.T) {
	t.Parallel()
	b := signedIn(t)
	files, err := filepath.Glob("static/*.css")
	require.NoError(t, err)
	rules, size := map[string][][]string{}, map[string]int{}
	for _, file := range files {
		css, err := os.ReadFile(file)
		require.NoError(t, err)
		name := strings.TrimSuffix(filepath.Base(file), ".css")
		size[name] = len(css)
		for _, rule := range ruleOf.FindAllStringSubmatch(commentOf.ReplaceAllString(string(css), ""), -1) {
			for _, selector := range strings.Split(eitherIn.ReplaceAllString(rule[1], ""), ",") {
				if names := nameIn.FindAllString(selector, -1); names != nil {
					rules[name] = append(rules[name], names)
				}
			}
		}
	}
	queue, seen, pages := []string{"/"}, map[string]bool{}, 0
	for len(queue) > 0 {
		path := queue[0]
		queue = queue[1:]
		form := forms.ReplaceAllString(path, "1")
		if seen[form] {
			continue
		}
		seen[form] = true
		res, body := b.get(path)
		if !strings.HasPrefix(res.Header.Get("Content-Type"), "text/html") || !strings.Contains(body, "/static/page.css") {
			continue
		}
		pages++
		for _, link := range linkOf.FindAllStringSubmatch(body, -1) {
			if to := html.UnescapeString(link[1]); !strings.HasPrefix(to, "/static") {
				queue = append(queue, to)
			}
		}
		all := body
		for _, later := range laterOf.FindAllStringSubmatch(body, -1) {
			all += b.piece(html.UnescapeString(later[1]))
		}
		has := map[string]bool{}
		for _, name := range attributeOf.FindAllStringSubmatch(all, -1) {
			has["["+name[1]] = true
		}
		for _, m := range classOf.FindAllStringSubmatch(all, -1) {
			for _, name := range strings.Fields(m[2]) {
				has[map[string]string{"class": ".", "id": "#"}[m[1]]+name] = true
			}
		}
		weight, loaded := 0, []string{"phone"} // a page of its own
		for _, sheet := range sheetOf.FindAllStringSubmatch(body, -1) {
			loaded = append(loaded, sheet[1])
			weight += size[sheet[1]]
		}
		assert.LessOrEqual(t, weight, ownStyles, "%s loads %v", path, loaded)
		for sheet, selectors := range rules {
			if slices.Contains(loaded, sheet) {
				continue
			}
			for _, names := range selectors {
				if !slices.ContainsFunc(names, func(name string) bool { return !has[name] }) {
					t.Errorf("%s shows %v and does not load %s.css", path, names, sheet)
				}
			}
		}
	}
	require.Greater(t, pages, 60)
}
