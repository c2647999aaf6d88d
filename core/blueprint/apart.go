package blueprint

import "slices"

// Apart tells whether two items keep out of one form: near copies, or one names the other as its enemy.
func Apart(a, b Item) bool {
	return a.Kin != "" && a.Kin == b.Kin || slices.Contains(a.Enemies, b.ID) || slices.Contains(b.Enemies, a.ID)
}
