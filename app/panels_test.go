package app_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	"pineledger/app/panels"
	"pineledger/app/read"
	"pineledger/core/panel"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store/officerows"
)

// judges are teachers of the district, so many of them.
func (d *district) judges(n int) (out []roster.Viewer, ids []int64) {
	d.Helper()
	people, err := officerows.PeopleToTry(d.ctx, d.store.Reader, roster.Teacher, n)
	require.NoError(d, err)
	require.Len(d, people, n)
	for _, p := range people {
		v, err := d.app.Viewer(d.ctx, p.ID)
		require.NoError(d, err)
		out, ids = append(out, v), append(ids, p.ID)
	}
	return out, ids
}

// rate gives every line of every cut a share that rises from cut to cut, and says that it is done.
func (d *district) rate(v roster.Viewer, id int64, round, lines, cuts, base int) {
	d.Helper()
	var given []panels.Given
	for c := range cuts {
		for l := range lines {
			given = append(given, panels.Given{Cut: c, Line: l, Value: base + 20*c})
		}
	}
	require.NoError(d, d.app.Panels.Give(d.ctx, v, id, round, given))
	require.NoError(d, d.app.Panels.PutDone(d.ctx, v, id, round, true))
}

// Three judges rate the fall's benchmark in two rounds after a training; the cuts go into a band set.
func TestAPanelOfJudgesSetsCuts(t *testing.T) {
	d := newDistrictToChange(t)
	head := d.matrix(d.head, read.MatrixQuery{Limit: 1}).Head
	judges, ids := d.judges(3)
	room, ctx := d.app.Panels, d.ctx
	p, err := room.Begin(ctx, d.head, panels.Beginning{Assessment: head.AssessmentID, Method: panel.ByRatings, Judges: ids})
	require.NoError(t, err)
	id, lines := p.ID, len(p.Lines)
	assert.Equal(t, head.Title, p.Title)
	assert.Equal(t, head.Edition, p.Edition)
	require.Len(t, p.Cuts, 3)
	var conflict *desk.ConflictError
	var invalid *desk.InvalidError

	// A judge sees the panel on Today, works on their own screen, and no stranger does.
	today, err := d.app.Today(ctx, judges[0])
	require.NoError(t, err)
	assert.Contains(t, fmt.Sprint(today.Notices), "asks you to judge in a panel")
	asked, err := room.Asked(ctx, judges[0], id)
	require.NoError(t, err)
	assert.Len(t, asked.Lines, lines)
	_, err = room.Asked(ctx, d.someone(roster.Teacher, func(v roster.Viewer) bool {
		return v.PersonID != ids[0] && v.PersonID != ids[1] && v.PersonID != ids[2]
	}), id)
	require.ErrorIs(t, err, desk.ErrNotFound)
	_, err = room.Open(ctx, judges[0], id)
	require.ErrorIs(t, err, desk.ErrNotFound, "a judge is no chair")
	_, err = room.OpenRound(ctx, judges[0], id, false)
	require.ErrorIs(t, err, desk.ErrNotFound)
	require.ErrorIs(t, room.Give(ctx, judges[0], id, 1, []panels.Given{{Value: 50}}), desk.ErrNotFound, "no round is open")

	// The training is no result, and nothing of it is carried on. A judge is told what the chair does, the chair what judges give.
	_, _, err = room.Watch(ctx, d.someone(roster.Teacher, func(v roster.Viewer) bool {
		return v.PersonID != ids[0] && v.PersonID != ids[1] && v.PersonID != ids[2]
	}), id)
	require.ErrorIs(t, err, desk.ErrNotFound)
	asJudge, stop, err := room.Watch(ctx, judges[1], id)
	require.NoError(t, err)
	defer stop()
	asChair, stopToo, err := room.Watch(ctx, d.head, id)
	require.NoError(t, err)
	defer stopToo()
	_, err = room.OpenRound(ctx, d.head, id, true)
	require.NoError(t, err)
	assert.True(t, told(asJudge))
	assert.True(t, told(asChair))
	require.NoError(t, room.Give(ctx, judges[0], id, 1, []panels.Given{{Value: 10}}))
	assert.False(t, told(asJudge), "what another judge gives is nobody's but the chair's")
	assert.True(t, told(asChair))
	require.ErrorAs(t, room.Give(ctx, judges[0], id, 1, []panels.Given{{Value: 101}}), &invalid)
	assert.False(t, told(asChair), "nothing was given")
	_, err = room.OpenRound(ctx, d.head, id, false)
	require.ErrorAs(t, err, &conflict, "one round at a time")
	_, err = room.MoveRound(ctx, d.head, id, 1, panels.CloseIt)
	require.NoError(t, err)
	require.ErrorAs(t, room.Give(ctx, judges[0], id, 1, []panels.Given{{Value: 20}}), &conflict, "it is closed")
	_, err = room.Take(ctx, d.head, id, panels.Taking{Round: 1, Name: "Of the training"})
	require.ErrorAs(t, err, &conflict)
	_, err = room.OpenRound(ctx, d.head, id, false)
	require.NoError(t, err)
	work, err := room.Work(ctx, judges[0], id)
	require.NoError(t, err)
	require.Len(t, work.Rounds, 2)
	assert.Equal(t, []string{"The training round", "Round 1"}, []string{work.Rounds[0].Name, work.Rounds[1].Name})
	assert.Zero(t, work.Rounds[1].Given)

	// Wrong ratings are refused at their place; nobody is done before all is given, nor changes anything after.
	require.ErrorAs(t, room.Give(ctx, judges[0], id, 2, []panels.Given{{Value: 50}, {Line: 1, Value: 101}}), &invalid)
	assert.Equal(t, "/given/1/value", invalid.Fields[0].Pointer)
	require.ErrorAs(t, room.PutDone(ctx, judges[0], id, 2, true), &conflict)
	assert.Contains(t, conflict.Error(), fmt.Sprintf("%d of %d are missing", 3*lines, 3*lines))
	d.rate(judges[0], id, 2, lines, 3, 30)
	require.ErrorAs(t, room.Give(ctx, judges[0], id, 2, []panels.Given{{Value: 1}}), &conflict)
	d.rate(judges[1], id, 2, lines, 3, 40)
	require.NoError(t, room.Give(ctx, judges[2], id, 2, []panels.Given{{Value: 5}}))
	require.NoError(t, room.PutNote(ctx, judges[0], id, 2, " Two steps here. "))

	// Feedback is the chair's to open; then each sees the own place among values without names.
	work, err = room.Work(ctx, judges[1], id)
	require.NoError(t, err)
	assert.Nil(t, work.Rounds[1].Result)
	_, err = room.MoveRound(ctx, d.head, id, 2, panels.Feedback)
	require.ErrorAs(t, err, &conflict, "not while it is open")
	for _, to := range []panels.Move{panels.CloseIt, panels.Reopen, panels.CloseIt, panels.Feedback} {
		_, err = room.MoveRound(ctx, d.head, id, 2, to)
		require.NoError(t, err, to)
	}
	_, err = room.MoveRound(ctx, d.head, id, 2, panels.Reopen)
	require.ErrorAs(t, err, &conflict, "what has been seen stays")
	work, err = room.Work(ctx, judges[1], id)
	require.NoError(t, err)
	seen := work.Rounds[1]
	require.NotNil(t, seen.Result)
	assert.Equal(t, 1, seen.OwnAt)
	total := float64(p.Total) / 100
	assert.InDelta(t, 0.35*total, seen.Result.Cuts[0].Mean, 1e-9)
	assert.Equal(t, len(p.Cuts)+1, len(seen.Shares), "and what the cuts would do")
	work, err = room.Work(ctx, judges[2], id)
	require.NoError(t, err)
	assert.Equal(t, -1, work.Rounds[1].OwnAt, "whose work is not whole has no place")

	// The chair is told who is missing; the next round begins with what was given.
	_, err = room.Leave(ctx, d.head, id, ids[2], false, "")
	require.ErrorAs(t, err, &invalid)
	chair, err := room.Leave(ctx, d.head, id, ids[2], false, "Ill since Tuesday.")
	require.NoError(t, err)
	assert.Equal(t, []string{fmt.Sprintf("Judge 3 left with 1 of %d given: that is not counted.", 3*lines)}, panels.Remarks(chair, chair.Rounds[1]))
	require.Len(t, chair.Notes, 1)
	assert.Equal(t, "Two steps here.", chair.Notes[0].Words)
	_, err = room.OpenRound(ctx, d.head, id, false)
	require.NoError(t, err)
	require.ErrorAs(t, room.Give(ctx, judges[2], id, 3, []panels.Given{{Value: 50}}), &conflict)
	work, err = room.Work(ctx, judges[0], id)
	require.NoError(t, err)
	assert.Equal(t, 3*lines, work.Rounds[2].Given)
	require.NoError(t, room.Give(ctx, judges[0], id, 3, []panels.Given{{Cut: 1, Line: 0, Value: 0}}))
	_, err = room.Take(ctx, d.head, id, panels.Taking{Round: 3, Name: "Too early"})
	require.ErrorAs(t, err, &conflict)
	_, err = room.MoveRound(ctx, d.head, id, 3, panels.CloseIt)
	require.NoError(t, err)

	set, err := room.Take(ctx, d.head, id, panels.Taking{Round: 2, Name: "By the panel"})
	require.NoError(t, err)
	assert.Equal(t, "By the panel", set.Name)
	raw := *set.Bands[1].Raw
	assert.GreaterOrEqual(t, raw, int64(35*p.Total/100))
	assert.Less(t, raw, int64(35*p.Total/100+100))
	_, err = room.Take(ctx, d.head, id, panels.Taking{Round: 3, Median: true, Set: set.ID})
	require.ErrorAs(t, err, &conflict, "what stands from the round before is nobody's judgment yet")
	_, err = room.MoveRound(ctx, d.head, id, 3, panels.Reopen)
	require.NoError(t, err)
	require.NoError(t, room.PutDone(ctx, judges[0], id, 3, true))
	_, err = room.MoveRound(ctx, d.head, id, 3, panels.CloseIt)
	require.NoError(t, err)
	again, err := room.Take(ctx, d.head, id, panels.Taking{Round: 3, Median: true, Set: set.ID})
	require.NoError(t, err)
	assert.Equal(t, set.Version+1, again.Version, "the version before is kept")

	pdf, err := room.ReportPDF(ctx, d.head, id)
	require.NoError(t, err)
	assert.True(t, strings.HasPrefix(string(pdf), "%PDF-"))
	csv, err := room.ReportCSV(ctx, d.head, id)
	require.NoError(t, err)
	rows := strings.Split(strings.TrimSpace(string(csv)), "\n")
	assert.Len(t, rows, 1+1+(6*lines+1)+6*lines, "the training's one, and those of two rounds")
	assert.Contains(t, string(csv), "Round 1,3,"+judges[2].Name+",no,")
	_, err = room.ReportPDF(ctx, judges[0], id)
	assert.ErrorIs(t, err, desk.ErrNotFound)
	_, err = room.End(ctx, d.head, id, true)
	require.NoError(t, err)
	_, err = room.OpenRound(ctx, d.head, id, false)
	assert.ErrorAs(t, err, &conflict)
}

