// Package bank knows what a district keeps in its item banks: who may do what
// with it, what is on hold, who sees which tag, what differs between two versions,
// how hard a passage reads, and which items are nearly the same.
package bank

import (
	"slices"

	"pineledger/core/roster"
)

// Kind is whose a bank is.
type Kind string

const (
	District Kind = "district" // everybody's who may read keys
	School   Kind = "school"   // one school's
	Group    Kind = "group"    // its members'
	Own      Kind = "own"      // one person's, seen by nobody else
	Given    Kind = "given"    // bought or given: read by all, changed by nobody
)

// Kinds in the order in which they are listed.
var Kinds = []Kind{District, School, Group, Own, Given}

// Standing is what a person is to a bank, least first.
type Standing string

const (
	Stranger Standing = "stranger"
	Reader   Standing = "reader"
	Writer   Standing = "writer"
	Keeper   Standing = "keeper" // decides who writes, what is accepted, and on which terms
)

// Bank is what rights depend on.
type Bank struct {
	ID       int64
	Kind     Kind
	SchoolID int64 // of a school's bank
	OwnerID  int64 // of one's own
	// Members are named persons; others stand as their posts say.
	Members map[int64]Standing
	// NoCopy and NoPrint are terms that the keepers set, or that came with a given bank.
	NoCopy, NoPrint bool
}

// Hold reserves an item: for an assessment, or for who set it until a date.
type Hold struct {
	ByID         int64 // who set it
	AssessmentID int64 // 0: for whoever set it
	// For tells who may change the assessment.
	For roster.Owned
}

// Item is what rights depend on. What nobody owns (OwnerID 0: it was brought in
// before there were people) is its bank's keepers'. Held is the hold in force now, nil without one.
type Item struct {
	OwnerID int64 // 0 for nobody's: the keepers' of its bank
	Editors []int64
	Held    *Hold // nil without a hold
}

// Act is something that a person may want to do with an item, or in its bank.
type Act string

const (
	See     Act = "see"
	Copy    Act = "copy"   // into another bank or file; the origin stays with it
	Change  Act = "change" // its text, key and metadata, as a next version
	Place   Act = "place"  // on an assessment
	Print   Act = "print"
	Reserve Act = "hold"  // reserve it, or let go of a hold
	Name    Act = "name"  // say who else may change it
	Write   Act = "write" // put new items into the bank
	Keep    Act = "keep"  // members, terms, offers
)

// Acts in the order of the table.
var Acts = []Act{See, Copy, Change, Place, Print, Reserve, Name, Write, Keep}

// Verdict tells whether an act is allowed, and where not, why, in words.
type Verdict struct {
	May bool
	Why string // why not; "" where one may
}

var yes = Verdict{May: true}

func no(why string) Verdict { return Verdict{Why: why} }

// StandingOf is what a person is to a bank.
func StandingOf(v roster.Viewer, b Bank) Standing {
	if b.Kind == Own {
		if b.OwnerID == v.PersonID && v.MayReadKeys() {
			return Keeper
		}
		return Stranger
	}
	if !v.MayReadKeys() {
		return Stranger // students and proctors see no bank, whoever named them
	}
	byPost := postStanding(v, b)
	if named := b.Members[v.PersonID]; rank(named) > rank(byPost) {
		return named
	}
	return byPost
}

func postStanding(v roster.Viewer, b Bank) Standing {
	s := v.Scope()
	switch {
	case s.District:
		return Keeper
	case b.Kind == School && slices.Contains(s.Schools, b.SchoolID):
		return Keeper
	case b.Kind == School && v.WorksAt(b.SchoolID), b.Kind == District, b.Kind == Given:
		return Reader
	}
	return Stranger
}

func rank(s Standing) int { return slices.Index([]Standing{Stranger, Reader, Writer, Keeper}, s) }

// May answers for one person, one act and one item of a bank. For Write and Keep
// the item does not matter.
func May(v roster.Viewer, act Act, b Bank, it Item) Verdict {
	standing := StandingOf(v, b)
	if standing == Stranger {
		return no("The bank is not open to you.")
	}
	switch act {
	case Keep:
		return when(standing == Keeper, "Only the bank's keepers do this.")
	case Write:
		return mayWrite(v, standing, b)
	}
	if it.Held != nil && !mayKnow(v, standing, it) {
		return no("The item is not offered at present.")
	}
	owns := it.OwnerID == v.PersonID || it.OwnerID == 0 && standing == Keeper
	its := owns || slices.Contains(it.Editors, v.PersonID)
	switch act {
	case See:
		return yes
	case Change:
		if b.Kind == Given {
			return no("A given bank is read only; make an own copy and change that.")
		}
		return when(its && v.MayBuild(), "Only its owner and the editors they name change an item.")
	case Name:
		return when(b.Kind != Given && v.MayBuild() && (owns || standing == Keeper), "Only its owner and the bank's keepers name editors.")
	case Reserve:
		return when(v.MayBuild() && (its || standing == Keeper || standing == Writer), "Only its owner, its editors and those who write in the bank reserve an item.")
	}
	return mayTake(v, act, b, it)
}

// mayTake answers for copy, place and print, which terms and holds stop.
func mayTake(v roster.Viewer, act Act, b Bank, it Item) Verdict {
	switch {
	case !v.MayBuild():
		return no("Coordinators do this.")
	case act == Copy && b.NoCopy:
		return no("The bank's terms allow no copies.")
	case act == Print && b.NoPrint:
		return no("The bank's terms allow no printing.")
	case act == Copy && it.Held != nil && it.Held.ByID != v.PersonID:
		return no("The item is on hold.")
	}
	return yes
}

// MayPlaceOn narrows Place to one assessment: a held item goes only where it is held for.
func MayPlaceOn(v roster.Viewer, b Bank, it Item, assessment int64) Verdict {
	if verdict := May(v, Place, b, it); !verdict.May {
		return verdict
	}
	h := it.Held
	switch {
	case h == nil, h.AssessmentID > 0 && h.AssessmentID == assessment, h.AssessmentID == 0 && h.ByID == v.PersonID:
		return yes
	case h.AssessmentID > 0:
		return no("The item is on hold for another assessment.")
	}
	return no("The item is on hold for somebody else.")
}

func mayWrite(v roster.Viewer, standing Standing, b Bank) Verdict {
	switch {
	case b.Kind == Given:
		return no("A given bank is read only.")
	case !v.MayBuild():
		return no("Coordinators write items.")
	}
	return when(rank(standing) >= rank(Writer), "The bank's keepers decide who writes in it; offer the item to them.")
}

// mayKnow tells whether a person may know of an item's hold: who set it, who owns
// or keeps the item, and who may change the assessment it is for.
func mayKnow(v roster.Viewer, standing Standing, it Item) bool {
	h := it.Held
	return standing == Keeper || it.OwnerID == v.PersonID || slices.Contains(it.Editors, v.PersonID) ||
		h.ByID == v.PersonID || h.AssessmentID > 0 && v.MayChange(h.For)
}

func when(ok bool, otherwise string) Verdict {
	if ok {
		return yes
	}
	return no(otherwise)
}

// Seen gives the ids of the banks that a person may look into.
func Seen(v roster.Viewer, banks []Bank) []int64 {
	out := []int64{}
	for _, b := range banks {
		if StandingOf(v, b) != Stranger {
			out = append(out, b.ID)
		}
	}
	return out
}
