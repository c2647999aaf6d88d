package roster_test

import (
	"fmt"

	"pineledger/core/roster"
)

// A teacher reads keys once the window is over, or when a coordinator opens them.
func ExampleViewer_MayReadKeysBefore() {
	teacher := roster.Viewer{Posts: []roster.Post{{Role: roster.Teacher, SchoolID: 1}}}
	coordinator := roster.Viewer{Posts: []roster.Post{{Role: roster.DistrictCoordinator}}}
	fmt.Println(teacher.MayReadKeysBefore(false, false), teacher.MayReadKeysBefore(true, false), teacher.MayReadKeysBefore(false, true))
	fmt.Println(coordinator.MayReadKeysBefore(false, false))
	// Output:
	// false true true
	// true
}
