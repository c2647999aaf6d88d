package api

import (
	"context"
	"strings"
	"time"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/bank"
	"pineledger/app/intake"
	"pineledger/core/form"
	"pineledger/core/item"
)

func (h *bankHandlers) ListFrameworks(ctx context.Context, _ contract.ListFrameworksRequestObject) (contract.ListFrameworksResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Bank.Frameworks(ctx, v)
	return contract.ListFrameworks200JSONResponse(each(list, func(f bank.Framework) contract.Framework {
		return contract.Framework{Id: f.ID, Title: f.Title, Subject: f.Subject, Version: f.Version, Standards: f.Standards}
	})), err
}

func (h *bankHandlers) ListStandards(ctx context.Context, r contract.ListStandardsRequestObject) (contract.ListStandardsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Bank.Standards(ctx, v, r.Id, searchOf(contract.SearchItemsParams(r.Params)))
	return contract.ListStandards200JSONResponse(each(list, func(s bank.StandardNode) contract.Standard {
		return contract.Standard{Id: s.ID, Code: s.Code, Text: s.Text, Level: s.Level, Grades: listed(s.Grades), ParentId: s.ParentID, Items: s.Items}
	})), err
}

func itemOf(i bank.FoundItem) contract.Item {
	out := contract.Item{Id: i.ID, Identifier: i.Identifier, Bank: i.Bank, Version: i.Version, Kind: i.Kind, Stem: i.Stem, Standards: codes(i.Standards),
		Subject: i.Subject, Grade: i.Grade, Course: i.Course, Depth: i.Depth, Language: i.Language, Passage: i.Passage, PassageId: some(i.PassageID), Uses: i.Uses,
		ChangedAt: timeOf(i.ChangedAt), LastUsed: someTime(i.LastUsed), Tags: each(i.Tags, func(t bank.Tag) contract.ItemTag {
			return contract.ItemTag{Id: t.ID, Name: t.Name, Scope: contract.TagScope(t.Scope)}
		})}
	if i.Difficulty != nil {
		d := int(*i.Difficulty)
		out.Difficulty = &d
	}
	if i.Hit != nil {
		out.Hit = &contract.Hit{Stem: runs(i.Hit.Stem), Choices: runs(i.Hit.Choices), Passage: runs(i.Hit.Passage)}
	}
	if i.Held != nil {
		hold := holdOf(*i.Held)
		out.Held = &hold
	}
	return out
}

// someTime leaves 0 out.
func someTime(ms int64) *time.Time {
	if ms == 0 {
		return nil
	}
	return new(timeOf(ms))
}

// runs parts a text at the marks around what a search hit.
func runs(text string) []contract.TextRun {
	out := []contract.TextRun{}
	for i, piece := range strings.Split(text, bank.HitBegins) {
		hit, after, marked := strings.Cut(piece, bank.HitEnds)
		if i == 0 || !marked {
			after, hit = piece, ""
		}
		for _, run := range []contract.TextRun{{Text: hit, Hit: true}, {Text: after}} {
			if run.Text != "" {
				out = append(out, run)
			}
		}
	}
	return out
}

// searchOf reads a search; every operation that takes one takes the same parameters.
func searchOf(p contract.SearchItemsParams) bank.ItemSearch {
	return bank.ItemSearch{
		Words: value(p.Words), Standard: value(p.Standard), Unaligned: value(p.Unaligned), Unlinked: value(p.Unlinked), Passage: value(p.Passage), Tags: value(p.Tag), Owner: value(p.Owner),
		Kinds: value(p.Kind), Subjects: value(p.Subject), Grades: value(p.Grade), Courses: value(p.Course), Languages: value(p.Language), Eases: value(p.Ease),
		Banks: value(p.Bank), Depths: value(p.Depth), DifficultyFrom: p.DifficultyFrom, DifficultyTo: p.DifficultyTo, UsesFrom: p.UsesFrom, UsesTo: p.UsesTo,
		UsedSince: value(p.UsedSince), NotUsedSince: value(p.NotUsedSince), Only: value(p.Items), Sort: bank.ItemSort(value(p.Sort)), Cursor: value(p.Cursor), Limit: value(p.Limit),
	}
}

func (h *bankHandlers) SearchItems(ctx context.Context, r contract.SearchItemsRequestObject) (contract.SearchItemsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	page, err := h.app.Bank.Items(ctx, v, searchOf(r.Params))
	if err != nil {
		return nil, err
	}
	out := contract.ItemPage{Items: each(page.Items, itemOf), Next: page.Next}
	if page.Facets != nil {
		out.Total = &page.Total
		facets := []contract.Facet{}
		for _, name := range []string{"subject", "grade", "course", "kind", "ease", "depth", "language", "bank"} {
			facets = append(facets, contract.Facet{Name: name, Values: each(page.Facets[name], func(c bank.FacetCount) contract.FacetValue {
				return contract.FacetValue{Value: c.Value, Count: c.Count}
			})})
		}
		out.Facets = &facets
	}
	if len(page.Links) > 0 {
		links := each(page.Links, standardLink)
		out.Links = &links
	}
	return contract.SearchItems200JSONResponse(out), nil
}

