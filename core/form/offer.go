package form

import (
	"slices"
	"strings"

	"pineledger/core/support"
)

// Offer is what the form can give, as far as accommodations ask for it.
func (f Form) Offer() support.Offer {
	out := support.Offer{Subject: f.Subject, Language: f.Language, Instructions: strings.TrimSpace(f.Instructions) != "", Book: f.Document != nil}
	calculators := slices.ContainsFunc(f.Parts, func(p Part) bool { return p.Calculator })
	for _, l := range f.Lines {
		one := support.Line{Standards: l.Standards, Languages: []string{l.Language}, Passage: l.Passage, NoWords: l.Item.Wordless(), Glossary: len(l.Item.Glossary()) > 0}
		for _, v := range l.Item.Variants {
			one.Languages = append(one.Languages, v.Language)
		}
		one.NoCalculator = calculators && (l.Part == 0 || !f.Parts[l.Part-1].Calculator)
		out.Lines = append(out.Lines, one)
	}
	for _, p := range f.Passages {
		out.Passages = append(out.Passages, support.Passage{Title: p.Title, Language: p.Language})
	}
	return out
}
