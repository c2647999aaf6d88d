package bankrows

import (
	"context"

	"pineledger/store/sqlite"
)

// Bank is a bank of items.
type Bank struct {
	ID       int64  `db:"id"`
	Name     string `db:"name"`
	Kind     string `db:"kind"`
	SchoolID int64  `db:"school_id"`
	School   string `db:"school"`
	OwnerID  int64  `db:"owner_id"`
	NoCopy   bool   `db:"no_copy"`
	NoPrint  bool   `db:"no_print"`
	About    string `db:"about"`
	Version  int    `db:"version"`
}

const bankSelect = `SELECT b.id, b.name, b.kind, b.school_id, COALESCE(s.name, '') AS school, b.owner_id, b.no_copy, b.no_print, b.about, b.version
	FROM bank b LEFT JOIN school s ON s.id = b.school_id`

// CopiesBank is the kind of the one bank that holds the own copies on assessments;
// nobody looks into it.
const CopiesBank = "copies"

// SharedBanks lists every bank that is nobody's own, and a person's own ones.
func SharedBanks(ctx context.Context, r sqlite.Reader, person int64) ([]Bank, error) {
	var out []Bank
	err := r.List(ctx, &out, bankSelect+" WHERE b.kind NOT IN ('own', 'copies', 'arriving') OR b.kind = 'own' AND b.owner_id = ? ORDER BY b.id", person)
	return out, err
}

// BankByID gives a bank.
func BankByID(ctx context.Context, r sqlite.Reader, id int64) (Bank, error) {
	var b Bank
	err := r.Get(ctx, &b, bankSelect+" WHERE b.id = ?", id)
	return b, err
}

// BankOfCopies gives the id of the bank that holds own copies.
func BankOfCopies(ctx context.Context, r sqlite.Reader) (int64, error) {
	var id int64
	err := r.Get(ctx, &id, "SELECT id FROM bank WHERE kind = 'copies'")
	return id, err
}

// BankCalled finds a bank by its name.
func BankCalled(ctx context.Context, r sqlite.Reader, name string) (Bank, error) {
	var b Bank
	err := r.Get(ctx, &b, bankSelect+" WHERE b.name = ?", name)
	return b, err
}

// BankMember is a person with a standing of their own in a bank.
type BankMember struct {
	BankID   int64  `db:"bank_id"`
	PersonID int64  `db:"person_id"`
	Name     string `db:"name"`
	Email    string `db:"email"`
	Standing string `db:"standing"`
}

const memberSelect = `SELECT m.bank_id, m.person_id, p.given || ' ' || p.family AS name, p.email, m.standing
	FROM bank_member m JOIN person p ON p.id = m.person_id`

// Memberships lists a person's standings in all banks.
func Memberships(ctx context.Context, r sqlite.Reader, person int64) ([]BankMember, error) {
	var out []BankMember
	err := r.List(ctx, &out, memberSelect+" WHERE m.person_id = ?", person)
	return out, err
}

// BankMembers lists the members of a bank.
func BankMembers(ctx context.Context, r sqlite.Reader, bank int64) ([]BankMember, error) {
	var out []BankMember
	err := r.List(ctx, &out, memberSelect+" WHERE m.bank_id = ? ORDER BY p.family, p.given, p.id", bank)
	return out, err
}

// ItemsInBanks counts the items of each bank.
func ItemsInBanks(ctx context.Context, r sqlite.Reader, banks []int64) (map[int64]int, error) {
	var rows []struct {
		ID    int64 `db:"id"`
		Count int   `db:"n"`
	}
	err := r.List(ctx, &rows, "SELECT b.id, (SELECT COUNT(*) FROM item i WHERE i.bank_id = b.id) AS n FROM bank b WHERE b.id IN (SELECT value FROM json_each(?))", sqlite.JsonIDs(banks))
	out := map[int64]int{}
	for _, row := range rows {
		out[row.ID] = row.Count
	}
	return out, err
}

// BankNamed gives the id of a bank, made if it is new.
func BankNamed(ctx context.Context, t *sqlite.Tx, name, kind string) (int64, error) {
	return t.PutRow(ctx, `INSERT INTO bank (name, kind) VALUES (?, ?) ON CONFLICT (name) DO UPDATE SET name = excluded.name RETURNING id`, name, kind)
}

// AddBank makes a bank.
func AddBank(ctx context.Context, t *sqlite.Tx, b Bank) (int64, error) {
	return t.Insert(ctx, "INSERT INTO bank (name, kind, school_id, owner_id, no_copy, no_print, about) VALUES (?, ?, ?, ?, ?, ?, ?)",
		b.Name, b.Kind, b.SchoolID, b.OwnerID, b.NoCopy, b.NoPrint, b.About)
}

