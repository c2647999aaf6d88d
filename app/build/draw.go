package build

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"time"

	"pineledger/app/desk"
	"pineledger/core/draw"
	"pineledger/core/roster"
	"pineledger/run/jobs"
	"pineledger/store"
	"pineledger/store/buildrows"
	"pineledger/store/sqlite"
)

// States of a draw.
const (
	DrawRunning = "running"
	DrawFound   = "found"
	DrawShort   = "short"
	DrawStopped = "stopped"
	DrawFailed  = "failed"
)

const (
	mostContested = 12
	drawBudget    = 3 * time.Second
	twinBudget    = 10 * time.Second
	drawSettling  = time.Minute
	mostTwinForms = 4
	mostDrawPool  = 60_000
)

// Drawing is a draw with its answer, once there is one.
type Drawing struct {
	buildrows.Draw
	Question DrawQuestion
	Answer   *DrawAnswer   // nil while it runs
	Elapsed  time.Duration // while it runs
	Budget   time.Duration
	Leaving  int // lines that placing it would take out now
}

// Proven says that no draw is better. Of draws at random nothing is proven.
func (d Drawing) Proven() bool {
	return d.Answer != nil && d.Answer.Bound != nil && *d.Answer.Bound == d.Answer.Aims
}

// Unknown is how many of the items drawn, over all forms, have no difficulty.
func (d Drawing) Unknown() (n int) {
	if d.Answer == nil {
		return 0
	}
	for _, f := range d.Answer.Forms {
		for _, it := range f.Items {
			if it.Difficulty == nil {
				n++
			}
		}
	}
	return n
}

// KindsOf counts a form's items by kind, in the order in which the kinds come up.
func KindsOf(f DrawnForm) (out []KindCount) {
	for _, it := range f.Items {
		at := slices.IndexFunc(out, func(k KindCount) bool { return k.Kind == it.Kind })
		if at < 0 {
			at = len(out)
			out = append(out, KindCount{Kind: it.Kind})
		}
		out[at].Count++
	}
	return out
}

// drawing is the kind of work of draws: one for each core at a time.
var drawing = jobs.Kind{Name: "draw", Most: 2}

// StartDraw begins a draw for an assessment that the viewer may change. It waits a
// moment for the answer; a longer draw goes on behind the screen.
func (a *Draws) StartDraw(ctx context.Context, v roster.Viewer, id int64, q DrawQuestion, wait time.Duration) (Drawing, error) {
	q.Forms = max(q.Forms, 1)
	asked, err := a.asked(ctx, v, id, q)
	if err != nil {
		return Drawing{}, err
	}
	place, ok := a.Jobs.Take(drawing)
	if !ok {
		return Drawing{}, desk.Conflict("Other draws are running; try again in a few seconds.")
	}
	drawID, err := a.noteDraw(ctx, v, id, q)
	if err != nil {
		place.Give()
		return Drawing{}, err
	}
	job := a.runDraw(ctx, place, drawID, asked, q)
	select {
	case <-job.Done():
	case <-time.After(wait):
	case <-ctx.Done():
	}
	return a.Draw(ctx, v, id, drawID)
}

// Pool tells what a draw would choose from: an answer with its rows and counts, before anything is drawn.
func (a *Draws) Pool(ctx context.Context, v roster.Viewer, id int64, q DrawQuestion) (DrawAnswer, error) {
	q.Forms = max(q.Forms, 1)
	asked, err := a.asked(ctx, v, id, q)
	return asked.answer, err
}

// asked is a question about a draft that the viewer may change, with the pool read.
func (a *Draws) asked(ctx context.Context, v roster.Viewer, id int64, q DrawQuestion) (askedDraw, error) {
	row, err := desk.Assessment(ctx, a.Store.Reader, v, id)
	switch {
	case err != nil:
		return askedDraw{}, err
	case !v.MayChange(row.Owned()):
		return askedDraw{}, desk.ErrForbidden
	}
	if err := desk.MustBeDraft(&row); err != nil {
		return askedDraw{}, err
	}
	if q.Forms > mostTwinForms {
		return askedDraw{}, desk.Invalid("/forms", "%d forms at most.", mostTwinForms)
	}
	return a.drawRequest(ctx, v, row, q)
}

