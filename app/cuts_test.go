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
	"pineledger/core/band"
	"pineledger/core/points"
	"pineledger/core/predict"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/officerows"
)

func twoBands(percent points.Points) []band.Band {
	return []band.Band{{Name: "Launching"}, {Name: "On course", Cut: band.Cut{Percent: &percent}}}
}

// An assessment's own cuts take the place of its set's, are sealed with it and copied, and go when another set is chosen.
func TestAnAssessmentHasCutsOfItsOwn(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	id := s.Assessment.ID
	put := func(bands []band.Band) error {
		var err error
		was := s
		if s, err = w.app.Build.PutCuts(w.ctx, w.coordinator, id, s.Assessment.Version, bands, ""); err != nil {
			s = was
		}
		return err
	}
	var conflict *desk.ConflictError
	require.ErrorAs(t, put(twoBands(7000)), &conflict, "there is no set that they take the place of")
	set, err := w.app.Plans.PutBandSet(w.ctx, w.coordinator, 0, build.BandSetInput{Name: "Bands", Bands: twoBands(5000)})
	require.NoError(t, err)
	choose := func() {
		s, err = w.app.Build.ChooseBands(w.ctx, w.coordinator, id, s.Assessment.Version, set.ID)
		require.NoError(t, err)
	}
	choose()
	assert.False(t, s.BandSet.Own)
	assert.Equal(t, points.Points(150), *s.Cuts.Starts[1].Raw)
	require.NoError(t, put(twoBands(9000)))
	assert.True(t, s.BandSet.Own)
	assert.Equal(t, points.Points(270), *s.Cuts.Starts[1].Raw)
	var invalid *desk.InvalidError
	require.ErrorAs(t, put([]band.Band{{Name: "one"}}), &invalid)
	over := points.Points(10_001)
	require.ErrorAs(t, put(twoBands(over)), &invalid)
	assert.Equal(t, points.Points(270), *s.Cuts.Starts[1].Raw, "what is refused changes nothing")

	copied, err := w.app.Build.CopyAssessment(w.ctx, w.coordinator, id, "")
	require.NoError(t, err)
	assert.True(t, copied.BandSet.Own)
	require.NoError(t, put(nil))
	assert.False(t, s.BandSet.Own)
	require.NoError(t, put(twoBands(9000)))
	choose()
	assert.False(t, s.BandSet.Own, "a set that is chosen brings its own cuts")

	// Its own rule goes with its own cuts.
	s, err = w.app.Build.PutCuts(w.ctx, w.coordinator, id, s.Assessment.Version, twoBands(3340), band.Nearest)
	require.NoError(t, err)
	assert.Equal(t, string(band.Nearest), s.BandSet.Rule)
	nearest := *s.Cuts.Starts[1].Raw
	s, err = w.app.Build.PutCuts(w.ctx, w.coordinator, id, s.Assessment.Version, twoBands(3340), "")
	require.NoError(t, err)
	assert.Equal(t, string(band.AtLeast), s.BandSet.Rule, "none is the set's")
	assert.LessOrEqual(t, nearest, *s.Cuts.Starts[1].Raw)
	_, err = w.app.Build.PutCuts(w.ctx, w.coordinator, id, s.Assessment.Version, twoBands(3340), "upward")
	require.ErrorAs(t, err, &invalid)
	require.NoError(t, put(twoBands(9000)))
	s, err = w.app.Build.Seal(w.ctx, w.coordinator, id, s.Assessment.Version)
	require.NoError(t, err)
	f, err := w.app.FormByID(w.ctx, s.Form.ID)
	require.NoError(t, err)
	assert.Equal(t, points.Points(9000), *f.Bands[1].Cut.Percent)
	require.ErrorAs(t, put(nil), &conflict, "a sealed form keeps its cuts")
}

func TestALockedSetLetsNoSchoolHaveOtherCuts(t *testing.T) {
	w := newWorld(t)
	in := build.BandSetInput{Name: "Bands", Bands: twoBands(5000), Locked: true}
	set, err := w.app.Plans.PutBandSet(w.ctx, w.coordinator, 0, in)
	require.NoError(t, err)
	assert.Equal(t, w.coordinator.Name, set.LockedBy)
	school := roster.Viewer{PersonID: w.coordinator.PersonID, Name: "Of a school", Posts: []roster.Post{{Role: roster.SchoolCoordinator, SchoolID: 1}}}
	var invalid *desk.InvalidError
	_, err = w.app.Plans.PutBandSet(w.ctx, school, 0, in)
	require.ErrorAs(t, err, &invalid)
	assert.Equal(t, "/locked", invalid.Fields[0].Pointer)

	s, err := w.app.Build.StartAssessment(w.ctx, school, outline("Of a school"))
	require.NoError(t, err)
	s, err = w.app.Build.ChooseBands(w.ctx, school, s.Assessment.ID, s.Assessment.Version, set.ID)
	require.NoError(t, err)
	var conflict *desk.ConflictError
	_, err = w.app.Build.PutCuts(w.ctx, school, s.Assessment.ID, s.Assessment.Version, twoBands(4000), "")
	require.ErrorAs(t, err, &conflict)
	assert.Contains(t, conflict.Error(), w.coordinator.Name+" of the district locked the cuts of Bands")
	in.Locked, in.Version = false, set.Version
	set, err = w.app.Plans.PutBandSet(w.ctx, w.coordinator, set.ID, in)
	require.NoError(t, err)
	assert.Empty(t, set.LockedBy)
	_, err = w.app.Build.PutCuts(w.ctx, school, s.Assessment.ID, s.Assessment.Version, twoBands(4000), "")
	require.NoError(t, err)
}

