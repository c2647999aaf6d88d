package item_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/item"
	"pineledger/core/points"
)

// firstReason is why an item is refused, "" where it is good.
func firstReason(it item.Item) string {
	if problems := it.Check(); len(problems) > 0 {
		return problems[0].Reason
	}
	return ""
}

// What is wanted true or false must be able to be so: a number there would hold for nobody.
func TestOnlyATruthStandsWhereOneIsWanted(t *testing.T) {
	number := item.NewNumber("x", []string{"12"}, item.NumberKey{}, "")
	for inner, says := range map[string]string{
		`{"op":"base-value","base":"boolean","value":"true"}`:       "",
		`{"op":"base-value","base":"boolean","value":"false"}`:      "",
		`{"op":"base-value","base":"boolean","value":"1"}`:          `the value "1" stands where true or false is wanted`,
		`{"op":"base-value","base":"string","value":"true"}`:        `the value "true" stands where true or false is wanted`,
		`{"op":"base-value","base":"float","value":"1"}`:            `the value "1" stands where true or false is wanted`,
		`{"op":"variable","id":"SEEN"}`:                             "",
		`{"op":"variable","id":"COUNT"}`:                            `"COUNT" stands where true or false is wanted, and is neither`,
		`{"op":"variable","id":"RESPONSE"}`:                         `"RESPONSE" stands where true or false is wanted, and is neither`,
		`{"op":"correct","id":"RESPONSE"}`:                          `"correct" stands where true or false is wanted, and gives neither`,
		`{"op":"null"}`:                                             "",
		`{"op":"is-null","of":[{"op":"variable","id":"RESPONSE"}]}`: "",
	} {
		it := asWritten(t, number, `{"most":"1","outcomes":[{"id":"SEEN","base":"boolean"},{"id":"COUNT","base":"float"}],"rules":[{"branches":[{"when":{"op":"not","of":[`+inner+`]},"then":[{"exit":true}]}]}]}`)
		assert.Equal(t, says, firstReason(it), inner)
	}
}

func TestReasonsEndAtTwenty(t *testing.T) {
	for wrong, told := range map[int]int{19: 19, 20: 20, 21: 20} {
		it := asWritten(t, item.NewNumber("x", []string{"12"}, item.NumberKey{}, ""), `{"most":"1"}`)
		for i := range wrong {
			it.Processing.Rules = append(it.Processing.Rules, item.Rule{Set: fmt.Sprint("OUT", i), Value: &item.Expression{Op: "null"}})
		}
		assert.Len(t, it.Check(), told)
	}
}

func TestAnExpressionTakesNoMoreThanItWants(t *testing.T) {
	it := asWritten(t, item.NewNumber("x", []string{"12"}, item.NumberKey{}, ""), `{"most":"1","rules":[{"set":"SCORE","value":{"op":"base-value","base":"float","value":"1","of":[{"op":"null"}]}}]}`)
	assert.Equal(t, `"base-value" has 1 expressions in it`, firstReason(it))
}

// Values are compared as what they are: numbers by value, pairs either way round, words without their spaces.
func TestValuesMatchByWhatTheyAre(t *testing.T) {
	of := func(base, value string) string {
		return fmt.Sprintf(`{"op":"base-value","base":%q,"value":%q}`, base, value)
	}
	for _, c := range []struct {
		a, b string
		want item.Outcome
	}{
		{of("float", "3.0"), of("float", "3"), item.Right}, {of("float", "three"), of("float", "three"), item.Wrong},
		{of("pair", "A B"), of("pair", "B A"), item.Right}, {of("pair", "A B"), of("pair", "B C"), item.Wrong},
		{of("directedPair", "A B"), of("directedPair", "B A"), item.Wrong},
		{of("string", "low  tide "), of("string", "low tide"), item.Right}, {of("string", "Low tide"), of("string", "low tide"), item.Wrong},
		{of("identifier", "A"), of("identifier", "A"), item.Right}, {of("identifier", "A "), of("identifier", "A"), item.Wrong},
		{of("identifier", "3.0"), of("float", "3"), item.Right}, {of("string", "3.0"), of("float", "3"), item.Right},
		{of("string", ""), of("string", ""), item.Right}, {of("float", "3.0"), of("string", "3"), item.Right},
	} {
		assert.Equal(t, c.want, underRule(t, "1", `{"op":"match","of":[`+c.a+`,`+c.b+`]}`), "%s %s", c.a, c.b)
	}
	assert.Equal(t, item.Right, underRule(t, "1", `{"op":"is-null","of":[`+of("string", "")+`]}`), "an empty word is none")
	assert.Equal(t, item.Wrong, underRule(t, "1", `{"op":"is-null","of":[`+of("string", "x")+`]}`))
	assert.Equal(t, item.Wrong, underRule(t, "1", `{"op":"is-null","of":[`+of("identifier", "")+`]}`), "only a word can be empty")
}

