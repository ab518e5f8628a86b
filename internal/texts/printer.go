// Package texts says what the program knows in words: every sentence, the names of the
// contract's values, and reasons. The texts are data (texts/en.json, with typed
// arguments); the functions are generated for Go and for the interface alike, and a file
// of golden texts, written here and read there, holds the two together byte for byte.
package texts

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"sync"

	"golang.org/x/text/feature/plural"
	"golang.org/x/text/language"

	"nimbleanvil/internal/core/measure"
)

// Language of the texts.
type Language string

// The languages. Pseudo is English as no English, for trying what is a text and what fits.
const (
	English Language = "en"
	Pseudo  Language = "en-XA"
)

// Languages lists them.
var Languages = []Language{English, Pseudo}

// Printer says texts in a language, masses and lengths in a reader's unit. Its zero value
// speaks English and kilograms.
type Printer struct {
	Language Language
	Unit     measure.Unit // kg or lb
	Names    Names        // what reasons call by name; nil: by id
}

// Names is what only a studio knows by name.
type Names interface {
	Move(id string) string
	Item(id string) string
	Person(id string) string
}

//go:embed messages.json
var messagesJSON []byte

type argument struct {
	Name string `json:"name"`
	Type string `json:"type"`
}

// message is one text in all languages: a plain one, or nodes.
type message struct {
	Key  string              `json:"key"`
	Args []argument          `json:"args"`
	Text map[Language]branch `json:"text"`
}

// branch is a run of nodes.
type branch []node

// node is a literal, the number of a plural, an argument, or a choice by one.
type node struct {
	Literal string            `json:"-"`
	Pound   bool              `json:"pound"`
	Arg     string            `json:"arg"`
	Plural  map[string]branch `json:"plural"`
	Select  map[string]branch `json:"select"`
}

// UnmarshalJSON reads a text that is nothing but text, or a list.
func (b *branch) UnmarshalJSON(data []byte) error {
	var plain string
	if json.Unmarshal(data, &plain) == nil {
		*b = branch{{Literal: plain}}
		return nil
	}
	return json.Unmarshal(data, (*[]node)(b))
}

// UnmarshalJSON reads a literal or what is put in.
func (n *node) UnmarshalJSON(data []byte) error {
	if json.Unmarshal(data, &n.Literal) == nil {
		return nil
	}
	type fields node
	return json.Unmarshal(data, (*fields)(n))
}

// messages are read once; they are part of the program, so that an error is one of ours.
var messages = sync.OnceValue(func() map[string]message {
	var list []message
	if err := json.Unmarshal(messagesJSON, &list); err != nil {
		panic(fmt.Sprintf("messages.json: %v", err))
	}
	out := make(map[string]message, len(list))
	for _, m := range list {
		out[m.Key] = m
	}
	return out
})

func (p Printer) language() Language {
	if p.Language == "" {
		return English
	}
	return p.Language
}

// say writes a message with the values of its arguments, in their order.
func (p Printer) say(key string, values ...any) string {
	m := messages()[key]
	args := make(map[string]value, len(m.Args))
	for i, a := range m.Args {
		args[a.Name] = p.value(a, values[i])
	}
	return p.write(m, args)
}

func (p Printer) write(m message, args map[string]value) string {
	var b strings.Builder
	p.put(&b, m.Text[p.language()], args, "")
	return b.String()
}

func (p Printer) put(b *strings.Builder, nodes branch, args map[string]value, pound string) {
	for _, n := range nodes {
		switch {
		case n.Plural != nil:
			v := args[n.Arg]
			p.put(b, p.pluralBranch(n.Plural, v.number), args, v.text)
		case n.Select != nil:
			p.put(b, selectBranch(n.Select, args[n.Arg]), args, pound)
		case n.Arg != "":
			b.WriteString(args[n.Arg].text)
		case n.Pound:
			b.WriteString(pound)
		default:
			b.WriteString(n.Literal)
		}
	}
}

func selectBranch(of map[string]branch, v value) branch {
	if none, ok := of["none"]; ok && v.none {
		return none
	}
	if b, ok := of[v.id]; ok {
		return b
	}
	return of["other"]
}

var forms = map[plural.Form]string{
	plural.Zero: "zero", plural.One: "one", plural.Two: "two", plural.Few: "few", plural.Many: "many", plural.Other: "other",
}

// pluralBranch is that of a number itself ("=0"), else of its plural form. Fractions are
// never counted: they take the form for other.
func (p Printer) pluralBranch(of map[string]branch, n float64) branch {
	if b, ok := of["="+plain(n)]; ok {
		return b
	}
	form := "other"
	if n >= 0 && n == float64(int(n)) {
		form = forms[plural.Cardinal.MatchPlural(language.Make(string(p.language())), int(n), 0, 0, 0, 0)]
	}
	if b, ok := of[form]; ok {
		return b
	}
	return of["other"]
}

// name says a value of a table of names.
func (p Printer) name(table, id string) string {
	m, ok := messages()["names."+table+"."+id]
	if !ok {
		return id
	}
	return p.write(m, nil)
}

// joined puts several in a line by the texts join.list, join.and and so on.
func (p Printer) joined(by string, parts []string) string {
	if len(parts) == 0 {
		return ""
	}
	if by == "and" && len(parts) > 2 {
		parts = []string{p.joined("list", parts[:len(parts)-1]), parts[len(parts)-1]}
	}
	out := parts[0]
	for _, x := range parts[1:] {
		out = p.say("join."+by, Name(out), Name(x))
	}
	return out
}

// Keys lists the keys of all messages, in order.
func Keys() []string {
	out := make([]string, 0, len(messages()))
	for k := range messages() {
		out = append(out, k)
	}
	slices.Sort(out)
	return out
}
