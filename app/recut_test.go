package app_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/cuts"
	"pineledger/app/desk"
	"pineledger/app/read"
	"pineledger/core/band"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/officerows"
)

// A change of record of the fall's cuts: weighed first, made with a reason, and every result says which cuts it has.
func TestCutsOfResultsChange(t *testing.T) {
	d := newDistrictToChange(t)
	before := d.matrix(d.head, read.MatrixQuery{})
	id, bands := before.Head.AssessmentID, []band.Band{}
	history := func() cuts.History {
		h, err := d.app.Cuts.History(d.ctx, d.head, id)
		require.NoError(t, err)
		return h
	}
	sealed := history()
	require.Len(t, sealed.Versions, 1)
	require.True(t, sealed.MayChange)
	bands = append(bands, sealed.Versions[0].Bands...)
	last := len(bands) - 1
	total := before.Head.Total
	raw := points.Points(0) // the best score below the highest band
	for _, r := range before.Rows {
		if r.Final && r.Band == last-1 {
			raw = max(raw, r.Raw)
		}
	}
	bands[last].Cut = band.Cut{Raw: &raw, Of: &total}

	weighed, err := d.app.Cuts.Weigh(d.ctx, d.head, id, bands, cuts.MostNamed)
	require.NoError(t, err)
	require.Positive(t, weighed.Changed)
	require.Len(t, weighed.Students, weighed.Changed, "each is named")
	one, err := d.app.Cuts.Weigh(d.ctx, d.head, id, bands, 1)
	require.NoError(t, err)
	assert.Equal(t, weighed.Students[:1], one.Students)
	assert.Equal(t, weighed.Changed, one.Changed)
	all, err := d.app.Cuts.Weigh(d.ctx, d.head, id, bands, -1)
	require.NoError(t, err)
	assert.Equal(t, weighed.Students, all.Students)
	higher := 0
	for _, s := range weighed.Schools {
		higher += s.Higher
		assert.Zero(t, s.Lower)
	}
	assert.Equal(t, weighed.Changed, higher)
	assert.Zero(t, weighed.Beyond, "the district sees all")
	for _, s := range weighed.Students {
		assert.Equal(t, last-1, s.From)
		assert.Equal(t, last, s.To)
	}
	assert.Equal(t, before.Rows, d.matrix(d.head, read.MatrixQuery{}).Rows, "weighing touches nothing")

	var invalid *desk.InvalidError
	_, err = d.app.Cuts.Recut(d.ctx, d.head, id, cuts.Change{Bands: bands, Reason: "  "})
	require.ErrorAs(t, err, &invalid)
	assert.Equal(t, "/reason", invalid.Fields[0].Pointer)
	_, err = d.app.Cuts.Recut(d.ctx, d.head, id, cuts.Change{Bands: twoBands(5000), Reason: "Fewer"})
	require.ErrorAs(t, err, &invalid, "the bands of a sealed form stay")
	var conflict *desk.ConflictError
	_, err = d.app.Cuts.Recut(d.ctx, d.head, id, cuts.Change{Bands: sealed.Versions[0].Bands, Reason: "The same"})
	require.ErrorAs(t, err, &conflict)

	made, err := d.app.Cuts.Recut(d.ctx, d.head, id, cuts.Change{Bands: bands, Reason: "The state moved its own."})
	require.NoError(t, err)
	require.Len(t, made.Versions, 2)
	assert.Equal(t, weighed.Changed, made.Versions[1].Changed)
	assert.NotEmpty(t, made.Versions[1].By)
	_, err = d.app.Cuts.Recut(d.ctx, d.head, id, cuts.Change{Bands: sealed.Versions[0].Bands, Reason: "From what I saw"})
	require.ErrorAs(t, err, &conflict, "who weighed against other cuts looks again")

	after := d.matrix(d.head, read.MatrixQuery{})
	require.NotNil(t, after.Head.Recut)
	assert.Equal(t, "The state moved its own.", after.Head.Recut.Reason)
	moved := 0
	for i, row := range after.Rows {
		was := before.Rows[i]
		assert.Equal(t, was.Raw, row.Raw)
		if was.Band != row.Band {
			moved++
		}
		want, err := after.Head.Cuts.Of(row.Raw)
		require.NoError(t, err)
		if row.Final {
			assert.Equal(t, want, row.Band)
		} else {
			assert.Equal(t, -1, row.Band)
		}
	}
	assert.Equal(t, weighed.Changed, moved)
	at := slices.IndexFunc(after.Rows, func(r read.MatrixRow) bool { return r.Final && r.Band == last && r.Raw == raw })
	require.GreaterOrEqual(t, at, 0)
	trail, err := d.app.Read.Trail(d.ctx, d.head, after.Head.DistributionID, after.Rows[at].AttemptID)
	require.NoError(t, err)
	require.Len(t, trail.Scorings, 2, "the one before stays beside the new one")
	assert.Equal(t, []int{last - 1, last}, []int{trail.Scorings[0].Band, trail.Scorings[1].Band})
	assert.Equal(t, []int64{0, made.Versions[1].ID}, []int64{trail.Scorings[0].CutsID, trail.Scorings[1].CutsID})

	// All follows from what is kept, also made anew; a second change brings the first cuts back.
	_, err = d.app.Record.Verify(d.ctx)
	require.NoError(t, err)
	_, err = d.app.Take.Rebuild(d.ctx)
	require.NoError(t, err)
	assert.Equal(t, after.Rows, d.matrix(d.head, read.MatrixQuery{}).Rows)
	_, err = d.app.Cuts.Recut(d.ctx, d.head, id, cuts.Change{Bands: sealed.Versions[0].Bands, Reason: "It did not.", From: made.Versions[1].ID})
	require.NoError(t, err)
	assert.Equal(t, before.Rows, d.matrix(d.head, read.MatrixQuery{}).Rows)

	// Cuts of record that somebody changed in the file are found.
	require.NoError(t, d.store.Write(d.ctx, func(tx *store.Tx) error {
		return tx.Exec(d.ctx, "DELETE FROM form_cut WHERE cuts_id = ? AND position = 1", made.Versions[1].ID)
	}))
	d.open() // what was read before is in nobody's memory
	_, err = d.app.Record.Verify(d.ctx)
	assert.ErrorContains(t, err, "are not those that the ledger tells of")
}

