package studio

import (
	"context"
	"hash/fnv"
	"time"

	"nimbleanvil/internal/core/choice"
	"nimbleanvil/internal/core/circuit"
	"nimbleanvil/internal/core/figure"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/plan"
)

// Move is what every view needs of a movement.
type Move struct {
	ID      string        `json:"id"`
	Name    string        `json:"name"`
	Also    []string      `json:"also,omitempty" doc:"other common names"`
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
	// Schemes are what a new block begins with, one of each kind.
	Schemes []circuit.Scheme `json:"schemes"`
	// PartMs are the parts of combined moves, with how long each takes in one.
	PartMs map[string]measure.Span `json:"partMs"`
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

// Footwork is today's bout of called steps.
type Footwork struct {
	Date    string   `json:"date"`
	Calls   []string `json:"calls" enum:"front,front-right,right,back-right,back,back-left,left,front-left"`
	EveryMs int64    `json:"everyMs"`
}

// Footwork gives the bout of the studio's day: the same for everybody there, another
// tomorrow.
func (s Studio) Footwork(ctx context.Context) (Footwork, error) {
	st, err := s.store.Studio(ctx, s.scope)
	if err != nil {
		return Footwork{}, err
	}
	date := s.localNow(st).Format(time.DateOnly)
	h := fnv.New64a()
	_, _ = h.Write([]byte(st.PublicID + date))
	return Footwork{date, moves.Footwork(h.Sum64(), moves.BoutCalls), int64(moves.CallEvery)}, nil
}

// Library reads the movement library in short.
func (s Studio) Library(ctx context.Context) (Library, error) {
	st, err := s.store.Studio(ctx, s.scope)
	if err != nil {
		return Library{}, err
	}
	lib, err := s.libraryOf(ctx, st.LibraryStamp)
	if err != nil {
		return Library{}, err
	}
	style, err := moves.ParseStyle(st.Style)
	if err != nil {
		return Library{}, err
	}
	out := Library{moves.Version, []Move{}, circuit.Timed, moves.Limits(), circuit.UsualSchemes(), moves.PartTimes()}
	if style.ByReps() {
		out.Format = circuit.Reps
	}
	for _, v := range lib.All() {
		out.Moves = append(out.Moves,
			Move{v.ID, v.Name, v.Also, v.Pattern, v.Tempo, v.Cues[0], v.Fault, v.Stop, v.Learn, v.Parts, v.Holds})
	}
	return out, nil
}

// Moves reads every card of the movement library.
func (s Studio) Moves(ctx context.Context) (MoveLibrary, error) {
	lib, err := s.library(ctx)
	if err != nil {
		return MoveLibrary{}, err
	}
	return moveLibrary(lib), nil
}

// AtHand says what a place's kit serves.
func (s Studio) AtHand(ctx context.Context, place string) (AtHand, error) {
	p, err := s.Place(ctx, place)
	if err != nil {
		return AtHand{}, err
	}
	return AtHand{place, choice.Serves(p.stock, p.library, plan.DefaultBody, plan.DefaultStature)}, nil
}

func moveLibrary(lib *moves.Library) MoveLibrary {
	out := MoveLibrary{moves.Version, []MoveCard{}, lib.BeyondKit(""), lib.Words()}
	for _, v := range lib.Ordered() {
		if lib.Hidden(v.ID) {
			continue
		}
		c := MoveCard{
			Variant:       v,
			SecondsPerRep: v.PerRep(),
			AllCautions:   v.CautionsFor(v.Start != nil),
			Held:          []Held{},
		}
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
		c.Figure = figureOf(lib, v.ID)
		c.Counts = v.CountParts(v.RepsLow, v.RepsHigh)
		if weakest, light, ok := v.WeakestPart(); ok {
			c.Weakest = weakest.Move
			for _, p := range light {
				c.LightFor = append(c.LightFor, p.Move)
			}
		}
		if v.Staged() {
			c.Stages = lib.Stages(v.Ladder)
		}
		out.Moves = append(out.Moves, c)
	}
	return out
}

// figureOf gives a figure with its words as the library says them; nil for none.
func figureOf(lib *moves.Library, id string) *figure.Figure {
	f, ok := figure.Of(id)
	if !ok {
		return nil
	}
	f.Start.Say, f.End.Say = lib.Say(f.Start.Say), lib.Say(f.End.Say)
	return &f
}
