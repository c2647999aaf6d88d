package settings

import (
	"bytes"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"pineledger/core/window"
)

// Kind is what values a setting takes.
type Kind interface {
	// Check gives a value in its one form; the error is a sentence that says what would do.
	Check(value json.RawMessage) (json.RawMessage, error)
	// Words says a checked value as a coordinator would.
	Words(value json.RawMessage) string
}

// Refusal is why a value cannot be: a sentence for the screen.
type Refusal string

func (r Refusal) Error() string { return string(r) }

func refuse(format string, a ...any) error { return Refusal(fmt.Sprintf(format, a...)) }

// ErrNoValue refuses a value that is of another kind.
const ErrNoValue = Refusal("This is not a value of this setting.")

// read decodes a checked value; one that does not decode is zero.
func read[T any](value json.RawMessage) T {
	var v T
	if err := json.Unmarshal(value, &v); err != nil {
		var zero T
		return zero
	}
	return v
}

func strict[T any](value json.RawMessage) (T, error) {
	var v T
	d := json.NewDecoder(bytes.NewReader(value))
	d.DisallowUnknownFields()
	if err := d.Decode(&v); err != nil || string(bytes.TrimSpace(value)) == "null" {
		return v, ErrNoValue
	}
	return v, nil
}

// Raw is a value as it is kept.
func Raw(v any) json.RawMessage {
	out, err := json.Marshal(v)
	if err != nil {
		panic(err) // values of this package are plain
	}
	return out
}

// Flag is yes or no, each in its own words.
type Flag struct{ On, Off string }

// Check takes true and false.
func (Flag) Check(value json.RawMessage) (json.RawMessage, error) {
	v, err := strict[bool](value)
	return Raw(v), err
}

// Words are those of yes or of no.
func (k Flag) Words(value json.RawMessage) string {
	if read[bool](value) {
		return k.On
	}
	return k.Off
}

// Number is a whole number within bounds.
type Number struct {
	Least, Most int
	One, Many   string // "1 minute", and the words around more: "%d minutes"
	Zero        string // what 0 means; "" where it is a number like others
}

// Check takes whole numbers from Least to Most.
func (k Number) Check(value json.RawMessage) (json.RawMessage, error) {
	v, err := strict[int](value)
	if err == nil && (v < k.Least || v > k.Most) {
		err = refuse("Give a whole number from %d to %d.", k.Least, k.Most)
	}
	return Raw(v), err
}

// Words say the number with what it counts.
func (k Number) Words(value json.RawMessage) string {
	switch v := read[int](value); {
	case v == 0 && k.Zero != "":
		return k.Zero
	case v == 1:
		return k.One
	default:
		return fmt.Sprintf(k.Many, v)
	}
}

// Option is one of several values.
type Option struct{ Value, Words string }

func options(pairs ...string) []Option {
	var out []Option
	for i := 0; i < len(pairs); i += 2 {
		out = append(out, Option{pairs[i], pairs[i+1]})
	}
	return out
}

func wordsOf(all []Option, value string) string {
	at := slices.IndexFunc(all, func(o Option) bool { return o.Value == value })
	if at < 0 {
		return value
	}
	return all[at].Words
}

// Choice is one of several.
type Choice struct{ Options []Option }

// Check takes one of the options.
func (k Choice) Check(value json.RawMessage) (json.RawMessage, error) {
	v, err := strict[string](value)
	if err == nil && !slices.ContainsFunc(k.Options, func(o Option) bool { return o.Value == v }) {
		err = ErrNoValue
	}
	return Raw(v), err
}

// Words are the option's.
func (k Choice) Words(value json.RawMessage) string { return wordsOf(k.Options, read[string](value)) }

// Picks is any of several.
type Picks struct {
	Options []Option
	None    string // what none of them means
	All     string // what all of them mean; "" names each
}

// Check takes a list of options, and gives it in their order, each once.
func (k Picks) Check(value json.RawMessage) (json.RawMessage, error) {
	v, err := strict[[]string](value)
	if err != nil {
		return nil, err
	}
	out := []string{}
	for _, o := range k.Options {
		if slices.Contains(v, o.Value) {
			out = append(out, o.Value)
		}
	}
	for _, one := range v {
		if !slices.Contains(out, one) {
			return nil, ErrNoValue
		}
	}
	return Raw(out), nil
}

