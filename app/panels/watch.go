package panels

import (
	"context"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/run/events"
)

// led is a panel as its chair moves it; worked is one as its judges give something.
func led(id int64) events.Thing    { return events.Thing{Kind: "led", ID: id} }
func worked(id int64) events.Thing { return events.Thing{Kind: "worked", ID: id} }

// Watch tells a judge of a panel that the chair has moved on, and who may see it as the chair does also that judges gave something.
// End it with stop.
func (a *Panels) Watch(ctx context.Context, v roster.Viewer, id int64) (changed <-chan struct{}, stop func(), err error) {
	o, err := a.read(ctx, a.Store.Reader, id)
	if err != nil {
		return nil, nil, err
	}
	watched := []events.Thing{led(id)}
	_, judges := o.judge(v.PersonID)
	switch {
	case v.MayBuild() && v.MaySee(o.Owned()):
		watched = append(watched, worked(id))
	case !judges || !v.IsStaff():
		return nil, nil, desk.ErrNotFound
	}
	changed, stop = a.told.Watch(watched...)
	return changed, stop, nil
}
