// Command words prints every sentence and label that the program says, with its place, so that
// somebody can read them from top to bottom: string literals of Go, text and labels of the templates,
// strings of the scripts. It is for make words; arplin words prints those that have an id.
package main

import (
	"bufio"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"
)

func main() {
	out := bufio.NewWriter(os.Stdout)
	n, err := say(out, ".")
	if err == nil {
		err = out.Flush()
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "words:", err)
		os.Exit(1)
	}
	fmt.Fprintf(os.Stderr, "%d sentences and labels\n", n)
}

// rooms are the folders whose words somebody reads.
var rooms = []string{"core", "teach", "web", "draw", "store", "format", "cmd/arplin", "letters", "sound"}

// say prints them and counts them.
func say(out io.Writer, root string) (n int, err error) {
	for _, room := range rooms {
		err := filepath.WalkDir(filepath.Join(root, room), func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() {
				if d != nil && d.IsDir() && slices.Contains([]string{"vendor", "testdata", "migrations"}, d.Name()) {
					return fs.SkipDir
				}
				return err
			}
			found, err := wordsIn(path)
			for _, w := range found {
				n++
				fmt.Fprintf(out, "%s:%d: %s\n", path, w.line, w.text)
			}
			return err
		})
		if err != nil {
			return n, err
		}
	}
	return n, nil
}

// word is a sentence or a label, with its line.
type word struct {
	line int
	text string
}

func wordsIn(path string) ([]word, error) {
	switch {
	case strings.HasSuffix(path, "_test.go"):
		return nil, nil
	case strings.HasSuffix(path, ".go"):
		return goWords(path)
	}
	text, err := os.ReadFile(path)
	if err != nil {
		return nil, err
	}
	switch filepath.Ext(path) {
	case ".html":
		return templateWords(string(text)), nil
	case ".js":
		return scriptWords(string(text)), nil
	}
	return nil, nil
}

var (
	isSentence = regexp.MustCompile(`\pL{2,}[^\n]* \pL|^\p{Lu}\pL{2,}$`)
	isCode     = regexp.MustCompile(`^(?i)(select|insert|update|delete|alter|create|show|set|grant|with|from|where|and|join|drop|on duplicate|order by) |[\\^][sdpwb(]|\(\?|^[a-z]+/[a-z-]+;|^[a-z_-]+=|</|^\s*[.#]?[a-z-]+ \{|:\s*[a-z-]+;|\b(SELECT|UPDATE|EXISTS)\b`)
)

// goWords are the string literals of a file that read as words; what is imported, a tag or a
// pattern to match with does not.
func goWords(path string) (found []word, err error) {
	set := token.NewFileSet()
	file, err := parser.ParseFile(set, path, nil, 0)
	if err != nil {
		return nil, err
	}
	skip := map[ast.Node]bool{}
	ast.Inspect(file, func(n ast.Node) bool {
		switch x := n.(type) {
		case *ast.ImportSpec:
			return false
		case *ast.Field:
			skip[x.Tag] = true
		case *ast.CallExpr:
			if f, ok := x.Fun.(*ast.SelectorExpr); ok && slices.Contains([]string{"MustCompile", "Getenv", "Header", "ExecContext", "QueryContext", "QueryRowContext"}, f.Sel.Name) {
				return false
			}
		case *ast.BasicLit:
			if x.Kind != token.STRING || skip[x] {
				return true
			}
			if text, err := strconv.Unquote(x.Value); err == nil && isSentence.MatchString(text) && !isCode.MatchString(text) {
				found = append(found, word{set.Position(x.Pos()).Line, strings.Join(strings.Fields(text), " ")})
			}
		}
		return true
	})
	return found, nil
}

var (
	action   = regexp.MustCompile(`\{\{[^}]*\}\}`)
	readable = []string{"aria-label", "placeholder", "title", "alt"}
	hidden   = []string{"script", "style"}
)

// templateWords are the text of a template and the labels in its attributes; what the program fills in
// is a dot.
func templateWords(text string) (found []word) {
	text = action.ReplaceAllStringFunc(text, func(a string) string { return "·" + strings.Repeat("\n", strings.Count(a, "\n")) })
	z := html.NewTokenizer(strings.NewReader(text))
	line, in := 1, ""
	add := func(at int, s string) {
		if s = strings.Join(strings.Fields(s), " "); regexp.MustCompile(`\pL{2,}`).MatchString(s) {
			found = append(found, word{at, s})
		}
	}
	for {
		kind := z.Next()
		if kind == html.ErrorToken {
			return found
		}
		raw := string(z.Raw())
		at := line + strings.Count(raw[:len(raw)-len(strings.TrimLeft(raw, " \n\t"))], "\n")
		line += strings.Count(raw, "\n")
		t := z.Token()
		switch kind {
		case html.TextToken:
			if !slices.Contains(hidden, in) {
				add(at, t.Data)
			}
		case html.StartTagToken, html.SelfClosingTagToken:
			in = t.Data
			for _, a := range t.Attr {
				if slices.Contains(readable, a.Key) {
					add(at, a.Val)
				}
			}
		case html.EndTagToken:
			in = ""
		}
	}
}

var scriptText = regexp.MustCompile("\"((?:[^\"\\\\\n]|\\\\.)*)\"|`((?:[^`\\\\]|\\\\.)*)`")

// scriptWords are the strings of a script that read as words.
func scriptWords(text string) (found []word) {
	for i, line := range strings.Split(text, "\n") {
		if strings.HasPrefix(strings.TrimSpace(line), "//") {
			continue
		}
		for _, m := range scriptText.FindAllStringSubmatch(line, -1) {
			if s := m[1] + m[2]; strings.Contains(s, " ") && isSentence.MatchString(s) && !isCode.MatchString(s) && !strings.ContainsAny(s, "[]#=>") {
				found = append(found, word{i + 1, s})
			}
		}
	}
	return found
}
