package moves

// Cue is one cue of a move: Index counts from 0 in teaching order.
type Cue struct {
	Move  string `json:"move"`
	Index int    `json:"index"`
	Text  string `json:"text"`
}

// Queue says which one new cue a group is given today and which wait: each move of
// the circuit has its next untaught cue due, in the circuit's order; one is given,
// the rest wait for other sessions (common practice: one new cue a session). Taught
// counts the cues a group has had, by move. New is nil when nothing is due.
func (l *Library) Queue(circuit []string, taught map[string]int) (fresh *Cue, waiting []Cue) {
	seen := map[string]bool{}
	waiting = []Cue{}
	for _, id := range circuit {
		v, ok := l.Get(id)
		n := taught[id]
		if !ok || seen[id] || v.HouseCues+n >= len(v.Cues) {
			continue
		}
		seen[id] = true
		due := Cue{id, n, v.Cues[v.HouseCues+n]}
		if fresh == nil {
			fresh = &due
			continue
		}
		waiting = append(waiting, due)
	}
	return fresh, waiting
}

// Taught folds a group's past sessions, the oldest first, each the moves that were
// done in their order: every session has taught the one cue that was due.
func (l *Library) Taught(sessions [][]string) map[string]int {
	taught := map[string]int{}
	for _, s := range sessions {
		if fresh, _ := l.Queue(s, taught); fresh != nil {
			taught[fresh.Move]++
		}
	}
	return taught
}

// TodaysCue is what to say of a move today.
type TodaysCue struct {
	Cue
	Fresh bool `json:"fresh"` // the one that is new to the group today
}

// Today gives what to say of each move of a circuit, each once, in order: the one
// new cue where it is due, else what is repeated; and the new cues that wait.
func (l *Library) Today(circuit []string, taught map[string]int) (said []TodaysCue, waiting []Cue) {
	fresh, waiting := l.Queue(circuit, taught)
	said = []TodaysCue{}
	seen := map[string]bool{}
	for _, id := range circuit {
		switch {
		case seen[id]:
		case fresh != nil && fresh.Move == id:
			said = append(said, TodaysCue{*fresh, true})
		default:
			said = append(said, TodaysCue{Cue: l.Remind(id, taught)})
		}
		seen[id] = true
	}
	return said, waiting
}

// Remind gives the cue to repeat of a move: the house's, where it has one; else the
// one taught last, or the first where none has been.
func (l *Library) Remind(id string, taught map[string]int) Cue {
	v, ok := l.Get(id)
	if !ok {
		return Cue{Move: id}
	}
	if v.HouseCues > 0 {
		return Cue{id, 0, v.Cues[0]}
	}
	i := min(max(taught[id]-1, 0), len(v.Cues)-1)
	return Cue{id, i, v.Cues[i]}
}
