package api

import (
	"bytes"
	"cmp"
	"context"
	"io"
	"net/http"
	"regexp"

	"github.com/labstack/echo/v5"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/build"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/formats/booklet"
)

func (h *buildHandlers) PutDocument(ctx context.Context, r contract.PutDocumentRequestObject) (contract.PutDocumentResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Build.PutDocument(ctx, v, r.Id, r.Params.IfMatch, r.Params.File, data)
	if err != nil {
		return nil, err
	}
	return contract.PutDocument200JSONResponse(sheet(v, s)), nil
}

func (h *buildHandlers) GetKey(ctx context.Context, r contract.GetKeyRequestObject) (contract.GetKeyResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	rows, err := h.app.Build.Key(ctx, v, r.Id)
	return contract.GetKey200JSONResponse(each(rows, keyRowOf)), err
}

func (h *buildHandlers) PutKey(ctx context.Context, r contract.PutKeyRequestObject) (contract.PutKeyResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	s, err := h.app.Build.PutKey(ctx, v, r.Id, r.Params.IfMatch, each(r.Body.Rows, keyRowIn))
	if err != nil {
		return nil, err
	}
	return contract.PutKey200JSONResponse(sheet(v, s)), nil
}

func (h *buildHandlers) PreviewAssessment(ctx context.Context, r contract.PreviewAssessmentRequestObject) (contract.PreviewAssessmentResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	view, err := h.app.Take.Preview(ctx, v, r.Id, cmp.Or(value(r.Params.Seed), 1))
	if err != nil {
		return nil, err
	}
	take := takeOf(view)
	take.State = contract.TakeStateWorking
	return contract.PreviewAssessment200JSONResponse(take), nil
}

func (h *buildHandlers) PrintAssessment(ctx context.Context, r contract.PrintAssessmentRequestObject) (contract.PrintAssessmentResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	p, err := h.app.Build.Print(ctx, v, r.Id, value(r.Params.Seed))
	if err != nil {
		return nil, err
	}
	out := contract.Printed{Title: p.Assessment.Title, Instructions: p.Instructions, Edition: p.Assessment.Edition, State: string(p.Assessment.State), Layout: layoutOut(p.Layout), Total: p.Total,
		Lines: each(p.Lines, func(l booklet.Line) contract.PrintedLine {
			return contract.PrintedLine{Identifier: l.Identifier, Shown: shown(l.Item.Shown(l.Language)), Key: l.Key, Credit: string(l.Item.Credit), Standards: append([]string{}, l.Standards...),
				Points: l.Points, Refuse: l.Refuse}
		}),
		Groups:     each(p.Book().Groups(), func(g booklet.Group) contract.PrintedGroup { return printedGroup(g, p.Layout) }),
		Directions: map[string]string{}}
	for kind, words := range booklet.Directions {
		out.Directions[string(kind)] = words
	}
	if d := p.Document; d != nil {
		out.Document = &contract.KeyedDocument{Name: d.Name, Hash: d.Hash, Pages: d.Pages}
	}
	return contract.PrintAssessment200JSONResponse(out), nil
}

func printedGroup(g booklet.Group, layout form.Layout) contract.PrintedGroup {
	out := contract.PrintedGroup{Lines: each(g.Lines, func(i int) int { return i + 1 })}
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
		out.Passage, out.Again = &p, &g.Again
	}
	return out
}

func (h *buildHandlers) PrintPdf(ctx context.Context, r contract.PrintPdfRequestObject) (contract.PrintPdfResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	o := build.PDFOptions{Key: r.Params.What == contract.PrintPdfParamsWhatKey, Seed: value(r.Params.Seed), Size: float64(r.Params.Size), Columns: int(value(r.Params.Columns))}
	data, err := h.app.Build.PrintPDF(ctx, v, r.Id, o)
	if err != nil {
		return nil, err
	}
	return contract.PrintPdf200ApplicationpdfResponse{Body: bytes.NewReader(data), ContentLength: int64(len(data))}, nil
}

func keyRowOf(r build.KeyRow) contract.KeyRow {
	return contract.KeyRow{ItemId: &r.ItemID, Number: r.Keyed.Number, Kind: string(r.Keyed.Kind), Labels: append([]string{}, r.Keyed.Labels...), Key: append([]string{}, r.Keyed.Key...),
		Points: r.Points, Standards: append([]string{}, r.Standards...), Rubric: r.Keyed.Rubric}
}

func keyRowIn(r contract.KeyRow) build.KeyRow {
	return build.KeyRow{ItemID: value(r.ItemId), Points: r.Points, Standards: r.Standards,
		Keyed: item.Keyed{Number: r.Number, Kind: item.Kind(r.Kind), Labels: r.Labels, Key: r.Key, Rubric: r.Rubric}}
}

var documentHash = regexp.MustCompile(`^[0-9a-f]{64}$`)

// serveDocument gives a document that is keyed. Its address is its digest, so it
// never changes; it can load and run nothing.
func (s *Server) serveDocument(c *echo.Context) error {
	ctx := c.Request().Context()
	v, err := edge.Who(ctx)
	if err != nil {
		return err
	}
	hash := c.Param("hash")
	if !documentHash.MatchString(hash) {
		return echo.ErrNotFound
	}
	d, err := s.app.Build.Document(ctx, v, hash)
	if err != nil {
		return err
	}
	header := c.Response().Header()
	header.Set("Cache-Control", "private, max-age=31536000, immutable")
	header.Set("Content-Security-Policy", "default-src 'none'; sandbox")
	header.Set("Content-Type", "application/pdf")
	header.Set("Content-Disposition", "inline")
	http.ServeContent(c.Response(), c.Request(), "", timeOf(d.At), bytes.NewReader(d.Data))
	return nil
}
