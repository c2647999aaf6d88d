package draw_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/blueprint"
	"pineledger/core/draw"
	"pineledger/core/points"
)

// numbers makes items of one kind, i1 used once, i2 twice and so on, harder by steps of 0.05 from 0.8.
func numbers(n int) []blueprint.Item {
	var out []blueprint.Item
	for i := range n {
		d := 800 - 50*i
		out = append(out, blueprint.Item{ID: fmt.Sprintf("i%d", i+1), Kind: "number", Points: points.One, Uses: i + 1, Difficulty: &d})
	}
	return out
}

func count(id string, least, most int, f blueprint.Filter) blueprint.Row {
	return blueprint.Row{ID: id, Filter: f, Min: points.One * points.Points(least), Max: points.One * points.Points(most)}
}

func drawn(t *testing.T, r draw.Request) draw.Result {
	t.Helper()
	if r.Plan.Forms == 0 {
		r.Plan.Forms = 1
	}
	result, err := r.Run(patient)
	require.NoError(t, err)
	return result
}

func ids(f draw.Form) string {
	var out []string
	for _, c := range f.Items {
		out = append(out, c.ID)
	}
	return strings.Join(out, " ")
}

func TestBestDraws(t *testing.T) {
	anyNumber := blueprint.Filter{Kinds: []string{"number"}}
	three := []blueprint.Row{count("r1", 3, 3, anyNumber)}
	two := 2
	spread := 0
	lettered := func(keys ...string) []blueprint.Item {
		var out []blueprint.Item
		for i, k := range keys {
			out = append(out, blueprint.Item{ID: fmt.Sprintf("i%d", i+1), Kind: "single-choice", Key: k, Points: points.One, Uses: i})
		}
		return out
	}
	onPassages := numbers(6)
	for i, p := range []string{"p", "p", "q", "q", "r", ""} {
		onPassages[i].Passage = p
	}
	hostile := numbers(4)
	hostile[0].Enemies = []string{"i2"}
	held := numbers(4)
	held[0].Hold = true
	copies := numbers(4)
	copies[0].Kin, copies[1].Kin = "tide", "tide"
	for _, c := range []struct {
		says  string
		items []blueprint.Item
		plan  draw.Plan
		want  string
		aims  draw.Aims
	}{
		{"without other aims those used least", numbers(6), draw.Plan{Rows: three}, "i1 i2 i3", draw.Aims{Uses: 6}},
		{"difficulty comes before uses", numbers(6), draw.Plan{Rows: three, Difficulty: &draw.Target{Target: 600}}, "i4 i5 i6", draw.Aims{Uses: 15}},
		{"within the tolerance uses decide", numbers(6), draw.Plan{Rows: three, Difficulty: &draw.Target{Target: 700, Tolerance: 50}}, "i1 i2 i3", draw.Aims{Uses: 6}},
		{"a target out of reach is met as nearly as can be", numbers(4), draw.Plan{Rows: three, Difficulty: &draw.Target{Target: 500, Tolerance: 10}}, "i2 i3 i4", draw.Aims{Difficulty: 570, Uses: 9}},
		{"what is on hold or excluded is not drawn", held, draw.Plan{Rows: []blueprint.Row{count("r1", 2, 2, anyNumber)}, Exclude: []string{"i2"}}, "i3 i4", draw.Aims{Uses: 7}},
		{"a whole passage with too many items stays away", onPassages, draw.Plan{Rows: []blueprint.Row{count("r1", 2, 2, anyNumber)}, Passages: draw.Passages{Whole: true, ItemsMax: 1}}, "i5 i6", draw.Aims{Uses: 11}},
		{"near copies of what stands may come where they may meet", copies, draw.Plan{Rows: three, Fixed: []string{"i1"}}, "i1 i2 i3", draw.Aims{Uses: 6}},
		{"and stay away where they may not", copies, draw.Plan{Rows: three, Fixed: []string{"i1"}, ForbidMeeting: true}, "i1 i3 i4", draw.Aims{Uses: 8}},
		{"what stands stays", numbers(6), draw.Plan{Rows: three, Fixed: []string{"i6"}}, "i1 i2 i6", draw.Aims{Uses: 9}},
		{"hostile items do not meet", hostile, draw.Plan{Rows: three, ForbidMeeting: true}, "i1 i3 i4", draw.Aims{Uses: 8}},
		{"unless they may", hostile, draw.Plan{Rows: three}, "i1 i2 i3", draw.Aims{Uses: 6}},
		{"at most so many passages", onPassages, draw.Plan{Rows: []blueprint.Row{count("r1", 3, 3, anyNumber)}, Passages: draw.Passages{Max: intp(1)}}, "i1 i2 i6", draw.Aims{Uses: 9}},
		{"a passage brings its least number of items", onPassages, draw.Plan{Rows: three, Passages: draw.Passages{ItemsMin: 2}}, "i1 i2 i6", draw.Aims{Uses: 9}},
		{"and no more than its most", onPassages, draw.Plan{Rows: three, Passages: draw.Passages{ItemsMax: 1}}, "i1 i3 i5", draw.Aims{Uses: 9}},
		{"passages come whole", onPassages, draw.Plan{Rows: []blueprint.Row{count("r1", 1, 1, anyNumber)}, Passages: draw.Passages{Whole: true}, Exclude: []string{"i5"}}, "i6", draw.Aims{Uses: 6}},
		{"keys are spread", lettered("A", "A", "A", "B"), draw.Plan{Rows: []blueprint.Row{count("r1", 2, 2, blueprint.Filter{})}, KeySpread: &spread}, "i1 i4", draw.Aims{Uses: 3}},
		{"a total picks within the rows' ranges", numbers(4), draw.Plan{Rows: []blueprint.Row{count("r1", 1, 3, anyNumber)}, Total: &two}, "i1 i2", draw.Aims{Uses: 3}},
		{"rows in points hold points", func() []blueprint.Item {
			items := numbers(4)
			items[0].Points, items[1].Points = 250, 150
			return items
		}(), draw.Plan{Rows: []blueprint.Row{{ID: "r1", ByPoints: true, Min: 400, Max: 400}}}, "i1 i2", draw.Aims{Uses: 3}},
	} {
		t.Run(c.says, func(t *testing.T) {
			result := drawn(t, draw.Request{Items: c.items, Tree: tree(t), Plan: c.plan})
			require.True(t, result.Feasible, result.Because)
			assert.Equal(t, c.want, ids(result.Forms[0]))
			assert.Equal(t, c.aims, result.Objective)
			assert.Equal(t, c.aims, *result.Bound, "proven")
		})
	}
}

