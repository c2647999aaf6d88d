package api

import (
	"context"
	"errors"
	"io"
	"os"
	"path/filepath"
	"strconv"

	"pineledger/app"
	"pineledger/store"
)

func sectionOf(s store.Section) Section {
	return Section{Id: s.ID, SchoolId: s.SchoolID, School: s.School, Title: s.Title, Course: s.Course, Grade: s.Grade, Teacher: s.Teacher, Students: s.Students}
}

func (h *handlers) ListSchools(ctx context.Context, _ ListSchoolsRequestObject) (ListSchoolsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Schools(ctx, v)
	return ListSchools200JSONResponse(each(list, func(s store.School) School {
		return School{Id: s.ID, Name: s.Name, Sections: s.Sections, Students: s.Students, Teachers: s.Teachers}
	})), err
}

func (h *handlers) ListSections(ctx context.Context, r ListSectionsRequestObject) (ListSectionsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.SectionsOf(ctx, v, r.Id)
	return ListSections200JSONResponse(each(list, sectionOf)), err
}

func (h *handlers) ListStudents(ctx context.Context, r ListStudentsRequestObject) (ListStudentsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.StudentsOfSection(ctx, v, r.Id)
	return ListStudents200JSONResponse(each(list, func(s store.SectionStudent) Student {
		return Student{Id: s.ID, Number: s.Number, Name: s.Family + ", " + s.Given, Grade: s.Grade}
	})), err
}

func importOf(r app.ImportReport) Import {
	return Import{Id: r.ID, Kind: string(r.Kind), File: r.File, State: ImportState(r.State), Stage: r.Stage, Message: r.Message, StartedAt: r.Started,
		Read: r.Counts.Read, New: r.Counts.New, Changed: r.Counts.Changed, Unchanged: r.Counts.Unchanged, Refused: r.Counts.Refused, Aside: r.Counts.Aside, Twins: r.Counts.Twins,
		Refusals: each(r.Refusals[:min(len(r.Refusals), shownRefusals)], func(x store.Refusal) Refusal {
			return Refusal{File: x.File, Line: x.Line, Field: x.Field, Reason: x.Reason}
		})}
}

// shownRefusals are listed on a screen; the report as CSV has more.
const shownRefusals = 200

func (h *handlers) ListImports(ctx context.Context, _ ListImportsRequestObject) (ListImportsResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	list, err := h.app.Imports(ctx, v)
	return ListImports200JSONResponse(each(list, importOf)), err
}

func (h *handlers) StartImport(ctx context.Context, r StartImportRequestObject) (StartImportResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	if !v.MayImport() {
		return nil, app.ErrForbidden // before anything is written
	}
	path, err := keepUpload(r.Body, filepath.Ext(r.Params.File))
	if err != nil {
		return nil, err
	}
	id, err := h.app.StartImport(ctx, v, app.ImportKind(r.Params.Kind), filepath.Base(r.Params.File), path)
	if err != nil {
		return nil, errors.Join(err, os.Remove(path))
	}
	report, err := h.app.ImportByID(ctx, v, id)
	return StartImport202JSONResponse(importOf(report)), err
}

// keepUpload streams a body to a file of its own.
func keepUpload(body io.Reader, ending string) (path string, err error) {
	if len(ending) > 5 {
		ending = ""
	}
	file, err := os.CreateTemp("", "pineledger-import-*"+ending)
	if err != nil {
		return "", err
	}
	_, copyErr := io.Copy(file, body)
	if err := errors.Join(copyErr, file.Close()); err != nil {
		return "", errors.Join(err, os.Remove(file.Name()))
	}
	return file.Name(), nil
}

func (h *handlers) GetImport(ctx context.Context, r GetImportRequestObject) (GetImportResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	report, err := h.app.ImportByID(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	return GetImport200JSONResponse(importOf(report)), nil
}

func (h *handlers) CancelImport(ctx context.Context, r CancelImportRequestObject) (CancelImportResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	return CancelImport204Response{}, h.app.CancelImport(v, r.Id)
}

func (h *handlers) ExportImportReport(ctx context.Context, r ExportImportReportRequestObject) (ExportImportReportResponseObject, error) {
	v, err := who(ctx)
	if err != nil {
		return nil, err
	}
	report, err := h.app.ImportByID(ctx, v, r.Id)
	if err != nil {
		return nil, err
	}
	c := report.Counts
	rows := [][]string{{"counts", "", "", "read " + strconv.Itoa(c.Read) + ", new " + strconv.Itoa(c.New) + ", changed " + strconv.Itoa(c.Changed) +
		", unchanged " + strconv.Itoa(c.Unchanged) + ", refused " + strconv.Itoa(c.Refused) + ", left aside " + strconv.Itoa(c.Aside)}}
	for _, x := range report.Refusals {
		rows = append(rows, []string{x.File, strconv.Itoa(x.Line), x.Field, x.Reason})
	}
	body, err := csvBody([]string{"file", "line", "field", "reason"}, rows)
	return ExportImportReport200TextcsvResponse{Body: body}, err
}
