package app_test

import (
	"bytes"
	"maps"
	"slices"
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/app/give"
	takeroom "pineledger/app/take"
	"pineledger/core/assessment"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/core/window"
)

// inWaves sends a sealed assessment to all sections: those of the first school in a wave of their own, the others later.
func (w *world) inWaves(id int64, whom roster.Whom) give.SentView {
	w.Helper()
	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, id)
	require.NoError(w, err)
	w.setting(id, settings.Minutes, 50)
	in := give.DistributionInput{Whom: whom, Version: view.Distribution.Version, Waves: []give.WaveInput{
		{Name: "Harbor", Opens: "2026-10-14T08:00", Closes: "2026-10-15T16:00", Schools: []int64{w.schoolOf(view, "6-B")}},
		{Opens: "2026-10-20T08:00", Closes: "2026-10-21T16:00"}}}
	view, err = w.app.Give.PutDistribution(w.ctx, w.coordinator, id, in)
	require.NoError(w, err)
	_, err = w.app.Give.Send(w.ctx, w.coordinator, id, view.Distribution.Version, nil)
	require.NoError(w, err)
	return w.outNow(id)
}

func (w *world) outNow(id int64) give.SentView {
	w.Helper()
	list, err := w.app.Give.Sent(w.ctx, w.coordinator, id)
	require.NoError(w, err)
	require.NotEmpty(w, list)
	return list[0]
}

func (w *world) schoolOf(view give.DistributionView, section string) int64 {
	w.Helper()
	for _, c := range view.Candidates {
		if c.Title == section {
			return c.SchoolID
		}
	}
	require.Fail(w, "no section "+section)
	return 0
}

// roomOf is the sitting of a section.
func (w *world) roomOf(assessment int64, section string) int64 {
	w.Helper()
	sheet, err := w.app.Build.Sheet(w.ctx, w.coordinator, assessment)
	require.NoError(w, err)
	for _, g := range sheet.Sittings {
		if g.Section == section {
			return g.ID
		}
	}
	require.Fail(w, "no sitting of "+section)
	return 0
}

// everyone is every section that fits, whoever comes.
var everyone = roster.Whom{Entries: []roster.Entry{{}}, Follow: true}

// wavesOf are the waves of what is out, as they would be typed again.
func wavesOf(s give.SentView) (out []give.WaveInput) {
	for _, wave := range s.Waves {
		out = append(out, wave.WaveInput)
	}
	return out
}

func TestEachWaveHasItsWindow(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	sent := w.inWaves(s.Assessment.ID, everyone)
	assert.Equal(t, [3]int{2, 2, 3}, [3]int{sent.Schools, sent.Sections, sent.Students})
	assert.Equal(t, []int{1, 2}, []int{sent.Waves[0].Students, sent.Waves[1].Students})
	assert.Equal(t, "Breakwater", sent.Waves[0].SchoolNames[0])
	assert.Equal(t, "All sections", sent.Entries[0])
	require.Len(t, sent.Waves[0].Days, 2)
	assert.Equal(t, []int{0, 1}, []int{sent.Waves[0].Days[0].Expected, sent.Waves[0].Days[1].Expected})
	assert.Equal(t, [][2]int{{8 * 60, 24 * 60}}, sent.Waves[0].Days[0].Spans)

	// A door opens only in the window of its own wave.
	list, err := w.app.Take.Sittings(w.ctx, w.coordinator)
	require.NoError(t, err)
	require.Len(t, list, 2)
	w.now = time.Date(2026, 10, 14, 17, 0, 0, 0, time.UTC)
	for _, g := range list {
		_, err := w.app.Take.MoveDoor(w.ctx, w.coordinator, g.ID, attempt.Open)
		if g.Section == "6-B" {
			assert.NoError(t, err)
		} else {
			assert.EqualError(t, err, "The window has not begun yet.")
		}
	}
}