func intp(n int) *int { return &n }

func TestTwinFormsAreEqual(t *testing.T) {
	r := draw.Request{Items: numbers(8), Tree: tree(t), Plan: draw.Plan{Rows: []blueprint.Row{count("r1", 3, 3, blueprint.Filter{})}, Forms: 2, Anchors: []string{"i1"}}}
	result := drawn(t, r)
	require.True(t, result.Feasible)
	holds(t, r, result)
	assert.Equal(t, draw.Aims{Uses: 2 + 2 + 3 + 4 + 5}, result.Objective, "i2 and i5 are as hard as i3 and i4")
	assert.Equal(t, result.Forms[0].MeanDifficulty, result.Forms[1].MeanDifficulty)
}

func TestWhatCannotBeMetIsNamed(t *testing.T) {
	some := []blueprint.Item{
		{ID: "i1", Standards: []string{"M6.RR"}, Kind: "number", Points: points.One}, {ID: "i2", Standards: []string{"M6.RR"}, Kind: "text", Points: points.One},
		{ID: "i3", Standards: []string{"M6.NS"}, Kind: "text", Points: points.One}, {ID: "i4", Standards: []string{"M6.NS"}, Kind: "text", Points: points.One, Hold: true}}
	ratios, texts := blueprint.Filter{Standards: []string{"M6.RR"}}, blueprint.Filter{Kinds: []string{"text"}}
	for _, c := range []struct {
		says    string
		plan    draw.Plan
		short   []draw.Shortage
		because string
	}{
		{"one row", draw.Plan{Rows: []blueprint.Row{count("r1", 3, 3, ratios), count("r2", 1, 1, texts)}}, []draw.Shortage{{[]string{"r1"}, 300, 200}}, "too few items for these rows"},
		{"two rows that want the same items", draw.Plan{Rows: []blueprint.Row{count("r1", 2, 2, ratios), count("r2", 2, 2, texts)}}, []draw.Shortage{{[]string{"r1", "r2"}, 400, 300}}, "too few items for these rows"},
		{"two sets that have nothing to do with each other", draw.Plan{Rows: []blueprint.Row{count("r1", 3, 3, ratios), count("r2", 2, 2, blueprint.Filter{Standards: []string{"M6.NS"}})}},
			[]draw.Shortage{{[]string{"r1"}, 300, 200}, {[]string{"r2"}, 200, 100}}, "each of these sets of rows"},
		{"forms that would have to share", draw.Plan{Rows: []blueprint.Row{count("r1", 2, 2, ratios)}, Forms: 2}, []draw.Shortage{{[]string{"r1"}, 400, 200}}, "too few items for these rows"},
		{"forms with an anchor, which counts once", draw.Plan{Rows: []blueprint.Row{count("r1", 2, 2, ratios)}, Forms: 2, Anchors: []string{"i1"}}, []draw.Shortage{{[]string{"r1"}, 300, 200}}, "too few items for these rows"},
		{"a total above what the rows can take", draw.Plan{Rows: []blueprint.Row{count("r1", 1, 2, ratios)}, Total: intp(3)}, []draw.Shortage{{[]string{"r1"}, 300, 200}}, "total: "},
		{"a total below what the rows ask for", draw.Plan{Rows: []blueprint.Row{count("r1", 2, 2, ratios)}, Total: intp(1)}, []draw.Shortage{{[]string{"r1"}, 200, 100}}, "total: "},
		{"an item that stands and meets no row", draw.Plan{Rows: []blueprint.Row{count("r1", 1, 1, ratios)}, Fixed: []string{"i3"}}, []draw.Shortage{{[]string{"r1"}, 100, 0}}, "fixed: i3 stands on the form and meets no row"},
	} {
		t.Run(c.says, func(t *testing.T) {
			result := drawn(t, draw.Request{Items: some, Tree: tree(t), Plan: c.plan})
			require.False(t, result.Feasible)
			assert.Equal(t, c.short, result.Shortage)
			assert.Contains(t, result.Because, c.because)
		})
	}
}

