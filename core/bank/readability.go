package bank

import (
	"strings"
	"unicode"
)

// Figures are what a passage's readability is computed from.
type Figures struct {
	Words     int
	Sentences int
	Syllables int // by rule, not by a dictionary: see syllables
}

// Grade is the Flesch–Kincaid grade level in tenths, rounded half away from zero:
// 0.39 × words a sentence + 11.8 × syllables a word − 15.59 (Kincaid, Fishburne,
// Rogers & Chissom 1975). ok is false without a word. It is made for English.
func (f Figures) Grade() (tenths int, ok bool) {
	if f.Words == 0 || f.Sentences == 0 {
		return 0, false
	}
	// In ten-thousandths over the common denominator, so that it is exact.
	w, s := int64(f.Words), int64(f.Sentences)
	over := w * s
	value := 3900*w*w + 118_000*int64(f.Syllables)*s - 155_900*over
	return int(roundDiv(value, 1000*over)), true
}

// Ease is the Flesch reading ease in tenths: 206.835 − 1.015 × words a sentence −
// 84.6 × syllables a word (Flesch 1948).
func (f Figures) Ease() (tenths int, ok bool) {
	if f.Words == 0 || f.Sentences == 0 {
		return 0, false
	}
	w, s := int64(f.Words), int64(f.Sentences)
	over := w * s
	value := 2_068_350*over - 10_150*w*w - 846_000*int64(f.Syllables)*s
	return int(roundDiv(value, 1000*over)), true
}

// roundDiv divides, rounding half away from zero; b is above 0.
func roundDiv(a, b int64) int64 {
	if a < 0 {
		return -roundDiv(-a, b)
	}
	return (2*a + b) / (2 * b)
}

// Read counts the words, sentences and syllables of a text given paragraph by
// paragraph; a paragraph ends a sentence, whatever stands there. A word is a run
// of letters, digits, apostrophes and hyphens that holds a letter or digit.
func Read(paragraphs []string) Figures {
	var f Figures
	for _, p := range paragraphs {
		open := false // a sentence has begun
		tokens := strings.Fields(p)
		for i, token := range tokens {
			word := strings.TrimFunc(token, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
			if word != "" {
				for _, part := range strings.FieldsFunc(word, func(r rune) bool { return r == '—' || r == '–' || r == '/' || r == '…' }) {
					f.Words++
					f.Syllables += syllables(part)
				}
				open = true
			}
			if open && endsSentence(token, word) && (i+1 == len(tokens) || beginsSentence(tokens[i+1])) {
				f.Sentences++
				open = false
			}
		}
		if open {
			f.Sentences++
		}
	}
	return f
}

var abbreviations = map[string]bool{"mr": true, "mrs": true, "ms": true, "dr": true, "st": true, "mt": true, "capt": true, "no": false, "vs": true, "etc": false, "jr": false}

func endsSentence(token, word string) bool {
	end := strings.TrimRight(token, `"'”’)]`)
	if strings.HasSuffix(end, "!") || strings.HasSuffix(end, "?") {
		return true
	}
	if !strings.HasSuffix(end, ".") {
		return false
	}
	lower := strings.ToLower(word)
	initial := len([]rune(word)) == 1 && unicode.IsUpper([]rune(word)[0]) && lower != "i"
	return !abbreviations[lower] && !initial
}

// beginsSentence: after "9:40 a.m." or "?" a small letter goes on with the sentence.
func beginsSentence(token string) bool {
	for _, r := range token {
		if unicode.IsLetter(r) {
			return !unicode.IsLower(r)
		}
		if unicode.IsDigit(r) {
			return true
		}
	}
	return true
}

// syllables of an English word: one a group of vowels, less silent endings, one
// at least; a number counts one a digit.
func syllables(word string) int {
	lower := []rune(strings.ToLower(strings.NewReplacer("’", "'", "'s", "", "'", "").Replace(word)))
	n := 0
	for part := range strings.SplitSeq(string(lower), "-") {
		n += partSyllables([]rune(part))
	}
	return max(n, 1)
}

func partSyllables(w []rune) int {
	n, inVowels := 0, false
	for i, r := range w {
		if unicode.IsDigit(r) {
			n++
			inVowels = false
			continue
		}
		v := strings.ContainsRune("aeiouyáéíóúü", r)
		if v && !inVowels {
			n++
		} else if v && i > 0 && splitsVowels(w[i-1], r) && i+1 < len(w) {
			n++ // li-on, pi-a-no, du-al
		}
		inVowels = v
	}
	text := string(w)
	switch {
	case n < 2:
	case strings.HasSuffix(text, "le") && len(w) > 2 && !strings.ContainsRune("aeiouy", w[len(w)-3]):
		// ta-ble keeps its last syllable
	case strings.HasSuffix(text, "e") && !strings.ContainsRune("aeiouy", w[len(w)-2]):
		n--
	case strings.HasSuffix(text, "es") && !strings.HasSuffix(text, "les") && !endsIn(text, "ses", "xes", "zes", "ches", "shes", "ges", "ces", "ies"):
		n--
	case strings.HasSuffix(text, "ed") && !endsIn(text, "ted", "ded", "ied"):
		n--
	}
	if n == 0 && len(w) > 0 {
		n = 1
	}
	return n
}

func splitsVowels(a, b rune) bool {
	switch string([]rune{a, b}) {
	case "ia", "io", "eo", "ua", "uo", "yi":
		return true
	}
	return false
}

func endsIn(text string, endings ...string) bool {
	for _, e := range endings {
		if strings.HasSuffix(text, e) {
			return true
		}
	}
	return false
}
