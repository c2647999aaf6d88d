// Package roster knows the people of a district, what their roles let them reach,
// and whom a distribution would reach.
package roster

import (
	"slices"
	"time"
)

// Role is what a person is to an organization (OneRoster 1.2 roles, narrowed to
// those that the job tells apart).
type Role string

const (
	DistrictCoordinator Role = "district-coordinator"
	SchoolCoordinator   Role = "school-coordinator"
	Teacher             Role = "teacher"
	Proctor             Role = "proctor"
	Student             Role = "student"
)

// Post is a role at a school; SchoolID 0 is the whole district.
type Post struct {
	Role     Role
	SchoolID int64
}

// Viewer is who asks.
type Viewer struct {
	Until    time.Time // when what is known of the person ends, because a room is over or a day; zero: when rosters change
	PersonID int64     // 0: nobody is signed in, or the program itself
	Name     string
	Posts    []Post
	Sections []int64 // sections that the person teaches
	Rooms    []int64 // of makeups that are not over, of which the person is the proctor
	Sittings []int64 // that the person sees to today, in the place of a teacher
	// Courses of those sections, and for a school coordinator of all at the school.
	Courses []int64
	// Departments in which the person teaches.
	Departments []Department
}

// EndBy lets what is known of the viewer end at a moment, if it does not sooner.
func (v *Viewer) EndBy(at time.Time) {
	if v.Until.IsZero() || at.Before(v.Until) {
		v.Until = at
	}
}

// Department is those who teach a subject at a school.
type Department struct {
	SchoolID int64 // where the person teaches it
	Subject  string
}

// Scope is how far a viewer reaches into rosters, sittings and results. Queries
// are narrowed by it, so what lies outside does not exist for who asks.
type Scope struct {
	District bool
	Schools  []int64
	Sections []int64
	Rooms    []int64 // their sittings, whatever the section; nothing else of it
	Sittings []int64 // these alone; nothing else of their sections
	Student  int64   // only this student's own
}

// Scope of a viewer; a viewer without a post reaches nothing.
func (v Viewer) Scope() Scope {
	var s Scope
	for _, p := range v.Posts {
		switch p.Role {
		case DistrictCoordinator:
			s.District = true
		case SchoolCoordinator:
			s.Schools = append(s.Schools, p.SchoolID)
		case Teacher, Proctor:
			s.Sections = v.Sections
		case Student:
			s.Student = v.PersonID
		}
	}
	if v.IsStaff() {
		s.Rooms, s.Sittings = v.Rooms, v.Sittings
	}
	return s
}

// Reaches tells whether a section of a school lies within the scope.
func (s Scope) Reaches(schoolID, sectionID int64) bool {
	return s.District || slices.Contains(s.Schools, schoolID) || slices.Contains(s.Sections, sectionID)
}

func (v Viewer) holds(roles ...Role) bool {
	return slices.ContainsFunc(v.Posts, func(p Post) bool { return slices.Contains(roles, p.Role) })
}

// IsStaff tells a member of staff from a student.
func (v Viewer) IsStaff() bool {
	return v.holds(DistrictCoordinator, SchoolCoordinator, Teacher, Proctor)
}

// IsStudent tells whether the viewer takes assessments.
func (v Viewer) IsStudent() bool { return v.holds(Student) }

// MayImport covers standards, rosters and items of the whole district.
func (v Viewer) MayImport() bool { return v.holds(DistrictCoordinator) }

// MayReadKeysBefore tells whether keys of what is yet to be sat are open: to those who
// build, and to others once the window is over or a coordinator has opened them.
func (v Viewer) MayReadKeysBefore(over, opened bool) bool {
	return v.MayBuild() || v.MayReadKeys() && (over || opened)
}

// MayReadKeys covers the bank and every answer key.
func (v Viewer) MayReadKeys() bool { return v.holds(DistrictCoordinator, SchoolCoordinator, Teacher) }

// MayReadSupports covers what accommodations the students in scope have: to who teaches or coordinates them.
func (v Viewer) MayReadSupports() bool {
	return v.holds(DistrictCoordinator, SchoolCoordinator, Teacher)
}

// MayReadGrounds covers on what grounds they have them.
func (v Viewer) MayReadGrounds() bool { return v.holds(DistrictCoordinator, SchoolCoordinator) }