func TestRefusals(t *testing.T) {
	held := numbers(2)
	held[1].Hold = true
	for want, plan := range map[string]draw.Plan{
		`blueprint.fixed[0]: "i9" is not among the items`:               {Fixed: []string{"i9"}},
		`blueprint.anchors[0]: "i2" is on hold`:                         {Anchors: []string{"i2"}},
		`blueprint.fixed[0]: "i1" is excluded`:                          {Fixed: []string{"i1"}, Exclude: []string{"i1"}},
		`blueprint.forms: 27 is not 1–26`:                               {Forms: 27},
		`blueprint.total: -1 is negative`:                               {Total: intp(-1)},
		`blueprint.passages.itemsMax: 1 is below itemsMin`:              {Passages: draw.Passages{ItemsMin: 2, ItemsMax: 1}},
		`blueprint.difficulty.target: is not from 0 to 1`:               {Difficulty: &draw.Target{Target: 1001}},
		`blueprint.difficulty.tolerance: is not from 0 to 1`:            {Difficulty: &draw.Target{Tolerance: 1001}},
		`blueprint.estimate: is not from 0 to 1`:                        {Estimate: intp(1001)},
		`blueprint.forms: -1 is not 1–26`:                               {Forms: -1},
		`blueprint.keySpread: -1 is negative`:                           {KeySpread: intp(-1)},
		`blueprint.passages.max: -1 is negative`:                        {Passages: draw.Passages{Max: intp(-1)}},
		`blueprint.passages.itemsMin: -1 is negative`:                   {Passages: draw.Passages{ItemsMin: -1}},
		`blueprint.rows[0].count.max: 0 is below min 1`:                 {Rows: []blueprint.Row{count("r", 1, 0, blueprint.Filter{})}},
		`blueprint.rows[0].filter.standards[0]: "X" is not in the tree`: {Rows: []blueprint.Row{count("r", 1, 1, blueprint.Filter{Standards: []string{"X"}})}},
	} {
		_, err := draw.Request{Items: held, Tree: tree(t), Plan: plan}.Run(patient)
		assert.EqualError(t, err, want)
	}
	for name, plan := range map[string]draw.Plan{
		"target": {Difficulty: &draw.Target{Target: -1}}, "tolerance": {Difficulty: &draw.Target{Tolerance: -1}}, "estimate": {Estimate: intp(-1)},
		"itemsMax": {Passages: draw.Passages{ItemsMax: -1}},
	} {
		_, err := draw.Request{Items: held, Tree: tree(t), Plan: plan}.Run(patient)
		assert.ErrorContains(t, err, name)
	}
	for _, plan := range []draw.Plan{ // the ends are in
		{Difficulty: &draw.Target{Target: 1000, Tolerance: 1000}}, {Difficulty: &draw.Target{}}, {Estimate: intp(0)}, {Estimate: intp(1000)}, {Total: intp(0)}, {KeySpread: intp(0)},
		{Passages: draw.Passages{ItemsMin: 2, ItemsMax: 2, Max: intp(0)}}, {Forms: draw.MostForms}, {Rows: []blueprint.Row{count("r", 0, 0, blueprint.Filter{})}},
	} {
		_, err := draw.Request{Items: held, Tree: tree(t), Plan: plan}.Run(patient)
		assert.NoError(t, err, "%+v", plan)
	}
}

