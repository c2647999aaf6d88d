package main

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestMutantsChangeOneThingEach(t *testing.T) {
	source := []byte("package p\n\nfunc f(a, b int) bool {\n\tif a <= b || b > 3 {\n\t\treturn true\n\t}\n\treturn a+1 != b\n}\n")
	all, err := mutants("p.go", source)
	require.NoError(t, err)
	var changed []string
	for _, m := range all {
		require.Equal(t, m.was, string(source[m.from:m.to]))
		assert.Len(t, m.in(source), len(source)-len(m.was)+len(m.is))
		changed = append(changed, m.was+" → "+m.is)
	}
	assert.Equal(t, []string{
		"a <= b || b > 3 → false && (a <= b || b > 3)", "|| → &&", "<= → <", "<= → >", "> → >=", "> → <=", "3 → 4", "true → false",
		"!= → ==", "+ → -",
	}, changed)
}
