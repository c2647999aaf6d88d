package api

import (
	"context"
	"errors"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/take"
)

func substituteOf(b take.Substitute) contract.Substitute {
	return contract.Substitute{Id: b.ID, Name: b.Name, Day: b.Day, Rooms: b.Rooms, MadeBy: b.MadeBy, Came: b.CameAt > 0}
}

func substituteRoom(s take.Sitting) contract.SubstituteRoom {
	return contract.SubstituteRoom{SittingId: s.ID, Section: s.Called(), School: s.School, Title: s.Title, OpensAt: timeOf(s.OpensAt), ClosesAt: timeOf(s.ClosesAt)}
}

func (h *takeHandlers) GetSubstitutes(ctx context.Context, r contract.GetSubstitutesRequestObject) (contract.GetSubstitutesResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	out, err := h.app.Take.Substitutes(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.GetSubstitutes200JSONResponse{List: each(out.List, substituteOf), Rooms: each(out.Rooms, substituteRoom)}, nil
}

func (h *takeHandlers) AddSubstitute(ctx context.Context, r contract.AddSubstituteRequestObject) (contract.AddSubstituteResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	made, secret, err := h.app.Take.AddSubstitute(ctx, v, r.Id, take.SubstituteInput{Name: r.Body.Name, Day: r.Body.Day, Sittings: r.Body.Sittings})
	if err != nil {
		return nil, err
	}
	return contract.AddSubstitute200JSONResponse{Substitute: substituteOf(made), Secret: secret}, nil
}

func (h *takeHandlers) EndSubstitute(ctx context.Context, r contract.EndSubstituteRequestObject) (contract.EndSubstituteResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.EndSubstitute204Response{}, h.app.Take.EndSubstitute(ctx, v, r.Id, r.Substitute)
}

// LookAtLink is counted against whoever guesses, as signing in is.
func (h *officeHandlers) LookAtLink(ctx context.Context, r contract.LookAtLinkRequestObject) (contract.LookAtLinkResponseObject, error) {
	right, ok := h.limits.Try("link:"+r.Body.Secret, edge.Remote(ctx))
	if !ok {
		return nil, edge.ErrTooMany
	}
	link, err := h.app.Take.LinkOf(ctx, r.Body.Secret)
	if !errors.Is(err, take.ErrNoLink) {
		right()
	}
	if err != nil {
		return nil, err
	}
	return contract.LookAtLink200JSONResponse{Name: link.Name, Day: link.Day, Today: link.Today, Rooms: each(link.Rooms, substituteRoom)}, nil
}

func (h *officeHandlers) ComeByLink(ctx context.Context, r contract.ComeByLinkRequestObject) (contract.ComeByLinkResponseObject, error) {
	right, ok := h.limits.Try("link:"+r.Body.Secret, edge.Remote(ctx))
	if !ok {
		return nil, edge.ErrTooMany
	}
	v, err := h.app.Take.ComeBy(ctx, r.Body.Secret)
	if !errors.Is(err, take.ErrNoLink) {
		right()
	}
	if err != nil {
		return nil, err
	}
	if err := h.sessions.Begin(ctx, v); err != nil {
		return nil, err
	}
	s, err := h.session(ctx, v, true)
	return contract.ComeByLink200JSONResponse(s), err
}
