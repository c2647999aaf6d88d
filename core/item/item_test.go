package item_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/item"
	"pineledger/core/points"
)

func single() item.Item {
	return item.NewChoice(item.SingleChoice, "<p>Which ferry is faster?</p>", []string{"Curlew", "Sandpiper", "Both"}, []int{1}, item.AllOrNothing)
}

func multiple(credit item.CreditRule) item.Item {
	return item.NewChoice(item.MultipleChoice, "Which are even?", []string{"2", "3", "4", "5"}, []int{0, 2}, credit)
}

func answer(values ...string) item.Response { return item.Response{"RESPONSE": values} }

func ExampleItem_Score() {
	c := single().Score(answer("A"), points.One)
	fmt.Println(c.Credit, c.Outcome, c.Why)
	// Output: 0 wrong Chose A; the key is B.
}

func TestChoiceCredit(t *testing.T) {
	for _, c := range []struct {
		name    string
		item    item.Item
		given   item.Response
		max     points.Points
		want    points.Points
		outcome item.Outcome
	}{
		{"the key", single(), answer("B"), 100, 100, item.Right},
		{"a distractor", single(), answer("C"), 100, 0, item.Wrong},
		{"no answer is omitted, not wrong", single(), answer(), 100, 0, item.Omitted},
		{"a blank is no answer", single(), answer(" "), 100, 0, item.Omitted},
		{"all keys", multiple(item.AllOrNothing), answer("C", "A"), 200, 200, item.Right},
		{"one key of two, all or nothing", multiple(item.AllOrNothing), answer("A"), 200, 0, item.Wrong},
		{"one key of two, per choice: three of four judged right", multiple(item.PerChoice), answer("A"), 200, 150, item.Part},
		{"everything chosen, per choice", multiple(item.PerChoice), answer("A", "B", "C", "D"), 200, 100, item.Part},
		{"one key of two, key minus", multiple(item.KeyMinus), answer("A"), 200, 100, item.Part},
		{"key minus is not below 0", multiple(item.KeyMinus), answer("B", "D"), 200, 0, item.Wrong},
		{"a third is rounded once", item.NewChoice(item.MultipleChoice, "x", []string{"a", "b", "c"}, []int{0, 1, 2}, item.KeyMinus), answer("A"), 100, 33, item.Part},
	} {
		t.Run(c.name, func(t *testing.T) {
			got := c.item.Score(c.given, c.max)
			assert.Equal(t, c.want, got.Credit)
			assert.Equal(t, c.outcome, got.Outcome)
			assert.NotEmpty(t, got.Why)
		})
	}
}

func TestTypedNumber(t *testing.T) {
	plain := item.NumberKey{}
	for _, c := range []struct {
		typed string
		keys  []string
		key   item.NumberKey
		right bool
	}{
		{"0.75", []string{"3/4"}, plain, true},
		{".75", []string{"3/4"}, plain, true},
		{"6/8", []string{"0.75"}, plain, true},
		{"1 3/4", []string{"1.75"}, plain, true},
		{"-1 3/4", []string{"-1.75"}, plain, true},
		{"\u22122.50", []string{"-2.5"}, plain, true},
		{"1,250", []string{"1250"}, plain, true},
		{"12,50", []string{"1250"}, plain, false},
		{"12,50", []string{"12,5"}, item.NumberKey{Comma: true}, true},
		{"0.7500001", []string{"3/4"}, plain, false},
		{"75%", []string{"3/4"}, item.NumberKey{Percent: true}, true},
		{"75%", []string{"3/4"}, plain, false},
		{"1:05", []string{"65"}, item.NumberKey{Clock: true}, true},
		{"1:65", []string{"125"}, item.NumberKey{Clock: true}, false},
		{"1:05", []string{"65"}, plain, false},
		{"12.5 km", []string{"12.5"}, item.NumberKey{Units: []string{"m", "km"}}, true},
		{"12.5 ft", []string{"12.5"}, item.NumberKey{Units: []string{"km"}}, false},
		{"10.1", []string{"10"}, item.NumberKey{Tolerance: "0.1"}, true},
		{"10.11", []string{"10"}, item.NumberKey{Tolerance: "0.1"}, false},
		{"-110", []string{"-100"}, item.NumberKey{Tolerance: "0.1", Relative: true}, true},
		{"1/0", []string{"0"}, plain, false},
		{"1e3", []string{"1000"}, plain, false},
		{"twelve", []string{"12"}, plain, false},
		{"8", []string{"7", "8"}, plain, true},
	} {
		it := item.NewNumber("How far?", c.keys, c.key, "")
		require.Empty(t, it.Check(), c.typed)
		got := it.Score(answer(c.typed), points.One)
		assert.Equal(t, c.right, got.Outcome == item.Right, "%q against %v: %s", c.typed, c.keys, got.Why)
	}
}

