// Package itemtest draws items of every kind with responses to them, for tests
// that hold for whatever an item is.
package itemtest

import (
	"fmt"
	"strings"

	"pgregory.net/rapid"

	"pineledger/core/item"
)

// Hash is the name of a picture on the media shelf.
const Hash = "0123456789abcdef0123456789abcdef0123456789abcdef0123456789abcdef"

// Picture is a picture to mark spots on.
var Picture = item.Picture{Source: "/media/" + Hash, Alt: "A plan of the harbor", Width: 100, Height: 80}

// Drawn is an item with a way to draw responses to it.
type Drawn struct {
	Item    item.Item
	Respond func(*rapid.T) item.Response
}

// Kinds are those that Of draws: all but several parts.
var Kinds = []item.Kind{item.SingleChoice, item.MultipleChoice, item.TrueFalse, item.Order, item.Match, item.Sort, item.BoxTable, item.Text,
	item.Number, item.NumberLine, item.SelectText, item.Menus, item.Spot, item.ShortWritten, item.LongWritten, item.Examiner}

// Any draws an item of any kind, several parts included.
func Any(t *rapid.T) Drawn {
	d := anyKind(t)
	d.Item.Title = rapid.SampledFrom([]string{"", "An item"}).Draw(t, "title")
	return d
}

func anyKind(t *rapid.T) Drawn {
	if rapid.IntRange(0, 4).Draw(t, "several parts") > 0 {
		return Of(t, rapid.SampledFrom(Kinds).Draw(t, "kind"))
	}
	var list []item.Item
	var each []Drawn
	needs := []int{-1, -1, -1}
	n := rapid.IntRange(1, 3).Draw(t, "parts")
	for i := range n {
		kind := rapid.SampledFrom([]item.Kind{item.SingleChoice, item.MultipleChoice, item.Order, item.Match, item.Text, item.Number, item.NumberLine, item.SelectText, item.Menus, item.Spot}).Draw(t, "kind of part")
		d := Of(t, kind)
		each, list = append(each, d), append(list, d.Item)
		if i > 0 && rapid.Bool().Draw(t, "depends") {
			needs[i] = rapid.IntRange(0, i-1).Draw(t, "on")
		}
	}
	it := item.NewParts("Read the table.", list, needs, rapid.SampledFrom([]item.CreditRule{item.PerPart, item.AllOrNothing}).Draw(t, "credit of the whole"))
	for i := range it.Declarations {
		it.Declarations[i].Weight = rapid.IntRange(0, 3).Draw(t, "weight")
	}
	return Drawn{it, func(t *rapid.T) item.Response {
		out := item.Response{}
		for i, d := range each {
			if r := d.Respond(t); r["RESPONSE"] != nil {
				out[fmt.Sprint("RESPONSE", i+1)] = r["RESPONSE"]
			}
		}
		return out
	}}
}

// Of draws an item of one kind.
func Of(t *rapid.T, kind item.Kind) Drawn {
	it, values := draw(t, kind)
	if it.Credit == item.Mapped {
		m := item.Mapping{Default: rapid.SampledFrom([]string{"", "-0.5"}).Draw(t, "default"), Lower: rapid.SampledFrom([]string{"", "0"}).Draw(t, "lower")}
		for _, c := range it.Body[1].Interaction.Choices {
			m.Entries = append(m.Entries, item.MapEntry{Key: c.ID, Value: rapid.SampledFrom([]string{"1", "2", "0.25", "-1"}).Draw(t, "value of "+c.ID)})
		}
		m.Entries = append(m.Entries, item.MapEntry{Key: it.Body[1].Interaction.Choices[0].ID + "x", Value: "1"})
		it.Declarations[0].Mapping = &m
	}
	return Drawn{it, func(t *rapid.T) item.Response {
		given := values(t)
		if len(given) == 0 {
			return item.Response{}
		}
		return item.Response{"RESPONSE": given}
	}}
}

