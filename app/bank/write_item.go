package bank

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// ItemDraft is an item while it is written, with what stands in its way.
type ItemDraft struct {
	ID     int64
	ItemID int64 // 0 for a new item
	// Of an own copy: the assessment that it is for, and the version on its line.
	AssessmentID, OriginID int64
	Version                int64
	Changed                int64
	Document               item.Item
	Meta                   ItemMeta
	Key                    string
	Problems               []item.Problem // it cannot be kept in the bank with any of these
	Cautions               []item.Problem
	Examples               []ScoredExample
	Passage                *bankrows.Passage
}

// ScoredExample is what a partly right answer would earn of a point.
type ScoredExample struct {
	Words  string
	Credit points.Points
}

// ItemDrafts lists what a person is writing.
func (a *Writing) ItemDrafts(ctx context.Context, v roster.Viewer) ([]bankrows.ItemDraft, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	return bankrows.ItemDrafts(ctx, a.Store.Reader, v.PersonID)
}

// BeginItem begins a draft: of a kind, or as the next version of an item.
func (a *Writing) BeginItem(ctx context.Context, v roster.Viewer, kind item.Kind, of int64) (ItemDraft, error) {
	if !v.MayBuild() {
		return ItemDraft{}, desk.ErrForbidden
	}
	draft := bankrows.ItemDraft{AuthorID: v.PersonID, ChangedAt: store.Millis(a.Now())}
	it, meta := item.Blank(kind), ItemMeta{Language: "en", Standards: []string{}, Tags: []string{}}
	var err error
	switch {
	case of > 0:
		if it, meta, err = a.itemToWrite(ctx, v, of); err != nil {
			return ItemDraft{}, err
		}
		draft.ItemID = of
	case it.Kind == "":
		return ItemDraft{}, desk.Invalid("/kind", "%q is not a kind of item.", kind)
	default:
		if meta.Bank, err = a.bank.homeBank(ctx, v); err != nil {
			return ItemDraft{}, err
		}
		if err = a.asLast(ctx, v, &it, &meta); err != nil {
			return ItemDraft{}, err
		}
	}
	if err := FillDraft(&draft, it, meta); err != nil {
		return ItemDraft{}, err
	}
	err = a.Store.Write(ctx, func(tx *store.Tx) (err error) {
		draft.ID, err = bankrows.AddItemDraft(ctx, tx, draft)
		return err
	})
	if err != nil {
		return ItemDraft{}, err
	}
	return a.ItemDraftByID(ctx, v, draft.ID)
}

// itemToWrite gives the newest version of an item that a viewer may change, with its metadata.
func (a *Writing) itemToWrite(ctx context.Context, v roster.Viewer, id int64) (item.Item, ItemMeta, error) {
	row, _, err := a.bank.itemFor(ctx, a.Store.Reader, v, id, bank.Change)
	if err != nil {
		return item.Item{}, ItemMeta{}, err
	}
	versions, err := bankrows.NewestVersions(ctx, a.Store.Reader, []int64{id})
	if err != nil || len(versions) == 0 {
		return item.Item{}, ItemMeta{}, fmt.Errorf("the newest version of item %d: %w", id, err)
	}
	it, err := item.Read([]byte(versions[0].Document))
	if err != nil {
		return it, ItemMeta{}, err
	}
	meta := ItemMeta{Identifier: row.Identifier, Bank: row.Bank, Subject: row.Subject, Grade: row.Grade, Course: row.Course, Standards: desk.Codes(row.Standards), Depth: row.Depth,
		Language: row.Language, Passage: row.PassageID, Base: row.Version}
	if row.Difficulty != nil {
		meta.Difficulty = Thousandths(*row.Difficulty)
	}
	meta.Tags, err = everyonesTags(ctx, a.Store.Reader, row)
	meta.BaseTags = meta.Tags
	return it, meta, err
}

