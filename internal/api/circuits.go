package api

import (
	"context"
	"net/http"

	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/compose"
	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/plan"
	"nimbleanvil/internal/studio"
)

// CircuitPath names a circuit.
type CircuitPath struct {
	Circuit string `path:"circuit" pattern:"^[0-9a-z]{26}$"`
}

// VersionPath names a version of a circuit.
type VersionPath struct {
	CircuitPath
	Version int `path:"version" minimum:"1"`
}

// BesidePath names two circuits.
type BesidePath struct {
	CircuitPath
	Other string `path:"other" pattern:"^[0-9a-z]{26}$"`
}

// TemplatePath names a session that the house keeps.
type TemplatePath struct {
	Template string `path:"template" pattern:"^[0-9a-z]{26}$"`
}

func registerTemplates(r *routes) {
	operation(r, http.MethodGet, "/api/templates", "list-templates", "The sessions that the house keeps",
		func(ctx context.Context, st studio.Studio, _ *struct{}) ([]studio.HouseTemplate, error) {
			return st.Templates(ctx)
		})
	operation(r, http.MethodPut, "/api/templates/{template}", "put-template",
		"Keep a session as a template of the house, or rename one",
		func(ctx context.Context, st studio.Studio, in *struct {
			TemplatePath
			Body studio.TemplateInput
		}) ([]studio.HouseTemplate, error) {
			return st.PutTemplate(ctx, in.Template, in.Body)
		})
	operation(r, http.MethodDelete, "/api/templates/{template}", "remove-template",
		"Take a template of the house away",
		func(ctx context.Context, st studio.Studio, in *TemplatePath) ([]studio.HouseTemplate, error) {
			return st.RemoveTemplate(ctx, in.Template)
		})
	operation(r, http.MethodGet, "/api/occurrences/{occurrence}/sessions", "list-sessions",
		"What a class may be made from: earlier classes and the house's templates",
		func(ctx context.Context, st studio.Studio, in *OccurrencePath) (studio.Sessions, error) {
			return st.Sessions(ctx, in.Occurrence)
		})
	checked(r, http.MethodPost, "/api/circuits/{circuit}/again", "again-circuit",
		"Put another session in place, with what the log decided",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Body studio.AgainInput
		}, wrong *fault.List) (studio.Proposed, error) {
			return st.Again(ctx, in.Circuit, in.Body, wrong)
		})
	operation(r, http.MethodGet, "/api/circuits/{circuit}/beside/{other}", "circuits-beside",
		"Two circuits side by side",
		func(ctx context.Context, st studio.Studio, in *BesidePath) (studio.Compared, error) {
			return st.Beside(ctx, in.Circuit, in.Other)
		})
}

