package studio

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"time"

	"github.com/maypok86/otter/v2"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
	"nimbleanvil/internal/core/run"
	"nimbleanvil/internal/store"
)

// How much is kept of what was worked out. Everything is found again by stamps that change
// with what it was worked out from, so that what is kept is never out of date; how long it
// stays matters to speed alone.
const (
	keptAnswers = 64 << 20 // bytes of answers
	keptPlaces  = 500      // places with what they have, at most a few hundred rows each
	keptPasts   = 100_000  // lines of logs
	perPast     = 100      // a past without lines counts as so many
	keptRuns    = 32       // plans that runs began with, most of some hundred kB as written
)

// What is read after its stamp may be newer than it, and is never older: whoever reads the
// stamp that there is now finds what belongs to it.

// placeKey and pastKey say what a place and a past were read as.
type (
	placeKey struct {
		scope     store.Scope
		id, stamp int64
		library   string
	}
	pastKey struct {
		scope      store.Scope
		id, stamp  int64
		day        time.Time
		clock      string
		occurrence int64
	}
)

// kept is what was worked out and may be asked for again.
type kept struct {
	circuits *otter.Cache[string, keptCircuit]
	places   *otter.Cache[placeKey, Place]
	pasts    *otter.Cache[pastKey, progress.Past]
	// runs are the plans that runs began with, by the hash of what is written down of them. They
	// are everybody's who asks: Swapped copies before it writes.
	runs *otter.Cache[[sha256.Size]byte, run.Plan]
}

// keptCircuit is an answer as the value that nobody changes, and as it goes out, which is
// written once somebody reads it: an edit answers what changed.
type keptCircuit struct {
	value *Circuit
	body  []byte
}

// unwritten is what an answer counts that has not been written; one that has counts its
// bytes, and its value as much again.
const unwritten = 256 << 10

func (c keptCircuit) weight() uint32 {
	if c.body == nil {
		return unwritten
	}
	return uint32(2 * len(c.body)) // an answer is far under 2 GB
}

// written gives the answer as it goes out, and keeps it so.
func (s Studio) written(c keptCircuit) (keptCircuit, error) {
	if c.body != nil {
		return c, nil
	}
	body, err := json.Marshal(c.value)
	if err != nil {
		return c, err
	}
	c.body = append(body, '\n')
	if _, known := s.kept.circuits.GetIfPresent(c.value.Tag); known {
		s.kept.circuits.Set(c.value.Tag, c)
	}
	return c, nil
}

func newKept() *kept {
	return &kept{
		circuits: otter.Must(&otter.Options[string, keptCircuit]{
			MaximumWeight: keptAnswers,
			Weigher:       func(_ string, c keptCircuit) uint32 { return c.weight() },
		}),
		places: otter.Must(&otter.Options[placeKey, Place]{MaximumSize: keptPlaces}),
		runs:   otter.Must(&otter.Options[[sha256.Size]byte, run.Plan]{MaximumSize: keptRuns}),
		pasts: otter.Must(&otter.Options[pastKey, progress.Past]{MaximumWeight: keptPasts,
			Weigher: func(_ pastKey, p progress.Past) uint32 { return uint32(perPast + len(p.Lines)) }}), // at most some thousand lines
	}
}

// shape tells programs apart that would write another answer for the same stamps.
const shape = "1/" + moves.Version

// tag names what an answer about a circuit follows from: the same name, the same answer.
func (s Studio) tag(at store.Stamps) string {
	sum := sha256.Sum256(fmt.Appendf(nil, "%s %d %+v", shape, s.scope.StudioID, at))
	return `"` + hex.EncodeToString(sum[:12]) + `"`
}

// placeOf reads the place of a class with what it has, or gives it as it was read before.
func (s Studio) placeOf(ctx context.Context, c store.Class) (Place, error) {
	key := placeKey{s.scope, c.PlaceID, c.Stamps.PlaceAt, c.Stamps.Library}
	p, known := s.kept.places.GetIfPresent(key)
	if !known {
		var err error
		if p, err = s.place(ctx, store.Place{Row: store.Row{ID: c.PlaceID}, PublicID: c.PlacePublicID, Name: c.PlaceName}); err != nil {
			return p, err
		}
		s.kept.places.Set(key, p)
	}
	p.stock = p.stock.Until(ctx)
	return p, nil
}

func (s Studio) pastKey(c store.Class, seriesAt int64) pastKey {
	return pastKey{s.scope, c.SeriesID, seriesAt, c.LocalDate, c.LocalTime, c.ID}
}

// stillPast keeps the past of a class under a stamp that only a change of its own circuit
// has brought: what is before it is the same.
func (s Studio) stillPast(c store.Class, p progress.Past, seriesAt int64) {
	s.kept.pasts.Set(s.pastKey(c, seriesAt), p)
}

// past reads what earlier classes say to a class, or gives it as it was read before.
func (s Studio) past(ctx context.Context, c store.Class) (progress.Past, error) {
	key := s.pastKey(c, c.Stamps.SeriesAt)
	p, known := s.kept.pasts.GetIfPresent(key)
	if known {
		return p, nil
	}
	p, err := s.store.Past(ctx, s.scope, c.Occurrence)
	if err == nil {
		s.kept.pasts.Set(key, p)
	}
	return p, err
}

// began reads the plan that a run began with, or gives it as it was read before: every look at
// the clock and at the log asks for it.
func (s Studio) began(written []byte) (run.Plan, error) {
	key := sha256.Sum256(written)
	p, known := s.kept.runs.GetIfPresent(key)
	if known {
		return p, nil
	}
	p, err := run.Decode(written)
	if err == nil {
		s.kept.runs.Set(key, p)
	}
	return p, err
}
