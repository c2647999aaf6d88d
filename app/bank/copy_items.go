package bank

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
)

// CopyItem puts a copy of an item into another bank; where it came from stays with it.
func (a *Bank) CopyItem(ctx context.Context, v roster.Viewer, id int64, bankName string) (int64, error) {
	var made int64
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		row, _, err := a.itemFor(ctx, tx.Reader, v, id, bank.Copy)
		if err != nil {
			return err
		}
		open, err := BanksFor(ctx, tx.Reader, v)
		if err != nil {
			return err
		}
		to, err := bankrows.BankCalled(ctx, tx.Reader, bankName)
		if errors.Is(err, desk.ErrNotFound) || err == nil && !writesIn(v, open, to.ID) {
			return desk.Invalid("/bank", "Choose one of the banks that you write in.")
		} else if err != nil {
			return err
		}
		made, err = a.copyInto(ctx, tx, v, row, to, v.PersonID)
		return err
	})
	return made, err
}

// copyInto makes a new item of an item's newest version.
func (a *Bank) copyInto(ctx context.Context, tx *store.Tx, v roster.Viewer, row bankrows.Item, to bankrows.Bank, owner int64) (int64, error) {
	identifier := ""
	for n := 1; ; n++ {
		identifier = fmt.Sprintf("%s-c%d", strings.SplitN(row.Identifier, "~", 2)[0], n)
		taken, err := bankrows.ItemNamed(ctx, tx.Reader, identifier)
		if err != nil {
			return 0, err
		}
		if !taken {
			break
		}
	}
	nv, err := a.sameAs(ctx, tx, v, row)
	if err != nil {
		return 0, err
	}
	nv.ItemID, nv.Number, nv.Identifier, nv.BankID, nv.OwnerID, nv.Origin = 0, 0, identifier, to.ID, owner, row.VersionID
	if nv.Digest, err = a.digestOf(ctx, tx, nv); err != nil {
		return 0, err
	}
	id, err := bankrows.PutItem(ctx, tx, nv)
	if err != nil {
		return 0, err
	}
	return id, a.Record(ctx, tx, v, desk.Act{Name: "item.copy", Thing: "item", ID: id, Title: identifier, Before: row.Identifier, After: nv.Digest})
}
