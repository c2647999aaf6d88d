// Package give is the room where sealed assessments go out.
package give

import (
	"pineledger/app/build"
	"pineledger/app/desk"
)

// Give sends sealed assessments to sections.
type Give struct {
	*desk.Desk
	build *build.Build
}

// New opens the room.
func New(d *desk.Desk, b *build.Build) *Give { return &Give{d, b} }
