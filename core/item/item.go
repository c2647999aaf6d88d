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

	"pineledger/core/points"
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
	Spot           Kind = "spot"        // mark a place on a picture
	Parts          Kind = "parts"       // several parts, some of which may depend on others
	ShortWritten   Kind = "short-written"
	LongWritten    Kind = "extended-written" // read with a rubric
	Examiner       Kind = "examiner"         // an adult records what the child said or showed
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
	// PerPart judges each part alone, all of one weight unless weighted.
	PerPart CreditRule = "per-part"
	// Mapped adds up the values that a mapping gives to what was answered.
	Mapped CreditRule = "mapped"
	// ByReader is given by who reads the answer.
	ByReader CreditRule = "by-reader"
	// AsWritten follows the item's own rules, as packages bring them.
	AsWritten CreditRule = "as-written"
)

// Item is a whole item with its key. It never goes to a student: see Shown.
type Item struct {
	Schema       int           `json:"schema"`
	Kind         Kind          `json:"kind"`
	Title        string        `json:"title,omitempty"` // as the file it came from calls it; "" where the stem is name enough
	Body         []Block       `json:"body"`
	Declarations []Declaration `json:"declarations"`
	Credit       CreditRule    `json:"credit"`
	Processing   *Processing   `json:"processing,omitempty"` // of credit AsWritten
	Directions   string        `json:"directions,omitempty"` // to the adult who records; no child sees them
	Notes        string        `json:"notes,omitempty"`      // to other authors
	Feedback     *Feedback     `json:"feedback,omitempty"`   // nil for none
	Variants     []Variant     `json:"variants,omitempty"`   // the same item in more languages
	Cards        []Card        `json:"cards,omitempty"`
}

// Feedback is what a student may read after answering.
type Feedback struct {
	Right     string   `json:"right,omitempty"` // "" for none
	Wrong     string   `json:"wrong,omitempty"` // "" for none
	ByAnswers []Advice `json:"byAnswers,omitempty"`
}

// Advice says what to go over again after one wrong answer.
type Advice struct {
	Response string `json:"response"`
	Value    string `json:"value"`
	HTML     string `json:"html"`
}

// Block is a piece of the body: formatted text, or an interaction.
type Block struct {
	HTML        string       `json:"html,omitempty"`
	Inline      bool         `json:"inline,omitempty"`      // runs on from the block before it, as a box in a sentence does
	Interaction *Interaction `json:"interaction,omitempty"` // nil where it is text
}

// Interaction is where a student answers. It holds nothing of the key.
type Interaction struct {
	Response   string   `json:"response"`       // id of its declaration
	Kind       Kind     `json:"kind,omitempty"` // in an item of several parts
	Choices    []Choice `json:"choices,omitempty"`
	Targets    []Choice `json:"targets,omitempty"`    // what choices are joined to
	MaxChoices int      `json:"maxChoices,omitempty"` // 0: as many as there are
	Unit       string   `json:"unit,omitempty"`       // shown behind the box of a typed number
	Line       *Line    `json:"line,omitempty"`       // on which a point is put
	Picture    *Picture `json:"picture,omitempty"`    // on which a spot is marked, or things to order or join have their places
	Rows       int      `json:"rows,omitempty"`       // height of the box to write in, in lines of text
	// Among joins choices to each other, in either direction; there are no targets.
	Among bool `json:"among,omitempty"`
}

// Choice is one of the answers offered, or a target to join them to.
type Choice struct {
	ID   string `json:"id"`
	HTML string `json:"html"`
	Most int    `json:"most,omitempty"` // how often it may be joined; 0: as often as wanted
	// Label stands for the choice where it is named, instead of its letter: in a document that
	// has labels of its own.
	Label string `json:"label,omitempty"`
	// Plain is a piece of a text that is not answered; it has no id.
	Plain bool   `json:"plain,omitempty"`
	In    string `json:"in,omitempty"` // id of the gap whose menu this is a choice of; of every menu without one
	// Pinned keeps its place when choices are mixed.
	Pinned bool  `json:"pinned,omitempty"`
	Area   *Area `json:"area,omitempty"` // where on the picture the choice is
}

