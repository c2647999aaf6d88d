package app_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/bank"
	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/app/intake"
	"pineledger/core/assessment"
	"pineledger/core/blueprint"
	"pineledger/core/draw"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store/recordrows"
)

// stock adds n items to the bank, by turns of ratios and figures, harder and harder.
func (w *world) stock(n int) {
	w.Helper()
	var b strings.Builder
	b.WriteString("identifier,bank,kind,subject,grade,standards,depth,difficulty,stem,choice_1,choice_2,key\n")
	for i := range n {
		fmt.Fprintf(&b, "D%d,Bank,single-choice,Mathematics,06,%s,%d,%.2f,Question number %d about ferries?,yes,no,%s\n",
			i, []string{"M6.RR", "M6.FS"}[i%2], 1+i%3, 0.9-0.02*float64(i), i*37, []string{"A", "B"}[i/2%2])
	}
	w.take(roster.Viewer{Name: "system", Posts: []roster.Post{{Role: roster.DistrictCoordinator}}}, intake.ImportItems, w.file("stock.csv", b.String()), n)
}

func planned(title, standard string, n int) build.RowInput {
	return build.RowInput{Title: title, Filter: blueprint.Filter{Standards: []string{standard}}, Min: points.One * points.Points(n), Max: points.One * points.Points(n)}
}

// blueprinted is a draft with three lines and a blueprint of four ratios and three
// figures; n more items are in the bank.
func (w *world) blueprinted(n int) build.Sheet {
	w.Helper()
	s := w.draft()
	w.stock(n)
	s, err := w.app.Build.PutBlueprint(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.RowInput{planned("Ratios", "M6.RR", 4), planned("Figures", "M6.FS", 3)})
	require.NoError(w, err)
	return s
}

func (w *world) drawn(s build.Sheet, q build.DrawQuestion) build.Drawing {
	w.Helper()
	d, err := w.app.Draws.StartDraw(w.ctx, w.coordinator, s.Assessment.ID, q, time.Minute)
	require.NoError(w, err)
	return d
}

func TestADrawFillsTheBlueprintAroundTheLinesThatStand(t *testing.T) {
	w := newWorld(t)
	s := w.blueprinted(30)
	pools, err := w.app.Draws.Pools(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, []int{17, 17}, pools, "fifteen of the stock and two of the three that stand, one of them in both")

	d := w.drawn(s, build.DrawQuestion{Mode: draw.Best, Keep: true, Target: &draw.Target{Target: 600, Tolerance: 20}})
	require.Equal(t, build.DrawFound, d.State)
	require.Len(t, d.Answer.Forms, 1)
	assert.Len(t, d.Answer.Forms[0].Items, 7)
	assert.Zero(t, d.Answer.Aims.Difficulty)
	require.NotNil(t, d.Answer.Bound)
	assert.Equal(t, d.Answer.Aims, *d.Answer.Bound)

	s, err = w.app.Draws.PlaceDraw(w.ctx, w.coordinator, s.Assessment.ID, d.ID, s.Assessment.Version)
	require.NoError(t, err)
	assert.Zero(t, s.Shortage+s.Excess)
	require.Len(t, s.Lines, 7)
	for i, id := range []string{"I1", "I2", "I3"} {
		assert.Equal(t, id, s.Lines[i].Identifier, "what stood stays in its place")
	}
	_, err = w.app.Draws.PlaceDraw(w.ctx, w.coordinator, s.Assessment.ID, d.ID, s.Assessment.Version)
	assert.ErrorContains(t, err, "placed already")
	entries, err := recordrows.Ledger(w.ctx, w.store.Reader, recordrows.LedgerFilter{Limit: 5})
	require.NoError(t, err)
	assert.Equal(t, "assessment.draw", entries[0].Act)
	assert.Contains(t, entries[0].After, `"seed":0`)
}

