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
	"pineledger/store"
)

var ctx = context.Background()

// room is a store with one sitting of n students who have begun.
func room(t *testing.T, n int) (s *store.Store, attempts []int64) {
	t.Helper()
	s, err := store.Open(ctx, t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, s.Close()) })
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		school, err := tx.PutSchool(ctx, "s", "Heron Point", true, "x")
		require.NoError(t, err)
		course, err := tx.PutCourse(ctx, store.Course{SourcedID: "k", Subjects: `["mathematics"]`, Grades: "[]"}, "x")
		require.NoError(t, err)
		section, err := tx.PutSection(ctx, store.SectionRow{SourcedID: "c", SchoolID: school, Course: course, Title: "6-1", Grade: "06", Active: true}, "x")
		require.NoError(t, err)
		a, err := tx.AddAssessment(ctx, store.Assessment{Title: "Fall", Grades: "[]"})
		require.NoError(t, err)
		form, err := tx.AddForm(ctx, store.Form{AssessmentID: a, Edition: 1, Document: "{}"}, 1)
		require.NoError(t, err)
		d, err := tx.PutDistribution(ctx, store.Distribution{AssessmentID: a, Opens: time.Unix(1, 0), Closes: time.Unix(2_000_000_000, 0)}, store.Targets{})
		require.NoError(t, err)
		require.NoError(t, tx.MarkSent(ctx, store.Distribution{ID: d, Version: 1, FormID: form, Sent: time.Unix(1, 0)}, 1))
		var students []int64
		for i := range n {
			p, err := tx.PutPerson(ctx, store.PersonRow{SourcedID: string(rune('A' + i)), Given: "x", Family: "y", Active: true}, "x")
			require.NoError(t, err)
			students = append(students, p)
		}
		sitting, err := tx.AddSitting(ctx, d, section, school, students)
		require.NoError(t, err)
		for _, p := range students {
			id, begun, err := tx.Begin(ctx, sitting, p, form, time.Unix(5, 0))
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
				assert.NoError(t, s.SaveAnswers(ctx, id, n, []store.Answer{{Line: int(n%3) + 1, Number: n, Response: `{"RESPONSE":["A"]}`}}))
			}
		})
	}
	wait.Wait()
	for _, id := range attempts {
		kept, err := s.Answers(ctx, id)
		require.NoError(t, err)
		require.Len(t, kept, 3)
		assert.Equal(t, []int64{30, 28, 29}, []int64{kept[0].Number, kept[1].Number, kept[2].Number})
	}
}

func TestAnOlderAnswerNeverOverwritesANewerOne(t *testing.T) {
	s, attempts := room(t, 1)
	save := func(number int64, response string) {
		require.NoError(t, s.SaveAnswers(ctx, attempts[0], number, []store.Answer{{Line: 1, Number: number, Response: response}}))
	}
	save(5, "five")
	save(3, "three")
	save(5, "five again")
	kept, err := s.Answers(ctx, attempts[0])
	require.NoError(t, err)
	assert.Equal(t, "five", kept[0].Response)
}

func TestAnswersToWhatIsHandedInAreRefusedAlone(t *testing.T) {
	s, attempts := room(t, 2)
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error { return tx.HandIn(ctx, attempts[0], attempt.ByStudent, time.Unix(9, 0)) }))
	answer := []store.Answer{{Line: 1, Number: 1, Response: "{}"}}
	assert.ErrorIs(t, s.SaveAnswers(ctx, attempts[0], 1, answer), store.ErrAttemptClosed)
	assert.NoError(t, s.SaveAnswers(ctx, attempts[1], 1, answer))
	err := s.Write(ctx, func(tx *store.Tx) error { return tx.HandIn(ctx, attempts[0], attempt.ByClock, time.Unix(9, 0)) })
	assert.ErrorIs(t, err, store.ErrStale, "handed in once")
}

