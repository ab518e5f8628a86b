package store

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"nimbleanvil/internal/core/kit"
	"nimbleanvil/internal/core/measure"
)

// OnlyStudio gives the key of the only studio.
func (s *Store) OnlyStudio(ctx context.Context) (int64, error) {
	var id int64
	err := s.db.WithContext(ctx).Model(&Studio{}).Select("id").Order("id").Take(&id).Error
	return id, translate(err)
}

// EnsureStudio gives the scope of the only studio, making it when there is none.
func (s *Store) EnsureStudio(ctx context.Context, fresh Studio) (Scope, error) {
	var got Studio
	err := s.write(ctx, func(tx *gorm.DB) error {
		err := tx.Order("id").First(&got).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			got = fresh
			got.Language = cmp.Or(got.Language, defaultLanguage)
			if got.Style == nil {
				got.Style = []byte("{}")
			}
			return tx.Create(&got).Error
		}
		return err
	})
	return Scope{got.ID}, err
}

// Studio gives the scope's studio.
func (s *Store) Studio(ctx context.Context, sc Scope) (Studio, error) {
	var got Studio
	err := s.db.WithContext(ctx).First(&got, sc.StudioID).Error
	return got, translate(err)
}

// PutStudio changes name, time zone, unit and language of the scope's studio: with the
// language the library speaks otherwise.
func (s *Store) PutStudio(ctx context.Context, sc Scope, next Studio) error {
	return s.teach(ctx, sc, func(tx *gorm.DB, st *Studio) error {
		st.Language = cmp.Or(next.Language, defaultLanguage)
		next.Language = st.Language
		return tx.Model(&Studio{}).
			Where("id = ?", sc.StudioID).
			Select("Name", "TimeZone", "MassUnit", "Language").
			Updates(next).
			Error
	})
}

func found(r *gorm.DB) error {
	if r.Error == nil && r.RowsAffected == 0 {
		return ErrNotFound
	}
	return r.Error
}

// get finds a row by its public id within the scope.
func get[T any](tx *gorm.DB, sc Scope, publicID string) (T, error) {
	var row T
	err := tx.Where("studio_id = ? AND public_id = ?", sc.StudioID, publicID).Take(&row).Error
	return row, translate(err)
}

// list reads rows of a parent, oldest first, at most limit.
func list[T any](tx *gorm.DB, sc Scope, column string, parent int64, limit int) ([]T, error) {
	var rows []T
	err := tx.Where("studio_id = ? AND "+column+" = ?", sc.StudioID, parent).Order("id").Limit(limit).Find(&rows).Error
	return rows, err
}

// checkCapacity refuses one more row of a parent when the list is full.
func checkCapacity[T any](tx *gorm.DB, sc Scope, column string, parent int64, limit int64) error {
	var n int64
	q := tx.Model(new(T)).Where("studio_id = ?", sc.StudioID)
	if column != "" {
		q = q.Where(column+" = ?", parent)
	}
	if err := q.Count(&n).Error; err != nil {
		return err
	}
	if n >= limit {
		return ErrFull
	}
	return nil
}

var forUpdate = clause.Locking{Strength: "UPDATE"}

// lock reads a row for change, so that two writers of the same parent take
// turns.
func lock[T any](tx *gorm.DB, sc Scope, publicID string) (T, error) {
	return get[T](tx.Clauses(forUpdate), sc, publicID)
}

// Places lists the places that are not retired.
func (s *Store) Places(ctx context.Context, sc Scope) ([]Place, error) {
	var rows []Place
	err := s.in(ctx, sc).Where("retired_at IS NULL").Order("id").Limit(MaxPlaces).Find(&rows).Error
	return rows, err
}

// Place finds a place, retired or not.
func (s *Store) Place(ctx context.Context, sc Scope, publicID string) (Place, error) {
	return get[Place](s.db.WithContext(ctx), sc, publicID)
}

