package support_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/settings"
	"pineledger/core/support"
)

func TestEveryRuleThatASupportMeetsHoldsBack(t *testing.T) {
	two := append([]support.Construct{{Support: support.ReadAloud, Part: "questions", Subject: "reading", Standard: "R5.KD.2", Why: "So is reading the question."}}, rules...)
	v := winter.Breaks(given(support.ReadAloud, []string{"questions", "passages", "choices"}), two)
	require.NotNil(t, v)
	assert.Equal(t, []string{"questions", settings.ReadPassages}, v.Parts)
	assert.Equal(t, []int{1, 2, 3}, v.Lines, "each line once, in order")
	assert.Equal(t, "So is reading the question. Reading the passage is what is measured.", v.Why)
	got := winter.Lets([]support.Given{given(support.ReadAloud, []string{"questions", "passages", "choices"})}, two, nil)
	require.Len(t, got, 1)
	assert.JSONEq(t, `["choices"]`, string(got[0].Value), "nothing that a rule names is given")

	whole := append(two, support.Construct{Support: support.ReadAloud, Why: "Nothing is read here."})
	v = winter.Breaks(given(support.ReadAloud, []string{"choices", "passages"}), whole)
	require.NotNil(t, v)
	assert.Empty(t, v.Parts, "a rule about all of it leaves no rest")
	assert.Empty(t, winter.Lets([]support.Given{given(support.ReadAloud, []string{"choices"})}, whole, nil))
}

func TestRulesOfTheDistrictAreChecked(t *testing.T) {
	good := support.Construct{Support: support.ReadAloud, Part: settings.ReadPassages, Subject: "reading", Standard: " R5 ", Why: " Reading is what is measured. "}
	subjects := []string{"mathematics", "reading"}
	got, err := support.CheckRules([]support.Construct{good}, subjects)
	require.NoError(t, err)
	assert.Equal(t, []support.Construct{{Support: support.ReadAloud, Part: settings.ReadPassages, Subject: "reading", Standard: "R5", Why: "Reading is what is measured."}}, got)

	for _, c := range []struct {
		name, field string
		change      func(*support.Construct)
	}{
		{"an unknown support", "support", func(r *support.Construct) { r.Support = "levitation" }},
		{"a part of what is not read", "part", func(r *support.Construct) { r.Support = support.Calculator }},
		{"an unknown part", "part", func(r *support.Construct) { r.Part = "margins" }},
		{"an unknown subject", "subject", func(r *support.Construct) { r.Subject = "alchemy" }},
		{"a code of a page", "standard", func(r *support.Construct) { r.Standard = strings.Repeat("R", 61) }},
		{"no reason", "why", func(r *support.Construct) { r.Why = "  " }},
		{"a reason of a page", "why", func(r *support.Construct) { r.Why = strings.Repeat("w", 201) }},
		{"the same once more", "support", func(r *support.Construct) { r.Why = "For another reason." }},
	} {
		second := good
		c.change(&second)
		_, err := support.CheckRules([]support.Construct{good, second}, subjects)
		var fault *support.RuleFault
		require.ErrorAs(t, err, &fault, c.name)
		assert.Equal(t, 1, fault.Rule, c.name)
		assert.Equal(t, c.field, fault.Field, c.name)
		assert.NotEmpty(t, fault.Text, c.name)
	}
	other := good
	other.Standard = strings.Repeat("R", 60)
	_, err = support.CheckRules([]support.Construct{good, other}, subjects)
	require.NoError(t, err, "under another standard it is another rule")
	_, err = support.CheckRules(make([]support.Construct, support.MostRules+1), subjects)
	require.ErrorContains(t, err, "at most 200")
}
