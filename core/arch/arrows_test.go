// Package arch holds the test that keeps the folders' arrows pointing one way.
package arch

import (
	"os/exec"
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
			first, _, _ := strings.Cut(dep, "/")
			assert.False(t, strings.Contains(first, "."), "%s imports %s from outside", pkg, dep)
			assert.False(t, first == "arplin" && !strings.HasPrefix(dep, "arplin/core/"), "%s imports %s", pkg, dep)
			assert.NotContains(t, forbidden, dep, pkg)
		}
	}
}

func TestStoreDrawAndFormatKnowNothingOfPages(t *testing.T) {
	for _, folder := range []string{"store", "draw", "format"} {
		for pkg, list := range imports(t, "arplin/"+folder+"/...") {
			for _, dep := range list {
				assert.False(t, strings.HasPrefix(dep, "arplin/web") || strings.Contains(dep, "gofiber") || dep == "html/template", "%s imports %s", pkg, dep)
			}
		}
	}
}
