package build

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
)

// linkDigest is all that is kept of a link's secret. The secret is long and random, so a plain hash does.
func linkDigest(secret string) string {
	sum := sha256.Sum256([]byte(secret))
	return hex.EncodeToString(sum[:])
}

// MakeLink gives the secret of a link by which coordinators and teachers who are signed in let themselves
// in to an assessment, to see it and to do what it says. It is given once; a new link ends the one before.
func (a *Build) MakeLink(ctx context.Context, v roster.Viewer, id int64, mayCopy, mayPrint bool) (secret string, err error) {
	secret = rand.Text()
	err = a.changeLink(ctx, v, id, "assessment.link", func(tx *store.Tx) error {
		return buildrows.PutLink(ctx, tx, buildrows.Link{AssessmentID: id, Copy: mayCopy, Print: mayPrint, MadeBy: v.Name, MadeAt: store.Millis(a.Now())}, linkDigest(secret))
	})
	return secret, err
}

// EndLink makes a link lead nowhere. Who came by it keeps what it gave until they are taken off.
func (a *Build) EndLink(ctx context.Context, v roster.Viewer, id int64) error {
	return a.changeLink(ctx, v, id, "assessment.unlink", func(tx *store.Tx) error { return buildrows.DropLink(ctx, tx, id) })
}

func (a *Build) changeLink(ctx context.Context, v roster.Viewer, id int64, name string, change func(*store.Tx) error) error {
	return a.Store.Write(ctx, func(tx *store.Tx) error {
		row, err := desk.Assessment(ctx, tx.Reader, v, id)
		switch {
		case err != nil:
			return err
		case !v.MaySend(row.Owned()):
			return desk.ErrForbidden
		}
		if err := change(tx); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: name, Thing: "assessment", ID: id, Title: row.Title})
	})
}

// FollowLink lets a member of staff in by a link and gives the assessment. Who sees it already gains
// what the link gives beyond that.
func (a *Build) FollowLink(ctx context.Context, v roster.Viewer, secret string) (id int64, err error) {
	if !v.MayReadKeys() {
		return 0, desk.ErrForbidden
	}
	err = a.Store.Write(ctx, func(tx *store.Tx) error {
		link, err := buildrows.LinkWithDigest(ctx, tx.Reader, linkDigest(secret))
		if errors.Is(err, desk.ErrNotFound) {
			return desk.Conflict("This link leads nowhere any more. Ask whoever gave it to you for a new one.")
		}
		if err != nil {
			return err
		}
		row, err := buildrows.AssessmentByID(ctx, tx.Reader, link.AssessmentID)
		if err != nil {
			return err
		}
		id = row.ID
		owned := row.Owned()
		for _, s := range row.Shares {
			if s.PersonID == v.PersonID {
				return nil // named already, with rights that somebody chose
			}
		}
		if v.MaySee(owned) && (v.MayCopy(owned) || !link.Copy) && (v.MayPrint(owned) || !link.Print) {
			return nil
		}
		if err := buildrows.AddShare(ctx, tx, id, buildrows.Share{PersonID: v.PersonID, Copy: link.Copy, Print: link.Print, ByLink: true}); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "assessment.by-link", Thing: "assessment", ID: id, Title: row.Title})
	})
	return id, err
}

// Departments lists the subjects that courses teach.
func (a *Build) Departments(ctx context.Context, v roster.Viewer) ([]string, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	return buildrows.Subjects(ctx, a.Store.Reader)
}
