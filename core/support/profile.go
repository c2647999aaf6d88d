package support

import (
	"cmp"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"pineledger/core/settings"
)

// Have is a support that a student has on some ground for a while.
type Have struct {
	Key      string
	Value    json.RawMessage
	Ground   string   // of the district's own list; "" where it is not told
	Subjects []string // none: in every subject
	From     string   // the first day, 2026-11-30; "": ever since
	To       string   // the last day; "": until it is ended
}

// Name is that of its support.
func (h Have) Name() string { return byKey[h.Key].Name }

// Temporary tells whether it ends by itself.
func (h Have) Temporary() bool { return h.To != "" }

// On tells whether it holds on a day.
func (h Have) On(day string) bool { return h.From <= day && (h.To == "" || day <= h.To) }

// In tells whether it holds in a subject; "" is an assessment of no subject, for which all hold.
func (h Have) In(subject string) bool {
	return subject == "" || len(h.Subjects) == 0 || slices.Contains(h.Subjects, subject)
}

// meets tells whether two hold on a common day in a common subject.
func (h Have) meets(o Have) bool {
	apart := h.To != "" && o.From > h.To || o.To != "" && h.From > o.To
	subjects := len(h.Subjects) == 0 || len(o.Subjects) == 0 || slices.ContainsFunc(h.Subjects, func(s string) bool { return slices.Contains(o.Subjects, s) })
	return !apart && subjects
}

// InForce are those that hold on a day in a subject, in the catalog's order.
func InForce(profile []Have, subject, day string) []Have {
	var out []Have
	for _, h := range profile {
		if h.On(day) && h.In(subject) {
			out = append(out, h)
		}
	}
	slices.SortStableFunc(out, func(a, b Have) int { return cmp.Compare(place(a.Key), place(b.Key)) })
	return out
}

// Check gives an entry of a profile in its one form; the error is a sentence that says what would do. subjects are those of
// the district, none for not known.
func (h Have) Check(subjects []string) (Have, error) {
	s, known := ByKey(h.Key)
	if !known {
		return h, settings.Refusal(fmt.Sprintf("There is no support %q.", h.Key))
	}
	value, err := s.Check(h.Value)
	if err != nil {
		return h, settings.Refusal(fmt.Sprintf("%s: %s", s.Name, err))
	}
	h.Value, h.Ground = value, strings.TrimSpace(h.Ground)
	for _, day := range []string{h.From, h.To} {
		if _, err := time.Parse(time.DateOnly, day); day != "" && err != nil {
			return h, settings.Refusal(fmt.Sprintf("%s: %q is not a day such as 2026-11-30.", s.Name, day))
		}
	}
	if h.To != "" && h.From > h.To {
		return h, settings.Refusal(fmt.Sprintf("%s ends on %s, before it begins on %s.", s.Name, h.To, h.From))
	}
	for _, one := range h.Subjects {
		if len(subjects) > 0 && !slices.Contains(subjects, one) {
			return h, settings.Refusal(fmt.Sprintf("%s: there is no subject %q. The subjects are %s.", s.Name, one, strings.Join(subjects, ", ")))
		}
	}
	return h, nil
}

// CheckAll refuses a profile in which a support stands twice for the same days and subject; others may stand several times, as
// features that are not known do.
func CheckAll(profile []Have) error {
	for i, h := range profile {
		for _, o := range profile[:i] {
			if h.Key == o.Key && h.Key != OtherSupport && h.meets(o) {
				s := byKey[h.Key]
				return settings.Refusal(fmt.Sprintf("%s stands there twice for the same days: %s and %s. End one of them.", s.Name, said(s, o.Value), said(s, h.Value)))
			}
		}
	}
	return nil
}

func said(s Support, value json.RawMessage) string {
	if words := s.Words(value); words != "" {
		return words
	}
	return strings.ToLower(s.Name)
}

// Give makes what holds of a profile the supports of a sitting, each once. Of one that stands twice, as two files can bring it, the
// later counts, of extra time the longer, of reading aloud both.
func Give(haves []Have, source Source) []Given {
	var out []Given
	for _, h := range haves {
		out = Add(out, Given{Key: h.Key, Value: h.Value, Source: source})
	}
	return out
}

// Add puts one more support to those given; none that is there becomes less.
func Add(given []Given, g Given) []Given {
	at := slices.IndexFunc(given, func(o Given) bool { return o.Key == g.Key && g.Key != OtherSupport })
	if at < 0 {
		return append(given, g)
	}
	out := slices.Clone(given)
	if old := given[at]; !more(g.Key, old.Value, g.Value) {
		g = old
	}
	g.Apart = g.Apart || given[at].Apart
	out[at] = g
	return out
}

// more tells whether one value gives at least as much as another.
func more(key string, before, after json.RawMessage) bool {
	switch key {
	case ExtraTime:
		return text(after) == Unlimited || text(before) != Unlimited && Hundredths(text(after)) >= Hundredths(text(before))
	case ExtraMinutes, Breaks, SeveralDays:
		var a, b int
		return json.Unmarshal(before, &a) == nil && json.Unmarshal(after, &b) == nil && b >= a
	case ReadAloud, AdultReads:
		var a, b []string
		return json.Unmarshal(before, &a) == nil && json.Unmarshal(after, &b) == nil && len(b) >= len(a)
	case LargePrint, Calculator:
		return rank(key, after) >= rank(key, before)
	}
	return true
}

func rank(key string, value json.RawMessage) int {
	list := prints
	if key == Calculator {
		list = calculators
	}
	return slices.IndexFunc(list, func(o settings.Option) bool { return o.Value == text(value) })
}

// Keep are the supports of an attempt that goes on while a profile changes: what is new is added, and what it began with stays.
func Keep(had, now []Given) []Given {
	out := slices.Clone(had)
	for _, g := range now {
		out = Add(out, g)
	}
	return out
}

// Same tells whether two lists give the same, in whatever order.
func Same(a, b []Given) bool {
	if len(a) != len(b) {
		return false
	}
	for _, g := range a {
		if !slices.ContainsFunc(b, func(o Given) bool { return o.Key == g.Key && string(o.Value) == string(g.Value) && o.Apart == g.Apart }) {
			return false
		}
	}
	return true
}

// NoteSchema is the version of Note that this package writes.
const NoteSchema = 1

// Note is an entry of a profile as the ledger keeps it.
type Note struct {
	Schema   int             `json:"schema"`
	Key      string          `json:"key"`
	Value    json.RawMessage `json:"value"`
	Ground   string          `json:"ground,omitempty"`
	Subjects []string        `json:"subjects,omitempty"`
	From     string          `json:"from,omitempty"`
	To       string          `json:"to,omitempty"`
	File     string          `json:"file,omitempty"` // that brought it
}

// NoteOf is an entry with the file that brought it, "" for none.
func NoteOf(h Have, file string) Note {
	return Note{NoteSchema, h.Key, h.Value, h.Ground, h.Subjects, h.From, h.To, file}
}
