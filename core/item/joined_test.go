package item_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/item"
	"pineledger/core/points"
)

func ordered(credit item.CreditRule) item.Item {
	return item.NewOrder("From the oldest to the youngest.", []string{"egg", "fledgling", "chick", "gull"}, []int{0, 2, 1, 3}, credit)
}

func matched(credit item.CreditRule) item.Item {
	return item.NewPairs(item.Match, "Join each boat to its use.", []string{"tug", "ferry", "trawler"}, []string{"fishing", "towing", "crossing", "racing"},
		[]item.Pair{{0, 1}, {1, 2}, {2, 0}}, 1, 1, credit)
}

func table(credit item.CreditRule) item.Item {
	return item.NewPairs(item.BoxTable, "Tick what is true.", []string{"seal", "crab", "kelp"}, []string{"animal", "has a shell", "plant"},
		[]item.Pair{{0, 0}, {1, 0}, {1, 1}, {2, 2}}, 0, 0, credit)
}

func TestCreditOfOrdersPairsAndTables(t *testing.T) {
	for _, c := range []struct {
		name   string
		it     item.Item
		given  string
		worth  points.Points
		credit points.Points
		want   item.Outcome
	}{
		{"the right order", ordered(item.AllOrNothing), "A,C,B,D", 100, 100, item.Right},
		{"two swapped, all or nothing", ordered(item.AllOrNothing), "A,B,C,D", 100, 0, item.Wrong},
		{"two swapped, per place", ordered(item.PerPlace), "A,B,C,D", 100, 50, item.Part},
		{"one moved to the end, per place", ordered(item.PerPlace), "C,B,D,A", 100, 0, item.Wrong},
		{"one moved to the end keeps a run of three", ordered(item.LongestRun), "C,B,D,A", 100, 75, item.Part},
		{"turned round keeps one", ordered(item.LongestRun), "D,B,C,A", 100, 25, item.Part},
		{"nothing moved is no answer", ordered(item.LongestRun), "", 100, 0, item.Omitted},

		{"all pairs", matched(item.AllOrNothing), "A T2,B T3,C T1", 300, 300, item.Right},
		{"one pair missing, all or nothing", matched(item.AllOrNothing), "A T2,B T3", 300, 0, item.Wrong},
		{"one pair missing, per part", matched(item.PerPart), "A T2,B T3", 300, 200, item.Part},
		{"two swapped, per part", matched(item.PerPart), "A T3,B T2,C T1", 300, 100, item.Part},
		{"a third is rounded once", matched(item.PerPart), "C T1", 100, 33, item.Part},

		{"each row right", table(item.PerPart), "A T1,B T1,B T2,C T3", 300, 300, item.Right},
		{"a row is right with all its boxes only", table(item.PerPart), "A T1,B T1,C T3", 300, 200, item.Part},
		{"every box ticked earns nothing", table(item.PerPart), "A T1,A T2,A T3,B T1,B T2,B T3,C T1,C T2,C T3", 300, 0, item.Wrong},
	} {
		values := strings.Split(c.given, ",")
		if c.given == "" {
			values = nil
		}
		require.NoError(t, c.it.Accepts(answer(values...)), c.name)
		got := c.it.Score(answer(values...), c.worth)
		assert.Equal(t, c.credit, got.Credit, c.name)
		assert.Equal(t, c.want, got.Outcome, c.name)
	}
}

func TestATrueOrFalseItem(t *testing.T) {
	it := item.NewTrueFalse("A ferry crosses at slack water only.", false)
	assert.Empty(t, it.Check())
	assert.Equal(t, item.Right, it.Score(answer("false"), 100).Outcome)
	assert.Equal(t, item.Wrong, it.Score(answer("true"), 100).Outcome)
	assert.Equal(t, "false", it.KeyShort())
	assert.Equal(t, []string{"true"}, it.ResponseShort(answer("true")))
}

func TestTypedWords(t *testing.T) {
	plain, slips, exact := item.TextKey{}, item.TextKey{Slips: true}, item.TextKey{CaseMatters: true}
	for _, c := range []struct {
		typed string
		keys  []string
		key   item.TextKey
		right bool
	}{
		{"Tide", []string{"tide"}, plain, true},
		{"  low   tide ", []string{"low tide"}, plain, true},
		{"tide", []string{"Tide"}, exact, false},
		{"café", []string{"cafe\u0301"}, exact, true}, // one letter or letter and accent
		{"STRASSE", []string{"straße"}, plain, true},
		{"harbour", []string{"harbor", "harbour"}, plain, true},
		{"harbr", []string{"harbor"}, plain, false},
		{"harbr", []string{"harbor"}, slips, true},
		{"harrbor", []string{"harbor"}, slips, true},
		{"harbir", []string{"harbor"}, slips, true},
		{"hrabor", []string{"harbor"}, slips, false}, // two changes
		{"tids", []string{"tide"}, slips, false},     // four letters: no slip
		{"", []string{"tide"}, slips, false},
	} {
		it := item.NewText("x", c.keys, c.key)
		require.Empty(t, it.Check())
		assert.Equal(t, c.right, it.Score(answer(c.typed), 100).Outcome == item.Right, "%q for %v", c.typed, c.keys)
	}
}

