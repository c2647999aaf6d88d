package app_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"pineledger/app/build"
	"pineledger/app/cuts"
	"pineledger/app/intake"
	"pineledger/core/points"
)

const grades67 = `Calder test of mathematics 2025-26
Grade,Raw score,Scale score,Band
6,0,300,Launching
6,1,320,On course
6,2,340,On course
7,0,300,Launching
7,1,310,Launching
7,2,330,On course
Scores were set in May.
`

func (w *world) tables(name, content string, given intake.Assumed) intake.ImportReport {
	w.Helper()
	path := filepath.Join(w.TempDir(), name)
	require.NoError(w, os.WriteFile(path, []byte(content), 0o600))
	report, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportTables, Name: name, Path: path, Assume: given}, nil)
	if err != nil {
		assert.Equal(w, "failed", report.State)
	}
	return report
}

func TestOfficialTablesComeIn(t *testing.T) {
	w := newWorld(t)
	path := filepath.Join(t.TempDir(), "calder.csv")
	require.NoError(t, os.WriteFile(path, []byte(grades67), 0o600))
	look, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportTables, Name: "calder.csv", Path: path, Look: true}, nil)
	require.NoError(t, err)
	assert.Equal(t, "looked", look.State)
	assert.Equal(t, 2, look.Counts.New, "what it would bring")
	none, err := w.app.Cuts.OfficialTables(w.ctx, w.coordinator)
	require.NoError(t, err)
	assert.Empty(t, none)
	report := w.tables("calder.csv", grades67, intake.Assumed{})
	assert.Equal(t, intake.ImportCounts{Read: 9, New: 2, Aside: 1}, report.Counts)
	assert.Equal(t, "Scores were set in May.", report.Notes[len(report.Notes)-1].Reason)
	assert.Contains(t, report.Notes[1].Reason, "was read as raw")
	again := w.tables("calder.csv", grades67, intake.Assumed{})
	assert.Equal(t, 2, again.Counts.Unchanged, "the same once more changes nothing")
	changed := w.tables("calder.csv", strings.Replace(grades67, "6,2,340", "6,2,345", 1), intake.Assumed{})
	assert.Equal(t, []int{1, 1}, []int{changed.Counts.Changed, changed.Counts.Unchanged})

	list, err := w.app.Cuts.OfficialTables(w.ctx, w.coordinator)
	require.NoError(t, err)
	require.Len(t, list, 2, "the one that was replaced is listed no more")
	assert.Equal(t, []string{"06", "2025–26", "mathematics"}, []string{list[0].Grade, list[0].Year, list[0].Subject})
	before := w.tables("before.csv", strings.NewReplacer("2025-26", "2024-25", "6,1,320,On course", "6,1,320,Launching").Replace(grades67), intake.Assumed{})
	assert.Equal(t, 2, before.Counts.New)
	opened, err := w.app.Cuts.OfficialTable(w.ctx, w.coordinator, list[0].ID, 0)
	require.NoError(t, err)
	assert.Len(t, opened.Rows, 3)
	require.Len(t, opened.Others, 1)
	beside, err := w.app.Cuts.OfficialTable(w.ctx, w.coordinator, list[0].ID, opened.Others[0].ID)
	require.NoError(t, err)
	assert.Equal(t, points.Points(5000), beside.Cuts[0].Percent())
	assert.Equal(t, points.Points(10_000), beside.Before["On course"].Percent(), "the cut has moved down")
}

func TestATableWithABadRowIsRefusedWithTheRow(t *testing.T) {
	w := newWorld(t)
	gap := w.tables("gap.csv", strings.Replace(grades67, "6,1,320,On course\n", "", 1), intake.Assumed{})
	assert.Equal(t, []int{1, 1}, []int{gap.Counts.New, gap.Counts.Refused}, "the other grade is kept")
	assert.Equal(t, 4, gap.Refusals[0].Line)
	assert.Contains(t, gap.Refusals[0].Reason, "the raw score")
	torn := w.tables("torn.csv", strings.Replace(grades67, "7,2,330", "7,2,high", 1), intake.Assumed{})
	assert.Equal(t, 0, torn.Counts.New, "a row that cannot be read may be the end of any table")
	assert.Equal(t, "scale", torn.Refusals[0].Field)
	nothing := w.tables("letters.csv", "a,b\n1,2\n", intake.Assumed{})
	assert.Equal(t, "failed", nothing.State)
	assert.Contains(t, nothing.Message, "no row names a column of raw scores")
}

func TestEachSheetOfAWorkbookIsATable(t *testing.T) {
	w := newWorld(t)
	book := excelize.NewFile()
	require.NoError(t, book.SetSheetName("Sheet1", "Grade 6"))
	_, err := book.NewSheet("Grade 7")
	require.NoError(t, err)
	for _, sheet := range []string{"Grade 6", "Grade 7"} {
		require.NoError(t, book.MergeCell(sheet, "B1", "C1"))
		for cell, value := range map[string]any{"B1": "Spring 2025-26", "A2": "Raw", "B2": "Scale", "C2": "Level", "A3": 0, "B3": 300, "C3": "Launching", "A4": 1, "B4": 320.5, "C4": "On course"} {
			require.NoError(t, book.SetCellValue(sheet, cell, value))
		}
	}
	path := filepath.Join(t.TempDir(), "calder.xlsx")
	require.NoError(t, book.SaveAs(path))
	content, err := os.ReadFile(path)
	require.NoError(t, err)
	report := w.tables("calder.xlsx", string(content), intake.Assumed{Subject: "mathematics"})
	assert.Empty(t, report.Refusals)
	list, err := w.app.Cuts.OfficialTables(w.ctx, w.coordinator)
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Equal(t, []string{"06", "07"}, []string{list[0].Grade, list[1].Grade})
	assert.Equal(t, "calder.xlsx, Grade 7", list[1].Source)
}

// A cut that equals nothing official is said with the nearest that do.
func TestCutsThatEqualNothingOfficial(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	set, err := w.app.Plans.PutBandSet(w.ctx, w.coordinator, 0, build.BandSetInput{Name: "Bands", Bands: twoBands(7000)})
	require.NoError(t, err)
	s, err = w.app.Build.ChooseBands(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, set.ID)
	require.NoError(t, err)
	ask := func() cuts.Forecast {
		f, err := w.app.Cuts.Forecast(w.ctx, w.coordinator, s.Assessment.ID, cuts.Question{Assumed: cuts.Assumed{SD: 1}})
		require.NoError(t, err)
		return f
	}
	assert.Empty(t, ask().Off, "without a table nothing differs from it")
	w.tables("calder.csv", grades67, intake.Assumed{})
	off := ask().Off
	require.Len(t, off, 1)
	assert.Equal(t, points.Points(210), off[0].Raw)
	assert.Equal(t, points.Points(150), off[0].Nearest[0].Here, "half of three points")
	s, err = w.app.Build.PutCuts(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, twoBands(5000), "")
	require.NoError(t, err)
	assert.Empty(t, ask().Off)
}
