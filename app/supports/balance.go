package supports

import (
	"pineledger/core/support"
	"pineledger/store/giverows"
)

// Balance is what is needed of people and paper, and what there is.
type Balance struct {
	Key        string
	Name       string
	Need, Have int
}

// Place is what a section needs of people or paper, and who or what there is.
type Place struct {
	SectionID int64
	Section   string
	School    string
	Key       string
	Name      string
	Need      int
	Provider  string // "" for nobody yet
	Have      int
}

// isProvided tells whether a section has as much of a support as it needs.
func (w *around) isProvided(section int64, key string) bool {
	p, named := w.has[provided{section, key}]
	return named && p.Number >= support.Needed(key, w.need[provided{section, key}])
}

// balance adds up what is needed of people and paper, and what there is.
func (m *Matrix) balance(w *around, seats []giverows.SeatOf) {
	for _, s := range support.Catalog {
		if !s.Provided() {
			continue
		}
		b := Balance{Key: s.Key, Name: s.Name}
		seen := map[int64]bool{}
		for _, seat := range seats {
			at := provided{seat.SectionID, s.Key}
			n := support.Needed(s.Key, w.need[at])
			if n == 0 || seen[seat.SectionID] {
				continue
			}
			seen[seat.SectionID] = true
			p := w.has[at]
			m.Places = append(m.Places, Place{seat.SectionID, seat.Section, seat.School, s.Key, s.Name, n, p.Provider, min(n, p.Number)})
			b.Need, b.Have = b.Need+n, b.Have+min(n, p.Number)
		}
		if b.Need > 0 {
			m.Balance = append(m.Balance, b)
		}
	}
}