func TestDatesMoveAfterItIsOut(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	sent := w.inWaves(s.Assessment.ID, everyone)
	id := sent.Distribution.ID
	w.now = time.Date(2026, 10, 14, 17, 0, 0, 0, time.UTC)
	sitting := w.roomOf(s.Assessment.ID, "6-B")
	_, err := w.app.Take.MoveDoor(w.ctx, w.coordinator, sitting, attempt.Open)
	require.NoError(t, err)
	_, err = w.app.Take.Begin(w.ctx, w.otherStudent, sitting, takeroom.Entry{})
	require.NoError(t, err)

	waves := wavesOf(sent)
	waves[0].Closes, waves[1].Opens, waves[1].Closes = "2026-10-16T16:00", "2026-10-22T08:00", "2026-10-23T16:00"
	look, err := w.app.Give.ChangeDates(w.ctx, w.coordinator, id, waves, sent.Distribution.Version, false)
	require.NoError(t, err)
	assert.Equal(t, [4]int{2, 3, 1, 1}, [4]int{look.Sections, look.Students, look.Begun, look.Working})
	require.Len(t, look.Changes, 2)
	assert.Equal(t, []string{"Breakwater, 6-B"}, look.Changes[0].Examples)
	assert.Equal(t, sent.Waves[0].Closes, w.outNow(s.Assessment.ID).Waves[0].Closes, "a look changes nothing")

	_, err = w.app.Give.ChangeDates(w.ctx, w.coordinator, id, waves, sent.Distribution.Version, true)
	require.NoError(t, err)
	after := w.outNow(s.Assessment.ID)
	assert.Equal(t, waves[1].Opens, after.Waves[1].Opens)
	room, err := w.app.Take.Room(w.ctx, w.coordinator, sitting)
	require.NoError(t, err)
	assert.Equal(t, time.Date(2026, 10, 16, 23, 0, 0, 0, time.UTC), room.Sitting.Setup.V.Closes, "who works goes by it")

	_, err = w.app.Give.ChangeDates(w.ctx, w.coordinator, id, waves, sent.Distribution.Version, true)
	var stale *desk.ConflictError
	require.ErrorAs(t, err, &stale, "somebody changed it meanwhile")
	waves[0].Closes = "2026-10-15T12:00"
	_, err = w.app.Give.ChangeDates(w.ctx, w.coordinator, id, waves, after.Distribution.Version, true)
	assert.EqualError(t, err, "Breakwater, 6-B: "+string(window.ErrEndsEarlier))
	waves[0].Closes = "2026-10-16T16:00"
	_, err = w.app.Give.ChangeDates(w.ctx, w.coordinator, id, waves[:1], after.Distribution.Version, true)
	assert.ErrorContains(t, err, "is in no wave")
	_, err = w.app.Give.ChangeDates(w.ctx, w.principal, id, waves, after.Distribution.Version, true)
	assert.ErrorIs(t, err, desk.ErrForbidden, "it went to other schools too")
	_, err = w.app.Give.ChangeDates(w.ctx, w.teacher, id, waves, after.Distribution.Version, true)
	assert.Error(t, err)
	assert.Equal(t, 1, w.acts("distribution.dates"))
}

