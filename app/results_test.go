package app_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/bank"
	"pineledger/app/desk"
	"pineledger/app/read"
	"pineledger/app/record"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/results"
	"pineledger/core/roster"
	"pineledger/store/bankrows"
	"pineledger/store/readrows"
)

// Every figure of the page by band is what one counts by hand from the matrix.
func TestBandsAndStandardsAddUpFromTheMatrix(t *testing.T) {
	d := newDistrict(t)
	m := d.matrix(d.head, read.MatrixQuery{})
	require.Greater(t, m.Total, 30)
	b, err := d.app.Read.ResultsByBand(d.ctx, d.head, d.given, "")
	require.NoError(t, err)

	type sum struct {
		n      int
		bands  []int
		raw    points.Points
		earned []points.Points
	}
	add := func(s *sum, row readrows.MatrixRow) {
		if s.bands == nil {
			s.bands, s.earned = make([]int, len(b.Head.Cuts.Starts)), make([]points.Points, len(b.Strands))
		}
		s.n++
		s.bands[row.Band]++
		s.raw += row.Raw
		for i, strand := range b.Strands {
			for _, line := range strand.Lines {
				s.earned[i] += row.Credits[line].Credit
			}
		}
	}
	var all sum
	sections, schools := map[int64]*sum{}, map[int64]*sum{}
	for _, row := range m.Rows {
		if sections[row.SectionID] == nil {
			sections[row.SectionID] = &sum{}
		}
		if schools[row.SchoolID] == nil {
			schools[row.SchoolID] = &sum{}
		}
		for _, s := range []*sum{&all, sections[row.SectionID], schools[row.SchoolID]} {
			add(s, row)
		}
	}
	check := func(name string, g read.Group, want sum) {
		require.Equal(t, want.n, g.N, name)
		if want.n == 0 {
			return
		}
		assert.Equal(t, want.bands, g.Bands, name)
		mean := math.Round(1000 * float64(want.raw) / float64(m.Head.Total) / float64(want.n))
		assert.InDelta(t, mean, float64(g.Mean), 1, name)
		for i, s := range g.Strands {
			assert.Equal(t, want.earned[i], s.Earned, "%s, %s", name, b.Strands[i].Code)
		}
	}
	check("all", b.All, all)
	for _, g := range b.Rows {
		if sections[g.SectionID] == nil {
			sections[g.SectionID] = &sum{}
		}
		check(g.School+" "+g.Section, g, *sections[g.SectionID])
	}
	for _, g := range b.Schools {
		check(g.School, g, *schools[g.SchoolID])
	}
	assert.Len(t, b.Schools, len(schools))
}

// A score is what its trail says, and the trail is computed anew from answer and key.
func TestEveryScoreIsWhatItsTrailAddsUpTo(t *testing.T) {
	d := newDistrict(t)
	m := d.matrix(d.head, read.MatrixQuery{})
	for _, row := range m.Rows[:min(25, len(m.Rows))] {
		trail, err := d.app.Read.Trail(d.ctx, d.head, d.given, row.AttemptID)
		require.NoError(t, err)
		var sum points.Points
		for i, l := range trail.Lines {
			sum += l.Credit.Credit
			assert.Equal(t, row.Credits[i].Credit, l.Credit.Credit, "%s, line %d", row.Student, i+1)
			assert.Equal(t, row.Credits[i].Outcome, l.Credit.Outcome, "%s, line %d", row.Student, i+1)
			assert.NotEmpty(t, l.Credit.Why, "%s, line %d", row.Student, i+1)
			if l.Credit.Outcome == item.Omitted || l.Credit.Outcome == item.NotReached {
				assert.Empty(t, l.Response)
			}
		}
		assert.Equal(t, row.Raw, sum, row.Student)
		start := m.Head.Cuts.Starts[row.Band]
		assert.LessOrEqual(t, *start.Raw, row.Raw)
		if next := row.Band + 1; next < len(m.Head.Cuts.Starts) {
			assert.Greater(t, *m.Head.Cuts.Starts[next].Raw, row.Raw)
		}
	}
}

