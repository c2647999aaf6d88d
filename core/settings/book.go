package settings

import (
	"encoding/json"
	"slices"
)

// Place is what settings are asked for: an assessment, as far down as is named. Zeros name nothing.
type Place struct {
	Purpose      string
	Assessment   int64
	Distribution int64
	School       int64
	Section      int64
}

// Scope is one thing at one level that settings can be set for.
type Scope struct {
	Level      Level
	Purpose    string // of level Purpose
	Assessment int64  // of levels Assessment to Section; 0 of School: whatever the assessment
	Thing      int64  // distribution, school or section
}

// Scopes are those that speak for a place, the most general first. A school can say something for all assessments,
// and for one alone, which comes before it.
func (p Place) Scopes() []Scope {
	out := []Scope{{Level: District}}
	if p.Purpose != "" {
		out = append(out, Scope{Level: Purpose, Purpose: p.Purpose})
	}
	if p.Assessment > 0 {
		out = append(out, Scope{Level: Assessment, Assessment: p.Assessment})
	}
	if p.Distribution > 0 {
		out = append(out, Scope{Level: Distribution, Assessment: p.Assessment, Thing: p.Distribution})
	}
	if p.School > 0 {
		out = append(out, Scope{Level: School, Thing: p.School})
		if p.Assessment > 0 {
			out = append(out, Scope{Level: School, Assessment: p.Assessment, Thing: p.School})
		}
	}
	if p.Section > 0 {
		out = append(out, Scope{Level: Section, Assessment: p.Assessment, Thing: p.Section})
	}
	return out
}

// Book holds what the levels say.
type Book struct {
	said map[Scope]page
}

// page is what one scope says, a place for each setting of the catalog; nil: nothing.
type page []*Stand

var placeOf = func() map[string]int {
	out := map[string]int{}
	for i, s := range Catalog {
		out[s.Key] = i
	}
	return out
}()

// NewBook is one in which nothing stands.
func NewBook() *Book { return &Book{said: map[Scope]page{}} }

// Put writes what a scope says of a setting. What is no setting, as of another release, is left out.
func (b *Book) Put(scope Scope, key string, s Stand) {
	at, known := placeOf[key]
	if !known {
		return
	}
	s.Level = scope.Level
	if b.said[scope] == nil {
		b.said[scope] = make(page, len(Catalog))
	}
	b.said[scope][at] = &s
}

// Drop takes it out.
func (b *Book) Drop(scope Scope, key string) {
	if at, known := placeOf[key]; known && b.said[scope] != nil {
		b.said[scope][at] = nil
	}
}

// Said is what a scope says of a setting; false where it says nothing.
func (b *Book) Said(scope Scope, key string) (Stand, bool) {
	at, known := placeOf[key]
	if !known || b.said[scope] == nil || b.said[scope][at] == nil {
		return Stand{}, false
	}
	return *b.said[scope][at], true
}

// With is the book as it would be after a change; the book itself stays.
func (b *Book) With(change func(*Book)) *Book {
	out := NewBook()
	for scope, said := range b.said {
		out.said[scope] = slices.Clone(said)
	}
	change(out)
	return out
}

// At resolves what is said of any setting at a place, by key. A setting that is not there is its default.
func (b *Book) At(p Place) map[string]Resolved {
	pages := b.pages(p)
	out := map[string]Resolved{}
	for i, one := range Catalog {
		var stands []Stand
		each(pages, i, func(s *Stand) { stands = append(stands, *s) })
		if len(stands) > 0 {
			out[one.Key] = Resolve(stands)
		}
	}
	return out
}

// Values are those in force at a place that are not the default.
func (b *Book) Values(p Place) Values {
	pages := b.pages(p)
	out := Values{}
	for i, one := range Catalog {
		r := noRuling
		var in *Stand
		each(pages, i, func(s *Stand) {
			if r.lets(0, s) {
				in = s
			}
		})
		if in != nil && !one.Same(in.Value, nil) {
			out[one.Key] = in.Value
		}
	}
	return out
}

// Shut lists the settings that a lock at a place keeps accommodations from too, in the catalog's order.
func (b *Book) Shut(p Place) []string {
	pages := b.pages(p)
	var out []string
	for i, one := range Catalog {
		r := noRuling
		each(pages, i, func(s *Stand) { r.lets(0, s) })
		if r.lock == LockAlso {
			out = append(out, one.Key)
		}
	}
	return out
}

// pages are those of the scopes that speak for a place, the most general first.
func (b *Book) pages(p Place) []page {
	var out []page
	for _, scope := range p.Scopes() {
		if said := b.said[scope]; said != nil {
			out = append(out, said)
		}
	}
	return out
}

// each walks what pages say of the i-th setting: of a school that says something for all assessments and for this one, what
// it says for this one.
func each(pages []page, i int, see func(*Stand)) {
	for k, said := range pages {
		s := said[i]
		if s == nil {
			continue
		}
		if s.Level == School && k+1 < len(pages) && pages[k+1][i] != nil && pages[k+1][i].Level == School {
			continue
		}
		see(s)
	}
}

// Change is one setting whose value in force becomes another.
type Change struct {
	Key           string
	Before, After json.RawMessage // nil: the default
}

// Changes lists, in the catalog's order, what differs between two values in force.
func Changes(before, after Values) []Change {
	var out []Change
	for _, s := range Catalog {
		if !s.Same(before[s.Key], after[s.Key]) {
			out = append(out, Change{s.Key, before[s.Key], after[s.Key]})
		}
	}
	return out
}

// MayChange tells whether changes may be made where somebody has begun; the error is a *BegunError of the first that may not.
func MayChange(changes []Change) error {
	for _, c := range changes {
		if err := byKey[c.Key].MayBecome(c.Before, c.After); err != nil {
			return err
		}
	}
	return nil
}

// Own is the scope of the most particular thing that a place names.
func (p Place) Own() Scope {
	scopes := p.Scopes()
	return scopes[len(scopes)-1]
}
