package booklet_test

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/formats/booklet"
	"pineledger/formats/paper"
	"pineledger/formats/paper/papertest"
)

const tides = "tides"

func line(passage string, part, pool int) booklet.Line {
	return booklet.Line{Line: form.Line{Passage: passage, Part: part, Pool: pool, Identifier: "x", Points: points.One}}
}

func book(lines ...booklet.Line) booklet.Book {
	return booklet.Book{Title: "Harbor quiz", Lines: lines, Passages: []form.Passage{{Identifier: tides, Title: "Tides", Body: "<p>The moon pulls.</p>"}},
		Layout: form.Layout{Parts: []form.Part{{Title: "By hand"}, {Title: "With help", Calculator: true, Directions: "<p>Use it.</p>"}}, Pools: []form.Pool{{Choose: 1}}}}
}

// heads says of each group which part, pool and passage begin with it, and its lines.
func heads(b booklet.Book) []string {
	var out []string
	for _, g := range b.Groups() {
		passage := "-"
		if g.Passage != nil {
			passage = g.Passage.Title
			if g.Again {
				passage += " again"
			}
		}
		out = append(out, fmt.Sprintf("part %d, pool %d of %d, %s: %v", g.Part, g.Pool, g.Of, passage, g.Lines))
	}
	return out
}

func TestLinesStandUnderTheirHeads(t *testing.T) {
	assert.Equal(t, []string{"part 0, pool 0 of 0, -: [0]", "part 0, pool 0 of 0, Tides: [1 2]", "part 0, pool 0 of 0, -: [3]"},
		heads(book(line("", 0, 0), line(tides, 0, 0), line(tides, 0, 0), line("", 0, 0))), "a passage stands once before its lines")
	assert.Equal(t, []string{"part 0, pool 0 of 0, Tides: [0]", "part 0, pool 0 of 0, -: [1]", "part 0, pool 0 of 0, Tides again: [2]"},
		heads(book(line(tides, 0, 0), line("", 0, 0), line(tides, 0, 0))), "and its title where other lines came between")
	parts := book(line(tides, 1, 0), line(tides, 2, 0), line(tides, 2, 1), line(tides, 2, 1), line(tides, 2, 0))
	assert.Equal(t, []string{"part 1, pool 0 of 0, Tides: [0]", "part 2, pool 0 of 0, Tides again: [1]", "part 0, pool 1 of 2, -: [2 3]", "part 0, pool 0 of 0, -: [4]"}, heads(parts))
	parts.Drawn = true
	assert.Equal(t, []string{"part 1, pool 0 of 0, Tides: [0]", "part 2, pool 0 of 0, Tides again: [1 2 3 4]"}, heads(parts), "of one attempt's draw pools say nothing")
}

func set(t *testing.T, write func(b *bytes.Buffer, o paper.Options) error, o paper.Options) []string {
	t.Helper()
	o.Made = time.Unix(0, 0)
	var out bytes.Buffer
	require.NoError(t, write(&out, o))
	pages := papertest.Pages(t, out.Bytes())
	for i := range pages {
		pages[i] = strings.Join(strings.Fields(pages[i]), " ")
	}
	return pages
}

func asBooklet(b booklet.Book) func(*bytes.Buffer, paper.Options) error {
	return func(out *bytes.Buffer, o paper.Options) error { return b.WriteBooklet(context.Background(), out, o) }
}