// PutPlace makes a place or changes it; the same put twice is one.
func (s *Store) PutPlace(ctx context.Context, sc Scope, next Place) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		_, err := putPlace(tx, sc, next)
		return err
	})
}

// Stock is everything a place has that is not retired, and the stamp of the
// library that goes with it.
type Stock struct {
	LibraryStamp string
	Implements   []Implement
	Objects      []Object
	Containers   []Container
}

// Core gives the stock as the core computes with it.
func (st Stock) Core() kit.Stock {
	var out kit.Stock
	for _, i := range st.Implements {
		x := kit.Implement{ID: i.PublicID, Kind: i.Kind, Count: i.Count, Checked: i.Checked}
		if i.MassG != nil {
			x.Mass = measure.Mass(*i.MassG)
		}
		if i.HeightMm != nil {
			x.Height = measure.Length(*i.HeightMm)
		}
		out.Implements = append(out.Implements, i.Details.Known(x))
	}
	for _, o := range st.Objects {
		out.Objects = append(out.Objects,
			o.Details.Known(kit.Object{ID: o.PublicID, Mass: measure.Mass(o.MassG), Count: o.Count, Use: o.UseAs}))
	}
	for _, c := range st.Containers {
		out.Containers = append(out.Containers,
			c.Details.Known(kit.Container{ID: c.PublicID, Mass: measure.Mass(c.MassG), Max: measure.Mass(c.MaxG)}))
	}
	return out.Memoized()
}

// Stock reads what a place has.
func (s *Store) Stock(ctx context.Context, sc Scope, placeID int64) (Stock, error) {
	all, err := s.Stocks(ctx, sc, []int64{placeID})
	return all[placeID], err
}

// stockRow is a row of any of the three tables of a place's stock.
type stockRow struct {
	Implement
	Sort       string
	UseAs      string
	MaxDecimal string
	MaxUnit    string
	MaxG       int64
	Known      []byte
}

// Nothing is put in order here: for that the database would write a table of its own,
// for which a full disk has no room.
const stockQuery = `SELECT 'implement' AS sort, id, studio_id, place_id, public_id, name, kind, mass_decimal, mass_unit, mass_g,
	height_decimal, height_unit, height_mm, count, checked, created_at, '' AS use_as, '' AS max_decimal, '' AS max_unit, 0 AS max_g, details AS known
	FROM implement WHERE studio_id = @studio AND place_id IN @places AND retired_at IS NULL
UNION ALL SELECT 'object', id, studio_id, place_id, public_id, name, '', mass_decimal, mass_unit, mass_g,
	NULL, NULL, NULL, count, FALSE, created_at, use_as, '', '', 0, details
	FROM object WHERE studio_id = @studio AND place_id IN @places AND retired_at IS NULL
UNION ALL SELECT 'container', id, studio_id, place_id, public_id, name, '', mass_decimal, mass_unit, mass_g,
	NULL, NULL, NULL, 1, FALSE, created_at, '', max_decimal, max_unit, max_g, details
	FROM container WHERE studio_id = @studio AND place_id IN @places AND retired_at IS NULL
UNION ALL SELECT 'studio', id, id, 0, '', library_stamp, '', NULL, NULL, NULL,
	NULL, NULL, NULL, 0, FALSE, created_at, '', '', '', 0, '{}'
	FROM studio WHERE id = @studio
LIMIT @most`

// Stocks reads what some places have in one query, however many they are.
func (s *Store) Stocks(ctx context.Context, sc Scope, places []int64) (map[int64]Stock, error) {
	if len(places) == 0 {
		return map[int64]Stock{}, nil
	}
	return s.stocks(ctx, sc, stockQuery, places, 3*MaxItems*len(places)+1)
}

