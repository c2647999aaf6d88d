package roster

import (
	"cmp"
	"slices"
)

// WhomSchema is the version of Whom as it is kept.
const WhomSchema = 1

// MostEntries bounds what one distribution is told.
const MostEntries = 60

// Whom says to whom a distribution goes: entries, each of which adds to those before it or leaves some of them out. Its zero
// value goes to nobody.
type Whom struct {
	Schema  int     `json:"schema"`
	Entries []Entry `json:"entries"`
	// Follow takes in who comes later to what the entries say: a new section, a late enrolment.
	Follow bool `json:"follow"`
	// Seated says for students of several chosen sections in which of them they sit. What is not among those sections says nothing.
	Seated []SeatIn `json:"seated,omitempty"`
}

// SeatIn is the section in which a student sits.
type SeatIn struct {
	Student int64 `json:"student"`
	Section int64 `json:"section"`
}

// MostSeated bounds them.
const MostSeated = 500

// Entry is one line of Whom. The lists narrow one another, of each one has to fit, and an empty one does not narrow. With groups or
// students it is about people, else about whole sections; without any list it is about every section that the assessment fits.
type Entry struct {
	Out      bool     `json:"out,omitempty"`
	Schools  []int64  `json:"schools,omitempty"`
	Grades   []string `json:"grades,omitempty"`
	Courses  []int64  `json:"courses,omitempty"`
	Sections []int64  `json:"sections,omitempty"`
	Groups   []int64  `json:"groups,omitempty"`
	Students []int64  `json:"students,omitempty"`
}

// OfPeople tells whether an entry is about students rather than whole sections.
func (e Entry) OfPeople() bool { return len(e.Groups)+len(e.Students) > 0 }

// ToSections goes to these sections and nobody else.
func ToSections(sections ...int64) Whom {
	if len(sections) == 0 {
		return Whom{Schema: WhomSchema}
	}
	return Whom{Schema: WhomSchema, Entries: []Entry{{Sections: sections}}}
}

// Without is the same but for some students.
func (w Whom) Without(students ...int64) Whom {
	if len(students) > 0 {
		w.Entries = append(slices.Clone(w.Entries), Entry{Out: true, Students: students})
	}
	return w
}

// Candidate is a section in which somebody could get a seat, with its students.
type Candidate struct {
	ID, School, Course int64
	Grades             []string
	// Fits tells that the assessment is for such a section: of its grades, and of a course of its subject. In others
	// only people who are named get a seat.
	Fits bool
	// Teaches tells that the course teaches the subject of the assessment; such a section is proposed first.
	Teaches  bool
	Students []int64
}

// takes tells whether a section is one that an entry is about.
func (e Entry) takes(c Candidate) bool {
	return among(e.Schools, c.School) && among(e.Courses, c.Course) && among(e.Sections, c.ID) &&
		(len(e.Grades) == 0 || slices.ContainsFunc(c.Grades, func(g string) bool { return slices.Contains(e.Grades, g) }))
}

func among(list []int64, id int64) bool { return len(list) == 0 || slices.Contains(list, id) }

// Count is what stands after an entry: the change in seats, and how much there is by then.
type Count struct {
	Change                      int
	Schools, Sections, Students int
}

// Choice is a student who is in several of the sections that are chosen, and gets one seat.
type Choice struct {
	Student int64
	In      int64   // the section of the seat
	Not     []int64 // the others
}

// Seating is what entries come to: who gets a seat in which section.
type Seating struct {
	// Students are those of each section with a seat, by section, in the order in which the section lists them.
	Students map[int64][]int64
	// Account has a count for each entry, and the last for what stands once everybody has one seat.
	Account []Count
	Twice   []Choice // by student
	Nowhere []int64  // people who are named and in no section
}

// Total is what stands at the end.
func (s Seating) Total() Count { return s.Account[len(s.Account)-1] }

// seatKey is one seat.
type seatKey struct{ section, student int64 }

// Resolve works out whom entries mean among sections. groups are the members of those that the entries name.
//
// A student in several chosen sections gets one seat: in the one that Seated says, else in the first of those whose course teaches the
// subject, then of those that an earlier entry chose, then as the sections are listed.
func (w Whom) Resolve(sections []Candidate, groups map[int64][]int64) Seating {
	r := resolving{sections: sections, of: map[int64][]int{}, seats: map[seatKey]int{}, nowhere: map[int64]bool{}, said: map[seatKey]bool{}}
	for _, s := range w.Seated {
		r.said[seatKey{s.Section, s.Student}] = true
	}
	for i, c := range sections {
		for _, s := range c.Students {
			r.of[s] = append(r.of[s], i)
		}
	}
	var out Seating
	for n, e := range w.Entries {
		before := len(r.seats)
		r.enter(n, e, groups)
		out.Account = append(out.Account, r.count(len(r.seats)-before))
	}
	before := len(r.seats)
	out.Twice = r.settle()
	out.Account = append(out.Account, r.count(len(r.seats)-before))
	out.Students = map[int64][]int64{}
	for _, c := range sections {
		for _, s := range c.Students {
			if _, has := r.seats[seatKey{c.ID, s}]; has {
				out.Students[c.ID] = append(out.Students[c.ID], s)
			}
		}
	}
	for s := range r.nowhere {
		out.Nowhere = append(out.Nowhere, s)
	}
	slices.Sort(out.Nowhere)
	return out
}

