package store_test

import (
	"context"
	"errors"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/attempt"
	"pineledger/core/item"
	"pineledger/core/ledger"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/core/window"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
	"pineledger/store/intakerows"
	"pineledger/store/readrows"
	"pineledger/store/recordrows"
	"pineledger/store/takerows"
)

var ctx = context.Background()

// room is a store with one sitting of n students who have begun.
func room(t *testing.T, n int) (s *store.Store, attempts []int64) {
	t.Helper()
	s, attempts = roomIn(t, t.TempDir(), n)
	t.Cleanup(func() { require.NoError(t, s.Close()) })
	return s, attempts
}

// roomIn is room in a folder that a test opens again; it is closed by the test.
func roomIn(t *testing.T, dir string, n int) (s *store.Store, attempts []int64) {
	t.Helper()
	s, err := store.Open(ctx, dir)
	require.NoError(t, err)
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		school, err := intakerows.PutSchool(ctx, tx, "s", "Heron Point", true, "x")
		require.NoError(t, err)
		course, err := intakerows.PutCourse(ctx, tx, intakerows.Course{SourcedID: "k", Subjects: []string{"mathematics"}, Grades: []string{}}, "x")
		require.NoError(t, err)
		section, err := intakerows.PutSection(ctx, tx, intakerows.SectionRow{SourcedID: "c", SchoolID: school, Course: course, Title: "6-1", Grades: []string{"06"}, Active: true}, "x")
		require.NoError(t, err)
		a, err := buildrows.AddAssessment(ctx, tx, buildrows.Assessment{Title: "Fall", Grades: []string{}})
		require.NoError(t, err)
		form, err := buildrows.AddForm(ctx, tx, buildrows.Form{AssessmentID: a, Edition: 1, Document: "{}"}, 1)
		require.NoError(t, err)
		d, err := giverows.PutDistribution(ctx, tx, giverows.Distribution{AssessmentID: a, Waves: window.OneWave(time.Unix(1, 0), time.Unix(2_000_000_000, 0))}, roster.Aim{})
		require.NoError(t, err)
		require.NoError(t, giverows.MarkSent(ctx, tx, giverows.Distribution{ID: d, Version: 1, FormID: form, Sent: time.Unix(1, 0)}, 1))
		var students []int64
		for i := range n {
			p, err := intakerows.PutPerson(ctx, tx, intakerows.PersonRow{SourcedID: string(rune('A' + i)), Given: "x", Family: "y", Active: true}, "x")
			require.NoError(t, err)
			students = append(students, p)
		}
		setup := attempt.NewSetup(nil, nil, time.Unix(1, 0), time.Unix(2_000_000_000, 0), time.UTC)
		sitting, err := giverows.AddSitting(ctx, tx, d, section, school, setup, students)
		require.NoError(t, err)
		for _, p := range students {
			id, begun, err := takerows.Begin(ctx, tx, sitting, p, form, 1, attempt.NewTerms(setup, nil), time.Unix(5, 0))
			require.NoError(t, err)
			require.True(t, begun)
			attempts = append(attempts, id)
		}
		return nil
	}))
	return s, attempts
}

func TestAnswersOfManyStudentsAtOnceAreAllKept(t *testing.T) {
	s, attempts := room(t, 20)
	var wait sync.WaitGroup
	for _, id := range attempts {
		wait.Go(func() {
			for n := int64(1); n <= 30; n++ {
				assert.NoError(t, s.SaveAnswers(ctx, id, n, answer(int(n%3)+1, n)))
			}
		})
	}
	wait.Wait()
	for _, id := range attempts {
		kept, err := takerows.Answers(ctx, s.Reader, id)
		require.NoError(t, err)
		require.Len(t, kept, 3)
		assert.Equal(t, []int64{30, 28, 29}, []int64{kept[0].Number, kept[1].Number, kept[2].Number})
	}
}

func TestAnOlderAnswerNeverOverwritesANewerOne(t *testing.T) {
	s, attempts := room(t, 1)
	save := func(number int64, response string) {
		require.NoError(t, s.SaveAnswers(ctx, attempts[0], number, answering(1, number, response)))
	}
	save(5, "five")
	save(3, "three")
	save(5, "five again")
	kept, err := takerows.Answers(ctx, s.Reader, attempts[0])
	require.NoError(t, err)
	assert.Equal(t, item.Response{"RESPONSE": {"five"}}, kept[0].Response.V)
}

