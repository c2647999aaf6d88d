package buildrows

import (
	"context"
	"fmt"
	"strconv"

	"pineledger/core/blueprint"
	"pineledger/store/sqlite"
)

// Rows of blueprints keep the ids of the banks that they name, for a name may change.
// Whoever reads or writes rows has the names of the day.

// NameBanks puts the names of banks where filters have their ids.
func NameBanks(ctx context.Context, r sqlite.Reader, filters []*blueprint.Filter) error {
	return exchangeBanks(ctx, r, filters, func(b bankNamed) (from, to string) { return strconv.FormatInt(b.ID, 10), b.Name })
}

// IdentifyBanks puts the ids of banks where filters have their names.
func IdentifyBanks(ctx context.Context, r sqlite.Reader, filters []*blueprint.Filter) error {
	return exchangeBanks(ctx, r, filters, func(b bankNamed) (from, to string) { return b.Name, strconv.FormatInt(b.ID, 10) })
}

type bankNamed struct {
	ID   int64  `db:"id"`
	Name string `db:"name"`
}

func exchangeBanks(ctx context.Context, r sqlite.Reader, filters []*blueprint.Filter, of func(bankNamed) (from, to string)) error {
	var known map[string]string
	for _, f := range filters {
		if len(f.Banks) == 0 {
			continue
		}
		if known == nil {
			var banks []bankNamed
			if err := r.List(ctx, &banks, "SELECT id, name FROM bank"); err != nil {
				return err
			}
			known = make(map[string]string, len(banks))
			for _, b := range banks {
				from, to := of(b)
				known[from] = to
			}
		}
		exchanged := make([]string, len(f.Banks))
		for i, name := range f.Banks {
			to, ok := known[name]
			if !ok {
				return fmt.Errorf("there is no bank %q", name)
			}
			exchanged[i] = to
		}
		f.Banks = exchanged
	}
	return nil
}

// filtersOf are the filters of rows, to be changed where they are.
func filtersOf(rows []BlueprintRow) []*blueprint.Filter {
	out := make([]*blueprint.Filter, len(rows))
	for i := range rows {
		out[i] = &rows[i].Filter.V
	}
	return out
}
