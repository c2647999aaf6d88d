package store

import (
	"context"
	"database/sql"
	"fmt"
	"strconv"
	"strings"
)

// Item is an item of the bank as lists show it, with its newest version.
type Item struct {
	ID         int64         `db:"id"`
	Identifier string        `db:"identifier"`
	Bank       string        `db:"bank"`
	VersionID  int64         `db:"version_id"`
	Version    int           `db:"version"`
	Kind       string        `db:"kind"`
	Stem       string        `db:"stem"`
	Standards  string        `db:"standards"` // codes, separated by spaces
	Subject    string        `db:"subject"`
	Grade      string        `db:"grade"`
	Depth      int           `db:"depth"`
	Difficulty sql.NullInt64 `db:"difficulty"` // thousandths
	Language   string        `db:"language"`
	PassageID  int64         `db:"passage_id"`
	Passage    string        `db:"passage"` // its title
	Uses       int           `db:"uses"`
}

const itemSelect = `SELECT i.id, i.identifier, b.name AS bank, i.version_id, i.version, i.kind, i.stem, v.standards, i.subject, i.grade, i.depth,
	i.difficulty, i.language, COALESCE(i.passage_id, 0) AS passage_id, COALESCE(p.title, '') AS passage, i.uses
	FROM item i JOIN bank b ON b.id = i.bank_id JOIN item_version v ON v.id = i.version_id LEFT JOIN passage p ON p.id = i.passage_id`

// ItemSort orders a search.
type ItemSort string

const (
	NewestFirst ItemSort = "newest"
	EasiestLast ItemSort = "difficulty"
	MostUsed    ItemSort = "uses"
)

// sortKeys give each order one number to page by, largest first.
var sortKeys = map[ItemSort]string{
	NewestFirst: "i.id",
	EasiestLast: "-COALESCE(i.difficulty, 1001)",
	MostUsed:    "i.uses",
}

// ItemQuery is a search of the bank. Zero values do not restrict.
type ItemQuery struct {
	Words          string
	StandardID     int64 // with everything below it
	PassageID      int64
	Tag            string
	DifficultyFrom *int
	DifficultyTo   *int
	Only           []int64 // these ids
	// Facets: any of the values of each.
	Kinds, Subjects, Grades, Languages, Banks []string
	Depths                                    []int
	Sort                                      ItemSort
	Cursor                                    string // of the page before
	Limit                                     int
}

// conditions other than facets.
func (q ItemQuery) conditions() where {
	var w where
	if match := matchWords(q.Words); match != "" {
		w.add("i.id IN (SELECT rowid FROM item_text WHERE item_text MATCH ?)", match)
	}
	if q.StandardID > 0 {
		w.add(`i.id IN (SELECT x.item_id FROM standard top JOIN standard s ON s.framework_id = top.framework_id AND s.place BETWEEN top.place AND top.last
			JOIN item_standard x ON x.standard_id = s.id WHERE top.id = ?)`, q.StandardID)
	}
	if q.PassageID > 0 {
		w.add("i.passage_id = ?", q.PassageID)
	}
	if q.Tag != "" {
		w.add("i.id IN (SELECT item_id FROM item_tag WHERE tag = ?)", q.Tag)
	}
	if q.DifficultyFrom != nil {
		w.add("i.difficulty >= ?", *q.DifficultyFrom)
	}
	if q.DifficultyTo != nil {
		w.add("i.difficulty <= ?", *q.DifficultyTo)
	}
	if q.Only != nil {
		condition, args := in("i.id", q.Only)
		w.add(condition, args...)
	}
	return w
}

// matchWords turns typed words into a query that finds all of them, the last one
// also while it is being typed.
func matchWords(words string) string {
	var out []string
	for _, word := range strings.Fields(words) {
		out = append(out, `"`+strings.ReplaceAll(word, `"`, `""`)+`"`)
	}
	if len(out) == 0 {
		return ""
	}
	return strings.Join(out, " ") + "*"
}

