package panels

import "pineledger/store/panelrows"

// What this room gives as the store keeps it.
type (
	Judge     = panelrows.Judge
	JudgeNote = panelrows.Note
)
