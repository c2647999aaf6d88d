package roster_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"pineledger/core/roster"
)

// Reading 5 at two schools, Language Arts 5 at one of them, a newcomers' section, and a section of grade 4 in which somebody reads ahead.
var rooms = []roster.Candidate{
	{ID: 1, School: 10, Course: 100, Grades: []string{"05"}, Fits: true, Teaches: true, Students: []int64{1, 2, 3}},
	{ID: 2, School: 10, Course: 101, Grades: []string{"05"}, Fits: true, Students: []int64{3, 4}},
	{ID: 3, School: 11, Course: 100, Grades: []string{"05"}, Fits: true, Teaches: true, Students: []int64{5, 6, 7}},
	{ID: 4, School: 11, Course: 102, Grades: []string{"05", "06"}, Fits: true, Students: []int64{7, 8}},
	{ID: 5, School: 11, Course: 103, Grades: []string{"04"}, Students: []int64{9}},
}

func whom(entries ...roster.Entry) roster.Whom { return roster.Whom{Entries: entries} }

func TestWhomEntriesMean(t *testing.T) {
	groups := map[int64][]int64{50: {9, 2, 99}}
	for name, c := range map[string]struct {
		whom    roster.Whom
		seats   map[int64][]int64
		account []roster.Count
	}{
		"nothing is nobody": {whom(), map[int64][]int64{}, []roster.Count{{}}},
		"an entry that narrows nothing is every section that fits, each student once": {whom(roster.Entry{}),
			map[int64][]int64{1: {1, 2, 3}, 2: {4}, 3: {5, 6, 7}, 4: {8}}, []roster.Count{{10, 2, 4, 10}, {-2, 2, 4, 8}}},
		"a course in a school": {whom(roster.Entry{Courses: []int64{100}, Schools: []int64{11}}), map[int64][]int64{3: {5, 6, 7}},
			[]roster.Count{{3, 1, 1, 3}, {0, 1, 1, 3}}},
		"a grade among several of a section": {whom(roster.Entry{Grades: []string{"06"}}), map[int64][]int64{4: {7, 8}},
			[]roster.Count{{2, 1, 1, 2}, {0, 1, 1, 2}}},
		"sections are added and left out in order": {whom(roster.Entry{Schools: []int64{10}}, roster.Entry{Out: true, Sections: []int64{1}}, roster.Entry{Sections: []int64{3}}),
			map[int64][]int64{2: {3, 4}, 3: {5, 6, 7}}, []roster.Count{{5, 1, 2, 5}, {-3, 1, 1, 2}, {3, 2, 2, 5}, {0, 2, 2, 5}}},
		"a group is seated in a section that does not fit, and who has a seat gets no second": {
			whom(roster.Entry{Sections: []int64{1}}, roster.Entry{Groups: []int64{50}}), map[int64][]int64{1: {1, 2, 3}, 5: {9}},
			[]roster.Count{{3, 1, 1, 3}, {1, 2, 2, 4}, {0, 2, 2, 4}}},
		"people of one grade alone":                                      {whom(roster.Entry{Groups: []int64{50}, Grades: []string{"04"}}), map[int64][]int64{5: {9}}, []roster.Count{{1, 1, 1, 1}, {0, 1, 1, 1}}},
		"somebody in two sections is seated where the subject is taught": {whom(roster.Entry{Students: []int64{7}}), map[int64][]int64{3: {7}}, []roster.Count{{1, 1, 1, 1}, {0, 1, 1, 1}}},
		"people are left out of every section": {whom(roster.Entry{Schools: []int64{11}}, roster.Entry{Out: true, Students: []int64{7}}), map[int64][]int64{3: {5, 6}, 4: {8}},
			[]roster.Count{{5, 1, 2, 5}, {-2, 1, 2, 3}, {0, 1, 2, 3}}},
		"and come back by a later entry": {whom(roster.Entry{Out: true, Students: []int64{5}}, roster.Entry{Sections: []int64{3}}), map[int64][]int64{3: {5, 6, 7}},
			[]roster.Count{{0, 0, 0, 0}, {3, 1, 1, 3}, {0, 1, 1, 3}}},
	} {
		t.Run(name, func(t *testing.T) {
			got := c.whom.Resolve(rooms, groups)
			assert.Equal(t, c.seats, got.Students)
			assert.Equal(t, c.account, got.Account)
			assert.Equal(t, c.account[len(c.account)-1], got.Total())
		})
	}
}

