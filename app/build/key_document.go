package build

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/formats/pdf"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/buildrows"
)

// Document gives a keyed document to anybody who is signed in: its name is its
// digest, so only who was shown it can ask for it.
func (a *Build) Document(ctx context.Context, v roster.Viewer, hash string) (buildrows.Document, error) {
	if !v.IsStaff() && !v.IsStudent() {
		return buildrows.Document{}, desk.ErrForbidden
	}
	return buildrows.DocumentByHash(ctx, a.Store.Reader, hash)
}

// PutDocument puts a document on an assessment, or another in its place. The key stays.
func (a *Build) PutDocument(ctx context.Context, v roster.Viewer, id int64, version int, name string, data []byte) (Sheet, error) {
	// The right is asked first: who may not change it learns nothing about files.
	row, err := desk.Assessment(ctx, a.Store.Reader, v, id)
	switch {
	case err != nil:
		return Sheet{}, err
	case !v.MayChange(row.Owned()):
		return Sheet{}, desk.ErrForbidden
	}
	pages, err := a.pages(ctx, data)
	if err != nil {
		return Sheet{}, desk.Invalid("/file", "%s %s.", name, err)
	}
	sum := sha256.Sum256(data)
	doc := buildrows.Document{Hash: hex.EncodeToString(sum[:]), Name: strings.ToValidUTF8(name, "\uFFFD"), Pages: pages, Data: data, PersonID: v.PersonID, At: store.Millis(a.Now())}
	if runes := []rune(doc.Name); len(runes) > 200 {
		doc.Name = string(runes[:200])
	}
	return a.change(ctx, v, id, version, "assessment.document", func(tx *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if err := desk.MustBeDraft(row); err != nil {
			return nil, nil, err
		}
		if err := buildrows.PutDocument(ctx, tx, doc); err != nil {
			return nil, nil, err
		}
		before := row.DocumentHash
		row.DocumentHash = doc.Hash
		return before, documentNote{doc.Name, doc.Hash, pages}, nil
	})
}

type documentNote struct {
	Name  string `json:"name"`
	Hash  string `json:"hash"`
	Pages int    `json:"pages"`
}

// KeyRow is a question of a document as it is keyed.
type KeyRow struct {
	ItemID    int64 // 0: the question with this number, or else a new one
	Keyed     item.Keyed
	Points    points.Points
	Standards []string
}

// Key gives the questions of an assessment's document.
func (a *Build) Key(ctx context.Context, v roster.Viewer, id int64) ([]KeyRow, error) {
	if _, err := desk.Assessment(ctx, a.Store.Reader, v, id); err != nil {
		return nil, err
	}
	lines, err := buildrows.Lines(ctx, a.Store.Reader, id)
	if err != nil {
		return nil, err
	}
	return keyOf(lines)
}

// keyOf reads the questions from the lines that they are.
func keyOf(lines []buildrows.Line) ([]KeyRow, error) {
	out := []KeyRow{}
	for _, l := range lines {
		k, ok, err := keyedLine(l)
		if err != nil {
			return nil, err
		}
		if ok {
			out = append(out, KeyRow{ItemID: l.ItemID, Keyed: k, Points: points.Points(l.Points), Standards: desk.Codes(l.Standards)})
		}
	}
	return out, nil
}

// keyedLine tells whether a line is a question of the assessment's document.
func keyedLine(l buildrows.Line) (item.Keyed, bool, error) {
	if !l.Own || l.OriginID > 0 {
		return item.Keyed{}, false, nil
	}
	it, err := item.Read([]byte(l.Document))
	if err != nil {
		return item.Keyed{}, false, err
	}
	k, ok := item.ReadKeyed(it)
	return k, ok, nil
}

