// Package placefile is what places have as a table that a spreadsheet opens (CSV,
// RFC 4180) and as JSON: one row a thing, every quantity as somebody would type it.
// docs/formats/places.md describes it.
package placefile

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"
	"slices"
	"strconv"
	"strings"

	jsonv2 "github.com/go-json-experiment/json"
	"github.com/go-json-experiment/json/jsontext"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
)

// Format and Version stand at the top of a JSON file.
const (
	Format  = "nimbleanvil-places"
	Version = 1
)

// MaxRows bounds a file.
const MaxRows = 2000

// Row is one thing of a place. Lists are words with spaces between; Yes is "yes" or
// nothing. What the kind of thing does not have stays empty.
type Row struct {
	Place     string `json:"place" doc:"name of the place"`
	PlaceKind string `json:"placeKind,omitempty" doc:"hall or flat"`
	Unit      string `json:"unit,omitempty" doc:"what a bare number means there: kg or lb"`
	Item      string `json:"item" doc:"implement, object or container"`
	Name      string `json:"name"`
	Kind      string `json:"kind,omitempty" doc:"of an implement: kettlebell, dumbbell, dumbbell-pair, barbell, band, bench, box, table, plate, post, mat, wall, smooth-floor, foot-hold, wedge, door"`
	Use       string `json:"use,omitempty" doc:"of an object: grip, hug, pack"`
	Count     string `json:"count,omitempty"`
	Mass      string `json:"mass,omitempty" doc:"of one piece"`
	How       string `json:"how,omitempty" doc:"how an object's mass is known: gross, net, volume, kind, weighed"`
	What      string `json:"what,omitempty"`
	In        string `json:"in,omitempty"`
	Volume    string `json:"volume,omitempty"`
	Empty     string `json:"empty,omitempty"`
	Refill    string `json:"refill,omitempty" doc:"yes: filled in steps"`
	Traits    string `json:"traits,omitempty" doc:"soft loose glass hot sharp hard-edged"`
	Max       string `json:"max,omitempty" doc:"the most a container may weigh packed"`
	Closed    string `json:"closed,omitempty"`
	Straps    string `json:"straps,omitempty"`
	Wear      string `json:"wear,omitempty" doc:"front hand hips back"`
	Height    string `json:"height,omitempty"`
	Highest   string `json:"highest,omitempty" doc:"of a bench whose height is set"`
	Points    string `json:"points,omitempty" doc:"of a door, to anchor a band: top middle foot"`
	Checked   string `json:"checked,omitempty"`
	Rated     string `json:"rated,omitempty"`
	Legs      string `json:"legs,omitempty"`
	TableMass string `json:"tableMass,omitempty"`
	CentreIn  string `json:"centreIn,omitempty"`
	EdgeOut   string `json:"edgeOut,omitempty"`
	Stretch1  string `json:"stretch1,omitempty"`
	Pull1     string `json:"pull1,omitempty"`
	Stretch2  string `json:"stretch2,omitempty"`
	Pull2     string `json:"pull2,omitempty"`
	ID        string `json:"id,omitempty" doc:"of the thing, where it is known; leave it out for new ones"`
}

// File is the JSON form.
type File struct {
	Format string `json:"format"`
	V      int    `json:"v"`
	Rows   []Row  `json:"rows"`
}

// Mistake is something wrong in a file: the line as an editor counts them, the column
// of the table from 1, both 0 where the whole file is meant.
type Mistake struct {
	Line    int    `json:"line"`
	Column  int    `json:"column"`
	Field   string `json:"field,omitempty"`
	Message string `json:"message"`
	Value   string `json:"value,omitempty"`
}

// Fields lists the columns in order.
var Fields = fields()

func fields() []string {
	t := reflect.TypeFor[Row]()
	var out []string
	for i := range t.NumField() {
		name, _, _ := strings.Cut(t.Field(i).Tag.Get("json"), ",")
		out = append(out, name)
	}
	return out
}

func (r *Row) cell(i int) *string {
	return reflect.ValueOf(r).Elem().Field(i).Addr().Interface().(*string) // every field is one
}

// Parsed is a file that was read: each row with the line it stands on.
type Parsed struct {
	Rows  []Row
	Lines []int
	// columns gives the column of each field in this file.
	columns map[string]int
	Faults  []Mistake
	// More is how many faults are not named in Faults.
	More int
}

// maxFaults is how many faults of a file are named.
const maxFaults = 20

// Column gives where a field stands in this file, 0 where it has none.
func (p Parsed) Column(field string) int { return p.columns[field] }

