package app

import (
	"context"
	"crypto/subtle"
	"errors"
	"slices"
	"strings"

	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/store"
)

// ErrSignIn is given for any pair that does not match; it never says which half.
var ErrSignIn = errors.New("that pair is not known; check both and try again")

// dummyHash is compared against when nobody has the name, so that an answer
// takes as long either way.
const dummyHash = argonPrefix + "AAAAAAAAAAAAAAAAAAAAAA$AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA"

// SignInStaff checks an e-mail and a password.
func (a *App) SignInStaff(ctx context.Context, email, password string) (roster.Viewer, error) {
	p, err := a.store.StaffByEmail(ctx, strings.ToLower(strings.TrimSpace(email)))
	if errors.Is(err, ErrNotFound) {
		passwordMatches(dummyHash, password)
		return roster.Viewer{}, ErrSignIn
	}
	if err != nil {
		return roster.Viewer{}, err
	}
	if !passwordMatches(p.Secret, password) {
		return roster.Viewer{}, ErrSignIn
	}
	return a.signedIn(ctx, p.ID, "password")
}

// SignInStudent checks a student number and a PIN.
func (a *App) SignInStudent(ctx context.Context, number, pin string) (roster.Viewer, error) {
	number = strings.TrimSpace(number)
	p, err := a.store.StudentByNumber(ctx, number)
	if errors.Is(err, ErrNotFound) {
		return roster.Viewer{}, ErrSignIn
	}
	if err != nil {
		return roster.Viewer{}, err
	}
	if subtle.ConstantTimeCompare([]byte(a.hashPIN(number, pin)), []byte(p.Secret)) != 1 {
		return roster.Viewer{}, ErrSignIn
	}
	return a.signedIn(ctx, p.ID, "pin")
}

// SignInToTry signs a person in without a secret: the demo's sign-in page alone.
func (a *App) SignInToTry(ctx context.Context, person int64) (roster.Viewer, error) {
	return a.signedIn(ctx, person, "picked on the demo's page")
}

func (a *App) signedIn(ctx context.Context, person int64, how string) (roster.Viewer, error) {
	v, err := a.Viewer(ctx, person)
	if err != nil {
		return v, err
	}
	if !v.IsStaff() {
		return v, nil // students sign in by the hundred at nine o'clock; their attempts are the record
	}
	return v, a.store.Write(ctx, func(tx *store.Tx) error {
		return a.record(ctx, tx, v, act{name: "person.sign-in", thing: "person", id: person, title: v.Name, after: map[string]string{"by": how}})
	})
}

// AddCoordinator makes a district coordinator who is in no roster: the first one.
func (a *App) AddCoordinator(ctx context.Context, given, family, email, password string) error {
	email = strings.ToLower(strings.TrimSpace(email))
	switch {
	case given == "" || family == "":
		return invalid("/name", "A name is needed.")
	case !strings.Contains(email, "@"):
		return invalid("/email", "%q is not an e-mail address.", email)
	case len(password) < 12:
		return invalid("/password", "The password needs 12 characters at least.")
	}
	hash, err := hashPassword(password)
	if err != nil {
		return err
	}
	return a.store.Write(ctx, func(tx *store.Tx) error {
		id, err := tx.AddStaff(ctx, "local:"+email, given, family, email, hash, roster.DistrictCoordinator)
		if err != nil {
			return err
		}
		return a.record(ctx, tx, roster.Viewer{}, act{name: "person.add", thing: "person", id: id, title: given + " " + family,
			after: map[string]any{"role": roster.DistrictCoordinator}, noActor: true})
	})
}

// DemoPeople are those offered on the demo's sign-in page.
func (a *App) DemoPeople(ctx context.Context) ([]store.SignInPerson, error) {
	var out []store.SignInPerson
	for _, role := range []roster.Role{roster.DistrictCoordinator, roster.SchoolCoordinator} {
		people, err := a.store.PeopleToTry(ctx, role, 8)
		if err != nil {
			return nil, err
		}
		if len(people) == 8 { // of two elementary and of two middle schools
			people = slices.Delete(people, 2, 6)
		}
		out = append(out, people...)
	}
	open, err := a.store.Sittings(ctx, roster.Scope{District: true}, store.SittingFilter{OpenAfter: a.now(), Limit: 40})
	if err != nil {
		return nil, err
	}
	// Open rooms first, for there a student can go straight to work.
	state := []attempt.DoorState{attempt.Open, attempt.Waiting, attempt.Held}
	slices.SortStableFunc(open, func(s, t store.Sitting) int { return slices.Index(state, s.Door) - slices.Index(state, t.Door) })
	seen := map[int64]bool{}
	shown := map[attempt.DoorState]int{}
	for _, s := range open {
		if shown[s.Door]++; s.Door == attempt.Closed || shown[s.Door] > 2 {
			continue // a sitting or two in each state is enough
		}
		people, err := a.store.PeopleOfSitting(ctx, s.ID, 2)
		if err != nil {
			return nil, err
		}
		for _, p := range people {
			if !seen[p.ID] {
				out = append(out, p)
			}
			seen[p.ID] = true
		}
	}
	return out, nil
}
