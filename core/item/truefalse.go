package item

// trueFalse is a single choice between two statements that are always the same;
// their words are the screen's, in its language.
var trueFalse = kindRules{
	credits:  []CreditRule{AllOrNothing},
	check:    singleChoice.check,
	accepts:  acceptsChoices,
	score:    singleChoice.score,
	steps:    oneStep,
	keyShort: func(_ Interaction, d Declaration) string { return trueOrFalse(d.Correct) },
	short:    func(_ Interaction, values []string) []string { return []string{trueOrFalse(values)} },
}

// Ids of the two choices.
const (
	isTrue  = "true"
	isFalse = "false"
)

func trueOrFalse(ids []string) string {
	if len(ids) == 1 {
		return ids[0]
	}
	return ""
}

// NewTrueFalse makes a true or false item.
func NewTrueFalse(stem string, right bool) Item {
	key := isFalse
	if right {
		key = isTrue
	}
	return build(TrueFalse, stem, Interaction{Response: "RESPONSE", MaxChoices: 1, Choices: []Choice{{ID: isTrue, HTML: "True"}, {ID: isFalse, HTML: "False"}}},
		Declaration{Response: "RESPONSE", Correct: []string{key}}, AllOrNothing)
}
