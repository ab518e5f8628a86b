package texts

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nimbleanvil/internal/core/people"
)

// questionTexts are the SHA-256 of the health questions with their cautions and what the screen
// says that it is not, by version: an answer says which version was read, so that other words
// are another version.
var questionTexts = map[int]string{1: "05265b7290777296ff815b2096378a2b21a8274f5c5d25903ff34500a7b19a32"}

func TestOtherQuestionsAreAnotherVersion(t *testing.T) {
	b, err := os.ReadFile("../../texts/en.json")
	require.NoError(t, err)
	var all struct {
		People struct {
			Health struct{ First, Not, Urgent string }
			Of     struct {
				Question, Caution struct{ Texts map[people.Question]string }
			}
		}
	}
	require.NoError(t, json.Unmarshal(b, &all))
	for _, q := range people.Questions {
		assert.NotEmpty(t, all.People.Of.Question.Texts[q], "%s is asked", q)
		assert.NotEmpty(t, all.People.Of.Caution.Texts[q], "%s has its caution", q)
	}
	said, err := json.Marshal(all)
	require.NoError(t, err)
	sum := sha256.Sum256(said)
	assert.Equal(t, questionTexts[people.QuestionsVersion], hex.EncodeToString(sum[:]),
		"the words have changed: raise people.QuestionsVersion, and write the sum of the new ones beside the old")
}
