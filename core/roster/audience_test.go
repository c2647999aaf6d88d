package roster_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/roster"
)

func TestWhichSectionsAnAssessmentMayBeSentTo(t *testing.T) {
	both := []string{"mathematics", "science"}
	for _, c := range []struct {
		audience roster.Audience
		grade    string
		subjects []string
		want     bool
	}{
		{roster.Audience{Grades: []string{"06"}, Subject: "science"}, "06", both, true},
		{roster.Audience{Grades: []string{"05", "06"}, Subject: "mathematics"}, "06", both, true},
		{roster.Audience{Grades: []string{"05"}, Subject: "mathematics"}, "06", both, false},
		{roster.Audience{Grades: []string{"06"}, Subject: "reading"}, "06", both, false},
		{roster.Audience{Grades: []string{"06"}, Subject: "reading"}, "06", nil, false},
		{roster.Audience{Grades: []string{"06"}}, "06", nil, true},
		{roster.Audience{Subject: "science"}, "06", both, false},
		{roster.Audience{}, "", nil, false},
	} {
		assert.Equal(t, c.want, c.audience.Takes([]string{c.grade}, c.subjects), "%+v for grade %s with %v", c.audience, c.grade, c.subjects)
	}
}
