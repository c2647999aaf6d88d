package bank_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"pineledger/core/bank"
	"pineledger/core/roster"
)

func anyViewer(t *rapid.T) roster.Viewer {
	return viewer(rapid.Int64Range(1, 4).Draw(t, "person"),
		rapid.SampledFrom([]roster.Role{roster.DistrictCoordinator, roster.SchoolCoordinator, roster.Teacher, roster.Proctor, roster.Student}).Draw(t, "role"),
		rapid.Int64Range(1, 2).Draw(t, "school"))
}

func anyBank(t *rapid.T) bank.Bank {
	b := bank.Bank{Kind: rapid.SampledFrom(bank.Kinds).Draw(t, "kind"), NoCopy: rapid.Bool().Draw(t, "noCopy"), NoPrint: rapid.Bool().Draw(t, "noPrint")}
	switch b.Kind {
	case bank.School:
		b.SchoolID = rapid.Int64Range(1, 2).Draw(t, "of")
	case bank.Own:
		b.OwnerID = rapid.Int64Range(1, 4).Draw(t, "of")
	}
	if b.Kind != bank.Own && rapid.Bool().Draw(t, "named") {
		b.Members = map[int64]bank.Standing{rapid.Int64Range(1, 4).Draw(t, "who"): rapid.SampledFrom([]bank.Standing{bank.Reader, bank.Writer, bank.Keeper}).Draw(t, "standing")}
	}
	return b
}

func anyItem(t *rapid.T) bank.Item {
	it := bank.Item{OwnerID: rapid.Int64Range(0, 4).Draw(t, "owner")}
	if rapid.Bool().Draw(t, "edited") {
		it.Editors = []int64{rapid.Int64Range(1, 4).Draw(t, "editor")}
	}
	if rapid.Bool().Draw(t, "held") {
		it.Held = &bank.Hold{ByID: rapid.Int64Range(1, 4).Draw(t, "by"), AssessmentID: rapid.Int64Range(0, 2).Draw(t, "for"), For: roster.Owned{SchoolID: rapid.Int64Range(0, 2).Draw(t, "forSchool")}}
	}
	return it
}

func TestLawsOfRights(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		v, b, it := anyViewer(t), anyBank(t), anyItem(t)
		may := func(act bank.Act, b bank.Bank, it bank.Item) bool { return bank.May(v, act, b, it).May }
		if !v.MayReadKeys() {
			for _, act := range bank.Acts {
				assert.False(t, may(act, b, it), "who may not read keys may do nothing")
			}
		}
		for _, act := range bank.Acts {
			if act != bank.Write && act != bank.Keep {
				assert.False(t, may(act, b, it) && !may(bank.See, b, it), "%s without seeing", act)
			}
			free := it
			free.Held = nil
			assert.False(t, may(act, b, it) && !may(act, b, free), "a hold gives no right: %s", act)
			open := b
			open.NoCopy, open.NoPrint = false, false
			assert.False(t, may(act, b, it) && !may(act, open, it), "terms give no right: %s", act)
			if b.Kind != bank.Own {
				kept := b
				kept.Members = map[int64]bank.Standing{v.PersonID: bank.Keeper}
				assert.False(t, may(act, b, it) && !may(act, kept, it), "a keeper may at least what others may: %s", act)
			}
		}
		if may(bank.Change, b, it) {
			assert.NotEqual(t, bank.Given, b.Kind)
		}
		for assessment := range int64(3) {
			if bank.MayPlaceOn(v, b, it, assessment).May {
				assert.True(t, may(bank.Place, b, it))
				assert.False(t, it.Held != nil && it.Held.AssessmentID > 0 && it.Held.AssessmentID != assessment, "a held item goes where it is held for alone")
			}
		}
	})
}
