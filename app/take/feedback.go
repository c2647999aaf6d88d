package take

import (
	"context"
	"errors"
	"slices"
	"time"

	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/readrows"
	"pineledger/store/takerows"
)

// Feedback is what a student may see of their own handed-in work now. What is not due is not in it.
type Feedback struct {
	Title  string
	Due    settings.Due
	Score  *ScoreTold // nil: not told
	Lines  []LineTold // in the student's order; none where nothing of them is told
	GoOver []string   // HTML, each once
}

// ScoreTold is a student's own score as far as it is told.
type ScoreTold struct {
	Waits   bool           // for a reader: there is no score yet
	Points  *points.Points // nil: not told
	Of      points.Points
	Percent int          // tenths, -1: not told
	Band    string       // "": not told
	Tries   int          // that were handed in; 0 where no number is told
	Keep    attempt.Keep // which of them counts
	Lost    settings.Deductions
}

// LineTold is what is told of one item.
type LineTold struct {
	Number   int         // as the student counted, from 1
	Item     *item.Shown // nil where only right or wrong is told
	Response item.Response
	Outcome  item.Outcome // "": not told
	Credit   points.Points
	Max      points.Points
	Keyed    *item.Item // with its key; nil: not told
	Why      string     // HTML
	GoOver   []string
}

// Feedback gives a student what is due of their own work.
func (a *Take) Feedback(ctx context.Context, v roster.Viewer, sitting int64) (Feedback, error) {
	s, err := a.mine(ctx, v, sitting)
	if err != nil {
		return Feedback{}, err
	}
	if s.AttemptID == 0 {
		return Feedback{}, desk.ErrNotFound
	}
	row, err := takerows.AttemptByID(ctx, a.Store.Reader, s.AttemptID)
	if err != nil {
		return Feedback{}, err
	}
	f, err := a.FormByID(ctx, row.FormID)
	if err != nil {
		return Feedback{}, err
	}
	// By what the settings say now, not when it was begun: a change of date takes effect at once.
	due, err := a.due(ctx, row)
	if err != nil {
		return Feedback{}, err
	}
	out := Feedback{Title: f.ShortTitle, Due: due}
	if due.Sees(settings.TellScore) {
		if out.Score, err = a.scoreTold(ctx, row, f); err != nil {
			return out, err
		}
	}
	if !slices.ContainsFunc(due.Now, func(what string) bool { return what != settings.TellScore }) {
		return out, nil
	}
	scorings, err := readrows.Scorings(ctx, a.Store.Reader, row.ID)
	if err != nil || len(scorings) == 0 {
		return out, err
	}
	newest := scorings[len(scorings)-1]
	answers, err := takerows.AnswersBy(ctx, a.Store.Reader, row.ID, newest.ID)
	if err != nil {
		return out, err
	}
	responses := map[int]item.Response{}
	for _, answer := range answers {
		responses[answer.Line-1] = answer.Response.V
	}
	v2 := row.Terms.Settings()
	order := orderOf(f, row.Given(), v2, row.ID)
	out.tell(f, order, responses, newest.Credits, func(at int) item.Shown { return shownTo(f, at, v2, row.ID) })
	return out, nil
}

// due is the feedback of an attempt that may be seen now.
func (a *Take) due(ctx context.Context, row takerows.Attempt) (settings.Due, error) {
	zone, err := a.Zone(ctx)
	if err != nil {
		return settings.Due{}, err
	}
	facts := settings.Facts{Now: a.Now(), WindowEnds: row.Setup.V.Closes, Zone: zone}
	if row.EndedAt != nil {
		facts.HandedIn = store.Time(*row.EndedAt)
	}
	if row.ReleasedAt != nil {
		facts.Released = store.Time(*row.ReleasedAt)
	}
	return row.Setup.V.Settings.Feedback(facts), nil
}

