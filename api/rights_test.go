package api_test

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/roster"
	"pineledger/store/bankrows"
	"pineledger/store/buildrows"
	"pineledger/store/giverows"
	"pineledger/store/officerows"
	"pineledger/store/takerows"
)

// may is what somebody gets: y is let in (to whatever the request then comes to),
// 403 is refused, 404 is told of nothing.
const (
	y = 0
	f = http.StatusForbidden
	n = http.StatusNotFound
)

// Each operation of the contract, asked by everybody. Things belong to a first
// school; "near" people work there and "far" ones at another.
func TestWhoMayDoWhat(t *testing.T) {
	s := serve(t, true)
	sitting, student, attempt := s.openSitting()
	elsewhere := s.givenAt("middle")
	section, school := sitting.SectionID, sitting.SchoolID
	coordinator := s.as(roster.DistrictCoordinator, 0)
	handedIn, err := takerows.AttemptByID(t.Context(), s.store.Reader, attempt)
	require.NoError(t, err)
	done := handedIn.StudentID
	draft := s.draftOf(coordinator)
	people := []struct {
		name string
		*client
	}{
		{"nobody", s.client()},
		{"student", s.person(student)},
		{"far teacher", s.teacherOf(elsewhere)},
		{"near teacher", s.teacherOf(sitting)},
		{"far head", s.headOf(elsewhere.School)},
		{"near head", s.headOf(sitting.School)},
		{"coordinator", coordinator},
	}

	shared, err := bankrows.SharedBanks(t.Context(), s.store.Reader, 0)
	require.NoError(t, err)
	files, err := bankrows.Shelf(t.Context(), s.store.Reader, "", false, 0, 1)
	require.NoError(t, err)
	shelved := files[0].Hash
	const passage = `{"identifier":"","title":"","body":"","language":"en","source":"","permission":"","bank":""}`
	lines1, err := buildrows.Lines(t.Context(), s.store.Reader, 1)
	require.NoError(t, err)
	placed := fmt.Sprint(lines1[0].ItemID)
	drawn := s.draw()
	blueprinted := s.entryOf("assessment.blueprint", 1)
	const rows = `{"rows":[]}`
	const lines = `{"lines":[]}`
	const set = `{"name":"","rule":"atLeast","grades":[],"subject":"","bands":[]}`
	ops := []struct {
		operation, call, body string
		// student, far teacher, near teacher, far head, near head, coordinator
		want [6]int
	}{
		{"getToday", "GET /today", "", [6]int{f, y, y, y, y, y}},
		{"listFrameworks", "GET /frameworks", "", [6]int{f, y, y, y, y, y}},
		{"listStandards", "GET /frameworks/1/standards", "", [6]int{f, y, y, y, y, y}},
		{"searchItems", "GET /items", "", [6]int{f, y, y, y, y, y}},
		{"listRealignments", "GET /frameworks/1/realignments?to=2", "", [6]int{f, f, f, y, y, y}},
		{"realign", "POST /standards/5/realignment", `{"to":["x"],"drop":false,"apply":false}`, [6]int{f, f, f, y, y, y}},
		{"listItemIds", "GET /item-ids", "", [6]int{f, y, y, y, y, y}},
		{"getItem", "GET /items/1", "", [6]int{f, y, y, y, y, y}},
		{"listItemVersions", "GET /items/1/versions", "", [6]int{f, y, y, y, y, y}},
		{"compareItemVersions", "GET /items/1/changes?from=1&to=1", "", [6]int{f, y, y, y, y, y}},
		{"listItemUses", "GET /items/1/uses", "", [6]int{f, y, y, y, y, y}},
		{"putItemEditors", "PUT /items/1/editors", `{"people":[]}`, [6]int{f, f, f, f, f, y}},
		{"listItemComments", "GET /items/1/comments", "", [6]int{f, y, y, y, y, y}},
		{"commentOnItem", "POST /items/1/comments", `{"words":"x"}`, [6]int{f, y, y, y, y, y}},
		{"listItemReports", "GET /items/1/reports", "", [6]int{f, y, y, y, y, y}},
		{"reportItem", "POST /items/1/reports", `{"fault":"other","words":"x"}`, [6]int{f, y, y, y, y, y}},
		{"answerReport", "POST /item-reports/1", `{"mended":false,"answer":""}`, [6]int{f, f, f, y, y, y}},
		{"listItemHolds", "GET /items/1/holds", "", [6]int{f, y, y, y, y, y}},
		{"holdItems", "POST /item-holds", `{"items":[2],"until":"2100-01-01","reason":""}`, [6]int{f, f, f, f, f, y}},
		{"letItemsGo", "DELETE /item-holds?items=2", "", [6]int{f, f, f, n, n, y}},
		{"countItemTags", "GET /item-tags", "", [6]int{f, y, y, y, y, y}},
		{"tagItems", "POST /item-tags", `{"items":[1],"tags":"x","scope":"everyone","scopeId":0,"off":[]}`, [6]int{f, 422, 422, y, y, y}},
		{"listTags", "GET /tags", "", [6]int{f, y, y, y, y, y}},
		{"renameTag", "PUT /tags/1", `{"name":"x"}`, [6]int{f, f, f, f, f, y}},
		{"listSavedSearches", "GET /saved-searches", "", [6]int{f, y, y, y, y, y}},
		{"saveSearch", "POST /saved-searches", `{"name":"x","query":""}`, [6]int{f, y, y, y, y, y}},
		{"dropSearch", "DELETE /saved-searches/1", "", [6]int{f, y, y, y, y, y}},
		{"listBanks", "GET /banks", "", [6]int{f, y, y, y, y, y}},
		{"addBank", "POST /banks", `{"kind":"district","schoolId":0,"bank":{"name":"New","about":"","noCopy":false,"noPrint":false,"members":[]}}`, [6]int{f, f, f, 422, 422, y}},
		{"putBank", fmt.Sprintf("PUT /banks/%d", shared[0].ID), `{"name":"New","about":"","noCopy":false,"noPrint":false,"members":[]}`, [6]int{f, f, f, f, f, y}},
		{"listStaff", "GET /staff?words=a", "", [6]int{f, f, f, y, y, y}},
		{"seeNotice", "DELETE /notices/1", "", [6]int{f, y, y, y, y, y}},
		{"listPassages", "GET /passages", "", [6]int{f, y, y, y, y, y}},
		{"changeItems", "POST /item-changes", `{"items":[1],"change":{},"apply":true}`, [6]int{f, f, f, y, y, y}},
		{"undoItemChange", "DELETE /item-changes/1", "", [6]int{f, f, f, n, n, n}},
		{"exportItemsCsv", "GET /items.csv?items=1", "", [6]int{f, f, f, y, y, y}},
		{"exportItemsXlsx", "GET /items.xlsx?items=1", "", [6]int{f, f, f, y, y, y}},
		{"getPassage", "GET /passages/1", "", [6]int{f, y, y, y, y, y}},
		{"addPassage", "POST /passages", passage, [6]int{f, f, f, y, y, y}},
		{"putPassage", "PUT /passages/1", passage, [6]int{f, f, f, 422, 422, y}},
		{"listShelf", "GET /shelf", "", [6]int{f, f, f, y, y, y}},
		{"getShelved", "GET /shelf/" + shelved, "", [6]int{f, f, f, y, y, y}},
		{"describeShelved", "PUT /shelf/" + shelved, `{"name":"x","alt":""}`, [6]int{f, f, f, y, y, y}},
		{"replaceShelved", "POST /shelf/" + shelved + "/replacement", `{"by":"` + shelved + `","apply":false}`, [6]int{f, f, f, y, y, y}},
		{"exportItems", "GET /item-package.zip?items=1", "", [6]int{f, f, f, y, y, y}},
		{"keepMedia", "POST /media?file=x.svg", `<svg width="9" height="9"/>`, [6]int{f, f, f, y, y, y}},
		{"listRubrics", "GET /rubrics", "", [6]int{f, f, f, y, y, y}},
		{"listItemDrafts", "GET /item-drafts", "", [6]int{f, f, f, y, y, y}},
		{"beginItem", "POST /item-drafts", `{"kind":""}`, [6]int{f, f, f, y, y, y}},
		{"getItemDraft", fmt.Sprintf("GET /item-drafts/%d", draft), "", [6]int{f, f, f, n, n, y}},
		{"putItemDraft", fmt.Sprintf("PUT /item-drafts/%d", draft), `{"document":{"kind":"","body":[],"declarations":[],"credit":""},"meta":{"identifier":"","bank":"","subject":"","grade":"","standards":[],"depth":0,"difficulty":"","language":"","tags":[],"passage":0}}`, [6]int{f, f, f, n, n, y}},
		{"tryItem", fmt.Sprintf("POST /item-drafts/%d/credit", draft), `{"response":{}}`, [6]int{f, f, f, n, n, y}},
		{"listDraftTwins", fmt.Sprintf("GET /item-drafts/%d/twins", draft), "", [6]int{f, f, f, n, n, y}},
		{"linkDraft", fmt.Sprintf("POST /item-drafts/%d/link", draft), `{"item":1}`, [6]int{f, f, f, n, n, y}},
		{"keepItem", fmt.Sprintf("POST /item-drafts/%d/keep", draft), "", [6]int{f, f, f, n, n, y}},
		{"dropItemDraft", fmt.Sprintf("DELETE /item-drafts/%d", draft), "", [6]int{f, f, f, n, n, y}},
		{"getTray", "GET /tray", "", [6]int{f, f, f, y, y, y}},
		{"pickItems", "POST /tray", `{"items":[1]}`, [6]int{f, f, f, y, y, y}},
		{"putBackItems", "DELETE /tray?items=1", "", [6]int{f, f, f, y, y, y}},
		{"listTwins", "GET /items/1/twins", "", [6]int{f, y, y, y, y, y}},
		{"keepBoth", "DELETE /items/1/twins", "", [6]int{f, f, f, f, f, y}},
		{"joinItems", "POST /items/1/join", `{"into":2}`, [6]int{f, f, f, f, f, y}},
		{"dropItem", "DELETE /items/1", "", [6]int{f, f, f, f, f, y}},
		{"listImportTwins", "GET /imports/1/twins", "", [6]int{f, f, f, f, f, y}},
		{"getLine", "GET /assessments/1/lines/" + placed, "", [6]int{n, n, n, y, y, y}},
		{"changeLine", "POST /assessments/1/lines/" + placed + "/own-copy", "", [6]int{n, n, n, f, f, y}},
		{"confirmAlignment", "POST /assessments/1/lines/" + placed + "/alignment", "", [6]int{n, n, n, f, f, y}},
		{"copyItem", "POST /items/1/copy", `{"bank":""}`, [6]int{f, f, f, y, y, y}},
		{"offerItem", "POST /items/1/offer", `{"bank":"","words":""}`, [6]int{f, f, f, f, f, y}},
		{"listOffers", "GET /offers", "", [6]int{f, f, f, y, y, y}},
		{"decideOffer", "POST /offers/1", `{"state":"accepted","answer":""}`, [6]int{f, f, f, n, n, n}},
		{"listBlueprints", "GET /blueprints", "", [6]int{f, f, f, y, y, y}},
		{"keepBlueprint", "POST /blueprints", `{"assessmentId":1,"title":"x"}`, [6]int{f, f, f, y, y, y}},
		{"getKeptRows", "GET /blueprints/3", "", [6]int{n, n, n, y, n, y}},
		{"dropBlueprint", "DELETE /blueprints/3", "", [6]int{n, n, n, y, n, y}},
		{"listBandSets", "GET /band-sets", "", [6]int{f, f, f, y, y, y}},
		{"getBandSet", "GET /band-sets/1", "", [6]int{n, n, n, y, y, y}},
		{"listOfficialTables", "GET /official-tables", "", [6]int{f, f, f, y, y, y}},
		{"getOfficialTable", "GET /official-tables/1", "", [6]int{f, f, f, y, y, y}},
		{"exportOfficialTable", "GET /official-tables/1/rows.csv", "", [6]int{f, f, f, y, y, y}},
		{"retireBandSet", "PUT /band-sets/1/retired", `{"retired":true}`, [6]int{n, n, n, f, f, y}},
		{"addBandSet", "POST /band-sets", set, [6]int{f, f, f, y, y, y}},
		{"putBandSet", "PUT /band-sets/1", set, [6]int{f, f, f, f, f, y}},
		{"listAssessments", "GET /assessments", "", [6]int{f, y, y, y, y, y}},
		{"makeLink", "PUT /assessments/1/link", `{"copy":false,"print":false}`, [6]int{n, n, n, f, f, y}},
		{"endLink", "DELETE /assessments/1/link", "", [6]int{n, n, n, f, f, y}},
		{"followLink", "POST /links", `{"secret":"made up"}`, [6]int{f, y, y, y, y, y}},
		{"listDepartments", "GET /departments", "", [6]int{f, f, f, y, y, y}},
		{"startAssessment", "POST /assessments", `{"title":"","shortTitle":"","description":"","instructions":"","subject":"","grades":[],"purpose":"","language":"","year":""}`, [6]int{f, f, f, y, y, y}},
		{"getSheet", "GET /assessments/1", "", [6]int{n, n, n, y, y, y}},
		{"shelveAssessment", "PUT /assessments/1/shelf", `{"shelved":true}`, [6]int{n, n, n, f, f, y}},
		{"deleteAssessment", "DELETE /assessments/1", "", [6]int{n, n, n, f, f, y}},
		{"putOutline", "PUT /assessments/1/outline", `{"title":"x","shortTitle":"","description":"","instructions":"","subject":"mathematics","grades":["06"],"purpose":"benchmark","language":"en","year":""}`, [6]int{n, n, n, f, f, y}},
		{"putLines", "PUT /assessments/1/lines", lines, [6]int{n, n, n, f, f, y}},
		{"putBlueprint", "PUT /assessments/1/blueprint", rows, [6]int{n, n, n, f, f, y}},
		{"listSubjects", "GET /subjects", "", [6]int{f, y, y, y, y, y}},
		{"listPurposes", "GET /purposes", "", [6]int{f, f, f, y, y, y}},
		{"putPurposes", "PUT /purposes", `{"purposes":["benchmark","common formative","practice"]}`, [6]int{f, f, f, f, f, y}},
		{"putShares", "PUT /assessments/1/shares", `{"shares":[]}`, [6]int{n, n, n, f, f, y}},
		{"attend", "PUT /assessments/1/presence", `{"part":"lines"}`, [6]int{n, n, n, y, y, y}},
		{"listEditions", "GET /assessments/1/editions", "", [6]int{n, n, n, y, y, y}},
		{"listHistory", "GET /assessments/1/history", "", [6]int{n, n, n, y, y, y}},
		{"restoreHistory", fmt.Sprintf("POST /assessments/1/history/%d", blueprinted), "", [6]int{n, n, n, f, f, y}},
		{"previewAssessment", "GET /assessments/1/preview", "", [6]int{n, n, n, y, y, y}},
		{"printPdf", "GET /assessments/1/print.pdf?what=key&size=10", "", [6]int{n, n, n, y, y, y}},
		{"printAssessment", "GET /assessments/1/print", "", [6]int{n, n, n, y, y, y}},
		{"putDocument", "PUT /assessments/1/document?file=x.pdf", "%PDF-", [6]int{n, n, n, f, f, y}},
		{"getKey", "GET /assessments/1/key", "", [6]int{n, n, n, y, y, y}},
		{"putKey", "PUT /assessments/1/key", `{"rows":[]}`, [6]int{n, n, n, f, f, y}},
		{"getPools", "GET /assessments/1/pools", "", [6]int{n, n, n, y, y, y}},
		{"proposeCopy", "GET /assessments/1/copy", "", [6]int{f, f, f, y, y, y}},
		{"copyAssessment", "POST /assessments/1/copy", `{}`, [6]int{f, f, f, y, y, y}},
		{"listDraws", "GET /assessments/1/draws", "", [6]int{n, n, n, y, y, y}},
		{"startDraw", "POST /assessments/1/draws", `{"mode":"best","seed":1,"forms":1,"keep":true}`, [6]int{n, n, n, f, f, y}},
		{"lookAtPool", "POST /assessments/1/draw-pool", `{"mode":"best","seed":1,"forms":1,"keep":true}`, [6]int{n, n, n, f, f, y}},
		{"getDraw", fmt.Sprintf("GET /assessments/%d/draws/%d", drawn.AssessmentID, drawn.ID), "", [6]int{n, n, n, y, y, y}},
		{"cancelDraw", fmt.Sprintf("DELETE /assessments/%d/draws/%d", drawn.AssessmentID, drawn.ID), "", [6]int{n, n, n, f, f, y}},
		{"placeDraw", fmt.Sprintf("POST /assessments/%d/draws/%d/place", drawn.AssessmentID, drawn.ID), "", [6]int{n, n, n, f, f, y}},
		{"listSwaps", "GET /assessments/1/lines/" + placed + "/swaps", "", [6]int{n, n, n, y, y, y}},
		{"listApart", "GET /items/1/apart", "", [6]int{f, y, y, y, y, y}},
		{"keepApart", "POST /items/1/apart", `{"other":"nothing","reason":""}`, [6]int{f, f, f, f, f, y}},
		{"letMeet", "DELETE /items/1/apart/2", "", [6]int{f, f, f, f, f, y}},
		{"chooseBands", "PUT /assessments/1/bands", `{"bandSetId":1}`, [6]int{n, n, n, f, f, y}},
		{"putCuts", "PUT /assessments/1/cuts", `{"bands":[{"name":"a","cut":{}},{"name":"b","cut":{"percent":50}}]}`, [6]int{n, n, n, f, f, y}},
		{"forecastCuts", "POST /assessments/1/forecast", `{"mean":0,"sd":1}`, [6]int{f, f, f, y, y, y}},
		{"listBandSetUses", "GET /band-sets/1/uses", "", [6]int{f, f, f, y, y, y}},
		{"listTwinCuts", "GET /assessments/1/twin-cuts", "", [6]int{f, f, f, y, y, y}},
		{"listConversions", "GET /assessments/1/conversion", "", [6]int{f, f, f, y, y, y}},
		{"chooseConversion", "PUT /assessments/1/conversion", `{"tableId":0}`, [6]int{n, n, n, f, f, y}},
		{"putReported", "PUT /assessments/1/reported", `{"reported":[]}`, [6]int{n, n, n, f, f, y}},
		{"getMastery", "GET /assessments/1/mastery", "", [6]int{f, f, f, y, y, y}},
		{"chooseMastery", "PUT /assessments/1/mastery", `{"bandSetId":0}`, [6]int{n, n, n, f, f, y}},
		{"getCalibration", "GET /calibrations?subject=mathematics", "", [6]int{f, f, f, y, y, y}},
		{"calibrate", "POST /calibrations", `{"subject":"mathematics"}`, [6]int{f, f, f, f, f, y}},
		{"cancelCalibration", "DELETE /calibrations/1", "", [6]int{f, f, f, f, f, y}},
		// Panel 1 is one of the demo's: the district's, with judges who are not among these.
		{"listPanels", "GET /panels", "", [6]int{f, y, y, y, y, y}},
		{"beginPanel", "POST /panels", `{"assessmentId":1,"title":"x","method":"angoff","judges":[]}`, [6]int{f, f, f, y, y, y}},
		{"getPanel", "GET /panels/1", "", [6]int{n, n, n, y, y, y}},
		{"inviteJudges", "POST /panels/1/judges", `{"judges":[999999]}`, [6]int{n, n, n, f, f, y}},
		{"moveJudge", "PUT /panels/1/judges/999999", `{"left":true,"why":"x"}`, [6]int{n, n, n, f, f, n}},
		{"openRound", "POST /panels/1/rounds", `{"training":false}`, [6]int{n, n, n, f, f, y}},
		{"moveRound", "PUT /panels/1/rounds/99", `{"to":"close"}`, [6]int{n, n, n, f, f, n}},
		{"endPanel", "PUT /panels/1/ended", `{"ended":true}`, [6]int{n, n, n, f, f, y}},
		{"takePanelCuts", "POST /panels/1/taken", `{"round":2,"median":false,"name":"By the panel"}`, [6]int{n, n, n, f, f, y}},
		{"panelReportPdf", "GET /panels/1/report.pdf", "", [6]int{n, n, n, y, y, y}},
		{"panelReportCsv", "GET /panels/1/report.csv", "", [6]int{n, n, n, y, y, y}},
		{"getPanelAsked", "GET /panels/1/asked", "", [6]int{n, n, n, n, n, n}},
		{"getPanelWork", "GET /panels/1/given", "", [6]int{n, n, n, n, n, n}},
		{"givePanelWork", "PUT /panels/1/given/1", `{"given":[{"cut":0,"line":0,"value":50}]}`, [6]int{n, n, n, n, n, n}},
		{"putPanelDone", "PUT /panels/1/given/1/done", `{"done":true}`, [6]int{n, n, n, n, n, n}},
		{"putPanelNote", "PUT /panels/1/notes/0", `{"words":"x"}`, [6]int{n, n, n, n, n, n}},
		{"cutsHistory", "GET /assessments/1/cuts-of-record", "", [6]int{f, f, f, y, y, y}},
		{"exportNearCuts", "GET /assessments/1/near-cuts.csv", "", [6]int{f, f, f, y, y, y}},
		{"listNearCuts", "GET /assessments/1/near-cuts", "", [6]int{f, f, f, y, y, y}},
		{"weighRecut", "POST /assessments/1/cuts-of-record/weigh", `{"bands":[{"name":"a","cut":{}},{"name":"b","cut":{"percent":50}}]}`, [6]int{f, f, f, f, f, y}},
		{"exportMoved", "POST /assessments/1/cuts-of-record/moved.csv", `{"bands":[{"name":"a","cut":{}},{"name":"b","cut":{"percent":50}}]}`, [6]int{f, f, f, f, f, y}},
		{"recut", "POST /assessments/1/cuts-of-record", `{"bands":[{"name":"a","cut":{}},{"name":"b","cut":{"percent":50}}],"reason":"The state moved its own.","from":0}`, [6]int{f, f, f, f, f, y}},
		{"sealAssessment", "POST /assessments/1/seal", "", [6]int{n, n, n, f, f, y}},
		{"beginEdition", "POST /assessments/2/edition", "", [6]int{n, n, n, f, f, y}},
		{"getDistribution", "GET /assessments/1/distribution", "", [6]int{n, n, n, y, y, y}},
		{"putDistribution", "PUT /assessments/1/distribution", `{"entries":[],"follow":true,"waves":[]}`, [6]int{n, n, n, f, f, y}},
		{"listSent", "GET /assessments/1/sent", "", [6]int{n, n, n, y, y, y}},
		{"getProgress", "GET /assessments/1/progress", "", [6]int{n, n, n, y, y, y}},
		{"listAbsent", "GET /assessments/1/absent?met=true", "", [6]int{n, n, n, y, y, y}},
		{"exportAbsent", "GET /assessments/1/absent.csv?begun=false", "", [6]int{n, n, n, y, y, y}},
		{"listMakeups", "GET /assessments/1/makeups", "", [6]int{n, n, n, y, y, y}},
		{"arrangeMakeup", "POST /assessments/1/makeups", fmt.Sprintf(`{"seats":[{"sittingId":%d,"studentId":999999}],"room":"12","opens":"2099-10-20T09:00","closes":"2099-10-20T11:00"}`, sitting.ID), [6]int{n, n, n, n, n, n}},
		{"takeBackMakeup", "DELETE /makeups/1", "", [6]int{n, n, n, n, n, n}},
		{"remindTeachers", "POST /assessments/1/reminder", "", [6]int{n, n, n, 409, 409, 409}},
		{"moveDates", fmt.Sprintf("PUT /distributions/%d/dates", sitting.DistributionID), `{"apply":true,"waves":[{"name":"","opens":"","closes":"","schools":[],"sections":[]}]}`, [6]int{n, n, n, f, f, y}},
		{"recallDistribution", fmt.Sprintf("POST /distributions/%d/recall", sitting.DistributionID), "", [6]int{n, n, n, f, f, y}},
		{"moveDoors", "PUT /doors", fmt.Sprintf(`{"door":"open","sittings":[%d]}`, sitting.ID), [6]int{f, n, y, n, y, y}},
		{"listGroups", "GET /groups", "", [6]int{f, f, f, y, y, y}},
		{"listChoices", "GET /choices", "", [6]int{f, f, f, y, y, y}},
		{"putChoice", "PUT /choices", `{"name":"x","entries":[{"out":false,"schools":[],"grades":[],"courses":[],"sections":[],"groups":[],"students":[]}]}`, [6]int{f, f, f, y, y, y}},
		{"dropChoice", "DELETE /choices/999", "", [6]int{f, f, f, n, n, n}},
		{"putGroup", "PUT /groups", `{"name":"x","support":"extraTime"}`, [6]int{f, f, f, y, y, y}},
		{"getCalendar", "GET /calendar?from=2026-10-01&to=2026-11-01", "", [6]int{f, y, y, y, y, y}},
		{"exportCalendar", "GET /calendar.ics?from=2026-10-01&to=2026-11-01", "", [6]int{f, y, y, y, y, y}},
		{"readDaysOff", "POST /calendar/days/read", `{"text":"2026-12-24, Break"}`, [6]int{f, f, f, y, y, y}},
		{"putDaysOff", "PUT /calendar/days", `{"school":0,"days":[],"was":null}`, [6]int{f, f, f, f, f, y}},
		{"copyYear", "POST /calendar/next-year", `{"from":"2026-10-01","to":"2026-12-01","school":0,"subject":"","distributions":[],"apply":false}`, [6]int{f, f, f, y, y, y}},
		{"spreadWindows", "POST /calendar/spread", `{"from":"2026-10-01","to":"2026-12-01","school":0,"subject":"","distance":5,"apply":false}`, [6]int{f, f, f, y, y, y}},
		{"makeFeed", "POST /calendar/feed", `{"school":0,"grade":"","subject":""}`, [6]int{f, y, y, y, y, y}},
		{"getSettings", "GET /settings?assessment=1", "", [6]int{n, n, n, y, y, y}},
		{"putSettings", "PUT /settings", `{"place":{"assessment":1},"changes":[{"key":"minutes","value":40,"lock":""}],"keep":[]}`, [6]int{n, n, n, f, f, y}},
		{"lookAtSettings", "POST /settings/look", `{"place":{},"changes":[{"key":"minutes","value":40,"lock":""}],"keep":[]}`, [6]int{f, f, f, f, f, y}},
		{"undoSettings", "POST /settings/undo", `{"place":{"assessment":1},"rows":[{"level":"assessment","assessment":1,"key":"minutes"}]}`, [6]int{n, n, n, f, f, y}},
		{"sendDistribution", "POST /assessments/1/distribution", `{"reasons":{}}`, [6]int{n, n, n, f, f, y}},
		{"getRoom", fmt.Sprintf("GET /sittings/%d", sitting.ID), "", [6]int{f, n, y, n, y, y}},
		{"moveDoor", fmt.Sprintf("PUT /sittings/%d/door", sitting.ID), `{"door":"open"}`, [6]int{f, n, y, n, y, y}},
		{"addSeat", fmt.Sprintf("POST /sittings/%d/seats", sitting.ID), `{"studentId":1}`, [6]int{f, n, n, n, n, n}}, // of the staff nobody finds one who is not in the section
		{"keepDoorOpen", fmt.Sprintf("POST /sittings/%d/door/longer", sitting.ID), `{"untilClosed":false}`, [6]int{f, n, 409, n, 409, 409}},
		{"getBells", fmt.Sprintf("GET /schools/%d/bells", school), "", [6]int{f, n, y, n, y, y}},
		{"putBells", fmt.Sprintf("PUT /schools/%d/bells", school), `{"text":"","was":""}`, [6]int{n, n, f, n, y, y}},
		{"listLateAnswers", fmt.Sprintf("GET /sittings/%d/late-answers", sitting.ID), "", [6]int{f, n, y, n, y, y}},
		{"decideLate", fmt.Sprintf("PUT /sittings/%d/late-answers/%d", sitting.ID, attempt), `{"count":true}`, [6]int{f, n, y, n, y, y}},
		{"beginRecording", fmt.Sprintf("POST /sittings/%d/students/%d/recording", sitting.ID, student), "", [6]int{f, n, y, n, y, y}},
		{"recordAnswer", fmt.Sprintf("PUT /sittings/%d/students/%d/recording", sitting.ID, student), `{"line":1,"recorded":"right","number":1}`, [6]int{f, n, y, n, y, y}},
		{"handInRecorded", fmt.Sprintf("POST /sittings/%d/students/%d/hand-in", sitting.ID, done), "", [6]int{f, n, y, n, y, y}},
		{"getSubstitutes", fmt.Sprintf("GET /sittings/%d/substitutes", sitting.ID), "", [6]int{n, n, y, n, y, y}},
		{"addSubstitute", fmt.Sprintf("POST /sittings/%d/substitutes", sitting.ID), fmt.Sprintf(`{"name":"Dana Reyes","day":%q,"sittings":[%d]}`, time.Now().Format(time.DateOnly), sitting.ID), [6]int{n, n, y, n, y, y}},
		{"endSubstitute", fmt.Sprintf("DELETE /sittings/%d/substitutes/987654", sitting.ID), "", [6]int{n, n, n, n, n, n}},
		{"retryMail", "POST /mail/retry", "", [6]int{f, f, f, f, f, y}},
		{"undoSpread", "POST /calendar/spread/undo", `{"distributions":[987654]}`, [6]int{f, f, f, n, n, n}},
		{"renewCode", fmt.Sprintf("POST /sittings/%d/code", sitting.ID), "", [6]int{f, n, y, n, y, y}},
		{"releaseFeedback", "PUT /assessments/1/feedback", `{"released":true}`, [6]int{n, n, n, f, f, y}},
		{"getFeedback", fmt.Sprintf("GET /my/sittings/%d/feedback", sitting.ID), "", [6]int{y, f, f, f, f, f}},
		{"getPractice", fmt.Sprintf("GET /my/sittings/%d/practice", sitting.ID), "", [6]int{n, f, f, f, f, f}}, // it is not offered here
		{"finishPractice", fmt.Sprintf("POST /my/sittings/%d/practice", sitting.ID), `{"answers":[]}`, [6]int{n, f, f, f, f, f}},
		{"takeBreak", fmt.Sprintf("PUT /my/attempts/%d/break", attempt), `{"resting":true}`, [6]int{n, n, n, n, n, n}},
		{"getItemFeedback", fmt.Sprintf("GET /my/attempts/%d/lines/1/feedback", attempt), "", [6]int{n, n, n, n, n, n}},
		{"listSupports", "GET /supports", "", [6]int{y, y, y, y, y, y}},
		{"listSupportsAhead", "GET /supports/ahead", "", [6]int{f, y, y, y, y, y}},
		{"exportSupportsAhead", "GET /supports/ahead.csv?lacking=true", "", [6]int{f, y, y, y, y, y}},
		{"getSupportDistrict", "GET /supports/district", "", [6]int{f, f, f, y, y, y}},
		{"putGrounds", "PUT /supports/grounds", `{"grounds":["IEP"],"was":["IEP"]}`, [6]int{f, f, f, f, f, 409}},
		{"putConstructRules", "PUT /supports/rules", `{"rules":[],"was":[]}`, [6]int{f, f, f, f, f, 409}},
		{"getProfile", fmt.Sprintf("GET /students/%d/profile", student), "", [6]int{f, n, y, n, y, y}},
		{"endSupport", fmt.Sprintf("DELETE /students/%d/profile/999999", student), "", [6]int{f, f, f, n, n, n}},
		{"enterSupport", "POST /profile-entries", fmt.Sprintf(`{"students":[%d],"key":"seat","value":"by the door","ground":"","subjects":[],"from":"","to":"2020-01-01"}`, student), [6]int{f, f, f, n, y, 409}},
		{"exportProfilesCsv", "GET /profiles.csv", "", [6]int{f, f, f, y, y, y}},
		{"exportProfiles", "GET /profiles.zip", "", [6]int{f, f, f, y, y, y}},
		{"getSupportMatrix", "GET /assessments/1/supports", "", [6]int{f, n, n, y, y, y}},
		{"exportSupportMatrix", "GET /assessments/1/supports.csv", "", [6]int{f, n, n, y, y, y}},
		{"ruleSupport", "PUT /assessments/1/supports/readAloud/ruling", `{"ruling":"without","reason":""}`, [6]int{n, n, n, f, f, y}},
		{"provideSupport", "PUT /assessments/1/supports/scribe/provider", fmt.Sprintf(`{"section":%d,"provider":"","number":0}`, section), [6]int{n, n, n, n, y, y}},
		{"addSupportToday", fmt.Sprintf("POST /sittings/%d/students/%d/supports", sitting.ID, student), `{"key":"lineReader","value":true,"reason":"x"}`, [6]int{f, n, y, n, y, y}},
		{"getPad", fmt.Sprintf("GET /sittings/%d/students/%d/pad", sitting.ID, done), "", [6]int{f, n, y, n, y, y}},
		{"listMySupports", "GET /my/supports", "", [6]int{y, f, f, f, f, f}},
		{"keepAsides", fmt.Sprintf("PUT /my/attempts/%d/asides", attempt), `{"asides":[{"line":0,"tool":"notes","number":1,"value":"x"}]}`, [6]int{n, n, n, n, n, n}},
		{"listMySittings", "GET /my/sittings", "", [6]int{y, f, f, f, f, f}},
		{"openAttempt", fmt.Sprintf("GET /my/sittings/%d/attempt", sitting.ID), "", [6]int{y, f, f, f, f, f}},
		{"beginAttempt", fmt.Sprintf("POST /my/sittings/%d/attempt", sitting.ID), "", [6]int{y, f, f, f, f, f}},
		{"saveAnswers", fmt.Sprintf("PUT /my/attempts/%d/answers", attempt), `{"answers":[{"line":1,"number":1,"response":{},"marked":false}]}`, [6]int{n, n, n, n, n, n}},
		{"offerLate", fmt.Sprintf("PUT /my/attempts/%d/late-answers", attempt), `{"answers":[{"line":1,"number":1,"response":{},"marked":false}]}`, [6]int{n, n, n, n, n, n}},
		{"handIn", fmt.Sprintf("POST /my/attempts/%d/hand-in", attempt), "", [6]int{n, n, n, n, n, n}},
		{"listResults", "GET /results", "", [6]int{f, y, y, y, y, y}},
		{"getResultsByBand", fmt.Sprintf("GET /results/%d/bands", sitting.DistributionID), "", [6]int{f, n, y, n, y, y}},
		{"exportResultsByBand", fmt.Sprintf("GET /results/%d/bands.csv", sitting.DistributionID), "", [6]int{f, n, y, n, y, y}},
		{"getMatrix", fmt.Sprintf("GET /results/%d/matrix", sitting.DistributionID), "", [6]int{f, n, y, n, y, y}},
		{"exportMatrix", fmt.Sprintf("GET /results/%d/matrix.csv", sitting.DistributionID), "", [6]int{f, n, y, n, y, y}},
		{"getMasteryResults", fmt.Sprintf("GET /results/%d/mastery", sitting.DistributionID), "", [6]int{f, n, y, n, y, y}},
		{"getTrail", fmt.Sprintf("GET /results/%d/scores/%d", sitting.DistributionID, attempt), "", [6]int{f, n, f, n, y, y}}, // the near teacher's class has yet to sit it
		{"openKeys", fmt.Sprintf("PUT /results/%d/keys", sitting.DistributionID), `{"open":false}`, [6]int{n, n, n, n, f, y}},
		{"listSchools", "GET /schools", "", [6]int{f, y, y, y, y, y}},
		{"listSections", fmt.Sprintf("GET /schools/%d/sections", school), "", [6]int{f, n, y, n, y, y}},
		{"findPeople", "GET /found-people?words=park", "", [6]int{f, y, y, y, y, y}},
		{"listStudents", fmt.Sprintf("GET /sections/%d/students", section), "", [6]int{f, n, y, n, y, y}},
		{"listImports", "GET /imports", "", [6]int{f, f, f, f, f, y}},
		{"startImport", "POST /imports?kind=items&file=x.csv", "identifier\n", [6]int{f, f, f, f, f, y}},
		{"getImport", "GET /imports/1", "", [6]int{f, f, f, f, f, y}},
		{"cancelImport", "DELETE /imports/1", "", [6]int{f, f, f, f, f, y}},
		{"exportImportReport", "GET /imports/1/report.csv", "", [6]int{f, f, f, f, f, y}},
		{"listLedger", "GET /ledger", "", [6]int{f, f, f, f, f, y}},
	}

	asked := map[string]bool{"getSession": true, "signIn": true, "signOut": true, "listDemoPeople": true, "signInToTry": true, "lookAtLink": true, "comeByLink": true, "readFeed": true} // need nobody
	for _, op := range ops {
		asked[op.operation] = true
		method, path, _ := strings.Cut(op.call, " ")
		headers := []string{"If-Match", "99"} // nobody has this version: who is let in changes nothing
		if op.operation == "startImport" || op.operation == "keepMedia" || op.operation == "putDocument" {
			headers = append(headers, "Content-Type", "application/octet-stream")
		}
		for i, who := range people {
			status, body := who.do(method, "/api"+path, op.body, headers...)
			switch {
			case i == 0:
				assert.Equal(t, http.StatusUnauthorized, status, "%s by nobody: %s", op.operation, body)
			case op.want[i-1] == y:
				assert.NotContains(t, []int{401, 403, 404, 500}, status, "%s by %s: %s", op.operation, who.name, body)
			default:
				assert.Equal(t, op.want[i-1], status, "%s by %s: %s", op.operation, who.name, body)
			}
		}
	}
	var contract struct {
		Paths map[string]map[string]json.RawMessage
	}
	people[0].get("/api/openapi.json", &contract)
	for path, methods := range contract.Paths {
		for method, op := range methods {
			if method == "parameters" {
				continue
			}
			var named struct{ OperationID string }
			require.NoError(t, json.Unmarshal(op, &named))
			assert.True(t, asked[named.OperationID], "%s %s is not in this table", method, path)
		}
	}
}