func TestAMappingComparesNumbersByValueAndPairsAsJoined(t *testing.T) {
	number := item.NewNumber("x", []string{"12"}, item.NumberKey{}, "")
	number.Credit = item.Mapped
	number.Declarations[0].Mapping = &item.Mapping{Entries: []item.MapEntry{{Key: "12", Value: "1"}, {Key: "dozen", Value: "1"}}}
	for typed, want := range map[string]points.Points{"12.0": 100, "24/2": 100, "13": 0, "0": 0, "dozen": 0} {
		assert.Equal(t, want, number.Score(answer(typed), 100).Credit, typed)
	}
	among := item.NewPairs(item.Match, "x", []string{"a", "b", "c"}, nil, []item.Pair{{Choice: 0, Target: 1}}, 1, 1, item.Mapped)
	among.Body[1].Interaction.Among = true
	among.Declarations[0] = item.Declaration{Response: "RESPONSE", Mapping: &item.Mapping{Entries: []item.MapEntry{{Key: "A B", Value: "1"}}}}
	assert.Equal(t, points.Points(100), among.Score(answer("B A"), 100).Credit, "joined among each other, either way round")
	assert.Zero(t, among.Score(answer("A C"), 100).Credit)
}

func TestNumbersHaveTheirLengths(t *testing.T) {
	it := item.NewNumber("x", []string{"12"}, item.NumberKey{}, "")
	long := strings.Repeat("0", 58) + "12" // 60 bytes
	assert.NoError(t, it.Accepts(answer(long)))
	assert.Equal(t, item.Right, it.Score(answer(long), 100).Outcome)
	assert.ErrorContains(t, it.Accepts(answer("0"+long)), "is longer than 60 bytes")
	for key, good := range map[string]bool{long: true, "0" + long: false, "3/0": false, "1 1/0": false, "1 1/2": true} {
		assert.Equal(t, good, firstReason(item.NewNumber("x", []string{key}, item.NumberKey{}, "")) == "", key)
	}
	assert.Equal(t, item.Wrong, it.Score(answer("12 1/0"), 100).Outcome)
	for tolerance, good := range map[string]bool{"0": true, "0.5": true, "-0.1": false, "some": false} {
		assert.Equal(t, good, firstReason(item.NewNumber("x", []string{"1"}, item.NumberKey{Tolerance: tolerance}, "")) == "", tolerance)
	}
}

func TestAChoiceWantsAnIDWithoutSpaces(t *testing.T) {
	for id, says := range map[string]string{"": "a choice needs an id without spaces", "A B": "a choice needs an id without spaces", "C": `the id "C" is used twice`, "D": ""} {
		it := item.NewChoice(item.SingleChoice, "x", []string{"a", "b", "c"}, []int{0}, item.AllOrNothing)
		it.Body[1].Interaction.Choices[1].ID = id
		assert.Equal(t, says, firstReason(it), id)
	}
}

// The slip of one letter is for words of five letters or more.
func TestASlipWantsAWordOfFiveLetters(t *testing.T) {
	for want, typed := range map[string]string{"pilot": "pilt", "tides": "tidez"} {
		assert.Equal(t, item.Right, item.NewText("x", []string{want}, item.TextKey{Slips: true}).Score(answer(typed), 100).Outcome, want)
	}
	assert.Equal(t, item.Wrong, item.NewText("x", []string{"tide"}, item.TextKey{Slips: true}).Score(answer("tidd"), 100).Outcome)
}

