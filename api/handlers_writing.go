package api

import (
	"bytes"
	"context"
	"io"
	"net/http"

	"github.com/labstack/echo/v5"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/core/item"
	"pineledger/formats/table"
)

// mostMedia bounds an upload to the shelf; the shelf itself bounds what is kept.
const mostMedia = 21 << 20

func (h *writingHandlers) KeepMedia(ctx context.Context, r contract.KeepMediaRequestObject) (contract.KeepMediaResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	if !v.MayBuild() {
		return nil, desk.ErrForbidden // before anything is read
	}
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, err
	}
	m, err := h.app.Shelf.KeepMedia(ctx, v, r.Params.File, data)
	return contract.KeepMedia200JSONResponse(contract.Media{Source: "/media/" + m.Hash, Type: m.Type, Alt: m.Alt, Width: m.Width, Height: m.Height}), err
}

// serveMedia gives a file of the shelf. Its address is its digest, so it never
// changes; it can load and run nothing.
func (s *Server) serveMedia(c *echo.Context) error {
	ctx := c.Request().Context()
	v, err := edge.Who(ctx)
	if err != nil {
		return err
	}
	hash := c.Param("hash")
	if !item.MediaSource.MatchString("/media/" + hash) {
		return echo.ErrNotFound
	}
	m, err := s.app.Shelf.Media(ctx, v, hash)
	if err != nil {
		return err
	}
	header := c.Response().Header()
	header.Set("Cache-Control", "private, max-age=31536000, immutable")
	header.Set("Content-Security-Policy", "default-src 'none'; sandbox")
	header.Set("Content-Type", m.Type)
	http.ServeContent(c.Response(), c.Request(), "", timeOf(m.At), bytes.NewReader(m.Data))
	return nil
}

func (h *writingHandlers) ExportItems(ctx context.Context, r contract.ExportItemsRequestObject) (contract.ExportItemsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	if !v.MayBuild() {
		return nil, desk.ErrForbidden // before the answer begins
	}
	from, to := io.Pipe()
	go func() {
		_, err := h.app.Bank.ExportItems(ctx, v, searchOf(contract.SearchItemsParams(r.Params)), to)
		to.CloseWithError(err) // always nil itself
	}()
	return contract.ExportItems200ApplicationzipResponse{Body: from}, nil
}

// table gives what ExportTable writes; an export that is refused is refused before
// the answer begins.
func (h *writingHandlers) table(ctx context.Context, in bank.ItemSearch, write func(io.Writer, []string, [][]string) error) (*bytes.Buffer, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	var file bytes.Buffer
	_, err = h.app.Bank.ExportTable(ctx, v, in, func(head []string, rows [][]string) error { return write(&file, head, rows) })
	return &file, err
}

func (h *writingHandlers) ExportItemsCsv(ctx context.Context, r contract.ExportItemsCsvRequestObject) (contract.ExportItemsCsvResponseObject, error) {
	file, err := h.table(ctx, searchOf(contract.SearchItemsParams(r.Params)), table.Write)
	if err != nil {
		return nil, err
	}
	return contract.ExportItemsCsv200TextcsvResponse{Body: file, ContentLength: int64(file.Len())}, nil
}

func (h *writingHandlers) ExportItemsXlsx(ctx context.Context, r contract.ExportItemsXlsxRequestObject) (contract.ExportItemsXlsxResponseObject, error) {
	file, err := h.table(ctx, searchOf(contract.SearchItemsParams(r.Params)), func(w io.Writer, head []string, rows [][]string) error {
		return table.WriteSheet(w, "Items", head, rows)
	})
	if err != nil {
		return nil, err
	}
	return contract.ExportItemsXlsx200ApplicationvndOpenxmlformatsOfficedocumentSpreadsheetmlSheetResponse{Body: file, ContentLength: int64(file.Len())}, nil
}

func (h *writingHandlers) ListItemDrafts(ctx context.Context, _ contract.ListItemDraftsRequestObject) (contract.ListItemDraftsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Writing.ItemDrafts(ctx, v)
	return contract.ListItemDrafts200JSONResponse(each(list, func(d bank.DraftListed) contract.ItemDraftListed {
		return contract.ItemDraftListed{Id: d.ID, ItemId: some(d.ItemID), Kind: d.Kind, Stem: d.Stem, ChangedAt: timeOf(d.ChangedAt)}
	})), err
}