// Students near a cut are named to who may see them.
func TestStudentsNearACut(t *testing.T) {
	d := newDistrict(t)
	head := d.matrix(d.head, read.MatrixQuery{Limit: 1}).Head
	near, err := d.app.Cuts.Near(d.ctx, d.head, head.AssessmentID, -1)
	require.NoError(t, err)
	require.Len(t, near, len(head.Cuts.Starts)-1)
	for i, n := range near {
		assert.Equal(t, head.Cuts.Starts[i+1].Name, n.Band)
		assert.Greater(t, n.Error, 0.5)
		require.NotEmpty(t, n.Students)
		assert.Len(t, n.Students, n.Count)
		for _, s := range n.Students {
			assert.LessOrEqual(t, float64(max(int64(n.Cut)-s.Raw, s.Raw-int64(n.Cut)))/100, n.Error)
		}
	}
	var schools []officerows.School
	school := d.someone(roster.SchoolCoordinator, func(v roster.Viewer) bool {
		schools, err = officerows.Schools(d.ctx, d.store.Reader, v.Scope())
		require.NoError(t, err)
		return slices.ContainsFunc(near[0].Students, func(h cuts.Holder) bool { return h.School == schools[0].Name })
	})
	own, err := d.app.Cuts.Near(d.ctx, school, head.AssessmentID, 3)
	require.NoError(t, err)
	for _, n := range own {
		assert.Len(t, n.Students, min(3, n.Count), "so many are named, and all counted")
		for _, s := range n.Students {
			assert.Equal(t, schools[0].Name, s.School)
		}
	}
	_, err = d.app.Cuts.Recut(d.ctx, school, head.AssessmentID, cuts.Change{Bands: twoBands(5000), Reason: "ours"})
	assert.ErrorIs(t, err, desk.ErrForbidden, "the assessment is the district's")
	_, err = d.app.Cuts.Weigh(d.ctx, school, head.AssessmentID, twoBands(5000), cuts.MostNamed)
	assert.ErrorIs(t, err, desk.ErrForbidden)
}
