// Package demo makes the made-up district: standards, people, a bank of original
// items, and assessments in every state. It is seeded and goes through the same
// files and use cases as the screens, not around them.
package demo

import (
	"bufio"
	"embed"
	"fmt"
	"strings"
)

//go:embed content/*.txt
var content embed.FS

// draftItem is an item before it is written to a file. right is the true answer;
// a wrong key is made on purpose in one place only.
type draftItem struct {
	identifier string
	kind       string
	subject    string
	grade      string
	standard   string
	depth      int
	p          float64 // share of right answers expected
	stem       string
	right      []string // texts of right choices, or accepted numbers
	wrong      []string
	tolerance  string
	unit       string
	credit     string
	tags       []string
	bank       string // "" for the district's
	passage    string
	title      string // of the passage
	text       string // of the passage, on its first item
	wrongKey   bool   // the key written names a distractor
	// Items that are joined, ordered or typed as words: choices as they are
	// offered, what they are joined to, and the key as it is written.
	offered, targets []string
	key, joins, line string
	slips            bool
	running          string // the text to select in, what can be selected in brackets
}

func lines(name string) []string {
	file, err := content.Open("content/" + name)
	if err != nil {
		panic(err) // embedded
	}
	defer file.Close()
	var out []string
	scan := bufio.NewScanner(file)
	for scan.Scan() {
		out = append(out, scan.Text())
	}
	return out
}

// standardLine is a code and its text.
type standardLine struct{ code, text string }

func standardLines() []standardLine {
	var out []standardLine
	for _, l := range lines("standards.txt") {
		code, text, _ := strings.Cut(l, " ")
		out = append(out, standardLine{code, text})
	}
	return out
}

// parentOf gives the code above: M6.RR.3a → M6.RR.3 → M6.RR → M6.
func parentOf(code string) string {
	if last := code[len(code)-1]; last >= 'a' && last <= 'z' {
		return code[:len(code)-1]
	}
	if at := strings.LastIndexByte(code, '.'); at >= 0 {
		return code[:at]
	}
	return ""
}

func names(kind string) []string {
	for _, l := range lines("names.txt") {
		if rest, ok := strings.CutPrefix(l, kind+" "); ok {
			return strings.Fields(rest)
		}
	}
	panic("no names of kind " + kind)
}

// writtenItems reads the written items of a file. A passage begins with "@", an
// item with "?", its right answer with "*", distractors with "-".
func writtenItems(file, subject string) []draftItem {
	var out []draftItem
	var passage, title string
	var text []string
	first := false
	for _, l := range lines(file) {
		switch {
		case strings.HasPrefix(l, "@ "):
			parts := strings.SplitN(l[2:], " | ", 3)
			passage, title, text, first = parts[0], parts[2], nil, true
		case strings.HasPrefix(l, "? "):
			var it draftItem
			parts := strings.Split(l[2:], " | ")
			it.standard, it.subject, it.kind = parts[0], subject, "single-choice"
			it.grade = gradeOf(parts[0])
			mustScan(parts[1], &it.depth)
			mustScan(parts[2], &it.p)
			if passage != "" {
				it.passage, it.title, it.tags = passage, title, []string{"passage"}
				if first {
					it.text, first = strings.TrimSpace(strings.Join(text, "\n")), false
				}
			}
			out = append(out, it)
		case strings.HasPrefix(l, "* "):
			out[len(out)-1].right = []string{l[2:]}
		case strings.HasPrefix(l, "- "):
			out[len(out)-1].wrong = append(out[len(out)-1].wrong, l[2:])
		case first:
			text = append(text, l)
		default:
			out[len(out)-1].stem = l
		}
	}
	for i := range out {
		out[i].identifier = fmt.Sprintf("%s-%03d", strings.ReplaceAll(out[i].standard, ".", "-"), i+1)
	}
	return out
}

func mustScan(text string, into any) {
	if _, err := fmt.Sscan(text, into); err != nil {
		panic(fmt.Sprintf("content: %q: %v", text, err))
	}
}
