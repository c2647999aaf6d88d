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
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/officerows"
)

// BankListed is a bank with what a viewer may do in it.
type BankListed struct {
	bankrows.Bank
	Items    int
	Standing bank.Standing
	Write    bool
	Members  []bankrows.BankMember // for its keepers
}

// Banks lists the banks open to a viewer.
func (a *Bank) Banks(ctx context.Context, v roster.Viewer) ([]BankListed, error) {
	if !v.MayReadKeys() {
		return nil, desk.ErrForbidden
	}
	open, err := BanksFor(ctx, a.Store.Reader, v)
	if err != nil {
		return nil, err
	}
	counts, err := bankrows.ItemsInBanks(ctx, a.Store.Reader, open.IDs())
	if err != nil {
		return nil, err
	}
	out := make([]BankListed, len(open.Rows))
	for i, row := range open.Rows {
		b := open.By[row.ID]
		out[i] = BankListed{Bank: row, Items: counts[row.ID], Standing: bank.StandingOf(v, b), Write: bank.May(v, bank.Write, b, bank.Item{}).May}
		if out[i].Standing == bank.Keeper && b.Kind != bank.Own {
			if out[i].Members, err = bankrows.BankMembers(ctx, a.Store.Reader, row.ID); err != nil {
				return nil, err
			}
		}
	}
	slices.SortStableFunc(out, func(x, y BankListed) int {
		return slices.Index(bank.Kinds, bank.Kind(x.Kind)) - slices.Index(bank.Kinds, bank.Kind(y.Kind))
	})
	return out, nil
}

// banksToWrite are the names of the banks that a viewer puts new items into.
func (a *Bank) banksToWrite(ctx context.Context, v roster.Viewer) ([]string, error) {
	open, err := BanksFor(ctx, a.Store.Reader, v)
	var out []string
	for _, row := range open.Rows {
		if bank.May(v, bank.Write, open.By[row.ID], bank.Item{}).May {
			out = append(out, row.Name)
		}
	}
	return out, err
}

// homeBank is the name of the bank in which a viewer's new items begin: the
// district's or the own school's where they write there, or else their own, made
// when it is first needed.
func (a *Bank) homeBank(ctx context.Context, v roster.Viewer) (string, error) {
	open, err := BanksFor(ctx, a.Store.Reader, v)
	if err != nil {
		return "", err
	}
	for _, kind := range []bank.Kind{bank.District, bank.School, bank.Own} {
		for _, row := range open.Rows {
			b := open.By[row.ID]
			mine := kind != bank.School || b.SchoolID == v.HomeSchool()
			if b.Kind == kind && mine && bank.May(v, bank.Write, b, bank.Item{}).May {
				return row.Name, nil
			}
		}
	}
	var name string
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := a.ownBank(ctx, tx, v)
		name = row.Name
		return err
	})
	return name, err
}

// ownBank gives a person's own bank, made when it is first needed.
func (a *Bank) ownBank(ctx context.Context, tx *store.Tx, v roster.Viewer) (bankrows.Bank, error) {
	rows, err := bankrows.SharedBanks(ctx, tx.Reader, v.PersonID)
	if err != nil {
		return bankrows.Bank{}, err
	}
	for _, row := range rows {
		if row.Kind == string(bank.Own) {
			return row, nil
		}
	}
	for n := 1; ; n++ {
		name := "Own items of " + v.Name
		if n > 1 {
			name = fmt.Sprintf("%s (%d)", name, n) // another person has the same name
		}
		switch _, err := bankrows.BankCalled(ctx, tx.Reader, name); {
		case errors.Is(err, store.ErrNotFound):
			id, err := bankrows.AddBank(ctx, tx, bankrows.Bank{Name: name, Kind: string(bank.Own), OwnerID: v.PersonID})
			if err != nil {
				return bankrows.Bank{}, err
			}
			return bankrows.BankByID(ctx, tx.Reader, id)
		case err != nil:
			return bankrows.Bank{}, err
		}
	}
}

// BankInput is what its keepers say of a bank.
type BankInput struct {
	Name    string        `json:"name"`
	About   string        `json:"about"`
	NoCopy  bool          `json:"noCopy"`
	NoPrint bool          `json:"noPrint"`
	Members []MemberInput `json:"members"`
}

// MemberInput names a person of a bank.
type MemberInput struct {
	PersonID int64         `json:"personId"`
	Standing bank.Standing `json:"standing"`
}

// mostMembers bounds the named persons of a bank.
const mostMembers = 500

func (in *BankInput) check() error {
	var e desk.InvalidError
	in.Name, in.About = strings.TrimSpace(in.Name), strings.TrimSpace(in.About)
	if n := utf8.RuneCountInString(in.Name); n == 0 || n > 80 {
		e.Add("/name", "A bank needs a name of at most 80 characters.")
	}
	if utf8.RuneCountInString(in.About) > 1000 {
		e.Add("/about", "What is said about a bank has at most 1,000 characters.")
	}
	if len(in.Members) > mostMembers {
		e.Add("/members", fmt.Sprintf("A bank has %d members at most.", mostMembers))
	}
	seen := map[int64]bool{}
	for i, m := range in.Members {
		pointer := fmt.Sprintf("/members/%d", i)
		switch {
		case seen[m.PersonID]:
			e.Add(pointer, "This person is named twice.")
		case !slices.Contains([]bank.Standing{bank.Reader, bank.Writer, bank.Keeper}, m.Standing):
			e.Add(pointer, "A member is a reader, a writer or a keeper.")
		}
		seen[m.PersonID] = true
	}
	if len(e.Fields) > 0 {
		return &e
	}
	return nil
}

