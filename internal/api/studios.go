package api

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/formats/peoplefile"
	"nimbleanvil/internal/formats/placefile"
	"nimbleanvil/internal/formats/studiofile"
	"nimbleanvil/internal/formats/table"
	"nimbleanvil/internal/studio"
)

// Clock is the server's instant.
type Clock struct {
	NowMs int64 `json:"nowMs" doc:"milliseconds since 1970 UTC"`
}

// maxFile bounds a studio's file, which studioImport takes.
const (
	maxFile      = 32 << 20
	studioImport = "/api/studio/import"
)

// exported is a studio's file as a browser saves it.
type exported struct {
	Disposition string `header:"Content-Disposition"`
	Body        studiofile.File
}

// rawFile is a file as a browser saves it.
type rawFile struct {
	Type        string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

func registerStudio(r *routes) {
	operation(r, http.MethodGet, "/api/studio", "get-studio", "The studio",
		func(ctx context.Context, st studio.Studio, _ *struct{}) (studio.Settings, error) {
			return st.Settings(ctx)
		})
	checked(
		r,
		http.MethodPut,
		"/api/studio",
		"put-studio",
		"Change the studio",
		func(ctx context.Context, st studio.Studio, in *result[studio.Settings], wrong *fault.List) (studio.Settings, error) {
			return st.PutSettings(ctx, in.Body, wrong)
		},
	)
}

// registerOpen registers what is answered to anybody: it is no studio's.
func registerOpen(r *routes) {
	operation(r, http.MethodGet, "/api/clock", "get-clock", "The server's instant",
		func(context.Context, studio.Studio, *struct{}) (Clock, error) { return Clock{r.now().UnixMilli()}, nil })
	checked(
		r,
		http.MethodPost,
		"/api/read-quantity",
		"read-quantity",
		"Read a mass, length or volume as people type it",
		func(_ context.Context, _ studio.Studio, in *result[studio.ReadQuantity], wrong *fault.List) (studio.QuantityRead, error) {
			return in.Body.Read(wrong)
		},
	)
	operation(r, http.MethodGet, "/api/household", "get-household", "What household things weigh, with the sources",
		func(context.Context, studio.Studio, *struct{}) (kit.Household, error) {
			return kit.StandardHousehold(), nil
		})
}

// tableOut registers a list that goes out as a table or as a document.
func tableOut[R comparable](
	r *routes,
	path, id, summary, name string,
	form table.Form[R],
	rows func(studio.Studio, context.Context) ([]R, error),
) {
	whole(r, http.MethodGet, path, id, summary,
		func(ctx context.Context, st studio.Studio, in *struct {
			Format string `query:"format" enum:"csv,json" default:"csv"`
		}) (*rawFile, error) {
			all, err := rows(st, ctx)
			if err != nil {
				return nil, err
			}
			if in.Format == "json" {
				b, err := form.JSON(all)
				return &rawFile{"application/json", `attachment; filename="` + name + `.json"`, b}, err
			}
			b, err := form.CSV(all)
			return &rawFile{
				"text/csv; charset=utf-8; header=present",
				`attachment; filename="` + name + `.csv"`,
				b,
			}, err
		})
	r.OpenAPI().Paths[path].Get.Responses["200"].Content = map[string]*huma.MediaType{
		"text/csv": {Schema: &huma.Schema{Type: huma.TypeString}}, "application/json": jsonOf[table.File[R]](r),
	}
}

func registerFiles(r *routes) {
	whole(r, http.MethodGet, "/api/studio/export", "export-studio", "Everything of the studio as one document",
		func(ctx context.Context, st studio.Studio, in *struct {
			Health bool `query:"health" doc:"people's health, and what hurt, with it"`
		}) (*exported, error) {
			f, err := st.Export(ctx, in.Health)
			return &exported{`attachment; filename="studio.json"`, f}, err
		})
	checked(
		r,
		http.MethodPost,
		studioImport,
		"import-studio",
		"Bring in what a studio's document has and the studio has not",
		func(ctx context.Context, st studio.Studio, in *struct {
			Try  bool `query:"try" doc:"only say what it would bring"`
			Body studiofile.File
		}, wrong *fault.List) (studio.Imported, error) {
			return st.Import(ctx, in.Body, in.Try, wrong)
		},
	)
	tableOut(r, "/api/places-file", "export-places", "Every place that is not retired, as CSV or JSON", "places",
		placefile.Form, studio.Studio.PlaceRows)
	operation(r, http.MethodPost, "/api/places-file/preview", "preview-places", "What a file of places would do",
		func(ctx context.Context, st studio.Studio, in *result[studio.PlacesText]) (studio.PlacesPreview, error) {
			return st.PreviewPlaces(ctx, in.Body)
		})
	operation(
		r,
		http.MethodPost,
		"/api/places-file/import",
		"import-places",
		"Bring in what was looked at, all or nothing",
		func(ctx context.Context, st studio.Studio, in *result[studio.PlacesText]) (studio.PlacesPreview, error) {
			return st.ImportPlaces(ctx, in.Body)
		},
	)
	tableOut(r, "/api/people-file", "export-people", "Whom the studio knows, as CSV or JSON", "people",
		peoplefile.Form, studio.Studio.PersonRows)
	operation(r, http.MethodPost, "/api/people-file/preview", "preview-people", "What a file of people would do",
		func(ctx context.Context, st studio.Studio, in *result[studio.PeopleText]) (studio.PeoplePreview, error) {
			return st.PreviewPeople(ctx, in.Body)
		})
	operation(
		r,
		http.MethodPost,
		"/api/people-file/import",
		"import-people",
		"Bring in what was looked at, all or nothing",
		func(ctx context.Context, st studio.Studio, in *result[studio.PeopleText]) (studio.PeoplePreview, error) {
			return st.ImportPeople(ctx, in.Body)
		},
	)
}
