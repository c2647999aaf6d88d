package item_test

import (
	"fmt"
	"math/big"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/item"
	"pineledger/core/points"
)

var harbor = item.Picture{Source: "/media/" + hash, Alt: "A plan of the harbor", Width: 400, Height: 300}

const hash = "0123456789abcdef0123456789abcdef0123456789abcdef0123456789abcdef"

var plainRubric = item.Rubric{Traits: []item.Trait{
	{Name: "Evidence", Levels: []item.Level{{200, "cites two facts"}, {100, "cites one"}, {0, "cites none"}}},
	{Name: "Order", Levels: []item.Level{{100, "clear"}, {0, "unclear"}}},
}}

// dependent has a choice, then a reason that counts with it only, worth twice as much, then a number.
func dependent(credit item.CreditRule) item.Item {
	it := item.NewParts("Read the tide table.", []item.Item{
		item.NewChoice(item.SingleChoice, "Which tide is higher?", []string{"first", "second"}, []int{1}, item.AllOrNothing),
		item.NewChoice(item.MultipleChoice, "How do you know?", []string{"x", "y", "z"}, []int{0, 2}, item.KeyMinus),
		item.NewNumber("By how much?", []string{"1/2"}, item.NumberKey{}, "m"),
	}, []int{-1, 0, -1}, credit)
	it.Declarations[1].Weight = 2
	return it
}

func TestPartsAddUpAndDependOnEachOther(t *testing.T) {
	for _, c := range []struct {
		name   string
		rule   item.CreditRule
		given  item.Response
		credit points.Points
		want   item.Outcome
		parts  []points.Points
	}{
		{"all right", item.PerPart, item.Response{"RESPONSE1": {"B"}, "RESPONSE2": {"A", "C"}, "RESPONSE3": {"0.5"}}, 400, item.Right, []points.Points{100, 200, 100}},
		{"half of the second", item.PerPart, item.Response{"RESPONSE1": {"B"}, "RESPONSE2": {"A"}, "RESPONSE3": {"0.5"}}, 300, item.Part, []points.Points{100, 100, 100}},
		{"the second does not count without the first", item.PerPart, item.Response{"RESPONSE1": {"A"}, "RESPONSE2": {"A", "C"}, "RESPONSE3": {"1/2"}}, 100, item.Part, []points.Points{0, 0, 100}},
		{"the first left out", item.PerPart, item.Response{"RESPONSE2": {"A", "C"}}, 0, item.Wrong, []points.Points{0, 0, 0}},
		{"nothing", item.PerPart, item.Response{}, 0, item.Omitted, []points.Points{0, 0, 0}},
		{"one wrong, all or nothing", item.AllOrNothing, item.Response{"RESPONSE1": {"B"}, "RESPONSE2": {"A", "C"}, "RESPONSE3": {"2"}}, 0, item.Wrong, []points.Points{100, 200, 0}},
		{"all right, all or nothing", item.AllOrNothing, item.Response{"RESPONSE1": {"B"}, "RESPONSE2": {"C", "A"}, "RESPONSE3": {"0.50"}}, 400, item.Right, []points.Points{100, 200, 100}},
	} {
		it := dependent(c.rule)
		require.Empty(t, it.Check(), c.name)
		require.NoError(t, it.Accepts(c.given), c.name)
		got := it.Score(c.given, 400)
		assert.Equal(t, c.credit, got.Credit, c.name)
		assert.Equal(t, c.want, got.Outcome, c.name)
		var parts []points.Points
		for _, p := range it.PartCredits(c.given, 400) {
			parts = append(parts, p.Credit)
		}
		assert.Equal(t, c.parts, parts, c.name)
	}
}

func TestAPartThatIsUnsoundIsNamed(t *testing.T) {
	it := dependent(item.PerPart)
	it.Declarations[0].Needs = "RESPONSE3" // a part cannot wait for a later one
	it.Declarations[2].Correct = []string{"about a half"}
	it.Declarations[1].Weight = 5000
	var places []string
	for _, p := range it.Check() {
		places = append(places, p.Place)
	}
	assert.ElementsMatch(t, []string{"parts[0].needs", "parts[1].weight", "parts[2].declarations[0].correct"}, places)

	it = dependent(item.PerPart)
	it.Declarations = it.Declarations[:2]
	require.Len(t, it.Check(), 1)
	assert.Contains(t, it.Check()[0].Reason, "every place to answer needs one key")
}

