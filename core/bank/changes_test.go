package bank_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"pineledger/core/bank"
	"pineledger/core/item"
)

func ferry(stem, key string, choices ...string) item.Item {
	in := &item.Interaction{Response: "R", Choices: []item.Choice{}}
	for i, c := range choices {
		in.Choices = append(in.Choices, item.Choice{ID: string(rune('a' + i)), HTML: c})
	}
	return item.Item{Schema: 1, Kind: item.SingleChoice, Credit: item.AllOrNothing,
		Body:         []item.Block{{HTML: stem}, {Interaction: in}},
		Declarations: []item.Declaration{{Response: "R", Correct: []string{key}}}}
}

func TestWhatChangedBetweenTwoVersions(t *testing.T) {
	first := bank.Version{Item: ferry("<p>When does the ferry leave?</p>", "a", "9:40", "10:15"), Standards: []string{"M6.RR.1"}, Depth: 1, Language: "en"}
	assert.Empty(t, bank.Differences(first, first))

	second := first
	second.Item = ferry("<p>When does the last ferry leave?</p>", "b", "9:40", "10:20", "11:00")
	second.Standards, second.Depth = []string{"M6.RR.1", "M6.RR.2"}, 2
	got := map[string]bank.Difference{}
	for _, c := range bank.Differences(first, second) {
		got[c.What] = c
	}
	assert.Len(t, got, 6)
	assert.Equal(t, []bank.Piece{{Words: "When does the", In: bank.InBoth}, {Words: "last", In: bank.InAfter}, {Words: "ferry leave?", In: bank.InBoth}}, got["stem"].Text)
	assert.Equal(t, []string{"10:15", "10:20"}, []string{got["choice B"].Before, got["choice B"].After})
	assert.Equal(t, []string{"", "11:00"}, []string{got["choice C"].Before, got["choice C"].After})
	assert.Equal(t, []string{"A", "B"}, []string{got["key"].Before, got["key"].After})
	assert.Equal(t, "M6.RR.1, M6.RR.2", got["standards"].After)
	assert.Equal(t, "2", got["depth of knowledge"].After)
}

func TestComparedTexts(t *testing.T) {
	both := func(w string) bank.Piece { return bank.Piece{Words: w, In: bank.InBoth} }
	gone := func(w string) bank.Piece { return bank.Piece{Words: w, In: bank.InBefore} }
	come := func(w string) bank.Piece { return bank.Piece{Words: w, In: bank.InAfter} }
	for _, c := range []struct {
		before, after string
		want          []bank.Piece
	}{
		{"", "", []bank.Piece{}},
		{"", "low tide", []bank.Piece{come("low tide")}},
		{"low tide", "", []bank.Piece{gone("low tide")}},
		{"low tide", "low tide", []bank.Piece{both("low tide")}},
		{"the tide", "the the tide", []bank.Piece{both("the"), come("the"), both("tide")}},
		{"the the tide", "the tide", []bank.Piece{both("the"), gone("the"), both("tide")}},
		{"the low tide turns", "the high tide turns", []bank.Piece{both("the"), gone("low"), come("high"), both("tide turns")}},
		{"a b c d e f", "a x c y e f", []bank.Piece{both("a"), gone("b"), come("x"), both("c"), gone("d"), come("y"), both("e f")}},
		{"a b c d", "d a b c", []bank.Piece{come("d"), both("a b c"), gone("d")}},
		{"x a y b z", "a b", []bank.Piece{gone("x"), both("a"), gone("y"), both("b"), gone("z")}},
	} {
		assert.Equal(t, c.want, bank.Compare(c.before, c.after), "%s → %s", c.before, c.after)
	}
	long := strings.Repeat("tide ", 3000)
	assert.Equal(t, []bank.Piece{both(strings.TrimSpace(long))}, bank.Compare(long, long))
	assert.Len(t, bank.Compare(long, long+"ebb"), 2, "3,001 words are not compared one by one")
	assert.Equal(t, bank.InBefore, bank.Compare(long, long+"ebb")[0].In)
}