func TestADrawNamesWhatIsShortAndWhatIsFoughtOver(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	w.stock(4)
	s, err := w.app.Build.PutBlueprint(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.RowInput{planned("Ratios", "M6.RR", 3), planned("All", "M6", 6)})
	require.NoError(t, err)
	d := w.drawn(s, build.DrawQuestion{Mode: draw.Best, Keep: true})
	require.Equal(t, build.DrawShort, d.State)
	require.Len(t, d.Answer.Shortage, 1)
	short := d.Answer.Shortage[0]
	assert.Equal(t, []int{0, 1}, short.Rows)
	assert.Equal(t, 900, short.Need)
	assert.Equal(t, 700, short.Have)
	assert.Subset(t, short.Contested, []string{"D0", "D2"})
	_, err = w.app.Draws.PlaceDraw(w.ctx, w.coordinator, s.Assessment.ID, d.ID, s.Assessment.Version)
	assert.ErrorContains(t, err, "found nothing")
}

func TestADrawLeavesOutWhatIsHeldOrWasGiven(t *testing.T) {
	w := newWorld(t)
	w.sent() // I1 to I3 are given to grade 6
	s := w.blueprinted(10)
	held, err := w.app.Bank.Items(w.ctx, w.coordinator, bank.ItemSearch{Words: "D0"})
	require.NoError(t, err)
	require.NotEmpty(t, held.Items)
	require.NoError(t, w.app.Word.HoldItems(w.ctx, w.coordinator, bank.HoldInput{Items: []int64{held.Items[0].ID}, Until: "2026-12-01"}))
	pools, err := w.app.Draws.Pools(w.ctx, w.second, s.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, []int{6, 7}, pools, "held by one, it is not there for another")
	pools, err = w.app.Draws.Pools(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, []int{7, 7}, pools, "but for oneself it is")

	fresh, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("Winter"))
	require.NoError(t, err)
	fresh, err = w.app.Build.PutBlueprint(w.ctx, w.coordinator, fresh.Assessment.ID, fresh.Assessment.Version, []build.RowInput{planned("Ratios", "M6.RR", 6)})
	require.NoError(t, err)
	assert.Equal(t, build.DrawFound, w.drawn(fresh, build.DrawQuestion{Mode: draw.Best}).State)
	late := w.drawn(fresh, build.DrawQuestion{Mode: draw.Best, NotSince: "2026-09-01"})
	require.Equal(t, build.DrawShort, late.State, "two of the seven were given")
	assert.Equal(t, 500, late.Answer.Shortage[0].Have)
}

func TestItemsThatMustNotMeetAreDrawnApart(t *testing.T) {
	w := newWorld(t)
	w.stock(2)
	s, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("Fall"))
	require.NoError(t, err)
	s, err = w.app.Build.PutBlueprint(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.RowInput{planned("Ratios", "M6.RR", 3)})
	require.NoError(t, err)
	require.Equal(t, build.DrawFound, w.drawn(s, build.DrawQuestion{}).State)
	ids := map[string]int64{}
	page, err := w.app.Bank.Items(w.ctx, w.coordinator, bank.ItemSearch{})
	require.NoError(t, err)
	for _, it := range page.Items {
		ids[it.Identifier] = it.ID
	}
	require.NoError(t, w.app.Word.SetHostile(w.ctx, w.coordinator, ids["D0"], "I1", "one gives the other away"))
	d := w.drawn(s, build.DrawQuestion{})
	require.Equal(t, build.DrawShort, d.State)
	assert.Equal(t, 200, d.Answer.Shortage[0].Have)
	assert.Equal(t, build.DrawFound, w.drawn(s, build.DrawQuestion{Meeting: true}).State, "unless they may")
	pairs, err := w.app.Word.HostileTo(w.ctx, w.coordinator, ids["I1"])
	require.NoError(t, err)
	require.Len(t, pairs, 1)
	assert.Equal(t, "D0", pairs[0].Identifier, "a pair is seen from both sides")
	require.NoError(t, w.app.Word.EndHostile(w.ctx, w.coordinator, ids["I1"], ids["D0"]))
	assert.Equal(t, build.DrawFound, w.drawn(s, build.DrawQuestion{}).State)
}

