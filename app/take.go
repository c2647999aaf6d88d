package app

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"sync"
	"time"

	"pineledger/core/attempt"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store"
)

// TakeView is an attempt as its student gets it: nothing of keys or credit.
type TakeView struct {
	Attempt      store.Attempt
	Title        string
	Instructions string
	Lines        []TakeLine
	Passages     []form.Passage
	Parts        []form.Part
	Document     *form.Document // while there is work to do
	Now          time.Time      // the server's, which alone counts
	End          time.Time
	Limited      bool   // there is a time limit of the attempt's own
	Stopped      string // why work cannot go on now, "" when it can
}

// TakeLine is a line with what the student has answered.
type TakeLine struct {
	Line    int // counted from 1 on the form
	Part    int // counted from 1 in Parts, 0 for none
	Item    item.Shown
	Passage string
	Answer  *store.SavedAnswer
}

// MySittings lists a student's own sittings.
func (a *App) MySittings(ctx context.Context, v roster.Viewer) ([]store.StudentSitting, error) {
	if !v.IsStudent() {
		return nil, ErrForbidden
	}
	return a.store.StudentSittings(ctx, v.PersonID)
}

// Begin begins a student's attempt, or goes on with the one that is begun.
func (a *App) Begin(ctx context.Context, v roster.Viewer, sitting int64) (TakeView, error) {
	if !v.IsStudent() {
		return TakeView{}, ErrForbidden
	}
	s, err := a.store.StudentSitting(ctx, v.PersonID, sitting)
	if err != nil {
		return TakeView{}, err
	}
	id, err := a.begin(ctx, v, s, v.PersonID)
	if err != nil {
		return TakeView{}, err
	}
	return a.takeView(ctx, id)
}

// begin begins the attempt of a student at a sitting, or finds the one that is
// begun; v is who begins it.
func (a *App) begin(ctx context.Context, v roster.Viewer, s store.StudentSitting, student int64) (id int64, err error) {
	if s.AttemptID > 0 {
		return s.AttemptID, nil
	}
	now := a.now()
	if err := s.Rules().MayWork(now); err != nil {
		return 0, conflict("%s", sentence(err.Error()))
	}
	f, err := a.formByID(ctx, s.FormID)
	if err != nil {
		return 0, err
	}
	err = a.store.Write(ctx, func(tx *store.Tx) error {
		var begun bool
		if id, begun, err = tx.Begin(ctx, s.ID, student, s.FormID, now); err != nil || !begun {
			return err
		}
		if err := tx.CountSeen(ctx, s.FormID, s.ID); err != nil {
			return err
		}
		if given := f.Given(id); given != nil {
			if err := tx.SetGiven(ctx, id, given); err != nil {
				return err
			}
		}
		row, err := tx.AttemptByID(ctx, id)
		if err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: "attempt.begin", thing: "attempt", id: id, title: row.Title + ", " + row.Student})
	})
	return id, err
}

func (a *App) takeView(ctx context.Context, id int64) (TakeView, error) {
	row, err := a.store.AttemptByID(ctx, id)
	if err != nil {
		return TakeView{}, err
	}
	f, err := a.formByID(ctx, row.FormID)
	if err != nil {
		return TakeView{}, err
	}
	answers, err := a.store.Answers(ctx, id)
	if err != nil {
		return TakeView{}, err
	}
	now := a.now()
	view := TakeView{Attempt: row, Title: f.ShortTitle, Instructions: f.Instructions, Now: now, End: row.Clock().End(), Limited: row.Minutes > 0}
	if err := mayGoOn(row, now); err != nil {
		view.Stopped = sentence(err.Error())
	}
	if row.State != attempt.Working {
		return view, nil // the items are not shown again until feedback allows it
	}
	given, err := row.Given()
	if err != nil {
		return TakeView{}, err
	}
	view.give(f, given)
	for _, answer := range answers {
		if at := slices.IndexFunc(view.Lines, func(l TakeLine) bool { return l.Line == answer.Line }); at >= 0 {
			view.Lines[at].Answer = &answer
		}
	}
	return view, nil
}

// give fills in the lines that an attempt gets, nil for all, and what hangs on them.
func (t *TakeView) give(f form.Form, given []int) {
	t.Document, t.Parts = f.Document, f.Parts
	for i, l := range f.Lines {
		if given == nil || slices.Contains(given, i) {
			t.Lines = append(t.Lines, TakeLine{Line: i + 1, Part: l.Part, Item: l.Item.Shown(), Passage: l.Passage})
		}
	}
	for _, p := range f.Passages {
		if slices.ContainsFunc(t.Lines, func(l TakeLine) bool { return l.Passage == p.Identifier }) {
			t.Passages = append(t.Passages, p)
		}
	}
}

