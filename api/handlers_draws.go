package api

import (
	"context"
	"time"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/build"
	"pineledger/core/draw"
	"pineledger/core/points"
)

// drawPatience is how long a request waits for a draw before it answers that it still runs.
const drawPatience = 900 * time.Millisecond

func (h *drawHandlers) GetPools(ctx context.Context, r contract.GetPoolsRequestObject) (contract.GetPoolsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	pools, err := h.app.Draws.Pools(ctx, v, r.Id)
	return contract.GetPools200JSONResponse(pools), err
}

func (h *drawHandlers) ProposeCopy(ctx context.Context, r contract.ProposeCopyRequestObject) (contract.ProposeCopyResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	title, err := h.app.Build.ProposeCopy(ctx, v, r.Id)
	return contract.ProposeCopy200JSONResponse{Title: title}, err
}

func (h *drawHandlers) CopyAssessment(ctx context.Context, r contract.CopyAssessmentRequestObject) (contract.CopyAssessmentResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Build.CopyAssessment(ctx, v, r.Id, value(r.Body.Title))
	if err != nil {
		return nil, err
	}
	return contract.CopyAssessment200JSONResponse(sheet(v, s)), nil
}

func (h *drawHandlers) ListDraws(ctx context.Context, r contract.ListDrawsRequestObject) (contract.ListDrawsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Draws.Draws(ctx, v, r.Id)
	return contract.ListDraws200JSONResponse(each(list, drawOf)), err
}

func (h *drawHandlers) StartDraw(ctx context.Context, r contract.StartDrawRequestObject) (contract.StartDrawResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Draws.StartDraw(ctx, v, r.Id, questionIn(r.Body), drawPatience)
	if err != nil {
		return nil, err
	}
	return contract.StartDraw200JSONResponse(drawOf(d)), nil
}

func (h *drawHandlers) LookAtPool(ctx context.Context, r contract.LookAtPoolRequestObject) (contract.LookAtPoolResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	a, err := h.app.Draws.Pool(ctx, v, r.Id, questionIn(r.Body))
	return contract.LookAtPool200JSONResponse{Pool: a.Pool, Apart: a.Apart, Rows: each(a.Rows, drawRow), Uneven: each(a.Uneven, unevenOf)}, err
}

func (h *drawHandlers) GetDraw(ctx context.Context, r contract.GetDrawRequestObject) (contract.GetDrawResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Draws.Draw(ctx, v, r.Id, r.Draw)
	if err != nil {
		return nil, err
	}
	return contract.GetDraw200JSONResponse(drawOf(d)), nil
}

func (h *drawHandlers) CancelDraw(ctx context.Context, r contract.CancelDrawRequestObject) (contract.CancelDrawResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Draws.CancelDraw(ctx, v, r.Id, r.Draw)
	if err != nil {
		return nil, err
	}
	return contract.CancelDraw200JSONResponse(drawOf(d)), nil
}