func TestChangesBesideTheText(t *testing.T) {
	picture := func(letter string) string { return `<img src="/media/` + strings.Repeat(letter, 64) + `" alt="pier">` }
	cases := []struct {
		what   string
		change func(*bank.Version)
	}{
		{"order of the choices, key", func(v *bank.Version) {
			c := v.Item.Body[1].Interaction.Choices
			c[0], c[1] = c[1], c[0]
		}},
		{"credit", func(v *bank.Version) { v.Item.Credit = item.PerChoice }},
		{"pictures and sounds", func(v *bank.Version) { v.Item.Body[0].HTML = "<p>When?</p>" + picture("b") }},
		{"layout or settings", func(v *bank.Version) { v.Item.Body[0].HTML = "<p><strong>When?</strong></p>" + picture("a") }},
		{"notes", func(v *bank.Version) { v.Item.Notes = "checked" }},
		{"feedback", func(v *bank.Version) { v.Item.Feedback = &item.Feedback{Wrong: "<p>Look at the table.</p>"} }},
		{"passage", func(v *bank.Version) { v.Passage = "Tide tables" }},
		{"tags", func(v *bank.Version) { v.Tags = []string{"tide"} }},
		{"text in es", func(v *bank.Version) {
			v.Item.Variants = []item.Variant{{Language: "es", Body: []item.Block{{HTML: "<p>¿Cuándo?</p>"}}}}
		}},
	}
	for _, c := range cases {
		before := bank.Version{Item: ferry("<p>When?</p>"+picture("a"), "a", "9:40", "10:15")}
		after := bank.Version{Item: ferry("<p>When?</p>"+picture("a"), "a", "9:40", "10:15")}
		c.change(&after)
		var whats []string
		for _, change := range bank.Differences(before, after) {
			whats = append(whats, change.What)
		}
		assert.Equal(t, strings.Split(c.what, ", "), whats)
	}
}

func TestCreditInWords(t *testing.T) {
	parts := func(credits ...item.CreditRule) bank.Version {
		v := bank.Version{Item: item.Item{Kind: item.Parts, Credit: item.PerPart, Body: []item.Block{{HTML: "<p>Two parts</p>"}}}}
		for _, c := range credits {
			v.Item.Declarations = append(v.Item.Declarations, item.Declaration{Response: "R", Credit: c})
		}
		return v
	}
	got := bank.Differences(parts("", item.AllOrNothing), parts(item.PerChoice, item.AllOrNothing))
	assert.Equal(t, []bank.Difference{{What: "credit", Before: "per part, part 2 all or nothing", After: "per part, part 1 per choice, part 2 all or nothing"}}, got)
}

// What is new and what is gone is told apart from what changed its place.
func TestChoicesComeGoAndMove(t *testing.T) {
	with := func(ids ...string) bank.Version {
		v := bank.Version{Item: ferry("<p>When?</p>", "a")}
		for _, id := range ids {
			v.Item.Body[1].Interaction.Choices = append(v.Item.Body[1].Interaction.Choices, item.Choice{ID: id, HTML: "at " + id})
		}
		return v
	}
	whats := func(before, after bank.Version) (out []string) {
		for _, d := range bank.Differences(before, after) {
			out = append(out, d.What+": "+d.Before+" → "+d.After)
		}
		return out
	}
	assert.Equal(t, []string{"choice C: at c → "}, whats(with("a", "b", "c"), with("a", "b")))
	assert.Equal(t, []string{"choice C:  → at c"}, whats(with("a", "b"), with("a", "b", "c")))
	assert.Equal(t, []string{"choice B: at b → ", "choice B:  → at x"}, whats(with("a", "b", "c"), with("a", "x", "c")), "another one in its place moves nothing")
	assert.Equal(t, []string{"order of the choices:  → "}, whats(with("a", "b", "c"), with("a", "c", "b")))
	many := strings.Split("abcdefghijklmnopqrstuvwxyz", "")
	assert.Equal(t, []string{"choice Z:  → at z"}, whats(with(many[:25]...), with(many...)))
	assert.Equal(t, []string{"choice AA:  → at 27"}, whats(with(many...), with(append(many, "27")...)))
}

// A depth and pictures that are not there are left out, not called 0.
func TestWhatComesAnewHasNothingBefore(t *testing.T) {
	before := bank.Version{Item: ferry("<p>When?</p>", "a", "9:40")}
	after := bank.Version{Item: ferry(`<p>When?</p><img src="/media/`+strings.Repeat("a", 64)+`" alt="pier">`, "a", "9:40"), Depth: 1}
	assert.Equal(t, []bank.Difference{{What: "depth of knowledge", After: "1"}, {What: "pictures and sounds", After: "1"}}, bank.Differences(before, after))
	assert.Equal(t, []bank.Difference{{What: "depth of knowledge", Before: "1"}, {What: "pictures and sounds", Before: "1"}}, bank.Differences(after, before))
}

// The pieces of both and of one text alone give that text back.
func TestLawsOfComparedTexts(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		text := rapid.Map(rapid.SliceOfN(rapid.SampledFrom([]string{"tide", "the", "ferry", "at", "nine", "o’clock"}), 0, 30), func(w []string) string { return strings.Join(w, " ") })
		a, b := text.Draw(t, "a"), text.Draw(t, "b")
		var before, after []string
		for _, p := range bank.Compare(a, b) {
			assert.NotEmpty(t, p.Words)
			if p.In != bank.InAfter {
				before = append(before, p.Words)
			}
			if p.In != bank.InBefore {
				after = append(after, p.Words)
			}
		}
		assert.Equal(t, a, strings.Join(before, " "))
		assert.Equal(t, b, strings.Join(after, " "))
		if a == b {
			assert.LessOrEqual(t, len(bank.Compare(a, b)), 1)
		}
	})
}
