package build

import (
	"context"
	"fmt"
	"log/slog"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/app/intake"
	"pineledger/app/office"
	"pineledger/core/blueprint"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/officerows"
)

// bankOf makes a bank of many small items in which every part of a filter tells some apart.
func bankOf(t *testing.T, n int) (*Draws, roster.Viewer, int64) {
	t.Helper()
	ctx, dir := t.Context(), t.TempDir()
	s, err := store.Open(ctx, dir)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, s.Close()) })
	d, err := desk.New(desk.Config{Store: s, Secret: []byte(strings.Repeat("s", 40)), Log: slog.New(slog.DiscardHandler)})
	require.NoError(t, err)
	banks, _, word, writing := bank.New(d)
	in, err := intake.New(ctx, d, office.New(d), banks)
	require.NoError(t, err)
	build, draws, _, err := New(ctx, d, banks, writing)
	require.NoError(t, err)
	maker := roster.Viewer{Name: "Ada Lind", Posts: []roster.Post{{Role: roster.DistrictCoordinator}}}
	other := maker
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		if maker.PersonID, err = officerows.AddStaff(ctx, tx, "m", "Ada", "Lind", "ada@x.example", "", roster.DistrictCoordinator); err != nil {
			return err
		}
		other.PersonID, err = officerows.AddStaff(ctx, tx, "o", "Ben", "Moss", "ben@x.example", "", roster.DistrictCoordinator)
		return err
	}))
	var file strings.Builder
	file.WriteString("identifier,bank,kind,subject,grade,standards,depth,difficulty,language,tags,stem,choice_1,choice_2,key\n")
	noise := rand.New(rand.NewPCG(7, 7))
	for i := range n {
		difficulty := ""
		if noise.IntN(4) > 0 {
			difficulty = fmt.Sprintf(".%02d", 20+noise.IntN(60))
		}
		fmt.Fprintf(&file, "I%d,%s,%s,mathematics,06,,%d,%s,en,%s,Stem %d of %d boats?,yes,no,A\n", i, []string{"Harbor", "Quarry", "Mill"}[noise.IntN(3)],
			[]string{"single-choice", "multiple-choice"}[noise.IntN(2)], 1+noise.IntN(3), difficulty, []string{"", "tide", "boat", "tide;boat"}[noise.IntN(4)], i, noise.IntN(1000))
	}
	path := filepath.Join(dir, "items.csv")
	require.NoError(t, os.WriteFile(path, []byte(file.String()), 0o600))
	report, err := in.Import(ctx, maker, intake.File{Kind: intake.ImportItems, Name: "items.csv", Path: path}, nil)
	require.NoError(t, err)
	require.Equal(t, n, report.Counts.New, "%+v", report.Refusals)
	sheet, err := build.StartAssessment(ctx, maker, Outline{Title: "Counted", Subject: "mathematics", Grades: []string{"06"}, Purpose: "benchmark", Language: "en"})
	require.NoError(t, err)
	page, err := banks.Items(ctx, maker, bank.ItemSearch{Subjects: []string{"mathematics"}})
	require.NoError(t, err)
	var lines []LineInput
	for _, it := range page.Items[:5] {
		lines = append(lines, LineInput{ItemID: it.ID, Points: points.One})
	}
	_, err = build.PutLines(ctx, maker, sheet.Assessment.ID, sheet.Assessment.Version, lines)
	require.NoError(t, err)
	var held []int64
	for _, it := range page.Items[10:50] {
		held = append(held, it.ID)
	}
	err = word.HoldItems(ctx, other, bank.HoldInput{Items: held, Until: time.Now().AddDate(0, 1, 0).Format("2006-01-02")})
	require.NoError(t, err)
	return draws, maker, sheet.Assessment.ID
}

// What is counted by groups is what a draw would have before it, whatever a row asks for.
func TestPoolsAreCountedAsADrawReadsThem(t *testing.T) {
	a, maker, id := bankOf(t, 300)
	ctx := context.Background()
	row, err := buildrows.AssessmentByID(ctx, a.Store.Reader, id)
	require.NoError(t, err)
	lines, err := buildrows.Lines(ctx, a.Store.Reader, id)
	require.NoError(t, err)
	noise := rand.New(rand.NewPCG(3, 3))
	some := func(list ...string) []string {
		if noise.IntN(2) == 0 {
			return nil
		}
		return list[:1+noise.IntN(len(list))]
	}
	told := map[int]bool{}
	for range 60 {
		f := blueprint.Filter{Kinds: some("multiple-choice", "single-choice"), Tags: some("tide", "boat"), Banks: some("Quarry", "Mill", "Harbor")}
		if noise.IntN(2) == 0 {
			f.Depth = []int{1 + noise.IntN(3)}
		}
		if noise.IntN(2) == 0 {
			f.Difficulty = &[2]int{300, 400 + noise.IntN(400)}
		}
		if len(f.Tags) == 0 && noise.IntN(2) == 0 {
			f.Without = []string{"boat"}
		}
		rows := []RowInput{{Filter: f, Min: points.One, Max: points.One}}
		read, err := a.pool(ctx, maker, row, rows, lines, DrawQuestion{})
		require.NoError(t, err)
		counted, err := a.poolCounts(ctx, maker, row, rows)
		require.NoError(t, err)
		all, _ := read.serving(rows...)
		assert.Equal(t, all, counted.serving(f), "%+v", f)
		told[counted.serving(f)] = true
	}
	assert.Greater(t, len(told), 15, "filters tell items apart")
}
