package pineledger_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"go/types"
	"io/fs"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The arrows of docs/how-it-works.md: a layer may import those it lists, and itself.
var layers = map[string][]string{
	"cmd":     {"api", "app", "core", "demo", "formats", "run", "standin", "store", "web"},
	"bench":   {"api", "app", "core", "demo", "formats", "store"},
	"demo":    {"app", "core", "formats", "store"},
	"scripts": {"core"},
	"api":     {"app", "core", "formats"}, // no handler sees the store
	"app":     {"core", "formats", "run", "store"},
	"run":     {"core", "store"},
	"store":   {"core"},
	"formats": {"core"},
	"core":    {},
	"standin": {}, // the world outside knows nothing of ours
	"web":     {},
}

// The rooms of a layer in the order of the work: each may import those before it.
var rooms = map[string][]string{
	"app":   {"desk", "office", "bank", "intake", "build", "cuts", "panels", "supports", "give", "take", "read", "record"},
	"store": {"sqlite", "officerows", "intakerows", "bankrows", "buildrows", "cutrows", "panelrows", "giverows", "takerows", "readrows", "recordrows"},
	"api":   {"contract", "edge"},
}

// Bounds on what one reader can hold in mind.
const (
	mostMethods = 40 // exported, of one type
	mostFiles   = 25 // of one package, tests and generated ones not counted
)

// source is one package as its files say, without tests.
type source struct {
	path  string // below the module: "core/band"
	files []*ast.File
}

func (s source) layer() string {
	layer, _, _ := strings.Cut(s.path, "/")
	return layer
}

// imports lists what the package imports, each once.
func (s source) imports(t *testing.T) map[string]bool {
	t.Helper()
	out := map[string]bool{}
	for _, f := range s.files {
		for _, spec := range f.Imports {
			path, err := strconv.Unquote(spec.Path.Value)
			require.NoError(t, err)
			out[path] = true
		}
	}
	return out
}

// house parses every package. It happens in the test's own process, because a
// test's cached result does not notice what a child process reads.
func house(t *testing.T) []source {
	t.Helper()
	byPath := map[string]*source{}
	var order []string
	err := filepath.WalkDir(".", func(path string, entry fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		if entry.IsDir() {
			if name := entry.Name(); path != "." && (name == "node_modules" || name == "testdata" || name == "data" || name == "bin" || strings.HasPrefix(name, ".")) {
				return filepath.SkipDir
			}
			return nil
		}
		if !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") {
			return nil
		}
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.SkipObjectResolution|parser.ParseComments)
		if err != nil {
			return err
		}
		dir := filepath.ToSlash(filepath.Dir(path))
		if byPath[dir] == nil {
			byPath[dir] = &source{path: dir}
			order = append(order, dir)
		}
		byPath[dir].files = append(byPath[dir].files, file)
		return nil
	})
	require.NoError(t, err)
	var out []source
	for _, dir := range order {
		out = append(out, *byPath[dir])
	}
	require.Greater(t, len(out), 30, "packages were found")
	return out
}

func TestArrowsGoOneWay(t *testing.T) {
	checked := 0
	for _, from := range house(t) {
		allowed, known := layers[from.layer()]
		require.True(t, known, "%s is in no layer", from.path)
		for imported := range from.imports(t) {
			to, ours := strings.CutPrefix(imported, "pineledger/")
			if !ours {
				continue
			}
			checked++
			layer, _, _ := strings.Cut(to, "/")
			if layer != from.layer() {
				assert.Contains(t, allowed, layer, "%s must not import %s", from.path, to)
			}
		}
	}
	assert.Greater(t, checked, 30)
}

func TestRoomsStandInTheOrderOfTheWork(t *testing.T) {
	for _, from := range house(t) {
		order, ordered := rooms[from.layer()]
		if !ordered || from.path == from.layer() {
			continue
		}
		room := strings.TrimPrefix(from.path, from.layer()+"/")
		at := slices.Index(order, room)
		require.GreaterOrEqual(t, at, 0, "%s is no room of %s", room, from.layer())
		for imported := range from.imports(t) {
			if other, same := strings.CutPrefix(imported, "pineledger/"+from.layer()+"/"); same {
				assert.Contains(t, order[:at], other, "%s must not import %s", from.path, imported)
			}
		}
	}
}

