package api

import (
	"context"

	"pineledger/app"
	"pineledger/store"
)

// readable tells whether the readability formulas, made for English, mean anything.
func readable(p store.Passage) bool { return p.Language == "en" }

func passageListed(p store.Passage) PassageListed {
	out := PassageListed{Id: p.ID, Identifier: p.Identifier, Title: p.Title, Words: p.Words, Language: p.Language, Source: p.Source, Permission: p.Permission,
		Bank: p.Bank, Items: p.Items, ChangedAt: timeOf(p.ChangedAt)}
	if grade, ok := app.Figures(p).Grade(); ok && readable(p) {
		out.ReadingGrade = &grade
	}
	return out
}

func passageDetail(d app.PassageDetail) PassageDetail {
	out := PassageDetail{Passage: passageListed(d.Passage), Body: d.Body, Sentences: d.Sentences, Syllables: d.Syllables, Items: each(d.Items, itemOf),
		MayChange: d.MayChange, Owner: d.Owner, Drafts: d.Drafts, Forms: d.Forms, Version: d.Version}
	out.Passage.Items = len(d.Items)
	if ease, ok := app.Figures(d.Passage).Ease(); ok && readable(d.Passage) {
		out.ReadingEase = &ease
	}
	return out
}

func (h *handlers) ListPassages(ctx context.Context, r ListPassagesRequestObject) (ListPassagesResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Passages(ctx, v, value(r.Params.Words))
	return ListPassages200JSONResponse(each(list, passageListed)), err
}

func (h *handlers) GetPassage(ctx context.Context, r GetPassageRequestObject) (GetPassageResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Passage(ctx, v, r.Id)
	return GetPassage200JSONResponse(passageDetail(d)), err
}

func passageInput(in PassageInput) app.PassageInput {
	return app.PassageInput{Identifier: in.Identifier, Title: in.Title, Body: in.Body, Language: in.Language, Source: in.Source, Permission: in.Permission, Bank: in.Bank}
}

func (h *handlers) AddPassage(ctx context.Context, r AddPassageRequestObject) (AddPassageResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.PutPassage(ctx, v, 0, 0, passageInput(*r.Body))
	return AddPassage200JSONResponse(passageDetail(d)), err
}

func (h *handlers) PutPassage(ctx context.Context, r PutPassageRequestObject) (PutPassageResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.PutPassage(ctx, v, r.Id, int(r.Params.IfMatch), passageInput(*r.Body))
	return PutPassage200JSONResponse(passageDetail(d)), err
}

func shelvedOf(m store.MediaListed) Shelved {
	return Shelved{Hash: m.Hash, Type: m.Type, Name: m.Name, Alt: m.Alt, Width: m.Width, Height: m.Height, Bytes: m.Bytes, Person: m.Person, At: timeOf(m.At), Version: m.Version, Uses: m.Uses}
}

func (h *handlers) ListShelf(ctx context.Context, r ListShelfRequestObject) (ListShelfResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	files, next, err := h.app.Shelf(ctx, v, value(r.Params.Words), value(r.Params.Unused), value(r.Params.Before))
	return ListShelf200JSONResponse(ShelfPage{Files: each(files, shelvedOf), Next: some(next)}), err
}

func shelvedUse(u app.MediaUse) ShelvedUse {
	return ShelvedUse{File: shelvedOf(u.MediaListed), Items: each(u.Items, itemOf), Passages: each(u.Passages, passageListed), Others: u.Others}
}

func (h *handlers) GetShelved(ctx context.Context, r GetShelvedRequestObject) (GetShelvedResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	u, err := h.app.MediaUses(ctx, v, r.Hash)
	return GetShelved200JSONResponse(shelvedUse(u)), err
}

func (h *handlers) DescribeShelved(ctx context.Context, r DescribeShelvedRequestObject) (DescribeShelvedResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	u, err := h.app.DescribeMedia(ctx, v, r.Hash, int(r.Params.IfMatch), r.Body.Name, r.Body.Alt)
	return DescribeShelved200JSONResponse(shelvedUse(u)), err
}

func (h *handlers) ReplaceShelved(ctx context.Context, r ReplaceShelvedRequestObject) (ReplaceShelvedResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	done, err := h.app.ReplaceMedia(ctx, v, r.Hash, r.Body.By, r.Body.Apply)
	return ReplaceShelved200JSONResponse(Outcome{Changes: each(done.Items, func(it store.Item) string { return it.Identifier }), Refused: each(done.Refused, refusedItem)}), err
}

func refusedItem(r app.RefusedItem) RefusedItem {
	return RefusedItem{Identifier: r.Identifier, Why: r.Why}
}
