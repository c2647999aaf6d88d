package build

import (
	"bytes"
	"context"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/formats/booklet"
	"pineledger/formats/paper"
	"pineledger/run/jobs"
	"pineledger/store/bankrows"
)

// PDFOptions say what is printed and how.
type PDFOptions struct {
	Key     bool // the key, not the booklet
	Seed    int64
	Size    float64 // of the text, in points
	Columns int
}

// Sizes of print: what a teacher prints, and large print.
const (
	leastSize   = 10
	largestSize = 24
	columnsFit  = 12 // up to this size two columns are readable
)

// printing is the kind of work of setting a book on pages: one for each core at a time.
var printing = jobs.Kind{Name: "print", Most: 2}

// PrintPDF makes an assessment's booklet or key as PDF, of what Print lets through.
func (a *Build) PrintPDF(ctx context.Context, v roster.Viewer, id int64, o PDFOptions) ([]byte, error) {
	switch {
	case o.Size < leastSize || o.Size > largestSize:
		return nil, desk.Invalid("/size", "The size is from %d to %d points.", leastSize, largestSize)
	case o.Columns == 2 && o.Size > columnsFit:
		return nil, desk.Invalid("/columns", "Two columns fit up to %d points.", columnsFit)
	}
	p, err := a.Print(ctx, v, id, o.Seed)
	if err != nil {
		return nil, err
	}
	book := p.Book()
	set := paper.Options{Language: p.Assessment.Language, Size: o.Size, Columns: o.Columns, Made: a.Now(), Media: func(source string) (string, []byte, error) {
		m, err := bankrows.MediaByHash(ctx, a.Store.Reader, strings.TrimPrefix(source, "/media/"))
		return m.Type, m.Data, err
	}}
	write := book.WriteBooklet
	if o.Key {
		write = book.WriteKey
	}
	var out bytes.Buffer
	err = a.Jobs.Do(ctx, printing, func(ctx context.Context) error { return write(ctx, &out, set) })
	if err != nil {
		if why, ok := booklet.Refusal(err); ok {
			return nil, desk.Conflict("%s", why)
		}
		return nil, err
	}
	return out.Bytes(), nil
}

// Book is what is printed as it is set on pages.
func (p Printed) Book() booklet.Book {
	b := booklet.Book{Lines: p.Lines, Title: p.Assessment.Title, Instructions: p.Instructions, Edition: p.Assessment.Edition, State: string(p.Assessment.State),
		Passages: p.Passages, Layout: p.Layout, Drawn: p.Drawn, Total: p.Total}
	if p.Document != nil {
		b.Document = p.Document.Name
	}
	return b
}