func TestAQuestionInASentence(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	w.stock(20)
	d := w.drawn(s, build.DrawQuestion{Mode: draw.Random, Seed: 5, Simple: &build.SimpleDraw{Total: 6, Standards: []string{"M6.RR", "M6.FS"}, Difficulty: &[2]int{600, 900},
		Kinds: []build.KindCount{{Kind: "single-choice", Count: 6}}}})
	require.Equal(t, build.DrawFound, d.State, d.Answer)
	require.Len(t, d.Answer.Rows, 2)
	assert.EqualValues(t, 300, d.Answer.Rows[0].Min)
	for _, it := range d.Answer.Forms[0].Items {
		assert.GreaterOrEqual(t, *it.Difficulty, 600)
		assert.False(t, it.Stays)
	}
	again := w.drawn(s, d.Question)
	assert.Equal(t, d.Answer.Forms, again.Answer.Forms, "the same seed draws the same items")
	s, err := w.app.Draws.PlaceDraw(w.ctx, w.coordinator, s.Assessment.ID, d.ID, s.Assessment.Version)
	require.NoError(t, err)
	assert.Len(t, s.Lines, 9, "on top of what stands")
}

func TestAStandardNobodyKnowsIsNamedBeforeAnythingIsDrawn(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	w.stock(4)
	_, err := w.app.Draws.StartDraw(w.ctx, w.coordinator, s.Assessment.ID, build.DrawQuestion{Simple: &build.SimpleDraw{Total: 2, Standards: []string{"M6.RR", "M6.XX"}}}, time.Minute)
	assert.ErrorContains(t, err, `There is no standard "M6.XX".`)
}

func TestTwinFormsBecomeDraftsOfTheirOwn(t *testing.T) {
	w := newWorld(t)
	s := w.blueprinted(30)
	anchor := s.Lines[0].ItemID
	d := w.drawn(s, build.DrawQuestion{Mode: draw.Best, Forms: 2, Anchors: []int64{anchor}, Target: &draw.Target{Target: 600, Tolerance: 5}})
	require.Equal(t, build.DrawFound, d.State, d.Answer)
	s, err := w.app.Draws.PlaceDraw(w.ctx, w.coordinator, s.Assessment.ID, d.ID, s.Assessment.Version)
	require.NoError(t, err)
	require.Len(t, s.Forms, 2)
	assert.Equal(t, "Fall, form B", s.Forms[1].Title)
	twin, err := w.app.Build.Sheet(w.ctx, w.coordinator, s.Forms[1].ID)
	require.NoError(t, err)
	assert.Zero(t, twin.Shortage+twin.Excess+s.Shortage+s.Excess)
	common := 0
	for _, l := range s.Lines {
		for _, m := range twin.Lines {
			if l.ItemID == m.ItemID {
				common++
			}
		}
	}
	assert.Equal(t, 1, common, "the anchor alone")
	assert.LessOrEqual(t, d.Answer.Aims.Spread, 20)
}

// copies adds near copies of one task about ratios to the bank, the last without a difficulty, and one task of its own.
func (w *world) copies(n int) {
	w.Helper()
	var b strings.Builder
	b.WriteString("identifier,bank,kind,subject,grade,standards,depth,difficulty,stem,choice_1,choice_2,key\n")
	for i := range n {
		difficulty := fmt.Sprintf("%.2f", 0.8-0.1*float64(i))
		if i == n-1 {
			difficulty = ""
		}
		fmt.Fprintf(&b, "C%d,Bank,single-choice,Mathematics,06,M6.RR,4,%s,A harbor museum had %d visitors in May. How many is that each day?,yes,no,A\n", i, difficulty, 310+31*i)
	}
	b.WriteString("E1,Bank,single-choice,Mathematics,06,M6.RR,4,0.50,Which of the two ferries is the faster one?,yes,no,A\n")
	w.take(roster.Viewer{Name: "system", Posts: []roster.Post{{Role: roster.DistrictCoordinator}}}, intake.ImportItems, w.file("copies.csv", b.String()), n+1)
}

