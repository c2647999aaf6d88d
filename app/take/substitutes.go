package take

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/giverows"
)

// Bounds of a substitute.
const (
	mostSubstituteName = 80 // characters
	daysAhead          = 14
	mostSubstituted    = 40 // sittings
)

// Substitutes are those of a room, and the rooms beside it that one can see to.
type Substitutes struct {
	List  []giverows.Substitute
	Rooms []giverows.Sitting // of its teachers, one for each room
}

// ErrNoLink refuses a link that never was, was taken back, or whose day is over.
var ErrNoLink = errors.New("this link is not good any more; ask whoever gave it to you for another one")

// maySubstitute tells who may let somebody else see to a sitting: its teachers and coordinators, not who stands in themselves.
func maySubstitute(v roster.Viewer, s Sitting) bool {
	scope := v.Scope()
	return v.MayReadKeys() && scope.Reaches(s.SchoolID, s.SectionID)
}

// Substitutes lists who sees to a sitting in the place of its teachers, today or later.
func (a *Take) Substitutes(ctx context.Context, v roster.Viewer, sitting int64) (Substitutes, error) {
	s, err := giverows.SittingInScope(ctx, a.Store.Reader, v.Scope(), sitting)
	if err != nil {
		return Substitutes{}, err
	}
	if !maySubstitute(v, s) {
		return Substitutes{}, desk.ErrForbidden
	}
	var out Substitutes
	if out.List, err = giverows.SubstitutesAt(ctx, a.Store.Reader, sitting, a.Now()); err != nil {
		return out, err
	}
	beside, err := giverows.TaughtBeside(ctx, a.Store.Reader, v.Scope(), sitting, a.Now())
	if err != nil {
		return out, err
	}
	beside = slices.DeleteFunc(beside, func(b Sitting) bool { return !maySubstitute(v, b) })
	out.Rooms = giverows.ByRoom(beside)
	return out, nil
}

// SubstituteInput is a substitute as a person lets one in.
type SubstituteInput struct {
	Name     string
	Day      string  // 2006-01-02, of the district's calendar
	Sittings []int64 // one of each room
}

// AddSubstitute lets somebody see to rooms for one day, and gives the secret of their link. It is told once and kept nowhere.
func (a *Take) AddSubstitute(ctx context.Context, v roster.Viewer, sitting int64, in SubstituteInput) (giverows.Substitute, string, error) {
	var made giverows.Substitute
	n, err := a.substitute(ctx, in)
	if err != nil {
		return made, "", err
	}
	n.By = v.PersonID
	secret := rand.Text()
	n.Digest = digestOf(secret)
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		if _, err := giverows.SittingInScope(ctx, tx.Reader, v.Scope(), sitting); err != nil {
			return err
		}
		rooms := []string{}
		for i, id := range in.Sittings {
			shared, err := behindDoor(ctx, tx.Reader, v.Scope(), id)
			if err != nil {
				return err
			}
			for _, s := range shared {
				if !maySubstitute(v, s) {
					return desk.ErrForbidden
				}
				if !n.From.Before(s.Setup.V.Ends) || !s.Setup.V.Opens.Before(n.Until) {
					return desk.Invalid(fmt.Sprintf("/sittings/%d", i), "%s has no window on that day.", nameOf(s))
				}
				n.Sittings = append(n.Sittings, s.ID)
			}
			n.SchoolID = shared[0].SchoolID
			rooms = append(rooms, nameOf(shared[0]))
		}
		if made, err = giverows.AddSubstitute(ctx, tx, n); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "sitting.substitute", Thing: "sitting", ID: sitting, Title: strings.Join(rooms, "; "), After: map[string]string{"name": made.Name, "day": made.Day}})
	})
	if err != nil {
		return giverows.Substitute{}, "", err
	}
	a.roomChanged(sitting)
	return made, secret, nil
}

