// Package item knows what an item is, what of it a student may see, whether a
// response has the right shape, and what a response earns.
//
// An item is a document in the model of QTI 3: a body of blocks, response
// declarations that hold the key, and a credit rule. It is stored as JSON with a
// schema version. A kind of item is one file here that fills a kindRules.
package item

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
)

// Schema is the version of the document that this package writes.
const Schema = 1

// Kind names a kind of item as screens, files and filters do.
type Kind string

// The kinds that can be written, answered and scored.
const (
	SingleChoice   Kind = "single-choice"
	MultipleChoice Kind = "multiple-choice"
	TrueFalse      Kind = "true-false"
	Order          Kind = "order"     // put choices in order
	Match          Kind = "match"     // join choices to targets
	Sort           Kind = "sort"      // put choices into groups
	BoxTable       Kind = "box-table" // tick boxes of a table: choices are its rows, targets its columns
	Text           Kind = "text"      // type a word
	Number         Kind = "number"    // type a number
	NumberLine     Kind = "number-line"
	SelectText     Kind = "select-text" // select words or sentences
	Menus          Kind = "menus"       // choose from menus in a sentence
)

// CreditRule says how a partly right response earns.
type CreditRule string

const (
	AllOrNothing CreditRule = "all-or-nothing"
	// PerChoice judges each of n choices: right ones are worth 1/n each.
	PerChoice CreditRule = "per-choice"
	// KeyMinus is (keys chosen − distractors chosen) / keys, not below 0.
	KeyMinus CreditRule = "key-minus"
	// PerPlace is the share of things that stand at their right place in an order.
	PerPlace CreditRule = "per-place"
	// LongestRun is the longest common subsequence of order given and key, over n.
	LongestRun CreditRule = "longest-run"
	// PerPart judges each part alone, all of one weight.
	PerPart CreditRule = "per-part"
)

// Item is a whole item with its key. It never goes to a student: see Shown.
type Item struct {
	Schema       int           `json:"schema"`
	Kind         Kind          `json:"kind"`
	Body         []Block       `json:"body"`
	Declarations []Declaration `json:"declarations"`
	Credit       CreditRule    `json:"credit"`
}

// Block is a piece of the body: formatted text, or an interaction.
type Block struct {
	HTML        string       `json:"html,omitempty"`
	Interaction *Interaction `json:"interaction,omitempty"`
}

// Interaction is where a student answers. It holds nothing of the key.
type Interaction struct {
	Response   string   `json:"response"` // id of its declaration
	Choices    []Choice `json:"choices,omitempty"`
	Targets    []Choice `json:"targets,omitempty"`    // what choices are joined to
	MaxChoices int      `json:"maxChoices,omitempty"` // 0: as many as there are
	Unit       string   `json:"unit,omitempty"`       // shown behind the box of a typed number
	Line       *Line    `json:"line,omitempty"`       // on which a point is put
}

// Choice is one of the answers offered, or a target to join them to.
type Choice struct {
	ID   string `json:"id"`
	HTML string `json:"html"`
	Most int    `json:"most,omitempty"` // how often it may be joined; 0: as often as wanted
	// Plain is a piece of a text that is not answered; it has no id.
	Plain bool   `json:"plain,omitempty"`
	In    string `json:"in,omitempty"` // id of the gap whose menu this is a choice of
}

// Declaration is the key of one response.
type Declaration struct {
	Response string     `json:"response"`
	Correct  []string   `json:"correct"`
	Number   *NumberKey `json:"number,omitempty"` // how a typed number is read and compared
	Text     *TextKey   `json:"text,omitempty"`   // how a typed word is compared
}

// Response is what a student gave: values by response id.
type Response map[string][]string

// Most that a response may hold; a longer one is refused at the door.
const (
	maxValues      = 200
	maxValueLength = 2000
)

// A Problem is something wrong with an item, at a place in its document.
type Problem struct{ Place, Reason string }

func (p Problem) String() string { return p.Place + ": " + p.Reason }

// A ResponseError says why a response does not fit its item.
type ResponseError struct{ Response, Reason string }

func (e *ResponseError) Error() string { return "response " + e.Response + " " + e.Reason }

// kindRules is what each kind brings.
type kindRules struct {
	credits  []CreditRule
	check    func(Interaction, Declaration) []Problem
	accepts  func(Interaction, []string) error
	score    func(Item, Interaction, Declaration, []string) share
	steps    func(Item, Interaction, Declaration) int64 // equal steps its credit has
	keyShort func(Interaction, Declaration) string
	short    func(Interaction, []string) []string // a response as one would note it
}

var kinds = map[Kind]kindRules{
	SingleChoice:   singleChoice,
	MultipleChoice: multipleChoice,
	TrueFalse:      trueFalse,
	Order:          order,
	Match:          match,
	Sort:           groups,
	BoxTable:       boxTable,
	Text:           text,
	Number:         number,
	NumberLine:     numberLine,
	SelectText:     selectText,
	Menus:          menus,
}

