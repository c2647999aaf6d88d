package api

import (
	"context"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/build"
	"pineledger/app/desk"
)

func shareOf(s build.Share) contract.Share {
	return contract.Share{PersonId: s.PersonID, SchoolId: s.SchoolID, Subject: s.Subject, Teachers: s.Teachers, ByLink: s.ByLink, Edit: s.Edit, Copy: s.Copy, Print: s.Print, Name: s.Name, Email: s.Email, Where: s.Where, Builds: s.Builds}
}

func (h *shareHandlers) PutShares(ctx context.Context, r contract.PutSharesRequestObject) (contract.PutSharesResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	shares := each(r.Body.Shares, func(s contract.ShareInput) build.Share {
		return build.Share{PersonID: s.PersonId, SchoolID: s.SchoolId, Subject: value(s.Subject), Teachers: value(s.Teachers), Edit: s.Edit, Copy: s.Copy, Print: s.Print}
	})
	s, err := h.app.Build.PutShares(ctx, v, r.Id, r.Params.IfMatch, shares, value(r.Body.Linked))
	if err != nil {
		return nil, err
	}
	return contract.PutShares200JSONResponse(sheet(v, s)), nil
}

func (h *shareHandlers) MakeLink(ctx context.Context, r contract.MakeLinkRequestObject) (contract.MakeLinkResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	secret, err := h.app.Build.MakeLink(ctx, v, r.Id, r.Body.Copy, r.Body.Print)
	return contract.MakeLink200JSONResponse{Secret: secret}, err
}

func (h *shareHandlers) EndLink(ctx context.Context, r contract.EndLinkRequestObject) (contract.EndLinkResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.EndLink204Response{}, h.app.Build.EndLink(ctx, v, r.Id)
}

func (h *shareHandlers) FollowLink(ctx context.Context, r contract.FollowLinkRequestObject) (contract.FollowLinkResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	id, err := h.app.Build.FollowLink(ctx, v, r.Body.Secret)
	return contract.FollowLink200JSONResponse{Id: id}, err
}

func (h *shareHandlers) ListDepartments(ctx context.Context, _ contract.ListDepartmentsRequestObject) (contract.ListDepartmentsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Build.Departments(ctx, v)
	return contract.ListDepartments200JSONResponse(list), err
}

func (h *shareHandlers) Attend(ctx context.Context, r contract.AttendRequestObject) (contract.AttendResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	others, err := h.app.Build.Attend(ctx, v, r.Id, r.Body.Part)
	return contract.Attend200JSONResponse(each(others, func(p build.Present) contract.Present { return contract.Present(p) })), err
}

func (h *shareHandlers) ListHistory(ctx context.Context, r contract.ListHistoryRequestObject) (contract.ListHistoryResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Build.History(ctx, v, r.Id)
	return contract.ListHistory200JSONResponse(each(list, func(e build.Happened) contract.Happened {
		return contract.Happened{Number: e.Number, At: e.At.UTC(), Who: e.Actor, Did: desk.Spoken(e.Act), Title: e.Title, Restores: e.Restores}
	})), err
}

func (h *shareHandlers) RestoreHistory(ctx context.Context, r contract.RestoreHistoryRequestObject) (contract.RestoreHistoryResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Build.Restore(ctx, v, r.Id, r.Params.IfMatch, r.Number)
	if err != nil {
		return nil, err
	}
	return contract.RestoreHistory200JSONResponse(sheet(v, s)), nil
}

func (h *shareHandlers) ListEditions(ctx context.Context, r contract.ListEditionsRequestObject) (contract.ListEditionsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Build.Editions(ctx, v, r.Id, value(r.Params.Compare))
	return contract.ListEditions200JSONResponse(each(list, func(e build.EditionListed) contract.EditionListed {
		return contract.EditionListed{Edition: e.Edition, Fingerprint: e.Fingerprint, SealedAt: timeOf(e.SealedAt), Lines: e.Lines, Total: e.Total, Changes: e.Changes}
	})), err
}
