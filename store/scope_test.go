package store_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/attempt"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
	"pineledger/store/readrows"
)

// Every scoped query, asked with every kind of scope: inside there is something,
// outside there is nothing, and nothing at all for a viewer without a post.
func TestEveryScopedQueryEndsAtItsScope(t *testing.T) {
	s, attempts := room(t, 2)
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		for _, id := range attempts {
			scored(t, tx, id, readrows.Scoring{Final: true, Raw: 100, Band: -1, Credits: []attempt.LineCredit{{Credit: 100, Outcome: item.Right}}})
		}
		return nil
	}))
	district := roster.Scope{District: true}
	sittings, err := giverows.Sittings(ctx, s.Reader, district, giverows.SittingFilter{Limit: 10})
	require.NoError(t, err)
	require.Len(t, sittings, 1)
	g := sittings[0]

	found := func(err error) int {
		if err != nil {
			require.ErrorIs(t, err, store.ErrNotFound)
			return 0
		}
		return 1
	}
	queries := map[string]func(roster.Scope) int{
		"sittings": func(scope roster.Scope) int {
			rows, err := giverows.Sittings(ctx, s.Reader, scope, giverows.SittingFilter{Limit: 10})
			require.NoError(t, err)
			return len(rows)
		},
		"a sitting": func(scope roster.Scope) int {
			_, err := giverows.SittingInScope(ctx, s.Reader, scope, g.ID)
			return found(err)
		},
		"results": func(scope roster.Scope) int {
			rows, err := readrows.Results(ctx, s.Reader, scope, 10)
			require.NoError(t, err)
			return len(rows)
		},
		"a result": func(scope roster.Scope) int {
			_, err := readrows.ResultByID(ctx, s.Reader, scope, g.DistributionID)
			return found(err)
		},
		"bands": func(scope roster.Scope) int {
			rows, err := readrows.BandCounts(ctx, s.Reader, scope, g.DistributionID)
			require.NoError(t, err)
			return len(rows)
		},
		"tallies": func(scope roster.Scope) int {
			rows, err := readrows.LineTallies(ctx, s.Reader, scope, g.DistributionID)
			require.NoError(t, err)
			return len(rows)
		},
		"the matrix": func(scope roster.Scope) int {
			rows, err := readrows.Matrix(ctx, s.Reader, scope, g.DistributionID, readrows.MatrixFilter{})
			require.NoError(t, err)
			return len(rows)
		},
		"a score": func(scope roster.Scope) int {
			_, _, err := readrows.ScoreInScope(ctx, s.Reader, scope, attempts[0])
			return found(err)
		},
		"schools": func(scope roster.Scope) int {
			rows, err := officerows.Schools(ctx, s.Reader, scope)
			require.NoError(t, err)
			return len(rows)
		},
		"sections": func(scope roster.Scope) int {
			rows, err := officerows.Sections(ctx, s.Reader, scope, officerows.SectionFilter{})
			require.NoError(t, err)
			return len(rows)
		},
	}
	for name, ask := range queries {
		for scope, inside := range map[string]roster.Scope{
			"district": district, "school": {Schools: []int64{g.SchoolID}}, "section": {Sections: []int64{g.SectionID}},
			"several": {Schools: []int64{98, 99}, Sections: []int64{g.SectionID, 97}},
		} {
			assert.Positive(t, ask(inside), "%s inside a %s", name, scope)
		}
		for scope, outside := range map[string]roster.Scope{
			"another school": {Schools: []int64{g.SchoolID + 1}}, "another section": {Sections: []int64{g.SectionID + 1}}, "no post": {}, "a student": {Student: 1},
		} {
			assert.Zero(t, ask(outside), "%s for %s", name, scope)
		}
	}
}
