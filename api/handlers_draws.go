package api

import (
	"context"
	"time"

	"pineledger/app"
	"pineledger/core/draw"
	"pineledger/core/points"
	"pineledger/store"
)

// drawPatience is how long a request waits for a draw before it answers that it still runs.
const drawPatience = 900 * time.Millisecond

func (h *handlers) GetPools(ctx context.Context, r GetPoolsRequestObject) (GetPoolsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	pools, err := h.app.Pools(ctx, v, r.Id)
	return GetPools200JSONResponse(pools), err
}

func (h *handlers) ProposeCopy(ctx context.Context, r ProposeCopyRequestObject) (ProposeCopyResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	title, err := h.app.ProposeCopy(ctx, v, r.Id)
	return ProposeCopy200JSONResponse{Title: title}, err
}

func (h *handlers) CopyAssessment(ctx context.Context, r CopyAssessmentRequestObject) (CopyAssessmentResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.CopyAssessment(ctx, v, r.Id, value(r.Body.Title))
	if err != nil {
		return nil, err
	}
	return CopyAssessment200JSONResponse(sheet(v, s)), nil
}

func (h *handlers) ListDraws(ctx context.Context, r ListDrawsRequestObject) (ListDrawsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Draws(ctx, v, r.Id)
	return ListDraws200JSONResponse(each(list, drawOf)), err
}

func (h *handlers) StartDraw(ctx context.Context, r StartDrawRequestObject) (StartDrawResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.StartDraw(ctx, v, r.Id, questionIn(r.Body), drawPatience)
	if err != nil {
		return nil, err
	}
	return StartDraw200JSONResponse(drawOf(d)), nil
}

func (h *handlers) GetDraw(ctx context.Context, r GetDrawRequestObject) (GetDrawResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Draw(ctx, v, r.Id, r.Draw)
	if err != nil {
		return nil, err
	}
	return GetDraw200JSONResponse(drawOf(d)), nil
}

func (h *handlers) CancelDraw(ctx context.Context, r CancelDrawRequestObject) (CancelDrawResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.CancelDraw(ctx, v, r.Id, r.Draw)
	if err != nil {
		return nil, err
	}
	return CancelDraw200JSONResponse(drawOf(d)), nil
}

