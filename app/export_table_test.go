package app_test

import (
	"bytes"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/app/intake"
	"pineledger/formats/table"
)

// The whole bank of the demo goes out as a table and comes in unchanged; what a
// table cannot hold is said to come in packages, and left aside.
func TestATableGoesOutAndComesIn(t *testing.T) {
	d := newDistrict(t)
	for name, write := range map[string]func(file *bytes.Buffer) func([]string, [][]string) error{
		"bank.csv": func(file *bytes.Buffer) func([]string, [][]string) error {
			return func(head []string, rows [][]string) error { return table.Write(file, head, rows) }
		},
		"bank.xlsx": func(file *bytes.Buffer) func([]string, [][]string) error {
			return func(head []string, rows [][]string) error { return table.WriteSheet(file, "Items", head, rows) }
		},
	} {
		var file bytes.Buffer
		n, err := d.app.Bank.ExportTable(d.ctx, d.head, bank.ItemSearch{}, write(&file))
		require.NoError(t, err)
		require.Greater(t, n, 500)
		path := filepath.Join(t.TempDir(), name)
		require.NoError(t, os.WriteFile(path, file.Bytes(), 0o600))
		r, err := d.app.Intake.Import(d.ctx, d.head, intake.File{Kind: intake.ImportItems, Name: name, Path: path}, nil)
		require.NoError(t, err)
		assert.Empty(t, r.Refusals, name)
		assert.Equal(t, []int{n, 0, 0}, []int{r.Counts.Read, r.Counts.New, r.Counts.Changed}, name)
		assert.Less(t, r.Counts.Aside, n/6, "few items need a package: %s", name)
	}
}

func TestATableKeepsWhatIsTyped(t *testing.T) {
	w := newWorld(t)
	file := w.file("more.csv", "identifier,bank,kind,stem,choice_1,choice_2,choice_3,target_1,target_2,key,standards,subject,grade,course,tags,text,joins,units,tolerance\n"+
		"X1,Bank,single-choice,<p>Which is <em>less</em> than 3?</p>,<!----><b>2</b>,= 4,-3,,,A,M6.RR,mathematics,06,Harbor math,tide tables,,,,\n"+
		"X2,Bank,match,\"Join \"\"them\"\"\",ebb,flood,,out,in,A-1;B-1,M6.RR,mathematics,06,,,,often,,\n"+
		"X3,Bank,number,How far & how long?,,,,,,-3;2 1/2,,mathematics,06,,,,,km;m,0.5\n"+
		"X4,Bank,select-text,Find it.,,,,,,B,,reading,06,,,The [tide] [rose] < noon.,,,\n")
	w.take(w.coordinator, intake.ImportItems, file, 4)
	var out bytes.Buffer
	n, err := w.app.Bank.ExportTable(w.ctx, w.coordinator, bank.ItemSearch{}, func(head []string, rows [][]string) error { return table.Write(&out, head, rows) })
	require.NoError(t, err)
	assert.Equal(t, 7, n)
	assert.NotContains(t, out.String(), "packages alone")
	path := w.file("again.csv", out.String())
	r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportItems, Name: "again.csv", Path: path}, nil)
	require.NoError(t, err)
	assert.Equal(t, 7, r.Counts.Unchanged, "%+v", r.Refusals)
	assert.Contains(t, out.String(), "'= 4", "no spreadsheet runs a cell")
	_, err = w.app.Bank.ExportTable(w.ctx, w.teacher, bank.ItemSearch{}, nil)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	assert.True(t, strings.HasPrefix(out.String(), "identifier,bank,kind"))
}
