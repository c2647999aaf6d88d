package app

import (
	"context"
	"fmt"

	"pineledger/core/roster"
	"pineledger/store"
)

// mostShares bounds with how many people and schools one assessment is shared.
const mostShares = 200

// PutShares says with whom an assessment is shared: people who edit it too, or who may
// see, copy or print it, and schools, whose coordinators may.
func (a *App) PutShares(ctx context.Context, v roster.Viewer, id int64, version int, shares []store.Share) (Sheet, error) {
	if len(shares) > mostShares {
		return Sheet{}, invalid("/shares", "An assessment is shared with %d people and schools at most.", mostShares)
	}
	return a.change(ctx, v, id, version, "assessment.share", func(tx *store.Tx, row *store.Assessment) (any, any, error) {
		if !v.MaySend(row.Owned()) {
			return nil, nil, ErrForbidden
		}
		seen := map[[2]int64]bool{}
		for i, s := range shares {
			key := [2]int64{s.PersonID, s.SchoolID}
			switch {
			case (s.PersonID > 0) == (s.SchoolID > 0):
				return nil, nil, invalid(fmt.Sprintf("/shares/%d", i), "Name a person or a school.")
			case seen[key]:
				return nil, nil, invalid(fmt.Sprintf("/shares/%d", i), "It is shared with them already.")
			case s.SchoolID > 0 && s.Edit:
				return nil, nil, invalid(fmt.Sprintf("/shares/%d", i), "A whole school does not edit; name the people who do.")
			}
			seen[key] = true
			if s.PersonID > 0 {
				person, err := a.Viewer(ctx, s.PersonID)
				if err != nil || !person.MayBuild() {
					return nil, nil, invalid(fmt.Sprintf("/shares/%d", i), "Only coordinators build assessments; share it with one of them.")
				}
			}
		}
		before := row.Shares
		return shareNotes(before), shareNotes(shares), tx.PutShares(ctx, id, shares)
	})
}

type shareNote struct {
	Person int64  `json:"person,omitempty"`
	School int64  `json:"school,omitempty"`
	May    string `json:"may"`
}

func shareNotes(shares []store.Share) []shareNote {
	out := []shareNote{}
	for _, s := range shares {
		may := "see"
		for _, right := range []struct {
			has  bool
			word string
		}{{s.Edit, " edit"}, {s.Copy, " copy"}, {s.Print, " print"}} {
			if right.has {
				may += right.word
			}
		}
		out = append(out, shareNote{s.PersonID, s.SchoolID, may})
	}
	return out
}
