package api

import (
	"bytes"
	"cmp"
	"context"
	"io"
	"net/http"
	"regexp"

	"github.com/labstack/echo/v5"

	"pineledger/app"
	"pineledger/core/item"
	"pineledger/store"
)

func (h *handlers) PutDocument(ctx context.Context, r PutDocumentRequestObject) (PutDocumentResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, err
	}
	s, err := h.app.PutDocument(ctx, v, r.Id, r.Params.IfMatch, r.Params.File, data)
	if err != nil {
		return nil, err
	}
	return PutDocument200JSONResponse(sheet(v, s)), nil
}

func (h *handlers) GetKey(ctx context.Context, r GetKeyRequestObject) (GetKeyResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	rows, err := h.app.Key(ctx, v, r.Id)
	return GetKey200JSONResponse(each(rows, keyRowOf)), err
}

func (h *handlers) PutKey(ctx context.Context, r PutKeyRequestObject) (PutKeyResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.PutKey(ctx, v, r.Id, r.Params.IfMatch, each(r.Body.Rows, keyRowIn))
	if err != nil {
		return nil, err
	}
	return PutKey200JSONResponse(sheet(v, s)), nil
}

func (h *handlers) PreviewAssessment(ctx context.Context, r PreviewAssessmentRequestObject) (PreviewAssessmentResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	view, err := h.app.Preview(ctx, v, r.Id, cmp.Or(value(r.Params.Seed), 1))
	if err != nil {
		return nil, err
	}
	take, err := takeOf(view)
	take.State = TakeStateWorking
	return PreviewAssessment200JSONResponse(take), err
}

func (h *handlers) PrintAssessment(ctx context.Context, r PrintAssessmentRequestObject) (PrintAssessmentResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	p, err := h.app.Print(ctx, v, r.Id, value(r.Params.Seed))
	if err != nil {
		return nil, err
	}
	out := Printed{Title: p.Assessment.Title, Instructions: p.Instructions, Edition: p.Assessment.Edition, State: p.Assessment.State, Layout: layoutOut(p.Layout), Total: p.Total, Passages: each(p.Passages, passage),
		Lines: each(p.Lines, func(l app.PrintedLine) PrintedLine {
			return PrintedLine{Identifier: l.Identifier, Shown: shown(l.Item.Shown()), Key: l.Key, Credit: string(l.Item.Credit), Standards: append([]string{}, l.Standards...),
				Points: l.Points, Passage: l.Passage, Part: l.Part, Pool: l.Pool, Refuse: l.Refuse}
		})}
	if d := p.Document; d != nil {
		out.Document = &KeyedDocument{Name: d.Name, Hash: d.Hash, Pages: d.Pages}
	}
	return PrintAssessment200JSONResponse(out), nil
}

func keyRowOf(r app.KeyRow) KeyRow {
	return KeyRow{ItemId: &r.ItemID, Number: r.Keyed.Number, Kind: string(r.Keyed.Kind), Labels: append([]string{}, r.Keyed.Labels...), Key: append([]string{}, r.Keyed.Key...),
		Points: r.Points, Standards: append([]string{}, r.Standards...), Rubric: r.Keyed.Rubric}
}

func keyRowIn(r KeyRow) app.KeyRow {
	return app.KeyRow{ItemID: value(r.ItemId), Points: r.Points, Standards: r.Standards,
		Keyed: item.Keyed{Number: r.Number, Kind: item.Kind(r.Kind), Labels: r.Labels, Key: r.Key, Rubric: r.Rubric}}
}

var documentHash = regexp.MustCompile(`^[0-9a-f]{64}$`)

// serveDocument gives a document that is keyed. Its address is its digest, so it
// never changes; it can load and run nothing.
func (s *Server) serveDocument(c *echo.Context) error {
	ctx := c.Request().Context()
	v, err := who(ctx)
	if err != nil {
		return err
	}
	hash := c.Param("hash")
	if !documentHash.MatchString(hash) {
		return echo.ErrNotFound
	}
	d, err := s.app.Document(ctx, v, hash)
	if err != nil {
		return err
	}
	header := c.Response().Header()
	header.Set("Cache-Control", "private, max-age=31536000, immutable")
	header.Set("Content-Security-Policy", "default-src 'none'; sandbox")
	header.Set("Content-Type", "application/pdf")
	header.Set("Content-Disposition", "inline")
	http.ServeContent(c.Response(), c.Request(), "", store.Time(d.At), bytes.NewReader(d.Data))
	return nil
}
