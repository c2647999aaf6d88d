package assessment_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/assessment"
)

func ExampleState_After() {
	state, _ := assessment.Draft.After(assessment.Seal, 1)
	_, err := state.After(assessment.Seal, 1)
	fmt.Println(state, err)
	// Output: sealed Edition 1 is sealed. Begin a new edition to change it.
}

func TestWhereEachActLeads(t *testing.T) {
	const refused = assessment.State("")
	states := []assessment.State{assessment.Draft, assessment.Sealed, assessment.Out, assessment.Closed}
	for act, leads := range map[assessment.Act][4]assessment.State{
		assessment.Seal:    {assessment.Sealed, refused, refused, refused},
		assessment.Send:    {refused, assessment.Out, assessment.Out, assessment.Out},
		assessment.End:     {refused, refused, assessment.Closed, refused},
		assessment.Reissue: {refused, assessment.Draft, assessment.Draft, assessment.Draft},
		assessment.Recall:  {refused, refused, assessment.Sealed, assessment.Sealed},
		"burn":             {},
	} {
		for i, from := range states {
			to, err := from.After(act, 3)
			if leads[i] != refused {
				assert.NoError(t, err)
				assert.Equal(t, leads[i], to, "%s %s", from, act)
				continue
			}
			assert.Equal(t, from, to)
			if from == assessment.Draft {
				assert.EqualError(t, err, "Edition 3 is still a draft.")
			} else {
				assert.EqualError(t, err, "Edition 3 is sealed. Begin a new edition to change it.")
			}
		}
	}
	for _, s := range states {
		assert.Equal(t, s != assessment.Out, s.Shelvable(1) == nil, s)
		assert.Equal(t, s == assessment.Draft, s.Deletable(1) == nil, s)
		assert.EqualError(t, s.Deletable(2), "Only a draft that was never sealed can be deleted. Shelve it instead.")
		assert.Equal(t, s == assessment.Draft, s.Editable(1) == nil)
		assert.Equal(t, s != assessment.Draft, s.IsSealed())
	}
}