func (h *handlers) PlaceDraw(ctx context.Context, r PlaceDrawRequestObject) (PlaceDrawResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.PlaceDraw(ctx, v, r.Id, r.Draw, r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	return PlaceDraw200JSONResponse(sheet(v, s)), nil
}

func (h *handlers) ListSwaps(ctx context.Context, r ListSwapsRequestObject) (ListSwapsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Swaps(ctx, v, r.Id, r.Item)
	return ListSwaps200JSONResponse(each(list, func(s app.SwapOffer) Swap { return Swap{Item: drawnItem(s.DrawnItem), Why: s.Why} })), err
}

func questionIn(in *DrawQuestion) app.DrawQuestion {
	q := app.DrawQuestion{Mode: draw.Mode(in.Mode), Seed: in.Seed, Forms: in.Forms, Keep: in.Keep, Row: value(in.Row), KeySpread: in.KeySpread,
		NotSince: value(in.NotSince), Banks: value(in.Banks), Anchors: value(in.Anchors), Meeting: value(in.Meeting),
		Passages: draw.Passages{Max: in.Passages, ItemsMin: value(in.PassageItemsMin), ItemsMax: value(in.PassageItemsMax), Whole: value(in.PassageWhole)}}
	if in.Target != nil {
		q.Target = &draw.Target{Target: *in.Target, Tolerance: value(in.Tolerance)}
	}
	if s := in.Simple; s != nil {
		q.Simple = &app.SimpleDraw{Total: s.Total, Standards: value(s.Standards), Depth: value(s.Depth), Tags: value(s.Tags),
			Kinds: each(value(s.Kinds), func(k KindCount) app.KindCount { return app.KindCount{Kind: k.Kind, Count: k.Count} })}
		q.Simple.Difficulty = difficultyIn(s.Difficulty, value(s.Ease))
	}
	return q
}

func questionOf(q app.DrawQuestion) DrawQuestion {
	out := DrawQuestion{Mode: DrawQuestionMode(q.Mode), Seed: q.Seed, Forms: q.Forms, Keep: q.Keep, Row: unlessZero(q.Row), KeySpread: q.KeySpread, NotSince: some(q.NotSince),
		Banks: someOf(q.Banks), Anchors: someOf(q.Anchors), Meeting: unlessZero(q.Meeting), Passages: q.Passages.Max, PassageItemsMin: unlessZero(q.Passages.ItemsMin),
		PassageItemsMax: unlessZero(q.Passages.ItemsMax), PassageWhole: unlessZero(q.Passages.Whole)}
	if q.Target != nil {
		out.Target, out.Tolerance = &q.Target.Target, &q.Target.Tolerance
	}
	if s := q.Simple; s != nil {
		out.Simple = &SimpleDraw{Total: s.Total, Standards: someOf(s.Standards), Depth: someOf(s.Depth), Tags: someOf(s.Tags)}
		kinds := each(s.Kinds, func(k app.KindCount) KindCount { return KindCount{Kind: k.Kind, Count: k.Count} })
		out.Simple.Kinds = &kinds
		if s.Difficulty != nil {
			ends := s.Difficulty[:]
			out.Simple.Difficulty = &ends
		}
	}
	return out
}

// unlessZero leaves a zero value out.
func unlessZero[T comparable](v T) *T {
	if v == *new(T) {
		return nil
	}
	return &v
}

func drawOf(d app.Drawing) Draw {
	out := Draw{Id: d.ID, At: timeOf(d.At), By: d.Person, State: DrawState(d.State), Question: questionOf(d.Question), Elapsed: d.Elapsed.Milliseconds(), Budget: d.Budget.Milliseconds(),
		Rows: []DrawRow{}, Forms: []DrawForm{}, Shortage: []DrawShortage{}, Uneven: []DrawUneven{}}
	if d.PlacedAt.Valid {
		placed := timeOf(d.PlacedAt.Int64)
		out.PlacedAt = &placed
	}
	a := d.Answer
	if a == nil {
		return out
	}
	out.Because, out.Pool, out.Millis, out.Message = a.Because, a.Pool, a.Millis, a.Message
	out.Rows = each(a.Rows, func(r app.DrawnRow) DrawRow {
		return DrawRow{Title: r.Title, Filter: filterOf(r.Filter), ByPoints: r.ByPoints, Min: points.Points(r.Min), Max: points.Points(r.Max), Pool: r.Pool}
	})
	out.Forms = each(a.Forms, func(f app.DrawnForm) DrawForm { return DrawForm{Items: each(f.Items, drawnItem), Mean: f.Mean} })
	out.Shortage = each(a.Shortage, func(s app.DrawShortage) DrawShortage {
		return DrawShortage{Rows: s.Rows, Need: points.Points(s.Need), Have: points.Points(s.Have), Contested: s.Contested}
	})
	out.Uneven = each(a.Uneven, func(u draw.Uneven) DrawUneven { return DrawUneven{Standard: u.Standard, Even: u.Even, Have: u.Have} })
	if d.State == app.DrawFound {
		aims := DrawAims(a.Aims)
		out.Aims, out.Bound = &aims, (*DrawAims)(a.Bound)
	}
	return out
}

func drawnItem(it app.DrawnItem) DrawnItem {
	return DrawnItem{ItemId: it.ItemID, Identifier: it.Identifier, Stem: it.Stem, Kind: it.Kind, Standards: append([]string{}, it.Standards...), Difficulty: it.Difficulty,
		Depth: it.Depth, Uses: it.Uses, Row: it.Row, Stays: it.Stays, PassageId: unlessZero(it.Passage)}
}

func apartOf(p store.HostilePair) Apart {
	return Apart{ItemId: p.OtherID, Identifier: p.Identifier, Stem: p.Stem, Reason: p.Reason}
}

func (h *handlers) ListApart(ctx context.Context, r ListApartRequestObject) (ListApartResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	pairs, err := h.app.HostileTo(ctx, v, r.Id)
	return ListApart200JSONResponse(each(pairs, apartOf)), err
}

func (h *handlers) KeepApart(ctx context.Context, r KeepApartRequestObject) (KeepApartResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	if err := h.app.SetHostile(ctx, v, r.Id, r.Body.Other, r.Body.Reason); err != nil {
		return nil, err
	}
	pairs, err := h.app.HostileTo(ctx, v, r.Id)
	return KeepApart200JSONResponse(each(pairs, apartOf)), err
}

func (h *handlers) LetMeet(ctx context.Context, r LetMeetRequestObject) (LetMeetResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	if err := h.app.EndHostile(ctx, v, r.Id, r.Other); err != nil {
		return nil, err
	}
	pairs, err := h.app.HostileTo(ctx, v, r.Id)
	return LetMeet200JSONResponse(each(pairs, apartOf)), err
}
