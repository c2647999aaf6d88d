package app

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"slices"
	"strings"

	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store"
)

// LineDetail is a line with its item as it is pinned, and what a newer version of
// the item would change.
type LineDetail struct {
	ItemDetail
	Line   store.Line
	Newest int
	Newer  []bank.Difference
	// MayChange: as an own copy, while the assessment is a draft.
	MayChange bool
}

// lineOf gives a line of an assessment that a viewer may see.
func (a *App) lineOf(ctx context.Context, r store.Reader, v roster.Viewer, id, itemID int64) (store.Assessment, store.Line, error) {
	row, err := assessment(ctx, r, v, id)
	if err != nil {
		return row, store.Line{}, err
	}
	lines, err := r.Lines(ctx, id)
	if err != nil {
		return row, store.Line{}, err
	}
	at := slices.IndexFunc(lines, func(l store.Line) bool { return l.ItemID == itemID })
	if at < 0 {
		return row, store.Line{}, ErrNotFound
	}
	return row, lines[at], nil
}

// Line shows a line's item as it is pinned. The right to it is the assessment's:
// an own copy, or an item of a bank that is not open to the viewer, is shown too.
func (a *App) Line(ctx context.Context, v roster.Viewer, id, itemID int64) (LineDetail, error) {
	on, l, err := a.lineOf(ctx, a.store.Reader, v, id, itemID)
	if err != nil {
		return LineDetail{}, err
	}
	row, err := a.store.ItemByID(ctx, itemID)
	if err != nil {
		return LineDetail{}, err
	}
	found, err := a.found(ctx, v, "", []store.Item{row})
	if err != nil {
		return LineDetail{}, err
	}
	d := LineDetail{Line: l, Newest: l.Newest, MayChange: v.MayChange(on.Owned()) && on.State == Draft, ItemDetail: ItemDetail{FoundItem: found[0], Key: l.KeyShort, Number: l.Number}}
	if d.Document, err = item.Read([]byte(l.Document)); err != nil {
		return d, err
	}
	rights, err := a.rightsTo(ctx, a.store.Reader, v, []int64{itemID})
	if err != nil {
		return d, err
	}
	d.Rights = map[bank.Act]bank.Verdict{}
	for _, act := range bank.Acts {
		d.Rights[act] = rights.may(act, row)
	}
	if l.PassageID > 0 {
		passages, err := a.store.Passages(ctx, []int64{l.PassageID})
		if err != nil {
			return d, err
		}
		for _, p := range passages {
			d.Passage = &p
		}
	}
	if err := a.aboutItem(ctx, v, &d.ItemDetail); err != nil {
		return d, err
	}
	if l.Newest > l.Number {
		before, err := a.versionToCompare(ctx, itemID, l.Number)
		if err != nil {
			return d, err
		}
		after, err := a.versionToCompare(ctx, itemID, l.Newest)
		if err != nil {
			return d, err
		}
		d.Newer = bank.Differences(before, after)
	}
	return d, nil
}

// ChangeLine begins a draft of an own copy of a line's item: the bank stays as it
// is, and the line takes the copy when it is kept.
func (a *App) ChangeLine(ctx context.Context, v roster.Viewer, id, itemID int64) (ItemDraft, error) {
	row, l, err := a.lineOf(ctx, a.store.Reader, v, id, itemID)
	switch {
	case err != nil:
		return ItemDraft{}, err
	case !v.MayChange(row.Owned()):
		return ItemDraft{}, ErrForbidden
	}
	if err := mustBeDraft(&row); err != nil {
		return ItemDraft{}, err
	}
	of, err := a.store.ItemByID(ctx, itemID)
	if err != nil {
		return ItemDraft{}, err
	}
	if !l.Own {
		rights, err := a.rightsTo(ctx, a.store.Reader, v, []int64{itemID})
		if err != nil {
			return ItemDraft{}, err
		}
		if verdict := rights.may(bank.Copy, of); !verdict.May && !heldFor(rights.holds[itemID], id) {
			return ItemDraft{}, refusal(verdict)
		}
	}
	it, err := item.Read([]byte(l.Document))
	if err != nil {
		return ItemDraft{}, err
	}
	meta := ItemMeta{Identifier: l.Identifier, Bank: of.Bank, Subject: of.Subject, Grade: of.Grade, Course: of.Course, Standards: codes(l.Standards), Depth: l.Depth,
		Language: l.Language, Tags: codes(l.Tags), BaseTags: codes(l.Tags), Passage: l.PassageID, Base: of.Version}
	if l.Difficulty.Valid {
		meta.Difficulty = thousandths(l.Difficulty.Int64)
	}
	draft := store.ItemDraft{AuthorID: v.PersonID, ChangedAt: store.Millis(a.now()), AssessmentID: sql.NullInt64{Int64: id, Valid: true}, OriginID: sql.NullInt64{Int64: l.ID, Valid: true}}
	if l.Own {
		draft.ItemID = sql.NullInt64{Int64: itemID, Valid: true}
	}
	if err := fillDraft(&draft, it, meta); err != nil {
		return ItemDraft{}, err
	}
	if err := a.store.Write(ctx, func(tx *store.Tx) (err error) {
		draft.ID, err = tx.AddItemDraft(ctx, draft)
		return err
	}); err != nil {
		return ItemDraft{}, err
	}
	return a.ItemDraftByID(ctx, v, draft.ID)
}

