package app_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/bank"
	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/app/give"
	"pineledger/app/intake"
	"pineledger/app/office"
	"pineledger/app/read"
	"pineledger/app/record"
	takeroom "pineledger/app/take"
	"pineledger/core/assessment"
	"pineledger/core/attempt"
	"pineledger/core/blueprint"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
)

func TestTheWholeThread(t *testing.T) {
	w := newWorld(t)
	w.sent()
	sitting := w.sittingOf(w.teacher)
	_, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	var conflict *desk.ConflictError
	require.ErrorAs(t, err, &conflict, "the door is not open yet")

	_, err = w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	take, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err)
	require.Len(t, take.Lines, 3)
	assert.Equal(t, "<p>Think.</p>", take.Instructions, "instructions are cleaned")
	assert.Equal(t, w.now.Add(50*time.Minute), take.End)

	_, err = w.app.Take.SaveAnswers(w.ctx, w.student, take.Attempt.ID, "", []takeroom.Answered{answer(1, 1, "A"), answer(3, 2, "A")})
	require.NoError(t, err)
	again, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err)
	assert.Equal(t, take.Attempt.ID, again.Attempt.ID, "another device goes on")
	assert.Equal(t, item.Response{"RESPONSE": {"A"}}, again.Lines[0].Answer.Response.V)
	assert.Nil(t, again.Lines[1].Answer)

	done, err := w.app.Take.HandIn(w.ctx, w.student, take.Attempt.ID)
	require.NoError(t, err)
	assert.Equal(t, attempt.Scored, done.Attempt.State)
	assert.Empty(t, done.Lines, "items are not shown again")
	_, err = w.app.Take.HandIn(w.ctx, w.student, take.Attempt.ID)
	require.NoError(t, err, "handing in twice changes nothing")

	results, err := w.app.Read.Results(w.ctx, w.teacher)
	require.NoError(t, err)
	require.Len(t, results, 1)
	byBand, err := w.app.Read.ResultsByBand(w.ctx, w.coordinator, results[0].DistributionID, "")
	require.NoError(t, err)
	assert.Equal(t, 1, byBand.All.N)
	assert.Equal(t, []int{0, 1}, byBand.All.Bands, "1.67 of 3 is at least half")
	assert.EqualValues(t, 557, byBand.All.Mean)
	require.Len(t, byBand.Strands, 2)
	assert.Equal(t, "M6.FS", byBand.Strands[1].Code)
	assert.Equal(t, points.Points(67), byBand.All.Strands[1].Earned)

	m, err := w.app.Read.Matrix(w.ctx, w.teacher, results[0].DistributionID, read.MatrixQuery{Sort: "-raw"})
	require.NoError(t, err)
	require.Len(t, m.Rows, 1)
	assert.Equal(t, points.Points(167), m.Rows[0].Raw)
	assert.Equal(t, item.Omitted, m.Rows[0].Credits[1].Outcome)

	trail, err := w.app.Read.Trail(w.ctx, w.coordinator, results[0].DistributionID, take.Attempt.ID)
	require.NoError(t, err)
	assert.Equal(t, []string{"A"}, trail.Lines[2].Response)
	assert.Equal(t, "Chose A; the keys are A, C. 2 of 3 choices judged right.", trail.Lines[2].Credit.Why)

	require.NoError(t, w.app.Record.PutAnchor(w.ctx))
	verified, err := w.app.Record.Verify(w.ctx)
	require.NoError(t, err)
	assert.Equal(t, 1, verified.Forms)
	entries, err := w.app.Record.Ledger(w.ctx, w.coordinator, record.LedgerQuery{Limit: 3})
	require.NoError(t, err)
	assert.Equal(t, "attempt.hand-in", entries[0].Act)
}

