package demo_test

import (
	"bytes"
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app"
	"pineledger/app/bank"
	"pineledger/app/read"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/demo"
	"pineledger/store"
	"pineledger/store/readrows"
)

// The demo is made twice from one seed at a small size: it goes through, is the
// same, and shows what a visitor is meant to find.
func TestTheDemoTellsItsStory(t *testing.T) {
	ctx := context.Background()
	zone, err := time.LoadLocation("America/Los_Angeles")
	require.NoError(t, err)
	now := time.Date(2026, 11, 18, 10, 30, 0, 0, zone)
	made := func() (*app.App, *store.Store) {
		dir := t.TempDir()
		s, err := store.Open(ctx, dir)
		require.NoError(t, err)
		t.Cleanup(func() { require.NoError(t, s.Close()) })
		secret := bytes.Repeat([]byte{7}, 32)
		require.NoError(t, demo.Generate(ctx, s, secret, dir, demo.Options{Students: 700, Seed: 1, Now: now}))
		a, err := app.New(ctx, app.Config{Store: s, Secret: secret, Now: func() time.Time { return now }})
		require.NoError(t, err)
		return a, s
	}
	a, s := made()
	v := roster.Viewer{PersonID: 1, Name: "x", Posts: []roster.Post{{Role: roster.DistrictCoordinator}}}

	page, err := a.Bank.Items(ctx, v, bank.ItemSearch{})
	require.NoError(t, err)
	assert.GreaterOrEqual(t, page.Total, 300, "a bank of at least 300 items")
	kinds := map[string]int{}
	for _, f := range page.Facets["kind"] {
		kinds[f.Value] = f.Count
	}
	for _, k := range item.Kinds() {
		assert.GreaterOrEqual(t, kinds[string(k)], 10, "items of %s", k)
	}
	two := 0
	for cursor := ""; ; cursor = page.Next {
		page, err = a.Bank.Items(ctx, v, bank.ItemSearch{Cursor: cursor})
		require.NoError(t, err)
		for _, row := range page.Items {
			d, err := a.Bank.Item(ctx, v, row.ID, 0)
			require.NoError(t, err)
			two += len(d.Document.Variants)
		}
		if page.Next == "" {
			break
		}
	}
	assert.Equal(t, 20, two, "items in two languages")

	results, err := a.Read.Results(ctx, v)
	require.NoError(t, err)
	require.Len(t, results, 5)
	given := results[2]
	check := results[0]
	assert.Equal(t, []int{12, 9}, []int{check.Begun, check.Scored}, "children whom an adult recorded")
	assert.Greater(t, given.Scored, given.Seats*8/10)

	m, err := a.Read.Matrix(ctx, v, given.DistributionID, read.MatrixQuery{})
	require.NoError(t, err)
	var miskeyed int64 = -1
	hardest := int64(1000)
	for i, l := range m.Lines {
		if m.Head.Lines[i].Identifier == "M6-EX-3-900" {
			miskeyed = l.Difficulty
			continue
		}
		hardest = min(hardest, l.Difficulty)
	}
	assert.GreaterOrEqual(t, miskeyed, int64(0), "the item with the wrong key is on the form")
	assert.Less(t, miskeyed, hardest, "and stands out as the hardest")

	today, err := a.Today(ctx, v)
	require.NoError(t, err)
	doors := map[string]bool{}
	for _, sitting := range today.Sittings {
		doors[string(sitting.Door)] = true
	}
	assert.Len(t, doors, 4, "sittings in every state")
	require.Len(t, today.Drafts, 4)
	draft, err := a.Build.Sheet(ctx, v, today.Drafts[0].ID)
	require.NoError(t, err)
	assert.Positive(t, draft.Shortage, "a draft that does not balance yet")
	assert.Positive(t, draft.Excess)

	require.NoError(t, a.Record.PutAnchor(ctx))
	verified, err := a.Record.Verify(ctx)
	require.NoError(t, err)
	assert.Equal(t, 5, verified.Forms)

	_, again := made()
	for _, query := range []func(*store.Store) any{
		func(s *store.Store) any {
			rows, _ := readrows.Results(ctx, s.Reader, roster.Scope{District: true}, 10)
			return rows
		},
		func(s *store.Store) any {
			rows, _ := readrows.BandCounts(ctx, s.Reader, roster.Scope{District: true}, given.DistributionID)
			return rows
		},
	} {
		assert.Equal(t, query(s), query(again), "one seed, one district")
	}
}
