package item_test

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/item"
	"pineledger/core/points"
)

// written makes an item that follows rules given as JSON.
func asWritten(t *testing.T, it item.Item, processing string) item.Item {
	t.Helper()
	it.Credit = item.AsWritten
	it.Processing = &item.Processing{}
	require.NoError(t, json.Unmarshal([]byte(processing), it.Processing))
	return it
}

const halfForTheSecond = `{"most":"2","outcomes":[{"id":"SEEN","base":"boolean"}],"rules":[
	{"set":"SEEN","value":{"op":"not","of":[{"op":"is-null","of":[{"op":"variable","id":"RESPONSE"}]}]}},
	{"branches":[
		{"when":{"op":"match","of":[{"op":"variable","id":"RESPONSE"},{"op":"correct","id":"RESPONSE"}]},"then":[{"set":"SCORE","value":{"op":"base-value","base":"float","value":"2"}},{"exit":true}]},
		{"when":{"op":"member","of":[{"op":"base-value","base":"identifier","value":"B"},{"op":"variable","id":"RESPONSE"}]},"then":[{"set":"SCORE","value":{"op":"base-value","base":"float","value":"1"}}]},
		{"then":[{"set":"SCORE","value":{"op":"base-value","base":"float","value":"0"}}]}]},
	{"branches":[{"when":{"op":"variable","id":"SEEN"},"then":[{"set":"SCORE","value":{"op":"sum","of":[{"op":"variable","id":"SCORE"},{"op":"base-value","base":"float","value":"0.25"}]}}]}]}]}`

func TestRulesOfAnItemAreFollowed(t *testing.T) {
	it := asWritten(t, item.NewChoice(item.MultipleChoice, "x", []string{"a", "b", "c"}, []int{0, 1}, item.AllOrNothing), halfForTheSecond)
	require.Empty(t, it.Check())
	for given, want := range map[string]points.Points{"AB": 200, "BA": 200, "B": 125, "BC": 125, "C": 25, "ABC": 125} {
		var values []string
		for _, letter := range given {
			values = append(values, string(letter))
		}
		assert.Equal(t, want, it.Score(answer(values...), 200).Credit, given)
	}
	assert.Equal(t, item.Omitted, it.Score(answer(), 200).Outcome)
	assert.Equal(t, points.Points(1), it.Step(200))
}

// Each expression on a typed number, whose key is 12, and its result.
func TestExpressions(t *testing.T) {
	variable, key := `{"op":"variable","id":"RESPONSE"}`, `{"op":"correct","id":"RESPONSE"}`
	n := func(v string) string { return `{"op":"base-value","base":"float","value":"` + v + `"}` }
	for _, c := range []struct{ typed, when, name string }{
		{"12.0", `{"op":"match","of":[` + variable + `,` + key + `]}`, "numbers match by value"},
		{"11", `{"op":"equal","mode":"absolute","tolerance":["1"],"of":[` + key + `,` + variable + `]}`, "absolute, inclusive"},
		{"13.2", `{"op":"equal","mode":"relative","tolerance":["10"],"of":[` + key + `,` + variable + `]}`, "relative, in percent"},
		{"12.04", `{"op":"equal-rounded","mode":"decimalPlaces","n":1,"of":[` + key + `,` + variable + `]}`, "rounded to places"},
		{"12.4", `{"op":"equal-rounded","mode":"significantFigures","n":2,"of":[` + key + `,` + variable + `]}`, "rounded to figures"},
		{"3", `{"op":"lt","of":[` + variable + `,` + n("3.5") + `]}`, "less"},
		{"3", `{"op":"gte","of":[` + variable + `,` + n("3") + `]}`, "at least"},
		{"3", `{"op":"match","of":[{"op":"product","of":[` + variable + `,` + n("4") + `]},` + key + `]}`, "product"},
		{"3", `{"op":"equal","of":[{"op":"divide","of":[` + key + `,` + n("4") + `]},` + variable + `]}`, "quotient"},
		{"3", `{"op":"is-null","of":[{"op":"divide","of":[` + variable + `,` + n("0") + `]}]}`, "a quotient by 0 is null"},
		{"3", `{"op":"equal","of":[{"op":"max","of":[` + variable + `,` + n("1") + `]},{"op":"min","of":[` + n("3") + `,` + n("9") + `]}]}`, "largest and smallest"},
		{"3", `{"op":"or","of":[{"op":"null"},{"op":"gt","of":[` + variable + `,` + n("1") + `]}]}`, "one that holds is enough"},
		{"3", `{"op":"is-null","of":[{"op":"and","of":[{"op":"null"},{"op":"gt","of":[` + variable + `,` + n("1") + `]}]}]}`, "unknown and true is unknown"},
		{"3", `{"op":"equal","of":[{"op":"container-size","of":[{"op":"multiple","of":[` + variable + `,` + key + `]}]},` + n("2") + `]}`, "as many as gathered"},
		{"3", `{"op":"contains","of":[{"op":"ordered","of":[` + n("1") + `,` + variable + `,` + n("5") + `]},{"op":"ordered","of":[` + variable + `,` + n("5") + `]}]}`, "a run of a list"},
		{"3", `{"op":"not","of":[{"op":"contains","of":[{"op":"ordered","of":[` + n("1") + `,` + variable + `,` + n("5") + `]},{"op":"ordered","of":[` + n("1") + `,` + n("5") + `]}]}]}`, "not a run"},
		{"3", `{"op":"equal","of":[{"op":"index","n":2,"of":[{"op":"ordered","of":[` + n("1") + `,` + variable + `]}]},` + n("3") + `]}`, "the second of a list"},
		{"3", `{"op":"string-match","ignoreCase":true,"of":[{"op":"base-value","base":"string","value":" Pier "},{"op":"base-value","base":"string","value":"pier"}]}`, "words"},
		{"3", `{"op":"substring","of":[{"op":"base-value","base":"string","value":"tid"},{"op":"base-value","base":"string","value":"high tide"}]}`, "a piece of a word"},
	} {
		assert.Equal(t, item.Right, underRule(t, c.typed, c.when), c.name)
	}
}

