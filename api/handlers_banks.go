package api

import (
	"context"

	"pineledger/api/contract"
	"pineledger/api/edge"
	bankroom "pineledger/app/bank"
	"pineledger/core/bank"
)

func bankOf(b bankroom.BankListed) contract.Bank {
	return contract.Bank{Id: b.ID, Name: b.Name, Kind: contract.BankKind(b.Kind), SchoolId: b.SchoolID, School: b.School, About: b.About, NoCopy: b.NoCopy, NoPrint: b.NoPrint, Version: b.Version,
		Items: b.Items, Standing: contract.Standing(b.Standing), Write: b.Write, Members: each(b.Members, func(m bankroom.BankMember) contract.Member {
			return contract.Member{Id: m.PersonID, Name: m.Name, Email: m.Email, Standing: contract.Standing(m.Standing)}
		})}
}

func bankInput(in contract.BankInput) bankroom.BankInput {
	out := bankroom.BankInput{Name: in.Name, About: in.About, NoCopy: in.NoCopy, NoPrint: in.NoPrint}
	for _, m := range in.Members {
		out.Members = append(out.Members, bankroom.MemberInput{PersonID: m.Id, Standing: bank.Standing(m.Standing)})
	}
	return out
}

func (h *bankHandlers) ListBanks(ctx context.Context, _ contract.ListBanksRequestObject) (contract.ListBanksResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Bank.Banks(ctx, v)
	return contract.ListBanks200JSONResponse(each(list, bankOf)), err
}

func (h *bankHandlers) AddBank(ctx context.Context, r contract.AddBankRequestObject) (contract.AddBankResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Bank.AddBank(ctx, v, bank.Kind(r.Body.Kind), r.Body.SchoolId, bankInput(r.Body.Bank))
	return contract.AddBank200JSONResponse(each(list, bankOf)), err
}

func (h *bankHandlers) PutBank(ctx context.Context, r contract.PutBankRequestObject) (contract.PutBankResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Bank.PutBank(ctx, v, r.Id, int(r.Params.IfMatch), bankInput(*r.Body))
	return contract.PutBank200JSONResponse(each(list, bankOf)), err
}

func (h *bankHandlers) ListStaff(ctx context.Context, r contract.ListStaffRequestObject) (contract.ListStaffResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Bank.StaffNamed(ctx, v, value(r.Params.Words))
	return contract.ListStaff200JSONResponse(each(list, personOf)), err
}

func tagOf(t bankroom.TagListed) contract.Tag {
	return contract.Tag{Id: t.ID, Name: t.Name, Scope: contract.TagScope(t.Scope), ScopeId: t.ScopeID, For: t.For, Items: t.Items, MayRename: t.MayRename}
}

func (h *bankHandlers) CountItemTags(ctx context.Context, r contract.CountItemTagsRequestObject) (contract.CountItemTagsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Bank.ItemTags(ctx, v, searchOf(contract.SearchItemsParams(r.Params)))
	return contract.CountItemTags200JSONResponse(each(list, func(t bankroom.TagCount) contract.Tag { return tagOf(bankroom.TagListed{Tag: t.Tag, Items: t.Count}) })), err
}

func (h *bankHandlers) TagItems(ctx context.Context, r contract.TagItemsRequestObject) (contract.TagItemsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	b := r.Body
	return contract.TagItems204Response{}, h.app.Bank.TagItems(ctx, v, b.Items, b.Tags, bank.Tag{Scope: bank.TagScope(b.Scope), ScopeID: b.ScopeId}, b.Off)
}

func (h *bankHandlers) tags(ctx context.Context, list []bankroom.TagListed) (contract.Tags, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return contract.Tags{}, err
	}
	scopes, err := h.app.Bank.TagScopes(ctx, v)
	return contract.Tags{Tags: each(list, tagOf), Scopes: each(scopes, func(t bankroom.TagListed) contract.TagFor {
		return contract.TagFor{Scope: contract.TagScope(t.Scope), ScopeId: t.ScopeID, For: t.For}
	})}, err
}

func (h *bankHandlers) ListTags(ctx context.Context, _ contract.ListTagsRequestObject) (contract.ListTagsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Bank.Tags(ctx, v)
	if err != nil {
		return nil, err
	}
	out, err := h.tags(ctx, list)
	return contract.ListTags200JSONResponse(out), err
}

func (h *bankHandlers) RenameTag(ctx context.Context, r contract.RenameTagRequestObject) (contract.RenameTagResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Bank.RenameTag(ctx, v, r.Id, r.Body.Name)
	if err != nil {
		return nil, err
	}
	out, err := h.tags(ctx, list)
	return contract.RenameTag200JSONResponse(out), err
}

func savedSearch(s bankroom.SavedSearch) contract.SavedSearch {
	return contract.SavedSearch{Id: s.ID, Name: s.Name, Query: s.Query}
}

func (h *bankHandlers) ListSavedSearches(ctx context.Context, _ contract.ListSavedSearchesRequestObject) (contract.ListSavedSearchesResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Bank.SavedSearches(ctx, v)
	return contract.ListSavedSearches200JSONResponse(each(list, savedSearch)), err
}

func (h *bankHandlers) SaveSearch(ctx context.Context, r contract.SaveSearchRequestObject) (contract.SaveSearchResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Bank.SaveSearch(ctx, v, r.Body.Name, r.Body.Query)
	return contract.SaveSearch200JSONResponse(each(list, savedSearch)), err
}

func (h *bankHandlers) DropSearch(ctx context.Context, r contract.DropSearchRequestObject) (contract.DropSearchResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Bank.DropSearch(ctx, v, r.Id)
	return contract.DropSearch200JSONResponse(each(list, savedSearch)), err
}

func (h *bankHandlers) ChangeItems(ctx context.Context, r contract.ChangeItemsRequestObject) (contract.ChangeItemsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	c := r.Body.Change
	out, err := h.app.Bank.ChangeItems(ctx, v, r.Body.Items, bank.MetaChange{Bank: c.Bank, Subject: c.Subject, Grade: c.Grade, Course: c.Course, Language: c.Language, Depth: c.Depth,
		Difficulty: c.Difficulty, Align: value(c.Align), Unalign: value(c.Unalign)}, r.Body.Apply)
	return contract.ChangeItems200JSONResponse(bulkOutcome(out)), err
}

func bulkOutcome(o bankroom.BulkOutcome) contract.BulkOutcome {
	return contract.BulkOutcome{Id: o.ID, Changed: o.Changed, Unchanged: o.Unchanged, Refused: o.Refused, Rows: each(o.Rows, func(row bankroom.BulkRow) contract.BulkRow {
		return contract.BulkRow{Identifier: row.Identifier, Stem: row.Stem, Changes: each(row.Changes, differenceOf), Why: row.Why}
	})}
}

func (h *bankHandlers) UndoItemChange(ctx context.Context, r contract.UndoItemChangeRequestObject) (contract.UndoItemChangeResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	out, err := h.app.Bank.UndoChange(ctx, v, r.Id)
	return contract.UndoItemChange200JSONResponse(bulkOutcome(out)), err
}
