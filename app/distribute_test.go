package app_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	"pineledger/app/give"
	"pineledger/app/intake"
	"pineledger/app/read"
	takeroom "pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
	"pineledger/store/officerows"
)

// chosen is a distribution to both sections, ready to go.
func (w *world) chosen(id int64) (give.DistributionInput, give.DistributionView) {
	w.Helper()
	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, id)
	require.NoError(w, err)
	w.setting(id, settings.Minutes, 50)
	in := give.DistributionInput{Waves: give.OneWave("2026-10-14T08:00", "2026-10-16T16:00")}
	for _, c := range view.Candidates {
		choose(&in, c.ID)
	}
	return in, view
}

func TestWindowsAreOnTheDistrictsWallClock(t *testing.T) {
	w := newWorld(t)
	require.NoError(t, w.store.Write(w.ctx, func(tx *store.Tx) error { return officerows.SetTimeZone(w.ctx, tx, "America/Los_Angeles") }))
	s := w.draft()
	in, _ := w.chosen(s.Assessment.ID)
	// The clock is turned back on November 1: the window is an hour longer than it looks.
	in.Waves = give.OneWave("2026-10-31T08:00", "2026-11-02T08:00")
	view, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, in)
	require.NoError(t, err)
	assert.Equal(t, 49*time.Hour, view.Distribution.Closes.Sub(view.Distribution.Opens))
	assert.Equal(t, time.Date(2026, 10, 31, 15, 0, 0, 0, time.UTC), view.Distribution.Opens.UTC())
	again, err := w.app.Give.Distribution(w.ctx, w.second, s.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, in.Waves[0].Opens, again.Waves[0].Opens, "shown as it was typed")
	assert.Equal(t, in.Waves[0].Closes, again.Waves[0].Closes)
}

func TestOnlySectionsThatFitAreOffered(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	_, view := w.chosen(s.Assessment.ID)
	assert.Len(t, view.Candidates, 2)
	for change, want := range map[string]int{"grade 7": 0, "reading": 0, "grades 6 and 7": 2} {
		o := outline("Fall")
		switch change {
		case "grade 7":
			o.Grades = []string{"07"}
		case "reading":
			o.Subject = "reading"
		default:
			o.Grades = []string{"06", "07"}
		}
		var err error
		s, err = w.app.Build.PutOutline(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, o)
		require.NoError(t, err)
		view, err := w.app.Give.Distribution(w.ctx, w.coordinator, s.Assessment.ID)
		require.NoError(t, err)
		assert.Len(t, view.Candidates, want, change)
	}
	// A school's own assessment goes to the own school.
	own, err := w.app.Build.StartAssessment(w.ctx, w.principal, outline("Own"))
	require.NoError(t, err)
	mine, err := w.app.Give.Distribution(w.ctx, w.principal, own.Assessment.ID)
	require.NoError(t, err)
	require.Len(t, mine.Candidates, 1)
	assert.Equal(t, "Quarry Road", mine.Candidates[0].School)
	in, _ := w.chosen(s.Assessment.ID)
	for _, c := range view.Candidates {
		choose(&in, c.ID)
	}
	_, err = w.app.Give.PutDistribution(w.ctx, w.principal, own.Assessment.ID, in)
	var invalid *desk.InvalidError
	assert.ErrorAs(t, err, &invalid, "another school's section cannot be named")
}

func TestStrangeChoicesAreRefusedByTheirField(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	for name, change := range map[string]func(*give.DistributionInput){
		"/waves/0/opens":        func(in *give.DistributionInput) { in.Waves[0].Opens = "2026-02-30T08:00" },
		"/waves/0/closes":       func(in *give.DistributionInput) { in.Waves[0].Closes = "noon" },
		"/waves/1":              func(in *give.DistributionInput) { in.Waves = append(in.Waves, in.Waves[0]) },
		"/waves/0/schools/0":    func(in *give.DistributionInput) { in.Waves[0].Schools = []int64{77} },
		"/waves/0/sections/0":   func(in *give.DistributionInput) { in.Waves[0].Sections = []int64{77} },
		"/entries/0/sections/2": func(in *give.DistributionInput) { choose(in, 77) },
		"/entries/0/sections/1": func(in *give.DistributionInput) { in.Whom.Entries[0].Sections[1] = in.Whom.Entries[0].Sections[0] },
		"/entries/1/schools/0": func(in *give.DistributionInput) {
			in.Whom.Entries = append(in.Whom.Entries, roster.Entry{Schools: []int64{77}})
		},
		"/entries/1/students/0": func(in *give.DistributionInput) {
			in.Whom.Entries = append(in.Whom.Entries, roster.Entry{Students: []int64{77}})
		},
		"/entries/1/groups/0": func(in *give.DistributionInput) {
			in.Whom.Entries = append(in.Whom.Entries, roster.Entry{Groups: []int64{77}})
		},
	} {
		in, _ := w.chosen(s.Assessment.ID)
		change(&in)
		_, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, in)
		var invalid *desk.InvalidError
		if assert.ErrorAs(t, err, &invalid, name) {
			assert.Equal(t, name, invalid.Fields[0].Pointer)
		}
	}
}