// ChangeBank writes a bank's name and terms at the version that was read.
func ChangeBank(ctx context.Context, t *sqlite.Tx, b Bank) error {
	return t.ChangeOne(ctx, "UPDATE bank SET name = ?, no_copy = ?, no_print = ?, about = ?, version = version + 1 WHERE id = ? AND version = ?",
		b.Name, b.NoCopy, b.NoPrint, b.About, b.ID, b.Version)
}

// PutBankMembers replaces the members of a bank.
func PutBankMembers(ctx context.Context, t *sqlite.Tx, bank int64, members []BankMember) error {
	if err := t.Exec(ctx, "DELETE FROM bank_member WHERE bank_id = ?", bank); err != nil {
		return err
	}
	for _, m := range members {
		if err := t.Exec(ctx, "INSERT INTO bank_member (bank_id, person_id, standing) VALUES (?, ?, ?)", bank, m.PersonID, m.Standing); err != nil {
			return err
		}
	}
	return nil
}

// ItemEditors lists the editors whom an item's owner or keepers have named.
func ItemEditors(ctx context.Context, r sqlite.Reader, item int64) ([]PersonNamed, error) {
	var out []PersonNamed
	err := r.List(ctx, &out, personNamedSelect+" JOIN item_editor e ON e.person_id = p.id WHERE e.item_id = ? ORDER BY p.family, p.given, p.id", item)
	return out, err
}

// PutItemEditors replaces them.
func PutItemEditors(ctx context.Context, t *sqlite.Tx, item int64, people []int64) error {
	if err := t.Exec(ctx, "DELETE FROM item_editor WHERE item_id = ?", item); err != nil {
		return err
	}
	for _, p := range people {
		if err := t.Exec(ctx, "INSERT OR IGNORE INTO item_editor (item_id, person_id) VALUES (?, ?)", item, p); err != nil {
			return err
		}
	}
	return nil
}

// PersonNamed is a member of staff as a picker shows them: two may share a name.
type PersonNamed struct {
	ID     int64  `db:"id"`
	Name   string `db:"name"`
	Email  string `db:"email"`
	Where  string `db:"place"`  // schools, "" for the whole district
	Builds bool   `db:"builds"` // a coordinator
}

// BuildsColumn tells of a person p whether they are a coordinator.
const BuildsColumn = "EXISTS (SELECT 1 FROM post b WHERE b.person_id = p.id AND b.role IN ('district-coordinator', 'school-coordinator'))"

const personNamedSelect = `SELECT p.id, p.given || ' ' || p.family AS name, p.email,
	COALESCE((SELECT GROUP_CONCAT(DISTINCT s.name) FROM post o JOIN school s ON s.id = o.school_id WHERE o.person_id = p.id), '') AS place,
	` + BuildsColumn + ` AS builds FROM person p`

// mostPeopleNamed are offered at once.
const mostPeopleNamed = 20

// StaffNamed finds active members of staff by name, e-mail and school at once:
// each typed word stands in one of them.
func StaffNamed(ctx context.Context, r sqlite.Reader, words []string) ([]PersonNamed, error) {
	var w sqlite.Where
	w.Add("p.active = 1")
	w.Add("EXISTS (SELECT 1 FROM post o WHERE o.person_id = p.id AND o.role IN ('district-coordinator', 'school-coordinator', 'teacher'))")
	for _, word := range words {
		w.Add(`(p.given || ' ' || p.family || ' ' || p.email || ' ' || COALESCE((SELECT GROUP_CONCAT(s.name) FROM post o JOIN school s ON s.id = o.school_id
			WHERE o.person_id = p.id), '')) LIKE ? ESCAPE '\'`, "%"+sqlite.EscapeLike(word)+"%")
	}
	var out []PersonNamed
	err := r.List(ctx, &out, personNamedSelect+w.String()+" ORDER BY p.family, p.given, p.id LIMIT ?", append(w.Args, mostPeopleNamed)...)
	return out, err
}

// PeopleNamed gives some people as a picker shows them.
func PeopleNamed(ctx context.Context, r sqlite.Reader, ids []int64) (map[int64]PersonNamed, error) {
	var rows []PersonNamed
	err := r.List(ctx, &rows, personNamedSelect+" WHERE p.id IN (SELECT value FROM json_each(?))", sqlite.JsonIDs(ids))
	out := map[int64]PersonNamed{}
	for _, p := range rows {
		out[p.ID] = p
	}
	return out, err
}

// EditorOf lists the items that name a person as an editor.
func EditorOf(ctx context.Context, r sqlite.Reader, person int64) ([]int64, error) {
	out := []int64{}
	err := r.List(ctx, &out, "SELECT item_id FROM item_editor WHERE person_id = ?", person)
	return out, err
}

// EditedBy tells which of some items name a person as an editor.
func EditedBy(ctx context.Context, r sqlite.Reader, person int64, items []int64) ([]int64, error) {
	var out []int64
	err := r.List(ctx, &out, "SELECT item_id FROM item_editor WHERE person_id = ? AND item_id IN (SELECT value FROM json_each(?))", person, sqlite.JsonIDs(items))
	return out, err
}
