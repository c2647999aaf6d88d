package api

import (
	"context"
	"database/sql"
	"time"

	"pineledger/app"
	"pineledger/core/bank"
	"pineledger/core/points"
	"pineledger/store"
)

func holdOf(h store.Hold) Hold {
	return Hold{AssessmentId: h.AssessmentID, Assessment: h.Assessment, Until: someTime(h.Until), Reason: h.Reason, Person: h.Person, At: timeOf(h.At), EndedAt: optionalTime(h.EndedAt)}
}

// optionalTime leaves NULL out.
func optionalTime(ms sql.NullInt64) *time.Time {
	if !ms.Valid {
		return nil
	}
	t := timeOf(ms.Int64)
	return &t
}

func personOf(p store.PersonNamed) Person {
	return Person{Id: p.ID, Name: p.Name, Email: p.Email, Where: p.Where, Builds: p.Builds}
}

func (h *handlers) GetItem(ctx context.Context, r GetItemRequestObject) (GetItemResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Item(ctx, v, r.Id, value(r.Params.Version))
	if err != nil {
		return nil, err
	}
	return GetItem200JSONResponse(itemDetail(d)), nil
}

func itemDetail(d app.ItemDetail) ItemDetail {
	out := ItemDetail{Item: itemOf(d.FoundItem), Shown: shown(d.Document.Shown()), Key: d.Key, Keys: keysOf(d.Document), Credit: string(d.Document.Credit),
		Directions: some(d.Document.Directions), Notes: some(d.Document.Notes), Number: d.Number, Owner: d.Owner, OwnerId: d.OwnerID, Editors: each(d.Editors, personOf), Reports: d.Reports}
	out.Rights = each(bank.Acts, func(act bank.Act) ItemRight {
		return ItemRight{Act: string(act), May: d.Rights[act].May, Why: d.Rights[act].Why}
	})
	if d.Passage != nil {
		out.Passage, out.PassageId = &Passage{Identifier: d.Passage.Identifier, Title: d.Passage.Title, Body: d.Passage.Body}, &d.Passage.ID
	}
	if o := d.Origin; o != nil {
		out.Origin = &ItemOrigin{ItemId: o.ItemID, Identifier: o.Identifier, Version: o.Number}
	}
	return out
}

func (h *handlers) GetLine(ctx context.Context, r GetLineRequestObject) (GetLineResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Line(ctx, v, r.Id, r.Item)
	if err != nil {
		return nil, err
	}
	return GetLine200JSONResponse(LineDetail{Detail: itemDetail(d.ItemDetail), Newest: d.Newest, Newer: each(d.Newer, differenceOf), MayChange: d.MayChange}), nil
}

func (h *handlers) ChangeLine(ctx context.Context, r ChangeLineRequestObject) (ChangeLineResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.ChangeLine(ctx, v, r.Id, r.Item)
	if err != nil {
		return nil, err
	}
	return ChangeLine200JSONResponse(draftOf(d)), nil
}

func (h *handlers) ConfirmAlignment(ctx context.Context, r ConfirmAlignmentRequestObject) (ConfirmAlignmentResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.ConfirmAlignment(ctx, v, r.Id, r.Item)
	if err != nil {
		return nil, err
	}
	return ConfirmAlignment200JSONResponse(sheet(v, s)), nil
}

func (h *handlers) CopyItem(ctx context.Context, r CopyItemRequestObject) (CopyItemResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	id, err := h.app.CopyItem(ctx, v, r.Id, r.Body.Bank)
	return CopyItem200JSONResponse{Id: id}, err
}

func offerOf(o store.Offer) Offer {
	return Offer{Id: o.ID, ItemId: o.ItemID, Identifier: o.Identifier, Stem: o.Stem, Bank: o.Bank, Person: o.Person, Words: o.Words, At: timeOf(o.At),
		State: OfferState(o.State), Answer: o.Answer, Decider: o.Decider}
}

func offersOf(o app.Offers) Offers {
	return Offers{ToDecide: each(o.ToDecide, offerOf), Mine: each(o.Mine, offerOf)}
}

func (h *handlers) OfferItem(ctx context.Context, r OfferItemRequestObject) (OfferItemResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	o, err := h.app.Offer(ctx, v, r.Id, r.Body.Bank, r.Body.Words)
	return OfferItem200JSONResponse(offersOf(o)), err
}

func (h *handlers) ListOffers(ctx context.Context, _ ListOffersRequestObject) (ListOffersResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	o, err := h.app.Offers(ctx, v)
	return ListOffers200JSONResponse(offersOf(o)), err
}

func (h *handlers) DecideOffer(ctx context.Context, r DecideOfferRequestObject) (DecideOfferResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	o, err := h.app.DecideOffer(ctx, v, r.Id, string(r.Body.State), r.Body.Answer)
	return DecideOffer200JSONResponse(offersOf(o)), err
}

func (h *handlers) ListItemVersions(ctx context.Context, r ListItemVersionsRequestObject) (ListItemVersionsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.ItemVersions(ctx, v, r.Id)
	return ListItemVersions200JSONResponse(each(list, func(x store.VersionListed) ItemVersionListed {
		return ItemVersionListed{Number: x.Number, Author: x.Author, At: timeOf(x.At)}
	})), err
}

