package app

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/formats/pdf"
	"pineledger/store"
)

// Document gives a keyed document to anybody who is signed in: its name is its
// digest, so only who was shown it can ask for it.
func (a *App) Document(ctx context.Context, v roster.Viewer, hash string) (store.Document, error) {
	if !v.IsStaff() && !v.IsStudent() {
		return store.Document{}, ErrForbidden
	}
	return a.store.DocumentByHash(ctx, hash)
}

// PutDocument puts a document on an assessment, or another in its place. The key stays.
func (a *App) PutDocument(ctx context.Context, v roster.Viewer, id int64, version int, name string, data []byte) (Sheet, error) {
	// The right is asked first: who may not change it learns nothing about files.
	row, err := assessment(ctx, a.store.Reader, v, id)
	switch {
	case err != nil:
		return Sheet{}, err
	case !v.MayChange(row.Owned()):
		return Sheet{}, ErrForbidden
	}
	pages, err := pdf.Pages(data)
	if err != nil {
		return Sheet{}, invalid("/file", "%s %s.", name, err)
	}
	sum := sha256.Sum256(data)
	doc := store.Document{Hash: hex.EncodeToString(sum[:]), Name: strings.ToValidUTF8(name, "\uFFFD"), Pages: pages, Data: data, PersonID: v.PersonID, At: store.Millis(a.now())}
	if runes := []rune(doc.Name); len(runes) > 200 {
		doc.Name = string(runes[:200])
	}
	return a.change(ctx, v, id, version, "assessment.document", func(tx *store.Tx, row *store.Assessment) (any, any, error) {
		if err := mustBeDraft(row); err != nil {
			return nil, nil, err
		}
		if err := tx.PutDocument(ctx, doc); err != nil {
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
func (a *App) Key(ctx context.Context, v roster.Viewer, id int64) ([]KeyRow, error) {
	if _, err := assessment(ctx, a.store.Reader, v, id); err != nil {
		return nil, err
	}
	lines, err := a.store.Lines(ctx, id)
	if err != nil {
		return nil, err
	}
	return keyOf(lines)
}

// keyOf reads the questions from the lines that they are.
func keyOf(lines []store.Line) ([]KeyRow, error) {
	out := []KeyRow{}
	for _, l := range lines {
		k, ok, err := keyedLine(l)
		if err != nil {
			return nil, err
		}
		if ok {
			out = append(out, KeyRow{ItemID: l.ItemID, Keyed: k, Points: points.Points(l.Points), Standards: codes(l.Standards)})
		}
	}
	return out, nil
}

// keyedLine tells whether a line is a question of the assessment's document.
func keyedLine(l store.Line) (item.Keyed, bool, error) {
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
func (a *App) PutKey(ctx context.Context, v roster.Viewer, id int64, version int, rows []KeyRow) (Sheet, error) {
	if len(rows) > mostLines {
		return Sheet{}, invalid("/rows", "A document has %d questions at most.", mostLines)
	}
	return a.change(ctx, v, id, version, "assessment.key", func(tx *store.Tx, row *store.Assessment) (any, any, error) {
		if err := mustBeDraft(row); err != nil {
			return nil, nil, err
		}
		if row.DocumentHash == "" {
			return nil, nil, conflict("There is no document yet; put it here first.")
		}
		old, err := tx.Lines(ctx, id)
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
		layout, err := layoutOf(*row)
		if err != nil {
			return nil, nil, err
		}
		return keyNote(old), rows, tx.PutLines(ctx, id, settled(layout, lines))
	})
}

// keyNote is the key before a change, as the ledger keeps it.
func keyNote(lines []store.Line) []string {
	out := []string{}
	for _, l := range lines {
		out = append(out, fmt.Sprintf("%s: %s, %s, %s", l.Stem, l.KeyShort, points.Points(l.Points), l.Standards))
	}
	return out
}

func checkKey(ctx context.Context, tx *store.Tx, rows []KeyRow) (map[string]store.StandardKey, error) {
	var e InvalidError
	var named []string
	numbers := map[string]bool{}
	for i, r := range rows {
		if numbers[r.Keyed.Number] {
			e.Fields = append(e.Fields, FieldError{fmt.Sprintf("/rows/%d/number", i), fmt.Sprintf("There are two questions %s.", r.Keyed.Number)})
		}
		numbers[r.Keyed.Number] = true
		for _, p := range r.Keyed.Check() {
			e.Fields = append(e.Fields, FieldError{fmt.Sprintf("/rows/%d/%s", i, p.Place), fmt.Sprintf("Question %s: %s", r.Keyed.Number, sentence(p.Reason))})
		}
		if r.Points <= 0 || r.Points > mostPoints {
			e.Fields = append(e.Fields, FieldError{fmt.Sprintf("/rows/%d/points", i), fmt.Sprintf("Question %s: points must be more than 0 and at most %s.", r.Keyed.Number, mostPoints)})
		}
		named = append(named, r.Standards...)
	}
	standards, err := tx.StandardsCoded(ctx, named)
	if err != nil {
		return nil, err
	}
	for i, r := range rows {
		for _, code := range r.Standards {
			if _, known := standards[code]; !known {
				e.Fields = append(e.Fields, FieldError{fmt.Sprintf("/rows/%d/standards", i), fmt.Sprintf("Question %s: there is no standard %q.", r.Keyed.Number, code)})
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
	a         *App
	tx        *store.Tx
	v         roster.Viewer
	on        store.Assessment
	standards map[string]store.StandardKey
}

// lines gives the assessment's lines: the questions in order, then lines of other items.
func (k keying) lines(ctx context.Context, old []store.Line, rows []KeyRow) ([]store.LineRow, error) {
	var out []store.LineRow
	numbered, err := byNumber(old, rows)
	if err != nil {
		return nil, err
	}
	for i, r := range rows {
		was := numbered[r.Keyed.Number]
		if r.ItemID > 0 {
			at := slices.IndexFunc(old, func(l store.Line) bool { return l.ItemID == r.ItemID })
			if at < 0 {
				return nil, invalid(fmt.Sprintf("/rows/%d/itemId", i), "Question %s is no line of this assessment.", r.Keyed.Number)
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
func byNumber(old []store.Line, rows []KeyRow) (map[string]*store.Line, error) {
	named := map[int64]bool{}
	for _, r := range rows {
		named[r.ItemID] = true
	}
	out := map[string]*store.Line{}
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
func (k keying) question(ctx context.Context, was *store.Line, r KeyRow) (store.LineRow, error) {
	nv, err := versionOf(r.Keyed.Item().Cleaned(), "", k.v)
	if err != nil {
		return store.LineRow{}, err
	}
	nv.Codes = strings.Join(r.Standards, " ")
	line := store.LineRow{Points: int64(r.Points)}
	if was != nil {
		line.ItemID, line.VersionID, line.Part, line.Pool = was.ItemID, was.ID, was.Part, was.Pool
		if was.Document == nv.Document && was.Standards == nv.Codes {
			return line, nil
		}
		if _, keyed, err := keyedLine(*was); err != nil || !keyed {
			return line, errors.Join(err, conflict("%s is no question of the document.", was.Identifier))
		}
	}
	if err := k.fill(ctx, &nv, r); err != nil {
		return line, err
	}
	if was != nil {
		nv.ItemID, nv.Identifier, nv.Number = was.ItemID, was.Identifier, was.Newest+1
		if written, err := k.tx.RewriteVersion(ctx, was.ID, nv); err != nil || written {
			return line, err
		}
	}
	if line.ItemID, err = k.tx.PutItem(ctx, nv); err != nil {
		return line, err
	}
	kept, err := k.tx.ItemByID(ctx, line.ItemID)
	line.VersionID = kept.VersionID
	return line, err
}

// fill says of a question what any item says of itself.
func (k keying) fill(ctx context.Context, nv *store.NewVersion, r KeyRow) error {
	for _, code := range r.Standards {
		nv.Standards = append(nv.Standards, k.standards[code].ID)
	}
	var grades []string
	if err := json.Unmarshal([]byte(k.on.Grades), &grades); err != nil {
		return err
	}
	nv.Subject, nv.Grade, nv.Language, nv.Assessment, nv.At = k.on.Subject, grades[0], k.on.Language, k.on.ID, store.Millis(k.a.now())
	nv.Sketch = nil // questions are told apart by the document alone: none is another's twin
	var err error
	if nv.BankID, err = k.tx.BankOfCopies(ctx); err != nil {
		return err
	}
	last, err := k.tx.LastItem(ctx)
	if err != nil {
		return err
	}
	nv.Identifier = fmt.Sprintf("Q%d-%d", k.on.ID, last+1)
	nv.Digest = k.a.itemDigest(*nv, "", "")
	return nil
}
