package app

import (
	"archive/zip"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"html"
	"os"
	"slices"
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
	standards map[string]store.StandardKey
	known     map[string]store.Known
	passages  map[string]store.Known
	passageID map[string]int64
	seen      map[string]bool
}

// itemColumns are those that every items table has.
var itemColumns = []string{"identifier", "bank", "kind", "stem", "key", "standards", "subject", "grade"}

// readItems reads items from a table (CSV or a sheet) or from a QTI package, by
// what the file is, not by how it is called.
func (a *App) readItems(ctx context.Context, run *importRun, v roster.Viewer, name, path string) error {
	im := &itemImport{app: a, run: run, viewer: v, passageID: map[string]int64{}, seen: map[string]bool{}}
	var err error
	if im.standards, err = a.store.StandardKeys(ctx); err != nil {
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
	z, err := zip.OpenReader(path)
	if err != nil {
		return im.readTable(ctx, name, path)
	}
	defer z.Close()
	if slices.ContainsFunc(z.File, func(f *zip.File) bool { return f.Name == "xl/workbook.xml" }) {
		return im.readSheet(ctx, name, path)
	}
	return im.readPackage(ctx, &z.Reader)
}

func (im *itemImport) readTable(ctx context.Context, name, path string) error {
	file, err := os.Open(path)
	if err != nil {
		return err
	}
	defer file.Close()
	rows, err := table.NewReader(name, file, itemColumns...)
	if err != nil {
		return err
	}
	return im.each(ctx, rows)
}

func (im *itemImport) readSheet(ctx context.Context, name, path string) error {
	sheet, err := table.OpenSheet(name, path, itemColumns...)
	if err != nil {
		return err
	}
	return errors.Join(im.each(ctx, sheet.Reader), sheet.Close())
}

func (im *itemImport) each(ctx context.Context, rows *table.Reader) error {
	return rows.Each(func(row table.Row, bad *table.RowError) error {
		return im.run.take(ctx, bad, func() error { return im.take(row) })
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
	im.put(v, bank, row.Get("passage"))
	return nil
}

// itemDigest is the same for the same item, whether it came in a table, in a package
// or from its author.
func (a *App) itemDigest(v store.NewVersion, bank, passage string) string {
	return a.digest(v.Document, v.Codes, strings.Join(v.TagList, " "), v.Subject, v.Grade, v.Language, strconv.Itoa(v.Depth),
		strconv.FormatBool(v.Difficulty.Valid), strconv.FormatInt(v.Difficulty.Int64, 10), bank, passage)
}

// put gathers the write of an item that is new or has changed.
func (im *itemImport) put(v store.NewVersion, bank, passage string) {
	v.Digest = im.app.itemDigest(v, bank, passage)
	old, exists := im.known[v.Identifier]
	if !im.run.compare(old, exists, v.Digest) {
		return
	}
	im.run.later(func(ctx context.Context, tx *store.Tx) (err error) {
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
	if v, err = versionOf(it, row.Get("identifier"), row.Get("passage_title"), im.viewer); err != nil {
		return v, err
	}
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
		v.Standards = append(v.Standards, id.ID)
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

// versionOf gives an item the columns that the store keeps of it.
func versionOf(it item.Item, identifier, passageTitle string, author roster.Viewer) (store.NewVersion, error) {
	var v store.NewVersion
	document, err := json.Marshal(it)
	if err != nil {
		return v, err
	}
	v.Identifier, v.Document, v.Kind, v.Stem, v.KeyShort = identifier, string(document), string(it.Kind), it.Stem(), it.KeyShort()
	v.Words, v.AuthorID = it.Words()+" "+passageTitle, author.PersonID
	return v, nil
}

func difficulty(row table.Row) (sql.NullInt64, error) {
	text := row.Get("difficulty")
	d, ok := readDifficulty(text)
	if !ok {
		return d, row.Refuse("difficulty", "%q is not a share of right answers from 0 to 1, with three places at most", text)
	}
	return d, nil
}

// readDifficulty reads a p-value in thousandths; "" is none.
func readDifficulty(text string) (sql.NullInt64, bool) {
	if text == "" {
		return sql.NullInt64{}, true
	}
	// A p-value has three places, one more than points have.
	tenfold, err := points.Parse(text + "e1")
	if err != nil || tenfold < 0 || tenfold > 10*points.One {
		return sql.NullInt64{}, false
	}
	return sql.NullInt64{Int64: int64(tenfold), Valid: true}, true
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
	im.putPassage(p)
	return nil
}

// putPassage gathers the write of a passage that is new or has changed.
func (im *itemImport) putPassage(p store.Passage) {
	identifier := p.Identifier
	p.Words = len(strings.Fields(item.PlainText(p.Body)))
	digest := im.app.digest(p.Title, p.Body)
	if old, exists := im.passages[identifier]; exists && old.Digest == digest {
		return
	}
	im.passages[identifier] = store.Known{ID: im.passageID[identifier], Digest: digest}
	im.passageID[identifier] += 0 // known from here on; its id comes with the write
	im.run.later(func(ctx context.Context, tx *store.Tx) (err error) {
		im.passageID[identifier], err = tx.PutPassage(ctx, p, digest)
		return err
	})
}
