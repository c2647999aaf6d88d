package bank

import (
	"fmt"
	"slices"
	"strings"

	"pineledger/core/item"
	"pineledger/core/points"
)

// DraftMeta is what is said of an item while it is written. It is kept with the draft: its names stay.
type DraftMeta struct {
	Identifier string   `json:"identifier"` // "" to be given one
	Bank       string   `json:"bank"`       // its name, "" while not chosen
	Subject    string   `json:"subject"`
	Grade      string   `json:"grade"`
	Standards  []string `json:"standards"`  // codes
	Depth      int      `json:"depth"`      // 1 to 4, 0 for not set
	Difficulty string   `json:"difficulty"` // p-value, "" for not known
	Language   string   `json:"language"`
	Tags       []string `json:"tags"`    // that exist for all
	Passage    int64    `json:"passage"` // 0 without one
	Course     string   `json:"course,omitempty"`
	// Base is the version that the draft began from, with everyone's tags that the
	// item had then; 0 for a new item.
	Base     int      `json:"base"`
	BaseTags []string `json:"baseTags,omitempty"`
}

// mostNamed bounds identifiers and names of courses, in bytes.
const mostNamed = 100

// Check lists what keeps a draft from being kept as an item. known tells of the standards that are
// there, by code; writable are the banks that the author writes in, by name.
func (m DraftMeta) Check(known func(code string) bool, writable []string) []item.Problem {
	var out []item.Problem
	add := func(bad bool, place, format string, args ...any) {
		if bad {
			out = append(out, item.Problem{Place: place, Reason: fmt.Sprintf(format, args...)})
		}
	}
	add(strings.ContainsAny(m.Identifier, " \t") || len(m.Identifier) > mostNamed, "identifier", "an identifier has no spaces and at most %d characters", mostNamed)
	add(!slices.Contains(writable, m.Bank), "bank", "choose one of the banks that you write in, such as %s", strings.Join(writable, ", "))
	add(len(m.Course) > mostNamed, "course", "a course's name has at most %d characters", mostNamed)
	add(strings.TrimSpace(m.Subject) == "", "subject", "no subject is chosen")
	for _, code := range m.Standards {
		add(!known(code), "standards", "%q is not a standard that is known", code)
	}
	add(m.Depth < 0 || m.Depth > 4, "depth", "the depth of knowledge is 1 to 4")
	_, ok := ReadDifficulty(m.Difficulty)
	add(!ok, "difficulty", "%q is not a share of right answers from 0 to 1, with three places at most", m.Difficulty)
	return out
}

// ReadDifficulty reads a p-value in thousandths; "" is none.
func ReadDifficulty(text string) (*int64, bool) {
	if text == "" {
		return nil, true
	}
	// A p-value has three places, one more than points have.
	tenfold, err := points.Parse(text + "e1")
	if err != nil || tenfold < 0 || tenfold > 10*points.One {
		return nil, false
	}
	return new(int64(tenfold)), true
}

// WrongKey is the fault of a report that says that an item's key is wrong.
const WrongKey = "wrong key"
