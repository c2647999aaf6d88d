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
}
