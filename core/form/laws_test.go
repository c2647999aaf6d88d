package form_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/band"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/points"
)

// anyForm draws a form of up to twelve lines of all kinds, with bands.
func anyForm(t *rapid.T) form.Form {
	f := form.Form{Schema: form.Schema, Bands: []band.Band{{Name: "first"}}}
	for i := range rapid.IntRange(1, 12).Draw(t, "lines") {
		var it item.Item
		switch rapid.IntRange(0, 2).Draw(t, "kind") {
		case 0:
			it = item.NewChoice(item.SingleChoice, "x", []string{"a", "b", "c"}, []int{rapid.IntRange(0, 2).Draw(t, "key")}, item.AllOrNothing)
		case 1:
			rule := rapid.SampledFrom([]item.CreditRule{item.AllOrNothing, item.PerChoice, item.KeyMinus}).Draw(t, "rule")
			it = item.NewChoice(item.MultipleChoice, "x", []string{"a", "b", "c", "d"}, []int{0, 3}, rule)
		default:
			it = item.NewNumber("x", []string{fmt.Sprint(i)}, item.NumberKey{}, "")
		}
		f.Lines = append(f.Lines, form.Line{Item: it, Points: points.Points(25 * rapid.IntRange(1, 16).Draw(t, "quarters"))})
	}
	for i, percent := range rapid.SliceOfNDistinct(rapid.IntRange(1, 100), 0, 4, rapid.ID).Draw(t, "cuts") {
		p := points.Points(100 * percent)
		f.Bands = append(f.Bands, band.Band{Name: fmt.Sprint("band ", i), Cut: band.Cut{Percent: &p}})
	}
	return f
}

func anyResponses(t *rapid.T, f form.Form) map[int]item.Response {
	out := map[int]item.Response{}
	for i, l := range f.Lines {
		var values []string
		switch l.Item.Kind {
		case item.SingleChoice:
			values = rapid.SampledFrom([][]string{nil, {"A"}, {"B"}, {"C"}}).Draw(t, "one")
		case item.MultipleChoice:
			values = rapid.SliceOfDistinct(rapid.SampledFrom([]string{"A", "B", "C", "D"}), rapid.ID).Draw(t, "some")
		default:
			values = rapid.SampledFrom([][]string{nil, {fmt.Sprint(i)}, {"1/3"}, {"words"}}).Draw(t, "typed")
		}
		if values != nil {
			out[i] = item.Response{"RESPONSE": values}
		}
	}
	return out
}

func TestScoresKeepTheirLaws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := anyForm(t)
		responses := anyResponses(t, f)
		s, err := f.Score(responses, nil)
		require.NoError(t, err)
		cuts, err := f.Cuts()
		require.NoError(t, err)

		var sum points.Points
		reached := true
		for i := len(s.Credits) - 1; i >= 0; i-- {
			c := s.Credits[i]
			require.GreaterOrEqual(t, c.Credit, points.Points(0))
			require.LessOrEqual(t, c.Credit, f.Lines[i].Points)
			require.Equal(t, c.Outcome == item.Right, c.Credit == f.Lines[i].Points, "right is the whole of it, and nothing else is")
			if c.Outcome == item.NotReached {
				require.True(t, reached, "a line is not reached only where nothing follows")
			} else {
				reached = false
			}
			sum += c.Credit
		}
		require.Equal(t, sum, s.Raw, "the raw score is the sum of the credits")
		require.Zero(t, int64(s.Raw)%int64(cuts.Grain), "every score is a multiple of the grain")

		// The band is the last one that the score reaches.
		want := 0
		for i, start := range cuts.Starts {
			if start.Raw != nil && *start.Raw <= s.Raw {
				want = i
			}
		}
		require.Equal(t, want, s.Band)
	})
}

func TestASealedDocumentScoresAsTheFormDid(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := anyForm(t)
		responses := anyResponses(t, f)
		document, err := json.Marshal(f)
		require.NoError(t, err)
		read, err := form.Read(document)
		require.NoError(t, err)
		before, err := f.Score(responses, nil)
		require.NoError(t, err)
		after, err := read.Score(responses, nil)
		require.NoError(t, err)
		require.Equal(t, before, after)
		again, err := json.Marshal(read)
		require.NoError(t, err)
		require.JSONEq(t, string(document), string(again))
	})
}

func TestDocumentsOfAnotherSchemaAreRefused(t *testing.T) {
	_, err := form.Read([]byte(`{"schema":2}`))
	require.ErrorContains(t, err, "schema 2; this program reads 1")
	_, err = form.Read([]byte(`{"schema":`))
	require.ErrorContains(t, err, "sealed form")
}
