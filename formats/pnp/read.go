// Package pnp reads and writes Access for All profiles as QTI 3 has them (personal needs and preferences): one student a
// file, or records of several. What has no name there stands in elements of a namespace of our own, so that a profile comes
// back as it was written.
package pnp

import (
	"encoding/json"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"pineledger/core/settings"
	"pineledger/core/support"
)

// Names of the format.
const (
	Namespace = "http://www.imsglobal.org/xsd/qti/qtiv3p0/imsafa3p0pnp_v1p0"
	OwnSpace  = "urn:pine-ledger:profile"

	root     = "access-for-all-pnp"
	record   = "access-for-all-pnp-record"
	records  = "access-for-all-pnp-records"
	personID = "person-sourced-id"
)

// Bounds of a file.
const (
	MostBytes  = 4 << 20
	mostDepth  = 20
	mostInFile = 200_000 // elements
)

// Profile is what a file says of one student.
type Profile struct {
	Student string // roster id; "" where the file does not say it
	Line    int
	Entries []Entry
}

// Entry is a feature as it is understood.
type Entry struct {
	support.Have
	Feature string // its name in the file
	Line    int
	Note    string // what was taken for granted, or that it is not known; "" for nothing
}

// element is a piece of the file.
type element struct {
	name     xml.Name
	attrs    []xml.Attr
	text     string
	line     int
	children []*element
}

// ErrNoProfile is given for a file that is none.
var ErrNoProfile = errors.New("it is no Access for All profile: it begins with another element than access-for-all-pnp")

// Read reads a file of profiles. Entities of its own, and more than a profile can hold, are refused.
func Read(r io.Reader) ([]Profile, error) {
	top, err := parse(r)
	if err != nil {
		return nil, err
	}
	switch top.name.Local {
	case root:
		return []Profile{profileOf(top, "")}, nil
	case record:
		return recordsOf([]*element{top}), nil
	case records:
		return recordsOf(top.children), nil
	}
	return nil, ErrNoProfile
}

func recordsOf(list []*element) []Profile {
	var out []Profile
	for _, r := range list {
		if r.name.Local != record {
			continue
		}
		student := ""
		for _, c := range r.children {
			switch c.name.Local {
			case personID:
				student = c.said()
			case root:
				p := profileOf(c, student)
				p.Line = r.line
				out = append(out, p)
			}
		}
	}
	return out
}

func parse(r io.Reader) (*element, error) {
	d := xml.NewDecoder(io.LimitReader(r, MostBytes+1))
	d.Entity = map[string]string{}
	var stack []*element
	var top *element
	n := 0
	for {
		token, err := d.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, fmt.Errorf("it cannot be read as XML: %w", err)
		}
		if d.InputOffset() > MostBytes {
			return nil, fmt.Errorf("it is larger than %d MB", MostBytes>>20)
		}
		line, _ := d.InputPos()
		switch t := token.(type) {
		case xml.Directive:
			return nil, fmt.Errorf("line %d: it declares a document type or entities of its own, which a profile does not need", line)
		case xml.StartElement:
			if n++; n > mostInFile || len(stack) >= mostDepth {
				return nil, fmt.Errorf("line %d: it holds more than a profile can", line)
			}
			e := &element{name: t.Name, attrs: slices.Clone(t.Attr), line: line}
			if len(stack) > 0 {
				above := stack[len(stack)-1]
				above.children = append(above.children, e)
			} else if top != nil {
				return nil, fmt.Errorf("line %d: it has two roots", line)
			} else {
				top = e
			}
			stack = append(stack, e)
		case xml.EndElement:
			stack = stack[:len(stack)-1]
		case xml.CharData:
			if len(stack) > 0 {
				stack[len(stack)-1].text += string(t)
			}
		}
	}
	if top == nil {
		return nil, errors.New("it is empty")
	}
	return top, nil
}

func (e *element) said() string { return strings.TrimSpace(e.text) }

// attr gives an attribute by its local name, "" without it.
func (e *element) attr(name string) string {
	for _, a := range e.attrs {
		if a.Name.Local == name {
			return strings.TrimSpace(a.Value)
		}
	}
	return ""
}

// find gives what a child or an attribute of a name says.
func (e *element) find(name string) string {
	for _, c := range e.children {
		if c.name.Local == name {
			return c.said()
		}
	}
	return e.attr(name)
}

// sets gather features by when they are switched on; a prohibited feature is none that a student has.
var sets = []string{"activate-at-initialization-set", "activate-as-option-set"}

const prohibited = "prohibit-set"

func profileOf(e *element, student string) Profile {
	p := Profile{Student: student, Line: e.line}
	if p.Student == "" {
		p.Student = e.find(personID)
	}
	for _, c := range e.children {
		switch {
		case c.name.Local == personID || c.name.Local == prohibited:
		case slices.Contains(sets, c.name.Local):
			for _, inner := range c.children {
				p.Entries = append(p.Entries, entriesOf(inner)...)
			}
		default:
			p.Entries = append(p.Entries, entriesOf(c)...)
		}
	}
	return p
}

// entriesOf reads a feature. One that is not known, or says what is not understood, is kept by its name.
func entriesOf(e *element) []Entry {
	name := e.name.Local
	if e.attr("value") == "false" || e.said() == "false" {
		return nil
	}
	var out []Entry
	var found []read
	if understand, known := features[name]; known {
		found = understand(e)
	}
	for _, one := range found {
		value, note := one.value, one.note
		have := support.Have{Key: one.key, Value: value, Ground: e.attr("ground"), From: e.attr("from"), To: e.attr("to")}
		if s := e.attr("subjects"); s != "" {
			have.Subjects = strings.Split(s, "|")
		}
		out = append(out, Entry{Have: have, Feature: name, Line: e.line, Note: note})
	}
	if out == nil {
		out = []Entry{unknown(e)}
	}
	return out
}

