package studio

import (
	"context"
	"sync"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/store"
	"nimbleanvil/internal/texts"
)

// libraries keeps built libraries by their stamp, which is made of their contents:
// one that is kept is never out of date.
type libraries struct {
	mu   sync.Mutex
	kept map[string]*moves.Library
}

// maxLibraries bounds what is kept.
const maxLibraries = 32

// library gives the library as the studio teaches it.
func (s Studio) library(ctx context.Context) (*moves.Library, error) {
	stamp, err := s.store.LibraryStamp(ctx, s.scope)
	if err != nil {
		return nil, err
	}
	return s.libraryOf(ctx, stamp)
}

// libraryOf gives the library of a stamp that has just been read.
func (s Studio) libraryOf(ctx context.Context, stamp string) (*moves.Library, error) {
	if stamp == "" { // nothing has been changed here
		return plainLibrary(), nil
	}
	s.libraries.mu.Lock()
	lib := s.libraries.kept[stamp]
	s.libraries.mu.Unlock()
	if lib != nil {
		return lib, nil
	}
	taught, err := s.store.Teaching(ctx, s.scope)
	if err != nil {
		return nil, err
	}
	lib, err = build(taught)
	if err != nil {
		return nil, err
	}
	s.libraries.mu.Lock()
	defer s.libraries.mu.Unlock()
	if len(s.libraries.kept) >= maxLibraries {
		clear(s.libraries.kept)
	}
	s.libraries.kept[taught.Stamp] = lib
	return lib, nil
}

// plainLibrary is the standard one by the schools' defaults.
var plainLibrary = sync.OnceValue(func() *moves.Library { return moves.Standard().Styled(moves.Style{}) })

func build(t store.Teaching) (*moves.Library, error) {
	list, err := moves.ParseOwn(t.Own)
	if err != nil {
		return nil, err
	}
	lib, err := moves.Standard().With(list)
	if err != nil {
		return nil, err
	}
	s, err := moves.ParseStyle(t.Style)
	if err != nil {
		return nil, err
	}
	lib = lib.Styled(s)
	if say := sayIn(t.Language); say != nil {
		lib = lib.Said(say)
	}
	return lib, nil
}

// sayIn says the library's texts in a language; nil where they are in it.
func sayIn(language string) func(string) string {
	if texts.Language(language) == texts.Pseudo {
		return texts.Marked
	}
	return nil
}