func TestAnswersToWhatIsHandedInAreRefusedAlone(t *testing.T) {
	s, attempts := room(t, 2)
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		return takerows.HandIn(ctx, tx, attempts[0], attempt.ByStudent, time.Unix(9, 0), true)
	}))
	answer := answer(1, 1)
	assert.ErrorIs(t, s.SaveAnswers(ctx, attempts[0], 1, answer), store.ErrAttemptClosed)
	assert.NoError(t, s.SaveAnswers(ctx, attempts[1], 1, answer))
	err := s.Write(ctx, func(tx *store.Tx) error {
		return takerows.HandIn(ctx, tx, attempts[0], attempt.ByClock, time.Unix(9, 0), true)
	})
	assert.ErrorIs(t, err, store.ErrStale, "handed in once")
}

// scored adds a scoring of an attempt, which counts at once.
func scored(t *testing.T, tx *store.Tx, id int64, s readrows.Scoring) {
	t.Helper()
	a, err := takerows.AttemptByID(ctx, tx.Reader, id)
	require.NoError(t, err)
	s.AttemptID, s.FormID, s.Kind = id, a.FormID, readrows.ByMachine
	s.ID, err = readrows.AddScoring(ctx, tx, s)
	require.NoError(t, err)
	require.NoError(t, readrows.PutResult(ctx, tx, readrows.Result{Seat: readrows.Seat{SittingID: a.SittingID, StudentID: a.StudentID},
		AttemptID: id, ScoringID: s.ID, Final: s.Final, Raw: s.Raw, Band: s.Band, Credits: s.Credits}))
}

func TestScoringsAreOnlyEverAddedAndTheNewestCounts(t *testing.T) {
	s, attempts := room(t, 1)
	id := attempts[0]
	written := []attempt.LineCredit{{Credit: 100, Outcome: item.Right}, {Outcome: item.Unread}}
	read := []attempt.LineCredit{{Credit: 100, Outcome: item.Right}, {Credit: 50, Outcome: item.Part}}
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		scored(t, tx, id, readrows.Scoring{Raw: 100, Band: -1, Credits: written})
		return nil
	}))
	all := roster.Scope{District: true}
	tallies, err := readrows.LineTallies(ctx, s.Reader, all, 1)
	require.NoError(t, err)
	assert.Equal(t, []readrows.LineTally{{SittingID: 1, Line: 1, N: 1, Credit: 100}}, tallies, "what waits for its reader is in no sum")
	counts, err := readrows.BandCounts(ctx, s.Reader, all, 1)
	require.NoError(t, err)
	assert.Equal(t, []readrows.BandCount{{SittingID: 1, N: 1, Raw: 100}}, counts, "and in no band")
	listed, err := readrows.ResultByID(ctx, s.Reader, all, 1)
	require.NoError(t, err)
	assert.Equal(t, []int{0, 1}, []int{listed.Scored, listed.Waiting})

	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		scored(t, tx, id, readrows.Scoring{Final: true, Raw: 150, Band: 0, Cuts: []int64{0, 100}, Credits: read})
		return nil
	}))
	tallies, err = readrows.LineTallies(ctx, s.Reader, all, 1)
	require.NoError(t, err)
	assert.Equal(t, []readrows.LineTally{{SittingID: 1, Line: 1, N: 1, Credit: 100}, {SittingID: 1, Line: 2, N: 1, Credit: 50}}, tallies)
	kept, err := readrows.Scorings(ctx, s.Reader, id)
	require.NoError(t, err)
	require.Len(t, kept, 2)
	assert.Equal(t, written, kept[0].Credits, "the first stands as it was")
	assert.Equal(t, []int64{0, 100}, kept[1].Cuts)
	for _, change := range []string{"UPDATE scoring SET raw = 0", "DELETE FROM scoring"} {
		err := s.Write(ctx, func(tx *store.Tx) error { return tx.Exec(ctx, change) })
		assert.ErrorContains(t, err, "a scoring is only ever added", change)
	}
}

func TestCreditsAreReadBackAndTallied(t *testing.T) {
	s, attempts := room(t, 2)
	credits := []attempt.LineCredit{{Credit: 150, Outcome: item.Part}, {Credit: 0, Outcome: item.Omitted}, {Credit: 70_000, Outcome: item.Right}, {Outcome: item.NotReached}}
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		for _, id := range attempts {
			scored(t, tx, id, readrows.Scoring{Final: true, Raw: 70_150, Band: 1, Credits: credits})
		}
		return nil
	}))
	rows, err := readrows.Matrix(ctx, s.Reader, roster.Scope{District: true}, 1, readrows.MatrixFilter{})
	require.NoError(t, err)
	require.Len(t, rows, 2)
	assert.Equal(t, credits, rows[0].Credits)
	tallies, err := readrows.LineTallies(ctx, s.Reader, roster.Scope{District: true}, 1)
	require.NoError(t, err)
	assert.Equal(t, readrows.LineTally{SittingID: 1, Line: 3, N: 2, Credit: 140_000}, tallies[2])
	assert.Zero(t, tallies[3].Omitted, "what was not reached is not omitted")
	assert.Equal(t, 2, tallies[1].Omitted)
	none, err := readrows.Matrix(ctx, s.Reader, roster.Scope{Schools: []int64{99}}, 1, readrows.MatrixFilter{})
	require.NoError(t, err)
	assert.Empty(t, none, "another school's scope sees nothing")
	_, _, err = readrows.ScoreInScope(ctx, s.Reader, roster.Scope{Sections: []int64{99}}, attempts[0])
	assert.ErrorIs(t, err, store.ErrNotFound)
	assert.Equal(t, points.Points(70_150), rows[0].Raw)
}

