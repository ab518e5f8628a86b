package studio

import (
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"reflect"
	"regexp"
	"slices"
	"strings"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/formats/placefile"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/store"
)

// PlacesText is a file of places as it was chosen, or what one place has as it was typed.
type PlacesText struct {
	Text  string `json:"text" maxLength:"900000" doc:"CSV or JSON; with a place, lines"`
	Place string `json:"place,omitempty" maxLength:"64" doc:"id: the text is what this place has, a line a thing"`
	Hash  string `json:"hash,omitempty" maxLength:"64" doc:"of the preview that was looked at; to commit only"`
}

// PlacesPreview is what a file of places would do.
type PlacesPreview struct {
	Hash    string              `json:"hash" doc:"of the file and of everything there now"`
	Rows    []PlacesRow         `json:"rows"`
	Faults  []placefile.Mistake `json:"faults" doc:"with any of them nothing can be brought in; at most 20"`
	More    int                 `json:"more" doc:"how many faults are not named"`
	New     int                 `json:"new"`
	Changed int                 `json:"changed"`
	Same    int                 `json:"same"`
}

// PlacesRow is one row of a file and what it would do.
type PlacesRow struct {
	Line  int          `json:"line"`
	Place string       `json:"place"`
	Item  string       `json:"item"`
	Name  string       `json:"name"`
	MassG measure.Mass `json:"massG" doc:"0 where it has none"`
	Count int          `json:"count"`
	Does  string       `json:"does" enum:"new,changed,same"`
}

// PlaceRows writes every place that is not retired down as rows of a file.
func (s Studio) PlaceRows(ctx context.Context) ([]placefile.Row, error) {
	places, err := s.Places(ctx)
	var rows []placefile.Row
	for _, p := range places {
		for _, t := range p.things {
			r := placefile.Of(t.Row())
			r.Place, r.PlaceKind, r.Unit, r.ID = p.Name, p.Kind, p.MassUnit, t.id
			rows = append(rows, r)
		}
	}
	return rows, err
}

// PreviewPlaces says what a file of places would do.
func (s Studio) PreviewPlaces(ctx context.Context, in PlacesText) (PlacesPreview, error) {
	r, err := s.lookAtPlaces(ctx, in)
	return r.out, err
}

// ImportPlaces brings in what was looked at, all or nothing.
func (s Studio) ImportPlaces(ctx context.Context, in PlacesText) (PlacesPreview, error) {
	r, err := s.lookAtPlaces(ctx, in)
	switch {
	case err != nil:
		return r.out, err
	case in.Hash != r.out.Hash:
		return r.out, Refusal{Stale, "the file or the places are no longer what was looked at: look again first"}
	case len(r.out.Faults) > 0:
		f := r.out.Faults[0]
		return r.out, fault.List{{Path: "text", Message: f.Message, Value: f.Value}}
	}
	all := make([]store.PlaceWith, 0, len(r.bring))
	for _, b := range r.bring {
		all = append(all, store.PlaceWith{Place: b.row, Things: b.comes})
	}
	switch err := s.store.BringPlaces(ctx, s.scope, r.stamp, all); {
	case errors.Is(err, store.ErrConflict):
		return r.out, Refusal{Stale, "somebody changed a place meanwhile: look again first"}
	case errors.Is(err, store.ErrFull):
		return r.out, Refusal{Full, "with this file a list would be over its limit: nothing was brought in"}
	default:
		return r.out, err
	}
}

// NewPlace is a place with rows of what it has, which is there or made anew by its id.
type NewPlace struct {
	ID string
	PlaceInput
	Rows []NewRow
}

// NewRow is a row of a place with its id.
type NewRow struct {
	ID string
	kit.Row
}

// PutPlaces makes or changes places with what they have, all or nothing.
func (s Studio) PutPlaces(ctx context.Context, places []NewPlace, wrong *fault.List) error {
	stamp, err := s.store.PlacesStamp(ctx, s.scope)
	if err != nil {
		return err
	}
	var all []store.PlaceWith
	for i, p := range places {
		with := store.PlaceWith{
			Place: store.Place{PublicID: p.ID, Name: string(p.Name), Kind: p.Kind, MassUnit: p.MassUnit},
		}
		for n, r := range p.Rows {
			var faults fault.List
			t := checkRow(r.Row, measure.Unit(p.MassUnit), &faults)
			*wrong = append(*wrong, faults.Under(fmt.Sprintf("[%d].rows[%d]", i, n))...)
			with.Things = append(with.Things, rowOf(r.ID, t))
		}
		all = append(all, with)
	}
	if err := wrong.Err(); err != nil {
		return err
	}
	return s.store.BringPlaces(ctx, s.scope, stamp, all)
}

