package app_test

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	"pineledger/app/give"
	"pineledger/app/intake"
	"pineledger/app/read"
	"pineledger/app/record"
	"pineledger/app/supports"
	takeroom "pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/core/support"
	"pineledger/formats/pnp"
	"pineledger/store"
	"pineledger/store/giverows"
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

func TestWhoSeesAndEntersProfiles(t *testing.T) {
	w := newWorld(t)
	entry := supports.Entry{Have: support.Have{Key: support.ExtraTime, Value: settings.Raw("1.5"), Ground: "IEP"}}
	assert.ErrorIs(t, w.app.Supports.Enter(w.ctx, w.teacher, []int64{w.student.PersonID}, entry), desk.ErrForbidden)
	assert.ErrorIs(t, w.app.Supports.Enter(w.ctx, w.principal, []int64{w.student.PersonID, w.otherStudent.PersonID, 999}, entry), desk.ErrNotFound)
	assert.Empty(t, w.profile(w.student), "all of them or none")
	require.NoError(t, w.app.Supports.Enter(w.ctx, w.principal, []int64{w.student.PersonID}, entry))
	for range 3 {
		_, err := w.app.Supports.Profile(w.ctx, w.teacher, w.student.PersonID)
		require.NoError(t, err)
	}
	assert.Equal(t, 2, w.acts("supports.look"), "one of the coordinator, one of the teacher: a screen that asks again is one look")
	_, err := w.app.Supports.Profile(w.ctx, w.student, w.student.PersonID)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	mine, err := w.app.Supports.Mine(w.ctx, w.student)
	require.NoError(t, err)
	require.Len(t, mine, 1)
	assert.Empty(t, mine[0].Ground)

	err = w.app.Supports.Enter(w.ctx, w.coordinator, []int64{w.student.PersonID}, supports.Entry{Have: support.Have{Key: support.ExtraTime, Value: settings.Raw("2")}})
	assert.ErrorContains(t, err, "Mei Sato: Extra time stands there twice")
	old := w.profile(w.student)[0]
	require.NoError(t, w.app.Supports.Enter(w.ctx, w.coordinator, []int64{w.student.PersonID}, supports.Entry{Have: support.Have{Key: support.ExtraTime, Value: settings.Raw("2")}, Replaces: old.ID}))
	err = w.app.Supports.Enter(w.ctx, w.coordinator, []int64{w.student.PersonID}, supports.Entry{Have: support.Have{Key: support.ExtraTime, Value: settings.Raw("3")}, Replaces: old.ID})
	assert.ErrorContains(t, err, "changed this meanwhile")
	assert.Equal(t, []string{`"2"`, `"1.5"`}, []string{string(w.profile(w.student)[0].Value), string(w.profile(w.student)[1].Value)})
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

func TestProfilesComeInFromATable(t *testing.T) {
	w := newWorld(t)
	look := w.bring("profiles.csv", []byte(profilesFile), true)
	assert.Empty(t, w.profile(w.student), "a look keeps nothing")
	r := w.bring("profiles.csv", []byte(profilesFile), false)
	assert.Equal(t, look.Counts, r.Counts)
	assert.ElementsMatch(t, []string{
		"profiles.csv additional-testing-time Mei Sato: Extra time stands there twice for the same days: time and a half and double time. End one of them.",
		`profiles.csv student "z" is no student of the rosters, by roster id or number`,
		"profiles.csv extraTime Extra time: Give a factor such as 1.5, up to 4, or no limit.",
		`profiles.csv ground "Plan" is none of the district's grounds, which are IEP, 504 plan, English learner, Temporary`,
		`profiles.csv seat Preferred seat: there is no subject "art". The subjects are mathematics, reading, science.`,
	}, reasons(r))
	assert.Equal(t, 4, r.Counts.New)
	require.Len(t, r.Notes, 2)
	assert.Contains(t, r.Notes[1].Reason+r.Notes[0].Reason, `"tactile" is not known here`)
	assert.Len(t, w.profile(w.student), 2)
	again := w.bring("profiles.csv", []byte(profilesFile), false)
	assert.Equal(t, []int{0, 0, 4}, []int{again.Counts.New, again.Counts.Changed, again.Counts.Unchanged}, "again and again without doubles")
	changed := w.bring("other.csv", []byte("student,support,value\na,extraTime,2\n"), false)
	assert.Equal(t, 1, changed.Counts.Changed)
	assert.Len(t, w.profile(w.student), 3, "what stood before is history")
}

func TestProfilesComeInAndGoOutAsAccessForAll(t *testing.T) {
	w := newWorld(t)
	for key, value := range map[string]any{support.ExtraTime: "1.5", support.ExtraMinutes: 5, support.Breaks: 2, support.ReadAloud: []string{"choices"}, support.InLanguage: "es", support.Directions: "es",
		support.LargePrint: "3", support.Colors: "dark-on-yellow", support.LineReader: true, support.Calculator: "scientific", support.SmallGroup: true, support.Seat: "by the door",
		support.SwitchOrKeys: "two", support.OtherSupport: support.Other{Name: "tactile", Said: "some"}} {
		w.enter(w.student, key, value)
	}
	before := w.profile(w.student)
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	require.NoError(t, w.app.Supports.Export(w.ctx, w.coordinator, func(e supports.Exported) error {
		f, err := z.Create(e.Number + ".xml")
		require.NoError(t, err)
		return pnp.Write(f, e.SourcedID, e.Haves)
	}))
	require.NoError(t, z.Close())
	r := w.bring("profiles.zip", out.Bytes(), false)
	assert.Empty(t, r.Refusals)
	assert.Equal(t, []int{0, len(before)}, []int{r.Counts.New + r.Counts.Changed, r.Counts.Unchanged}, "what goes out comes back the same: %v", r.Notes)

	other := anotherWorld(t)
	r = other.bring("profiles.zip", out.Bytes(), false)
	assert.Equal(t, len(before), r.Counts.New)
	want, got := map[string]string{}, map[string]string{}
	for i, e := range other.profile(other.student) {
		got[e.Key] = string(e.Value) + e.Ground
		want[before[i].Key] = string(before[i].Value) + before[i].Ground
	}
	assert.Equal(t, want, got)
	one := other.bring("1002.xml", []byte(`<?xml version="1.0"?><access-for-all-pnp xmlns="http://www.imsglobal.org/xsd/qti/qtiv3p0/imsafa3p0pnp_v1p0"><scribe/><braille><grade>2</grade></braille></access-for-all-pnp>`), false)
	assert.Equal(t, 2, one.Counts.New, "a file of one student is named by their number")
	assert.Len(t, one.Notes, 1)
	bomb := other.bring("bomb.zip", zipOf(t, "a.xml", `<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><access-for-all-pnp><scribe>&b;</scribe></access-for-all-pnp>`), false)
	assert.Equal(t, 1, bomb.Counts.Refused)
	assert.Contains(t, bomb.Refusals[0].Reason, "declares a document type or entities")
}

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

func TestPeopleAndPaperAreABalance(t *testing.T) {
	w := newWorld(t)
	w.enter(w.student, support.Scribe, true)
	w.enter(w.student, support.SmallGroup, true)
	g := giveOut(w)
	id := g.sheet.Assessment.ID
	m, err := w.app.Supports.Matrix(w.ctx, w.coordinator, id, supports.MatrixFilter{})
	require.NoError(t, err)
	assert.Equal(t, []supports.Balance{{Key: support.Scribe, Name: "Scribe", Need: 1}, {Key: support.SmallGroup, Name: "Small group", Need: 1}}, m.Balance)
	assert.Len(t, m.Gaps, 2)
	assert.Equal(t, []any{1, "6-A", 1}, []any{m.Gaps[0].Sections, m.Places[0].Section, m.Places[0].Need})
	_, err = w.app.Supports.Provide(w.ctx, w.coordinator, id, giverows.Provider{SectionID: g.sitting.SectionID, Key: support.ExtraTime, Provider: "x", Number: 1})
	assert.ErrorContains(t, err, "needs nobody")
	m, err = w.app.Supports.Provide(w.ctx, w.principal, id, giverows.Provider{SectionID: g.sitting.SectionID, Key: support.Scribe, Provider: "Vesna Dlamini", Number: 1})
	require.NoError(t, err)
	assert.Equal(t, 1, m.Balance[0].Have)
	require.Len(t, m.Gaps, 1)
	assert.Equal(t, support.SmallGroup, m.Gaps[0].Key)
	far, err := w.app.Supports.Matrix(w.ctx, w.coordinator, id, supports.MatrixFilter{Words: "nobody of this name"})
	require.NoError(t, err)
	assert.Equal(t, []int{0, 1, 3}, []int{far.Found, far.With, far.Students}, "a filter narrows rows, not the counts")
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

func TestADistrictLaysDownGroundsAndWhatSupportsBreak(t *testing.T) {
	w := newWorld(t)
	ground := support.Have{Key: support.Scribe, Value: settings.Raw(true), Ground: "504 plan"}
	require.NoError(t, w.app.Supports.Enter(w.ctx, w.coordinator, []int64{w.student.PersonID}, supports.Entry{Have: ground}))
	d, err := w.app.Supports.District(w.ctx, w.coordinator)
	require.NoError(t, err)
	was := []string{"IEP", "504 plan", "English learner", "Temporary"}
	require.Len(t, d.Grounds, 4)
	assert.Equal(t, 1, d.Grounds[1].Students)

	_, err = w.app.Supports.PutGrounds(w.ctx, w.coordinator, []string{"IEP"}, was)
	assert.ErrorContains(t, err, `"504 plan"`, "somebody has a support on it")
	_, err = w.app.Supports.PutGrounds(w.ctx, w.coordinator, []string{"504 plan"}, was[1:])
	assert.ErrorIs(t, err, desk.ErrStale, "somebody else changed the list meanwhile")
	_, err = w.app.Supports.PutGrounds(w.ctx, w.coordinator, nil, was)
	assert.ErrorContains(t, err, "from 1 to 40")
	_, err = w.app.Supports.PutGrounds(w.ctx, w.principal, was, was)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	d, err = w.app.Supports.PutGrounds(w.ctx, w.coordinator, []string{"504 plan", " Newcomer ", "504 plan"}, was)
	require.NoError(t, err)
	assert.Equal(t, []supports.Ground{{Name: "504 plan", Students: 1}, {Name: "Newcomer"}}, d.Grounds)
	ground.Key, ground.Ground = support.Seat, "IEP"
	ground.Value = settings.Raw("by the door")
	assert.ErrorContains(t, w.app.Supports.Enter(w.ctx, w.coordinator, []int64{w.student.PersonID}, supports.Entry{Have: ground}), "none of the district's grounds")

	rule := support.Construct{Support: support.Scribe, Subject: "mathematics", Why: "Writing it down is what is measured."}
	_, err = w.app.Supports.PutRules(w.ctx, w.coordinator, []support.Construct{rule, rule}, d.Rules)
	var invalid *desk.InvalidError
	require.ErrorAs(t, err, &invalid)
	assert.Equal(t, "/rules/1/support", invalid.Fields[0].Pointer)
	_, err = w.app.Supports.PutRules(w.ctx, w.coordinator, []support.Construct{rule}, nil)
	assert.ErrorIs(t, err, desk.ErrStale)
	_, err = w.app.Supports.PutRules(w.ctx, w.principal, []support.Construct{rule}, d.Rules)
	assert.ErrorIs(t, err, desk.ErrForbidden)

	g := giveOut(w)
	assert.Contains(t, keysOf(g.open().How.Supports), support.Scribe)
	d, err = w.app.Supports.PutRules(w.ctx, w.coordinator, append(d.Rules, rule), d.Rules)
	require.NoError(t, err)
	assert.Len(t, d.Rules, 4)
	assert.NotContains(t, keysOf(g.open().How.Supports), support.Scribe, "it is kept back from who has not begun")
	require.NoError(t, w.app.Record.PutAnchor(w.ctx))
	_, err = w.app.Record.Verify(w.ctx)
	require.NoError(t, err)
}

func TestWhatNeedsPeopleAndPaperIsKnownBeforeTheMorning(t *testing.T) {
	w := newWorld(t)
	w.enter(w.student, support.Scribe, true)
	w.enter(w.student, support.ExtraTime, "1.5")
	g := giveOut(w)
	ahead := func(v roster.Viewer, days int) []supports.AheadPlace {
		t.Helper()
		out, err := w.app.Supports.Ahead(w.ctx, v, days)
		require.NoError(t, err)
		return out
	}
	got := ahead(w.coordinator, 14)
	require.Len(t, got, 1, "extra time needs nobody")
	assert.Equal(t, []any{support.Scribe, 1, 1, 0, ""}, []any{got[0].Key, got[0].Students, got[0].Need, got[0].Have, got[0].Provider})
	assert.Equal(t, g.sheet.Assessment.ID, got[0].Assessment)
	assert.Len(t, ahead(w.teacher, 14), 1)
	assert.Empty(t, ahead(w.otherTeacher, 14), "it is no section of hers")

	_, err := w.app.Supports.Provide(w.ctx, w.coordinator, g.sheet.Assessment.ID, supports.Provider{SectionID: got[0].SectionID, Key: support.Scribe, Provider: "Mr. Lund", Number: 1})
	require.NoError(t, err)
	got = ahead(w.coordinator, 14)
	assert.Equal(t, []any{1, "Mr. Lund"}, []any{got[0].Have, got[0].Provider})

	w.now = got[0].To.Add(time.Minute)
	assert.Empty(t, ahead(w.coordinator, 60), "the window is over")
	w.now = got[0].From.AddDate(0, 0, -10)
	assert.Empty(t, ahead(w.coordinator, 9), "it opens later than asked")
	assert.Len(t, ahead(w.coordinator, 11), 1)
	_, err = w.app.Supports.Ahead(w.ctx, w.coordinator, 61)
	assert.ErrorContains(t, err, "1 to 60")
	_, err = w.app.Supports.Ahead(w.ctx, w.student, 9)
	assert.ErrorIs(t, err, desk.ErrForbidden)
}

func TestPreflightSaysWhichSupportsCannotBeGivenYet(t *testing.T) {
	w := newWorld(t)
	w.enter(w.student, support.Scribe, true)
	w.enter(w.student, support.ExtraTime, "3")
	sheet := w.sealed()
	id := sheet.Assessment.ID
	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, id)
	require.NoError(t, err)
	in := give.DistributionInput{Waves: give.OneWave("2026-10-13T08:00", "2026-10-16T16:00")}
	for _, c := range view.Candidates {
		choose(&in, c.ID)
	}
	found := func() *roster.Finding {
		t.Helper()
		view, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, id, in)
		require.NoError(t, err)
		in.Version = view.Distribution.Version
		if at := slices.IndexFunc(view.Findings, func(f roster.Finding) bool { return f.Code == "supports" }); at >= 0 {
			return &view.Findings[at]
		}
		return nil
	}
	got := found()
	require.NotNil(t, got)
	assert.Equal(t, roster.Finding{Code: "supports", Severity: roster.Caution, Part: "supports", Students: 1,
		Text: "1 student cannot be given all of their supports yet: Nobody is named: scribe."}, *got)
	m, err := w.app.Supports.Matrix(w.ctx, w.coordinator, id, supports.MatrixFilter{})
	require.NoError(t, err)
	_, err = w.app.Supports.Provide(w.ctx, w.coordinator, id, supports.Provider{SectionID: m.Places[0].SectionID, Key: support.Scribe, Provider: "Mr. Lund", Number: 1})
	require.NoError(t, err)
	assert.Nil(t, found(), "somebody is named; what of time is short is said by itself")
}