func TestStepIsWhatCreditCanChangeBy(t *testing.T) {
	assert.Equal(t, points.Points(200), single().Step(200))
	assert.Equal(t, points.Points(50), multiple(item.PerChoice).Step(200))
	assert.Equal(t, points.Points(100), multiple(item.KeyMinus).Step(200))
	three := item.NewChoice(item.MultipleChoice, "x", []string{"a", "b", "c"}, []int{0}, item.PerChoice)
	assert.Equal(t, points.Points(1), three.Step(100), "thirds are rounded to hundredths")
}

func TestProblemsAreNamed(t *testing.T) {
	reasons := func(it item.Item) string {
		var out []string
		for _, p := range it.Check() {
			out = append(out, p.String())
		}
		return strings.Join(out, "; ")
	}
	assert.Empty(t, reasons(single()))
	for want, it := range map[string]item.Item{
		"the stem is empty":                item.NewChoice(item.SingleChoice, " ", []string{"a", "b"}, []int{0}, item.AllOrNothing),
		"there is no key":                  item.NewChoice(item.SingleChoice, "x", []string{"a", "b"}, nil, item.AllOrNothing),
		"a single choice has one key":      item.NewChoice(item.SingleChoice, "x", []string{"a", "b"}, []int{0, 1}, item.AllOrNothing),
		"two choices are the same":         item.NewChoice(item.SingleChoice, "x", []string{"a", "a"}, []int{0}, item.AllOrNothing),
		"not one of the choices":           item.NewChoice(item.SingleChoice, "x", []string{"a", "b"}, []int{4}, item.AllOrNothing),
		"at least two choices are needed":  item.NewChoice(item.SingleChoice, "x", []string{"a"}, []int{0}, item.AllOrNothing),
		"is not a credit rule":             item.NewChoice(item.SingleChoice, "x", []string{"a", "b"}, []int{0}, item.PerChoice),
		"the key \"many\" is not a number": item.NewNumber("x", []string{"many"}, item.NumberKey{}, ""),
		"is not a number from 0 on":        item.NewNumber("x", []string{"1"}, item.NumberKey{Tolerance: "-1"}, ""),
		"is not a kind of item":            {Schema: item.Schema, Kind: "riddle"},
	} {
		assert.Contains(t, reasons(it), want)
	}
}

func TestResponsesOfAnotherShapeAreRefused(t *testing.T) {
	long := strings.Repeat("9", 61)
	for _, c := range []struct {
		it   item.Item
		give item.Response
		want string
	}{
		{single(), item.Response{"OTHER": {"A"}}, "response OTHER is not asked for by this item"},
		{single(), answer("A", "B"), "response RESPONSE has 2 choices, 1 at most"},
		{single(), answer("Z"), `response RESPONSE names "Z", which is not offered`},
		{multiple(item.PerChoice), answer("A", "A"), `response RESPONSE names the choice "A" twice`},
		{item.NewNumber("x", []string{"1"}, item.NumberKey{}, ""), answer("1", "2"), "response RESPONSE has more than one value"},
		{item.NewNumber("x", []string{"1"}, item.NumberKey{}, ""), answer(long), "response RESPONSE is longer than 60 bytes"},
	} {
		assert.EqualError(t, c.it.Accepts(c.give), c.want)
	}
	assert.NoError(t, single().Accepts(answer("B")))
	assert.NoError(t, single().Accepts(item.Response{}))
}

