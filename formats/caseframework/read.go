// Package caseframework reads standards in the CASE 1.1 format: one JSON document
// with a CFDocument, its CFItems and the CFAssociations that make them a tree.
package caseframework

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"pineledger/core/roster"
	"pineledger/formats/table"
)

// mostBytes bounds a framework file.
const mostBytes = 100 << 20

// Framework is a document with its tree, from top to bottom.
type Framework struct {
	Identifier string
	Title      string
	Subject    string
	Version    string
	Changed    string     // when this edition was last changed, as it says; "" where it does not
	Standards  []Standard // each after the one above it
	Links      []Link
	Remarks    []Remark
	// Held are the identifiers of everything the file holds that is in force or could not be
	// read: what is here and not among them is in this edition no more.
	Held map[string]bool
}

// Remark is something to know of a standard that was taken or left aside.
type Remark struct {
	Row   table.RowError
	Aside bool // it was left aside; else it was taken with a change
}

// Link joins a standard to one of this or another framework, which may not be known yet.
type Link struct {
	From, To string // identifiers
	Kind     LinkKind
}

// LinkKind is a type of association of CASE that says what a standard is to another.
type LinkKind string

const (
	ExactMatch LinkKind = "exactMatchOf"
	Related    LinkKind = "isRelatedTo"
	PartOf     LinkKind = "isPartOf"
	ReplacedBy LinkKind = "replacedBy" // by one of a newer edition
)

var linkKinds = []LinkKind{ExactMatch, Related, PartOf, ReplacedBy}

// Standard is one node. Parent is the identifier of the one above, "" at the top.
// Place and Last number the tree as it is read: everything below lies between.
type Standard struct {
	Identifier string
	Code       string
	Text       string
	Level      string
	Grades     []string
	Parent     string
	Place      int
	Last       int
}

type node struct {
	Identifier string `json:"identifier"`
}

// one is a number, or a text that holds one: programs write 1, 1.0 and "1".
type one int

func (o *one) UnmarshalJSON(data []byte) error {
	text := strings.Trim(string(data), `"`)
	if text == "" || text == "null" {
		return nil
	}
	v, err := strconv.ParseFloat(text, 64)
	if err != nil || v != math.Trunc(v) || math.Abs(v) > 1e9 {
		return fmt.Errorf("%s is not a whole number", data)
	}
	*o = one(v)
	return nil
}

// texts is a list of texts, or a single one.
type texts []string

func (t *texts) UnmarshalJSON(data []byte) error {
	var single string
	if json.Unmarshal(data, &single) == nil {
		*t = nil
		if single != "" {
			*t = texts{single}
		}
		return nil
	}
	var list []string
	if err := json.Unmarshal(data, &list); err != nil {
		return fmt.Errorf("%s is not a list of texts", data)
	}
	*t = list
	return nil
}

// text is a text, or a number that stands for one, as versions and grades are written by some.
type text string

func (t *text) UnmarshalJSON(data []byte) error {
	var s string
	if json.Unmarshal(data, &s) == nil {
		*t = text(s)
		return nil
	}
	var n json.Number
	if err := json.Unmarshal(data, &n); err != nil {
		return fmt.Errorf("%s is not a text", data)
	}
	*t = text(n.String())
	return nil
}

type document struct {
	CFDocument *struct {
		Identifier         string `json:"identifier"`
		Title              string `json:"title"`
		Subject            texts  `json:"subject"`
		Version            text   `json:"version"`
		LastChangeDateTime string `json:"lastChangeDateTime"`
	} `json:"CFDocument"`
	CFItems        []json.RawMessage `json:"CFItems"`
	CFAssociations []json.RawMessage `json:"CFAssociations"`
}

type cfItem struct {
	Identifier        string `json:"identifier"`
	HumanCodingScheme text   `json:"humanCodingScheme"`
	FullStatement     string `json:"fullStatement"`
	CFItemType        string `json:"CFItemType"`
	EducationLevel    texts  `json:"educationLevel"`
	StatusStartDate   string `json:"statusStartDate"`
	StatusEndDate     string `json:"statusEndDate"`
}

type cfAssociation struct {
	AssociationType    string `json:"associationType"`
	SequenceNumber     one    `json:"sequenceNumber"`
	OriginNodeURI      node   `json:"originNodeURI"`
	DestinationNodeURI node   `json:"destinationNodeURI"`
}

// reading is a file while it is read.
type reading struct {
	file         string
	today        string // as 2026-11-29
	items        []cfItem
	associations []cfAssociation
	refused      []table.RowError
	f            Framework
}