func TestAStrangersThingsAreNotThere(t *testing.T) {
	w := newWorld(t)
	s := w.sent()
	mine := w.sittingOf(w.teacher)
	_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, mine.ID, attempt.Open)
	require.NoError(t, err)
	take, err := w.app.Take.Begin(w.ctx, w.student, mine.ID, takeroom.Entry{})
	require.NoError(t, err)
	_, err = w.app.Take.HandIn(w.ctx, w.student, take.Attempt.ID)
	require.NoError(t, err)
	distribution := mine.DistributionID

	for name, act := range map[string]func() error{
		"another teacher's room": func() error { _, err := w.app.Take.Room(w.ctx, w.otherTeacher, mine.ID); return err },
		"another teacher's door": func() error {
			_, err := w.app.Take.MoveDoor(w.ctx, w.otherTeacher, mine.ID, attempt.Closed)
			return err
		},
		"another section's students": func() error {
			_, err := w.app.Office.StudentsOfSection(w.ctx, w.otherTeacher, mine.SectionID)
			return err
		},
		"another section's score": func() error {
			_, err := w.app.Read.Trail(w.ctx, w.otherTeacher, distribution, take.Attempt.ID)
			return err
		},
		"another school's sections":        func() error { _, err := w.app.Office.SectionsOf(w.ctx, w.otherTeacher, mine.SchoolID); return err },
		"a sitting without one's own seat": func() error { _, err := w.app.Take.Begin(w.ctx, w.otherStudent, mine.ID, takeroom.Entry{}); return err },
		"another student's answers": func() error {
			_, err := w.app.Take.SaveAnswers(w.ctx, w.otherStudent, take.Attempt.ID, "", []takeroom.Answered{answer(1, 9, "A")})
			return err
		},
		"another student's hand-in": func() error { _, err := w.app.Take.HandIn(w.ctx, w.otherStudent, take.Attempt.ID); return err },
		"a draft, for a teacher":    func() error { _, err := w.app.Build.Sheet(w.ctx, w.teacher, s.Assessment.ID); return err },
		"an unknown assessment":     func() error { _, err := w.app.Build.Sheet(w.ctx, w.coordinator, 999); return err },
	} {
		assert.ErrorIs(t, act(), desk.ErrNotFound, name)
	}
	for name, act := range map[string]func() error{
		"a student searches the bank": func() error { _, err := w.app.Bank.Items(w.ctx, w.student, bank.ItemSearch{}); return err },
		"a student looks at an item":  func() error { _, err := w.app.Bank.Item(w.ctx, w.student, 1, 0); return err },
		"a student reads results": func() error {
			_, err := w.app.Read.Matrix(w.ctx, w.student, distribution, read.MatrixQuery{})
			return err
		},
		"a teacher starts an assessment": func() error { _, err := w.app.Build.StartAssessment(w.ctx, w.teacher, outline("x")); return err },
		"a teacher imports": func() error {
			_, err := w.app.Intake.Import(w.ctx, w.teacher, intake.File{Kind: intake.ImportItems, Name: "x", Path: "x"}, nil)
			return err
		},
		"a teacher reads the ledger": func() error { _, err := w.app.Record.Ledger(w.ctx, w.teacher, record.LedgerQuery{}); return err },
		"a principal changes the district's": func() error {
			_, err := w.app.Build.PutLines(w.ctx, w.principal, s.Assessment.ID, s.Assessment.Version, nil)
			return err
		},
		"a principal seals the district's": func() error {
			_, err := w.app.Build.NewEdition(w.ctx, w.principal, s.Assessment.ID, s.Assessment.Version)
			return err
		},
	} {
		assert.ErrorIs(t, act(), desk.ErrForbidden, name)
	}
	scoped, err := w.app.Read.Matrix(w.ctx, w.otherTeacher, distribution, read.MatrixQuery{})
	require.NoError(t, err)
	assert.Empty(t, scoped.Rows, "a teacher's matrix holds the own section alone")
}

func TestTwoEditorsNeverOverwriteEachOther(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	mine, err := w.app.Build.PutOutline(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, outline("Mine"))
	require.NoError(t, err)
	_, err = w.app.Build.PutOutline(w.ctx, w.second, s.Assessment.ID, s.Assessment.Version, outline("Theirs"))
	var conflict *desk.ConflictError
	require.ErrorAs(t, err, &conflict)
	assert.Contains(t, conflict.Detail, "Ines Okafor changed this meanwhile")
	kept, err := w.app.Build.Sheet(w.ctx, w.second, s.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, "Mine", kept.Assessment.Title)
	assert.Equal(t, mine.Assessment.Version, kept.Assessment.Version)
}

