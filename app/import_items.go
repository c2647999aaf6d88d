package app

import (
	"context"
	"database/sql"
	"encoding/json"
	"html"
	"os"
	"strconv"
	"strings"

	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/formats/table"
	"pineledger/store"
)

// itemImport compares an items file (docs/formats.md) with the bank.
type itemImport struct {
	app       *App
	run       *importRun
	viewer    roster.Viewer
	standards map[string]int64
	known     map[string]store.Known
	passages  map[string]store.Known
	passageID map[string]int64
	seen      map[string]bool
}

func (a *App) readItems(ctx context.Context, run *importRun, v roster.Viewer, name, path string) error {
	file, err := os.Open(path)
	if err != nil {
		return err
	}
	defer file.Close()
	rows, err := table.NewReader(name, file, "identifier", "bank", "kind", "stem", "key", "standards", "subject", "grade")
	if err != nil {
		return err
	}
	im := &itemImport{app: a, run: run, viewer: v, passageID: map[string]int64{}, seen: map[string]bool{}}
	if im.standards, err = a.store.StandardIDs(ctx); err != nil {
		return err
	}
	if im.known, err = a.store.Known(ctx, "item"); err != nil {
		return err
	}
	if im.passages, err = a.store.Known(ctx, "passage"); err != nil {
		return err
	}
	for source, k := range im.passages {
		im.passageID[source] = k.ID
	}
	run.begin("items")
	return rows.Each(func(row table.Row, bad *table.RowError) error {
		return run.take(ctx, bad, func() error { return im.take(row) })
	})
}

func (im *itemImport) take(row table.Row) error {
	identifier := row.Get("identifier")
	switch {
	case identifier == "" || len(identifier) > 100 || strings.ContainsAny(identifier, " \t"):
		return row.Refuse("identifier", "must be given, without spaces, in at most 100 characters")
	case im.seen[identifier]:
		return row.Refuse("identifier", "%q is given twice", identifier)
	}
	im.seen[identifier] = true
	v, err := im.version(row)
	if err != nil {
		return err
	}
	if err := im.passage(row); err != nil {
		return err
	}
	bank := row.Get("bank")
	if bank == "" {
		return row.Refuse("bank", "is empty")
	}
	v.Digest = im.app.digest(row.Whole())
	old, exists := im.known[identifier]
	if !im.run.compare(old, exists, v.Digest) {
		return nil
	}
	passage := row.Get("passage")
	im.run.later(func(ctx context.Context, tx *store.Tx) error {
		v.ItemID = old.ID
		if exists {
			newest, err := tx.ItemByID(ctx, old.ID)
			if err != nil {
				return err
			}
			v.Number = newest.Version + 1
		}
		if v.BankID, err = tx.BankNamed(ctx, bank, "district"); err != nil {
			return err
		}
		v.PassageID = im.passageID[passage]
		v.At = store.Millis(im.app.now())
		_, err = tx.PutItem(ctx, v)
		return err
	})
	return nil
}

// version reads a row into an item with its metadata.
func (im *itemImport) version(row table.Row) (store.NewVersion, error) {
	var v store.NewVersion
	it, err := readItem(row)
	if err != nil {
		return v, err
	}
	if problems := it.Check(); len(problems) > 0 {
		return v, row.Refuse(fieldOf(problems[0]), "%s", problems[0].Reason)
	}
	document, err := json.Marshal(it)
	if err != nil {
		return v, err
	}
	v.Identifier, v.Document, v.Kind, v.Stem, v.KeyShort = row.Get("identifier"), string(document), string(it.Kind), it.Stem(), it.KeyShort()
	v.Words, v.AuthorID = it.Words()+" "+row.Get("passage_title"), im.viewer.PersonID
	v.Subject, v.Grade, v.Language = subjectCode(row.Get("subject")), row.Get("grade"), row.Get("language")
	if v.Language == "" {
		v.Language = "en"
	}
	if v.Subject == "" {
		return v, row.Refuse("subject", "is empty")
	}
	for _, code := range split(row.Get("standards")) {
		id, ok := im.standards[code]
		if !ok {
			return v, row.Refuse("standards", "%q is not a standard that is known; import its framework first", code)
		}
		v.Standards = append(v.Standards, id)
	}
	v.Codes = strings.Join(split(row.Get("standards")), " ")
	v.TagList = split(row.Get("tags"))
	if d := row.Get("depth"); d != "" {
		if v.Depth, err = strconv.Atoi(d); err != nil || v.Depth < 1 || v.Depth > 4 {
			return v, row.Refuse("depth", "%q is not 1, 2, 3 or 4", d)
		}
	}
	v.Difficulty, err = difficulty(row)
	return v, err
}

func difficulty(row table.Row) (sql.NullInt64, error) {
	text := row.Get("difficulty")
	if text == "" {
		return sql.NullInt64{}, nil
	}
	// A p-value has three places, one more than points have.
	tenfold, err := points.Parse(text + "e1")
	if err != nil || tenfold < 0 || tenfold > 10*points.One {
		return sql.NullInt64{}, row.Refuse("difficulty", "%q is not a share of right answers from 0 to 1, with three places at most", text)
	}
	return sql.NullInt64{Int64: int64(tenfold), Valid: true}, nil
}

// formatted takes a text that begins with a tag as formatted and any other as
// plain, whose blank lines part paragraphs. What it gives is still to be cleaned.
func formatted(text string) string {
	if strings.HasPrefix(text, "<") {
		return text
	}
	var out []string
	for _, p := range strings.Split(text, "\n\n") {
		out = append(out, "<p>"+html.EscapeString(strings.TrimSpace(p))+"</p>")
	}
	if len(out) == 1 {
		return html.EscapeString(text)
	}
	return strings.Join(out, "")
}

// split parts a cell with several values at semicolons.
func split(cell string) []string {
	var out []string
	for _, v := range strings.Split(cell, ";") {
		if v = strings.TrimSpace(v); v != "" {
			out = append(out, v)
		}
	}
	return out
}

// passage takes in the passage of a row, whose text stands in the first row that names it.
func (im *itemImport) passage(row table.Row) error {
	identifier, text := row.Get("passage"), row.Get("passage_text")
	_, known := im.passageID[identifier]
	switch {
	case identifier == "":
		return nil
	case text == "" && !known:
		return row.Refuse("passage_text", "is empty, and the passage %q is not known", identifier)
	case text == "":
		return nil
	}
	p := store.Passage{Identifier: identifier, Title: row.Get("passage_title"), Body: item.Clean(formatted(text))}
	if p.Title == "" {
		return row.Refuse("passage_title", "is empty")
	}
	p.Words = len(strings.Fields(item.PlainText(p.Body)))
	digest := im.app.digest(p.Title, p.Body)
	if old, exists := im.passages[identifier]; exists && old.Digest == digest {
		return nil
	}
	im.passages[identifier] = store.Known{ID: im.passageID[identifier], Digest: digest}
	im.passageID[identifier] += 0 // known from here on; its id comes with the write
	im.run.later(func(ctx context.Context, tx *store.Tx) (err error) {
		im.passageID[identifier], err = tx.PutPassage(ctx, p, digest)
		return err
	})
	return nil
}
