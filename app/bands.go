package app

import (
	"context"
	"database/sql"
	"errors"
	"strings"

	"pineledger/core/band"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
)

// BandSetInput is what a person types of a band set.
type BandSetInput struct {
	Name    string
	Subject string // "" for any
	Grades  []string
	Rule    band.Rule
	Bands   []band.Band
	Version int // the one that was read; 0 for a new set
}

// BandSets lists the sets that a builder may see.
func (a *App) BandSets(ctx context.Context, v roster.Viewer) ([]store.BandSet, error) {
	if !v.MayBuild() {
		return nil, ErrForbidden
	}
	sets, err := a.store.BandSets(ctx)
	if err != nil {
		return nil, err
	}
	out := []store.BandSet{}
	for _, s := range sets {
		if v.MaySee(owned(s)) {
			out = append(out, s)
		}
	}
	return out, nil
}

func owned(s store.BandSet) roster.Owned {
	return roster.Owned{OwnerID: s.OwnerID, SchoolID: s.SchoolID}
}

// bandSet gives a set that a viewer may see.
func bandSet(ctx context.Context, r store.Reader, v roster.Viewer, id int64) (store.BandSet, error) {
	s, err := r.BandSetByID(ctx, id)
	if err == nil && !v.MaySee(owned(s)) {
		err = ErrNotFound
	}
	return s, err
}

// BandSet gives one set.
func (a *App) BandSet(ctx context.Context, v roster.Viewer, id int64) (store.BandSet, error) {
	return bandSet(ctx, a.store.Reader, v, id)
}

// PutBandSet makes a set (id 0) or changes one.
func (a *App) PutBandSet(ctx context.Context, v roster.Viewer, id int64, in BandSetInput) (store.BandSet, error) {
	if !v.MayBuild() {
		return store.BandSet{}, ErrForbidden
	}
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		s := store.BandSet{ID: id, SchoolID: v.HomeSchool(), OwnerID: v.PersonID}
		var before any
		if id > 0 {
			old, err := bandSet(ctx, tx.Reader, v, id)
			if err != nil {
				return err
			}
			if !v.MayChange(owned(old)) {
				return ErrForbidden
			}
			if old.Version != in.Version {
				return staleBy(old.ChangedBy)
			}
			s, before = old, old.Bands
		}
		if err := in.check(); err != nil {
			return err
		}
		s.Name, s.Subject, s.Grades, s.Rule, s.Bands = in.Name, in.Subject, jsonList(in.Grades), string(in.Rule), bandRows(in.Bands)
		s.ChangedAt, s.ChangedBy = store.Millis(a.now()), v.Name
		name, err := "bandSet.change", error(nil)
		if id == 0 {
			name = "bandSet.add"
			id, err = tx.AddBandSet(ctx, s)
		} else {
			err = tx.ChangeBandSet(ctx, s)
		}
		if err != nil {
			return err
		}
		return a.record(ctx, tx, v, act{name: name, thing: "bandSet", id: id, title: s.Name, before: before, after: in.Bands})
	})
	if err != nil {
		return store.BandSet{}, err
	}
	return a.store.BandSetByID(ctx, id)
}

// check asks the core, on a form of one point, what of the set no form can take.
func (in *BandSetInput) check() error {
	in.Name = strings.TrimSpace(in.Name)
	if in.Name == "" || len(in.Name) > 200 {
		return invalid("/name", "A band set needs a name of at most 200 characters.")
	}
	if len(in.Bands) < 2 || len(in.Bands) > 12 {
		return invalid("/bands", "A band set has 2 to 12 bands.")
	}
	if in.Rule == "" {
		in.Rule = band.AtLeast
	}
	_, err := band.Compute(band.Form{Lines: []band.Line{{Points: points.One}}, Rule: in.Rule, Bands: in.Bands})
	return fromCore(err)
}

// fromCore turns the place that the core refuses into a field of the input.
func fromCore(err error) error {
	var place *band.PlaceError
	if !errors.As(err, &place) {
		return err
	}
	pointer := "/" + strings.NewReplacer(".", "/", "[", "/", "]", "").Replace(place.Place)
	return invalid(pointer, "%s", sentence(place.Reason))
}

// sentence begins with a capital and ends with a stop.
func sentence(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:] + "."
}

func bandRows(bands []band.Band) []store.Band {
	out := make([]store.Band, len(bands))
	for i, b := range bands {
		out[i] = store.Band{Name: b.Name, Percent: optional(b.Cut.Percent), Raw: optional(b.Cut.Raw), Of: optional(b.Cut.Of)}
	}
	return out
}

// CoreBands are stored bands as the core takes them.
func CoreBands(rows []store.Band) []band.Band {
	out := make([]band.Band, len(rows))
	for i, r := range rows {
		out[i] = band.Band{Name: r.Name, Cut: band.Cut{Percent: present(r.Percent), Raw: present(r.Raw), Of: present(r.Of)}}
	}
	return out
}

func optional(p *points.Points) sql.NullInt64 {
	if p == nil {
		return sql.NullInt64{}
	}
	return sql.NullInt64{Int64: int64(*p), Valid: true}
}

func present(n sql.NullInt64) *points.Points {
	if !n.Valid {
		return nil
	}
	p := points.Points(n.Int64)
	return &p
}

// staleBy tells who was quicker.
func staleBy(who string) error {
	return conflict("%s changed this meanwhile. Nothing of yours was written; look at the new state and change it again.", who)
}
