package take

import (
	"context"
	"fmt"
	"slices"
	"time"

	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/readrows"
	"pineledger/store/takerows"
)

// LateAct is the ledger's name of what staff decide about late answers.
const LateAct = "attempt.late"

// LateNote is what the ledger keeps of it. Scoring is 0 where they are left out.
type LateNote struct {
	Lines   []int         `json:"lines"`
	Counts  bool          `json:"counts"`
	Scoring int64         `json:"scoring,omitempty"`
	Raw     points.Points `json:"raw,omitempty"`
}

// Late is what a device brought of one student after the hand-in.
type Late struct {
	AttemptID int64
	StudentID int64
	Student   string
	HandedIn  time.Time
	Lines     []LateLine
	Decided   bool
	Counts    bool
}

// LateLine is a line with the answer that was handed in and the one that came late, as the student saw the choices.
type LateLine struct {
	Line         int
	Before, Came []string
	At           time.Time // when it was given, by the device
	InTime       bool      // as the device says
}

// OfferLate keeps what a student's device could not send before the hand-in, for staff to decide.
// What is no answer to its line, or no newer than the one that was handed in, is left aside. It
// gives how many wait now.
func (a *Take) OfferLate(ctx context.Context, v roster.Viewer, id int64, answers []Answered) (int, error) {
	row, err := takerows.AttemptByID(ctx, a.Store.Reader, id)
	if err != nil {
		return 0, err
	}
	if row.StudentID != v.PersonID {
		return 0, desk.ErrNotFound
	}
	if row.EndedAt == nil {
		return 0, desk.Conflict("This is still being worked on; answers are saved as usual.")
	}
	f, err := a.FormByID(ctx, row.FormID)
	if err != nil {
		return 0, err
	}
	live := &liveAttempt{row, f, row.Given()}
	waiting := 0
	err = a.Store.WriteTogether(ctx, func(tx *store.Tx) error {
		kept, err := takerows.Answers(ctx, tx.Reader, id)
		if err != nil {
			return err
		}
		numbers := map[int]int64{}
		for _, k := range kept {
			numbers[k.Line] = k.Number
		}
		for _, answer := range answers {
			taken, err := live.take(answer)
			if err != nil || taken.Number <= numbers[taken.Line] {
				continue
			}
			if err := takerows.PutLate(ctx, tx, takerows.LateAnswer{AttemptID: id, Line: taken.Line, Number: taken.Number, Response: taken.Response, CameAt: store.Millis(a.Now())}); err != nil {
				return err
			}
		}
		late, err := takerows.LateAnswers(ctx, tx.Reader, id)
		for _, l := range late {
			if l.DecidedAt == nil {
				waiting++
			}
		}
		return err
	})
	if err == nil {
		a.roomChanged(row.SittingID)
	}
	return waiting, err
}

// LateAnswers lists what came late to a sitting in scope, by student.
func (a *Take) LateAnswers(ctx context.Context, v roster.Viewer, sitting int64) ([]Late, error) {
	if !v.IsStaff() {
		return nil, desk.ErrForbidden
	}
	in, err := inRoomOf(ctx, a.Store.Reader, v.Scope(), sitting)
	if err != nil {
		return nil, err
	}
	var rows []takerows.LateAnswer
	for _, s := range in {
		late, err := takerows.LateIn(ctx, a.Store.Reader, s.ID)
		if err != nil {
			return nil, err
		}
		rows = append(rows, late...)
	}
	out := []Late{}
	for len(rows) > 0 {
		n := 1
		for n < len(rows) && rows[n].AttemptID == rows[0].AttemptID {
			n++
		}
		late, err := a.lateOf(ctx, rows[:n])
		if err != nil {
			return nil, err
		}
		out, rows = append(out, late), rows[n:]
	}
	return out, nil
}

