package take

import (
	"context"
	"errors"
	"fmt"
	"time"

	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/takerows"
)

// Answered is one line's response as a student's device sends it, numbered so
// that it may be sent twice and may come late.
type Answered struct {
	Line     int // counted from 1
	Number   int64
	Response item.Response
	Marked   bool
	Done     bool // it is left for good, where the settings have that
}

// RefusedAnswer is an answer that cannot be kept, ever; the others of its request are.
type RefusedAnswer struct {
	Line    int
	Message string
}

// Saved is what became of answers that were sent.
type Saved struct {
	At        time.Time
	Refused   []RefusedAnswer
	Elsewhere time.Time // when another device last was at the attempt; zero for none
}

// SaveAnswers keeps answers and returns when they are on disk. One that is no answer
// to its line is refused alone. device names what they were given on; "" for unknown.
func (a *Take) SaveAnswers(ctx context.Context, v roster.Viewer, id int64, device string, answers []Answered) (Saved, error) {
	live, err := a.live.get(ctx, a, id)
	if err != nil {
		return Saved{}, err
	}
	if live.row.StudentID != v.PersonID {
		return Saved{}, desk.ErrNotFound
	}
	now := a.Now()
	clock, err := a.clock(ctx, live.row)
	if err != nil {
		return Saved{}, err
	}
	if err := live.row.Rules().TakesAnswers(clock.At(now), now); err != nil {
		return Saved{}, desk.Conflict("%s", desk.Sentence(err.Error()))
	}
	out := Saved{At: now, Elsewhere: a.met.meet(id, device, now)}
	var rows []takerows.Answer
	for _, answer := range answers {
		row, err := live.take(answer)
		if err != nil {
			out.Refused = append(out.Refused, RefusedAnswer{answer.Line, desk.Sentence(err.Error())})
			continue
		}
		rows = append(rows, row)
	}
	if len(rows) == 0 {
		return out, nil
	}
	return out, a.keepAnswers(ctx, live.row.SittingID, id, now, rows)
}

// take checks an answer against its line.
func (l *liveAttempt) take(answer Answered) (takerows.Answer, error) {
	if !l.gives(answer.Line) {
		return takerows.Answer{}, fmt.Errorf("there is no line %d", answer.Line)
	}
	it := l.form.Lines[answer.Line-1].Item
	if it.Kind == item.Examiner {
		return takerows.Answer{}, fmt.Errorf("line %d is recorded by an adult", answer.Line)
	}
	if err := it.Accepts(answer.Response); err != nil {
		return takerows.Answer{}, fmt.Errorf("line %d: %w", answer.Line, err)
	}
	kept := takerows.Answer{Line: answer.Line, Number: answer.Number, Marked: answer.Marked, Done: answer.Done && howOf(l.form, l.row.Terms, 0).LeftForGood()}
	kept.Response.V = compact(answer.Response)
	return kept, nil
}

// keepAnswers returns when the answers of an attempt in a sitting are on disk. What was handed in meanwhile
// takes no more.
func (a *Take) keepAnswers(ctx context.Context, sitting, id int64, now time.Time, rows []takerows.Answer) error {
	err := a.Store.SaveAnswers(ctx, id, store.Millis(now), rows)
	if errors.Is(err, store.ErrAttemptClosed) {
		return desk.Conflict("%s", desk.Sentence(attempt.ErrHandedIn.Error()))
	}
	if err == nil {
		a.roomChanged(sitting)
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
