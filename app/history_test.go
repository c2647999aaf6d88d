package app_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/build"
	"pineledger/app/desk"
)

// An outline comes back whole, its formatted instructions among it, as a new state that the history names too.
func TestAnEarlierOutlineComesBack(t *testing.T) {
	w := newWorld(t)
	s, err := w.app.Build.StartAssessment(w.ctx, w.coordinator, outline("First"))
	require.NoError(t, err)
	id := s.Assessment.ID
	first := outline("First, complete")
	first.Instructions, first.Labels, first.Course = `Use <strong>no</strong> notes.<script>x</script>`, []string{"pilot"}, "Harbor math"
	s, err = w.app.Build.PutOutline(w.ctx, w.coordinator, id, s.Assessment.Version, first)
	require.NoError(t, err)
	assert.Equal(t, "<p>Use <strong>no</strong> notes.</p>", s.Assessment.Instructions, "cleaned, and a paragraph")
	s, err = w.app.Build.PutOutline(w.ctx, w.coordinator, id, s.Assessment.Version, outline("Second"))
	require.NoError(t, err)

	outlines := func() []build.Happened {
		all, err := w.app.Build.History(w.ctx, w.coordinator, id)
		require.NoError(t, err)
		var out []build.Happened
		for _, h := range all {
			if h.Act == "assessment.outline" {
				out = append(out, h)
			}
		}
		return out
	}
	before := outlines()
	require.Len(t, before, 2)
	s, err = w.app.Build.Restore(w.ctx, w.coordinator, id, s.Assessment.Version, before[1].Number)
	require.NoError(t, err)
	assert.Equal(t, []string{"First, complete", "<p>Use <strong>no</strong> notes.</p>", "pilot", "Harbor math"},
		[]string{s.Assessment.Title, s.Assessment.Instructions, strings.Join(s.Assessment.Labels, " "), s.Assessment.Course})
	assert.Len(t, outlines(), 3, "what came after is in the history still")
	_, err = w.app.Build.Restore(w.ctx, w.coordinator, id, s.Assessment.Version-1, before[1].Number)
	var conflict *desk.ConflictError
	assert.ErrorAs(t, err, &conflict, "over somebody else's change nothing is brought back")
}