// Declaration is the key of one response.
type Declaration struct {
	Response string     `json:"response"`
	Correct  []string   `json:"correct"`
	Number   *NumberKey `json:"number,omitempty"`  // how a typed number is read and compared
	Text     *TextKey   `json:"text,omitempty"`    // how a typed word is compared
	Areas    []Area     `json:"areas,omitempty"`   // where a spot is right
	Mapping  *Mapping   `json:"mapping,omitempty"` // nil where no values are given
	Rubric   *Rubric    `json:"rubric,omitempty"`  // how a written answer is read
	// Points are what a written answer is worth where no rubric tells; 0 where that is not said.
	Points points.Points `json:"points,omitempty"`
	Credit CreditRule    `json:"credit,omitempty"` // of one of several parts
	Weight int           `json:"weight,omitempty"` // of one of several parts; 0 is 1
	Needs  string        `json:"needs,omitempty"`  // the response that must be right for this part to count
}

// Response is what a student gave: values by response id.
type Response map[string][]string

// Most that a response may hold; a longer one is refused at the door.
const (
	maxValues      = 1000
	maxValueLength = 20_000 // bytes
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
	score    func(CreditRule, Interaction, Declaration, []string) share
	steps    func(CreditRule, Interaction, Declaration) int64 // equal steps its credit has
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
	Spot:           spot,
	ShortWritten:   shortWritten,
	LongWritten:    longWritten,
	Examiner:       examiner,
}

// noKind answers for a kind that is none, as while a document is still written or comes from elsewhere.
var noKind = kindRules{
	check: func(Interaction, Declaration) []Problem { return []Problem{{"kind", "is not a kind of item"}} },
	accepts: func(in Interaction, _ []string) error {
		return &ResponseError{in.Response, "is of no kind that can be answered"}
	},
	score: func(CreditRule, Interaction, Declaration, []string) share {
		return nothing("The item is of no kind that can be answered.")
	},
	steps:    oneStep,
	keyShort: func(Interaction, Declaration) string { return "" },
	short:    func(_ Interaction, values []string) []string { return values },
}

func rulesOf(kind Kind) kindRules {
	if rules, ok := kinds[kind]; ok {
		return rules
	}
	return noKind
}

// Kinds lists the kinds in the order of the screens.
func Kinds() []Kind {
	return []Kind{SingleChoice, MultipleChoice, TrueFalse, Order, Match, Sort, BoxTable, Text, Number, NumberLine, SelectText, Menus,
		Spot, Parts, ShortWritten, LongWritten, Examiner}
}

// Credits lists the credit rules that an author can choose for a kind.
func Credits(kind Kind) []CreditRule {
	if kind == Parts {
		return []CreditRule{PerPart, AllOrNothing}
	}
	return rulesOf(kind).credits
}

func oneStep(CreditRule, Interaction, Declaration) int64 { return 1 }

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
	if _, known := kinds[it.Kind]; !known && it.Kind != Parts {
		return []Problem{{"kind", fmt.Sprintf("%q is not a kind of item", it.Kind)}}
	}
	var out []Problem
	if strings.TrimSpace(it.Stem()) == "" && !it.hasPicture() {
		out = append(out, Problem{"body", "the stem is empty"})
	}
	out = append(out, it.checkVariants()...)
	if !it.scoredAlone() && it.Feedback != nil && (it.Feedback.Right != "" || it.Feedback.Wrong != "") {
		out = append(out, Problem{"feedback", "an answer that a person scores is not right or wrong by itself; leave the feedback to who reads it"})
	}
	if it.Credit == AsWritten {
		out = append(out, it.Processing.Check(it)...)
	} else if it.Processing != nil {
		out = append(out, Problem{"processing", "only an item that is scored as written has rules of its own"})
	}
	if it.Kind == Parts {
		return append(out, it.checkParts()...)
	}
	interaction, declaration, ok := it.answer()
	if !ok || len(it.Declarations) != 1 {
		return append(out, Problem{"body", "there must be one place to answer, with its key"})
	}
	return append(out, checkPart(part{interaction, declaration, it.Kind, it.Credit})...)
}

