package intake

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"

	bankroom "pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/formats/qti"
	"pineledger/formats/table"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// importedBank takes in the items of packages that name no bank.
const importedBank = "Brought in"

// takeArchive compares a sheet or a QTI package with the bank, as its reader hands it over.
func (im *itemImport) takeArchive(ctx context.Context, name string, from io.Reader) error {
	pieces := json.NewDecoder(from)
	next := func() (p piece, err error) { return p, pieces.Decode(&p) }
	first, err := next()
	if errors.Is(err, io.EOF) {
		return nil // an empty package, or one that was refused
	}
	if err == nil && first.Row != nil {
		return im.takeSheet(ctx, name, *first.Row, next)
	}
	for p := first; ; {
		if err != nil {
			return err
		}
		if err := im.takePiece(ctx, p); err != nil {
			return err
		}
		if p, err = next(); errors.Is(err, io.EOF) {
			return nil
		}
	}
}

func (im *itemImport) takeSheet(ctx context.Context, name string, head row, next func() (piece, error)) error {
	waiting := &head
	rows, err := table.FromRows(name, func() ([]string, int, error) {
		if waiting == nil {
			p, err := next()
			if err != nil {
				return nil, 0, err
			}
			if p.Row.Sheet != head.Sheet { // items stand on the first sheet
				return nil, 0, io.EOF
			}
			waiting = p.Row
		}
		r := *waiting
		waiting = nil
		return r.Cells, r.Line, nil
	}, itemColumns...)
	if err != nil {
		return err
	}
	return im.each(ctx, rows)
}

func (im *itemImport) takePiece(ctx context.Context, p piece) error {
	switch {
	case p.Media != nil:
		p.Media.PersonID, p.Media.At = im.viewer.PersonID, store.Millis(im.app.Now())
		return im.app.Store.Write(ctx, func(tx *store.Tx) error { return bankrows.PutArrivingMedia(ctx, tx, *p.Media) })
	case p.Refused != nil:
		bad := &table.RowError{File: p.Refused.File, Line: p.Refused.Line, Field: p.Refused.Element, Reason: p.Refused.Reason}
		return im.run.take(ctx, bad, nil)
	}
	return im.run.take(ctx, nil, func() error { return im.takeFound(ctx, *p.Found) })
}

func (im *itemImport) takeFound(ctx context.Context, f qti.Found) error {
	refuse := func(field, format string, args ...any) error {
		return &table.RowError{File: f.File, Line: 1, Field: field, Reason: fmt.Sprintf(format, args...)}
	}
	switch {
	case len(f.Identifier) > 100 || strings.ContainsAny(f.Identifier, " \t"):
		return refuse("identifier", "must be without spaces, in at most 100 characters")
	case im.seen[f.Identifier]:
		return refuse("identifier", "%q is given twice", f.Identifier)
	}
	im.seen[f.Identifier] = true
	v, err := bankroom.VersionOf(f.Item, f.Identifier, im.viewer)
	if err != nil {
		return err
	}
	m := f.Meta
	v.Subject, v.Grade, v.Language, v.Depth, v.TagList = desk.SubjectCode(m.Subject), m.Grade, m.Language, m.Depth, bankroom.TagNames(m.Tags)
	standards, err := im.standardsOf(m.Standards, refuse)
	if err != nil {
		return err
	}
	var codes []string
	for _, s := range standards {
		v.Standards, codes = append(v.Standards, s.ID), append(codes, s.Code)
	}
	v.Codes = strings.Join(codes, " ")
	if err := im.fill(&v, standards, refuse); err != nil {
		return err
	}
	if v.Depth < 0 || v.Depth > 4 {
		return refuse("depth of knowledge", "%d is not 1, 2, 3 or 4", v.Depth)
	}
	var ok bool
	if v.Difficulty, ok = bank.ReadDifficulty(m.Difficulty); !ok {
		return refuse("difficulty", "%q is not a share of right answers from 0 to 1, with three places at most", m.Difficulty)
	}
	bankName := im.bankOf(m.Bank, importedBank, f.Identifier)
	passage := ""
	if f.Passage != nil {
		passage = f.Passage.Identifier
		im.putPassage(bankrows.Passage{Identifier: passage, Title: f.Passage.Title, Body: f.Passage.Body}, bankName)
	}
	return im.put(ctx, v, bankName, passage, refuse)
}

// standardsOf finds the standards that an item names. Where one is given for items that
// name none, those that nobody here knows are as good as none.
func (im *itemImport) standardsOf(labels []string, refuse refusing) ([]bankrows.StandardKey, error) {
	var out []bankrows.StandardKey
	for _, label := range labels {
		s, known := im.standards[label]
		switch {
		case known:
			out = append(out, s)
		case im.assumed.standard == nil:
			return nil, refuse("standards", "%q is not a standard that is known; import its framework first, or import the file with a standard for items that name none", label)
		}
	}
	return out, nil
}