func (a *Draws) noteDraw(ctx context.Context, v roster.Viewer, id int64, q DrawQuestion) (drawID int64, err error) {
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		drawID, err = buildrows.AddDraw(ctx, tx, buildrows.Draw{AssessmentID: id, PersonID: v.PersonID, At: store.Millis(a.Now()), Question: sqlite.JSON[DrawQuestion]{V: q}, Seed: q.Seed, State: DrawRunning})
		return err
	})
	return drawID, err
}

// askedDraw is a draw with what its answer is told in.
type askedDraw struct {
	request draw.Request
	answer  DrawAnswer
	known   map[string]DrawnItem
	at      map[string]int // row id → place
}

// runDraw begins the computation, which outlives the request that asked for it.
func (a *Draws) runDraw(ctx context.Context, place *jobs.Place, id int64, asked askedDraw, q DrawQuestion) *jobs.Job {
	budget := drawBudget
	if q.Forms > 1 {
		budget = twinBudget
	}
	state, answer := DrawFailed, asked.answer
	return place.Start(ctx, id, func(ctx context.Context, job *jobs.Job) error {
		job.Tell(budget)
		state, answer = asked.compute(ctx, budget)
		return nil
	}, func(ctx context.Context, fault error) {
		if fault != nil {
			answer.Message = desk.Sentence(fault.Error())
		}
		if err := a.keepDraw(ctx, id, state, answer); err != nil {
			a.Log.Error("a draw could not be kept", "draw", id, "error", err)
		}
	})
}

func (d askedDraw) compute(ctx context.Context, budget time.Duration) (state string, answer DrawAnswer) {
	answer = d.answer
	began := time.Now()
	result, err := d.request.Run(draw.Clock{
		Left: func() float64 {
			if ctx.Err() != nil {
				return 0
			}
			return 1 - float64(time.Since(began))/float64(budget)
		},
		Over: func() bool { return ctx.Err() != nil || time.Since(began) > drawSettling },
	})
	answer.Millis = time.Since(began).Milliseconds()
	switch {
	case ctx.Err() != nil:
		return DrawStopped, answer
	case errors.Is(err, draw.ErrUnsettled):
		answer.Message = "After a minute it is still open whether this can be met. Ask for fewer rules, or draw the rows one by one."
		return DrawFailed, answer
	case err != nil:
		answer.Message = desk.Sentence(err.Error())
		return DrawFailed, answer
	case !result.Feasible:
		answer.Because = desk.Sentence(result.Because)
		answer.Shortage = d.shortage(result.Shortage)
		return DrawShort, answer
	}
	answer.Aims, answer.Bound = result.Objective, result.Bound
	for _, f := range result.Forms {
		answer.Forms = append(answer.Forms, d.form(f))
	}
	return DrawFound, answer
}

// form puts a form's items in the order of the rows; what hangs on one passage stays together.
func (d askedDraw) form(f draw.Form) DrawnForm {
	out := DrawnForm{Items: []DrawnItem{}, Mean: f.MeanDifficulty}
	for _, c := range f.Items {
		it := d.known[c.ID]
		it.Row = d.at[c.Row]
		out.Items = append(out.Items, it)
	}
	slices.SortStableFunc(out.Items, func(x, y DrawnItem) int { return x.Row - y.Row })
	first := map[int64]int{}
	for i, it := range out.Items {
		if _, seen := first[it.Passage]; !seen && it.Passage > 0 {
			first[it.Passage] = i
		}
	}
	place := func(i int, it DrawnItem) int {
		if at, ok := first[it.Passage]; ok && it.Passage > 0 {
			return at
		}
		return i
	}
	order := make(map[int64]int, len(out.Items))
	for i, it := range out.Items {
		order[it.ItemID] = place(i, it)
	}
	slices.SortStableFunc(out.Items, func(x, y DrawnItem) int { return order[x.ItemID] - order[y.ItemID] })
	return out
}

