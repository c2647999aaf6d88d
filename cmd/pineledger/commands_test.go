package main

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/store"
)

// built is the program, built once for the tests that run it.
var built = sync.OnceValues(func() (string, error) {
	dir, err := os.MkdirTemp("", "pineledger-built-")
	if err != nil {
		return "", err
	}
	bin := filepath.Join(dir, "pineledger")
	out, err := exec.Command("go", "build", "-o", bin, ".").CombinedOutput()
	if err != nil {
		return "", fmt.Errorf("%w: %s", err, out)
	}
	return bin, nil
})

func TestMain(m *testing.M) {
	code := m.Run()
	if bin, err := built(); err == nil {
		os.RemoveAll(filepath.Dir(bin))
	}
	os.Exit(code)
}

type ran struct {
	code        int
	out, errout string
}

// pineledger runs a command with an input, as a shell would.
func pineledger(t *testing.T, in string, args ...string) ran {
	t.Helper()
	bin, err := built()
	require.NoError(t, err)
	cmd := exec.Command(bin, args...)
	cmd.Stdin = strings.NewReader(in)
	var out, errout bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &errout
	err = cmd.Run()
	var exit *exec.ExitError
	if err != nil && !errors.As(err, &exit) {
		require.NoError(t, err)
	}
	return ran{cmd.ProcessState.ExitCode(), out.String(), errout.String()}
}

func write(t *testing.T, name, text string) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(path, []byte(text), 0o600))
	return path
}

const calder = `{"CFDocument":{"identifier":"doc","title":"Calder","subject":["Mathematics"]},"CFItems":[
	{"identifier":"m6","humanCodingScheme":"M6","fullStatement":"Grade 6","educationLevel":["06"]},
	{"identifier":"rr","humanCodingScheme":"M6.RR","fullStatement":"Ratio","educationLevel":["06"]}],
	"CFAssociations":[{"associationType":"isChildOf","originNodeURI":{"identifier":"rr"},"destinationNodeURI":{"identifier":"m6"}}]}`

func TestFilesComeInAtTheCommandLine(t *testing.T) {
	data := filepath.Join(t.TempDir(), "data")
	standards := write(t, "calder.json", calder)
	r := pineledger(t, "", "import", "standards", standards, "--data", data)
	require.Zero(t, r.code, r.errout)
	assert.Equal(t, "Read 2: new 2, changed 0, unchanged 0, refused 0, left aside 0\n", r.out)
	again := pineledger(t, "", "import", "standards", standards, "--data", data)
	assert.Equal(t, "Read 2: new 0, changed 0, unchanged 2, refused 0, left aside 0\n", again.out)

	items := write(t, "items.csv", "identifier,bank,kind,subject,grade,standards,stem,choice_1,choice_2,key\n"+
		"A,Own,single-choice,Mathematics,06,M6.RR,Which?,1,2,B\nB,Own,single-choice,Mathematics,06,M6.XX,Which?,1,2,B\n")
	report := filepath.Join(t.TempDir(), "report.csv")
	r = pineledger(t, "", "import", "items", items, "--data", data, "--report", report)
	require.Zero(t, r.code, r.errout)
	assert.Contains(t, r.out, "new 1, changed 0, unchanged 0, refused 1")
	assert.Contains(t, r.out, `items.csv line 3, standards: "M6.XX" is not a standard that is known`)
	file, err := os.Open(report)
	require.NoError(t, err)
	defer file.Close()
	rows, err := csv.NewReader(file).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, []string{"file", "line", "field", "reason", "what"}, rows[0])
	assert.Equal(t, []string{"items.csv", "3", "standards"}, rows[1][:3])
	assert.Equal(t, []string{"items.csv", "0", "language", `"en" was taken for 1 item that did not say it, the first of them A`, "assumed"}, rows[len(rows)-1])

	// What came in goes out as a package, which brings nothing new.
	out := filepath.Join(t.TempDir(), "items.zip")
	r = pineledger(t, "", "export", "items", out, "--data", data, "--subject", "Mathematics", "--grade", "6")
	require.Zero(t, r.code, r.errout)
	assert.Contains(t, r.out, "items.zip: 1")
	r = pineledger(t, "", "import", "items", out, "--data", data)
	assert.Equal(t, "Read 1: new 0, changed 0, unchanged 1, refused 0, left aside 0\n", r.out)
	r = pineledger(t, "{\"package\":\""+out+"\"}\n{\"item\":\"A\",\"response\":{\"RESPONSE\":[\"B\"]}}\n", "compute", "score")
	assert.Contains(t, r.out, `"credit":1,"max":1,"omitted":false`)
	r = pineledger(t, "", "export", "rosters", out, "--data", data)
	assert.Contains(t, r.errout, `"rosters" cannot be exported`)

	verified := pineledger(t, "", "verify", "--data", data)
	assert.Zero(t, verified.code, verified.errout)
	assert.Regexp(t, `^the chain of (\d+) entries holds, and its anchor at entry (\d+); 0 sealed forms match their fingerprints;\n0 attempts are there,`, verified.out)
	verified = pineledger(t, "", "verify", "--data", data, "--paper", "1 "+strings.Repeat("0", 32))
	assert.Contains(t, verified.errout, "entry 1 is not the one that was written down")
	verified = pineledger(t, "", "verify", "--data", data, "--paper", "1 abc")
	assert.Contains(t, verified.errout, "does not go on with a hash")
}