type resolving struct {
	sections []Candidate
	of       map[int64][]int // places of a student's sections
	seats    map[seatKey]int // by the entry that gave it first
	nowhere  map[int64]bool
	said     map[seatKey]bool // that a person chose
}

func (r *resolving) enter(n int, e Entry, groups map[int64][]int64) {
	if e.OfPeople() {
		for _, s := range e.people(groups) {
			r.enterStudent(n, e, s)
		}
		return
	}
	for _, c := range r.sections {
		if !c.Fits || !e.takes(c) {
			continue
		}
		for _, s := range c.Students {
			r.put(n, e.Out, seatKey{c.ID, s})
		}
	}
}

// people are those of an entry, each once.
func (e Entry) people(groups map[int64][]int64) []int64 {
	people := slices.Clone(e.Students)
	for _, g := range e.Groups {
		people = append(people, groups[g]...)
	}
	slices.Sort(people)
	return slices.Compact(people)
}

func (r *resolving) put(n int, out bool, at seatKey) {
	if out {
		delete(r.seats, at)
	} else if _, has := r.seats[at]; !has {
		r.seats[at] = n
	}
}

// enterStudent gives somebody who is named a seat, if they have none, or takes all of theirs.
func (r *resolving) enterStudent(n int, e Entry, student int64) {
	var theirs []int
	for _, i := range r.of[student] {
		if e.takes(r.sections[i]) {
			theirs = append(theirs, i)
		}
	}
	if e.Out {
		for _, i := range theirs {
			delete(r.seats, seatKey{r.sections[i].ID, student})
		}
		delete(r.nowhere, student)
		return
	}
	if len(theirs) == 0 {
		if len(r.of[student]) == 0 {
			r.nowhere[student] = true
		}
		return
	}
	for _, i := range r.of[student] {
		if _, has := r.seats[seatKey{r.sections[i].ID, student}]; has {
			return
		}
	}
	r.put(n, false, seatKey{r.sections[slices.MinFunc(theirs, r.proposed)].ID, student})
}

// proposed orders places of sections by where a seat is proposed first.
func (r *resolving) proposed(a, b int) int {
	x, y := r.sections[a], r.sections[b]
	return cmp.Or(-order(x.Teaches, y.Teaches), -order(x.Fits, y.Fits), a-b)
}

func order(a, b bool) int {
	switch {
	case a == b:
		return 0
	case a:
		return 1
	}
	return -1
}

// settle leaves everybody one seat, and tells of whom there were more.
func (r *resolving) settle() []Choice {
	var out []Choice
	for student, of := range r.of {
		if len(of) < 2 {
			continue
		}
		var seats []int
		for _, i := range of {
			if _, has := r.seats[seatKey{r.sections[i].ID, student}]; has {
				seats = append(seats, i)
			}
		}
		if len(seats) < 2 {
			continue
		}
		slices.SortFunc(seats, func(a, b int) int {
			x, y := r.sections[a], r.sections[b]
			return cmp.Or(-order(r.said[seatKey{x.ID, student}], r.said[seatKey{y.ID, student}]), -order(x.Teaches, y.Teaches), r.seats[seatKey{x.ID, student}]-r.seats[seatKey{y.ID, student}], a-b)
		})
		c := Choice{Student: student, In: r.sections[seats[0]].ID}
		for _, i := range seats[1:] {
			c.Not = append(c.Not, r.sections[i].ID)
			delete(r.seats, seatKey{r.sections[i].ID, student})
		}
		out = append(out, c)
	}
	slices.SortFunc(out, func(a, b Choice) int { return cmp.Compare(a.Student, b.Student) })
	return out
}

func (r *resolving) count(change int) Count {
	c := Count{Change: change, Students: len(r.seats)}
	sections, schools := map[int64]bool{}, map[int64]bool{}
	for at := range r.seats {
		sections[at.section] = true
	}
	for _, s := range r.sections {
		if sections[s.ID] {
			schools[s.School] = true
		}
	}
	c.Sections, c.Schools = len(sections), len(schools)
	return c
}

// LeavesOut tells whether somebody is left out by name, whatever else is said of them.
func (w Whom) LeavesOut(student int64, groups map[int64][]int64) bool {
	for _, e := range slices.Backward(w.Entries) {
		if e.OfPeople() && slices.Contains(e.people(groups), student) {
			return e.Out
		}
	}
	return false
}

// Groups lists the groups that entries name, each once.
func (w Whom) Groups() []int64 {
	var out []int64
	for _, e := range w.Entries {
		out = append(out, e.Groups...)
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// Named lists the students who are added by name, each once: they may be in sections that the assessment does not fit.
func (w Whom) Named(groups map[int64][]int64) []int64 {
	var out []int64
	for _, e := range w.Entries {
		if !e.Out {
			out = append(out, e.people(groups)...)
		}
	}
	slices.Sort(out)
	return slices.Compact(out)
}

// GroupRule says who is in a group; the zero value is a list that names them.
type GroupRule struct {
	Support    string `json:"support,omitempty"`    // who has this support today
	Assessment int64  `json:"assessment,omitempty"` // whose result of this assessment is below a band
	Below      int    `json:"below,omitempty"`      // that band, counted from 0
}
