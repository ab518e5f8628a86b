package studio

import (
	"context"
	"sync"

	"nimbleanvil/internal/core/moves"
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
	style, own, stamp, err := s.store.Teaching(ctx, s.scope)
	if err != nil {
		return nil, err
	}
	lib, err = build(style, own)
	if err != nil {
		return nil, err
	}
	s.libraries.mu.Lock()
	defer s.libraries.mu.Unlock()
	if len(s.libraries.kept) >= maxLibraries {
		clear(s.libraries.kept)
	}
	s.libraries.kept[stamp] = lib
	return lib, nil
}

// plainLibrary is the standard one by the schools' defaults.
var plainLibrary = sync.OnceValue(func() *moves.Library { return moves.Standard().Styled(moves.Style{}) })

func build(style []byte, own [][]byte) (*moves.Library, error) {
	list, err := moves.ParseOwn(own)
	if err != nil {
		return nil, err
	}
	lib, err := moves.Standard().With(list)
	if err != nil {
		return nil, err
	}
	s, err := moves.ParseStyle(style)
	if err != nil {
		return nil, err
	}
	return lib.Styled(s), nil
}