func TestWhatCannotComeInSaysWhyAndChangesNothing(t *testing.T) {
	data := filepath.Join(t.TempDir(), "data")
	for _, c := range []struct{ kind, file, want string }{
		{"standards", write(t, "x.json", "{"), "x.json"},
		{"standards", filepath.Join(t.TempDir(), "none.json"), "no such file"},
		{"items", write(t, "x.csv", "identifier,stem\n"), "lacks the columns bank, kind"},
		{"roster", t.TempDir(), "no orgs.csv"},
	} {
		report := filepath.Join(t.TempDir(), "report.csv")
		r := pineledger(t, "", "import", c.kind, c.file, "--data", data, "--report", report)
		assert.Equal(t, 1, r.code, c.kind)
		assert.Empty(t, r.out, c.kind)
		assert.Contains(t, r.errout, c.want)
		kept, err := os.ReadFile(report)
		require.NoError(t, err, "the report holds it too")
		assert.Contains(t, string(kept), c.want)
		assert.Contains(t, string(kept), "nothing was changed")
	}
}

func TestDamagedAndEmptyPackagesAreCalledSo(t *testing.T) {
	data := filepath.Join(t.TempDir(), "data")
	for _, c := range []struct{ file, want string }{
		{write(t, "cut.zip", "PK\x03\x04 and no more"), "the zip is damaged"},
		{write(t, "empty.zip", ""), "the file is empty"},
		{write(t, "none.zip", "PK\x05\x06"+strings.Repeat("\x00", 18)), "the zip is empty"},
		{write(t, "notes.zip", "identifier,stem"), "the file is not a zip"},
	} {
		r := pineledger(t, "", "import", "items", c.file, "--data", data)
		assert.Equal(t, 1, r.code, c.want)
		assert.Contains(t, strings.ToLower(r.errout), c.want)
	}
}

func TestItemsThatDoNotSayItGetWhatIsGiven(t *testing.T) {
	data := filepath.Join(t.TempDir(), "data")
	require.Zero(t, pineledger(t, "", "import", "standards", write(t, "calder.json", calder), "--data", data).code)
	items := write(t, "items.csv", "identifier,bank,kind,subject,grade,standards,language,stem,choice_1,choice_2,key\n"+
		"A,,single-choice,,,,en,Which?,1,2,B\nB,Own,single-choice,Reading,05,,en,Which one?,1,2,B\n")
	r := pineledger(t, "", "import", "items", items, "--data", data)
	assert.Contains(t, r.out, "new 1, changed 0, unchanged 0, refused 1")
	assert.Contains(t, r.out, "items.csv line 2, subject: is not said, and no standard tells it")
	r = pineledger(t, "", "import", "items", items, "--data", data, "--standard", "M6.RR", "--bank", "Fall", "--grade", "Grade 6")
	require.Zero(t, r.code, r.errout)
	assert.Contains(t, r.out, "new 1, changed 1, unchanged 0, refused 0")
	assert.Contains(t, r.out, `items.csv, standards: "M6.RR" was taken for 2 items that did not say it, the first of them A`)
	assert.Contains(t, r.out, `items.csv, bank: "Fall" was taken for 1 item that did not say it, the first of them A`)
	assert.NotContains(t, r.out, "subject:", "the standard tells it")
	for flag, want := range map[string]string{"--standard=M9": `"M9" is not a standard that is known here`, "--grade=sixish": `"sixish" is not a grade`} {
		r := pineledger(t, "", "import", "items", items, "--data", data, flag)
		assert.Equal(t, 1, r.code)
		assert.Contains(t, r.errout, want)
	}
}

