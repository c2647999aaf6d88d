package app_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	bankroom "pineledger/app/bank"
	"pineledger/core/bank"
	"pineledger/store/bankrows"
)

// all reads the whole bank as a viewer may see it, page by page.
func (d *district) all() []bankroom.FoundItem {
	d.Helper()
	var out []bankroom.FoundItem
	for in := (bankroom.ItemSearch{Limit: 200}); ; {
		page, err := d.app.Bank.Items(d.ctx, d.head, in)
		require.NoError(d, err)
		out = append(out, page.Items...)
		if in.Cursor = page.Next; in.Cursor == "" {
			return out
		}
	}
}

// meets filters as one would by hand.
func meets(it bankroom.FoundItem, in bankroom.ItemSearch, under map[string]bool) bool {
	any := func(list []string, value string) bool { return len(list) == 0 || slices.Contains(list, value) }
	tagged := len(in.Tags) == 0 || slices.ContainsFunc(it.Tags, func(t bankrows.Tag) bool { return slices.Contains(in.Tags, t.Name) })
	aligned := in.Standard == 0 || slices.ContainsFunc(strings.Fields(it.Standards), func(code string) bool { return under[code] })
	return any(in.Kinds, it.Kind) && any(in.Subjects, it.Subject) && any(in.Grades, it.Grade) && any(in.Banks, it.Bank) &&
		any(in.Eases, string(bank.EaseOf(it.Difficulty))) && tagged && aligned &&
		(len(in.Depths) == 0 || slices.Contains(in.Depths, it.Depth)) && (in.Owner == 0 || it.OwnerID == in.Owner) &&
		(in.DifficultyFrom == nil || it.Difficulty != nil && int(*it.Difficulty) >= *in.DifficultyFrom) && (in.UsesTo == nil || it.Uses <= *in.UsesTo) &&
		(!in.Unaligned || it.Standards == "")
}

// Any mix of what narrows a search finds what filtering by hand finds, and its
// total, its tree and its tags count the same.
func TestASearchFindsWhatOneWouldByHand(t *testing.T) {
	d := newDistrict(t)
	everything := d.all()
	frameworks, err := d.app.Bank.Frameworks(d.ctx, d.head)
	require.NoError(t, err)
	at := slices.IndexFunc(frameworks, func(f bankrows.Framework) bool { return strings.Contains(f.Title, "Mathematics, kinder") })
	standards, err := d.app.Bank.Standards(d.ctx, d.head, frameworks[at].ID, bankroom.ItemSearch{})
	require.NoError(t, err)
	values := func(of func(bankroom.FoundItem) string) []string {
		seen := map[string]bool{}
		for _, it := range everything {
			seen[of(it)] = true
		}
		out := []string{}
		for v := range seen {
			out = append(out, v)
		}
		slices.Sort(out)
		return out
	}
	some := func(t *rapid.T, name string, from []string) []string {
		if !rapid.Bool().Draw(t, "by "+name) {
			return nil
		}
		return rapid.SliceOfNDistinct(rapid.SampledFrom(from), 1, 3, rapid.ID).Draw(t, name)
	}
	kinds, subjects, grades, banks := values(func(i bankroom.FoundItem) string { return i.Kind }), values(func(i bankroom.FoundItem) string { return i.Subject }),
		values(func(i bankroom.FoundItem) string { return i.Grade }), values(func(i bankroom.FoundItem) string { return i.Bank })
	rapid.Check(t, func(t *rapid.T) {
		in := bankroom.ItemSearch{Unlinked: true, Limit: 200, Kinds: some(t, "kind", kinds), Subjects: some(t, "subject", subjects), Grades: some(t, "grade", grades),
			Banks: some(t, "bank", banks), Eases: some(t, "ease", []string{"hard", "medium", "easy"}), Tags: some(t, "tag", []string{"ferry", "rates", "passage"})}
		if rapid.Bool().Draw(t, "by difficulty") {
			from := rapid.IntRange(0, 1000).Draw(t, "from")
			in.DifficultyFrom = &from
		}
		if rapid.Bool().Draw(t, "unused") {
			none := 0
			in.UsesTo = &none
		}
		under := map[string]bool{}
		if rapid.Bool().Draw(t, "by standard") {
			top := rapid.SampledFrom(standards).Draw(t, "standard")
			in.Standard = top.ID
			for _, s := range standards {
				if s.Place >= top.Place && s.Place <= top.Last {
					under[s.Code] = true
				}
			}
		}
		want := map[string]bool{}
		for _, it := range everything {
			if meets(it, in, under) {
				want[it.Identifier] = true
			}
		}
		page, err := d.app.Bank.Items(d.ctx, d.head, in)
		require.NoError(t, err)
		assert.Equal(t, len(want), page.Total)
		for _, it := range page.Items {
			assert.True(t, want[it.Identifier], it.Identifier)
		}
		assert.Len(t, page.Items, min(len(want), 200))
		ids, err := d.app.Bank.ItemIDs(d.ctx, d.head, in)
		require.NoError(t, err)
		assert.Len(t, ids, len(want))
		tree, err := d.app.Bank.Standards(d.ctx, d.head, frameworks[at].ID, in)
		require.NoError(t, err)
		for _, node := range tree {
			if node.ID == in.Standard {
				assert.Equal(t, len(want), node.Items, "the tree counts what choosing the standard finds")
			}
		}
	})
}