func TestNearCopiesDoNotMeetUnlessTheyMay(t *testing.T) {
	w := newWorld(t)
	s, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("Fall"))
	require.NoError(t, err)
	w.copies(4)
	three := build.DrawQuestion{Simple: &build.SimpleDraw{Total: 3, Standards: []string{"M6.RR"}, Depth: []int{4}}}
	pool, err := w.app.Draws.Pool(w.ctx, w.coordinator, s.Assessment.ID, three)
	require.NoError(t, err)
	assert.Equal(t, 5, pool.Pool)
	assert.Equal(t, 2, pool.Apart, "four of them are one task")
	assert.Equal(t, build.DrawShort, w.drawn(s, three).State)
	three.Copies = true
	assert.Equal(t, build.DrawFound, w.drawn(s, three).State)

	two := build.DrawQuestion{Simple: &build.SimpleDraw{Total: 2, Standards: []string{"M6.RR"}, Depth: []int{4}}}
	d := w.drawn(s, two)
	require.Equal(t, build.DrawFound, d.State, d.Answer)
	assert.Equal(t, []build.KindCount{{Kind: "single-choice", Count: 2}}, build.KindsOf(d.Answer.Forms[0]))
	s, err = w.app.Draws.PlaceDraw(w.ctx, w.coordinator, s.Assessment.ID, d.ID, s.Assessment.Version)
	require.NoError(t, err)
	pool, err = w.app.Draws.Pool(w.ctx, w.coordinator, s.Assessment.ID, two)
	require.NoError(t, err)
	assert.Zero(t, pool.Pool, "what stands, and what is like it, does not come again")
	offers, err := w.app.Draws.Swaps(w.ctx, w.coordinator, s.Assessment.ID, s.Lines[slices.IndexFunc(s.Lines, func(l build.SheetLine) bool { return l.Identifier == "E1" })].ItemID)
	require.NoError(t, err)
	for _, o := range offers {
		assert.NotContains(t, o.Stem, "museum", "nor by a swap for another line")
	}
}

func TestWhatHasNoDifficultyIsEstimatedAndSaid(t *testing.T) {
	w := newWorld(t)
	s, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("Fall"))
	require.NoError(t, err)
	w.copies(3) // .8, .7, none; and .5
	d := w.drawn(s, build.DrawQuestion{Copies: true, Target: &draw.Target{Target: 667}, Simple: &build.SimpleDraw{Total: 4, Standards: []string{"M6.RR"}, Depth: []int{4}}})
	require.Equal(t, build.DrawFound, d.State, d.Answer)
	require.NotNil(t, d.Answer.Estimate)
	assert.Equal(t, 667, *d.Answer.Estimate, "the mean of .8, .7 and .5")
	assert.Equal(t, 1, d.Unknown())
	assert.Equal(t, 667, *d.Answer.Forms[0].Mean)
	assert.True(t, d.Proven())
}

func TestADrawSaysWhichLinesPlacingItTakesOut(t *testing.T) {
	w := newWorld(t)
	s := w.blueprinted(30) // three lines stand
	assert.Zero(t, w.drawn(s, build.DrawQuestion{Keep: true}).Leaving, "the draw fills in around them")
	d := w.drawn(s, build.DrawQuestion{})
	stay := 0
	for _, it := range d.Answer.Forms[0].Items {
		if it.Stays {
			stay++
		}
	}
	assert.Equal(t, 3-stay, d.Leaving)
	assert.Positive(t, d.Leaving)
	assert.Zero(t, w.drawn(s, build.DrawQuestion{Simple: &build.SimpleDraw{Total: 2}}).Leaving, "a question comes on top")
	assert.Zero(t, w.drawn(s, build.DrawQuestion{Row: 1}).Leaving, "so does one row")
}

func TestWhoMayDraw(t *testing.T) {
	w := newWorld(t)
	s := w.blueprinted(10)
	_, err := w.app.Draws.StartDraw(w.ctx, w.principal, s.Assessment.ID, build.DrawQuestion{}, 0)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	_, err = w.app.Draws.StartDraw(w.ctx, w.teacher, s.Assessment.ID, build.DrawQuestion{}, 0)
	assert.ErrorIs(t, err, desk.ErrNotFound)
	d := w.drawn(s, build.DrawQuestion{})
	other, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("Other"))
	require.NoError(t, err)
	_, err = w.app.Draws.Draw(w.ctx, w.coordinator, other.Assessment.ID, d.ID)
	assert.ErrorIs(t, err, desk.ErrNotFound, "a draw is asked for by its assessment")
	_, err = w.app.Draws.StartDraw(w.ctx, w.coordinator, other.Assessment.ID, build.DrawQuestion{}, 0)
	var invalid *desk.InvalidError
	require.ErrorAs(t, err, &invalid, "without a blueprint")
	list, err := w.app.Draws.Draws(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	assert.Len(t, list, 1)
}

