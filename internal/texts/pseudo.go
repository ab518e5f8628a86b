package texts

import "strings"

// What every letter becomes: the same as in ui/scripts/pseudo.mjs, which makes the texts.
const (
	plainLetters  = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ"
	markedLetters = "áƀçđéƒğĥíĵķľɱñóþɋŕšţúṽŵẋýžÁƁÇĐÉƑĞĤÍĴĶĽṀÑÓÞɊŔŠŢÚṼŴẊÝŽ"
)

var markOf = func() map[rune]rune {
	out := map[rune]rune{}
	marked := []rune(markedLetters)
	for i, r := range plainLetters {
		out[r] = marked[i]
	}
	return out
}()

// Marked is English as no English: a mark on every letter, vowels drawn out until it is a
// third longer.
func Marked(s string) string {
	letters := 0
	for _, r := range s {
		if markOf[r] != 0 {
			letters++
		}
	}
	want := (letters + 2) / 3
	var b strings.Builder
	for _, r := range s {
		to := r
		if m := markOf[r]; m != 0 {
			to = m
		}
		b.WriteRune(to)
		if want > 0 && strings.ContainsRune("aeiou", r) {
			b.WriteRune(to)
			want--
		}
	}
	return b.String()
}