func TestASpotIsRightOnTheBorderToo(t *testing.T) {
	circle := item.Area{Shape: item.Circle, At: []int{100, 100, 50}}
	box := item.Area{Shape: item.Rectangle, At: []int{200, 10, 220, 30}}
	triangle := item.Area{Shape: item.Polygon, At: []int{300, 0, 400, 0, 400, 100}}
	it := item.NewSpot("Where is the pier?", harbor, []item.Area{circle, box, triangle})
	require.Empty(t, it.Check())
	for spot, want := range map[string]item.Outcome{
		"100 150": item.Right, "100 151": item.Wrong, "130 140": item.Right, "136 136": item.Wrong,
		"200 10": item.Right, "220 30": item.Right, "221 30": item.Wrong,
		"350 50": item.Right, "351 50": item.Right, "349 50": item.Wrong, "400 0": item.Right, "401 0": item.Wrong,
	} {
		require.NoError(t, it.Accepts(answer(spot)))
		assert.Equal(t, want, it.Score(answer(spot), 100).Outcome, spot)
	}
	assert.Error(t, it.Accepts(answer("here")))
	assert.Error(t, it.Accepts(answer("1 1", "2 2")), "one spot is asked for")

	it.Body[1].Interaction.MaxChoices, it.Credit = 0, item.PerPart
	assert.Equal(t, points.Points(200), it.Score(answer("100 100", "210 20"), 300).Credit, "two of three areas")
	assert.Equal(t, points.Points(100), it.Score(answer("100 100", "210 20", "0 0"), 300).Credit, "a spot beside them takes one away")
	it.Body[1].Interaction.Picture.Alt = ""
	assert.Equal(t, "picture: the picture has no alternative text", it.Check()[0].String())
}

// A spot within a polygon stays so when everything moves, and a rectangle as a
// polygon holds just what the rectangle holds.
func TestARectangleAndItsPolygonHoldTheSameSpots(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := func(name string) int { return rapid.IntRange(0, 60).Draw(t, name) }
		left, top := n("left"), n("top")
		right, bottom := left+n("width")+1, top+n("height")+1
		box := item.Area{Shape: item.Rectangle, At: []int{left, top, right, bottom}}
		corners := item.Area{Shape: item.Polygon, At: []int{left, top, right, top, right, bottom, left, bottom}}
		x, y := n("x"), n("y")
		assert.Equal(t, box.Contains(x, y), corners.Contains(x, y), "%d %d", x, y)
	})
}

func TestWrittenAnswersWaitForTheirReader(t *testing.T) {
	it := item.NewWritten(item.LongWritten, "Why do ferries wait?", 8, &plainRubric, []string{"Because of the tide."})
	require.Empty(t, it.Check())
	assert.Equal(t, item.Unread, it.Score(answer("They wait."), 300).Outcome)
	assert.Equal(t, item.Omitted, it.Score(answer(" "), 300).Outcome)
	assert.Equal(t, points.Points(300), plainRubric.Most())
	assert.Equal(t, points.Points(100), it.Step(300))
	assert.Equal(t, "rubric: Evidence, Order", it.KeyShort())

	none := item.NewWritten(item.LongWritten, "x", 8, nil, nil)
	assert.Contains(t, none.Check()[0].Reason, "no rubric")
	upside := item.Rubric{Traits: []item.Trait{{Name: "A", Levels: []item.Level{{0, "none"}, {100, "all"}}}}}
	assert.Contains(t, item.NewWritten(item.ShortWritten, "x", 2, &upside, nil).Check()[0].Reason, "from the highest")

	it.Feedback = &item.Feedback{Right: "<p>Well said.</p>"}
	assert.Equal(t, "feedback", it.Check()[0].Place, "nothing knows yet whether it is right")

	mixed := item.NewParts("x", []item.Item{item.NewTrueFalse("It rains.", true), item.NewWritten(item.ShortWritten, "Why?", 2, nil, nil)}, nil, item.PerPart)
	got := mixed.Score(item.Response{"RESPONSE1": {"true"}, "RESPONSE2": {"because"}}, 200)
	assert.Equal(t, item.Unread, got.Outcome)
	assert.Equal(t, points.Points(100), got.Credit, "the part that needs no reader earns already")
	assert.Equal(t, item.Part, mixed.Score(item.Response{"RESPONSE1": {"true"}}, 200).Outcome, "nothing written, nothing to wait for")
}

