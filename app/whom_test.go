package app_test

import (
	"maps"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/app/give"
	takeroom "pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/settings"
)

// A rule takes in the section and the students that the next roster brings, each in the one sitting of their section.
func TestARuleTakesInWhoComesLater(t *testing.T) {
	for follow, seats := range map[bool][2]int{true: {3, 5}, false: {2, 3}} {
		w := anotherWorld(t)
		s := w.sealed()
		whom := everyone
		whom.Follow = follow
		w.inWaves(s.Assessment.ID, whom)
		files := maps.Clone(rosterFiles)
		files["classes.csv"] += "c3,6-C,06,m,s2\n"
		files["users.csv"] += "d,true,Lena,Brandt,1004,,06,2222\ne,true,Omar,Haddad,1005,,06,3333\n"
		files["roles.csv"] += "r10,d,student,s1\nr11,e,student,s2\n"
		// Lena joins 6-A, Omar the new 6-C, and Noor moves from 6-A to 6-C.
		files["enrollments.csv"] = strings.Replace(files["enrollments.csv"], "e4,c1,b,", "e4,c3,b,", 1) + "e6,c1,d,student\ne7,c3,e,student\n"
		w.roster(files)
		sent := w.outNow(s.Assessment.ID)
		assert.Equal(t, seats, [2]int{sent.Sections, sent.Students}, "follow %v", follow)
		if !follow {
			continue
		}
		assert.Equal(t, 3, sent.CameIn)
		room, err := w.app.Take.Room(w.ctx, w.coordinator, w.roomOf(s.Assessment.ID, "6-C"))
		require.NoError(t, err)
		assert.Len(t, room.Seats, 2, "who moved before they began is seated where they are now")
		assert.Equal(t, time.Date(2026, 10, 15, 23, 0, 0, 0, time.UTC), room.Sitting.Setup.V.Closes, "in the wave of its school")
		assert.Equal(t, 1, w.acts("distribution.takeIn"))
		require.NoError(t, w.app.Give.TakeIn(w.ctx))
		assert.Equal(t, 1, w.acts("distribution.takeIn"), "once is enough")
		w.verified()
	}
}

// Who changes sections is not given it a second time by the rule of another distribution.
func TestTwoRulesGiveItOnce(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	for _, c := range view.Candidates {
		now, err := w.app.Give.Distribution(w.ctx, w.coordinator, s.Assessment.ID)
		require.NoError(t, err)
		whom := roster.ToSections(c.ID)
		whom.Follow = true
		put, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, give.DistributionInput{Version: now.Distribution.Version, Whom: whom, Waves: give.OneWave("2026-10-14T08:00", "2026-10-16T16:00")})
		require.NoError(t, err)
		_, err = w.app.Give.Send(w.ctx, w.coordinator, s.Assessment.ID, put.Distribution.Version, nil)
		require.NoError(t, err)
	}
	files := maps.Clone(rosterFiles)
	files["enrollments.csv"] = strings.Replace(files["enrollments.csv"], "e4,c1,b,", "e4,c2,b,", 1)
	w.roster(files)
	seats := 0
	sheet, err := w.app.Build.Sheet(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	for _, g := range sheet.Sittings {
		seats += g.Seats
	}
	assert.Equal(t, 3, seats, "as many as there are students")
	assert.Zero(t, w.acts("distribution.takeIn"))
}

// A school's coordinator learns no name of another school's student from what the district has chosen.
func TestNamesOfOtherSchoolsStayThere(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	in := give.DistributionInput{Waves: give.OneWave("2026-10-14T08:00", "2026-10-15T16:00"),
		Whom: roster.Whom{Entries: []roster.Entry{{Students: []int64{w.student.PersonID, w.otherStudent.PersonID}}}}}
	_, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, in)
	require.NoError(t, err)
	view, err := w.app.Give.Distribution(w.ctx, w.principal, s.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, "Mei Sato; one that is not here", view.Entries[0].Words)
	for _, f := range view.Findings {
		assert.NotContains(t, f.Text, "Hugo")
	}
}

