package app_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/build"
	"pineledger/core/attempt"
	"pineledger/core/form"
	"pineledger/core/points"
	"pineledger/core/settings"
	"pineledger/core/support"
	"pineledger/store/officerows"
)

// withheld arranges a draft's lines so that each is answered without the tools named for it.
func (w *world) withheld(s build.Sheet, without ...[]string) (build.Sheet, error) {
	in := make([]build.LineInput, len(s.Lines))
	for i, l := range s.Lines {
		in[i] = build.LineInput{ItemID: l.ItemID, Points: points.Points(l.Points), Without: without[i]}
	}
	return w.app.Build.PutLayout(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, in, form.Layout{})
}

// outWith is an assessment of three lines that is out: with a calculator for everyone, and nothing else at its first line.
func (w *world) outWith(tools ...string) given {
	w.Helper()
	s, err := w.withheld(w.draft(), tools, nil, nil)
	require.NoError(w, err)
	s = w.send(w.seal(s), func(officerows.Section) bool { return true })
	w.setting(s.Assessment.ID, settings.Calculator, "basic")
	w.setting(s.Assessment.ID, settings.Screen, "page")
	w.now = w.now.Add(time.Hour)
	g := given{w, s, w.sittingOf(w.teacher)}
	g.door(attempt.Open)
	return g
}

func TestALineIsAnsweredWithoutATool(t *testing.T) {
	w := newWorld(t)
	g := w.outWith(settings.Calculator, settings.ScratchPad)
	view := g.begin()
	assert.Equal(t, "basic", view.How.Tools.Calculator)
	assert.Equal(t, []string{settings.Calculator, settings.ScratchPad}, view.Lines[0].Without)
	assert.Empty(t, view.Lines[1].Without)
	assert.False(t, view.How.OnePage, "one bar of tools cannot serve all lines at once")

	tried, err := g.app.Take.Preview(g.ctx, g.coordinator, g.sheet.Assessment.ID, 1)
	require.NoError(t, err)
	assert.Equal(t, view.Lines[0].Without, tried.Lines[0].Without, "who tries it has the same")
	copied, err := g.app.Build.CopyAssessment(g.ctx, g.coordinator, g.sheet.Assessment.ID, "")
	require.NoError(t, err)
	assert.Equal(t, "calculator scratchPad", copied.Lines[0].Without)
}

func TestASupportIsGivenOnTheOtherLines(t *testing.T) {
	w := newWorld(t)
	w.enter(w.student, support.Calculator, "scientific")
	g := w.outWith(settings.Calculator)
	first := g.open()
	assert.Equal(t, "scientific", first.How.Tools.Calculator)
	id := g.sheet.Assessment.ID
	_, err := g.app.Supports.Rule(g.ctx, g.coordinator, id, support.Calculator, support.Allow, "The plan names it for everything.")
	require.NoError(t, err)
	view := g.begin()
	assert.Empty(t, view.Lines[0].Without, "a coordinator let it")
	assert.True(t, g.open().Attempt.Apart, "and the result does not compare")
}

func TestASupportBreaksNothingWhereALineIsLeftOut(t *testing.T) {
	w := newWorld(t)
	w.enter(w.student, support.Calculator, "scientific")
	g := w.outWith(settings.Calculator)
	view := g.begin()
	assert.Equal(t, []string{settings.Calculator}, view.Lines[0].Without)
	assert.False(t, g.open().Attempt.Apart)
}

func TestToolsOfALineAreArranged(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	_, err := w.withheld(s, []string{"zoom"}, nil, nil)
	assert.ErrorContains(t, err, `Line 1: "zoom" is no tool that a line can be answered without`)
	_, err = w.withheld(s, nil, []string{settings.Ruler, settings.Ruler}, nil)
	assert.ErrorContains(t, err, "stands there twice")
	s, err = w.withheld(s, nil, []string{settings.Ruler}, nil)
	require.NoError(t, err)
	turned, err := w.app.Build.PutLines(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.LineInput{{ItemID: s.Lines[1].ItemID, Points: points.One}})
	require.NoError(t, err)
	assert.Equal(t, settings.Ruler, turned.Lines[0].Without, "a line that stays keeps them")
	d, err := w.app.Build.Line(w.ctx, w.coordinator, s.Assessment.ID, s.Lines[1].ItemID)
	require.NoError(t, err)
	assert.Equal(t, build.LineTool{Key: settings.Calculator, Name: "Calculator", Words: "none"}, d.Tools[0])
	assert.Len(t, d.Tools, len(settings.OfLines))

	list, err := w.app.Build.History(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	back, err := w.app.Build.Restore(w.ctx, w.coordinator, s.Assessment.ID, turned.Assessment.Version, list[1].Number)
	require.NoError(t, err)
	assert.Equal(t, []string{"", settings.Ruler, ""}, []string{back.Lines[0].Without, back.Lines[1].Without, back.Lines[2].Without}, "as they were, tools and all")
}