func TestWhatAnExaminerRecords(t *testing.T) {
	it := item.NewExaminer("<p>Which one is a circle?</p>", "<p>Say: point to the circle.</p>", "the second shape")
	require.Empty(t, it.Check())
	for recorded, want := range map[string]item.Outcome{"right": item.Right, "wrong": item.Wrong, "none": item.Omitted} {
		assert.Equal(t, want, it.Score(answer(recorded), 100).Outcome)
	}
	assert.Error(t, it.Accepts(answer("maybe")))
	assert.NotContains(t, fmt.Sprint(it.Shown("en")), "point to")
}

func TestMappedValues(t *testing.T) {
	it := item.NewChoice(item.MultipleChoice, "x", []string{"a", "b", "c", "d"}, []int{0, 1}, item.Mapped)
	assert.Contains(t, it.Check()[0].Reason, "values of the answers are missing")
	it.Declarations[0].Mapping = &item.Mapping{Entries: []item.MapEntry{{Key: "A", Value: "1"}, {Key: "B", Value: "0.5"}, {Key: "C", Value: "-1"}}, Default: "-0.25", Lower: "0"}
	require.Empty(t, it.Check())
	for given, want := range map[string]points.Points{"A": 200, "AB": 300, "AD": 150, "AC": 0, "C": 0, "ABCD": 50, "B": 100} {
		var values []string
		for _, letter := range given {
			values = append(values, string(letter))
		}
		assert.Equal(t, want, it.Score(answer(values...), 300).Credit, given)
	}
	it.Declarations[0].Mapping.Upper = "1"
	assert.Equal(t, points.Points(300), it.Score(answer("A", "B"), 300).Credit, "not above the upper bound")
	it.Declarations[0].Mapping.Default = "some"
	assert.Contains(t, it.Check()[0].Reason, "not a number")

	word := item.NewText("x", []string{"Harbor"}, item.TextKey{})
	word.Credit = item.Mapped
	word.Declarations[0].Mapping = &item.Mapping{Entries: []item.MapEntry{{Key: "Harbor", Value: "2", CaseMatters: true}, {Key: "harbor", Value: "1"}}}
	assert.Equal(t, points.Points(200), word.Score(answer("Harbor"), 200).Credit)
	assert.Equal(t, points.Points(100), word.Score(answer("HARBOR"), 200).Credit)
	assert.Equal(t, points.Points(100), word.Step(200))
}

func TestChoicesJoinedAmongEachOtherHaveNoDirection(t *testing.T) {
	it := item.NewPairs(item.Match, "Who are rivals?", []string{"a", "b", "c", "d"}, nil, nil, 1, 0, item.PerPart)
	it.Body[1].Interaction.Among = true
	it.Declarations[0].Correct = []string{"A C", "D B"}
	require.Empty(t, it.Check())
	assert.Equal(t, points.Points(200), it.Score(answer("C A", "B D"), 200).Credit)
	assert.Equal(t, points.Points(100), it.Score(answer("A C"), 200).Credit)
	assert.Error(t, it.Accepts(answer("A C", "C A")), "one pair given twice")
	assert.Error(t, it.Accepts(answer("A C", "A D")), "A may be joined once")
	assert.Error(t, it.Accepts(answer("A A")))
	assert.Equal(t, "A–C, B–D", it.KeyShort())
}

func TestOneMenuMayServeEveryGap(t *testing.T) {
	it := item.NewMenus("x", []string{"The ", " meets the ", "."}, []item.Menu{{[]string{"river", "sea"}, 0}, {[]string{"gull", "sea"}, 1}}, item.PerPart)
	in := it.Body[1].Interaction
	in.Choices = []item.Choice{{ID: "A", HTML: "river", Most: 1}, {ID: "B", HTML: "sea", Most: 1}, {ID: "C", HTML: "gull", Most: 1}}
	it.Declarations[0].Correct = []string{"A G1", "B G2"}
	require.Empty(t, it.Check())
	assert.Equal(t, points.Points(100), it.Score(answer("A G1", "C G2"), 200).Credit)
	assert.Error(t, it.Accepts(answer("A G1", "A G2")), "a word that is used once")
}