// filePlace is a place of a file, with what is there and what comes to it.
type filePlace struct {
	row   store.Place
	there []named
	known bool // the studio has it
	comes []store.Thing
	ids   map[string]map[string]bool // of what is there and comes, by sort
}

// placesReader turns a file into what would be brought in.
type placesReader struct {
	file   placefile.Parsed
	stamp  string
	places []Place
	out    PlacesPreview
	bring  []*filePlace
	used   map[string]bool
	line   int
	bad    bool
}

// lookAtPlaces reads a file against what is there now.
func (s Studio) lookAtPlaces(ctx context.Context, in PlacesText) (*placesReader, error) {
	r := &placesReader{
		used: map[string]bool{},
		out:  PlacesPreview{Rows: []PlacesRow{}},
	}
	var err error
	if r.stamp, err = s.store.PlacesStamp(ctx, s.scope); err != nil {
		return r, err
	}
	if r.places, err = s.Places(ctx); err != nil {
		return r, err
	}
	if in.Place == "" {
		r.file = placefile.Parse([]byte(in.Text))
	} else {
		i := slices.IndexFunc(r.places, func(p Place) bool { return p.ID == in.Place })
		if i < 0 {
			return r, store.ErrNotFound
		}
		r.file = placefile.ParseLines(in.Text, r.places[i].Name)
	}
	for i, row := range r.file.Rows {
		r.line, r.bad = r.file.Lines[i], false
		r.row(row)
	}
	r.fits()
	r.out.Faults, r.out.More = append([]placefile.Mistake{}, r.file.Faults...), r.file.More
	slices.SortStableFunc(r.out.Faults, func(a, b placefile.Mistake) int {
		return cmp.Or(cmp.Compare(a.Line, b.Line), cmp.Compare(a.Column, b.Column))
	})
	sum := sha256.Sum256([]byte(r.stamp + "\x00" + in.Place + "\x00" + in.Text))
	r.out.Hash = hex.EncodeToString(sum[:])
	return r, nil
}

func (r *placesReader) fault(field, message, value string) {
	r.bad = true
	r.file.Fault(
		placefile.Mistake{Line: r.line, Column: r.file.Column(field), Field: field, Message: message, Value: value},
	)
}

// oneOf checks a word against a list.
func (r *placesReader) oneOf(field, value string, words ...string) {
	if !slices.Contains(words, value) {
		r.fault(field, "one of "+strings.Join(words, ", "), value)
	}
}

// row reads one row and says what it would do. A thing is found by its id, or else as the
// first like it that no row before has taken.
func (r *placesReader) row(row placefile.Row) {
	row.Place, row.Name = r.name("place", row.Place), r.name("name", row.Name)
	place := r.place(row)
	typed, mistakes := row.Typed()
	for _, f := range mistakes {
		r.fault(f.Path, f.Message, fmt.Sprint(f.Value))
	}
	var wrong fault.List
	t := checkRow(typed, measure.Unit(place.row.MassUnit), &wrong)
	for _, f := range wrong {
		if mistakes.Good(f.Path) && (f.Path != "name" || row.Name != "") {
			r.fault(f.Path, f.Message, fmt.Sprint(f.Value))
		}
	}
	if row.ID != "" && (!publicID.MatchString(row.ID) || r.used[row.ID]) {
		r.fault("id", "26 small letters and digits, each once; leave it out for new things", row.ID)
	}
	if r.anotherThings(row.ID, row.Place, t.Item) {
		r.fault("id", "another thing has this id: leave it out", row.ID)
	}
	if r.bad {
		return
	}
	said := PlacesRow{
		Line:  r.line,
		Place: place.row.Name,
		Item:  t.Item,
		Name:  t.Name,
		MassG: t.MassG(),
		Count: t.Count,
		Does:  "new",
	}
	id := row.ID
	if old, found := r.find(place.there, id, t); found {
		id, said.Does = old.id, "changed"
		if reflect.DeepEqual(old.Thing, t) {
			said.Does = "same"
		}
	}
	for n := 0; id == ""; n++ {
		if next := derivedID(row.Place, t.Item, t.Name, fmt.Sprint(int64(t.MassG())), fmt.Sprint(n)); !r.used[next] {
			id = next
		}
	}
	r.used[id] = true
	place.ids[t.Item][id] = true
	r.out.Rows = append(r.out.Rows, said)
	switch said.Does {
	case "same":
		r.out.Same++
		return
	case "new":
		r.out.New++
	default:
		r.out.Changed++
	}
	place.comes = append(place.comes, rowOf(id, t))
}