// Parse reads either form: JSON begins with a brace. A byte order mark is skipped,
// semicolons are understood. What cannot be read is in Faults.
func Parse(b []byte) Parsed {
	b = bytes.TrimPrefix(b, []byte("\xef\xbb\xbf"))
	if bytes.HasPrefix(bytes.TrimLeft(b, " \t\r\n"), []byte("{")) {
		return parseJSON(b)
	}
	return parseCSV(b)
}

func parseJSON(b []byte) Parsed {
	p := Parsed{columns: map[string]int{}}
	var f File
	// Unknown and doubled fields, halves of characters and text after the end are refused.
	err := jsonv2.Unmarshal(b, &f, jsonv2.RejectUnknownMembers(true))
	switch {
	case err != nil:
		p.Fault(mistake(b, err))
	case f.Format != Format || f.V != Version:
		p.Fault(Mistake{
			Line:    1,
			Field:   "format",
			Message: fmt.Sprintf("this is no %s of version %d", Format, Version),
			Value:   f.Format,
		})
	case len(f.Rows) > MaxRows:
		p.Fault(Mistake{Message: fmt.Sprintf("at most %d rows, not %d", MaxRows, len(f.Rows))})
	default:
		p.Rows = f.Rows
		for i := range f.Rows {
			p.Lines = append(p.Lines, i+1) // a row's number: JSON has no lines of its own
		}
	}
	return p
}

// mistake says what is wrong with a document, and on which line.
func mistake(b []byte, err error) Mistake {
	m := Mistake{Line: 1, Message: err.Error()}
	at := int64(0)
	var syntax *jsontext.SyntacticError
	var kind *jsonv2.SemanticError
	switch {
	case errors.Is(err, io.ErrUnexpectedEOF):
		at, m.Message = int64(len(b)), "the document is cut short"
	case errors.As(err, &syntax):
		at, m.Field, m.Message = syntax.ByteOffset, syntax.JSONPointer.LastToken(), syntax.Err.Error()
	case errors.As(err, &kind):
		at, m.Field, m.Message = kind.ByteOffset, kind.JSONPointer.LastToken(), "this cannot stand here"
		if errors.Is(err, jsonv2.ErrUnknownName) {
			m.Message = "no such field"
		}
	}
	m.Line += bytes.Count(b[:min(int(at), len(b))], []byte("\n"))
	return m
}

// Fault notes something wrong; beyond maxFaults it is only counted.
func (p *Parsed) Fault(f Mistake) {
	if len(p.Faults) == maxFaults {
		p.More++
		return
	}
	f.Value = cut(f.Value)
	p.Faults = append(p.Faults, f)
}

// cut shortens what stood in a file to what a message shows.
func cut(s string) string {
	const most = 200
	for i := range s {
		if i > most {
			return s[:i] + "…"
		}
	}
	return s
}

func parseCSV(b []byte) Parsed {
	p := Parsed{columns: map[string]int{}}
	first, _, _ := bytes.Cut(b, []byte("\n"))
	r := csv.NewReader(bytes.NewReader(b))
	if bytes.Count(first, []byte(";")) > bytes.Count(first, []byte(",")) {
		r.Comma = ';'
	}
	r.FieldsPerRecord = -1
	head, err := r.Read()
	if err != nil {
		p.Fault(
			Mistake{Line: 1, Message: "the first line names the columns: " + strings.Join(Fields[:6], ", ") + " ..."},
		)
		return p
	}
	at := make([]int, len(head))
	for i, name := range head {
		name = strings.TrimSpace(name)
		at[i] = slices.Index(Fields, name)
		if at[i] < 0 || p.columns[name] > 0 {
			p.Fault(Mistake{
				Line:    1,
				Column:  i + 1,
				Message: "no such column, or a second one: use " + strings.Join(Fields, ", "),
				Value:   name,
			})
			continue
		}
		p.columns[name] = i + 1
	}
	for _, must := range []string{"place", "item", "name"} {
		if p.columns[must] == 0 {
			p.Fault(Mistake{Line: 1, Field: must, Message: "this column is missing"})
		}
	}
	for len(p.Faults) == 0 {
		cells, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		var broken *csv.ParseError
		if errors.As(err, &broken) {
			p.Fault(Mistake{Line: broken.Line, Column: 0, Message: broken.Err.Error()})
			break
		}
		line, _ := r.FieldPos(0)
		if len(cells) > len(head) {
			p.Fault(Mistake{
				Line:    line,
				Column:  len(head) + 1,
				Message: fmt.Sprintf("there are %d cells and %d columns", len(cells), len(head)),
			})
			break
		}
		if len(p.Rows) == MaxRows {
			p.Fault(Mistake{Line: line, Message: fmt.Sprintf("at most %d rows", MaxRows)})
			break
		}
		var row Row
		for i, c := range cells {
			*row.cell(at[i]) = unguard(strings.TrimSpace(c))
		}
		if row != (Row{}) {
			p.Rows, p.Lines = append(p.Rows, row), append(p.Lines, line)
		}
	}
	return p
}

