package bank

import (
	"slices"
	"strings"
)

// Meta is what is said of an item beside its text.
type Meta struct {
	Bank       string   `json:"bank"`
	Subject    string   `json:"subject"`
	Grade      string   `json:"grade"`
	Course     string   `json:"course"`
	Language   string   `json:"language"`
	Depth      int      `json:"depth"`      // 0 for not set
	Difficulty string   `json:"difficulty"` // p-value, "" for not known
	Standards  []string `json:"standards"`
}

// MetaChange is one change to many items. What is nil stays as it is.
type MetaChange struct {
	Bank       *string  `json:"bank,omitempty"`
	Subject    *string  `json:"subject,omitempty"`
	Grade      *string  `json:"grade,omitempty"`
	Course     *string  `json:"course,omitempty"`
	Language   *string  `json:"language,omitempty"`
	Depth      *int     `json:"depth,omitempty"`
	Difficulty *string  `json:"difficulty,omitempty"`
	Align      []string `json:"align,omitempty"`   // standards put on
	Unalign    []string `json:"unalign,omitempty"` // standards taken off
}

// Apply gives an item's metadata after the change, and what differs.
func (c MetaChange) Apply(m Meta) (Meta, []Difference) {
	out := m
	var d changes
	text := func(what string, to *string, field *string) {
		if to != nil {
			d.plain(what, *field, *to)
			*field = *to
		}
	}
	text("bank", c.Bank, &out.Bank)
	text("subject", c.Subject, &out.Subject)
	text("grade", c.Grade, &out.Grade)
	text("course", c.Course, &out.Course)
	text("language", c.Language, &out.Language)
	if c.Depth != nil {
		d.plain("depth of knowledge", number(m.Depth), number(*c.Depth))
		out.Depth = *c.Depth
	}
	text("difficulty", c.Difficulty, &out.Difficulty)
	out.Standards = slices.DeleteFunc(slices.Clone(m.Standards), func(s string) bool { return slices.Contains(c.Unalign, s) })
	for _, s := range c.Align {
		if !slices.Contains(out.Standards, s) {
			out.Standards = append(out.Standards, s)
		}
	}
	d.plain("standards", strings.Join(m.Standards, ", "), strings.Join(out.Standards, ", "))
	return out, d
}

// IsEmpty tells whether a change changes nothing, whatever the item.
func (c MetaChange) IsEmpty() bool {
	return c.Bank == nil && c.Subject == nil && c.Grade == nil && c.Course == nil && c.Language == nil && c.Depth == nil && c.Difficulty == nil &&
		len(c.Align) == 0 && len(c.Unalign) == 0
}
