package form

import (
	"strings"

	"pineledger/core/support"
)

// Offer is what the form can give, as far as accommodations ask for it.
func (f Form) Offer() support.Offer {
	out := support.Offer{Subject: f.Subject, Language: f.Language, Instructions: strings.TrimSpace(f.Instructions) != "", Book: f.Document != nil}
	for i, l := range f.Lines {
		one := support.Line{Standards: l.Standards, Languages: []string{l.Language}, Passage: l.Passage, NoWords: l.Item.Wordless(), Glossary: len(l.Item.Glossary()) > 0, Without: f.Withheld(i)}
		for _, v := range l.Item.Variants {
			one.Languages = append(one.Languages, v.Language)
		}
		out.Lines = append(out.Lines, one)
	}
	for _, p := range f.Passages {
		out.Passages = append(out.Passages, support.Passage{Title: p.Title, Language: p.Language})
	}
	return out
}