func TestVariantsKeepStep(t *testing.T) {
	it := item.NewChoice(item.SingleChoice, "Which is a boat?", []string{"tug", "gull"}, []int{0}, item.AllOrNothing)
	spanish := item.NewChoice(item.SingleChoice, "¿Cuál es un barco?", []string{"remolcador", "gaviota"}, []int{0}, item.AllOrNothing)
	it.Variants = []item.Variant{{Language: "es", Body: spanish.Body}}
	require.Empty(t, it.Check())
	assert.Equal(t, "¿Cuál es un barco?", it.In("es").Stem())
	assert.Equal(t, item.Right, it.In("es").Score(answer("A"), 100).Outcome, "one key for all")
	assert.Contains(t, it.OtherWords(), "gaviota")

	spanish.Body[1].Interaction.Choices[1].HTML = ""
	assert.Contains(t, it.Check()[0].Reason, `in "es" the choice B is missing`)
	spanish.Body[1].Interaction.Choices = spanish.Body[1].Interaction.Choices[:1]
	assert.Contains(t, it.Check()[0].Reason, "not the same ones")
	it.Variants = append(it.Variants, item.Variant{Language: "es", Body: it.Body})
	assert.Contains(t, fmt.Sprint(it.Check()), "language tag of its own")
}

func TestOnlyTheMediaShelfIsShown(t *testing.T) {
	kept := item.Clean(`<img src="/media/` + hash + `" alt="a gull" width="40" onerror="x()"><audio controls src="/media/` + hash + `"></audio>`)
	assert.Equal(t, `<img src="/media/`+hash+`" alt="a gull" width="40"><audio controls="" src="/media/`+hash+`"></audio>`, kept)
	for _, bad := range []string{`<img src="https://elsewhere.example/x.png" alt="x">`, `<img src="/media/../api/items" alt="x">`, `<img src="data:image/png;base64,AAAA" alt="x">`} {
		assert.NotContains(t, item.Clean(bad), "src", bad)
	}
	formula := `<math display="block"><semantics><mfrac><mn>1</mn><mn>2</mn></mfrac><annotation encoding="application/x-tex">\frac{1}{2}</annotation></semantics></math>`
	assert.Equal(t, formula, item.Clean(formula))
	assert.NotContains(t, item.PlainText("half is "+formula), "frac")
}

// Whatever is answered, a credit is within 0 and the points, and a multiple of the step.
func TestCreditsOfPartsStayWithinBounds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		it := dependent(rapid.SampledFrom([]item.CreditRule{item.PerPart, item.AllOrNothing}).Draw(t, "rule"))
		r := item.Response{
			"RESPONSE1": rapid.SliceOfN(rapid.SampledFrom([]string{"A", "B"}), 0, 1).Draw(t, "first"),
			"RESPONSE2": rapid.SliceOfNDistinct(rapid.SampledFrom([]string{"A", "B", "C"}), 0, 3, rapid.ID).Draw(t, "second"),
			"RESPONSE3": rapid.SliceOfN(rapid.SampledFrom([]string{"0.5", "2/4", "x"}), 0, 1).Draw(t, "third"),
		}
		worth := points.Points(rapid.IntRange(1, 800).Draw(t, "points"))
		c := it.Score(r, worth)
		require.GreaterOrEqual(t, c.Credit, points.Points(0))
		require.LessOrEqual(t, c.Credit, worth)
		require.Zero(t, c.Credit%it.Step(worth))
	})
}

// A mapping without negative values never gives less for one answer more.
func TestAMappedAnswerMoreNeverEarnsLess(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		choices, labels := offered(rapid.IntRange(2, 6).Draw(t, "choices"))
		it := item.NewChoice(item.MultipleChoice, "x", choices, []int{0}, item.Mapped)
		m := item.Mapping{}
		for _, l := range labels {
			m.Entries = append(m.Entries, item.MapEntry{Key: l, Value: big.NewRat(rapid.Int64Range(0, 9).Draw(t, l), 4).RatString()})
		}
		it.Declarations[0].Mapping = &m
		chosen := rapid.SliceOfNDistinct(rapid.SampledFrom(labels), 1, len(labels), rapid.ID).Draw(t, "chosen")
		all, fewer := it.Score(answer(chosen...), 100), it.Score(answer(chosen[1:]...), 100)
		require.GreaterOrEqual(t, all.Credit, fewer.Credit)
		require.LessOrEqual(t, all.Credit, points.Points(100))
	})
}
