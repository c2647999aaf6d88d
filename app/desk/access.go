package desk

import (
	"context"

	"pineledger/core/bank"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
)

// Assessment gives one that a viewer may see.
func Assessment(ctx context.Context, r store.Reader, v roster.Viewer, id int64) (buildrows.Assessment, error) {
	row, err := buildrows.AssessmentByID(ctx, r, id)
	if err == nil && !v.MaySee(row.Owned()) {
		err = ErrNotFound
	}
	return row, err
}

func MustBeDraft(row *buildrows.Assessment) error {
	if row.State != Draft {
		return Conflict("Edition %d is sealed. Begin a new edition to change it.", row.Edition)
	}
	return nil
}

// States of an assessment.
const (
	Draft  = "draft"
	Sealed = "sealed"
	Out    = "out"
	Closed = "closed"
)

// StaleBy tells who was quicker.
func StaleBy(who string) error {
	return Conflict("%s changed this meanwhile. Nothing of yours was written; look at the new state and change it again.", who)
}

// Refusal tells why an act is not allowed.
func Refusal(v bank.Verdict) error { return &RefusedError{v.Why} }

// RefusedError says which right is missing for this very thing.
type RefusedError struct{ Why string }

func (e *RefusedError) Error() string { return e.Why }

// Unwrap makes it a kind of ErrForbidden.
func (e *RefusedError) Unwrap() error { return ErrForbidden }
