package api

import (
	"context"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/bank"
)

// readable tells whether the readability formulas, made for English, mean anything.
func readable(p bank.Passage) bool { return p.Language == "en" }

func passageListed(p bank.Passage) contract.PassageListed {
	out := contract.PassageListed{Id: p.ID, Identifier: p.Identifier, Title: p.Title, Words: p.Words, Language: p.Language, Source: p.Source, Permission: p.Permission,
		Bank: p.Bank, Items: p.Items, ChangedAt: timeOf(p.ChangedAt)}
	if grade, ok := bank.Figures(p).Grade(); ok && readable(p) {
		out.ReadingGrade = &grade
	}
	return out
}

func passageDetail(d bank.PassageDetail) contract.PassageDetail {
	out := contract.PassageDetail{Passage: passageListed(d.Passage), Body: d.Body, Sentences: d.Sentences, Syllables: d.Syllables, Items: each(d.Items, itemOf),
		MayChange: d.MayChange, Owner: d.Owner, Drafts: d.Drafts, Forms: d.Forms, Version: d.Version}
	out.Passage.Items = len(d.Items)
	if ease, ok := bank.Figures(d.Passage).Ease(); ok && readable(d.Passage) {
		out.ReadingEase = &ease
	}
	return out
}

func (h *shelfHandlers) ListPassages(ctx context.Context, r contract.ListPassagesRequestObject) (contract.ListPassagesResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Shelf.Passages(ctx, v, value(r.Params.Words))
	return contract.ListPassages200JSONResponse(each(list, passageListed)), err
}

func (h *shelfHandlers) GetPassage(ctx context.Context, r contract.GetPassageRequestObject) (contract.GetPassageResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Shelf.Passage(ctx, v, r.Id)
	return contract.GetPassage200JSONResponse(passageDetail(d)), err
}

func passageInput(in contract.PassageInput) bank.PassageInput {
	return bank.PassageInput{Identifier: in.Identifier, Title: in.Title, Body: in.Body, Language: in.Language, Source: in.Source, Permission: in.Permission, Bank: in.Bank}
}

func (h *shelfHandlers) AddPassage(ctx context.Context, r contract.AddPassageRequestObject) (contract.AddPassageResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Shelf.PutPassage(ctx, v, 0, 0, passageInput(*r.Body))
	return contract.AddPassage200JSONResponse(passageDetail(d)), err
}

func (h *shelfHandlers) PutPassage(ctx context.Context, r contract.PutPassageRequestObject) (contract.PutPassageResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Shelf.PutPassage(ctx, v, r.Id, int(r.Params.IfMatch), passageInput(*r.Body))
	return contract.PutPassage200JSONResponse(passageDetail(d)), err
}

func shelvedOf(m bank.MediaListed) contract.Shelved {
	return contract.Shelved{Hash: m.Hash, Type: m.Type, Name: m.Name, Alt: m.Alt, Width: m.Width, Height: m.Height, Bytes: m.Bytes, Person: m.Person, At: timeOf(m.At), Version: m.Version, Uses: m.Uses}
}

func (h *shelfHandlers) ListShelf(ctx context.Context, r contract.ListShelfRequestObject) (contract.ListShelfResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	files, next, err := h.app.Shelf.Shelf(ctx, v, value(r.Params.Words), value(r.Params.Unused), value(r.Params.Before))
	return contract.ListShelf200JSONResponse(contract.ShelfPage{Files: each(files, shelvedOf), Next: some(next)}), err
}

func shelvedUse(u bank.MediaUse) contract.ShelvedUse {
	return contract.ShelvedUse{File: shelvedOf(u.MediaListed), Items: each(u.Items, itemOf), Passages: each(u.Passages, passageListed), Others: u.Others}
}

func (h *shelfHandlers) GetShelved(ctx context.Context, r contract.GetShelvedRequestObject) (contract.GetShelvedResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	u, err := h.app.Shelf.MediaUses(ctx, v, r.Hash)
	return contract.GetShelved200JSONResponse(shelvedUse(u)), err
}

func (h *shelfHandlers) DescribeShelved(ctx context.Context, r contract.DescribeShelvedRequestObject) (contract.DescribeShelvedResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	u, err := h.app.Shelf.DescribeMedia(ctx, v, r.Hash, int(r.Params.IfMatch), r.Body.Name, r.Body.Alt)
	return contract.DescribeShelved200JSONResponse(shelvedUse(u)), err
}

func (h *shelfHandlers) ReplaceShelved(ctx context.Context, r contract.ReplaceShelvedRequestObject) (contract.ReplaceShelvedResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	done, err := h.app.Shelf.ReplaceMedia(ctx, v, r.Hash, r.Body.By, r.Body.Apply)
	return contract.ReplaceShelved200JSONResponse(contract.Outcome{Changes: each(done.Items, func(it bank.Item) string { return it.Identifier }), Refused: each(done.Refused, refusedItem)}), err
}

func refusedItem(r bank.RefusedItem) contract.RefusedItem {
	return contract.RefusedItem{Identifier: r.Identifier, Why: r.Why}
}