func TestNothingGrowsBeyondAReader(t *testing.T) {
	for _, p := range house(t) {
		methods, files := map[string]int{}, 0
		for _, f := range p.files {
			if ast.IsGenerated(f) {
				continue
			}
			files++
			for _, d := range f.Decls {
				if fn, ok := d.(*ast.FuncDecl); ok && fn.Recv != nil && fn.Name.IsExported() {
					methods[strings.TrimPrefix(types.ExprString(fn.Recv.List[0].Type), "*")]++
				}
			}
		}
		assert.LessOrEqual(t, files, mostFiles, "files of %s", p.path)
		for name, n := range methods {
			assert.LessOrEqual(t, n, mostMethods, "methods of %s.%s", p.path, name)
		}
	}
}

// The core takes clock, randomness, files and networks as inputs, or not at all.
func TestTheCoreTouchesNothingOutside(t *testing.T) {
	forbidden := []string{"database/sql", "net/http", "net", "os", "io/fs", "math/rand", "crypto/rand", "log/slog", "github.com/jmoiron/sqlx", "github.com/labstack/echo/v5"}
	for _, p := range house(t) {
		if p.layer() != "core" {
			continue
		}
		imports := p.imports(t)
		for _, f := range forbidden {
			assert.NotContains(t, imports, f, "%s imports %s", p.path, f)
		}
	}
}

// A generator that is handed in with its seed is an input like any other. What
// the core must not reach for is the machine's own clock and chance.
func TestTheCoreHasNoClockOrChanceOfItsOwn(t *testing.T) {
	allowed := map[string][]string{
		"math/rand/v2": {"Rand", "Source", "New", "NewPCG", "PCG", "NewChaCha8", "ChaCha8"},
	}
	refused := map[string][]string{
		"time": {"Now", "Since", "Until", "Sleep", "After", "AfterFunc", "Tick", "NewTimer", "NewTicker"},
	}
	seen := 0
	for _, p := range house(t) {
		if p.layer() != "core" {
			continue
		}
		for _, f := range p.files {
			for name, path := range names(t, f) {
				for _, used := range selected(f, name) {
					seen++
					if list, ok := allowed[path]; ok {
						assert.Contains(t, list, used, "%s uses %s.%s", p.path, path, used)
					}
					assert.NotContains(t, refused[path], used, "%s uses %s.%s", p.path, path, used)
				}
			}
		}
	}
	assert.Greater(t, seen, 100)
}

// names gives a file's imports by the name that the file calls them.
func names(t *testing.T, f *ast.File) map[string]string {
	t.Helper()
	out := map[string]string{}
	for _, spec := range f.Imports {
		path, err := strconv.Unquote(spec.Path.Value)
		require.NoError(t, err)
		name := path[strings.LastIndexByte(path, '/')+1:]
		if name == "v2" {
			name = "rand"
		}
		if spec.Name != nil {
			name = spec.Name.Name
		}
		out[name] = path
	}
	return out
}

// selected lists what a file takes of a package.
func selected(f *ast.File, name string) []string {
	var out []string
	ast.Inspect(f, func(n ast.Node) bool {
		if s, ok := n.(*ast.SelectorExpr); ok {
			if x, ok := s.X.(*ast.Ident); ok && x.Name == name {
				out = append(out, s.Sel.Name)
			}
		}
		return true
	})
	return out
}

func TestNoPackageIsADrawerForEverything(t *testing.T) {
	for _, p := range house(t) {
		name := p.path[strings.LastIndexByte(p.path, '/')+1:]
		assert.NotContains(t, []string{"util", "utils", "common", "helpers", "models", "types", "shared", "misc"}, name)
	}
}
