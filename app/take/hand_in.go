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
	"pineledger/core/window"
	"pineledger/run/events"
	"pineledger/store"
	"pineledger/store/readrows"
	"pineledger/store/takerows"
)

// HandIn ends a student's own attempt and scores it.
func (a *Take) HandIn(ctx context.Context, v roster.Viewer, id int64) (TakeView, error) {
	row, err := takerows.AttemptByID(ctx, a.Store.Reader, id)
	if err != nil {
		return TakeView{}, err
	}
	if row.StudentID != v.PersonID {
		return TakeView{}, desk.ErrNotFound
	}
	if row.State == attempt.Working { // handing in twice changes nothing
		clock, err := a.clock(ctx, row)
		if err != nil {
			return TakeView{}, err
		}
		now, by := a.Now(), attempt.ByStudent
		reading := clock.At(now)
		late := reading.Because == window.ByWindow && !row.Terms.Settings().HandsInByItself()
		if reading.State == window.Over && !late {
			by = attempt.ByClock // before the clock's own turn came
		} else if err := row.Rules().TakesAnswers(reading, now); err != nil {
			return TakeView{}, desk.Conflict("%s", desk.Sentence(err.Error()))
		}
		if err := a.handIn(ctx, v, row, by, reading.EndsAt); err != nil {
			return TakeView{}, err
		}
	}
	return a.takeView(ctx, id)
}

// handIn ends an attempt and adds its first scoring in the same transaction. By the clock it ended when its time was over, not when
// its turn came; ended is not looked at otherwise.
func (a *Take) handIn(ctx context.Context, v roster.Viewer, row takerows.Attempt, by attempt.By, ended time.Time) error {
	err := a.Store.WriteTogether(ctx, func(tx *store.Tx) error {
		f, err := a.FormOfRecord(ctx, tx.Reader, row.FormID)
		if err != nil {
			return err
		}
		now := a.Now()
		if by != attempt.ByClock {
			ended = now
		}
		answers, err := takerows.Answers(ctx, tx.Reader, row.ID)
		if err != nil {
			return err
		}
		score, err := ScoreAnswers(f.Form, answers, row)
		if err != nil {
			return err
		}
		if err := takerows.HandIn(ctx, tx, row.ID, by, ended, score.Final); err != nil {
			return err
		}
		s := ScoringOf(row, f, score)
		s.Kind, s.At = readrows.ByMachine, store.Millis(now)
		if s.ID, err = readrows.AddScoring(ctx, tx, s); err != nil {
			return err
		}
		if err := settle(ctx, tx, readrows.Seat{SittingID: row.SittingID, StudentID: row.StudentID}, f.Form); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: HandInAct, Thing: "attempt", ID: row.ID, Title: row.Title + ", " + row.Student,
			After: HandInNote{By: by, Scoring: s.ID, Raw: score.Raw, Of: f.Total(), Final: score.Final}, NoActor: by == attempt.ByClock})
	})
	a.live.forget(row.ID)
	a.hall.Leave(row.ID)
	a.told.Changed(events.Thing{Kind: "student", ID: row.StudentID})
	a.roomChanged(row.SittingID)
	if errors.Is(err, store.ErrStale) {
		return nil // handed in meanwhile
	}
	return err
}

// Acts of an attempt, as the ledger names them.
const (
	BeginAct  = "attempt.begin"
	HandInAct = "attempt.hand-in"
)

// HandInNote is what the ledger keeps of a hand-in.
type HandInNote struct {
	By      attempt.By    `json:"by"`
	Scoring int64         `json:"scoring"`
	Raw     points.Points `json:"raw"`
	Of      points.Points `json:"of"`
	Final   bool          `json:"final"` // no line waits for its reader
}

