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

func exampleWords(it item.Item) []string {
	var out []string
	for _, e := range it.Examples() {
		words := e.Words + ":"
		for _, values := range e.Response {
			words += " " + strings.Join(values, ",")
		}
		out = append(out, words)
	}
	return out
}

// What an author is shown of a credit rule, kind by kind, down to keys of one and two.
func TestExamplesOfEachKind(t *testing.T) {
	abc := []string{"a", "b", "c"}
	choice := item.NewChoice(item.MultipleChoice, "x", append(abc, "d"), []int{0, 1}, item.PerChoice)
	assert.Equal(t, []string{"a key left out: B", "all keys and a distractor: A,B,C", "everything chosen: A,B,C,D"}, exampleWords(choice))
	choice.Body[1].Interaction.MaxChoices = 3
	assert.Equal(t, []string{"a key left out: B", "all keys and a distractor: A,B,C"}, exampleWords(choice))
	choice.Body[1].Interaction.MaxChoices = 2
	assert.Equal(t, []string{"a key left out: B"}, exampleWords(choice))
	assert.Equal(t, []string{"all keys and a distractor: A,B"}, exampleWords(item.NewChoice(item.MultipleChoice, "x", []string{"a", "b"}, []int{0}, item.PerChoice)))
	assert.Empty(t, exampleWords(item.NewChoice(item.MultipleChoice, "x", []string{"a"}, []int{0}, item.PerChoice)))

	assert.Equal(t, []string{"the first two swapped: A,C,B", "the first moved to the end: A,B,C", "all turned round: B,A,C"}, exampleWords(item.NewOrder("x", abc, []int{2, 0, 1}, item.PerPlace)))
	assert.Empty(t, exampleWords(item.NewOrder("x", []string{"a", "b"}, []int{1, 0}, item.PerPlace)))
	pairs := func(n int) item.Item {
		var key []item.Pair
		for i := range n {
			key = append(key, item.Pair{Choice: i, Target: i})
		}
		return item.NewPairs(item.Match, "x", abc[:n], abc[:n], key, 1, 1, item.PerPart)
	}
	assert.Empty(t, exampleWords(pairs(1)))
	assert.Equal(t, []string{"one part left out: B T2", "half of the parts: A T1"}, exampleWords(pairs(2)))
	assert.Equal(t, []string{"one part left out: B T2,C T3", "half of the parts: A T1,B T2"}, exampleWords(pairs(3)))

	assert.Equal(t, []string{"with a letter left out: arbor: arbor", "in capitals: HARBOR: HARBOR"}, exampleWords(item.NewText("x", []string{"harbor", "pier"}, item.TextKey{})))
	assert.Equal(t, []string{"in capitals: SEA: SEA"}, exampleWords(item.NewText("x", []string{"sea"}, item.TextKey{})))
	assert.Empty(t, exampleWords(item.NewText("x", []string{"NW"}, item.TextKey{})))
	assert.Empty(t, exampleWords(item.NewText("x", nil, item.TextKey{})))
	assert.Empty(t, exampleWords(item.NewNumber("x", []string{"1"}, item.NumberKey{}, "")))
	parts := item.NewParts("x", []item.Item{item.NewNumber("x", []string{"1", "1.0"}, item.NumberKey{}, ""), pairs(2), item.NewText("x", nil, item.TextKey{})}, nil, item.PerPart)
	assert.Equal(t, []string{"part 1 alone right: 1", "part 2 alone right: A T1,B T2"}, exampleWords(parts))
}

func TestAKeyThatGivesItselfAway(t *testing.T) {
	of := func(key, other int, n int) int {
		choices := []string{strings.Repeat("k", key)}
		for i := range n {
			choices = append(choices, strings.Repeat(string(rune('a'+i)), other))
		}
		return len(item.NewChoice(item.SingleChoice, "x", choices, []int{0}, item.AllOrNothing).Cautions())
	}
	assert.Equal(t, 1, of(26, 20, 2))
	assert.Zero(t, of(25, 20, 2), "a quarter longer is not yet by far")
	assert.Zero(t, of(26, 20, 1), "of two choices one is the longer")
	assert.Equal(t, 1, of(13, 8, 2))
	assert.Zero(t, of(12, 8, 2), "short ones do not stand out")
	assert.Zero(t, of(26, 0, 2), "beside pictures nothing is told")
}

