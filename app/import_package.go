package app

import (
	"archive/zip"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/formats/qti"
	"pineledger/formats/table"
	"pineledger/store"
)

// importedBank takes in the items of packages that name no bank.
const importedBank = "Brought in"

// mostShelved bounds the pictures and sounds of one package, in bytes.
const mostShelved = 512 << 20

// readPackage compares a QTI package with the bank.
func (im *itemImport) readPackage(ctx context.Context, z *zip.Reader) error {
	size := 0
	p, err := qti.Open(z, func(name string, data []byte) (item.Picture, error) {
		m, err := mediaOf(name, data)
		if err != nil {
			return item.Picture{}, err
		}
		if size += len(m.Data); size > mostShelved {
			return item.Picture{}, fmt.Errorf("is one too many: a package brings %d MB of pictures and sounds at most", mostShelved>>20)
		}
		m.PersonID, m.At = im.viewer.PersonID, store.Millis(im.app.now())
		im.run.later(func(ctx context.Context, tx *store.Tx) error { return tx.PutMedia(ctx, m) })
		return shelved(m), nil
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
	v, err := versionOf(f.Item, f.Identifier, im.viewer)
	if err != nil {
		return err
	}
	m := f.Meta
	v.Subject, v.Grade, v.Language, v.Depth, v.TagList = subjectCode(m.Subject), m.Grade, m.Language, m.Depth, tagNames(m.Tags)
	var codes []string
	for _, label := range m.Standards {
		s, known := im.standards[label]
		if !known {
			return refuse("standards", "%q is not a standard that is known; import its framework first, or take the alignment out", label)
		}
		v.Standards, codes = append(v.Standards, s.ID), append(codes, s.Code)
		if v.Subject == "" {
			v.Subject = subjectCode(s.Subject)
		}
		if grades := []string{}; v.Grade == "" && json.Unmarshal([]byte(s.Grades), &grades) == nil && len(grades) > 0 {
			v.Grade = grades[0]
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
	if v.Difficulty, ok = readDifficulty(m.Difficulty); !ok {
		return refuse("difficulty", "%q is not a share of right answers from 0 to 1, with three places at most", m.Difficulty)
	}
	bankName := m.Bank
	if bankName == "" {
		bankName = importedBank
	}
	passage := ""
	if f.Passage != nil {
		passage = f.Passage.Identifier
		im.putPassage(store.Passage{Identifier: passage, Title: f.Passage.Title, Body: f.Passage.Body}, bankName)
	}
	return im.put(ctx, v, bankName, passage, refuse)
}

// tagNames makes tags of keywords, which may hold spaces.
func tagNames(keywords []string) []string {
	var out []string
	for _, k := range keywords {
		if name := bank.TagName(k); name != "" && !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	return out
}