func TestATransactionIsAllOrNothing(t *testing.T) {
	s, _ := room(t, 0)
	stop := errors.New("stop")
	err := s.Write(ctx, func(tx *store.Tx) error {
		if _, err := intakerows.PutSchool(ctx, tx, "new", "New", true, "x"); err != nil {
			return err
		}
		return stop
	})
	require.ErrorIs(t, err, stop)
	known, err := intakerows.KnownBy(ctx, s.Reader, "school")
	require.NoError(t, err)
	assert.NotContains(t, known, "new")
}

func TestTheLedgerAndSealedFormsCannotBeChanged(t *testing.T) {
	s, _ := room(t, 0)
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		return recordrows.Record(ctx, tx, ledger.Entry{At: time.Unix(7, 0), Actor: "Ines", Act: "x", Thing: "y", Title: "z"})
	}))
	db := s.Unguarded()
	for _, statement := range []string{"UPDATE ledger SET actor = 'x'", "DELETE FROM ledger", "UPDATE form SET document = 'x'"} {
		_, err := db.ExecContext(ctx, statement)
		assert.Error(t, err, statement)
	}
	var walk ledger.Walk
	require.NoError(t, recordrows.EachEntry(ctx, s.Reader, walk.Next))
	assert.EqualValues(t, 1, walk.Last())
}

func TestADatabaseIsOpenedAgainAsItWas(t *testing.T) {
	dir := t.TempDir()
	s, err := store.Open(ctx, dir)
	require.NoError(t, err)
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		_, err := intakerows.PutSchool(ctx, tx, "s", "Heron Point", true, "x")
		return err
	}))
	require.NoError(t, s.Close())
	assert.Error(t, s.SaveAnswers(ctx, 1, 1, nil), "a closed store takes nothing")
	s, err = store.Open(ctx, dir)
	require.NoError(t, err)
	defer s.Close()
	known, err := intakerows.KnownBy(ctx, s.Reader, "school")
	require.NoError(t, err)
	assert.Contains(t, known, "s")
}

var everything = bankrows.ItemScope{All: true}

func TestSearchWordsAreWordsAndNothingElse(t *testing.T) {
	s, _ := room(t, 0)
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		bank, err := bankrows.BankNamed(ctx, tx, "Bank", "district")
		require.NoError(t, err)
		for _, words := range []string{"tide tables of the harbor", "the lighthouse keeper"} {
			v := bankrows.NewVersion{BankID: bank, Words: bankrows.Words{Stem: words}, Subject: "reading", Grade: "05"}
			v.Identifier, v.Stem, v.Kind, v.Document = words, words, "number", "{}"
			_, err := bankrows.PutItem(ctx, tx, v)
			require.NoError(t, err)
		}
		return nil
	}))
	for words, want := range map[string]int{"tide": 1, "harbors tid": 1, "the": 2, "tide lighthouse": 0, `"`: 0, "NEAR(tide": 0, "words:tide": 0, "tide*": 1} {
		items, _, err := bankrows.Items(ctx, s.Reader, bankrows.ItemQuery{Scope: everything, Words: words, Limit: 10})
		require.NoError(t, err, words)
		assert.Len(t, items, want, words)
	}
	first, next, err := bankrows.Items(ctx, s.Reader, bankrows.ItemQuery{Scope: everything, Limit: 1})
	require.NoError(t, err)
	second, end, err := bankrows.Items(ctx, s.Reader, bankrows.ItemQuery{Scope: everything, Limit: 1, Cursor: next})
	require.NoError(t, err)
	assert.NotEqual(t, first[0].ID, second[0].ID)
	last, none, err := bankrows.Items(ctx, s.Reader, bankrows.ItemQuery{Scope: everything, Limit: 1, Cursor: end})
	require.NoError(t, err)
	assert.Empty(t, last)
	assert.Empty(t, none)
}
