package take

import (
	"context"

	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
	"pineledger/store/takerows"
)

// mayPractice finds a student's own sitting that may be practiced with now: its window is over, and the settings say so.
func (a *Take) mayPractice(ctx context.Context, v roster.Viewer, sitting int64) (takerows.StudentSitting, form.Form, error) {
	s, err := a.mine(ctx, v, sitting)
	if err != nil {
		return s, form.Form{}, err
	}
	if !a.MayPractice(s) {
		return s, form.Form{}, desk.ErrNotFound
	}
	f, err := a.FormByID(ctx, s.FormID)
	return s, f, err
}

// MayPractice tells whether a student may practice with a sitting of theirs now.
func (a *Take) MayPractice(s takerows.StudentSitting) bool {
	return !a.Now().Before(s.Setup.V.Ends) && s.Setup.V.Settings.Flag(settings.Practice) && s.State != attempt.Working
}

// Practice gives a student the assessment once more, for themselves: nothing of it is kept.
func (a *Take) Practice(ctx context.Context, v roster.Viewer, sitting int64) (TakeView, error) {
	s, f, err := a.mayPractice(ctx, v, sitting)
	if err != nil {
		return TakeView{}, err
	}
	now := a.Now()
	terms, err := a.termsFor(ctx, s, f, v.PersonID)
	if err != nil {
		return TakeView{}, err
	}
	view := TakeView{Title: f.ShortTitle, Instructions: f.Instructions, Now: now, End: now.AddDate(1, 0, 0), How: howOf(f, terms, 0)}
	view.Attempt.StudentID, view.Attempt.Student = v.PersonID, v.Name
	view.give(f, f.Given(s.ID), terms, s.ID)
	return view, nil
}

// PracticeDone tells what practice came to, as much as feedback at this moment tells. Nothing of it is kept.
func (a *Take) PracticeDone(ctx context.Context, v roster.Viewer, sitting int64, answers []Answered) (Feedback, error) {
	s, f, err := a.mayPractice(ctx, v, sitting)
	if err != nil {
		return Feedback{}, err
	}
	zone, err := a.Zone(ctx)
	if err != nil {
		return Feedback{}, err
	}
	responses := map[int]item.Response{}
	for _, answer := range answers {
		if answer.Line < 1 || answer.Line > len(f.Lines) {
			return Feedback{}, desk.Invalid("/answers", "There is no line %d.", answer.Line)
		}
		if err := f.Lines[answer.Line-1].Item.Accepts(answer.Response); err != nil {
			return Feedback{}, desk.Invalid("/answers", "Line %d: %s.", answer.Line, err)
		}
		responses[answer.Line-1] = answer.Response
	}
	values := s.Setup.V.Settings
	order := orderOf(f, f.Given(s.ID), values, s.ID)
	score, err := f.Score(responses, order)
	if err != nil {
		return Feedback{}, err
	}
	now := a.Now()
	facts := settings.Facts{Now: now, HandedIn: now, WindowEnds: s.Setup.V.Closes, Zone: zone}
	if s.ReleasedAt != nil {
		facts.Released = store.Time(*s.ReleasedAt)
	}
	out := Feedback{Title: f.ShortTitle, Due: values.Feedback(facts)}
	if out.Due.Sees(settings.TellScore) {
		out.Score = &ScoreTold{Points: &score.Raw, Of: f.Total(), Percent: -1, Waits: !score.Final}
	}
	credits := make([]attempt.LineCredit, len(score.Credits))
	for i, c := range score.Credits {
		credits[i] = attempt.LineCredit{Credit: c.Credit, Outcome: c.Outcome}
	}
	if len(out.Due.Now) > 0 {
		out.tell(f, order, responses, credits, func(at int) item.Shown { return shownTo(f, at, values, s.ID) })
	}
	return out, nil
}