func TestLabelsGoOnAfterZ(t *testing.T) {
	for at, want := range map[int]string{0: "A", 25: "Z", 26: "AA", 27: "AB", 51: "AZ", 52: "BA", 701: "ZZ"} {
		assert.Equal(t, want, item.Label(at))
	}
}

func TestAnotherFileOfTheShelf(t *testing.T) {
	a, b := strings.Repeat("a", 64), strings.Repeat("b", 64)
	spot := item.NewSpot("<p>Where?</p>", item.Picture{Source: "/media/" + a, Alt: "x", Width: 40, Height: 20}, []item.Area{{Shape: item.Circle, At: []int{9, 9, 3}}})
	to := item.Picture{Source: "/media/" + b, Width: 40, Height: 20}
	other, err := spot.WithMedia(a, to)
	require.NoError(t, err)
	assert.Equal(t, []string{b}, other.Media())
	for _, size := range [][2]int{{41, 20}, {40, 21}} {
		_, err := spot.WithMedia(a, item.Picture{Source: to.Source, Width: size[0], Height: size[1]})
		assert.EqualError(t, err, fmt.Sprintf("its areas are drawn on a picture of 40 × 20 pixels, and the other has %d × %d", size[0], size[1]))
	}
	text := item.NewTrueFalse(`<img src="/media/`+a+`" alt="x">`, true)
	other, err = text.WithMedia(a, item.Picture{Source: to.Source, Width: 1, Height: 1})
	require.NoError(t, err, "in a text any size will do")
	assert.Equal(t, []string{b}, other.Media())
	spot.Variants = []item.Variant{{Language: "es", Body: []item.Block{{Interaction: &item.Interaction{Picture: &item.Picture{Source: "/media/" + a, Width: 7, Height: 7}}}}}}
	_, err = spot.WithMedia(a, to)
	assert.ErrorContains(t, err, "a picture of 7 × 7", "in every language")
}

func TestTextsAreTakenAsTheyBegin(t *testing.T) {
	assert.Equal(t, "<b>a</b> &", item.Formatted("<b>a</b> &"))
	assert.Equal(t, "a &lt; b", item.Formatted("a < b"))
	assert.Equal(t, "<p>a</p><p>b &amp; c</p>", item.Formatted("a\n\nb & c "))
}

func TestWhatIsCleanedAway(t *testing.T) {
	it := item.NewTrueFalse("x", true)
	it.Feedback = &item.Feedback{Right: "<script>x</script>"}
	assert.Nil(t, it.Cleaned().Feedback, "nothing is left")
	for _, f := range []item.Feedback{{Right: "a"}, {Wrong: "a"}, {ByAnswers: []item.Advice{{Response: "R", Value: "A", HTML: "a"}, {Response: "R", Value: "B", HTML: "<script></script>"}}}} {
		it.Feedback = &f
		cleaned := it.Cleaned().Feedback
		require.NotNil(t, cleaned)
		assert.Equal(t, f.Right, cleaned.Right)
		assert.Equal(t, f.Wrong, cleaned.Wrong)
		assert.Len(t, cleaned.ByAnswers, min(len(f.ByAnswers), 1))
	}
	it.Body = []item.Block{{HTML: " a "}, {HTML: " b ", Inline: true}, {Interaction: &item.Interaction{Choices: []item.Choice{}, Targets: []item.Choice{{ID: "T", HTML: " c "}, {HTML: " d ", Plain: true}}}}}
	cleaned := it.Cleaned()
	assert.Equal(t, []string{"a", " b "}, []string{cleaned.Body[0].HTML, cleaned.Body[1].HTML}, "space within a sentence parts its words")
	assert.Nil(t, cleaned.Body[2].Interaction.Choices)
	assert.Equal(t, []string{"c", " d "}, []string{cleaned.Body[2].Interaction.Targets[0].HTML, cleaned.Body[2].Interaction.Targets[1].HTML})
}

