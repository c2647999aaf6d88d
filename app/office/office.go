// Package office is the room of people: who they are, how they sign in, and which
// schools and sections there are.
package office

import "pineledger/app/desk"

// Office is the room of people.
type Office struct{ *desk.Desk }

// New opens the room.
func New(d *desk.Desk) *Office { return &Office{d} }
