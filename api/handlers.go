package api

import (
	"context"
	"errors"
	"strings"
	"time"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app"
	"pineledger/app/desk"
	"pineledger/app/office"
	"pineledger/core/roster"
)

// handlers implements the contract over the use cases: those of each room stand on
// a type of their own, in files named by what they are about.
type handlers struct {
	officeHandlers
	bankHandlers
	itemHandlers
	shelfHandlers
	writingHandlers
	buildHandlers
	cutsHandlers
	panelHandlers
	drawHandlers
	shareHandlers
	giveHandlers
	supportHandlers
	takeHandlers
	readHandlers
}

type (
	officeHandlers struct {
		app      *app.App
		sessions *edge.Sessions
		limits   *edge.Limits
		demo     bool
		mailbox  string // where the mail of the demo can be read
	}
	bankHandlers    struct{ app *app.App }
	itemHandlers    struct{ app *app.App }
	shelfHandlers   struct{ app *app.App }
	writingHandlers struct{ app *app.App }
	buildHandlers   struct{ app *app.App }
	cutsHandlers    struct{ app *app.App }
	panelHandlers   struct{ app *app.App }
	drawHandlers    struct{ app *app.App }
	shareHandlers   struct{ app *app.App }
	giveHandlers    struct{ app *app.App }
	supportHandlers struct{ app *app.App }
	takeHandlers    struct {
		app      *app.App
		sessions *edge.Sessions
	}
	readHandlers struct{ app *app.App }
)

func newHandlers(a *app.App, sessions *edge.Sessions, demo bool, mailbox string) *handlers {
	return &handlers{officeHandlers{a, sessions, edge.NewLimits(), demo, mailbox}, bankHandlers{a}, itemHandlers{a}, shelfHandlers{a}, writingHandlers{a},
		buildHandlers{a}, cutsHandlers{a}, panelHandlers{a}, drawHandlers{a}, shareHandlers{a}, giveHandlers{a}, supportHandlers{a}, takeHandlers{a, sessions}, readHandlers{a}}
}

var _ contract.StrictServerInterface = (*handlers)(nil)

// each translates a list; an empty one stays a list.
func each[A, B any](in []A, f func(A) B) []B {
	out := make([]B, len(in))
	for i, v := range in {
		out[i] = f(v)
	}
	return out
}

// value reads an optional field.
func value[T any](p *T) T {
	if p == nil {
		var zero T
		return zero
	}
	return *p
}

// some makes an optional field that is left out when it is zero.
func some[T comparable](v T) *T {
	var zero T
	if v == zero {
		return nil
	}
	return &v
}

func codes(list string) []string { return append([]string{}, strings.Fields(list)...) }

// listed is a list as the contract has it: an empty one stays a list.
func listed(list []string) []string { return append([]string{}, list...) }

func timeOf(ms int64) time.Time { return time.UnixMilli(ms).UTC() }

func (h *officeHandlers) session(ctx context.Context, v roster.Viewer, signedIn bool) (contract.Session, error) {
	d, err := h.app.District(ctx)
	if err != nil {
		return contract.Session{}, err
	}
	s := contract.Session{SignedIn: signedIn, Demo: h.demo, PersonId: v.PersonID, Name: v.Name, Roles: []string{}, Rights: []contract.SessionRights{},
		District: d.Name, TimeZone: d.TimeZone, Year: d.Year, Mailbox: some(h.mailbox)}
	for _, p := range v.Posts {
		s.Roles = append(s.Roles, string(p.Role))
	}
	for _, r := range []struct {
		right contract.SessionRights
		has   bool
	}{{contract.SessionRightsStaff, v.IsStaff()}, {contract.SessionRightsStudent, v.IsStudent()}, {contract.SessionRightsImport, v.MayImport()}, {contract.SessionRightsBuild, v.MayBuild()}, {contract.SessionRightsReadKeys, v.MayReadKeys()}, {contract.SessionRightsReadLedger, v.MayReadLedger()},
		{contract.SessionRightsReadSupports, v.MayReadSupports()}} {
		if r.has {
			s.Rights = append(s.Rights, r.right)
		}
	}
	return s, nil
}

func (h *officeHandlers) GetSession(ctx context.Context, _ contract.GetSessionRequestObject) (contract.GetSessionResponseObject, error) {
	v, err := edge.Who(ctx)
	s, sessionErr := h.session(ctx, v, err == nil)
	return contract.GetSession200JSONResponse(s), sessionErr
}

func (h *officeHandlers) SignIn(ctx context.Context, r contract.SignInRequestObject) (contract.SignInResponseObject, error) {
	signIn := h.app.Office.SignInStaff
	if r.Body.As == contract.SignInAsStudent {
		signIn = h.app.Office.SignInStudent
	}
	// The name is counted as the look-up folds it: spaces and capitals begin nothing anew.
	right, ok := h.limits.Try(string(r.Body.As)+":"+office.FoldName(r.Body.Name), edge.Remote(ctx))
	if !ok {
		return nil, edge.ErrTooMany
	}
	v, err := signIn(ctx, r.Body.Name, r.Body.Secret)
	if errors.Is(err, office.ErrSignIn) {
		return nil, err
	}
	right() // also where the fault is ours
	if err != nil {
		return nil, err
	}
	if err := h.sessions.Begin(ctx, v); err != nil {
		return nil, err
	}
	s, err := h.session(ctx, v, true)
	return contract.SignIn200JSONResponse(s), err
}

func (h *officeHandlers) SignOut(ctx context.Context, _ contract.SignOutRequestObject) (contract.SignOutResponseObject, error) {
	return contract.SignOut204Response{}, h.sessions.Manager.Destroy(ctx)
}

func (h *officeHandlers) ListDemoPeople(ctx context.Context, _ contract.ListDemoPeopleRequestObject) (contract.ListDemoPeopleResponseObject, error) {
	if !h.demo {
		return nil, desk.ErrNotFound
	}
	people, err := h.app.Office.DemoPeople(ctx)
	return contract.ListDemoPeople200JSONResponse(each(people, func(p office.SignInPerson) contract.DemoPerson {
		return contract.DemoPerson{Id: p.ID, Name: p.Name, Role: p.Role, School: p.School, Grade: p.Grade}
	})), err
}

func (h *officeHandlers) SignInToTry(ctx context.Context, r contract.SignInToTryRequestObject) (contract.SignInToTryResponseObject, error) {
	if !h.demo {
		return nil, desk.ErrNotFound
	}
	v, err := h.app.Office.SignInToTry(ctx, r.Body.PersonId)
	if err != nil {
		return nil, err
	}
	if err := h.sessions.Begin(ctx, v); err != nil {
		return nil, err
	}
	s, err := h.session(ctx, v, true)
	return contract.SignInToTry200JSONResponse(s), err
}
