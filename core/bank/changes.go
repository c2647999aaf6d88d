package bank

import (
	"fmt"
	"reflect"
	"slices"
	"strings"

	"pineledger/core/item"
)

// Difference is one change between two versions of an item.
type Difference struct {
	What   string // "stem", "choice B", "key", "standards" …
	Before string // "" where it is new
	After  string // "" where it is gone
	Text   []Piece
}

// Piece is a run of words that both versions of a text have, or one of them.
type Piece struct {
	Words string
	In    PieceIn
}

// PieceIn tells in which version a run of words stands.
type PieceIn string

const (
	InBoth   PieceIn = "both"
	InBefore PieceIn = "before"
	InAfter  PieceIn = "after"
)

// Version is what is compared of a version of an item.
type Version struct {
	Item      item.Item
	Standards []string
	Depth     int    // 0 for not set
	Language  string // a code of BCP 47
	Passage   string // its title
	Tags      []string
}

// Differences lists what differs between two versions: text, choices, key, credit,
// alignment and what else is said of them. Texts come with the words that differ.
func Differences(before, after Version) []Difference {
	var c changes
	c.text("stem", before.Item.Stem(), after.Item.Stem())
	c.plain("kind", string(before.Item.Kind), string(after.Item.Kind))
	c.choices(before.Item, after.Item)
	c.plain("key", before.Item.KeyShort(), after.Item.KeyShort())
	c.plain("credit", creditWords(before.Item), creditWords(after.Item))
	c.plain("standards", strings.Join(before.Standards, ", "), strings.Join(after.Standards, ", "))
	c.plain("depth of knowledge", number(before.Depth), number(after.Depth))
	c.plain("language", before.Language, after.Language)
	c.plain("passage", before.Passage, after.Passage)
	c.plain("tags", strings.Join(before.Tags, ", "), strings.Join(after.Tags, ", "))
	c.text("feedback", feedbackWords(before.Item), feedbackWords(after.Item))
	c.text("directions", item.PlainText(before.Item.Directions), item.PlainText(after.Item.Directions))
	c.text("notes", before.Item.Notes, after.Item.Notes)
	c.languages(before.Item, after.Item)
	if old, now := before.Item.Media(), after.Item.Media(); !slices.Equal(old, now) {
		c.plain("pictures and sounds", number(len(old)), number(len(now)))
		if len(old) == len(now) {
			c = append(c, Difference{What: "pictures and sounds"})
		}
	}
	if len(c) == 0 && !reflect.DeepEqual(before.Item, after.Item) {
		c = append(c, Difference{What: "layout or settings"})
	}
	return c
}

type changes []Difference

func (c *changes) plain(what, before, after string) {
	if before != after {
		*c = append(*c, Difference{What: what, Before: before, After: after})
	}
}

func (c *changes) text(what, before, after string) {
	if before != after {
		*c = append(*c, Difference{What: what, Before: before, After: after, Text: Compare(before, after)})
	}
}

// choices pairs the choices of each interaction by their ids.
func (c *changes) choices(before, after item.Item) {
	old, now := choiceTexts(before), choiceTexts(after)
	for _, x := range old {
		at := slices.IndexFunc(now, func(y named) bool { return y.id == x.id })
		if at < 0 {
			c.text(x.name, x.text, "")
			continue
		}
		c.text(x.name, x.text, now[at].text)
	}
	for _, y := range now {
		if !slices.ContainsFunc(old, func(x named) bool { return x.id == y.id }) {
			c.text(y.name, "", y.text)
		}
	}
	var orderOld, orderNow []string
	for _, x := range old {
		if slices.ContainsFunc(now, func(y named) bool { return y.id == x.id }) {
			orderOld = append(orderOld, x.id)
		}
	}
	for _, y := range now {
		if slices.ContainsFunc(old, func(x named) bool { return x.id == y.id }) {
			orderNow = append(orderNow, y.id)
		}
	}
	if !slices.Equal(orderOld, orderNow) {
		*c = append(*c, Difference{What: "order of the choices"})
	}
}

type named struct{ id, name, text string }

func choiceTexts(it item.Item) []named {
	var out []named
	parts := 0
	for _, b := range it.Body {
		if b.Interaction != nil {
			parts++
		}
	}
	part := 0
	for _, b := range it.Body {
		if b.Interaction == nil {
			continue
		}
		part++
		of := ""
		if parts > 1 {
			of = fmt.Sprintf(" of part %d", part)
		}
		for i, choice := range b.Interaction.Choices {
			out = append(out, named{b.Interaction.Response + "/c/" + choice.ID, fmt.Sprintf("choice %s%s", letter(i), of), item.PlainText(choice.HTML)})
		}
		for i, target := range b.Interaction.Targets {
			if !target.Plain {
				out = append(out, named{b.Interaction.Response + "/t/" + target.ID, fmt.Sprintf("place %d%s", i+1, of), item.PlainText(target.HTML)})
			}
		}
	}
	return out
}