func (h *drawHandlers) PlaceDraw(ctx context.Context, r contract.PlaceDrawRequestObject) (contract.PlaceDrawResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Draws.PlaceDraw(ctx, v, r.Id, r.Draw, r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	return contract.PlaceDraw200JSONResponse(sheet(v, s)), nil
}

func (h *drawHandlers) ListSwaps(ctx context.Context, r contract.ListSwapsRequestObject) (contract.ListSwapsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Draws.Swaps(ctx, v, r.Id, r.Item)
	return contract.ListSwaps200JSONResponse(each(list, func(s build.SwapOffer) contract.Swap { return contract.Swap{Item: drawnItem(s.DrawnItem), Why: s.Why} })), err
}

func questionIn(in *contract.DrawQuestion) build.DrawQuestion {
	q := build.DrawQuestion{Mode: draw.Mode(in.Mode), Seed: in.Seed, Forms: in.Forms, Keep: in.Keep, Row: value(in.Row), KeySpread: in.KeySpread,
		NotSince: value(in.NotSince), Banks: value(in.Banks), Anchors: value(in.Anchors), Meeting: value(in.Meeting), Copies: value(in.Copies),
		Passages: draw.Passages{Max: in.Passages, ItemsMin: value(in.PassageItemsMin), ItemsMax: value(in.PassageItemsMax), Whole: value(in.PassageWhole)}}
	if in.Target != nil {
		q.Target = &draw.Target{Target: *in.Target, Tolerance: value(in.Tolerance)}
	}
	if s := in.Simple; s != nil {
		q.Simple = &build.SimpleDraw{Total: s.Total, Standards: value(s.Standards), Depth: value(s.Depth), Tags: value(s.Tags),
			Kinds: each(value(s.Kinds), func(k contract.KindCount) build.KindCount { return build.KindCount{Kind: k.Kind, Count: k.Count} })}
		q.Simple.Difficulty = difficultyIn(s.Difficulty, value(s.Ease))
	}
	return q
}

func questionOf(q build.DrawQuestion) contract.DrawQuestion {
	out := contract.DrawQuestion{Mode: contract.DrawQuestionMode(q.Mode), Seed: q.Seed, Forms: q.Forms, Keep: q.Keep, Row: unlessZero(q.Row), KeySpread: q.KeySpread, NotSince: some(q.NotSince),
		Banks: someOf(q.Banks), Anchors: someOf(q.Anchors), Meeting: unlessZero(q.Meeting), Copies: unlessZero(q.Copies), Passages: q.Passages.Max, PassageItemsMin: unlessZero(q.Passages.ItemsMin),
		PassageItemsMax: unlessZero(q.Passages.ItemsMax), PassageWhole: unlessZero(q.Passages.Whole)}
	if q.Target != nil {
		out.Target, out.Tolerance = &q.Target.Target, &q.Target.Tolerance
	}
	if s := q.Simple; s != nil {
		out.Simple = &contract.SimpleDraw{Total: s.Total, Standards: someOf(s.Standards), Depth: someOf(s.Depth), Tags: someOf(s.Tags)}
		kinds := each(s.Kinds, kindCount)
		out.Simple.Kinds = &kinds
		if s.Difficulty != nil {
			ends := s.Difficulty[:]
			out.Simple.Difficulty = &ends
		}
	}
	return out
}

func kindCount(k build.KindCount) contract.KindCount {
	return contract.KindCount{Kind: k.Kind, Count: k.Count}
}

// unlessZero leaves a zero value out.
func unlessZero[T comparable](v T) *T {
	if v == *new(T) {
		return nil
	}
	return &v
}

func drawOf(d build.Drawing) contract.Draw {
	out := contract.Draw{Id: d.ID, At: timeOf(d.At), By: d.Person, State: contract.DrawState(d.State), Question: questionOf(d.Question), Elapsed: d.Elapsed.Milliseconds(), Budget: d.Budget.Milliseconds(),
		Rows: []contract.DrawRow{}, Forms: []contract.DrawForm{}, Shortage: []contract.DrawShortage{}, Uneven: []contract.DrawUneven{}}
	if d.PlacedAt != nil {
		placed := timeOf(*d.PlacedAt)
		out.PlacedAt = &placed
	}
	a := d.Answer
	if a == nil {
		return out
	}
	out.Because, out.Pool, out.Apart, out.Millis, out.Message = a.Because, a.Pool, a.Apart, a.Millis, a.Message
	out.Proven, out.Unknown, out.Estimate, out.Leaving = d.Proven(), d.Unknown(), a.Estimate, d.Leaving
	out.Rows = each(a.Rows, drawRow)
	out.Forms = each(a.Forms, func(f build.DrawnForm) contract.DrawForm {
		return contract.DrawForm{Items: each(f.Items, drawnItem), Kinds: each(build.KindsOf(f), kindCount), Mean: f.Mean}
	})
	out.Shortage = each(a.Shortage, func(s build.DrawShortage) contract.DrawShortage {
		return contract.DrawShortage{Rows: s.Rows, Need: points.Points(s.Need), Have: points.Points(s.Have), Contested: s.Contested}
	})
	out.Uneven = each(a.Uneven, unevenOf)
	if d.State == build.DrawFound {
		aims := contract.DrawAims(a.Aims)
		out.Aims, out.Bound = &aims, (*contract.DrawAims)(a.Bound)
	}
	return out
}

func drawRow(r build.DrawnRow) contract.DrawRow {
	return contract.DrawRow{Title: r.Title, Filter: filterOf(r.Filter), ByPoints: r.ByPoints, Min: points.Points(r.Min), Max: points.Points(r.Max), Pool: r.Pool, Apart: r.Apart}
}

func unevenOf(u draw.Uneven) contract.DrawUneven {
	return contract.DrawUneven{Standard: u.Standard, Even: u.Even, Have: u.Have}
}

func drawnItem(it build.DrawnItem) contract.DrawnItem {
	return contract.DrawnItem{ItemId: it.ItemID, Identifier: it.Identifier, Stem: it.Stem, Kind: it.Kind, Standards: append([]string{}, it.Standards...), Difficulty: it.Difficulty,
		Depth: it.Depth, Uses: it.Uses, Row: it.Row, Stays: it.Stays, PassageId: unlessZero(it.Passage)}
}

func apartOf(p build.HostilePair) contract.Apart {
	return contract.Apart{ItemId: p.OtherID, Identifier: p.Identifier, Stem: p.Stem, Reason: p.Reason}
}

func (h *drawHandlers) ListApart(ctx context.Context, r contract.ListApartRequestObject) (contract.ListApartResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	pairs, err := h.app.Word.HostileTo(ctx, v, r.Id)
	return contract.ListApart200JSONResponse(each(pairs, apartOf)), err
}

func (h *drawHandlers) KeepApart(ctx context.Context, r contract.KeepApartRequestObject) (contract.KeepApartResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	if err := h.app.Word.SetHostile(ctx, v, r.Id, r.Body.Other, r.Body.Reason); err != nil {
		return nil, err
	}
	pairs, err := h.app.Word.HostileTo(ctx, v, r.Id)
	return contract.KeepApart200JSONResponse(each(pairs, apartOf)), err
}

func (h *drawHandlers) LetMeet(ctx context.Context, r contract.LetMeetRequestObject) (contract.LetMeetResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	if err := h.app.Word.EndHostile(ctx, v, r.Id, r.Other); err != nil {
		return nil, err
	}
	pairs, err := h.app.Word.HostileTo(ctx, v, r.Id)
	return contract.LetMeet200JSONResponse(each(pairs, apartOf)), err
}
