package bank

import (
	"context"
	"slices"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// States of an offer.
const (
	offerWaiting  = "waiting"
	offerAccepted = "accepted"
	offerReturned = "returned" // with words, to be changed and offered again
	offerDeclined = "declined"
)

// Offers are what waits for a person's decision, and what they have offered.
type Offers struct {
	ToDecide []bankrows.Offer
	Mine     []bankrows.Offer
}

// Offers lists a person's.
func (a *Word) Offers(ctx context.Context, v roster.Viewer) (Offers, error) {
	if !v.MayBuild() {
		return Offers{}, desk.ErrForbidden
	}
	open, err := BanksFor(ctx, a.Store.Reader, v)
	if err != nil {
		return Offers{}, err
	}
	var out Offers
	if out.ToDecide, err = bankrows.OffersWaiting(ctx, a.Store.Reader, keptBy(v, open)); err != nil {
		return out, err
	}
	out.Mine, err = bankrows.OffersBy(ctx, a.Store.Reader, v.PersonID)
	return out, err
}

// keptBy are the banks that a viewer keeps, where others offer items.
func keptBy(v roster.Viewer, open banks) []int64 {
	ids := []int64{}
	for _, row := range open.Rows {
		b := open.By[row.ID]
		if b.Kind != bank.Own && b.Kind != bank.Given && bank.May(v, bank.Keep, b, bank.Item{}).May {
			ids = append(ids, row.ID)
		}
	}
	return ids
}

// Offer offers an own copy, or an item of a bank of one's own or of a group, to a
// bank whose keepers decide.
func (a *Word) Offer(ctx context.Context, v roster.Viewer, itemID int64, bankName, words string) (Offers, error) {
	if !v.MayBuild() {
		return Offers{}, desk.ErrForbidden
	}
	if len(words) > mostReport {
		return Offers{}, desk.Invalid("/words", "Use at most %d characters.", mostReport)
	}
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := a.itemToOffer(ctx, tx, v, itemID)
		if err != nil {
			return err
		}
		to, err := a.bankToOffer(ctx, tx, v, row, bankName)
		if err != nil {
			return err
		}
		waiting, err := bankrows.OfferedTo(ctx, tx.Reader, itemID)
		if err != nil {
			return err
		}
		if len(waiting) > 0 {
			return desk.Conflict("%s is offered already and waits for an answer.", row.Identifier)
		}
		if _, err := bankrows.AddOffer(ctx, tx, bankrows.Offer{ItemID: itemID, BankID: to.ID, PersonID: v.PersonID, Words: words, At: store.Millis(a.Now())}); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "item.offer", Thing: "item", ID: itemID, Title: row.Identifier, After: to.Name})
	})
	if err != nil {
		return Offers{}, err
	}
	return a.Offers(ctx, v)
}

// itemToOffer gives an item that a viewer may offer: one that they may change, in
// a bank or as an own copy.
func (a *Word) itemToOffer(ctx context.Context, tx *store.Tx, v roster.Viewer, id int64) (bankrows.Item, error) {
	row, err := bankrows.ItemByID(ctx, tx.Reader, id)
	if err != nil {
		return row, err
	}
	if row.Assessment == 0 {
		row, _, err = a.bank.itemFor(ctx, tx.Reader, v, id, bank.Change)
		return row, err
	}
	on, err := desk.Assessment(ctx, tx.Reader, v, row.Assessment)
	if err == nil && !v.MayChange(on.Owned()) {
		err = desk.ErrForbidden
	}
	return row, err
}

func (a *Word) bankToOffer(ctx context.Context, tx *store.Tx, v roster.Viewer, row bankrows.Item, name string) (bankrows.Bank, error) {
	open, err := BanksFor(ctx, tx.Reader, v)
	if err != nil {
		return bankrows.Bank{}, err
	}
	at := slices.IndexFunc(open.Rows, func(b bankrows.Bank) bool { return b.Name == name })
	if at < 0 {
		return bankrows.Bank{}, desk.Invalid("/bank", "Choose one of the banks that are open to you.")
	}
	to := open.Rows[at]
	if kind := bank.Kind(to.Kind); kind == bank.Own || kind == bank.Given || to.ID == row.BankID {
		return to, desk.Invalid("/bank", "Items are offered to the district’s, a school’s or a group’s bank.")
	}
	return to, nil
}

// DecideOffer answers an offer: an accepted item moves into the bank, an own copy is
// copied into it and stays on its line. The author is told.
func (a *Word) DecideOffer(ctx context.Context, v roster.Viewer, id int64, state, answer string) (Offers, error) {
	if !v.MayBuild() {
		return Offers{}, desk.ErrForbidden
	}
	if !slices.Contains([]string{offerAccepted, offerReturned, offerDeclined}, state) {
		return Offers{}, desk.Invalid("/state", "An offer is accepted, returned or declined.")
	}
	if state != offerAccepted || answer != "" {
		var err error
		if answer, err = wordsWithin("/answer", answer, mostReport); err != nil {
			return Offers{}, err
		}
	}
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		offer, err := bankrows.OfferByID(ctx, tx.Reader, id)
		if err != nil {
			return err
		}
		open, err := BanksFor(ctx, tx.Reader, v)
		switch {
		case err != nil:
			return err
		case !slices.Contains(keptBy(v, open), offer.BankID):
			return desk.ErrNotFound
		case offer.State != offerWaiting:
			return desk.Conflict("This offer is answered already.")
		}
		path := itemPath(offer.ItemID)
		if state == offerAccepted {
			taken, err := a.takeOffer(ctx, tx, v, offer)
			if err != nil {
				return err
			}
			path = itemPath(taken)
		}
		if err := bankrows.DecideOffer(ctx, tx, id, state, answer, v.PersonID, store.Millis(a.Now())); err != nil {
			return err
		}
		if offer.PersonID != v.PersonID {
			if state != offerAccepted {
				path = "/today"
			}
			if err := a.bank.tell(ctx, tx, offer.PersonID, path, "%s, which you offered to %s, is %s. %s", offer.Identifier, offer.Bank, state, answer); err != nil {
				return err
			}
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "item.offer." + state, Thing: "item", ID: offer.ItemID, Title: offer.Identifier, Before: offer.Bank, After: answer})
	})
	if err != nil {
		return Offers{}, err
	}
	return a.Offers(ctx, v)
}

func (a *Word) takeOffer(ctx context.Context, tx *store.Tx, v roster.Viewer, offer bankrows.Offer) (int64, error) {
	row, err := bankrows.ItemByID(ctx, tx.Reader, offer.ItemID)
	if err != nil {
		return 0, err
	}
	if row.Assessment == 0 {
		nv, err := a.bank.sameAs(ctx, tx, v, row)
		if err != nil {
			return 0, err
		}
		nv.BankID = offer.BankID
		digest, err := a.bank.digestOf(ctx, tx, nv)
		if err != nil {
			return 0, err
		}
		return row.ID, bankrows.MoveItem(ctx, tx, row.ID, offer.BankID, digest)
	}
	to, err := bankrows.BankByID(ctx, tx.Reader, offer.BankID)
	if err != nil {
		return 0, err
	}
	return a.bank.copyInto(ctx, tx, v, row, to, offer.PersonID)
}

// maySeeOffered tells whether an item waits for a viewer's decision.
func maySeeOffered(ctx context.Context, r store.Reader, v roster.Viewer, open banks, item int64) (bool, error) {
	waiting, err := bankrows.OfferedTo(ctx, r, item)
	kept := keptBy(v, open)
	return slices.ContainsFunc(waiting, func(id int64) bool { return slices.Contains(kept, id) }), err
}