// PutKey replaces the questions of the document, whole or not yet: a key that is missing keeps
// the assessment from being sealed and is no error. Each question is an item that lives
// on this assessment alone. What was sealed with a form stays as it was.
func (a *Build) PutKey(ctx context.Context, v roster.Viewer, id int64, version int, rows []KeyRow) (Sheet, error) {
	if len(rows) > mostLines {
		return Sheet{}, desk.Invalid("/rows", "A document has %d questions at most.", mostLines)
	}
	return a.change(ctx, v, id, version, "assessment.key", func(tx *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if err := desk.MustBeDraft(row); err != nil {
			return nil, nil, err
		}
		if row.DocumentHash == "" {
			return nil, nil, desk.Conflict("There is no document yet; upload it first.")
		}
		old, err := buildrows.Lines(ctx, tx.Reader, id)
		if err != nil {
			return nil, nil, err
		}
		standards, err := checkKey(ctx, tx, rows)
		if err != nil {
			return nil, nil, err
		}
		k := keying{a: a, tx: tx, v: v, on: *row, standards: standards}
		lines, err := k.lines(ctx, old, rows)
		if err != nil {
			return nil, nil, err
		}
		layout := row.Layout.V
		return keyNote(old), rows, buildrows.PutLines(ctx, tx, id, settled(layout, lines))
	})
}

// keyNote is the key before a change, as the ledger keeps it.
func keyNote(lines []buildrows.Line) []string {
	out := []string{}
	for _, l := range lines {
		out = append(out, fmt.Sprintf("%s: %s, %s, %s", l.Stem, l.KeyShort, points.Points(l.Points), l.Standards))
	}
	return out
}

func checkKey(ctx context.Context, tx *store.Tx, rows []KeyRow) (map[string]bankrows.StandardKey, error) {
	var e desk.InvalidError
	var named []string
	numbers := map[string]bool{}
	for i, r := range rows {
		if numbers[r.Keyed.Number] {
			e.Add(fmt.Sprintf("/rows/%d/number", i), fmt.Sprintf("There are two questions %s.", r.Keyed.Number))
		}
		numbers[r.Keyed.Number] = true
		for _, p := range r.Keyed.Check() {
			e.Add(fmt.Sprintf("/rows/%d/%s", i, p.Place), fmt.Sprintf("Question %s: %s", r.Keyed.Number, desk.Sentence(p.Reason)))
		}
		if r.Points <= 0 || r.Points > mostPoints {
			e.Add(fmt.Sprintf("/rows/%d/points", i), fmt.Sprintf("Question %s: points must be more than 0 and at most %s.", r.Keyed.Number, mostPoints))
		}
		named = append(named, r.Standards...)
	}
	standards, err := bankrows.StandardsCoded(ctx, tx.Reader, named)
	if err != nil {
		return nil, err
	}
	for i, r := range rows {
		for _, code := range r.Standards {
			if _, known := standards[code]; !known {
				e.Add(fmt.Sprintf("/rows/%d/standards", i), fmt.Sprintf("Question %s: there is no standard %q.", r.Keyed.Number, code))
			}
		}
	}
	if len(e.Fields) > 0 {
		return nil, &e
	}
	return standards, nil
}

// keying writes the questions of one document.
type keying struct {
	a         *Build
	tx        *store.Tx
	v         roster.Viewer
	on        buildrows.Assessment
	standards map[string]bankrows.StandardKey
}

// lines gives the assessment's lines: the questions in order, then lines of other items.
func (k keying) lines(ctx context.Context, old []buildrows.Line, rows []KeyRow) ([]buildrows.LineRow, error) {
	var out []buildrows.LineRow
	numbered, err := byNumber(old, rows)
	if err != nil {
		return nil, err
	}
	for i, r := range rows {
		was := numbered[r.Keyed.Number]
		if r.ItemID > 0 {
			at := slices.IndexFunc(old, func(l buildrows.Line) bool { return l.ItemID == r.ItemID })
			if at < 0 {
				return nil, desk.Invalid(fmt.Sprintf("/rows/%d/itemId", i), "Question %s is no line of this assessment.", r.Keyed.Number)
			}
			was = &old[at]
		}
		line, err := k.question(ctx, was, r)
		if err != nil {
			return nil, err
		}
		out = append(out, line)
	}
	for _, l := range old {
		_, keyed, err := keyedLine(l)
		if err != nil {
			return nil, err
		}
		if !keyed {
			out = append(out, l.Row())
		}
	}
	return out, nil
}

