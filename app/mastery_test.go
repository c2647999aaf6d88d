package app_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/app/read"
	"pineledger/core/band"
	"pineledger/core/points"
	"pineledger/store/buildrows"
)

// A set for mastery tells results standard by standard, from its least number of points on, and is sealed with the form.
func TestMasteryByStandard(t *testing.T) {
	w := newWorld(t)
	put := func(in build.BandSetInput) (buildrows.BandSet, error) {
		return w.app.Plans.PutBandSet(w.ctx, w.coordinator, 0, in)
	}
	var invalid *desk.InvalidError
	five := points.Points(500)
	_, err := put(build.BandSetInput{Name: "Mastery", Least: 200, Bands: []band.Band{{Name: "not yet"}, {Name: "met", Cut: band.Cut{Raw: &five}}}})
	require.ErrorAs(t, err, &invalid)
	assert.Equal(t, "/bands/1/cut", invalid.Fields[0].Pointer, "a number of points fits no two standards")
	mastery, err := put(build.BandSetInput{Name: "Mastery", Least: 200, Bands: twoBands(7000)})
	require.NoError(t, err)
	score, err := put(build.BandSetInput{Name: "Score", Bands: twoBands(7000)})
	require.NoError(t, err)
	_, err = w.app.Plans.PutBandSet(w.ctx, w.coordinator, score.ID, build.BandSetInput{Name: "Score", Bands: twoBands(7000), Least: 300, Version: score.Version})
	require.ErrorAs(t, err, &invalid)

	s := w.draft()
	id := s.Assessment.ID
	var conflict *desk.ConflictError
	_, err = w.app.Build.ChooseMastery(w.ctx, w.coordinator, id, s.Assessment.Version, score.ID)
	require.ErrorAs(t, err, &conflict)
	_, err = w.app.Build.ChooseBands(w.ctx, w.coordinator, id, s.Assessment.Version, mastery.ID)
	require.ErrorAs(t, err, &conflict)
	none, err := w.app.Build.Mastery(w.ctx, w.coordinator, id)
	require.NoError(t, err)
	assert.Nil(t, none.Set)
	s, err = w.app.Build.ChooseMastery(w.ctx, w.coordinator, id, s.Assessment.Version, mastery.ID)
	require.NoError(t, err)
	told, err := w.app.Build.Mastery(w.ctx, w.coordinator, id)
	require.NoError(t, err)
	require.NotEmpty(t, told.Told)
	possible := 0
	for _, standard := range told.Told {
		if standard.Points >= 200 {
			possible++
			assert.NotNil(t, standard.Cuts)
		}
	}
	assert.Equal(t, possible, told.Possible)
	uses, err := w.app.Plans.BandSetUses(w.ctx, w.coordinator, mastery.ID)
	require.NoError(t, err)
	require.Len(t, uses, 1)
	assert.Equal(t, id, uses[0].AssessmentID)

	// A sealed form keeps the set as it was; a draft is told of a newer one.
	s, err = w.app.Build.ChooseBands(w.ctx, w.coordinator, id, s.Assessment.Version, score.ID)
	require.NoError(t, err)
	_, err = w.app.Plans.PutBandSet(w.ctx, w.coordinator, mastery.ID, build.BandSetInput{Name: "Mastery", Least: 100, Bands: twoBands(5000), Version: mastery.Version})
	require.NoError(t, err)
	told, err = w.app.Build.Mastery(w.ctx, w.coordinator, id)
	require.NoError(t, err)
	assert.True(t, told.Newer)
	assert.Equal(t, int64(200), told.Set.Least)
	s, err = w.app.Build.Seal(w.ctx, w.coordinator, id, s.Assessment.Version)
	require.NoError(t, err)
	f, err := w.app.FormByID(w.ctx, s.Form.ID)
	require.NoError(t, err)
	assert.Equal(t, points.Points(200), f.Mastery.Least)
	assert.Equal(t, points.Points(7000), *f.Mastery.Bands[1].Cut.Percent)
}

// The fall's results standard by standard: everybody is counted once on each that can be told.
func TestMasteryOfResults(t *testing.T) {
	d := newDistrict(t)
	m, err := d.app.Read.Mastery(d.ctx, d.head, d.given)
	require.NoError(t, err)
	require.NotEmpty(t, m.Standards)
	all := d.matrix(d.head, read.MatrixQuery{}).Rows
	for _, s := range m.Standards {
		counted := s.Waiting
		for _, n := range s.Bands {
			counted += n
		}
		assert.Equal(t, len(all), counted, s.Code)
		assert.GreaterOrEqual(t, s.Points, m.Set.Least)
		met := 0
		for _, row := range all {
			if _, at, ok := s.Of(row.Credits); ok && at == len(s.Bands)-1 {
				met++
			}
		}
		assert.Equal(t, met, s.Bands[len(s.Bands)-1], s.Code)
	}
	for _, s := range m.TooFew {
		assert.Less(t, s.Points, m.Set.Least)
	}
}

// Values that are reported for scores hold every score once, stop a seal once lines changed under them, and are sealed with the form.
func TestReportedValues(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	id, total := s.Assessment.ID, s.Total
	put := func(ranges ...band.Reported) error {
		now, err := w.app.Build.PutReported(w.ctx, w.coordinator, id, s.Assessment.Version, ranges)
		if err == nil {
			s = now
		}
		return err
	}
	var invalid *desk.InvalidError
	require.ErrorAs(t, put(band.Reported{To: total - 100, Value: "1"}), &invalid)
	assert.Equal(t, "/reported/0/to", invalid.Fields[0].Pointer)
	require.ErrorAs(t, put(band.Reported{To: total, Value: strings.Repeat("x", 61)}), &invalid)
	require.NoError(t, put(band.Reported{To: 100, Value: " 1 "}, band.Reported{From: 101, To: total, Value: "2"}))
	assert.Equal(t, "1", s.Reported[0].Value)
	assert.Empty(t, s.ReportedFault)

	copied, err := w.app.Build.CopyAssessment(w.ctx, w.coordinator, id, "")
	require.NoError(t, err)
	assert.Equal(t, s.Reported, copied.Reported)

	var lines []build.LineInput
	for _, l := range s.Lines[:len(s.Lines)-1] {
		lines = append(lines, build.LineInput{ItemID: l.ItemID, VersionID: l.ID, Points: points.Points(l.Points)})
	}
	all, err := w.app.Build.PutLines(w.ctx, w.coordinator, id, s.Assessment.Version, lines)
	require.NoError(t, err)
	assert.NotEmpty(t, all.ReportedFault, "the last line is gone, and with it the steps of its credit")
	_, err = w.app.Build.Seal(w.ctx, w.coordinator, id, all.Assessment.Version)
	var conflict *desk.ConflictError
	require.ErrorAs(t, err, &conflict)
	assert.Contains(t, conflict.Error(), "Reported values:")
	s = all
	require.NoError(t, put(band.Reported{To: s.Total, Value: "all"}))
	s, err = w.app.Build.Seal(w.ctx, w.coordinator, id, s.Assessment.Version)
	require.NoError(t, err)
	f, err := w.app.FormByID(w.ctx, s.Form.ID)
	require.NoError(t, err)
	assert.Equal(t, []band.Reported{{To: s.Total, Value: "all"}}, f.Reported)
	assert.Equal(t, f.Reported, s.Reported)
	require.ErrorAs(t, put(), &conflict, "a sealed form keeps them")
}
