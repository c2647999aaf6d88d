package app_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	"pineledger/app/give"
	"pineledger/app/supports"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/core/support"
	"pineledger/store/giverows"
)

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
