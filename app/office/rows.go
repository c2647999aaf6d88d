package office

import (
	"pineledger/store/officerows"
)

// What this room gives as the store keeps it.
type (
	School         = officerows.School
	Section        = officerows.Section
	SectionStudent = officerows.SectionStudent
	Found          = officerows.Found
	SignInPerson   = officerows.SignInPerson
)
