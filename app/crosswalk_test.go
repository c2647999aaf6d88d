package app_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/app/intake"
	"pineledger/store/bankrows"
)

// Another framework, with links to Calder; and a newer edition of Calder that uses
// the same codes.
const (
	seaboard = `{"CFDocument":{"identifier":"sb","title":"Seaboard","subject":["Mathematics"]},"CFItems":[
		{"identifier":"s1","humanCodingScheme":"SB.1","fullStatement":"Ratios"},{"identifier":"s1a","humanCodingScheme":"SB.1a","fullStatement":"Unit rates"},
		{"identifier":"s2","humanCodingScheme":"SB.2","fullStatement":"Shapes"},{"identifier":"s3","humanCodingScheme":"SB.3","fullStatement":"All of mathematics"}],
		"CFAssociations":[{"associationType":"isChildOf","originNodeURI":{"identifier":"s1a"},"destinationNodeURI":{"identifier":"s1"}},
		{"associationType":"exactMatchOf","originNodeURI":{"identifier":"s1"},"destinationNodeURI":{"identifier":"rr"}},
		{"associationType":"isRelatedTo","originNodeURI":{"identifier":"fs"},"destinationNodeURI":{"identifier":"s2"}},
		{"associationType":"isPartOf","originNodeURI":{"identifier":"fs"},"destinationNodeURI":{"identifier":"s3"}}]}`
	newer = `{"CFDocument":{"identifier":"doc2","title":"Calder 2028","subject":["Mathematics"],"version":"2028"},"CFItems":[
		{"identifier":"rr2","humanCodingScheme":"M6.RR","fullStatement":"Ratio and rate"},{"identifier":"fs2","humanCodingScheme":"M6.SH","fullStatement":"Shapes"}],
		"CFAssociations":[{"associationType":"replacedBy","originNodeURI":{"identifier":"rr"},"destinationNodeURI":{"identifier":"rr2"}},
		{"associationType":"isRelatedTo","originNodeURI":{"identifier":"fs2"},"destinationNodeURI":{"identifier":"fs"}},
		{"associationType":"isRelatedTo","originNodeURI":{"identifier":"rr2"},"destinationNodeURI":{"identifier":"rr"}}]}`
)

func (w *world) standard(code string) int64 {
	w.Helper()
	found, err := bankrows.StandardsByCode(w.ctx, w.store.Reader, []string{code})
	require.NoError(w, err)
	require.Len(w, found, 1, code)
	return found[0].ID
}

func (w *world) aligned(identifier, code string) {
	w.Helper()
	w.take(w.coordinator, intake.ImportItems, w.file("sb.csv", "identifier,bank,kind,stem,choice_1,choice_2,key,standards,subject,grade\n"+
		identifier+",Bank,single-choice,Question "+identifier+",a,b,A,"+code+",mathematics,06\n"), 1)
}

// A search by a standard finds what is aligned to its matches in other frameworks,
// and says through which links; what is wider than it is left out.
func TestASearchGoesThroughCrosswalks(t *testing.T) {
	w := newWorld(t)
	w.take(w.coordinator, intake.ImportStandards, w.file("sb.json", seaboard), 7)
	r, err := w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportStandards, Name: "sb.json", Path: w.file("sb2.json", seaboard)}, nil)
	require.NoError(t, err)
	assert.Equal(t, 7, r.Counts.Unchanged, "the same file again changes nothing; links are counted too")
	w.aligned("S1", "SB.1a")
	w.aligned("S2", "SB.2")
	w.aligned("S3", "SB.3")
	in := bank.ItemSearch{Standard: w.standard("M6.RR")}
	assert.ElementsMatch(t, []string{"I1", "I3", "S1"}, w.finds(w.coordinator, in))
	page, err := w.app.Bank.Items(w.ctx, w.coordinator, in)
	require.NoError(t, err)
	require.Len(t, page.Links, 1)
	assert.Equal(t, []string{"M6.RR", "SB.1", "Seaboard", "exactMatchOf"}, []string{page.Links[0].Code, page.Links[0].OtherCode, page.Links[0].Framework, page.Links[0].Kind})
	in.Unlinked = true
	assert.ElementsMatch(t, []string{"I1", "I3"}, w.finds(w.coordinator, in))
	assert.ElementsMatch(t, []string{"I2", "I3", "S2"}, w.finds(w.coordinator, bank.ItemSearch{Standard: w.standard("M6.FS")}), "of what it is a part nothing is taken")
	assert.ElementsMatch(t, []string{"I2", "I3", "S3"}, w.finds(w.coordinator, bank.ItemSearch{Standard: w.standard("SB.3")}), "but its parts are found")
	assert.ElementsMatch(t, []string{"I1", "I3", "S1"}, w.finds(w.coordinator, bank.ItemSearch{Standard: w.standard("SB.1")}), "links go both ways")
}

