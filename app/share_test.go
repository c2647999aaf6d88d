package app_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app"
	"pineledger/core/blueprint"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
)

// hale is a school coordinator of the other school than hers.
func (w *world) hale(at string) roster.Viewer {
	v := w.principal
	schools, err := w.store.Schools(w.ctx, roster.Scope{District: true})
	require.NoError(w, err)
	for _, s := range schools {
		if s.Name == at {
			v.Posts = []roster.Post{{Role: roster.SchoolCoordinator, SchoolID: s.ID}}
		}
	}
	return v
}

func TestAnAssessmentIsSharedWithOnePersonOrASchool(t *testing.T) {
	w := newWorld(t)
	near, far := w.hale("Quarry Road"), w.hale("Breakwater")
	far.PersonID = w.otherTeacher.PersonID
	s, err := w.app.StartAssessment(w.ctx, near, outline("Our own quiz"))
	require.NoError(t, err)
	id := s.Assessment.ID
	_, err = w.app.Sheet(w.ctx, far, id)
	require.ErrorIs(t, err, app.ErrNotFound)

	share := func(shares ...store.Share) {
		s, err = w.app.Sheet(w.ctx, near, id)
		require.NoError(t, err)
		s, err = w.app.PutShares(w.ctx, near, id, s.Assessment.Version, shares)
		require.NoError(t, err)
	}
	share(store.Share{SchoolID: far.Posts[0].SchoolID, Copy: true})
	seen, err := w.app.Sheet(w.ctx, far, id)
	require.NoError(t, err)
	assert.Equal(t, []bool{false, false, true, false}, []bool{seen.MayChange, seen.MaySend, seen.MayCopy, seen.MayPrint})
	list, err := w.app.Assessments(w.ctx, far, store.AssessmentFilter{})
	require.NoError(t, err)
	assert.Len(t, list, 1, "it is found by those it is shared with")
	_, err = w.app.Print(w.ctx, far, id, 0)
	assert.ErrorContains(t, err, "not to be printed")
	_, err = w.app.CopyAssessment(w.ctx, far, id, "")
	assert.NoError(t, err)
	_, err = w.app.PutOutline(w.ctx, far, id, seen.Assessment.Version, outline("Theirs"))
	assert.ErrorIs(t, err, app.ErrForbidden)
	share()
	_, err = w.app.Sheet(w.ctx, far, id)
	assert.ErrorIs(t, err, app.ErrNotFound, "once it is shared no more it does not exist for them")
}

func TestWhoEditsDoesNotSendNorShare(t *testing.T) {
	w := newWorld(t)
	s, err := w.app.StartAssessment(w.ctx, w.coordinator, outline("District"))
	require.NoError(t, err)
	s, err = w.app.PutShares(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []store.Share{{PersonID: w.principal.PersonID, Edit: true}})
	require.NoError(t, err)
	assert.Equal(t, "Ada Hale", s.Assessment.Shares[0].Name)
	s, err = w.app.PutOutline(w.ctx, w.principal, s.Assessment.ID, s.Assessment.Version, outline("District, by two"))
	require.NoError(t, err)
	_, err = w.app.PutShares(w.ctx, w.principal, s.Assessment.ID, s.Assessment.Version, nil)
	assert.ErrorIs(t, err, app.ErrForbidden)
	_, err = w.app.PutDistribution(w.ctx, w.principal, s.Assessment.ID, app.DistributionInput{Opens: "2026-10-13T08:00", Closes: "2026-10-16T16:00", Minutes: 50})
	assert.ErrorIs(t, err, app.ErrForbidden)
	for _, bad := range []store.Share{{}, {PersonID: w.student.PersonID}, {SchoolID: 1, Edit: true}} {
		_, err = w.app.PutShares(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []store.Share{bad})
		var invalid *app.InvalidError
		assert.ErrorAs(t, err, &invalid, "%+v", bad)
	}
}

func TestTwoAtWorkSeeEachOther(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	others, err := w.app.Attend(w.ctx, w.coordinator, s.Assessment.ID, "lines")
	require.NoError(t, err)
	assert.Empty(t, others)
	others, err = w.app.Attend(w.ctx, w.second, s.Assessment.ID, "blueprint")
	require.NoError(t, err)
	assert.Equal(t, []app.Present{{Name: "Ines Okafor", Part: "lines"}}, others)
	w.now = w.now.Add(time.Minute)
	others, err = w.app.Attend(w.ctx, w.second, s.Assessment.ID, "blueprint")
	require.NoError(t, err)
	assert.Empty(t, others, "who has not been heard of for a while has gone")
	_, err = w.app.Attend(w.ctx, w.teacher, s.Assessment.ID, "lines")
	assert.ErrorIs(t, err, app.ErrNotFound)
}

func TestAnEarlierStateComesBackAsANewOne(t *testing.T) {
	w := newWorld(t)
	s := w.draft() // three lines
	rows := func(title string) []app.RowInput {
		return []app.RowInput{{Title: title, Filter: blueprint.Filter{Standards: []string{"M6.RR"}}, Min: points.One, Max: points.One}}
	}
	var err error
	change := func(next app.Sheet, e error) { require.NoError(t, e); s = next }
	change(w.app.PutBlueprint(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, rows("First")))
	change(w.app.PutBlueprint(w.ctx, w.second, s.Assessment.ID, s.Assessment.Version, rows("Second")))
	change(w.app.PutLines(w.ctx, w.second, s.Assessment.ID, s.Assessment.Version, nil))
	history, err := w.app.History(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(history), 5)
	assert.Equal(t, "Tomás Lindqvist", history[0].Actor)
	var firstBlueprint, lines int64
	for _, h := range history[1:] {
		switch h.Act {
		case "assessment.blueprint":
			firstBlueprint = h.Number // the oldest is the last seen
		case "assessment.lines":
			lines = h.Number
		}
	}
	change(w.app.Restore(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, firstBlueprint))
	assert.Equal(t, "First", s.Rows[0].Title)
	change(w.app.Restore(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, lines))
	assert.Len(t, s.Lines, 3)
	again, err := w.app.History(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	assert.Len(t, again, len(history)+2, "what was done since stays in the history")
	_, err = w.app.Restore(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, 1)
	assert.ErrorIs(t, err, app.ErrNotFound, "another thing's entry")
	_, err = w.app.Restore(w.ctx, w.principal, s.Assessment.ID, s.Assessment.Version, lines)
	assert.ErrorIs(t, err, app.ErrForbidden)
}