func standardLink(l bank.LinkedStandard) contract.StandardLink {
	return contract.StandardLink{Code: l.Code, OtherCode: l.OtherCode, OtherText: l.OtherText, Framework: l.Framework, Kind: contract.StandardLinkKind(l.Kind)}
}

func (h *bankHandlers) ListRealignments(ctx context.Context, r contract.ListRealignmentsRequestObject) (contract.ListRealignmentsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Intake.Realignments(ctx, v, r.Id, r.Params.To)
	return contract.ListRealignments200JSONResponse(each(list, func(x intake.Realignment) contract.Realignment {
		return contract.Realignment{Id: x.ID, Code: x.Code, Text: x.Text, Items: x.Items, Proposals: each(x.Proposals, standardLink)}
	})), err
}

func (h *bankHandlers) Realign(ctx context.Context, r contract.RealignRequestObject) (contract.RealignResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	out, err := h.app.Intake.Realign(ctx, v, r.Id, r.Body.To, r.Body.Drop, r.Body.Apply)
	return contract.Realign200JSONResponse(bulkOutcome(out)), err
}

func (h *bankHandlers) ListItemIds(ctx context.Context, r contract.ListItemIdsRequestObject) (contract.ListItemIdsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	ids, err := h.app.Bank.ItemIDs(ctx, v, searchOf(contract.SearchItemsParams(r.Params)))
	return contract.ListItemIds200JSONResponse{Ids: ids}, err
}

func shown(s item.Shown) contract.Shown {
	out := contract.Shown{Kind: string(s.Kind), Language: some(s.Language), Body: each(s.Body, shownBlock)}
	if len(s.Variants) > 0 {
		variants := each(s.Variants, func(v item.Variant) contract.ShownVariant {
			return contract.ShownVariant{Language: v.Language, Body: each(v.Body, shownBlock)}
		})
		out.Variants = &variants
	}
	for _, g := range s.Glossary {
		if out.Glossary == nil {
			out.Glossary = &[]contract.Gloss{}
		}
		*out.Glossary = append(*out.Glossary, contract.Gloss{Word: g.Word, Language: g.Language, Html: g.HTML})
	}
	return out
}

func shownBlock(b item.Block) contract.Block {
	out := contract.Block{Html: some(b.HTML), Inline: some(b.Inline)}
	in := b.Interaction
	if in == nil {
		return out
	}
	choices, targets := each(in.Choices, shownChoice), each(in.Targets, shownChoice)
	out.Interaction = &contract.Interaction{Response: in.Response, Kind: some(string(in.Kind)), Choices: &choices, Targets: &targets, MaxChoices: some(in.MaxChoices),
		Unit: some(in.Unit), Rows: some(in.Rows), Among: some(in.Among)}
	if in.Line != nil {
		out.Interaction.Line = &contract.NumberLine{Places: append([]string{}, in.Line.Places()...), Labels: in.Line.Labels}
	}
	if p := in.Picture; p != nil {
		out.Interaction.Picture = &contract.Picture{Source: p.Source, Alt: p.Alt, Width: p.Width, Height: p.Height}
	}
	return out
}

func shownChoice(c item.Choice) contract.Choice {
	out := contract.Choice{Id: c.ID, Html: c.HTML, Label: some(c.Label), Most: some(c.Most), Plain: some(c.Plain), In: some(c.In)}
	if c.Area != nil {
		area := areaOf(*c.Area)
		out.Area = &area
	}
	return out
}

func areaOf(a item.Area) contract.Area {
	return contract.Area{Shape: a.Shape, At: append([]int{}, a.At...)}
}

// keysOf tells staff what is right.
func keysOf(it item.Item) contract.Keys {
	out := contract.Keys{}
	for _, d := range it.Declarations {
		k := contract.Key{Correct: append([]string{}, d.Correct...)}
		if len(d.Areas) > 0 {
			areas := each(d.Areas, areaOf)
			k.Areas = &areas
		}
		if d.Rubric != nil {
			traits := each(d.Rubric.Traits, traitOf)
			k.Rubric = &traits
		}
		out[d.Response] = k
	}
	return out
}

func traitOf(t item.Trait) contract.RubricTrait {
	return contract.RubricTrait{Name: t.Name, Levels: each(t.Levels, func(l item.Level) contract.RubricLevel { return contract.RubricLevel{Points: l.Points, Text: l.Text} })}
}

func passage(p form.Passage) contract.Passage {
	return contract.Passage{Identifier: p.Identifier, Title: p.Title, Body: p.Body, Language: some(p.Language)}
}

func (h *bankHandlers) GetTray(ctx context.Context, _ contract.GetTrayRequestObject) (contract.GetTrayResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	items, err := h.app.Bank.Tray(ctx, v)
	return contract.GetTray200JSONResponse(each(items, itemOf)), err
}

func (h *bankHandlers) PickItems(ctx context.Context, r contract.PickItemsRequestObject) (contract.PickItemsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	items, err := h.app.Bank.PickItems(ctx, v, r.Body.Items)
	return contract.PickItems200JSONResponse(each(items, itemOf)), err
}

func (h *bankHandlers) PutBackItems(ctx context.Context, r contract.PutBackItemsRequestObject) (contract.PutBackItemsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	items, err := h.app.Bank.PutBack(ctx, v, r.Params.Items)
	return contract.PutBackItems200JSONResponse(each(items, itemOf)), err
}
