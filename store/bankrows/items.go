// Package bankrows keeps items with all that hangs on them: banks, versions, tags,
// standards, passages, media, holds, offers and reports.
package bankrows

import (
	"context"
	"strings"

	"pineledger/core/bank"
	"pineledger/store/sqlite"
)

// Item is an item of the bank as lists show it, with its newest version.
type Item struct {
	ID         int64  `db:"id"`
	Identifier string `db:"identifier"`
	Bank       string `db:"bank"`
	VersionID  int64  `db:"version_id"`
	Version    int    `db:"version"`
	Kind       string `db:"kind"`
	Stem       string `db:"stem"`
	Standards  string `db:"standards"` // codes, separated by spaces
	Subject    string `db:"subject"`
	Grade      string `db:"grade"`
	Depth      int    `db:"depth"`
	Difficulty *int64 `db:"difficulty"` // thousandths
	Language   string `db:"language"`
	PassageID  int64  `db:"passage_id"`
	Passage    string `db:"passage"` // its title
	Uses       int    `db:"uses"`
	LastUsed   int64  `db:"last_used"` // ms, 0 for never
	ChangedAt  int64  `db:"changed_at"`
	Course     string `db:"course"`
	BankID     int64  `db:"bank_id"`
	OwnerID    int64  `db:"owner_id"`
	TagSetID   int64  `db:"tag_set_id"`
	Origin     int64  `db:"origin"`        // the version that it was copied from, 0 for none
	Assessment int64  `db:"assessment_id"` // of an own copy: where it lives
	Digest     string `db:"digest"`
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
	ID         int64  `db:"id"`
	ItemID     int64  `db:"item_id"`
	Identifier string `db:"identifier"`
	Number     int    `db:"number"`
	Newest     int    `db:"newest"` // number of the item's newest version
	Document   string `db:"document"`
	Kind       string `db:"kind"`
	Stem       string `db:"stem"`
	KeyShort   string `db:"key_short"`
	Depth      int    `db:"depth"`
	Difficulty *int64 `db:"difficulty"`
	Language   string `db:"language"`
	PassageID  int64  `db:"passage_id"`
	Standards  string `db:"standards"`
	Tags       string `db:"tags"`
}

const versionSelect = `SELECT v.id, v.item_id, i.identifier, v.number, i.version AS newest, v.document, v.kind, v.stem, v.key_short, v.depth,
	v.difficulty, v.language, COALESCE(v.passage_id, 0) AS passage_id, v.standards, v.tags FROM item_version v JOIN item i ON i.id = v.item_id`

// NewestVersions gives the newest version of each item, in no order.
func NewestVersions(ctx context.Context, r sqlite.Reader, items []int64) ([]ItemVersion, error) {
	condition, args := sqlite.In("i.id", items)
	var out []ItemVersion
	err := r.List(ctx, &out, versionSelect+" WHERE v.id = i.version_id AND "+condition, args...)
	return out, err
}

// ItemByID gives an item.
func ItemByID(ctx context.Context, r sqlite.Reader, id int64) (Item, error) {
	var it Item
	err := r.Get(ctx, &it, itemSelect+" WHERE i.id = ?", id)
	return it, err
}

// LastItem is the id of the item that was added last, 0 without any.
func LastItem(ctx context.Context, r sqlite.Reader) (int64, error) {
	var id int64
	err := r.Get(ctx, &id, "SELECT COALESCE(MAX(id), 0) FROM item")
	return id, err
}

// ItemNamed tells whether an identifier is in use.
func ItemNamed(ctx context.Context, r sqlite.Reader, identifier string) (bool, error) {
	var n int
	err := r.Get(ctx, &n, "SELECT COUNT(*) FROM item WHERE identifier = ?", identifier)
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
	Arriving    bool  // of a new item: SettleItems puts its tags on
	At          int64
	Digest      string
}

// Words are what a search of an item looks through, beside its passage.
type Words struct{ Stem, Choices string }

