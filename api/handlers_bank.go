package api

import (
	"context"

	"pineledger/app"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/store"
)

func (h *handlers) ListFrameworks(ctx context.Context, _ ListFrameworksRequestObject) (ListFrameworksResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Frameworks(ctx, v)
	return ListFrameworks200JSONResponse(each(list, func(f store.Framework) Framework {
		return Framework{Id: f.ID, Title: f.Title, Subject: f.Subject, Version: f.Version, Standards: f.Standards}
	})), err
}

func (h *handlers) ListStandards(ctx context.Context, r ListStandardsRequestObject) (ListStandardsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Standards(ctx, v, r.Id)
	return ListStandards200JSONResponse(each(list, func(s app.StandardNode) Standard {
		return Standard{Id: s.ID, Code: s.Code, Text: s.Text, Level: s.Level, Grades: jsonStrings(s.Grades), ParentId: s.ParentID, Items: s.Items}
	})), err
}

func itemOf(i store.Item) Item {
	out := Item{Id: i.ID, Identifier: i.Identifier, Bank: i.Bank, Version: i.Version, Kind: i.Kind, Stem: i.Stem, Standards: codes(i.Standards),
		Subject: i.Subject, Grade: i.Grade, Depth: i.Depth, Language: i.Language, Passage: i.Passage, Uses: i.Uses}
	if i.Difficulty.Valid {
		d := int(i.Difficulty.Int64)
		out.Difficulty = &d
	}
	return out
}

func (h *handlers) SearchItems(ctx context.Context, r SearchItemsRequestObject) (SearchItemsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	p := r.Params
	page, err := h.app.Items(ctx, v, store.ItemQuery{
		Words: value(p.Words), StandardID: value(p.Standard), PassageID: value(p.Passage), Tag: value(p.Tag),
		Kinds: value(p.Kind), Subjects: value(p.Subject), Grades: value(p.Grade), Languages: value(p.Language), Banks: value(p.Bank), Depths: value(p.Depth),
		DifficultyFrom: p.DifficultyFrom, DifficultyTo: p.DifficultyTo, Sort: store.ItemSort(value(p.Sort)), Cursor: value(p.Cursor), Limit: value(p.Limit),
	})
	if err != nil {
		return nil, err
	}
	out := ItemPage{Items: each(page.Items, itemOf), Next: page.Next}
	if page.Facets != nil {
		out.Total = &page.Total
		facets := []Facet{}
		for _, name := range []string{"subject", "grade", "kind", "depth", "language", "bank"} {
			facets = append(facets, Facet{Name: name, Values: each(page.Facets[name], func(c app.FacetCount) FacetValue { return FacetValue{Value: c.Value, Count: c.Count} })})
		}
		out.Facets = &facets
	}
	return SearchItems200JSONResponse(out), nil
}

func shown(s item.Shown) Shown {
	return Shown{Kind: string(s.Kind), Body: each(s.Body, func(b item.Block) Block {
		out := Block{Html: some(b.HTML)}
		if b.Interaction != nil {
			offered := func(c item.Choice) Choice {
				return Choice{Id: c.ID, Html: c.HTML, Most: some(c.Most), Plain: some(c.Plain), In: some(c.In)}
			}
			choices, targets := each(b.Interaction.Choices, offered), each(b.Interaction.Targets, offered)
			var line *NumberLine
			if b.Interaction.Line != nil {
				line = &NumberLine{Places: b.Interaction.Line.Places(), Labels: b.Interaction.Line.Labels}
			}
			out.Interaction = &Interaction{Line: line, Response: b.Interaction.Response, Choices: &choices, Targets: &targets, MaxChoices: some(b.Interaction.MaxChoices), Unit: some(b.Interaction.Unit)}
		}
		return out
	})}
}

func passage(p form.Passage) Passage {
	return Passage{Identifier: p.Identifier, Title: p.Title, Body: p.Body}
}

func (h *handlers) GetItem(ctx context.Context, r GetItemRequestObject) (GetItemResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Item(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	out := ItemDetail{Item: itemOf(d.Item), Shown: shown(d.Document.Shown()), Key: d.Key, Correct: []string{}, Credit: string(d.Document.Credit)}
	for _, declaration := range d.Document.Declarations {
		out.Correct = append(out.Correct, declaration.Correct...)
	}
	if d.Passage != nil {
		p := Passage{Identifier: d.Passage.Identifier, Title: d.Passage.Title, Body: d.Passage.Body}
		out.Passage = &p
	}
	return GetItem200JSONResponse(out), nil
}

func (h *handlers) GetTray(ctx context.Context, _ GetTrayRequestObject) (GetTrayResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	items, err := h.app.Tray(ctx, v)
	return GetTray200JSONResponse(each(items, itemOf)), err
}

func (h *handlers) PickItems(ctx context.Context, r PickItemsRequestObject) (PickItemsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	items, err := h.app.PickItems(ctx, v, r.Body.Items)
	return PickItems200JSONResponse(each(items, itemOf)), err
}

func (h *handlers) PutBackItems(ctx context.Context, r PutBackItemsRequestObject) (PutBackItemsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	items, err := h.app.PutBack(ctx, v, r.Params.Items)
	return PutBackItems200JSONResponse(each(items, itemOf)), err
}
