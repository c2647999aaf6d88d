package app_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	bankroom "pineledger/app/bank"
	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/core/assessment"
	"pineledger/core/roster"
	"pineledger/store/buildrows"
)

// listed are the titles of the assessments in a state, "" for all.
func (w *world) listed(state assessment.State) []string {
	w.Helper()
	list, err := w.app.Build.Assessments(w.ctx, w.coordinator, buildrows.AssessmentFilter{State: string(state)})
	require.NoError(w, err)
	titles := []string{}
	for _, a := range list {
		titles = append(titles, a.Title)
	}
	return titles
}

func TestAnAssessmentIsShelvedAndComesBackAsItWas(t *testing.T) {
	w := newWorld(t)
	for name, s := range map[string]build.Sheet{"draft": w.draft(), "sealed": w.sealed()} {
		id, state := s.Assessment.ID, s.Assessment.State
		before := len(w.listed(""))
		s, err := w.app.Build.Shelve(w.ctx, w.coordinator, id, s.Assessment.Version, true)
		require.NoError(t, err, name)
		assert.Equal(t, assessment.Shelved, s.Assessment.Shown())
		assert.Len(t, w.listed(""), before-1, name)
		assert.Len(t, w.listed(assessment.Shelved), 1, name)

		_, err = w.app.Build.PutLines(w.ctx, w.coordinator, id, s.Assessment.Version, nil)
		assert.ErrorContains(t, err, "Bring it back to change it", name)
		_, err = w.app.Build.NewEdition(w.ctx, w.coordinator, id, s.Assessment.Version)
		assert.ErrorContains(t, err, "Bring it back to change it", name)

		s, err = w.app.Build.Shelve(w.ctx, w.coordinator, id, s.Assessment.Version, false)
		require.NoError(t, err, name)
		assert.Equal(t, state, s.Assessment.Shown(), name)
		assert.Len(t, w.listed(""), before, name)
		assert.Empty(t, w.listed(assessment.Shelved), name)
	}
	out := w.sent()
	_, err := w.app.Build.Shelve(w.ctx, w.coordinator, out.Assessment.ID, out.Assessment.Version, true)
	assert.ErrorContains(t, err, "It can be shelved once its last window is over.")
}

func TestADraftThatWasNeverSealedIsDeletedAndItsHoldsEnd(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	id, held := s.Assessment.ID, s.Lines[0].ItemID
	require.NoError(t, w.app.Word.HoldItems(w.ctx, w.coordinator, bankroom.HoldInput{Items: []int64{held}, AssessmentID: id, Reason: "for the fall"}))
	assert.ErrorIs(t, w.app.Build.Delete(w.ctx, w.teacher, id, s.Assessment.Version), desk.ErrNotFound)
	assert.ErrorContains(t, w.app.Build.Delete(w.ctx, w.coordinator, id, s.Assessment.Version-1), "changed this meanwhile")
	require.NoError(t, w.app.Build.Delete(w.ctx, w.coordinator, id, s.Assessment.Version))
	_, err := w.app.Build.Sheet(w.ctx, w.coordinator, id)
	assert.ErrorIs(t, err, desk.ErrNotFound)
	assert.Empty(t, w.listed(""))
	other, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("Fall"))
	require.NoError(t, err)
	_, err = w.app.Build.PutLines(w.ctx, w.coordinator, other.Assessment.ID, other.Assessment.Version, []build.LineInput{{ItemID: held, Points: 100}})
	assert.NoError(t, err, "what it held is free")

	sealed := w.sealed()
	again, err := w.app.Build.NewEdition(w.ctx, w.coordinator, sealed.Assessment.ID, sealed.Assessment.Version)
	require.NoError(t, err)
	err = w.app.Build.Delete(w.ctx, w.coordinator, again.Assessment.ID, again.Assessment.Version)
	assert.ErrorContains(t, err, "Only a draft that was never sealed can be deleted.")
}

// What is reported, or does not belong, is said on the line and before it goes out.
func TestALineSaysWhatIsOddAboutIt(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	for _, l := range s.Lines {
		assert.Empty(t, l.Cautions)
	}
	require.NoError(t, w.app.Word.ReportItem(w.ctx, w.second, s.Lines[1].ItemID, 0, "unclear", "which tide?"))
	require.NoError(t, w.app.Word.ReportItem(w.ctx, w.second, s.Lines[2].ItemID, 0, "wrong key", "it is B"))
	o := outline("Fall")
	o.Grades, o.Subject = []string{"07"}, "science"
	s, err := w.app.Build.PutOutline(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, o)
	require.NoError(t, err)
	foreign := "The item is for mathematics, grade 6."
	assert.Equal(t, []string{foreign}, s.Lines[1].Cautions)
	assert.Equal(t, []string{"Somebody reported its key as wrong.", foreign}, s.Lines[2].Cautions)

	copied, err := w.app.Build.CopyAssessment(w.ctx, w.coordinator, s.Assessment.ID, "Again")
	require.NoError(t, err)
	assert.Equal(t, s.Lines[2].Cautions, copied.Lines[2].Cautions, "a copy says it too")

	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	var said []string
	for _, f := range view.Findings {
		if f.Severity == roster.Caution {
			said = append(said, f.Text)
		}
	}
	assert.Contains(t, said, "Lines whose key was reported as wrong, and nobody has answered yet: 3.")
}
