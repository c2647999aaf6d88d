// Package caseframework reads standards in the CASE 1.1 format: one JSON document
// with a CFDocument, its CFItems and the CFAssociations that make them a tree.
package caseframework

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

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
	Standards  []Standard // each after the one above it
	Links      []Link
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

type document struct {
	CFDocument *struct {
		Identifier string   `json:"identifier"`
		Title      string   `json:"title"`
		Subject    []string `json:"subject"`
		Version    string   `json:"version"`
	} `json:"CFDocument"`
	CFItems []struct {
		Identifier        string   `json:"identifier"`
		HumanCodingScheme string   `json:"humanCodingScheme"`
		FullStatement     string   `json:"fullStatement"`
		CFItemType        string   `json:"CFItemType"`
		EducationLevel    []string `json:"educationLevel"`
	} `json:"CFItems"`
	CFAssociations []struct {
		AssociationType    string `json:"associationType"`
		SequenceNumber     int    `json:"sequenceNumber"`
		OriginNodeURI      node   `json:"originNodeURI"`
		DestinationNodeURI node   `json:"destinationNodeURI"`
	} `json:"CFAssociations"`
}

// Read reads a framework. Items that cannot be placed in the tree are refused
// alone; their line is their number among the CFItems, counted from 1. An error
// means that the file as a whole is not a framework.
func Read(file string, r io.Reader) (Framework, []table.RowError, error) {
	data, err := io.ReadAll(io.LimitReader(r, mostBytes+1))
	if err != nil {
		return Framework{}, nil, err
	}
	if len(data) > mostBytes {
		return Framework{}, nil, fmt.Errorf("%s is larger than %d bytes", file, mostBytes)
	}
	var doc document
	if err := json.Unmarshal(data, &doc); err != nil {
		return Framework{}, nil, fmt.Errorf("%s cannot be read as JSON: %w", file, err)
	}
	if doc.CFDocument == nil || doc.CFDocument.Identifier == "" || doc.CFDocument.Title == "" {
		return Framework{}, nil, errors.New(file + " has no CFDocument with an identifier and a title")
	}
	f := Framework{Identifier: doc.CFDocument.Identifier, Title: doc.CFDocument.Title,
		Subject: strings.Join(doc.CFDocument.Subject, ", "), Version: doc.CFDocument.Version}
	refused := f.place(file, doc)
	f.link(doc)
	return f, refused, nil
}

// link takes the associations that are no part of the tree, each once.
func (f *Framework) link(doc document) {
	seen := map[Link]bool{}
	for _, a := range doc.CFAssociations {
		l := Link{a.OriginNodeURI.Identifier, a.DestinationNodeURI.Identifier, LinkKind(a.AssociationType)}
		if l.From != "" && l.To != "" && l.From != l.To && !seen[l] && slices.Contains(linkKinds, l.Kind) {
			seen[l] = true
			f.Links = append(f.Links, l)
		}
	}
}

// above is where an item hangs.
type above struct {
	parent   string
	sequence int
}

func (f *Framework) place(file string, doc document) (refused []table.RowError) {
	refuse := func(i int, field, format string, args ...any) {
		refused = append(refused, table.RowError{File: file, Line: i + 1, Field: field, Reason: fmt.Sprintf(format, args...)})
	}
	at := map[string]int{}
	for i, it := range doc.CFItems {
		switch _, twice := at[it.Identifier]; {
		case it.Identifier == "":
			refuse(i, "identifier", "is empty")
		case twice:
			refuse(i, "identifier", "%q is given twice", it.Identifier)
		case it.FullStatement == "":
			refuse(i, "fullStatement", "is empty")
		default:
			at[it.Identifier] = i
		}
	}
	hangs := map[string]above{}
	for _, a := range doc.CFAssociations {
		if a.AssociationType == "isChildOf" {
			hangs[a.OriginNodeURI.Identifier] = above{a.DestinationNodeURI.Identifier, a.SequenceNumber}
		}
	}
	children := map[string][]string{}
	for i, it := range doc.CFItems {
		if at[it.Identifier] != i || it.Identifier == "" || it.FullStatement == "" {
			continue
		}
		parent := hangs[it.Identifier].parent
		if _, known := at[parent]; !known && parent != "" && parent != f.Identifier {
			refuse(i, "isChildOf", "hangs on %q, which is not in the file or was refused", parent)
			continue
		}
		if parent == f.Identifier {
			parent = ""
		}
		children[parent] = append(children[parent], it.Identifier)
	}
	for _, list := range children {
		slices.SortStableFunc(list, func(a, b string) int { return hangs[a].sequence - hangs[b].sequence })
	}
	placed := f.walk(doc, at, children, "")
	for i, it := range doc.CFItems {
		if at[it.Identifier] == i && it.Identifier != "" && it.FullStatement != "" && !placed[it.Identifier] && slices.Contains(children[hangs[it.Identifier].parent], it.Identifier) {
			refuse(i, "isChildOf", "does not lead up to the document")
		}
	}
	return refused
}

// walk numbers the tree from top to bottom. It goes by hand rather than by
// recursion: a hostile file may be very deep.
func (f *Framework) walk(doc document, at map[string]int, children map[string][]string, root string) map[string]bool {
	type step struct {
		identifier, parent string
		leave              int // place in Standards to close, -1 when entering
	}
	placed := map[string]bool{}
	stack := []step{}
	push := func(parent string) {
		for i := len(children[parent]) - 1; i >= 0; i-- {
			stack = append(stack, step{children[parent][i], parent, -1})
		}
	}
	push(root)
	for len(stack) > 0 {
		s := stack[len(stack)-1]
		stack = stack[:len(stack)-1]
		if s.leave >= 0 {
			f.Standards[s.leave].Last = len(f.Standards)
			continue
		}
		it := doc.CFItems[at[s.identifier]]
		placed[s.identifier] = true
		f.Standards = append(f.Standards, Standard{
			Identifier: it.Identifier, Code: it.HumanCodingScheme, Text: it.FullStatement, Level: it.CFItemType,
			Grades: it.EducationLevel, Parent: s.parent, Place: len(f.Standards) + 1,
		})
		stack = append(stack, step{leave: len(f.Standards) - 1})
		push(s.identifier)
	}
	return placed
}