func (h *handlers) CompareItemVersions(ctx context.Context, r CompareItemVersionsRequestObject) (CompareItemVersionsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.ItemChanges(ctx, v, r.Id, r.Params.From, r.Params.To)
	return CompareItemVersions200JSONResponse(each(list, differenceOf)), err
}

func differenceOf(d bank.Difference) ItemDifference {
	return ItemDifference{What: d.What, Before: d.Before, After: d.After, Text: each(d.Text, func(p bank.Piece) DifferencePiece {
		return DifferencePiece{Words: p.Words, In: DifferencePieceIn(p.In)}
	})}
}

func (h *handlers) ListItemUses(ctx context.Context, r ListItemUsesRequestObject) (ListItemUsesResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	uses, seen, err := h.app.ItemUses(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return ListItemUses200JSONResponse(ItemUses{Uses: each(uses, useOf), Seen: each(seen, func(s store.Seen) ItemSeen {
		return ItemSeen{Year: s.Year, Grade: s.Grade, Students: s.Students}
	})}), nil
}

func useOf(u app.ItemUse) ItemUse {
	out := ItemUse{AssessmentId: u.AssessmentID, Title: u.Title, Year: u.Year, Grades: jsonStrings(u.Grades), State: u.State, Owner: u.Owner, Edition: u.Edition, Line: u.Line,
		Version: u.Version, Points: points.Points(u.Points), SealedAt: optionalTime(u.SealedAt), FirstOpens: optionalTime(u.FirstOpens), Students: u.Students, Mine: u.Mine, Waits: u.Waits}
	if u.Stats != nil {
		out.Worked = &Worked{N: u.Stats.N, Difficulty: u.Stats.Difficulty, Discrimination: u.Stats.Discrimination, Omitted: u.Stats.Omitted, NotReached: u.Stats.NotReached}
	}
	return out
}

func (h *handlers) PutItemEditors(ctx context.Context, r PutItemEditorsRequestObject) (PutItemEditorsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	return PutItemEditors204Response{}, h.app.PutEditors(ctx, v, r.Id, r.Body.People)
}

func commentOf(c store.ItemComment) ItemComment {
	return ItemComment{Id: c.ID, Version: c.Version, Person: c.Person, Words: c.Words, At: timeOf(c.At)}
}

func (h *handlers) ListItemComments(ctx context.Context, r ListItemCommentsRequestObject) (ListItemCommentsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.ItemComments(ctx, v, r.Id)
	return ListItemComments200JSONResponse(each(list, commentOf)), err
}

func (h *handlers) CommentOnItem(ctx context.Context, r CommentOnItemRequestObject) (CommentOnItemResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Comment(ctx, v, r.Id, r.Body.Words)
	return CommentOnItem200JSONResponse(each(list, commentOf)), err
}

func reportOf(r app.ItemReport) ItemReport {
	return ItemReport{Id: r.ID, ItemId: r.ItemID, Identifier: r.Identifier, Stem: r.Stem, Version: r.Version, Newest: r.Newest, Fault: Fault(r.Fault), Words: r.Words,
		Person: r.Person, At: timeOf(r.At), State: ItemReportState(r.State), Answer: r.Answer, Closer: r.Closer, MayMend: r.MayMend, Uses: each(r.Uses, useOf)}
}

func (h *handlers) ListItemReports(ctx context.Context, r ListItemReportsRequestObject) (ListItemReportsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.ItemReports(ctx, v, r.Id)
	return ListItemReports200JSONResponse(each(list, reportOf)), err
}

func (h *handlers) ReportItem(ctx context.Context, r ReportItemRequestObject) (ReportItemResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	return ReportItem204Response{}, h.app.ReportItem(ctx, v, r.Id, value(r.Body.Version), string(r.Body.Fault), r.Body.Words)
}

func (h *handlers) AnswerReport(ctx context.Context, r AnswerReportRequestObject) (AnswerReportResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	return AnswerReport204Response{}, h.app.CloseReport(ctx, v, r.Id, r.Body.Mended, r.Body.Answer)
}

func (h *handlers) ListItemHolds(ctx context.Context, r ListItemHoldsRequestObject) (ListItemHoldsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.ItemHolds(ctx, v, r.Id)
	return ListItemHolds200JSONResponse(each(list, holdOf)), err
}

func (h *handlers) HoldItems(ctx context.Context, r HoldItemsRequestObject) (HoldItemsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	in := app.HoldInput{Items: r.Body.Items, AssessmentID: value(r.Body.AssessmentId), Until: r.Body.Until, Reason: r.Body.Reason}
	return HoldItems204Response{}, h.app.HoldItems(ctx, v, in)
}

func (h *handlers) LetItemsGo(ctx context.Context, r LetItemsGoRequestObject) (LetItemsGoResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	return LetItemsGo204Response{}, h.app.LetGo(ctx, v, r.Params.Items)
}

func (h *handlers) SeeNotice(ctx context.Context, r SeeNoticeRequestObject) (SeeNoticeResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	return SeeNotice204Response{}, h.app.SeeNotice(ctx, v, r.Id)
}
