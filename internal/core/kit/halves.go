package kit

import (
	"cmp"
	"slices"

	"nimbleanvil/internal/core/measure"
)

// mostPairs is how many ways to fill two loads are still walked half by half: that
// is where there is little to choose from and the search outwards would go far.
const mostPairs = 3e7

// mostHalf is how many ways of one half are kept in memory.
const mostHalf = 1e6

// half is what some of the kinds put into two loads.
type half struct {
	w [2]int
	v [2]int64
}

// pairs counts the ways in which the kinds go into two loads, as a float since
// they can be very many.
func (m *maker) pairs(kinds []kindOf) float64 {
	all := 1.0
	for _, k := range kinds {
		ways := 0.0
		for a := 0; a <= k.count && a*k.mass <= m.top; a++ {
			for b := 0; a+b <= k.count && b*k.mass <= m.top; b++ {
				ways += float64(a*k.steps+1) * float64(b*k.steps+1)
			}
		}
		all *= ways
	}
	return all
}

// walk lists what the kinds from one to another can put into two loads.
func (m *maker) walk(kinds []kindOf) []half {
	all := []half{{}}
	for _, k := range kinds {
		var next []half
		for _, h := range all {
			for a := 0; a <= k.count; a++ {
				for b := 0; a+b <= k.count; b++ {
					for x := 0; x <= a*k.steps; x++ {
						for y := 0; y <= b*k.steps; y++ {
							t := half{[2]int{h.w[0] + a*k.mass + x*k.step, h.w[1] + b*k.mass + y*k.step},
								[2]int64{h.v[0] + int64(a)*int64(k.volume), h.v[1] + int64(b)*int64(k.volume)}}
							if t.w[0] <= m.top && t.w[1] <= m.top && m.roomy(t.v) {
								next = append(next, t)
							}
						}
					}
				}
			}
		}
		all = next
	}
	return all
}

func (m *maker) roomy(v [2]int64) bool {
	return !m.binds || v[0] <= int64(m.volume) && v[1] <= int64(m.volume)
}

// middle splits the kinds so that both halves have about as many ways; small tells
// whether both can be kept.
func (m *maker) middle() (cut int, small bool) {
	whole := m.pairs(m.kinds)
	for cut < len(m.kinds) {
		cut++
		if p := m.pairs(m.kinds[:cut]); p*p >= whole {
			return cut, p <= mostHalf && whole/p <= mostHalf
		}
	}
	return cut, true
}

// nearest finds the smallest largest error of two loads and then the smallest
// difference, by putting every half beside those that can still be as good; ok is
// false when there is nothing within most on this side.
func (m *maker) nearest(target measure.Mass, side int, most measure.Mass) (e, d measure.Mass, ok bool) {
	cut, _ := m.middle()
	first, second := m.walk(m.kinds[:cut]), m.walk(m.kinds[cut:])
	slices.SortFunc(second, func(a, b half) int { return cmp.Compare(a.w[0], b.w[0]) })
	e, d = most, measure.MaxLoad
	bare := m.supply.Container != nil
	off := func(w int) measure.Mass { return m.total(w) - target }
	wrong := func(x measure.Mass) bool { return side < 0 && x > 0 || side > 0 && x < 0 || max(x, -x) > e }
	tried := 0
	for _, a := range first {
		low := int64(target-m.base-e)/m.unit - int64(a.w[0]) - 1
		i, _ := slices.BinarySearchFunc(second, low, func(h half, w int64) int { return cmp.Compare(int64(h.w[0]), w) })
		for _, b := range second[i:] {
			w := [2]int{a.w[0] + b.w[0], a.w[1] + b.w[1]}
			x, y := off(w[0]), off(w[1])
			if x > e {
				break
			}
			if tried++; tried%8 == 0 && !m.work.spend(4) {
				return e, d, ok
			}
			if wrong(x) || wrong(y) || y > x || w[0] > m.top || !bare && w[1] == 0 ||
				!m.roomy([2]int64{a.v[0] + b.v[0], a.v[1] + b.v[1]}) {
				continue
			}
			// y is no more than x, so that no other of the two can be further off.
			if worst := max(x, -y); !ok || worst < e || worst == e && x-y < d {
				e, d, ok = worst, x-y, true
			}
		}
	}
	return e, d, ok
}
