package give

import (
	"context"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/core/support"
	"pineledger/store"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
)

// Group is a group with who is in it, in words.
type Group struct{ giverows.Group }

// Said is its rule in words; "" for a list.
func (g Group) Said() string {
	rule := g.Rule.V
	switch {
	case rule.Support != "":
		one, _ := support.ByKey(rule.Support)
		return "who has " + one.Name
	case rule.Assessment > 0:
		return "who is below a band on an earlier assessment"
	}
	return ""
}

func groupsShown(list []giverows.Group) []Group {
	out := make([]Group, len(list))
	for i, g := range list {
		out[i] = Group{g}
	}
	return out
}

// GroupInput is a group as a person makes it: a list of students, or a rule.
type GroupInput struct {
	Name     string
	Rule     roster.GroupRule
	Students []int64
}

// GroupNote is what the ledger keeps of a group.
type GroupNote struct {
	Schema   int              `json:"schema"`
	Name     string           `json:"name"`
	Rule     roster.GroupRule `json:"rule"`
	Students int              `json:"students"`
}

// mostInGroup bounds a list.
const mostInGroup = 5000

// Groups lists the groups of who asks.
func (a *Give) Groups(ctx context.Context, v roster.Viewer) ([]Group, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	list, err := giverows.GroupsOf(ctx, a.Store.Reader, v.PersonID, nil)
	return groupsShown(list), err
}

// PutGroup makes a group, or another one of the same name of who asks. It gives all of theirs.
func (a *Give) PutGroup(ctx context.Context, v roster.Viewer, in GroupInput) ([]Group, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	in.Name = strings.TrimSpace(in.Name)
	var out []giverows.Group
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		if err := a.checkGroup(ctx, tx, v, in); err != nil {
			return err
		}
		id, err := giverows.PutGroup(ctx, tx, v.PersonID, in.Name, in.Rule, in.Students, a.Now())
		if err != nil {
			return err
		}
		if err := a.Record(ctx, tx, v, desk.Act{Name: "group.put", Thing: "group", ID: id, Title: in.Name, After: GroupNote{1, in.Name, in.Rule, len(in.Students)}}); err != nil {
			return err
		}
		out, err = giverows.GroupsOf(ctx, tx.Reader, v.PersonID, nil)
		return err
	})
	return groupsShown(out), err
}

func (a *Give) checkGroup(ctx context.Context, tx *store.Tx, v roster.Viewer, in GroupInput) error {
	switch {
	case in.Name == "":
		return desk.Invalid("/name", "A group needs a name.")
	case in.Rule == roster.GroupRule{} && len(in.Students) == 0:
		return desk.Invalid("/students", "Choose students, or a rule.")
	case in.Rule != roster.GroupRule{} && len(in.Students) > 0:
		return desk.Invalid("/students", "A group has a rule or a list, not both.")
	case len(in.Students) > mostInGroup:
		return desk.Invalid("/students", "Choose at most %d students.", mostInGroup)
	}
	if in.Rule.Support != "" {
		if _, known := support.ByKey(in.Rule.Support); !known {
			return desk.Invalid("/support", "There is no support %q.", in.Rule.Support)
		}
	}
	if in.Rule.Assessment > 0 {
		row, err := desk.Assessment(ctx, tx.Reader, v, in.Rule.Assessment)
		if err != nil {
			return err
		}
		if in.Rule.Below < 1 || row.BandSetID == 0 {
			return desk.Invalid("/below", "Choose a band of that assessment that is not its lowest.")
		}
	}
	for _, s := range in.Students {
		if _, err := officerows.PupilInScope(ctx, tx.Reader, v.Scope(), s); err != nil {
			return err
		}
	}
	return nil
}
