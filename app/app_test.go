package app_test

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app"
	"pineledger/core/attempt"
	"pineledger/core/band"
	"pineledger/core/blueprint"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
)

// world is a small district on a real database: two schools, each with a section
// of two students, and a bank of three items.
type world struct {
	*testing.T
	ctx   context.Context
	app   *app.App
	store *store.Store
	now   time.Time

	coordinator, second, principal, teacher, otherTeacher, student, otherStudent roster.Viewer
}

var standards = `{"CFDocument":{"identifier":"doc","title":"Calder","subject":["Mathematics"]},"CFItems":[
	{"identifier":"m6","humanCodingScheme":"M6","fullStatement":"Grade 6","educationLevel":["06"]},
	{"identifier":"rr","humanCodingScheme":"M6.RR","fullStatement":"Ratio"},{"identifier":"fs","humanCodingScheme":"M6.FS","fullStatement":"Figures"}],
	"CFAssociations":[{"associationType":"isChildOf","originNodeURI":{"identifier":"rr"},"destinationNodeURI":{"identifier":"m6"}},
	{"associationType":"isChildOf","originNodeURI":{"identifier":"fs"},"destinationNodeURI":{"identifier":"m6"}}]}`

var rosterFiles = map[string]string{
	"orgs.csv":             "sourcedId,name,type\nd,Tamarack Bay,district\ns1,Quarry Road,school\ns2,Breakwater,school\n",
	"academicSessions.csv": "sourcedId,title,type,startDate,endDate,schoolYear\ny,Year,schoolYear,2026-08-24,2027-06-11,2027\n",
	"courses.csv":          "sourcedId,title,grades,subjects\nm,Mathematics 6,06,Mathematics\n",
	"classes.csv":          "sourcedId,title,grades,courseSourcedId,schoolSourcedId\nc1,6-A,06,m,s1\nc2,6-B,06,m,s2\n",
	"users.csv": "sourcedId,enabledUser,givenName,familyName,identifier,email,grades,password\n" +
		"co,true,Ines,Okafor,,ines@x.example,,a long password\nco2,true,Tomás,Lindqvist,,tomas@x.example,,\npr,true,Ada,Hale,,ada@x.example,,\n" +
		"t1,true,Vesna,Dlamini,,vesna@x.example,,\nt2,true,Petr,Ramos,,petr@x.example,,\n" +
		"a,true,Mei,Sato,1001,,06,1234\nb,true,Noor,Ali,1002,,06,4321\nc,true,Hugo,Costa,1003,,06,1111\n",
	"roles.csv": "sourcedId,userSourcedId,role,orgSourcedId\nr1,co,districtAdministrator,d\nr2,co2,districtAdministrator,d\nr3,pr,principal,s1\n" +
		"r4,t1,teacher,s1\nr5,t2,teacher,s2\nr6,a,student,s1\nr7,b,student,s1\nr8,c,student,s2\nr9,t1,guardian,s1\n",
	"enrollments.csv": "sourcedId,classSourcedId,userSourcedId,role\ne1,c1,t1,teacher\ne2,c2,t2,teacher\ne3,c1,a,student\ne4,c1,b,student\ne5,c2,c,student\n",
}

const itemsFile = "identifier,bank,kind,subject,grade,standards,depth,difficulty,stem,choice_1,choice_2,choice_3,key,credit,passage,passage_title,passage_text\n" +
	"I1,Bank,single-choice,Mathematics,06,M6.RR,1,0.7,Which is 1 : 2?,2 : 4,3 : 4,,A,,,,\n" +
	"I2,Bank,number,Mathematics,06,M6.FS,2,0.55,\"How many square meters?\",,,,12;12.0,,P1,The dock,The dock is 3 m by 4 m.\n" +
	"I3,Bank,multiple-choice,Mathematics,06,M6.RR;M6.FS,2,,Which are even?,2,3,4,A;C,per-choice,,,\n"

