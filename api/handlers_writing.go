package api

import (
	"bytes"
	"context"
	"io"
	"net/http"

	"github.com/labstack/echo/v5"

	"pineledger/app"
	"pineledger/core/item"
	"pineledger/formats/table"
	"pineledger/store"
)

// mostMedia bounds an upload to the shelf; the shelf itself bounds what is kept.
const mostMedia = 21 << 20

func (h *handlers) KeepMedia(ctx context.Context, r KeepMediaRequestObject) (KeepMediaResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	if !v.MayBuild() {
		return nil, app.ErrForbidden // before anything is read
	}
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, err
	}
	m, err := h.app.KeepMedia(ctx, v, r.Params.File, data)
	return KeepMedia200JSONResponse(Media{Source: "/media/" + m.Hash, Type: m.Type, Alt: m.Alt, Width: m.Width, Height: m.Height}), err
}

// serveMedia gives a file of the shelf. Its address is its digest, so it never
// changes; it can load and run nothing.
func (s *Server) serveMedia(c *echo.Context) error {
	ctx := c.Request().Context()
	v, err := who(ctx)
	if err != nil {
		return err
	}
	hash := c.Param("hash")
	if !item.MediaSource.MatchString("/media/" + hash) {
		return echo.ErrNotFound
	}
	m, err := s.app.Media(ctx, v, hash)
	if err != nil {
		return err
	}
	header := c.Response().Header()
	header.Set("Cache-Control", "private, max-age=31536000, immutable")
	header.Set("Content-Security-Policy", "default-src 'none'; sandbox")
	header.Set("Content-Type", m.Type)
	http.ServeContent(c.Response(), c.Request(), "", store.Time(m.At), bytes.NewReader(m.Data))
	return nil
}

func (h *handlers) ExportItems(ctx context.Context, r ExportItemsRequestObject) (ExportItemsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	if !v.MayBuild() {
		return nil, app.ErrForbidden // before the answer begins
	}
	from, to := io.Pipe()
	go func() {
		_, err := h.app.ExportItems(ctx, v, searchOf(SearchItemsParams(r.Params)), to)
		to.CloseWithError(err) // always nil itself
	}()
	return ExportItems200ApplicationzipResponse{Body: from}, nil
}

// table gives what ExportTable writes; an export that is refused is refused before
// the answer begins.
func (h *handlers) table(ctx context.Context, in app.ItemSearch, write func(io.Writer, []string, [][]string) error) (*bytes.Buffer, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	var file bytes.Buffer
	_, err = h.app.ExportTable(ctx, v, in, func(head []string, rows [][]string) error { return write(&file, head, rows) })
	return &file, err
}

func (h *handlers) ExportItemsCsv(ctx context.Context, r ExportItemsCsvRequestObject) (ExportItemsCsvResponseObject, error) {
	file, err := h.table(ctx, searchOf(SearchItemsParams(r.Params)), table.Write)
	if err != nil {
		return nil, err
	}
	return ExportItemsCsv200TextcsvResponse{Body: file, ContentLength: int64(file.Len())}, nil
}

func (h *handlers) ExportItemsXlsx(ctx context.Context, r ExportItemsXlsxRequestObject) (ExportItemsXlsxResponseObject, error) {
	file, err := h.table(ctx, searchOf(SearchItemsParams(r.Params)), func(w io.Writer, head []string, rows [][]string) error {
		return table.WriteSheet(w, "Items", head, rows)
	})
	if err != nil {
		return nil, err
	}
	return ExportItemsXlsx200ApplicationvndOpenxmlformatsOfficedocumentSpreadsheetmlSheetResponse{Body: file, ContentLength: int64(file.Len())}, nil
}

func (h *handlers) ListItemDrafts(ctx context.Context, _ ListItemDraftsRequestObject) (ListItemDraftsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.ItemDrafts(ctx, v)
	return ListItemDrafts200JSONResponse(each(list, func(d store.ItemDraft) ItemDraftListed {
		return ItemDraftListed{Id: d.ID, ItemId: some(d.ItemID.Int64), Kind: d.Kind, Stem: d.Stem, ChangedAt: store.Time(d.ChangedAt)}
	})), err
}

func (h *handlers) BeginItem(ctx context.Context, r BeginItemRequestObject) (BeginItemResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.BeginItem(ctx, v, item.Kind(value(r.Body.Kind)), value(r.Body.Item))
	return BeginItem200JSONResponse(draftOf(d)), err
}

func (h *handlers) GetItemDraft(ctx context.Context, r GetItemDraftRequestObject) (GetItemDraftResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	d, err := h.app.ItemDraftByID(ctx, v, r.Id)
	return GetItemDraft200JSONResponse(draftOf(d)), err
}

func (h *handlers) PutItemDraft(ctx context.Context, r PutItemDraftRequestObject) (PutItemDraftResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	m := r.Body.Meta
	d, err := h.app.PutItemDraft(ctx, v, r.Id, int64(r.Params.IfMatch), r.Body.Document, app.ItemMeta{Identifier: m.Identifier, Bank: m.Bank, Subject: m.Subject, Grade: m.Grade,
		Standards: m.Standards, Depth: m.Depth, Difficulty: m.Difficulty, Language: m.Language, Tags: m.Tags, Passage: m.Passage, Course: value(m.Course)})
	return PutItemDraft200JSONResponse(draftOf(d)), err
}

func (h *handlers) DropItemDraft(ctx context.Context, r DropItemDraftRequestObject) (DropItemDraftResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	return DropItemDraft204Response{}, h.app.DropItemDraft(ctx, v, r.Id)
}

func (h *handlers) KeepItem(ctx context.Context, r KeepItemRequestObject) (KeepItemResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	id, err := h.app.KeepItem(ctx, v, r.Id, int64(r.Params.IfMatch))
	return KeepItem200JSONResponse{Id: id}, err
}

func (h *handlers) TryItem(ctx context.Context, r TryItemRequestObject) (TryItemResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	c, err := h.app.TryItem(ctx, v, r.Id, item.Response(r.Body.Response))
	return TryItem200JSONResponse{Credit: c.Credit, Outcome: string(c.Outcome), Why: c.Why}, err
}

func draftOf(d app.ItemDraft) ItemDraft {
	m := d.Meta
	problem := func(p item.Problem) ItemProblem { return ItemProblem{Place: p.Place, Reason: p.Reason} }
	out := ItemDraft{Id: d.ID, ItemId: some(d.ItemID), AssessmentId: some(d.AssessmentID), Version: d.Version, ChangedAt: store.Time(d.Changed), Document: d.Document, Shown: shown(d.Document.Shown()),
		Keys: keysOf(d.Document), Key: d.Key, Problems: each(d.Problems, problem), Cautions: each(d.Cautions, problem), Credits: map[string][]string{},
		Meta: ItemMeta{Identifier: m.Identifier, Bank: m.Bank, Subject: m.Subject, Grade: m.Grade, Standards: append([]string{}, m.Standards...), Depth: m.Depth,
			Difficulty: m.Difficulty, Language: m.Language, Tags: append([]string{}, m.Tags...), Passage: m.Passage, Course: some(m.Course)}}
	out.Examples = each(d.Examples, func(e app.ScoredExample) ItemExample { return ItemExample{Words: e.Words, Credit: e.Credit} })
	for _, k := range item.Kinds() {
		out.Credits[string(k)] = each(item.Credits(k), func(c item.CreditRule) string { return string(c) })
	}
	if d.Passage != nil {
		out.Passage = &Passage{Identifier: d.Passage.Identifier, Title: d.Passage.Title, Body: d.Passage.Body}
	}
	return out
}
