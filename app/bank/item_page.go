package bank

import (
	"context"
	"errors"
	"slices"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/core/stats"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/cutrows"
)

// ItemDetail is an item with its key, for staff.
type ItemDetail struct {
	FoundItem
	Document item.Item
	Key      string
	Number   int // the version shown
	Passage  *bankrows.Passage
	Rights   map[bank.Act]bank.Verdict
	Owner    string
	Editors  []bankrows.PersonNamed
	Origin   *bankrows.OriginOf // nil where it was copied from nothing, or from what is not the viewer's to see
	Reports  int                // open ones
}

// Item gives one item with its key; number is the version, 0 for the newest.
func (a *Bank) Item(ctx context.Context, v roster.Viewer, id int64, number int) (ItemDetail, error) {
	row, rights, err := a.itemFor(ctx, a.Store.Reader, v, id)
	if err != nil {
		return ItemDetail{}, err
	}
	if number == 0 {
		number = row.Version
	}
	version, err := bankrows.VersionNumbered(ctx, a.Store.Reader, id, number)
	if err != nil {
		return ItemDetail{}, err
	}
	d := ItemDetail{Key: version.KeyShort, Number: number, Rights: map[bank.Act]bank.Verdict{}}
	found, err := a.Found(ctx, v, "", []bankrows.Item{row})
	if err != nil {
		return d, err
	}
	d.FoundItem = found[0]
	if d.Document, err = item.Read([]byte(version.Document)); err != nil {
		return d, err
	}
	for _, act := range bank.Acts {
		d.Rights[act] = rights.May(act, row)
	}
	if version.PassageID > 0 {
		p, err := a.passageFor(ctx, a.Store.Reader, v, version.PassageID)
		if err == nil {
			d.Passage = &p
		} else if !errors.Is(err, desk.ErrNotFound) {
			return d, err
		}
	}
	return d, a.AboutItem(ctx, v, &d)
}

func (a *Bank) AboutItem(ctx context.Context, v roster.Viewer, d *ItemDetail) error {
	owners, err := bankrows.PeopleNamed(ctx, a.Store.Reader, []int64{d.OwnerID})
	if err != nil {
		return err
	}
	d.Owner = owners[d.OwnerID].Name
	if d.Editors, err = bankrows.ItemEditors(ctx, a.Store.Reader, d.ID); err != nil {
		return err
	}
	if d.Reports, err = bankrows.OpenReportsOn(ctx, a.Store.Reader, d.ID); err != nil {
		return err
	}
	if d.Item.Origin == 0 {
		return nil
	}
	origin, err := bankrows.Origin(ctx, a.Store.Reader, d.Item.Origin)
	if err != nil {
		return err
	}
	switch _, _, err := a.itemFor(ctx, a.Store.Reader, v, origin.ItemID); {
	case err == nil:
		d.Origin = &origin
	case !errors.Is(err, desk.ErrNotFound):
		return err
	}
	return nil
}

// ItemVersions lists an item's versions, the newest first.
func (a *Bank) ItemVersions(ctx context.Context, v roster.Viewer, id int64) ([]bankrows.VersionListed, error) {
	if _, _, err := a.itemFor(ctx, a.Store.Reader, v, id); err != nil {
		return nil, err
	}
	return bankrows.VersionsOf(ctx, a.Store.Reader, id)
}

// ItemChanges tells what differs between two versions of an item.
func (a *Bank) ItemChanges(ctx context.Context, v roster.Viewer, id int64, from, to int) ([]bank.Difference, error) {
	if _, _, err := a.itemFor(ctx, a.Store.Reader, v, id); err != nil {
		return nil, err
	}
	before, err := a.VersionToCompare(ctx, id, from)
	if err != nil {
		return nil, err
	}
	after, err := a.VersionToCompare(ctx, id, to)
	if err != nil {
		return nil, err
	}
	return bank.Differences(before, after), nil
}

func (a *Bank) VersionToCompare(ctx context.Context, id int64, number int) (bank.Version, error) {
	row, err := bankrows.VersionNumbered(ctx, a.Store.Reader, id, number)
	if err != nil {
		return bank.Version{}, err
	}
	out := bank.Version{Standards: desk.Codes(row.Standards), Depth: row.Depth, Language: row.Language, Tags: desk.Codes(row.Tags)}
	if out.Item, err = item.Read([]byte(row.Document)); err != nil {
		return out, err
	}
	if row.PassageID > 0 {
		passages, err := bankrows.Passages(ctx, a.Store.Reader, []int64{row.PassageID})
		if err != nil {
			return out, err
		}
		for _, p := range passages {
			out.Passage = p.Title
		}
	}
	return out, nil
}

// ItemUse is a place of an item with how it worked there, as far as it is the
// viewer's to see: of another school's assessment only that there is one.
type ItemUse struct {
	bankrows.ItemUse
	Mine  bool
	Stats *stats.Line // of a sealed form that students have handed in
	Waits bool        // answers wait for their readers
}

// ItemUses lists where an item is and was used, and its exposure by grade and year.
func (a *Bank) ItemUses(ctx context.Context, v roster.Viewer, id int64) (out ItemUses, err error) {
	if _, _, err := a.itemFor(ctx, a.Store.Reader, v, id); err != nil {
		return out, err
	}
	if out.Uses, err = a.usesFor(ctx, v, id); err != nil {
		return out, err
	}
	for i := range out.Uses {
		if out.Uses[i].FormID > 0 && out.Uses[i].Students > 0 {
			if err := a.fillUse(ctx, &out.Uses[i]); err != nil {
				return out, err
			}
		}
	}
	if out.Scale, err = cutrows.ScaleOf(ctx, a.Store.Reader, id); err != nil {
		return out, err
	}
	out.Seen, err = bankrows.SeenOf(ctx, a.Store.Reader, id)
	return out, err
}

