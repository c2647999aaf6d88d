package app_test

import (
	"context"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/build"
	"pineledger/app/cuts"
	"pineledger/app/desk"
	"pineledger/app/read"
	"pineledger/core/attempt"
	"pineledger/core/band"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/cutrows"
	"pineledger/store/sqlite"
)

// All answers in mathematics come onto one scale; forecasts and items' pages stand on it from then on.
func TestItemsAreCalibrated(t *testing.T) {
	d := newDistrictToChange(t)
	require.NoError(t, d.store.Write(d.ctx, func(tx *store.Tx) error { return tx.Exec(d.ctx, "DELETE FROM calibrated") }))
	head := d.matrix(d.head, read.MatrixQuery{Limit: 1}).Head
	ask := func() cuts.Forecast {
		f, err := d.app.Cuts.Forecast(d.ctx, d.head, head.AssessmentID, cuts.Question{Assumed: cuts.Assumed{SD: 1}})
		require.NoError(t, err)
		return f
	}
	before := ask()
	assert.Zero(t, before.Known.Scaled)
	c, err := d.app.Cuts.Calibrate(d.ctx, d.head, "mathematics", time.Minute)
	require.NoError(t, err)
	require.Equal(t, "done", c.State, c.Why)
	assert.Greater(t, c.Items, len(head.Lines)/2)
	assert.Greater(t, c.Attempts, head.Scored)
	assert.Zero(t, c.Drifted, "there is one year only")
	newest, err := d.app.Cuts.NewestCalibration(d.ctx, d.head, "mathematics")
	require.NoError(t, err)
	assert.Equal(t, c, newest)

	after := ask()
	assert.Greater(t, after.Known.Scaled, len(head.Lines)/2)
	assert.Equal(t, before.Known.Lines(), after.Known.Lines())
	require.NotNil(t, after.Prediction)
	// The scale is laid where the shares put it, so that what is expected stays near what it was.
	assert.InDelta(t, before.Prediction.All.Mean, after.Prediction.All.Mean, 0.05*float64(head.Total)/100)

	at := slices.IndexFunc(head.Lines, func(l read.ResultLine) bool { return l.Points == points.One })
	uses, err := d.app.Bank.ItemUses(d.ctx, d.head, head.Lines[at].ItemID)
	require.NoError(t, err)
	require.NotEmpty(t, uses.Scale)
	on := uses.Scale[0]
	assert.Greater(t, on.N, 10)
	assert.Greater(t, on.SE, 0.0)
	assert.InDelta(t, 1, on.Infit, 0.5)
	assert.Nil(t, on.Was)

	_, err = d.app.Cuts.Calibrate(d.ctx, d.head, "weaving", time.Minute)
	var conflict *desk.ConflictError
	require.ErrorAs(t, err, &conflict)
	school := d.someone(roster.SchoolCoordinator, func(roster.Viewer) bool { return true })
	_, err = d.app.Cuts.Calibrate(d.ctx, school, "mathematics", time.Minute)
	assert.ErrorIs(t, err, desk.ErrForbidden)

	// One that is cancelled keeps nothing and leaves the newest that is done in force.
	stopped, cancel := context.WithCancel(d.ctx)
	cancel()
	begun, err := d.app.Cuts.Calibrate(stopped, d.head, "mathematics", 0)
	if err == nil {
		begun, err = d.app.Cuts.CancelCalibration(d.ctx, d.head, begun.ID)
		require.NoError(t, err)
		assert.Contains(t, []string{"cancelled", "done"}, begun.State)
	}
	assert.Equal(t, after.Known, ask().Known)
}

