// Blanks writes how a part of each kind begins, for the editor in the browser: the one
// place that knows is core/item.
package main

import (
	"encoding/json"
	"log"
	"os"

	"pineledger/core/item"
)

type blank struct {
	Kind  item.Kind        `json:"kind"`
	Place item.Interaction `json:"place"`
	Key   item.Declaration `json:"key"`
}

func main() {
	var out []blank
	for _, kind := range item.PartKinds() {
		place, key := item.BlankPart(kind, "")
		out = append(out, blank{kind, place, key})
	}
	to := json.NewEncoder(os.Stdout)
	to.SetIndent("", "  ")
	if err := to.Encode(out); err != nil {
		log.Fatal(err)
	}
}
