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
	"pineledger/core/roster"
	"pineledger/store/giverows"
	"pineledger/store/takerows"
)

// RecordView is one child's attempt as the adult who records it gets it.
type RecordView struct {
	AttemptID int64
	Student   string
	Title     string
	State     attempt.State
	Stopped   string // why nothing can be recorded now, "" when it can
	Lines     []RecordLine
	Mixed     []int // an order of the lines for this child alone
}

// RecordLine is a line that an adult records: what the child sees, what the adult
// does, what a right answer is, and what was recorded.
type RecordLine struct {
	Line       int // counted from 1 on the form
	Shown      item.Shown
	Directions string
	Right      string
	Recorded   string // right, wrong, none or ""
	Number     int64
}

// recordedLines are the lines that an adult records, counted from 1.
// given are the places that an attempt has, nil for all.
func recordedLines(lines []form.Line, given []int) []int {
	var out []int
	for i, l := range lines {
		if l.Item.Kind == item.Examiner && (given == nil || slices.Contains(given, i)) {
			out = append(out, i+1)
		}
	}
	return out
}

// examined finds a sitting in scope with a student's place in it.
func (a *Take) examined(ctx context.Context, v roster.Viewer, sitting, student int64) (takerows.StudentSitting, error) {
	if !v.IsStaff() {
		return takerows.StudentSitting{}, desk.ErrForbidden
	}
	if _, err := giverows.SittingInScope(ctx, a.Store.Reader, v.Scope(), sitting); err != nil {
		return takerows.StudentSitting{}, err
	}
	return takerows.StudentSittingOf(ctx, a.Store.Reader, student, sitting)
}

// BeginRecording begins a child's attempt, or goes on with it, for the adult who
// records what the child shows or says.
func (a *Take) BeginRecording(ctx context.Context, v roster.Viewer, sitting, student int64) (RecordView, error) {
	s, err := a.examined(ctx, v, sitting, student)
	if err != nil {
		return RecordView{}, err
	}
	f, err := a.FormByID(ctx, s.FormID)
	if err != nil {
		return RecordView{}, err
	}
	if len(recordedLines(f.Lines, nil)) == 0 {
		return RecordView{}, desk.Conflict("No line of this assessment is recorded by an adult.")
	}
	id, err := a.begin(ctx, v, s, student, Entry{ByStaff: true, Managed: true})
	if err != nil {
		return RecordView{}, err
	}
	return a.recordView(ctx, id)
}

func (a *Take) recordView(ctx context.Context, id int64) (RecordView, error) {
	row, err := takerows.AttemptByID(ctx, a.Store.Reader, id)
	if err != nil {
		return RecordView{}, err
	}
	f, err := a.FormByID(ctx, row.FormID)
	if err != nil {
		return RecordView{}, err
	}
	answers, err := a.Store.Answers(ctx, id)
	if err != nil {
		return RecordView{}, err
	}
	kept := map[int]takerows.SavedAnswer{}
	for _, answer := range answers {
		kept[answer.Line] = answer
	}
	view := RecordView{AttemptID: id, Student: row.Student, Title: f.ShortTitle, State: row.State}
	if err := a.mayGoOn(ctx, row); err != nil {
		var why *desk.ConflictError
		if !errors.As(err, &why) {
			return RecordView{}, err
		}
		view.Stopped = why.Detail
	}
	lines := recordedLines(f.Lines, row.Given())
	for _, n := range lines {
		it := f.Lines[n-1].Item
		l := RecordLine{Line: n, Shown: it.Shown(f.Lines[n-1].Language), Directions: it.Directions, Right: it.KeyShort()}
		if answer, ok := kept[n]; ok {
			if given := it.ResponseShort(answer.Response.V); len(given) == 1 {
				l.Recorded = given[0]
			}
			l.Number = answer.Number
		}
		view.Lines = append(view.Lines, l)
	}
	for _, at := range attempt.Mixed(len(lines), id) {
		view.Mixed = append(view.Mixed, lines[at-1])
	}
	return view, nil
}

// mayGoOn gives a conflict where an attempt cannot be worked on now.
func (a *Take) mayGoOn(ctx context.Context, row takerows.Attempt) error {
	if row.State != attempt.Working {
		return desk.Conflict("%s", desk.Sentence(attempt.ErrHandedIn.Error()))
	}
	clock, err := a.clock(ctx, row)
	if err != nil {
		return err
	}
	now := a.Now()
	if err := row.Rules().MayGoOn(clock.At(now), now); err != nil {
		return desk.Conflict("%s", desk.Sentence(err.Error()))
	}
	return nil
}

// RecordAnswer keeps what an adult recorded of one line and returns when it is on
// disk. number rises with every change, as a student's own answers do.
func (a *Take) RecordAnswer(ctx context.Context, v roster.Viewer, sitting, student int64, line int, recorded string, number int64) (time.Time, error) {
	now := a.Now()
	s, err := a.examined(ctx, v, sitting, student)
	if err != nil {
		return now, err
	}
	if s.AttemptID == 0 {
		return now, desk.Conflict("The child has not begun.")
	}
	live, err := a.live.get(ctx, a, s.AttemptID)
	if err != nil {
		return now, err
	}
	if err := a.mayGoOn(ctx, live.row); err != nil {
		return now, err
	}
	if !live.gives(line) || live.form.Lines[line-1].Item.Kind != item.Examiner {
		return now, desk.Invalid("/line", "Line %d is not recorded by an adult.", line)
	}
	it := live.form.Lines[line-1].Item
	response := item.Response{it.Declarations[0].Response: {recorded}}
	if err := it.Accepts(response); err != nil {
		return now, desk.Invalid("/recorded", "Line %d: %s.", line, err)
	}
	kept := takerows.Answer{Line: line, Number: number}
	kept.Response.V = response
	return now, a.keepAnswers(ctx, sitting, s.AttemptID, now, []takerows.Answer{kept})
}

// HandInFor ends a student's attempt and scores it, by staff: what an adult recorded, or late work that was refused.
func (a *Take) HandInFor(ctx context.Context, v roster.Viewer, sitting, student int64) (RecordView, error) {
	s, err := a.examined(ctx, v, sitting, student)
	if err != nil {
		return RecordView{}, err
	}
	if s.AttemptID == 0 {
		return RecordView{}, desk.Conflict("Nobody has begun here.")
	}
	row, err := takerows.AttemptByID(ctx, a.Store.Reader, s.AttemptID)
	if err != nil {
		return RecordView{}, err
	}
	if row.State == attempt.Working {
		if err := a.handIn(ctx, v, row, attempt.ByStaff, time.Time{}); err != nil {
			return RecordView{}, err
		}
	}
	return a.recordView(ctx, s.AttemptID)
}
