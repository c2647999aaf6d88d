package bank

import (
	"hash/fnv"
	"math/bits"
	"slices"
	"strings"
	"unicode"
)

// Twins are items with the same or nearly the same text. Each text is taken as the
// set of its shingles, and two texts are as like as the share of shingles that both
// have (Broder 1997). A sketch of few numbers finds candidates among very many.

// shingleLetters is how many letters a shingle has.
const shingleLetters = 5

// NearlySame is from which likeness on, in thousandths, texts count as twins.
const NearlySame = 800

// Shingles gives the set of a text's shingles, as sorted hashes. Case, spaces and
// punctuation do not matter. A number counts as a whole and more than a word's
// letters do: items that differ by their numbers alone ask different things.
func Shingles(text string) []uint64 {
	var letters []rune
	var out []uint64
	hash := func(s string) {
		h := fnv.New64a()
		h.Write([]byte(s)) // never fails
		out = append(out, h.Sum64())
	}
	words := strings.FieldsFunc(strings.ToLower(text), func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '.' && r != ',' && r != '−'
	})
	for i, word := range words {
		word = strings.Trim(word, ".,")
		letters = append(append(letters, []rune(word)...), ' ')
		if strings.ContainsFunc(word, unicode.IsDigit) {
			for copied := range shingleLetters { // as much as five letters
				hash(strings.Join([]string{"#", string(rune('0' + copied)), previous(words, i), word}, " "))
			}
		}
	}
	for i := 0; i+shingleLetters <= len(letters); i++ {
		hash(string(letters[i : i+shingleLetters]))
	}
	if len(out) == 0 && len(letters) > 0 {
		hash(string(letters))
	}
	slices.Sort(out)
	return slices.Compact(out)
}

func previous(words []string, i int) string {
	if i == 0 {
		return ""
	}
	return words[i-1]
}

// Likeness is how many of all the shingles both sets have, in thousandths: 1000 for
// the same text.
func Likeness(a, b []uint64) int {
	if len(a) == 0 || len(b) == 0 {
		return 0
	}
	both, i, j := 0, 0, 0
	for i < len(a) && j < len(b) {
		switch {
		case a[i] == b[j]:
			both, i, j = both+1, i+1, j+1
		case a[i] < b[j]:
			i++
		default:
			j++
		}
	}
	return 1000 * both / (len(a) + len(b) - both)
}

// A sketch has sketchBands keys of sketchRows least hashes each. Texts of a likeness
// s share a key with the chance 1 − (1 − s⁴)¹⁰: 0.99 at NearlySame, 0.06 at 0.3.
const (
	sketchBands = 10
	sketchRows  = 4
)

// Sketch gives the keys under which a text's twins are found: twins share one at least,
// almost surely. A text without shingles has none.
func Sketch(shingles []uint64) []int64 {
	if len(shingles) == 0 {
		return nil
	}
	keys := make([]int64, sketchBands)
	for band := range sketchBands {
		key := uint64(band + 1)
		for row := range sketchRows {
			least := ^uint64(0)
			seed := mix(uint64(band*sketchRows+row) + 0x9e3779b97f4a7c15)
			for _, s := range shingles {
				least = min(least, mix(s^seed))
			}
			key = mix(key ^ bits.RotateLeft64(least, row*13))
		}
		keys[band] = int64(key)
	}
	return keys
}

// mix is the finalizer of MurmurHash3: it spreads every bit over all.
func mix(h uint64) uint64 {
	h ^= h >> 33
	h *= 0xff51afd7ed558ccd
	h ^= h >> 33
	h *= 0xc4ceb9fe1a85ec53
	return h ^ h>>33
}
