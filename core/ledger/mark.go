package ledger

import (
	"fmt"
	"strconv"
	"strings"
	"unicode"
)

// leastMark is how many digits of a hash a mark has at least: 128 bits, which nobody meets by trying.
const leastMark = 32

// Mark names an entry with its hash as somebody wrote it down outside, on paper say. Its
// zero value names none.
type Mark struct {
	Number int64  // from 1
	Hash   string // its first digits, 32 to 64 of them
}

// ReadMark reads a number and a hash, or its beginning, however it is grouped by spaces and dashes.
func ReadMark(text string) (Mark, error) {
	first, rest, _ := strings.Cut(strings.TrimSpace(text), " ")
	number, err := strconv.ParseInt(first, 10, 64)
	if err != nil || number < 1 {
		return Mark{}, fmt.Errorf("%q does not begin with the number of an entry", text)
	}
	hash := strings.ToLower(strings.Map(func(r rune) rune {
		if r == '-' || unicode.IsSpace(r) {
			return -1
		}
		return r
	}, rest))
	if len(hash) < leastMark || len(hash) > len(Genesis) || strings.Trim(hash, "0123456789abcdef") != "" {
		return Mark{}, fmt.Errorf("%q does not go on with a hash: %d to %d digits from 0 to f", text, leastMark, len(Genesis))
	}
	return Mark{number, hash}, nil
}

// Meets tells whether an entry is the one that was written down.
func (m Mark) Meets(e Entry) bool { return m.Number == e.Number && strings.HasPrefix(e.Hash, m.Hash) }
