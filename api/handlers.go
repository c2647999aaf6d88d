package api

import (
	"context"
	"encoding/json"
	"net"
	"strings"
	"time"

	"pineledger/app"
	"pineledger/core/roster"
	"pineledger/store"
)

// handlers implements the contract over the use cases, one file a tag.
type handlers struct {
	app      *app.App
	sessions *sessions
	demo     bool
	limits   *limits
}

var _ StrictServerInterface = (*handlers)(nil)

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

// jsonStrings reads a stored JSON array of strings.
func jsonStrings(text string) []string {
	out := []string{}
	if err := json.Unmarshal([]byte(text), &out); err != nil {
		panic("stored list is not JSON: " + text)
	}
	return out
}

func timeOf(ms int64) time.Time { return store.Time(ms) }

func (h *handlers) session(ctx context.Context, v roster.Viewer, signedIn bool) (Session, error) {
	d, err := h.app.District(ctx)
	if err != nil {
		return Session{}, err
	}
	s := Session{SignedIn: signedIn, Demo: h.demo, PersonId: v.PersonID, Name: v.Name, Roles: []string{}, Rights: []SessionRights{},
		District: d.Name, TimeZone: d.TimeZone, Year: d.Year}
	for _, p := range v.Posts {
		s.Roles = append(s.Roles, string(p.Role))
	}
	for _, r := range []struct {
		right SessionRights
		has   bool
	}{{SessionRightsStaff, v.IsStaff()}, {SessionRightsStudent, v.IsStudent()}, {SessionRightsImport, v.MayImport()}, {SessionRightsBuild, v.MayBuild()}, {SessionRightsReadKeys, v.MayReadKeys()}, {SessionRightsReadLedger, v.MayReadLedger()}} {
		if r.has {
			s.Rights = append(s.Rights, r.right)
		}
	}
	return s, nil
}

func (h *handlers) GetSession(ctx context.Context, _ GetSessionRequestObject) (GetSessionResponseObject, error) {
	v, err := who(ctx)
	s, sessionErr := h.session(ctx, v, err == nil)
	return GetSession200JSONResponse(s), sessionErr
}

func (h *handlers) SignIn(ctx context.Context, r SignInRequestObject) (SignInResponseObject, error) {
	if !h.limits.allow(string(r.Body.As)+":"+strings.ToLower(r.Body.Name), remote(ctx)) {
		return nil, errTooMany
	}
	signIn := h.app.SignInStaff
	if r.Body.As == SignInAsStudent {
		signIn = h.app.SignInStudent
	}
	v, err := signIn(ctx, r.Body.Name, r.Body.Secret)
	if err != nil {
		return nil, err
	}
	if err := h.sessions.begin(ctx, v); err != nil {
		return nil, err
	}
	s, err := h.session(ctx, v, true)
	return SignIn200JSONResponse(s), err
}

func (h *handlers) SignOut(ctx context.Context, _ SignOutRequestObject) (SignOutResponseObject, error) {
	return SignOut204Response{}, h.sessions.manager.Destroy(ctx)
}

func (h *handlers) ListDemoPeople(ctx context.Context, _ ListDemoPeopleRequestObject) (ListDemoPeopleResponseObject, error) {
	if !h.demo {
		return nil, app.ErrNotFound
	}
	people, err := h.app.DemoPeople(ctx)
	return ListDemoPeople200JSONResponse(each(people, func(p store.SignInPerson) DemoPerson {
		return DemoPerson{Id: p.ID, Name: p.Name, Role: p.Role, School: p.School, Grade: p.Grade}
	})), err
}

func (h *handlers) SignInToTry(ctx context.Context, r SignInToTryRequestObject) (SignInToTryResponseObject, error) {
	if !h.demo {
		return nil, app.ErrNotFound
	}
	v, err := h.app.SignInToTry(ctx, r.Body.PersonId)
	if err != nil {
		return nil, err
	}
	if err := h.sessions.begin(ctx, v); err != nil {
		return nil, err
	}
	s, err := h.session(ctx, v, true)
	return SignInToTry200JSONResponse(s), err
}

type remoteKey struct{}

// remote is the address a request came from, as the connection has it: nothing
// that a client can write into a header.
func remote(ctx context.Context) string {
	address, _ := ctx.Value(remoteKey{}).(string)
	host, _, err := net.SplitHostPort(address)
	if err != nil {
		return address
	}
	return host
}
