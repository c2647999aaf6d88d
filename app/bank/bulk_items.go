package bank

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/sqlite"
)

// mostBulkRows are shown of a change.
const mostBulkRows = 200

// BulkRow is what a change does to one item.
type BulkRow struct {
	Identifier string
	Stem       string
	Changes    []bank.Difference
	Why        string // why the item stays as it is, if so
}

// BulkOutcome is what a change to many items comes to, or has done.
type BulkOutcome struct {
	ID                          int64 // once it is done, to undo it
	Changed, Unchanged, Refused int
	Rows                        []BulkRow // the first ones, those that are refused before the others
}

func metaOf(row bankrows.Item) bank.Meta {
	m := bank.Meta{Bank: row.Bank, Subject: row.Subject, Grade: row.Grade, Course: row.Course, Language: row.Language, Depth: row.Depth, Standards: desk.Codes(row.Standards)}
	if row.Difficulty != nil {
		m.Difficulty = Thousandths(*row.Difficulty)
	}
	return m
}

// ChangeItems changes the metadata of many items at once, each as a next version;
// with apply false it tells what would happen. Items that are not the viewer's to
// change stay as they are, and are named.
func (a *Bank) ChangeItems(ctx context.Context, v roster.Viewer, items []int64, c bank.MetaChange, apply bool) (BulkOutcome, error) {
	if !v.MayBuild() {
		return BulkOutcome{}, desk.ErrForbidden
	}
	if len(items) > MostTagged {
		return BulkOutcome{}, desk.Invalid("/items", "%d items are changed at once at most.", MostTagged)
	}
	if c.Subject != nil {
		*c.Subject = desk.SubjectCode(*c.Subject)
	}
	var out BulkOutcome
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		if err := a.checkChange(ctx, tx, v, c); err != nil {
			return err
		}
		if err := a.allSeen(ctx, tx, v, items); err != nil {
			return err
		}
		rows, _, err := bankrows.Items(ctx, tx.Reader, bankrows.ItemQuery{Scope: bankrows.ItemScope{All: true}, Only: items, Limit: len(items)})
		if err != nil {
			return err
		}
		rights, err := a.RightsTo(ctx, tx.Reader, v, items)
		if err != nil {
			return err
		}
		if apply {
			if out.ID, err = bankrows.AddBulkChange(ctx, tx, bankrows.BulkChange{PersonID: v.PersonID, At: store.Millis(a.Now()), Change: sqlite.JSON[bank.MetaChange]{V: c}}); err != nil {
				return err
			}
		}
		for _, row := range rows {
			if err := a.changeItem(ctx, tx, v, rights, row, c, apply, &out); err != nil {
				return err
			}
		}
		if !apply {
			return nil
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "item.bulk", Thing: "bank", ID: out.ID, Title: desk.Plural(out.Changed, "item"), After: c})
	})
	out.sort()
	return out, err
}

// sort puts what is refused first and bounds what is shown.
func (o *BulkOutcome) sort() {
	slices.SortStableFunc(o.Rows, func(x, y BulkRow) int {
		switch {
		case x.Why != "" && y.Why == "":
			return -1
		case x.Why == "" && y.Why != "":
			return 1
		}
		return strings.Compare(x.Identifier, y.Identifier)
	})
	o.Rows = o.Rows[:min(len(o.Rows), mostBulkRows)]
}

func (a *Bank) changeItem(ctx context.Context, tx *store.Tx, v roster.Viewer, rights ItemRights, row bankrows.Item, c bank.MetaChange, apply bool, out *BulkOutcome) error {
	before := metaOf(row)
	after, differences := c.Apply(before)
	switch verdict := rights.May(bank.Change, row); {
	case len(differences) == 0:
		out.Unchanged++
		return nil
	case !verdict.May:
		out.Refused++
		out.Rows = append(out.Rows, BulkRow{row.Identifier, row.Stem, differences, verdict.Why})
		return nil
	}
	out.Changed++
	out.Rows = append(out.Rows, BulkRow{row.Identifier, row.Stem, differences, ""})
	if !apply {
		return nil
	}
	if err := a.putMeta(ctx, tx, v, row, after); err != nil {
		return err
	}
	return bankrows.AddBulkItem(ctx, tx, out.ID, bankrows.BulkItem{ItemID: row.ID, Version: row.Version + 1, Before: sqlite.JSON[bank.Meta]{V: before}})
}

// putMeta keeps a next version of an item with other metadata.
func (a *Bank) putMeta(ctx context.Context, tx *store.Tx, v roster.Viewer, row bankrows.Item, m bank.Meta) error {
	to, err := bankrows.BankCalled(ctx, tx.Reader, m.Bank)
	if err != nil {
		return fmt.Errorf("the bank %q: %w", m.Bank, err)
	}
	return a.nextVersionOf(ctx, tx, v, row, func(nv *bankrows.NewVersion) error {
		nv.BankID, nv.Subject, nv.Grade, nv.Course, nv.Language, nv.Depth = to.ID, m.Subject, m.Grade, m.Course, m.Language, m.Depth
		nv.Codes = strings.Join(m.Standards, " ")
		nv.Difficulty, _ = bank.ReadDifficulty(m.Difficulty) // checked, or what it was
		return nil
	})
}