func (s *Store) stocks(ctx context.Context, sc Scope, query string, places []int64, most int) (map[int64]Stock, error) {
	out := map[int64]Stock{}
	var rows []stockRow
	err := s.db.WithContext(ctx).
		Raw(query, map[string]any{"studio": sc.StudioID, "places": places, "most": most}).
		Scan(&rows).
		Error
	slices.SortFunc(
		rows,
		func(a, b stockRow) int { return cmp.Or(cmp.Compare(a.Sort, b.Sort), cmp.Compare(a.ID, b.ID)) },
	)
	for _, r := range rows {
		st := out[r.PlaceID]
		switch r.Sort {
		case "implement":
			i := r.Implement
			err = errors.Join(err, json.Unmarshal(r.Known, &i.Details))
			st.Implements = append(st.Implements, i)
		case "object":
			o := Object{Row: r.Row, PlaceID: r.PlaceID, PublicID: r.PublicID, Name: r.Name, UseAs: r.UseAs,
				MassDecimal: *r.MassDecimal, MassUnit: *r.MassUnit, MassG: *r.MassG, Count: r.Count, CreatedAt: r.CreatedAt}
			err = errors.Join(err, json.Unmarshal(r.Known, &o.Details))
			st.Objects = append(st.Objects, o)
		case "container":
			c := Container{Row: r.Row, PlaceID: r.PlaceID, PublicID: r.PublicID, Name: r.Name,
				MassDecimal: *r.MassDecimal, MassUnit: *r.MassUnit, MassG: *r.MassG, MaxDecimal: r.MaxDecimal, MaxUnit: r.MaxUnit, MaxG: r.MaxG, CreatedAt: r.CreatedAt}
			err = errors.Join(err, json.Unmarshal(r.Known, &c.Details))
			st.Containers = append(st.Containers, c)
		}
		if r.Sort != "studio" {
			out[r.PlaceID] = st
			continue
		}
		for _, p := range places { // the last row; a place may have nothing
			st := out[p]
			st.LibraryStamp = r.Name
			out[p] = st
		}
	}
	return out, err
}

// item is a row of a place's stock.
type item interface{ Implement | Object | Container }

// The columns of a thing that may be changed.
var (
	implementColumns = []string{
		"Name",
		"Kind",
		"MassDecimal",
		"MassUnit",
		"MassG",
		"HeightDecimal",
		"HeightUnit",
		"HeightMm",
		"Count",
		"Checked",
		"Details",
		"RetiredAt",
	}
	objectColumns    = []string{"Name", "UseAs", "MassDecimal", "MassUnit", "MassG", "Count", "Details", "RetiredAt"}
	containerColumns = []string{
		"Name",
		"MassDecimal",
		"MassUnit",
		"MassG",
		"MaxDecimal",
		"MaxUnit",
		"MaxG",
		"Details",
		"RetiredAt",
	}
)

// Thing is a row of a place's stock: an Implement, Object or Container.
type Thing interface {
	put(tx *gorm.DB, sc Scope, place int64) error
}

func (i Implement) put(tx *gorm.DB, sc Scope, place int64) error {
	return putIn(tx, sc, place, i.PublicID, implementColumns, i.at(sc, place))
}

func (o Object) put(tx *gorm.DB, sc Scope, place int64) error {
	return putIn(tx, sc, place, o.PublicID, objectColumns, o.at(sc, place))
}

func (c Container) put(tx *gorm.DB, sc Scope, place int64) error {
	return putIn(tx, sc, place, c.PublicID, containerColumns, c.at(sc, place))
}

// PutThing makes or changes a thing of a place.
func (s *Store) PutThing(ctx context.Context, sc Scope, place string, next Thing) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		p, err := lock[Place](tx, sc, place)
		if err != nil {
			return err
		}
		if err := next.put(tx, sc, p.ID); err != nil {
			return err
		}
		return raisePlace(tx, sc, p.ID)
	})
}

