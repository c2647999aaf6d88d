package build

import (
	"context"
	"errors"
	"strings"

	"pineledger/app/desk"
	"pineledger/core/band"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/buildrows"
)

// BandSetInput is what a person types of a band set.
type BandSetInput struct {
	Name    string
	Subject string // "" for any
	Grades  []string
	Year    string // "" for any
	Rule    band.Rule
	Bands   []band.Band
	Version int // the one that was read; 0 for a new set
}

// BandSets lists the sets that a builder may see.
func (a *Plans) BandSets(ctx context.Context, v roster.Viewer) ([]buildrows.BandSet, error) {
	if !v.MayBuild() {
		return nil, desk.ErrForbidden
	}
	sets, err := buildrows.BandSets(ctx, a.Store.Reader)
	if err != nil {
		return nil, err
	}
	out := []buildrows.BandSet{}
	for _, s := range sets {
		if v.MaySee(owned(s)) {
			out = append(out, s)
		}
	}
	return out, nil
}

func owned(s buildrows.BandSet) roster.Owned {
	return roster.Owned{OwnerID: s.OwnerID, SchoolID: s.SchoolID}
}

// bandSet gives a set that a viewer may see.
func bandSet(ctx context.Context, r store.Reader, v roster.Viewer, id int64) (buildrows.BandSet, error) {
	s, err := buildrows.BandSetByID(ctx, r, id)
	if err == nil && !v.MaySee(owned(s)) {
		err = desk.ErrNotFound
	}
	return s, err
}

// BandSet gives one set.
func (a *Plans) BandSet(ctx context.Context, v roster.Viewer, id int64) (buildrows.BandSet, error) {
	return bandSet(ctx, a.Store.Reader, v, id)
}

// PutBandSet makes a set (id 0) or changes one.
func (a *Plans) PutBandSet(ctx context.Context, v roster.Viewer, id int64, in BandSetInput) (buildrows.BandSet, error) {
	if !v.MayBuild() {
		return buildrows.BandSet{}, desk.ErrForbidden
	}
	err := a.Store.Write(ctx, func(tx *store.Tx) error {
		s := buildrows.BandSet{ID: id, SchoolID: v.HomeSchool(), OwnerID: v.PersonID}
		var before any
		if id > 0 {
			old, err := bandSet(ctx, tx.Reader, v, id)
			if err != nil {
				return err
			}
			if !v.MayChange(owned(old)) {
				return desk.ErrForbidden
			}
			if old.Version != in.Version {
				return desk.StaleBy(old.ChangedBy)
			}
			s, before = old, old.Bands
		}
		if err := in.check(); err != nil {
			return err
		}
		s.Name, s.Subject, s.Grades, s.Year, s.Rule, s.Bands = in.Name, in.Subject, in.Grades, strings.TrimSpace(in.Year), string(in.Rule), bandRows(in.Bands)
		s.ChangedAt, s.ChangedBy = store.Millis(a.Now()), v.Name
		name, err := "bandSet.change", error(nil)
		if id == 0 {
			name = "bandSet.add"
			id, err = buildrows.AddBandSet(ctx, tx, s)
		} else {
			err = buildrows.ChangeBandSet(ctx, tx, s)
		}
		if err != nil {
			return err
		}
		return a.Record(ctx, tx, v, desk.Act{Name: name, Thing: "bandSet", ID: id, Title: s.Name, Before: before, After: in.Bands})
	})
	if err != nil {
		return buildrows.BandSet{}, err
	}
	return buildrows.BandSetByID(ctx, a.Store.Reader, id)
}

// check asks the core, on a form of one point, what of the set no form can take.
func (in *BandSetInput) check() error {
	in.Name = strings.TrimSpace(in.Name)
	if in.Name == "" || len(in.Name) > 200 {
		return desk.Invalid("/name", "A band set needs a name of at most 200 characters.")
	}
	if len(in.Bands) < 2 || len(in.Bands) > 12 {
		return desk.Invalid("/bands", "A band set has 2 to 12 bands.")
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
	return desk.Invalid(pointer, "%s", desk.Sentence(place.Reason))
}

func bandRows(bands []band.Band) []buildrows.Band {
	out := make([]buildrows.Band, len(bands))
	for i, b := range bands {
		out[i] = buildrows.Band{Name: b.Name, Percent: optional(b.Cut.Percent), Raw: optional(b.Cut.Raw), Of: optional(b.Cut.Of)}
	}
	return out
}

// CoreBands are stored bands as the core takes them.
func CoreBands(rows []buildrows.Band) []band.Band {
	out := make([]band.Band, len(rows))
	for i, r := range rows {
		out[i] = band.Band{Name: r.Name, Cut: band.Cut{Percent: present(r.Percent), Raw: present(r.Raw), Of: present(r.Of)}}
	}
	return out
}

func optional(p *points.Points) *int64 {
	if p == nil {
		return nil
	}
	return new(int64(*p))
}

func present(n *int64) *points.Points {
	if n == nil {
		return nil
	}
	p := points.Points(*n)
	return &p
}