// everyonesTags are the names of an item's tags that exist for all.
func everyonesTags(ctx context.Context, r store.Reader, row bankrows.Item) ([]string, error) {
	members, err := bankrows.TagSetMembers(ctx, r, []int64{row.TagSetID})
	out := []string{}
	for _, t := range members[row.TagSetID] {
		if t.Scope == string(bank.ForEveryone) {
			out = append(out, t.Name)
		}
	}
	return out, err
}

func Thousandths(n int64) string { return fmt.Sprintf("%d.%03d", n/1000, n%1000) }

func FillDraft(d *bankrows.ItemDraft, it item.Item, meta ItemMeta) error {
	document, err := json.Marshal(it)
	if err != nil {
		return err
	}
	d.Document, d.Meta.V, d.Stem, d.Kind = string(document), meta, it.Stem(), string(it.Kind)
	return nil
}

// ItemDraftByID gives a draft of one's own.
func (a *Writing) ItemDraftByID(ctx context.Context, v roster.Viewer, id int64) (ItemDraft, error) {
	if !v.MayBuild() {
		return ItemDraft{}, desk.ErrForbidden
	}
	row, err := bankrows.ItemDraftByID(ctx, a.Store.Reader, v.PersonID, id)
	if err != nil {
		return ItemDraft{}, err
	}
	return a.draftOf(ctx, v, row)
}

func (a *Writing) draftOf(ctx context.Context, v roster.Viewer, row bankrows.ItemDraft) (ItemDraft, error) {
	d := ItemDraft{ID: row.ID, ItemID: row.ItemID, AssessmentID: row.AssessmentID, OriginID: row.OriginID, Version: row.Version, Changed: row.ChangedAt}
	var err error
	if d.Document, err = item.Read([]byte(row.Document)); err != nil {
		return d, err
	}
	d.Meta = row.Meta.V
	d.Key, d.Problems, d.Cautions = d.Document.KeyShort(), d.Document.Check(), d.Document.Cautions()
	// Whoever writes an item says what its pictures show; one that came without the words may stay as it is.
	d.Cautions = slices.DeleteFunc(d.Cautions, func(c item.Problem) bool {
		if c.Reason == item.NoAltText {
			d.Problems = append(d.Problems, c)
		}
		return c.Reason == item.NoAltText
	})
	passage, problems, err := a.passageOf(ctx, v, d.Meta.Passage)
	if err != nil {
		return d, err
	}
	d.Passage, d.Problems = passage, append(d.Problems, problems...)
	standards, err := bankrows.StandardsCoded(ctx, a.Store.Reader, d.Meta.Standards)
	if err != nil {
		return d, err
	}
	writable, err := a.banksOfDraft(ctx, v, d)
	if err != nil {
		return d, err
	}
	known := func(code string) bool { _, is := standards[code]; return is }
	d.Problems = append(d.Problems, d.Meta.Check(known, writable)...)
	if len(d.Meta.Standards) == 0 {
		d.Cautions = append(d.Cautions, item.Problem{Place: "standards", Reason: "the item is aligned to no standard"})
	}
	if len(d.Problems) > 0 {
		return d, nil // an unsound item scores nothing
	}
	for _, e := range d.Document.Examples() {
		d.Examples = append(d.Examples, ScoredExample{e.Words, d.Document.Score(e.Response, points.One).Credit})
	}
	return d, nil
}

// banksOfDraft are the banks that a draft may be kept in: those that its author
// writes in, and the one that its item is in, which its owner may change there
// without writing in it. An own copy goes into none, whatever is named.
func (a *Writing) banksOfDraft(ctx context.Context, v roster.Viewer, d ItemDraft) ([]string, error) {
	if d.AssessmentID > 0 {
		return []string{d.Meta.Bank}, nil
	}
	names, err := a.bank.banksToWrite(ctx, v)
	if err != nil || d.ItemID == 0 {
		return names, err
	}
	row, err := bankrows.ItemByID(ctx, a.Store.Reader, d.ItemID)
	return append(names, row.Bank), err
}