func letter(i int) string {
	if i < 26 {
		return string(rune('A' + i))
	}
	return letter(i/26-1) + letter(i%26)
}

func (c *changes) languages(before, after item.Item) {
	texts := func(it item.Item) map[string]string {
		out := map[string]string{}
		for _, v := range it.Variants {
			other := item.Item{Body: v.Body}
			out[v.Language] = strings.TrimSpace(other.Stem() + " " + other.OtherWords())
		}
		return out
	}
	old, now := texts(before), texts(after)
	for _, l := range slices.Sorted(keysOf(old, now)) {
		c.text("text in "+l, old[l], now[l])
	}
}

func keysOf(maps ...map[string]string) func(func(string) bool) {
	return func(yield func(string) bool) {
		seen := map[string]bool{}
		for _, m := range maps {
			for k := range m {
				if !seen[k] && !yield(k) {
					return
				}
				seen[k] = true
			}
		}
	}
}

func creditWords(it item.Item) string {
	out := []string{strings.ReplaceAll(string(it.Credit), "-", " ")}
	for i, d := range it.Declarations {
		if d.Credit != "" {
			out = append(out, fmt.Sprintf("part %d %s", i+1, strings.ReplaceAll(string(d.Credit), "-", " ")))
		}
	}
	return strings.Join(out, ", ")
}

func feedbackWords(it item.Item) string {
	f := it.Feedback
	if f == nil {
		return ""
	}
	words := []string{item.PlainText(f.Right), item.PlainText(f.Wrong)}
	for _, a := range f.ByAnswers {
		words = append(words, item.PlainText(a.HTML))
	}
	return strings.TrimSpace(strings.Join(words, " "))
}

func number(n int) string {
	if n == 0 {
		return ""
	}
	return fmt.Sprint(n)
}

// mostCompared bounds the words of a text that are compared one by one.
const mostCompared = 3000

// Compare parts two texts into the words that both have and those of one alone,
// by their longest common subsequence of words.
func Compare(before, after string) []Piece {
	a, b := strings.Fields(before), strings.Fields(after)
	if len(a) > mostCompared || len(b) > mostCompared {
		return pieces(pieceOf(a, InBefore), pieceOf(b, InAfter))
	}
	// The ends that agree need no table.
	head := 0
	for head < len(a) && head < len(b) && a[head] == b[head] {
		head++
	}
	tail := 0
	for tail < len(a)-head && tail < len(b)-head && a[len(a)-1-tail] == b[len(b)-1-tail] {
		tail++
	}
	out := []Piece{pieceOf(a[:head], InBoth)}
	out = append(out, common(a[head:len(a)-tail], b[head:len(b)-tail])...)
	return pieces(append(out, pieceOf(a[len(a)-tail:], InBoth))...)
}

func common(a, b []string) []Piece {
	longest := make([][]int16, len(a)+1)
	for i := range longest {
		longest[i] = make([]int16, len(b)+1)
	}
	for i := len(a) - 1; i >= 0; i-- {
		for j := len(b) - 1; j >= 0; j-- {
			if a[i] == b[j] {
				longest[i][j] = longest[i+1][j+1] + 1
			} else {
				longest[i][j] = max(longest[i+1][j], longest[i][j+1])
			}
		}
	}
	var out []Piece
	i, j := 0, 0
	for i < len(a) && j < len(b) {
		switch {
		case a[i] == b[j]:
			out = append(out, Piece{a[i], InBoth})
			i, j = i+1, j+1
		case longest[i+1][j] >= longest[i][j+1]:
			out = append(out, Piece{a[i], InBefore})
			i++
		default:
			out = append(out, Piece{b[j], InAfter})
			j++
		}
	}
	return append(out, pieceOf(a[i:], InBefore), pieceOf(b[j:], InAfter))
}

func pieceOf(words []string, in PieceIn) Piece { return Piece{strings.Join(words, " "), in} }

// pieces joins neighbors of a kind and drops empty ones.
func pieces(list ...Piece) []Piece {
	out := []Piece{}
	for _, p := range list {
		switch {
		case p.Words == "":
		case len(out) > 0 && out[len(out)-1].In == p.In:
			out[len(out)-1].Words += " " + p.Words
		default:
			out = append(out, p)
		}
	}
	return out
}
