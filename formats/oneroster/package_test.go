package oneroster_test

import (
	"testing"
	"testing/fstest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/formats/oneroster"
	"pineledger/formats/table"
)

func files(dir string) fstest.MapFS {
	out := fstest.MapFS{}
	for name, text := range map[string]string{
		"orgs.csv":        "sourcedId,status,name,type\no1,,Heron Point,school\n,,No id,school\no3,tobedeleted,Gone,school\n",
		"courses.csv":     "sourcedId,title,subjects\n",
		"classes.csv":     "sourcedId,title,grades,courseSourcedId,schoolSourcedId\nc1,6-1,\"06, 7\",x,o1\n",
		"users.csv":       "sourcedId,enabledUser,givenName,familyName\n",
		"roles.csv":       "userSourcedId,role,orgSourcedId\n",
		"enrollments.csv": "sourcedId,classSourcedId,userSourcedId,role\n",
	} {
		out[dir+name] = &fstest.MapFile{Data: []byte(text)}
	}
	return out
}

func TestRowsOfAPackageInAFolder(t *testing.T) {
	p, err := oneroster.Open(files("export/"))
	require.NoError(t, err)
	assert.False(t, p.Has(oneroster.Demographics))
	var names, refused []string
	err = p.Each(oneroster.Orgs, func(row table.Row, _ *table.RowError) error {
		if _, err := oneroster.Need(row, "sourcedId"); err != nil {
			refused = append(refused, err.Error())
			return nil
		}
		if oneroster.Active(row) {
			names = append(names, row.Get("name"))
		}
		return nil
	})
	require.NoError(t, err)
	assert.Equal(t, []string{"Heron Point"}, names)
	assert.Equal(t, []string{"orgs.csv line 3, sourcedId: is empty"}, refused)
}

func TestUnknownGradesAreRefusedWithTheirField(t *testing.T) {
	p, err := oneroster.Open(files(""))
	require.NoError(t, err)
	err = p.Each(oneroster.Classes, func(row table.Row, _ *table.RowError) error {
		_, err := oneroster.Grades(row, "grades")
		return err
	})
	assert.EqualError(t, err, `classes.csv line 2, grades: "7" is not a grade code such as KG, 03 or 11`)
}

func TestMissingFilesAreNamed(t *testing.T) {
	f := files("")
	delete(f, "users.csv")
	_, err := oneroster.Open(f)
	assert.EqualError(t, err, "no users.csv in the package")
	_, err = oneroster.Open(fstest.MapFS{})
	assert.EqualError(t, err, "no orgs.csv in the package")
}