func TestClosingWaitsUntilWhatCameOfADrawIsKept(t *testing.T) {
	w := newWorld(t)
	s := w.blueprinted(30)
	d, err := w.app.Draws.StartDraw(w.ctx, w.coordinator, s.Assessment.ID, build.DrawQuestion{Forms: 2}, 0)
	require.NoError(t, err)
	w.app.Close()
	d, err = w.app.Draws.Draw(w.ctx, w.coordinator, s.Assessment.ID, d.ID)
	require.NoError(t, err)
	assert.NotEqual(t, build.DrawRunning, d.State)
	require.NotNil(t, d.Answer)
	_, err = w.app.Draws.StartDraw(w.ctx, w.coordinator, s.Assessment.ID, build.DrawQuestion{}, 0)
	var conflict *desk.ConflictError
	assert.ErrorAs(t, err, &conflict, "nothing begins any more")
}

func TestSwapsOfferTheNearestEquals(t *testing.T) {
	w := newWorld(t)
	s := w.blueprinted(20)
	offers, err := w.app.Draws.Swaps(w.ctx, w.coordinator, s.Assessment.ID, s.Lines[0].ItemID) // I1: ratios, 0.70, depth 1
	require.NoError(t, err)
	require.NotEmpty(t, offers)
	assert.Equal(t, []string{"same row", "as hard"}, offers[0].Why)
	for _, o := range offers {
		assert.False(t, o.Stays, "%s is a line already", o.Identifier)
	}
}

func TestACopyBringsEverythingButDates(t *testing.T) {
	w := newWorld(t)
	sent := w.sent()
	title, err := w.app.Build.ProposeCopy(w.ctx, w.second, sent.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, "Fall, version 2", title)
	w.setting(sent.Assessment.ID, settings.LaterDate, "2026-12-12T09:00")
	s, err := w.app.Build.CopyAssessment(w.ctx, w.second, sent.Assessment.ID, "")
	view, viewErr := w.app.Give.Settings(w.ctx, w.second, settings.Place{Assessment: s.Assessment.ID})
	require.NoError(t, viewErr)
	assert.Equal(t, "50 minutes", one(t, view, settings.Minutes).Words(one(t, view, settings.Minutes).Value), "settings come along")
	assert.Nil(t, one(t, view, settings.LaterDate).Here, "but no day of theirs")
	require.NoError(t, err)
	assert.Equal(t, "Fall, version 2", s.Assessment.Title)
	assert.Equal(t, assessment.Draft, s.Assessment.State)
	assert.Empty(t, s.Sittings)
	assert.Equal(t, sent.Assessment.BandSetID, s.Assessment.BandSetID)
	require.NotNil(t, s.CopiedFrom)
	assert.Equal(t, sent.Assessment.ID, s.CopiedFrom.ID)
	require.Len(t, s.Lines, len(sent.Lines))
	for i := range s.Lines {
		assert.Equal(t, sent.Lines[i].ID, s.Lines[i].ID, "the pinned version")
	}
	title, err = w.app.Build.ProposeCopy(w.ctx, w.second, s.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, "Fall, version 3", title, "the next free number, from the copy too")
	_, err = w.app.Build.CopyAssessment(w.ctx, w.teacher, sent.Assessment.ID, "")
	assert.ErrorIs(t, err, desk.ErrForbidden)
}

// A row that is over keeps what it has; the draw fills the others.
func TestADrawFillsAroundARowThatIsOver(t *testing.T) {
	w := newWorld(t)
	s := w.blueprinted(10)
	s, err := w.app.Build.PutBlueprint(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.RowInput{planned("Ratios", "M6.RR", 0), planned("Figures", "M6.FS", 5)})
	require.NoError(t, err)
	require.Equal(t, points.One, s.Excess)
	d := w.drawn(s, build.DrawQuestion{Mode: draw.Best, Keep: true})
	require.Equal(t, build.DrawFound, d.State, d.Answer)
	assert.Len(t, d.Answer.Forms[0].Items, 6)
}