func TestNothingIsDrawnWhereNothingIsAsked(t *testing.T) {
	for _, mode := range []draw.Mode{draw.Best, draw.Random} {
		for _, items := range [][]blueprint.Item{nil, {{ID: "i1", Kind: "number", Points: points.One, Hold: true}}} {
			result := drawn(t, draw.Request{Items: items, Tree: tree(t), Mode: mode, Plan: draw.Plan{Rows: []blueprint.Row{count("r1", 0, 2, blueprint.Filter{})}}})
			require.True(t, result.Feasible)
			assert.Equal(t, []draw.Form{{Items: []draw.Chosen{}}}, result.Forms)
		}
	}
}

// A random draw gives every feasible set a real chance: none less than a tenth of an even one.
func TestARandomDrawIsFair(t *testing.T) {
	items := numbers(9)
	for i := range items {
		items[i].Standards = []string{"M6.RR"}
		if i%3 == 0 {
			items[i].Standards = append(items[i].Standards, "M6.NS")
		}
	}
	items[1].Enemies = []string{"i3"}
	r := draw.Request{Items: items, Tree: tree(t), Mode: draw.Random, Plan: draw.Plan{ForbidMeeting: true,
		Rows: []blueprint.Row{count("r1", 1, 2, blueprint.Filter{Standards: []string{"M6.NS"}}), count("r2", 2, 2, blueprint.Filter{Standards: []string{"M6.RR"}})}}}
	hand := tryAll(r)
	seen := map[string]int{}
	const each = 40
	for seed := range each * hand.sets {
		r.Seed = uint64(seed)
		seen[ids(drawn(t, r).Forms[0])]++
	}
	assert.Len(t, seen, hand.sets)
	for set, n := range seen {
		assert.Greater(t, n, each/4, set)
	}
}

// Pools too large to go through are walked in: each item of a row still comes up about as often as another.
func TestARandomDrawFromALargePoolIsEven(t *testing.T) {
	var items []blueprint.Item
	for i := range 90 {
		items = append(items, blueprint.Item{ID: fmt.Sprintf("i%d", i), Kind: "number", Points: points.One, Uses: i, Passage: []string{"p", "", ""}[i%3]})
	}
	r := draw.Request{Items: items, Tree: tree(t), Mode: draw.Random, Plan: draw.Plan{Rows: []blueprint.Row{count("r1", 10, 10, blueprint.Filter{})}}}
	seen := map[string]int{}
	const draws = 450 // each of 90 items is expected 50 times
	for seed := range draws {
		r.Seed = uint64(seed)
		for _, c := range drawn(t, r).Forms[0].Items {
			seen[c.ID]++
		}
	}
	for _, it := range items {
		assert.InDelta(t, 50, seen[it.ID], 30, it.ID)
	}
}

func TestWhatCannotBeSettledInTimeSaysSo(t *testing.T) {
	r := draw.Request{Items: numbers(3), Tree: tree(t), Plan: draw.Plan{Rows: []blueprint.Row{count("r1", 1, 1, blueprint.Filter{})}}}
	for i := range r.Items {
		r.Items[i].Passage = "Ferries" // what hangs on no passage is found without a search
	}
	_, err := r.Run(draw.Clock{Left: func() float64 { return 0 }, Over: func() bool { return true }})
	assert.ErrorIs(t, err, draw.ErrUnsettled)
}

