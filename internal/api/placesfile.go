package api

import (
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"math/big"
	"net/http"
	"reflect"
	"regexp"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/formats/placefile"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/problem"
	"nimbleanvil/internal/store"
)

// PlacesText is a file of places as it was chosen.
type PlacesText struct {
	Text string `json:"text" maxLength:"900000" doc:"CSV or JSON"`
	Hash string `json:"hash,omitempty" maxLength:"64" doc:"of the preview that was looked at; to commit only"`
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

// rawFile is a file as a browser saves it.
type rawFile struct {
	Type        string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

func (s *server) registerPlacesFile(a huma.API) {
	operation(a, http.MethodGet, "/api/places-file", "export-places", "Every place that is not retired, as CSV or JSON", func(ctx context.Context, in *struct {
		Format string `query:"format" enum:"csv,json" default:"csv"`
	}) (*rawFile, error) {
		places, err := s.places(ctx)
		if err != nil {
			return nil, err
		}
		var rows []placefile.Row
		for _, p := range places {
			rows = append(rows, fileRows(p)...)
		}
		if in.Format == "json" {
			b, err := placefile.JSON(rows)
			return &rawFile{"application/json", `attachment; filename="places.json"`, b}, err
		}
		b, err := placefile.CSV(rows)
		return &rawFile{"text/csv; charset=utf-8; header=present", `attachment; filename="places.csv"`, b}, err
	})
	operation(a, http.MethodPost, "/api/places-file/preview", "preview-places", "What a file of places would do", func(ctx context.Context, in *result[PlacesText]) (*result[PlacesPreview], error) {
		p, _, _, err := s.lookAtPlaces(ctx, in.Body.Text)
		return answer(p), err
	})
	operation(a, http.MethodPost, "/api/places-file/import", "import-places", "Bring in what was looked at, all or nothing", func(ctx context.Context, in *result[PlacesText]) (*result[PlacesPreview], error) {
		p, stamp, brought, err := s.lookAtPlaces(ctx, in.Body.Text)
		switch {
		case err != nil:
			return nil, err
		case in.Body.Hash != p.Hash:
			return nil, problem.New(problem.Conflict, http.StatusConflict, "the file or the places are no longer what was looked at: look again first")
		case len(p.Faults) > 0:
			return nil, fieldError("body.text", errors.New(p.Faults[0].Message), p.Faults[0].Value)
		}
		err = s.Store.BringPlaces(ctx, s.Scope, stamp, brought)
		if errors.Is(err, store.ErrConflict) {
			return nil, problem.New(problem.Conflict, http.StatusConflict, "somebody changed a place meanwhile: look again first")
		}
		if errors.Is(err, store.ErrFull) {
			return nil, problem.New(problem.TooMany, http.StatusUnprocessableEntity, "with this file a list would be over its limit: nothing was brought in")
		}
		return answer(p), err
	})
}

// fileRows writes a place down as rows.
func fileRows(p Place) []placefile.Row {
	q := func(q *Quantity) string {
		if q == nil {
			return ""
		}
		return measure.Write(measure.Typed{Decimal: q.Decimal, Unit: measure.Unit(q.Unit)})
	}
	base := placefile.Row{Place: p.Name, PlaceKind: p.Kind, Unit: p.MassUnit}
	var out []placefile.Row
	for _, i := range p.Implements {
		r, d := base, i.Details
		r.Item, r.ID, r.Name, r.Kind, r.Count, r.Mass, r.Height = "implement", i.ID, i.Name, i.Kind, fmt.Sprint(i.Count), q(i.Mass), q(i.Height)
		r.Checked, r.Rated, r.Legs = placefile.Word(i.Checked), typedText(d.Rated), d.Legs
		r.TableMass, r.CentreIn, r.EdgeOut = typedText(d.TableMass), typedText(d.CentreIn), typedText(d.EdgeOut)
		if len(d.Pulls) == 2 {
			r.Stretch1, r.Pull1, r.Stretch2, r.Pull2 = typedText(&d.Pulls[0].Stretch), typedText(&d.Pulls[0].Pull), typedText(&d.Pulls[1].Stretch), typedText(&d.Pulls[1].Pull)
		}
		out = append(out, r)
	}
	for _, o := range p.Objects {
		r, in := base, objectInput(o.Name, o.Use, o.Count, o.Details, q(&o.Mass))
		r.Item, r.ID, r.Name, r.Use, r.Count, r.Mass = "object", o.ID, o.Name, o.Use, fmt.Sprint(o.Count), in.Mass
		r.How, r.What, r.In, r.Volume, r.Empty = in.How, in.What, in.In, in.Volume, in.Empty
		r.Refill, r.Traits = placefile.Word(in.Refill), strings.Join(in.Traits, " ")
		out = append(out, r)
	}
	for _, c := range p.Containers {
		r, d := base, c.Details
		r.Item, r.ID, r.Name, r.Mass, r.Max, r.Volume = "container", c.ID, c.Name, q(&c.Mass), q(&c.Max), typedText(d.Volume)
		r.Closed, r.Straps, r.Wear = placefile.Word(d.Closed), placefile.Word(d.Straps), strings.Join(d.Wear, " ")
		out = append(out, r)
	}
	return out
}

// placesReader turns a file into what would be brought in.
type placesReader struct {
	file   placefile.Parsed
	places []Place
	stocks map[string]store.Stock
	out    PlacesPreview
	bring  []store.Brought
	whose  map[string]thing
	used   map[string]bool
	line   int
	bad    bool
}

// lookAtPlaces reads a file against what is there now.
func (s *server) lookAtPlaces(ctx context.Context, text string) (PlacesPreview, string, []store.Brought, error) {
	stamp, err := s.Store.PlacesStamp(ctx, s.Scope)
	if err != nil {
		return PlacesPreview{}, "", nil, err
	}
	rows, err := s.Store.Places(ctx, s.Scope)
	if err != nil {
		return PlacesPreview{}, "", nil, err
	}
	stocks, err := s.stocksOf(ctx, rows)
	if err != nil {
		return PlacesPreview{}, "", nil, err
	}
	r := placesReader{file: placefile.Parse([]byte(text)), stocks: map[string]store.Stock{}, used: map[string]bool{}}
	r.out = PlacesPreview{Rows: []PlacesRow{}}
	for _, p := range rows {
		r.places = append(r.places, placeOf(p, stocks[p.ID]))
		r.stocks[p.PublicID] = stocks[p.ID]
	}
	r.whose = whose(r.places)
	for i, row := range r.file.Rows {
		r.line, r.bad = r.file.Lines[i], false
		r.row(row)
	}
	r.fits()
	r.out.Faults, r.out.More = append([]placefile.Mistake{}, r.file.Faults...), r.file.More
	slices.SortStableFunc(r.out.Faults, func(a, b placefile.Mistake) int {
		return cmp.Or(cmp.Compare(a.Line, b.Line), cmp.Compare(a.Column, b.Column))
	})
	sum := sha256.Sum256([]byte(stamp + "\x00" + text))
	r.out.Hash = hex.EncodeToString(sum[:])
	return r.out, stamp, r.bring, nil
}

func (r *placesReader) fault(field, message, value string) {
	r.bad = true
	r.file.Fault(placefile.Mistake{Line: r.line, Column: r.file.Column(field), Field: field, Message: message, Value: value})
}

// oneOf checks a word against a list.
func (r *placesReader) oneOf(field, value string, words ...string) {
	if !slices.Contains(words, value) {
		r.fault(field, "one of "+strings.Join(words, ", "), value)
	}
}

func (r *placesReader) yes(field, value string) bool {
	yes, ok := placefile.Yes(value)
	if !ok {
		r.fault(field, "yes or nothing", value)
	}
	return yes
}

// row reads one row.
func (r *placesReader) row(row placefile.Row) {
	row.Place, row.Name = r.name("place", row.Place), r.name("name", row.Name)
	place, at := r.place(row)
	t := &typing{unit: measure.Unit(place.MassUnit), wrong: &problem.Faults{}}
	n, err := placefile.Number(row.Count)
	if err != nil {
		r.fault("count", err.Error(), row.Count)
	}
	said := PlacesRow{Line: r.line, Place: place.Name, Item: row.Item, Name: row.Name, Count: n}
	stock := r.stocks[place.PublicID]
	switch row.Item {
	case "implement":
		r.oneOf("kind", row.Kind, kit.Kettlebell, kit.Dumbbell, kit.DumbbellPair, kit.Band, kit.Bench, kit.Box, kit.Table)
		if row.Legs != "" {
			r.oneOf("legs", row.Legs, "four-leg", "glass", "folding", "extending", "one-column", "trestle", "loose-top")
		}
		in := ImplementInput{Name: Name(row.Name), Kind: row.Kind, Mass: row.Mass, Height: row.Height, Count: n, Checked: r.yes("checked", row.Checked), Rated: row.Rated, Legs: row.Legs,
			TableMass: row.TableMass, CentreIn: row.CentreIn, EdgeOut: row.EdgeOut, Stretch1: row.Stretch1, Pull1: row.Pull1, Stretch2: row.Stretch2, Pull2: row.Pull2}
		x := t.implementRow(newID, in)
		take(r, row, said, t.wrong, &at.Implements, stock.Implements, x, measure.Mass(valueOr(x.MassG)),
			func(i *store.Implement) *string { return &i.PublicID },
			func(a, b store.Implement) bool {
				return a.Name == b.Name && a.Kind == b.Kind && valueOr(a.MassG) == valueOr(b.MassG)
			},
			func(i store.Implement) store.Implement {
				i.Row, i.PlaceID, i.CreatedAt = store.Row{}, 0, x.CreatedAt
				return i
			})
	case "object":
		r.oneOf("use", row.Use, kit.Grip, kit.Hug, kit.Pack)
		if row.How != "" {
			r.oneOf("how", row.How, kit.ByGross, kit.ByNet, kit.ByVolume, kit.ByKind, kit.ByScale)
		}
		traits := placefile.Words(row.Traits)
		for _, x := range traits {
			r.oneOf("traits", x, kit.Soft, kit.Loose, kit.Glass, kit.Hot, kit.Hard)
		}
		x := t.objectRow(newID, ObjectInput{Name: Name(row.Name), Use: row.Use, Mass: row.Mass, Count: n, How: row.How, What: row.What, In: row.In, Volume: row.Volume, Empty: row.Empty,
			Refill: r.yes("refill", row.Refill), Traits: traits})
		take(r, row, said, t.wrong, &at.Objects, stock.Objects, x, measure.Mass(x.MassG),
			func(o *store.Object) *string { return &o.PublicID },
			func(a, b store.Object) bool { return a.Name == b.Name },
			func(o store.Object) store.Object {
				o.Row, o.PlaceID, o.CreatedAt = store.Row{}, 0, x.CreatedAt
				return o
			})
	case "container":
		wear := placefile.Words(row.Wear)
		for _, x := range wear {
			r.oneOf("wear", x, kit.InFront, kit.InHand, kit.OnHips, kit.OnBack)
		}
		x := t.containerRow(newID, ContainerInput{Name: Name(row.Name), Mass: row.Mass, Max: row.Max, Volume: row.Volume, Closed: r.yes("closed", row.Closed), Straps: r.yes("straps", row.Straps), Wear: wear})
		take(r, row, said, t.wrong, &at.Containers, stock.Containers, x, measure.Mass(x.MassG),
			func(c *store.Container) *string { return &c.PublicID },
			func(a, b store.Container) bool { return a.Name == b.Name },
			func(c store.Container) store.Container {
				c.Row, c.PlaceID, c.CreatedAt = store.Row{}, 0, x.CreatedAt
				return c
			})
	default:
		r.oneOf("item", row.Item, "implement", "object", "container")
	}
}

func valueOr(n *int64) int64 {
	if n == nil {
		return 0
	}
	return *n
}

// place finds the place of a row by name among what is there and what the file makes.
func (r *placesReader) place(row placefile.Row) (store.Place, *store.Brought) {
	if row.PlaceKind != "" {
		r.oneOf("placeKind", row.PlaceKind, "hall", "flat")
	}
	if row.Unit != "" {
		r.oneOf("unit", row.Unit, "kg", "lb")
	}
	for i := range r.bring {
		if b := &r.bring[i]; b.Place.Name == row.Place {
			if row.PlaceKind != "" && row.PlaceKind != b.Place.Kind || row.Unit != "" && row.Unit != b.Place.MassUnit {
				r.fault("placeKind", "an earlier row says another kind or unit of this place", row.PlaceKind)
			}
			return b.Place, b
		}
	}
	next := store.Place{PublicID: derivedID("place", row.Place), Name: row.Place, Kind: cmp.Or(row.PlaceKind, "flat"), MassUnit: cmp.Or(row.Unit, "kg")}
	for _, p := range r.places {
		if p.Name == row.Place {
			next.PublicID, next.Kind, next.MassUnit = p.ID, cmp.Or(row.PlaceKind, p.Kind), cmp.Or(row.Unit, p.MassUnit)
		}
	}
	r.bring = append(r.bring, store.Brought{Place: next})
	return next, &r.bring[len(r.bring)-1]
}

// name reads a name as everywhere else.
func (r *placesReader) name(field, text string) string {
	name, err := names.Read(text)
	if err != nil {
		r.fault(field, err.Error(), text)
	}
	return name
}

// thing is whose an id is: a kind of thing of a place.
type thing struct{ item, place string }

// whose gives the thing that each id is of.
func whose(places []Place) map[string]thing {
	out := map[string]thing{}
	for _, p := range places {
		for _, i := range p.Implements {
			out[i.ID] = thing{"implement", p.Name}
		}
		for _, o := range p.Objects {
			out[o.ID] = thing{"object", p.Name}
		}
		for _, c := range p.Containers {
			out[c.ID] = thing{"container", p.Name}
		}
	}
	return out
}

// together counts what is there and what comes to it.
func together[T any](there, comes []T, id func(T) string) int {
	ids := map[string]bool{}
	for _, list := range [][]T{there, comes} {
		for _, x := range list {
			ids[id(x)] = true
		}
	}
	return len(ids)
}

// fits refuses a file with which a list would be over its limit, as bringing it in would.
func (r *placesReader) fits() {
	r.line = 0
	places := len(r.places)
	for _, b := range r.bring {
		there := r.stocks[b.Place.PublicID]
		if _, known := r.stocks[b.Place.PublicID]; !known {
			places++
		}
		for _, n := range []int{
			together(there.Implements, b.Implements, func(i store.Implement) string { return i.PublicID }),
			together(there.Objects, b.Objects, func(o store.Object) string { return o.PublicID }),
			together(there.Containers, b.Containers, func(c store.Container) string { return c.PublicID }),
		} {
			if n > store.MaxItems {
				r.fault("place", fmt.Sprintf("a place has at most %d things of a kind, and %q would have %d", store.MaxItems, b.Place.Name, n), b.Place.Name)
			}
		}
	}
	if places > store.MaxPlaces {
		r.fault("place", fmt.Sprintf("a studio has at most %d places, not %d", store.MaxPlaces, places), "")
	}
}

var publicID = regexp.MustCompile(`^[0-9a-z]{26}$`)

// derivedID makes an id from words: the same words, the same id, so that a file
// brought in twice is brought in once.
func derivedID(words ...string) string {
	sum := sha256.Sum256([]byte(strings.Join(words, "\x00")))
	text := new(big.Int).SetBytes(sum[:]).Text(36)
	return (text + strings.Repeat("0", 26))[:26]
}

// take adds a row to what is brought in and says what it would do. A thing is found by
// its id, or else as the first of the same name that no row before has taken.
func take[T any](r *placesReader, row placefile.Row, said PlacesRow, wrong *problem.Faults, into *[]T, there []T, x T, mass measure.Mass,
	id func(*T) *string, alike func(a, b T) bool, bare func(T) T) {
	for _, f := range wrong.Fields {
		r.fault(f.Location, f.Message, fmt.Sprint(f.Value))
	}
	if row.ID != "" && (!publicID.MatchString(row.ID) || r.used[row.ID]) {
		r.fault("id", "26 small letters and digits, each once; leave it out for new things", row.ID)
	}
	if of, known := r.whose[row.ID]; known && of != (thing{said.Item, said.Place}) {
		r.fault("id", "another thing has this id: leave it out", row.ID)
	}
	if r.bad {
		return
	}
	at := slices.IndexFunc(there, func(o T) bool { return *id(&o) == row.ID })
	if row.ID == "" {
		at = slices.IndexFunc(there, func(o T) bool { return !r.used[*id(&o)] && alike(o, x) })
	}
	said.MassG, said.Does = mass, "new"
	switch {
	case at >= 0:
		*id(&x) = *id(&there[at])
		said.Does = "changed"
		if reflect.DeepEqual(bare(there[at]), bare(x)) {
			said.Does = "same"
		}
	case row.ID != "":
		*id(&x) = row.ID
	default:
		n := 0
		for {
			*id(&x) = derivedID(row.Place, row.Item, row.Name, fmt.Sprint(mass), fmt.Sprint(n))
			if !r.used[*id(&x)] {
				break
			}
			n++
		}
	}
	r.used[*id(&x)] = true
	switch said.Does {
	case "new":
		r.out.New++
	case "changed":
		r.out.Changed++
	default:
		r.out.Same++
	}
	r.out.Rows = append(r.out.Rows, said)
	if said.Does != "same" {
		*into = append(*into, x)
	}
}
