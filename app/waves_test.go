package app_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

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
