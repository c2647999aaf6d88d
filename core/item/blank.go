package item

import "slices"

// Blank begins an item of a kind: a place to answer with nothing in it yet. An
// unknown kind gives an item without a kind.
func Blank(kind Kind) Item {
	none := []string{"", "", "", ""}
	var it Item
	switch kind {
	case SingleChoice, MultipleChoice:
		it = NewChoice(kind, "", none, nil, AllOrNothing)
	case TrueFalse:
		it = NewTrueFalse("", true)
		it.Declarations[0].Correct = nil
	case Order:
		it = NewOrder("", none[:3], nil, PerPlace)
	case Match:
		it = NewPairs(kind, "", none[:3], none[:3], nil, 1, 1, PerPart)
	case Sort:
		it = NewPairs(kind, "", none, none[:2], nil, 1, 0, PerPart)
	case BoxTable:
		it = NewPairs(kind, "", none[:3], none[:2], nil, 1, 0, PerPart)
	case Text:
		it = NewText("", nil, TextKey{})
	case Number:
		it = NewNumber("", nil, NumberKey{}, "")
	case NumberLine:
		it = NewNumberLine("", Line{From: "0", To: "10", Step: "1", Labels: 1}, nil, "")
	case SelectText:
		it = NewSelectText("", []Run{{HTML: "Write the text and mark what can be selected.", Selectable: true}}, nil, 0, AllOrNothing)
	case Menus:
		it = NewMenus("", []string{"", ""}, []Menu{{Words: none[:2], Right: -1}}, PerPart)
	case Spot:
		it = NewSpot("", Picture{}, nil)
	case Parts:
		it = NewParts("", []Item{Blank(SingleChoice), Blank(SingleChoice)}, []int{-1, 0}, PerPart)
	case ShortWritten:
		it = NewWritten(kind, "", 3, nil, nil)
	case LongWritten:
		it = NewWritten(kind, "", 10, &Rubric{Traits: []Trait{{Levels: []Level{{Points: 200}, {Points: 100}, {}}}}}, nil)
	case Examiner:
		it = NewExaminer("", "", "")
		it.Declarations[0].Correct = nil
	}
	return it
}

func build(kind Kind, stem string, in Interaction, d Declaration, credit CreditRule) Item {
	return Item{
		Schema:       Schema,
		Kind:         kind,
		Body:         []Block{{HTML: stem}, {Interaction: &in}},
		Declarations: []Declaration{d},
		Credit:       credit,
	}.Cleaned()
}

// PartKinds lists the kinds that one of several parts can have, in the order of the screens.
func PartKinds() []Kind {
	return slices.DeleteFunc(Kinds(), func(k Kind) bool { return k == Parts || k == Examiner })
}

// BlankPart begins one of several parts: its place to answer and its key, with the response that is given.
func BlankPart(kind Kind, response string) (Interaction, Declaration) {
	it := NewParts("", []Item{Blank(kind)}, nil, PerPart)
	place, key := interactions(it.Body)[0], it.Declarations[0]
	place.Response, key.Response = response, response
	if key.Correct == nil {
		key.Correct = []string{} // none yet, which is a list all the same
	}
	return place, key
}