// underRule is the outcome of a number whose key is 12, right where the condition holds.
func underRule(t *testing.T, typed, when string) item.Outcome {
	t.Helper()
	it := asWritten(t, item.NewNumber("x", []string{"12"}, item.NumberKey{}, ""),
		`{"most":"1","rules":[{"branches":[{"when":`+when+`,"then":[{"set":"SCORE","value":{"op":"base-value","base":"float","value":"1"}}]}]}]}`)
	require.Empty(t, it.Check(), when)
	return it.Score(answer(typed), 100).Outcome
}

// For each operator a condition that does not hold, as near as can be to one that does.
func TestExpressionsThatDoNotHold(t *testing.T) {
	variable, key := `{"op":"variable","id":"RESPONSE"}`, `{"op":"correct","id":"RESPONSE"}`
	n := func(v string) string { return `{"op":"base-value","base":"float","value":"` + v + `"}` }
	word := func(w string) string { return `{"op":"base-value","base":"string","value":"` + w + `"}` }
	op := func(name string, of ...string) string {
		return `{"op":"` + name + `","of":[` + strings.Join(of, ",") + `]}`
	}
	more := func(name, fields string, of ...string) string {
		return `{"op":"` + name + `",` + fields + `,"of":[` + strings.Join(of, ",") + `]}`
	}
	three := op("ordered", n("1"), n("2"), n("3"))
	for _, c := range []struct{ typed, when, name string }{
		{"12.01", op("match", variable, key), "another number"},
		{"12", op("match", op("ordered", n("1"), n("2")), op("ordered", n("2"), n("1"))), "another order"},
		{"12", op("match", op("multiple", n("1"), n("1"), n("2")), op("multiple", n("1"), n("2"), n("2"))), "another count"},
		{"12", op("match", op("multiple", n("1")), op("multiple", n("1"), n("1"))), "one more"},
		{"12", op("member", n("4"), three), "no member"},
		{"12", op("contains", op("multiple", n("1"), n("2")), op("multiple", n("1"), n("1"))), "holds it once only"},
		{"12", op("contains", three, op("ordered", n("2"), n("3"), n("4"))), "a run that goes on"},
		{"10.99", more("equal", `"mode":"absolute","tolerance":["1"]`, key, variable), "under the tolerance"},
		{"13.01", more("equal", `"mode":"absolute","tolerance":["1"]`, key, variable), "over the tolerance"},
		{"11", more("equal", `"mode":"absolute","tolerance":["1"],"leaveLower":true`, key, variable), "its lower end is left out"},
		{"13", more("equal", `"mode":"absolute","tolerance":["1"],"leaveUpper":true`, key, variable), "its upper end is left out"},
		{"13.21", more("equal", `"mode":"relative","tolerance":["10"]`, key, variable), "over the percent"},
		{"10.79", more("equal", `"mode":"relative","tolerance":["10"]`, key, variable), "under the percent"},
		{"12.001", more("equal", `"mode":"exact","tolerance":["10"]`, key, variable), "exact knows no tolerance"},
		{"12.05", more("equal-rounded", `"mode":"decimalPlaces","n":1`, key, variable), "a half goes away from zero"},
		{"-12.05", more("equal-rounded", `"mode":"decimalPlaces","n":1`, n("-12"), variable), "below zero, too"},
		{"12.5", more("equal-rounded", `"mode":"significantFigures","n":2`, key, variable), "other figures"},
		{"3.5", op("lt", variable, n("3.5")), "not less"},
		{"3.5", op("gt", variable, n("3.5")), "not more"},
		{"3.6", op("lte", variable, n("3.5")), "not at most"},
		{"3.4", op("gte", variable, n("3.5")), "not at least"},
		{"3", op("match", op("sum", variable, n("10")), key), "another sum"},
		{"3", op("match", op("product", variable, n("5")), key), "another product"},
		{"3", op("match", op("subtract", variable, n("-8")), key), "another difference"},
		{"3", op("match", op("divide", n("35"), variable), key), "another quotient"},
		{"3", op("match", op("max", variable, n("4")), variable), "not the largest"},
		{"3", op("match", op("min", variable, n("2")), variable), "not the smallest"},
		{"3", op("not", op("match", variable, n("3"))), "not what holds"},
		{"3", op("and", op("match", variable, n("3")), op("match", variable, n("4"))), "one does not hold"},
		{"3", op("or", op("match", variable, n("4")), op("match", variable, n("5"))), "none holds"},
		{"3", op("or", `{"op":"null"}`, op("match", variable, n("4"))), "unknown or not is unknown"},
		{"3", op("is-null", variable), "a value is not null"},
		{"3", op("is-null", op("and", `{"op":"null"}`, op("match", variable, n("4")))), "unknown and not is not"},
		{"3", op("is-null", op("or", `{"op":"null"}`, op("match", variable, n("3")))), "unknown or so is so"},
		{"3", op("match", op("container-size", three), n("2")), "three are not two"},
		{"1", op("match", more("index", `"n":2`, three), variable), "the second is not the first"},
		{"3", op("not", op("is-null", more("index", `"n":4`, three))), "there is no fourth"},
		{"3", op("not", op("is-null", more("index", `"n":0`, three))), "there is none before the first"},
		{"3", op("string-match", word("Pier"), word("pier")), "case matters"},
		{"3", op("string-match", word("low tide"), word("tide")), "a piece is not the whole"},
		{"3", op("substring", word("Tid"), word("high tide")), "case matters in a piece"},
		{"3", op("substring", word("high tide"), word("tid")), "the whole is in no piece"},
		{"3", op("near-word", word("harbour"), word("habr")), "too many letters off"},
		{"3", op("match", op("longest-run", op("ordered", n("1"), n("3"), n("2")), three), n("3")), "two of three in order"},
		{"3", op("not", op("is-null", op("equal", op("multiple"), n("3")))), "nothing is no number"},
		{"3", op("not", op("is-null", op("sum", word("three"), n("3")))), "a word is no number"},
	} {
		assert.Equal(t, item.Wrong, underRule(t, c.typed, c.when), c.name)
	}
}