func TestMenusWantAKeyOfTheirOwnChoices(t *testing.T) {
	it := item.NewMenus("x", []string{"The tide ", " and ", "."}, []item.Menu{{Words: []string{"rises", "sinks"}}, {Words: []string{"falls", "stands"}}}, item.PerPart)
	require.Empty(t, firstReason(it))
	key := it.Declarations[0].Correct
	it.Declarations[0].Correct = []string{key[0], "nowhere " + strings.Fields(key[1])[1]}
	assert.Contains(t, firstReason(it), "the key ")
	it.Declarations[0].Correct = key[:1]
	assert.Equal(t, "the key must choose from every menu", firstReason(it))
}

// Steps of parts: the finest of each, over their weights; an item that is all or nothing has one.
func TestStepsOfParts(t *testing.T) {
	pairs := func(n int) item.Item {
		words := strings.Split(strings.Repeat("a b c d e f g h i j k l m ", 10), " ")[:n]
		for i := range words {
			words[i] += fmt.Sprint(i)
		}
		var key []item.Pair
		for i := range n {
			key = append(key, item.Pair{Choice: i, Target: i})
		}
		return item.NewPairs(item.Match, "x", words, words, key, 1, 1, item.PerPart)
	}
	for name, c := range map[string]struct {
		parts  []item.Item
		credit item.CreditRule
		step   points.Points
	}{
		"two numbers":                  {[]item.Item{item.NewNumber("a", []string{"1"}, item.NumberKey{}, ""), item.NewNumber("b", []string{"2"}, item.NumberKey{}, "")}, item.PerPart, 600},
		"two and three pairs":          {[]item.Item{pairs(2), pairs(3)}, item.PerPart, 100},
		"four and six pairs":           {[]item.Item{pairs(4), pairs(6)}, item.PerPart, 50},
		"all or nothing":               {[]item.Item{pairs(2), pairs(3)}, item.AllOrNothing, 1200},
		"more steps than can be told":  {[]item.Item{pairs(7), pairs(11), pairs(13), pairs(17), pairs(19), pairs(23)}, item.PerPart, 1},
		"what cannot be parted evenly": {[]item.Item{pairs(7), pairs(2)}, item.PerPart, 1},
	} {
		assert.Equal(t, c.step, item.NewParts("x", c.parts, nil, c.credit).Step(1200), name)
	}
}

func TestRubricsAreEqualByNamesAndLevels(t *testing.T) {
	rubric := func(name string, levels ...points.Points) item.Rubric {
		out := item.Rubric{Traits: []item.Trait{{Name: name}}}
		for _, p := range levels {
			out.Traits[0].Levels = append(out.Traits[0].Levels, item.Level{Points: p})
		}
		return out
	}
	ideas := rubric("Ideas", 200, 100, 0)
	assert.True(t, ideas.Equal(rubric("Ideas", 200, 100, 0)))
	assert.False(t, ideas.Equal(rubric("Order", 200, 100, 0)), "another name")
	assert.False(t, ideas.Equal(rubric("Ideas", 200, 100)), "a level less")
	assert.False(t, ideas.Equal(rubric("Ideas", 300, 100, 0)), "other points")
	assert.False(t, ideas.Equal(item.Rubric{}))
}

func TestQuestionsOfADocumentHaveTheirBounds(t *testing.T) {
	for name, c := range map[string]struct {
		number, label string
		says          string
	}{
		"as they should be":           {"7b", "F", ""},
		"the longest number":          {strings.Repeat("7", 20), "F", ""},
		"too long a number":           {strings.Repeat("7", 21), "F", "a question needs a number of at most 20 characters"},
		"no number":                   {"", "F", "a question needs a number of at most 20 characters"},
		"the longest label":           {"7", strings.Repeat("F", 40), ""},
		"too long a label":            {"7", strings.Repeat("F", 41), "longer than 40 characters"},
		"a label with space around":   {"7", " F", "has space around it"},
		"a label that is not there":   {"7", "", "is empty"},
		"a label that is there twice": {"7", "G", `the label "G" is used twice`},
	} {
		problems := item.Keyed{Number: c.number, Kind: item.SingleChoice, Labels: []string{c.label, "G", "H"}, Key: []string{"H"}}.Check()
		if c.says == "" {
			assert.Empty(t, problems, name)
		} else if assert.NotEmpty(t, problems, name) {
			assert.Contains(t, problems[0].Reason, c.says, name)
		}
	}
}