func TestWhatWasSentIsRecalledBeforeAnybodyBegins(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	sent := w.inWaves(s.Assessment.ID, everyone)
	require.NoError(t, w.app.Give.Recall(w.ctx, w.coordinator, sent.Distribution.ID, sent.Distribution.Version))
	mine, err := w.app.Take.MySittings(w.ctx, w.student)
	require.NoError(t, err)
	assert.Empty(t, mine)
	sheet, err := w.app.Build.Sheet(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, assessment.Sealed, sheet.Assessment.State)
	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, 3, view.Total.Students, "what was chosen is there to be sent again")
	_, err = w.app.Give.Send(w.ctx, w.coordinator, s.Assessment.ID, view.Distribution.Version, nil)
	require.NoError(t, err)

	sent = w.outNow(s.Assessment.ID)
	w.now = time.Date(2026, 10, 14, 17, 0, 0, 0, time.UTC)
	sitting := w.roomOf(s.Assessment.ID, "6-B")
	_, err = w.app.Take.MoveDoor(w.ctx, w.coordinator, sitting, attempt.Open)
	require.NoError(t, err)
	_, err = w.app.Take.Begin(w.ctx, w.otherStudent, sitting, takeroom.Entry{})
	require.NoError(t, err)
	err = w.app.Give.Recall(w.ctx, w.coordinator, sent.Distribution.ID, sent.Distribution.Version)
	assert.EqualError(t, err, "1 student has begun. Close the doors instead, or move the dates.")
	w.verified()
	moved, err := w.app.Take.MoveDoors(w.ctx, w.coordinator, []int64{sitting, w.roomOf(s.Assessment.ID, "6-A")}, attempt.Closed)
	require.NoError(t, err)
	assert.Equal(t, 1, moved, "a door that waits has nothing to close")
	_, err = w.app.Take.MoveDoors(w.ctx, w.teacher, []int64{sitting}, attempt.Open)
	assert.ErrorIs(t, err, desk.ErrNotFound, "another teacher's room")
}

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

// Teachers find on Today what has become of an assessment in their sections.
func TestTeachersAreTold(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	sent := w.inWaves(s.Assessment.ID, everyone)
	words := func(v roster.Viewer) (out []string) {
		today, err := w.app.Today(w.ctx, v)
		require.NoError(t, err)
		for _, n := range today.Notices {
			out = append(out, n.Words)
		}
		return out
	}
	assert.Equal(t, []string{"Fall: sent out, 6-A, from Tue, Oct 20, 8:00 am to Wed, Oct 21, 4:00 pm."}, words(w.teacher))
	assert.Empty(t, words(w.coordinator), "who did it knows")
	was := w.now
	w.now = time.Date(2026, 10, 22, 0, 0, 0, 0, time.UTC)
	assert.Empty(t, words(w.teacher), "nor is it told once the window is over")
	w.now = was
	waves := wavesOf(sent)
	waves[1].Closes = "2026-10-22T16:00"
	_, err := w.app.Give.ChangeDates(w.ctx, w.coordinator, sent.Distribution.ID, waves, sent.Distribution.Version, true)
	require.NoError(t, err)
	assert.Equal(t, "Fall: it has other dates, 6-A, from Tue, Oct 20, 8:00 am to Thu, Oct 22, 4:00 pm.", words(w.teacher)[0])
	assert.Len(t, words(w.otherTeacher), 1, "nothing changed there")
	require.NoError(t, w.app.Give.Recall(w.ctx, w.coordinator, sent.Distribution.ID, w.outNow(s.Assessment.ID).Distribution.Version))
	assert.Equal(t, "Fall: recalled, nobody needs to open it, 6-A.", words(w.teacher)[0])
}

func TestPreflightOfWaves(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	w.setting(s.Assessment.ID, settings.Minutes, 50)
	_, err = w.app.Give.PutSettings(w.ctx, w.coordinator, settings.Place{}, []give.SettingChange{{Key: settings.DaysOff, Value: settings.Raw([]string{"2026-10-14"})}}, nil)
	require.NoError(t, err)
	in := give.DistributionInput{Whom: everyone, Waves: []give.WaveInput{{Name: "Harbor", Opens: "2026-10-14T08:00", Closes: "2026-10-15T00:40", Schools: []int64{w.schoolOf(view, "6-B")}}}}
	view, err = w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, in)
	require.NoError(t, err)
	text := map[string]string{}
	for _, f := range view.Findings {
		text[f.Code] = f.Text
	}
	assert.Equal(t, "In no wave: Quarry Road 6-A. Put their schools into one, or add a wave for all others.", text["no-wave"])
	assert.Equal(t, "The window is shorter than the time limit of 50 minutes.", text["window-short"])
	assert.Equal(t, "The window loses Oct 14: no school. Move its end, or leave it so.", text["lost"])
	_, err = w.app.Give.Send(w.ctx, w.coordinator, s.Assessment.ID, view.Distribution.Version, nil)
	assert.ErrorContains(t, err, "It cannot go out yet.")
}