func draw(t *rapid.T, kind item.Kind) (item.Item, func(*rapid.T) []string) {
	n := rapid.IntRange(2, 5).Draw(t, "choices")
	var choices, ids []string
	for i := range n {
		choices, ids = append(choices, fmt.Sprint("choice ", i)), append(ids, item.Label(i))
	}
	credit := func(rules ...item.CreditRule) item.CreditRule { return rapid.SampledFrom(rules).Draw(t, "credit") }
	some := func(least int) []int {
		return rapid.SliceOfNDistinct(rapid.IntRange(0, n-1), least, n, rapid.ID).Draw(t, "keys")
	}
	subset := func(most int) func(*rapid.T) []string {
		return func(t *rapid.T) []string {
			return rapid.SliceOfNDistinct(rapid.SampledFrom(ids), 0, most, rapid.ID).Draw(t, "chosen")
		}
	}
	oneOf := func(values ...string) func(*rapid.T) []string {
		return func(t *rapid.T) []string { return rapid.SliceOfN(rapid.SampledFrom(values), 0, 1).Draw(t, "given") }
	}
	switch kind {
	case item.SingleChoice:
		return item.NewChoice(kind, "Which?", choices, some(1)[:1], credit(item.AllOrNothing, item.Mapped)), subset(1)
	case item.MultipleChoice:
		return item.NewChoice(kind, "Which ones?", choices, some(1), credit(item.AllOrNothing, item.PerChoice, item.KeyMinus, item.Mapped)), subset(n)
	case item.TrueFalse:
		return item.NewTrueFalse("It rains.", rapid.Bool().Draw(t, "right")), oneOf("true", "false")
	case item.Order:
		right := rapid.Permutation([]int{0, 1, 2, 3, 4}[:n]).Filter(func(list []int) bool { return !inOrder(list) }).Draw(t, "right")
		it := item.NewOrder("In order.", choices, right, credit(item.AllOrNothing, item.PerPlace, item.LongestRun))
		if in := it.Body[1].Interaction; rapid.IntRange(0, 3).Draw(t, "on a picture") == 0 {
			onPicture(in, in.Choices, item.Label)
		}
		return it, func(t *rapid.T) []string { return rapid.Permutation(ids).Draw(t, "order") }
	case item.Match, item.Sort, item.BoxTable:
		return drawPairs(t, kind, choices, ids, credit(item.AllOrNothing, item.PerPart))
	case item.Text:
		key := item.TextKey{CaseMatters: rapid.Bool().Draw(t, "case"), Slips: rapid.Bool().Draw(t, "slips")}
		return item.NewText("Which word?", []string{"Harbor", "pier"}, key), oneOf("Harbor", " harbor", "harbour", "Harbr", "pier", "pear", "x")
	case item.Number:
		key := item.NumberKey{Tolerance: rapid.SampledFrom([]string{"", "0.25", "1/10"}).Draw(t, "tolerance"), Relative: rapid.Bool().Draw(t, "relative")}
		return item.NewNumber("How many?", []string{"2.5", "10"}, key, "m"), oneOf("2.5", "5/2", "2.75", "2.76", "9", "10", "11", "many")
	case item.NumberLine:
		line := item.Line{From: "0", To: "4", Step: "1/2", Labels: 2}
		return item.NewNumberLine("Put it.", line, []string{"1.5"}, rapid.SampledFrom([]string{"", "0.5"}).Draw(t, "tolerance")), oneOf(line.Places()...)
	case item.SelectText:
		var runs []item.Run
		for _, c := range choices {
			runs = append(runs, item.Run{HTML: c, Selectable: true}, item.Run{HTML: ", "})
		}
		return item.NewSelectText("Select.", runs, some(1), 0, credit(item.AllOrNothing, item.PerChoice, item.KeyMinus)), subset(n)
	case item.Menus:
		list := []item.Menu{{Words: []string{"a", "b"}, Right: 1}, {Words: []string{"c", "d", "e"}, Right: 0}}
		return item.NewMenus("Choose.", []string{"The ", " is ", "."}, list, credit(item.AllOrNothing, item.PerPart)), func(t *rapid.T) []string {
			var out []string
			if v := rapid.SampledFrom([]string{"", "A G1", "B G1"}).Draw(t, "first"); v != "" {
				out = append(out, v)
			}
			if v := rapid.SampledFrom([]string{"", "C G2", "D G2"}).Draw(t, "second"); v != "" {
				out = append(out, v)
			}
			return out
		}
	case item.Spot:
		return drawSpot(t)
	case item.Examiner:
		return item.NewExaminer("Which is round?", "Point to the row.", "the second"), oneOf(item.RecordedRight, item.RecordedWrong, item.RecordedNone)
	}
	rubric := item.Rubric{Traits: []item.Trait{{Name: "Facts", Levels: []item.Level{{Points: 200, Text: "two"}, {Points: 50, Text: "one"}, {Points: 0, Text: "none"}}}}}
	it := item.NewWritten(kind, "Why?", 4, &rubric, []string{"Because."})
	if kind == item.ShortWritten && rapid.Bool().Draw(t, "without a rubric") {
		it.Declarations[0].Rubric, it.Declarations[0].Points = nil, 300
	}
	return it, oneOf("I think so.", "x")
}