// Kinds lists the kinds in the order of the screens.
func Kinds() []Kind {
	return []Kind{SingleChoice, MultipleChoice, TrueFalse, Order, Match, Sort, BoxTable, Text, Number, NumberLine, SelectText, Menus}
}

func oneStep(Item, Interaction, Declaration) int64 { return 1 }

// Read parses a stored document and checks its schema version.
func Read(data []byte) (Item, error) {
	var it Item
	if err := json.Unmarshal(data, &it); err != nil {
		return Item{}, fmt.Errorf("item document: %w", err)
	}
	if it.Schema != Schema {
		return Item{}, fmt.Errorf("item document has schema %d; this program reads %d", it.Schema, Schema)
	}
	return it, nil
}

// answer finds the interaction and the declaration of an item of one part.
func (it Item) answer() (Interaction, Declaration, bool) {
	for _, b := range it.Body {
		if b.Interaction == nil {
			continue
		}
		for _, d := range it.Declarations {
			if d.Response == b.Interaction.Response {
				return *b.Interaction, d, true
			}
		}
	}
	return Interaction{}, Declaration{}, false
}

// Check lists what is wrong with an item; a sound one has no problems.
func (it Item) Check() []Problem {
	rules, ok := kinds[it.Kind]
	if !ok {
		return []Problem{{"kind", fmt.Sprintf("%q is not a kind of item", it.Kind)}}
	}
	var out []Problem
	if strings.TrimSpace(it.Stem()) == "" {
		out = append(out, Problem{"body", "the stem is empty"})
	}
	known := false
	for _, c := range rules.credits {
		known = known || c == it.Credit
	}
	if !known {
		out = append(out, Problem{"credit", fmt.Sprintf("%q is not a credit rule of this kind", it.Credit)})
	}
	interaction, declaration, ok := it.answer()
	if !ok {
		return append(out, Problem{"body", "there is nothing to answer, or its key is missing"})
	}
	return append(out, rules.check(interaction, declaration)...)
}

// Stem is the text before, between and after what is answered, without markup.
func (it Item) Stem() string {
	var parts []string
	for _, b := range it.Body {
		if b.HTML != "" {
			parts = append(parts, PlainText(b.HTML))
		}
		if b.Interaction != nil {
			parts = append(parts, b.Interaction.sentence())
		}
	}
	return strings.TrimSpace(strings.Join(parts, " "))
}

// sentence is the text that menus stand in, with dots for them; "" without one.
func (in Interaction) sentence() string {
	if !slices.ContainsFunc(in.Targets, func(t Choice) bool { return t.Plain }) {
		return ""
	}
	var out strings.Builder
	for _, t := range in.Targets {
		if t.Plain {
			out.WriteString(t.HTML)
		} else {
			out.WriteString("…")
		}
	}
	return PlainText(out.String())
}

// Words is all the text a search looks through: stem and choices.
func (it Item) Words() string {
	words := []string{it.Stem()}
	if interaction, _, ok := it.answer(); ok {
		for _, c := range slices.Concat(interaction.Choices, interaction.Targets) {
			words = append(words, PlainText(c.HTML))
		}
	}
	return strings.Join(words, " ")
}

// KeyShort is the key as one would note it in a margin: "B", "A, C", "3/4".
func (it Item) KeyShort() string {
	interaction, declaration, ok := it.answer()
	if !ok {
		return ""
	}
	return kinds[it.Kind].keyShort(interaction, declaration)
}

// Shown is an item as a student gets it. It is a type of its own so that no key
// and no credit rule can travel with it.
type Shown struct {
	Kind Kind    `json:"kind"`
	Body []Block `json:"body"`
}

// Shown gives the student's side of an item.
func (it Item) Shown() Shown { return Shown{Kind: it.Kind, Body: it.Body} }

// Accepts tells whether a response has a shape that this item can take; an
// empty one always has. The error is a *ResponseError.
func (it Item) Accepts(r Response) error {
	interaction, _, ok := it.answer()
	if !ok {
		return &ResponseError{"", "has no place in this item"}
	}
	for id, values := range r {
		if id != interaction.Response {
			return &ResponseError{id, "is not asked for by this item"}
		}
		if len(values) > maxValues {
			return &ResponseError{id, fmt.Sprintf("has more than %d values", maxValues)}
		}
		for _, v := range values {
			if len(v) > maxValueLength {
				return &ResponseError{id, fmt.Sprintf("has a value of more than %d bytes", maxValueLength)}
			}
		}
		if err := kinds[it.Kind].accepts(interaction, values); err != nil {
			return err
		}
	}
	return nil
}

// ResponseShort is a response as one would note it: letters of choices, or what was typed.
func (it Item) ResponseShort(r Response) []string {
	interaction, _, ok := it.answer()
	values := given(r[interaction.Response])
	if !ok || len(values) == 0 {
		return []string{}
	}
	return kinds[it.Kind].short(interaction, values)
}
