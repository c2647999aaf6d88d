package app_test

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	"pineledger/app/intake"
	"pineledger/app/read"
	"pineledger/app/record"
	"pineledger/app/supports"
	takeroom "pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/core/support"
	"pineledger/store"
	"pineledger/store/officerows"
)

func (w *world) enter(student roster.Viewer, key string, value any) {
	w.Helper()
	require.NoError(w, w.app.Supports.Enter(w.ctx, w.coordinator, []int64{student.PersonID}, supports.Entry{Have: support.Have{Key: key, Value: settings.Raw(value), Ground: "IEP"}}))
}

func (w *world) profile(student roster.Viewer) []supports.ProfileEntry {
	w.Helper()
	p, err := w.app.Supports.Profile(w.ctx, w.coordinator, student.PersonID)
	require.NoError(w, err)
	return p.Entries
}

func (w *world) acts(act string) int {
	w.Helper()
	list, err := w.app.Record.Ledger(w.ctx, w.coordinator, record.LedgerQuery{})
	require.NoError(w, err)
	n := 0
	for _, e := range list {
		if e.Act == act {
			n++
		}
	}
	return n
}

func keysOf(given []support.Given) []string {
	out := []string{}
	for _, g := range given {
		out = append(out, g.Key)
	}
	return out
}

func TestSupportsApplyByThemselves(t *testing.T) {
	w := newWorld(t)
	w.enter(w.student, support.ExtraTime, "1.5")
	w.enter(w.student, support.Breaks, 2)
	w.enter(w.student, support.LargePrint, "2")
	require.NoError(t, w.app.Supports.Enter(w.ctx, w.coordinator, []int64{w.student.PersonID}, supports.Entry{Have: support.Have{Key: support.Scribe, Value: settings.Raw(true), Subjects: []string{"mathematics"}, To: "2026-09-01"}}))
	g := giveOut(w, settings.Minutes, 40)
	mine, err := g.app.Take.MySittings(g.ctx, g.student)
	require.NoError(t, err)
	assert.Equal(t, 60, mine[0].Minutes, "the list already tells their own time")
	first := g.open()
	assert.Equal(t, []any{60, time.Hour, 2, "2", true}, []any{first.Minutes, first.Left, first.How.Breaks, first.How.Begins.Print, first.How.Tools.Zoom})
	assert.Equal(t, []string{support.ExtraTime, support.Breaks, support.LargePrint}, keysOf(first.How.Supports), "what has ended is not among them")
	view := g.begin()
	assert.Equal(t, g.now.Add(time.Hour), view.End)
	assert.Equal(t, []int64{g.student.PersonID}, []int64{view.Attempt.StudentID})

	room, err := g.app.Take.Room(g.ctx, g.teacher, g.sitting.ID)
	require.NoError(t, err)
	for _, s := range room.Seats {
		if s.StudentID == g.student.PersonID {
			assert.Equal(t, g.now.Add(time.Hour), s.EndsAt)
			assert.Len(t, s.Supports, 3)
		} else {
			assert.Empty(t, s.Supports)
		}
	}
	w.now = w.now.Add(59 * time.Minute)
	require.NoError(t, g.app.Take.Tick(g.ctx))
	assert.Equal(t, attempt.Working, g.open().Attempt.State, "time and a half")
	w.now = w.now.Add(2 * time.Minute)
	require.NoError(t, g.app.Take.Tick(g.ctx))
	assert.NotEqual(t, attempt.Working, g.open().Attempt.State)
}

func TestAProfileThatChangesGivesAndTakesNothingAway(t *testing.T) {
	w := newWorld(t)
	w.enter(w.student, support.ExtraTime, "1.5")
	g := giveOut(w, settings.Minutes, 40)
	g.begin()
	w.now = w.now.Add(10 * time.Minute)
	w.enter(w.student, support.ReadAloud, []string{"questions"})
	view := g.open()
	assert.Equal(t, []string{"questions"}, view.How.Tools.ReadAloud, "who works gets it at once")
	_, err := g.app.Supports.End(g.ctx, g.coordinator, g.student.PersonID, w.profile(w.student)[1].ID)
	require.NoError(t, err)
	view = g.open()
	assert.Equal(t, 50*time.Minute, view.Left, "who began with more time keeps it")
	_, err = g.set(g.coordinator, settings.Place{Assessment: g.sheet.Assessment.ID}, settings.Minutes, 60, settings.NoLock)
	require.NoError(t, err)
	assert.Equal(t, 80*time.Minute, g.open().Left, "more minutes for all are more for them, by their factor")
	assert.Len(t, w.profile(w.student), 2, "what ended is history")
	assert.Equal(t, []int{2, 1}, []int{w.acts("profile.add"), w.acts("profile.end")})
}

