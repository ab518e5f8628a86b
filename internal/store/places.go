package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"

	"gorm.io/gorm"
)

// Brought is a place with things that are to be made or changed there.
type Brought struct {
	Place      Place
	Implements []Implement
	Objects    []Object
	Containers []Container
}

// PlacesStamp changes whenever any place or anything in one does.
func (s *Store) PlacesStamp(ctx context.Context, sc Scope) (string, error) {
	return placesStamp(s.db.WithContext(ctx), sc)
}

func placesStamp(tx *gorm.DB, sc Scope) (string, error) {
	h := sha256.New()
	out := json.NewEncoder(h)
	for _, read := range []func() (any, error){
		func() (any, error) { return everyRow[Place](tx, sc, MaxPlaces*2) },
		func() (any, error) { return everyRow[Implement](tx, sc, MaxPlaces*everItems) },
		func() (any, error) { return everyRow[Object](tx, sc, MaxPlaces*everItems) },
		func() (any, error) { return everyRow[Container](tx, sc, MaxPlaces*everItems) },
	} {
		rows, err := read()
		if err == nil {
			err = out.Encode(rows)
		}
		if err != nil {
			return "", err
		}
	}
	return hex.EncodeToString(h.Sum(nil)), nil
}

func everyRow[T any](tx *gorm.DB, sc Scope, most int) ([]T, error) {
	var rows []T
	err := tx.Where("studio_id = ?", sc.StudioID).Order("id").Limit(most).Find(&rows).Error
	return rows, err
}

// BringPlaces makes or changes places and their things in one transaction, all or
// nothing, while everything is still what the stamp says; another is ErrConflict.
func (s *Store) BringPlaces(ctx context.Context, sc Scope, stamp string, all []Brought) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		// Whoever changes a thing locks its place first.
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
			if err := putPlace(tx, sc, b.Place); err != nil {
				return err
			}
			for _, x := range b.Implements {
				if err := putIn(tx, sc, b.Place.PublicID, x.PublicID, implementColumns, func(place int64) Implement { return x.at(sc, place) }); err != nil {
					return err
				}
			}
			for _, x := range b.Objects {
				if err := putIn(tx, sc, b.Place.PublicID, x.PublicID, objectColumns, func(place int64) Object { return x.at(sc, place) }); err != nil {
					return err
				}
			}
			for _, x := range b.Containers {
				if err := putIn(tx, sc, b.Place.PublicID, x.PublicID, containerColumns, func(place int64) Container { return x.at(sc, place) }); err != nil {
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

// putPlace makes a place or changes it.
func putPlace(tx *gorm.DB, sc Scope, next Place) error {
	old, err := lock[Place](tx, sc, next.PublicID)
	switch {
	case errors.Is(err, ErrNotFound):
		if err := room[Place](tx, sc, "", 0, MaxPlaces); err != nil {
			return err
		}
		next.StudioID = sc.StudioID
		return tx.Create(&next).Error
	case err != nil:
		return err
	}
	return tx.Model(&old).Select("Name", "Kind", "MassUnit", "RetiredAt").Updates(next).Error
}

// putIn makes or changes a thing of a place within a transaction.
func putIn[T item](tx *gorm.DB, sc Scope, place, publicID string, columns []string, at func(placeID int64) T) error {
	p, err := lock[Place](tx, sc, place)
	if err != nil {
		return err
	}
	row := at(p.ID)
	old, err := lock[T](tx, sc, publicID)
	if errors.Is(err, ErrNotFound) {
		if err := elsewhere[T](tx, sc, publicID); err != nil {
			return err
		}
		if err := roomFor[T](tx, sc, p.ID); err != nil {
			return err
		}
		return tx.Create(&row).Error
	}
	if err != nil {
		return err
	}
	if placeOf(old) != p.ID {
		return ErrElsewhere
	}
	if putAway(old) {
		if err := roomFor[T](tx, sc, p.ID); err != nil {
			return err
		}
	}
	return found(tx.Model(&old).Where("place_id = ?", p.ID).Select(columns).Updates(row))
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

// roomFor refuses one more thing of a place: of those that are there, and, so that what
// is put away is no list without an end either, of all there ever were.
func roomFor[T item](tx *gorm.DB, sc Scope, place int64) error {
	if err := room[T](tx.Where("retired_at IS NULL"), sc, "place_id", place, MaxItems); err != nil {
		return err
	}
	return room[T](tx, sc, "place_id", place, everItems)
}