func inOrder(list []int) bool {
	for i, v := range list {
		if i != v {
			return false
		}
	}
	return true
}

func drawPairs(t *rapid.T, kind item.Kind, choices, ids []string, credit item.CreditRule) (item.Item, func(*rapid.T) []string) {
	perChoice := 1
	if kind == item.BoxTable {
		perChoice = rapid.IntRange(0, 1).Draw(t, "per choice")
	}
	var key []item.Pair
	for i := range choices {
		key = append(key, item.Pair{Choice: i, Target: rapid.IntRange(0, 2).Draw(t, "target")})
	}
	it := item.NewPairs(kind, "Join.", choices, []string{"p", "q", "r"}, key, perChoice, 0, credit)
	if in := it.Body[1].Interaction; kind == item.Match && rapid.IntRange(0, 3).Draw(t, "on a picture") == 0 {
		onPicture(in, in.Targets, func(i int) string { return fmt.Sprint(i + 1) })
	}
	return it, func(t *rapid.T) []string {
		var out []string
		for _, id := range ids {
			most := 1
			if perChoice == 0 {
				most = 2
			}
			for _, target := range rapid.SliceOfNDistinct(rapid.SampledFrom([]string{"T1", "T2", "T3"}), 0, most, rapid.ID).Draw(t, "targets of "+id) {
				out = append(out, id+" "+target)
			}
		}
		return out
	}
}

// onPicture gives things their places on a picture.
func onPicture(in *item.Interaction, things []item.Choice, name func(int) string) {
	picture := Picture
	in.Picture = &picture
	for i := range things {
		things[i].Area = &item.Area{Shape: item.Circle, At: []int{10 + 15*i, 20, 5}}
		things[i].HTML = name(i)
		if i%2 == 0 {
			things[i].HTML += ". pier"
		}
	}
}

func drawSpot(t *rapid.T) (item.Item, func(*rapid.T) []string) {
	areas := []item.Area{
		{Shape: item.Circle, At: []int{20, 20, 10}},
		{Shape: item.Rectangle, At: []int{50, 10, 70, 30}},
		{Shape: item.Polygon, At: []int{10, 50, 40, 50, 25, 75}},
	}
	if rapid.Bool().Draw(t, "areas seen") {
		it := item.NewSpot("Where?", Picture, nil)
		in := it.Body[1].Interaction
		for i, a := range areas {
			in.Choices = append(in.Choices, item.Choice{ID: item.Label(i), HTML: "place " + strings.ToLower(item.Label(i)), Area: &a})
		}
		it.Declarations[0].Correct = []string{"B"}
		return it, func(t *rapid.T) []string {
			return rapid.SliceOfN(rapid.SampledFrom([]string{"A", "B", "C"}), 0, 1).Draw(t, "chosen")
		}
	}
	it := item.NewSpot("Where?", Picture, areas)
	most := 1
	if rapid.Bool().Draw(t, "all of them") {
		most = 4
		it.Body[1].Interaction.MaxChoices = 0
		it.Credit = rapid.SampledFrom([]item.CreditRule{item.AllOrNothing, item.PerPart}).Draw(t, "credit")
	}
	return it, func(t *rapid.T) []string {
		return rapid.SliceOfN(rapid.SampledFrom([]string{"20 20", "30 20", "31 20", "60 20", "70 30", "25 60", "1 1"}), 0, most).Draw(t, "spots")
	}
}
