package api

import (
	"context"
	"hash/fnv"
	"net/http"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/figure"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
)

// Move is what every view needs of a movement.
type Move struct {
	ID      string        `json:"id"`
	Name    string        `json:"name"`
	Pattern moves.Pattern `json:"pattern"`
	Tempo   string        `json:"tempo"`
	Cue     string        `json:"cue" doc:"the first of its queue"`
	Fault   moves.Fault   `json:"fault"`
	Stop    []string      `json:"stop"`
	Learn   []string      `json:"learn,omitempty" doc:"what to know first, in order"`
	Parts   []moves.Part  `json:"parts,omitempty" doc:"each called in class"`
	// Holds are the ways of holding that it allows.
	Holds []moves.HoldID `json:"holds"`
}

// Library is the movement library in short.
type Library struct {
	Version string         `json:"version"`
	Moves   []Move         `json:"moves"`
	Format  circuit.Format `json:"format" enum:"timed,reps" doc:"how this house counts, if nobody says"`
	// Limits are what a class can be spared: ids that a ban may name.
	Limits []moves.LimitID `json:"limits"`
}

// MoveCard is all there is to say of a movement.
type MoveCard struct {
	*moves.Variant
	SecondsPerRep measure.Span   `json:"repMs" doc:"milliseconds of one repetition at its tempo"`
	Easier        string         `json:"easier,omitempty" doc:"the rung below"`
	Harder        string         `json:"harder,omitempty" doc:"the rung above"`
	Figure        *figure.Figure `json:"figure,omitempty"`
	// Of a complex or a unit: its parts in a usual set, the part that sets the load,
	// and those it is light for.
	Counts   []moves.PartCount `json:"counts,omitempty"`
	Weakest  string            `json:"weakest,omitempty"`
	LightFor []string          `json:"lightFor,omitempty"`
	// AllCautions are its own and those of what it asks and touches; Held is how it is set
	// up in each hold.
	AllCautions []string `json:"allCautions"`
	Held        []Held   `json:"held"`
	// Stages of a skill as they are called, up and down again.
	Stages []string `json:"stages,omitempty"`
}

// Held says where the load goes in a hold.
type Held struct {
	Hold moves.HoldID `json:"hold"`
	Line string       `json:"line"`
}

// MoveLibrary is the movement library as its view shows it.
type MoveLibrary struct {
	Version string         `json:"version"`
	Moves   []MoveCard     `json:"moves"`
	Limits  []moves.Beyond `json:"limits"`
	Words   []moves.Word   `json:"words" doc:"of the trade, as the texts use them"`
}

// AtHand says what a place's kit serves.
type AtHand struct {
	Place string   `json:"place"`
	Moves []string `json:"moves"`
}

func (s *server) registerMoves(a huma.API) {
	operation(a, http.MethodGet, "/api/library", "get-library", "The movement library in short", func(ctx context.Context, _ *struct{}) (*result[Library], error) {
		st, err := s.Store.Studio(ctx, s.Scope)
		if err != nil {
			return nil, err
		}
		lib, err := s.libraryOf(ctx, st.LibraryStamp)
		if err != nil {
			return nil, err
		}
		style, err := moves.ParseStyle(st.Style)
		if err != nil {
			return nil, err
		}
		out := Library{moves.Version, []Move{}, circuit.Timed, moves.Limits()}
		if style.ByReps() {
			out.Format = circuit.Reps
		}
		for _, v := range lib.All() {
			out.Moves = append(out.Moves, Move{v.ID, v.Name, v.Pattern, v.Tempo, v.Cues[0], v.Fault, v.Stop, v.Learn, v.Parts, v.Holds})
		}
		return answer(out), nil
	})
	operation(a, http.MethodGet, "/api/moves", "list-moves", "The movement library, every card", func(ctx context.Context, _ *struct{}) (*result[MoveLibrary], error) {
		lib, err := s.library(ctx)
		if err != nil {
			return nil, err
		}
		return answer(moveLibrary(lib)), nil
	})
	operation(a, http.MethodGet, "/api/footwork", "get-footwork", "Today's called footwork", func(ctx context.Context, _ *struct{}) (*result[Footwork], error) {
		return s.footwork(ctx)
	})
	operation(a, http.MethodGet, "/api/moves/at/{place}", "moves-at-hand", "What a place's kit serves", func(ctx context.Context, in *PlacePath) (*result[AtHand], error) {
		row, err := s.Store.Place(ctx, s.Scope, in.Place)
		if err != nil {
			return nil, err
		}
		p, err := s.place(ctx, row)
		if err != nil {
			return nil, err
		}
		return answer(AtHand{in.Place, choice.Serves(p.stock, p.library, circuit.DefaultBody, circuit.DefaultStature)}), nil
	})
}

// Footwork is today's bout of called steps.
type Footwork struct {
	Date    string   `json:"date"`
	Calls   []string `json:"calls" enum:"front,front-right,right,back-right,back,back-left,left,front-left"`
	EveryMs int64    `json:"everyMs"`
}

// A bout of called footwork: 45 s, a call every three (common practice, house).
const (
	boutCalls = 15
	callEvery = 3000
)

// footwork gives the bout of the studio's day: the same for everybody there, another
// tomorrow.
func (s *server) footwork(ctx context.Context) (*result[Footwork], error) {
	st, err := s.Store.Studio(ctx, s.Scope)
	if err != nil {
		return nil, err
	}
	zone, err := time.LoadLocation(st.TimeZone)
	if err != nil {
		zone = time.UTC
	}
	date := s.Now().In(zone).Format(time.DateOnly)
	h := fnv.New64a()
	_, _ = h.Write([]byte(st.PublicID + date))
	return answer(Footwork{date, moves.Footwork(h.Sum64(), boutCalls), callEvery}), nil
}

func moveLibrary(lib *moves.Library) MoveLibrary {
	out := MoveLibrary{moves.Version, []MoveCard{}, slices.Clone(moves.BeyondKit()), slices.Clone(moves.Glossary())}
	for _, v := range lib.All() {
		if lib.Hidden(v.ID) {
			continue
		}
		c := MoveCard{Variant: v, SecondsPerRep: v.TempoOf().PerRep(), AllCautions: v.CautionsFor(v.Start != nil), Held: []Held{}}
		for _, h := range v.Holds {
			if line := v.HoldLine(h); line != "" {
				c.Held = append(c.Held, Held{h, line})
			}
		}
		if x, ok := lib.Neighbour(v, -1); ok {
			c.Easier = x.ID
		}
		if x, ok := lib.Neighbour(v, 1); ok {
			c.Harder = x.ID
		}
		if f, ok := figure.Of(v.ID); ok {
			c.Figure = &f
		}
		c.Counts = v.CountParts(v.RepsLow, v.RepsHigh)
		if weakest, light, ok := v.WeakestPart(); ok {
			c.Weakest = weakest.Move
			for _, p := range light {
				c.LightFor = append(c.LightFor, p.Move)
			}
		}
		if v.Ladder == "get-up" {
			c.Stages = lib.Stages(v.Ladder)
		}
		out.Moves = append(out.Moves, c)
	}
	// Within a pattern ladders come before what stands by itself.
	rank := func(c MoveCard) int {
		n := 2 * slices.Index(moves.Patterns, c.Pattern)
		if c.Ladder == "" {
			n++
		}
		return n
	}
	slices.SortStableFunc(out.Moves, func(a, b MoveCard) int { return rank(a) - rank(b) })
	return out
}
