// Package read is the room of results: by band and standard, student by line, and
// the trail of a score.
package read

import "pineledger/app/desk"

// Read shows results.
type Read struct{ *desk.Desk }

// New opens the room.
func New(d *desk.Desk) *Read { return &Read{d} }