func TestWhatAStudentGetsHoldsNoKey(t *testing.T) {
	it := item.NewNumber("How far?", []string{"41287"}, item.NumberKey{Tolerance: "3"}, "km")
	data, err := json.Marshal(it.Shown("en"))
	require.NoError(t, err)
	for _, secret := range []string{"41287", "correct", "declaration", "credit", "tolerance"} {
		assert.NotContains(t, strings.ToLower(string(data)), secret)
	}
}

func TestContentIsCleaned(t *testing.T) {
	it := item.NewChoice(item.SingleChoice, `<p onclick="x()">Hi<script>alert(1)</script><img src=x onerror=y></p>`,
		[]string{`<a href="javascript:x">a</a>`, "<math><mfrac><mn>1</mn><mn>2</mn></mfrac></math>"}, []int{0}, item.AllOrNothing)
	assert.Equal(t, "<p>Hi</p>", it.Body[0].HTML)
	assert.Equal(t, "a", it.Body[1].Interaction.Choices[0].HTML)
	assert.Contains(t, it.Body[1].Interaction.Choices[1].HTML, "<mfrac>")
	assert.Equal(t, "1 & 2 then 3", item.PlainText("<p>1 &amp; 2</p><p>then 3</p>"))
}

func TestDocumentsAreReadBack(t *testing.T) {
	data, err := json.Marshal(single())
	require.NoError(t, err)
	back, err := item.Read(data)
	require.NoError(t, err)
	assert.Equal(t, single(), back)
	_, err = item.Read([]byte(`{"schema":99}`))
	assert.ErrorContains(t, err, "schema 99")
}

// Credit stays within 0 and the points, the order of the choices does not
// matter, and turning one judgement right never lowers the credit.
func TestMultipleChoiceProperties(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(2, 8).Draw(t, "n")
		var choices, chosen []string
		var keys []int
		for i := range n {
			choices = append(choices, fmt.Sprint("choice ", i))
			if rapid.Bool().Draw(t, "key") {
				keys = append(keys, i)
			}
			if rapid.Bool().Draw(t, "chosen") {
				chosen = append(chosen, item.Label(i))
			}
		}
		if len(keys) == 0 {
			keys = []int{0}
		}
		max := points.Points(rapid.IntRange(1, 1000).Draw(t, "max"))
		for _, rule := range []item.CreditRule{item.AllOrNothing, item.PerChoice, item.KeyMinus} {
			it := item.NewChoice(item.MultipleChoice, "x", choices, keys, rule)
			before := it.Score(answer(chosen...), max)
			require.True(t, before.Credit >= 0 && before.Credit <= max)
			require.Zero(t, before.Credit%it.Step(max), "credit moves in steps")

			backward := append([]string(nil), chosen...)
			for i, j := 0, len(backward)-1; i < j; i, j = i+1, j-1 {
				backward[i], backward[j] = backward[j], backward[i]
			}
			require.Equal(t, before, it.Score(answer(backward...), max))

			for _, k := range keys {
				more := append(append([]string(nil), chosen...), item.Label(k))
				require.GreaterOrEqual(t, it.Score(answer(more...), max).Credit, before.Credit)
			}
		}
	})
}

func FuzzTypedNumberNeverPanics(f *testing.F) {
	for _, s := range []string{"1/0", "-1 1/2", "1:59", "٣", "99999999999999999999/3", "%", ","} {
		f.Add(s)
	}
	it := item.NewNumber("x", []string{"3/4"}, item.NumberKey{Percent: true, Clock: true, Units: []string{"km"}, Tolerance: "1/100"}, "km")
	f.Fuzz(func(t *testing.T, s string) {
		c := it.Score(answer(s), points.One)
		assert.True(t, c.Credit == 0 || c.Credit == points.One)
	})
}