// ScoringOf is a score as it is kept.
func ScoringOf(row takerows.Attempt, f desk.OfRecord, score form.Score) readrows.Scoring {
	s := readrows.Scoring{AttemptID: row.ID, FormID: row.FormID, CutsID: f.CutsID, Final: score.Final, Raw: score.Raw, Band: score.Band, Credits: make([]attempt.LineCredit, len(score.Credits))}
	for i, c := range score.Credits {
		s.Credits[i] = attempt.LineCredit{Credit: c.Credit, Outcome: c.Outcome}
	}
	if cuts, err := f.Cuts(); err == nil && len(f.Bands) > 0 { // a form whose cuts cannot be computed gives no score
		s.Cuts = readrows.Beginnings(cuts)
	}
	return s
}

// settle keeps what counts of a seat.
func settle(ctx context.Context, tx *store.Tx, seat readrows.Seat, f form.Form) error {
	res, any, err := Counts(ctx, tx.Reader, seat, f)
	if err != nil || !any {
		return err
	}
	return readrows.PutResult(ctx, tx, res)
}

// Counts computes what counts of a seat from its newest scorings, less what its tries lose by the terms that they were handed in
// under; false without any. Which of them counts is by the terms of the last.
func Counts(ctx context.Context, r store.Reader, seat readrows.Seat, f form.Form) (readrows.Result, bool, error) {
	tried, tries, keep, err := triesOf(ctx, r, seat, f)
	if err != nil {
		return readrows.Result{}, false, err
	}
	counted, any := attempt.Counting(tries, keep)
	if !any {
		return readrows.Result{}, false, nil
	}
	at := slices.IndexFunc(tried, func(t readrows.Tried) bool { return t.Number == counted.Try })
	s := tried[at].Scoring
	res := readrows.Result{Seat: seat, AttemptID: s.AttemptID, ScoringID: s.ID, Final: counted.Final, Raw: counted.Raw, Band: -1, Credits: s.Credits, Why: counted.Why}
	if counted.Final {
		res.Band, err = f.BandOf(counted.Raw)
	}
	return res, true, err
}

// triesOf are the scored tries of a seat with what each loses, and which of them counts.
func triesOf(ctx context.Context, r store.Reader, seat readrows.Seat, f form.Form) ([]readrows.Tried, []attempt.Try, attempt.Keep, error) {
	tried, err := readrows.TriesOf(ctx, r, seat.SittingID, seat.StudentID)
	if err != nil {
		return nil, nil, "", err
	}
	tries, keep := make([]attempt.Try, len(tried)), attempt.KeepBest
	for i, t := range tried {
		setup := t.Terms.Setup
		lost := setup.Settings.Deductions(t.Number, f.Total(), setup.Closes, store.Time(t.HandedIn))
		tries[i], keep = attempt.Try{Number: t.Number, Final: t.Scoring.Final, Raw: t.Scoring.Raw, Lost: lost}, setup.Keep()
	}
	return tried, tries, keep, nil
}

// Rebuild makes all results and tallies anew from the scorings, in steps of one
// transaction in all. It gives how many seats have a result.
func (a *Take) Rebuild(ctx context.Context) (int, error) {
	seats := 0
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		if err := readrows.ForgetResults(ctx, tx); err != nil {
			return err
		}
		var after readrows.Seat
		for {
			page, err := readrows.ScoredSeats(ctx, tx.Reader, after, 1000)
			if err != nil || len(page) == 0 {
				return err
			}
			for _, seat := range page {
				s, err := takerows.StudentSittingOf(ctx, tx.Reader, seat.StudentID, seat.SittingID)
				if err != nil {
					return err
				}
				f, err := a.FormOfRecord(ctx, tx.Reader, s.FormID)
				if err != nil {
					return err
				}
				if err := settle(ctx, tx, seat, f.Form); err != nil {
					return err
				}
			}
			seats, after = seats+len(page), page[len(page)-1]
		}
	})
	return seats, err
}

// ScoreAnswers computes what kept answers earn on the form of their attempt. The order in which its student had the lines says
// which were not reached.
func ScoreAnswers(f form.Form, answers []takerows.SavedAnswer, row takerows.Attempt) (form.Score, error) {
	responses := map[int]item.Response{}
	for _, answer := range answers {
		responses[answer.Line-1] = answer.Response.V
	}
	return f.Score(responses, orderOf(f, row.Given(), row.Terms.Settings(), row.ID))
}