func (d askedDraw) shortage(list []draw.Shortage) []DrawShortage {
	var out []DrawShortage
	for _, s := range list {
		short := DrawShortage{Need: s.Need, Have: s.Have, Rows: []int{}, Contested: []string{}}
		for _, id := range s.Rows {
			short.Rows = append(short.Rows, d.at[id])
		}
		if len(s.Rows) > 1 {
			short.Contested = d.contested(short.Rows)
		}
		out = append(out, short)
	}
	return out
}

// contested names items that more than one of the rows could use.
func (d askedDraw) contested(rows []int) []string {
	out := []string{}
	for _, it := range d.request.Items {
		n := 0
		for _, at := range rows {
			if d.request.Tree.Meets(d.request.Plan.Rows[at].Filter, it) {
				n++
			}
		}
		if n > 1 && len(out) < mostContested {
			out = append(out, d.known[it.ID].Identifier)
		}
	}
	return out
}

func (a *Draws) keepDraw(ctx context.Context, id int64, state string, answer DrawAnswer) error {
	return a.Store.Write(ctx, func(tx *store.Tx) error { return buildrows.EndDraw(ctx, tx, id, state, answer) })
}

// Draw gives a draw of an assessment as it stands.
func (a *Draws) Draw(ctx context.Context, v roster.Viewer, id, drawID int64) (Drawing, error) {
	if _, err := desk.Assessment(ctx, a.Store.Reader, v, id); err != nil {
		return Drawing{}, err
	}
	row, err := buildrows.DrawByID(ctx, a.Store.Reader, drawID)
	if err == nil && row.AssessmentID != id {
		err = desk.ErrNotFound
	}
	if err != nil {
		return Drawing{}, err
	}
	d := a.drawing(row)
	if d.State != DrawFound || d.PlacedAt != nil {
		return d, nil
	}
	standing, err := buildrows.Lines(ctx, a.Store.Reader, id)
	d.Leaving = d.leaving(standing)
	return d, err
}

func (a *Draws) drawing(row buildrows.Draw) Drawing {
	d := Drawing{Draw: row, Question: row.Question.V, Answer: row.Answer.V}
	if job, running := a.Jobs.Find(drawing, row.ID); running {
		d.Elapsed = time.Since(job.Began)
		d.Budget, _ = job.Told().(time.Duration) // none before it has begun to compute
	}
	return d
}

// Draws lists the draws of an assessment, the newest first.
func (a *Draws) Draws(ctx context.Context, v roster.Viewer, id int64) ([]Drawing, error) {
	if _, err := desk.Assessment(ctx, a.Store.Reader, v, id); err != nil {
		return nil, err
	}
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	rows, err := buildrows.Draws(ctx, a.Store.Reader, id)
	if err != nil {
		return nil, err
	}
	out := []Drawing{}
	for _, row := range rows {
		out = append(out, a.drawing(row))
	}
	return out, nil
}

// CancelDraw stops a draw that runs; nothing is kept of it but that it was asked for.
func (a *Draws) CancelDraw(ctx context.Context, v roster.Viewer, id, drawID int64) (Drawing, error) {
	row, err := desk.Assessment(ctx, a.Store.Reader, v, id)
	switch {
	case err != nil:
		return Drawing{}, err
	case !v.MayChange(row.Owned()):
		return Drawing{}, desk.ErrForbidden
	}
	if _, err := a.Draw(ctx, v, id, drawID); err != nil {
		return Drawing{}, err
	}
	if job, running := a.Jobs.Find(drawing, drawID); running {
		job.Stop()
		<-job.Done()
	}
	return a.Draw(ctx, v, id, drawID)
}

func itemKey(id int64) string { return strconv.FormatInt(id, 10) }

func rowName(i int) string { return fmt.Sprint("row ", i+1) }