// The demo's benchmark of the fall, weighed again: difficulties from its own responses, and students by school.
func TestWhatCutsWouldDoIsToldBySchool(t *testing.T) {
	d := newDistrict(t)
	head := d.matrix(d.head, read.MatrixQuery{Limit: 1}).Head
	id := head.AssessmentID
	ask := func(v roster.Viewer, q cuts.Question) cuts.Forecast {
		f, err := d.app.Cuts.Forecast(d.ctx, v, id, q)
		require.NoError(t, err)
		return f
	}
	normal := cuts.Assumed{SD: 1}
	f := ask(d.head, cuts.Question{Assumed: normal})
	require.NotNil(t, f.Prediction, f.Because)
	assert.Equal(t, len(head.Lines), f.Known.Lines())
	assert.Equal(t, len(head.Lines), f.Known.Scaled+f.Known.Many+f.Known.Few, "each was answered by enough")
	assert.Positive(t, f.Placed, "by the checks that were given before")
	assert.Less(t, f.Placed, f.Students, "some were absent")
	sum := 0
	for _, g := range f.Prediction.Groups {
		sum += g.N
		assert.GreaterOrEqual(t, g.N, 10)
	}
	assert.Equal(t, f.Students, sum)
	assert.Equal(t, f.Prediction.All.N, sum)

	// What was got stands beside what was expected, by school; other cuts make something else of it and touch nothing.
	require.NotNil(t, f.Observed)
	scored := 0
	for _, s := range f.Schools {
		scored += s.N
		assert.GreaterOrEqual(t, s.N, 10)
	}
	assert.Equal(t, f.Observed.N, scored)
	harder := ask(d.head, cuts.Question{Bands: twoBands(9900), Assumed: normal})
	assert.Less(t, harder.Observed.Bands[1].Count, f.Observed.N)
	assert.Equal(t, f.Observed.N, harder.Observed.N)

	// A school opens into its sections; here they are too small to be told of.
	assert.Len(t, f.Groups, len(f.Prediction.Groups))
	sections := ask(d.head, cuts.Question{Assumed: normal, School: f.Groups[0]})
	assert.Positive(t, sections.SmallOnes)
	assert.Contains(t, sections.Because, "there is no section with 10 students")
	assert.Empty(t, sections.Schools)
	nearest := ask(d.head, cuts.Question{Bands: twoBands(6310), Rule: band.Nearest, Assumed: normal})
	atLeast := ask(d.head, cuts.Question{Bands: twoBands(6310), Assumed: normal})
	assert.LessOrEqual(t, *nearest.Cuts.Starts[1].Raw, *atLeast.Cuts.Starts[1].Raw, "by another set's rule")

	// A weaker population, and higher cuts, both leave fewer in the highest band.
	top := func(f cuts.Forecast) float64 { return f.Prediction.All.Bands[len(f.Prediction.All.Bands)-1].Share }
	assert.Less(t, top(ask(d.head, cuts.Question{Assumed: cuts.Assumed{Mean: -1, SD: 1}})), top(f))
	low, high := ask(d.head, cuts.Question{Bands: twoBands(4000), Assumed: normal}), ask(d.head, cuts.Question{Bands: twoBands(8000), Assumed: normal})
	assert.Less(t, top(high), top(low))
	again := ask(d.head, cuts.Question{Assumed: normal})
	assert.Equal(t, f, again, "weighing keeps nothing")

	// A school coordinator is told of the own school alone.
	school := d.someone(roster.SchoolCoordinator, func(v roster.Viewer) bool {
		schools, err := officerows.Schools(d.ctx, d.store.Reader, v.Scope())
		require.NoError(t, err)
		return slices.ContainsFunc(f.Prediction.Groups, func(g predict.Outlook) bool { return g.Name == schools[0].Name })
	})
	own, err := d.app.Cuts.Forecast(d.ctx, school, id, cuts.Question{Assumed: normal})
	require.NoError(t, err)
	assert.Len(t, own.Prediction.Groups, 1)
	teacher := d.someone(roster.Teacher, func(roster.Viewer) bool { return true })
	_, err = d.app.Cuts.Forecast(d.ctx, teacher, id, cuts.Question{Assumed: normal})
	assert.ErrorIs(t, err, desk.ErrForbidden)
}

