// Package bank is the room of items: banks and who may do what in them, search,
// the item's page, tags, the media shelf, passages, and what people say of items.
package bank

import (
	"context"

	"pineledger/app/desk"
	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/cutrows"
)

// Bank finds, shows, tags and copies the items of banks.
type Bank struct{ *desk.Desk }

// Shelf keeps pictures, sounds and passages.
type Shelf struct {
	*desk.Desk
	bank *Bank
}

// Word carries what people say of items: offers, reports, holds, what must not meet.
type Word struct {
	*desk.Desk
	bank *Bank
}

// Writing keeps drafts of items until they are versions.
type Writing struct {
	*desk.Desk
	bank *Bank

	// KeepCopy puts a draft that was begun on a line onto that line. The room of
	// assessments sets it: it alone knows lines.
	KeepCopy func(context.Context, *store.Tx, roster.Viewer, ItemDraft, bankrows.NewVersion) (int64, error)
}

// New opens the room.
func New(d *desk.Desk) (*Bank, *Shelf, *Word, *Writing) {
	b := &Bank{d}
	return b, &Shelf{d, b}, &Word{d, b}, &Writing{Desk: d, bank: b}
}

// ItemMeta is what an author says of an item beside the item itself.
type ItemMeta = bank.DraftMeta

// What this room gives as the store keeps it.
type (
	BankMember     = bankrows.BankMember
	Framework      = bankrows.Framework
	Hold           = bankrows.Hold
	Item           = bankrows.Item
	ItemComment    = bankrows.ItemComment
	DraftListed    = bankrows.ItemDraft
	ItemSort       = bankrows.ItemSort
	LinkedStandard = bankrows.LinkedStandard
	MediaListed    = bankrows.MediaListed
	Notice         = bankrows.Notice
	Offer          = bankrows.Offer
	Passage        = bankrows.Passage
	PersonNamed    = bankrows.PersonNamed
	SavedSearch    = bankrows.SavedSearch
	Seen           = bankrows.Seen
	OnScale        = cutrows.OnScale
	Tag            = bankrows.Tag
	VersionListed  = bankrows.VersionListed
)

// Marks around what a search hit.
const (
	HitBegins = bankrows.HitBegins
	HitEnds   = bankrows.HitEnds
)
