package app_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	bankroom "pineledger/app/bank"
	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/core/blueprint"
	"pineledger/core/points"
	"pineledger/store/buildrows"
)

// A bank may be renamed: rows that name it still do, on the assessment and in the library.
func TestABankOfARowMayBeRenamed(t *testing.T) {
	w := newWorld(t)
	sheet := w.draft()
	id := sheet.Assessment.ID
	banks, err := w.app.Bank.Banks(w.ctx, w.coordinator)
	require.NoError(t, err)
	named := func(name string) []build.RowInput {
		return []build.RowInput{{Title: "Ours", Filter: blueprint.Filter{Banks: []string{name}}, Min: points.One, Max: points.One}}
	}
	at := slices.IndexFunc(banks, func(b bankroom.BankListed) bool { return b.Name == "Bank" })
	_, err = w.app.Build.PutBlueprint(w.ctx, w.coordinator, id, sheet.Assessment.Version, named("Bank"))
	require.NoError(t, err)
	kept, err := w.app.Plans.KeepBlueprint(w.ctx, w.coordinator, id, "Ours", 0)
	require.NoError(t, err)
	before, err := w.app.Draws.Pools(w.ctx, w.coordinator, id)
	require.NoError(t, err)

	_, err = w.app.Bank.PutBank(w.ctx, w.coordinator, banks[at].ID, banks[at].Version, bankroom.BankInput{Name: "The harbor bank"})
	require.NoError(t, err)
	sheet, err = w.app.Build.Sheet(w.ctx, w.coordinator, id)
	require.NoError(t, err)
	assert.Equal(t, []string{"The harbor bank"}, sheet.Rows[0].Filter.Banks)
	after, err := w.app.Draws.Pools(w.ctx, w.coordinator, id)
	require.NoError(t, err)
	assert.Equal(t, before, after, "the row finds the same items")
	assert.Positive(t, after[0])
	rows, err := w.app.Plans.KeptRows(w.ctx, w.coordinator, kept.ID)
	require.NoError(t, err)
	assert.Equal(t, named("The harbor bank"), rows)
	_, err = w.app.Build.PutBlueprint(w.ctx, w.coordinator, id, sheet.Assessment.Version, named("Bank"))
	var invalid *desk.InvalidError
	assert.ErrorAs(t, err, &invalid, "nothing is called so any more")
}

// The library of blueprints: kept from an assessment, found, taken, replaced by who read what is
// replaced, taken out; a school's own is seen by that school and the district.
func TestTheLibraryOfBlueprints(t *testing.T) {
	w := newWorld(t)
	sheet := w.draft()
	id := sheet.Assessment.ID
	_, err := w.app.Plans.KeepBlueprint(w.ctx, w.coordinator, id, "Nothing", 0)
	var conflict *desk.ConflictError
	require.ErrorAs(t, err, &conflict, "an assessment without rows")
	rows := []build.RowInput{
		{Title: "Ratios", Filter: blueprint.Filter{Kinds: []string{"single-choice"}, Difficulty: &[2]int{300, 700}}, Min: 2 * points.One, Max: 3 * points.One},
		{Title: "Written", ByPoints: true, Min: 4 * points.One, Max: 4 * points.One}}
	sheet, err = w.app.Build.PutBlueprint(w.ctx, w.coordinator, id, sheet.Assessment.Version, rows)
	require.NoError(t, err)

	kept, err := w.app.Plans.KeepBlueprint(w.ctx, w.coordinator, id, " Fall plan ", 0)
	require.NoError(t, err)
	assert.Equal(t, []any{"Fall plan", 2, "mathematics", 1}, []any{kept.Title, kept.RowCount, kept.Subject, kept.Version})
	back, err := w.app.Plans.KeptRows(w.ctx, w.coordinator, kept.ID)
	require.NoError(t, err)
	assert.Equal(t, rows, back, "as they were")

	_, err = w.app.Plans.KeepBlueprint(w.ctx, w.coordinator, id, "Fall plan", 0)
	require.ErrorAs(t, err, &conflict, "the name is taken")
	_, err = w.app.Build.PutBlueprint(w.ctx, w.coordinator, id, sheet.Assessment.Version, rows[:1])
	require.NoError(t, err)
	again, err := w.app.Plans.KeepBlueprint(w.ctx, w.coordinator, id, "Fall plan", kept.Version)
	require.NoError(t, err)
	assert.Equal(t, []any{kept.ID, 1, 2}, []any{again.ID, again.RowCount, again.Version})
	_, err = w.app.Plans.KeepBlueprint(w.ctx, w.coordinator, id, "Fall plan", kept.Version)
	require.ErrorAs(t, err, &conflict, "somebody replaced it meanwhile")

	longer, err := w.app.Plans.KeepBlueprint(w.ctx, w.coordinator, id, "A Fall plan", 0)
	require.NoError(t, err)
	found, err := w.app.Plans.KeptBlueprints(w.ctx, w.coordinator, "Fall plan", "")
	require.NoError(t, err)
	require.Len(t, found, 2)
	assert.Equal(t, kept.ID, found[0].ID, "what is called so stands first")
	require.NoError(t, w.app.Plans.DropBlueprint(w.ctx, w.coordinator, longer.ID, longer.Version))

	// A school keeps its own under the same name; the district sees both, another school the district's.
	head, far := w.hale("Quarry Road"), w.hale("Breakwater")
	own, err := w.app.Plans.KeepBlueprint(w.ctx, head, id, "Fall plan", 0)
	require.NoError(t, err)
	titles := func(list []buildrows.KeptBlueprint, err error) []int64 {
		require.NoError(t, err)
		var ids []int64
		for _, b := range list {
			ids = append(ids, b.ID)
		}
		return ids
	}
	assert.Equal(t, []int64{kept.ID, own.ID}, titles(w.app.Plans.KeptBlueprints(w.ctx, w.coordinator, "fall", "mathematics")))
	assert.Equal(t, []int64{kept.ID, own.ID}, titles(w.app.Plans.KeptBlueprints(w.ctx, head, "", "")))
	assert.Equal(t, []int64{kept.ID}, titles(w.app.Plans.KeptBlueprints(w.ctx, far, "", "")))
	assert.Empty(t, titles(w.app.Plans.KeptBlueprints(w.ctx, w.coordinator, "100%", "")))
	_, err = w.app.Plans.KeptRows(w.ctx, far, own.ID)
	require.ErrorIs(t, err, desk.ErrNotFound)
	require.ErrorIs(t, w.app.Plans.DropBlueprint(w.ctx, head, kept.ID, again.Version), desk.ErrForbidden, "the district's")

	require.ErrorAs(t, w.app.Plans.DropBlueprint(w.ctx, w.coordinator, kept.ID, 1), &conflict)
	require.NoError(t, w.app.Plans.DropBlueprint(w.ctx, w.coordinator, kept.ID, again.Version))
	assert.Equal(t, []int64{own.ID}, titles(w.app.Plans.KeptBlueprints(w.ctx, w.coordinator, "", "")))
}
