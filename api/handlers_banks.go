package api

import (
	"context"

	"pineledger/app"
	"pineledger/core/bank"
	"pineledger/store"
)

func bankOf(b app.BankListed) Bank {
	return Bank{Id: b.ID, Name: b.Name, Kind: BankKind(b.Kind), SchoolId: b.SchoolID, School: b.School, About: b.About, NoCopy: b.NoCopy, NoPrint: b.NoPrint, Version: b.Version,
		Items: b.Items, Standing: Standing(b.Standing), Write: b.Write, Members: each(b.Members, func(m store.BankMember) Member {
			return Member{Id: m.PersonID, Name: m.Name, Email: m.Email, Standing: Standing(m.Standing)}
		})}
}

func bankInput(in BankInput) app.BankInput {
	out := app.BankInput{Name: in.Name, About: in.About, NoCopy: in.NoCopy, NoPrint: in.NoPrint}
	for _, m := range in.Members {
		out.Members = append(out.Members, app.MemberInput{PersonID: m.Id, Standing: bank.Standing(m.Standing)})
	}
	return out
}

func (h *handlers) ListBanks(ctx context.Context, _ ListBanksRequestObject) (ListBanksResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Banks(ctx, v)
	return ListBanks200JSONResponse(each(list, bankOf)), err
}

func (h *handlers) AddBank(ctx context.Context, r AddBankRequestObject) (AddBankResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.AddBank(ctx, v, bank.Kind(r.Body.Kind), r.Body.SchoolId, bankInput(r.Body.Bank))
	return AddBank200JSONResponse(each(list, bankOf)), err
}

func (h *handlers) PutBank(ctx context.Context, r PutBankRequestObject) (PutBankResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.PutBank(ctx, v, r.Id, int(r.Params.IfMatch), bankInput(*r.Body))
	return PutBank200JSONResponse(each(list, bankOf)), err
}

func (h *handlers) ListStaff(ctx context.Context, r ListStaffRequestObject) (ListStaffResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.StaffNamed(ctx, v, value(r.Params.Words))
	return ListStaff200JSONResponse(each(list, personOf)), err
}

func tagOf(t app.TagListed) Tag {
	return Tag{Id: t.ID, Name: t.Name, Scope: TagScope(t.Scope), ScopeId: t.ScopeID, For: t.For, Items: t.Items, MayRename: t.MayRename}
}

func (h *handlers) CountItemTags(ctx context.Context, r CountItemTagsRequestObject) (CountItemTagsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.ItemTags(ctx, v, searchOf(SearchItemsParams(r.Params)))
	return CountItemTags200JSONResponse(each(list, func(t app.TagCount) Tag { return tagOf(app.TagListed{Tag: t.Tag, Items: t.Count}) })), err
}

func (h *handlers) TagItems(ctx context.Context, r TagItemsRequestObject) (TagItemsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	b := r.Body
	return TagItems204Response{}, h.app.TagItems(ctx, v, b.Items, b.Tags, bank.Tag{Scope: bank.TagScope(b.Scope), ScopeID: b.ScopeId}, b.Off)
}

func (h *handlers) tags(ctx context.Context, list []app.TagListed) (Tags, error) {
	v, err := who(ctx)
	if err != nil {
		return Tags{}, err
	}
	scopes, err := h.app.TagScopes(ctx, v)
	return Tags{Tags: each(list, tagOf), Scopes: each(scopes, func(t app.TagListed) TagFor {
		return TagFor{Scope: TagScope(t.Scope), ScopeId: t.ScopeID, For: t.For}
	})}, err
}

func (h *handlers) ListTags(ctx context.Context, _ ListTagsRequestObject) (ListTagsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Tags(ctx, v)
	if err != nil {
		return nil, err
	}
	out, err := h.tags(ctx, list)
	return ListTags200JSONResponse(out), err
}

func (h *handlers) RenameTag(ctx context.Context, r RenameTagRequestObject) (RenameTagResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.RenameTag(ctx, v, r.Id, r.Body.Name)
	if err != nil {
		return nil, err
	}
	out, err := h.tags(ctx, list)
	return RenameTag200JSONResponse(out), err
}

func savedSearch(s store.SavedSearch) SavedSearch {
	return SavedSearch{Id: s.ID, Name: s.Name, Query: s.Query}
}

func (h *handlers) ListSavedSearches(ctx context.Context, _ ListSavedSearchesRequestObject) (ListSavedSearchesResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.SavedSearches(ctx, v)
	return ListSavedSearches200JSONResponse(each(list, savedSearch)), err
}

func (h *handlers) SaveSearch(ctx context.Context, r SaveSearchRequestObject) (SaveSearchResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.SaveSearch(ctx, v, r.Body.Name, r.Body.Query)
	return SaveSearch200JSONResponse(each(list, savedSearch)), err
}

func (h *handlers) DropSearch(ctx context.Context, r DropSearchRequestObject) (DropSearchResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.DropSearch(ctx, v, r.Id)
	return DropSearch200JSONResponse(each(list, savedSearch)), err
}

func (h *handlers) ChangeItems(ctx context.Context, r ChangeItemsRequestObject) (ChangeItemsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	c := r.Body.Change
	out, err := h.app.ChangeItems(ctx, v, r.Body.Items, bank.MetaChange{Bank: c.Bank, Subject: c.Subject, Grade: c.Grade, Course: c.Course, Language: c.Language, Depth: c.Depth,
		Difficulty: c.Difficulty, Align: value(c.Align), Unalign: value(c.Unalign)}, r.Body.Apply)
	return ChangeItems200JSONResponse(bulkOutcome(out)), err
}

func bulkOutcome(o app.BulkOutcome) BulkOutcome {
	return BulkOutcome{Id: o.ID, Changed: o.Changed, Unchanged: o.Unchanged, Refused: o.Refused, Rows: each(o.Rows, func(row app.BulkRow) BulkRow {
		return BulkRow{Identifier: row.Identifier, Stem: row.Stem, Changes: each(row.Changes, differenceOf), Why: row.Why}
	})}
}

func (h *handlers) UndoItemChange(ctx context.Context, r UndoItemChangeRequestObject) (UndoItemChangeResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	out, err := h.app.UndoChange(ctx, v, r.Id)
	return UndoItemChange200JSONResponse(bulkOutcome(out)), err
}