func TestEmptyBlocksGoInEveryLanguage(t *testing.T) {
	it := item.NewTrueFalse("It rains.", true)
	it.Body = append([]item.Block{{}}, it.Body...)
	it.Variants = []item.Variant{{Language: "es", Body: []item.Block{{HTML: "not empty"}, {HTML: "Llueve."}, it.Body[2]}}}
	tidy := it.Tidied()
	assert.Len(t, tidy.Body, 2)
	assert.Equal(t, "Llueve.", tidy.Variants[0].Body[0].HTML, "what stands there goes with it")
	assert.Len(t, tidy.Variants[0].Body, 2)
	assert.Len(t, it.Variants[0].Body, 3, "the item itself stays")
}

func TestWrittenAnswersHaveTheirBounds(t *testing.T) {
	short := item.NewWritten(item.ShortWritten, "Why?", 3, nil, nil)
	assert.NoError(t, short.Accepts(answer(strings.Repeat("x", 2000))))
	assert.ErrorContains(t, short.Accepts(answer(strings.Repeat("x", 2001))), "is longer than 2000 bytes")
	assert.ErrorContains(t, short.Accepts(answer("a", "b")), "more than one value")
	assert.Equal(t, points.Points(1), short.Step(300), "without a rubric any hundredth can be given")
	rubric := &item.Rubric{Traits: []item.Trait{{Name: "Facts", Levels: []item.Level{{Points: 200, Text: "a"}, {Points: 50, Text: "b"}, {Points: 0, Text: "c"}}}}}
	assert.Equal(t, points.Points(100), item.NewWritten(item.LongWritten, "Why?", 3, rubric, nil).Step(400), "four steps of half a point")
	rubric.Traits[0].Levels = []item.Level{{Points: 0, Text: "a"}}
	assert.Equal(t, points.Points(1), item.NewWritten(item.LongWritten, "Why?", 3, rubric, nil).Step(400))
	rubric.Traits = append(rubric.Traits, item.Trait{Name: "Facts", Levels: rubric.Traits[0].Levels}, item.Trait{Name: " ", Levels: rubric.Traits[0].Levels})
	said := fmt.Sprint(item.NewWritten(item.LongWritten, "Why?", 3, rubric, nil).Check())
	assert.Equal(t, 2, strings.Count(said, "a trait needs a name of its own"))
}