// risky begins what a spreadsheet would take for a formula.
const risky = "=+-@\t\r"

// guard puts an apostrophe before what a spreadsheet would run, and before an
// apostrophe that stood there.
func guard(s string) string {
	if s != "" && strings.ContainsRune(risky+"'", rune(s[0])) {
		return "'" + s
	}
	return s
}

func unguard(s string) string {
	if len(s) > 1 && s[0] == '\'' && strings.ContainsRune(risky+"'", rune(s[1])) {
		return s[1:]
	}
	return s
}

// CSV writes rows as a table: CRLF, quotes where they are needed, formulas guarded.
func CSV(rows []Row) ([]byte, error) {
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	w.UseCRLF = true
	if err := w.Write(Fields); err != nil {
		return nil, err
	}
	for _, r := range rows {
		cells := make([]string, len(Fields))
		for i := range cells {
			cells[i] = guard(*r.cell(i))
		}
		if err := w.Write(cells); err != nil {
			return nil, err
		}
	}
	w.Flush()
	return b.Bytes(), w.Error()
}

// JSON writes rows as a document.
func JSON(rows []Row) ([]byte, error) {
	if rows == nil {
		rows = []Row{}
	}
	b, err := json.MarshalIndent(File{Format, Version, rows}, "", "  ")
	return append(b, '\n'), err
}

// Yes reads a yes or no; ok is false for anything else.
func Yes(s string) (yes, ok bool) {
	switch strings.ToLower(s) {
	case "yes", "true", "1", "x":
		return true, true
	case "", "no", "false", "0":
		return false, true
	}
	return false, false
}

// Word writes a yes, or nothing.
func Word(yes bool) string {
	if yes {
		return "yes"
	}
	return ""
}

// Number reads a count; an empty one is 1.
func Number(s string) (int, error) {
	if s == "" {
		return 1, nil
	}
	n, err := strconv.Atoi(s)
	if err != nil || n < 1 || n > 500 {
		return 0, errors.New("a whole number from 1 to 500")
	}
	return n, nil
}

// Typed gives a row as it would be typed into a form, with what of its words and numbers
// cannot be read.
func (r Row) Typed() (kit.Row, fault.List) {
	var wrong fault.List
	yes := func(field, text string) bool {
		is, ok := Yes(text)
		if !ok {
			wrong.Note(field, "yes or nothing", text)
		}
		return is
	}
	n, err := Number(r.Count)
	if err != nil {
		wrong.Note("count", err.Error(), r.Count)
	}
	return kit.Row{Item: r.Item, Name: r.Name, Count: n, Mass: r.Mass, Volume: r.Volume,
		Kind: r.Kind, Height: r.Height, Rated: r.Rated, Legs: r.Legs, TableMass: r.TableMass, CentreIn: r.CentreIn, EdgeOut: r.EdgeOut,
		Stretch1: r.Stretch1, Pull1: r.Pull1, Stretch2: r.Stretch2, Pull2: r.Pull2, Checked: yes("checked", r.Checked), Highest: r.Highest, Points: strings.Fields(r.Points),
		Use: r.Use, How: r.How, What: r.What, In: r.In, Empty: r.Empty, Refill: yes("refill", r.Refill), Traits: strings.Fields(r.Traits),
		Max: r.Max, Closed: yes("closed", r.Closed), Straps: yes("straps", r.Straps), Wear: strings.Fields(r.Wear)}, wrong
}

// Of writes a row of a place as a row of a file; whose place it is, and its id, are left
// to whoever knows them.
func Of(r kit.Row) Row {
	out := Row{Item: r.Item, Name: r.Name, Mass: r.Mass, Volume: r.Volume,
		Kind: r.Kind, Height: r.Height, Rated: r.Rated, Legs: r.Legs, TableMass: r.TableMass, CentreIn: r.CentreIn, EdgeOut: r.EdgeOut,
		Stretch1: r.Stretch1, Pull1: r.Pull1, Stretch2: r.Stretch2, Pull2: r.Pull2, Checked: Word(r.Checked), Highest: r.Highest, Points: strings.Join(r.Points, " "),
		Use: r.Use, How: r.How, What: r.What, In: r.In, Empty: r.Empty, Refill: Word(r.Refill), Traits: strings.Join(r.Traits, " "),
		Max: r.Max, Closed: Word(r.Closed), Straps: Word(r.Straps), Wear: strings.Join(r.Wear, " ")}
	if r.Item != kit.ContainerRow {
		out.Count = strconv.Itoa(r.Count)
	}
	return out
}
