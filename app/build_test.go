package app_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/bank"
	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/core/band"
	"pineledger/core/blueprint"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store/buildrows"
)

func TestOutlinesAreCheckedFieldByField(t *testing.T) {
	w := newWorld(t)
	long := strings.Repeat("é", 200)
	for name, c := range map[string]struct {
		change func(*build.Outline)
		fields []string
	}{
		"whole":                    {func(*build.Outline) {}, nil},
		"letters count, not bytes": {func(o *build.Outline) { o.Title = long }, nil},
		"no title":                 {func(o *build.Outline) { o.Title = "  " }, []string{"/title"}},
		"a title too long":         {func(o *build.Outline) { o.Title = long + "é" }, []string{"/title"}},
		"a short title too long":   {func(o *build.Outline) { o.ShortTitle = strings.Repeat("x", 61) }, []string{"/shortTitle"}},
		"no grade":                 {func(o *build.Outline) { o.Grades = nil }, []string{"/grades"}},
		"a grade that is none":     {func(o *build.Outline) { o.Grades = []string{"06", "6"} }, []string{"/grades"}},
		"no subject":               {func(o *build.Outline) { o.Subject = "" }, []string{"/subject"}},
		"several at once": {func(o *build.Outline) { o.Title, o.Purpose, o.Language = "", "revenge", "xx" },
			[]string{"/title", "/purpose", "/language"}},
	} {
		o := outline("Fall")
		c.change(&o)
		s, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, o)
		if c.fields == nil {
			require.NoError(t, err, name)
			assert.LessOrEqual(t, len([]rune(s.Assessment.ShortTitle)), 60, "the short title comes from the title")
			continue
		}
		var invalid *desk.InvalidError
		require.ErrorAs(t, err, &invalid, name)
		var got []string
		for _, f := range invalid.Fields {
			got = append(got, f.Pointer)
			assert.NotEmpty(t, f.Message)
		}
		assert.Equal(t, c.fields, got, name)
	}
}

func TestTheSpineSaysWhatIsMissing(t *testing.T) {
	w := newWorld(t)
	state := func(s build.Sheet, part string) [2]string {
		for _, p := range s.Parts {
			if p.Name == part {
				return [2]string{p.Status, p.State}
			}
		}
		t.Fatalf("no part %s", part)
		return [2]string{}
	}
	s, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("Fall"))
	require.NoError(t, err)
	assert.Equal(t, [2]string{"done", "complete"}, state(s, "outline"))
	assert.Equal(t, [2]string{"untouched", "none yet"}, state(s, "lines"))
	assert.Equal(t, [2]string{"untouched", "no band set"}, state(s, "cuts"))

	s, err = w.app.Build.PutBlueprint(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.RowInput{
		{Title: "Ratio", Filter: blueprint.Filter{Standards: []string{"M6.RR"}}, Min: 2 * points.One, Max: 2 * points.One}})
	require.NoError(t, err)
	assert.Equal(t, [2]string{"done", "2 items, 1 row"}, state(s, "blueprint"))
	s, err = w.app.Build.PutLines(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.LineInput{{ItemID: 1, Points: points.One}})
	require.NoError(t, err)
	assert.Equal(t, [2]string{"wanting", "1 of 2 lines"}, state(s, "lines"))
	assert.Equal(t, "untouched", state(s, "distribution")[0])

	sealed := w.sent()
	assert.Equal(t, [2]string{"done", "3 lines, sealed"}, state(sealed, "lines"))
	assert.Equal(t, "done", state(sealed, "distribution")[0])
	assert.Contains(t, state(sealed, "rooms")[1], "2 waiting")
}

