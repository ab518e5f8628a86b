package studio

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"time"

	"github.com/maypok86/otter/v2"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/progress"
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
}

// keptCircuit is an answer as it goes out, and as the value that it was written from, which
// nobody changes. The value counts as as much again.
type keptCircuit struct {
	body  []byte
	value *Circuit
}

func newKept() *kept {
	return &kept{
		circuits: otter.Must(&otter.Options[string, keptCircuit]{MaximumWeight: keptAnswers, Weigher: func(_ string, c keptCircuit) uint32 { return uint32(2 * len(c.body)) }}), //nolint:gosec // an answer is far under 2 GB
		places:   otter.Must(&otter.Options[placeKey, Place]{MaximumSize: keptPlaces}),
		pasts: otter.Must(&otter.Options[pastKey, progress.Past]{MaximumWeight: keptPasts,
			Weigher: func(_ pastKey, p progress.Past) uint32 { return uint32(perPast + len(p.Lines)) }}), //nolint:gosec // at most some thousand lines
	}
}

// written tells programs apart that would write another answer for the same stamps.
const written = "1/" + moves.Version

// tag names what an answer about a circuit follows from: the same name, the same answer.
func (s Studio) tag(at store.Stamps) string {
	sum := sha256.Sum256(fmt.Appendf(nil, "%s %d %+v", written, s.scope.StudioID, at))
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

// past reads what earlier classes say to a class, or gives it as it was read before.
func (s Studio) past(ctx context.Context, c store.Class) (progress.Past, error) {
	key := pastKey{s.scope, c.SeriesID, c.Stamps.SeriesAt, c.LocalDate, c.LocalTime, c.ID}
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
