package api

import (
	"context"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/bank"
)

func twinOf(t bank.Twin) contract.Twin {
	return contract.Twin{Item: itemOf(t.FoundItem), Shown: shown(t.Document.Shown(t.Language)), Key: t.Key, Keys: keysOf(t.Document), Likeness: t.Likeness, MayJoin: t.MayJoin}
}

func (h *bankHandlers) ListTwins(ctx context.Context, r contract.ListTwinsRequestObject) (contract.ListTwinsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Writing.ItemTwins(ctx, v, r.Id)
	return contract.ListTwins200JSONResponse(each(list, twinOf)), err
}

func (h *bankHandlers) KeepBoth(ctx context.Context, r contract.KeepBothRequestObject) (contract.KeepBothResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.KeepBoth204Response{}, h.app.Writing.KeepBoth(ctx, v, r.Id)
}

func (h *bankHandlers) JoinItems(ctx context.Context, r contract.JoinItemsRequestObject) (contract.JoinItemsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.JoinItems204Response{}, h.app.Writing.JoinItems(ctx, v, r.Id, r.Body.Into)
}

func (h *bankHandlers) DropItem(ctx context.Context, r contract.DropItemRequestObject) (contract.DropItemResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.DropItem204Response{}, h.app.Writing.DropItem(ctx, v, r.Id)
}

func (h *bankHandlers) ListDraftTwins(ctx context.Context, r contract.ListDraftTwinsRequestObject) (contract.ListDraftTwinsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Writing.DraftTwins(ctx, v, r.Id)
	return contract.ListDraftTwins200JSONResponse(each(list, twinOf)), err
}

func (h *bankHandlers) LinkDraft(ctx context.Context, r contract.LinkDraftRequestObject) (contract.LinkDraftResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Writing.LinkDraft(ctx, v, r.Id, int64(r.Params.IfMatch), r.Body.Item)
	if err != nil {
		return nil, err
	}
	return contract.LinkDraft200JSONResponse(draftOf(d)), nil
}

func (h *bankHandlers) ListImportTwins(ctx context.Context, r contract.ListImportTwinsRequestObject) (contract.ListImportTwinsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Writing.ImportTwins(ctx, v, r.Id)
	return contract.ListImportTwins200JSONResponse(each(list, func(p bank.ImportTwin) contract.ImportTwin {
		return contract.ImportTwin{New: twinOf(p.New), Twin: twinOf(p.Twin)}
	})), err
}
