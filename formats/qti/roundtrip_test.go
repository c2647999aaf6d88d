package qti_test

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"fmt"
	"io"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/item"
	"pineledger/core/item/itemtest"
	"pineledger/core/points"
	"pineledger/formats/qti"
)

var pixel = []byte("\x89PNG the picture of a harbor")

// shelf keeps pictures by their own digest; the picture of itemtest comes back as itself.
func shelf(_ string, data []byte) (item.Picture, error) {
	if bytes.Equal(data, pixel) {
		return item.Picture{Source: itemtest.Picture.Source}, nil
	}
	return item.Picture{Source: fmt.Sprintf("/media/%x", sha256.Sum256(data))}, nil
}

func media(string) (string, []byte, error) { return "harbor.png", pixel, nil }

func write(t require.TestingT, items ...qti.Writing) []byte {
	var out bytes.Buffer
	w := qti.NewWriter(&out, media)
	for _, it := range items {
		require.NoError(t, w.Write(it))
	}
	require.NoError(t, w.Close())
	return out.Bytes()
}

func read(t require.TestingT, data []byte) ([]qti.Found, []*qti.Refusal) {
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	p, err := qti.Open(z, shelf)
	require.NoError(t, err)
	var found []qti.Found
	var refused []*qti.Refusal
	require.NoError(t, p.Each(func(f qti.Found, r *qti.Refusal) error {
		if r != nil {
			refused = append(refused, r)
			return nil
		}
		found = append(found, f)
		return nil
	}))
	return found, refused
}

// Whatever an item is, it comes back from a package as it went in.
func TestExportAndImportGiveTheSameItem(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := itemtest.Any(t)
		d.Item.Feedback = someFeedback(t, d.Item)
		w := qti.Writing{Identifier: "ITEM 1", Item: d.Item, Meta: qti.Meta{Standards: []string{"M6.RR.3a", "M6.NP"}, Subject: "mathematics",
			Grade: "06", Bank: "District bank", Depth: 2, Difficulty: "0.62", Language: "en", Tags: []string{"tide", "map"}}}
		found, refused := read(t, write(t, w))
		require.Empty(t, refused)
		require.Len(t, found, 1)
		require.Equal(t, d.Item, found[0].Item)
		require.Equal(t, w.Meta, found[0].Meta)
		require.Equal(t, w.Identifier, found[0].Identifier)
	})
}

// someFeedback is feedback where it can be given: for right and wrong where no person
// scores, and for one wrong choice.
func someFeedback(t *rapid.T, it item.Item) *item.Feedback {
	if _, scored := it.AsRules(); !scored || !rapid.Bool().Draw(t, "feedback") {
		return nil
	}
	f := &item.Feedback{Right: "<p>Yes.</p>", Wrong: "<p>Not yet.</p>"}
	if it.Kind == item.SingleChoice && it.Credit == item.AllOrNothing {
		for _, c := range it.Body[1].Interaction.Choices {
			if c.ID != it.Declarations[0].Correct[0] && len(it.Body[1].Interaction.Choices) > 2 {
				f.ByAnswers = []item.Advice{{Response: "RESPONSE", Value: c.ID, HTML: "<p>Go over it.</p>"}}
			}
		}
	}
	if len(it.RightResponse()) == 0 {
		return nil
	}
	return f
}

var hints = regexp.MustCompile(` data-(key|kind)="[^"]*"`)

// rewritten changes the XML files of a package.
func rewritten(t require.TestingT, data []byte, change func([]byte) []byte) []byte {
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	for _, f := range z.File {
		r, err := f.Open()
		require.NoError(t, err)
		text, err := io.ReadAll(r)
		require.NoError(t, err)
		to, err := w.Create(f.Name)
		require.NoError(t, err)
		if strings.HasSuffix(f.Name, ".xml") {
			text = change(text)
		}
		_, err = to.Write(text)
		require.NoError(t, err)
	}
	require.NoError(t, w.Close())
	return out.Bytes()
}

// withoutHints makes of a package what a program that knows nothing of ours would read.
func withoutHints(t require.TestingT, data []byte) []byte {
	return rewritten(t, data, func(text []byte) []byte { return hints.ReplaceAll(text, nil) })
}

