package peoplefile

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"nimbleanvil/internal/formats/table"
)

// What goes out comes in again, whatever stands in the cells, by either form.
func TestImportOfExportIsIdentity(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		rows := []Row{}
		for range rapid.IntRange(0, 5).Draw(t, "rows") {
			var r Row
			for i, field := range Form.Fields() {
				*table.Cell(&r, i) = rapid.StringMatching(`([=+@aéB1;"'-][ ,;"'aB1.-]{0,6}[a1])?`).Draw(t, field)
			}
			r.Name = "N" + r.Name
			rows = append(rows, r)
		}
		for _, write := range []func([]Row) ([]byte, error){Form.CSV, Form.JSON} {
			b, err := write(rows)
			require.NoError(t, err)
			p := Form.Parse(b)
			require.Empty(t, p.Faults)
			require.Equal(t, rows, append([]Row{}, p.Rows...))
		}
	})
}

func TestGroups(t *testing.T) {
	assert.Equal(t, []string{"Noon", "Thursday, all ages"}, Row{Groups: " Noon ;Thursday, all ages;; "}.GroupNames())
	assert.Equal(t, "Noon; Thursday", JoinGroups([]string{"Noon", "a;b", "Thursday"}))
}

func FuzzParse(f *testing.F) {
	f.Add([]byte("name,body,unit\nNell,61 kg,kg\n"))
	f.Add([]byte(`{"format":"nimbleanvil-people","v":1,"rows":[{"name":"Nell"}]}`))
	f.Fuzz(func(t *testing.T, b []byte) {
		p := Form.Parse(b)
		if len(p.Faults) == 0 {
			out, err := Form.CSV(p.Rows)
			require.NoError(t, err)
			require.Empty(t, Form.Parse(out).Faults)
		}
	})
}