// checkChange makes sure that what a change sets can be set.
func (a *Bank) checkChange(ctx context.Context, tx *store.Tx, v roster.Viewer, c bank.MetaChange) error {
	var e desk.InvalidError
	add := func(bad bool, pointer, format string, args ...any) {
		if bad {
			e.Add(pointer, fmt.Sprintf(format, args...))
		}
	}
	if c.Bank != nil {
		open, err := BanksFor(ctx, tx.Reader, v)
		if err != nil {
			return err
		}
		at := slices.IndexFunc(open.Rows, func(b bankrows.Bank) bool { return b.Name == *c.Bank })
		add(at < 0 || !writesIn(v, open, open.Rows[max(at, 0)].ID), "/bank", "Choose one of the banks that you write in.")
	}
	add(c.Subject != nil && *c.Subject == "", "/subject", "Choose a subject.")
	add(c.Grade != nil && *c.Grade != "" && !slices.Contains(desk.Grades, *c.Grade), "/grade", "Choose a grade from K to 12.")
	add(c.Course != nil && len(*c.Course) > 100, "/course", "A course's name has at most 100 characters.")
	add(c.Language != nil && !slices.Contains(desk.Languages, *c.Language), "/language", "Choose one of the languages: %s.", strings.Join(desk.Languages, ", "))
	add(c.Depth != nil && (*c.Depth < 0 || *c.Depth > 4), "/depth", "The depth of knowledge is 1 to 4.")
	if c.Difficulty != nil {
		_, ok := bank.ReadDifficulty(*c.Difficulty)
		add(!ok, "/difficulty", "%q is not a share of right answers from 0 to 1, with three places at most.", *c.Difficulty)
	}
	known, err := bankrows.StandardsCoded(ctx, tx.Reader, c.Align)
	if err != nil {
		return err
	}
	for _, code := range c.Align {
		_, ok := known[code]
		add(!ok, "/align", "%q is not a standard that is known.", code)
	}
	add(c.IsEmpty(), "", "Say what is to change.")
	if len(e.Fields) > 0 {
		return &e
	}
	return nil
}

// UndoChange takes a change to many items back, as next versions again. Items that
// were changed since, or are no longer the viewer's to change, stay and are named.
func (a *Bank) UndoChange(ctx context.Context, v roster.Viewer, id int64) (BulkOutcome, error) {
	if !v.MayBuild() {
		return BulkOutcome{}, desk.ErrForbidden
	}
	var out BulkOutcome
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		done, items, err := bankrows.BulkChangeByID(ctx, tx.Reader, v.PersonID, id)
		if err != nil {
			return err
		}
		if done.UndoneAt != nil {
			return desk.Conflict("This change is undone already.")
		}
		ids := make([]int64, len(items))
		for i, x := range items {
			ids[i] = x.ItemID
		}
		rights, err := a.RightsTo(ctx, tx.Reader, v, ids)
		if err != nil {
			return err
		}
		for _, x := range items {
			if err := a.undoItem(ctx, tx, v, rights, x, &out); err != nil {
				return err
			}
		}
		if err := bankrows.UndoneBulkChange(ctx, tx, id, store.Millis(a.Now())); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "item.bulk-undo", Thing: "bank", ID: id, Title: desk.Plural(out.Changed, "item")})
	})
	out.sort()
	return out, err
}

func (a *Bank) undoItem(ctx context.Context, tx *store.Tx, v roster.Viewer, rights ItemRights, x bankrows.BulkItem, out *BulkOutcome) error {
	rows, _, err := bankrows.Items(ctx, tx.Reader, bankrows.ItemQuery{Scope: bankrows.ItemScope{All: true}, Only: []int64{x.ItemID}, Limit: 1})
	if err != nil || len(rows) == 0 {
		return err // it was dropped since
	}
	row := rows[0]
	refuse := func(why string) error {
		out.Refused++
		out.Rows = append(out.Rows, BulkRow{Identifier: row.Identifier, Stem: row.Stem, Why: why})
		return nil
	}
	if row.Version != x.Version {
		return refuse("It was changed since.")
	}
	if verdict := rights.May(bank.Change, row); !verdict.May {
		return refuse(verdict.Why)
	}
	before := x.Before.V
	if _, err := bankrows.BankCalled(ctx, tx.Reader, before.Bank); err != nil {
		before.Bank = row.Bank // renamed since
	}
	out.Changed++
	return a.putMeta(ctx, tx, v, row, before)
}
