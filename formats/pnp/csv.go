package pnp

import (
	"encoding/json"
	"io"
	"strconv"
	"strings"

	"pineledger/core/settings"
	"pineledger/core/support"
	"pineledger/formats/table"
)

// Head names the columns of profiles as CSV.
var Head = []string{"student", "support", "value", "ground", "subjects", "from", "to"}

// needed are the columns that a file must have.
var needed = []string{"student", "support"}

// Row is an entry with the student that a row names.
type Row struct {
	Student string
	Entry
}

// ReadCSV reads profiles from a table, a support a row. take gets each row, or what is wrong with it.
func ReadCSV(name string, r io.Reader, take func(Row, *table.RowError) error) error {
	t, err := table.NewReader(name, r, needed...)
	if err != nil {
		return err
	}
	return t.Each(func(row table.Row, bad *table.RowError) error {
		if bad != nil {
			return take(Row{}, bad)
		}
		out, bad := rowOf(row)
		return take(out, bad)
	})
}

func rowOf(row table.Row) (Row, *table.RowError) {
	out := Row{Student: row.Get("student")}
	out.Line, out.Feature, out.Ground, out.From, out.To = row.Line, row.Get("support"), row.Get("ground"), row.Get("from"), row.Get("to")
	if out.Student == "" {
		return out, row.Refuse("student", "it is missing; give the student's roster id or number")
	}
	for _, s := range strings.Split(row.Get("subjects"), ",") {
		if s = strings.TrimSpace(s); s != "" {
			out.Subjects = append(out.Subjects, s)
		}
	}
	s, known := named(out.Feature)
	if !known {
		if out.Feature == "" {
			return out, row.Refuse("support", "it is missing")
		}
		out.Key, out.Value = support.OtherSupport, settings.Raw(support.Other{Name: out.Feature, Said: row.Get("value")})
		out.Note = strconv.Quote(out.Feature) + " is not known here; it is kept by its name, for a person to see to"
		return out, nil
	}
	value, ok := valueIn(s, row.Get("value"))
	if !ok {
		return out, row.Refuse("value", "%q does not say how much of %s", row.Get("value"), s.Name)
	}
	out.Key, out.Value = s.Key, value
	return out, nil
}

// named finds a support by its key, its name here, or its name in the standard.
func named(word string) (support.Support, bool) {
	fold := strings.ToLower(strings.TrimSpace(word))
	for _, s := range support.Catalog {
		if s.Key == support.OtherSupport {
			continue
		}
		if fold != "" && (fold == strings.ToLower(s.Key) || fold == strings.ToLower(s.Name) || fold == s.Feature) {
			return s, true
		}
	}
	return support.Support{}, false
}

// valueIn reads a cell as its support takes it.
func valueIn(s support.Support, cell string) (json.RawMessage, bool) {
	cell = strings.TrimSpace(cell)
	switch s.Kind.(type) {
	case support.Plain:
		switch strings.ToLower(cell) {
		case "", "yes", "true", "x", "1":
			return settings.Raw(true), true
		}
		return nil, false
	case settings.Number:
		n, err := strconv.Atoi(cell)
		return settings.Raw(n), err == nil
	case settings.Picks:
		if cell == "" || strings.EqualFold(cell, "all") {
			return settings.Raw(support.ReadAll()), true
		}
		return settings.Raw(strings.FieldsFunc(strings.ToLower(cell), func(r rune) bool { return r == ' ' || r == ',' || r == ';' })), true
	}
	return settings.Raw(cell), true
}

// Cells are an entry as its row in a table.
func Cells(student string, h support.Have) []string {
	key, value := h.Key, cellOf(h)
	var other support.Other
	if h.Key == support.OtherSupport && json.Unmarshal(h.Value, &other) == nil {
		key, value = other.Name, other.Said // it comes back as it came
	}
	return []string{student, key, value, h.Ground, strings.Join(h.Subjects, ", "), h.From, h.To}
}

func cellOf(h support.Have) string {
	var words string
	var list []string
	switch {
	case string(h.Value) == "true":
		return "yes"
	case json.Unmarshal(h.Value, &words) == nil:
		return words
	case json.Unmarshal(h.Value, &list) == nil:
		return strings.Join(list, " ")
	}
	return string(h.Value)
}