func (a *Take) lateOf(ctx context.Context, rows []takerows.LateAnswer) (Late, error) {
	row, err := takerows.AttemptByID(ctx, a.Store.Reader, rows[0].AttemptID)
	if err != nil {
		return Late{}, err
	}
	f, err := a.FormByID(ctx, row.FormID)
	if err != nil {
		return Late{}, err
	}
	kept, err := takerows.Answers(ctx, a.Store.Reader, row.ID)
	if err != nil {
		return Late{}, err
	}
	out := Late{AttemptID: row.ID, StudentID: row.StudentID, Student: row.Student, HandedIn: store.Time(*row.EndedAt), Decided: true}
	for _, l := range rows {
		it := f.Lines[l.Line-1].Item
		line := LateLine{Line: l.Line, Came: it.ResponseShort(l.Response.V), Before: []string{}, At: attempt.AnsweredAt(l.Number)}
		line.InTime = attempt.InTime(l.Number, store.Time(row.StartedAt), out.HandedIn)
		for _, k := range kept {
			if k.Line == l.Line {
				line.Before = it.ResponseShort(k.Response.V)
			}
		}
		out.Lines = append(out.Lines, line)
		out.Decided = out.Decided && l.DecidedAt != nil
		out.Counts = out.Counts || l.ScoringID > 0
	}
	return out, nil
}

// DecideLate says whether a student's late answers count. Where they do, a scoring is added; the
// one of the hand-in stays. What counts once cannot be taken back.
func (a *Take) DecideLate(ctx context.Context, v roster.Viewer, sitting, id int64, count bool) error {
	if !v.IsStaff() {
		return desk.ErrForbidden
	}
	in, err := inRoomOf(ctx, a.Store.Reader, v.Scope(), sitting)
	if err != nil {
		return err
	}
	row, err := takerows.AttemptByID(ctx, a.Store.Reader, id)
	if err == nil && !slices.ContainsFunc(in, func(s Sitting) bool { return s.ID == row.SittingID }) {
		err = desk.ErrNotFound
	}
	if err != nil {
		return err
	}
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		f, err := a.FormOfRecord(ctx, tx.Reader, row.FormID)
		if err != nil {
			return err
		}
		late, err := takerows.LateAnswers(ctx, tx.Reader, id)
		if err != nil {
			return err
		}
		note := LateNote{Counts: count}
		for _, l := range late {
			if l.ScoringID == 0 {
				note.Lines = append(note.Lines, l.Line)
			}
		}
		if len(note.Lines) == 0 {
			return desk.Conflict("No late answer of %s waits any more.", row.Student)
		}
		now := store.Millis(a.Now())
		if count {
			if note.Scoring, note.Raw, err = a.scoreLate(ctx, tx, v, row, f, late, now); err != nil {
				return err
			}
		}
		if err := takerows.DecideLate(ctx, tx, id, note.Scoring, now, v.PersonID); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: LateAct, Thing: "attempt", ID: id, Title: fmt.Sprintf("%s, %s", row.Title, row.Student), After: note})
	})
	if err == nil {
		a.roomChanged(row.SittingID)
	}
	return err
}

// scoreLate adds the scoring of an attempt with all late answers over those that were handed in.
func (a *Take) scoreLate(ctx context.Context, tx *store.Tx, v roster.Viewer, row takerows.Attempt, f desk.OfRecord, late []takerows.LateAnswer, now int64) (int64, points.Points, error) {
	answers, err := takerows.Answers(ctx, tx.Reader, row.ID)
	if err != nil {
		return 0, 0, err
	}
	for _, l := range late { // of two answers to a line the last one counts
		answers = append(answers, takerows.SavedAnswer{Answer: takerows.Answer{Line: l.Line, Response: l.Response}})
	}
	score, err := ScoreAnswers(f.Form, answers, row)
	if err != nil {
		return 0, 0, err
	}
	s := ScoringOf(row, f, score)
	s.Kind, s.At, s.PersonID = readrows.ByLate, now, v.PersonID
	if s.ID, err = readrows.AddScoring(ctx, tx, s); err != nil {
		return 0, 0, err
	}
	if err := takerows.Rescored(ctx, tx, row.ID, score.Final); err != nil {
		return 0, 0, err
	}
	return s.ID, score.Raw, settle(ctx, tx, readrows.Seat{SittingID: row.SittingID, StudentID: row.StudentID}, f.Form)
}