func TestASupportGoesWithItsStudentToAnotherSection(t *testing.T) {
	w := newWorld(t)
	w.enter(w.student, support.ExtraTime, "2")
	g := giveOut(w, settings.Minutes, 40)
	files := map[string]string{}
	for name, text := range rosterFiles {
		files[name] = text
	}
	files["enrollments.csv"] = "sourcedId,classSourcedId,userSourcedId,role,status\ne1,c1,t1,teacher,\ne2,c2,t2,teacher,\ne3,c1,a,student,tobedeleted\ne9,c2,a,student,\ne4,c1,b,student,\ne5,c2,c,student,\n"
	_, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportRoster, Name: "moved", Path: w.folder(files)}, nil)
	require.NoError(t, err)
	assert.Equal(t, 80, g.open().Minutes)
	p, err := w.app.Supports.Profile(w.ctx, w.otherTeacher, w.student.PersonID)
	require.NoError(t, err, "who teaches them now sees what they have")
	assert.Len(t, p.Entries, 1)
	assert.Empty(t, p.Entries[0].Ground, "but not on what ground")
	_, err = w.app.Supports.Profile(w.ctx, w.teacher, w.student.PersonID)
	assert.ErrorIs(t, err, desk.ErrNotFound)
}

func TestWhatBreaksTheConstructWaitsForAReason(t *testing.T) {
	w := newWorld(t)
	rule := func(key, part, standard string) {
		require.NoError(t, w.store.Write(w.ctx, func(tx *store.Tx) error {
			return officerows.AddConstructRule(w.ctx, tx, support.Construct{Support: key, Part: part, Subject: "mathematics", Standard: standard, Why: "It is what is measured."})
		}))
	}
	rule(support.ReadAloud, "passages", "")
	w.enter(w.student, support.ReadAloud, []string{"questions", "passages"})
	g := giveOut(w)
	assert.Equal(t, []string{"questions"}, g.open().How.Tools.ReadAloud)
	id := g.sheet.Assessment.ID
	m, err := w.app.Supports.Matrix(w.ctx, w.coordinator, id, supports.MatrixFilter{})
	require.NoError(t, err)
	require.Len(t, m.Gaps, 1)
	assert.Equal(t, []support.Mend{support.MendAllow, support.MendWithout}, m.Gaps[0].Mends)
	assert.Equal(t, []string{"a"}, m.Rows[0].Cells[0].Letters)

	_, err = w.app.Supports.Rule(w.ctx, w.coordinator, id, support.ReadAloud, support.Allow, " ")
	assert.ErrorContains(t, err, "Say why")
	_, err = w.app.Supports.Rule(w.ctx, w.principal, id, support.ReadAloud, support.Allow, "x")
	assert.ErrorIs(t, err, desk.ErrForbidden)
	m, err = w.app.Supports.Rule(w.ctx, w.coordinator, id, support.ReadAloud, support.Allow, "The plan says so.")
	require.NoError(t, err)
	assert.Empty(t, m.Gaps)
	assert.True(t, m.Rows[0].Cells[0].Apart)
	view := g.begin()
	assert.Equal(t, []string{"questions", "passages"}, view.How.Tools.ReadAloud)
	view = g.open()
	assert.True(t, view.Attempt.Apart, "the result will not compare")
	_, err = w.app.Supports.Rule(w.ctx, w.coordinator, id, support.ReadAloud, "", "")
	require.NoError(t, err)
	assert.Equal(t, []string{"questions", "passages"}, g.open().How.Tools.ReadAloud, "who has begun keeps it")
	assert.Equal(t, 2, w.acts("supports.rule"))
}

