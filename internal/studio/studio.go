// Package studio is what somebody does with a studio: each use case loads what it needs,
// lets the core compute, saves, and answers values. Whoever asks (the API, the demo, an
// importer, the command line) calls the same functions. What is asked and answered is
// defined here once, with the tags of the contract on it; nothing here knows of HTTP.
package studio

import (
	"context"
	"encoding/json"
	"runtime"
	"time"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/measure"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/texts"
)

// Studios serves any number of studios: it holds none. It is safe for use by many
// goroutines.
type Studios struct {
	store     *store.Store
	now       func() time.Time
	libraries libraries
	kept      *kept
	// searches are as many at a time as there are processors: each may take a second and a
	// hundred megabytes. imports lets one large file in at a time.
	searches, imports chan struct{}
}

// New serves what a store keeps. Now gives the program's instant.
func New(st *store.Store, now func() time.Time) *Studios {
	return &Studios{store: st, now: now, libraries: libraries{kept: map[string]*moves.Library{}}, kept: newKept(),
		searches: make(chan struct{}, runtime.NumCPU()), imports: make(chan struct{}, 1)}
}

// Role is what a member may do in a studio.
type Role string

// Owner may do everything. Until there are accounts it is the only role.
const Owner Role = "owner"

// Principal is on whose behalf something is done. The zero value is nobody's: it sees
// nothing.
type Principal struct {
	Studio int64
	// Member is empty until there are accounts.
	Member string
	Role   Role
}

// scope is what a principal may see.
func (p Principal) scope() store.Scope { return store.Scope{StudioID: p.Studio} }

// OnlyOwner is the owner of the only studio, on whose behalf everything is done until there
// are accounts.
func (s *Studios) OnlyOwner(ctx context.Context) (Principal, error) {
	id, err := s.store.OnlyStudio(ctx)
	return Principal{Studio: id, Role: Owner}, err
}

// First makes the only studio when there is none, and gives its owner.
func (s *Studios) First(ctx context.Context, publicID string, as Settings) (Principal, error) {
	sc, err := s.store.EnsureStudio(
		ctx,
		store.Studio{
			PublicID: publicID,
			Name:     string(as.Name),
			TimeZone: as.TimeZone,
			MassUnit: as.MassUnit,
			Language: string(as.Language),
		},
	)
	return Principal{Studio: sc.StudioID, Role: Owner}, err
}

type principalKey struct{}

// With carries a principal in a request's context.
func With(ctx context.Context, p Principal) context.Context {
	return context.WithValue(ctx, principalKey{}, p)
}

// In gives the studio of the principal that a context carries.
func (s *Studios) In(ctx context.Context) Studio {
	p, _ := ctx.Value(principalKey{}).(Principal)
	return s.For(p)
}

// For gives the studio of a principal.
func (s *Studios) For(p Principal) Studio { return Studio{s, p, p.scope()} }

// Ready tells whether the database answers and takes changes.
func (s *Studios) Ready(ctx context.Context) error { return s.store.Ready(ctx) }

// Studio is a studio as one principal sees it, for as long as one request.
type Studio struct {
	*Studios
	Principal Principal
	scope     store.Scope
}

// Refusal is an answer that no field is to blame for.
type Refusal struct {
	Kind   RefusalKind
	Detail string
}

func (r Refusal) Error() string { return r.Detail }

// RefusalKind says why something was refused.
type RefusalKind int

// The kinds of refusal.
const (
	Stale      RefusalKind = iota // it is no longer what was looked at
	Full                          // a list would be over its limit
	Infeasible                    // nothing fits
	Busy                          // others are at work on as much as fits at a time
)

// turn waits for a turn among some; the caller gives it back. Nobody waits longer than the
// request.
func turn(ctx context.Context, turns chan struct{}) (back func(), err error) {
	select {
	case turns <- struct{}{}:
		return func() { <-turns }, nil
	case <-ctx.Done():
		return nil, Refusal{Busy, "others are at work on as much as fits at a time: try again in a moment"}
	}
}

// Search waits for a turn to work something out that takes a processor for long.
func (s *Studios) Search(ctx context.Context) (back func(), err error) { return turn(ctx, s.searches) }

// ImportTurn waits for a turn to take a large file in: it is held in memory meanwhile.
func (s *Studios) ImportTurn(ctx context.Context) (back func(), err error) {
	return turn(ctx, s.imports)
}

// Settings are what is set once of a studio.
type Settings struct {
	Name     names.Name `json:"name"`
	TimeZone string     `json:"timeZone" maxLength:"64" doc:"IANA name, such as Europe/Berlin"`
	MassUnit string     `json:"massUnit" enum:"kg,lb" doc:"the unit shown"`
	// Language of the texts; en-XA is English as no English, for trying the pages.
	Language texts.Language `json:"language" enum:"en,en-XA" doc:"of the texts"`
}

// Settings reads what is set.
func (s Studio) Settings(ctx context.Context) (Settings, error) {
	st, err := s.store.Studio(ctx, s.scope)
	return Settings{names.Name(st.Name), st.TimeZone, st.MassUnit, texts.Language(st.Language)}, err
}

