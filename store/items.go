package store

import (
	"context"
	"database/sql"
	"strings"

	"pineledger/core/bank"
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
	LastUsed   int64         `db:"last_used"` // ms, 0 for never
	ChangedAt  int64         `db:"changed_at"`
	Course     string        `db:"course"`
	BankID     int64         `db:"bank_id"`
	OwnerID    int64         `db:"owner_id"`
	TagSetID   int64         `db:"tag_set_id"`
	Origin     int64         `db:"origin"`        // the version that it was copied from, 0 for none
	Assessment int64         `db:"assessment_id"` // of an own copy: where it lives
	Digest     string        `db:"digest"`
}

const (
	itemColumns = `i.id, i.identifier, b.name AS bank, i.version_id, i.version, i.kind, i.stem, v.standards, i.subject, i.grade, i.depth,
	i.difficulty, i.language, COALESCE(i.passage_id, 0) AS passage_id, COALESCE(p.title, '') AS passage, i.uses,
	i.last_used, i.changed_at, i.course, i.bank_id, i.owner_id, i.tag_set_id, COALESCE(i.origin_version_id, 0) AS origin, COALESCE(i.assessment_id, 0) AS assessment_id, i.digest`
	itemJoins  = ` JOIN bank b ON b.id = i.bank_id JOIN item_version v ON v.id = i.version_id LEFT JOIN passage p ON p.id = i.passage_id`
	itemSelect = "SELECT " + itemColumns + " FROM item i" + itemJoins
)

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

// LastItem is the id of the item that was added last, 0 without any.
func (r Reader) LastItem(ctx context.Context) (int64, error) {
	var id int64
	err := r.get(ctx, &id, "SELECT COALESCE(MAX(id), 0) FROM item")
	return id, err
}

// ItemNamed tells whether an identifier is in use.
func (r Reader) ItemNamed(ctx context.Context, identifier string) (bool, error) {
	var n int
	err := r.get(ctx, &n, "SELECT COUNT(*) FROM item WHERE identifier = ?", identifier)
	return n > 0, err
}

// NewVersion is a version of an item to be kept.
type NewVersion struct {
	ItemVersion
	BankID      int64
	Subject     string
	Grade       string
	Course      string
	Words       Words
	Sketch      []int64 // under which its twins are found, see core/bank
	Standards   []int64
	Codes       string
	TagList     []string // everyone's tags
	TagsDropped []string // everyone's tags that the item loses
	AuthorID    int64
	OwnerID     int64 // of a new item
	Origin      int64 // of a new item: the version that it was copied from
	Assessment  int64 // of an own copy
	Unconfirmed bool  // of an own copy: nobody has looked at its alignment since
	At          int64
	Digest      string
}

// Words are what a search of an item looks through, beside its passage.
type Words struct{ Stem, Choices string }