// Scores of the winter's benchmark are converted to a scale by a table that has them all; a cut may be set on that scale, and
// says which official row it was taken from.
func TestCutsOnAScaleAndTheirSources(t *testing.T) {
	d := newDistrictToChange(t)
	listed, err := d.app.Build.Listed(d.ctx, d.head, build.AssessmentFilter{Words: "winter benchmark", Limit: 10})
	require.NoError(t, err)
	at := slices.IndexFunc(listed, func(a build.AssessmentListed) bool { return strings.HasPrefix(a.Title, "Grade 6") })
	require.GreaterOrEqual(t, at, 0)
	id := listed[at].ID
	s, err := d.app.Build.Sheet(d.ctx, d.head, id)
	require.NoError(t, err)
	tables, err := d.app.Build.Conversions(d.ctx, d.head, id)
	require.NoError(t, err)
	require.Len(t, tables, 1, "no test of the state has the scores of this form")
	var conflict *desk.ConflictError
	official, err := d.app.Cuts.OfficialTables(d.ctx, d.head)
	require.NoError(t, err)
	state := official[slices.IndexFunc(official, func(o cuts.OfficialListed) bool { return o.Subject == "mathematics" && o.Grade == "06" && o.Bands > 0 })]
	_, err = d.app.Build.ChooseConversion(d.ctx, d.head, id, s.Assessment.Version, state.ID)
	require.ErrorAs(t, err, &conflict)
	bands := build.CoreBands(s.BandSet.Bands)
	onScale, row := points.Points(65_000), band.Source{Table: state.ID, Raw: 1900}
	bands[1].Cut, bands[2].Cut = band.Cut{Raw: new(points.Points(1400)), Of: &s.Total, Source: &row}, band.Cut{Scale: &onScale}

	// Without a conversion a cut on a scale says what it wants.
	without, err := d.app.Build.PutCuts(d.ctx, d.head, id, s.Assessment.Version, bands, "")
	require.NoError(t, err)
	assert.Equal(t, "A scale cut needs a conversion table.", without.CutsFault)
	s, err = d.app.Build.ChooseConversion(d.ctx, d.head, id, without.Assessment.Version, tables[0].ID)
	require.NoError(t, err)
	require.Empty(t, s.CutsFault)
	var fewer []build.LineInput
	for _, l := range s.Lines[1:] {
		fewer = append(fewer, build.LineInput{ItemID: l.ItemID, VersionID: l.ID, Points: points.Points(l.Points)})
	}
	was := s
	s, err = d.app.Build.PutLines(d.ctx, d.head, id, s.Assessment.Version, fewer)
	require.NoError(t, err)
	assert.Contains(t, s.CutsFault, "The table of scale scores does not fit these lines")
	fewer = append([]build.LineInput{{ItemID: was.Lines[0].ItemID, VersionID: was.Lines[0].ID, Points: points.Points(was.Lines[0].Points)}}, fewer...)
	s, err = d.app.Build.PutLines(d.ctx, d.head, id, s.Assessment.Version, fewer)
	require.NoError(t, err)
	start := s.Cuts.Starts[2]
	assert.GreaterOrEqual(t, *start.Scale, onScale)
	assert.Equal(t, points.Points(1600), *start.Raw, "half of the points")
	f, err := d.app.Cuts.Forecast(d.ctx, d.head, id, cuts.Question{Assumed: cuts.Assumed{SD: 1}})
	require.NoError(t, err)
	require.Len(t, f.Sources, 1)
	assert.Equal(t, bands[1].Name, f.Sources[0].Band)
	assert.Equal(t, state.Year, f.Sources[0].Table.Year)
	assert.Equal(t, "Underway", f.Sources[0].Official)

	var invalid *desk.InvalidError
	bands[1].Cut.Source = &band.Source{Table: state.ID, Raw: 99_900}
	_, err = d.app.Build.PutCuts(d.ctx, d.head, id, s.Assessment.Version, bands, "")
	require.ErrorAs(t, err, &invalid)
	assert.Equal(t, "/bands/1/cut", invalid.Fields[0].Pointer)

	s, err = d.app.Build.Seal(d.ctx, d.head, id, s.Assessment.Version)
	require.NoError(t, err)
	sealed, err := d.app.FormByID(d.ctx, s.Form.ID)
	require.NoError(t, err)
	assert.Len(t, sealed.Conversion, 161)
	assert.Equal(t, row, *sealed.Bands[1].Cut.Source)
}

