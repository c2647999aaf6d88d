package app_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	"pineledger/app/give"
	"pineledger/app/read"
	takeroom "pineledger/app/take"
	"pineledger/core/assessment"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/settings"
)

// missed is an assessment that is out, of which Mei (of Quarry Road) has done twenty minutes and Hugo (of Breakwater) nothing.
type missed struct {
	given
	work takeroom.TakeView
}

func missedBy(w *world, pairs ...any) missed {
	g := giveOut(w, pairs...)
	m := missed{g, g.begin()}
	g.save(m.work.Attempt.ID, right)
	w.now = w.now.Add(20 * time.Minute)
	g.door(attempt.Closed)
	return m
}

// seats are those of all who have not handed in but Noor.
func (m missed) seats() []give.Seat {
	m.Helper()
	list, _, err := m.app.Give.Absent(m.ctx, m.coordinator, m.sheet.Assessment.ID, give.AbsentFilter{})
	require.NoError(m, err)
	var out []give.Seat
	for _, s := range list {
		if s.Given != "Noor" {
			out = append(out, give.Seat{SittingID: s.SittingID, StudentID: s.StudentID})
		}
	}
	return out
}

func (m missed) input() give.MakeupInput {
	return give.MakeupInput{Seats: m.seats(), Room: " Room 12 ", Proctor: m.otherTeacher.PersonID, Opens: "2026-10-20T09:00", Closes: "2026-10-20T11:00"}
}

func (m missed) arranged() int64 {
	m.Helper()
	id, err := m.app.Give.ArrangeMakeup(m.ctx, m.coordinator, m.sheet.Assessment.ID, m.input())
	require.NoError(m, err)
	return id
}

func TestAMakeupSeatsStudentsOfManySectionsBehindOneDoor(t *testing.T) {
	w := newWorld(t)
	m := missedBy(w)
	room := m.arranged()
	list, err := w.app.Give.Makeups(w.ctx, w.coordinator, m.sheet.Assessment.ID)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Equal(t, []any{"Room 12", "Petr Ramos", 2, 2, 0}, []any{list[0].Name, list[0].Proctor, list[0].Sections, list[0].Students, list[0].Done})
	assert.Equal(t, 1, w.acts("makeup.arrange"))

	home, err := w.app.Take.Room(w.ctx, w.teacher, m.sitting.ID)
	require.NoError(t, err)
	require.Len(t, home.Seats, 1, "only Noor is left")
	assert.Equal(t, 1, home.Makeups[0].Students, "of this section")
	told, err := w.app.Today(w.ctx, w.teacher)
	require.NoError(t, err)
	assert.Contains(t, told.Notices[0].Words, "a makeup in Room 12, 6-A")
	_, err = w.app.Take.MoveDoor(w.ctx, w.teacher, home.Makeups[0].SittingID, attempt.Open)
	assert.ErrorContains(t, err, "Petr Ramos opens", "who teaches one of the sections does not")

	proctor, err := w.app.Viewer(w.ctx, w.otherTeacher.PersonID)
	require.NoError(t, err)
	today, err := w.app.Today(w.ctx, proctor)
	require.NoError(t, err)
	var words []string
	for _, n := range today.Notices {
		words = append(words, n.Words)
	}
	assert.Contains(t, words, "Fall: you see to a makeup, Room 12, 2 students, from Tue, Oct 20, 9:00 am to Tue, Oct 20, 11:00 am.")
	assert.NotContains(t, strings.Join(words, " "), "a makeup in", "told once")
	assert.Equal(t, "Makeup, Room 12", today.Sittings[len(today.Sittings)-1].Section, "one row for both sections")

	w.now = time.Date(2026, 10, 20, 16, 0, 0, 0, time.UTC) // 9:00 there, the window of both sections is over
	require.NoError(t, w.app.Take.Tick(w.ctx))
	seen, err := w.app.Take.MoveDoor(w.ctx, proctor, room, attempt.Open)
	require.NoError(t, err)
	require.Len(t, seen.Seats, 2)
	assert.Equal(t, []string{"Costa", "Sato"}, []string{seen.Seats[0].Family, seen.Seats[1].Family})
	assert.False(t, seen.MayEnd, "a coordinator does that")

	mei := seen.Seats[1]
	goesOn, err := w.app.Take.Open(w.ctx, w.student, mei.SittingID, "", false)
	require.NoError(t, err)
	assert.Equal(t, m.work.Attempt.ID, goesOn.Attempt.ID, "her work came along")
	assert.Equal(t, 30*time.Minute, goesOn.Left, "of 50 minutes")
	require.NotEmpty(t, goesOn.Lines)
	_, err = w.app.Take.HandIn(w.ctx, w.student, m.work.Attempt.ID)
	require.NoError(t, err)
	hugo, err := w.app.Take.Begin(w.ctx, w.otherStudent, seen.Seats[0].SittingID, takeroom.Entry{})
	require.NoError(t, err)
	w.now = w.now.Add(51 * time.Minute)
	require.NoError(t, w.app.Take.Tick(w.ctx))
	late, err := w.app.Take.Room(w.ctx, proctor, room)
	require.NoError(t, err)
	assert.Equal(t, 2, late.Sitting.Done)
	assert.Equal(t, attempt.Scored, late.Seats[0].State, hugo.Attempt.ID)

	bands, err := w.app.Read.ResultsByBand(w.ctx, w.coordinator, m.sitting.DistributionID, "")
	require.NoError(t, err)
	require.Len(t, bands.Rows, 2, "a row a section")
	for _, row := range bands.Rows {
		assert.Equal(t, 1, row.N, row.Section)
	}
	matrix, err := w.app.Read.MatrixSheet(w.ctx, w.coordinator, m.sitting.DistributionID, read.MatrixQuery{})
	require.NoError(t, err)
	require.Len(t, matrix.Absent, 1, "Noor alone")
	progress, err := w.app.Give.Progress(w.ctx, w.coordinator, m.sheet.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, []int{2, 3, 2}, []int{progress.Total.Sections, progress.Total.Students, progress.Total.Done})
	w.verified()

	w.now = w.now.Add(24 * time.Hour)
	after, err := w.app.Viewer(w.ctx, w.otherTeacher.PersonID)
	require.NoError(t, err)
	_, err = w.app.Take.Room(w.ctx, after, mei.SittingID)
	assert.ErrorIs(t, err, desk.ErrNotFound, "it is over, and she is not of his section")
}