func newWorld(t *testing.T) *world {
	t.Helper()
	w := &world{T: t, ctx: context.Background(), now: time.Date(2026, 10, 13, 15, 0, 0, 0, time.UTC)}
	var err error
	w.store, err = store.Open(w.ctx, t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, w.store.Close()) })
	w.app, err = app.New(w.ctx, app.Config{Store: w.store, Secret: bytes.Repeat([]byte{1}, 32), Now: func() time.Time { return w.now }})
	require.NoError(t, err)
	system := roster.Viewer{Name: "system", Posts: []roster.Post{{Role: roster.DistrictCoordinator}}}
	w.take(system, app.ImportStandards, w.file("calder.json", standards), 3)
	w.take(system, app.ImportRoster, w.folder(rosterFiles), 8+8+5+2+1+1+3)
	w.take(system, app.ImportItems, w.file("items.csv", itemsFile), 3)
	for name, into := range map[string]*roster.Viewer{"Ines": &w.coordinator, "Tomás": &w.second, "Ada": &w.principal, "Vesna": &w.teacher, "Petr": &w.otherTeacher, "Mei": &w.student, "Hugo": &w.otherStudent} {
		*into = w.person(name)
	}
	return w
}

func (w *world) file(name, text string) string {
	path := filepath.Join(w.TempDir(), name)
	require.NoError(w, os.WriteFile(path, []byte(text), 0o600))
	return path
}

func (w *world) folder(files map[string]string) string {
	dir := w.TempDir()
	for name, text := range files {
		require.NoError(w, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o600))
	}
	return dir
}

// take imports and expects so many new rows.
func (w *world) take(v roster.Viewer, kind app.ImportKind, path string, wantNew int) app.ImportReport {
	w.Helper()
	r, err := w.app.Import(w.ctx, v, kind, filepath.Base(path), path, nil)
	require.NoError(w, err)
	require.Empty(w, r.Refusals)
	require.Equal(w, wantNew, r.Counts.New, "new rows of %s: %+v", kind, r.Counts)
	return r
}

func (w *world) person(given string) roster.Viewer {
	w.Helper()
	for _, role := range []roster.Role{roster.DistrictCoordinator, roster.SchoolCoordinator, roster.Teacher, roster.Student} {
		people, err := w.store.PeopleToTry(w.ctx, role, 50)
		require.NoError(w, err)
		for _, p := range people {
			if strings.HasPrefix(p.Name, given+" ") {
				v, err := w.app.Viewer(w.ctx, p.ID)
				require.NoError(w, err)
				return v
			}
		}
	}
	w.Fatalf("nobody is called %s", given)
	return roster.Viewer{}
}

func outline(title string) app.Outline {
	return app.Outline{Title: title, Subject: "mathematics", Grades: []string{"06"}, Purpose: "benchmark", Language: "en", Instructions: "<p>Think.</p><script>x</script>"}
}

// draft makes a draft with the three items.
func (w *world) draft() app.Sheet {
	w.Helper()
	s, err := w.app.StartAssessment(w.ctx, w.coordinator, outline("Fall"))
	require.NoError(w, err)
	page, err := w.app.Items(w.ctx, w.coordinator, app.ItemSearch{})
	require.NoError(w, err)
	var lines []app.LineInput
	for i := len(page.Items) - 1; i >= 0; i-- { // newest first
		lines = append(lines, app.LineInput{ItemID: page.Items[i].ID, Points: points.One})
	}
	s, err = w.app.PutLines(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, lines)
	require.NoError(w, err)
	return s
}