// PutItem keeps a new item (ItemID 0) or a new version of one; older versions stay.
func (t *Tx) PutItem(ctx context.Context, v NewVersion) (int64, error) {
	passage, origin := optionalID(v.PassageID), optionalID(v.Origin)
	id, number := v.ItemID, v.Number
	if id == 0 {
		number = 1
		var err error
		id, err = t.insert(ctx, `INSERT INTO item (identifier, bank_id, version_id, version, kind, stem, subject, grade, depth, language, owner_id, origin_version_id, assessment_id, digest)
			VALUES (?, ?, 0, 1, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			v.Identifier, v.BankID, v.Kind, v.Stem, v.Subject, v.Grade, v.Depth, v.Language, v.OwnerID, origin, optionalID(v.Assessment), v.Digest)
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
	alignment, err := t.alignmentOf(ctx, v.Standards)
	if err != nil {
		return 0, err
	}
	err = t.exec(ctx, `UPDATE item SET bank_id = ?, version_id = ?, version = ?, kind = ?, stem = ?, subject = ?, grade = ?, course = ?, depth = ?, difficulty = ?,
		ease = ?, language = ?, passage_id = ?, alignment_id = ?, unconfirmed = ?, changed_at = ?, digest = ? WHERE id = ?`,
		v.BankID, version, number, v.Kind, v.Stem, v.Subject, v.Grade, v.Course, v.Depth, v.Difficulty,
		bank.EaseOf(v.Difficulty.Int64, v.Difficulty.Valid), v.Language, passage, alignment, v.Unconfirmed, v.At, v.Digest, id)
	if err != nil {
		return 0, err
	}
	if err := t.tagNew(ctx, v, id); err != nil {
		return 0, err
	}
	if err := t.noteItemMedia(ctx, id, v.Document, v.ItemID > 0); err != nil {
		return 0, err
	}
	if err := t.putSketch(ctx, id, v.Sketch, v.ItemID > 0); err != nil {
		return 0, err
	}
	return id, t.indexWords(ctx, id, v.Words)
}

// tagNew puts a version's tags on its item; a new item has none yet to look for.
func (t *Tx) tagNew(ctx context.Context, v NewVersion, id int64) error {
	if v.ItemID > 0 {
		return t.PutEveryonesTags(ctx, id, v.TagList, v.TagsDropped)
	}
	tags, err := t.everyonesIDs(ctx, v.TagList)
	if err != nil || len(tags) == 0 {
		return err
	}
	set, err := t.tagSetOf(ctx, tags)
	if err != nil {
		return err
	}
	return t.exec(ctx, "UPDATE item SET tag_set_id = ? WHERE id = ?", set, id)
}

// everyonesIDs gives the ids of tags that exist for all, made if they are new.
func (t *Tx) everyonesIDs(ctx context.Context, names []string) ([]int64, error) {
	var out []int64
	for _, name := range names {
		id, known := t.tags[name]
		if !known {
			var err error
			if id, err = t.TagNamed(ctx, name, string(bank.ForEveryone), 0); err != nil {
				return nil, err
			}
			t.tags[name] = id
		}
		out = append(out, id)
	}
	return out, nil
}

// optionalID stores 0 as NULL.
func optionalID(id int64) any {
	if id == 0 {
		return nil
	}
	return id
}

// PutEveryonesTags puts tags that exist for all on an item and takes others off.
func (t *Tx) PutEveryonesTags(ctx context.Context, item int64, on, off []string) error {
	if len(on) == 0 && len(off) == 0 {
		return nil
	}
	put, err := t.everyonesIDs(ctx, on)
	if err != nil {
		return err
	}
	take, err := t.everyonesIDs(ctx, off)
	if err != nil {
		return err
	}
	return t.ChangeTags(ctx, item, put, take)
}

// indexWords renews what a search of words looks through.
func (t *Tx) indexWords(ctx context.Context, id int64, w Words) error {
	if err := t.exec(ctx, "DELETE FROM item_words WHERE rowid = ?", id); err != nil {
		return err
	}
	return t.exec(ctx, `INSERT INTO item_words (rowid, identifier, stem, choices, passage)
		SELECT i.id, i.identifier, ?, ?, COALESCE(p.title || ' ' || p.plain, '') FROM item i LEFT JOIN passage p ON p.id = i.passage_id WHERE i.id = ?`,
		w.Stem, w.Choices, id)
}

// CountUse notes that items went out on one more sealed form.
func (t *Tx) CountUse(ctx context.Context, items []int64, at int64) error {
	return t.exec(ctx, "UPDATE item SET uses = uses + 1, last_used = ? WHERE id IN (SELECT value FROM json_each(?))", at, jsonIDs(items))
}

// IsVersionOf tells whether a version belongs to an item.
func (r Reader) IsVersionOf(ctx context.Context, version, item int64) (bool, error) {
	var n int
	err := r.get(ctx, &n, "SELECT COUNT(*) FROM item_version WHERE id = ? AND item_id = ?", version, item)
	return n == 1, err
}
