package intake

import (
	"fmt"
	"slices"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store/bankrows"
	"pineledger/store/intakerows"
)

// assumptions are what is taken for granted of items that do not say it, and how often it was.
type assumptions struct {
	of       Assumed
	standard *bankrows.StandardKey // nil: none
	taken    map[string]*assumption
}

type assumption struct {
	value, first string // the identifier of the first item
	items        int
}

// assume reads what its user gives for items that do not say it.
func (im *itemImport) assume(given Assumed) error {
	im.assumed = assumptions{of: given, taken: map[string]*assumption{}}
	im.assumed.of.Subject = desk.SubjectCode(given.Subject)
	if given.Grade != "" {
		code, ok := roster.ReadGrade(given.Grade)
		if !ok || !slices.Contains(desk.Grades, code) {
			return desk.Invalid("/grade", "%q is not a grade such as K, 3 or 11.", given.Grade)
		}
		im.assumed.of.Grade = code
	}
	if given.Standard != "" {
		s, known := im.standards[given.Standard]
		if !known {
			return desk.Invalid("/standard", "%q is not a standard that is known here.", given.Standard)
		}
		im.assumed.standard = &s
	}
	return nil
}

// took notes that a value was taken for granted of an item.
func (a *assumptions) took(field, value, identifier string) {
	if a.taken[field] == nil {
		a.taken[field] = &assumption{value: value, first: identifier}
	}
	a.taken[field].items++
}

// remarks says what was taken for granted, field by field.
func (a *assumptions) remarks(file string) []Remark {
	var out []Remark
	for _, field := range []string{"subject", "grade", "standards", "bank", "language"} {
		if t := a.taken[field]; t != nil {
			out = append(out, Remark{Sort: intakerows.Assumed, File: file, Field: field,
				Reason: fmt.Sprintf("%q was taken for %s that did not say it, the first of them %s", t.value, desk.Plural(t.items, "item"), t.first)})
		}
	}
	return out
}

// fill gives an item what it does not say itself: what its standards tell, else what was
// given for such items. What is still missing is refused.
func (im *itemImport) fill(v *bankrows.NewVersion, standards []bankrows.StandardKey, refuse refusing) error {
	if len(standards) == 0 && im.assumed.standard != nil {
		s := *im.assumed.standard
		standards, v.Standards, v.Codes = []bankrows.StandardKey{s}, []int64{s.ID}, s.Code
		im.assumed.took("standards", s.Code, v.Identifier)
	}
	for _, s := range standards {
		if v.Subject == "" {
			v.Subject = desk.SubjectCode(s.Subject)
		}
		if v.Grade == "" && len(s.Grades) > 0 {
			v.Grade = s.Grades[0]
		}
	}
	if v.Subject == "" && im.assumed.of.Subject != "" {
		v.Subject = im.assumed.of.Subject
		im.assumed.took("subject", v.Subject, v.Identifier)
	}
	if v.Grade == "" && im.assumed.of.Grade != "" {
		v.Grade = im.assumed.of.Grade
		im.assumed.took("grade", v.Grade, v.Identifier)
	}
	if v.Language == "" {
		v.Language = "en"
		im.assumed.took("language", v.Language, v.Identifier)
	}
	if v.Subject == "" {
		return refuse("subject", "is not said, and no standard tells it; import the file again with a subject for such items")
	}
	if v.Grade != "" {
		code, ok := roster.ReadGrade(v.Grade)
		if !ok {
			return refuse("grade", "%q is not a grade such as K, 3 or 11", v.Grade)
		}
		v.Grade = code
	}
	return nil
}

// bankOf is the bank that a file names for an item, else the one for such items.
func (im *itemImport) bankOf(named, otherwise, identifier string) string {
	if named != "" {
		return named
	}
	if im.assumed.of.Bank != "" {
		otherwise = im.assumed.of.Bank
	}
	if otherwise != "" {
		im.assumed.took("bank", otherwise, identifier)
	}
	return otherwise
}