func TestSpotsAtTheirBorders(t *testing.T) {
	for _, c := range []struct {
		area item.Area
		good bool
	}{
		{item.Area{Shape: item.Rectangle, At: []int{5, 5, 5, 5}}, true},
		{item.Area{Shape: item.Rectangle, At: []int{5, 6, 5, 5}}, false},
		{item.Area{Shape: item.Circle, At: []int{5, 5, 1}}, true},
		{item.Area{Shape: item.Circle, At: []int{5, 5, 0}}, false},
		{item.Area{Shape: item.Circle, At: []int{20_000, -10_000, 1}}, true},
		{item.Area{Shape: item.Circle, At: []int{20_001, 0, 1}}, false},
		{item.Area{Shape: item.Circle, At: []int{0, -10_001, 1}}, false},
		{item.Area{Shape: item.Polygon, At: make([]int, 400)}, true},
		{item.Area{Shape: item.Polygon, At: make([]int, 402)}, false},
		{item.Area{Shape: item.Polygon, At: []int{0, 0, 1, 1}}, false},
		{item.Area{Shape: item.Polygon, At: []int{0, 0, 1, 1, 2, 2, 3}}, false},
	} {
		it := item.NewSpot("Where?", item.Picture{Source: harbor.Source, Alt: "x", Width: 10, Height: 10}, []item.Area{c.area})
		assert.Equal(t, c.good, len(it.Check()) == 0, "%v", c.area)
	}
	for _, c := range []struct {
		side int
		good bool
	}{{0, false}, {1, true}, {10_000, true}, {10_001, false}} {
		for _, p := range []item.Picture{{Width: c.side, Height: 5}, {Width: 5, Height: c.side}} {
			p.Source, p.Alt = harbor.Source, "x"
			it := item.NewSpot("Where?", p, []item.Area{{Shape: item.Circle, At: []int{1, 1, 1}}})
			assert.Equal(t, c.good, len(it.Check()) == 0, "%v", p)
		}
	}
	triangle := item.Area{Shape: item.Polygon, At: []int{0, 0, 10, 0, 0, 10}}
	for spot, inside := range map[[2]int]bool{{0, 0}: true, {5, 5}: true, {6, 5}: false, {0, 10}: true, {10, 0}: true, {11, 0}: false, {-1, 0}: false, {-1, 5}: false, {3, 3}: true, {0, 5}: true, {9, 1}: true, {9, 2}: false, {5, -1}: false, {0, 11}: false} {
		assert.Equal(t, inside, triangle.Contains(spot[0], spot[1]), "%v", spot)
	}
	assert.False(t, item.Area{Shape: item.Circle, At: []int{0, 0, 0}}.Contains(0, 0), "an area that is none")
	x, y := triangle.Middle()
	assert.Equal(t, []int{5, 5}, []int{x, y})
	x, y = item.Area{Shape: item.Rectangle, At: []int{2, 4, 6, 10}}.Middle()
	assert.Equal(t, []int{4, 7}, []int{x, y})
	x, y = item.Area{Shape: "star"}.Middle()
	assert.Equal(t, []int{0, 0}, []int{x, y})
}

func TestKeysOfSpotsInWords(t *testing.T) {
	picture := item.Picture{Source: "/media/x", Alt: "x", Width: 100, Height: 100}
	it := item.NewSpot("Where?", picture, []item.Area{{Shape: item.Circle, At: []int{1, 2, 3}}, {Shape: item.Rectangle, At: []int{1, 2, 3, 4}}, {Shape: item.Polygon, At: []int{7, 8, 9, 9, 10, 8}}, {Shape: "star"}})
	assert.Equal(t, "1 2 ± 3 or 1 2 to 3 4 or polygon at 7 8 or an area that is none", it.KeyShort())
	assert.Equal(t, []string{"5 6"}, it.ResponseShort(answer("5 6")))
	seen := item.NewSpot("Where?", picture, nil)
	seen.Body[1].Interaction.Choices = []item.Choice{{ID: "P", HTML: "pier", Area: &item.Area{Shape: item.Circle, At: []int{1, 2, 3}}}, {ID: "Q", HTML: "buoy"}}
	seen.Declarations[0].Correct = []string{"Q"}
	assert.Equal(t, "B", seen.KeyShort())
	assert.Equal(t, []string{"A"}, seen.ResponseShort(answer("P")))
	assert.Contains(t, fmt.Sprint(seen.Check()), "choices[1]: has no area on the picture")
}

func TestPlacesToOrderAreChecked(t *testing.T) {
	it := item.NewOrder("In order.", []string{"A", "B"}, []int{1, 0}, item.AllOrNothing)
	in := it.Body[1].Interaction
	in.Picture = &item.Picture{Source: "/media/x", Alt: "x", Width: 10, Height: 10}
	assert.Contains(t, fmt.Sprint(it.Check()), "nothing of what is asked for has a place on the picture")
	in.Choices[0].Area = &item.Area{Shape: item.Circle, At: []int{1, 1, 0}}
	assert.Contains(t, fmt.Sprint(it.Check()), "choices[0]: is no circle")
	in.Choices[0].Area.At[2] = 1
	assert.Empty(t, it.Check())
	in.Picture.Alt = " "
	assert.Contains(t, fmt.Sprint(it.Check()), "the picture has no alternative text")
	assert.Equal(t, "A", item.Choice{HTML: "<b>A</b>. the pier. At low tide"}.OnPicture())
}

