package moves

import (
	"embed"
	"encoding/json"
	"slices"
	"sync"
)

//go:embed words/*.json
var words embed.FS

// Limit says what some kit cannot do, and what comes nearest. What is a pattern,
// or a direction within one.
type Limit struct {
	What    string   `json:"what"`
	Needs   string   `json:"needs"`
	Nearest []string `json:"nearest"`
	Say     string   `json:"say"`
}

// Limits lists what cannot be done with a weight in the hand or without one.
var Limits = sync.OnceValue(func() []Limit { return wordsOf[Limit]("limits") })

// LimitsOf lists what is said of a pattern that some kit cannot do.
func LimitsOf(p Pattern) []Limit {
	return slices.DeleteFunc(slices.Clone(Limits()), func(l Limit) bool { return l.What != string(p) })
}

// Word is a word of the trade and what it means here.
type Word struct {
	Term  string   `json:"term"`
	Also  []string `json:"also" doc:"other forms of it in the texts"`
	Means string   `json:"means"`
}

// Glossary lists the words of the trade that the library's texts use.
var Glossary = sync.OnceValue(func() []Word { return wordsOf[Word]("glossary") })

// wordsOf reads one of the library's lists of texts.
func wordsOf[T any](name string) []T {
	b, err := words.ReadFile("words/" + name + ".json")
	if err != nil {
		panic(err) // embedded
	}
	var out []T
	if err := json.Unmarshal(b, &out); err != nil {
		panic(err) // checked by the tests
	}
	return out
}
