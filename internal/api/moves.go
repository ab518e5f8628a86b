package api

import (
	"context"
	"net/http"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/studio"
)

// movesFile is a file of own moves as a browser saves it.
type movesFile struct {
	Disposition string `header:"Content-Disposition"`
	Body        moves.File
}

func registerMoves(r *routes) {
	operation(r, http.MethodGet, "/api/library", "get-library", "The movement library in short",
		func(ctx context.Context, st studio.Studio, _ *struct{}) (studio.Library, error) {
			return st.Library(ctx)
		})
	operation(r, http.MethodGet, "/api/moves", "list-moves", "The movement library, every card",
		func(ctx context.Context, st studio.Studio, _ *struct{}) (studio.MoveLibrary, error) {
			return st.Moves(ctx)
		})
	operation(r, http.MethodGet, "/api/footwork", "get-footwork", "Today's called footwork",
		func(ctx context.Context, st studio.Studio, _ *struct{}) (studio.Footwork, error) {
			return st.Footwork(ctx)
		})
	operation(r, http.MethodGet, "/api/moves/at/{place}", "moves-at-hand", "What a place's kit serves",
		func(ctx context.Context, st studio.Studio, in *PlacePath) (studio.AtHand, error) {
			return st.AtHand(ctx, in.Place)
		})
	operation(r, http.MethodGet, "/api/style", "get-style", "The house style, and what could be chosen",
		func(ctx context.Context, st studio.Studio, _ *struct{}) (studio.HouseStyle, error) {
			return st.Style(ctx)
		})
	checked(
		r,
		http.MethodPut,
		"/api/style",
		"put-style",
		"Choose the house style",
		func(ctx context.Context, st studio.Studio, in *result[studio.StyleInput], wrong *fault.List) (studio.HouseStyle, error) {
			return st.PutStyle(ctx, in.Body, wrong)
		},
	)
	checked(
		r,
		http.MethodPut,
		"/api/prep",
		"put-prep",
		"Keep the drills that the house prepares every session by, or choose them for each again",
		func(ctx context.Context, st studio.Studio, in *result[studio.PrepInput], wrong *fault.List) (studio.HouseStyle, error) {
			return st.PutPrep(ctx, in.Body, wrong)
		},
	)
}

func registerOwnMoves(r *routes) {
	whole(r, http.MethodGet, "/api/own-moves", "export-own-moves", "The studio's own moves as one document",
		func(ctx context.Context, st studio.Studio, _ *struct{}) (*movesFile, error) {
			f, err := st.OwnMoves(ctx)
			return &movesFile{`attachment; filename="moves.json"`, f}, err
		})
	checked(r, http.MethodPost, "/api/own-moves/preview", "preview-own-moves", "What a file of moves would do",
		func(ctx context.Context, st studio.Studio, in *result[moves.File], wrong *fault.List) (moves.Preview, error) {
			return st.PreviewMoves(ctx, in.Body, wrong)
		})
	checked(
		r,
		http.MethodPost,
		"/api/own-moves/import",
		"import-own-moves",
		"Take in what was looked at",
		func(ctx context.Context, st studio.Studio, in *result[studio.MovesImport], wrong *fault.List) (moves.Preview, error) {
			return st.ImportMoves(ctx, in.Body, wrong)
		},
	)
	checked(
		r,
		http.MethodPut,
		"/api/own-moves/{move}",
		"put-own-move",
		"Make or change an own move",
		func(ctx context.Context, st studio.Studio, in *struct {
			Move string `path:"move" pattern:"^own-[a-z0-9]+(-[a-z0-9]+)*$" maxLength:"60"`
			Body moves.Variant
		}, wrong *fault.List) (moves.Preview, error) {
			return st.PutOwnMove(ctx, in.Move, &in.Body, wrong)
		},
	)
}