// substitute checks what was asked for.
func (a *Take) substitute(ctx context.Context, in SubstituteInput) (giverows.NewSubstitute, error) {
	name := strings.Join(strings.Fields(in.Name), " ")
	given, family, whole := strings.Cut(name, " ")
	day, err := a.StartOfDay(ctx, in.Day)
	if err != nil {
		return giverows.NewSubstitute{}, desk.Invalid("/day", "%q is no day such as 2026-10-13.", in.Day)
	}
	now := a.Now()
	until := day.AddDate(0, 0, 1)
	switch {
	case !whole || utf8.RuneCountInString(name) > mostSubstituteName:
		return giverows.NewSubstitute{}, desk.Invalid("/name", "Write the first and the last name, in at most %d characters: the record says who opened a door.", mostSubstituteName)
	case !now.Before(until):
		return giverows.NewSubstitute{}, desk.Invalid("/day", "That day is over.")
	case day.After(now.AddDate(0, 0, daysAhead)):
		return giverows.NewSubstitute{}, desk.Invalid("/day", "A link is made at most %d days ahead.", daysAhead)
	case len(in.Sittings) == 0 || len(in.Sittings) > mostSubstituted:
		return giverows.NewSubstitute{}, desk.Invalid("/sittings", "Choose at least one room, and at most %d.", mostSubstituted)
	}
	sorted := slices.Sorted(slices.Values(in.Sittings))
	if len(slices.Compact(sorted)) < len(in.Sittings) {
		return giverows.NewSubstitute{}, desk.Invalid("/sittings", "A room stands there twice.")
	}
	return giverows.NewSubstitute{Given: given, Family: family, Day: in.Day, From: day, Until: until, At: now}, nil
}

// EndSubstitute takes back a link of a sitting. Whoever came by it reaches nothing from then on; what they did stays.
func (a *Take) EndSubstitute(ctx context.Context, v roster.Viewer, sitting, id int64) error {
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		s, err := giverows.SittingInScope(ctx, tx.Reader, v.Scope(), sitting)
		if err != nil {
			return err
		}
		if !maySubstitute(v, s) {
			return desk.ErrForbidden
		}
		list, err := giverows.SubstitutesAt(ctx, tx.Reader, sitting, a.Now())
		if err != nil {
			return err
		}
		at := slices.IndexFunc(list, func(b giverows.Substitute) bool { return b.ID == id })
		if at < 0 {
			return desk.ErrNotFound
		}
		if err := giverows.EndSubstitute(ctx, tx, id, a.Now()); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "substitute.end", Thing: "person", ID: list[at].PersonID, Title: list[at].Name, After: map[string]string{"day": list[at].Day}})
	})
	a.ForgetViewers()
	return err
}

// Link is what somebody who holds a link sees before they come in.
type Link struct {
	giverows.Substitute
	Rooms []giverows.Sitting
	Today bool // it can be used now
}

// LinkOf tells what a link is for, or ErrNoLink.
func (a *Take) LinkOf(ctx context.Context, secret string) (Link, error) {
	b, err := giverows.SubstituteOf(ctx, a.Store.Reader, digestOf(secret))
	if errors.Is(err, desk.ErrNotFound) || err == nil && (b.EndedAt > 0 || !a.Now().Before(store.Time(b.UntilAt))) {
		return Link{}, ErrNoLink
	}
	if err != nil {
		return Link{}, err
	}
	out := Link{Substitute: b, Today: !a.Now().Before(store.Time(b.FromAt))}
	rooms, err := giverows.SubstitutedSittings(ctx, a.Store.Reader, b.ID)
	out.Rooms = giverows.ByRoom(rooms)
	return out, err
}

// ComeBy lets in who holds a link, on its day.
func (a *Take) ComeBy(ctx context.Context, secret string) (roster.Viewer, error) {
	link, err := a.LinkOf(ctx, secret)
	if err != nil {
		return roster.Viewer{}, err
	}
	if !link.Today {
		return roster.Viewer{}, desk.Conflict("This link is for another day.")
	}
	v, err := a.Viewer(ctx, link.PersonID)
	if err != nil {
		return v, err
	}
	return v, a.Store.Write(ctx, func(tx *store.Tx) error {
		if err := giverows.SubstituteCame(ctx, tx, link.ID, a.Now()); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "person.sign-in", Thing: "person", ID: v.PersonID, Title: v.Name, After: map[string]string{"by": "the link of a substitute"}})
	})
}

func digestOf(secret string) string {
	sum := sha256.Sum256([]byte(secret))
	return hex.EncodeToString(sum[:])
}
