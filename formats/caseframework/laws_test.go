package caseframework_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/formats/caseframework"
)

// anyTree draws a framework of up to thirty standards, each below an earlier one
// or the document, in a shuffled file.
func anyTree(t *rapid.T) (file string, parent map[string]string) {
	type node struct {
		Identifier string `json:"identifier"`
	}
	type cfItem struct {
		Identifier        string `json:"identifier"`
		HumanCodingScheme string `json:"humanCodingScheme"`
		FullStatement     string `json:"fullStatement"`
	}
	type association struct {
		AssociationType    string `json:"associationType"`
		SequenceNumber     int    `json:"sequenceNumber"`
		OriginNodeURI      node   `json:"originNodeURI"`
		DestinationNodeURI node   `json:"destinationNodeURI"`
	}
	parent = map[string]string{}
	var items []cfItem
	var links []association
	for i := range rapid.IntRange(0, 30).Draw(t, "standards") {
		id := fmt.Sprint("n", i)
		above := "doc"
		if i > 0 && rapid.Bool().Draw(t, "below another") {
			above = fmt.Sprint("n", rapid.IntRange(0, i-1).Draw(t, "parent"))
		}
		parent[id] = strings.TrimPrefix(above, "doc")
		items = append(items, cfItem{id, strings.ToUpper(id), "Text of " + id})
		links = append(links, association{"isChildOf", i, node{id}, node{above}})
	}
	data, err := json.Marshal(map[string]any{
		"CFDocument":     map[string]any{"identifier": "doc", "title": "Calder", "subject": []string{"Mathematics"}},
		"CFItems":        rapid.Permutation(items).Draw(t, "items"),
		"CFAssociations": rapid.Permutation(links).Draw(t, "associations"),
	})
	require.NoError(t, err)
	return string(data), parent
}

// Place and Last bound everything below a standard, in whatever order the file is.
func TestPlacesBoundWhatIsBelow(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		file, parent := anyTree(t)
		f, refused, err := caseframework.Read("x.json", strings.NewReader(file), "2026-11-29")
		require.NoError(t, err)
		require.Empty(t, refused)
		require.Len(t, f.Standards, len(parent))
		at := map[string]caseframework.Standard{}
		for i, s := range f.Standards {
			require.Equal(t, i+1, s.Place, "in the order of the tree, without gaps")
			require.Equal(t, parent[s.Identifier], s.Parent)
			at[s.Identifier] = s
		}
		below := func(id, top string) bool {
			for ; id != ""; id = parent[id] {
				if id == top {
					return true
				}
			}
			return false
		}
		for id := range parent {
			for top := range parent {
				within := at[id].Place >= at[top].Place && at[id].Place <= at[top].Last
				require.Equal(t, below(id, top), within, "%s below %s", id, top)
			}
		}
	})
}

func TestSiblingsStandInTheirSequence(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		file, parent := anyTree(t)
		f, _, err := caseframework.Read("x.json", strings.NewReader(file), "2026-11-29")
		require.NoError(t, err)
		last := map[string]int{}
		for _, s := range f.Standards {
			var n int
			_, err := fmt.Sscanf(s.Identifier, "n%d", &n)
			require.NoError(t, err)
			before, seen := last[parent[s.Identifier]]
			require.False(t, seen && before > n, "%s stands after n%d", s.Identifier, before)
			last[parent[s.Identifier]] = n
		}
	})
}

func FuzzReadingAFrameworkNeverPanics(f *testing.F) {
	f.Add(sample)
	f.Add(`{"CFDocument":{"identifier":"a","title":"b"},"CFItems":[null],"CFAssociations":[{}]}`)
	f.Fuzz(func(t *testing.T, in string) {
		framework, _, err := caseframework.Read("x.json", strings.NewReader(in), "2026-11-29")
		if err != nil {
			return
		}
		for _, s := range framework.Standards {
			if s.Place < 1 || s.Last < s.Place || s.Last > len(framework.Standards) {
				t.Fatalf("%+v among %d", s, len(framework.Standards))
			}
			assert.NotEmpty(t, s.Text)
		}
	})
}