// Every kind of item stands on paper with all that a student needs, and nothing of its key.
func TestEveryKindOnPaper(t *testing.T) {
	two := []string{"oak", "elm"}
	cases := []struct {
		item item.Item
		want string
	}{
		{item.NewChoice(item.SingleChoice, "Which?", two, []int{0}, item.AllOrNothing), "Which? oak A elm B"},
		{item.NewChoice(item.MultipleChoice, "Which?", two, []int{0}, item.AllOrNothing), "Which? Circle all correct answers. oak A elm B"},
		{item.NewTrueFalse("Wet?", true), "Wet? True A False B"},
		{item.NewOrder("Put in order", two, []int{1, 0}, item.AllOrNothing), "Put in order Number these in order. oak elm"},
		{item.NewPairs(item.Match, "Match", two, []string{"acorn", "seed"}, []item.Pair{{Choice: 0, Target: 0}}, 1, 1, item.AllOrNothing), "Match Write the letter of the match next to each one. oak A elm B acorn seed"},
		{item.NewPairs(item.Sort, "Sort", two, []string{"big", "small"}, []item.Pair{{Choice: 0, Target: 0}}, 1, 0, item.AllOrNothing), "Sort Write each letter in its group. oak A elm B big small"},
		{item.NewPairs(item.BoxTable, "Tick", two, []string{"big", "small"}, []item.Pair{{Choice: 0, Target: 0}}, 1, 0, item.AllOrNothing), "Tick Mark the correct boxes. big small oak ☐ ☐ elm ☐ ☐"},
		{item.NewSelectText("Select", []item.Run{{HTML: "It rained. ", Selectable: true}, {HTML: "We stayed."}}, []int{0}, 1, item.AllOrNothing), "Select Underline your answer. It rained. We stayed."},
		{item.NewMenus("Choose", []string{"It is ", " today."}, []item.Menu{{Words: []string{"wet", "dry"}}}, item.AllOrNothing), "Choose It is [ wet / dry ] today."},
		{item.NewParts("Both", []item.Item{item.NewTrueFalse("Wet?", true), item.NewNumber("How far?", []string{"4321"}, item.NumberKey{}, "miles")}, nil, item.AllOrNothing), "Both Wet? True A False B How far? miles"},
		{item.NewText("Name it", []string{"secretword"}, item.TextKey{}), "Name it"},
		{item.NewWritten(item.ShortWritten, "Say why", 2, nil, []string{"secretword"}), "Say why"},
		{item.NewWritten(item.LongWritten, "Explain", 0, nil, nil), "Explain"},
		{item.NewExaminer("Count the boats.", "<p>secretword</p>", "secretword"), "Count the boats."},
		{item.NewNumber("How far?", []string{"4321"}, item.NumberKey{}, "miles"), "How far? miles"},
		{item.NewNumberLine("Put a point", item.Line{From: "-1", To: "1", Step: "0.5", Labels: 2}, []string{"0.5"}, "0"), "Put a point Mark the point on the number line. −1 0 1"},
	}
	for _, c := range cases {
		b := book(booklet.Line{Line: form.Line{Item: c.item, Points: 2 * points.One, Identifier: "I"}, Key: "secretword"})
		pages := set(t, asBooklet(b), paper.Options{Size: 12, Columns: 1})
		require.Len(t, pages, 1)
		stem := item.PlainText(c.item.Body[0].HTML)
		rest, begins := strings.CutPrefix(c.want, stem)
		require.True(t, begins, c.want)
		assert.Equal(t, "Harbor quiz Name Class Date "+stem+" 1 2 points"+rest+" Harbor quiz 1 / 1", pages[0])
	}
}

func TestABookletHasItsHeadsAndItsRefusals(t *testing.T) {
	b := book(line(tides, 1, 0), line("", 2, 1), line("", 2, 1))
	b.Instructions, b.Document = "<p>Work alone.</p>", "fall.pdf"
	b.Lines[2].Refuse = "The bank lends it for the screen only."
	for i := range b.Lines {
		b.Lines[i].Item = item.NewTrueFalse(fmt.Sprintf("Stem %d", i+1), true)
	}
	pages := set(t, asBooklet(b), paper.Options{Size: 10, Columns: 2})
	require.Len(t, pages, 1)
	want := "Harbor quiz Name Class Date Work alone. The questions are in fall.pdf. Part 1: By hand Do not use a calculator. Tides The moon pulls. Stem 1 1 1 pt True A False B " +
		"Part 2: With help You may use a calculator. Use it. Each student gets 1 of these 2 items. Stem 2 2 1 pt True A False B This item is not printed. 3 Harbor quiz 1 / 1"
	assert.Equal(t, want, pages[0])
}

