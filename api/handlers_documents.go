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
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/formats/booklet"
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
	out := Printed{Title: p.Assessment.Title, Instructions: p.Instructions, Edition: p.Assessment.Edition, State: p.Assessment.State, Layout: layoutOut(p.Layout), Total: p.Total,
		Lines: each(p.Lines, func(l booklet.Line) PrintedLine {
			return PrintedLine{Identifier: l.Identifier, Shown: shown(l.Item.Shown()), Key: l.Key, Credit: string(l.Item.Credit), Standards: append([]string{}, l.Standards...),
				Points: l.Points, Refuse: l.Refuse}
		}),
		Groups:     each(p.Book().Groups(), func(g booklet.Group) PrintedGroup { return printedGroup(g, p.Layout) }),
		Directions: map[string]string{}}
	for kind, words := range booklet.Directions {
		out.Directions[string(kind)] = words
	}
	if d := p.Document; d != nil {
		out.Document = &KeyedDocument{Name: d.Name, Hash: d.Hash, Pages: d.Pages}
	}
	return PrintAssessment200JSONResponse(out), nil
}

func printedGroup(g booklet.Group, layout form.Layout) PrintedGroup {
	out := PrintedGroup{Lines: each(g.Lines, func(i int) int { return i + 1 })}
	if g.Part > 0 {
		part := testPart(layout.Parts[g.Part-1])
		out.Part, out.PartNumber = &part, &g.Part
	}
	if g.Pool > 0 {
		out.Pool = &struct {
			Choose int `json:"choose"`
			Lines  int `json:"lines"`
		}{layout.Pools[g.Pool-1].Choose, g.Of}
	}
	if g.Passage != nil {
		p := passage(*g.Passage)
		out.Passage = &p
	}
	return out
}

func (h *handlers) PrintPdf(ctx context.Context, r PrintPdfRequestObject) (PrintPdfResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	o := app.PDFOptions{Key: r.Params.What == PrintPdfParamsWhatKey, Seed: value(r.Params.Seed), Size: float64(r.Params.Size), Columns: int(value(r.Params.Columns))}
	data, err := h.app.PrintPDF(ctx, v, r.Id, o)
	if err != nil {
		return nil, err
	}
	return PrintPdf200ApplicationpdfResponse{Body: bytes.NewReader(data), ContentLength: int64(len(data))}, nil
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
