package names

import (
	"math/big"
	"strings"

	"github.com/google/uuid"
)

// space is the name space of ids that are made from words (RFC 9562, version 5).
var space = uuid.NewSHA1(uuid.NameSpaceURL, []byte("urn:nimbleanvil:thing"))

// idLetters is how long an id is outside.
const idLetters = 26

// ID makes an id from words: the same words, the same id, so that what is brought in twice
// is brought in once.
func ID(words ...string) string {
	u := uuid.NewSHA1(space, []byte(strings.Join(words, "\x00")))
	text := new(big.Int).SetBytes(u[:]).Text(36)
	return strings.Repeat("0", max(0, idLetters-len(text))) + text
}
