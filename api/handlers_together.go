package api

import (
	"context"

	"pineledger/app"
	"pineledger/store"
)

func shareOf(s store.Share) Share {
	return Share{PersonId: s.PersonID, SchoolId: s.SchoolID, Subject: s.Subject, Teachers: s.Teachers, ByLink: s.ByLink, Edit: s.Edit, Copy: s.Copy, Print: s.Print, Name: s.Name, Email: s.Email, Where: s.Where, Builds: s.Builds}
}

func (h *handlers) PutShares(ctx context.Context, r PutSharesRequestObject) (PutSharesResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	shares := each(r.Body.Shares, func(s ShareInput) store.Share {
		return store.Share{PersonID: s.PersonId, SchoolID: s.SchoolId, Subject: value(s.Subject), Teachers: value(s.Teachers), Edit: s.Edit, Copy: s.Copy, Print: s.Print}
	})
	s, err := h.app.PutShares(ctx, v, r.Id, r.Params.IfMatch, shares, value(r.Body.Linked))
	if err != nil {
		return nil, err
	}
	return PutShares200JSONResponse(sheet(v, s)), nil
}

func (h *handlers) MakeLink(ctx context.Context, r MakeLinkRequestObject) (MakeLinkResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	secret, err := h.app.MakeLink(ctx, v, r.Id, r.Body.Copy, r.Body.Print)
	return MakeLink200JSONResponse{Secret: secret}, err
}

func (h *handlers) EndLink(ctx context.Context, r EndLinkRequestObject) (EndLinkResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	return EndLink204Response{}, h.app.EndLink(ctx, v, r.Id)
}

func (h *handlers) FollowLink(ctx context.Context, r FollowLinkRequestObject) (FollowLinkResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	id, err := h.app.FollowLink(ctx, v, r.Body.Secret)
	return FollowLink200JSONResponse{Id: id}, err
}

func (h *handlers) ListDepartments(ctx context.Context, _ ListDepartmentsRequestObject) (ListDepartmentsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Departments(ctx, v)
	return ListDepartments200JSONResponse(list), err
}

func (h *handlers) Attend(ctx context.Context, r AttendRequestObject) (AttendResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	others, err := h.app.Attend(ctx, v, r.Id, r.Body.Part)
	return Attend200JSONResponse(each(others, func(p app.Present) Present { return Present(p) })), err
}

func (h *handlers) ListHistory(ctx context.Context, r ListHistoryRequestObject) (ListHistoryResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.History(ctx, v, r.Id)
	return ListHistory200JSONResponse(each(list, func(e app.Happened) Happened {
		return Happened{Number: e.Number, At: e.At.UTC(), Who: e.Actor, Did: app.Spoken(e.Act), Title: e.Title, Restores: e.Restores}
	})), err
}

func (h *handlers) RestoreHistory(ctx context.Context, r RestoreHistoryRequestObject) (RestoreHistoryResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Restore(ctx, v, r.Id, r.Params.IfMatch, r.Number)
	if err != nil {
		return nil, err
	}
	return RestoreHistory200JSONResponse(sheet(v, s)), nil
}

func (h *handlers) ListEditions(ctx context.Context, r ListEditionsRequestObject) (ListEditionsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Editions(ctx, v, r.Id, value(r.Params.Compare))
	return ListEditions200JSONResponse(each(list, func(e app.EditionListed) EditionListed {
		return EditionListed{Edition: e.Edition, Fingerprint: e.Fingerprint, SealedAt: timeOf(e.SealedAt), Lines: e.Lines, Total: e.Total, Changes: e.Changes}
	})), err
}
