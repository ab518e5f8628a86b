package api

import (
	"context"
	"net/http"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/studio"
)

// PlacePath names a place.
type PlacePath struct {
	Place string `path:"place" pattern:"^[0-9a-z]{26}$" doc:"id of the place"`
}

// ItemPath names a thing of a place.
type ItemPath struct {
	PlacePath
	Item string `path:"item" pattern:"^[0-9a-z]{26}$" doc:"id made by whoever creates it"`
}

func registerKit(r *routes) {
	operation(r, http.MethodGet, "/api/places", "list-places", "Places that are not retired, with what they have",
		func(ctx context.Context, st studio.Studio, _ *struct{}) ([]studio.Place, error) {
			return st.Places(ctx)
		})
	operation(
		r,
		http.MethodPut,
		"/api/places/{place}",
		"put-place",
		"Make or change a place",
		func(ctx context.Context, st studio.Studio, in *struct {
			PlacePath
			Body studio.PlaceInput
		}) (studio.Place, error) {
			return st.PutPlace(ctx, in.Place, in.Body)
		},
	)
	operation(
		r,
		http.MethodDelete,
		"/api/places/{place}",
		"retire-place",
		"Put a place away where no class is to come",
		func(ctx context.Context, st studio.Studio, in *PlacePath) (studio.Place, error) {
			return st.RetirePlace(ctx, in.Place)
		},
	)
	operation(
		r,
		http.MethodGet,
		"/api/put-away",
		"list-put-away",
		"Places that were put away, and things that were, by their place",
		func(ctx context.Context, st studio.Studio, _ *struct{}) ([]studio.Place, error) {
			return st.PutAway(ctx)
		},
	)
	checked(
		r,
		http.MethodPost,
		"/api/places/{place}/bring-back",
		"bring-back",
		"Take into use again what was put away",
		func(ctx context.Context, st studio.Studio, in *struct {
			PlacePath
			Body studio.BringBackInput
		}, wrong *fault.List) (studio.Place, error) {
			return st.BringBack(ctx, in.Place, in.Body, wrong)
		},
	)
	checked(
		r,
		http.MethodPut,
		"/api/places/{place}/implements/{item}",
		"put-implement",
		"Make or change an implement",
		func(ctx context.Context, st studio.Studio, in *struct {
			ItemPath
			Body studio.ImplementInput
		}, wrong *fault.List) (studio.Place, error) {
			return st.PutRow(ctx, in.Place, in.Item, in.Body.Row(), wrong)
		},
	)
	checked(
		r,
		http.MethodPut,
		"/api/places/{place}/objects/{item}",
		"put-object",
		"Make or change an object",
		func(ctx context.Context, st studio.Studio, in *struct {
			ItemPath
			Body studio.ObjectInput
		}, wrong *fault.List) (studio.Place, error) {
			return st.PutRow(ctx, in.Place, in.Item, in.Body.Row(), wrong)
		},
	)
	checked(
		r,
		http.MethodPut,
		"/api/places/{place}/containers/{item}",
		"put-container",
		"Make or change a container",
		func(ctx context.Context, st studio.Studio, in *struct {
			ItemPath
			Body studio.ContainerInput
		}, wrong *fault.List) (studio.Place, error) {
			return st.PutRow(ctx, in.Place, in.Item, in.Body.Row(), wrong)
		},
	)
	checked(
		r,
		http.MethodPost,
		"/api/places/{place}/weigh-object",
		"weigh-object",
		"What an object weighs as it is typed, and how that is known",
		func(ctx context.Context, st studio.Studio, in *struct {
			PlacePath
			Body studio.ObjectInput
		}, wrong *fault.List) (studio.Weighed, error) {
			return st.Weigh(ctx, in.Place, in.Body.Row(), wrong)
		},
	)
	for _, item := range kit.RowItems {
		operation(
			r,
			http.MethodDelete,
			"/api/places/{place}/"+item+"s/{item}",
			"retire-"+item,
			"Put an "+item+" away; old circuits still know it",
			func(ctx context.Context, st studio.Studio, in *ItemPath) (studio.Place, error) {
				return st.Retire(ctx, in.Place, item, in.Item)
			},
		)
	}
}

func registerLoads(r *routes) {
	checked(
		r,
		http.MethodPost,
		"/api/places/{place}/rule",
		"load-rule",
		"Every load a place makes for a way of holding",
		func(ctx context.Context, st studio.Studio, in *struct {
			PlacePath
			Body studio.RuleInput
		}, wrong *fault.List) (studio.LoadRule, error) {
			return st.LoadRule(ctx, in.Place, in.Body, wrong)
		},
	)
	checked(
		r,
		http.MethodPost,
		"/api/places/{place}/make",
		"make-load",
		"The exact best load from a place's objects",
		func(ctx context.Context, st studio.Studio, in *struct {
			PlacePath
			Body studio.MakeInput
		}, wrong *fault.List) (studio.MakeAnswer, error) {
			return st.MakeLoad(ctx, in.Place, in.Body, wrong)
		},
	)
	checked(
		r,
		http.MethodPost,
		"/api/places/{place}/substitutes",
		"substitutes",
		"A place's options for a set, ranked",
		func(ctx context.Context, st studio.Studio, in *struct {
			PlacePath
			Body studio.SubstituteInput
		}, wrong *fault.List) (studio.SubstituteAnswer, error) {
			return st.Substitutes(ctx, in.Place, in.Body, wrong)
		},
	)
	operation(
		r,
		http.MethodGet,
		"/api/places/{place}/bridge",
		"first-jump",
		"A jump to begin with, if the place makes one",
		func(ctx context.Context, st studio.Studio, in *PlacePath) ([]studio.Jump, error) {
			return st.FirstJump(ctx, in.Place)
		},
	)
	checked(
		r,
		http.MethodPost,
		"/api/places/{place}/bridge",
		"bridge-jump",
		"A jump in load, week by week with what the place makes",
		func(ctx context.Context, st studio.Studio, in *struct {
			PlacePath
			Body studio.BridgeInput
		}, wrong *fault.List) (studio.BridgeAnswer, error) {
			return st.BridgeJump(ctx, in.Place, in.Body, wrong)
		},
	)
	checked(
		r,
		http.MethodPost,
		"/api/places/{place}/fit",
		"fit-people",
		"Boxes, benches and heel raises for people, and a bench's order",
		func(ctx context.Context, st studio.Studio, in *struct {
			PlacePath
			Body studio.FitInput
		}, wrong *fault.List) (studio.FitAnswer, error) {
			return st.FitPeople(ctx, in.Place, in.Body, wrong)
		},
	)
}
