package give

import (
	"context"
	"slices"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/giverows"
)

// Choice is a choice of whom something goes to, as the store keeps it.
type Choice = giverows.Choice

// ChoiceNote is what the ledger keeps of one.
type ChoiceNote struct {
	Schema int         `json:"schema"`
	Whom   roster.Whom `json:"whom"`
}

// mostChoices bounds how many one person keeps.
const mostChoices = 100

// Choices lists those of who asks.
func (a *Give) Choices(ctx context.Context, v roster.Viewer) ([]Choice, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	return giverows.ChoicesOf(ctx, a.Store.Reader, v.PersonID)
}

// PutChoice keeps entries under a name, in place of others of that name. Whether they fit an assessment is checked where they are used.
func (a *Give) PutChoice(ctx context.Context, v roster.Viewer, name string, entries []roster.Entry) ([]Choice, error) {
	name = strings.TrimSpace(name)
	switch {
	case !v.MayBuild():
		return nil, desk.ErrForbidden
	case name == "":
		return nil, desk.Invalid("/name", "A choice needs a name.")
	case len(entries) == 0 || len(entries) > roster.MostEntries:
		return nil, desk.Invalid("/entries", "Choose between 1 and %d entries.", roster.MostEntries)
	}
	whom := roster.Whom{Schema: roster.WhomSchema, Entries: entries}
	return a.choices(ctx, v, func(tx *store.Tx, had []Choice) error {
		if len(had) >= mostChoices && !slices.ContainsFunc(had, func(c Choice) bool { return c.Name == name }) {
			return desk.Conflict("You keep %d choices already. Delete one first.", mostChoices)
		}
		id, err := giverows.PutChoice(ctx, tx, v.PersonID, name, whom, a.Now())
		if err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "choice.put", Thing: "choice", ID: id, Title: name, After: ChoiceNote{1, whom}})
	})
}

// DropChoice forgets one of who asks.
func (a *Give) DropChoice(ctx context.Context, v roster.Viewer, id int64) ([]Choice, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	return a.choices(ctx, v, func(tx *store.Tx, had []Choice) error {
		at := slices.IndexFunc(had, func(c Choice) bool { return c.ID == id })
		if at < 0 {
			return desk.ErrNotFound
		}
		if err := giverows.DropChoice(ctx, tx, v.PersonID, id); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "choice.drop", Thing: "choice", ID: id, Title: had[at].Name, Before: ChoiceNote{1, had[at].Whom.V}})
	})
}

// choices changes those of a person in one transaction, and gives them as they are then.
func (a *Give) choices(ctx context.Context, v roster.Viewer, change func(tx *store.Tx, had []Choice) error) ([]Choice, error) {
	var out []Choice
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		had, err := giverows.ChoicesOf(ctx, tx.Reader, v.PersonID)
		if err != nil {
			return err
		}
		if err := change(tx, had); err != nil {
			return err
		}
		out, err = giverows.ChoicesOf(ctx, tx.Reader, v.PersonID)
		return err
	})
	return out, err
}
