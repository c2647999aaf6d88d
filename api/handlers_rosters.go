package api

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"slices"
	"strconv"

	"pineledger/api/contract"
	"pineledger/api/edge"
	"pineledger/app/desk"
	"pineledger/app/intake"
	"pineledger/app/office"
)

func schoolOf(s office.School) contract.School {
	return contract.School{Id: s.ID, Name: s.Name, Sections: s.Sections, Students: s.Students, Teachers: s.Teachers}
}

func sectionOf(s office.Section) contract.Section {
	return contract.Section{Id: s.ID, SchoolId: s.SchoolID, School: s.School, Title: s.Title, CourseId: s.CourseID, Course: s.Course, Grade: s.Grade, Teacher: s.Teacher, Students: s.Students}
}

func (h *officeHandlers) ListSchools(ctx context.Context, _ contract.ListSchoolsRequestObject) (contract.ListSchoolsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Office.Schools(ctx, v)
	return contract.ListSchools200JSONResponse(each(list, schoolOf)), err
}

func (h *officeHandlers) ListSections(ctx context.Context, r contract.ListSectionsRequestObject) (contract.ListSectionsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Office.SectionsOf(ctx, v, r.Id)
	return contract.ListSections200JSONResponse(each(list, sectionOf)), err
}

func (h *officeHandlers) ListStudents(ctx context.Context, r contract.ListStudentsRequestObject) (contract.ListStudentsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Office.StudentsOfSection(ctx, v, r.Id)
	return contract.ListStudents200JSONResponse(each(list, func(s office.SectionStudent) contract.Student {
		return contract.Student{Id: s.ID, Number: s.Number, Name: s.Family + ", " + s.Given, Grade: s.Grade}
	})), err
}

func (h *officeHandlers) FindPeople(ctx context.Context, r contract.FindPeopleRequestObject) (contract.FindPeopleResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Office.Find(ctx, v, r.Params.Words)
	return contract.FindPeople200JSONResponse(each(list, func(f office.Found) contract.FoundPerson {
		return contract.FoundPerson{StudentId: f.StudentID, Name: f.Name, SectionId: f.SectionID, Section: f.Section, SchoolId: f.SchoolID, School: f.School, Grade: f.Grade}
	})), err
}

func importOf(r intake.ImportReport) contract.Import {
	return contract.Import{Id: r.ID, Kind: string(r.Kind), File: r.File, State: contract.ImportState(r.State), Stage: r.Stage, Message: r.Message, StartedAt: r.Started,
		Read: r.Counts.Read, New: r.Counts.New, Changed: r.Counts.Changed, Unchanged: r.Counts.Unchanged, Refused: r.Counts.Refused, Aside: r.Counts.Aside, Twins: r.Counts.Twins,
		Refusals: remarks(r.Refusals), Notes: remarks(r.Notes)}
}

func remarks(list []intake.Remark) []contract.Remark {
	return each(list[:min(len(list), shownRemarks)], func(x intake.Remark) contract.Remark {
		return contract.Remark{Sort: contract.RemarkSort(x.Sort), File: x.File, Line: x.Line, Field: x.Field, Reason: x.Reason}
	})
}

// shownRemarks of each sort are listed on a screen; the report as CSV has more.
const shownRemarks = 200

func (h *officeHandlers) ListImports(ctx context.Context, _ contract.ListImportsRequestObject) (contract.ListImportsResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Intake.Imports(ctx, v)
	return contract.ListImports200JSONResponse(each(list, importOf)), err
}

func (h *officeHandlers) StartImport(ctx context.Context, r contract.StartImportRequestObject) (contract.StartImportResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	if !v.MayImport() {
		return nil, desk.ErrForbidden // before anything is written
	}
	path, err := h.app.Intake.KeepUpload(r.Body, filepath.Ext(r.Params.File))
	if err != nil {
		return nil, err
	}
	id, err := h.app.Intake.StartImport(ctx, v, intake.File{Kind: intake.ImportKind(r.Params.Kind), Name: filepath.Base(r.Params.File), Path: path,
		Assume: intake.Assumed{Subject: value(r.Params.Subject), Grade: value(r.Params.Grade), Bank: value(r.Params.Bank), Standard: value(r.Params.Standard), Year: value(r.Params.Year)}, Older: value(r.Params.Older), Look: value(r.Params.Look)})
	if err != nil {
		return nil, errors.Join(err, os.Remove(path))
	}
	report, err := h.app.Intake.ImportByID(ctx, v, id)
	return contract.StartImport202JSONResponse(importOf(report)), err
}

func (h *officeHandlers) GetImport(ctx context.Context, r contract.GetImportRequestObject) (contract.GetImportResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	report, err := h.app.Intake.ImportByID(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return contract.GetImport200JSONResponse(importOf(report)), nil
}

func (h *officeHandlers) CancelImport(ctx context.Context, r contract.CancelImportRequestObject) (contract.CancelImportResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	return contract.CancelImport204Response{}, h.app.Intake.CancelImport(v, r.Id)
}

func (h *officeHandlers) ExportImportReport(ctx context.Context, r contract.ExportImportReportRequestObject) (contract.ExportImportReportResponseObject, error) {
	v, err := edge.Who(ctx)
	if err != nil {
		return nil, err
	}
	report, err := h.app.Intake.ImportByID(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	c := report.Counts
	rows := [][]string{{"counts", "", "", "read " + strconv.Itoa(c.Read) + ", new " + strconv.Itoa(c.New) + ", changed " + strconv.Itoa(c.Changed) +
		", unchanged " + strconv.Itoa(c.Unchanged) + ", refused " + strconv.Itoa(c.Refused) + ", left aside " + strconv.Itoa(c.Aside), ""}}
	for _, x := range slices.Concat(report.Refusals, report.Notes) {
		rows = append(rows, []string{x.File, strconv.Itoa(x.Line), x.Field, x.Reason, string(x.Sort)})
	}
	body, err := csvBody(intake.ReportHead, rows)
	return contract.ExportImportReport200TextcsvResponse{Body: body}, err
}
