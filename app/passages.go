package app

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"pineledger/core/bank"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/store"
)

// Passages lists the passages of a viewer's banks whose title or text holds words.
func (a *App) Passages(ctx context.Context, v roster.Viewer, words string) ([]store.Passage, error) {
	if !v.MayReadKeys() {
		return nil, ErrForbidden
	}
	open, err := banksFor(ctx, a.store.Reader, v)
	if err != nil {
		return nil, err
	}
	return a.store.PassagesNamed(ctx, open.ids(), words)
}

// passageFor gives a passage of a bank open to a viewer; another does not exist.
func (a *App) passageFor(ctx context.Context, r store.Reader, v roster.Viewer, id int64) (store.Passage, error) {
	list, err := r.Passages(ctx, []int64{id})
	if err != nil {
		return store.Passage{}, err
	}
	if len(list) == 0 {
		return store.Passage{}, ErrNotFound
	}
	open, err := banksFor(ctx, r, v)
	if _, seen := open.by[list[0].BankID]; err == nil && !seen {
		err = ErrNotFound
	}
	return list[0], err
}

// PassageDetail is a passage with the items that hang on it, as far as they are
// offered to the viewer.
type PassageDetail struct {
	store.Passage
	Items         []FoundItem
	MayChange     bool
	Owner         string
	Drafts, Forms int // that hold items of it
}

// Figures are what its readability is computed from.
func Figures(p store.Passage) bank.Figures {
	return bank.Figures{Words: p.Words, Sentences: p.Sentences, Syllables: p.Syllables}
}

// Passage gives a passage's page.
func (a *App) Passage(ctx context.Context, v roster.Viewer, id int64) (PassageDetail, error) {
	if !v.MayReadKeys() {
		return PassageDetail{}, ErrForbidden
	}
	p, err := a.passageFor(ctx, a.store.Reader, v, id)
	if err != nil {
		return PassageDetail{}, err
	}
	d := PassageDetail{Passage: p}
	open, err := banksFor(ctx, a.store.Reader, v)
	if err != nil {
		return d, err
	}
	d.MayChange = mayChangePassage(v, open, p)
	owners, err := a.store.PeopleNamed(ctx, []int64{p.OwnerID})
	if err != nil {
		return d, err
	}
	d.Owner = owners[p.OwnerID].Name
	if d.Drafts, d.Forms, err = a.store.PassageUses(ctx, id); err != nil {
		return d, err
	}
	q, err := a.query(ctx, v, ItemSearch{Passage: id})
	if err != nil {
		return d, err
	}
	items, _, err := a.store.Items(ctx, q)
	if err != nil {
		return d, err
	}
	slices.SortStableFunc(items, func(x, y store.Item) int { return int(x.ID - y.ID) })
	d.Items, err = a.found(ctx, v, "", items)
	return d, err
}

// mayChangePassage: its owner, and who keeps its bank, as it is with items.
func mayChangePassage(v roster.Viewer, open banks, p store.Passage) bool {
	b := open.by[p.BankID]
	return bank.May(v, bank.Change, b, bank.Item{OwnerID: p.OwnerID}).May || b.Kind != bank.Given && v.MayBuild() && bank.May(v, bank.Keep, b, bank.Item{}).May
}

// PassageInput is what an author says of a passage.
type PassageInput struct {
	Identifier, Title, Body, Language, Source, Permission, Bank string
}

// mostPassage bounds a passage's text, in bytes.
const mostPassage = 500 << 10

func (in *PassageInput) check() error {
	var e InvalidError
	add := func(bad bool, pointer, message string) {
		if bad {
			e.Fields = append(e.Fields, FieldError{pointer, message})
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
	add(!slices.Contains(Languages, in.Language), "/language", "Choose one of the languages: "+strings.Join(Languages, ", ")+".")
	if len(e.Fields) > 0 {
		return &e
	}
	return nil
}

// PutPassage keeps a new passage (id 0), or changes one at the version that was
// read. Sealed forms keep the text that they were sealed with.
func (a *App) PutPassage(ctx context.Context, v roster.Viewer, id int64, version int, in PassageInput) (PassageDetail, error) {
	if !v.MayBuild() {
		return PassageDetail{}, ErrForbidden
	}
	if err := in.check(); err != nil {
		return PassageDetail{}, err
	}
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		open, err := banksFor(ctx, tx.Reader, v)
		if err != nil {
			return err
		}
		row, err := tx.BankCalled(ctx, in.Bank)
		if errors.Is(err, ErrNotFound) {
			return invalid("/bank", "Choose one of the banks that you write in.")
		} else if err != nil {
			return err
		}
		p := store.Passage{ID: id, Identifier: in.Identifier, Title: in.Title, Body: in.Body, Language: in.Language, Source: in.Source, Permission: in.Permission,
			BankID: row.ID, OwnerID: v.PersonID, Version: version, ChangedAt: store.Millis(a.now())}
		measured(&p)
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
	b, seen := open.by[id]
	return seen && bank.May(v, bank.Write, b, bank.Item{}).May
}

func (a *App) addPassage(ctx context.Context, tx *store.Tx, v roster.Viewer, open banks, p store.Passage) (int64, error) {
	if !writesIn(v, open, p.BankID) {
		return 0, invalid("/bank", "Choose one of the banks that you write in.")
	}
	if p.Identifier == "" {
		p.Identifier = fmt.Sprintf("P-%d", p.ChangedAt)
	}
	taken, err := tx.PassageNamed(ctx, p.Identifier)
	if err != nil {
		return 0, err
	}
	if taken {
		return 0, invalid("/identifier", "The identifier %q is in use already; choose another one.", p.Identifier)
	}
	id, err := tx.AddPassage(ctx, p, a.digest(p.Title, p.Body))
	if err != nil {
		return 0, err
	}
	return id, a.record(ctx, tx, v, act{name: "passage.write", thing: "passage", id: id, title: p.Title, after: a.digest(p.Title, p.Body)})
}

func (a *App) changePassage(ctx context.Context, tx *store.Tx, v roster.Viewer, open banks, p store.Passage) error {
	old, err := a.passageFor(ctx, tx.Reader, v, p.ID)
	if err != nil {
		return err
	}
	switch {
	case !mayChangePassage(v, open, old):
		return refusal(bank.Verdict{Why: "Only its owner and the bank's keepers change a passage."})
	case p.BankID != old.BankID && !writesIn(v, open, p.BankID):
		return invalid("/bank", "Choose one of the banks that you write in.")
	}
	if err := tx.ChangePassage(ctx, p, v.PersonID, a.digest(p.Title, p.Body)); err != nil {
		return err
	}
	return a.record(ctx, tx, v, act{name: "passage.change", thing: "passage", id: p.ID, title: p.Title, before: a.digest(old.Title, old.Body), after: a.digest(p.Title, p.Body)})
}
