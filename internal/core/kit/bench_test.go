package kit

import (
	"context"
	"fmt"
	"math/rand/v2"
	"testing"

	"nimbleanvil/internal/core/measure"
)

// family makes a supply of n objects in n/5 kinds from a seed, with masses that
// have no common divisor, all fit to be hard: packed in a bag whose volume keeps
// about half of them out when it is tight.
func family(n int, tight bool) Supply {
	r := rand.New(rand.NewPCG(uint64(n), 7))
	primes := []measure.Mass{101, 211, 307, 401, 503, 601, 701, 809, 907, 1009, 1103, 1201, 1301, 1409, 1511, 1601, 1709, 1801, 1901, 2003, 2111, 2203, 2309, 2411}
	r.Shuffle(len(primes), func(i, j int) { primes[i], primes[j] = primes[j], primes[i] })
	s := Supply{Container: &Vessel{ID: "bag", Mass: 800, Max: 20_000, Volume: 1 << 20}}
	held := measure.Volume(0)
	for i := range n / 5 {
		v := measure.Volume(200 + r.IntN(1800))
		held += 5 * v
		s.Objects = append(s.Objects, Pieces{ID: fmt.Sprintf("o%d", i), Mass: primes[i], Volume: v, Count: 5})
	}
	if tight {
		s.Container.Volume = held / 6
	}
	return s
}

var sizes = []int{15, 30, 60, 120}

func BenchmarkMake(b *testing.B) {
	for _, n := range sizes {
		for _, tight := range []bool{false, true} {
			s := family(n, tight)
			for loads, target := range map[int]measure.Mass{1: 9000, 2: 4000} {
				b.Run(fmt.Sprintf("objects=%d/loads=%d/tight=%v", n, loads, tight), func(b *testing.B) {
					b.ReportAllocs()
					for b.Loop() {
						s.Make(context.Background(), target, 100, loads)
					}
				})
			}
		}
	}
}

// Where nothing is within the tolerance both sides are searched to the end: all
// masses equal, each more than all before it together, and an odd one out that no
// two loads can share.
func BenchmarkMakeHard(b *testing.B) {
	bag := &Vessel{ID: "bag", Mass: 800, Max: 20_000, Volume: 1 << 20}
	equal, rising, odd := Supply{Container: bag}, Supply{Container: bag}, Supply{Container: bag}
	for i := range 12 {
		equal.Objects = append(equal.Objects, Pieces{ID: fmt.Sprint(i), Mass: 455, Volume: 450, Count: 5})
		rising.Objects = append(rising.Objects, Pieces{ID: fmt.Sprint(i), Mass: 2 << i, Volume: 450, Count: 1})
		odd.Objects = append(odd.Objects, Pieces{ID: fmt.Sprint(i), Mass: measure.Mass(100 * (i + 1)), Volume: 450, Count: 5})
	}
	odd.Objects[11] = Pieces{ID: "odd", Mass: 149, Volume: 450, Count: 1}
	scarce := Supply{Container: bag, Fillables: []Fillable{{"f", 108, 1540, 50, 1600, 1}}}
	for i, m := range []measure.Mass{3, 8, 14, 26, 49, 98} {
		scarce.Objects = append(scarce.Objects, Pieces{fmt.Sprint(i), m, 700, []int{7, 9, 8, 8, 4, 6}[i]})
	}
	for name, s := range map[string]Supply{"equal": equal, "rising": rising, "odd": odd, "scarce": scarce} {
		for loads := 1; loads <= 2; loads++ {
			b.Run(fmt.Sprintf("%s/loads=%d", name, loads), func(b *testing.B) {
				b.ReportAllocs()
				for b.Loop() {
					s.Make(context.Background(), 4849, 0, loads)
				}
			})
		}
	}
}

func BenchmarkRule(b *testing.B) {
	for _, n := range sizes {
		for _, tight := range []bool{false, true} {
			s := family(n, tight)
			b.Run(fmt.Sprintf("objects=%d/tight=%v", n, tight), func(b *testing.B) {
				b.ReportAllocs()
				for b.Loop() {
					s.Rule(context.Background(), 2000, 20_000, 50)
				}
			})
		}
	}
}