// PutItem keeps a new item (ItemID 0) or a new version of one; older versions stay.
func PutItem(ctx context.Context, t *sqlite.Tx, v NewVersion) (int64, error) {
	alignment, err := AlignmentOf(ctx, t, v.Standards)
	if err != nil {
		return 0, err
	}
	// The columns of an item that a version brings, each in its indexes: a new item is written with them at once.
	now := []any{v.BankID, v.Kind, v.Stem, v.Subject, v.Grade, v.Course, v.Depth, v.Difficulty, bank.EaseOf(v.Difficulty), v.Language,
		sqlite.OptionalID(v.PassageID), alignment, v.Unconfirmed, v.At, v.Digest}
	id, isNew := v.ItemID, v.ItemID == 0
	if isNew {
		v.Number = 1
		id, err = t.Insert(ctx, `INSERT INTO item (bank_id, kind, stem, subject, grade, course, depth, difficulty, ease, language, passage_id, alignment_id, unconfirmed, changed_at, digest,
			identifier, version_id, version, owner_id, origin_version_id, assessment_id) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, 0, 1, ?, ?, ?)`,
			append(now, v.Identifier, v.OwnerID, sqlite.OptionalID(v.Origin), sqlite.OptionalID(v.Assessment))...)
	} else {
		err = t.Exec(ctx, `UPDATE item SET bank_id = ?, kind = ?, stem = ?, subject = ?, grade = ?, course = ?, depth = ?, difficulty = ?, ease = ?, language = ?, passage_id = ?,
			alignment_id = ?, unconfirmed = ?, changed_at = ?, digest = ? WHERE id = ?`, append(now, id)...)
	}
	if err != nil {
		return 0, err
	}
	if err := putVersion(ctx, t, id, v); err != nil {
		return 0, err
	}
	if err := tagNew(ctx, t, v, id); err != nil {
		return 0, err
	}
	if err := noteItemMedia(ctx, t, id, v.Document, !isNew); err != nil {
		return 0, err
	}
	if err := putSketch(ctx, t, id, v.Sketch, !isNew); err != nil {
		return 0, err
	}
	return id, indexWords(ctx, t, id, v.Words, !isNew)
}

// putVersion keeps a version and makes it the newest of its item.
func putVersion(ctx context.Context, t *sqlite.Tx, item int64, v NewVersion) error {
	version, err := t.Insert(ctx, `INSERT INTO item_version (item_id, number, document, kind, stem, key_short, depth, difficulty, language, passage_id, standards, tags, author_id, at)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
		item, v.Number, v.Document, v.Kind, v.Stem, v.KeyShort, v.Depth, v.Difficulty, v.Language, sqlite.OptionalID(v.PassageID), v.Codes, strings.Join(v.TagList, " "), v.AuthorID, v.At)
	if err != nil {
		return err
	}
	return t.Exec(ctx, "UPDATE item SET version_id = ?, version = ? WHERE id = ?", version, v.Number, item)
}

// tagNew puts a version's tags on its item; a new item has none yet to look for.
func tagNew(ctx context.Context, t *sqlite.Tx, v NewVersion, id int64) error {
	if v.ItemID > 0 {
		return PutEveryonesTags(ctx, t, id, v.TagList, v.TagsDropped)
	}
	if v.Arriving {
		return nil
	}
	tags, err := everyonesIDs(ctx, t, v.TagList)
	if err != nil || len(tags) == 0 {
		return err
	}
	set, err := tagSetOf(ctx, t, tags)
	if err != nil {
		return err
	}
	return t.Exec(ctx, "UPDATE item SET tag_set_id = ? WHERE id = ?", set, id)
}

// everyonesIDs gives the ids of tags that exist for all, made if they are new.
func everyonesIDs(ctx context.Context, t *sqlite.Tx, names []string) ([]int64, error) {
	var out []int64
	for _, name := range names {
		id, known := t.Tags[name]
		if !known {
			var err error
			if id, err = TagNamed(ctx, t, name, string(bank.ForEveryone), 0); err != nil {
				return nil, err
			}
			t.Tags[name] = id
		}
		out = append(out, id)
	}
	return out, nil
}

// PutEveryonesTags puts tags that exist for all on an item and takes others off.
func PutEveryonesTags(ctx context.Context, t *sqlite.Tx, item int64, on, off []string) error {
	if len(on) == 0 && len(off) == 0 {
		return nil
	}
	put, err := everyonesIDs(ctx, t, on)
	if err != nil {
		return err
	}
	take, err := everyonesIDs(ctx, t, off)
	if err != nil {
		return err
	}
	return ChangeTags(ctx, t, item, put, take)
}

// indexWords renews what a search of words looks through; before tells that there may be something to renew.
func indexWords(ctx context.Context, t *sqlite.Tx, id int64, w Words, before bool) error {
	if before {
		if err := t.Exec(ctx, "DELETE FROM item_words WHERE rowid = ?", id); err != nil {
			return err
		}
	}
	return t.Exec(ctx, `INSERT INTO item_words (rowid, identifier, stem, choices, passage)
		SELECT i.id, i.identifier, ?, ?, COALESCE(p.title || ' ' || p.plain, '') FROM item i LEFT JOIN passage p ON p.id = i.passage_id WHERE i.id = ?`,
		w.Stem, w.Choices, id)
}

// CountUse notes that items went out on one more sealed form.
func CountUse(ctx context.Context, t *sqlite.Tx, items []int64, at int64) error {
	return t.Exec(ctx, "UPDATE item SET uses = uses + 1, last_used = ? WHERE id IN (SELECT value FROM json_each(?))", at, sqlite.JsonIDs(items))
}

// IsVersionOf tells whether a version belongs to an item.
func IsVersionOf(ctx context.Context, r sqlite.Reader, version, item int64) (bool, error) {
	var n int
	err := r.Get(ctx, &n, "SELECT COUNT(*) FROM item_version WHERE id = ? AND item_id = ?", version, item)
	return n == 1, err
}
