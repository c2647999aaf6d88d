// Package assessment holds the states of an assessment and what moves between them.
package assessment

import "fmt"

// State of an assessment. What is sealed is never changed: a new edition is a draft again.
type State string

const (
	Draft  State = "draft"  // is being built
	Sealed State = "sealed" // an edition is frozen, nobody has it yet
	Out    State = "out"    // was sent to sections
	Closed State = "closed" // the last of its windows is over
	// Shelved is what an assessment that was put away shows. Brought back, it is in the state that it had.
	Shelved State = "shelved"
)

// Act is what moves an assessment to another state.
type Act string

const (
	Seal    Act = "seal"
	Send    Act = "send" // also again, to further sections
	End     Act = "end"  // of the last window
	Reissue Act = "edition"
	Recall  Act = "recall" // of all that was sent, before anybody began
)

// moves gives for each act where it leads from each state that allows it.
var moves = map[Act]map[State]State{
	Seal:    {Draft: Sealed},
	Send:    {Sealed: Out, Out: Out, Closed: Out},
	End:     {Out: Closed},
	Recall:  {Out: Sealed, Closed: Sealed},
	Reissue: {Sealed: Draft, Out: Draft, Closed: Draft},
}

// ErrState says why a state does not allow an act; it is a sentence for the screen.
type ErrState struct {
	State   State
	Edition int
}

func (e *ErrState) Error() string {
	if e.State == Draft {
		return fmt.Sprintf("Edition %d is still a draft.", e.Edition)
	}
	return fmt.Sprintf("Edition %d is sealed. Begin a new edition to change it.", e.Edition)
}

// After gives the state of an edition after an act; the error is an *ErrState.
func (s State) After(act Act, edition int) (State, error) {
	to, ok := moves[act][s]
	if !ok {
		return s, &ErrState{s, edition}
	}
	return to, nil
}

// Refusal is why something cannot be done: a sentence for the screen.
type Refusal string

func (r Refusal) Error() string { return string(r) }

// ErrShelved refuses to change what was put away.
const ErrShelved = Refusal("This assessment is shelved. Bring it back to change it.")

// Editable tells whether what an assessment is made of may change; nil means yes.
func (s State) Editable(edition int) error {
	if s != Draft {
		return &ErrState{s, edition}
	}
	return nil
}

// Shelvable tells whether an assessment may be put away; nil means yes.
func (s State) Shelvable(edition int) error {
	if s == Out {
		return Refusal(fmt.Sprintf("Edition %d is out. It can be shelved once its last window is over.", edition))
	}
	return nil
}

// Deletable tells whether an assessment may be deleted; nil means yes. What was ever sealed
// has counted uses of items, and results may come of it: it can only be shelved.
func (s State) Deletable(edition int) error {
	if s != Draft || edition > 1 {
		return Refusal("Only a draft that was never sealed can be deleted. Shelve it instead.")
	}
	return nil
}

// IsSealed tells whether there is a sealed form of the newest edition.
func (s State) IsSealed() bool { return s != Draft }