func TestLinesAndTheirBalance(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	id := s.Assessment.ID
	s, err := w.app.Build.PutBlueprint(w.ctx, w.coordinator, id, s.Assessment.Version, []build.RowInput{
		{Title: "Ratio", Filter: blueprint.Filter{Standards: []string{"M6.RR"}}, Min: points.One, Max: points.One},
		{Title: "Figures", Filter: blueprint.Filter{Standards: []string{"M6.FS"}}, Min: 3 * points.One, Max: 3 * points.One},
	})
	require.NoError(t, err)
	assert.Equal(t, points.One, s.Shortage, "the item of both standards goes where it is short")
	assert.Equal(t, []int{0, 1, 1}, []int{s.Lines[0].Row, s.Lines[1].Row, s.Lines[2].Row})

	line := func(i int) build.LineInput { return build.LineInput{ItemID: s.Lines[i].ItemID, Points: points.One} }
	turned, err := w.app.Build.PutLines(w.ctx, w.coordinator, id, s.Assessment.Version, []build.LineInput{line(2), line(0)})
	require.NoError(t, err)
	assert.Equal(t, s.Lines[2].ItemID, turned.Lines[0].ItemID)

	for _, c := range []struct {
		lines []build.LineInput
		want  string
	}{
		{[]build.LineInput{line(0), line(0)}, "Line 2: this item is already line 1."},
		{[]build.LineInput{{ItemID: s.Lines[0].ItemID}}, "Line 1: points must be more than 0 and at most 100."},
		{[]build.LineInput{{ItemID: 999, Points: 100}}, "Line 1: there is no such item."},
	} {
		_, err = w.app.Build.PutLines(w.ctx, w.coordinator, id, turned.Assessment.Version, c.lines)
		assert.EqualError(t, err, c.want)
	}
	_, err = w.app.Build.PutBlueprint(w.ctx, w.coordinator, id, turned.Assessment.Version, []build.RowInput{{Filter: blueprint.Filter{Standards: []string{"X9"}}, Max: 100}})
	assert.EqualError(t, err, `"X9" is not in the tree.`)
}

func TestANewVersionInTheBankLeavesPinnedLinesAlone(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	changed := strings.Replace(itemsFile, "Which is 1 : 2?", "Which ratio equals 1 : 2?", 1)
	r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportItems, Name: "items.csv", Path: w.file("items.csv", changed)}, nil)
	require.NoError(t, err)
	assert.Equal(t, intake.ImportCounts{Read: 3, Changed: 1, Unchanged: 2}, r.Counts)
	s, err = w.app.Build.Sheet(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, "Which is 1 : 2?", s.Lines[0].Stem)
	assert.Equal(t, [2]int{1, 2}, [2]int{s.Lines[0].Number, s.Lines[0].Newest})
}

func TestWhatIsSealedStays(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	_, err := w.app.Build.PutLines(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, nil)
	assert.EqualError(t, err, "Edition 1 is sealed. Begin a new edition to change it.")
	s, err = w.app.Build.NewEdition(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	require.NoError(t, err)
	assert.Equal(t, 2, s.Assessment.Edition)
	s, err = w.app.Build.PutLines(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, nil)
	require.NoError(t, err)
	_, err = w.app.Build.Seal(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	assert.EqualError(t, err, "It cannot be sealed yet. There are no lines yet.")
}

func TestNothingGoesOutPastPreflight(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	require.Len(t, view.Candidates, 2)
	leftOut := w.student.PersonID
	view, err = w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, give.DistributionInput{
		Whom: roster.ToSections(view.Candidates[0].ID, view.Candidates[1].ID).Without(leftOut), Waves: give.OneWave("2026-10-12T08:00", "2026-10-16T16:00")})
	require.NoError(t, err)
	assert.Equal(t, [2]int{2, 2}, [2]int{view.Total.Sections, view.Total.Students})
	_, err = w.app.Give.Send(w.ctx, w.coordinator, s.Assessment.ID, view.Distribution.Version, nil)
	assert.EqualError(t, err, "It cannot go out yet. The assessment is not sealed yet.")

	s, err = w.app.Build.Seal(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	require.NoError(t, err)
	_, err = w.app.Give.Send(w.ctx, w.coordinator, s.Assessment.ID, view.Distribution.Version, map[string]string{"no-bands": "practice"})
	assert.EqualError(t, err, "Give a reason for each caution first. The window has already begun.")
	s, err = w.app.Give.Send(w.ctx, w.coordinator, s.Assessment.ID, view.Distribution.Version, map[string]string{"no-bands": "practice", "window-begun": "late start"})
	require.NoError(t, err)
	assert.Equal(t, assessment.Out, s.Assessment.State)
	mine, err := w.app.Take.MySittings(w.ctx, w.student)
	require.NoError(t, err)
	assert.Empty(t, mine, "who is left out gets nothing")
	_, err = w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, give.DistributionInput{Waves: give.OneWave("tomorrow", "")})
	assert.EqualError(t, err, `"tomorrow" is not a date and time such as 2026-10-13T08:00.`)
	_, err = w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, give.DistributionInput{Whom: roster.ToSections(999)})
	assert.EqualError(t, err, "A chosen section is not one of this assessment's grades and subject.")
}

