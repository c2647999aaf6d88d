package bankrows

import (
	"context"

	"pineledger/store/sqlite"
)

// Offer is an item that its author would like to see in a bank.
type Offer struct {
	ID         int64  `db:"id"`
	ItemID     int64  `db:"item_id"`
	Identifier string `db:"identifier"`
	Stem       string `db:"stem"`
	BankID     int64  `db:"bank_id"`
	Bank       string `db:"bank"`
	PersonID   int64  `db:"person_id"`
	Person     string `db:"person"`
	Words      string `db:"words"`
	At         int64  `db:"at"`
	State      string `db:"state"`
	Answer     string `db:"answer"`
	Decider    string `db:"decider"`
	DecidedAt  *int64 `db:"decided_at"`
}

const offerSelect = `SELECT o.id, o.item_id, i.identifier, i.stem, o.bank_id, b.name AS bank, o.person_id, p.given || ' ' || p.family AS person, o.words, o.at, o.state, o.answer,
	COALESCE(d.given || ' ' || d.family, '') AS decider, o.decided_at
	FROM offer o JOIN item i ON i.id = o.item_id JOIN bank b ON b.id = o.bank_id JOIN person p ON p.id = o.person_id LEFT JOIN person d ON d.id = o.decided_by`

// OffersWaiting lists what waits for the keepers of some banks, the oldest first.
func OffersWaiting(ctx context.Context, r sqlite.Reader, banks []int64) ([]Offer, error) {
	var out []Offer
	err := r.List(ctx, &out, offerSelect+" WHERE o.state = 'waiting' AND o.bank_id IN (SELECT value FROM json_each(?)) ORDER BY o.at, o.id LIMIT 200", sqlite.JsonIDs(banks))
	return out, err
}

// OffersBy lists what a person has offered, the newest first.
func OffersBy(ctx context.Context, r sqlite.Reader, person int64) ([]Offer, error) {
	var out []Offer
	err := r.List(ctx, &out, offerSelect+" WHERE o.person_id = ? ORDER BY o.id DESC LIMIT 100", person)
	return out, err
}

// OfferByID gives an offer.
func OfferByID(ctx context.Context, r sqlite.Reader, id int64) (Offer, error) {
	var o Offer
	err := r.Get(ctx, &o, offerSelect+" WHERE o.id = ?", id)
	return o, err
}

// OfferedTo gives the banks that an item waits to be taken into.
func OfferedTo(ctx context.Context, r sqlite.Reader, item int64) ([]int64, error) {
	var out []int64
	err := r.List(ctx, &out, "SELECT bank_id FROM offer WHERE item_id = ? AND state = 'waiting'", item)
	return out, err
}

// AddOffer keeps an offer.
func AddOffer(ctx context.Context, t *sqlite.Tx, o Offer) (int64, error) {
	return t.Insert(ctx, "INSERT INTO offer (item_id, bank_id, person_id, words, at, state) VALUES (?, ?, ?, ?, ?, 'waiting')", o.ItemID, o.BankID, o.PersonID, o.Words, o.At)
}

// DecideOffer keeps what became of an offer.
func DecideOffer(ctx context.Context, t *sqlite.Tx, id int64, state, answer string, by, at int64) error {
	return t.Exec(ctx, "UPDATE offer SET state = ?, answer = ?, decided_by = ?, decided_at = ? WHERE id = ?", state, answer, by, at, id)
}

// MoveItem puts an item into another bank; digest is what an import of it has then.
func MoveItem(ctx context.Context, t *sqlite.Tx, item, bank int64, digest string) error {
	return t.Exec(ctx, "UPDATE item SET bank_id = ?, digest = ? WHERE id = ?", bank, digest, item)
}

// Confirm notes that somebody has looked at the alignment of an own copy.
func Confirm(ctx context.Context, t *sqlite.Tx, item int64) error {
	return t.Exec(ctx, "UPDATE item SET unconfirmed = 0 WHERE id = ?", item)
}