func unknown(e *element) Entry {
	said := e.said()
	for _, c := range e.children {
		said = strings.TrimSpace(fmt.Sprintf("%s %s=%s", said, c.name.Local, c.said()))
	}
	return Entry{Have: support.Have{Key: support.OtherSupport, Value: settings.Raw(support.Other{Name: e.name.Local, Said: said}), Ground: e.attr("ground"), From: e.attr("from"), To: e.attr("to")},
		Feature: e.name.Local, Line: e.line, Note: fmt.Sprintf("%q is not known here; it is kept by its name, for a person to see to", e.name.Local)}
}

type read struct {
	key   string
	value json.RawMessage
	note  string
}

func plain(key string) func(*element) []read {
	return func(*element) []read { return []read{{key: key, value: settings.Raw(true)}} }
}

// features read features by their names; nothing comes of what they cannot make out.
var features = map[string]func(*element) []read{
	"additional-testing-time": testingTime,
	"spoken":                  spoken,
	"item-translation":        inLanguage(support.InLanguage),
	"language-of-interface":   inLanguage(support.Directions),
	"magnification":           magnification,
	"text-appearance":         colors,
	"invert-display-polarity": func(*element) []read { return []read{{key: support.Colors, value: settings.Raw(support.LightOnDark)}} },
	"color-tint":              colors,
	"line-reader":             plain(support.LineReader),
	"answer-masking":          plain(support.AnswerMasking),
	"keyword-translation":     plain(support.Glossary),
	"dictionary-on-screen":    plain(support.Dictionary),
	"calculator-on-screen":    calculator,
	"scribe":                  plain(support.Scribe),
	"breaks":                  breaks,
	"support":                 own,
}

func testingTime(e *element) []read {
	var out []read
	if e.find("unlimited") == "true" || e.said() == support.Unlimited {
		return []read{{key: support.ExtraTime, value: settings.Raw(support.Unlimited)}}
	}
	if factor := e.find("time-multiplier"); factor != "" {
		out = append(out, read{key: support.ExtraTime, value: settings.Raw(factor)})
	}
	if minutes, err := strconv.Atoi(e.find("fixed-minutes")); err == nil {
		out = append(out, read{key: support.ExtraMinutes, value: settings.Raw(minutes)})
	}
	return out
}

// spoken reads everything aloud where the file does not say which parts.
func spoken(e *element) []read {
	one := read{key: support.ReadAloud, value: settings.Raw(support.ReadAll())}
	if parts := e.find("parts"); parts != "" {
		one.value = settings.Raw(strings.Fields(parts))
	} else if e.find("reading-type") == "text-only" {
		one.value = settings.Raw([]string{settings.ReadDirections, settings.ReadQuestions, settings.ReadPassages, settings.ReadChoices})
	}
	return []read{one}
}

func inLanguage(key string) func(*element) []read {
	return func(e *element) []read {
		for _, said := range []string{e.attr("lang"), e.find("language"), e.said()} {
			if said != "" {
				return []read{{key: key, value: settings.Raw(said)}}
			}
		}
		return nil
	}
}

func magnification(e *element) []read {
	said := e.find("all-content")
	if said == "" {
		said = e.said()
	}
	wanted, err := strconv.ParseFloat(said, 64)
	if err != nil || wanted <= 1 {
		return nil
	}
	for _, has := range []string{"1.5", "2", "3", "4"} {
		if f, err := strconv.ParseFloat(has, 64); err == nil && f >= wanted {
			one := read{key: support.LargePrint, value: settings.Raw(has)}
			if f != wanted {
				one.note = fmt.Sprintf("%s times as large becomes %s times, the next there is", said, has)
			}
			return []read{one}
		}
	}
	return []read{{key: support.LargePrint, value: settings.Raw("4"), note: fmt.Sprintf("%s times as large becomes 4 times, the most there is", said)}}
}

func colors(e *element) []read {
	said := strings.ToLower(e.find("colors") + " " + e.find("background-color") + " " + e.said())
	for _, known := range [][2]string{{support.LightOnDark, support.LightOnDark}, {"yellow", support.DarkOnYellow}, {"blue", support.DarkOnBlue}, {"black", support.LightOnDark}} {
		if strings.Contains(said, known[0]) {
			return []read{{key: support.Colors, value: settings.Raw(known[1])}}
		}
	}
	return nil
}

func calculator(e *element) []read {
	kind := e.find("calculator-type")
	switch kind {
	case "", "basic", "standard":
		return []read{{key: support.Calculator, value: settings.Raw("basic")}}
	case "percent", "scientific":
		return []read{{key: support.Calculator, value: settings.Raw(kind)}}
	}
	return nil
}

func breaks(e *element) []read {
	n, err := strconv.Atoi(e.said())
	if err != nil {
		return nil
	}
	return []read{{key: support.Breaks, value: settings.Raw(n)}}
}

// own reads a support that has no name in the standard.
func own(e *element) []read {
	if e.name.Space != OwnSpace || !json.Valid([]byte(e.said())) {
		return nil
	}
	if _, known := support.ByKey(e.attr("key")); !known {
		return nil
	}
	return []read{{key: e.attr("key"), value: json.RawMessage(e.said())}}
}