func TestAKeyOfOneUnknownChoiceIsNamedNone(t *testing.T) {
	it := item.NewChoice(item.SingleChoice, "x", []string{"a", "b"}, []int{1}, item.AllOrNothing)
	assert.Equal(t, "B", it.KeyShort())
	it.Declarations[0].Correct = []string{"Z"}
	assert.Equal(t, "none", it.KeyShort())
}

// A polygon holds a spot just where the turns that its border makes around the spot say so.
func TestAPolygonHoldsWhatItsBorderGoesAround(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(3, 7).Draw(t, "corners")
		at := rapid.SliceOfN(rapid.IntRange(0, 8), 2*n, 2*n).Draw(t, "at")
		x, y := rapid.IntRange(-1, 9).Draw(t, "x"), rapid.IntRange(-1, 9).Draw(t, "y")
		inside, border := false, false
		for i := range n {
			x1, y1 := at[2*i], at[2*i+1]
			x2, y2 := at[(2*i+2)%(2*n)], at[(2*i+3)%(2*n)]
			if (x2-x1)*(y-y1) == (y2-y1)*(x-x1) && (x-x1)*(x-x2) <= 0 && (y-y1)*(y-y2) <= 0 {
				border = true
			}
			// A ray upward from just right of the spot crosses the edge.
			if lo, hi := min(x1, x2), max(x1, x2); lo <= x && x < hi && y1*(x2-x1)+(y2-y1)*(x-x1)-y*(x2-x1) != 0 {
				above := (y1-y)*(x2-x1)+(y2-y1)*(x-x1) > 0
				if x2 < x1 {
					above = !above
				}
				if above {
					inside = !inside
				}
			}
		}
		got := item.Area{Shape: item.Polygon, At: at}.Contains(x, y)
		if border || inside != got {
			assert.Equal(t, border || inside, got, "%v %d %d", at, x, y)
		}
	})
}

// A word with a letter wrong earns by the rules what it earns by the key, where slips are accepted and where not.
func TestSlipsAsRules(t *testing.T) {
	for _, slips := range []bool{true, false} {
		it := item.NewText("x", []string{"lighthouse"}, item.TextKey{Slips: slips})
		told, ok := it.AsRules()
		require.True(t, ok)
		for _, typed := range []string{"lighthouse", "lighthous", "lighthose", "lighous", "Lighthouse"} {
			assert.Equal(t, it.Score(answer(typed), 100).Outcome, told.Score(answer(typed), 100).Outcome, "%s, slips %v", typed, slips)
		}
	}
}

// What is joined among each other earns by the rules what it earns by the key, whatever is joined.
func TestJoinedAmongEachOtherAsRules(t *testing.T) {
	it := item.NewPairs(item.Match, "x", []string{"a", "b", "c", "d"}, nil, []item.Pair{{Choice: 0, Target: 1}, {Choice: 2, Target: 3}}, 1, 1, item.PerPart)
	it.Body[1].Interaction.Among = true
	it.Declarations[0].Correct = []string{"A B", "C D"}
	require.Empty(t, firstReason(it))
	told, ok := it.AsRules()
	require.True(t, ok)
	require.Empty(t, firstReason(told))
	for _, joined := range [][]string{{}, {"A B"}, {"B A"}, {"A B", "C D"}, {"D C", "B A"}, {"A C"}, {"A C", "B D"}, {"C D"}, {"A D", "B C"}, {"A D"}} {
		require.NoError(t, it.Accepts(answer(joined...)), joined)
		assert.Equal(t, it.Score(answer(joined...), 200).Credit, told.Score(answer(joined...), 200).Credit, joined)
	}
}