// Cuts of a form lie beside those of its twin: at the same percent, and where the same ability is expected.
func TestCutsOnTwinForms(t *testing.T) {
	d := newDistrictToChange(t)
	listed, err := d.app.Build.Listed(d.ctx, d.head, build.AssessmentFilter{Words: "winter benchmark", Limit: 10})
	require.NoError(t, err)
	at := slices.IndexFunc(listed, func(a build.AssessmentListed) bool { return strings.HasPrefix(a.Title, "Grade 6") })
	id := listed[at].ID
	none, err := d.app.Cuts.Twins(d.ctx, d.head, id)
	require.NoError(t, err)
	assert.Empty(t, none, "there is one form")
	drawn, err := d.app.Draws.StartDraw(d.ctx, d.head, id, build.DrawQuestion{Mode: "best", Seed: 7, Forms: 2, Meeting: true, Copies: true, Simple: &build.SimpleDraw{Total: 12, Standards: []string{"M6"}}}, time.Minute)
	require.NoError(t, err)
	require.Equal(t, build.DrawFound, drawn.State, drawn.Answer.Message)
	s, err := d.app.Build.Sheet(d.ctx, d.head, id)
	require.NoError(t, err)
	_, err = d.app.Draws.PlaceDraw(d.ctx, d.head, id, drawn.ID, s.Assessment.Version)
	require.NoError(t, err)
	twins, err := d.app.Cuts.Twins(d.ctx, d.head, id)
	require.NoError(t, err)
	require.Len(t, twins, 2)
	s, err = d.app.Build.Sheet(d.ctx, d.head, id)
	require.NoError(t, err)
	for i, c := range twins[0].Cuts {
		start := s.Cuts.Starts[i+1]
		assert.Equal(t, start.Name, c.Band)
		assert.Equal(t, *start.Raw, *c.Percent, "on itself both are the cut")
		assert.Equal(t, *start.Raw, *c.Ability)
		other := twins[1].Cuts[i]
		assert.InDelta(t, float64(*c.Percent)/float64(twins[0].Total), float64(*other.Percent)/float64(twins[1].Total), 0.05)
		assert.InDelta(t, float64(*other.Percent), float64(*other.Ability), 300, "they were drawn to be alike")
	}
}

// A line that last year's students found harder than this year's is told, on its page too; the others stay where they were.
func TestADifficultyThatDriftedIsTold(t *testing.T) {
	d := newDistrictToChange(t)
	head := d.matrix(d.head, read.MatrixQuery{Limit: 1}).Head
	forms, err := cutrows.GivenForms(d.ctx, d.store.Reader, "mathematics")
	require.NoError(t, err)
	check, err := d.app.FormByID(d.ctx, forms[0].FormID)
	require.NoError(t, err)
	moved := -1
	for i, l := range check.Lines {
		if slices.ContainsFunc(head.Lines, func(h read.ResultLine) bool { return h.ItemID == l.ItemID }) && l.Item.Step(l.Points) == l.Points {
			moved = i
			break
		}
	}
	require.GreaterOrEqual(t, moved, 0, "the check and the benchmark share a line")

	type kept struct {
		SittingID int64  `db:"sitting_id"`
		StudentID int64  `db:"student_id"`
		Credits   []byte `db:"credits"`
	}
	var rows []kept
	require.NoError(t, d.store.Reader.List(d.ctx, &rows, "SELECT x.sitting_id, x.student_id, x.credits FROM result x JOIN attempt t ON t.id = x.attempt_id WHERE t.form_id = ?", forms[0].FormID))
	require.NoError(t, d.store.Write(d.ctx, func(tx *store.Tx) error {
		if err := tx.Exec(d.ctx, "UPDATE assessment SET year = '2025–26' WHERE id = (SELECT assessment_id FROM form WHERE id = ?)", forms[0].FormID); err != nil {
			return err
		}
		for i, r := range rows {
			credits := sqlite.UnpackCredits(r.Credits)
			if i%4 > 0 { // three of four had it wrong then
				credits[moved] = attempt.LineCredit{Outcome: item.Wrong}
			}
			if err := tx.Exec(d.ctx, "UPDATE result SET credits = ? WHERE sitting_id = ? AND student_id = ?", sqlite.PackCredits(credits), r.SittingID, r.StudentID); err != nil {
				return err
			}
		}
		return nil
	}))
	c, err := d.app.Cuts.Calibrate(d.ctx, d.head, "mathematics", time.Minute)
	require.NoError(t, err)
	require.Equal(t, "done", c.State, c.Why)
	require.Positive(t, c.Drifted)
	uses, err := d.app.Bank.ItemUses(d.ctx, d.head, check.Lines[moved].ItemID)
	require.NoError(t, err)
	require.NotNil(t, uses.Scale[0].Was)
	assert.Greater(t, *uses.Scale[0].Was, uses.Scale[0].B+0.5, "it was harder")
	assert.Less(t, c.Drifted, len(check.Lines)/2, "the rest stays where it was")
}