func TestMappedValuesAtTheirBounds(t *testing.T) {
	mapped := func(kind item.Kind, most int, m item.Mapping) item.Item {
		it := item.NewChoice(kind, "x", []string{"a", "b", "c"}, []int{0}, item.Mapped)
		it.Body[1].Interaction.MaxChoices = most
		it.Declarations[0].Mapping = &m
		return it
	}
	entries := []item.MapEntry{{Key: "A", Value: "2"}, {Key: "B", Value: "1"}, {Key: "C", Value: "-1"}}
	it := mapped(item.MultipleChoice, 0, item.Mapping{Entries: entries})
	for given, want := range map[string]points.Points{"AB": 300, "A": 200, "AC": 100, "C": 0, "ABC": 200} {
		assert.Equal(t, want, it.Score(answer(strings.Split(given, "")...), 300).Credit, given)
	}
	assert.Equal(t, points.Points(200), it.Score(answer("A", "A"), 300).Credit, "what is given twice counts once")
	assert.Equal(t, points.Points(100), it.Step(300), "three steps")
	assert.Equal(t, points.Points(100), mapped(item.MultipleChoice, 1, item.Mapping{Entries: entries}).Step(200), "one answer gives two at most")
	for name, m := range map[string]item.Mapping{"a half": {Entries: []item.MapEntry{{Key: "A", Value: "1"}, {Key: "B", Value: "0.5"}}}, "a default": {Default: "0.5", Entries: entries},
		"a lower bound": {Lower: "0.5", Entries: entries}, "an upper bound": {Upper: "2.5", Entries: entries}, "nothing": {}} {
		assert.Equal(t, points.Points(1), mapped(item.MultipleChoice, 0, m).Step(300), name)
	}
	bounded := mapped(item.MultipleChoice, 0, item.Mapping{Lower: "1", Upper: "2", Entries: entries})
	assert.Equal(t, points.Points(200), bounded.Score(answer("A", "B"), 200).Credit, "no more than the upper bound")
	assert.Equal(t, points.Points(100), bounded.Score(answer("C"), 200).Credit, "no less than the lower bound")
	assert.Equal(t, points.Points(100), bounded.Score(answer("B"), 200).Credit)
	without := mapped(item.MultipleChoice, 0, item.Mapping{})
	without.Declarations[0].Mapping = nil
	assert.Contains(t, without.Score(answer("A"), 100).Why, "The values of the answers are missing.")
	joined := item.NewPairs(item.Match, "x", []string{"a", "b"}, []string{"p", "q"}, []item.Pair{{Choice: 0, Target: 0}}, 1, 1, item.Mapped)
	joined.Declarations[0].Mapping = &item.Mapping{Entries: []item.MapEntry{{Key: "A T1", Value: "1"}, {Key: "B T2", Value: "1"}}}
	assert.Equal(t, points.Points(200), joined.Score(answer("A T1", "B T2"), 200).Credit)
	assert.Zero(t, joined.Score(answer("T1 A"), 200).Credit, "only what is joined among each other may be turned round")
}

