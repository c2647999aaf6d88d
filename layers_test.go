package pineledger_test

import (
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The arrows of docs/how-it-works.md: a layer may import those it lists, and itself.
var layers = map[string][]string{
	"cmd":     {"api", "app", "core", "demo", "formats", "store", "web"},
	"bench":   {"api", "app", "core", "demo", "formats", "store"},
	"demo":    {"app", "core", "formats", "store"},
	"api":     {"app", "core", "formats", "store"},
	"app":     {"core", "formats", "store"},
	"store":   {"core"},
	"formats": {"core"},
	"core":    {},
	"web":     {},
}

func list(t *testing.T, args ...string) []string {
	t.Helper()
	out, err := exec.Command("go", append([]string{"list"}, args...)...).Output()
	require.NoError(t, err)
	return strings.Split(strings.TrimSpace(string(out)), "\n")
}

func TestArrowsGoOneWay(t *testing.T) {
	checked := 0
	for _, line := range list(t, "-f", `{{.ImportPath}} {{join .Imports " "}}`, "./...") {
		fields := strings.Fields(line)
		from, ok := strings.CutPrefix(fields[0], "pineledger/")
		if !ok {
			continue
		}
		layer, _, _ := strings.Cut(from, "/")
		allowed, known := layers[layer]
		require.True(t, known, "%s is in no layer", from)
		for _, imported := range fields[1:] {
			to, ours := strings.CutPrefix(imported, "pineledger/")
			if !ours {
				continue
			}
			checked++
			other, _, _ := strings.Cut(to, "/")
			if other != layer {
				assert.Contains(t, allowed, other, "%s must not import %s", from, to)
			}
		}
	}
	assert.Greater(t, checked, 30)
}

// The core takes clock, randomness, files and networks as inputs, or not at all.
func TestTheCoreIsPure(t *testing.T) {
	forbidden := []string{"database/sql", "net/http", "net", "os", "io/fs", "math/rand", "math/rand/v2", "crypto/rand", "log/slog", "github.com/jmoiron/sqlx", "github.com/labstack/echo/v5"}
	for _, line := range list(t, "-f", `{{.ImportPath}} {{join .Imports " "}}`, "./core/...") {
		fields := strings.Fields(line)
		for _, f := range forbidden {
			assert.NotContains(t, fields[1:], f, "%s imports %s", fields[0], f)
		}
	}
}

func TestNoPackageIsADrawerForEverything(t *testing.T) {
	for _, path := range list(t, "./...") {
		name := path[strings.LastIndexByte(path, '/')+1:]
		assert.NotContains(t, []string{"util", "utils", "common", "helpers", "models", "types", "shared", "misc"}, name)
	}
}