// Items gives a page of a search and the cursor of the next, "" at the end.
func (r Reader) Items(ctx context.Context, q ItemQuery) (items []Item, next string, err error) {
	w := q.conditions()
	facet := func(column string, values []string) {
		if len(values) > 0 {
			condition, args := in(column, values)
			w.add(condition, args...)
		}
	}
	facet("i.kind", q.Kinds)
	facet("i.subject", q.Subjects)
	facet("i.grade", q.Grades)
	facet("i.language", q.Languages)
	facet("b.name", q.Banks)
	if len(q.Depths) > 0 {
		condition, args := in("i.depth", q.Depths)
		w.add(condition, args...)
	}
	key, ok := sortKeys[q.Sort]
	if !ok {
		key = sortKeys[NewestFirst]
	}
	if value, id, ok := readCursor(q.Cursor); ok {
		w.add("("+key+", i.id) < (?, ?)", value, id)
	}
	var rows []struct {
		Item
		Key int64 `db:"key"`
	}
	query := strings.Replace(itemSelect, "SELECT ", "SELECT "+key+" AS key, ", 1)
	err = r.list(ctx, &rows, query+w.String()+" ORDER BY "+key+" DESC, i.id DESC LIMIT ?", append(w.args, q.Limit)...)
	for _, row := range rows {
		items = append(items, row.Item)
	}
	if len(rows) == q.Limit && q.Limit > 0 {
		last := rows[len(rows)-1]
		next = fmt.Sprintf("%d.%d", last.Key, last.ID)
	}
	return items, next, err
}

func readCursor(cursor string) (value, id int64, ok bool) {
	a, b, found := strings.Cut(cursor, ".")
	value, err1 := strconv.ParseInt(a, 10, 64)
	id, err2 := strconv.ParseInt(b, 10, 64)
	return value, id, found && err1 == nil && err2 == nil
}

// FacetGroup counts the items that share all their facets.
type FacetGroup struct {
	Kind     string `db:"kind"`
	Subject  string `db:"subject"`
	Grade    string `db:"grade"`
	Depth    int    `db:"depth"`
	Language string `db:"language"`
	Bank     string `db:"bank"`
	Count    int    `db:"n"`
}

// ItemFacets groups what a search without its facets finds.
func (r Reader) ItemFacets(ctx context.Context, q ItemQuery) ([]FacetGroup, error) {
	w := q.conditions()
	var out []FacetGroup
	err := r.list(ctx, &out, `SELECT g.kind, g.subject, g.grade, g.depth, g.language, b.name AS bank, g.n FROM
		(SELECT i.subject, i.grade, i.kind, i.depth, i.language, i.bank_id, COUNT(*) AS n FROM item i`+w.String()+`
			GROUP BY i.subject, i.grade, i.kind, i.depth, i.language, i.bank_id) g JOIN bank b ON b.id = g.bank_id`, w.args...)
	return out, err
}

// ItemVersion is one kept version of an item.
type ItemVersion struct {
	ID         int64         `db:"id"`
	ItemID     int64         `db:"item_id"`
	Identifier string        `db:"identifier"`
	Number     int           `db:"number"`
	Newest     int           `db:"newest"` // number of the item's newest version
	Document   string        `db:"document"`
	Kind       string        `db:"kind"`
	Stem       string        `db:"stem"`
	KeyShort   string        `db:"key_short"`
	Depth      int           `db:"depth"`
	Difficulty sql.NullInt64 `db:"difficulty"`
	Language   string        `db:"language"`
	PassageID  int64         `db:"passage_id"`
	Standards  string        `db:"standards"`
	Tags       string        `db:"tags"`
}

const versionSelect = `SELECT v.id, v.item_id, i.identifier, v.number, i.version AS newest, v.document, v.kind, v.stem, v.key_short, v.depth,
	v.difficulty, v.language, COALESCE(v.passage_id, 0) AS passage_id, v.standards, v.tags FROM item_version v JOIN item i ON i.id = v.item_id`

