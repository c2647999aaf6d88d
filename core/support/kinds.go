package support

import (
	"encoding/json"
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"pineledger/core/settings"
)

// Plain is a support that one has or has not.
type Plain struct{}

// Check takes true.
func (Plain) Check(value json.RawMessage) (json.RawMessage, error) {
	if strings.TrimSpace(string(value)) != "true" {
		return nil, settings.ErrNoValue
	}
	return json.RawMessage("true"), nil
}

// Words are none: the name says it.
func (Plain) Words(json.RawMessage) string { return "" }

// Unlimited is the value of extra time without any limit.
const Unlimited = "unlimited"

// Bounds of a factor of extra time, in hundredths.
const (
	leastFactor = 101
	mostFactor  = 400
)

// Factor is how many times the time limit a student has: "1.5", or Unlimited.
type Factor struct{}

var factorForm = regexp.MustCompile(`^\d(\.\d{1,2})?$`)

// Hundredths reads a factor as the clock counts it; 0 where there is no limit or no factor.
func Hundredths(factor string) int {
	if !factorForm.MatchString(factor) {
		return 0
	}
	whole, part, _ := strings.Cut(factor, ".")
	n, err := strconv.Atoi(whole + (part + "00")[:2])
	if err != nil {
		return 0
	}
	return n
}

// Check takes factors from 1.01 to 4 with two places at most, and Unlimited.
func (Factor) Check(value json.RawMessage) (json.RawMessage, error) {
	var v string
	if err := json.Unmarshal(value, &v); err != nil {
		return nil, settings.ErrNoValue
	}
	v = strings.TrimSpace(v)
	if v == Unlimited {
		return settings.Raw(v), nil
	}
	n := Hundredths(v)
	if n < leastFactor || n > mostFactor {
		return nil, settings.Refusal("Give a factor such as 1.5, up to 4, or no limit.")
	}
	return settings.Raw(strings.TrimSuffix(strings.TrimRight(fmt.Sprintf("%d.%02d", n/100, n%100), "0"), ".")), nil
}

// Words say the factor as the trade does.
func (Factor) Words(value json.RawMessage) string {
	switch v := text(value); v {
	case Unlimited:
		return "no time limit"
	case "1.25":
		return "time and a quarter"
	case "1.5":
		return "time and a half"
	case "2":
		return "double time"
	case "3":
		return "triple time"
	default:
		return v + " times the limit"
	}
}

// Language is the language in which a student gets an assessment, a tag of BCP 47.
type Language struct{}

var languageForm = regexp.MustCompile(`^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$`)

// Check takes language tags.
func (Language) Check(value json.RawMessage) (json.RawMessage, error) {
	v := text(value)
	if !languageForm.MatchString(v) {
		return nil, settings.Refusal("Give a language by its tag, such as es for Spanish.")
	}
	return settings.Raw(v), nil
}

// LanguageName is a language's name, its tag where it is not among those known.
func LanguageName(tag string) string {
	for _, o := range settings.Languages {
		if o.Value == tag {
			return o.Words
		}
	}
	if tag == "en" {
		return "English"
	}
	return tag
}

// Words name the language.
func (Language) Words(value json.RawMessage) string { return LanguageName(text(value)) }

// Other is a feature that this program does not know, kept as it came.
type Other struct {
	Name string `json:"name"`
	Said string `json:"said"` // what the file said of it
}

// otherKind takes what no other kind does: what is not known is not lost.
type otherKind struct{}

// Bounds of a feature that is not known.
const (
	mostOtherName = 120
	mostOtherSaid = 4000
)

// Check takes a name and what was said.
func (otherKind) Check(value json.RawMessage) (json.RawMessage, error) {
	var v Other
	if err := json.Unmarshal(value, &v); err != nil || strings.TrimSpace(v.Name) == "" {
		return nil, settings.Refusal("Name the support.")
	}
	if len(v.Name) > mostOtherName || len(v.Said) > mostOtherSaid {
		return nil, settings.Refusal(fmt.Sprintf("Use at most %d characters.", mostOtherSaid))
	}
	return settings.Raw(v), nil
}

// Words are its name.
func (otherKind) Words(value json.RawMessage) string {
	var v Other
	if err := json.Unmarshal(value, &v); err != nil {
		return ""
	}
	return v.Name
}

func text(value json.RawMessage) string {
	var v string
	if err := json.Unmarshal(value, &v); err != nil {
		return ""
	}
	return strings.TrimSpace(v)
}