// An item stands on one page, and a passage before its items, in every size.
func TestPagesDoNotCutItems(t *testing.T) {
	var lines []booklet.Line
	for i := range 24 {
		l := line(tides, 0, 0)
		l.Item = item.NewChoice(item.SingleChoice, fmt.Sprintf("Begin%d and so on, for the tide rises twice a day", i), []string{"one", "two", "three", fmt.Sprintf("End%d", i)}, []int{0}, item.AllOrNothing)
		lines = append(lines, l)
	}
	for _, o := range []paper.Options{{Size: 10, Columns: 2}, {Size: 12}, {Size: 14}, {Size: 18}, {Size: 24}} {
		pages := set(t, asBooklet(book(lines...)), o)
		require.Greater(t, len(pages), 1)
		for i := range lines {
			begins := fmt.Sprintf("Begin%d ", i)
			for n, page := range pages {
				if strings.Contains(page, begins) {
					assert.Contains(t, page, fmt.Sprintf("End%d ", i), "item %d on page %d at %v points", i, n+1, o.Size)
				}
			}
		}
		all := strings.Join(pages, " ")
		assert.Less(t, strings.Index(all, "The moon pulls."), strings.Index(all, "Begin0 "))
		assert.Equal(t, 1, strings.Count(all, "The moon pulls."))
	}
}

func TestTheKey(t *testing.T) {
	b := book(line("", 0, 0), line("", 0, 0))
	b.Edition, b.State, b.Total = 2, "sealed", 3*points.One
	b.Lines[0].Key, b.Lines[0].Item.Credit, b.Lines[0].Standards = "B <or> C", item.AllOrNothing, []string{"M6.RR", "M6.NP"}
	b.Lines[1].Key, b.Lines[1].Refuse, b.Lines[1].Points = "secretword", "Not on paper.", 2*points.One
	pages := set(t, func(out *bytes.Buffer, o paper.Options) error { return b.WriteKey(context.Background(), out, o) }, paper.Options{Size: 10})
	assert.Equal(t, "Harbor quiz: key Edition 2, sealed · 2 lines, 3 points. Not for students. No. Key Points Credit Standards Item "+
		"1 B <or> C 1 all or nothing M6.RR, M6.NP x 2 not printed 2 x Harbor quiz: key. Not for students. 1 / 1", pages[0])
}

func TestADrawingThatCannotBeSetNamesItsLine(t *testing.T) {
	source := "/media/" + strings.Repeat("a", 64)
	l := line("", 0, 0)
	l.Item = item.NewTrueFalse(`<p>See <img src="`+source+`" alt=""></p>`, true)
	o := paper.Options{Size: 12, Media: func(string) (string, []byte, error) {
		return "image/svg+xml", []byte(`<svg width="9" height="9"><defs><pattern id="p"/></defs></svg>`), nil
	}}
	err := book(line("", 0, 0), l).WriteBooklet(t.Context(), &bytes.Buffer{}, o)
	why, ok := booklet.Refusal(err)
	assert.True(t, ok)
	assert.Contains(t, why, "line 2, x: picture "+source+": it has a pattern")
	o.Media = func(string) (string, []byte, error) { return "", nil, errors.New("the disk is gone") }
	_, ok = booklet.Refusal(book(l).WriteBooklet(t.Context(), &bytes.Buffer{}, o))
	assert.False(t, ok, "other errors are not for the person")
}

// What a booklet of 60 items costs; decision 22 tells the figure.
func BenchmarkBooklet(b *testing.B) {
	var lines []booklet.Line
	for i := range 60 {
		l := line("", 0, 0)
		l.Item = item.NewChoice(item.SingleChoice, fmt.Sprintf("Item %d: the tide rises ≤ twice a day. Which is right?", i+1), []string{"one", "two", "three", "four"}, []int{0}, item.AllOrNothing)
		lines = append(lines, l)
	}
	for b.Loop() {
		if err := book(lines...).WriteBooklet(b.Context(), io.Discard, paper.Options{Size: 12}); err != nil {
			b.Fatal(err)
		}
	}
}