// passageOf gives the passage of an item; a problem where there is no such one.
func (a *Writing) passageOf(ctx context.Context, v roster.Viewer, id int64) (*bankrows.Passage, []item.Problem, error) {
	if id == 0 {
		return nil, nil, nil
	}
	p, err := a.bank.passageFor(ctx, a.Store.Reader, v, id)
	switch {
	case err == nil:
		return &p, nil, nil
	case !errors.Is(err, desk.ErrNotFound):
		return nil, nil, err
	}
	return nil, []item.Problem{{Place: "passage", Reason: "the passage is not there"}}, nil
}

// mostDocument bounds an item's document, in bytes.
const mostDocument = 1 << 20

// PutItemDraft keeps a draft as it is typed, sound or not; what is not safe in its
// text is left out. version is the one that was seen, another is store.ErrStale.
func (a *Writing) PutItemDraft(ctx context.Context, v roster.Viewer, id, version int64, it item.Item, meta ItemMeta) (ItemDraft, error) {
	if !v.MayBuild() {
		return ItemDraft{}, desk.ErrForbidden
	}
	it.Schema = item.Schema
	it = it.Cleaned()
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := bankrows.ItemDraftByID(ctx, tx.Reader, v.PersonID, id)
		switch {
		case err != nil:
			return err
		case row.Version != version:
			return store.ErrStale
		}
		before := row.Meta.V
		meta.Base, meta.BaseTags = before.Base, before.BaseTags
		if row.ItemID > 0 || row.AssessmentID > 0 {
			meta.Identifier = before.Identifier
		}
		if err := FillDraft(&row, it, meta); err != nil {
			return err
		}
		if len(row.Document) > mostDocument {
			return desk.Invalid("/document", "The item is larger than %d kB; put pictures on the shelf instead of into the text.", mostDocument>>10)
		}
		row.ChangedAt = store.Millis(a.Now())
		return bankrows.PutItemDraft(ctx, tx, row)
	})
	if err != nil {
		return ItemDraft{}, err
	}
	return a.ItemDraftByID(ctx, v, id)
}

// TryItem tells what a response to a draft would earn of a point.
func (a *Writing) TryItem(ctx context.Context, v roster.Viewer, id int64, r item.Response) (item.Credit, error) {
	d, err := a.ItemDraftByID(ctx, v, id)
	if err != nil {
		return item.Credit{}, err
	}
	if len(d.Document.Check()) > 0 {
		return item.Credit{}, desk.Conflict("The item has problems; fix them before it can score.")
	}
	if err := d.Document.Accepts(r); err != nil {
		return item.Credit{}, desk.Invalid("/response", "%s.", desk.Sentence(err.Error()))
	}
	return d.Document.Score(r, points.One), nil
}

// DropItemDraft takes a draft away; what is in the bank stays.
func (a *Writing) DropItemDraft(ctx context.Context, v roster.Viewer, id int64) error {
	if !v.MayBuild() {
		return desk.ErrForbidden
	}
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		if _, err := bankrows.ItemDraftByID(ctx, tx.Reader, v.PersonID, id); err != nil {
			return err
		}
		return bankrows.DropItemDraft(ctx, tx, id)
	})
}

