package item_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/item"
	"pineledger/core/points"
)

func TestResponsesHaveTheirBounds(t *testing.T) {
	essay := item.NewWritten(item.LongWritten, "x", 10, nil, nil)
	assert.NoError(t, essay.Accepts(answer(strings.Repeat("a", 20_000))))
	assert.EqualError(t, essay.Accepts(answer(strings.Repeat("a", 20_001))), "response RESPONSE has a value of more than 20000 bytes")
	many := make([]string, 1000)
	assert.ErrorContains(t, essay.Accepts(answer(append(many, "b")...)), "has more than 1000 values")
	assert.NotContains(t, fmt.Sprint(essay.Accepts(answer(many...))), "1000 values")

	word := item.NewText("x", []string{"pier"}, item.TextKey{})
	assert.NoError(t, word.Accepts(answer()))
	assert.NoError(t, word.Accepts(answer("pier")))
	assert.ErrorContains(t, word.Accepts(answer("pier", "pier")), "more than one value")

	spot := item.NewSpot("x", harbor, []item.Area{{Shape: item.Circle, At: []int{0, 0, 5}}})
	for value, good := range map[string]bool{"0 0": true, "-10000 20000": true, " 3  4 ": true, "-10001 0": false, "0 20001": false, "3": false, "3 x": false, "x 3": false, "": false} {
		assert.Equal(t, good, spot.Accepts(answer(value)) == nil, "%q", value)
	}
}

func TestAMappingIsCutAtItsBounds(t *testing.T) {
	it := item.NewChoice(item.MultipleChoice, "x", []string{"a", "b", "c"}, nil, item.AllOrNothing)
	it.Credit = item.Mapped
	it.Declarations[0].Mapping = &item.Mapping{Default: "-1", Lower: "0", Upper: "4", Entries: []item.MapEntry{{Key: "A", Value: "3"}, {Key: "B", Value: "2"}}}
	require.Empty(t, it.Check())
	for values, want := range map[string]points.Points{"A": 300, "B": 200, "A B": 400, "C": 0, "A C": 200, "B C": 100} {
		assert.Equal(t, want, it.Score(answer(strings.Fields(values)...), 400).Credit, values)
	}
	entries := make([]item.MapEntry, 1001)
	for i := range entries {
		entries[i] = item.MapEntry{Key: fmt.Sprint(i), Value: "1"}
	}
	says := func(n int) string {
		it.Declarations[0].Mapping.Entries = entries[:n]
		return fmt.Sprint(it.Check())
	}
	assert.Contains(t, says(1001), "more than 1000 values")
	assert.NotContains(t, says(1000), "more than 1000 values")
	it.Declarations[0].Mapping = &item.Mapping{Upper: "many", Entries: entries[:1]}
	assert.Contains(t, fmt.Sprint(it.Check()), `"many" is not a number`)
}

func TestTheOnlyRightSpots(t *testing.T) {
	areas := []item.Area{{Shape: item.Circle, At: []int{20, 20, 5}}, {Shape: item.Circle, At: []int{60, 20, 5}}}
	both := item.NewSpot("x", harbor, areas)
	both.Body[1].Interaction.MaxChoices = 0
	for values, want := range map[string]points.Points{"20 20|60 20": 200, "20 20": 0, "20 20|60 20|90 90": 0, "20 20|21 20": 0} {
		assert.Equal(t, want, both.Score(answer(strings.Split(values, "|")...), 200).Credit, values)
	}
	both.Credit = item.PerPart
	for values, want := range map[string]points.Points{"20 20|60 20": 200, "20 20": 100, "20 20|90 90": 0, "90 90": 0, "20 20|60 20|90 90": 100} {
		assert.Equal(t, want, both.Score(answer(strings.Split(values, "|")...), 200).Credit, values)
	}
	// Told as rules of its own it earns the same.
	told, ok := both.AsRules()
	require.True(t, ok)
	for _, values := range []string{"20 20|60 20", "20 20", "20 20|90 90"} {
		r := answer(strings.Split(values, "|")...)
		assert.Equal(t, both.Score(r, 200).Credit, told.Score(r, 200).Credit, values)
	}
	one := item.NewSpot("x", harbor, areas)
	told, ok = one.AsRules()
	require.True(t, ok)
	assert.Equal(t, item.Right, told.Score(answer("60 20"), 100).Outcome, "one of the areas is enough where one spot is asked for")
	assert.Equal(t, item.Wrong, told.Score(answer("90 90"), 100).Outcome)
}