// AddBank makes a bank: a group's by any builder, who becomes its keeper; a
// school's by its coordinators; the district's and given ones by the district's.
func (a *Bank) AddBank(ctx context.Context, v roster.Viewer, kind bank.Kind, school int64, in BankInput) ([]BankListed, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	if err := in.check(); err != nil {
		return nil, err
	}
	row := bankrows.Bank{Name: in.Name, About: in.About, Kind: string(kind), NoCopy: in.NoCopy, NoPrint: in.NoPrint}
	s := v.Scope()
	switch {
	case kind == bank.Group:
		in.Members = append(in.Members, MemberInput{v.PersonID, bank.Keeper})
		in.Members = slices.CompactFunc(in.Members, func(x, y MemberInput) bool { return x.PersonID == y.PersonID })
	case kind == bank.School && (s.District || slices.Contains(s.Schools, school)):
		if _, err := officerows.SchoolNamed(ctx, a.Store.Reader, school); err != nil {
			return nil, desk.Invalid("/schoolId", "Choose the school.")
		}
		row.SchoolID = school
	case (kind == bank.District || kind == bank.Given) && s.District:
	default:
		return nil, desk.Invalid("/kind", "You make a group's bank, or one of your own school.")
	}
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		if err := nameIsFree(ctx, tx, row); err != nil {
			return err
		}
		id, err := bankrows.AddBank(ctx, tx, row)
		if err != nil {
			return err
		}
		if err := putMembers(ctx, tx, id, in.Members); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "bank.add", Thing: "bank", ID: id, Title: in.Name, After: in})
	})
	if err != nil {
		return nil, err
	}
	return a.Banks(ctx, v)
}

func nameIsFree(ctx context.Context, tx *store.Tx, row bankrows.Bank) error {
	other, err := bankrows.BankCalled(ctx, tx.Reader, row.Name)
	switch {
	case errors.Is(err, store.ErrNotFound) || err == nil && other.ID == row.ID:
		return nil
	case err != nil:
		return err
	}
	return desk.Invalid("/name", "There is a bank with this name already; choose another one.")
}

func putMembers(ctx context.Context, tx *store.Tx, id int64, members []MemberInput) error {
	ids := make([]int64, len(members))
	for i, m := range members {
		ids[i] = m.PersonID
	}
	people, err := bankrows.PeopleNamed(ctx, tx.Reader, ids)
	if err != nil {
		return err
	}
	rows := make([]bankrows.BankMember, len(members))
	for i, m := range members {
		if _, ok := people[m.PersonID]; !ok {
			return desk.Invalid(fmt.Sprintf("/members/%d", i), "There is no such person.")
		}
		rows[i] = bankrows.BankMember{PersonID: m.PersonID, Standing: string(m.Standing)}
	}
	return bankrows.PutBankMembers(ctx, tx, id, rows)
}

// PutBank changes a bank's name, terms and members, by its keepers.
func (a *Bank) PutBank(ctx context.Context, v roster.Viewer, id int64, version int, in BankInput) ([]BankListed, error) {
	if !v.MayReadKeys() {
		return nil, desk.ErrForbidden
	}
	if err := in.check(); err != nil {
		return nil, err
	}
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		open, err := BanksFor(ctx, tx.Reader, v)
		if err != nil {
			return err
		}
		b, seen := open.By[id]
		if !seen {
			return desk.ErrNotFound
		}
		if verdict := bank.May(v, bank.Keep, b, bank.Item{}); !verdict.May {
			return desk.Refusal(verdict)
		}
		if b.Kind == bank.Own && len(in.Members) > 0 {
			return desk.Invalid("/members", "One's own bank has no members; make a group's bank to share items.")
		}
		before, err := bankrows.BankByID(ctx, tx.Reader, id)
		if err != nil {
			return err
		}
		members, err := bankrows.BankMembers(ctx, tx.Reader, id)
		if err != nil {
			return err
		}
		if b.Kind == bank.Group && !slices.ContainsFunc(in.Members, func(m MemberInput) bool { return m.Standing == bank.Keeper }) {
			return desk.Invalid("/members", "A group's bank needs a keeper.")
		}
		row := before
		row.Name, row.About, row.NoCopy, row.NoPrint, row.Version = in.Name, in.About, in.NoCopy, in.NoPrint, version
		if err := nameIsFree(ctx, tx, row); err != nil {
			return err
		}
		if err := bankrows.ChangeBank(ctx, tx, row); err != nil {
			return err
		}
		if err := putMembers(ctx, tx, id, in.Members); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "bank.change", Thing: "bank", ID: id, Title: in.Name, Before: bankInput(before, members), After: in})
	})
	if err != nil {
		return nil, err
	}
	return a.Banks(ctx, v)
}

// bankInput is what stands of a bank, as its keepers say it.
func bankInput(row bankrows.Bank, members []bankrows.BankMember) BankInput {
	in := BankInput{Name: row.Name, About: row.About, NoCopy: row.NoCopy, NoPrint: row.NoPrint}
	for _, m := range members {
		in.Members = append(in.Members, MemberInput{m.PersonID, bank.Standing(m.Standing)})
	}
	return in
}

// mostPeopleWords bounds what is typed to find a person.
const mostPeopleWords = 6

// StaffNamed finds members of staff by name, e-mail and school at once.
func (a *Bank) StaffNamed(ctx context.Context, v roster.Viewer, typed string) ([]bankrows.PersonNamed, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	words := strings.Fields(typed)
	return bankrows.StaffNamed(ctx, a.Store.Reader, words[:min(len(words), mostPeopleWords)])
}