// KeepItem puts a sound draft into the bank, as a new item or as the next version
// of its item, and ends the draft. It gives the item's id.
func (a *Writing) KeepItem(ctx context.Context, v roster.Viewer, id, version int64) (int64, error) {
	d, err := a.ItemDraftByID(ctx, v, id)
	if err != nil {
		return 0, err
	}
	if d.Version != version {
		return 0, store.ErrStale
	}
	if len(d.Problems) > 0 {
		e := &desk.InvalidError{}
		for _, p := range d.Problems {
			e.Add("/"+p.Place, desk.Sentence(p.Reason)+".")
		}
		return 0, e
	}
	nv, err := a.versionOfDraft(ctx, v, d)
	if err != nil {
		return 0, err
	}
	var itemID int64
	if d.AssessmentID > 0 {
		err = a.Store.Write(ctx, func(tx *store.Tx) error {
			if itemID, err = a.KeepCopy(ctx, tx, v, d, nv); err != nil {
				return err
			}
			return bankrows.DropItemDraft(ctx, tx, id)
		})
		return itemID, err
	}
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		did := desk.Act{Name: "item.write", Thing: "item"}
		if d.ItemID > 0 {
			newest, _, err := a.bank.itemFor(ctx, tx.Reader, v, d.ItemID, bank.Change)
			if err != nil {
				return err
			}
			if newest.Version != d.Meta.Base {
				return desk.Conflict("%s has a version %d by now; this draft began from version %d. Copy what you need, delete this draft and start over.", nv.Identifier, newest.Version, d.Meta.Base)
			}
			nv.Number, did.Name, did.Before = newest.Version+1, "item.version", newest.Version
		} else if nv.Identifier, err = identifierFor(ctx, tx, nv.Identifier); err != nil {
			return err
		}
		row, err := bankrows.BankCalled(ctx, tx.Reader, d.Meta.Bank) // one that the viewer writes in: checked with the draft
		if err != nil {
			return err
		}
		nv.BankID = row.ID
		if itemID, err = bankrows.PutItem(ctx, tx, nv); err != nil {
			return err
		}
		if err := bankrows.DropItemDraft(ctx, tx, id); err != nil {
			return err
		}
		did.ID, did.Title, did.After = itemID, nv.Identifier, nv.Digest
		return a.Record(ctx, tx, v, did)
	})
	return itemID, err
}

// identifierFor gives a new item the identifier that its author chose, or where they
// chose none the next free number.
func identifierFor(ctx context.Context, tx *store.Tx, chosen string) (string, error) {
	if chosen != "" {
		taken, err := bankrows.ItemNamed(ctx, tx.Reader, chosen)
		if err == nil && taken {
			err = desk.Invalid("/identifier", "The identifier %q is in use already; choose another one.", chosen)
		}
		return chosen, err
	}
	last, err := bankrows.LastItem(ctx, tx.Reader)
	if err != nil {
		return "", err
	}
	for n := last + 1; ; n++ {
		identifier := fmt.Sprintf("W-%06d", n)
		if taken, err := bankrows.ItemNamed(ctx, tx.Reader, identifier); err != nil || !taken {
			return identifier, err
		}
	}
}

func (a *Writing) versionOfDraft(ctx context.Context, v roster.Viewer, d ItemDraft) (bankrows.NewVersion, error) {
	nv, err := VersionOf(d.Document.Tidied(), d.Meta.Identifier, v)
	if err != nil {
		return nv, err
	}
	standards, err := bankrows.StandardsCoded(ctx, a.Store.Reader, d.Meta.Standards)
	if err != nil {
		return nv, err
	}
	m := d.Meta
	for _, code := range m.Standards {
		nv.Standards = append(nv.Standards, standards[code].ID)
	}
	nv.ItemID, nv.Codes, nv.TagList, nv.Depth = d.ItemID, strings.Join(m.Standards, " "), TagNames(m.Tags), m.Depth
	nv.Subject, nv.Grade, nv.Course, nv.Language, nv.PassageID, nv.At = desk.SubjectCode(m.Subject), m.Grade, strings.TrimSpace(m.Course), m.Language, m.Passage, store.Millis(a.Now())
	nv.Difficulty, _ = bank.ReadDifficulty(m.Difficulty) // checked with the draft
	for _, tag := range m.BaseTags {
		if !slices.Contains(nv.TagList, tag) {
			nv.TagsDropped = append(nv.TagsDropped, tag)
		}
	}
	passage := ""
	if d.Passage != nil {
		passage = d.Passage.Identifier
	}
	nv.Digest = a.bank.ItemDigest(nv, m.Bank, passage)
	return nv, nil
}