func TestHowFarTheDistrictIs(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	w.inWaves(s.Assessment.ID, everyone)
	w.now = time.Date(2026, 10, 20, 17, 0, 0, 0, time.UTC)
	p, err := w.app.Give.Progress(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	require.Len(t, p.Schools, 2)
	assert.Equal(t, 2, p.Total.Waiting)
	require.Len(t, p.Unopened, 1, "the other wave is over")
	assert.Equal(t, "6-A", p.Unopened[0].Section)
	assert.Equal(t, "Vesna Dlamini", p.Unopened[0].Teacher)
	sitting := w.roomOf(s.Assessment.ID, "6-A")
	_, err = w.app.Take.MoveDoor(w.ctx, w.teacher, sitting, attempt.Open)
	require.NoError(t, err)
	_, err = w.app.Take.Begin(w.ctx, w.student, sitting, takeroom.Entry{})
	require.NoError(t, err)
	p, err = w.app.Give.Progress(w.ctx, w.principal, s.Assessment.ID)
	require.NoError(t, err)
	assert.Empty(t, p.Unopened)
	require.Len(t, p.Schools, 1, "their own school")
	assert.Equal(t, [4]int{1, 1, 0, 2}, [4]int{p.Total.Open, p.Total.Begun, p.Total.Done, p.Total.Students})
}

func TestTheCalendarOfWindows(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	w.inWaves(s.Assessment.ID, everyone)
	days := []give.DayOff{{Day: "2026-10-21", Name: "Storm"}, {Day: "2026-11-11"}}
	require.NoError(t, w.app.Give.PutDaysOff(w.ctx, w.coordinator, 0, days, nil))
	var stale *desk.ConflictError
	assert.ErrorAs(t, w.app.Give.PutDaysOff(w.ctx, w.second, 0, nil, nil), &stale)
	assert.ErrorIs(t, w.app.Give.PutDaysOff(w.ctx, w.principal, 0, days, nil), desk.ErrForbidden)
	days[0].Name = "" // not said again: it keeps its name
	require.NoError(t, w.app.Give.PutDaysOff(w.ctx, w.coordinator, 0, append(days, give.DayOff{Day: "2026-12-24"}), []string{"2026-10-21", "2026-11-11"}))
	require.NoError(t, w.app.Give.PutDaysOff(w.ctx, w.coordinator, 0, days, []string{"2026-10-21", "2026-11-11", "2026-12-24"}))
	ask := give.CalendarInput{From: "2026-10-12", To: "2026-10-31"}
	c, err := w.app.Give.Calendar(w.ctx, w.coordinator, ask)
	require.NoError(t, err)
	require.Len(t, c.Windows, 1, "the waves of a grade are one window")
	one := c.Windows[0]
	assert.Equal(t, [4]any{"2026-10-14", "2026-10-21", "06", 3}, [4]any{one.From, one.To, one.Grade, one.Students})
	assert.Equal(t, []give.DayOff{{Day: "2026-10-21", Name: "Storm"}}, c.Off)
	assert.Equal(t, 14, c.Days)
	// One of three students in the first week, two of three in the second: 50 minutes each, on the day that is left.
	require.Len(t, c.Loads, 2)
	assert.InDelta(t, 50.0/3, c.Loads[0].Minutes, 1e-9)
	assert.InDelta(t, 100.0/3, c.Loads[1].Minutes, 1e-9)
	_, err = w.app.Give.Calendar(w.ctx, w.student, ask)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	_, err = w.app.Give.Calendar(w.ctx, w.coordinator, give.CalendarInput{From: "2026-10-12", To: "2028-10-31"})
	assert.Error(t, err)

	token, err := w.app.Give.NewFeed(w.ctx, w.teacher, give.CalendarInput{})
	require.NoError(t, err)
	var file bytes.Buffer
	require.NoError(t, w.app.Give.Feed(w.ctx, &file, token))
	parsed, err := ics.ParseCalendar(bytes.NewReader(file.Bytes()))
	require.NoError(t, err)
	var titles []string
	for _, e := range parsed.Events() {
		titles = append(titles, e.GetProperty(ics.ComponentPropertySummary).Value)
	}
	assert.Equal(t, []string{"Fall, grade 6", "No school: Storm", "No school"}, titles)
	assert.NotContains(t, file.String(), "Mei", "no names of students")
	_, err = w.app.Give.NewFeed(w.ctx, w.teacher, give.CalendarInput{})
	require.NoError(t, err)
	assert.ErrorIs(t, w.app.Give.Feed(w.ctx, &file, token), desk.ErrNotFound, "a new address ends the one before")
}

// Two assessments at once for the same students are a clash, also while one is only planned.
func TestWindowsThatClash(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	w.inWaves(s.Assessment.ID, everyone)
	other := w.sealed()
	in := give.DistributionInput{Whom: everyone, Waves: give.OneWave("2026-10-21T08:00", "2026-10-22T16:00")}
	view, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, other.Assessment.ID, in)
	require.NoError(t, err)
	var clashes []roster.Finding
	for _, f := range view.Findings {
		if strings.HasPrefix(f.Code, "clash:") {
			clashes = append(clashes, f)
		}
	}
	require.Len(t, clashes, 1)
	assert.Equal(t, 2, clashes[0].Students, "those of the wave that is at that time")
	c, err := w.app.Give.Calendar(w.ctx, w.coordinator, give.CalendarInput{From: "2026-10-12", To: "2026-10-31"})
	require.NoError(t, err)
	require.Len(t, c.Clashes, 1)
	assert.Equal(t, 3, c.Clashes[0].Students)
	teachers, err := w.app.Give.Calendar(w.ctx, w.teacher, give.CalendarInput{From: "2026-10-12", To: "2026-10-31"})
	require.NoError(t, err)
	require.Len(t, teachers.Windows, 1, "what is only planned is not theirs to see")
	assert.Equal(t, "out", teachers.Windows[0].State)
	assert.Equal(t, [2]string{"2026-10-21", "2026-10-21"}, [2]string{c.Clashes[0].From, c.Clashes[0].To})
}

