package app_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/app/give"
	"pineledger/core/blueprint"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store/buildrows"
	"pineledger/store/officerows"
)

// hale is a school coordinator of the other school than hers.
func (w *world) hale(at string) roster.Viewer {
	v := w.principal
	schools, err := officerows.Schools(w.ctx, w.store.Reader, roster.Scope{District: true})
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
	s, err := w.app.Build.StartAssessment(w.ctx, near, outline("Our own quiz"))
	require.NoError(t, err)
	id := s.Assessment.ID
	_, err = w.app.Build.Sheet(w.ctx, far, id)
	require.ErrorIs(t, err, desk.ErrNotFound)

	share := func(shares ...buildrows.Share) {
		s, err = w.app.Build.Sheet(w.ctx, near, id)
		require.NoError(t, err)
		s, err = w.app.Build.PutShares(w.ctx, near, id, s.Assessment.Version, shares, nil)
		require.NoError(t, err)
	}
	share(buildrows.Share{SchoolID: far.Posts[0].SchoolID, Copy: true})
	seen, err := w.app.Build.Sheet(w.ctx, far, id)
	require.NoError(t, err)
	assert.Equal(t, []bool{false, false, true, false}, []bool{seen.MayChange, seen.MaySend, seen.MayCopy, seen.MayPrint})
	list, err := w.app.Build.Assessments(w.ctx, far, buildrows.AssessmentFilter{})
	require.NoError(t, err)
	assert.Len(t, list, 1, "it is found by those it is shared with")
	_, err = w.app.Build.Print(w.ctx, far, id, 0)
	assert.ErrorContains(t, err, "not to be printed")
	_, err = w.app.Build.CopyAssessment(w.ctx, far, id, "")
	assert.NoError(t, err)
	_, err = w.app.Build.PutOutline(w.ctx, far, id, seen.Assessment.Version, outline("Theirs"))
	assert.ErrorIs(t, err, desk.ErrForbidden)
	share()
	_, err = w.app.Build.Sheet(w.ctx, far, id)
	assert.ErrorIs(t, err, desk.ErrNotFound, "once it is shared no more it does not exist for them")
}

func TestWhoEditsDoesNotSendNorShare(t *testing.T) {
	w := newWorld(t)
	s, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("District"))
	require.NoError(t, err)
	s, err = w.app.Build.PutShares(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []buildrows.Share{{PersonID: w.principal.PersonID, Edit: true}}, nil)
	require.NoError(t, err)
	assert.Equal(t, "Ada Hale", s.Assessment.Shares[0].Name)
	told := func() []string {
		today, err := w.app.Today(w.ctx, w.principal)
		require.NoError(t, err)
		words := []string{}
		for _, n := range today.Notices {
			words = append(words, n.Words)
		}
		return words
	}
	assert.Equal(t, []string{w.coordinator.Name + " shared District with you."}, told())
	s, err = w.app.Build.PutShares(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []buildrows.Share{{PersonID: w.principal.PersonID, Edit: true, Print: true}}, nil)
	require.NoError(t, err)
	assert.Len(t, told(), 1, "told once")
	s, err = w.app.Build.PutOutline(w.ctx, w.principal, s.Assessment.ID, s.Assessment.Version, outline("District, by two"))
	require.NoError(t, err)
	_, err = w.app.Build.PutShares(w.ctx, w.principal, s.Assessment.ID, s.Assessment.Version, nil, nil)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	_, err = w.app.Give.PutDistribution(w.ctx, w.principal, s.Assessment.ID, give.DistributionInput{Waves: give.OneWave("2026-10-13T08:00", "2026-10-16T16:00")})
	assert.ErrorIs(t, err, desk.ErrForbidden)
	for _, bad := range []buildrows.Share{{}, {PersonID: w.student.PersonID}, {SchoolID: 1, Edit: true}, {PersonID: w.teacher.PersonID, Edit: true},
		{Subject: "falconry"}, {PersonID: w.second.PersonID, SchoolID: 1}} {
		_, err = w.app.Build.PutShares(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []buildrows.Share{bad}, nil)
		var invalid *desk.InvalidError
		assert.ErrorAs(t, err, &invalid, "%+v", bad)
	}
}

