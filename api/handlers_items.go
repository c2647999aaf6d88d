package api

import (
	"context"
	"time"

	"pineledger/api/contract"
	"pineledger/api/edge"
	bankroom "pineledger/app/bank"
	"pineledger/core/bank"
	"pineledger/core/points"
)

func holdOf(h bankroom.Hold) contract.Hold {
	return contract.Hold{AssessmentId: h.AssessmentID, Assessment: h.Assessment, Until: someTime(h.Until), Reason: h.Reason, Person: h.Person, At: timeOf(h.At), EndedAt: optionalTime(h.EndedAt)}
}

// optionalTime leaves NULL out.
func optionalTime(ms *int64) *time.Time {
	if ms == nil {
		return nil
	}
	return new(timeOf(*ms))
}

func personOf(p bankroom.PersonNamed) contract.Person {
	return contract.Person{Id: p.ID, Name: p.Name, Email: p.Email, Where: p.Where, Builds: p.Builds}
}

func (h *itemHandlers) GetItem(ctx context.Context, r contract.GetItemRequestObject) (contract.GetItemResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Bank.Item(ctx, v, r.Id, value(r.Params.Version))
	if err != nil {
		return nil, err
	}
	return contract.GetItem200JSONResponse(itemDetail(d)), nil
}

func itemDetail(d bankroom.ItemDetail) contract.ItemDetail {
	out := contract.ItemDetail{Item: itemOf(d.FoundItem), Shown: shown(d.Document.Shown(d.Language)), Key: d.Key, Keys: keysOf(d.Document), Credit: string(d.Document.Credit),
		Directions: some(d.Document.Directions), Notes: some(d.Document.Notes), Number: d.Number, Owner: d.Owner, OwnerId: d.OwnerID, Editors: each(d.Editors, personOf), Reports: d.Reports}
	out.Rights = each(bank.Acts, func(act bank.Act) contract.ItemRight {
		return contract.ItemRight{Act: string(act), May: d.Rights[act].May, Why: d.Rights[act].Why}
	})
	if d.Passage != nil {
		out.Passage, out.PassageId = &contract.Passage{Identifier: d.Passage.Identifier, Title: d.Passage.Title, Body: d.Passage.Body}, &d.Passage.ID
	}
	if o := d.Origin; o != nil {
		out.Origin = &contract.ItemOrigin{ItemId: o.ItemID, Identifier: o.Identifier, Version: o.Number}
	}
	return out
}

func (h *itemHandlers) GetLine(ctx context.Context, r contract.GetLineRequestObject) (contract.GetLineResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Build.Line(ctx, v, r.Id, r.Item)
	if err != nil {
		return nil, err
	}
	return contract.GetLine200JSONResponse(contract.LineDetail{Detail: itemDetail(d.ItemDetail), Newest: d.Newest, Newer: each(d.Newer, differenceOf), MayChange: d.MayChange, Tools: each(d.Tools, lineTool)}), nil
}

func (h *itemHandlers) ChangeLine(ctx context.Context, r contract.ChangeLineRequestObject) (contract.ChangeLineResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Build.ChangeLine(ctx, v, r.Id, r.Item)
	if err != nil {
		return nil, err
	}
	return contract.ChangeLine200JSONResponse(draftOf(d)), nil
}

func (h *itemHandlers) ConfirmAlignment(ctx context.Context, r contract.ConfirmAlignmentRequestObject) (contract.ConfirmAlignmentResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Build.ConfirmAlignment(ctx, v, r.Id, r.Item)
	if err != nil {
		return nil, err
	}
	return contract.ConfirmAlignment200JSONResponse(sheet(v, s)), nil
}

func (h *itemHandlers) CopyItem(ctx context.Context, r contract.CopyItemRequestObject) (contract.CopyItemResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	id, err := h.app.Bank.CopyItem(ctx, v, r.Id, r.Body.Bank)
	return contract.CopyItem200JSONResponse{Id: id}, err
}

