package roster

import (
	"regexp"
	"slices"
	"strings"
)

// Grades are the codes of grades that rosters use (CEDS), from the youngest to the oldest.
var Grades = []string{"IT", "PR", "PK", "TK", "KG", "01", "02", "03", "04", "05", "06", "07", "08", "09", "10", "11", "12", "13", "PS", "UG", "Other"}

var numbered = regexp.MustCompile(`^(?:grade|gr\.?)?\s*(\d{1,2})(?:st|nd|rd|th)?(?:\s+grade)?$`)

// ReadGrade gives the code of a grade as people write it: "6", "06", "Grade 6", "6th grade", "K", "Kindergarten".
func ReadGrade(text string) (code string, ok bool) {
	text = strings.TrimSpace(text)
	if slices.Contains(Grades, text) {
		return text, true
	}
	text = strings.ToLower(text)
	if m := numbered.FindStringSubmatch(text); m != nil {
		code = m[1]
		if len(code) == 1 {
			code = "0" + code
		}
		return code, slices.Contains(Grades, code)
	}
	switch text {
	case "k", "kg", "kindergarten", "grade k":
		return "KG", true
	case "pk", "pre-k", "prek", "prekindergarten":
		return "PK", true
	case "tk", "transitional kindergarten":
		return "TK", true
	}
	return "", false
}

// GradeName says a grade as people do: "grade 6", "grade K".
func GradeName(code string) string {
	if code == "KG" {
		return "grade K"
	}
	return "grade " + strings.TrimPrefix(code, "0")
}