// A percent cut follows the form while it is a draft; the form keeps it once sealed.
func TestCutsFollowTheDraftAndStayWithTheSeal(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	require.NotNil(t, s.Cuts)
	start := func(s build.Sheet) points.Points { return *s.Cuts.Starts[1].Raw }
	assert.EqualValues(t, 150, start(s), "half of 3 points")

	set := *s.BandSet
	most := points.Points(9000)
	_, err := w.app.Plans.PutBandSet(w.ctx, w.coordinator, set.ID, build.BandSetInput{Name: set.Name, Version: set.Version, Bands: []band.Band{{Name: "Launching"}, {Name: "On course", Cut: band.Cut{Percent: &most}}}})
	require.NoError(t, err)
	s, err = w.app.Build.Sheet(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	assert.EqualValues(t, 150, start(s), "what is sealed stays")
	assert.EqualValues(t, 5000, *s.BandSet.Bands[1].Percent)

	s, err = w.app.Build.NewEdition(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	require.NoError(t, err)
	assert.EqualValues(t, 150, start(s), "the next edition stands on the same version")
	assert.Equal(t, []string{"On course begins at 90% instead of 50%."}, s.NewerBands)
	s, err = w.app.Build.ChooseBands(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, set.ID)
	require.NoError(t, err)
	assert.EqualValues(t, 270, start(s), "until the newer one is taken")
	var lines []build.LineInput
	for _, l := range s.Lines {
		lines = append(lines, build.LineInput{ItemID: l.ItemID, Points: 2 * points.One})
	}
	s, err = w.app.Build.PutLines(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, lines)
	require.NoError(t, err)
	assert.EqualValues(t, 600, s.Total)
	assert.EqualValues(t, 540, start(s))
}

func TestBandSetsAreRefusedByTheirField(t *testing.T) {
	w := newWorld(t)
	half, over := points.Points(5000), points.Points(10_001)
	two := func(first, second band.Band) []band.Band { return []band.Band{first, second} }
	for name, c := range map[string]struct {
		in      build.BandSetInput
		pointer string
	}{
		"no name":          {build.BandSetInput{Bands: two(band.Band{Name: "a"}, band.Band{Name: "b", Cut: band.Cut{Percent: &half}})}, "/name"},
		"one band":         {build.BandSetInput{Name: "x", Bands: []band.Band{{Name: "a"}}}, "/bands"},
		"one name twice":   {build.BandSetInput{Name: "x", Bands: two(band.Band{Name: "a"}, band.Band{Name: "a", Cut: band.Cut{Percent: &half}})}, "/bands/1/name"},
		"an empty name":    {build.BandSetInput{Name: "x", Bands: two(band.Band{Name: ""}, band.Band{Name: "a", Cut: band.Cut{Percent: &half}})}, "/bands/0/name"},
		"over 100 percent": {build.BandSetInput{Name: "x", Bands: two(band.Band{Name: "a"}, band.Band{Name: "b", Cut: band.Cut{Percent: &over}})}, "/bands/1/cut/percent"},
		"no cut":           {build.BandSetInput{Name: "x", Bands: two(band.Band{Name: "a"}, band.Band{Name: "b"})}, "/bands/1/cut"},
	} {
		_, err := w.app.Plans.PutBandSet(w.ctx, w.coordinator, 0, c.in)
		var invalid *desk.InvalidError
		if assert.ErrorAs(t, err, &invalid, name) {
			assert.Equal(t, c.pointer, invalid.Fields[0].Pointer, name)
		}
	}
	sets, err := w.app.Plans.BandSets(w.ctx, w.coordinator, 0)
	require.NoError(t, err)
	assert.Empty(t, sets)
}

// Each school's things are seen and changed by the own coordinator and the district's.
func TestASchoolsThingsAreItsOwn(t *testing.T) {
	w := newWorld(t)
	own, err := w.app.Build.StartAssessment(w.ctx, w.principal, outline("Quarry Road quiz"))
	require.NoError(t, err)
	half := points.Points(5000)
	set, err := w.app.Plans.PutBandSet(w.ctx, w.principal, 0, build.BandSetInput{Name: "Quarry Road bands", Bands: []band.Band{{Name: "a"}, {Name: "b", Cut: band.Cut{Percent: &half}}}})
	require.NoError(t, err)

	stranger := w.principal
	stranger.PersonID, stranger.Posts = 999, []roster.Post{{Role: roster.SchoolCoordinator, SchoolID: w.principal.Posts[0].SchoolID + 1}}
	for name, act := range map[string]func() error{
		"opens it": func() error { _, err := w.app.Build.Sheet(w.ctx, stranger, own.Assessment.ID); return err },
		"changes it": func() error {
			_, err := w.app.Build.PutLines(w.ctx, stranger, own.Assessment.ID, own.Assessment.Version, nil)
			return err
		},
		"distributes it":  func() error { _, err := w.app.Give.Distribution(w.ctx, stranger, own.Assessment.ID); return err },
		"reads its bands": func() error { _, err := w.app.Plans.BandSet(w.ctx, stranger, set.ID); return err },
		"chooses its bands": func() error {
			mine, err := w.app.Build.StartAssessment(w.ctx, stranger, outline("Mine"))
			if err != nil {
				return err
			}
			_, err = w.app.Build.ChooseBands(w.ctx, stranger, mine.Assessment.ID, mine.Assessment.Version, set.ID)
			return err
		},
	} {
		assert.ErrorIs(t, act(), desk.ErrNotFound, name)
	}
	list, err := w.app.Build.Assessments(w.ctx, stranger, buildrows.AssessmentFilter{})
	require.NoError(t, err)
	for _, a := range list {
		assert.NotEqual(t, own.Assessment.ID, a.ID)
	}
	_, err = w.app.Build.PutOutline(w.ctx, w.coordinator, own.Assessment.ID, own.Assessment.Version, outline("Changed by the district"))
	assert.NoError(t, err)
	found, err := w.app.Build.Assessments(w.ctx, w.principal, buildrows.AssessmentFilter{Words: "by the district"})
	require.NoError(t, err)
	assert.Len(t, found, 1)
}

func TestAnItemShowsWhatItIs(t *testing.T) {
	w := newWorld(t)
	page, err := w.app.Bank.Items(w.ctx, w.teacher, bank.ItemSearch{Words: "square meters"})
	require.NoError(t, err)
	require.Len(t, page.Items, 1)
	it, err := w.app.Bank.Item(w.ctx, w.teacher, page.Items[0].ID, 0)
	require.NoError(t, err)
	assert.Equal(t, "12 or 12.0", it.Key)
	require.NotNil(t, it.Passage)
	assert.Equal(t, "The dock", it.Passage.Title)
	_, err = w.app.Bank.Item(w.ctx, w.teacher, 99, 0)
	assert.ErrorIs(t, err, desk.ErrNotFound)
	byTitle, err := w.app.Bank.Items(w.ctx, w.teacher, bank.ItemSearch{Words: "dock"})
	require.NoError(t, err)
	assert.Len(t, byTitle.Items, 1, "a passage's title finds its items")
}

func TestAssessmentsAreFoundAgainByAnyOfTheirOutline(t *testing.T) {
	w := newWorld(t)
	o := outline("Tide tables")
	o.Course, o.Labels, o.Grades = " Mathematics 6 ", []string{"pilot", " pilot ", "harbor"}, []string{"06", "07"}
	tides, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, o)
	require.NoError(t, err)
	plain := outline("Boat building")
	plain.Subject, plain.Year = "science", "2024–25"
	boats, err := w.app.Build.StartAssessment(w.ctx, w.second, plain)
	require.NoError(t, err)
	for name, f := range map[string]buildrows.AssessmentFilter{
		"words": {Words: "tide"}, "grade": {Grade: "07"}, "subject": {Subject: "mathematics"}, "course": {Course: "Mathematics 6"}, "year": {Year: tides.Assessment.Year},
		"label": {Label: "harbor"}, "owner": {OwnerID: w.coordinator.PersonID}, "two at once": {Label: "pilot", Grade: "06"},
	} {
		list, err := w.app.Build.Assessments(w.ctx, w.coordinator, f)
		require.NoError(t, err)
		require.Len(t, list, 1, name)
		assert.Equal(t, "Tide tables", list[0].Title, name)
	}
	list, err := w.app.Build.Assessments(w.ctx, w.coordinator, buildrows.AssessmentFilter{State: "sealed"})
	require.NoError(t, err)
	assert.Empty(t, list)
	assert.EqualValues(t, []string{"pilot", "harbor"}, tides.Assessment.Labels)

	w.now = w.now.Add(60e9)
	_, err = w.app.Build.Attend(w.ctx, w.coordinator, tides.Assessment.ID, "lines")
	require.NoError(t, err)
	list, err = w.app.Build.Assessments(w.ctx, w.coordinator, buildrows.AssessmentFilter{OpenedFirst: true})
	require.NoError(t, err)
	assert.Equal(t, tides.Assessment.ID, list[0].ID, "what one opened last comes first")
	list, err = w.app.Build.Assessments(w.ctx, w.second, buildrows.AssessmentFilter{OpenedFirst: true})
	require.NoError(t, err)
	assert.Equal(t, boats.Assessment.ID, list[0].ID, "for that person alone")
}

func TestPurposesAreTheDistrictsOwnList(t *testing.T) {
	w := newWorld(t)
	s := w.draft() // a benchmark
	_, err := w.app.PutPurposes(w.ctx, w.principal, []string{"quiz"})
	assert.ErrorIs(t, err, desk.ErrForbidden)
	list, err := w.app.PutPurposes(w.ctx, w.coordinator, []string{"Harbor check", "quiz", "QUIZ "})
	require.NoError(t, err)
	assert.Equal(t, []string{"harbor check", "quiz"}, list)
	_, err = w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("A benchmark"))
	assert.ErrorContains(t, err, "harbor check, quiz")
	o := outline("Still a benchmark")
	s, err = w.app.Build.PutOutline(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, o)
	require.NoError(t, err, "what an assessment is for stays, on the list or not")
	o.Purpose = "quiz"
	_, err = w.app.Build.PutOutline(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, o)
	assert.NoError(t, err)
	_, err = w.app.PutPurposes(w.ctx, w.coordinator, []string{" "})
	assert.Error(t, err)
}

func TestARowMayAskForABank(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	banks, err := w.app.Bank.Banks(w.ctx, w.coordinator)
	require.NoError(t, err)
	name := banks[0].Bank.Name
	_, err = w.app.Build.PutBlueprint(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.RowInput{{Filter: blueprint.Filter{Banks: []string{name, "Nowhere"}}, Min: points.One, Max: points.One}})
	var wrong *desk.InvalidError
	require.ErrorAs(t, err, &wrong)
	assert.Equal(t, "/rows/0/filter/banks", wrong.Fields[0].Pointer)
	s, err = w.app.Build.PutBlueprint(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.RowInput{
		{Filter: blueprint.Filter{Banks: []string{name}}, Min: 2 * points.One, Max: 2 * points.One}})
	require.NoError(t, err)
	assert.Equal(t, points.One, s.Excess, "all three lines come from it")
	pools, err := w.app.Draws.Pools(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, []int{3}, pools)
}
