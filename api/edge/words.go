package edge

import (
	"fmt"
	"strconv"
	"strings"
	"unicode"

	"github.com/getkin/kin-openapi/openapi3"
)

// fieldNames are the fields whose names in the contract are not the words of the screens.
var fieldNames = map[string]string{
	"at": "place", "html": "text", "ids": "choice of items", "itemId": "item", "versionId": "version", "bandSetId": "band set",
	"opensAt": "opening time", "closesAt": "closing time", "maxChoices": "most choices", "min": "least", "max": "most", "most": "how often it is used",
	"givenName": "given name", "newName": "new name", "personId": "person", "secret": "password or PIN", "keySpread": "spread of the keys",
	"value": "what it says", "schema": "form of the document", "pointer": "field", "property": "field",
	"itemsMin": "least items of a passage", "itemsMax": "most items of a passage", "q": "search", "response": "answer", "responses": "answers",
}

// counted are lists whose entries are named by their number.
var counted = map[string]string{
	"rows": "row", "lines": "line", "answers": "answer", "choices": "choice", "targets": "place to put things", "declarations": "part", "areas": "area", "body": "block",
	"traits": "trait", "levels": "level", "bands": "band", "starts": "band", "pools": "pool", "parts": "part", "entries": "entry", "items": "item", "standards": "standard",
	"grades": "grade", "tags": "tag", "shares": "person", "sections": "section", "variants": "language", "byAnswers": "advice", "at": "number", "correct": "key", "labels": "label",
	"kinds": "kind", "subjects": "subject", "values": "entry", "banks": "bank", "purposes": "purpose", "editors": "editor", "members": "member", "cuts": "cut",
}

// fieldInWords names the field of a pointer: "/rows/0/min" is "Row 1, least".
func fieldInWords(pointer string) string {
	var out []string
	segments := strings.Split(strings.Trim(pointer, "/"), "/")
	for k := 0; k < len(segments); k++ {
		segment := segments[k]
		if segment == "" || segment == "document" || segment == "meta" {
			continue
		}
		if k+1 < len(segments) {
			if n, err := strconv.Atoi(segments[k+1]); err == nil {
				name := counted[segment]
				if name == "" {
					name = strings.TrimSuffix(spaced(segment), "s")
				}
				out = append(out, fmt.Sprintf("%s %d", name, n+1))
				k++
				continue
			}
		}
		if name := fieldNames[segment]; name != "" {
			out = append(out, name)
		} else {
			out = append(out, spaced(segment))
		}
	}
	words := strings.Join(out, ", ")
	if words == "" {
		return ""
	}
	return strings.ToUpper(words[:1]) + words[1:]
}

// spaced turns shortTitle into short title.
func spaced(name string) string {
	var out strings.Builder
	for i, r := range name {
		if unicode.IsUpper(r) && i > 0 {
			out.WriteByte(' ')
		}
		out.WriteRune(unicode.ToLower(r))
	}
	return out.String()
}

// remedy says what to do about a value that does not fit its schema.
func remedy(err *openapi3.SchemaError) string {
	s := err.Schema
	switch err.SchemaField {
	case "maximum", "exclusiveMaximum", "minimum", "exclusiveMinimum":
		return "use a number " + bounds(s)
	case "maxLength":
		if s.MaxLength != nil {
			return fmt.Sprintf("use %s or fewer", counting(*s.MaxLength, "character"))
		}
	case "minLength":
		if s.MinLength > 1 {
			return fmt.Sprintf("use at least %s", counting(s.MinLength, "character"))
		}
		return "fill this in"
	case "maxItems":
		if s.MaxItems != nil {
			return fmt.Sprintf("at most %s at a time", number(float64(*s.MaxItems)))
		}
	case "minItems":
		return fmt.Sprintf("choose at least %s", number(float64(max(s.MinItems, 1))))
	case "uniqueItems":
		return "something is there twice; take one away"
	case "enum":
		var options []string
		for _, v := range s.Enum {
			options = append(options, spaced(fmt.Sprint(v)))
		}
		if len(options) <= 12 {
			return "choose one of " + strings.Join(options, ", ")
		}
		return "choose one from the list"
	case "multipleOf":
		return "use two decimal places at most"
	case "required":
		return "fill this in"
	case "properties", "additionalProperties":
		return "this is not known here; reload the page and try again"
	case "format":
		if strings.HasPrefix(s.Format, "date") {
			return "give a date and time"
		}
	}
	return kindWanted(s)
}

// kindWanted says what kind of value is asked for.
func kindWanted(s *openapi3.Schema) string {
	switch {
	case s == nil || s.Type == nil:
	case s.Type.Is("integer"):
		return "use a whole number"
	case s.Type.Is("number"):
		return "use a number"
	case s.Type.Is("boolean"):
		return "choose yes or no"
	case s.Type.Is("string"):
		return "use plain text of the form that is asked for"
	}
	return "this cannot be taken as it is; reload the page and try again"
}

func bounds(s *openapi3.Schema) string {
	switch {
	case s.Min != nil && s.Max != nil:
		return fmt.Sprintf("from %s to %s", number(*s.Min), number(*s.Max))
	case s.Max != nil:
		return "up to " + number(*s.Max)
	case s.Min != nil:
		return number(*s.Min) + " or more"
	}
	return "that fits"
}

func counting(n uint64, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	return number(float64(n)) + " " + noun + "s"
}

// number writes 1000 as 1,000.
func number(v float64) string {
	text := strconv.FormatFloat(v, 'f', -1, 64)
	whole, rest, _ := strings.Cut(text, ".")
	sign := ""
	if strings.HasPrefix(whole, "-") {
		sign, whole = "−", whole[1:]
	}
	for at := len(whole) - 3; at > 0; at -= 3 {
		whole = whole[:at] + "," + whole[at:]
	}
	if rest != "" {
		whole += "." + rest
	}
	return sign + whole
}
