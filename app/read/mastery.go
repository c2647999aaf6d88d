package read

import (
	"context"

	"pineledger/core/attempt"
	"pineledger/core/form"
	"pineledger/core/roster"
	"pineledger/store/readrows"
)

// Mastered is how students stand on a standard.
type Mastered struct {
	form.Told
	Bands   []int // students in each band
	Waiting int   // of whom a line of it waits for a reader
}

// Mastery is a distribution standard by standard; it is empty where its form tells nothing by standard.
type Mastery struct {
	Set       *form.Mastery
	Standards []Mastered // those that can be told
	TooFew    []form.Told
}

// Mastery counts students by their band on each standard, of those in scope.
func (a *Read) Mastery(ctx context.Context, v roster.Viewer, distribution int64) (Mastery, error) {
	_, f, err := a.resultHead(ctx, v, distribution)
	if err != nil || f.Mastery == nil {
		return Mastery{}, err
	}
	told, err := f.Tells()
	if err != nil {
		return Mastery{}, err
	}
	out := Mastery{Set: f.Mastery}
	for _, t := range told {
		if t.Cuts == nil {
			out.TooFew = append(out.TooFew, t)
			continue
		}
		out.Standards = append(out.Standards, Mastered{Told: t, Bands: make([]int, len(f.Mastery.Bands))})
	}
	return out, readrows.EachResult(ctx, a.Store.Reader, v.Scope(), distribution, func(credits []attempt.LineCredit) {
		for i := range out.Standards {
			if _, at, ok := out.Standards[i].Of(credits); ok {
				out.Standards[i].Bands[at]++
			} else {
				out.Standards[i].Waiting++
			}
		}
	})
}
