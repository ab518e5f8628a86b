package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"maps"
	"slices"

	"gorm.io/gorm"
)

// LibraryStamp changes whenever the studio's style or own moves do.
func (s *Store) LibraryStamp(ctx context.Context, sc Scope) (string, error) {
	st, err := s.Studio(ctx, sc)
	return st.LibraryStamp, err
}

// Teaching gives a studio's style and own moves, the oldest first, with their
// stamp, as of one instant.
func (s *Store) Teaching(ctx context.Context, sc Scope) (Teaching, error) {
	var out Teaching
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var st Studio
		if err := tx.First(&st, sc.StudioID).Error; err != nil {
			return translate(err)
		}
		rows, err := ownMoves(tx, sc)
		out = Teaching{st.Style, stored(rows), st.Language, st.LibraryStamp}
		return err
	})
	return out, err
}

// Teaching is what makes a studio's library: its style, its own moves, the language, and
// the stamp that changes with them.
type Teaching struct {
	Style    []byte
	Own      [][]byte
	Language string
	Stamp    string
}

const defaultLanguage = "en"

// stored gives the moves as they lie in the rows.
func stored(rows []OwnMove) [][]byte {
	out := make([][]byte, 0, len(rows))
	for _, r := range rows {
		out = append(out, r.Variant)
	}
	return out
}

func ownMoves(tx *gorm.DB, sc Scope) ([]OwnMove, error) {
	var rows []OwnMove
	err := tx.Where("studio_id = ?", sc.StudioID).Order("id").Limit(MaxOwnMoves).Find(&rows).Error
	return rows, err
}

// teach runs a change of style or own moves with the studio locked, and stamps
// the library anew by its contents.
func (s *Store) teach(ctx context.Context, sc Scope, change func(tx *gorm.DB, st *Studio) error) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		st, err := lockStudio(tx, sc)
		if err != nil {
			return err
		}
		if err := change(tx, &st); err != nil {
			return err
		}
		rows, err := ownMoves(tx, sc)
		if err != nil {
			return err
		}
		return tx.Model(&st).
			Select("Style", "LibraryStamp").
			Updates(Studio{Style: st.Style, LibraryStamp: libraryStamp(st, rows)}).
			Error
	})
}

// libraryStamp is of a library's contents; of the standard one in its own language there is
// none.
func libraryStamp(st Studio, own []OwnMove) string {
	plain := len(st.Style) == 0 || string(st.Style) == "{}"
	if plain && len(own) == 0 && st.Language == defaultLanguage {
		return ""
	}
	h := sha256.New()
	h.Write(st.Style)
	if st.Language != defaultLanguage {
		h.Write([]byte(st.Language))
	}
	for _, r := range own {
		h.Write([]byte{0})
		h.Write(r.Variant)
	}
	return hex.EncodeToString(h.Sum(nil))
}

func lockStudio(tx *gorm.DB, sc Scope) (Studio, error) {
	var st Studio
	err := tx.Clauses(forUpdate).Where("id = ?", sc.StudioID).Take(&st).Error
	return st, translate(err)
}

// ChangeStyle makes the studio's style out of the one it has.
func (s *Store) ChangeStyle(ctx context.Context, sc Scope, change func(style []byte) ([]byte, error)) error {
	return s.teach(ctx, sc, func(_ *gorm.DB, st *Studio) error {
		style, err := change(st.Style)
		st.Style = style
		return err
	})
}

// PutOwnMoves makes or changes own moves by id, while the library is still what
// its stamp says; another stamp is ErrConflict. An empty stamp is not looked at.
func (s *Store) PutOwnMoves(ctx context.Context, sc Scope, stamp *string, variants map[string][]byte) error {
	return s.teach(ctx, sc, func(tx *gorm.DB, st *Studio) error {
		if stamp != nil && *stamp != st.LibraryStamp {
			return ErrConflict
		}
		for _, id := range slices.Sorted(maps.Keys(variants)) {
			old, err := get[OwnMove](tx, sc, id)
			switch {
			case errors.Is(err, ErrNotFound):
				if err := checkCapacity[OwnMove](tx, sc, "", 0, MaxOwnMoves); err != nil {
					return err
				}
				err = tx.Create(&OwnMove{Row: Row{StudioID: sc.StudioID}, PublicID: id, Variant: variants[id]}).Error
			case err == nil:
				err = tx.Model(&old).
					Select("Variant", "UpdatedAt").
					Updates(OwnMove{Variant: variants[id], UpdatedAt: s.now().UTC()}).
					Error
			}
			if err != nil {
				return err
			}
		}
		return nil
	})
}
