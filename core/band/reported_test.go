package band_test

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/band"
	"pineledger/core/points"
)

func TestReportedValuesHoldEveryScoreOnce(t *testing.T) {
	type ranges = []band.Reported
	for name, c := range map[string]struct {
		ranges ranges
		place  string
		reason string
	}{
		"none":             {nil, "", ""},
		"all":              {ranges{{0, 400, "1"}, {500, 700, "2"}, {800, 1000, "3"}}, "", ""},
		"one score alone":  {ranges{{0, 900, "not yet"}, {1000, 1000, "all"}}, "", ""},
		"a gap":            {ranges{{0, 400, "1"}, {600, 1000, "2"}}, "reported[1].from", "the scores from 5 to 5 are in no range"},
		"a gap below":      {ranges{{100, 1000, "1"}}, "reported[0].from", "the scores from 0 to 0 are in no range"},
		"a gap above":      {ranges{{0, 400, "1"}, {500, 800, "2"}}, "reported[1].to", "the scores from 9 to 10 are in no range"},
		"an overlap":       {ranges{{0, 500, "1"}, {500, 1000, "2"}}, "reported[1].from", "5 is in the range before already"},
		"below zero":       {ranges{{-100, 1000, "1"}}, "reported[0].from", "-1 is negative"},
		"upside down":      {ranges{{0, 400, "1"}, {500, 400, "2"}}, "reported[1].to", "4 is below 5, where the range begins"},
		"above the total":  {ranges{{0, 1100, "1"}}, "reported[0].to", "11 is above the total 10"},
		"no score":         {ranges{{0, 450, "1"}, {500, 1000, "2"}}, "reported[0].to", "4.5 is no score of this form; scores move in steps of 1"},
		"begins at no one": {ranges{{0, 400, "1"}, {450, 1000, "2"}}, "reported[1].from", "4.5 is no score of this form; scores move in steps of 1"},
		"no value":         {ranges{{0, 1000, ""}}, "reported[0].value", "a range needs the value that is reported for it"},
	} {
		t.Run(name, func(t *testing.T) {
			err := band.CheckReported(c.ranges, 1000, 100)
			if c.place == "" {
				assert.NoError(t, err)
				return
			}
			var place *band.PlaceError
			require.True(t, errors.As(err, &place), "%v", err)
			assert.Equal(t, c.place, place.Place)
			assert.Equal(t, c.reason, place.Reason)
		})
	}
	assert.Equal(t, "2", band.ReportedOf(ranges{{0, 400, "1"}, {500, 700, "2"}}, 500))
	assert.Equal(t, "1", band.ReportedOf(ranges{{0, 400, "1"}, {500, 700, "2"}}, 467), "a mean between two scores takes the lower")
	assert.Empty(t, band.ReportedOf(nil, 500))
}

func TestEveryScoreOfGoodRangesHasItsValue(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var ranges []band.Reported
		from := points.Points(0)
		for from <= 2000 {
			to := min(2000, from+points.Points(50*rapid.IntRange(0, 10).Draw(t, "length")))
			ranges = append(ranges, band.Reported{From: from, To: to, Value: from.String()})
			from = to + 50
		}
		require.NoError(t, band.CheckReported(ranges, 2000, 50))
		for score := points.Points(0); score <= 2000; score += 50 {
			held := 0
			for _, r := range ranges {
				if r.From <= score && score <= r.To {
					held++
					assert.Equal(t, r.Value, band.ReportedOf(ranges, score))
				}
			}
			assert.Equal(t, 1, held)
		}
	})
}
