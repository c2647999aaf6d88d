package bank_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/bank"
	"pineledger/core/roster"
)

const (
	heron  = 1 // the school of the bank, where there is one
	quarry = 2
	owner  = 70
	editor = 71
	named  = 72
)

func viewer(person int64, role roster.Role, school int64) roster.Viewer {
	return roster.Viewer{PersonID: person, Posts: []roster.Post{{Role: role, SchoolID: school}}}
}

// Each role at each place, beside each kind of bank. A letter an allowed act, in the order see, copy,
// change, place, print, hold, name editors, write, keep.
func TestWhoMayDoWhatInABank(t *testing.T) {
	letters := map[bank.Act]string{bank.See: "s", bank.Copy: "c", bank.Change: "C", bank.Place: "p", bank.Print: "P", bank.Reserve: "h", bank.Name: "n", bank.Write: "w", bank.Keep: "k"}
	people := []struct {
		name   string
		viewer roster.Viewer
		// district, school, group, own, given
		want [5]string
	}{
		{"district coordinator", viewer(1, roster.DistrictCoordinator, 0), [5]string{"scpPhnwk", "scpPhnwk", "scpPhnwk", "", "scpPhk"}},
		{"coordinator of the school", viewer(2, roster.SchoolCoordinator, heron), [5]string{"scpP", "scpPhnwk", "", "", "scpP"}},
		{"coordinator of another school", viewer(3, roster.SchoolCoordinator, quarry), [5]string{"scpP", "", "", "", "scpP"}},
		{"teacher of the school", viewer(4, roster.Teacher, heron), [5]string{"s", "s", "", "", "s"}},
		{"teacher of another school", viewer(5, roster.Teacher, quarry), [5]string{"s", "", "", "", "s"}},
		{"proctor of the school", viewer(6, roster.Proctor, heron), [5]string{}},
		{"student of the school", viewer(7, roster.Student, heron), [5]string{}},
		{"nobody's", roster.Viewer{PersonID: 8}, [5]string{}},
		{"owner, a coordinator of another school", viewer(owner, roster.SchoolCoordinator, quarry), [5]string{"scCpPhn", "", "", "scCpPhnwk", "scpPh"}},
		{"editor, a coordinator of another school", viewer(editor, roster.SchoolCoordinator, quarry), [5]string{"scCpPh", "", "", "", "scpPh"}},
		{"reader by name", viewer(named, roster.SchoolCoordinator, quarry), [5]string{"scpP", "scpP", "scpP", "", "scpP"}},
		{"writer by name", viewer(named+1, roster.SchoolCoordinator, quarry), [5]string{"scpPhw", "scpPhw", "scpPhw", "", "scpPh"}},
		{"keeper by name", viewer(named+2, roster.SchoolCoordinator, quarry), [5]string{"scpPhnwk", "scpPhnwk", "scpPhnwk", "", "scpPhk"}},
		{"teacher who is a writer by name", viewer(named+1, roster.Teacher, quarry), [5]string{"s", "s", "s", "", "s"}},
		{"proctor who is a keeper by name", viewer(named+2, roster.Proctor, heron), [5]string{}},
	}
	for _, p := range people {
		for k, kind := range bank.Kinds {
			b := bank.Bank{Kind: kind, Members: map[int64]bank.Standing{named: bank.Reader, named + 1: bank.Writer, named + 2: bank.Keeper}}
			switch kind {
			case bank.School:
				b.SchoolID = heron
			case bank.Own:
				b.OwnerID, b.Members = owner, nil
			}
			var got strings.Builder
			for _, act := range bank.Acts {
				verdict := bank.May(p.viewer, act, b, bank.Item{OwnerID: owner, Editors: []int64{editor}})
				assert.NotEqual(t, verdict.May, verdict.Why != "", "%s, %s, %s: a refusal says why", p.name, kind, act)
				if verdict.May {
					got.WriteString(letters[act])
				}
			}
			assert.Equal(t, p.want[k], got.String(), "%s in a bank of kind %s", p.name, kind)
		}
	}
}

func TestTermsStopCopiesAndPrints(t *testing.T) {
	v := viewer(2, roster.SchoolCoordinator, heron)
	b := bank.Bank{Kind: bank.Given, NoCopy: true, NoPrint: true}
	for act, want := range map[bank.Act]bool{bank.See: true, bank.Place: true, bank.Copy: false, bank.Print: false} {
		assert.Equal(t, want, bank.May(v, act, b, bank.Item{}).May, string(act))
	}
}