// A search that the budget ends goes on until there is an answer, or none can be.
func TestWhatTheBudgetDoesNotFindIsSettledAllTheSame(t *testing.T) {
	spent := draw.Clock{Left: func() float64 { return 0 }, Over: func() bool { return false }}
	for most, want := range map[int]bool{3: true, 1: false} {
		r := draw.Request{Items: numbers(6), Tree: tree(t), Plan: draw.Plan{Forms: 1, Rows: []blueprint.Row{count("r1", 2, most+1, blueprint.Filter{})}, Passages: draw.Passages{Max: &most, ItemsMax: 1}}}
		for i := range r.Items {
			r.Items[i].Passage = fmt.Sprint("Ferries ", i/2) // two hang on each
		}
		result, err := r.Run(spent)
		require.NoError(t, err, most)
		assert.Equal(t, want, result.Feasible, most)
		if want {
			assert.GreaterOrEqual(t, len(result.Forms[0].Items), 2)
		} else {
			assert.Equal(t, []string{"r1"}, result.Shortage[0].Rows)
		}
	}
}

// What every form is to have stays, also where whole passages are traded for one another.
func TestARandomDrawKeepsWhatStands(t *testing.T) {
	r := draw.Request{Items: numbers(12), Tree: tree(t), Mode: draw.Random,
		Plan: draw.Plan{Forms: 1, Rows: []blueprint.Row{count("r1", 6, 6, blueprint.Filter{})}, Fixed: []string{"i3"}, Passages: draw.Passages{Whole: true}}}
	for i := range r.Items {
		r.Items[i].Passage = fmt.Sprint("Ferries ", i/2)
	}
	others := map[string]bool{}
	for seed := range uint64(60) {
		r.Seed = seed
		form := ids(drawn(t, r).Forms[0])
		assert.Contains(t, " "+form+" ", " i3 i4 ", seed)
		others[form] = true
	}
	assert.Greater(t, len(others), 5, "the rest changes")
}

func ExampleRequest_Run() {
	tree, _ := blueprint.NewTree([]blueprint.Standard{{Code: "M6.RR"}})
	easy, hard := 800, 400
	result, _ := draw.Request{Tree: tree, Items: []blueprint.Item{
		{ID: "ferry", Standards: []string{"M6.RR"}, Points: points.One, Difficulty: &easy},
		{ID: "tide", Standards: []string{"M6.RR"}, Points: points.One, Difficulty: &hard}},
		Plan: draw.Plan{Rows: []blueprint.Row{{ID: "ratios", Filter: blueprint.Filter{Standards: []string{"M6.RR"}}, Min: points.One, Max: points.One}}, Difficulty: &draw.Target{Target: 450}},
	}.Run(patient)
	fmt.Println(result.Forms[0].Items, result.Objective.Difficulty, result.Bound.Difficulty)
	// Output: [{tide ratios}] 50 50
}

// A passage that comes whole and fits no row gives the row nothing: it is short, and need is not have.
func TestAWholePassageThatFitsNoRowGivesItNothing(t *testing.T) {
	one := func(n int) draw.Request {
		r := draw.Request{Tree: tree(t), Plan: draw.Plan{Passages: draw.Passages{Whole: true}, Rows: []blueprint.Row{count("r", n, n, blueprint.Filter{})}}}
		for i := range 2 * n {
			r.Items = append(r.Items, blueprint.Item{ID: fmt.Sprintf("i%d", i), Kind: "number", Depth: 1, Points: points.One, Passage: fmt.Sprintf("p%d", i%2)})
		}
		return r
	}
	result, err := one(1).Run(patient)
	require.NoError(t, err)
	assert.True(t, result.Feasible, "a passage of one item fits")
	r := one(1)
	r.Items[1].Passage = "p0"
	result, err = r.Run(patient)
	require.NoError(t, err)
	assert.Equal(t, []draw.Shortage{{Rows: []string{"r"}, Need: 100, Have: 0}}, result.Shortage)
	// 24 items on eight passages of three: 12 come from four of them, 13 from none.
	r = one(12)
	for i := range r.Items {
		r.Items[i].Passage = fmt.Sprintf("p%d", i/3)
	}
	result, err = r.Run(patient)
	require.NoError(t, err)
	assert.True(t, result.Feasible)
	r.Plan.Rows[0] = count("r", 13, 13, blueprint.Filter{})
	result, err = r.Run(patient)
	require.NoError(t, err)
	assert.Equal(t, []draw.Shortage{{Rows: []string{"r"}, Need: 1300, Have: 1200}}, result.Shortage)
}
