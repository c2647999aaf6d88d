package build

import (
	"context"
	"fmt"
	"slices"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/bankrows"
	"pineledger/store/buildrows"
)

// mostShares bounds with how many people and schools one assessment is shared.
const mostShares = 200

// PutShares says with whom an assessment is shared: people who edit it too, or who may
// see, copy or print it, and schools and departments, who may. linked are the people who had come
// by the link when v looked: who came since stays, though the list does not name them.
func (a *Build) PutShares(ctx context.Context, v roster.Viewer, id int64, version int, shares []buildrows.Share, linked []int64) (Sheet, error) {
	if len(shares) > mostShares {
		return Sheet{}, desk.Invalid("/shares", "An assessment is shared with %d people and schools at most.", mostShares)
	}
	return a.change(ctx, v, id, version, "assessment.share", func(tx *store.Tx, row *buildrows.Assessment) (any, any, error) {
		if !v.MaySend(row.Owned()) {
			return nil, nil, desk.ErrForbidden
		}
		subjects, err := buildrows.Subjects(ctx, tx.Reader)
		if err != nil {
			return nil, nil, err
		}
		seen := map[roster.Share]bool{}
		for i := range shares {
			s := &shares[i]
			if err := a.checkShare(ctx, *s, subjects); err != "" {
				return nil, nil, desk.Invalid(fmt.Sprintf("/shares/%d", i), "%s", err)
			}
			with := roster.Share{PersonID: s.PersonID, SchoolID: s.SchoolID, Subject: s.Subject}
			if seen[with] {
				return nil, nil, desk.Invalid(fmt.Sprintf("/shares/%d", i), "It is shared with them already.")
			}
			seen[with] = true
			s.ByLink = slices.ContainsFunc(row.Shares, func(was buildrows.Share) bool { return was.ByLink && was.PersonID == s.PersonID && s.PersonID > 0 })
		}
		before := row.Shares
		for _, was := range before {
			named := seen[roster.Share{PersonID: was.PersonID}]
			if was.ByLink && !named && !slices.Contains(linked, was.PersonID) {
				shares = append(shares, was)
			}
		}
		for _, s := range shares {
			had := func(was buildrows.Share) bool { return was.PersonID == s.PersonID }
			if s.PersonID == 0 || slices.ContainsFunc(before, had) {
				continue
			}
			notice := bankrows.Notice{PersonID: s.PersonID, At: store.Millis(a.Now()), Words: fmt.Sprintf("%s shared %s with you.", v.Name, row.Title), Path: fmt.Sprintf("/assessments/%d", id)}
			if err := bankrows.AddNotice(ctx, tx, notice); err != nil {
				return nil, nil, err
			}
		}
		return shareNotes(before), shareNotes(shares), buildrows.PutShares(ctx, tx, id, shares)
	})
}

// checkShare says what is wrong with one share, "" for nothing.
func (a *Build) checkShare(ctx context.Context, s buildrows.Share, subjects []string) string {
	if s.PersonID == 0 {
		switch {
		case s.Edit:
			return "A whole school or department does not edit; name the people who do."
		case s.Subject == "" && s.SchoolID == 0:
			return "Name a person, a school or a department."
		case s.Subject != "" && !slices.Contains(subjects, s.Subject):
			return fmt.Sprintf("No course teaches %q, so there is no such department.", s.Subject)
		}
		return ""
	}
	if s.SchoolID > 0 || s.Subject != "" {
		return "Name a person, or a school or department, not both."
	}
	person, err := a.Viewer(ctx, s.PersonID)
	switch {
	case err != nil || !person.MayReadKeys():
		return "Only coordinators and teachers see assessments; share it with one of them."
	case s.Edit && !person.MayBuild():
		return "Only coordinators build assessments; a teacher sees it, and may print it."
	}
	return ""
}

type shareNote struct {
	Person   int64  `json:"person,omitempty"`
	School   int64  `json:"school,omitempty"`
	Subject  string `json:"subject,omitempty"`
	Teachers bool   `json:"teachers,omitempty"`
	May      string `json:"may"`
}

func shareNotes(shares []buildrows.Share) []shareNote {
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
		out = append(out, shareNote{s.PersonID, s.SchoolID, s.Subject, s.Teachers, may})
	}
	return out
}
