package assessment_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/assessment"
)

func TestWhatIsOddAboutALine(t *testing.T) {
	scope := assessment.Scope{Subject: "Mathematics", Grades: []string{"05", "06"}}
	for name, c := range map[string]struct {
		subject, grade string
		reported       bool
		says           []string
	}{
		"the subject and one of the grades":  {"Mathematics", "06", false, []string{}},
		"an item that says neither":          {"", "", false, []string{}},
		"another grade":                      {"Mathematics", "04", false, []string{"The item is for grade 4."}},
		"another subject":                    {"Reading", "05", false, []string{"The item is for Reading."}},
		"both":                               {"Reading", "04", false, []string{"The item is for Reading, grade 4."}},
		"a reported key comes before it all": {"Reading", "", true, []string{"Somebody reported its key as wrong.", "The item is for Reading."}},
	} {
		assert.Equal(t, c.says, scope.LineCautions(c.subject, c.grade, c.reported), name)
	}
}
