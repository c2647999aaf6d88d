package item

import (
	"fmt"
	"html"
	"slices"
	"strings"
	"unicode/utf8"
)

// Keyed is a question of a document that exists: the document holds the words, this
// holds where to answer and the key.
type Keyed struct {
	Number string   // as the document numbers it, "7" or "3b"
	Kind   Kind     // one of KeyedKinds
	Labels []string // of the choices, in the document's order: A to D, F to J, words
	Key    []string // labels; values of a typed number, spellings of a typed word; none while it is not known
	Rubric *Rubric  // of a written answer
}

// KeyedKinds are the kinds of question that a document can ask.
var KeyedKinds = []Kind{SingleChoice, MultipleChoice, Number, Text, ShortWritten, LongWritten}

// Bounds of a question's labels.
const (
	mostLabels  = 60
	mostLabel   = 40 // characters
	keyedPlace  = "RESPONSE"
	keyedPrefix = "<p>Question "
)

// Check says what about a question cannot be meant. A key that is missing is no
// problem here: the document may be keyed later.
func (k Keyed) Check() []Problem {
	var out []Problem
	add := func(bad bool, place, format string, args ...any) {
		if bad {
			out = append(out, Problem{place, fmt.Sprintf(format, args...)})
		}
	}
	add(!slices.Contains(KeyedKinds, k.Kind), "kind", "%q is not a kind of question that a document can ask", k.Kind)
	add(k.Number == "" || utf8.RuneCountInString(k.Number) > 20, "number", "a question needs a number of at most 20 characters")
	if !k.chosen() {
		return out
	}
	add(len(k.Labels) < 2 || len(k.Labels) > mostLabels, "labels", "from 2 to %d labels are needed", mostLabels)
	seen := map[string]bool{}
	for _, l := range k.Labels {
		add(strings.TrimSpace(l) != l || l == "" || utf8.RuneCountInString(l) > mostLabel, "labels", "the label %q is empty, longer than %d characters or has space around it", l, mostLabel)
		add(seen[l], "labels", "the label %q is used twice", l)
		seen[l] = true
	}
	for _, key := range k.Key {
		add(!seen[key], "key", "the key %q is not one of %s", key, strings.Join(k.Labels, ", "))
	}
	add(k.Kind == SingleChoice && len(k.Key) > 1, "key", "a single choice has one key; take multiple choice for several")
	return out
}

func (k Keyed) chosen() bool { return k.Kind == SingleChoice || k.Kind == MultipleChoice }

// Item gives the question as an item. Without a key it has the problem that there is none.
func (k Keyed) Item() Item {
	in, d := Interaction{Response: keyedPlace}, Declaration{Response: keyedPlace, Correct: []string{}}
	credit := AllOrNothing
	switch k.Kind {
	case SingleChoice, MultipleChoice:
		for i, label := range k.Labels {
			id := fmt.Sprintf("C%d", i+1)
			in.Choices = append(in.Choices, Choice{ID: id, HTML: html.EscapeString(label), Label: label})
			if slices.Contains(k.Key, label) {
				d.Correct = append(d.Correct, id)
			}
		}
		if k.Kind == SingleChoice {
			in.MaxChoices = 1
		}
	case Number:
		d.Correct, d.Number = slices.Clone(k.Key), &NumberKey{Percent: true}
	case Text:
		d.Correct, d.Text = slices.Clone(k.Key), &TextKey{}
	case ShortWritten, LongWritten:
		credit, d.Rubric = ByReader, k.Rubric
		in.Rows = 3
		if k.Kind == LongWritten {
			in.Rows = 10
		}
	}
	if d.Correct == nil {
		d.Correct = []string{}
	}
	return Item{Schema: Schema, Kind: k.Kind, Credit: credit, Declarations: []Declaration{d},
		Body: []Block{{HTML: keyedPrefix + html.EscapeString(k.Number) + "</p>"}, {Interaction: &in}}}
}

// ReadKeyed gives the question that an item was made of; false where it was made of none.
func ReadKeyed(it Item) (Keyed, bool) {
	in, d, ok := it.answer()
	if !ok || len(it.Body) != 2 || !strings.HasPrefix(it.Body[0].HTML, keyedPrefix) || !slices.Contains(KeyedKinds, it.Kind) {
		return Keyed{}, false
	}
	number := strings.TrimSuffix(strings.TrimPrefix(it.Body[0].HTML, keyedPrefix), "</p>")
	k := Keyed{Number: html.UnescapeString(number), Kind: it.Kind, Rubric: d.Rubric, Key: []string{}}
	if !k.chosen() {
		k.Key = append(k.Key, d.Correct...)
		return k, true
	}
	for _, c := range in.Choices {
		if c.Label == "" {
			return Keyed{}, false
		}
		k.Labels = append(k.Labels, c.Label)
		if slices.Contains(d.Correct, c.ID) {
			k.Key = append(k.Key, c.Label)
		}
	}
	return k, true
}
