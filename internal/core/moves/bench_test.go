package moves

import "testing"

// A house's library is built once for each stamp; a class's cues are queued at
// every look.
func BenchmarkStyled(b *testing.B) {
	s := Style{Studio: map[string]string{"knees": "behind", "shoes": "off", "thrust": "floor"}}
	for b.Loop() {
		Standard().Styled(s)
	}
}

func BenchmarkTaught300(b *testing.B) {
	sessions := make([][]string, 300)
	for i := range sessions {
		sessions[i] = six
	}
	for b.Loop() {
		Standard().Queue(six, Standard().Taught(sessions))
	}
}

func BenchmarkFootwork(b *testing.B) {
	for n := uint64(0); b.Loop(); n++ {
		Footwork(n, 15)
	}
}