// A new edition shows what is to be aligned again and proposes how; codes that both
// editions use are kept apart.
func TestANewEditionIsAlignedTo(t *testing.T) {
	w := newWorld(t)
	w.take(w.coordinator, intake.ImportStandards, w.file("new.json", newer), 5)
	old, fresh := w.standard("M6.RR"), w.standard("M6.RR@2028")
	require.NotEqual(t, old, fresh)
	frameworks, err := w.app.Bank.Frameworks(w.ctx, w.coordinator)
	require.NoError(t, err)
	ids := map[string]int64{}
	for _, f := range frameworks {
		ids[f.Title] = f.ID
	}
	list, err := w.app.Intake.Realignments(w.ctx, w.coordinator, ids["Calder"], ids["Calder 2028"])
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Equal(t, []any{"M6.RR", 2, "M6.RR@2028", "replacedBy"}, []any{list[0].Code, list[0].Items, list[0].Proposals[0].OtherCode, list[0].Proposals[0].Kind})
	assert.Equal(t, []any{"M6.FS", 2, "M6.SH", "isRelatedTo"}, []any{list[1].Code, list[1].Items, list[1].Proposals[0].OtherCode, list[1].Proposals[0].Kind})

	// The bank's items were brought in before there were people: they are its keepers'.
	plan, err := w.app.Intake.Realign(w.ctx, w.coordinator, old, []string{"M6.RR@2028"}, true, false)
	require.NoError(t, err)
	assert.Equal(t, 2, plan.Changed)
	done, err := w.app.Intake.Realign(w.ctx, w.coordinator, old, []string{"M6.RR@2028"}, true, true)
	require.NoError(t, err)
	in := bank.ItemSearch{Standard: fresh, Unlinked: true}
	assert.ElementsMatch(t, []string{"I1", "I3"}, w.finds(w.coordinator, in))
	list, err = w.app.Intake.Realignments(w.ctx, w.coordinator, ids["Calder"], ids["Calder 2028"])
	require.NoError(t, err)
	assert.Len(t, list, 1)
	_, err = w.app.Bank.UndoChange(w.ctx, w.coordinator, done.ID)
	require.NoError(t, err)
	assert.Empty(t, w.finds(w.coordinator, in))
	_, err = w.app.Intake.Realignments(w.ctx, w.teacher, 1, 2)
	assert.ErrorIs(t, err, desk.ErrForbidden)
}

// What a newer edition holds no more is retired: out of the tree and its counts, and kept where it is used.
func TestAnEditionRetiresWhatItHoldsNoMore(t *testing.T) {
	w := newWorld(t)
	edition := func(changed, items string) string {
		return `{"CFDocument":{"identifier":"sb","title":"Seaboard","subject":"Mathematics","lastChangeDateTime":"` + changed + `"},"CFItems":[` + items + `],"CFAssociations":[
			{"associationType":"isChildOf","originNodeURI":{"identifier":"s2"},"destinationNodeURI":{"identifier":"s1"}}]}`
	}
	const one, two, three = `{"identifier":"s1","humanCodingScheme":"SB.1","fullStatement":"Ratios"}`, `{"identifier":"s2","humanCodingScheme":"SB.2","fullStatement":"Rates"}`, `{"identifier":"s3","humanCodingScheme":"SB.3","fullStatement":"Shapes"}`
	w.take(w.coordinator, intake.ImportStandards, w.file("a.json", edition("2026-01-01T00:00:00Z", one+","+two)), 2)
	w.aligned("S1", "SB.1")
	w.aligned("S2", "SB.2")
	again := func(file string, older bool) (intake.ImportReport, error) {
		return w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportStandards, Name: "b.json", Path: w.file("b.json", file), Older: older}, nil)
	}
	r, err := again(edition("2027-01-01T00:00:00Z", one+","+three), false)
	require.NoError(t, err)
	assert.Equal(t, []int{1, 2}, []int{r.Counts.New, r.Counts.Changed}, "SB.3 is new, SB.1 has another place, SB.2 is retired")
	require.Len(t, r.Notes, 1)
	assert.Equal(t, "SB.2 is not in this edition, so it is retired; 1 item stays aligned to it", r.Notes[0].Reason)

	frameworks, err := w.app.Bank.Frameworks(w.ctx, w.coordinator)
	require.NoError(t, err)
	at := slices.IndexFunc(frameworks, func(f bankrows.Framework) bool { return f.Identifier == "sb" })
	assert.Equal(t, 2, frameworks[at].Standards)
	tree, err := w.app.Bank.Standards(w.ctx, w.coordinator, frameworks[at].ID, bank.ItemSearch{})
	require.NoError(t, err)
	require.Len(t, tree, 2)
	assert.Equal(t, []string{"SB.1", "SB.3"}, []string{tree[0].Code, tree[1].Code})
	assert.Equal(t, []string{"S1"}, w.finds(w.coordinator, bank.ItemSearch{Standard: w.standard("SB.1")}), "what is retired lies under nothing")
	assert.Equal(t, []string{"S2"}, w.finds(w.coordinator, bank.ItemSearch{Standard: w.standard("SB.2")}), "and is kept where it is used")

	_, err = again(edition("2026-06-01T00:00:00Z", one+","+two), false)
	require.ErrorContains(t, err, "this edition (of 2026-06-01T00:00:00Z) is older than the one that is here (of 2027-01-01T00:00:00Z)")
	r, err = again(edition("2026-06-01T00:00:00Z", one+","+two), true)
	require.NoError(t, err)
	assert.Equal(t, 3, r.Counts.Changed, "SB.2 comes back under SB.1, SB.3 is retired")
	assert.ElementsMatch(t, []string{"S1", "S2"}, w.finds(w.coordinator, bank.ItemSearch{Standard: w.standard("SB.1")}))
	r, err = again(edition("2026-06-01T00:00:00Z", one+","+two), false)
	require.NoError(t, err)
	assert.Equal(t, 2, r.Counts.Unchanged)
	assert.Empty(t, r.Notes)
}