func TestAKeyThatStandsOutByItsLength(t *testing.T) {
	stands := func(key string, others ...string) bool {
		it := item.NewChoice(item.SingleChoice, "x", append([]string{key}, others...), []int{0}, item.AllOrNothing)
		return strings.Contains(fmt.Sprint(it.Cautions()), "longe")
	}
	long, short := strings.Repeat("a", 40), strings.Repeat("b", 10)
	assert.True(t, stands(long, short, short))
	assert.False(t, stands(long, short), "of two choices one is always the longer")
	assert.False(t, stands(long, long, short))
	assert.False(t, stands(strings.Repeat("a", 12), "b", "b"), "a few letters tell nothing")
	assert.True(t, stands(strings.Repeat("a", 13), "b", "b"))
	assert.False(t, stands(long, "", ""), "the others are not written yet")
}

func TestLevelsOfARubricFall(t *testing.T) {
	says := func(levels ...points.Points) string {
		trait := item.Trait{Name: "Evidence"}
		for _, p := range levels {
			trait.Levels = append(trait.Levels, item.Level{Points: p, Text: "does"})
		}
		return fmt.Sprint(item.NewWritten(item.LongWritten, "x", 10, &item.Rubric{Traits: []item.Trait{trait}}, nil).Check())
	}
	assert.NotContains(t, says(200, 100, 0), "level")
	assert.Contains(t, says(100), "needs two levels at least")
	assert.Contains(t, says(100, 100), "from the highest to the lowest")
	assert.Contains(t, says(100, 200), "from the highest to the lowest")
	assert.Contains(t, says(100, -1), "points below 0")
	assert.NotContains(t, says(points.Most, 0), "points below 0")
	assert.Contains(t, says(points.Most+1, 0), "points below 0")
}

func TestAnItemWithoutWordsNeedsAPicture(t *testing.T) {
	says := func(html string) string {
		it := item.NewChoice(item.SingleChoice, "x", []string{"a", "b"}, []int{0}, item.AllOrNothing)
		it.Body[0].HTML = html
		return fmt.Sprint(it.Check())
	}
	assert.Contains(t, says(""), "the stem is empty")
	assert.Contains(t, says("<p> </p>"), "the stem is empty")
	assert.NotContains(t, says(`<p><img src="/media/x" alt="pier"></p>`), "the stem is empty")
}

func TestAnItemThatWasNoQuestionOfADocument(t *testing.T) {
	asked := item.Keyed{Number: "7", Kind: item.SingleChoice, Labels: []string{"F", "G"}, Key: []string{"G"}}.Item()
	back, ok := item.ReadKeyed(asked)
	require.True(t, ok)
	assert.Equal(t, []string{"G"}, back.Key)
	for name, change := range map[string]func(*item.Item){
		"other words":   func(it *item.Item) { it.Body[0].HTML = "<p>Which?</p>" },
		"more text":     func(it *item.Item) { it.Body = append(it.Body, item.Block{HTML: "<p>And?</p>"}) },
		"another kind":  func(it *item.Item) { it.Kind = item.Order },
		"no key at all": func(it *item.Item) { it.Declarations = nil },
		"no labels":     func(it *item.Item) { it.Body[1].Interaction.Choices[0].Label = "" },
	} {
		it := item.Keyed{Number: "7", Kind: item.SingleChoice, Labels: []string{"F", "G"}, Key: []string{"G"}}.Item()
		change(&it)
		_, ok := item.ReadKeyed(it)
		assert.False(t, ok, name)
	}
}