func TestCreditsAreReadBackAndTallied(t *testing.T) {
	s, attempts := room(t, 2)
	credits := []store.LineCredit{{Credit: 150, Outcome: item.Part}, {Credit: 0, Outcome: item.Omitted}, {Credit: 70_000, Outcome: item.Right}, {Outcome: item.NotReached}}
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		for _, id := range attempts {
			a, err := tx.AttemptByID(ctx, id)
			require.NoError(t, err)
			require.NoError(t, tx.AddScore(ctx, store.Score{AttemptID: id, SittingID: a.SittingID, Raw: 70_150, Band: 1, Credits: credits}))
		}
		return nil
	}))
	rows, err := s.Matrix(ctx, roster.Scope{District: true}, 1, store.MatrixFilter{})
	require.NoError(t, err)
	require.Len(t, rows, 2)
	assert.Equal(t, credits, rows[0].Credits)
	tallies, err := s.LineTallies(ctx, roster.Scope{District: true}, 1)
	require.NoError(t, err)
	assert.Equal(t, store.LineTally{SittingID: 1, Line: 3, N: 2, Credit: 140_000}, tallies[2])
	assert.Zero(t, tallies[3].Omitted, "what was not reached is not omitted")
	assert.Equal(t, 2, tallies[1].Omitted)
	none, err := s.Matrix(ctx, roster.Scope{Schools: []int64{99}}, 1, store.MatrixFilter{})
	require.NoError(t, err)
	assert.Empty(t, none, "another school's scope sees nothing")
	_, _, err = s.ScoreInScope(ctx, roster.Scope{Sections: []int64{99}}, attempts[0])
	assert.ErrorIs(t, err, store.ErrNotFound)
	assert.Equal(t, points.Points(70_150), rows[0].Raw)
}

func TestATransactionIsAllOrNothing(t *testing.T) {
	s, _ := room(t, 0)
	stop := errors.New("stop")
	err := s.Write(ctx, func(tx *store.Tx) error {
		if _, err := tx.PutSchool(ctx, "new", "New", true, "x"); err != nil {
			return err
		}
		return stop
	})
	require.ErrorIs(t, err, stop)
	known, err := s.Known(ctx, "school")
	require.NoError(t, err)
	assert.NotContains(t, known, "new")
}

func TestTheLedgerAndSealedFormsCannotBeChanged(t *testing.T) {
	s, _ := room(t, 0)
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		return tx.Record(ctx, ledger.Entry{At: time.Unix(7, 0), Actor: "Ines", Act: "x", Thing: "y", Title: "z"})
	}))
	db := s.SessionDB()
	for _, statement := range []string{"UPDATE ledger SET actor = 'x'", "DELETE FROM ledger", "UPDATE form SET document = 'x'"} {
		_, err := db.ExecContext(ctx, statement)
		assert.Error(t, err, statement)
	}
	var walk ledger.Walk
	require.NoError(t, s.EachEntry(ctx, walk.Next))
	assert.EqualValues(t, 1, walk.Last())
}

func TestADatabaseIsOpenedAgainAsItWas(t *testing.T) {
	dir := t.TempDir()
	s, err := store.Open(ctx, dir)
	require.NoError(t, err)
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		_, err := tx.PutSchool(ctx, "s", "Heron Point", true, "x")
		return err
	}))
	require.NoError(t, s.Close())
	assert.Error(t, s.SaveAnswers(ctx, 1, 1, nil), "a closed store takes nothing")
	s, err = store.Open(ctx, dir)
	require.NoError(t, err)
	defer s.Close()
	known, err := s.Known(ctx, "school")
	require.NoError(t, err)
	assert.Contains(t, known, "s")
}

var everything = store.ItemScope{All: true}

func TestSearchWordsAreWordsAndNothingElse(t *testing.T) {
	s, _ := room(t, 0)
	require.NoError(t, s.Write(ctx, func(tx *store.Tx) error {
		bank, err := tx.BankNamed(ctx, "Bank", "district")
		require.NoError(t, err)
		for _, words := range []string{"tide tables of the harbor", "the lighthouse keeper"} {
			v := store.NewVersion{BankID: bank, Words: store.Words{Stem: words}, Subject: "reading", Grade: "05"}
			v.Identifier, v.Stem, v.Kind, v.Document = words, words, "number", "{}"
			_, err := tx.PutItem(ctx, v)
			require.NoError(t, err)
		}
		return nil
	}))
	for words, want := range map[string]int{"tide": 1, "harbors tid": 1, "the": 2, "tide lighthouse": 0, `"`: 0, "NEAR(tide": 0, "words:tide": 0, "tide*": 1} {
		items, _, err := s.Items(ctx, store.ItemQuery{Scope: everything, Words: words, Limit: 10})
		require.NoError(t, err, words)
		assert.Len(t, items, want, words)
	}
	first, next, err := s.Items(ctx, store.ItemQuery{Scope: everything, Limit: 1})
	require.NoError(t, err)
	second, end, err := s.Items(ctx, store.ItemQuery{Scope: everything, Limit: 1, Cursor: next})
	require.NoError(t, err)
	assert.NotEqual(t, first[0].ID, second[0].ID)
	last, none, err := s.Items(ctx, store.ItemQuery{Scope: everything, Limit: 1, Cursor: end})
	require.NoError(t, err)
	assert.Empty(t, last)
	assert.Empty(t, none)
}
