package office

import (
	"context"
	"crypto/subtle"
	"errors"
	"slices"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
	"pineledger/store/panelrows"
)

// ErrSignIn is given for any pair that does not match; it never says which half.
var ErrSignIn = errors.New("that pair is not known; check both and try again")

// dummyHash is compared against when nobody has the name, so that an answer
// takes as long either way.
const dummyHash = argonPrefix + "AAAAAAAAAAAAAAAAAAAAAA$AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA"

// FoldName gives one name for all spellings that a look-up could take for the same:
// without the spaces around it, in small letters.
func FoldName(name string) string { return strings.ToLower(strings.TrimSpace(name)) }

// wrongTry writes a wrong secret down, so that guessing is seen, and gives ErrSignIn.
func (a *Office) wrongTry(ctx context.Context, p officerows.Person, what string) error {
	err := a.Store.WriteTogether(ctx, func(tx *store.Tx) error {
		return a.Record(ctx, tx, roster.Viewer{}, desk.Act{Name: "person.wrong-try", Thing: "person", ID: p.ID, Title: p.Name(), After: map[string]string{"with": what}, NoActor: true})
	})
	return errors.Join(ErrSignIn, err)
}

// SignInStaff checks an e-mail and a password.
func (a *Office) SignInStaff(ctx context.Context, email, password string) (roster.Viewer, error) {
	p, err := officerows.StaffByEmail(ctx, a.Store.Reader, FoldName(email))
	if errors.Is(err, desk.ErrNotFound) {
		passwordMatches(dummyHash, password)
		return roster.Viewer{}, ErrSignIn
	}
	if err != nil {
		return roster.Viewer{}, err
	}
	if !passwordMatches(p.Secret, password) {
		return roster.Viewer{}, a.wrongTry(ctx, p, "password")
	}
	return a.signedIn(ctx, p.ID, "password")
}

// SignInStudent checks a student number and a PIN.
func (a *Office) SignInStudent(ctx context.Context, number, pin string) (roster.Viewer, error) {
	number = strings.TrimSpace(number)
	p, err := officerows.StudentByNumber(ctx, a.Store.Reader, number)
	if errors.Is(err, desk.ErrNotFound) {
		return roster.Viewer{}, ErrSignIn
	}
	if err != nil {
		return roster.Viewer{}, err
	}
	if subtle.ConstantTimeCompare([]byte(a.HashPIN(p.Number, pin)), []byte(p.Secret)) != 1 {
		return roster.Viewer{}, a.wrongTry(ctx, p, "pin")
	}
	return a.signedIn(ctx, p.ID, "pin")
}

// SignInToTry signs a person in without a secret: the demo's sign-in page alone.
func (a *Office) SignInToTry(ctx context.Context, person int64) (roster.Viewer, error) {
	return a.signedIn(ctx, person, "picked on the demo's page")
}

func (a *Office) signedIn(ctx context.Context, person int64, how string) (roster.Viewer, error) {
	v, err := a.Viewer(ctx, person)
	if err != nil {
		return v, err
	}
	if !v.IsStaff() {
		return v, nil // students sign in by the hundred at nine o'clock; their attempts are the record
	}
	return v, a.Store.WriteTogether(ctx, func(tx *store.Tx) error {
		return a.Record(ctx, tx, v, desk.Act{Name: "person.sign-in", Thing: "person", ID: person, Title: v.Name, After: map[string]string{"by": how}})
	})
}

// AddCoordinator makes a district coordinator who is in no roster: the first one.
func (a *Office) AddCoordinator(ctx context.Context, given, family, email, password string) error {
	email = strings.ToLower(strings.TrimSpace(email))
	switch {
	case given == "" || family == "":
		return desk.Invalid("/name", "A name is needed.")
	case !strings.Contains(email, "@"):
		return desk.Invalid("/email", "%q is not an e-mail address.", email)
	case len(password) < 12:
		return desk.Invalid("/password", "The password needs 12 characters at least.")
	}
	hash, err := HashPassword(password)
	if err != nil {
		return err
	}
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		id, err := officerows.AddStaff(ctx, tx, "local:"+email, given, family, email, hash, roster.DistrictCoordinator)
		if err != nil {
			return err
		}
		return a.Record(ctx, tx, roster.Viewer{}, desk.Act{Name: "person.add", Thing: "person", ID: id, Title: given + " " + family,
			After: map[string]any{"role": roster.DistrictCoordinator}, NoActor: true})
	})
}

// DemoPeople are those offered on the demo's sign-in page.
func (a *Office) DemoPeople(ctx context.Context) ([]officerows.SignInPerson, error) {
	var out []officerows.SignInPerson
	for _, role := range []roster.Role{roster.DistrictCoordinator, roster.SchoolCoordinator} {
		people, err := officerows.PeopleToTry(ctx, a.Store.Reader, role, 8)
		if err != nil {
			return nil, err
		}
		if len(people) == 8 { // of two elementary and of two middle schools
			people = slices.Delete(people, 2, 6)
		}
		out = append(out, people...)
	}
	open, err := giverows.Sittings(ctx, a.Store.Reader, roster.Scope{District: true}, giverows.SittingFilter{OpenAfter: a.Now(), Limit: 40})
	if err != nil {
		return nil, err
	}
	// Open rooms first, for there a student can go straight to work.
	state := []attempt.DoorState{attempt.Open, attempt.Waiting, attempt.Held}
	slices.SortStableFunc(open, func(s, t giverows.Sitting) int { return slices.Index(state, s.Door) - slices.Index(state, t.Door) })
	seen := map[int64]bool{}
	shown := map[attempt.DoorState]int{}
	for _, s := range open {
		if shown[s.Door]++; s.Door == attempt.Closed || shown[s.Door] > 2 {
			continue // a sitting or two in each state is enough
		}
		people, err := officerows.PeopleOfSitting(ctx, a.Store.Reader, s.ID, 2)
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
	judges, err := panelrows.AtWork(ctx, a.Store.Reader, 1)
	if err != nil {
		return nil, err
	}
	for _, p := range judges {
		if !seen[p.ID] {
			out = append(out, p)
		}
	}
	return out, nil
}
