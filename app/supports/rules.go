package supports

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"unicode/utf8"

	"pineledger/app/desk"
	"pineledger/core/roster"
	"pineledger/core/support"
	"pineledger/store"
	"pineledger/store/officerows"
)

// mostGrounds bounds the district's list.
const mostGrounds = 40

// District is what a district lays down of supports.
type District struct {
	Grounds   []Ground
	Rules     []support.Construct
	Subjects  []string
	MayChange bool
}

// District gives on what grounds supports are given, and what they would break.
func (a *Supports) District(ctx context.Context, v roster.Viewer) (District, error) {
	if !v.MayReadGrounds() {
		return District{}, desk.ErrForbidden
	}
	return district(ctx, a.Store.Reader, v)
}

func district(ctx context.Context, r store.Reader, v roster.Viewer) (District, error) {
	out := District{MayChange: v.MayImport()}
	var err error
	if out.Grounds, err = officerows.GroundsInUse(ctx, r); err != nil {
		return out, err
	}
	if out.Rules, err = officerows.ConstructRules(ctx, r); err != nil {
		return out, err
	}
	out.Subjects, err = officerows.Subjects(ctx, r)
	return out, err
}

// PutGrounds replaces the list of grounds, in its order; was is the list as it was looked at. A ground on which somebody has a support
// stays.
func (a *Supports) PutGrounds(ctx context.Context, v roster.Viewer, names, was []string) (District, error) {
	if !v.MayImport() {
		return District{}, desk.ErrForbidden
	}
	names = desk.TidyLabels(names)
	if len(names) == 0 || len(names) > mostGrounds {
		return District{}, desk.Invalid("/grounds", "The list has from 1 to %d grounds.", mostGrounds)
	}
	for i, n := range names {
		if utf8.RuneCountInString(n) > desk.MostLabel {
			return District{}, desk.Invalid(fmt.Sprintf("/grounds/%d", i), "%q is longer than %d characters.", n, desk.MostLabel)
		}
	}
	return a.lay(ctx, v, func(tx *store.Tx, now District) error {
		before := make([]string, len(now.Grounds))
		for i, g := range now.Grounds {
			before[i] = g.Name
			if g.Students > 0 && !slices.Contains(names, g.Name) {
				return desk.Conflict("%d students have supports on the ground %q: it stays on the list until they end.", g.Students, g.Name)
			}
		}
		if !slices.Equal(before, was) {
			return desk.ErrStale
		}
		if err := officerows.PutGrounds(ctx, tx, names); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "district.grounds", Thing: "district", ID: 1, Title: "grounds of supports", Before: before, After: names})
	})
}

// PutRules replaces what supports would break; was are the rules as they were looked at. It holds for who begins from now on; who works
// keeps what they began with.
func (a *Supports) PutRules(ctx context.Context, v roster.Viewer, rules, was []support.Construct) (District, error) {
	if !v.MayImport() {
		return District{}, desk.ErrForbidden
	}
	return a.lay(ctx, v, func(tx *store.Tx, now District) error {
		rules, err := support.CheckRules(rules, now.Subjects)
		var fault *support.RuleFault
		if errors.As(err, &fault) {
			return desk.Invalid(fmt.Sprintf("/rules/%d/%s", fault.Rule, fault.Field), "%s", fault.Text)
		}
		if !slices.Equal(now.Rules, was) {
			return desk.ErrStale
		}
		if err := officerows.PutConstructRules(ctx, tx, rules); err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: "district.constructs", Thing: "district", ID: 1, Title: "what supports break", Before: rulesNote(now.Rules), After: rulesNote(rules)})
	})
}

// lay changes what the district lays down, in one transaction with its ledger entry.
func (a *Supports) lay(ctx context.Context, v roster.Viewer, change func(*store.Tx, District) error) (District, error) {
	var out District
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		now, err := district(ctx, tx.Reader, v)
		if err != nil {
			return err
		}
		if err := change(tx, now); err != nil {
			return err
		}
		out, err = district(ctx, tx.Reader, v)
		return err
	})
	return out, err
}

// RuleNote is what the ledger keeps of a rule.
type RuleNote struct {
	Schema   int    `json:"schema"`
	Support  string `json:"support"`
	Part     string `json:"part,omitempty"`
	Subject  string `json:"subject,omitempty"`
	Standard string `json:"standard,omitempty"`
	Why      string `json:"why"`
}

func rulesNote(rules []support.Construct) []RuleNote {
	out := make([]RuleNote, len(rules))
	for i, r := range rules {
		out[i] = RuleNote{1, r.Support, r.Part, r.Subject, r.Standard, r.Why}
	}
	return out
}