func TestOutcomesBeginWithTheirDefaults(t *testing.T) {
	score := func(outcomes string) points.Points {
		it := asWritten(t, item.NewChoice(item.SingleChoice, "x", []string{"a", "b"}, []int{0}, item.AllOrNothing),
			`{"most":"4","outcomes":[`+outcomes+`],"rules":[{"set":"SCORE","value":{"op":"sum","of":[{"op":"variable","id":"EXTRA"},{"op":"base-value","base":"float","value":"1"}]}}]}`)
		require.Empty(t, it.Check())
		return it.Score(answer("A"), 400).Credit
	}
	assert.EqualValues(t, 400, score(`{"id":"EXTRA","base":"float","default":"3"}`))
	assert.EqualValues(t, 100, score(`{"id":"EXTRA","base":"float"}`), "a number begins at 0")
	assert.EqualValues(t, 100, score(`{"id":"EXTRA","base":"integer"}`))
	assert.EqualValues(t, 0, score(`{"id":"EXTRA","base":"string"}`), "a text begins as nothing, and so is what is computed with it")
}

func TestPartCreditsOfWhatIsScoredAsWritten(t *testing.T) {
	two := item.NewParts("x", []item.Item{single(), single()}, nil, item.PerPart)
	r := item.Response{"RESPONSE1": {"A"}, "RESPONSE2": {"A"}}
	require.Len(t, two.PartCredits(r, 200), 2)
	told, ok := two.AsRules()
	require.True(t, ok)
	assert.Empty(t, told.PartCredits(r, 200), "rules tell no parts apart")
	one := asWritten(t, single(), `{"most":"1","rules":[{"set":"SCORE","value":{"op":"base-value","base":"float","value":"1"}}]}`)
	assert.Equal(t, []item.PartCredit{{Response: "RESPONSE", Credit: 300, Max: 300}}, one.PartCredits(answer("B"), 300))
}

func TestTheHighestScoreByEachExpression(t *testing.T) {
	n := func(v string) string { return `{"op":"base-value","base":"float","value":"` + v + `"}` }
	op := func(name string, of ...string) string {
		return `{"op":"` + name + `","of":[` + strings.Join(of, ",") + `]}`
	}
	score := `{"op":"variable","id":"SCORE"}`
	set := func(value string) string { return `{"set":"SCORE","value":` + value + `}` }
	// SCORE is -1, 3 or what it was, 0.
	oneOf := `{"branches":[{"when":{"op":"base-value","base":"boolean","value":"true"},"then":[` + set(n("3")) + `]},
		{"when":{"op":"base-value","base":"boolean","value":"false"},"then":[` + set(n("-1")) + `]}]}`
	always := `{"branches":[{"when":{"op":"base-value","base":"boolean","value":"true"},"then":[` + set(n("1")) + `]},{"then":[` + set(n("2")) + `]}]}`
	for rules, want := range map[string]string{
		set(n("2")): "2",
		set(n("2")) + "," + set(op("sum", score, n("1.5"), n("1"))): "9/2",
		oneOf: "3",
		oneOf + "," + set(op("product", score, n("2"))):  "6",
		oneOf + "," + set(op("product", score, n("-2"))): "2",
		oneOf + "," + set(op("product", score, score)):   "9",
		oneOf + "," + set(op("subtract", n("2"), score)): "3",
		oneOf + "," + set(op("subtract", score, n("2"))): "1",
		oneOf + "," + set(op("divide", score, n("2"))):   "3/2",
		oneOf + "," + set(op("divide", n("3"), score)):   "1",
		oneOf + "," + set(op("max", score, n("2"))):      "3",
		oneOf + "," + set(op("max", score, n("5"))):      "5",
		oneOf + "," + set(op("min", score, n("2"))):      "2",
		oneOf + "," + set(op("min", n("5"), score)):      "3",
		oneOf + "," + set(op("integer-to-float", score)): "3",
		always: "2",
		always + "," + set(op("subtract", n("2"), score)): "1",
		`{"set":"OTHER","value":` + n("9") + `}`:          "none",
		set(n("0")):                                       "none",
		set(n("-1")):                                      "none",
		set(op("random-integer")):                         "none",
	} {
		it := asWritten(t, item.NewNumber("x", []string{"12"}, item.NumberKey{}, ""), `{"outcomes":[],"rules":[`+rules+`]}`)
		most, err := it.HighestScore()
		if want == "none" {
			assert.Error(t, err, rules)
			continue
		}
		require.NoError(t, err, rules)
		assert.Equal(t, want, most.RatString(), rules)
	}
}

