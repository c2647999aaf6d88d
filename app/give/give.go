// Package give is the room where sealed assessments go out.
package give

import (
	"pineledger/app/build"
	"pineledger/app/desk"
	"pineledger/app/supports"
)

// Give sends sealed assessments to sections.
type Give struct {
	*desk.Desk
	build    *build.Build
	supports *supports.Supports
	// OnChange is told at which sittings something else is in force, so that who works there goes by it. It is set
	// before the first use; nil tells nobody.
	OnChange func(sittings []int64)
}

// New opens the room.
func New(d *desk.Desk, b *build.Build, s *supports.Supports) *Give {
	return &Give{Desk: d, build: b, supports: s}
}

func (a *Give) changed(sittings []int64) {
	if a.OnChange != nil && len(sittings) > 0 {
		a.OnChange(sittings)
	}
}
