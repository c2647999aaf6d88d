package roster_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/roster"
)

var (
	district = roster.Viewer{PersonID: 1, Posts: []roster.Post{{Role: roster.DistrictCoordinator}}}
	school   = roster.Viewer{PersonID: 2, Posts: []roster.Post{{Role: roster.SchoolCoordinator, SchoolID: 10}}}
	teacher  = roster.Viewer{PersonID: 3, Posts: []roster.Post{{Role: roster.Teacher, SchoolID: 10}}, Sections: []int64{100}}
	proctor  = roster.Viewer{PersonID: 4, Posts: []roster.Post{{Role: roster.Proctor, SchoolID: 10}}, Sections: []int64{100}}
	student  = roster.Viewer{PersonID: 5, Posts: []roster.Post{{Role: roster.Student, SchoolID: 10}}, Sections: []int64{100}}
	nobody   = roster.Viewer{PersonID: 6}
)

func TestRights(t *testing.T) {
	for _, c := range []struct {
		name                              string
		who                               roster.Viewer
		imports, keys, builds, ledger     bool
		ownSection, ownSchool, otherPlace bool
	}{
		{"district coordinator", district, true, true, true, true, true, true, true},
		{"school coordinator", school, false, true, true, false, true, true, false},
		{"teacher", teacher, false, true, false, false, true, false, false},
		{"proctor", proctor, false, false, false, false, true, false, false},
		{"student", student, false, false, false, false, false, false, false},
		{"nobody", nobody, false, false, false, false, false, false, false},
	} {
		t.Run(c.name, func(t *testing.T) {
			assert.Equal(t, c.imports, c.who.MayImport(), "imports")
			assert.Equal(t, c.keys, c.who.MayReadKeys(), "keys")
			assert.Equal(t, c.builds, c.who.MayBuild(), "builds")
			assert.Equal(t, c.ledger, c.who.MayReadLedger(), "ledger")
			assert.Equal(t, c.ownSection, c.who.Scope().Reaches(10, 100), "own section")
			assert.Equal(t, c.ownSchool, c.who.Scope().Reaches(10, 101), "own school, another section")
			assert.Equal(t, c.otherPlace, c.who.Scope().Reaches(11, 110), "another school")
		})
	}
}

func TestAStudentReachesOnlyTheirOwn(t *testing.T) {
	assert.Equal(t, roster.Scope{Student: 5}, student.Scope())
	assert.False(t, student.IsStaff())
	assert.True(t, student.IsStudent())
}

func TestSchoolCoordinatorsChangeTheirOwnSchoolsThings(t *testing.T) {
	districts, own, others := roster.Owned{}, roster.Owned{SchoolID: 10}, roster.Owned{SchoolID: 11}
	assert.True(t, school.MaySee(districts))
	assert.False(t, school.MayChange(districts), "nobody downstream bends the district's benchmark")
	assert.True(t, school.MayChange(own))
	assert.False(t, school.MaySee(others))
	assert.True(t, district.MayChange(others))
	assert.False(t, teacher.MaySee(districts), "a draft's keys are for builders")
	assert.EqualValues(t, 10, school.HomeSchool())
	assert.Zero(t, district.HomeSchool())
	both := roster.Viewer{Posts: []roster.Post{{Role: roster.SchoolCoordinator, SchoolID: 10}, {Role: roster.DistrictCoordinator}}}
	assert.Zero(t, both.HomeSchool(), "of the district first")
	assert.Zero(t, teacher.HomeSchool(), "who builds nothing")
}

func TestWhatIsOnePersonsIsNobodyElses(t *testing.T) {
	for name, o := range map[string]roster.Owned{"at a school": {OwnerID: school.PersonID, SchoolID: 10, Alone: true}, "in the district": {OwnerID: school.PersonID, Alone: true}} {
		assert.True(t, school.MaySee(o), name)
		assert.True(t, school.MayChange(o), name)
		assert.False(t, district.MaySee(o), name)
		assert.False(t, district.MayChange(o), name)
		colleague := school
		colleague.PersonID = 99
		assert.False(t, colleague.MaySee(o), name)
		former := roster.Viewer{PersonID: school.PersonID, Posts: []roster.Post{{Role: roster.Teacher, SchoolID: 10}}}
		assert.False(t, former.MaySee(o), "who builds no more")
		assert.False(t, former.MayChange(o), "who builds no more")
	}
}