func TestGroupsAreOnesOwnAndWorkedOutAnew(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	groups, err := w.app.Give.PutGroup(w.ctx, w.coordinator, give.GroupInput{Name: " Reads ahead ", Students: []int64{w.student.PersonID}})
	require.NoError(t, err)
	require.Len(t, groups, 1)
	assert.Equal(t, "Reads ahead", groups[0].Name)
	in := give.DistributionInput{Whom: roster.Whom{Entries: []roster.Entry{{Groups: []int64{groups[0].ID}}}}, Waves: give.OneWave("2026-10-14T08:00", "2026-10-15T16:00")}
	view, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, in)
	require.NoError(t, err)
	assert.Equal(t, roster.Count{Schools: 1, Sections: 1, Students: 1}, view.Total)
	sheet, err := w.app.Build.Sheet(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	assert.True(t, slices.ContainsFunc(sheet.Parts, func(p build.Part) bool { return p.State == "1 section, not sent" }), sheet.Parts)
	assert.Equal(t, "The group Reads ahead", view.Entries[0].Words)
	_, err = w.app.Give.PutGroup(w.ctx, w.coordinator, give.GroupInput{Name: "Reads ahead", Students: []int64{w.student.PersonID, w.otherStudent.PersonID}})
	require.NoError(t, err)
	view, err = w.app.Give.Distribution(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, 2, view.Total.Students)
	_, err = w.app.Give.PutDistribution(w.ctx, w.second, w.sealed().Assessment.ID, in)
	var invalid *desk.InvalidError
	assert.ErrorAs(t, err, &invalid, "nor named by others")
	theirs, err := w.app.Give.Groups(w.ctx, w.second)
	require.NoError(t, err)
	assert.Empty(t, theirs, "a group is its owner's")
	for name, bad := range map[string]give.GroupInput{"no name": {Students: []int64{1}}, "nobody": {Name: "x"}, "no such support": {Name: "x", Rule: roster.GroupRule{Support: "wings"}},
		"both": {Name: "x", Students: []int64{1}, Rule: roster.GroupRule{Support: "extraTime"}}, "a stranger": {Name: "x", Students: []int64{9999}}} {
		_, err := w.app.Give.PutGroup(w.ctx, w.coordinator, bad)
		assert.Error(t, err, name)
	}
	_, err = w.app.Give.PutGroup(w.ctx, w.principal, give.GroupInput{Name: "x", Students: []int64{w.otherStudent.PersonID}})
	assert.ErrorIs(t, err, desk.ErrNotFound, "of another school")
}

// A group by a rule is who it is true of today.
func TestGroupsByARule(t *testing.T) {
	w := newWorld(t)
	given := w.sent()
	sitting := w.sittingOf(w.teacher)
	_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	work, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err)
	_, err = w.app.Take.HandIn(w.ctx, w.student, work.Attempt.ID)
	require.NoError(t, err)
	w.enter(w.otherStudent, "extraTime", "1.5")

	groups, err := w.app.Give.PutGroup(w.ctx, w.coordinator, give.GroupInput{Name: "Below", Rule: roster.GroupRule{Assessment: given.Assessment.ID, Below: 1}})
	require.NoError(t, err)
	below := groups[0].ID
	groups, err = w.app.Give.PutGroup(w.ctx, w.coordinator, give.GroupInput{Name: "More time", Rule: roster.GroupRule{Support: "extraTime"}})
	require.NoError(t, err)
	more := groups[slices.IndexFunc(groups, func(g give.Group) bool { return g.Name == "More time" })].ID
	next := w.sealed()
	for group, name := range map[int64]string{below: "Mei Sato", more: "Hugo Costa"} {
		view, err := w.app.Give.Distribution(w.ctx, w.coordinator, next.Assessment.ID)
		require.NoError(t, err)
		view, err = w.app.Give.PutDistribution(w.ctx, w.coordinator, next.Assessment.ID, give.DistributionInput{Version: view.Distribution.Version,
			Whom: roster.Whom{Entries: []roster.Entry{{Groups: []int64{group}}}}, Waves: give.OneWave("2026-10-20T08:00", "2026-10-21T16:00")})
		require.NoError(t, err)
		assert.Equal(t, 1, view.Total.Students, name)
		for _, s := range view.LeftOut {
			assert.NotEqual(t, name, s.Given+" "+s.Family)
		}
	}
}

