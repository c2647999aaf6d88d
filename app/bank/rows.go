package bank

import (
	"pineledger/core/bank"
	"pineledger/store/bankrows"
)

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
	Tag            = bankrows.Tag
	VersionListed  = bankrows.VersionListed
)

// Marks around what a search hit.
const (
	HitBegins = bankrows.HitBegins
	HitEnds   = bankrows.HitEnds
)