// What was chosen and does not fit any more is forgotten, and stands in nobody's way.
func TestChoicesThatNoLongerFitAreForgotten(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	in, _ := w.chosen(s.Assessment.ID)
	in.Whom = in.Whom.Without(w.student.PersonID, w.teacher.PersonID, 999_999)
	view, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, in)
	require.NoError(t, err)
	require.Len(t, view.LeftOut, 1)
	assert.Equal(t, w.student.PersonID, view.LeftOut[0].ID)
	assert.Equal(t, 2, view.Total.Students)

	o := outline("Fall")
	o.Grades = []string{"07"}
	s, err = w.app.Build.PutOutline(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, o)
	require.NoError(t, err)
	view, err = w.app.Give.Distribution(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	assert.Zero(t, view.Total)
	in.Version = view.Distribution.Version
	_, err = w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, in)
	assert.NoError(t, err)
}

func TestTwoWhoPrepareADistributionAreTold(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	in, _ := w.chosen(s.Assessment.ID)
	first, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, in)
	require.NoError(t, err)
	_, err = w.app.Give.PutDistribution(w.ctx, w.second, s.Assessment.ID, in) // version 0: theirs was new
	var conflict *desk.ConflictError
	require.ErrorAs(t, err, &conflict)
	in.Version = first.Distribution.Version
	_, err = w.app.Give.PutDistribution(w.ctx, w.second, s.Assessment.ID, in)
	require.NoError(t, err)
	_, err = w.app.Give.Send(w.ctx, w.coordinator, s.Assessment.ID, first.Distribution.Version, nil)
	assert.ErrorAs(t, err, &conflict, "what is sent is what was reviewed")
	list, err := w.app.Take.Sittings(w.ctx, w.coordinator)
	require.NoError(t, err)
	assert.Empty(t, list)
}

// Leaving one student out takes exactly that seat away; the roster that changes
// later changes no sitting that is out.
func TestSeatsAreWhoWasChosenWhenItWentOut(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	in, _ := w.chosen(s.Assessment.ID)
	in.Whom = in.Whom.Without(w.student.PersonID)
	view, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, in)
	require.NoError(t, err)
	assert.Equal(t, 2, view.Total.Students)
	_, err = w.app.Give.Send(w.ctx, w.coordinator, s.Assessment.ID, view.Distribution.Version, nil)
	require.NoError(t, err)

	later := map[string]string{}
	for name, text := range rosterFiles {
		later[name] = text
	}
	later["users.csv"] += "z,true,Zoe,Late,1009,,06,9999\n"
	later["roles.csv"] += "r10,z,student,s1\n"
	later["enrollments.csv"] += "e9,c1,z,student\n"
	_, err = w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportRoster, Name: "later", Path: w.folder(later)}, nil)
	require.NoError(t, err)

	room, err := w.app.Take.Room(w.ctx, w.teacher, w.sittingOf(w.teacher).ID)
	require.NoError(t, err)
	require.Len(t, room.Seats, 1)
	assert.Equal(t, "Noor", room.Seats[0].Given)
	for _, v := range []roster.Viewer{w.student, w.person("Zoe")} {
		_, err := w.app.Take.Begin(w.ctx, v, room.Sitting.ID, takeroom.Entry{})
		assert.ErrorIs(t, err, desk.ErrNotFound)
	}
}

func TestTheSameFormGoesOutAgainToOthers(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	in, view := w.chosen(s.Assessment.ID)
	in.Whom.Entries[0].Sections = in.Whom.Entries[0].Sections[:1]
	put, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, in)
	require.NoError(t, err)
	s, err = w.app.Give.Send(w.ctx, w.coordinator, s.Assessment.ID, put.Distribution.Version, nil)
	require.NoError(t, err)

	next, err := w.app.Give.Distribution(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	assert.Zero(t, next.Distribution.ID, "a fresh one begins")
	in.Whom = roster.ToSections(view.Candidates[1].ID)
	put, err = w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, in)
	require.NoError(t, err)
	s, err = w.app.Give.Send(w.ctx, w.coordinator, s.Assessment.ID, put.Distribution.Version, nil)
	require.NoError(t, err)
	assert.Len(t, s.Sittings, 2)
	assert.NotEqual(t, s.Sittings[0].DistributionID, s.Sittings[1].DistributionID)
	assert.Equal(t, s.Sittings[0].FormID, s.Sittings[1].FormID)

	// The same section at the same time is a caution that names the clash.
	put, err = w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, in)
	require.NoError(t, err)
	require.NotEmpty(t, put.Findings)
	assert.Equal(t, "clash:Fall", put.Findings[len(put.Findings)-1].Code)
}

