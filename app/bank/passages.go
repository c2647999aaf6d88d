package bank

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// Passages lists the passages of a viewer's banks whose title or text holds words.
func (a *Shelf) Passages(ctx context.Context, v roster.Viewer, words string) ([]bankrows.Passage, error) {
	if !v.MayReadKeys() {
		return nil, desk.ErrForbidden
	}
	open, err := BanksFor(ctx, a.Store.Reader, v)
	if err != nil {
		return nil, err
	}
	return bankrows.PassagesNamed(ctx, a.Store.Reader, open.IDs(), words)
}

// passageFor gives a passage of a bank open to a viewer; another does not exist.
func (a *Bank) passageFor(ctx context.Context, r store.Reader, v roster.Viewer, id int64) (bankrows.Passage, error) {
	list, err := bankrows.Passages(ctx, r, []int64{id})
	if err != nil {
		return bankrows.Passage{}, err
	}
	if len(list) == 0 {
		return bankrows.Passage{}, desk.ErrNotFound
	}
	open, err := BanksFor(ctx, r, v)
	if _, seen := open.By[list[0].BankID]; err == nil && !seen {
		err = desk.ErrNotFound
	}
	return list[0], err
}

// PassageDetail is a passage with the items that hang on it, as far as they are
// offered to the viewer.
type PassageDetail struct {
	bankrows.Passage
	Items         []FoundItem
	MayChange     bool
	Owner         string
	Drafts, Forms int // that hold items of it
}

// Figures are what its readability is computed from.
func Figures(p bankrows.Passage) bank.Figures {
	return bank.Figures{Words: p.Words, Sentences: p.Sentences, Syllables: p.Syllables}
}

// Passage gives a passage's page.
func (a *Shelf) Passage(ctx context.Context, v roster.Viewer, id int64) (PassageDetail, error) {
	if !v.MayReadKeys() {
		return PassageDetail{}, desk.ErrForbidden
	}
	p, err := a.bank.passageFor(ctx, a.Store.Reader, v, id)
	if err != nil {
		return PassageDetail{}, err
	}
	d := PassageDetail{Passage: p}
	open, err := BanksFor(ctx, a.Store.Reader, v)
	if err != nil {
		return d, err
	}
	d.MayChange = mayChangePassage(v, open, p)
	owners, err := bankrows.PeopleNamed(ctx, a.Store.Reader, []int64{p.OwnerID})
	if err != nil {
		return d, err
	}
	d.Owner = owners[p.OwnerID].Name
	if d.Drafts, d.Forms, err = bankrows.PassageUses(ctx, a.Store.Reader, id); err != nil {
		return d, err
	}
	q, err := a.bank.query(ctx, v, ItemSearch{Passage: id})
	if err != nil {
		return d, err
	}
	items, _, err := bankrows.Items(ctx, a.Store.Reader, q)
	if err != nil {
		return d, err
	}
	slices.SortStableFunc(items, func(x, y bankrows.Item) int { return int(x.ID - y.ID) })
	d.Items, err = a.bank.Found(ctx, v, "", items)
	return d, err
}

// mayChangePassage: its owner, and who keeps its bank, as it is with items.
func mayChangePassage(v roster.Viewer, open banks, p bankrows.Passage) bool {
	b := open.By[p.BankID]
	return bank.May(v, bank.Change, b, bank.Item{OwnerID: p.OwnerID}).May || b.Kind != bank.Given && v.MayBuild() && bank.May(v, bank.Keep, b, bank.Item{}).May
}

// PassageInput is what an author says of a passage.
type PassageInput struct {
	Identifier, Title, Body, Language, Source, Permission, Bank string
}

// mostPassage bounds a passage's text, in bytes.
const mostPassage = 500 << 10

func (in *PassageInput) check() error {
	var e desk.InvalidError
	add := func(bad bool, pointer, message string) {
		if bad {
			e.Add(pointer, message)
		}
	}
	in.Title, in.Source, in.Permission, in.Identifier = strings.TrimSpace(in.Title), strings.TrimSpace(in.Source), strings.TrimSpace(in.Permission), strings.TrimSpace(in.Identifier)
	in.Body = item.Clean(in.Body)
	add(in.Title == "" || utf8.RuneCountInString(in.Title) > 200, "/title", "A passage needs a title of at most 200 characters.")
	add(item.PlainText(in.Body) == "", "/body", "A passage needs its text.")
	add(len(in.Body) > mostPassage, "/body", fmt.Sprintf("The text is longer than %d kB.", mostPassage>>10))
	add(len(in.Identifier) > 100 || strings.ContainsAny(in.Identifier, " \t"), "/identifier", "An identifier has no spaces and at most 100 characters.")
	add(utf8.RuneCountInString(in.Source) > 500, "/source", "The source has at most 500 characters.")
	add(utf8.RuneCountInString(in.Permission) > 500, "/permission", "The permission has at most 500 characters.")
	add(!slices.Contains(desk.Languages, in.Language), "/language", "Choose one of the languages: "+strings.Join(desk.Languages, ", ")+".")
	if len(e.Fields) > 0 {
		return &e
	}
	return nil
}

