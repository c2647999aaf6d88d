package roster

import "slices"

// Audience says which sections an assessment may be sent to.
type Audience struct {
	Grades  []string // a section is of one of them; without any, none is
	Subject string   // that a section's course teaches, "" for whatever it teaches
}

// Takes tells whether a section is in the audience, by its grades and the subjects that its course teaches.
func (a Audience) Takes(grades, subjects []string) bool {
	fits := slices.ContainsFunc(grades, func(g string) bool { return slices.Contains(a.Grades, g) })
	return fits && (a.Subject == "" || slices.Contains(subjects, a.Subject))
}

// Aim is whom a distribution goes to: the students of some sections but for those left out. Its zero value
// goes to nobody.
type Aim struct {
	Sections []int64
	LeftOut  []int64 // students
}
