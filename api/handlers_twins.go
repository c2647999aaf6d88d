package api

import (
	"context"

	"pineledger/app"
)

func twinOf(t app.Twin) Twin {
	return Twin{Item: itemOf(t.FoundItem), Shown: shown(t.Document.Shown()), Key: t.Key, Keys: keysOf(t.Document), Likeness: t.Likeness, MayJoin: t.MayJoin}
}

func (h *handlers) ListTwins(ctx context.Context, r ListTwinsRequestObject) (ListTwinsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.ItemTwins(ctx, v, r.Id)
	return ListTwins200JSONResponse(each(list, twinOf)), err
}

func (h *handlers) KeepBoth(ctx context.Context, r KeepBothRequestObject) (KeepBothResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	return KeepBoth204Response{}, h.app.KeepBoth(ctx, v, r.Id)
}

func (h *handlers) JoinItems(ctx context.Context, r JoinItemsRequestObject) (JoinItemsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	return JoinItems204Response{}, h.app.JoinItems(ctx, v, r.Id, r.Body.Into)
}

func (h *handlers) DropItem(ctx context.Context, r DropItemRequestObject) (DropItemResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	return DropItem204Response{}, h.app.DropItem(ctx, v, r.Id)
}

func (h *handlers) ListDraftTwins(ctx context.Context, r ListDraftTwinsRequestObject) (ListDraftTwinsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.DraftTwins(ctx, v, r.Id)
	return ListDraftTwins200JSONResponse(each(list, twinOf)), err
}

func (h *handlers) LinkDraft(ctx context.Context, r LinkDraftRequestObject) (LinkDraftResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.LinkDraft(ctx, v, r.Id, int64(r.Params.IfMatch), r.Body.Item)
	if err != nil {
		return nil, err
	}
	return LinkDraft200JSONResponse(draftOf(d)), nil
}

func (h *handlers) ListImportTwins(ctx context.Context, r ListImportTwinsRequestObject) (ListImportTwinsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.ImportTwins(ctx, v, r.Id)
	return ListImportTwins200JSONResponse(each(list, func(p app.ImportTwin) ImportTwin { return ImportTwin{New: twinOf(p.New), Twin: twinOf(p.Twin)} })), err
}