// Words name what is picked.
func (k Picks) Words(value json.RawMessage) string {
	v := read[[]string](value)
	switch {
	case len(v) == 0:
		return k.None
	case len(v) == len(k.Options) && k.All != "":
		return k.All
	}
	words := make([]string, len(v))
	for i, one := range v {
		words[i] = wordsOf(k.Options, one)
	}
	return strings.Join(words, ", ")
}

// Stretches are parts of a day.
type Stretches struct{}

// MostStretches bounds a day.
const MostStretches = 8

// Check takes stretches that do not overlap, and gives them in order.
func (Stretches) Check(value json.RawMessage) (json.RawMessage, error) {
	v, err := strict[[]window.Stretch](value)
	if err != nil {
		return nil, err
	}
	if len(v) > MostStretches {
		return nil, refuse("A day has at most %d stretches.", MostStretches)
	}
	v, err = window.Ordered(v)
	if v == nil {
		v = []window.Stretch{}
	}
	return Raw(v), err
}

// Words say each stretch.
func (Stretches) Words(value json.RawMessage) string {
	v := read[[]window.Stretch](value)
	if len(v) == 0 {
		return "all day"
	}
	words := make([]string, len(v))
	for i, s := range v {
		words[i] = s.String()
	}
	return strings.Join(words, " and ")
}

// Dates are days.
type Dates struct{}

// MostDays bounds a year's.
const MostDays = 200

// Check takes dates as 2026-11-30, and gives them in order, each once.
func (Dates) Check(value json.RawMessage) (json.RawMessage, error) {
	v, err := strict[[]string](value)
	if err != nil {
		return nil, err
	}
	for _, day := range v {
		if _, err := time.Parse(time.DateOnly, day); err != nil {
			return nil, refuse("%q is not a day such as 2026-11-30.", day)
		}
	}
	if len(v) > MostDays {
		return nil, refuse("List at most %d days.", MostDays)
	}
	slices.Sort(v)
	v = slices.Compact(v)
	if v == nil {
		v = []string{}
	}
	return Raw(v), nil
}

// Words name the days, or count many.
func (Dates) Words(value json.RawMessage) string {
	v := read[[]string](value)
	if len(v) == 0 {
		return "none left out"
	}
	words := []string{}
	for _, day := range v {
		if t, err := time.Parse(time.DateOnly, day); err == nil {
			words = append(words, t.Format("Jan 2"))
		}
	}
	if len(words) > 4 {
		return fmt.Sprintf("%s and %d more days left out", strings.Join(words[:3], ", "), len(words)-3)
	}
	return strings.Join(words, ", ") + " left out"
}

// Moment is a day and a time in the district's zone; "" is none.
type Moment struct{ None string }

// MomentForm is how one is written.
const MomentForm = "2006-01-02T15:04"

// Check takes 2026-11-30T09:40 and "".
func (Moment) Check(value json.RawMessage) (json.RawMessage, error) {
	v, err := strict[string](value)
	if err != nil || v == "" {
		return Raw(v), err
	}
	if _, err := time.Parse(MomentForm, v); err != nil {
		return nil, refuse("Give a day and a time.")
	}
	return Raw(v), nil
}

// Words say the moment as Americans write it.
func (k Moment) Words(value json.RawMessage) string {
	t, err := time.Parse(MomentForm, read[string](value))
	if err != nil {
		return k.None
	}
	return t.Format("Mon, Jan 2, 2006, 3:04 pm")
}

// Text is a few plain sentences.
type Text struct {
	Most int // characters
	None string
}

var blank = regexp.MustCompile(`^\s*$`)

// Check trims the text.
func (k Text) Check(value json.RawMessage) (json.RawMessage, error) {
	v, err := strict[string](value)
	if err == nil && utf8.RuneCountInString(v) > k.Most {
		err = refuse("Write at most %d characters.", k.Most)
	}
	return Raw(strings.TrimSpace(v)), err
}

// Words are its first ones.
func (k Text) Words(value json.RawMessage) string {
	v := read[string](value)
	if blank.MatchString(v) {
		return k.None
	}
	const shown = 60
	if runes := []rune(v); len(runes) > shown {
		return strings.TrimSpace(string(runes[:shown])) + "…"
	}
	return v
}