// A draft stands on the version that it took; a newer one is told with what it would change, and taken by choosing again.
func TestADraftKeepsTheVersionOfItsBands(t *testing.T) {
	w := newWorld(t)
	in := build.BandSetInput{Name: "Bands", Bands: twoBands(5000)}
	set, err := w.app.Plans.PutBandSet(w.ctx, w.coordinator, 0, in)
	require.NoError(t, err)
	s := w.draft()
	s, err = w.app.Build.ChooseBands(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, set.ID)
	require.NoError(t, err)
	in.Name, in.Version = "Renamed", set.Version
	set, err = w.app.Plans.PutBandSet(w.ctx, w.coordinator, set.ID, in)
	require.NoError(t, err)
	reopened := func() build.Sheet {
		again, err := w.app.Build.Sheet(w.ctx, w.coordinator, s.Assessment.ID)
		require.NoError(t, err)
		return again
	}
	assert.Empty(t, reopened().NewerBands, "another name moves no cut")
	in.Bands, in.Rule, in.Version = twoBands(9000), band.Nearest, set.Version
	set, err = w.app.Plans.PutBandSet(w.ctx, w.coordinator, set.ID, in)
	require.NoError(t, err)
	s = reopened()
	assert.Equal(t, points.Points(5000), *build.CoreBands(s.BandSet.Bands)[1].Cut.Percent)
	assert.Equal(t, string(band.AtLeast), s.BandSet.Rule, "the rule, too")
	assert.Equal(t, []string{"On course begins at 90% instead of 50%.", "Percent cuts become scores by another rule."}, s.NewerBands)
	s, err = w.app.Build.ChooseBands(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, set.ID)
	require.NoError(t, err)
	assert.Empty(t, s.NewerBands)
	assert.Equal(t, points.Points(9000), *build.CoreBands(s.BandSet.Bands)[1].Cut.Percent)
}

func TestSetsAreOfferedNearestFirstAndNotOnceRetired(t *testing.T) {
	w := newWorld(t)
	add := func(name string, in build.BandSetInput) build.BandSet {
		in.Name, in.Bands = name, twoBands(5000)
		s, err := w.app.Plans.PutBandSet(w.ctx, w.coordinator, 0, in)
		require.NoError(t, err)
		return s
	}
	add("A reading set", build.BandSetInput{Subject: "reading"})
	any := add("Any", build.BandSetInput{})
	six := add("Mathematics 6", build.BandSetInput{Subject: "mathematics", Grades: []string{"06"}, Purpose: "benchmark", Locked: true})
	s := w.draft()
	sets, err := w.app.Plans.BandSets(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	var names []string
	for _, o := range sets {
		names = append(names, o.Name+", "+o.Match.Why)
	}
	assert.Equal(t, []string{"Mathematics 6, for mathematics, grade 6, benchmark", "Any, for any", "A reading set, "}, names)

	school := roster.Viewer{PersonID: w.coordinator.PersonID, Name: "Of a school", Posts: []roster.Post{{Role: roster.SchoolCoordinator, SchoolID: 1}}}
	own, err := w.app.Build.StartAssessment(w.ctx, school, outline("Of a school"))
	require.NoError(t, err)
	choose := func(v roster.Viewer, set int64) error {
		_, err := w.app.Build.ChooseBands(w.ctx, v, own.Assessment.ID, own.Assessment.Version, set)
		return err
	}
	var conflict *desk.ConflictError
	require.ErrorAs(t, choose(school, any.ID), &conflict)
	assert.Equal(t, w.coordinator.Name+" of the district locked Mathematics 6 for mathematics, grade 6, benchmark. Choose that set.", conflict.Error())

	_, err = w.app.Plans.RetireBandSet(w.ctx, school, six.ID, true)
	require.ErrorIs(t, err, desk.ErrForbidden)
	retired, err := w.app.Plans.RetireBandSet(w.ctx, w.coordinator, six.ID, true)
	require.NoError(t, err)
	assert.True(t, retired.Retired)
	require.ErrorAs(t, choose(w.coordinator, six.ID), &conflict, "it is offered no more")
	require.NoError(t, choose(school, any.ID), "nor does it lock anything")
	_, err = w.app.Plans.RetireBandSet(w.ctx, w.coordinator, six.ID, false)
	require.NoError(t, err)
}

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

	weighed, err := d.app.Cuts.Weigh(d.ctx, d.head, id, bands)
	require.NoError(t, err)
	require.Positive(t, weighed.Changed)
	require.Len(t, weighed.Students, weighed.Changed, "each is named")
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
	_, err = d.app.Cuts.Weigh(d.ctx, school, head.AssessmentID, twoBands(5000))
	assert.ErrorIs(t, err, desk.ErrForbidden)
}

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
