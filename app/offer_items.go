package app

import (
	"context"
	"slices"

	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
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
	ToDecide []store.Offer
	Mine     []store.Offer
}

// Offers lists a person's.
func (a *App) Offers(ctx context.Context, v roster.Viewer) (Offers, error) {
	if !v.MayBuild() {
		return Offers{}, ErrForbidden
	}
	open, err := banksFor(ctx, a.store.Reader, v)
	if err != nil {
		return Offers{}, err
	}
	var out Offers
	if out.ToDecide, err = a.store.OffersWaiting(ctx, keptBy(v, open)); err != nil {
		return out, err
	}
	out.Mine, err = a.store.OffersBy(ctx, v.PersonID)
	return out, err
}

// keptBy are the banks that a viewer keeps, where others offer items.
func keptBy(v roster.Viewer, open banks) []int64 {
	ids := []int64{}
	for _, row := range open.rows {
		b := open.by[row.ID]
		if b.Kind != bank.Own && b.Kind != bank.Given && bank.May(v, bank.Keep, b, bank.Item{}).May {
			ids = append(ids, row.ID)
		}
	}
	return ids
}

// Offer offers an own copy, or an item of a bank of one's own or of a group, to a
// bank whose keepers decide.
func (a *App) Offer(ctx context.Context, v roster.Viewer, itemID int64, bankName, words string) (Offers, error) {
	if !v.MayBuild() {
		return Offers{}, ErrForbidden
	}
	if len(words) > mostReport {
		return Offers{}, invalid("/words", "Say it in at most %d letters.", mostReport)
	}
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		row, err := a.itemToOffer(ctx, tx, v, itemID)
		if err != nil {
			return err
		}
		to, err := a.bankToOffer(ctx, tx, v, row, bankName)
		if err != nil {
			return err
		}
		waiting, err := tx.OfferedTo(ctx, itemID)
		if err != nil {
			return err
		}
		if len(waiting) > 0 {
			return conflict("%s is offered already and waits for an answer.", row.Identifier)
		}
		if _, err := tx.AddOffer(ctx, store.Offer{ItemID: itemID, BankID: to.ID, PersonID: v.PersonID, Words: words, At: store.Millis(a.now())}); err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: "item.offer", thing: "item", id: itemID, title: row.Identifier, after: to.Name})
	})
	if err != nil {
		return Offers{}, err
	}
	return a.Offers(ctx, v)
}

// itemToOffer gives an item that a viewer may offer: one that they may change, in
// a bank or as an own copy.
func (a *App) itemToOffer(ctx context.Context, tx *store.Tx, v roster.Viewer, id int64) (store.Item, error) {
	row, err := tx.ItemByID(ctx, id)
	if err != nil {
		return row, err
	}
	if row.Assessment == 0 {
		row, _, err = a.itemFor(ctx, tx.Reader, v, id, bank.Change)
		return row, err
	}
	on, err := assessment(ctx, tx.Reader, v, row.Assessment)
	if err == nil && !v.MayChange(on.Owned()) {
		err = ErrForbidden
	}
	return row, err
}

func (a *App) bankToOffer(ctx context.Context, tx *store.Tx, v roster.Viewer, row store.Item, name string) (store.Bank, error) {
	open, err := banksFor(ctx, tx.Reader, v)
	if err != nil {
		return store.Bank{}, err
	}
	at := slices.IndexFunc(open.rows, func(b store.Bank) bool { return b.Name == name })
	if at < 0 {
		return store.Bank{}, invalid("/bank", "Choose one of the banks that are open to you.")
	}
	to := open.rows[at]
	if kind := bank.Kind(to.Kind); kind == bank.Own || kind == bank.Given || to.ID == row.BankID {
		return to, invalid("/bank", "Items are offered to the district’s, a school’s or a group’s bank.")
	}
	return to, nil
}

// DecideOffer answers an offer: an accepted item moves into the bank, an own copy is
// copied into it and stays on its line. The author is told.
func (a *App) DecideOffer(ctx context.Context, v roster.Viewer, id int64, state, answer string) (Offers, error) {
	if !v.MayBuild() {
		return Offers{}, ErrForbidden
	}
	if !slices.Contains([]string{offerAccepted, offerReturned, offerDeclined}, state) {
		return Offers{}, invalid("/state", "An offer is accepted, returned or declined.")
	}
	if state != offerAccepted || answer != "" {
		var err error
		if answer, err = wordsWithin("/answer", answer, mostReport); err != nil {
			return Offers{}, err
		}
	}
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		offer, err := tx.OfferByID(ctx, id)
		if err != nil {
			return err
		}
		open, err := banksFor(ctx, tx.Reader, v)
		switch {
		case err != nil:
			return err
		case !slices.Contains(keptBy(v, open), offer.BankID):
			return ErrNotFound
		case offer.State != offerWaiting:
			return conflict("This offer is answered already.")
		}
		path := itemPath(offer.ItemID)
		if state == offerAccepted {
			taken, err := a.takeOffer(ctx, tx, v, offer)
			if err != nil {
				return err
			}
			path = itemPath(taken)
		}
		if err := tx.DecideOffer(ctx, id, state, answer, v.PersonID, store.Millis(a.now())); err != nil {
			return err
		}
		if offer.PersonID != v.PersonID {
			if state != offerAccepted {
				path = "/today"
			}
			if err := a.tell(ctx, tx, offer.PersonID, path, "%s, which you offered to %s, is %s. %s", offer.Identifier, offer.Bank, state, answer); err != nil {
				return err
			}
		}
		return a.record(ctx, tx, v, act{name: "item.offer." + state, thing: "item", id: offer.ItemID, title: offer.Identifier, before: offer.Bank, after: answer})
	})
	if err != nil {
		return Offers{}, err
	}
	return a.Offers(ctx, v)
}

func (a *App) takeOffer(ctx context.Context, tx *store.Tx, v roster.Viewer, offer store.Offer) (int64, error) {
	row, err := tx.ItemByID(ctx, offer.ItemID)
	if err != nil {
		return 0, err
	}
	if row.Assessment == 0 {
		nv, err := a.sameAs(ctx, tx, v, row)
		if err != nil {
			return 0, err
		}
		nv.BankID = offer.BankID
		digest, err := a.digestOf(ctx, tx, nv)
		if err != nil {
			return 0, err
		}
		return row.ID, tx.MoveItem(ctx, row.ID, offer.BankID, digest)
	}
	to, err := tx.BankByID(ctx, offer.BankID)
	if err != nil {
		return 0, err
	}
	return a.copyInto(ctx, tx, v, row, to, offer.PersonID)
}

// maySeeOffered tells whether an item waits for a viewer's decision.
func maySeeOffered(ctx context.Context, r store.Reader, v roster.Viewer, open banks, item int64) (bool, error) {
	waiting, err := r.OfferedTo(ctx, item)
	kept := keptBy(v, open)
	return slices.ContainsFunc(waiting, func(id int64) bool { return slices.Contains(kept, id) }), err
}