func TestAMakeupIsRefusedWithWhoAndWhy(t *testing.T) {
	w := newWorld(t)
	m := missedBy(w, settings.Weekdays, []string{"mon", "tue", "wed", "thu", "fri"})
	arrange := func(v roster.Viewer, change func(*give.MakeupInput)) error {
		in := m.input()
		change(&in)
		_, err := w.app.Give.ArrangeMakeup(w.ctx, v, m.sheet.Assessment.ID, in)
		return err
	}
	for want, change := range map[string]func(*give.MakeupInput){
		"at least one student":      func(in *give.MakeupInput) { in.Seats = nil },
		"in which room":             func(in *give.MakeupInput) { in.Room = " " },
		"a last one after it":       func(in *give.MakeupInput) { in.Closes = in.Opens },
		"is over already":           func(in *give.MakeupInput) { in.Opens, in.Closes = "2026-10-12T08:00", "2026-10-12T10:00" },
		"is not a date":             func(in *give.MakeupInput) { in.Opens = "soon" },
		"a member of staff":         func(in *give.MakeupInput) { in.Proctor = w.student.PersonID },
		"needs 30 minutes, and thi": func(in *give.MakeupInput) { in.Closes = "2026-10-20T09:20" },
		"holds 0 minutes":           func(in *give.MakeupInput) { in.Opens, in.Closes = "2026-10-24T09:00", "2026-10-24T11:00" },
		"not found":                 func(in *give.MakeupInput) { in.Seats[0].SittingID = 999 },
	} {
		assert.ErrorContains(t, arrange(w.coordinator, change), want)
	}
	same := func(*give.MakeupInput) {}
	assert.ErrorIs(t, arrange(w.teacher, same), desk.ErrNotFound)
	assert.ErrorIs(t, arrange(w.principal, same), desk.ErrNotFound, "Hugo is of another school")

	g := m.given
	g.door(attempt.Open)
	assert.ErrorContains(t, arrange(w.coordinator, same), "Mei Sato is at work; close the door first")
	_, err := w.app.Take.HandIn(w.ctx, w.student, m.work.Attempt.ID)
	require.NoError(t, err)
	in := m.input()
	in.Seats = append(in.Seats, give.Seat{SittingID: m.sitting.ID, StudentID: w.student.PersonID})
	_, err = w.app.Give.ArrangeMakeup(w.ctx, w.coordinator, m.sheet.Assessment.ID, in)
	assert.ErrorContains(t, err, "Mei Sato has handed in")
	list, err := w.app.Give.Makeups(w.ctx, w.coordinator, m.sheet.Assessment.ID)
	require.NoError(t, err)
	assert.Empty(t, list, "nothing is half done")
}