// RetirePlace puts a place away where no class is from a day on; else it is ErrInUse. Old
// circuits still know it.
func (s *Store) RetirePlace(ctx context.Context, sc Scope, publicID string, from time.Time) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		p, err := lock[Place](tx, sc, publicID)
		if err != nil {
			return err
		}
		var ahead int64
		err = tx.Model(&Occurrence{}).
			Where("studio_id = ? AND place_id = ? AND local_date >= ? AND removed_at IS NULL", sc.StudioID, p.ID, from).
			Count(&ahead).
			Error
		if err != nil {
			return err
		}
		if ahead > 0 {
			return ErrInUse
		}
		return tx.Model(&p).Updates(map[string]any{"retired_at": s.now().UTC(), "stamp": newStamp()}).Error
	})
}

// maxPutAway bounds what is listed of what was put away.
const maxPutAway = 500

// PutAway lists places that were put away, and what was put away of any place.
func (s *Store) PutAway(ctx context.Context, sc Scope) ([]Place, map[int64]Stock, error) {
	var places []Place
	if err := s.in(ctx, sc).Order("id").Limit(10 * MaxPlaces).Find(&places).Error; err != nil || len(places) == 0 {
		return places, nil, err
	}
	ids := make([]int64, 0, len(places))
	for _, p := range places {
		ids = append(ids, p.ID)
	}
	stocks, err := s.stocks(
		ctx,
		sc,
		strings.ReplaceAll(stockQuery, "retired_at IS NULL", "retired_at IS NOT NULL"),
		ids,
		maxPutAway,
	)
	return places, stocks, err
}

// BringBack takes a thing of a place into use again, or the place itself for no thing.
func (s *Store) BringBack(ctx context.Context, sc Scope, place, sort, publicID string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		p, err := lock[Place](tx, sc, place)
		if err != nil {
			return err
		}
		back := map[string]any{"retired_at": nil}
		if sort == "" {
			if err := checkCapacity[Place](tx.Where("retired_at IS NULL"), sc, "", 0, MaxPlaces); err != nil {
				return err
			}
			return tx.Model(&p).Updates(map[string]any{"retired_at": nil, "stamp": newStamp()}).Error
		}
		model := map[string]any{"implement": &Implement{}, "object": &Object{}, "container": &Container{}}[sort]
		if model == nil {
			return ErrNotFound
		}
		var n int64
		err = tx.Model(model).
			Where("studio_id = ? AND place_id = ? AND retired_at IS NULL", sc.StudioID, p.ID).
			Count(&n).
			Error
		if err == nil && n >= MaxItems {
			err = ErrFull
		}
		if err != nil {
			return err
		}
		err = found(
			tx.Model(model).
				Where("studio_id = ? AND public_id = ? AND place_id = ?", sc.StudioID, publicID, p.ID).
				Updates(back),
		)
		return errors.Join(err, tx.Model(&p).Update("stamp", newStamp()).Error)
	})
}

// Retire puts a thing of a place away: an implement, object or container. It stays for
// what names it.
func (s *Store) Retire(ctx context.Context, sc Scope, place, sort, publicID string) error {
	retire := map[string]func(*gorm.DB, Scope, string, string) error{"implement": s.retire(&Implement{}), "object": s.retire(&Object{}), "container": s.retire(&Container{})}[sort]
	if retire == nil {
		return ErrNotFound
	}
	return s.write(ctx, func(tx *gorm.DB) error { return retire(tx, sc, place, publicID) })
}

// retire stamps a row of a model's table as put away.
func (s *Store) retire(model any) func(tx *gorm.DB, sc Scope, place, publicID string) error {
	return func(tx *gorm.DB, sc Scope, place, publicID string) error {
		p, err := lock[Place](tx, sc, place)
		if err != nil {
			return err
		}
		err = found(
			tx.Model(model).
				Where("studio_id = ? AND public_id = ? AND place_id = ?", sc.StudioID, publicID, p.ID).
				Update("retired_at", s.now().UTC()),
		)
		if err != nil {
			return err
		}
		return raisePlace(tx, sc, p.ID)
	}
}