// NewestVersions gives the newest version of each item, in no order.
func (r Reader) NewestVersions(ctx context.Context, items []int64) ([]ItemVersion, error) {
	condition, args := in("i.id", items)
	var out []ItemVersion
	err := r.list(ctx, &out, versionSelect+" WHERE v.id = i.version_id AND "+condition, args...)
	return out, err
}

// ItemByID gives an item.
func (r Reader) ItemByID(ctx context.Context, id int64) (Item, error) {
	var it Item
	err := r.get(ctx, &it, itemSelect+" WHERE i.id = ?", id)
	return it, err
}

// FirstBank is the name of the bank that was made first, "" without one.
func (r Reader) FirstBank(ctx context.Context) (string, error) {
	var name string
	err := r.get(ctx, &name, "SELECT COALESCE((SELECT name FROM bank ORDER BY id LIMIT 1), '')")
	return name, err
}

// ItemNamed tells whether an identifier is in use.
func (r Reader) ItemNamed(ctx context.Context, identifier string) (bool, error) {
	var n int
	err := r.get(ctx, &n, "SELECT COUNT(*) FROM item WHERE identifier = ?", identifier)
	return n > 0, err
}

// Passage is a text that items hang on.
type Passage struct {
	ID         int64  `db:"id"`
	Identifier string `db:"identifier"`
	Title      string `db:"title"`
	Body       string `db:"body"`
	Words      int    `db:"words"`
}

// Passages gives passages by id.
func (r Reader) Passages(ctx context.Context, ids []int64) ([]Passage, error) {
	condition, args := in("id", ids)
	var out []Passage
	err := r.list(ctx, &out, "SELECT id, identifier, title, body, words FROM passage WHERE "+condition+" ORDER BY id", args...)
	return out, err
}

// mostPassages are listed at once.
const mostPassages = 50

// PassagesNamed lists passages whose title holds words, the newest first.
func (r Reader) PassagesNamed(ctx context.Context, words string) ([]Passage, error) {
	var out []Passage
	err := r.list(ctx, &out, `SELECT id, identifier, title, '' AS body, words FROM passage WHERE instr(lower(title), lower(?)) > 0 ORDER BY id DESC LIMIT ?`, words, mostPassages)
	return out, err
}

// PutPassage writes a passage and gives its id.
func (t *Tx) PutPassage(ctx context.Context, p Passage, digest string) (int64, error) {
	return t.putRow(ctx, `INSERT INTO passage (identifier, title, body, words, digest) VALUES (?, ?, ?, ?, ?)
		ON CONFLICT (identifier) DO UPDATE SET title = excluded.title, body = excluded.body, words = excluded.words, digest = excluded.digest RETURNING id`,
		p.Identifier, p.Title, p.Body, p.Words, digest)
}

// BankNamed gives the id of a bank, made if it is new.
func (t *Tx) BankNamed(ctx context.Context, name, kind string) (int64, error) {
	return t.putRow(ctx, `INSERT INTO bank (name, kind) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET name = excluded.name RETURNING id`, name, kind)
}

// NewVersion is a version of an item to be kept.
type NewVersion struct {
	ItemVersion
	BankID    int64
	Subject   string
	Grade     string
	Words     string // what a search looks through
	Standards []int64
	Codes     string
	TagList   []string
	AuthorID  int64
	At        int64
	Digest    string
}