// PutSettings changes what is set.
func (s Studio) PutSettings(ctx context.Context, in Settings, wrong *fault.List) (Settings, error) {
	if _, err := names.Zone(in.TimeZone); err != nil {
		wrong.Note("timeZone", err.Error(), in.TimeZone)
	}
	if err := wrong.Err(); err != nil {
		return Settings{}, err
	}
	return in, s.store.PutStudio(
		ctx,
		s.scope,
		store.Studio{
			Name:     string(in.Name),
			TimeZone: in.TimeZone,
			MassUnit: in.MassUnit,
			Language: string(in.Language),
		},
	)
}

// unit is what a bare mass means in the studio.
func (s Studio) unit(ctx context.Context) (measure.Unit, error) {
	st, err := s.store.Studio(ctx, s.scope)
	return measure.Unit(st.MassUnit), err
}

// ReadMass reads a mass as somebody in the studio types it; nothing is none.
func (s Studio) ReadMass(ctx context.Context, field, text string, wrong *fault.List) (measure.Mass, error) {
	if blankText(text) {
		return 0, nil
	}
	unit, err := s.unit(ctx)
	if err != nil {
		return 0, err
	}
	t := typing{unit, wrong}
	return measure.Mass(wholeOf(t.mass(field, text))), nil
}

// HouseStyle is what a house has chosen, and from what.
type HouseStyle struct {
	Schools []SchoolChoice               `json:"schools"`
	Moves   map[string]map[string]string `json:"moves" doc:"exceptions: move, school, option"`
	Prep    []moves.PrepStep             `json:"prep" doc:"drills of the house's own prep, in order; none where it is chosen for each session"`
}

// SchoolChoice is one matter with what is chosen.
type SchoolChoice struct {
	ID       string         `json:"id"`
	Question string         `json:"question"`
	Options  []moves.Option `json:"options"`
	Chosen   string         `json:"chosen"`
}

// StyleInput is a choice for a house, and exceptions.
type StyleInput struct {
	Studio map[string]string            `json:"studio" doc:"school, option"`
	Moves  map[string]map[string]string `json:"moves" doc:"exceptions: move, school, option"`
}

// PutStyle chooses the house style.
func (s Studio) PutStyle(ctx context.Context, in StyleInput, wrong *fault.List) (HouseStyle, error) {
	lib, err := s.library(ctx)
	if err != nil {
		return HouseStyle{}, err
	}
	next := moves.Style{Studio: in.Studio, Moves: in.Moves}
	for _, bad := range next.Check(lib) {
		wrong.Note(bad.Path, bad.Message, nil)
	}
	if err := wrong.Err(); err != nil {
		return HouseStyle{}, err
	}
	if err := s.changeStyle(ctx, func(old moves.Style) moves.Style {
		next.Times, next.Prep = old.Times, old.Prep
		return next
	}); err != nil {
		return HouseStyle{}, err
	}
	return s.Style(ctx)
}

// PrepInput is the house's own prep.
type PrepInput struct {
	Steps []moves.PrepStep `json:"steps" maxItems:"12" doc:"drills in order; none gives it back: prep is chosen for each session again"`
}

// PutPrep keeps the drills that the house prepares every session by.
func (s Studio) PutPrep(ctx context.Context, in PrepInput, wrong *fault.List) (HouseStyle, error) {
	lib, err := s.library(ctx)
	if err != nil {
		return HouseStyle{}, err
	}
	for _, bad := range lib.PrepFaults("steps", in.Steps) {
		wrong.Note(bad.Path, bad.Message, bad.Value)
	}
	if err := wrong.Err(); err != nil {
		return HouseStyle{}, err
	}
	if err := s.changeStyle(ctx, func(old moves.Style) moves.Style {
		old.Prep = in.Steps
		return old
	}); err != nil {
		return HouseStyle{}, err
	}
	return s.Style(ctx)
}

// changeStyle makes the house's style out of the one it has.
func (s Studio) changeStyle(ctx context.Context, change func(moves.Style) moves.Style) error {
	return s.store.ChangeStyle(ctx, s.scope, func(b []byte) ([]byte, error) {
		old, err := moves.ParseStyle(b)
		if err != nil {
			return nil, err
		}
		return json.Marshal(change(old))
	})
}

// Style reads the house style, and what could be chosen.
func (s Studio) Style(ctx context.Context) (HouseStyle, error) {
	st, err := s.store.Studio(ctx, s.scope)
	if err != nil {
		return HouseStyle{}, err
	}
	style, err := moves.ParseStyle(st.Style)
	if err != nil {
		return HouseStyle{}, err
	}
	out := HouseStyle{Schools: []SchoolChoice{}, Moves: style.Moves, Prep: append([]moves.PrepStep{}, style.Prep...)}
	if out.Moves == nil {
		out.Moves = map[string]map[string]string{}
	}
	lib, err := s.library(ctx)
	if err != nil {
		return HouseStyle{}, err
	}
	for _, x := range lib.Schools() {
		out.Schools = append(out.Schools, SchoolChoice{x.ID, x.Question, x.Options, style.Option(x.ID)})
	}
	return out, nil
}

// localNow is now where the studio is; a zone that the machine has lost is read as UTC.
func (s Studio) localNow(st store.Studio) time.Time {
	zone, err := names.Zone(st.TimeZone)
	if err != nil {
		zone = time.UTC
	}
	return s.now().In(zone)
}