// byNumber finds the lines of questions by their numbers, for rows that do not say which item they are.
func byNumber(old []buildrows.Line, rows []KeyRow) (map[string]*buildrows.Line, error) {
	named := map[int64]bool{}
	for _, r := range rows {
		named[r.ItemID] = true
	}
	out := map[string]*buildrows.Line{}
	for i, l := range old {
		keyed, ok, err := keyedLine(l)
		if err != nil {
			return nil, err
		}
		if ok && !named[l.ItemID] {
			out[keyed.Number] = &old[i]
		}
	}
	return out, nil
}

// question writes one question where it differs from what it was.
func (k keying) question(ctx context.Context, was *buildrows.Line, r KeyRow) (buildrows.LineRow, error) {
	nv, err := bank.VersionOf(r.Keyed.Item().Cleaned(), "", k.v)
	if err != nil {
		return buildrows.LineRow{}, err
	}
	nv.Codes = strings.Join(r.Standards, " ")
	line := buildrows.LineRow{Points: int64(r.Points)}
	if was != nil {
		line = was.Row()
		line.Points = int64(r.Points)
		if was.Document == nv.Document && was.Standards == nv.Codes {
			return line, nil
		}
		if _, keyed, err := keyedLine(*was); err != nil || !keyed {
			return line, errors.Join(err, desk.Conflict("%s is no question of the document.", was.Identifier))
		}
	}
	if err := k.fill(ctx, &nv, r); err != nil {
		return line, err
	}
	if was != nil {
		nv.ItemID, nv.Identifier, nv.Number = was.ItemID, was.Identifier, was.Newest+1
		if written, err := buildrows.RewriteVersion(ctx, k.tx, was.ID, nv); err != nil || written {
			return line, err
		}
	}
	if line.ItemID, err = bankrows.PutItem(ctx, k.tx, nv); err != nil {
		return line, err
	}
	kept, err := bankrows.ItemByID(ctx, k.tx.Reader, line.ItemID)
	line.VersionID = kept.VersionID
	return line, err
}

// fill says of a question what any item says of itself.
func (k keying) fill(ctx context.Context, nv *bankrows.NewVersion, r KeyRow) error {
	for _, code := range r.Standards {
		nv.Standards = append(nv.Standards, k.standards[code].ID)
	}
	nv.Subject, nv.Grade, nv.Language, nv.Assessment, nv.At = k.on.Subject, k.on.Grades[0], k.on.Language, k.on.ID, store.Millis(k.a.Now())
	nv.Sketch = nil // questions are told apart by the document alone: none is another's twin
	var err error
	if nv.BankID, err = bankrows.BankOfCopies(ctx, k.tx.Reader); err != nil {
		return err
	}
	last, err := bankrows.LastItem(ctx, k.tx.Reader)
	if err != nil {
		return err
	}
	nv.Identifier = fmt.Sprintf("Q%d-%d", k.on.ID, last+1)
	nv.Digest = k.a.bank.ItemDigest(*nv, "", "")
	return nil
}

// DocumentReader is the name of the reader of documents that runs aside.
const DocumentReader = "pdf"

// ReadDocument is the reader of documents: it answers with the number of pages.
func ReadDocument(file []byte) ([]byte, error) {
	pages, err := pdf.Pages(file)
	if err != nil {
		return nil, err
	}
	return json.Marshal(pages)
}

// pages counts the pages of a document, aside where there is a program for it.
func (a *Build) pages(ctx context.Context, file []byte) (int, error) {
	if len(file) > pdf.MostBytes {
		return 0, pdf.ErrTooLarge
	}
	if a.Aside == nil {
		return pdf.Pages(file)
	}
	answer, err := a.Aside.Read(ctx, DocumentReader, file)
	if err != nil {
		return 0, err
	}
	var pages int
	err = json.Unmarshal(answer, &pages)
	return pages, err
}