func TestAMakeupIsTakenBack(t *testing.T) {
	w := newWorld(t)
	m := missedBy(w)
	room := m.arranged()
	list, err := w.app.Give.Makeups(w.ctx, w.coordinator, m.sheet.Assessment.ID)
	require.NoError(t, err)
	assert.ErrorIs(t, w.app.Give.TakeBackMakeup(w.ctx, w.teacher, list[0].RoomID), desk.ErrForbidden)
	assert.ErrorIs(t, w.app.Give.TakeBackMakeup(w.ctx, w.student, list[0].RoomID), desk.ErrNotFound)
	require.NoError(t, w.app.Give.TakeBackMakeup(w.ctx, w.coordinator, list[0].RoomID))
	assert.ErrorIs(t, w.app.Give.TakeBackMakeup(w.ctx, w.coordinator, list[0].RoomID), desk.ErrNotFound, "twice")
	assert.Equal(t, 1, w.acts("makeup.back"))
	list, err = w.app.Give.Makeups(w.ctx, w.coordinator, m.sheet.Assessment.ID)
	require.NoError(t, err)
	assert.Empty(t, list)
	today, err := w.app.Today(w.ctx, w.otherTeacher)
	require.NoError(t, err)
	for _, n := range today.Notices {
		assert.NotContains(t, n.Words, "makeup", "nobody is sent to a room that is empty")
	}

	// Her work is home again, with the time that was left, though the door of the makeup would have been shut meanwhile.
	back := m.door(attempt.Open)
	require.Len(t, back.Seats, 2)
	view := m.open()
	assert.Equal(t, m.work.Attempt.ID, view.Attempt.ID)
	assert.Equal(t, 30*time.Minute, view.Left)
	w.restart() // the clock is read anew, from all doors where she was
	assert.Equal(t, 30*time.Minute, m.open().Left)
	_, err = w.app.Take.Room(w.ctx, w.coordinator, room)
	require.NoError(t, err, "its address still leads somewhere")
	w.verified()
}

// A section that comes by a rule, settings and dates that change leave a makeup its own time.
func TestAMakeupKeepsItsOwnTime(t *testing.T) {
	w := newWorld(t)
	m := missedBy(w)
	room := m.arranged()
	was := w.outNow(m.sheet.Assessment.ID)
	look, err := w.app.Give.ChangeDates(w.ctx, w.coordinator, was.Distribution.ID, give.OneWave("2026-10-13T08:00", "2026-10-17T16:00"), was.Distribution.Version, true)
	require.NoError(t, err)
	assert.Equal(t, 2, look.Sections)
	w.setting(m.sheet.Assessment.ID, "minutes", 60)
	seen, err := w.app.Take.Room(w.ctx, w.coordinator, room)
	require.NoError(t, err)
	assert.Equal(t, time.Date(2026, 10, 20, 16, 0, 0, 0, time.UTC), seen.Sitting.Setup.V.Opens, "9:00 there")
	assert.Equal(t, 60, seen.Sitting.Setup.V.Minutes())
	assert.True(t, seen.MayEnd)
}

// A window that is over can have makeups: the assessment is out again until they are over, too. Who is at a second try stays.
func TestAMakeupOfWhatIsOver(t *testing.T) {
	w := newWorld(t)
	g := giveOut(w, settings.Attempts, 2)
	g.sit(right)
	second, err := w.app.Take.Begin(w.ctx, w.student, g.sitting.ID, takeroom.Entry{})
	require.NoError(t, err)
	require.Equal(t, 2, second.Try)
	w.now = w.now.Add(time.Minute)
	g.door(attempt.Closed)
	_, err = w.app.Give.ArrangeMakeup(w.ctx, w.coordinator, g.sheet.Assessment.ID, give.MakeupInput{Room: "12", Opens: "2026-10-20T09:00", Closes: "2026-10-20T11:00",
		Seats: []give.Seat{{SittingID: g.sitting.ID, StudentID: w.student.PersonID}}})
	assert.ErrorContains(t, err, "Mei Sato has handed in")

	w.now = time.Date(2026, 10, 18, 16, 0, 0, 0, time.UTC)
	require.NoError(t, w.app.Take.Tick(w.ctx))
	over, err := w.app.Build.Sheet(w.ctx, w.coordinator, g.sheet.Assessment.ID)
	require.NoError(t, err)
	require.Equal(t, assessment.Closed, over.Assessment.State)
	missed{given: g}.arranged()
	again, err := w.app.Build.Sheet(w.ctx, w.coordinator, g.sheet.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, assessment.Out, again.Assessment.State)
	w.now = w.now.Add(72 * time.Hour)
	require.NoError(t, w.app.Take.Tick(w.ctx))
	again, err = w.app.Build.Sheet(w.ctx, w.coordinator, g.sheet.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, assessment.Closed, again.Assessment.State)
	w.verified()
}