// scoreTold tells what counts of a seat, in the ways that the settings allow.
func (a *Take) scoreTold(ctx context.Context, row takerows.Attempt, f form.Form) (*ScoreTold, error) {
	seat := readrows.Seat{SittingID: row.SittingID, StudentID: row.StudentID}
	res, err := readrows.ResultOfSeat(ctx, a.Store.Reader, seat)
	if errors.Is(err, desk.ErrNotFound) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	out := &ScoreTold{Of: f.Total(), Percent: -1, Waits: !res.Final}
	if !res.Final {
		return out, nil
	}
	how := row.Setup.V.Settings.Picked(settings.ShowScore)
	if slices.Contains(how, "points") {
		out.Points = &res.Raw
	}
	if slices.Contains(how, "percent") {
		out.Percent = int(points.Tenths(res.Raw, f.Total()))
	}
	if slices.Contains(how, "band") && res.Band >= 0 && res.Band < len(f.Bands) {
		out.Band = f.Bands[res.Band].Name
	}
	if out.Points == nil && out.Percent < 0 {
		return out, nil
	}
	_, tries, keep, err := triesOf(ctx, a.Store.Reader, seat, f)
	if err != nil {
		return nil, err
	}
	out.Tries, out.Keep = len(tries), keep
	if counted, _ := attempt.Counting(tries, keep); keep != attempt.KeepMean || len(tries) == 1 {
		out.Lost = tries[slices.IndexFunc(tries, func(t attempt.Try) bool { return t.Number == counted.Try })].Lost
	}
	return out, nil
}

// tell fills in what is due of each item.
func (f *Feedback) tell(form form.Form, order []int, responses map[int]item.Response, credits []attempt.LineCredit, shown func(at int) item.Shown) {
	if order == nil {
		for i := range form.Lines {
			order = append(order, i)
		}
	}
	for n, at := range order {
		line := tellLine(f.Due, form.Lines[at], n+1, responses[at], credits[at], func() item.Shown { return shown(at) })
		for _, advice := range line.GoOver {
			if !slices.Contains(f.GoOver, advice) {
				f.GoOver = append(f.GoOver, advice)
			}
		}
		f.Lines = append(f.Lines, line)
	}
}

// tellLine gives what is due of one item: the item itself only with its key or its explanation.
func tellLine(due settings.Due, l form.Line, number int, r item.Response, c attempt.LineCredit, shown func() item.Shown) LineTold {
	line := LineTold{Number: number}
	told := l.Item.Tell(r, c.Outcome)
	if due.Sees(settings.TellRight) {
		line.Outcome, line.Credit, line.Max = c.Outcome, c.Credit, l.Points
	}
	if due.Sees(settings.TellKey) {
		line.Keyed = &l.Item
	}
	if due.Sees(settings.TellWhy) {
		line.Why = told.Why
	}
	if due.Sees(settings.TellGoOver) {
		line.GoOver = told.GoOver
	}
	if due.Sees(settings.TellKey) || due.Sees(settings.TellWhy) {
		s := shown()
		line.Item, line.Response = &s, r
	}
	return line
}

// FeedbackOfItem gives a student what is told of an item that they have left for good.
func (a *Take) FeedbackOfItem(ctx context.Context, v roster.Viewer, id int64, number int) (LineTold, error) {
	live, err := a.live.get(ctx, a, id)
	if err != nil {
		return LineTold{}, err
	}
	if live.row.StudentID != v.PersonID || !live.gives(number) {
		return LineTold{}, desk.ErrNotFound
	}
	values := live.row.Terms.Settings()
	due := settings.Due{Now: values.Picked(settings.AfterEach)}
	answers, err := a.Store.Answers(ctx, id)
	if err != nil {
		return LineTold{}, err
	}
	at := slices.IndexFunc(answers, func(s takerows.SavedAnswer) bool { return s.Line == number && s.Done })
	if at < 0 || len(due.Now) == 0 {
		return LineTold{}, desk.ErrNotFound
	}
	l, r := live.form.Lines[number-1], answers[at].Response.V
	credit := l.Item.Score(r, l.Points)
	return tellLine(due, l, number, r, attempt.LineCredit{Credit: credit.Credit, Outcome: credit.Outcome}, func() item.Shown { return shownTo(live.form, number-1, values, id) }), nil
}

// ReleaseFeedback lets students of an assessment see the feedback that waits to be released, or takes it back.
func (a *Take) ReleaseFeedback(ctx context.Context, v roster.Viewer, id int64, released bool) (time.Time, error) {
	var at time.Time
	var touched []int64
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := desk.Assessment(ctx, tx.Reader, v, id)
		if err != nil {
			return err
		}
		if !v.MaySend(row.Owned()) {
			return desk.ErrForbidden
		}
		name := "feedback.withhold"
		if released {
			name, at = "feedback.release", a.Now()
		}
		if touched, err = giverows.Release(ctx, tx, id, at); err != nil {
			return err
		}
		if len(touched) == 0 {
			return desk.Conflict("It is not out yet, so there is nothing to release.")
		}
		return a.Record(ctx, tx, v, desk.Act{Name: name, Thing: "assessment", ID: id, Title: row.Title})
	})
	if err == nil {
		a.TermsChanged(touched)
	}
	return at, err
}