func TestTheMatrixSortsFiltersAndPages(t *testing.T) {
	d := newDistrict(t)
	all := d.matrix(d.head, read.MatrixQuery{})
	raw := func(r readrows.MatrixRow) points.Points { return r.Raw }

	down := d.matrix(d.head, read.MatrixQuery{Sort: "-raw"})
	assert.True(t, slices.IsSortedFunc(down.Rows, func(a, b readrows.MatrixRow) int { return int(raw(b) - raw(a)) }))
	up := d.matrix(d.head, read.MatrixQuery{Sort: "raw"})
	assert.True(t, slices.IsSortedFunc(up.Rows, func(a, b readrows.MatrixRow) int { return int(raw(a) - raw(b)) }))
	byLine := d.matrix(d.head, read.MatrixQuery{Sort: "-3"})
	assert.True(t, slices.IsSortedFunc(byLine.Rows, func(a, b readrows.MatrixRow) int { return int(b.Credits[2].Credit - a.Credits[2].Credit) }))
	backward := d.matrix(d.head, read.MatrixQuery{Sort: "-student"})
	assert.Equal(t, all.Rows[0].Student, backward.Rows[len(backward.Rows)-1].Student)

	var paged []readrows.MatrixRow
	for offset := 0; ; offset += 7 {
		page := d.matrix(d.head, read.MatrixQuery{Sort: "-raw", Offset: offset, Limit: 7})
		assert.Equal(t, all.Total, page.Total)
		if len(page.Rows) == 0 {
			break
		}
		paged = append(paged, page.Rows...)
	}
	assert.Equal(t, down.Rows, paged, "pages join to the whole, without gap or double")

	seen := 0
	for b := range all.Head.Cuts.Starts {
		part := d.matrix(d.head, read.MatrixQuery{MatrixFilter: readrows.MatrixFilter{Band: &b}})
		for _, r := range part.Rows {
			assert.Equal(t, b, r.Band)
		}
		seen += part.Total
	}
	assert.Equal(t, all.Total, seen, "everybody is in one band")

	first := all.Rows[0]
	section := d.matrix(d.head, read.MatrixQuery{MatrixFilter: readrows.MatrixFilter{SectionID: first.SectionID}})
	for _, r := range section.Rows {
		assert.Equal(t, first.SectionID, r.SectionID)
	}
	one := d.matrix(d.head, read.MatrixQuery{MatrixFilter: readrows.MatrixFilter{Words: first.Number}})
	require.Equal(t, 1, one.Total)
	assert.Equal(t, first.Student, one.Rows[0].Student)
	for _, words := range []string{"%", "_", `\`} {
		assert.Zero(t, d.matrix(d.head, read.MatrixQuery{MatrixFilter: readrows.MatrixFilter{Words: words}}).Total, "%q is no wildcard", words)
	}

	for _, bad := range []string{"sideways", "0", "99", "--raw"} {
		_, err := d.app.Read.Matrix(d.ctx, d.head, d.given, read.MatrixQuery{Sort: bad})
		var invalid *desk.InvalidError
		assert.ErrorAs(t, err, &invalid, bad)
	}
}

// A line's difficulty is its mean credit over its points, of the rows shown.
func TestLinesAreSummedOverTheRowsShown(t *testing.T) {
	d := newDistrict(t)
	m := d.matrix(d.head, read.MatrixQuery{})
	half := d.matrix(d.head, read.MatrixQuery{MatrixFilter: readrows.MatrixFilter{SchoolID: m.Rows[0].SchoolID}, Limit: 3})
	require.Less(t, half.Total, m.Total)
	require.Len(t, half.Rows, 3, "the page is short, the sums are over all that the filter leaves")
	whole := d.matrix(d.head, read.MatrixQuery{MatrixFilter: readrows.MatrixFilter{SchoolID: m.Rows[0].SchoolID}})
	assert.Equal(t, whole.Lines, half.Lines)
	for i := range m.Lines {
		var credit points.Points
		omitted := 0
		for _, r := range m.Rows {
			credit += r.Credits[i].Credit
			if r.Credits[i].Outcome == item.Omitted {
				omitted++
			}
		}
		p := 1000 * float64(credit) / float64(m.Head.Lines[i].Points) / float64(m.Total)
		assert.InDelta(t, p, float64(m.Lines[i].Difficulty), 0.51, "line %d", i+1)
		assert.Equal(t, omitted, m.Lines[i].Omitted, "line %d", i+1)
	}
}

func TestResultsEndWhereTheScopeEnds(t *testing.T) {
	d := newDistrict(t)
	all := d.matrix(d.head, read.MatrixQuery{})
	school := all.Rows[0].SchoolID
	head := d.someone(roster.SchoolCoordinator, func(v roster.Viewer) bool { return slices.Contains(v.Scope().Schools, school) })
	inSchool := d.matrix(head, read.MatrixQuery{})
	require.NotZero(t, inSchool.Total)
	require.Less(t, inSchool.Total, all.Total)
	for _, r := range inSchool.Rows {
		assert.Equal(t, school, r.SchoolID)
	}
	b, err := d.app.Read.ResultsByBand(d.ctx, head, d.given, "")
	require.NoError(t, err)
	assert.Equal(t, inSchool.Total, b.All.N)
	assert.Len(t, b.Schools, 1)
	require.Len(t, b.Beside, 1, "the district beside the school")
	assert.Zero(t, b.Beside[0].SchoolID)
	whole, err := d.app.Read.ResultsByBand(d.ctx, d.head, d.given, "")
	require.NoError(t, err)
	assert.Empty(t, whole.Beside)
	assert.Equal(t, whole.All.Group, b.Beside[0].Group)
	assert.Equal(t, whole.All.Mean, b.Beside[0].Mean)

	section := all.Rows[0].SectionID
	teacher := d.someone(roster.Teacher, func(v roster.Viewer) bool { return slices.Contains(v.Sections, section) })
	for _, r := range d.matrix(teacher, read.MatrixQuery{}).Rows {
		assert.Contains(t, teacher.Sections, r.SectionID)
	}
	b, err = d.app.Read.ResultsByBand(d.ctx, teacher, d.given, "")
	require.NoError(t, err)
	for _, g := range b.Beside {
		assert.True(t, g.SchoolID == 0 || g.SchoolID == school, "only the own school and the district")
		assert.Empty(t, g.Section)
		assert.GreaterOrEqual(t, g.N-b.All.N, results.Fewest)
	}
	require.NotEmpty(t, b.Beside)
	outside := slices.IndexFunc(all.Rows, func(r readrows.MatrixRow) bool { return !slices.Contains(teacher.Sections, r.SectionID) })
	_, err = d.app.Read.Trail(d.ctx, teacher, d.given, all.Rows[outside].AttemptID)
	assert.ErrorIs(t, err, desk.ErrNotFound)
	// A filter for what lies outside shows nothing, and does not say that it is there.
	assert.Zero(t, d.matrix(teacher, read.MatrixQuery{MatrixFilter: readrows.MatrixFilter{SectionID: all.Rows[outside].SectionID}}).Total)
	none := d.someone(roster.Teacher, func(v roster.Viewer) bool {
		return !slices.ContainsFunc(all.Rows, func(r readrows.MatrixRow) bool { return slices.Contains(v.Sections, r.SectionID) })
	})
	_, err = d.app.Read.Matrix(d.ctx, none, d.given, read.MatrixQuery{})
	assert.ErrorIs(t, err, desk.ErrNotFound, "a teacher without a seat in it")
}

func TestTodayShowsWhatIsOnesOwn(t *testing.T) {
	d := newDistrict(t)
	whole, err := d.app.Today(d.ctx, d.head)
	require.NoError(t, err)
	require.NotEmpty(t, whole.Sittings)
	require.NotEmpty(t, whole.Drafts)
	section := whole.Sittings[0].SectionID
	teacher := d.someone(roster.Teacher, func(v roster.Viewer) bool { return slices.Contains(v.Sections, section) })
	mine, err := d.app.Today(d.ctx, teacher)
	require.NoError(t, err)
	assert.Empty(t, mine.Drafts, "drafts are for builders")
	for _, s := range mine.Sittings {
		assert.Contains(t, teacher.Sections, s.SectionID)
	}
	assert.Less(t, len(mine.Sittings), len(whole.Sittings))
	_, err = d.app.Today(d.ctx, d.someone(roster.Student, func(roster.Viewer) bool { return true }))
	assert.ErrorIs(t, err, desk.ErrForbidden)
}

// The bank's facets: each counts what choosing it would show, with the other
// facets as they are.
func TestFacetsCountWhatTheyWouldShow(t *testing.T) {
	d := newDistrict(t)
	search := func(q bank.ItemSearch) bank.ItemPage {
		page, err := d.app.Bank.Items(d.ctx, d.head, q)
		require.NoError(t, err)
		return page
	}
	for _, q := range []bank.ItemSearch{{}, {Subjects: []string{"mathematics"}}, {Subjects: []string{"mathematics", "science"}, Depths: []int{2}}, {Words: "ferry"}, {Grades: []string{"05"}, Kinds: []string{"number"}}} {
		page := search(q)
		for _, c := range page.Facets["grade"] {
			one := q
			one.Grades = []string{c.Value}
			assert.Equal(t, search(one).Total, c.Count, "grade %s of %+v", c.Value, q)
		}
		for _, c := range page.Facets["kind"] {
			one := q
			one.Kinds = []string{c.Value}
			assert.Equal(t, search(one).Total, c.Count, "kind %s of %+v", c.Value, q)
		}
	}
}

func TestSearchPagesWithoutGapOrDouble(t *testing.T) {
	d := newDistrict(t)
	for _, sort := range []bankrows.ItemSort{bankrows.NewestFirst, "difficulty", "uses"} {
		q := bank.ItemSearch{Subjects: []string{"mathematics"}, Sort: sort, Limit: 20}
		seen := map[int64]bool{}
		total := 0
		for {
			page, err := d.app.Bank.Items(d.ctx, d.head, q)
			require.NoError(t, err)
			if q.Cursor == "" {
				total = page.Total // counted once, with the first page
			}
			for _, it := range page.Items {
				assert.False(t, seen[it.ID], "%s twice, by %s", it.Identifier, sort)
				seen[it.ID] = true
			}
			if page.Next == "" {
				break
			}
			q.Cursor = page.Next
		}
		assert.Len(t, seen, total, string(sort))
	}
}

// Choosing a standard finds what is aligned to it and to everything below it,
// and the tree counts the same.
func TestTheTreeCountsWhatItFinds(t *testing.T) {
	d := newDistrict(t)
	frameworks, err := d.app.Bank.Frameworks(d.ctx, d.head)
	require.NoError(t, err)
	for _, f := range frameworks {
		nodes, err := d.app.Bank.Standards(d.ctx, d.head, f.ID, bank.ItemSearch{})
		require.NoError(t, err)
		for _, n := range nodes {
			page, err := d.app.Bank.Items(d.ctx, d.head, bank.ItemSearch{Standard: n.ID, Unlinked: true, Limit: 200})
			require.NoError(t, err)
			assert.Equal(t, page.Total, n.Items, n.Code)
			for _, it := range page.Items {
				under := slices.ContainsFunc(strings.Fields(it.Standards), func(code string) bool { return code == n.Code || strings.HasPrefix(code, n.Code) })
				assert.True(t, under, "%s %s under %s", it.Identifier, it.Standards, n.Code)
			}
		}
	}
}

func TestTheTrayIsOnesOwnAndKeepsItsOrder(t *testing.T) {
	d := newDistrict(t)
	page, err := d.app.Bank.Items(d.ctx, d.head, bank.ItemSearch{Limit: 5})
	require.NoError(t, err)
	ids := func(items []bank.FoundItem) (out []int64) {
		for _, it := range items {
			out = append(out, it.ID)
		}
		return out
	}
	picked := []int64{page.Items[3].ID, page.Items[0].ID, page.Items[3].ID}
	v := d.someone(roster.DistrictCoordinator, func(roster.Viewer) bool { return true })
	tray, err := d.app.Bank.PickItems(d.ctx, v, picked)
	require.NoError(t, err)
	assert.ElementsMatch(t, []int64{picked[0], picked[1]}, ids(tray), "picked twice is there once")
	other := d.someone(roster.SchoolCoordinator, func(roster.Viewer) bool { return true })
	theirs, err := d.app.Bank.Tray(d.ctx, other)
	require.NoError(t, err)
	assert.Empty(t, theirs)
	tray, err = d.app.Bank.PutBack(d.ctx, v, []int64{picked[0], 999_999})
	require.NoError(t, err)
	assert.Equal(t, []int64{picked[1]}, ids(tray))
	_, err = d.app.Bank.PickItems(d.ctx, v, []int64{page.Items[1].ID, 999_999})
	assert.ErrorIs(t, err, desk.ErrNotFound)
	tray, err = d.app.Bank.Tray(d.ctx, v)
	require.NoError(t, err)
	assert.Equal(t, []int64{picked[1]}, ids(tray), "all of a pick, or nothing")
}

func TestTheLedgerIsReadBackwardAndFiltered(t *testing.T) {
	d := newDistrict(t)
	last := int64(math.MaxInt64)
	count := 0
	for filter := (record.LedgerQuery{Limit: 50}); ; filter.Before = last {
		page, err := d.app.Record.Ledger(d.ctx, d.head, filter)
		require.NoError(t, err)
		for _, e := range page {
			require.Less(t, e.Number, last, "newest first, none twice")
			last = e.Number
			count++
		}
		if len(page) < 50 {
			break
		}
	}
	require.NoError(t, d.app.Record.PutAnchor(d.ctx))
	verified, err := d.app.Record.Verify(d.ctx)
	require.NoError(t, err)
	assert.EqualValues(t, verified.Entries, count, "the screen shows the whole chain")
	sealed, err := d.app.Record.Ledger(d.ctx, d.head, record.LedgerQuery{Words: "fall benchmark", Limit: 500})
	require.NoError(t, err)
	one, err := d.app.Record.Ledger(d.ctx, d.head, record.LedgerQuery{Words: "sealed FALL bench"})
	require.NoError(t, err)
	require.Len(t, one, 1, "an act is found by the words it is said with")
	assert.Equal(t, "assessment.seal", one[0].Act)
	acts := map[string]int{}
	for _, e := range sealed {
		acts[e.Act]++
		assert.Contains(t, strings.ToLower(fmt.Sprint(e.Actor, e.Act, e.Title)), "fall benchmark")
	}
	assert.Equal(t, 1, acts["assessment.seal"])
}