func offerOf(o bankroom.Offer) contract.Offer {
	return contract.Offer{Id: o.ID, ItemId: o.ItemID, Identifier: o.Identifier, Stem: o.Stem, Bank: o.Bank, Person: o.Person, Words: o.Words, At: timeOf(o.At),
		State: contract.OfferState(o.State), Answer: o.Answer, Decider: o.Decider}
}

func offersOf(o bankroom.Offers) contract.Offers {
	return contract.Offers{ToDecide: each(o.ToDecide, offerOf), Mine: each(o.Mine, offerOf)}
}

func (h *itemHandlers) OfferItem(ctx context.Context, r contract.OfferItemRequestObject) (contract.OfferItemResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	o, err := h.app.Word.Offer(ctx, v, r.Id, r.Body.Bank, r.Body.Words)
	return contract.OfferItem200JSONResponse(offersOf(o)), err
}

func (h *itemHandlers) ListOffers(ctx context.Context, _ contract.ListOffersRequestObject) (contract.ListOffersResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	o, err := h.app.Word.Offers(ctx, v)
	return contract.ListOffers200JSONResponse(offersOf(o)), err
}

func (h *itemHandlers) DecideOffer(ctx context.Context, r contract.DecideOfferRequestObject) (contract.DecideOfferResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	o, err := h.app.Word.DecideOffer(ctx, v, r.Id, string(r.Body.State), r.Body.Answer)
	return contract.DecideOffer200JSONResponse(offersOf(o)), err
}

func (h *itemHandlers) ListItemVersions(ctx context.Context, r contract.ListItemVersionsRequestObject) (contract.ListItemVersionsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Bank.ItemVersions(ctx, v, r.Id)
	return contract.ListItemVersions200JSONResponse(each(list, func(x bankroom.VersionListed) contract.ItemVersionListed {
		return contract.ItemVersionListed{Number: x.Number, Author: x.Author, At: timeOf(x.At)}
	})), err
}

func (h *itemHandlers) CompareItemVersions(ctx context.Context, r contract.CompareItemVersionsRequestObject) (contract.CompareItemVersionsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Bank.ItemChanges(ctx, v, r.Id, r.Params.From, r.Params.To)
	return contract.CompareItemVersions200JSONResponse(each(list, differenceOf)), err
}

func differenceOf(d bank.Difference) contract.ItemDifference {
	return contract.ItemDifference{What: d.What, Before: d.Before, After: d.After, Text: each(d.Text, func(p bank.Piece) contract.DifferencePiece {
		return contract.DifferencePiece{Words: p.Words, In: contract.DifferencePieceIn(p.In)}
	})}
}

