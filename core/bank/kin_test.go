package bank_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/bank"
)

func TestNearCopiesAreKin(t *testing.T) {
	ferry := bank.Kin("The ferry Petrel leaves at 10:50 and sails for 50 minutes. When does it arrive?")
	assert.Equal(t, "the ferry Name leaves at # and sails for # minutes when does it arrive", ferry)
	for _, copied := range []string{
		"The ferry Curlew leaves at 9:15 and sails for 35 minutes. When does it arrive?",
		"the ferry Heron leaves at 7:00, and sails for 1,000 minutes - when does it arrive?",
	} {
		assert.Equal(t, ferry, bank.Kin(copied), copied)
	}
	for says, other := range map[string]string{
		"another question of the same story": "The ferry Petrel leaves at 10:50 and sails for 50 minutes. How far does it sail?",
		"another verb":                       "The ferry Petrel left at 10:50 and sails for 50 minutes. When does it arrive?",
		"a name that begins a sentence":      "Petrel leaves at 10:50 and sails for 50 minutes. When does it arrive?",
	} {
		assert.NotEqual(t, ferry, bank.Kin(other), says)
	}
}

func TestWhatHasNoNearCopies(t *testing.T) {
	for _, text := range []string{"", "What is 3/4 of 12?", "Which sentence tells best what the passage is about?", "2 3 4 5 6 7 8 9"} {
		assert.Empty(t, bank.Kin(text), text)
	}
	assert.NotEmpty(t, bank.Kin("Of 240 seats four are taken."), "five words and a number")
	assert.Empty(t, bank.Kin("Of 240 seats some are."), "four")
	assert.Contains(t, bank.Kin("A boat sails 5 km on I, and on NATO charts."), "i and on nato", "a letter alone, or capitals only, are no name")
}