func (w *world) sealed() app.Sheet {
	w.Helper()
	s := w.draft()
	half := points.Points(5000)
	set, err := w.app.PutBandSet(w.ctx, w.coordinator, 0, app.BandSetInput{Name: "Bands", Bands: []band.Band{{Name: "Launching"}, {Name: "On course", Cut: band.Cut{Percent: &half}}}})
	require.NoError(w, err)
	s, err = w.app.ChooseBands(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, set.ID)
	require.NoError(w, err)
	s, err = w.app.Seal(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	require.NoError(w, err)
	return s
}

// sent makes a sealed assessment and sends it to both sections.
func (w *world) sent() app.Sheet {
	w.Helper()
	s := w.send(w.sealed(), func(store.Section) bool { return true })
	w.now = w.now.Add(time.Hour) // 9 in the morning there
	return s
}

// send sends a sealed assessment to the sections that fit.
func (w *world) send(s app.Sheet, fits func(store.Section) bool) app.Sheet {
	w.Helper()
	view, err := w.app.Distribution(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(w, err)
	in := app.DistributionInput{Opens: "2026-10-13T08:00", Closes: "2026-10-16T16:00", Minutes: 50}
	for _, c := range view.Candidates {
		if fits(c) {
			in.Sections = append(in.Sections, c.ID)
		}
	}
	view, err = w.app.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, in)
	require.NoError(w, err)
	if len(in.Sections) == len(view.Candidates) {
		require.Empty(w, view.Findings)
	}
	reasons := map[string]string{}
	for _, f := range view.Findings {
		reasons[f.Code] = "agreed"
	}
	s, err = w.app.Send(w.ctx, w.coordinator, s.Assessment.ID, view.Distribution.Version, reasons)
	require.NoError(w, err)
	return s
}

// sittingOf gives the sitting that a teacher sees.
func (w *world) sittingOf(v roster.Viewer) store.Sitting {
	w.Helper()
	list, err := w.app.Sittings(w.ctx, v)
	require.NoError(w, err)
	require.Len(w, list, 1)
	return list[0]
}

func answer(line int, number int64, values ...string) app.Answered {
	return app.Answered{Line: line, Number: number, Response: item.Response{"RESPONSE": values}}
}

func TestTheWholeThread(t *testing.T) {
	w := newWorld(t)
	w.sent()
	sitting := w.sittingOf(w.teacher)
	_, err := w.app.Begin(w.ctx, w.student, sitting.ID)
	var conflict *app.ConflictError
	require.ErrorAs(t, err, &conflict, "the door is not open yet")

	_, err = w.app.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	take, err := w.app.Begin(w.ctx, w.student, sitting.ID)
	require.NoError(t, err)
	require.Len(t, take.Lines, 3)
	assert.Equal(t, "<p>Think.</p>", take.Instructions, "instructions are cleaned")
	assert.Equal(t, w.now.Add(50*time.Minute), take.End)

	_, err = w.app.SaveAnswers(w.ctx, w.student, take.Attempt.ID, []app.Answered{answer(1, 1, "A"), answer(3, 2, "A")})
	require.NoError(t, err)
	again, err := w.app.Begin(w.ctx, w.student, sitting.ID)
	require.NoError(t, err)
	assert.Equal(t, take.Attempt.ID, again.Attempt.ID, "another device goes on")
	assert.Equal(t, `{"RESPONSE":["A"]}`, again.Lines[0].Answer.Response)
	assert.Nil(t, again.Lines[1].Answer)

	done, err := w.app.HandIn(w.ctx, w.student, take.Attempt.ID)
	require.NoError(t, err)
	assert.Equal(t, attempt.Scored, done.Attempt.State)
	assert.Empty(t, done.Lines, "items are not shown again")
	_, err = w.app.HandIn(w.ctx, w.student, take.Attempt.ID)
	require.NoError(t, err, "handing in twice changes nothing")

	results, err := w.app.Results(w.ctx, w.teacher)
	require.NoError(t, err)
	require.Len(t, results, 1)
	byBand, err := w.app.ResultsByBand(w.ctx, w.coordinator, results[0].DistributionID, "")
	require.NoError(t, err)
	assert.Equal(t, 1, byBand.All.N)
	assert.Equal(t, []int{0, 1}, byBand.All.Bands, "1.67 of 3 is at least half")
	assert.EqualValues(t, 557, byBand.All.Mean)
	require.Len(t, byBand.Strands, 2)
	assert.Equal(t, "M6.FS", byBand.Strands[1].Code)
	assert.Equal(t, points.Points(67), byBand.All.Strands[1].Earned)

	m, err := w.app.Matrix(w.ctx, w.teacher, results[0].DistributionID, app.MatrixQuery{Sort: "-raw"})
	require.NoError(t, err)
	require.Len(t, m.Rows, 1)
	assert.Equal(t, points.Points(167), m.Rows[0].Raw)
	assert.Equal(t, item.Omitted, m.Rows[0].Credits[1].Outcome)

	trail, err := w.app.Trail(w.ctx, w.teacher, results[0].DistributionID, take.Attempt.ID)
	require.NoError(t, err)
	assert.Equal(t, []string{"A"}, trail.Lines[2].Response)
	assert.Equal(t, "Chose A; the keys are A, C. 2 of 3 choices judged right.", trail.Lines[2].Credit.Why)

	verified, err := w.app.Verify(w.ctx)
	require.NoError(t, err)
	assert.Equal(t, 1, verified.Forms)
	entries, err := w.app.Ledger(w.ctx, w.coordinator, app.LedgerQuery{Limit: 3})
	require.NoError(t, err)
	assert.Equal(t, "attempt.hand-in", entries[0].Act)
}

func TestAStrangersThingsAreNotThere(t *testing.T) {
	w := newWorld(t)
	s := w.sent()
	mine := w.sittingOf(w.teacher)
	_, err := w.app.MoveDoor(w.ctx, w.teacher, mine.ID, attempt.Open)
	require.NoError(t, err)
	take, err := w.app.Begin(w.ctx, w.student, mine.ID)
	require.NoError(t, err)
	_, err = w.app.HandIn(w.ctx, w.student, take.Attempt.ID)
	require.NoError(t, err)
	distribution := mine.DistributionID

	for name, act := range map[string]func() error{
		"another teacher's room":           func() error { _, err := w.app.Room(w.ctx, w.otherTeacher, mine.ID); return err },
		"another teacher's door":           func() error { _, err := w.app.MoveDoor(w.ctx, w.otherTeacher, mine.ID, attempt.Closed); return err },
		"another section's students":       func() error { _, err := w.app.StudentsOfSection(w.ctx, w.otherTeacher, mine.SectionID); return err },
		"another section's score":          func() error { _, err := w.app.Trail(w.ctx, w.otherTeacher, distribution, take.Attempt.ID); return err },
		"another school's sections":        func() error { _, err := w.app.SectionsOf(w.ctx, w.otherTeacher, mine.SchoolID); return err },
		"a sitting without one's own seat": func() error { _, err := w.app.Begin(w.ctx, w.otherStudent, mine.ID); return err },
		"another student's answers": func() error {
			_, err := w.app.SaveAnswers(w.ctx, w.otherStudent, take.Attempt.ID, []app.Answered{answer(1, 9, "A")})
			return err
		},
		"another student's hand-in": func() error { _, err := w.app.HandIn(w.ctx, w.otherStudent, take.Attempt.ID); return err },
		"a draft, for a teacher":    func() error { _, err := w.app.Sheet(w.ctx, w.teacher, s.Assessment.ID); return err },
		"an unknown assessment":     func() error { _, err := w.app.Sheet(w.ctx, w.coordinator, 999); return err },
	} {
		assert.ErrorIs(t, act(), app.ErrNotFound, name)
	}
	for name, act := range map[string]func() error{
		"a student searches the bank":    func() error { _, err := w.app.Items(w.ctx, w.student, app.ItemSearch{}); return err },
		"a student looks at an item":     func() error { _, err := w.app.Item(w.ctx, w.student, 1, 0); return err },
		"a student reads results":        func() error { _, err := w.app.Matrix(w.ctx, w.student, distribution, app.MatrixQuery{}); return err },
		"a teacher starts an assessment": func() error { _, err := w.app.StartAssessment(w.ctx, w.teacher, outline("x")); return err },
		"a teacher imports":              func() error { _, err := w.app.Import(w.ctx, w.teacher, app.ImportItems, "x", "x", nil); return err },
		"a teacher reads the ledger":     func() error { _, err := w.app.Ledger(w.ctx, w.teacher, app.LedgerQuery{}); return err },
		"a principal changes the district's": func() error {
			_, err := w.app.PutLines(w.ctx, w.principal, s.Assessment.ID, s.Assessment.Version, nil)
			return err
		},
		"a principal seals the district's": func() error {
			_, err := w.app.NewEdition(w.ctx, w.principal, s.Assessment.ID, s.Assessment.Version)
			return err
		},
	} {
		assert.ErrorIs(t, act(), app.ErrForbidden, name)
	}
	scoped, err := w.app.Matrix(w.ctx, w.otherTeacher, distribution, app.MatrixQuery{})
	require.NoError(t, err)
	assert.Empty(t, scoped.Rows, "a teacher's matrix holds the own section alone")
}

func TestTwoEditorsNeverOverwriteEachOther(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	mine, err := w.app.PutOutline(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, outline("Mine"))
	require.NoError(t, err)
	_, err = w.app.PutOutline(w.ctx, w.second, s.Assessment.ID, s.Assessment.Version, outline("Theirs"))
	var conflict *app.ConflictError
	require.ErrorAs(t, err, &conflict)
	assert.Contains(t, conflict.Detail, "Ines Okafor changed this meanwhile")
	kept, err := w.app.Sheet(w.ctx, w.second, s.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, "Mine", kept.Assessment.Title)
	assert.Equal(t, mine.Assessment.Version, kept.Assessment.Version)
}

func TestLinesAndTheirBalance(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	id := s.Assessment.ID
	s, err := w.app.PutBlueprint(w.ctx, w.coordinator, id, s.Assessment.Version, []app.RowInput{
		{Title: "Ratio", Filter: blueprint.Filter{Standards: []string{"M6.RR"}}, Min: points.One, Max: points.One},
		{Title: "Figures", Filter: blueprint.Filter{Standards: []string{"M6.FS"}}, Min: 3 * points.One, Max: 3 * points.One},
	})
	require.NoError(t, err)
	assert.Equal(t, points.One, s.Shortage, "the item of both standards goes where it is short")
	assert.Equal(t, []int{0, 1, 1}, []int{s.Lines[0].Row, s.Lines[1].Row, s.Lines[2].Row})

	line := func(i int) app.LineInput { return app.LineInput{ItemID: s.Lines[i].ItemID, Points: points.One} }
	turned, err := w.app.PutLines(w.ctx, w.coordinator, id, s.Assessment.Version, []app.LineInput{line(2), line(0)})
	require.NoError(t, err)
	assert.Equal(t, s.Lines[2].ItemID, turned.Lines[0].ItemID)

	for _, c := range []struct {
		lines []app.LineInput
		want  string
	}{
		{[]app.LineInput{line(0), line(0)}, "Line 2: this item is already line 1."},
		{[]app.LineInput{{ItemID: s.Lines[0].ItemID}}, "Line 1: points must be more than 0 and at most 100."},
		{[]app.LineInput{{ItemID: 999, Points: 100}}, "Line 1: there is no such item."},
	} {
		_, err = w.app.PutLines(w.ctx, w.coordinator, id, turned.Assessment.Version, c.lines)
		assert.EqualError(t, err, c.want)
	}
	_, err = w.app.PutBlueprint(w.ctx, w.coordinator, id, turned.Assessment.Version, []app.RowInput{{Filter: blueprint.Filter{Standards: []string{"X9"}}, Max: 100}})
	assert.EqualError(t, err, `"X9" is not in the tree.`)
}

func TestANewVersionInTheBankLeavesPinnedLinesAlone(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	changed := strings.Replace(itemsFile, "Which is 1 : 2?", "Which ratio equals 1 : 2?", 1)
	r, err := w.app.Import(w.ctx, w.coordinator, app.ImportItems, "items.csv", w.file("items.csv", changed), nil)
	require.NoError(t, err)
	assert.Equal(t, app.ImportCounts{Read: 3, Changed: 1, Unchanged: 2}, r.Counts)
	s, err = w.app.Sheet(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, "Which is 1 : 2?", s.Lines[0].Stem)
	assert.Equal(t, [2]int{1, 2}, [2]int{s.Lines[0].Number, s.Lines[0].Newest})
}

func TestWhatIsSealedStays(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	_, err := w.app.PutLines(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, nil)
	assert.EqualError(t, err, "Edition 1 is sealed. Begin a new edition to change it.")
	s, err = w.app.NewEdition(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	require.NoError(t, err)
	assert.Equal(t, 2, s.Assessment.Edition)
	s, err = w.app.PutLines(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, nil)
	require.NoError(t, err)
	_, err = w.app.Seal(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	assert.EqualError(t, err, "It cannot be sealed yet. There are no lines yet.")
}

func TestNothingGoesOutPastPreflight(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	view, err := w.app.Distribution(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	require.Len(t, view.Candidates, 2)
	leftOut := w.student.PersonID
	view, err = w.app.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, app.DistributionInput{
		Sections: []int64{view.Candidates[0].ID, view.Candidates[1].ID}, LeftOut: []int64{leftOut}, Opens: "2026-10-12T08:00", Closes: "2026-10-16T16:00"})
	require.NoError(t, err)
	assert.Equal(t, [2]int{2, 2}, [2]int{view.Sections, view.Students})
	_, err = w.app.Send(w.ctx, w.coordinator, s.Assessment.ID, view.Distribution.Version, nil)
	assert.EqualError(t, err, "It cannot go out yet. The assessment is not sealed yet.")

	s, err = w.app.Seal(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	require.NoError(t, err)
	_, err = w.app.Send(w.ctx, w.coordinator, s.Assessment.ID, view.Distribution.Version, map[string]string{"no-bands": "practice"})
	assert.EqualError(t, err, "Give a reason for each caution first. The window has already begun.")
	s, err = w.app.Send(w.ctx, w.coordinator, s.Assessment.ID, view.Distribution.Version, map[string]string{"no-bands": "practice", "window-begun": "late start"})
	require.NoError(t, err)
	assert.Equal(t, app.Out, s.Assessment.State)
	mine, err := w.app.MySittings(w.ctx, w.student)
	require.NoError(t, err)
	assert.Empty(t, mine, "who is left out gets nothing")
	_, err = w.app.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, app.DistributionInput{Opens: "tomorrow"})
	assert.EqualError(t, err, `"tomorrow" is not a date and time such as 2026-10-13T08:00.`)
	_, err = w.app.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, app.DistributionInput{Sections: []int64{999}})
	assert.EqualError(t, err, "A chosen section is not one of this assessment's grades and subject.")
}

func TestTheDoorAndTheClockStopWorkAndLoseNone(t *testing.T) {
	w := newWorld(t)
	w.sent()
	sitting := w.sittingOf(w.teacher)
	_, err := w.app.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	take, err := w.app.Begin(w.ctx, w.student, sitting.ID)
	require.NoError(t, err)
	save := func(number int64, value string) error {
		_, err := w.app.SaveAnswers(w.ctx, w.student, take.Attempt.ID, []app.Answered{answer(2, number, value)})
		return err
	}
	require.NoError(t, save(5, "12"))
	require.NoError(t, save(4, "7"), "an older number is taken and changes nothing")

	_, err = w.app.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Held)
	require.NoError(t, err)
	require.NoError(t, save(6, "13"), "what was on its way still arrives")
	w.now = w.now.Add(attempt.Grace)
	assert.EqualError(t, save(7, "14"), "Your teacher has paused this sitting; your answers are kept.")
	_, err = w.app.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	require.NoError(t, save(8, "12"))

	w.now = take.End
	require.NoError(t, w.app.Tick(w.ctx))
	require.NoError(t, save(9, "12.0"), "within the grace")
	w.now = take.End.Add(attempt.Grace)
	assert.EqualError(t, save(10, "1"), "The time is over; your answers have been handed in.")
	require.NoError(t, w.app.Tick(w.ctx))
	room, err := w.app.Room(w.ctx, w.teacher, sitting.ID)
	require.NoError(t, err)
	assert.Equal(t, 1, room.Sitting.Done, "the clock has handed in")
	trail, err := w.app.Trail(w.ctx, w.teacher, sitting.DistributionID, take.Attempt.ID)
	require.NoError(t, err)
	assert.Equal(t, []string{"12.0"}, trail.Lines[1].Response)

	w.now = time.Date(2026, 10, 17, 0, 0, 0, 0, time.UTC)
	require.NoError(t, w.app.Tick(w.ctx))
	s, err := w.app.Sheet(w.ctx, w.coordinator, sitting.AssessmentID)
	require.NoError(t, err)
	assert.Equal(t, app.Closed, s.Assessment.State, "closed once its windows are over")
}

func TestAnswersOfAnotherShapeAreRefusedByLine(t *testing.T) {
	w := newWorld(t)
	w.sent()
	sitting := w.sittingOf(w.teacher)
	_, err := w.app.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	take, err := w.app.Begin(w.ctx, w.student, sitting.ID)
	require.NoError(t, err)
	_, err = w.app.SaveAnswers(w.ctx, w.student, take.Attempt.ID, []app.Answered{answer(2, 1, "1"), answer(1, 1, "Z")})
	assert.EqualError(t, err, `Line 1: response RESPONSE names "Z", which is not offered.`)
	_, err = w.app.SaveAnswers(w.ctx, w.student, take.Attempt.ID, []app.Answered{answer(9, 1, "A")})
	assert.EqualError(t, err, "There is no line 9.")
	again, err := w.app.Begin(w.ctx, w.student, sitting.ID)
	require.NoError(t, err)
	assert.Nil(t, again.Lines[1].Answer, "all or nothing")
}

func TestSigningIn(t *testing.T) {
	w := newWorld(t)
	v, err := w.app.SignInStaff(w.ctx, " Ines@x.example ", "a long password")
	require.NoError(t, err)
	assert.Equal(t, w.coordinator.PersonID, v.PersonID)
	v, err = w.app.SignInStudent(w.ctx, "1001", "1234")
	require.NoError(t, err)
	assert.Equal(t, w.student.PersonID, v.PersonID)
	for _, pair := range [][2]string{{"ines@x.example", "wrong"}, {"nobody@x.example", "x"}, {"tomas@x.example", ""}} {
		_, err = w.app.SignInStaff(w.ctx, pair[0], pair[1])
		assert.ErrorIs(t, err, app.ErrSignIn, fmt.Sprint(pair))
	}
	for _, pair := range [][2]string{{"1001", "4321"}, {"9999", "1234"}, {"1001", ""}} {
		_, err = w.app.SignInStudent(w.ctx, pair[0], pair[1])
		assert.ErrorIs(t, err, app.ErrSignIn, fmt.Sprint(pair))
	}
	require.NoError(t, w.app.AddCoordinator(w.ctx, "First", "Person", "first@x.example", "twelve letters"))
	_, err = w.app.SignInStaff(w.ctx, "first@x.example", "twelve letters")
	require.NoError(t, err)
	assert.EqualError(t, w.app.AddCoordinator(w.ctx, "A", "B", "a@b", "short"), "The password needs 12 characters at least.")
}
