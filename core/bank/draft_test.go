package bank_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/bank"
)

func TestWhatKeepsADraftFromTheBank(t *testing.T) {
	sound := bank.DraftMeta{Identifier: "T-1", Bank: "Harbor", Subject: "science", Grade: "05", Standards: []string{"S5"}, Depth: 4, Difficulty: "0.455"}
	known := func(code string) bool { return code == "S5" }
	require.Empty(t, sound.Check(known, []string{"Harbor", "Own"}))
	require.Empty(t, bank.DraftMeta{Bank: "Own", Subject: "science"}.Check(known, []string{"Harbor", "Own"}), "the rest may be left open")
	for place, spoil := range map[string][]func(*bank.DraftMeta){
		"identifier": {func(m *bank.DraftMeta) { m.Identifier = "T 1" }, func(m *bank.DraftMeta) { m.Identifier = "T\t1" }, func(m *bank.DraftMeta) { m.Identifier = strings.Repeat("T", 101) }},
		"bank":       {func(m *bank.DraftMeta) { m.Bank = "" }, func(m *bank.DraftMeta) { m.Bank = "Given" }},
		"course":     {func(m *bank.DraftMeta) { m.Course = strings.Repeat("c", 101) }},
		"subject":    {func(m *bank.DraftMeta) { m.Subject = " " }},
		"standards":  {func(m *bank.DraftMeta) { m.Standards = []string{"S5", "S6"} }},
		"depth":      {func(m *bank.DraftMeta) { m.Depth = 5 }, func(m *bank.DraftMeta) { m.Depth = -1 }},
		"difficulty": {func(m *bank.DraftMeta) { m.Difficulty = "1.1" }, func(m *bank.DraftMeta) { m.Difficulty = "often" }},
	} {
		for _, f := range spoil {
			m := sound
			f(&m)
			problems := m.Check(known, []string{"Harbor", "Own"})
			if assert.Len(t, problems, 1, place) {
				assert.Equal(t, place, problems[0].Place)
			}
		}
	}
	longest := sound
	longest.Identifier, longest.Course = strings.Repeat("T", 100), strings.Repeat("c", 100)
	assert.Empty(t, longest.Check(known, []string{"Harbor"}))
}

func TestReadDifficulty(t *testing.T) {
	for text, want := range map[string]int64{"0": 0, "0.455": 455, "1": 1000, "0.5": 500, ".25": 250} {
		got, ok := bank.ReadDifficulty(text)
		if assert.True(t, ok, text) {
			assert.Equal(t, want, *got, text)
		}
	}
	none, ok := bank.ReadDifficulty("")
	assert.True(t, ok)
	assert.Nil(t, none)
	for _, text := range []string{"1.001", "-0.1", "0.4555", "x", "0,5"} {
		_, ok := bank.ReadDifficulty(text)
		assert.False(t, ok, text)
	}
}
