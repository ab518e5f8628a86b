package store

import (
	"context"
	"crypto/sha256"
	"encoding/binary"
	"encoding/hex"
	"errors"

	"gorm.io/gorm"
)

// PlaceWith is a place with things that are to be made or changed there.
type PlaceWith struct {
	Place  Place
	Things []Thing
}

// PlacesStamp changes whenever any place or anything in one does.
func (s *Store) PlacesStamp(ctx context.Context, sc Scope) (string, error) {
	return placesStamp(s.db.WithContext(ctx), sc)
}

func placesStamp(tx *gorm.DB, sc Scope) (string, error) {
	rows, err := everyRow[Place](tx, sc, MaxPlaces*2)
	h := sha256.New()
	for _, p := range rows {
		_ = binary.Write(h, binary.BigEndian, []int64{p.ID, p.Stamp}) // to a hash: never fails
	}
	return hex.EncodeToString(h.Sum(nil)), err
}

func everyRow[T any](tx *gorm.DB, sc Scope, most int) ([]T, error) {
	var rows []T
	err := tx.Where("studio_id = ?", sc.StudioID).Order("id").Limit(most).Find(&rows).Error
	return rows, err
}

// BringPlaces makes or changes places and their things in one transaction, all or
// nothing, while everything is still what the stamp says; another is ErrConflict.
func (s *Store) BringPlaces(ctx context.Context, sc Scope, stamp string, all []PlaceWith) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		// Whoever changes a thing locks its place first, and changes its stamp.
		if _, err := everyRow[Place](tx.Clauses(forUpdate), sc, MaxPlaces*2); err != nil {
			return err
		}
		now, err := placesStamp(tx, sc)
		if err != nil {
			return err
		}
		if now != stamp {
			return ErrConflict
		}
		for _, b := range all {
			id, err := putPlace(tx, sc, b.Place)
			if err != nil {
				return err
			}
			for _, x := range b.Things {
				if err := x.put(tx, sc, id); err != nil {
					return err
				}
			}
		}
		return nil
	})
}

func (i Implement) at(sc Scope, place int64) Implement {
	i.StudioID, i.PlaceID = sc.StudioID, place
	return i
}

func (o Object) at(sc Scope, place int64) Object {
	o.StudioID, o.PlaceID = sc.StudioID, place
	return o
}

func (c Container) at(sc Scope, place int64) Container {
	c.StudioID, c.PlaceID = sc.StudioID, place
	return c
}

// putPlace makes a place or changes it, and gives its key.
func putPlace(tx *gorm.DB, sc Scope, next Place) (int64, error) {
	next.Stamp = newStamp()
	old, err := lock[Place](tx, sc, next.PublicID)
	switch {
	case errors.Is(err, ErrNotFound):
		if err := checkCapacity[Place](tx, sc, "", 0, MaxPlaces); err != nil {
			return 0, err
		}
		next.StudioID = sc.StudioID
		err := tx.Create(&next).Error
		return next.ID, err
	case err != nil:
		return 0, err
	}
	return old.ID, tx.Model(&old).Select("Name", "Kind", "MassUnit", "Stamp", "RetiredAt").Updates(next).Error
}

// putIn makes or changes a thing of a place, which is locked, within a transaction.
func putIn[T item](tx *gorm.DB, sc Scope, place int64, publicID string, columns []string, row T) error {
	old, err := lock[T](tx, sc, publicID)
	if errors.Is(err, ErrNotFound) {
		if err := elsewhere[T](tx, sc, publicID); err != nil {
			return err
		}
		if err := checkItemCapacity[T](tx, sc, place); err != nil {
			return err
		}
		return tx.Create(&row).Error
	}
	if err != nil {
		return err
	}
	if placeOf(old) != place {
		return ErrElsewhere
	}
	if putAway(old) {
		if err := checkItemCapacity[T](tx, sc, place); err != nil {
			return err
		}
	}
	return found(tx.Model(&old).Where("place_id = ?", place).Select(columns).Updates(row))
}

// placeOf gives the key of the place that a thing belongs to.
func placeOf[T item](row T) int64 {
	switch x := any(row).(type) {
	case Implement:
		return x.PlaceID
	case Object:
		return x.PlaceID
	case Container:
		return x.PlaceID
	}
	return 0
}

// putAway tells whether a thing is retired: putting it again brings it back.
func putAway[T item](row T) bool {
	switch x := any(row).(type) {
	case Implement:
		return x.RetiredAt != nil
	case Object:
		return x.RetiredAt != nil
	case Container:
		return x.RetiredAt != nil
	}
	return false
}

// elsewhere gives ErrElsewhere when an id is a thing's of another kind: a file of places
// names things by their ids alone.
func elsewhere[T item](tx *gorm.DB, sc Scope, publicID string) error {
	for _, other := range []any{&Implement{}, &Object{}, &Container{}} {
		var n int64
		if err := tx.Model(other).Where("studio_id = ? AND public_id = ?", sc.StudioID, publicID).Count(&n).Error; err != nil {
			return err
		}
		if n > 0 {
			return ErrElsewhere
		}
	}
	return nil
}

// checkItemCapacity refuses one more thing of a place: of those that are there, and, so that what
// is put away is no list without an end either, of all there ever were.
func checkItemCapacity[T item](tx *gorm.DB, sc Scope, place int64) error {
	if err := checkCapacity[T](tx.Where("retired_at IS NULL"), sc, "place_id", place, MaxItems); err != nil {
		return err
	}
	return checkCapacity[T](tx, sc, "place_id", place, everItems)
}
