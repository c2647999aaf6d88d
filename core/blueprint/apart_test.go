package blueprint_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/blueprint"
)

func TestWhatKeepsOutOfOneForm(t *testing.T) {
	ferry := blueprint.Item{ID: "ferry", Kin: "a boat has N seats"}
	tug := blueprint.Item{ID: "tug", Kin: "a boat has N seats"}
	tide := blueprint.Item{ID: "tide", Enemies: []string{"ferry"}}
	reef := blueprint.Item{ID: "reef"}
	for name, c := range map[string]struct {
		a, b  blueprint.Item
		apart bool
	}{
		"near copies":                      {ferry, tug, true},
		"one names the other":              {tide, ferry, true},
		"two that are kin to none":         {tide, reef, false},
		"a near copy of what is named":     {tide, tug, false},
		"kin to something else, no enmity": {ferry, reef, false},
	} {
		assert.Equal(t, c.apart, blueprint.Apart(c.a, c.b), name)
		assert.Equal(t, c.apart, blueprint.Apart(c.b, c.a), name+", the other way round")
	}
}