func TestASupportForTodayHasAReason(t *testing.T) {
	w := newWorld(t)
	g := giveOut(w, settings.Minutes, 40)
	add := func(v roster.Viewer, key string, value any, reason string) error {
		return w.app.Supports.AddToday(w.ctx, v, g.sitting.ID, w.student.PersonID, key, settings.Raw(value), reason)
	}
	assert.ErrorContains(t, add(w.teacher, support.ExtraMinutes, 10, ""), "Say why")
	assert.ErrorContains(t, add(w.teacher, support.ExtraMinutes, 0, "x"), "whole number")
	assert.ErrorIs(t, add(w.otherTeacher, support.ExtraMinutes, 10, "x"), desk.ErrNotFound)
	assert.ErrorIs(t, add(w.student, support.ExtraMinutes, 10, "x"), desk.ErrForbidden)
	g.begin()
	require.NoError(t, add(w.teacher, support.ExtraMinutes, 10, "The fire drill."))
	assert.Equal(t, 50*time.Minute, g.open().Left)
	_, err := w.set(w.coordinator, settings.Place{Assessment: g.sheet.Assessment.ID}, settings.LineReader, false, settings.LockAlso)
	require.NoError(t, err)
	assert.Equal(t, 1, w.acts("supports.today"))
}

func TestALockForAccommodationsToo(t *testing.T) {
	w := newWorld(t)
	w.enter(w.student, support.ExtraTime, "2")
	w.enter(w.student, support.LineReader, true)
	s := w.send(w.sealed(), func(officerows.Section) bool { return true })
	place := settings.Place{Assessment: s.Assessment.ID}
	_, err := w.set(w.coordinator, place, settings.Minutes, 40, settings.LockAlso)
	require.NoError(t, err)
	_, err = w.set(w.coordinator, place, settings.LineReader, false, settings.LockRest)
	require.NoError(t, err)
	w.now = w.now.Add(time.Hour)
	g := given{w, s, w.sittingOf(w.teacher)}
	g.door(attempt.Open)
	view := g.open()
	assert.Equal(t, 40, view.Minutes)
	assert.True(t, view.How.Tools.LineReader, "this lock lets accommodations pass")
	m, err := w.app.Supports.Matrix(w.ctx, w.coordinator, s.Assessment.ID, supports.MatrixFilter{})
	require.NoError(t, err)
	require.Len(t, m.Gaps, 1)
	assert.Equal(t, "Extra time is locked", m.Gaps[0].Title)
	assert.ErrorContains(t, w.app.Supports.AddToday(w.ctx, w.teacher, g.sitting.ID, w.person("Noor").PersonID, support.ExtraTime, settings.Raw("2"), "x"), "locked")
}

func (w *world) bring(name string, data []byte, look bool) intake.ImportReport {
	w.Helper()
	path := filepath.Join(w.TempDir(), name)
	require.NoError(w, os.WriteFile(path, data, 0o600))
	r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportProfiles, Name: name, Path: path, Look: look}, nil)
	require.NoError(w, err)
	return r
}

const profilesFile = "student,support,value,ground,subjects,from,to\n" +
	"a,extraTime,1.5,IEP,,,\n1001,Read aloud,questions choices,IEP,reading,,\nb,scribe,yes,Temporary,,2026-09-01,2026-09-20\n" +
	"a,additional-testing-time,2,,,,\nz,scribe,,,,,\nb,extraTime,lots,,,,\nb,tactile,some,,,,\nb,largePrint,2,Plan,,,\nb,seat,by the door,,art,,\n"

func zipOf(t *testing.T, name, text string) []byte {
	t.Helper()
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	f, err := z.Create(name)
	require.NoError(t, err)
	_, err = f.Write([]byte(text))
	require.NoError(t, err)
	require.NoError(t, z.Close())
	return out.Bytes()
}