func (h *itemHandlers) ListItemUses(ctx context.Context, r contract.ListItemUsesRequestObject) (contract.ListItemUsesResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	uses, err := h.app.Bank.ItemUses(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.ListItemUses200JSONResponse(contract.ItemUses{Uses: each(uses.Uses, useOf), Scale: each(uses.Scale, onScale), Seen: each(uses.Seen, func(s bankroom.Seen) contract.ItemSeen {
		return contract.ItemSeen{Year: s.Year, Grade: s.Grade, Students: s.Students}
	})}), nil
}

func useOf(u bankroom.ItemUse) contract.ItemUse {
	out := contract.ItemUse{AssessmentId: u.AssessmentID, Title: u.Title, Year: u.Year, Grades: listed(u.Grades), State: u.State, Owner: u.Owner, Edition: u.Edition, Line: u.Line,
		Version: u.Version, Points: points.Points(u.Points), SealedAt: optionalTime(u.SealedAt), FirstOpens: optionalTime(u.FirstOpens), Students: u.Students, Mine: u.Mine, Waits: u.Waits}
	if u.Stats != nil {
		out.Worked = &contract.Worked{N: u.Stats.N, Difficulty: u.Stats.Difficulty, Discrimination: u.Stats.Discrimination, Omitted: u.Stats.Omitted, NotReached: u.Stats.NotReached}
	}
	return out
}

func (h *itemHandlers) PutItemEditors(ctx context.Context, r contract.PutItemEditorsRequestObject) (contract.PutItemEditorsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.PutItemEditors204Response{}, h.app.Bank.PutEditors(ctx, v, r.Id, r.Body.People)
}

func commentOf(c bankroom.ItemComment) contract.ItemComment {
	return contract.ItemComment{Id: c.ID, Version: c.Version, Person: c.Person, Words: c.Words, At: timeOf(c.At)}
}

func (h *itemHandlers) ListItemComments(ctx context.Context, r contract.ListItemCommentsRequestObject) (contract.ListItemCommentsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Bank.ItemComments(ctx, v, r.Id)
	return contract.ListItemComments200JSONResponse(each(list, commentOf)), err
}

func (h *itemHandlers) CommentOnItem(ctx context.Context, r contract.CommentOnItemRequestObject) (contract.CommentOnItemResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Bank.Comment(ctx, v, r.Id, r.Body.Words)
	return contract.CommentOnItem200JSONResponse(each(list, commentOf)), err
}

func reportOf(r bankroom.ItemReport) contract.ItemReport {
	return contract.ItemReport{Id: r.ID, ItemId: r.ItemID, Identifier: r.Identifier, Stem: r.Stem, Version: r.Version, Newest: r.Newest, Fault: contract.Fault(r.Fault), Words: r.Words,
		Person: r.Person, At: timeOf(r.At), State: contract.ItemReportState(r.State), Answer: r.Answer, Closer: r.Closer, MayMend: r.MayMend, Uses: each(r.Uses, useOf)}
}

func (h *itemHandlers) ListItemReports(ctx context.Context, r contract.ListItemReportsRequestObject) (contract.ListItemReportsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Word.ItemReports(ctx, v, r.Id)
	return contract.ListItemReports200JSONResponse(each(list, reportOf)), err
}

func (h *itemHandlers) ReportItem(ctx context.Context, r contract.ReportItemRequestObject) (contract.ReportItemResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.ReportItem204Response{}, h.app.Word.ReportItem(ctx, v, r.Id, value(r.Body.Version), string(r.Body.Fault), r.Body.Words)
}

func (h *itemHandlers) AnswerReport(ctx context.Context, r contract.AnswerReportRequestObject) (contract.AnswerReportResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.AnswerReport204Response{}, h.app.Word.CloseReport(ctx, v, r.Id, r.Body.Mended, r.Body.Answer)
}

func (h *itemHandlers) ListItemHolds(ctx context.Context, r contract.ListItemHoldsRequestObject) (contract.ListItemHoldsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Word.ItemHolds(ctx, v, r.Id)
	return contract.ListItemHolds200JSONResponse(each(list, holdOf)), err
}

func (h *itemHandlers) HoldItems(ctx context.Context, r contract.HoldItemsRequestObject) (contract.HoldItemsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	in := bankroom.HoldInput{Items: r.Body.Items, AssessmentID: value(r.Body.AssessmentId), Until: r.Body.Until, Reason: r.Body.Reason}
	return contract.HoldItems204Response{}, h.app.Word.HoldItems(ctx, v, in)
}

func (h *itemHandlers) LetItemsGo(ctx context.Context, r contract.LetItemsGoRequestObject) (contract.LetItemsGoResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.LetItemsGo204Response{}, h.app.Word.LetGo(ctx, v, r.Params.Items)
}

func (h *itemHandlers) SeeNotice(ctx context.Context, r contract.SeeNoticeRequestObject) (contract.SeeNoticeResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.SeeNotice204Response{}, h.app.Word.SeeNotice(ctx, v, r.Id)
}

func onScale(s bankroom.OnScale) contract.ItemScale {
	return contract.ItemScale{Version: s.Version, At: timeOf(s.At), B: s.B, Se: s.SE, Infit: s.Infit, Outfit: s.Outfit, N: s.N, Was: s.Was}
}