func TestKeysAndMarginsOfJoinedItems(t *testing.T) {
	assert.Equal(t, "A C B D", ordered(item.AllOrNothing).KeyShort())
	assert.Equal(t, "A–2, B–3, C–1", matched(item.AllOrNothing).KeyShort())
	assert.Equal(t, []string{"A–1", "C–4"}, matched(item.AllOrNothing).ResponseShort(answer("C T4", "A T1")))
	assert.Equal(t, []string{"B A C D"}, ordered(item.AllOrNothing).ResponseShort(answer("B", "A", "C", "D")))
	assert.Contains(t, matched(item.AllOrNothing).OtherWords(), "towing")
}

func TestProblemsOfJoinedItemsAreNamed(t *testing.T) {
	for want, it := range map[string]item.Item{
		"every choice once":           item.NewOrder("x", []string{"a", "b", "c"}, []int{2, 1}, item.PerPlace),
		"in the right order already":  item.NewOrder("x", []string{"a", "b"}, []int{0, 1}, item.PerPlace),
		"is not a credit rule":        item.NewOrder("x", []string{"a", "b"}, []int{1, 0}, item.KeyMinus),
		"something to join it to":     item.NewPairs(item.Match, "x", []string{"a"}, nil, nil, 1, 1, item.PerPart),
		"is empty":                    item.NewPairs(item.Sort, "x", []string{"a", ""}, []string{"g"}, []item.Pair{{0, 0}}, 1, 0, item.PerPart),
		"there is no key":             item.NewPairs(item.Sort, "x", []string{"a"}, []string{"g"}, nil, 1, 0, item.PerPart),
		"joins 2 things to":           item.NewPairs(item.Match, "x", []string{"a", "b"}, []string{"g"}, []item.Pair{{0, 0}, {1, 0}}, 1, 1, item.PerPart),
		"accepted twice":              item.NewText("x", []string{"tide", "TIDE "}, item.TextKey{}),
		"an accepted answer is empty": item.NewText("x", []string{" "}, item.TextKey{}),
	} {
		problems := it.Check()
		if assert.NotEmpty(t, problems, want) {
			assert.Contains(t, fmt.Sprint(problems), want)
		}
	}
	for _, it := range []item.Item{ordered(item.LongestRun), matched(item.PerPart), table(item.PerPart)} {
		assert.Empty(t, it.Check())
	}
}

func TestResponsesThatDoNotFitAreRefused(t *testing.T) {
	for want, c := range map[string]struct {
		it     item.Item
		values []string
	}{
		"holds 2 of 4":         {ordered(item.PerPlace), []string{"A", "B"}},
		`the choice "A" twice`: {ordered(item.PerPlace), []string{"A", "A", "B", "C"}},
		`the pair "A T9"`:      {matched(item.PerPart), []string{"A T9"}},
		`the pair "A"`:         {matched(item.PerPart), []string{"A"}},
		`"A T1" twice`:         {matched(item.PerPart), []string{"A T1", "A T1"}},
		`joins "A" 2 times`:    {matched(item.PerPart), []string{"A T1", "A T2"}},
		`things to "T1"`:       {matched(item.PerPart), []string{"A T1", "B T1"}},
		"more than one value":  {item.NewText("x", []string{"a"}, item.TextKey{}), []string{"a", "b"}},
	} {
		assert.ErrorContains(t, c.it.Accepts(answer(c.values...)), want)
	}
}

// Laws of every kind that is answered by joining or ordering.
func TestLawsOfJoinedItems(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		worth := points.Points(25 * rapid.IntRange(1, 20).Draw(t, "quarters"))
		pairs := rapid.SampledFrom([]item.Item{matched(item.PerPart), matched(item.AllOrNothing), table(item.PerPart), table(item.AllOrNothing)}).Draw(t, "item")
		var all []string
		for _, choice := range []string{"A", "B", "C"} {
			for n := range 3 {
				all = append(all, fmt.Sprintf("%s T%d", choice, n+1))
			}
		}
		given := rapid.SliceOfDistinct(rapid.SampledFrom(all), rapid.ID).Draw(t, "pairs")
		c := pairs.Score(answer(given...), worth)
		require.GreaterOrEqual(t, c.Credit, points.Points(0))
		require.LessOrEqual(t, c.Credit, worth)
		require.Equal(t, c.Credit, pairs.Score(answer(rapid.Permutation(given).Draw(t, "in another order")...), worth).Credit)
		require.Zero(t, c.Credit%pairs.Step(worth))

		order := rapid.Permutation([]string{"A", "B", "C", "D"}).Draw(t, "order")
		place, run := ordered(item.PerPlace).Score(answer(order...), worth), ordered(item.LongestRun).Score(answer(order...), worth)
		require.GreaterOrEqual(t, run.Credit, place.Credit, "what stands at its place is also in order")
		require.Equal(t, slices.Equal(order, []string{"A", "C", "B", "D"}), run.Outcome == item.Right)
		require.Zero(t, run.Credit%ordered(item.LongestRun).Step(worth))
	})
}

