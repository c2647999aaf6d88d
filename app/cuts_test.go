package app_test

import (
	"slices"
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
	require.NotNil(t, set.LockedAt)
	locked := *set.LockedAt
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
	in.Name, in.Version = "Bands, renamed", set.Version
	w.now = w.now.Add(time.Hour)
	set, err = w.app.Plans.PutBandSet(w.ctx, w.coordinator, set.ID, in)
	require.NoError(t, err)
	assert.Equal(t, locked, *set.LockedAt, "a later change is not when it was locked")
	in.Locked, in.Version = false, set.Version
	set, err = w.app.Plans.PutBandSet(w.ctx, w.coordinator, set.ID, in)
	require.NoError(t, err)
	assert.Empty(t, set.LockedBy)
	assert.Nil(t, set.LockedAt)
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

// A set belongs to the district, a school or one person, from the start and for good.
func TestWhoseABandSetIs(t *testing.T) {
	w := newWorld(t)
	put := func(v roster.Viewer, whose build.Whose, school int64) (build.BandSet, error) {
		return w.app.Plans.PutBandSet(w.ctx, v, 0, build.BandSetInput{Name: "Bands", Bands: twoBands(5000), Whose: whose, School: school})
	}
	home := w.principal.HomeSchool()
	var invalid *desk.InvalidError
	for name, c := range map[string]struct {
		who     roster.Viewer
		whose   build.Whose
		school  int64
		refused string
	}{
		"the district's, by itself":           {w.coordinator, "", 0, ""},
		"a school's, by the district":         {w.coordinator, build.OfSchool, home, ""},
		"a school's, which is not named":      {w.coordinator, build.OfSchool, 0, "/school"},
		"a school's, by itself":               {w.principal, "", 0, ""},
		"another school's":                    {w.principal, build.OfSchool, home + 1, "/whose"},
		"the district's, by a school":         {w.principal, build.OfDistrict, 0, "/whose"},
		"one's own":                           {w.principal, build.OfPerson, 0, ""},
		"one's own, of somebody in the house": {w.coordinator, build.OfPerson, 0, ""},
	} {
		set, err := put(c.who, c.whose, c.school)
		if c.refused != "" {
			if c.school != home+1 {
				require.ErrorAs(t, err, &invalid, name)
				assert.Equal(t, c.refused, invalid.Fields[0].Pointer, name)
			}
			require.Error(t, err, name)
			continue
		}
		require.NoError(t, err, name)
		if c.whose != "" {
			assert.Equal(t, c.whose, build.WhoseIs(set), name)
		}
	}

	own, err := put(w.principal, build.OfPerson, 0)
	require.NoError(t, err)
	_, err = w.app.Plans.BandSet(w.ctx, w.coordinator, own.ID)
	require.ErrorIs(t, err, desk.ErrNotFound, "nobody else's, the district's neither")
	_, err = w.app.Plans.PutBandSet(w.ctx, w.principal, own.ID, build.BandSetInput{Name: "Bands", Bands: twoBands(5000), Whose: build.OfSchool, Version: own.Version})
	require.ErrorAs(t, err, &invalid, "it stays whose it is")
	_, err = w.app.Plans.PutBandSet(w.ctx, w.coordinator, 0, build.BandSetInput{Name: "Bands", Bands: twoBands(5000), Whose: build.OfSchool, School: home, Locked: true})
	require.ErrorAs(t, err, &invalid)
	assert.Equal(t, "/locked", invalid.Fields[0].Pointer, "a lock is the district's")

	// An assessment that uses it shows its cuts to all who see the assessment.
	s, err := w.app.Build.StartAssessment(w.ctx, w.principal, outline("With one's own bands"))
	require.NoError(t, err)
	s, err = w.app.Build.ChooseBands(w.ctx, w.principal, s.Assessment.ID, s.Assessment.Version, own.ID)
	require.NoError(t, err)
	seen, err := w.app.Build.Sheet(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	require.NotNil(t, seen.BandSet)
	assert.Equal(t, own.ID, seen.BandSet.ID)
	_, err = w.app.Build.ChooseBands(w.ctx, w.coordinator, s.Assessment.ID, seen.Assessment.Version, own.ID)
	require.ErrorIs(t, err, desk.ErrNotFound, "another chooses it for nothing")
}