// A command line that cannot be meant: one line, exit 2, nothing on standard output.
func TestCommandLinesThatCannotBeMeant(t *testing.T) {
	for line, want := range map[string]string{
		"recipes":                     `unknown command "recipes" for "pineledger"`,
		"compute recipes":             `unknown command "recipes" for "pineledger compute"; there are ability, balance, band, clock, cuts, draw, panel, predict, score, settings, stats`,
		"compute cuts --sharp":        "unknown flag: --sharp",
		"compute cuts more":           `pineledger compute cuts: unknown command "more"`,
		"import items":                "pineledger import: accepts 2 arg(s), received 1",
		"import recipes x.csv":        `"recipes" is not standards, roster, items, tables or profiles`,
		"export recipes x.zip":        `"recipes" cannot be exported; items can`,
		"verify --data":               "flag needs an argument: --data",
		"--sharp":                     "unknown flag: --sharp",
		"demo --students=some":        `invalid argument "some" for "--students" flag`,
		"verify and more --data none": "pineledger verify: unknown command",
	} {
		r := pineledger(t, "", strings.Fields(line)...)
		assert.Equal(t, 2, r.code, line)
		assert.Empty(t, r.out, line)
		assert.Contains(t, r.errout, want)
		assert.Equal(t, 1, strings.Count(r.errout, "\n"), line)
	}
}

func TestTheFirstCoordinatorIsAddedAtTheCommandLine(t *testing.T) {
	data := filepath.Join(t.TempDir(), "data")
	args := []string{"coordinator", "--data", data, "--given", "Ada", "--family", "Lind", "--email", "Ada@District.example"}
	r := pineledger(t, "short\n", args...)
	assert.Equal(t, 1, r.code)
	assert.Contains(t, r.errout, "12 characters at least")
	r = pineledger(t, "twelve letters\n", args...)
	require.Zero(t, r.code, r.errout)
	assert.Contains(t, r.out, "Ada Lind can sign in as")
	r = pineledger(t, "twelve letters\n", args...)
	assert.Equal(t, 1, r.code, "an e-mail is one person's")
	kept, err := os.ReadFile(filepath.Join(data, "pineledger.db"))
	require.NoError(t, err)
	assert.NotContains(t, string(kept), "twelve letters")
}

func TestADemoNeverRemovesWhatItDidNotMake(t *testing.T) {
	data := t.TempDir()
	precious := filepath.Join(data, "letters.txt")
	require.NoError(t, os.WriteFile(precious, []byte("keep"), 0o600))
	r := pineledger(t, "", "demo", "--fresh", "--only-make", "--data", data)
	assert.Equal(t, 1, r.code)
	assert.Contains(t, r.errout, "did not make")
	assert.FileExists(t, precious)
}

func TestADemoIsMadeOnceAndAfreshWhenAsked(t *testing.T) {
	data := filepath.Join(t.TempDir(), "demo")
	make := func(more ...string) ran {
		return pineledger(t, "", append([]string{"demo", "--only-make", "--students", "200", "--data", data}, more...)...)
	}
	first := make()
	require.Zero(t, first.code, first.errout)
	assert.Contains(t, first.out, "The demo district is ready")
	assert.Empty(t, make().out, "what is there is kept")
	assert.Contains(t, make("--fresh").out, "The demo district is ready")

	// Stopped half-way, it begins again.
	require.NoError(t, os.Rename(filepath.Join(data, "demo-made"), filepath.Join(data, "demo-made-begun")))
	assert.Contains(t, make().out, "The demo district is ready")
	verified := pineledger(t, "", "verify", "--data", data)
	assert.Contains(t, verified.out, "5 sealed forms match")
}