// PutItem keeps a new item (ItemID 0) or a new version of one; older versions stay.
func (t *Tx) PutItem(ctx context.Context, v NewVersion) (int64, error) {
	var passage any
	if v.PassageID > 0 {
		passage = v.PassageID
	}
	id, number := v.ItemID, v.Number
	if id == 0 {
		number = 1
		var err error
		id, err = t.insert(ctx, `INSERT INTO item (identifier, bank_id, version_id, version, kind, stem, subject, grade, depth, difficulty, language, passage_id, digest)
			VALUES (?, ?, 0, 1, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			v.Identifier, v.BankID, v.Kind, v.Stem, v.Subject, v.Grade, v.Depth, v.Difficulty, v.Language, passage, v.Digest)
		if err != nil {
			return 0, err
		}
	}
	version, err := t.insert(ctx, `INSERT INTO item_version (item_id, number, document, kind, stem, key_short, depth, difficulty, language, passage_id, standards, tags, author_id, at)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		id, number, v.Document, v.Kind, v.Stem, v.KeyShort, v.Depth, v.Difficulty, v.Language, passage, v.Codes, strings.Join(v.TagList, " "), v.AuthorID, v.At)
	if err != nil {
		return 0, err
	}
	err = t.exec(ctx, `UPDATE item SET bank_id = ?, version_id = ?, version = ?, kind = ?, stem = ?, subject = ?, grade = ?, depth = ?, difficulty = ?,
		language = ?, passage_id = ?, digest = ? WHERE id = ?`,
		v.BankID, version, number, v.Kind, v.Stem, v.Subject, v.Grade, v.Depth, v.Difficulty, v.Language, passage, v.Digest, id)
	if err != nil {
		return 0, err
	}
	return id, t.indexItem(ctx, id, v)
}

// indexItem renews what searches look through.
func (t *Tx) indexItem(ctx context.Context, id int64, v NewVersion) error {
	for _, query := range []string{"DELETE FROM item_standard WHERE item_id = ?", "DELETE FROM item_tag WHERE item_id = ?", "DELETE FROM item_text WHERE rowid = ?"} {
		if err := t.exec(ctx, query, id); err != nil {
			return err
		}
	}
	for _, s := range v.Standards {
		if err := t.exec(ctx, "INSERT OR IGNORE INTO item_standard (standard_id, item_id) VALUES (?, ?)", s, id); err != nil {
			return err
		}
	}
	for _, tag := range v.TagList {
		if err := t.exec(ctx, "INSERT OR IGNORE INTO item_tag (tag, item_id) VALUES (?, ?)", tag, id); err != nil {
			return err
		}
	}
	return t.exec(ctx, "INSERT INTO item_text (rowid, words) VALUES (?, ?)", id, v.Words)
}

// CountUse notes that items went out on one more sealed form.
func (t *Tx) CountUse(ctx context.Context, items []int64) error {
	condition, args := in("id", items)
	return t.exec(ctx, "UPDATE item SET uses = uses + 1 WHERE "+condition, args...)
}

// Tray lists the ids that a person has picked, in that order.
func (r Reader) Tray(ctx context.Context, person int64) ([]int64, error) {
	out := []int64{}
	err := r.list(ctx, &out, "SELECT item_id FROM tray WHERE person_id = ? ORDER BY at, item_id", person)
	return out, err
}

// PutInTray picks an item; picking it again changes nothing.
func (t *Tx) PutInTray(ctx context.Context, person, item, at int64) error {
	return t.exec(ctx, "INSERT OR IGNORE INTO tray (person_id, item_id, at) VALUES (?, ?, ?)", person, item, at)
}

// TakeFromTray puts items back.
func (t *Tx) TakeFromTray(ctx context.Context, person int64, items []int64) error {
	condition, args := in("item_id", items)
	return t.exec(ctx, "DELETE FROM tray WHERE person_id = ? AND "+condition, append([]any{person}, args...)...)
}

// IsVersionOf tells whether a version belongs to an item.
func (r Reader) IsVersionOf(ctx context.Context, version, item int64) (bool, error) {
	var n int
	err := r.get(ctx, &n, "SELECT COUNT(*) FROM item_version WHERE id = ? AND item_id = ?", version, item)
	return n == 1, err
}
