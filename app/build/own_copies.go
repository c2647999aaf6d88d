package build

import (
	"context"
	"fmt"
	"slices"
	"strings"

	bankroom "pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
)

// LineDetail is a line with its item as it is pinned, and what a newer version of
// the item would change.
type LineDetail struct {
	bankroom.ItemDetail
	Line   buildrows.Line
	Newest int
	Newer  []bank.Difference
	// MayChange: as an own copy, while the assessment is a draft.
	MayChange bool
	Tools     []LineTool
}

// LineTool is a tool that a line can be answered without.
type LineTool struct {
	Key, Name string
	Words     string // what everyone has of it, by the settings of the assessment; "" where nobody asked
}

// ToolsOf names tools that are written with spaces between.
func ToolsOf(keys string) []LineTool {
	out := []LineTool{}
	for _, key := range strings.Fields(keys) {
		if s, known := settings.ByKey(key); known {
			out = append(out, LineTool{Key: key, Name: s.Name})
		}
	}
	return out
}

// lineOf gives a line of an assessment that a viewer may see.
func (a *Build) lineOf(ctx context.Context, r store.Reader, v roster.Viewer, id, itemID int64) (buildrows.Assessment, buildrows.Line, error) {
	row, err := desk.Assessment(ctx, r, v, id)
	if err != nil {
		return row, buildrows.Line{}, err
	}
	lines, err := buildrows.Lines(ctx, r, id)
	if err != nil {
		return row, buildrows.Line{}, err
	}
	at := slices.IndexFunc(lines, func(l buildrows.Line) bool { return l.ItemID == itemID })
	if at < 0 {
		return row, buildrows.Line{}, desk.ErrNotFound
	}
	return row, lines[at], nil
}

// Line shows a line's item as it is pinned. The right to it is the assessment's:
// an own copy, or an item of a bank that is not open to the viewer, is shown too.
func (a *Build) Line(ctx context.Context, v roster.Viewer, id, itemID int64) (LineDetail, error) {
	on, l, err := a.lineOf(ctx, a.Store.Reader, v, id, itemID)
	if err != nil {
		return LineDetail{}, err
	}
	row, err := bankrows.ItemByID(ctx, a.Store.Reader, itemID)
	if err != nil {
		return LineDetail{}, err
	}
	found, err := a.bank.Found(ctx, v, "", []bankrows.Item{row})
	if err != nil {
		return LineDetail{}, err
	}
	d := LineDetail{Line: l, Newest: l.Newest, MayChange: v.MayChange(on.Owned()) && !on.State.IsSealed(), ItemDetail: bankroom.ItemDetail{FoundItem: found[0], Key: l.KeyShort, Number: l.Number}}
	if d.Document, err = item.Read([]byte(l.Document)); err != nil {
		return d, err
	}
	rights, err := a.bank.RightsTo(ctx, a.Store.Reader, v, []int64{itemID})
	if err != nil {
		return d, err
	}
	book, err := giverows.BookOf(ctx, a.Store.Reader, []int64{id})
	if err != nil {
		return d, err
	}
	values := book.Values(settings.Place{Purpose: on.Purpose, Assessment: id})
	d.Tools = ToolsOf(strings.Join(settings.OfLines, " "))
	for i, tool := range d.Tools {
		s, _ := settings.ByKey(tool.Key)
		d.Tools[i].Words = s.Words(values[tool.Key])
	}
	d.Rights = map[bank.Act]bank.Verdict{}
	for _, act := range bank.Acts {
		d.Rights[act] = rights.May(act, row)
	}
	if l.PassageID > 0 {
		passages, err := bankrows.Passages(ctx, a.Store.Reader, []int64{l.PassageID})
		if err != nil {
			return d, err
		}
		for _, p := range passages {
			d.Passage = &p
		}
	}
	if err := a.bank.AboutItem(ctx, v, &d.ItemDetail); err != nil {
		return d, err
	}
	if l.Newest > l.Number {
		before, err := a.bank.VersionToCompare(ctx, itemID, l.Number)
		if err != nil {
			return d, err
		}
		after, err := a.bank.VersionToCompare(ctx, itemID, l.Newest)
		if err != nil {
			return d, err
		}
		d.Newer = bank.Differences(before, after)
	}
	return d, nil
}

