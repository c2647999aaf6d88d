package bank_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"pineledger/core/bank"
)

func TestFigures(t *testing.T) {
	cases := []struct {
		name, text                  string
		words, sentences, syllables int
	}{
		{"nothing", "", 0, 0, 0},
		{"no words", "— … !", 0, 0, 0},
		{"one sentence", "The boat came in.", 4, 1, 4},
		{"two, one in quotes", "“Cast off!” She pulled the rope.", 6, 2, 6},
		{"a question goes on", "“Where to?” asked the pilot.", 5, 1, 6},
		{"a paragraph ends one", "The tide\nIt turned", 4, 2, 4},
		{"titles and initials", "Mr. Adair met Capt. R. Lund.", 6, 1, 7},
		{"a time of day", "It left at 9.40 a.m. on Monday.", 7, 1, 10},
		{"hyphens are one word, dashes two", "A salt-marsh survey—done.", 4, 1, 6},
		{"vowels that part", "lion area idea science dual", 5, 1, 9},
		{"a silent e goes, one that is heard stays", "lake table be blue horse", 5, 1, 6},
		{"es and ed", "lakes horses boxes waited hoped tried", 6, 1, 9},
		{"a word has one at least", "the psst mm", 3, 1, 3},
		{"a number has one a digit", "R2D2 has 40", 3, 1, 5},
		{"an initial ends nothing, I does", "So did I. And R. Lund", 6, 2, 6},
		{"silent endings", "tables washed wanted boxes lighthouse", 5, 1, 9},
	}
	for _, c := range cases {
		f := bank.Read(strings.Split(c.text, "\n"))
		assert.Equal(t, bank.Figures{Words: c.words, Sentences: c.sentences, Syllables: c.syllables}, f, c.name)
	}
}

// By hand: 100 words, 8 sentences, 140 syllables are 0.39·12.5 + 11.8·1.4 − 15.59
// = 5.805, and 206.835 − 1.015·12.5 − 84.6·1.4 = 75.7075.
func TestFleschKincaid(t *testing.T) {
	f := bank.Figures{Words: 100, Sentences: 8, Syllables: 140}
	grade, ok := f.Grade()
	assert.True(t, ok)
	assert.Equal(t, 58, grade)
	ease, ok := f.Ease()
	assert.True(t, ok)
	assert.Equal(t, 757, ease)
	for _, none := range []bank.Figures{{}, {Words: 3}, {Sentences: 3}} {
		_, ok = none.Grade()
		assert.False(t, ok)
		_, ok = none.Ease()
		assert.False(t, ok)
	}
	one, ok := bank.Figures{Words: 1, Sentences: 1, Syllables: 1}.Ease()
	assert.True(t, ok)
	assert.Equal(t, 1212, one, "206.835 − 1.015 − 84.6 = 121.22")
	low, _ := bank.Figures{Words: 4, Sentences: 4, Syllables: 4}.Grade()
	assert.Equal(t, -34, low, "0.39 + 11.8 − 15.59 = −3.40")
}

func TestReadingLaws(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		words := rapid.SliceOfN(rapid.StringMatching(`[A-Za-z]{1,9}[.!?,]?`), 1, 40).Draw(t, "words")
		text := strings.Join(words, " ")
		f := bank.Read([]string{text})
		assert.Equal(t, len(words), f.Words)
		assert.GreaterOrEqual(t, f.Syllables, f.Words, "a word has a syllable")
		assert.LessOrEqual(t, f.Sentences, f.Words)
		assert.Positive(t, f.Sentences)
		twice := bank.Read([]string{text, text})
		assert.Equal(t, bank.Figures{Words: 2 * f.Words, Sentences: 2 * f.Sentences, Syllables: 2 * f.Syllables}, twice, "paragraphs add up")
	})
}