// MayEnterSupports covers entering and ending them.
func (v Viewer) MayEnterSupports() bool { return v.holds(DistrictCoordinator, SchoolCoordinator) }

// MayBuild covers making assessments and band sets.
func (v Viewer) MayBuild() bool { return v.holds(DistrictCoordinator, SchoolCoordinator) }

// MayReadLedger covers the record of who did what, which names people everywhere.
func (v Viewer) MayReadLedger() bool { return v.holds(DistrictCoordinator) }

// Owned is what the right to change an assessment or band set depends on.
type Owned struct {
	OwnerID  int64 // 0: nobody's
	SchoolID int64 // 0: the district's
	Alone    bool  // its owner's and nobody else's, whatever the school
	Shares   []Share
}

// Share lets one person, a school or a department see what their post does not show
// them, and do with it what it says.
type Share struct {
	PersonID int64  // 0: not for one person
	SchoolID int64  // its coordinators; 0 with a subject: every school
	Subject  string // only the school's department of it, "" for no department
	Teachers bool   // of a school: its teachers too
	Edit     bool
	Copy     bool
	Print    bool
}

// reaches tells whether a share is for a viewer.
func (s Share) reaches(v Viewer) bool {
	if s.PersonID > 0 {
		return s.PersonID == v.PersonID
	}
	if slices.Contains(v.Scope().Schools, s.SchoolID) {
		return true
	}
	if s.Subject != "" {
		return slices.ContainsFunc(v.Departments, func(d Department) bool {
			return d.Subject == s.Subject && (s.SchoolID == 0 || s.SchoolID == d.SchoolID)
		})
	}
	return s.Teachers && slices.Contains(v.Posts, Post{Teacher, s.SchoolID})
}

// shared tells whether a share lets someone who may read keys do something.
func (v Viewer) shared(o Owned, lets func(Share) bool) bool {
	return v.MayReadKeys() && slices.ContainsFunc(o.Shares, func(s Share) bool { return s.reaches(v) && lets(s) })
}

// seesByPost tells whether a builder sees a thing without a share: all see the
// district's, and those of their own school.
func (v Viewer) seesByPost(o Owned) bool {
	s := v.Scope()
	if o.Alone {
		return v.MayBuild() && o.OwnerID == v.PersonID
	}
	return v.MayBuild() && (s.District || o.SchoolID == 0 || slices.Contains(s.Schools, o.SchoolID))
}

// MaySee tells whether staff may look at an assessment or band set: builders by their
// post, and who it is shared with.
func (v Viewer) MaySee(o Owned) bool {
	return v.seesByPost(o) || v.shared(o, func(Share) bool { return true })
}

// MayChange narrows MaySee to who may write: who may send it, and those who edit it too.
func (v Viewer) MayChange(o Owned) bool {
	return v.MaySend(o) || v.MayBuild() && v.shared(o, func(s Share) bool { return s.Edit })
}

// MaySend tells whose an assessment is: the district coordinators' anything, a
// school coordinator's what belongs to the own school. They send it and say with whom
// it is shared; who edits it too does not.
func (v Viewer) MaySend(o Owned) bool {
	s := v.Scope()
	if o.Alone {
		return v.MayBuild() && o.OwnerID == v.PersonID
	}
	return s.District || o.SchoolID != 0 && v.MayBuild() && slices.Contains(s.Schools, o.SchoolID)
}

// MayCopy tells whether a builder may start an assessment from this one.
func (v Viewer) MayCopy(o Owned) bool {
	return v.seesByPost(o) || v.MayBuild() && v.shared(o, func(s Share) bool { return s.Copy })
}

// MayPrint tells whether staff may put this assessment on paper, as far as its banks allow.
func (v Viewer) MayPrint(o Owned) bool {
	return v.seesByPost(o) || v.shared(o, func(s Share) bool { return s.Print })
}

// WorksAt tells whether a viewer has a post at a school, or in the whole district.
func (v Viewer) WorksAt(school int64) bool {
	return slices.ContainsFunc(v.Posts, func(p Post) bool { return p.Role != Student && (p.SchoolID == school || p.SchoolID == 0) })
}

// HomeSchool is the school that a builder's new things belong to, 0 for the district.
func (v Viewer) HomeSchool() int64 {
	if v.holds(DistrictCoordinator) {
		return 0
	}
	for _, p := range v.Posts {
		if p.Role == SchoolCoordinator {
			return p.SchoolID
		}
	}
	return 0
}