// ChangeLine begins a draft of an own copy of a line's item: the bank stays as it
// is, and the line takes the copy when it is kept.
func (a *Build) ChangeLine(ctx context.Context, v roster.Viewer, id, itemID int64) (bankroom.ItemDraft, error) {
	row, l, err := a.lineOf(ctx, a.Store.Reader, v, id, itemID)
	switch {
	case err != nil:
		return bankroom.ItemDraft{}, err
	case !v.MayChange(row.Owned()):
		return bankroom.ItemDraft{}, desk.ErrForbidden
	}
	if err := desk.MustBeDraft(&row); err != nil {
		return bankroom.ItemDraft{}, err
	}
	of, err := bankrows.ItemByID(ctx, a.Store.Reader, itemID)
	if err != nil {
		return bankroom.ItemDraft{}, err
	}
	if !l.Own {
		rights, err := a.bank.RightsTo(ctx, a.Store.Reader, v, []int64{itemID})
		if err != nil {
			return bankroom.ItemDraft{}, err
		}
		if verdict := rights.May(bank.Copy, of); !verdict.May && !bankroom.HeldFor(rights.Holds[itemID], id) {
			return bankroom.ItemDraft{}, desk.Refusal(verdict)
		}
	}
	it, err := item.Read([]byte(l.Document))
	if err != nil {
		return bankroom.ItemDraft{}, err
	}
	meta := bankroom.ItemMeta{Identifier: l.Identifier, Bank: of.Bank, Subject: of.Subject, Grade: of.Grade, Course: of.Course, Standards: desk.Codes(l.Standards), Depth: l.Depth,
		Language: l.Language, Tags: desk.Codes(l.Tags), BaseTags: desk.Codes(l.Tags), Passage: l.PassageID, Base: of.Version}
	if l.Difficulty != nil {
		meta.Difficulty = bankroom.Thousandths(*l.Difficulty)
	}
	draft := bankrows.ItemDraft{AuthorID: v.PersonID, ChangedAt: store.Millis(a.Now()), AssessmentID: id, OriginID: l.ID}
	if l.Own {
		draft.ItemID = itemID
	}
	if err := bankroom.FillDraft(&draft, it, meta); err != nil {
		return bankroom.ItemDraft{}, err
	}
	if err := a.Store.Write(ctx, func(tx *store.Tx) (err error) {
		draft.ID, err = bankrows.AddItemDraft(ctx, tx, draft)
		return err
	}); err != nil {
		return bankroom.ItemDraft{}, err
	}
	return a.writing.ItemDraftByID(ctx, v, draft.ID)
}

// keepOwnCopy puts a draft onto the line that it was begun from. The line keeps its
// place and points.
func (a *Build) keepOwnCopy(ctx context.Context, tx *store.Tx, v roster.Viewer, d bankroom.ItemDraft, nv bankrows.NewVersion) (int64, error) {
	row, err := desk.Assessment(ctx, tx.Reader, v, d.AssessmentID)
	switch {
	case err != nil:
		return 0, err
	case !v.MayChange(row.Owned()):
		return 0, desk.ErrForbidden
	}
	if err := desk.MustBeDraft(&row); err != nil {
		return 0, err
	}
	lines, err := buildrows.Lines(ctx, tx.Reader, row.ID)
	if err != nil {
		return 0, err
	}
	at := slices.IndexFunc(lines, func(l buildrows.Line) bool { return l.ID == d.OriginID || d.ItemID > 0 && l.ItemID == d.ItemID })
	if at < 0 {
		return 0, desk.Conflict("The line that this copy was made for is no longer on %s. Place it again, or delete the draft.", row.Title)
	}
	if nv.BankID, err = bankrows.BankOfCopies(ctx, tx.Reader); err != nil {
		return 0, err
	}
	nv.Assessment, nv.Unconfirmed = row.ID, true
	if d.ItemID > 0 {
		nv.Number = lines[at].Newest + 1
	} else {
		nv.Identifier = fmt.Sprintf("%s~%d", strings.SplitN(lines[at].Identifier, "~", 2)[0], d.ID)
		nv.Origin = d.OriginID
	}
	itemID, err := bankrows.PutItem(ctx, tx, nv)
	if err != nil {
		return 0, err
	}
	copied, err := bankrows.ItemByID(ctx, tx.Reader, itemID)
	if err != nil {
		return 0, err
	}
	placed := make([]buildrows.LineRow, len(lines))
	for i, l := range lines {
		placed[i] = l.Row()
	}
	placed[at].ItemID, placed[at].VersionID = itemID, copied.VersionID
	if err := buildrows.PutLines(ctx, tx, row.ID, placed); err != nil {
		return 0, err
	}
	row.ChangedAt, row.ChangedBy = store.Millis(a.Now()), v.Name
	if err := buildrows.ChangeAssessment(ctx, tx, row); err != nil {
		return 0, err
	}
	return itemID, a.Record(ctx, tx, v, desk.Act{Name: "line.own-copy", Thing: "assessment", ID: row.ID, Title: row.Title,
		Before: map[string]string{"line": fmt.Sprint(at + 1), "item": lines[at].Identifier}, After: map[string]string{"item": copied.Identifier, "digest": nv.Digest}})
}

// ConfirmAlignment says that an own copy still fits its standards.
func (a *Build) ConfirmAlignment(ctx context.Context, v roster.Viewer, id, itemID int64) (Sheet, error) {
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		row, l, err := a.lineOf(ctx, tx.Reader, v, id, itemID)
		switch {
		case err != nil:
			return err
		case !v.MayChange(row.Owned()):
			return desk.ErrForbidden
		case !l.Unconfirmed:
			return nil
		}
		if err := bankrows.Confirm(ctx, tx, itemID); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "line.confirm", Thing: "assessment", ID: id, Title: row.Title, After: l.Identifier + ": " + l.Standards})
	})
	if err != nil {
		return Sheet{}, err
	}
	return a.Sheet(ctx, v, id)
}
