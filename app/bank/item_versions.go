package bank

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// VersionOf gives an item the columns that the store keeps of it.
func VersionOf(it item.Item, identifier string, author roster.Viewer) (bankrows.NewVersion, error) {
	var v bankrows.NewVersion
	document, err := json.Marshal(it)
	if err != nil {
		return v, err
	}
	v.Identifier, v.Document, v.Kind, v.Stem, v.KeyShort = identifier, string(document), string(it.Kind), it.Stem(), it.KeyShort()
	v.Words, v.AuthorID, v.OwnerID = bankrows.Words{Stem: v.Stem, Choices: it.OtherWords()}, author.PersonID, author.PersonID
	v.Sketch = bank.Sketch(bank.Shingles(v.Words.Stem + " " + v.Words.Choices))
	return v, nil
}

// ItemDigest is the same for the same item, whether it came in a table, in a package
// or from its author. Tags are no part of it: people put them on and take them off.
func (a *Bank) ItemDigest(v bankrows.NewVersion, bank, passage string) string {
	course := ""
	if v.Course != "" {
		course = "course " + v.Course // older digests know of none
	}
	difficulty := int64(0)
	if v.Difficulty != nil {
		difficulty = *v.Difficulty
	}
	return a.Digest(v.Document+course, v.Codes, "", v.Subject, v.Grade, v.Language, strconv.Itoa(v.Depth),
		strconv.FormatBool(v.Difficulty != nil), strconv.FormatInt(difficulty, 10), bank, passage)
}

// TagNames makes tags of keywords, which may hold spaces.
func TagNames(keywords []string) []string {
	var out []string
	for _, k := range keywords {
		if name := bank.TagName(k); name != "" && !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	return out
}

// newestDocument reads an item's newest version.
func (a *Bank) newestDocument(ctx context.Context, r store.Reader, row bankrows.Item) (item.Item, error) {
	version, err := bankrows.VersionNumbered(ctx, r, row.ID, row.Version)
	if err != nil {
		return item.Item{}, err
	}
	return item.Read([]byte(version.Document))
}

// sameAs gives a version after an item's newest that does not differ from it yet.
func (a *Bank) sameAs(ctx context.Context, tx *store.Tx, v roster.Viewer, row bankrows.Item) (bankrows.NewVersion, error) {
	it, err := a.newestDocument(ctx, tx.Reader, row)
	if err != nil {
		return bankrows.NewVersion{}, err
	}
	nv, err := VersionOf(it, row.Identifier, v)
	if err != nil {
		return nv, err
	}
	nv.ItemID, nv.Number, nv.BankID, nv.At = row.ID, row.Version+1, row.BankID, store.Millis(a.Now())
	nv.Subject, nv.Grade, nv.Course, nv.Language, nv.Depth, nv.Difficulty, nv.PassageID = row.Subject, row.Grade, row.Course, row.Language, row.Depth, row.Difficulty, row.PassageID
	nv.Codes = row.Standards
	if nv.TagList, err = everyonesTags(ctx, tx.Reader, row); err != nil {
		return nv, err
	}
	return nv, a.align(ctx, tx, &nv)
}

// align finds the standards of a version's codes.
func (a *Bank) align(ctx context.Context, tx *store.Tx, nv *bankrows.NewVersion) error {
	known, err := bankrows.StandardsCoded(ctx, tx.Reader, desk.Codes(nv.Codes))
	nv.Standards = nil
	for _, code := range desk.Codes(nv.Codes) {
		nv.Standards = append(nv.Standards, known[code].ID)
	}
	return err
}

// digestOf computes the digest that an import of the same item would have.
func (a *Bank) digestOf(ctx context.Context, tx *store.Tx, nv bankrows.NewVersion) (string, error) {
	in, err := bankrows.BankByID(ctx, tx.Reader, nv.BankID)
	if err != nil {
		return "", err
	}
	passage := ""
	if nv.PassageID > 0 {
		list, err := bankrows.Passages(ctx, tx.Reader, []int64{nv.PassageID})
		if err != nil || len(list) == 0 {
			return "", fmt.Errorf("the passage of %s: %w", nv.Identifier, err)
		}
		passage = list[0].Identifier
	}
	return a.ItemDigest(nv, in.Name, passage), nil
}

// nextVersionOf keeps a version of an item that differs from its newest only by
// what change does to it.
func (a *Bank) nextVersionOf(ctx context.Context, tx *store.Tx, v roster.Viewer, row bankrows.Item, change func(*bankrows.NewVersion) error) error {
	nv, err := a.sameAs(ctx, tx, v, row)
	if err != nil {
		return err
	}
	if err := change(&nv); err != nil {
		return err
	}
	if err := a.align(ctx, tx, &nv); err != nil {
		return err
	}
	if nv.Digest, err = a.digestOf(ctx, tx, nv); err != nil {
		return err
	}
	if _, err := bankrows.PutItem(ctx, tx, nv); err != nil {
		return err
	}
	return a.Record(ctx, tx, v, desk.Act{Name: "item.version", Thing: "item", ID: row.ID, Title: row.Identifier, Before: row.Version, After: nv.Digest})
}
