package arch

import (
	"go/ast"
	"go/parser"
	"go/token"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What no package of the core may touch: pages, tables, files, clocks, chance.
var forbidden = []string{"database/sql", "net/http", "html/template", "os", "time", "math/rand", "math/rand/v2", "crypto/rand", "io/ioutil", "syscall"}

func imports(t *testing.T, pattern string) map[string][]string {
	t.Helper()
	out, err := exec.Command("go", "list", "-f", `{{.ImportPath}} {{join .Imports " "}}`, pattern).CombinedOutput()
	require.NoError(t, err, string(out))
	list := map[string][]string{}
	for line := range strings.Lines(string(out)) {
		fields := strings.Fields(line)
		list[fields[0]] = fields[1:]
	}
	return list
}

func TestTheCoreImportsOnlyItselfAndTheStandardLibrary(t *testing.T) {
	packages := imports(t, "arplin/core/...")
	require.Greater(t, len(packages), 5)
	for pkg, list := range packages {
		for _, dep := range list {
			if pkg == "arplin/core/listen" && dep == "gonum.org/v1/gonum/dsp/fourier" {
				continue // the one exception: a kept transform
			}
			first, _, _ := strings.Cut(dep, "/")
			assert.False(t, strings.Contains(first, "."), "%s imports %s from outside", pkg, dep)
			assert.False(t, first == "arplin" && !strings.HasPrefix(dep, "arplin/core/"), "%s imports %s", pkg, dep)
			if (pkg == "arplin/core/plan/sim" || pkg == "arplin/core/listen/sim") && dep == "math/rand/v2" {
				continue // simulated learners and players, each of a seed: see below
			}
			assert.NotContains(t, forbidden, dep, pkg)
		}
	}
}

// Chance in the core comes from a seed that is given: the source that a program shares is
// not touched.
func TestChanceHasASeed(t *testing.T) {
	files, err := filepath.Glob("../plan/sim/*.go")
	require.NoError(t, err)
	players, err := filepath.Glob("../listen/sim/*.go")
	require.NoError(t, err)
	files = append(files, players...)
	require.NotEmpty(t, files)
	for _, name := range files {
		text, err := os.ReadFile(name)
		require.NoError(t, err)
		for _, used := range regexp.MustCompile(`\brand\.(\w+)`).FindAllStringSubmatch(string(text), -1) {
			assert.Contains(t, []string{"Rand", "New", "NewPCG"}, used[1], name)
		}
	}
}

// The rooms of the core from the lowest: each may use those before it only.
var order = []string{"say", "theory", "fretboard", "pattern", "pattern/catalogue", "pattern/skill", "pattern/patterntest", "bpm", "song", "song/keys", "song/hand", "song/edit", "played", "bind", "difficulty", "variation", "ladder/order", "ladder/station", "ladder", "ladder/grow", "ladder/fit", "ladder/edit", "drill", "arrange", "practice/fault", "practice", "plan", "plan/sim", "listen", "listen/sim", "arch"}

func TestTheCoreIsBuiltInItsOrder(t *testing.T) {
	for pkg, list := range imports(t, "arplin/core/...") {
		here := slices.Index(order, strings.TrimPrefix(pkg, "arplin/core/"))
		require.GreaterOrEqual(t, here, 0, "%s has no place in the order", pkg)
		for _, dep := range list {
			if room, ok := strings.CutPrefix(dep, "arplin/core/"); ok {
				assert.Less(t, slices.Index(order, room), here, "%s imports %s, which is built on it", pkg, dep)
			}
		}
	}
}

// The rooms of teach from the lowest: each may use those before it only.
var rooms = []string{"answer", "people", "home", "patterns", "songs", "ladders", "lesson", "desk", "paper", "phone", "files"}

func TestTeachIsBuiltInItsOrder(t *testing.T) {
	for pkg, list := range imports(t, "arplin/teach/...") {
		here := len(rooms) // teach itself, which knows them all
		if room, ok := strings.CutPrefix(pkg, "arplin/teach/"); ok {
			here = slices.Index(rooms, room)
			require.GreaterOrEqual(t, here, 0, "%s has no place in the order", pkg)
		}
		for _, dep := range list {
			if room, ok := strings.CutPrefix(dep, "arplin/teach/"); ok {
				assert.Less(t, slices.Index(rooms, room), here, "%s imports %s, which is built on it", pkg, dep)
			}
		}
	}
}

// What each layer may not know: those above it, and what is not its business.
func TestTheArrowsGoOneWay(t *testing.T) {
	pages := []string{"arplin/web", "arplin/cmd", "github.com/gofiber", "html/template", "net/http"}
	for folder, unknown := range map[string][]string{
		"sound":  append(pages, "arplin/teach", "arplin/draw", "arplin/format", "arplin/store", "arplin/core"),
		"store":  append(pages, "arplin/teach", "arplin/draw", "arplin/format"),
		"draw":   append(pages, "arplin/teach", "arplin/store", "arplin/format", "database/sql"),
		"format": append(pages, "arplin/teach", "arplin/store", "arplin/draw", "database/sql"),
		"teach":  append(pages, "database/sql", "github.com/go-sql-driver", "arplin/demo", "arplin/store/database", "arplin/store/schema", "arplin/store/backup"),
		"web":    {"arplin/cmd", "arplin/demo", "database/sql", "github.com/go-sql-driver"},
	} {
		packages := imports(t, "arplin/"+folder+"/...")
		require.NotEmpty(t, packages, folder)
		for pkg, list := range packages {
			for _, dep := range list {
				for _, no := range unknown {
					assert.False(t, dep == no || strings.HasPrefix(dep, no+"/"), "%s imports %s", pkg, dep)
				}
			}
		}
	}
}

// The database knows no table, and what is about all tables knows no teacher: the rows of
// teachers stand on it.
func TestTheStoreStandsOnItsDatabase(t *testing.T) {
	for pkg, list := range imports(t, "arplin/store/...") {
		switch pkg {
		case "arplin/store", "arplin/store/storetest", "arplin/store/localdb":
			continue
		}
		for _, dep := range list {
			assert.NotEqual(t, "arplin/store", dep, "%s imports it", pkg)
			assert.False(t, pkg == "arplin/store/database" && strings.HasPrefix(dep, "arplin/"), "%s imports %s", pkg, dep)
		}
	}
}

// A page asks teach for what belongs to a teacher, never the store itself.
func TestPagesDoNotAskTheStore(t *testing.T) {
	files, err := filepath.Glob("../../web/*.go")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, name := range files {
		if strings.HasSuffix(name, "_test.go") {
			continue
		}
		text, err := os.ReadFile(name)
		require.NoError(t, err)
		assert.NotRegexp(t, `\bs\.(Teach\.)?Store\.`, string(text), name)
	}
}

// A package is one thing: none has more names than one can keep in mind.
func TestNoPackageHasTooManyNames(t *testing.T) {
	const most = 60
	out, err := exec.Command("go", "list", "-f", `{{.ImportPath}}{{range .GoFiles}} {{$.Dir}}/{{.}}{{end}}`, "arplin/...").Output()
	require.NoError(t, err)
	for line := range strings.Lines(string(out)) {
		fields := strings.Fields(line)
		var names []string
		for _, file := range fields[1:] {
			parsed, err := parser.ParseFile(token.NewFileSet(), file, nil, parser.SkipObjectResolution)
			require.NoError(t, err)
			names = append(names, exported(parsed)...)
		}
		assert.LessOrEqual(t, len(names), most, "%s exports %v", fields[0], names)
	}
}

// exported are the names that a file adds to its package, constants too; methods go with their types.
func exported(file *ast.File) (names []string) {
	add := func(list ...*ast.Ident) {
		for _, name := range list {
			if name.IsExported() {
				names = append(names, name.Name)
			}
		}
	}
	for _, d := range file.Decls {
		switch d := d.(type) {
		case *ast.FuncDecl:
			if d.Recv == nil {
				add(d.Name)
			}
		case *ast.GenDecl:
			for _, spec := range d.Specs {
				switch spec := spec.(type) {
				case *ast.TypeSpec:
					add(spec.Name)
				case *ast.ValueSpec:
					add(spec.Names...)
				}
			}
		}
	}
	return names
}