// Read reads a framework as it is in force on a day, such as 2026-11-29. Items that cannot
// be placed in the tree are refused alone; their line is their number among the CFItems,
// counted from 1. An error means that the file as a whole is not a framework.
func Read(file string, r io.Reader, today string) (Framework, []table.RowError, error) {
	data, err := io.ReadAll(io.LimitReader(r, mostBytes+1))
	if err != nil {
		return Framework{}, nil, err
	}
	if len(data) > mostBytes {
		return Framework{}, nil, fmt.Errorf("%s is larger than %d bytes", file, mostBytes)
	}
	var doc document
	if err := json.Unmarshal(bytes.TrimPrefix(data, []byte("\xef\xbb\xbf")), &doc); err != nil {
		return Framework{}, nil, fmt.Errorf("%s cannot be read as JSON: %w", file, err)
	}
	if doc.CFDocument == nil || doc.CFDocument.Identifier == "" || doc.CFDocument.Title == "" {
		return Framework{}, nil, errors.New(file + " has no CFDocument with an identifier and a title")
	}
	in := &reading{file: file, today: today, f: Framework{Identifier: doc.CFDocument.Identifier, Title: doc.CFDocument.Title,
		Subject: strings.Join(doc.CFDocument.Subject, ", "), Version: string(doc.CFDocument.Version), Changed: doc.CFDocument.LastChangeDateTime, Held: map[string]bool{}}}
	in.decode(doc)
	in.place()
	in.link()
	return in.f, in.refused, nil
}

// decode reads items and associations one by one, so that one that is written wrong is refused alone.
func (in *reading) decode(doc document) {
	for i, raw := range doc.CFItems {
		var it cfItem
		if err := json.Unmarshal(raw, &it); err != nil {
			field := "CFItem"
			var wrong *json.UnmarshalTypeError
			if errors.As(err, &wrong) && wrong.Field != "" {
				field = wrong.Field
			}
			in.items = append(in.items, cfItem{Identifier: it.Identifier, HumanCodingScheme: it.HumanCodingScheme})
			in.refuse(i, field, "%s", inWords(err))
			continue
		}
		in.items = append(in.items, it)
	}
	for i, raw := range doc.CFAssociations {
		var a cfAssociation
		if err := json.Unmarshal(raw, &a); err != nil {
			in.refused = append(in.refused, table.RowError{File: in.file, Line: i + 1, Field: "CFAssociation", Reason: inWords(err)})
			continue
		}
		in.associations = append(in.associations, a)
	}
}

// inWords says what is wrong with a piece of JSON.
func inWords(err error) string {
	var wrong *json.UnmarshalTypeError
	if !errors.As(err, &wrong) {
		return strings.TrimPrefix(err.Error(), "json: ")
	}
	is := map[string]string{"array": "a list", "object": "an object", "string": "a text", "number": "a number", "bool": "true or false"}[wrong.Value]
	if is == "" {
		is = wrong.Value
	}
	want := "an object"
	if wrong.Type.Kind() == reflect.String {
		want = "a text"
	}
	return "is " + is + " where " + want + " is wanted"
}

// row names an item by its number and its code.
func (in *reading) row(i int, field, format string, args ...any) table.RowError {
	reason := fmt.Sprintf(format, args...)
	if code := in.items[min(i, len(in.items)-1)].HumanCodingScheme; code != "" && i < len(in.items) {
		reason = fmt.Sprintf("(%s) %s", code, reason)
	}
	return table.RowError{File: in.file, Line: i + 1, Field: field, Reason: reason}
}

func (in *reading) refuse(i int, field, format string, args ...any) {
	in.refused = append(in.refused, in.row(i, field, format, args...))
}

func (in *reading) remark(i int, aside bool, field, format string, args ...any) {
	in.f.Remarks = append(in.f.Remarks, Remark{in.row(i, field, format, args...), aside})
}

// link takes the associations that are no part of the tree, each once, and the further parents of
// standards that have several: they are a part of each.
func (in *reading) link() {
	seen := map[Link]bool{}
	first := map[string]bool{}
	for _, a := range in.associations {
		l := Link{a.OriginNodeURI.Identifier, a.DestinationNodeURI.Identifier, LinkKind(a.AssociationType)}
		if a.AssociationType == childOf {
			if !first[l.From] {
				first[l.From] = true
				continue
			}
			l.Kind = PartOf
		}
		if l.From != "" && l.To != "" && l.From != l.To && l.To != in.f.Identifier && !seen[l] && slices.Contains(linkKinds, l.Kind) {
			seen[l] = true
			in.f.Links = append(in.f.Links, l)
		}
	}
}

// childOf makes the tree.
const childOf = "isChildOf"

// above is where an item hangs.
type above struct {
	parent   string
	sequence int
}