// The best answers of a mapping are those worth more than nothing, as many as may be given.
func TestTheBestOfAMapping(t *testing.T) {
	entries := []item.MapEntry{{Key: "A", Value: "1"}, {Key: "B", Value: "2"}, {Key: "C", Value: "0"}, {Key: "D", Value: "-1"}}
	for name, c := range map[string]struct {
		kind item.Kind
		most int
		best []string
	}{
		"of any number":     {item.MultipleChoice, 0, []string{"B", "A"}},
		"of one":            {item.MultipleChoice, 1, []string{"B"}},
		"of a single one":   {item.SingleChoice, 0, []string{"B"}},
		"of three at most":  {item.MultipleChoice, 3, []string{"B", "A"}},
		"of a word or one":  {item.Text, 0, []string{"B"}},
		"of a number or so": {item.Number, 0, []string{"B"}},
	} {
		it := item.NewChoice(c.kind, "x", []string{"a", "b", "c", "d"}, []int{0}, item.Mapped)
		it.Body[1].Interaction.MaxChoices = c.most
		it.Declarations[0].Mapping = &item.Mapping{Entries: entries}
		assert.Equal(t, c.best, it.RightResponse()["RESPONSE"], name)
	}
}

// What lists call an item or an answer is cut where it is longer than the line, and not before.
func TestLongTextsAreCutInLists(t *testing.T) {
	for letters, cut := range map[int]bool{80: false, 81: true} {
		name := item.NewNumber(strings.Repeat("ö", letters), []string{"12"}, item.NumberKey{}, "").Name()
		assert.Equal(t, cut, strings.HasSuffix(name, "…"), "a stem of %d letters", letters)
		assert.Len(t, []rune(strings.TrimSuffix(name, "…")), 80)
	}
	written := item.NewWritten(item.ShortWritten, "Tell of the tide.", 6, nil, nil)
	for letters, cut := range map[int]bool{60: false, 61: true} {
		short := written.ResponseShort(item.Response{"RESPONSE": {strings.Repeat("ö", letters)}})
		require.Len(t, short, 1)
		assert.Equal(t, cut, strings.HasSuffix(short[0], "…"), "an answer of %d letters", letters)
	}
}

// Places of a number line are decimals of four places at most, else fractions.
func TestPlacesAreDecimalsWhereTheyAreShort(t *testing.T) {
	assert.Equal(t, []string{"0", "0.0625"}, item.Line{From: "0", To: "0.0625", Step: "1/16"}.Places())
	assert.Equal(t, []string{"0", "1/32"}, item.Line{From: "0", To: "1/32", Step: "1/32"}.Places(), "0.03125 is longer")
	assert.Equal(t, []string{"0", "1/3"}, item.Line{From: "0", To: "1/3", Step: "1/3"}.Places())
}

// A spot is drawn or chosen; its key says which areas, or which choices, are right.
func TestTheKeyOfASpotNamesItsAreas(t *testing.T) {
	circle, box := item.Area{Shape: item.Circle, At: []int{20, 30, 5}}, item.Area{Shape: item.Rectangle, At: []int{50, 10, 70, 20}}
	it := item.NewSpot("Where is the pier?", harbor, []item.Area{circle, box})
	assert.Equal(t, "20 30 ± 5 or 50 10 to 70 20", it.KeyShort())
	assert.Equal(t, points.Points(100), it.Step(100), "one mark earns all or nothing")
}

// Rounded to significant figures below zero, half goes away from it, as above.
func TestRoundingIsAlikeOnBothSidesOfZero(t *testing.T) {
	for value, want := range map[string]string{"-12.45": "-12.5", "12.45": "12.5", "-12.44": "-12.4", "12.44": "12.4", "0": "0", "-0.25": "-0.3"} {
		rounds := `{"op":"equal-rounded","mode":"decimalPlaces","n":1,"of":[{"op":"base-value","base":"float","value":"` + value + `"},{"op":"base-value","base":"float","value":"` + want + `"}]}`
		assert.Equal(t, item.Right, underRule(t, "1", rounds), "%s is %s", value, want)
	}
}
