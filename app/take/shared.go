package take

import (
	"context"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/giverows"
)

// inRoomOf lists a sitting in scope, first, with those in scope that share its room.
func inRoomOf(ctx context.Context, r store.Reader, scope roster.Scope, id int64) ([]Sitting, error) {
	s, err := giverows.SittingInScope(ctx, r, scope, id)
	if err != nil || s.RoomID == 0 {
		return []Sitting{s}, err
	}
	others, err := giverows.InRoom(ctx, r, scope, s.RoomID)
	out := []Sitting{s}
	for _, o := range others {
		if o.ID != id {
			out = append(out, o)
		}
	}
	return out, err
}

// behindDoor is inRoomOf for who moves the door: it refuses who does not reach all that share the room.
func behindDoor(ctx context.Context, r store.Reader, scope roster.Scope, id int64) ([]Sitting, error) {
	theirs, err := inRoomOf(ctx, r, scope, id)
	if err != nil {
		return nil, err
	}
	all, err := inRoomOf(ctx, r, roster.Scope{District: true}, id)
	if err == nil && len(theirs) < len(all) {
		err = &desk.RefusedError{Why: "Students of other sections sit in this room as well. " + theirs[0].Proctor + " opens and closes its door."}
	}
	return theirs, err
}
