package api

import (
	"context"
	"net/http"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/studio"
)

// LinePath names a line of a log.
type LinePath struct {
	OccurrencePath
	Subject string `path:"subject" pattern:"^([0-9a-z]{26}|ground|middle|reach)$"`
	Slot    string `path:"slot" pattern:"^[0-9A-Za-z-]{1,26}$"`
}

func registerLog(r *routes) {
	operation(r, http.MethodGet, "/api/occurrences/{occurrence}/log", "get-log", "What happened in a class",
		func(ctx context.Context, st studio.Studio, in *OccurrencePath) (studio.Log, error) {
			return st.Log(ctx, in.Occurrence)
		})
	checked(
		r,
		http.MethodPut,
		"/api/occurrences/{occurrence}/participants/{participant}",
		"put-participant",
		"Add somebody to a class",
		func(ctx context.Context, st studio.Studio, in *struct {
			OccurrencePath
			Participant string `path:"participant" pattern:"^[0-9a-z]{26}$"`
			Body        studio.ParticipantInput
		}, wrong *fault.List) (studio.Log, error) {
			return st.PutParticipant(ctx, in.Occurrence, in.Participant, in.Body, wrong)
		},
	)
	operation(
		r,
		http.MethodDelete,
		"/api/occurrences/{occurrence}/participants/{participant}",
		"remove-participant",
		"Take somebody out of a class of whom nothing is written down there",
		func(ctx context.Context, st studio.Studio, in *struct {
			OccurrencePath
			Participant string `path:"participant" pattern:"^[0-9a-z]{26}$"`
		}) (studio.Log, error) {
			return st.RemoveParticipant(ctx, in.Occurrence, in.Participant)
		},
	)
	operation(
		r,
		http.MethodGet,
		"/api/occurrences/{occurrence}/log/{subject}/{slot}/overtaken",
		"get-overtaken",
		"What was typed in a line and does not stand there any more, the newest first",
		func(ctx context.Context, st studio.Studio, in *LinePath) ([]studio.OvertakenLine, error) {
			return st.Overtaken(ctx, in.Occurrence, in.Subject, in.Slot)
		},
	)
	checked(
		r,
		http.MethodPut,
		"/api/occurrences/{occurrence}/log/{subject}/{slot}",
		"put-log-line",
		"Write one line",
		func(ctx context.Context, st studio.Studio, in *struct {
			LinePath
			Body studio.LogInput
		}, wrong *fault.List) (progress.Sheet, error) {
			return st.PutLine(ctx, in.Occurrence, in.Subject, in.Slot, in.Body, wrong)
		},
	)
	checked(
		r,
		http.MethodPost,
		"/api/occurrences/{occurrence}/log/{subject}/sore",
		"put-sore",
		"Say where somebody was sore the day after: the moves that asked most of it are flagged",
		func(ctx context.Context, st studio.Studio, in *struct {
			OccurrencePath
			Subject string `path:"subject" pattern:"^([0-9a-z]{26}|ground|middle|reach)$"`
			Body    studio.SoreInput
		}, wrong *fault.List) (progress.Sheet, error) {
			return st.Sore(ctx, in.Occurrence, in.Subject, in.Body, wrong)
		},
	)
	checked(
		r,
		http.MethodPost,
		"/api/occurrences/{occurrence}/log/as-planned",
		"log-as-planned",
		"Write every line that is not written yet as planned",
		func(ctx context.Context, st studio.Studio, in *struct {
			OccurrencePath
			Body studio.AsPlanned
		}, wrong *fault.List) (studio.Log, error) {
			return st.LogAsPlanned(ctx, in.Occurrence, in.Body, wrong)
		},
	)
}