func heldFor(h store.Hold, assessment int64) bool { return h.ID > 0 && h.AssessmentID == assessment }

// keepOwnCopy puts a draft onto the line that it was begun from. The line keeps its
// place and points.
func (a *App) keepOwnCopy(ctx context.Context, tx *store.Tx, v roster.Viewer, d ItemDraft, nv store.NewVersion) (int64, error) {
	row, err := assessment(ctx, tx.Reader, v, d.AssessmentID)
	switch {
	case err != nil:
		return 0, err
	case !v.MayChange(row.Owned()):
		return 0, ErrForbidden
	}
	if err := mustBeDraft(&row); err != nil {
		return 0, err
	}
	lines, err := tx.Lines(ctx, row.ID)
	if err != nil {
		return 0, err
	}
	at := slices.IndexFunc(lines, func(l store.Line) bool { return l.ID == d.OriginID || d.ItemID > 0 && l.ItemID == d.ItemID })
	if at < 0 {
		return 0, conflict("The line that this copy was made for is no longer on %s. Place it again, or take the draft away.", row.Title)
	}
	if nv.BankID, err = tx.BankOfCopies(ctx); err != nil {
		return 0, err
	}
	nv.Assessment, nv.Unconfirmed = row.ID, true
	if d.ItemID > 0 {
		nv.Number = lines[at].Newest + 1
	} else {
		nv.Identifier = fmt.Sprintf("%s~%d", strings.SplitN(lines[at].Identifier, "~", 2)[0], d.ID)
		nv.Origin = d.OriginID
	}
	itemID, err := tx.PutItem(ctx, nv)
	if err != nil {
		return 0, err
	}
	copied, err := tx.ItemByID(ctx, itemID)
	if err != nil {
		return 0, err
	}
	placed := make([]store.LineRow, len(lines))
	for i, l := range lines {
		placed[i] = l.Row()
	}
	placed[at].ItemID, placed[at].VersionID = itemID, copied.VersionID
	if err := tx.PutLines(ctx, row.ID, placed); err != nil {
		return 0, err
	}
	row.ChangedAt, row.ChangedBy = store.Millis(a.now()), v.Name
	if err := tx.ChangeAssessment(ctx, row); err != nil {
		return 0, err
	}
	return itemID, a.record(ctx, tx, v, act{name: "line.own-copy", thing: "assessment", id: row.ID, title: row.Title,
		before: map[string]string{"line": fmt.Sprint(at + 1), "item": lines[at].Identifier}, after: map[string]string{"item": copied.Identifier, "digest": nv.Digest}})
}

// ConfirmAlignment says that an own copy still fits its standards.
func (a *App) ConfirmAlignment(ctx context.Context, v roster.Viewer, id, itemID int64) (Sheet, error) {
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		row, l, err := a.lineOf(ctx, tx.Reader, v, id, itemID)
		switch {
		case err != nil:
			return err
		case !v.MayChange(row.Owned()):
			return ErrForbidden
		case !l.Unconfirmed:
			return nil
		}
		if err := tx.Confirm(ctx, itemID); err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: "line.confirm", thing: "assessment", id: id, title: row.Title, after: l.Identifier + ": " + l.Standards})
	})
	if err != nil {
		return Sheet{}, err
	}
	return a.Sheet(ctx, v, id)
}

// CopyItem puts a copy of an item into another bank; where it came from stays with it.
func (a *App) CopyItem(ctx context.Context, v roster.Viewer, id int64, bankName string) (int64, error) {
	var made int64
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		row, _, err := a.itemFor(ctx, tx.Reader, v, id, bank.Copy)
		if err != nil {
			return err
		}
		open, err := banksFor(ctx, tx.Reader, v)
		if err != nil {
			return err
		}
		to, err := tx.BankCalled(ctx, bankName)
		if errors.Is(err, ErrNotFound) || err == nil && !writesIn(v, open, to.ID) {
			return invalid("/bank", "Choose one of the banks that you write in.")
		} else if err != nil {
			return err
		}
		made, err = a.copyInto(ctx, tx, v, row, to, v.PersonID)
		return err
	})
	return made, err
}

// copyInto makes a new item of an item's newest version.
func (a *App) copyInto(ctx context.Context, tx *store.Tx, v roster.Viewer, row store.Item, to store.Bank, owner int64) (int64, error) {
	identifier := ""
	for n := 1; ; n++ {
		identifier = fmt.Sprintf("%s-c%d", strings.SplitN(row.Identifier, "~", 2)[0], n)
		taken, err := tx.ItemNamed(ctx, identifier)
		if err != nil {
			return 0, err
		}
		if !taken {
			break
		}
	}
	nv, err := a.sameAs(ctx, tx, v, row)
	if err != nil {
		return 0, err
	}
	nv.ItemID, nv.Number, nv.Identifier, nv.BankID, nv.OwnerID, nv.Origin = 0, 0, identifier, to.ID, owner, row.VersionID
	if nv.Digest, err = a.digestOf(ctx, tx, nv); err != nil {
		return 0, err
	}
	id, err := tx.PutItem(ctx, nv)
	if err != nil {
		return 0, err
	}
	return id, a.record(ctx, tx, v, act{name: "item.copy", thing: "item", id: id, title: identifier, before: row.Identifier, after: nv.Digest})
}
