package settings

import "encoding/json"

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
	said map[Scope]map[string]Stand
}

// NewBook is one in which nothing stands.
func NewBook() *Book { return &Book{said: map[Scope]map[string]Stand{}} }

// Put writes what a scope says of a setting.
func (b *Book) Put(scope Scope, key string, s Stand) {
	s.Level = scope.Level
	if b.said[scope] == nil {
		b.said[scope] = map[string]Stand{}
	}
	b.said[scope][key] = s
}

// Drop takes it out.
func (b *Book) Drop(scope Scope, key string) { delete(b.said[scope], key) }

// Said is what a scope says of a setting; false where it says nothing.
func (b *Book) Said(scope Scope, key string) (Stand, bool) {
	s, ok := b.said[scope][key]
	return s, ok
}

// With is the book as it would be after a change; the book itself stays.
func (b *Book) With(change func(*Book)) *Book {
	out := NewBook()
	for scope, all := range b.said {
		for key, s := range all {
			out.Put(scope, key, s)
		}
	}
	change(out)
	return out
}

// At resolves what is said of any setting at a place, by key. A setting that is not there is its default.
func (b *Book) At(p Place) map[string]Resolved {
	stands := map[string][]Stand{}
	for _, scope := range p.Scopes() {
		for key, s := range b.said[scope] {
			if list := stands[key]; len(list) > 0 && list[len(list)-1].Level == s.Level {
				list[len(list)-1] = s // a school's for this assessment alone
			} else {
				stands[key] = append(list, s)
			}
		}
	}
	out := make(map[string]Resolved, len(stands))
	for key, list := range stands {
		out[key] = Resolve(list)
	}
	return out
}

// Values are those in force at a place that are not the default.
func (b *Book) Values(p Place) Values {
	out := Values{}
	for key, r := range b.At(p) {
		if s, known := byKey[key]; known && !s.Same(r.Value, nil) {
			out[key] = r.Value
		}
	}
	return out
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
