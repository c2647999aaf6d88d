package api

import (
	"context"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/take"
)

func feedbackOf(f take.Feedback) contract.OwnFeedback {
	out := contract.OwnFeedback{Title: f.Title, GoOver: append([]string{}, f.GoOver...), Lines: each(f.Lines, itemFeedbackOf),
		Now:  each(f.Due.Now, func(s string) contract.OwnFeedbackNow { return contract.OwnFeedbackNow(s) }),
		Next: each(f.Due.Next, func(s string) contract.OwnFeedbackNext { return contract.OwnFeedbackNext(s) })}
	if !f.Due.NextAt.IsZero() {
		at := f.Due.NextAt.UTC()
		out.NextAt = &at
	}
	if s := f.Score; s != nil {
		out.Score = &contract.OwnScore{Waits: s.Waits, Of: s.Of, Points: s.Points, Band: s.Band, Tries: s.Tries, Keep: contract.OwnScoreKeep(s.Keep), LostAsRetake: s.Lost.Retake, LostAsLate: s.Lost.Late}
		if s.Percent >= 0 {
			out.Score.PercentTenths = &s.Percent
		}
	}
	return out
}

func itemFeedbackOf(l take.LineTold) contract.ItemFeedback {
	out := contract.ItemFeedback{Number: l.Number, Why: l.Why, GoOver: append([]string{}, l.GoOver...)}
	if l.Outcome != "" {
		outcome := string(l.Outcome)
		out.Outcome, out.Credit, out.Max = &outcome, &l.Credit, &l.Max
	}
	if l.Item != nil {
		s, r := shown(*l.Item), contract.Response{}
		for id, values := range l.Response {
			r[id] = values
		}
		out.Shown, out.Response = &s, &r
	}
	if l.Keyed != nil {
		keys := keysOf(*l.Keyed)
		out.Keys = &keys
	}
	return out
}

func (h *takeHandlers) GetFeedback(ctx context.Context, r contract.GetFeedbackRequestObject) (contract.GetFeedbackResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	f, err := h.app.Take.Feedback(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.GetFeedback200JSONResponse(feedbackOf(f)), nil
}

func (h *takeHandlers) GetItemFeedback(ctx context.Context, r contract.GetItemFeedbackRequestObject) (contract.GetItemFeedbackResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	l, err := h.app.Take.FeedbackOfItem(ctx, v, r.Id, r.Line)
	if err != nil {
		return nil, err
	}
	return contract.GetItemFeedback200JSONResponse(itemFeedbackOf(l)), nil
}

func (h *takeHandlers) GetPractice(ctx context.Context, r contract.GetPracticeRequestObject) (contract.GetPracticeResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	t, err := h.app.Take.Practice(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.GetPractice200JSONResponse(takeOf(t)), nil
}

func (h *takeHandlers) FinishPractice(ctx context.Context, r contract.FinishPracticeRequestObject) (contract.FinishPracticeResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	f, err := h.app.Take.PracticeDone(ctx, v, r.Id, each(r.Body.Answers, answered))
	if err != nil {
		return nil, err
	}
	return contract.FinishPractice200JSONResponse(feedbackOf(f)), nil
}

func (h *giveHandlers) ReleaseFeedback(ctx context.Context, r contract.ReleaseFeedbackRequestObject) (contract.ReleaseFeedbackResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	at, err := h.app.Take.ReleaseFeedback(ctx, v, r.Id, r.Body.Released)
	if err != nil {
		return nil, err
	}
	out := contract.ReleaseFeedback200JSONResponse{}
	if !at.IsZero() {
		released := at.UTC()
		out.ReleasedAt = &released
	}
	return out, nil
}