func registerCircuits(r *routes) {
	checked(
		r,
		http.MethodPut,
		"/api/circuits/{circuit}",
		"create-circuit",
		"Propose the circuit of a class",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Body studio.CreateCircuit
		}, wrong *fault.List) (studio.Proposed, error) {
			return st.CreateCircuit(ctx, in.Circuit, in.Body, wrong)
		},
	)
	tagged[studio.Circuit](
		r,
		http.MethodGet,
		"/api/circuits/{circuit}",
		"get-circuit",
		"A circuit",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Has string `header:"If-None-Match" doc:"tag of the answer that is there already"`
		}) (*taggedAnswer, error) {
			body, tag, err := st.CircuitAnswer(ctx, in.Circuit, in.Has)
			return asTagged(body, tag), err
		},
	)
	operation(
		r,
		http.MethodPost,
		"/api/circuits/{circuit}/edits",
		"edit-circuit",
		"Edit a circuit",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Body studio.EditInput
		}) (studio.Edited, error) {
			return st.Edit(ctx, in.Circuit, in.Body)
		},
	)
	operation(
		r,
		http.MethodPost,
		"/api/circuits/{circuit}/slots",
		"add-slot",
		"Add a slot of a pattern with the best entries",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Body studio.AddSlotInput
		}) (studio.Edited, error) {
			return st.AddSlot(ctx, in.Circuit, in.Body)
		},
	)
	operation(
		r,
		http.MethodGet,
		"/api/circuits/{circuit}/patterns",
		"pattern-rooms",
		"What a new slot of each pattern comes to",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Block string `query:"block" maxLength:"26" doc:"id of the block"`
		}) ([]compose.PatternRoom, error) {
			return st.PatternRooms(ctx, in.Circuit, in.Block)
		},
	)
	operation(
		r,
		http.MethodGet,
		"/api/circuits/{circuit}/written-out",
		"write-out-block",
		"A prep or teaching block that times itself, with its steps as slots to be edited",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Block string `query:"block" required:"true" maxLength:"26" doc:"id of the block"`
		}) (circuit.Block, error) {
			return st.WrittenOut(ctx, in.Circuit, in.Block)
		},
	)
	operation(
		r,
		http.MethodPost,
		"/api/circuits/{circuit}/undo",
		"undo-circuit",
		"Undo the last edit",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Body studio.Revision
		}) (studio.Edited, error) {
			return st.Undo(ctx, in.Circuit, in.Body)
		},
	)
	operation(
		r,
		http.MethodPost,
		"/api/circuits/{circuit}/fit",
		"fit-circuit",
		"Bring it into the minutes of its class by rounds and times",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Body studio.Revision
		}) (studio.Edited, error) {
			return st.Fit(ctx, in.Circuit, in.Body)
		},
	)
	operation(
		r,
		http.MethodPost,
		"/api/circuits/{circuit}/redo",
		"redo-circuit",
		"Redo what was undone",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Body studio.Revision
		}) (studio.Edited, error) {
			return st.Redo(ctx, in.Circuit, in.Body)
		},
	)
	operation(
		r,
		http.MethodGet,
		"/api/circuits/{circuit}/versions",
		"list-versions",
		"Past versions of a circuit",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Before int `query:"before" minimum:"1" doc:"only versions before this one"`
		}) (studio.Versions, error) {
			return st.Versions(ctx, in.Circuit, in.Before)
		},
	)
	operation(
		r,
		http.MethodGet,
		"/api/circuits/{circuit}/versions/{version}",
		"get-version",
		"A past version and what differs from it now",
		func(ctx context.Context, st studio.Studio, in *VersionPath) (studio.Version, error) {
			return st.Version(ctx, in.Circuit, in.Version)
		},
	)
	operation(
		r,
		http.MethodPost,
		"/api/circuits/{circuit}/restore",
		"restore-version",
		"Bring a past version back; undo takes it away again",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Body studio.RestoreInput
		}) (studio.Edited, error) {
			return st.Restore(ctx, in.Circuit, in.Body)
		},
	)
	checked(
		r,
		http.MethodPost,
		"/api/circuits/{circuit}/propose",
		"propose-circuit",
		"Propose anew; undo brings the old one back",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Body studio.ProposeInput
		}, wrong *fault.List) (studio.Proposed, error) {
			return st.Propose(ctx, in.Circuit, in.Body, wrong)
		},
	)
	operation(
		r,
		http.MethodGet,
		"/api/circuits/{circuit}/options",
		"get-options",
		"What could stand in a slot for a party",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Slot  string `query:"slot" required:"true" maxLength:"26"`
			Party string `query:"party" required:"true" pattern:"^([0-9a-z]{26}|ground|middle|reach)$"`
		}) (compose.Options, error) {
			return st.Options(ctx, in.Circuit, in.Slot, in.Party)
		},
	)
	operation(
		r,
		http.MethodGet,
		"/api/circuits/{circuit}/take-home",
		"get-take-home",
		"A party's version for a flat",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Place string `query:"place" pattern:"^([0-9a-z]{26})?$" doc:"a flat; none for one with nothing in it"`
			Party string `query:"party" required:"true" pattern:"^([0-9a-z]{26}|ground|middle|reach)$"`
		}) (studio.TakeHome, error) {
			return st.TakeHome(ctx, in.Circuit, in.Place, in.Party)
		},
	)
	operation(
		r,
		http.MethodGet,
		"/api/circuits/{circuit}/cues",
		"get-cues",
		"The one new cue of a class, and those that wait",
		func(ctx context.Context, st studio.Studio, in *CircuitPath) (studio.CueQueue, error) {
			return st.Cues(ctx, in.Circuit)
		},
	)
	registerHall(r)
}

// registerHall has what a circuit comes to in its hall and on its day.
func registerHall(r *routes) {
	checked(r, http.MethodPost, "/api/circuits/{circuit}/day", "adapt-circuit",
		"Change it as little as can be for the day as it came; undo brings both back",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Body studio.DayInput
		}, wrong *fault.List) (studio.DayDone, error) {
			return st.Day(ctx, in.Circuit, in.Body, wrong)
		})
	operation(r, http.MethodGet, "/api/circuits/{circuit}/rehearsal", "rehearse-circuit",
		"Who has what in hand through a class, and who waits for what",
		func(ctx context.Context, st studio.Studio, in *CircuitPath) (plan.Rehearsal, error) {
			return st.Rehearsal(ctx, in.Circuit)
		})
	operation(r, http.MethodGet, "/api/circuits/{circuit}/why-not", "why-not",
		"Why a move does not stand in a slot for a party, and the cheapest change that would allow it",
		func(ctx context.Context, st studio.Studio, in *struct {
			CircuitPath
			Slot  string `query:"slot" required:"true" maxLength:"26"`
			Party string `query:"party" required:"true" pattern:"^([0-9a-z]{26}|ground|middle|reach)$"`
			Move  string `query:"move" required:"true" maxLength:"60"`
		}) (compose.WhyNot, error) {
			return st.WhyNot(ctx, in.Circuit, in.Slot, in.Party, in.Move)
		})
	operation(r, http.MethodGet, "/api/circuits/{circuit}/hall", "hall-short",
		"Where the place is short for a circuit, and what would help most",
		func(ctx context.Context, st studio.Studio, in *CircuitPath) (compose.Hall, error) {
			return st.HallShort(ctx, in.Circuit)
		})
}