// find gives the thing that a row is of.
func (r *placesReader) find(there []named, id string, t kit.Thing) (named, bool) {
	i := slices.IndexFunc(there, func(o named) bool {
		if id != "" {
			return o.id == id
		}
		return !r.used[o.id] && o.Item == t.Item && o.Name == t.Name && o.Kind == t.Kind &&
			(t.Item != kit.ImplementRow || o.MassG() == t.MassG())
	})
	if i < 0 {
		return named{}, false
	}
	return there[i], true
}

// anotherThings tells whether an id is that of a thing of another sort or place.
func (r *placesReader) anotherThings(id, place, item string) bool {
	return slices.ContainsFunc(r.places, func(p Place) bool {
		return slices.ContainsFunc(
			p.things,
			func(t named) bool { return t.id == id && (p.Name != place || t.Item != item) },
		)
	})
}

// place finds the place of a row by name among what is there and what the file makes.
func (r *placesReader) place(row placefile.Row) *filePlace {
	if row.PlaceKind != "" {
		r.oneOf("placeKind", row.PlaceKind, "hall", "flat")
	}
	if row.Unit != "" {
		r.oneOf("unit", row.Unit, "kg", "lb")
	}
	for _, b := range r.bring {
		if b.row.Name != row.Place {
			continue
		}
		if row.PlaceKind != "" && row.PlaceKind != b.row.Kind || row.Unit != "" && row.Unit != b.row.MassUnit {
			r.fault("placeKind", "an earlier row says another kind or unit of this place", row.PlaceKind)
		}
		return b
	}
	b := &filePlace{
		row: store.Place{
			PublicID: derivedID("place", row.Place),
			Name:     row.Place,
			Kind:     cmp.Or(row.PlaceKind, "flat"),
			MassUnit: cmp.Or(row.Unit, "kg"),
		},
		ids: map[string]map[string]bool{kit.ImplementRow: {}, kit.ObjectRow: {}, kit.ContainerRow: {}},
	}
	for _, p := range r.places {
		if p.Name == row.Place {
			b.row.PublicID, b.row.Kind, b.row.MassUnit = p.ID, cmp.Or(row.PlaceKind, p.Kind), cmp.Or(row.Unit,
				p.MassUnit)
			b.known, b.there = true, p.things
			for _, t := range p.things {
				b.ids[t.Item][t.id] = true
			}
		}
	}
	r.bring = append(r.bring, b)
	return b
}

// name reads a name as everywhere else.
func (r *placesReader) name(field, text string) string {
	name, err := names.Read(text)
	if err != nil {
		r.fault(field, err.Error(), text)
	}
	return name
}

// fits refuses a file with which a list would be over its limit, as bringing it in would.
func (r *placesReader) fits() {
	r.line = 0
	places := len(r.places)
	for _, b := range r.bring {
		if !b.known {
			places++
		}
		for _, ids := range b.ids {
			if n := len(ids); n > store.MaxItems {
				r.fault(
					"place",
					fmt.Sprintf("a place has at most %d things of a kind, and %q would have %d", store.MaxItems,
						b.row.Name, n),
					b.row.Name,
				)
			}
		}
	}
	if places > store.MaxPlaces {
		r.fault("place", fmt.Sprintf("a studio has at most %d places, not %d", store.MaxPlaces, places), "")
	}
}

var publicID = regexp.MustCompile(`^[0-9a-z]{26}$`)

// derivedID makes an id from words: the same words, the same id, so that a file brought in
// twice is brought in once.
func derivedID(words ...string) string { return names.ID(words...) }