func TestRulesThatCannotBeFollowedAreRefused(t *testing.T) {
	choice := item.NewChoice(item.SingleChoice, "x", []string{"a", "b"}, []int{0}, item.AllOrNothing)
	for rules, want := range map[string]string{
		`{"most":"0","rules":[]}`:                                                                       "not above 0",
		`{"most":"1","rules":[{"set":"OTHER","value":{"op":"null"}}]}`:                                  `the outcome "OTHER" is not declared`,
		`{"most":"1","rules":[{"set":"SCORE","value":{"op":"launch"}}]}`:                                `"launch" is not an expression`,
		`{"most":"1","rules":[{"set":"SCORE","value":{"op":"variable","id":"R2"}}]}`:                    `names "R2"`,
		`{"most":"1","rules":[{"set":"SCORE","value":{"op":"map-response","id":"RESPONSE"}}]}`:          "has no mapping",
		`{"most":"1","rules":[{"set":"SCORE","value":{"op":"subtract","of":[{"op":"null"}]}}]}`:         "has 1 expressions",
		`{"most":"1","rules":[{"set":"SCORE"}]}`:                                                        "is set to nothing",
		`{"most":"1","rules":[{"branches":[{"when":{"op":"inside","of":[{"op":"null"}]},"then":[]}]}]}`: "an area",
	} {
		problems := asWritten(t, choice, rules).Check()
		require.NotEmpty(t, problems, rules)
		assert.Contains(t, problems[0].Reason, want, rules)
	}
	choice.Credit = item.AsWritten
	assert.Contains(t, choice.Check()[0].Reason, "are missing")
}

// Rules from outside never bring the program down, whatever they are.
func FuzzRules(f *testing.F) {
	f.Add([]byte(halfForTheSecond), "A", "B")
	f.Add([]byte(`{"most":"3","rules":[{"set":"SCORE","value":{"op":"index","n":0,"of":[{"op":"variable","id":"RESPONSE"}]}}]}`), "A", "")
	f.Add([]byte(`{"most":"1","rules":[{"set":"SCORE","value":{"op":"equal-rounded","n":900,"of":[{"op":"correct","id":"RESPONSE"},{"op":"variable","id":"RESPONSE"}]}}]}`), "1", "")
	f.Fuzz(func(t *testing.T, rules []byte, first, second string) {
		it := item.NewChoice(item.MultipleChoice, "x", []string{"a", "b", "c"}, []int{0, 1}, item.AllOrNothing)
		it.Credit, it.Processing = item.AsWritten, &item.Processing{}
		if json.Unmarshal(rules, it.Processing) != nil || len(it.Check()) > 0 {
			return
		}
		c := it.Score(answer(first, second), 100)
		if c.Credit < 0 || c.Credit > 100 {
			t.Errorf("a credit of %s", c.Credit)
		}
	})
}