func (h *writingHandlers) BeginItem(ctx context.Context, r contract.BeginItemRequestObject) (contract.BeginItemResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Writing.BeginItem(ctx, v, item.Kind(value(r.Body.Kind)), value(r.Body.Item))
	return contract.BeginItem200JSONResponse(draftOf(d)), err
}

func (h *writingHandlers) ListRubrics(ctx context.Context, r contract.ListRubricsRequestObject) (contract.ListRubricsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Writing.Rubrics(ctx, v, value(r.Params.Words))
	return contract.ListRubrics200JSONResponse(each(list, func(o bank.RubricOffered) contract.RubricOffered {
		return contract.RubricOffered{Identifier: o.Identifier, Stem: o.Stem, Traits: each(o.Rubric.Traits, traitOf)}
	})), err
}

func (h *writingHandlers) GetItemDraft(ctx context.Context, r contract.GetItemDraftRequestObject) (contract.GetItemDraftResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.Writing.ItemDraftByID(ctx, v, r.Id)
	return contract.GetItemDraft200JSONResponse(draftOf(d)), err
}

func (h *writingHandlers) PutItemDraft(ctx context.Context, r contract.PutItemDraftRequestObject) (contract.PutItemDraftResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	m := r.Body.Meta
	d, err := h.app.Writing.PutItemDraft(ctx, v, r.Id, int64(r.Params.IfMatch), r.Body.Document, bank.ItemMeta{Identifier: m.Identifier, Bank: m.Bank, Subject: m.Subject, Grade: m.Grade,
		Standards: m.Standards, Depth: m.Depth, Difficulty: m.Difficulty, Language: m.Language, Tags: m.Tags, Passage: m.Passage, Course: value(m.Course)})
	return contract.PutItemDraft200JSONResponse(draftOf(d)), err
}

func (h *writingHandlers) DropItemDraft(ctx context.Context, r contract.DropItemDraftRequestObject) (contract.DropItemDraftResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.DropItemDraft204Response{}, h.app.Writing.DropItemDraft(ctx, v, r.Id)
}

func (h *writingHandlers) KeepItem(ctx context.Context, r contract.KeepItemRequestObject) (contract.KeepItemResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	id, err := h.app.Writing.KeepItem(ctx, v, r.Id, int64(r.Params.IfMatch))
	return contract.KeepItem200JSONResponse{Id: id}, err
}

func (h *writingHandlers) TryItem(ctx context.Context, r contract.TryItemRequestObject) (contract.TryItemResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	c, err := h.app.Writing.TryItem(ctx, v, r.Id, item.Response(r.Body.Response))
	return contract.TryItem200JSONResponse{Credit: c.Credit, Outcome: string(c.Outcome), Why: c.Why}, err
}

func draftOf(d bank.ItemDraft) contract.ItemDraft {
	m := d.Meta
	problem := func(p item.Problem) contract.ItemProblem {
		return contract.ItemProblem{Place: p.Place, Reason: p.Reason}
	}
	out := contract.ItemDraft{Id: d.ID, ItemId: some(d.ItemID), AssessmentId: some(d.AssessmentID), Version: d.Version, ChangedAt: timeOf(d.Changed), Document: d.Document, Shown: shown(d.Document.Shown(d.Meta.Language)),
		Keys: keysOf(d.Document), Key: d.Key, Problems: each(d.Problems, problem), Cautions: each(d.Cautions, problem), Credits: map[string][]string{},
		Meta: contract.ItemMeta{Identifier: m.Identifier, Bank: m.Bank, Subject: m.Subject, Grade: m.Grade, Standards: append([]string{}, m.Standards...), Depth: m.Depth,
			Difficulty: m.Difficulty, Language: m.Language, Tags: append([]string{}, m.Tags...), Passage: m.Passage, Course: some(m.Course)}}
	out.Examples = each(d.Examples, func(e bank.ScoredExample) contract.ItemExample {
		return contract.ItemExample{Words: e.Words, Credit: e.Credit}
	})
	for _, k := range item.Kinds() {
		out.Credits[string(k)] = each(item.Credits(k), func(c item.CreditRule) string { return string(c) })
	}
	if d.Passage != nil {
		out.Passage = &contract.Passage{Identifier: d.Passage.Identifier, Title: d.Passage.Title, Body: d.Passage.Body}
	}
	return out
}