func mayGoOn(row store.Attempt, now time.Time) error {
	if row.State != attempt.Working {
		return attempt.ErrHandedIn
	}
	if !now.Before(row.Clock().End()) {
		return attempt.ErrTimeOver
	}
	return row.Rules().MayWork(now)
}

// Answered is one line's response as a student's device sends it, numbered so
// that it may be sent twice and may come late.
type Answered struct {
	Line     int // counted from 1
	Number   int64
	Response item.Response
	Marked   bool
}

// SaveAnswers keeps answers and returns when they are on disk.
func (a *App) SaveAnswers(ctx context.Context, v roster.Viewer, id int64, answers []Answered) (time.Time, error) {
	live, err := a.live.get(ctx, a, id)
	if err != nil {
		return time.Time{}, err
	}
	if live.row.StudentID != v.PersonID {
		return time.Time{}, ErrNotFound
	}
	now := a.now()
	if !live.row.Clock().Takes(now) {
		return now, conflict("%s", sentence(attempt.ErrTimeOver.Error()))
	}
	if err := live.row.Rules().TakesAnswers(now); err != nil {
		return now, conflict("%s", sentence(err.Error()))
	}
	rows := make([]store.Answer, len(answers))
	for i, answer := range answers {
		if !live.gives(answer.Line) {
			return now, invalid(fmt.Sprintf("/answers/%d/line", i), "There is no line %d.", answer.Line)
		}
		if live.form.Lines[answer.Line-1].Item.Kind == item.Examiner {
			return now, invalid(fmt.Sprintf("/answers/%d/line", i), "Line %d is recorded by an adult.", answer.Line)
		}
		if err := live.form.Lines[answer.Line-1].Item.Accepts(answer.Response); err != nil {
			return now, invalid(fmt.Sprintf("/answers/%d/response", i), "Line %d: %s.", answer.Line, err)
		}
		response, err := json.Marshal(compact(answer.Response))
		if err != nil {
			return now, err
		}
		rows[i] = store.Answer{Line: answer.Line, Number: answer.Number, Response: string(response), Marked: answer.Marked}
	}
	return now, a.keepAnswers(ctx, id, now, rows)
}

// keepAnswers returns when the answers are on disk. What was handed in meanwhile
// takes no more.
func (a *App) keepAnswers(ctx context.Context, id int64, now time.Time, rows []store.Answer) error {
	err := a.store.SaveAnswers(ctx, id, store.Millis(now), rows)
	if errors.Is(err, store.ErrAttemptClosed) {
		return conflict("%s", sentence(attempt.ErrHandedIn.Error()))
	}
	return err
}

// compact drops responses without a value, so that an emptied answer is {}.
func compact(r item.Response) item.Response {
	out := item.Response{}
	for id, values := range r {
		if len(values) > 0 {
			out[id] = values
		}
	}
	return out
}

// ReadResponse reads a kept answer.
func ReadResponse(stored string) (item.Response, error) {
	var r item.Response
	err := json.Unmarshal([]byte(stored), &r)
	return r, err
}

// HandIn ends a student's own attempt and scores it.
func (a *App) HandIn(ctx context.Context, v roster.Viewer, id int64) (TakeView, error) {
	row, err := a.store.AttemptByID(ctx, id)
	if err != nil {
		return TakeView{}, err
	}
	if row.StudentID != v.PersonID {
		return TakeView{}, ErrNotFound
	}
	if row.State == attempt.Working { // handing in twice changes nothing
		if err := row.Rules().TakesAnswers(a.now()); err != nil {
			return TakeView{}, conflict("%s", sentence(err.Error()))
		}
		if err := a.handIn(ctx, v, row, attempt.ByStudent); err != nil {
			return TakeView{}, err
		}
	}
	return a.takeView(ctx, id)
}

