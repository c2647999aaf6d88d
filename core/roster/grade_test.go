package roster_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/roster"
)

func TestGradesAsPeopleSayThem(t *testing.T) {
	for code, want := range map[string]string{"KG": "grade K", "06": "grade 6", "10": "grade 10"} {
		assert.Equal(t, want, roster.GradeName(code))
	}
}

func TestGradesAsPeopleWriteThem(t *testing.T) {
	for text, want := range map[string]string{"06": "06", "6": "06", " Grade 6 ": "06", "6th grade": "06", "1st": "01", "gr. 2": "02", "12": "12", "13": "13",
		"K": "KG", "kindergarten": "KG", "KG": "KG", "Pre-K": "PK", "TK": "TK", "tk": "TK", "Transitional Kindergarten": "TK", "pk": "PK", "k": "KG", "Other": "Other"} {
		got, ok := roster.ReadGrade(text)
		assert.True(t, ok, text)
		assert.Equal(t, want, got, text)
	}
	for _, text := range []string{"", "14", "0", "00", "six", "6-8", "grade", "123"} {
		_, ok := roster.ReadGrade(text)
		assert.False(t, ok, text)
	}
}