func TestTheDoorAndTheClockStopWorkAndLoseNone(t *testing.T) {
	w := newWorld(t)
	w.sent()
	sitting := w.sittingOf(w.teacher)
	_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	take, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err)
	save := func(number int64, value string) error {
		_, err := w.app.Take.SaveAnswers(w.ctx, w.student, take.Attempt.ID, "", []takeroom.Answered{answer(2, number, value)})
		return err
	}
	require.NoError(t, save(5, "12"))
	require.NoError(t, save(4, "7"), "an older number is taken and changes nothing")

	_, err = w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Held)
	require.NoError(t, err)
	require.NoError(t, save(6, "13"), "what was on its way still arrives")
	w.now = w.now.Add(attempt.Grace)
	assert.EqualError(t, save(7, "14"), "Your teacher has paused this sitting; your answers are kept.")
	_, err = w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	require.NoError(t, save(8, "12"))
	end := take.End.Add(attempt.Grace) // behind the paused door time stood still
	take, err = w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err)
	assert.Equal(t, end, take.End)

	w.now = take.End
	require.NoError(t, w.app.Take.Tick(w.ctx))
	require.NoError(t, save(9, "12.0"), "within the grace")
	w.now = take.End.Add(attempt.Grace)
	assert.EqualError(t, save(10, "1"), "The time is over; your answers have been handed in.")
	require.NoError(t, w.app.Take.Tick(w.ctx))
	room, err := w.app.Take.Room(w.ctx, w.teacher, sitting.ID)
	require.NoError(t, err)
	assert.Equal(t, 1, room.Sitting.Done, "the clock has handed in")
	trail, err := w.app.Read.Trail(w.ctx, w.coordinator, sitting.DistributionID, take.Attempt.ID)
	require.NoError(t, err)
	assert.Equal(t, []string{"12.0"}, trail.Lines[1].Response)

	w.now = time.Date(2026, 10, 17, 0, 0, 0, 0, time.UTC)
	require.NoError(t, w.app.Take.Tick(w.ctx))
	s, err := w.app.Build.Sheet(w.ctx, w.coordinator, sitting.AssessmentID)
	require.NoError(t, err)
	assert.Equal(t, assessment.Closed, s.Assessment.State, "closed once its windows are over")
}

func TestAnAnswerOfAnotherShapeIsRefusedAlone(t *testing.T) {
	w := newWorld(t)
	w.sent()
	sitting := w.sittingOf(w.teacher)
	_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	take, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err)
	saved, err := w.app.Take.SaveAnswers(w.ctx, w.student, take.Attempt.ID, "", []takeroom.Answered{answer(2, 1, "1"), answer(1, 1, "Z"), answer(9, 1, "A")})
	require.NoError(t, err)
	assert.Equal(t, []takeroom.RefusedAnswer{{Line: 1, Message: `Line 1: response RESPONSE names "Z", which is not offered.`}, {Line: 9, Message: "There is no line 9."}}, saved.Refused)
	again, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err)
	assert.NotNil(t, again.Lines[1].Answer, "the others are kept")
	assert.Nil(t, again.Lines[0].Answer)
}

func TestSigningIn(t *testing.T) {
	w := newWorld(t)
	v, err := w.app.Office.SignInStaff(w.ctx, " Ines@x.example ", "a long password")
	require.NoError(t, err)
	assert.Equal(t, w.coordinator.PersonID, v.PersonID)
	v, err = w.app.Office.SignInStudent(w.ctx, "1001", "1234")
	require.NoError(t, err)
	assert.Equal(t, w.student.PersonID, v.PersonID)
	for _, pair := range [][2]string{{"ines@x.example", "wrong"}, {"nobody@x.example", "x"}, {"tomas@x.example", ""}} {
		_, err = w.app.Office.SignInStaff(w.ctx, pair[0], pair[1])
		assert.ErrorIs(t, err, office.ErrSignIn, fmt.Sprint(pair))
	}
	for _, pair := range [][2]string{{"1001", "4321"}, {"9999", "1234"}, {"1001", ""}} {
		_, err = w.app.Office.SignInStudent(w.ctx, pair[0], pair[1])
		assert.ErrorIs(t, err, office.ErrSignIn, fmt.Sprint(pair))
	}
	require.NoError(t, w.app.Office.AddCoordinator(w.ctx, "First", "Person", "first@x.example", "twelve letters"))
	_, err = w.app.Office.SignInStaff(w.ctx, "first@x.example", "twelve letters")
	require.NoError(t, err)
	assert.EqualError(t, w.app.Office.AddCoordinator(w.ctx, "A", "B", "a@b", "short"), "The password needs 12 characters at least.")
}