// openSitting is a sitting whose door is open, with a student who still works
// and the attempt of one who has handed in.
func (s *served) openSitting() (sitting giverows.Sitting, student, handedIn int64) {
	s.Helper()
	for _, g := range s.sittings(giverows.SittingFilter{OpenAfter: time.Now(), Limit: 50}) {
		if g.Door != "open" {
			continue
		}
		seats, err := giverows.Room(context.Background(), s.store.Reader, g.ID)
		require.NoError(s, err)
		student, handedIn = 0, 0
		for _, seat := range seats {
			if seat.State == "scored" {
				handedIn = seat.AttemptID
			} else {
				student = seat.StudentID
			}
		}
		if student > 0 && handedIn > 0 {
			return g, student, handedIn
		}
	}
	s.Fatal("no sitting is half done")
	return
}

func (s *served) sittings(f giverows.SittingFilter) []giverows.Sitting {
	s.Helper()
	list, err := giverows.Sittings(context.Background(), s.store.Reader, roster.Scope{District: true}, f)
	require.NoError(s, err)
	return list
}

// givenAt is a sitting of the fall benchmark, at another kind of school.
func (s *served) givenAt(kind string) giverows.Sitting {
	s.Helper()
	for _, g := range s.sittings(giverows.SittingFilter{Limit: 500}) {
		if strings.Contains(strings.ToLower(g.School), kind) {
			return g
		}
	}
	s.Fatalf("no sitting at a %s school", kind)
	return giverows.Sitting{}
}

func (s *served) teacherOf(g giverows.Sitting) *client {
	s.Helper()
	people, err := officerows.PeopleOfSitting(context.Background(), s.store.Reader, g.ID, 0)
	require.NoError(s, err)
	require.NotEmpty(s, people)
	return s.person(people[0].ID)
}

func (s *served) headOf(school string) *client {
	s.Helper()
	heads, err := officerows.PeopleToTry(context.Background(), s.store.Reader, roster.SchoolCoordinator, 50)
	require.NoError(s, err)
	for _, p := range heads {
		if p.School == school {
			return s.person(p.ID)
		}
	}
	s.Fatalf("%s has no coordinator", school)
	return nil
}