// A planned window moves away from one that is out, all of its waves by as many days.
func TestPlannedWindowsAreSpread(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	w.inWaves(s.Assessment.ID, everyone) // Oct 14 to 21
	other := w.sealed()
	in := give.DistributionInput{Whom: everyone, Waves: give.OneWave("2026-10-22T08:00", "2026-10-23T16:00")}
	_, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, other.Assessment.ID, in)
	require.NoError(t, err)
	require.NoError(t, w.app.Give.PutDaysOff(w.ctx, w.coordinator, 0, []give.DayOff{{Day: "2026-10-28", Name: "Storm"}}, nil))
	ask := give.CalendarInput{From: "2026-10-12", To: "2026-11-30"}
	list, err := w.app.Give.SpreadOut(w.ctx, w.coordinator, ask, 5, false)
	require.NoError(t, err)
	require.Len(t, list, 1)
	// Five school days lie between: Oct 22, 23, 26, 27, 29; the storm is none.
	assert.Equal(t, window.Proposal{ID: list[0].Distribution, From: "2026-10-30", To: "2026-11-02", Kept: true, Nearest: 5}, list[0].Proposal)
	_, err = w.app.Give.SpreadOut(w.ctx, w.coordinator, ask, 5, true)
	require.NoError(t, err)
	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, other.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, "2026-10-30T08:00", view.Waves[0].Opens)
	assert.Equal(t, "2026-11-02T16:00", view.Waves[0].Closes, "a day of school, not the Saturday")
	_, err = w.app.Give.SpreadOut(w.ctx, w.teacher, ask, 5, true)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	_, err = w.app.Give.SpreadOut(w.ctx, w.coordinator, ask, 99, false)
	assert.Error(t, err)
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
