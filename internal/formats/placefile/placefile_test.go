package placefile

import (
	"strings"
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
			r := Row{Place: "P"}
			for i := range Fields {
				*table.Cell(&r, i) = strings.TrimSpace(rapid.StringOf(rapid.SampledFrom([]rune("aB1 ,;\"'=+-@\n.é"))).Draw(t, Fields[i]))
			}
			r.Place = "P" + r.Place
			rows = append(rows, r)
		}
		table, err := Form.CSV(rows)
		require.NoError(t, err)
		p := Parse(table)
		require.Empty(t, p.Faults)
		require.Equal(t, rows, append([]Row{}, p.Rows...))
		doc, err := Form.JSON(rows)
		require.NoError(t, err)
		p = Parse(doc)
		require.Empty(t, p.Faults)
		require.Equal(t, rows, append([]Row{}, p.Rows...))
	})
}

// Tables as spreadsheets of several countries save them (RFC 4180, and common
// practice where it is silent), and what is wrong named by line and column.
func TestParseReference(t *testing.T) {
	p := Parse([]byte("\xef\xbb\xbfplace;item;name;mass\r\nHall;implement;\"Bell; \"\"big\"\"\";16,5 kg\r\n\r\nHall;implement;'=1+1;4\r\n"))
	require.Empty(t, p.Faults)
	require.Len(t, p.Rows, 2)
	assert.Equal(t, Row{Place: "Hall", Item: "implement", Name: `Bell; "big"`, Mass: "16,5 kg"}, p.Rows[0])
	assert.Equal(t, "=1+1", p.Rows[1].Name)
	assert.Equal(t, []int{2, 4}, p.Lines)
	assert.Equal(t, 4, p.Column("mass"))
	for text, want := range map[string]Mistake{
		"":                                        {Line: 1},
		"place,item\n":                            {Line: 1, Field: "name"},
		"place,item,name,nme\n":                   {Line: 1, Column: 4},
		"place,item,name,name\n":                  {Line: 1, Column: 4},
		"place,item,name\na,b,c,d\n":              {Line: 2, Column: 4},
		"place,item,name\na,b,\"c\n":              {Line: 2},
		`{"format":"x","v":1,"rows":[]}`:          {Line: 1, Field: "format"},
		"{\n\"format\":\"nimbleanvil-places\",\n": {Line: 3},
		"{\"format\":\"nimbleanvil-places\",\n\"v\":1,\"rows\":[{\"nme\":\"x\"}]}": {Line: 2, Field: "nme"},
		"{\"format\":\"nimbleanvil-places\",\"v\":1,\n\"v\":1}":                    {Line: 2, Field: "v"},
	} {
		got := Parse([]byte(text))
		require.NotEmpty(t, got.Faults, text)
		f := got.Faults[0]
		assert.Equal(t, []any{want.Line, want.Column, want.Field}, []any{f.Line, f.Column, f.Field}, text)
		assert.NotEmpty(t, f.Message)
	}
	many := "place,item,name\n" + strings.Repeat("P,object,N\n", MaxRows)
	assert.Empty(t, Parse([]byte(many)).Faults)
	assert.NotEmpty(t, Parse([]byte(many+"P,object,N\n")).Faults)
}

func FuzzParse(f *testing.F) {
	f.Add([]byte("place,item,name\nP,object,\"N\"\n"))
	f.Add([]byte(`{"format":"nimbleanvil-places","v":1,"rows":[]}`))
	f.Fuzz(func(t *testing.T, b []byte) {
		p := Parse(b)
		if len(p.Faults) == 0 {
			out, err := Form.CSV(p.Rows)
			require.NoError(t, err)
			require.Empty(t, Parse(out).Faults)
		}
	})
}
