package api

import (
	"context"
	"strings"
	"time"

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
	list, err := h.app.Standards(ctx, v, r.Id, searchOf(SearchItemsParams(r.Params)))
	return ListStandards200JSONResponse(each(list, func(s app.StandardNode) Standard {
		return Standard{Id: s.ID, Code: s.Code, Text: s.Text, Level: s.Level, Grades: jsonStrings(s.Grades), ParentId: s.ParentID, Items: s.Items}
	})), err
}

func itemOf(i app.FoundItem) Item {
	out := Item{Id: i.ID, Identifier: i.Identifier, Bank: i.Bank, Version: i.Version, Kind: i.Kind, Stem: i.Stem, Standards: codes(i.Standards),
		Subject: i.Subject, Grade: i.Grade, Course: i.Course, Depth: i.Depth, Language: i.Language, Passage: i.Passage, PassageId: some(i.PassageID), Uses: i.Uses,
		ChangedAt: timeOf(i.ChangedAt), LastUsed: someTime(i.LastUsed), Tags: each(i.Tags, func(t store.Tag) ItemTag { return ItemTag{Id: t.ID, Name: t.Name, Scope: TagScope(t.Scope)} })}
	if i.Difficulty.Valid {
		d := int(i.Difficulty.Int64)
		out.Difficulty = &d
	}
	if i.Hit != nil {
		out.Hit = &Hit{Stem: runs(i.Hit.Stem), Choices: runs(i.Hit.Choices), Passage: runs(i.Hit.Passage)}
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
	t := timeOf(ms)
	return &t
}

// runs parts a text at the marks around what a search hit.
func runs(text string) []TextRun {
	out := []TextRun{}
	for i, piece := range strings.Split(text, store.HitBegins) {
		hit, after, marked := strings.Cut(piece, store.HitEnds)
		if i == 0 || !marked {
			after, hit = piece, ""
		}
		for _, run := range []TextRun{{Text: hit, Hit: true}, {Text: after}} {
			if run.Text != "" {
				out = append(out, run)
			}
		}
	}
	return out
}

// searchOf reads a search; every operation that takes one takes the same parameters.
func searchOf(p SearchItemsParams) app.ItemSearch {
	return app.ItemSearch{
		Words: value(p.Words), Standard: value(p.Standard), Unaligned: value(p.Unaligned), Unlinked: value(p.Unlinked), Passage: value(p.Passage), Tags: value(p.Tag), Owner: value(p.Owner),
		Kinds: value(p.Kind), Subjects: value(p.Subject), Grades: value(p.Grade), Courses: value(p.Course), Languages: value(p.Language), Eases: value(p.Ease),
		Banks: value(p.Bank), Depths: value(p.Depth), DifficultyFrom: p.DifficultyFrom, DifficultyTo: p.DifficultyTo, UsesFrom: p.UsesFrom, UsesTo: p.UsesTo,
		UsedSince: value(p.UsedSince), NotUsedSince: value(p.NotUsedSince), Only: value(p.Items), Sort: store.ItemSort(value(p.Sort)), Cursor: value(p.Cursor), Limit: value(p.Limit),
	}
}

func (h *handlers) SearchItems(ctx context.Context, r SearchItemsRequestObject) (SearchItemsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	page, err := h.app.Items(ctx, v, searchOf(r.Params))
	if err != nil {
		return nil, err
	}
	out := ItemPage{Items: each(page.Items, itemOf), Next: page.Next}
	if page.Facets != nil {
		out.Total = &page.Total
		facets := []Facet{}
		for _, name := range []string{"subject", "grade", "course", "kind", "ease", "depth", "language", "bank"} {
			facets = append(facets, Facet{Name: name, Values: each(page.Facets[name], func(c app.FacetCount) FacetValue { return FacetValue{Value: c.Value, Count: c.Count} })})
		}
		out.Facets = &facets
	}
	if len(page.Links) > 0 {
		links := each(page.Links, standardLink)
		out.Links = &links
	}
	return SearchItems200JSONResponse(out), nil
}

func standardLink(l store.LinkedStandard) StandardLink {
	return StandardLink{Code: l.Code, OtherCode: l.OtherCode, OtherText: l.OtherText, Framework: l.Framework, Kind: StandardLinkKind(l.Kind)}
}

func (h *handlers) ListRealignments(ctx context.Context, r ListRealignmentsRequestObject) (ListRealignmentsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Realignments(ctx, v, r.Id, r.Params.To)
	return ListRealignments200JSONResponse(each(list, func(x app.Realignment) Realignment {
		return Realignment{Id: x.ID, Code: x.Code, Text: x.Text, Items: x.Items, Proposals: each(x.Proposals, standardLink)}
	})), err
}

func (h *handlers) Realign(ctx context.Context, r RealignRequestObject) (RealignResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	out, err := h.app.Realign(ctx, v, r.Id, r.Body.To, r.Body.Drop, r.Body.Apply)
	return Realign200JSONResponse(bulkOutcome(out)), err
}

func (h *handlers) ListItemIds(ctx context.Context, r ListItemIdsRequestObject) (ListItemIdsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	ids, err := h.app.ItemIDs(ctx, v, searchOf(SearchItemsParams(r.Params)))
	return ListItemIds200JSONResponse{Ids: ids}, err
}

func shown(s item.Shown) Shown {
	out := Shown{Kind: string(s.Kind), Body: each(s.Body, shownBlock)}
	if len(s.Variants) > 0 {
		variants := each(s.Variants, func(v item.Variant) ShownVariant {
			return ShownVariant{Language: v.Language, Body: each(v.Body, shownBlock)}
		})
		out.Variants = &variants
	}
	return out
}

func shownBlock(b item.Block) Block {
	out := Block{Html: some(b.HTML), Inline: some(b.Inline)}
	in := b.Interaction
	if in == nil {
		return out
	}
	choices, targets := each(in.Choices, shownChoice), each(in.Targets, shownChoice)
	out.Interaction = &Interaction{Response: in.Response, Kind: some(string(in.Kind)), Choices: &choices, Targets: &targets, MaxChoices: some(in.MaxChoices),
		Unit: some(in.Unit), Rows: some(in.Rows), Among: some(in.Among)}
	if in.Line != nil {
		out.Interaction.Line = &NumberLine{Places: append([]string{}, in.Line.Places()...), Labels: in.Line.Labels}
	}
	if p := in.Picture; p != nil {
		out.Interaction.Picture = &Picture{Source: p.Source, Alt: p.Alt, Width: p.Width, Height: p.Height}
	}
	return out
}

func shownChoice(c item.Choice) Choice {
	out := Choice{Id: c.ID, Html: c.HTML, Label: some(c.Label), Most: some(c.Most), Plain: some(c.Plain), In: some(c.In)}
	if c.Area != nil {
		area := areaOf(*c.Area)
		out.Area = &area
	}
	return out
}

func areaOf(a item.Area) Area { return Area{Shape: a.Shape, At: append([]int{}, a.At...)} }

// keysOf tells staff what is right.
func keysOf(it item.Item) Keys {
	out := Keys{}
	for _, d := range it.Declarations {
		k := Key{Correct: append([]string{}, d.Correct...)}
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

func traitOf(t item.Trait) RubricTrait {
	return RubricTrait{Name: t.Name, Levels: each(t.Levels, func(l item.Level) RubricLevel { return RubricLevel{Points: l.Points, Text: l.Text} })}
}

func passage(p form.Passage) Passage {
	return Passage{Identifier: p.Identifier, Title: p.Title, Body: p.Body}
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
