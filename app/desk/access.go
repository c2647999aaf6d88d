package desk

import (
	"context"

	"pineledger/core/assessment"
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

// MustBeDraft refuses to change what an edition that is sealed is made of.
func MustBeDraft(row *buildrows.Assessment) error {
	if row.Shelved {
		return inState(assessment.ErrShelved)
	}
	return inState(row.State.Editable(row.Edition))
}

// Move brings an assessment into the state that an act leads to.
func Move(row *buildrows.Assessment, act assessment.Act) (err error) {
	if row.Shelved {
		return inState(assessment.ErrShelved)
	}
	row.State, err = row.State.After(act, row.Edition)
	return inState(err)
}

func inState(err error) error {
	if err != nil {
		return Conflict("%s", err)
	}
	return nil
}

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