// handIn ends an attempt and keeps its score in the same transaction.
func (a *App) handIn(ctx context.Context, v roster.Viewer, row store.Attempt, by attempt.By) error {
	f, err := a.formByID(ctx, row.FormID)
	if err != nil {
		return err
	}
	now := a.now()
	err = a.store.Write(ctx, func(tx *store.Tx) error {
		if err := tx.HandIn(ctx, row.ID, by, now); err != nil {
			return err
		}
		answers, err := tx.Answers(ctx, row.ID)
		if err != nil {
			return err
		}
		score, err := scoreAnswers(f, answers, row)
		if err != nil {
			return err
		}
		kept := store.Score{AttemptID: row.ID, SittingID: row.SittingID, Raw: score.Raw, Band: score.Band, At: store.Millis(now)}
		for _, c := range score.Credits {
			kept.Credits = append(kept.Credits, store.LineCredit{Credit: c.Credit, Outcome: c.Outcome})
		}
		if err := tx.AddScore(ctx, kept); err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: "attempt.hand-in", thing: "attempt", id: row.ID, title: row.Title + ", " + row.Student,
			after: map[string]any{"by": by, "raw": score.Raw, "of": f.Total()}, noActor: by == attempt.ByClock})
	})
	a.live.forget(row.ID)
	if errors.Is(err, store.ErrStale) {
		return nil // handed in meanwhile
	}
	return err
}

func scoreAnswers(f form.Form, answers []store.SavedAnswer, row store.Attempt) (form.Score, error) {
	given, err := row.Given()
	if err != nil {
		return form.Score{}, err
	}
	responses := map[int]item.Response{}
	for _, answer := range answers {
		r, err := ReadResponse(answer.Response)
		if err != nil {
			return form.Score{}, fmt.Errorf("line %d: %w", answer.Line, err)
		}
		responses[answer.Line-1] = r
	}
	return f.Score(responses, given)
}

// Tick does what the passing of time asks for: it hands in every attempt whose
// time is over, and closes assessments whose windows are all over. The server
// calls it every few seconds.
func (a *App) Tick(ctx context.Context) error {
	working, err := a.store.WorkingAttempts(ctx)
	if err != nil {
		return err
	}
	for _, row := range working {
		if row.Clock().Takes(a.now()) {
			continue
		}
		if err := a.handIn(ctx, roster.Viewer{}, row, attempt.ByClock); err != nil {
			return err
		}
	}
	finished, err := a.store.FinishedAssessments(ctx, a.now())
	if err != nil || len(finished) == 0 {
		return err
	}
	return a.store.Write(ctx, func(tx *store.Tx) error {
		for _, row := range finished {
			if err := tx.SetAssessmentState(ctx, row.ID, Closed); err != nil {
				return err
			}
			if err := a.record(ctx, tx, roster.Viewer{}, act{name: "assessment.close", thing: "assessment", id: row.ID, title: row.Title, noActor: true}); err != nil {
				return err
			}
		}
		return nil
	})
}

// liveAttempts remembers what saving an answer needs to know of an attempt, so
// that a save reads nothing. Doors and hand-ins make it forget.
type liveAttempts struct {
	mu   sync.RWMutex
	rows map[int64]*liveAttempt
	// epoch counts the forgetting: what was read before is not remembered after.
	epoch int64
}

type liveAttempt struct {
	row   store.Attempt
	form  form.Form
	given []int // places of its lines, nil for all
}

// gives tells whether the attempt has a line, counted from 1.
func (l *liveAttempt) gives(line int) bool {
	if line < 1 || line > len(l.form.Lines) {
		return false
	}
	return l.given == nil || slices.Contains(l.given, line-1)
}

// mostLive bounds the memory; past it all are forgotten and read again.
const mostLive = 50_000

func newLiveAttempts() *liveAttempts { return &liveAttempts{rows: map[int64]*liveAttempt{}} }

func (l *liveAttempts) get(ctx context.Context, a *App, id int64) (*liveAttempt, error) {
	l.mu.RLock()
	live, ok := l.rows[id]
	epoch := l.epoch
	l.mu.RUnlock()
	if ok {
		return live, nil
	}
	row, err := a.store.AttemptByID(ctx, id)
	if err != nil {
		return nil, err
	}
	f, err := a.formByID(ctx, row.FormID)
	if err != nil {
		return nil, err
	}
	given, err := row.Given()
	if err != nil {
		return nil, err
	}
	live = &liveAttempt{row, f, given}
	l.mu.Lock()
	defer l.mu.Unlock()
	if len(l.rows) >= mostLive {
		clear(l.rows)
	}
	if l.epoch == epoch {
		l.rows[id] = live
	}
	return live, nil
}

func (l *liveAttempts) forget(id int64) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.epoch++
	delete(l.rows, id)
}

func (l *liveAttempts) forgetSitting(sitting int64) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.epoch++
	for id, live := range l.rows {
		if live.row.SittingID == sitting {
			delete(l.rows, id)
		}
	}
}