func TestWhatIsKeptBesideAnswers(t *testing.T) {
	w := newWorld(t)
	g := giveOut(w, settings.ScratchPad, true)
	view := g.begin()
	keep := func(v roster.Viewer, a takeroom.Aside) error {
		return g.app.Take.KeepAsides(g.ctx, v, view.Attempt.ID, []takeroom.Aside{a})
	}
	require.NoError(t, keep(g.student, takeroom.Aside{Tool: takeroom.Notes, Number: 2, Value: "two thirds"}))
	require.NoError(t, keep(g.student, takeroom.Aside{Tool: takeroom.Notes, Number: 1, Value: "an older one"}))
	require.NoError(t, keep(g.student, takeroom.Aside{Line: 1, Tool: takeroom.Highlights, Number: 1, Value: "[]"}))
	assert.ErrorIs(t, keep(g.otherStudent, takeroom.Aside{Tool: takeroom.Notes, Number: 3}), desk.ErrNotFound)
	assert.Error(t, keep(g.student, takeroom.Aside{Line: 1, Tool: takeroom.Notes, Number: 3}))
	assert.Error(t, keep(g.student, takeroom.Aside{Line: 99, Tool: takeroom.Highlights, Number: 3}))
	assert.Error(t, keep(g.student, takeroom.Aside{Tool: takeroom.Screen, Number: 3, Value: string(make([]byte, 2001))}))
	back := g.open().Asides
	require.Len(t, back, 2)
	assert.Equal(t, "two thirds", back[0].Value, "of two the later counts, on every device")
	pad, err := g.app.Take.PadOf(g.ctx, g.teacher, g.sitting.ID, g.student.PersonID)
	require.NoError(t, err)
	assert.Equal(t, takeroom.Pad{Student: "Mei Sato", Notes: "two thirds"}, pad)
	assert.Equal(t, 1, w.acts("attempt.pad"))
	_, err = g.app.Take.PadOf(g.ctx, g.otherTeacher, g.sitting.ID, g.student.PersonID)
	assert.ErrorIs(t, err, desk.ErrNotFound)
}

func TestTermsOfToday(t *testing.T) {
	w := newWorld(t)
	w.enter(w.student, support.ExtraTime, "1.5")
	g := giveOut(w, settings.Minutes, 40)
	g.begin()
	data, err := json.Marshal(g.open().Attempt.Terms)
	require.NoError(t, err)
	var back attempt.Terms
	require.NoError(t, json.Unmarshal(data, &back))
	assert.Equal(t, []string{support.ExtraTime}, keysOf(back.Supports), "terms keep what was given")
	assert.Equal(t, 60*time.Minute, back.Allowed())
}

func TestAResultThatDoesNotCompareIsInNoSummary(t *testing.T) {
	w := newWorld(t)
	require.NoError(t, w.store.Write(w.ctx, func(tx *store.Tx) error {
		return officerows.AddConstructRule(w.ctx, tx, support.Construct{Support: support.Dictionary, Why: "Knowing words is what is measured."})
	}))
	w.enter(w.student, support.Dictionary, true)
	g := giveOut(w)
	_, err := w.app.Supports.Rule(w.ctx, w.coordinator, g.sheet.Assessment.ID, support.Dictionary, support.Allow, "The plan says so.")
	require.NoError(t, err)
	view := g.sit(right)
	other := g
	other.student = w.person("Noor")
	other.sit(wrong)

	id := g.sitting.DistributionID
	by, err := w.app.Read.ResultsByBand(w.ctx, w.coordinator, id, "")
	require.NoError(t, err)
	assert.Equal(t, []int{1, 1}, []int{by.Head.NotComparable, by.All.N})
	m, err := w.app.Read.Matrix(w.ctx, w.coordinator, id, read.MatrixQuery{})
	require.NoError(t, err)
	require.Len(t, m.Rows, 2, "each student is there")
	assert.Equal(t, 1, m.Lines[0].N, "but the lines are summed without it")
	trail, err := w.app.Read.Trail(w.ctx, w.coordinator, id, view.Attempt.ID)
	require.NoError(t, err)
	assert.True(t, trail.Attempt.Apart)
	require.NoError(t, w.app.Record.PutAnchor(w.ctx))
	_, err = w.app.Record.Verify(w.ctx)
	require.NoError(t, err, "tallies follow from the scorings without it")
	_, err = w.app.Take.Rebuild(w.ctx)
	require.NoError(t, err)
	_, err = w.app.Record.Verify(w.ctx)
	require.NoError(t, err)
}

func TestActsOfSupportsAreSaidInWords(t *testing.T) {
	for _, act := range []string{"profile.add", "profile.change", "profile.end", "supports.look", "supports.rule", "supports.provide", "supports.today", "attempt.pad", "import.profiles"} {
		assert.NotEqual(t, act, desk.Spoken(act))
	}
}