// taken gives the items that are in force and can be read, by their identifiers.
func (in *reading) taken() map[string]int {
	at := map[string]int{}
	wrong := map[int]bool{}
	for _, r := range in.refused {
		if r.Field != "CFAssociation" {
			wrong[r.Line-1] = true
		}
	}
	codes := map[text]int{}
	for i, it := range in.items {
		if it.Identifier != "" {
			in.f.Held[it.Identifier] = true
		}
		_, twice := at[it.Identifier]
		switch {
		case wrong[i]:
		case it.Identifier == "":
			in.refuse(i, "identifier", "is empty")
		case twice:
			in.refuse(i, "identifier", "%q is given twice", it.Identifier)
		case it.FullStatement == "":
			in.refuse(i, "fullStatement", "is empty")
		case it.StatusEndDate != "" && it.StatusEndDate[:min(10, len(it.StatusEndDate))] < in.today:
			delete(in.f.Held, it.Identifier)
			in.remark(i, true, "statusEndDate", "ended on %s", it.StatusEndDate)
		case it.StatusStartDate != "" && it.StatusStartDate[:min(10, len(it.StatusStartDate))] > in.today:
			delete(in.f.Held, it.Identifier)
			in.remark(i, true, "statusStartDate", "begins on %s; import the file again then", it.StatusStartDate)
		default:
			at[it.Identifier] = i
			if other, used := codes[it.HumanCodingScheme]; used && it.HumanCodingScheme != "" {
				code := text(fmt.Sprintf("%s#%d", it.HumanCodingScheme, i+1))
				in.remark(i, false, "humanCodingScheme", "is the code of item %d too; this one is called %s here", other+1, code)
				in.items[i].HumanCodingScheme = code
			}
			codes[it.HumanCodingScheme] = i
		}
	}
	return at
}

// hanging tells under what each item hangs: the first that it names. What ended or has not begun is
// passed over, up to what it hangs on.
func (in *reading) hanging(at map[string]int) map[string]above {
	all := map[string]above{}
	for _, a := range in.associations {
		if _, known := all[a.OriginNodeURI.Identifier]; a.AssociationType == childOf && !known {
			all[a.OriginNodeURI.Identifier] = above{a.DestinationNodeURI.Identifier, int(a.SequenceNumber)}
		}
	}
	passed := map[string]bool{}
	for _, r := range in.f.Remarks {
		if r.Aside {
			passed[in.items[r.Row.Line-1].Identifier] = true
		}
	}
	for id := range at {
		on := all[id]
		for steps := 0; passed[on.parent] && steps < len(in.items); steps++ {
			on.parent = all[on.parent].parent
		}
		all[id] = on
	}
	return all
}

func (in *reading) place() {
	at := in.taken()
	hangs := in.hanging(at)
	children := map[string][]string{}
	for i, it := range in.items {
		if k, taken := at[it.Identifier]; !taken || k != i {
			continue
		}
		parent := hangs[it.Identifier].parent
		if _, known := at[parent]; !known && parent != "" && parent != in.f.Identifier {
			in.refuse(i, childOf, "hangs on %q, which is not in the file or was refused", parent)
			continue
		}
		if parent == in.f.Identifier {
			parent = ""
		}
		children[parent] = append(children[parent], it.Identifier)
	}
	for _, list := range children {
		slices.SortStableFunc(list, func(a, b string) int { return hangs[a].sequence - hangs[b].sequence })
	}
	placed := in.walk(at, children)
	for i, it := range in.items {
		k, taken := at[it.Identifier]
		parent := hangs[it.Identifier].parent
		if taken && k == i && !placed[it.Identifier] && slices.Contains(children[parent], it.Identifier) {
			in.refuse(i, childOf, "does not lead up to the document")
		}
	}
}

// walk numbers the tree from top to bottom. It goes by hand rather than by
// recursion: a hostile file may be very deep.
func (in *reading) walk(at map[string]int, children map[string][]string) map[string]bool {
	type step struct {
		identifier, parent string
		leave              int // place in Standards to close, -1 when entering
	}
	f := &in.f
	placed := map[string]bool{}
	stack := []step{}
	push := func(parent string) {
		for i := len(children[parent]) - 1; i >= 0; i-- {
			stack = append(stack, step{children[parent][i], parent, -1})
		}
	}
	push("")
	for len(stack) > 0 {
		s := stack[len(stack)-1]
		stack = stack[:len(stack)-1]
		if s.leave >= 0 {
			f.Standards[s.leave].Last = len(f.Standards)
			continue
		}
		it := in.items[at[s.identifier]]
		placed[s.identifier] = true
		f.Standards = append(f.Standards, Standard{
			Identifier: it.Identifier, Code: string(it.HumanCodingScheme), Text: it.FullStatement, Level: it.CFItemType,
			Grades: grades(it.EducationLevel), Parent: s.parent, Place: len(f.Standards) + 1,
		})
		stack = append(stack, step{leave: len(f.Standards) - 1})
		push(s.identifier)
	}
	return placed
}

// grades gives the codes of grades, which some write in one text or in words; what is none stays as it is.
func grades(levels texts) []string {
	var out []string
	for _, level := range levels {
		for _, one := range strings.Split(level, ",") {
			one = strings.TrimSpace(one)
			if code, ok := roster.ReadGrade(one); ok {
				one = code
			}
			if one != "" && !slices.Contains(out, one) {
				out = append(out, one)
			}
		}
	}
	return out
}