// PutPassage keeps a new passage (id 0), or changes one at the version that was
// read. Sealed forms keep the text that they were sealed with.
func (a *Shelf) PutPassage(ctx context.Context, v roster.Viewer, id int64, version int, in PassageInput) (PassageDetail, error) {
	if !v.MayBuild() {
		return PassageDetail{}, desk.ErrForbidden
	}
	if err := in.check(); err != nil {
		return PassageDetail{}, err
	}
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		open, err := BanksFor(ctx, tx.Reader, v)
		if err != nil {
			return err
		}
		row, err := bankrows.BankCalled(ctx, tx.Reader, in.Bank)
		if errors.Is(err, desk.ErrNotFound) {
			return desk.Invalid("/bank", "Choose one of the banks that you write in.")
		} else if err != nil {
			return err
		}
		p := bankrows.Passage{ID: id, Identifier: in.Identifier, Title: in.Title, Body: in.Body, Language: in.Language, Source: in.Source, Permission: in.Permission,
			BankID: row.ID, OwnerID: v.PersonID, Version: version, ChangedAt: store.Millis(a.Now())}
		Measured(&p)
		if id == 0 {
			id, err = a.addPassage(ctx, tx, v, open, p)
			return err
		}
		return a.changePassage(ctx, tx, v, open, p)
	})
	if err != nil {
		return PassageDetail{}, err
	}
	return a.Passage(ctx, v, id)
}

func writesIn(v roster.Viewer, open banks, id int64) bool {
	b, seen := open.By[id]
	return seen && bank.May(v, bank.Write, b, bank.Item{}).May
}

func (a *Shelf) addPassage(ctx context.Context, tx *store.Tx, v roster.Viewer, open banks, p bankrows.Passage) (int64, error) {
	if !writesIn(v, open, p.BankID) {
		return 0, desk.Invalid("/bank", "Choose one of the banks that you write in.")
	}
	if p.Identifier == "" {
		p.Identifier = fmt.Sprintf("P-%d", p.ChangedAt)
	}
	taken, err := bankrows.PassageNamed(ctx, tx.Reader, p.Identifier)
	if err != nil {
		return 0, err
	}
	if taken {
		return 0, desk.Invalid("/identifier", "The identifier %q is in use already; choose another one.", p.Identifier)
	}
	id, err := bankrows.AddPassage(ctx, tx, p, a.Digest(p.Title, p.Body))
	if err != nil {
		return 0, err
	}
	return id, a.Record(ctx, tx, v, desk.Act{Name: "passage.write", Thing: "passage", ID: id, Title: p.Title, After: a.Digest(p.Title, p.Body)})
}

func (a *Shelf) changePassage(ctx context.Context, tx *store.Tx, v roster.Viewer, open banks, p bankrows.Passage) error {
	old, err := a.bank.passageFor(ctx, tx.Reader, v, p.ID)
	if err != nil {
		return err
	}
	switch {
	case !mayChangePassage(v, open, old):
		return desk.Refusal(bank.Verdict{Why: "Only its owner and the bank's keepers change a passage."})
	case p.BankID != old.BankID && !writesIn(v, open, p.BankID):
		return desk.Invalid("/bank", "Choose one of the banks that you write in.")
	}
	if err := bankrows.ChangePassage(ctx, tx, p, v.PersonID, a.Digest(p.Title, p.Body)); err != nil {
		return err
	}
	return a.Record(ctx, tx, v, desk.Act{Name: "passage.change", Thing: "passage", ID: p.ID, Title: p.Title, Before: a.Digest(old.Title, old.Body), After: a.Digest(p.Title, p.Body)})
}

// Measured fills in what is computed from a passage's text.
func Measured(p *bankrows.Passage) {
	p.Plain = item.PlainText(p.Body)
	f := bank.Read(item.Paragraphs(p.Body))
	p.Words, p.Sentences, p.Syllables = f.Words, f.Sentences, f.Syllables
}
