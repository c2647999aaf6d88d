package read

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/results"
)

// Nothing that stands beside a class leaves fewer than ten when one is taken from the other.
func TestTheDistrictIsNotToldWhereTheSchoolLeavesTooFewOfIt(t *testing.T) {
	of := func(school int64, n int) Group { return Group{SchoolID: school, Group: results.Group{N: n}} }
	told := func(class, school, district int) (out []int64) {
		b := ByBand{Schools: []Group{of(1, class)}, All: of(0, class)}
		for i := range b.Schools {
			b.Schools[i].Bands = []int{0}
		}
		b.beside(ByBand{Schools: []Group{of(1, school), of(2, district-school)}, All: of(0, district)})
		for _, g := range b.Beside {
			out = append(out, g.SchoolID)
		}
		return out
	}
	assert.Equal(t, []int64{1, 0}, told(20, 50, 60))
	assert.Equal(t, []int64{1}, told(20, 50, 59), "the other school's nine could be worked out")
	assert.Equal(t, []int64{0}, told(20, 25, 40), "five of the school are too few, twenty of the district are not")
	assert.Empty(t, told(20, 25, 29))
}
