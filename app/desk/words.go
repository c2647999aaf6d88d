package desk

import (
	"encoding/json"
	"fmt"
	"pineledger/core/item"
	"strings"
)

// Sentence begins with a capital and ends with a stop.
func Sentence(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:] + "."
}

func Plural(n int, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	return fmt.Sprintf("%d %ss", n, noun)
}

func Codes(s string) []string { return strings.Fields(s) }

// CleanBlocks keeps the safe subset of formatted text, as blocks.
func CleanBlocks(h string) string {
	if h = item.Clean(h); h == "" || strings.HasPrefix(h, "<") {
		return h
	}
	return "<p>" + h + "</p>"
}

// JsonList writes a list as a JSON array, as lists of short codes are stored.
func JsonList(list []string) string {
	if list == nil {
		list = []string{}
	}
	data, err := json.Marshal(list)
	if err != nil {
		panic(err) // strings always marshal
	}
	return string(data)
}
