package edge

import (
	"regexp"
	"strings"
	"testing"

	"github.com/getkin/kin-openapi/openapi3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/api/contract"
)

// machine is what no screen says.
var machine = regexp.MustCompile(`(?i:\b(null|nullable|array|pointer|schema|json|must be|property|regular expression|regex|integer|boolean|string|object|value|maximum|minimum)\b|/)|[a-z][A-Z]`)

// Whatever the contract refuses is said in the words of its field: every constraint of every schema.
func TestEveryConstraintOfTheContractHasWords(t *testing.T) {
	doc, err := openapi3.NewLoader().LoadFromData(contract.YAML)
	require.NoError(t, err)
	tried := map[string]int{}
	seen := map[*openapi3.Schema]bool{}
	var walk func(name string, ref *openapi3.SchemaRef)
	walk = func(name string, ref *openapi3.SchemaRef) {
		if ref == nil || ref.Value == nil || seen[ref.Value] {
			return
		}
		s := ref.Value
		seen[s] = true
		for _, bad := range badValues(s) {
			err := s.VisitJSON(bad, openapi3.MultiErrors())
			if err == nil {
				continue
			}
			for _, field := range said(err, "/"+name) {
				assert.False(t, machine.MatchString(field), "%s refuses %v with %q", name, bad, field)
				assert.True(t, strings.HasSuffix(field, "."), field)
				tried[field]++
			}
		}
		for property, inner := range s.Properties {
			walk(property, inner)
		}
		walk(name, s.Items)
		for _, list := range []openapi3.SchemaRefs{s.OneOf, s.AnyOf, s.AllOf} {
			for _, inner := range list {
				walk(name, inner)
			}
		}
		if s.AdditionalProperties.Schema != nil {
			walk(name, s.AdditionalProperties.Schema)
		}
	}
	for _, item := range doc.Paths.Map() {
		for _, operation := range item.Operations() {
			for _, p := range operation.Parameters {
				walk(p.Value.Name, p.Value.Schema)
			}
			if operation.RequestBody != nil {
				for _, media := range operation.RequestBody.Value.Content {
					walk("body", media.Schema)
				}
			}
		}
	}
	assert.Greater(t, len(tried), 100, "constraints that were broken")
}

// said gives the messages that a person gets.
func said(err error, at string) []string {
	var out []string
	for _, f := range fieldsOf(err, at) {
		out = append(out, f.Message)
	}
	return out
}

// badValues break each constraint of a schema.
func badValues(s *openapi3.Schema) []any {
	out := []any{nil}
	if s.Type == nil {
		return out
	}
	switch {
	case s.Type.Is("string"):
		out = append(out, 1.0, true, "?!")
		if s.MaxLength != nil && *s.MaxLength < 1<<20 {
			out = append(out, strings.Repeat("x", int(*s.MaxLength)+1))
		}
		if s.MinLength > 0 {
			out = append(out, "")
		}
	case s.Type.Is("integer"), s.Type.Is("number"):
		out = append(out, "x", 0.5, 1e12, -1e12, 0.001)
	case s.Type.Is("boolean"):
		out = append(out, "x")
	case s.Type.Is("array"):
		out = append(out, "x", []any{})
		if s.MaxItems != nil && *s.MaxItems <= 5000 {
			out = append(out, make([]any, *s.MaxItems+1))
		}
	default:
		out = append(out, "x", map[string]any{}, map[string]any{"unheardOf": 1.0})
	}
	return out
}

func TestFieldsInWords(t *testing.T) {
	for pointer, want := range map[string]string{
		"/document/declarations/0/areas/0/at/2": "Part 1, area 1, number 3", "/rows/0/min": "Row 1, least", "/shortTitle": "Short title", "": "",
		"/meta/subject": "Subject", "/lines/11/points": "Line 12, points", "/aliens/4/name": "Alien 5, name", "/opensAt": "Opening time",
	} {
		assert.Equal(t, want, fieldInWords(pointer), pointer)
	}
}

func TestRemedies(t *testing.T) {
	doc, err := openapi3.NewLoader().LoadFromData(contract.YAML)
	require.NoError(t, err)
	outline := doc.Components.Schemas["Outline"].Value
	assert.Equal(t, []string{"Title: use 200 characters or fewer."}, said(outline.Properties["title"].Value.VisitJSON(strings.Repeat("x", 300), openapi3.MultiErrors()), "/title"))
	layout := doc.Components.Schemas["DocumentInteraction"].Value
	assert.Equal(t, []string{"Rows: use a number from 0 to 60."}, said(layout.Properties["rows"].Value.VisitJSON(61.0, openapi3.MultiErrors()), "/rows"))
	assert.Equal(t, "−1,234,567.5", number(-1234567.5))
}