func TestRulesAreBounded(t *testing.T) {
	number := item.NewNumber("x", []string{"12"}, item.NumberKey{}, "")
	rules := func(n int) []item.Rule {
		out := make([]item.Rule, n)
		for i := range out {
			out[i] = item.Rule{Exit: true}
		}
		return out
	}
	it := number
	it.Credit = item.AsWritten
	it.Processing = &item.Processing{Most: "1", Rules: rules(5000)}
	assert.Empty(t, it.Check())
	it.Processing = &item.Processing{Most: "1", Rules: rules(5001)}
	assert.Contains(t, fmt.Sprint(it.Check()), "more than 5000 rules")
	nested := func(deep int) item.Expression {
		e := item.Expression{Op: "null"}
		for range deep {
			e = item.Expression{Op: "multiple", Expressions: []item.Expression{e}}
		}
		return e
	}
	for deep, good := range map[int]bool{39: true, 40: false} {
		e := nested(deep)
		it.Processing = &item.Processing{Most: "1", Rules: []item.Rule{{Set: item.ScoreOutcome, Value: &e}}}
		assert.Equal(t, good, len(it.Check()) == 0, deep)
	}
	assert.Empty(t, number.Outcomes(answer("1")), "an item without rules sets nothing")
	it.Processing = nil
	assert.Contains(t, it.Score(answer("1"), 100).Why, "The rules that score it are missing.")
	it.Processing = &item.Processing{Most: "0"}
	assert.Zero(t, it.Score(answer("12"), 100).Credit)
	it.Processing = &item.Processing{Most: "1", Rules: []item.Rule{{Branches: []item.Branch{{Then: []item.Rule{{Exit: true}}}}}, {Set: item.ScoreOutcome, Value: &item.Expression{Op: "base-value", Base: "float", Value: "1"}}}}
	assert.Zero(t, it.Score(answer("12"), 100).Credit, "an exit within a branch ends it all")
	for _, e := range []item.Expression{{Op: "index", N: -1, Expressions: []item.Expression{{Op: "null"}}}, {Op: "index", N: 1001, Expressions: []item.Expression{{Op: "null"}}}, {Op: "inside", Expressions: []item.Expression{{Op: "null"}}},
		{Op: "pattern-match", Pattern: "[", Expressions: []item.Expression{{Op: "null"}}}, {Op: "pattern-match", Pattern: strings.Repeat("x", 1001), Expressions: []item.Expression{{Op: "null"}}},
		{Op: "variable", ID: "OTHER"}, {Op: "map-response", ID: "RESPONSE"}, {Op: "correct", ID: "OTHER"}, {Op: "unheard-of"}, {Op: "not"}, {Op: "lt", Expressions: []item.Expression{{Op: "null"}}}} {
		it.Processing = &item.Processing{Most: "1", Rules: []item.Rule{{Set: item.ScoreOutcome, Value: &e}}}
		assert.NotEmpty(t, it.Check(), e.Op)
	}
	for _, n := range []int{0, 1000} {
		e := item.Expression{Op: "index", N: n, Expressions: []item.Expression{{Op: "null"}}}
		it.Processing = &item.Processing{Most: "1", Rules: []item.Rule{{Set: item.ScoreOutcome, Value: &e}}}
		assert.Empty(t, it.Check(), n)
	}
}

// Numbers are rounded to figures however large or small they are.
func TestRoundedToFigures(t *testing.T) {
	n := func(v string) string { return `{"op":"base-value","base":"float","value":"` + v + `"}` }
	same := func(mode string, places int, a, b string) item.Outcome {
		return underRule(t, "1", fmt.Sprintf(`{"op":"equal-rounded","mode":%q,"n":%d,"of":[%s,%s]}`, mode, places, n(a), n(b)))
	}
	for _, c := range []struct {
		mode   string
		places int
		a, b   string
		want   item.Outcome
	}{
		{"significantFigures", 2, "12400", "12000", item.Right}, {"significantFigures", 2, "12500", "12000", item.Wrong}, {"significantFigures", 1, "10", "14", item.Right},
		{"significantFigures", 1, "9.4", "9", item.Right}, {"significantFigures", 1, "9.5", "9", item.Wrong}, {"significantFigures", 2, "0.0124", "0.012", item.Right},
		{"significantFigures", 2, "0.0125", "0.012", item.Wrong}, {"significantFigures", 2, "-0.0125", "-0.013", item.Right}, {"significantFigures", 2, "0", "0", item.Right},
		{"significantFigures", 3, "1", "1.004", item.Right}, {"significantFigures", 3, "1", "1.005", item.Wrong}, {"significantFigures", 3, "100", "100.4", item.Right},
		{"decimalPlaces", 0, "2.5", "3", item.Right}, {"decimalPlaces", 0, "2.4", "3", item.Wrong}, {"decimalPlaces", 2, "-1.005", "-1.01", item.Right},
	} {
		assert.Equal(t, c.want, same(c.mode, c.places, c.a, c.b), "%+v", c)
	}
}