func TestWhoWorksAtASchool(t *testing.T) {
	assert.True(t, school.WorksAt(10))
	assert.False(t, school.WorksAt(11))
	assert.True(t, district.WorksAt(11), "the district is everywhere")
	student := roster.Viewer{Posts: []roster.Post{{Role: roster.Student, SchoolID: 10}}}
	assert.False(t, student.WorksAt(10))
	assert.False(t, student.WorksAt(11))
}

func TestAShareLetsOneInAndNoFurtherThanItSays(t *testing.T) {
	far := roster.Viewer{PersonID: 7, Posts: []roster.Post{{Role: roster.SchoolCoordinator, SchoolID: 11}}}
	maths := roster.Viewer{PersonID: 8, Posts: []roster.Post{{Role: roster.Teacher, SchoolID: 11}}, Departments: []roster.Department{{SchoolID: 11, Subject: "mathematics"}}}
	of := func(s roster.Share) roster.Owned { return roster.Owned{SchoolID: 10, Shares: []roster.Share{s}} }
	for _, c := range []struct {
		says                             string
		who                              roster.Viewer
		share                            roster.Share
		see, change, copies, print, send bool
	}{
		{"no share", far, roster.Share{PersonID: 99, Edit: true}, false, false, false, false, false},
		{"to look at", far, roster.Share{PersonID: 7}, true, false, false, false, false},
		{"to edit", far, roster.Share{PersonID: 7, Edit: true}, true, true, false, false, false},
		{"to copy", far, roster.Share{PersonID: 7, Copy: true}, true, false, true, false, false},
		{"to print", far, roster.Share{PersonID: 7, Print: true}, true, false, false, true, false},
		{"with a school", far, roster.Share{SchoolID: 11, Copy: true}, true, false, true, false, false},
		{"with another school", far, roster.Share{SchoolID: 12}, false, false, false, false, false},
		{"with a teacher, who builds nothing", teacher, roster.Share{PersonID: 3, Edit: true, Copy: true, Print: true}, true, false, false, true, false},
		{"with a school’s coordinators, not its teachers", maths, roster.Share{SchoolID: 11}, false, false, false, false, false},
		{"with a school and its teachers", maths, roster.Share{SchoolID: 11, Teachers: true}, true, false, false, false, false},
		{"with another school’s teachers", maths, roster.Share{SchoolID: 12, Teachers: true}, false, false, false, false, false},
		{"with a department", maths, roster.Share{SchoolID: 11, Subject: "mathematics", Print: true}, true, false, false, true, false},
		{"with the coordinators of a department’s school", far, roster.Share{SchoolID: 11, Subject: "mathematics", Copy: true}, true, false, true, false, false},
		{"with the department of another school", maths, roster.Share{SchoolID: 12, Subject: "mathematics"}, false, false, false, false, false},
		{"with another department", maths, roster.Share{SchoolID: 11, Subject: "science", Teachers: true}, false, false, false, false, false},
		{"with a department everywhere", maths, roster.Share{Subject: "mathematics"}, true, false, false, false, false},
		{"with a department, of a student", roster.Viewer{PersonID: 9, Posts: []roster.Post{{Role: roster.Student, SchoolID: 11}}}, roster.Share{SchoolID: 11, Teachers: true}, false, false, false, false, false},
		{"with a proctor by name", roster.Viewer{PersonID: 9, Posts: []roster.Post{{Role: roster.Proctor, SchoolID: 11}}}, roster.Share{PersonID: 9}, false, false, false, false, false},
		{"one's own school's", school, roster.Share{PersonID: 99}, true, true, true, true, true},
	} {
		t.Run(c.says, func(t *testing.T) {
			o := of(c.share)
			assert.Equal(t, c.see, c.who.MaySee(o), "see")
			assert.Equal(t, c.change, c.who.MayChange(o), "change")
			assert.Equal(t, c.copies, c.who.MayCopy(o), "copy")
			assert.Equal(t, c.print, c.who.MayPrint(o), "print")
			assert.Equal(t, c.send, c.who.MaySend(o), "send")
		})
	}
}