func TestAnExaminerRecordsOneOfThreeThings(t *testing.T) {
	it := item.NewExaminer("<p>picture</p>", "Ask.", "a pier")
	for _, values := range [][]string{{}, {item.RecordedRight}, {item.RecordedWrong}, {item.RecordedNone}} {
		assert.NoError(t, it.Accepts(answer(values...)), values)
	}
	assert.ErrorContains(t, it.Accepts(answer("maybe")), "not right, wrong or none")
	assert.ErrorContains(t, it.Accepts(answer(item.RecordedRight, item.RecordedRight)), "more than one value")
}

func TestGapsAndMenusHaveIDsOfTheirOwn(t *testing.T) {
	fresh := func() (item.Item, *item.Interaction) {
		it := item.NewMenus("x", []string{"The tide ", " at ", "."}, []item.Menu{{Words: []string{"rises", "falls"}}, {Words: []string{"noon", "dusk"}}}, item.AllOrNothing)
		return it, it.Body[1].Interaction
	}
	it, _ := fresh()
	require.Empty(t, it.Check())
	gaps := func(in *item.Interaction) (out []*item.Choice) {
		for i := range in.Targets {
			if !in.Targets[i].Plain {
				out = append(out, &in.Targets[i])
			}
		}
		return out
	}
	for _, id := range []string{"", "G 2", "G\t2", "G1"} {
		it, in := fresh()
		gaps(in)[1].ID = id
		assert.Contains(t, fmt.Sprint(it.Check()), "a gap needs an id of its own", "%q", id)
	}
	for _, id := range []string{"", "A B", "A\nB", "A"} {
		it, in := fresh()
		in.Choices[1].ID = id
		assert.Contains(t, fmt.Sprint(it.Check()), "a choice needs an id of its own", "%q", id)
	}
	it, in := fresh()
	in.Choices[3].In = "G7"
	assert.Contains(t, fmt.Sprint(it.Check()), "is in no menu")
}

// A text in another language has the same places to answer, of the same kinds, in the same order.
func TestATextInAnotherLanguageIsInStep(t *testing.T) {
	parts := func(list ...item.Item) []item.Block { return item.NewParts("x", list, nil, item.PerPart).Body }
	number, text := item.NewNumber("n", []string{"12"}, item.NumberKey{}, ""), item.NewText("t", []string{"pier"}, item.TextKey{})
	says := func(other []item.Block) string {
		it := item.NewParts("x", []item.Item{number, text}, nil, item.PerPart)
		it.Variants = []item.Variant{{Language: "es", Body: other}}
		return fmt.Sprint(it.Check())
	}
	assert.NotContains(t, says(parts(number, text)), "order")
	assert.Contains(t, says(parts(text, number)), "the places to answer stand in another order")
	assert.Contains(t, says(parts(number)), "there are 1 places to answer instead of 2")
	other := parts(number, text)
	for _, b := range other {
		if b.Interaction != nil {
			b.Interaction.Response += "X"
		}
	}
	assert.Contains(t, says(other), "another order")
}

func TestPairsAreNotedOnceTheyAreOfTheItem(t *testing.T) {
	match := item.NewPairs(item.Match, "x", []string{"ebb", "flood"}, []string{"falls", "rises"}, []item.Pair{{Choice: 0, Target: 0}, {Choice: 1, Target: 1}}, 1, 1, item.AllOrNothing)
	in := match.Body[1].Interaction
	pair := func(c, t string) string { return c + " " + t }
	c, to := in.Choices, in.Targets
	assert.Equal(t, "A–1, B–2", match.KeyShort())
	for value, want := range map[string]string{pair(c[0].ID, to[1].ID): "A–2", pair(c[0].ID, "nowhere"): "", pair("nothing", to[0].ID): "", "": ""} {
		assert.Equal(t, want, strings.Join(match.ResponseShort(answer(value)), ", "), "%q", value)
	}
}