// Two judges mark places in a booklet of ordered items.
func TestAPanelMarksOrderedItems(t *testing.T) {
	d := newDistrictToChange(t)
	head := d.matrix(d.head, read.MatrixQuery{Limit: 1}).Head
	judges, ids := d.judges(2)
	room, ctx := d.app.Panels, d.ctx
	var invalid *desk.InvalidError
	for field, in := range map[string]panels.Beginning{
		"/method":      {Method: "show of hands"},
		"/probability": {Method: panel.ByMarks, Probability: 0.95},
		"/judges/1":    {Method: panel.ByMarks, Judges: []int64{ids[0], ids[0]}},
		"/judges/0":    {Method: panel.ByMarks, Judges: []int64{999_999}},
	} {
		in.Assessment = head.AssessmentID
		_, err := room.Begin(ctx, d.head, in)
		require.ErrorAs(t, err, &invalid, field)
		assert.Equal(t, field, invalid.Fields[0].Pointer)
	}
	p, err := room.Begin(ctx, d.head, panels.Beginning{Assessment: head.AssessmentID, Title: "Marks", Method: panel.ByMarks, Judges: ids})
	require.NoError(t, err)
	_, err = room.OpenRound(ctx, d.head, p.ID, false)
	require.NoError(t, err)
	asked, err := room.Asked(ctx, judges[0], p.ID)
	require.NoError(t, err)
	n := len(asked.Booklet)
	require.GreaterOrEqual(t, n, len(p.Lines))
	for i := 1; i < n; i++ {
		assert.LessOrEqual(t, asked.Booklet[i-1].Location, asked.Booklet[i].Location)
	}
	require.ErrorAs(t, room.Give(ctx, judges[0], p.ID, 1, []panels.Given{{Value: n + 1}}), &invalid)
	require.NoError(t, room.Give(ctx, judges[0], p.ID, 1, []panels.Given{{Value: n / 4}, {Cut: 1, Value: n / 2}, {Cut: 2, Value: 3 * n / 4}}))
	require.NoError(t, room.Give(ctx, judges[1], p.ID, 1, []panels.Given{{Value: n / 2}, {Cut: 1, Value: n / 4}, {Cut: 2, Value: 3 * n / 4}}))
	require.NoError(t, room.PutDone(ctx, judges[0], p.ID, 1, true))
	opened, err := room.Open(ctx, d.head, p.ID)
	require.NoError(t, err)
	assert.Equal(t, []int{0}, opened.Rounds[0].Result.Counted)
	assert.Equal(t, []string{"Judge 2 is not done, with 3 of 3 given: that is not counted."}, panels.Remarks(opened, opened.Rounds[0]))
	require.NoError(t, room.PutDone(ctx, judges[1], p.ID, 1, true))
	opened, err = room.MoveRound(ctx, d.head, p.ID, 1, panels.CloseIt)
	require.NoError(t, err)
	result := opened.Rounds[0].Result
	require.Len(t, result.Counted, 2)
	assert.Equal(t, []string{"Judge 2 puts On course no higher than Underway."}, panels.Remarks(opened, opened.Rounds[0]))
	for _, c := range result.Cuts {
		assert.Equal(t, c.Raw, c.MedianRaw)
		assert.Less(t, points.Points(0), c.Raw)
		assert.NotNil(t, c.Theta)
	}
	assert.Len(t, opened.Rounds[0].Shares, len(p.Cuts)+1)
	sum := 0.0
	for _, s := range opened.Rounds[0].Shares {
		sum += s.Share
	}
	assert.InDelta(t, 1, sum, 1e-9)
	csv, err := room.ReportCSV(ctx, d.head, p.ID)
	require.NoError(t, err)
	assert.Len(t, strings.Split(strings.TrimSpace(string(csv)), "\n"), 7)
	listed, err := room.Listed(ctx, judges[0])
	require.NoError(t, err)
	require.NotEmpty(t, listed)
	assert.Equal(t, "Marks", listed[0].Title, "the newest first")
	assert.True(t, listed[0].Judges)
	assert.False(t, listed[0].Chairs)
}
