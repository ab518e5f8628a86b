package device

import (
	"context"
	"math"
	"math/rand/v2"
	"sync"
	"time"

	"nimbleanvil/internal/core/measure"
)

// Fault is what may be wrong with a simulated scale.
type Fault string

// The faults: none, a reading that creeps, a cable that swings on, no link.
const (
	Sound Fault = "none"
	Creep Fault = "drift"
	Swing Fault = "swinging"
	Cut   Fault = "lost"
)

// Faults lists them.
var Faults = []Fault{Sound, Creep, Swing, Cut}

// How the simulated scale behaves: ten readings a second, each rounded to its
// division. What is hung on it swings and settles by half every halfLife; a little
// noise stays. A reading is stable when the last second of them lies within two
// divisions.
const (
	period    = 100 * time.Millisecond
	capacity  = measure.Mass(50_000)
	division  = measure.Mass(5)
	halfLife  = 250 * time.Millisecond
	swingHz   = 1.6
	steady    = 10 // readings
	noiseG    = 1.2
	creepGPS  = 40.0 // grams a second
	swingPart = 0.06
)

// Simulated is a luggage scale that is not there: what hangs on it and what is wrong
// with it is said from outside. The same seed, the same things hung at the same
// instants and the same clock give the same readings.
type Simulated struct {
	now  func() time.Time
	seed uint64

	mu    sync.Mutex // guards what follows
	fault Fault
	hung  measure.Mass
	tare  measure.Mass
	since time.Time
}

// NewSimulated makes a scale with nothing on it.
func NewSimulated(seed uint64, now func() time.Time) *Simulated {
	return &Simulated{now: now, seed: seed, fault: Sound, since: now().Add(-time.Minute)}
}

// Hang puts something on the scale, in place of what was there; 0 takes it off.
func (s *Simulated) Hang(m measure.Mass) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.hung, s.since = m, s.now()
}

// Break says what is wrong from now on.
func (s *Simulated) Break(f Fault) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.fault, s.since = f, s.now()
}

// State says what hangs and what is wrong, for whoever plays with it.
func (s *Simulated) State() (hung measure.Mass, fault Fault) {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.hung, s.fault
}

// Name says that it is a stand-in.
func (s *Simulated) Name() string { return "simulated luggage scale" }

// Capacity is 50 kg.
func (s *Simulated) Capacity() measure.Mass { return capacity }

// Division is 5 g.
func (s *Simulated) Division() measure.Mass { return division }

// Read gives the reading of the last tenth of a second.
func (s *Simulated) Read(ctx context.Context) (Reading, error) {
	if err := ctx.Err(); err != nil {
		return Reading{}, err
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.fault == Cut {
		return Reading{}, ErrLost
	}
	if s.hung > capacity {
		return Reading{}, ErrOverload
	}
	at := s.now().Truncate(period)
	return Reading{Grams: s.shown(at) - s.tare, Stable: s.stable(at), At: at}, nil
}

// Tare sets what hangs now to nothing.
func (s *Simulated) Tare(ctx context.Context) error {
	r, err := s.Read(ctx)
	if err != nil {
		return err
	}
	if !r.Stable {
		return ErrTare
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	s.tare += r.Grams
	return nil
}

// stable looks back over a second.
func (s *Simulated) stable(at time.Time) bool {
	low, high := s.shown(at), s.shown(at)
	for i := 1; i < steady; i++ {
		x := s.shown(at.Add(-time.Duration(i) * period))
		low, high = min(low, x), max(high, x)
	}
	return high-low <= 2*division
}

// shown is what the display says at an instant, before the tare.
func (s *Simulated) shown(at time.Time) measure.Mass {
	t := at.Sub(s.since).Seconds()
	g := float64(s.hung)
	if t < 0 {
		g, t = 0, 0 // before it was hung
	}
	swing := swingPart * g * math.Cos(2*math.Pi*swingHz*t)
	if s.fault != Swing {
		swing *= math.Pow(0.5, t/halfLife.Seconds())
	}
	g += swing
	if s.fault == Creep {
		g += creepGPS * t
	}
	r := rand.New(rand.NewPCG(s.seed, uint64(at.UnixMilli()))) // noise, not a secret
	g += noiseG * r.NormFloat64()
	return measure.Mass(math.Round(g/float64(division))) * division
}