// ItemUses is where an item is and was used, and what came of it.
type ItemUses struct {
	Uses  []ItemUse
	Seen  []bankrows.Seen
	Scale []cutrows.OnScale // its versions that were calibrated
}

// usesFor lists the uses of an item and hides what is not the viewer's to see.
func (a *Bank) usesFor(ctx context.Context, v roster.Viewer, id int64) ([]ItemUse, error) {
	rows, err := bankrows.UsesOf(ctx, a.Store.Reader, id)
	out := make([]ItemUse, len(rows))
	for i, row := range rows {
		out[i] = ItemUse{ItemUse: row, Mine: v.MaySee(roster.Owned{OwnerID: row.OwnerID, SchoolID: row.SchoolID})}
		if !out[i].Mine {
			out[i].Title, out[i].Owner, out[i].AssessmentID = "an assessment of another school", "", 0
			if row.SchoolID == 0 {
				out[i].Title = "an assessment of the district"
			}
		}
	}
	return out, err
}

func (a *Bank) fillUse(ctx context.Context, use *ItemUse) error {
	f, err := a.FormByID(ctx, use.FormID)
	if err != nil {
		return err
	}
	line := f.Lines[use.Line-1]
	use.Points = int64(line.Points)
	worked, waits, err := a.lineStats(ctx, use.FormID, f, use.Line)
	use.Stats, use.Waits = &worked, waits
	return err
}

// lineStats computes how a line of a sealed form worked, over all who have handed in.
func (a *Bank) lineStats(ctx context.Context, id int64, f form.Form, line int) (worked stats.Line, waits bool, err error) {
	rows, err := bankrows.CreditsOfForm(ctx, a.Store.Reader, id)
	if err != nil {
		return worked, false, err
	}
	answers := make([]stats.Answer, 0, len(rows))
	for _, credits := range rows {
		if line > len(credits) {
			continue
		}
		var raw points.Points
		for _, c := range credits {
			raw += c.Credit
		}
		mine := credits[line-1]
		if mine.Outcome == item.NotGiven {
			continue
		}
		if mine.Outcome == item.Unread {
			waits = true
			continue
		}
		answers = append(answers, stats.Answer{Credit: mine.Credit, Raw: raw, Omitted: mine.Outcome == item.Omitted, NotReached: mine.Outcome == item.NotReached})
	}
	return stats.OfLine(f.Lines[line-1].Points, answers), waits, nil
}

// PutEditors names who else may change an item.
func (a *Bank) PutEditors(ctx context.Context, v roster.Viewer, id int64, people []int64) error {
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		row, _, err := a.itemFor(ctx, tx.Reader, v, id, bank.Name)
		if err != nil {
			return err
		}
		if len(people) > 50 {
			return desk.Invalid("/people", "An item has 50 editors at most.")
		}
		known, err := bankrows.PeopleNamed(ctx, tx.Reader, people)
		if err != nil {
			return err
		}
		for _, p := range people {
			if _, ok := known[p]; !ok {
				return desk.Invalid("/people", "There is no such person.")
			}
		}
		before, err := bankrows.ItemEditors(ctx, tx.Reader, id)
		if err != nil {
			return err
		}
		var was []int64
		for _, p := range before {
			was = append(was, p.ID)
		}
		if slices.Equal(was, people) {
			return nil
		}
		if err := bankrows.PutItemEditors(ctx, tx, id, people); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "item.editors", Thing: "item", ID: id, Title: row.Identifier, Before: was, After: people})
	})
}

// mostComment bounds a comment, in letters.
const mostComment = 2000

// Comment says something about an item to its other readers.
func (a *Bank) Comment(ctx context.Context, v roster.Viewer, id int64, words string) ([]bankrows.ItemComment, error) {
	words, err := wordsWithin("/words", words, mostComment)
	if err != nil {
		return nil, err
	}
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		row, _, err := a.itemFor(ctx, tx.Reader, v, id)
		if err != nil {
			return err
		}
		comment := bankrows.ItemComment{ItemID: id, Version: row.Version, PersonID: v.PersonID, Words: words, At: store.Millis(a.Now())}
		if err := bankrows.AddItemComment(ctx, tx, comment); err != nil {
			return err
		}
		if row.OwnerID > 0 && row.OwnerID != v.PersonID {
			if err := a.tell(ctx, tx, row.OwnerID, itemPath(id), "%s commented on %s: %s", v.Name, row.Identifier, words); err != nil {
				return err
			}
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "item.comment", Thing: "item", ID: id, Title: row.Identifier, After: words})
	})
	if err != nil {
		return nil, err
	}
	return bankrows.ItemComments(ctx, a.Store.Reader, id)
}

// ItemComments lists what was said about an item, the oldest first.
func (a *Bank) ItemComments(ctx context.Context, v roster.Viewer, id int64) ([]bankrows.ItemComment, error) {
	if _, _, err := a.itemFor(ctx, a.Store.Reader, v, id); err != nil {
		return nil, err
	}
	return bankrows.ItemComments(ctx, a.Store.Reader, id)
}