// Who changes sections while it is out goes on there with their work and the time that was left; who is at work, or has handed in, stays.
func TestWorkGoesAlongWithWhoChangesSections(t *testing.T) {
	for name, c := range map[string]struct {
		door   attempt.DoorState
		handIn bool
		left   int // in 6-B
	}{"the door is closed": {attempt.Closed, false, 0}, "at work": {attempt.Open, false, 1}, "handed in": {attempt.Closed, true, 1}} {
		w := anotherWorld(t)
		s := w.sealed()
		whom := everyone
		whom.Follow = true
		w.inWaves(s.Assessment.ID, whom)
		w.now = time.Date(2026, 10, 14, 16, 0, 0, 0, time.UTC)
		old, view := w.atWork(w.otherTeacher, w.otherStudent)
		_, err := w.app.Take.SaveAnswers(w.ctx, w.otherStudent, view.Attempt.ID, "", []takeroom.Answered{right})
		require.NoError(t, err)
		w.now = w.now.Add(20 * time.Minute)
		if c.handIn {
			_, err = w.app.Take.HandIn(w.ctx, w.otherStudent, view.Attempt.ID)
			require.NoError(t, err)
		}
		_, err = w.app.Take.MoveDoor(w.ctx, w.otherTeacher, old.ID, c.door)
		require.NoError(t, err)
		files := maps.Clone(rosterFiles)
		files["enrollments.csv"] = strings.Replace(files["enrollments.csv"], "e5,c2,c,", "e5,c1,c,", 1)
		w.roster(files)
		room, err := w.app.Take.Room(w.ctx, w.coordinator, old.ID)
		require.NoError(t, err)
		assert.Len(t, room.Seats, c.left, name)
		w.verified()
		if c.left == 1 {
			continue
		}
		now := w.roomOf(s.Assessment.ID, "6-A")
		w.now = time.Date(2026, 10, 20, 16, 0, 0, 0, time.UTC)
		there, err := w.app.Take.MoveDoor(w.ctx, w.teacher, now, attempt.Open)
		require.NoError(t, err)
		assert.Equal(t, "Costa", there.Seats[1].Family, "who watches has changed")
		assert.Equal(t, 1, there.Seats[1].Answered)
		goesOn, err := w.app.Take.Open(w.ctx, w.otherStudent, now, "", false)
		require.NoError(t, err)
		assert.Equal(t, 30*time.Minute, goesOn.Left)
		assert.Equal(t, 1, w.outNow(s.Assessment.ID).CameIn)
	}
}

func TestAChoiceOfWhomIsKeptToBeUsedAgain(t *testing.T) {
	w := newWorld(t)
	grade := []roster.Entry{{Grades: []string{"06"}}, {Out: true, Students: []int64{w.student.PersonID}}}
	list, err := w.app.Give.PutChoice(w.ctx, w.coordinator, " All of grade 6 ", grade)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, "All of grade 6", list[0].Name)
	list, err = w.app.Give.PutChoice(w.ctx, w.coordinator, "All of grade 6", grade[:1])
	require.NoError(t, err)
	require.Len(t, list, 1, "in place of the one of that name")
	assert.Len(t, list[0].Whom.V.Entries, 1)
	theirs, err := w.app.Give.Choices(w.ctx, w.second)
	require.NoError(t, err)
	assert.Empty(t, theirs, "a choice is its owner's")
	_, err = w.app.Give.DropChoice(w.ctx, w.second, list[0].ID)
	assert.ErrorIs(t, err, desk.ErrNotFound)
	_, err = w.app.Give.PutChoice(w.ctx, w.coordinator, " ", grade)
	assert.ErrorContains(t, err, "needs a name")
	_, err = w.app.Give.PutChoice(w.ctx, w.coordinator, "Nobody", nil)
	assert.ErrorContains(t, err, "between 1 and")
	_, err = w.app.Give.PutChoice(w.ctx, w.teacher, "x", grade)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	list, err = w.app.Give.DropChoice(w.ctx, w.coordinator, list[0].ID)
	require.NoError(t, err)
	assert.Empty(t, list)
	assert.Equal(t, []int{2, 1}, []int{w.acts("choice.put"), w.acts("choice.drop")})
}

func TestASectionCanBeginInAnotherLanguage(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	list, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, give.DistributionInput{Whom: everyone, Waves: give.OneWave("2026-10-14T08:00", "2026-10-21T16:00")})
	require.NoError(t, err)
	at := list.Candidates[0]
	_, err = w.set(w.coordinator, settings.Place{Assessment: s.Assessment.ID, Section: at.ID}, settings.ItemLanguage, "es", settings.NoLock)
	require.NoError(t, err)
	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	i := slices.IndexFunc(view.Findings, func(f roster.Finding) bool { return f.Code == "language:es" })
	require.GreaterOrEqual(t, i, 0)
	assert.Contains(t, view.Findings[i].Text, "it begins in Spanish, and not all of it is written so: No Spanish text for lines 1, 2 and 3; Passages not in Spanish")
	assert.Positive(t, view.Findings[i].Students)
}

func TestPassagesWithoutAPermissionAreNamed(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	codes := func() []string {
		view, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, give.DistributionInput{Whom: everyone, Waves: give.OneWave("2026-10-14T08:00", "2026-10-21T16:00"), Version: w.versionOf(s)})
		require.NoError(t, err)
		var out []string
		for _, f := range view.Findings {
			out = append(out, f.Code)
		}
		return out
	}
	assert.NotContains(t, codes(), "permission")
	require.NoError(t, w.permit(""))
	assert.Contains(t, codes(), "permission")
}

func (w *world) versionOf(s build.Sheet) int {
	w.Helper()
	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(w, err)
	return view.Distribution.Version
}