func TestTwoAtWorkSeeEachOther(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	others, err := w.app.Build.Attend(w.ctx, w.coordinator, s.Assessment.ID, "lines")
	require.NoError(t, err)
	assert.Empty(t, others)
	others, err = w.app.Build.Attend(w.ctx, w.second, s.Assessment.ID, "blueprint")
	require.NoError(t, err)
	assert.Equal(t, []build.Present{{Name: "Ines Okafor", Part: "lines"}}, others)
	w.now = w.now.Add(time.Minute)
	others, err = w.app.Build.Attend(w.ctx, w.second, s.Assessment.ID, "blueprint")
	require.NoError(t, err)
	assert.Empty(t, others, "who has not been heard of for a while has gone")
	_, err = w.app.Build.Attend(w.ctx, w.teacher, s.Assessment.ID, "lines")
	assert.ErrorIs(t, err, desk.ErrNotFound)
}

func TestAnEarlierStateComesBackAsANewOne(t *testing.T) {
	w := newWorld(t)
	s := w.draft() // three lines
	rows := func(title string) []build.RowInput {
		return []build.RowInput{{Title: title, Filter: blueprint.Filter{Standards: []string{"M6.RR"}}, Min: points.One, Max: points.One}}
	}
	var err error
	change := func(next build.Sheet, e error) { require.NoError(t, e); s = next }
	change(w.app.Build.PutBlueprint(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, rows("First")))
	change(w.app.Build.PutBlueprint(w.ctx, w.second, s.Assessment.ID, s.Assessment.Version, rows("Second")))
	change(w.app.Build.PutLines(w.ctx, w.second, s.Assessment.ID, s.Assessment.Version, nil))
	history, err := w.app.Build.History(w.ctx, w.coordinator, s.Assessment.ID)
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
	change(w.app.Build.Restore(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, firstBlueprint))
	assert.Equal(t, "First", s.Rows[0].Title)
	change(w.app.Build.Restore(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, lines))
	assert.Len(t, s.Lines, 3)
	again, err := w.app.Build.History(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	assert.Len(t, again, len(history)+2, "what was done since stays in the history")
	_, err = w.app.Build.Restore(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, 1)
	assert.ErrorIs(t, err, desk.ErrNotFound, "another thing's entry")
	_, err = w.app.Build.Restore(w.ctx, w.principal, s.Assessment.ID, s.Assessment.Version, lines)
	assert.ErrorIs(t, err, desk.ErrForbidden)
}

// The list is the rule as a query: each sees in it just what they may open.
func TestTheListHoldsWhatOneMaySee(t *testing.T) {
	w := newWorld(t)
	here := w.teacher.Departments[0].SchoolID
	viewers := []roster.Viewer{w.coordinator, w.principal, w.hale("Quarry Road"), w.hale("Breakwater"), w.teacher, w.otherTeacher}
	var other int64
	for _, v := range viewers {
		if len(v.Posts) > 0 && v.Posts[0].SchoolID != here && v.Posts[0].SchoolID > 0 {
			other = v.Posts[0].SchoolID
		}
	}
	owners := []roster.Viewer{w.coordinator, w.hale("Quarry Road"), w.hale("Breakwater")}
	shares := [][]buildrows.Share{nil, {{PersonID: w.teacher.PersonID, Print: true}}, {{SchoolID: here}}, {{SchoolID: here, Teachers: true}}, {{SchoolID: here, Subject: "mathematics"}},
		{{SchoolID: other, Subject: "mathematics"}}, {{Subject: "mathematics"}}, {{SchoolID: other, Teachers: true}, {PersonID: w.principal.PersonID, Copy: true}}}
	var ids []int64
	for _, owner := range owners {
		for _, list := range shares {
			s, err := w.app.Build.StartAssessment(w.ctx, owner, outline("Shared"))
			require.NoError(t, err)
			_, err = w.app.Build.PutShares(w.ctx, owner, s.Assessment.ID, s.Assessment.Version, list, nil)
			require.NoError(t, err)
			ids = append(ids, s.Assessment.ID)
		}
	}
	some := 0
	for i, v := range viewers {
		list, err := w.app.Build.Assessments(w.ctx, v, buildrows.AssessmentFilter{})
		require.NoError(t, err)
		listed := map[int64]bool{}
		for _, row := range list {
			listed[row.ID] = true
		}
		for _, id := range ids {
			_, err := w.app.Build.Sheet(w.ctx, v, id)
			require.Equal(t, err == nil, listed[id], "viewer %d, assessment %d", i, id)
			if err == nil {
				some++
			}
		}
	}
	assert.Greater(t, some, len(ids), "more than the district sees")
	_, err := w.app.Build.Assessments(w.ctx, w.student, buildrows.AssessmentFilter{})
	assert.ErrorIs(t, err, desk.ErrForbidden)
}

func TestStaffLetThemselvesInByALink(t *testing.T) {
	w := newWorld(t)
	s, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("Linked"))
	require.NoError(t, err)
	id := s.Assessment.ID
	_, err = w.app.Build.MakeLink(w.ctx, w.teacher, id, true, true)
	require.ErrorIs(t, err, desk.ErrNotFound)
	secret, err := w.app.Build.MakeLink(w.ctx, w.coordinator, id, false, true)
	require.NoError(t, err)
	assert.GreaterOrEqual(t, len(secret), 26, "nobody guesses it")

	_, err = w.app.Build.Sheet(w.ctx, w.teacher, id)
	require.ErrorIs(t, err, desk.ErrNotFound)
	_, err = w.app.Build.FollowLink(w.ctx, w.student, secret)
	require.ErrorIs(t, err, desk.ErrForbidden, "a student never")
	for range 2 {
		got, err := w.app.Build.FollowLink(w.ctx, w.teacher, secret)
		require.NoError(t, err)
		assert.Equal(t, id, got)
	}
	seen, err := w.app.Build.Sheet(w.ctx, w.teacher, id)
	require.NoError(t, err)
	assert.Equal(t, []bool{false, false, true}, []bool{seen.MayChange, seen.MayCopy, seen.MayPrint})
	assert.Nil(t, seen.Link, "who came by it does not pass it on from here")

	s, err = w.app.Build.Sheet(w.ctx, w.coordinator, id)
	require.NoError(t, err)
	require.Len(t, s.Assessment.Shares, 1)
	assert.True(t, s.Assessment.Shares[0].ByLink, "its owner sees who came")
	assert.True(t, s.Link.Print)
	_, err = w.app.Build.FollowLink(w.ctx, w.second, secret)
	require.NoError(t, err, "who sees it anyway is let through")
	s, err = w.app.Build.PutShares(w.ctx, w.coordinator, id, s.Assessment.Version, s.Assessment.Shares, nil)
	require.NoError(t, err)
	assert.True(t, s.Assessment.Shares[0].ByLink, "kept with the others, it is still known how they came")

	// Who comes while somebody has the list open is not dropped by keeping it; who was on it can be taken off.
	_, err = w.app.Build.FollowLink(w.ctx, w.otherTeacher, secret)
	require.NoError(t, err)
	s, err = w.app.Build.PutShares(w.ctx, w.coordinator, id, s.Assessment.Version, s.Assessment.Shares[:1], []int64{w.teacher.PersonID})
	require.NoError(t, err)
	assert.Len(t, s.Assessment.Shares, 2)
	s, err = w.app.Build.PutShares(w.ctx, w.coordinator, id, s.Assessment.Version, s.Assessment.Shares[:0], []int64{w.otherTeacher.PersonID})
	require.NoError(t, err)
	require.Len(t, s.Assessment.Shares, 1)
	assert.Equal(t, w.teacher.PersonID, s.Assessment.Shares[0].PersonID)
	_, err = w.app.Build.Sheet(w.ctx, w.otherTeacher, id)
	require.ErrorIs(t, err, desk.ErrNotFound)

	other, err := w.app.Build.MakeLink(w.ctx, w.coordinator, id, true, true)
	require.NoError(t, err)
	_, err = w.app.Build.FollowLink(w.ctx, w.otherTeacher, secret)
	require.ErrorContains(t, err, "leads nowhere", "a new link ends the one before")
	require.NoError(t, w.app.Build.EndLink(w.ctx, w.coordinator, id))
	_, err = w.app.Build.FollowLink(w.ctx, w.otherTeacher, other)
	require.ErrorContains(t, err, "leads nowhere")
	_, err = w.app.Build.Sheet(w.ctx, w.teacher, id)
	assert.NoError(t, err, "who was let in stays until taken off")
}