func FuzzTypedWordsNeverPanic(f *testing.F) {
	for _, s := range []string{"harbor", "cafe\u0301", "\u0301", "ﬁ", "İ", "\xff", strings.Repeat("x", 300)} {
		f.Add(s)
	}
	it := item.NewText("x", []string{"harbor", "low tide"}, item.TextKey{Slips: true})
	f.Fuzz(func(t *testing.T, typed string) {
		if it.Accepts(answer(typed)) == nil {
			it.Score(answer(typed), points.One)
		}
	})
}

func TestSelectingInAText(t *testing.T) {
	run := func(html string, selectable bool) item.Run { return item.Run{HTML: html, Selectable: selectable} }
	it := item.NewSelectText("Select the verbs.", []item.Run{run("The ", false), run("tide", true), run(" ", false), run("rises", true), run(" and the ", false), run("tide", true), run(" ", false), run("falls", true)}, []int{1, 3}, 0, item.KeyMinus)
	require.Empty(t, it.Check(), "a word may stand twice")
	assert.Equal(t, "B, D", it.KeyShort())
	for given, credit := range map[string]points.Points{"B,D": 200, "B": 100, "A,B": 0, "A,B,D": 100, "A,C": 0} {
		require.NoError(t, it.Accepts(answer(strings.Split(given, ",")...)))
		assert.Equal(t, credit, it.Score(answer(strings.Split(given, ",")...), 200).Credit, given)
	}
	assert.Error(t, it.Accepts(answer("E")))
	assert.Error(t, it.Accepts(answer("")), "what stands between cannot be selected")
	assert.Equal(t, []string{"A", "D"}, it.ResponseShort(answer("D", "A")))
	assert.Equal(t, "The ", it.Shown("en").Body[1].Interaction.Choices[0].HTML, "the space between words stays")
}

func TestMenusInASentence(t *testing.T) {
	menus := func(credit item.CreditRule) item.Item {
		return item.NewMenus("Choose.", []string{"Water ", " at 0 °C and ", " at 100 °C."}, []item.Menu{{[]string{"freezes", "boils"}, 0}, {[]string{"freezes", "boils", "melts"}, 1}}, credit)
	}
	it := menus(item.PerPart)
	require.Empty(t, it.Check(), "menus may offer the same words")
	assert.Equal(t, "freezes, boils", it.KeyShort())
	assert.Equal(t, "Choose. Water … at 0 °C and … at 100 °C.", it.Stem(), "lists tell one sentence from another")
	for given, credit := range map[string]points.Points{"A G1,D G2": 200, "A G1": 100, "B G1,C G2": 0, "A G1,E G2": 100, "D G2": 100} {
		values := strings.Split(given, ",")
		require.NoError(t, it.Accepts(answer(values...)), given)
		assert.Equal(t, credit, it.Score(answer(values...), 200).Credit, given)
	}
	assert.Equal(t, item.Wrong, menus(item.AllOrNothing).Score(answer("A G1"), 100).Outcome)
	assert.Equal(t, "Gave freezes, melts; the key is freezes, boils. 1 of 2 parts right.", it.Score(answer("A G1", "E G2"), 200).Why)
	assert.Equal(t, []string{"–", "boils"}, it.ResponseShort(answer("D G2")))
	for want, values := range map[string][]string{"no menu offers": {"A G2"}, "chooses twice": {"A G1", "B G1"}, `"A", which`: {"A"}} {
		assert.ErrorContains(t, it.Accepts(answer(values...)), want)
	}
	for want, bad := range map[string]item.Item{
		"two choices at least":    item.NewMenus("x", []string{"a ", ""}, []item.Menu{{[]string{"b"}, 0}}, item.PerPart),
		"are the same":            item.NewMenus("x", []string{"a ", ""}, []item.Menu{{[]string{"b", "b"}, 0}}, item.PerPart),
		"from every menu":         item.NewMenus("x", []string{"a ", ""}, []item.Menu{{[]string{"b", "c"}, 7}}, item.PerPart),
		"the sentence has no gap": item.NewMenus("x", []string{"a"}, nil, item.PerPart),
	} {
		assert.Contains(t, fmt.Sprint(bad.Check()), want)
	}
}