func TestWhoIsInTwoSectionsIsNamed(t *testing.T) {
	got := whom(roster.Entry{Sections: []int64{2}}, roster.Entry{Sections: []int64{1}}).Resolve(rooms, nil)
	assert.Equal(t, []roster.Choice{{Student: 3, In: 1, Not: []int64{2}}}, got.Twice, "the course of the subject goes before an earlier entry")
	plain := slices.Clone(rooms)
	plain[0].Teaches = false
	got = whom(roster.Entry{Sections: []int64{2}}, roster.Entry{Sections: []int64{1}}).Resolve(plain, nil)
	assert.Equal(t, []roster.Choice{{Student: 3, In: 2, Not: []int64{1}}}, got.Twice, "then an earlier entry")
	got = whom(roster.Entry{Sections: []int64{1, 2}}).Resolve(plain, nil)
	assert.Equal(t, []roster.Choice{{Student: 3, In: 1, Not: []int64{2}}}, got.Twice, "then as they are listed")
	said := whom(roster.Entry{Sections: []int64{1, 2}})
	said.Seated = []roster.SeatIn{{Student: 3, Section: 2}, {Student: 3, Section: 4}, {Student: 1, Section: 2}}
	got = said.Resolve(rooms, nil)
	assert.Equal(t, []roster.Choice{{Student: 3, In: 2, Not: []int64{1}}}, got.Twice, "before all of that, where a person said it")
	assert.NotContains(t, got.Students[2], int64(1), "nobody is put into a section that is not theirs")
	assert.Equal(t, whom(roster.Entry{Sections: []int64{1, 2}}).Resolve(rooms, nil).Total(), got.Total())
}

func TestWhoIsInNoSectionIsNamed(t *testing.T) {
	got := whom(roster.Entry{Students: []int64{99, 1}}).Resolve(rooms, nil)
	assert.Equal(t, []int64{99}, got.Nowhere)
	assert.Equal(t, 1, got.Total().Students)
	assert.Empty(t, whom(roster.Entry{Students: []int64{99}}, roster.Entry{Out: true, Students: []int64{99}}).Resolve(rooms, nil).Nowhere)
}

func TestWhoIsLeftOutByName(t *testing.T) {
	groups := map[int64][]int64{50: {9}}
	w := whom(roster.Entry{}, roster.Entry{Out: true, Groups: []int64{50}}, roster.Entry{Out: true, Students: []int64{4}}, roster.Entry{Students: []int64{4}})
	assert.True(t, w.LeavesOut(9, groups))
	assert.False(t, w.LeavesOut(4, groups), "the last that names them counts")
	assert.False(t, w.LeavesOut(1, groups))
	assert.Equal(t, []int64{50}, w.Groups())
	assert.Equal(t, []int64{4}, w.Named(groups))
	assert.Equal(t, []roster.Entry{{Sections: []int64{1, 2}}, {Out: true, Students: []int64{7}}}, roster.ToSections(1, 2).Without(7).Entries)
	assert.Empty(t, roster.ToSections().Without().Entries)
}

// Whatever is said: nobody gets two seats, nobody sits where they are not enrolled, and the account adds up.
func TestEverybodyHasOneSeat(t *testing.T) {
	ids := rapid.SliceOfNDistinct(rapid.Int64Range(1, 12), 0, 4, rapid.ID)
	rapid.Check(t, func(t *rapid.T) {
		var sections []roster.Candidate
		for i := range rapid.IntRange(0, 6).Draw(t, "sections") {
			sections = append(sections, roster.Candidate{ID: int64(i + 1), School: rapid.Int64Range(1, 3).Draw(t, "school"), Course: rapid.Int64Range(1, 2).Draw(t, "course"),
				Fits: rapid.Bool().Draw(t, "fits"), Teaches: rapid.Bool().Draw(t, "teaches"), Students: ids.Draw(t, "students")})
		}
		var w roster.Whom
		for range rapid.IntRange(0, 4).Draw(t, "entries") {
			e := roster.Entry{Out: rapid.Bool().Draw(t, "out")}
			switch rapid.IntRange(0, 3).Draw(t, "of") {
			case 0:
				e.Schools = ids.Draw(t, "schools")
			case 1:
				e.Sections = ids.Draw(t, "chosen")
			case 2:
				e.Students = ids.Draw(t, "people")
			}
			w.Entries = append(w.Entries, e)
		}
		got := w.Resolve(sections, nil)
		seats := 0
		seen := map[int64]bool{}
		for _, c := range sections {
			for _, s := range got.Students[c.ID] {
				assert.Contains(t, c.Students, s)
				assert.False(t, seen[s], "a second seat")
				seen[s] = true
				seats++
			}
		}
		sum := 0
		for _, c := range got.Account {
			sum += c.Change
			assert.Equal(t, sum, c.Students)
		}
		assert.Equal(t, seats, got.Total().Students)
		assert.Equal(t, len(got.Students), got.Total().Sections)
		again := w
		again.Entries = append(again.Entries, roster.Entry{Out: true})
		for _, c := range sections {
			if c.Fits {
				assert.Empty(t, again.Resolve(sections, nil).Students[c.ID], "nothing is left of what fits")
			}
		}
	})
}