// checkPart checks one place to answer: its credit rule, its choices, its key.
func checkPart(p part) []Problem {
	rules, ok := kinds[p.kind]
	if !ok {
		return []Problem{{"kind", fmt.Sprintf("%q is not a kind of part", p.kind)}}
	}
	var out []Problem
	if !slices.Contains(rules.credits, p.credit) && p.credit != AsWritten {
		out = append(out, Problem{"credit", fmt.Sprintf("%q is not a credit rule of this kind", p.credit)})
	}
	for _, problem := range rules.check(p.in, p.d) {
		// A mapping or rules of its own may do without a key.
		noKey := problem.Place == "declarations[0].correct" || problem.Place == "declarations[0].areas"
		if !noKey || p.credit != Mapped && p.credit != AsWritten {
			out = append(out, problem)
		}
	}
	if p.credit == Mapped || p.d.Mapping != nil {
		out = append(out, p.d.Mapping.check(p.d)...)
	}
	if len(out) == 0 {
		out = p.earnable()
	}
	return out
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
	return strings.Join(strings.Fields(strings.Join(parts, " ")), " ")
}

// Name is what a package calls an item: its title, else the begin of its stem.
func (it Item) Name() string {
	if it.Title != "" {
		return it.Title
	}
	stem := []rune(it.Stem())
	if len(stem) > mostName {
		return string(stem[:mostName]) + "…"
	}
	return string(stem)
}

// mostName bounds a name that is made of a stem, in letters.
const mostName = 80

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

// OtherWords is what a search looks through beside the stem: the choices, and
// stem and choices in the other languages.
func (it Item) OtherWords() string {
	var words []string
	for _, b := range it.Body {
		if b.Interaction != nil {
			for _, c := range slices.Concat(b.Interaction.Choices, b.Interaction.Targets) {
				words = append(words, PlainText(c.HTML))
			}
		}
	}
	for _, v := range it.Variants {
		other := Item{Body: v.Body}
		words = append(words, other.Stem(), other.OtherWords())
	}
	return strings.Join(strings.Fields(strings.Join(words, " ")), " ")
}

// KeyShort is the key as one would note it in a margin: "B", "A, C", "3/4", and
// with semicolons between several parts.
func (it Item) KeyShort() string {
	var out []string
	for _, p := range it.parts() {
		out = append(out, rulesOf(p.kind).keyShort(p.in, p.d))
	}
	return strings.Join(out, "; ")
}

// Shown is an item as a student gets it. It is a type of its own so that no key,
// no credit rule and no directions can travel with it.
type Shown struct {
	Kind     Kind      `json:"kind"`
	Language string    `json:"language,omitempty"` // of Body, a code of BCP 47; "" for not known
	Body     []Block   `json:"body"`
	Variants []Variant `json:"variants,omitempty"`
	Glossary []Gloss   `json:"glossary,omitempty"`
}

// Shown gives the student's side of an item that is written in a language, "" for not known.
func (it Item) Shown(language string) Shown {
	out := Shown{Kind: it.Kind, Language: language, Body: it.Body, Glossary: it.Glossary()}
	for _, v := range it.Variants {
		out.Variants = append(out.Variants, Variant{Language: v.Language, Body: v.Body})
	}
	return out
}

// Accepts tells whether a response has a shape that this item can take; an
// empty one always has. The error is a *ResponseError.
func (it Item) Accepts(r Response) error {
	for id, values := range r {
		p, ok := it.part(id)
		if !ok {
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
		if err := rulesOf(p.kind).accepts(p.in, values); err != nil {
			return err
		}
	}
	return nil
}

// ResponseShort is a response as one would note it: letters of choices, or what was typed.
func (it Item) ResponseShort(r Response) []string {
	out := []string{}
	for _, p := range it.parts() {
		if values := given(r[p.in.Response]); len(values) > 0 {
			out = append(out, rulesOf(p.kind).short(p.in, values)...)
		}
	}
	return out
}