// compute: JSON in and out; what is wrong goes to standard error with its place and exit 2.
func TestComputeAtTheCommandLine(t *testing.T) {
	r := pineledger(t, `{"lines":[{"points":10,"step":1}],"bands":[{"name":"a"},{"name":"b","cut":{"percent":55}}]}`, "compute", "cuts")
	require.Zero(t, r.code, r.errout)
	var out struct {
		Total float64
		Bands []struct{ Raw float64 }
	}
	require.NoError(t, json.Unmarshal([]byte(r.out), &out))
	assert.Equal(t, 6.0, out.Bands[1].Raw)
	assert.Empty(t, r.errout)

	r = pineledger(t, `{"rows":[{"id":"a","filter":{"depth":[5]},"count":{"min":1,"max":1}}],"lines":[],"standards":[]}`, "compute", "balance")
	assert.Equal(t, 2, r.code)
	assert.Empty(t, r.out)
	assert.Equal(t, "rows[0].filter.depth: 5 is not 1–4\n", r.errout)
}

// The example that each help shows works as it stands.
func TestTheExamplesOfTheHelpWork(t *testing.T) {
	bin, err := built()
	require.NoError(t, err)
	example := regexp.MustCompile(`(?m)^\s+((?:echo|printf) '.*' \| pineledger compute (\w+))$`)
	for _, what := range []string{"cuts", "band", "balance", "score", "stats", "predict", "ability", "panel"} {
		help := pineledger(t, "", "compute", what, "--help")
		found := example.FindStringSubmatch(help.out)
		require.NotNil(t, found, "%s has no example", what)
		require.Equal(t, what, found[2])
		cmd := exec.Command("sh", "-c", strings.Replace(found[1], "| pineledger", "| "+bin, 1))
		out, err := cmd.Output()
		require.NoError(t, err, what)
		assert.True(t, json.Valid(out), "%s: %s", what, out)
	}
}

// A data folder is one program's, for its owner alone, and belongs to its secret.
func TestTheDataFolder(t *testing.T) {
	data := filepath.Join(t.TempDir(), "data")
	none := pineledger(t, "", "verify", "--data", data)
	assert.Equal(t, 1, none.code)
	assert.Contains(t, none.errout, "there is no database in")
	assert.NoDirExists(t, data, "looking makes nothing")

	add := func() ran {
		return pineledger(t, "a long enough password\n", "coordinator", "--data", data, "--given", "Ada", "--family", "Lind", "--email", "ada@x.example")
	}
	require.Zero(t, add().code)
	for name, want := range map[string]os.FileMode{"": os.ModeDir | 0o700, "pineledger.db": 0o600, "secret.key": 0o600, "ledger.anchor": 0o600, "lock": 0o600} {
		info, err := os.Stat(filepath.Join(data, name))
		require.NoError(t, err)
		assert.Equal(t, want, info.Mode(), name)
	}

	lock, err := store.LockFolder(data)
	require.NoError(t, err)
	_, err = store.LockFolder(data)
	require.ErrorIs(t, err, store.ErrLocked)
	served := pineledger(t, "", "serve", "--data", data, "--address", "127.0.0.1:0")
	assert.Contains(t, served.errout, "another Pine Ledger works in this folder")
	waited := make(chan ran)
	go func() { waited <- pineledger(t, "", "verify", "--data", data) }()
	select {
	case r := <-waited:
		assert.Fail(t, "it did not wait", r.errout)
	case <-time.After(600 * time.Millisecond):
	}
	require.NoError(t, lock.Release())
	assert.Zero(t, (<-waited).code)

	require.NoError(t, os.Remove(filepath.Join(data, "secret.key")))
	lost := pineledger(t, "", "verify", "--data", data)
	assert.Equal(t, 1, lost.code)
	assert.Contains(t, lost.errout, "put the secret.key that belongs to it back")
	assert.NoFileExists(t, filepath.Join(data, "secret.key"))
}

// A file of random bytes in the place of the database is no ledger that holds.
func TestVerifyRefusesADamagedFile(t *testing.T) {
	data := filepath.Join(t.TempDir(), "data")
	require.Zero(t, pineledger(t, "a long enough password\n", "coordinator", "--data", data, "--given", "Ada", "--family", "Lind", "--email", "ada@x.example").code)
	path := filepath.Join(data, "pineledger.db")
	whole, err := os.ReadFile(path)
	require.NoError(t, err)
	damaged := bytes.Clone(whole)
	for i := len(damaged) / 3; i < len(damaged)/3*2; i++ {
		damaged[i] = byte(i * 7)
	}
	for name, content := range map[string][]byte{"pages overwritten": damaged, "cut": whole[:len(whole)/2], "empty": {}} {
		require.NoError(t, os.WriteFile(path, content, 0o600))
		assert.NotZero(t, pineledger(t, "", "verify", "--data", data).code, name)
	}
}
