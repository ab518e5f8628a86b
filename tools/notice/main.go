// Command notice writes, from the module list of the program and the list of packages in
// the built pages, what of others is shipped: NOTICE, and the licence texts the program
// carries (ui/public/licences.txt). With --check it only says whether they are current.
package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
)

const (
	noticeFile = "NOTICE"
	textsFile  = "ui/public/licences.txt"
)

// work is one thing of others that is shipped.
type work struct {
	Name, Version string
	Dir           string
	Licence       string
	Texts         []string
}

func main() {
	if err := run(slices.Contains(os.Args[1:], "--check")); err != nil {
		fmt.Fprintln(os.Stderr, "notice:", err)
		os.Exit(1)
	}
}

func run(check bool) error {
	if err := os.Chdir(".."); err != nil {
		return err
	}
	program, err := modules()
	if err != nil {
		return err
	}
	pages, err := packages()
	if err != nil {
		return err
	}
	for _, list := range [][]work{program, pages} {
		for i := range list {
			if err := list[i].read(); err != nil {
				return err
			}
		}
	}
	for name, now := range map[string][]byte{noticeFile: notice(program, pages), textsFile: texts(slices.Concat(program, pages))} {
		was, err := os.ReadFile(name)
		switch {
		case bytes.Equal(was, now):
		case check:
			return fmt.Errorf("%s is not what the lists of modules and packages give: run scripts/notice.sh", name)
		case err != nil && !errors.Is(err, os.ErrNotExist):
			return err
		default:
			if err := os.WriteFile(name, now, 0o644); err != nil {
				return err
			}
		}
	}
	return nil
}

// modules lists what is linked into the program. Go's own library is under the words of
// golang.org/x/sys, which are those of the Go project.
func modules() ([]work, error) {
	list := exec.Command("go", "list", "-deps", "-f",
		`{{with .Module}}{{if not .Main}}{{.Path}} {{.Version}} {{.Dir}}{{end}}{{end}}`, "./cmd/nimbleanvil")
	list.Env = append(os.Environ(), "GOOS=linux", "GOARCH=amd64", "CGO_ENABLED=0", "GOWORK=off")
	list.Stderr = os.Stderr
	out, err := list.Output()
	if err != nil {
		return nil, fmt.Errorf("go list: %w", err)
	}
	lines := strings.Split(strings.TrimSpace(string(out)), "\n")
	slices.Sort(lines)
	var all []work
	for _, line := range slices.Compact(lines) {
		part := strings.Fields(line)
		if len(part) != 3 {
			return nil, fmt.Errorf("go list: %q is not a module, its version and its folder", line)
		}
		if part[0] == "golang.org/x/sys" {
			all = append(all, work{Name: "the Go standard library and runtime", Dir: part[2]})
		}
		all = append(all, work{Name: part[0], Version: part[1], Dir: part[2]})
	}
	return all, nil
}

// packages lists what is in the built pages.
func packages() ([]work, error) {
	raw, err := os.ReadFile("ui/build/app/shipped.json")
	if err != nil {
		return nil, err
	}
	var listed []string
	if err := json.Unmarshal(raw, &listed); err != nil {
		return nil, err
	}
	var all []work
	for _, name := range listed {
		w := work{Name: name, Dir: filepath.Join("ui/node_modules", name)}
		raw, err := os.ReadFile(filepath.Join(w.Dir, "package.json"))
		if err != nil {
			return nil, err
		}
		var said struct{ Version, License string }
		if err := json.Unmarshal(raw, &said); err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
		w.Version, w.Licence = said.Version, said.License
		all = append(all, w)
	}
	return all, nil
}

var licenceFile = regexp.MustCompile(`(?i)^(licen[cs]e|copying|notice|patents)(\.(md|txt))?$`)

// read takes in the licence texts that lie in a work's folder.
func (w *work) read() error {
	entries, err := os.ReadDir(w.Dir)
	if err != nil {
		return err
	}
	found := ""
	for _, entry := range entries {
		if !licenceFile.MatchString(entry.Name()) {
			continue
		}
		raw, err := os.ReadFile(filepath.Join(w.Dir, entry.Name()))
		if err != nil {
			return err
		}
		text := strings.TrimSpace(strings.ReplaceAll(string(raw), "\r\n", "\n"))
		w.Texts = append(w.Texts, text)
		if found == "" {
			found = kindOf(text)
		}
	}
	switch {
	case len(w.Texts) == 0:
		return fmt.Errorf("%s: no licence text in %s", w.Name, w.Dir)
	case w.Licence == "" && found == "":
		return fmt.Errorf("%s: the licence in %s is none that is known here: read it, then teach it to kindOf",
			w.Name, w.Dir)
	case w.Licence == "":
		w.Licence = found
	}
	return nil
}

// kindOf is the SPDX name of a licence text, known by sentences only that one has; empty
// if it is none of those that are taken.
func kindOf(text string) string {
	words := strings.Join(strings.Fields(text), " ")
	for _, kind := range []struct{ name, sentence string }{
		{"MPL-2.0", "Mozilla Public License Version 2.0"},
		{"Apache-2.0", "Apache License Version 2.0, January 2004"},
		{"MIT", "Permission is hereby granted, free of charge, to any person obtaining a copy"},
		{"ISC", "Permission to use, copy, modify, and/or distribute this software for any purpose with or without fee"},
		{"BSD-3-Clause", "Neither the name of"},
		{"BSD-2-Clause", "Redistribution and use in source and binary forms, with or without modification"},
	} {
		if strings.Contains(words, kind.sentence) {
			return kind.name
		}
	}
	return ""
}

func notice(program, pages []work) []byte {
	var out bytes.Buffer
	out.WriteString(`Nimble Anvil
Copyright 2026 the authors of Nimble Anvil
Licensed under the Apache License, version 2.0 (see LICENSE).

It ships with these works of others, under their own licences. The texts are in
ui/public/licences.txt, which the program carries: "nimbleanvil licences" prints it, and
it is served as /licences.txt. Made by scripts/notice.sh; not edited by hand.
`)
	for _, part := range []struct {
		title string
		works []work
	}{{"In the program", program}, {"In the pages", pages}} {
		fmt.Fprintf(&out, "\n%s\n", part.title)
		for _, w := range part.works {
			fmt.Fprintf(&out, "  %-62s %s\n", strings.TrimSpace(w.Name+" "+w.Version), w.Licence)
		}
	}
	out.WriteString(`
MariaDB and Chromium come from the Debian packages mariadb-server-core and chromium; they
are installed by the commands and not part of this work. What only builds and tests it
is in tools/go.mod, in the tests' part of go.mod and in ui/package.json, and is not
shipped.
`)
	return out.Bytes()
}

// texts sets every licence text once, under the works it is for.
func texts(all []work) []byte {
	var order []string
	users := map[string][]string{}
	for _, w := range all {
		for _, text := range w.Texts {
			if users[text] == nil {
				order = append(order, text)
			}
			users[text] = append(users[text], strings.TrimSpace(w.Name+" "+w.Version))
		}
	}
	var out bytes.Buffer
	out.WriteString("Licences of the works of others that Nimble Anvil ships with.\n")
	for _, text := range order {
		fmt.Fprintf(&out, "\n%s\n%s\n\n%s\n", strings.Repeat("=", 80), strings.Join(users[text], "\n"), text)
	}
	return out.Bytes()
}