// Who knows of a hold, and where a held item may go: to another assessment, to
// the one it is held for, into a copy.
func TestHolds(t *testing.T) {
	district := viewer(1, roster.DistrictCoordinator, 0)
	atHeron := viewer(2, roster.SchoolCoordinator, heron)
	atQuarry := viewer(3, roster.SchoolCoordinator, quarry)
	teacher := viewer(4, roster.Teacher, heron)
	b := bank.Bank{Kind: bank.District}
	forHeron := &bank.Hold{ByID: 1, AssessmentID: 9, For: roster.Owned{SchoolID: heron}}
	untilADate := &bank.Hold{ByID: atQuarry.PersonID}
	cases := []struct {
		name                     string
		held                     *bank.Hold
		v                        roster.Viewer
		sees, other, own, copies bool
	}{
		{"without a hold", nil, atQuarry, true, true, true, true},
		{"who set it, a keeper", forHeron, district, true, false, true, true},
		{"who changes the assessment it is for", forHeron, atHeron, true, false, true, false},
		{"who may not know", forHeron, atQuarry, false, false, false, false},
		{"a teacher", forHeron, teacher, false, false, false, false},
		{"until a date, who set it", untilADate, atQuarry, true, true, true, true},
		{"until a date, another coordinator", untilADate, atHeron, false, false, false, false},
		{"until a date, a keeper", untilADate, district, true, false, false, false},
		{"until a date, the item's owner", untilADate, viewer(owner, roster.SchoolCoordinator, heron), true, false, false, false},
		{"until a date, the item's editor", untilADate, viewer(editor, roster.SchoolCoordinator, heron), true, false, false, false},
		{"for an assessment of theirs, which nobody set", &bank.Hold{ByID: 99, For: roster.Owned{SchoolID: heron}}, atHeron, false, false, false, false},
	}
	for _, c := range cases {
		it := bank.Item{OwnerID: owner, Editors: []int64{editor}, Held: c.held}
		got := []bool{bank.May(c.v, bank.See, b, it).May, bank.MayPlaceOn(c.v, b, it, 8).May, bank.MayPlaceOn(c.v, b, it, 9).May, bank.May(c.v, bank.Copy, b, it).May}
		assert.Equal(t, []bool{c.sees, c.other, c.own, c.copies}, got, c.name)
	}
}

// A hold without an assessment is its holder's own; one with, whoever's it is, says so.
func TestWhoseHoldItIs(t *testing.T) {
	holder, other := viewer(4, roster.DistrictCoordinator, heron), viewer(5, roster.DistrictCoordinator, heron)
	b := bank.Bank{Kind: bank.District}
	free := bank.Item{Held: &bank.Hold{ByID: 4}}
	assert.True(t, bank.MayPlaceOn(holder, b, free, 0).May)
	assert.True(t, bank.MayPlaceOn(holder, b, free, 1).May)
	assert.Equal(t, bank.Verdict{Why: "The item is on hold for somebody else."}, bank.MayPlaceOn(other, b, free, 0))
	first := bank.Item{Held: &bank.Hold{ByID: 4, AssessmentID: 1, For: roster.Owned{SchoolID: heron}}}
	assert.True(t, bank.MayPlaceOn(other, b, first, 1).May)
	assert.Equal(t, bank.Verdict{Why: "The item is on hold for another assessment."}, bank.MayPlaceOn(holder, b, first, 2))
}

func TestBanksSeen(t *testing.T) {
	banks := []bank.Bank{{ID: 1, Kind: bank.District}, {ID: 2, Kind: bank.School, SchoolID: heron}, {ID: 3, Kind: bank.School, SchoolID: quarry},
		{ID: 4, Kind: bank.Own, OwnerID: 4}, {ID: 5, Kind: bank.Own, OwnerID: 5}, {ID: 6, Kind: bank.Given}}
	assert.Equal(t, []int64{1, 2, 4, 6}, bank.Seen(viewer(4, roster.Teacher, heron), banks))
	assert.Empty(t, bank.Seen(viewer(9, roster.Student, heron), banks))
}

func TestTagsByScope(t *testing.T) {
	teacher := viewer(4, roster.Teacher, heron)
	teacher.Courses = []int64{30}
	people := []roster.Viewer{viewer(1, roster.DistrictCoordinator, 0), viewer(2, roster.SchoolCoordinator, heron), viewer(3, roster.SchoolCoordinator, quarry), teacher, viewer(6, roster.Proctor, heron), viewer(7, roster.Student, heron)}
	cases := []struct {
		tag                 bank.Tag
		sees, tags, renames string // a letter a person: y or n
	}{
		{bank.Tag{Scope: bank.ForEveryone}, "yyyynn", "yyynnn", "ynnnnn"},
		{bank.Tag{Scope: bank.ForSchool, ScopeID: heron}, "yynynn", "yynynn", "yynnnn"},
		{bank.Tag{Scope: bank.ForCourse, ScopeID: 30}, "ynnynn", "ynnynn", "ynnnnn"},
		{bank.Tag{Scope: bank.ForPerson, ScopeID: 4}, "nnnynn", "nnnynn", "nnnynn"},
		{bank.Tag{Scope: "else"}, "nnnnnn", "nnnnnn", "ynnnnn"},
	}
	for _, c := range cases {
		var sees, tags, renames strings.Builder
		for _, v := range people {
			for w, ok := range map[*strings.Builder]bool{&sees: bank.SeesTag(v, c.tag), &tags: bank.MayTag(v, c.tag), &renames: bank.MayRename(v, c.tag)} {
				w.WriteString(map[bool]string{true: "y", false: "n"}[ok])
			}
		}
		assert.Equal(t, []string{c.sees, c.tags, c.renames}, []string{sees.String(), tags.String(), renames.String()}, "%v", c.tag)
	}
}

func TestTypedTags(t *testing.T) {
	cases := map[string][]string{
		"":                           {},
		" Tide tables, calculator ":  {"tide-tables", "calculator"},
		"one;two,one, ,--,ONE":       {"one", "two"},
		"salt  marsh - survey":       {"salt-marsh-survey"},
		strings.Repeat("långt ", 20): {"långt-långt-långt-långt-långt-långt-lång"},
	}
	for typed, want := range cases {
		assert.Equal(t, want, bank.TagNames(typed), typed)
	}
}

func TestEase(t *testing.T) {
	for p, want := range map[int64]bank.Ease{0: bank.Hard, 399: bank.Hard, 400: bank.Medium, 699: bank.Medium, 700: bank.Easy, 1000: bank.Easy} {
		assert.Equal(t, want, bank.EaseOf(&p), fmt.Sprint(p))
	}
	assert.Equal(t, bank.EaseUnknown, bank.EaseOf(nil))
}
