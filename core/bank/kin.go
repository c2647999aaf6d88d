package bank

import (
	"strings"
	"unicode"
)

// kinWords is how many words a text needs besides its numbers to have near copies: "What
// is 12 × 7?" has none, since nothing but its numbers could tell it from others.
const kinWords = 5

// Kin names what near copies of a text have in common: everything but their numbers and
// the names within their sentences. Two tasks that tell one story with other numbers are
// kin, though each is a task of its own (twins ask the same). "" where a text has no
// numbers or hardly anything else: it has no near copies in this sense.
func Kin(text string) string {
	var out []string
	numbers := 0
	begins := true // a sentence
	for _, word := range strings.Fields(text) {
		ends := strings.HasSuffix(word, ".") || strings.HasSuffix(word, "?") || strings.HasSuffix(word, "!")
		bare := strings.TrimFunc(word, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
		first, rest := []rune(bare), ""
		if len(first) > 1 {
			rest = string(first[1:])
		}
		switch {
		case strings.ContainsFunc(bare, unicode.IsDigit):
			numbers++
			word = "#"
		case bare == "":
			word = ""
		case !begins && unicode.IsUpper(first[0]) && strings.ToUpper(rest) != rest:
			word = "Name"
		default:
			word = strings.ToLower(bare)
		}
		begins = ends
		if word != "" {
			out = append(out, word)
		}
	}
	if numbers == 0 || len(out)-numbers < kinWords {
		return ""
	}
	return strings.Join(out, " ")
}