// The standard words alone earn the same: what we write for others is true.
func TestTheStandardWordsEarnTheSame(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := itemtest.Of(t, rapid.SampledFrom(scored).Draw(t, "kind"))
		found, refused := read(t, withoutHints(t, write(t, qti.Writing{Identifier: "I", Item: d.Item})))
		require.Empty(t, refused, "%s, %s", d.Item.Kind, d.Item.Credit)
		r := d.Respond(t)
		other := r
		if d.Item.Kind == item.Menus && found[0].Item.Kind != item.Menus {
			other = item.Response{}
			for _, v := range r["RESPONSE"] {
				other["RESPONSE_"+v[2:]] = []string{v[:1]}
			}
		}
		worth := points.Points(rapid.IntRange(1, 900).Draw(t, "points"))
		require.NoError(t, found[0].Item.Accepts(other))
		require.Equal(t, d.Item.Score(r, worth).Credit, found[0].Item.Score(other, worth).Credit, "%s, %s: %v", d.Item.Kind, d.Item.Credit, r)
	})
}

var scored = []item.Kind{item.SingleChoice, item.MultipleChoice, item.TrueFalse, item.Order, item.Match, item.Sort, item.BoxTable, item.Text,
	item.Number, item.NumberLine, item.SelectText, item.Menus, item.Spot}

func TestEverythingBesideTheKeyComesBack(t *testing.T) {
	it := item.NewChoice(item.SingleChoice, `<p>What is <strong>half</strong> <span data-catalog-idref="w1">of</span> <math><semantics><mfrac><mn>1</mn><mn>2</mn></mfrac><annotation encoding="application/x-tex">\frac{1}{2}</annotation></semantics></math>?</p><table><tbody><tr><th scope="row">a &lt; b</th><td>1</td></tr></tbody></table><p><img src="`+
		itemtest.Picture.Source+`" alt="a &#34;small&#34; boat"></p>`, []string{"a quarter", "one", "none of these"}, []int{0}, item.AllOrNothing)
	it.Body[1].Interaction.Choices[2].Pinned = true
	it.Feedback = &item.Feedback{Right: "<p>Yes.</p>", Wrong: "<p>Look again.</p>", ByAnswers: []item.Advice{{Response: "RESPONSE", Value: "B", HTML: "<p>Go over fractions of fractions.</p>"}}}
	it.Directions, it.Notes = "<p>Read it aloud once.</p>", "Goes with the map of grade 6."
	it.Cards = []item.Card{{Catalog: "c1", Support: "spoken", Language: "en", Default: true, HTML: "<p>What is half of a half?</p>"},
		{Catalog: "w1", Support: item.GlossaryCard, HTML: "belonging to"}, {Catalog: "w1", Support: item.TranslationCard, Language: "es", HTML: "de"}}
	spanish := item.NewChoice(item.SingleChoice, "¿Cuánto es la mitad de un medio?", []string{"un cuarto", "uno", "ninguna"}, []int{0}, item.AllOrNothing)
	spanish.Body[1].Interaction.Choices[2].Pinned = true
	it.Variants = []item.Variant{{Language: "es", Body: spanish.Body}}
	it = it.Cleaned()
	require.Empty(t, it.Check())

	passage := qti.Passage{Identifier: "P1", Title: "The pier", Body: "<p>A pier is long.</p>"}
	found, refused := read(t, write(t, qti.Writing{Identifier: "A", Item: it, Meta: qti.Meta{Language: "en"}, Passage: &passage}, qti.Writing{Identifier: "B", Item: it, Passage: &passage}))
	require.Empty(t, refused)
	require.Len(t, found, 2)
	assert.Equal(t, it, found[0].Item)
	assert.Equal(t, &passage, found[0].Passage)
	assert.Equal(t, &passage, found[1].Passage)
}

// What another program changed in the rules or the key wins over our hints.
func TestAChangedKeyWinsOverTheHint(t *testing.T) {
	it := item.NewChoice(item.SingleChoice, "Which?", []string{"a", "b"}, []int{0}, item.AllOrNothing)
	data := rewritten(t, write(t, qti.Writing{Identifier: "A", Item: it}), func(text []byte) []byte {
		return bytes.ReplaceAll(text, []byte("<qti-value>A</qti-value>"), []byte("<qti-value>B</qti-value>"))
	})
	found, refused := read(t, data)
	require.Empty(t, refused)
	assert.Equal(t, []string{"B"}, found[0].Item.Declarations[0].Correct)
	assert.Equal(t, item.Right, found[0].Item.Score(item.Response{"RESPONSE": {"B"}}, 100).Outcome)
}
