package desk

import "strings"

// spoken says each act in words: an entry reads as a sentence.
var spoken = map[string]string{
	"person.sign-in":        "signed in as",
	"person.wrong-try":      "refused a wrong sign-in as",
	"person.add":            "added",
	"import.standards":      "brought in standards from",
	"import.roster":         "brought in a roster from",
	"import.items":          "brought in items from",
	"import.tables":         "brought in official tables from",
	"item.write":            "wrote",
	"item.version":          "kept a new version of",
	"item.editors":          "named the editors of",
	"item.comment":          "commented on",
	"item.hold":             "put on hold",
	"item.let-go":           "let go of",
	"item.join":             "joined an item, as its next version, to",
	"item.drop":             "took out of the bank",
	"item.copy":             "copied an item as",
	"item.offer":            "offered",
	"item.offer.accepted":   "accepted the offer of",
	"item.offer.returned":   "returned the offer of",
	"item.offer.declined":   "declined the offer of",
	"item.bulk":             "changed at once",
	"item.bulk-undo":        "took back a change of",
	"line.own-copy":         "changed a line, as an own copy, of",
	"line.confirm":          "confirmed the alignment of an own copy on",
	"item.report":           "reported",
	"item.report.mended":    "mended after a report",
	"item.report.declined":  "answered a report on",
	"item.tag":              "tagged",
	"tag.rename":            "renamed a tag to",
	"tag.merge":             "merged a tag into",
	"bank.add":              "made the bank",
	"bank.change":           "changed the bank",
	"passage.write":         "wrote the passage",
	"passage.change":        "changed the passage",
	"media.describe":        "described on the media shelf",
	"media.replace":         "replaced on the media shelf",
	"media.keep":            "put on the media shelf",
	"bandSet.add":           "made the band set",
	"bandSet.change":        "changed the band set",
	"blueprint.keep":        "put into the library the blueprint",
	"blueprint.replace":     "replaced in the library the blueprint",
	"blueprint.drop":        "took out of the library the blueprint",
	"assessment.start":      "started",
	"assessment.outline":    "changed the outline of",
	"assessment.shelve":     "shelved",
	"assessment.unshelve":   "brought back",
	"assessment.delete":     "deleted",
	"assessment.blueprint":  "changed the blueprint of",
	"assessment.lines":      "arranged the lines of",
	"assessment.copy":       "started, as a copy,",
	"assessment.twin":       "drew, as a twin form,",
	"assessment.draw":       "placed a draw on",
	"assessment.document":   "put a document on",
	"assessment.key":        "changed the key of",
	"assessment.share":      "changed who shares",
	"assessment.link":       "made a link to",
	"assessment.unlink":     "ended the link to",
	"assessment.by-link":    "came by a link to",
	"item.apart":            "said what must not meet",
	"item.meet":             "let meet again",
	"assessment.bands":      "chose the bands of",
	"assessment.cuts":       "changed the cuts of",
	"assessment.reported":   "changed what is reported for scores of",
	"assessment.conversion": "chose the conversion to a scale of",
	"assessment.mastery":    "chose the mastery by standard of",
	"assessment.recut":      "changed the cuts of the results of",
	"bandSet.retire":        "retired the band set",
	"bandSet.restore":       "brought back the band set",
	"items.calibrate":       "put on one scale the items of",
	"panel.begin":           "began the panel",
	"panel.invite":          "invited judges to the panel",
	"panel.leave":           "noted that a judge left the panel",
	"panel.back":            "let a judge go on in the panel",
	"panel.round":           "opened a round of the panel",
	"panel.round.close":     "closed a round of the panel",
	"panel.round.open":      "opened again a round of the panel",
	"panel.round.feedback":  "opened the feedback of the panel",
	"panel.done":            "was done with a round of the panel",
	"panel.end":             "ended the panel",
	"panel.go-on":           "let go on the panel",
	"panel.take":            "took cuts from the panel",
	"assessment.seal":       "sealed",
	"assessment.edition":    "began a new edition of",
	"assessment.close":      "closed",
	"district.purposes":     "changed the district's list of",
	"distribution.send":     "sent",
	"settings.change":       "changed the settings of",
	"settings.undo":         "took back a change of the settings of",
	"keys.open":             "opened to teachers the keys of",
	"keys.close":            "closed to teachers the keys of",
	"door.open":             "opened the door of",
	"door.paused":           "paused",
	"door.closed":           "closed the door of",
	"sitting.seat":          "gave a seat in",
	"sitting.code":          "changed the access code of",
	"attempt.rest":          "took a break in",
	"attempt.resume":        "went on after a break in",
	"feedback.release":      "released feedback of",
	"feedback.withhold":     "took back the feedback of",
	"attempt.begin":         "began",
	"attempt.hand-in":       "handed in",
	"attempt.late":          "decided about late answers of",
}

// Spoken is an act in words; one that has none stands as it is kept.
func Spoken(act string) string {
	if words, ok := spoken[act]; ok {
		return words
	}
	return act
}

// ActsSaid are the acts whose words hold a word.
func ActsSaid(word string) []string {
	out := []string{}
	for act, words := range spoken {
		if strings.Contains(words, strings.ToLower(word)) {
			out = append(out, act)
		}
	}
	return out
}
