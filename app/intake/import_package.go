package intake

import (
	"archive/zip"
	"context"
	"fmt"
	"strings"

	"pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/core/item"
	"pineledger/formats/qti"
	"pineledger/formats/table"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// importedBank takes in the items of packages that name no bank.
const importedBank = "Brought in"

// mostShelved bounds the pictures and sounds of one package, in bytes.
const mostShelved = 512 << 20

// readPackage compares a QTI package with the bank.
func (im *itemImport) readPackage(ctx context.Context, z *zip.Reader) error {
	size := 0
	p, err := qti.Open(z, func(name string, data []byte) (item.Picture, error) {
		m, err := bank.MediaOf(name, data)
		if err != nil {
			return item.Picture{}, err
		}
		if size += len(m.Data); size > mostShelved {
			return item.Picture{}, fmt.Errorf("is one too many: a package brings %d MB of pictures and sounds at most", mostShelved>>20)
		}
		m.PersonID, m.At = im.viewer.PersonID, store.Millis(im.app.Now())
		im.run.arrive(func(ctx context.Context, tx *store.Tx) error { return bankrows.PutArrivingMedia(ctx, tx, m) })
		return bank.Shelved(m), nil
	})
	if err != nil {
		return err
	}
	return p.Each(func(f qti.Found, refused *qti.Refusal) error {
		var bad *table.RowError
		if refused != nil {
			bad = &table.RowError{File: refused.File, Line: refused.Line, Field: refused.Element, Reason: refused.Reason}
		}
		return im.run.take(ctx, bad, func() error { return im.takeFound(ctx, f) })
	})
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
	v, err := bank.VersionOf(f.Item, f.Identifier, im.viewer)
	if err != nil {
		return err
	}
	m := f.Meta
	v.Subject, v.Grade, v.Language, v.Depth, v.TagList = desk.SubjectCode(m.Subject), m.Grade, m.Language, m.Depth, bank.TagNames(m.Tags)
	var codes []string
	for _, label := range m.Standards {
		s, known := im.standards[label]
		if !known {
			return refuse("standards", "%q is not a standard that is known; import its framework first, or take the alignment out", label)
		}
		v.Standards, codes = append(v.Standards, s.ID), append(codes, s.Code)
		if v.Subject == "" {
			v.Subject = desk.SubjectCode(s.Subject)
		}
		if v.Grade == "" && len(s.Grades) > 0 {
			v.Grade = s.Grades[0]
		}
	}
	v.Codes = strings.Join(codes, " ")
	if v.Subject == "" {
		return refuse("subject", "is not said, and no standard tells it")
	}
	if v.Language == "" {
		v.Language = "en"
	}
	if v.Depth < 0 || v.Depth > 4 {
		return refuse("depth of knowledge", "%d is not 1, 2, 3 or 4", v.Depth)
	}
	var ok bool
	if v.Difficulty, ok = bank.ReadDifficulty(m.Difficulty); !ok {
		return refuse("difficulty", "%q is not a share of right answers from 0 to 1, with three places at most", m.Difficulty)
	}
	bankName := m.Bank
	if bankName == "" {
		bankName = importedBank
	}
	passage := ""
	if f.Passage != nil {
		passage = f.Passage.Identifier
		im.putPassage(bankrows.Passage{Identifier: passage, Title: f.Passage.Title, Body: f.Passage.Body}, bankName)
	}
	return im.put(ctx, v, bankName, passage, refuse)
}