// When the window ends, whoever still works is handed in, also without a time limit
// and also behind a door that is paused.
func TestTheWindowsEndHandsInWhatWasDone(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	in, _ := w.chosen(s.Assessment.ID)
	in.Waves = give.OneWave("2026-10-13T08:00", "2026-10-13T12:00")
	w.setting(s.Assessment.ID, settings.Minutes, 0)
	view, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, in)
	require.NoError(t, err)
	_, err = w.app.Give.Send(w.ctx, w.coordinator, s.Assessment.ID, view.Distribution.Version, nil)
	require.NoError(t, err)
	w.now = view.Distribution.Opens.Add(time.Hour)
	sitting := w.sittingOf(w.teacher)
	_, err = w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	take, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err)
	assert.False(t, take.Limited)
	assert.Equal(t, view.Distribution.Closes.UTC(), take.End.UTC())
	_, err = w.app.Take.SaveAnswers(w.ctx, w.student, take.Attempt.ID, "", []takeroom.Answered{answer(1, 1, "A")})
	require.NoError(t, err)
	_, err = w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Held)
	require.NoError(t, err)

	w.now = view.Distribution.Closes.Add(attempt.Grace - time.Second)
	require.NoError(t, w.app.Take.Tick(w.ctx))
	room, err := w.app.Take.Room(w.ctx, w.teacher, sitting.ID)
	require.NoError(t, err)
	assert.Zero(t, room.Sitting.Done, "what is on its way is waited for")
	w.now = view.Distribution.Closes.Add(attempt.Grace)
	require.NoError(t, w.app.Take.Tick(w.ctx))
	require.NoError(t, w.app.Take.Tick(w.ctx), "once more changes nothing")
	room, err = w.app.Take.Room(w.ctx, w.teacher, sitting.ID)
	require.NoError(t, err)
	assert.Equal(t, 1, room.Sitting.Done)
	m, err := w.app.Read.Matrix(w.ctx, w.teacher, sitting.DistributionID, read.MatrixQuery{})
	require.NoError(t, err)
	require.Len(t, m.Rows, 1)
	assert.EqualValues(t, 100, m.Rows[0].Raw)
	assert.Equal(t, "attempt.hand-in", w.entries()[0].Act)
	assert.Equal(t, "assessment.close", w.entries()[1].Act, "with the window, before the grace")
}

func TestADistributionBeginsWithNothingChosen(t *testing.T) {
	w := newWorld(t)
	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, w.sealed().Assessment.ID)
	require.NoError(t, err)
	assert.Empty(t, view.Waves[0].Opens)
	assert.Empty(t, view.Waves[0].Closes)
	assert.True(t, view.Distribution.Sent.IsZero())
}

// What the store looks for and what the rule says of a section are the same.
func TestTheSectionsOfAnAudience(t *testing.T) {
	w := newWorld(t)
	all, err := officerows.Sections(w.ctx, w.store.Reader, w.coordinator.Scope(), officerows.SectionFilter{})
	require.NoError(t, err)
	require.Len(t, all, 2)
	for _, audience := range []roster.Audience{
		{}, {Subject: "mathematics"}, {Grades: []string{"06"}}, {Grades: []string{"05", "06"}, Subject: "mathematics"},
		{Grades: []string{"06"}, Subject: "science"}, {Grades: []string{"05"}, Subject: "mathematics"}, {Grades: []string{}, Subject: "mathematics"},
	} {
		found, err := officerows.Sections(w.ctx, w.store.Reader, w.coordinator.Scope(), officerows.SectionFilter{Audience: &audience})
		require.NoError(t, err)
		var want []int64
		for _, s := range all {
			if audience.Takes(s.Grades, []string{"mathematics"}) {
				want = append(want, s.ID)
			}
		}
		var got []int64
		for _, s := range found {
			got = append(got, s.ID)
		}
		assert.Equal(t, want, got, "%+v", audience)
	}
}

// Who has it does not get it twice: the same edition is a stop, an earlier one is said.
func TestSendingAgainIsAStopWithItsReason(t *testing.T) {
	w := newWorld(t)
	s := w.sent()
	id := s.Assessment.ID
	in, _ := w.chosen(id)
	in.Whom = in.Whom.Without(w.student.PersonID)
	view, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, id, in)
	require.NoError(t, err)
	find := func(code string) *roster.Finding {
		for _, f := range view.Findings {
			if f.Code == code {
				return &f
			}
		}
		return nil
	}
	require.NotNil(t, find("again"))
	assert.Equal(t, roster.Stop, find("again").Severity)
	assert.Contains(t, find("again").Text, "These have it already: Breakwater")
	require.Len(t, view.LeftOut, 1)
	assert.Equal(t, w.student.PersonID, view.LeftOut[0].ID)
	_, err = w.app.Give.Send(w.ctx, w.coordinator, id, view.Distribution.Version, map[string]string{})
	assert.ErrorContains(t, err, "These have it already")

	s, err = w.app.Build.NewEdition(w.ctx, w.coordinator, id, s.Assessment.Version)
	require.NoError(t, err)
	s, err = w.app.Build.Seal(w.ctx, w.coordinator, id, s.Assessment.Version)
	require.NoError(t, err)
	view, err = w.app.Give.Distribution(w.ctx, w.coordinator, id)
	require.NoError(t, err)
	assert.Nil(t, find("again"))
	require.NotNil(t, find("earlier"))
	assert.Equal(t, roster.Caution, find("earlier").Severity)
}
