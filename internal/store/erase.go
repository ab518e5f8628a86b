package store

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"maps"
	"slices"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"nimbleanvil/internal/core/run"
)

// ErasePerson takes somebody out of everything: who they were, what is known of them, their
// health, and their ids, which stand in plans, runs and logs. What they did stays as counts of
// nobody's, without the resistance, from which a body could be reckoned. The hash of their id is
// kept, so that an older backup or file that is brought back does not bring them back.
//
// It gives in how many classes they were.
func (s *Store) ErasePerson(ctx context.Context, sc Scope, publicID string) (classes int, err error) {
	err = s.write(ctx, func(tx *gorm.DB) error {
		classes, err = s.erase(tx, sc, publicID)
		return err
	})
	return classes, err
}

func hashOf(id string) string {
	sum := sha256.Sum256([]byte(id))
	return hex.EncodeToString(sum[:])
}

func (s *Store) erase(tx *gorm.DB, sc Scope, publicID string) (classes int, err error) {
	p, err := lock[Person](tx, sc, publicID)
	if err != nil {
		return 0, err
	}
	if err := raiseSeriesOf(tx, sc, p.ID); err != nil {
		return 0, err
	}
	gone := []string{p.PublicID}
	var merges []PersonMerge
	if err := tx.Where("studio_id = ? AND person_id = ?", sc.StudioID, p.ID).Order("id").Limit(maxMerges).Find(&merges).Error; err != nil {
		return 0, err
	}
	for _, r := range merges { // whom they were made one with is they
		var m moved
		if err := json.Unmarshal(r.Moved, &m); err != nil {
			return 0, err
		}
		gone = append(gone, m.Person.PublicID)
	}
	var here []Participant
	if err := tx.Where("studio_id = ? AND person_id = ?", sc.StudioID, p.ID).Order("id").Limit(MaxClasses).Find(&here).Error; err != nil {
		return 0, err
	}
	for _, x := range here {
		if err := nameless(tx, sc, x); err != nil {
			return 0, err
		}
	}
	for _, table := range []string{"person_record", "health_record", "person_merge", "series_member"} {
		if err := tx.Exec("DELETE FROM "+table+" WHERE studio_id = ? AND person_id = ?", sc.StudioID, p.ID).Error; err != nil {
			return 0, err
		}
	}
	if err := tx.Delete(&p).Error; err != nil {
		return 0, err
	}
	for _, id := range gone {
		row := Erased{Row: Row{StudioID: sc.StudioID}, Hash: hashOf(id), CreatedAt: s.now().UTC()}
		if err := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&row).Error; err != nil {
			return 0, err
		}
	}
	return len(here), nil
}

// nameless makes a participant nobody's: with an id of its own drawing wherever the old one
// stood.
func nameless(tx *gorm.DB, sc Scope, x Participant) error {
	fresh := drawID()
	args := map[string]any{"studio": sc.StudioID, "class": x.OccurrenceID, "old": x.PublicID, "new": fresh, "id": x.ID}
	if err := namelessRuns(tx, sc, x, fresh); err != nil {
		return err
	}
	for _, q := range []string{
		"DELETE r FROM pain_report r JOIN log_line l ON l.studio_id = r.studio_id AND l.id = r.line_id WHERE l.studio_id = @studio AND l.occurrence_id = @class AND l.subject = @old",
		"DELETE r FROM pain_report r JOIN log_line_past l ON l.studio_id = r.studio_id AND l.id = r.past_id WHERE l.studio_id = @studio AND l.occurrence_id = @class AND l.subject = @old",
		"UPDATE log_line SET subject = @new, resistance_g = 0 WHERE studio_id = @studio AND occurrence_id = @class AND subject = @old",
		"UPDATE log_line_past SET subject = @new WHERE studio_id = @studio AND occurrence_id = @class AND subject = @old",
		`UPDATE circuit_version v JOIN circuit c ON c.studio_id = v.studio_id AND c.id = v.circuit_id
			SET v.notes = IF(v.notes LIKE CONCAT('%', @old, '%'), '[]', v.notes), v.document = REPLACE(v.document, @old, @new),
			v.ops = REPLACE(v.ops, @old, @new), v.inverse = REPLACE(v.inverse, @old, @new)
			WHERE c.studio_id = @studio AND c.occurrence_id = @class`,
		`UPDATE run_event e JOIN run r ON r.studio_id = e.studio_id AND r.id = e.run_id SET e.party = @new
			WHERE r.studio_id = @studio AND r.occurrence_id = @class AND e.party = @old`,
		"UPDATE participant SET public_id = @new, person_id = NULL WHERE studio_id = @studio AND id = @id",
	} {
		if err := tx.Exec(q, args).Error; err != nil {
			return err
		}
	}
	return nil
}

// namelessRuns takes a participant out of the plans that runs of their class began with.
func namelessRuns(tx *gorm.DB, sc Scope, x Participant, fresh string) error {
	rows, err := list[Run](tx, sc, "occurrence_id", x.OccurrenceID, MaxRuns)
	if err != nil {
		return err
	}
	for _, r := range rows {
		if !bytes.Contains(r.Plan, []byte(x.PublicID)) {
			continue
		}
		plan, err := run.Nameless(r.Plan, x.PublicID, fresh)
		if err != nil {
			return err
		}
		if err := tx.Model(&r).Update("plan", plan).Error; err != nil {
			return err
		}
	}
	return nil
}

// eraseAgain erases whoever was erased before and is there again.
func (s *Store) eraseAgain(ctx context.Context) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		var back []struct {
			StudioID int64
			PublicID string
		}
		// Every studio at once: what is brought back may be any's.
		err := tx.Raw("/* every studio at once */ SELECT p.studio_id, p.public_id FROM person p JOIN erased e ON e.studio_id = p.studio_id AND e.hash = CONVERT(SHA2(p.public_id, 256) USING ascii) COLLATE ascii_bin").
			Scan(&back).
			Error
		for _, x := range back {
			_, bad := s.erase(tx, Scope{x.StudioID}, x.PublicID)
			err = errors.Join(err, bad)
		}
		return err
	})
}

// erased tells which of some people, by their ids, were erased in a studio.
func erased(tx *gorm.DB, sc Scope, ids []string) (map[string]bool, error) {
	of := map[string]string{}
	for _, id := range ids {
		of[hashOf(id)] = id
	}
	out := map[string]bool{}
	for some := range slices.Chunk(slices.Sorted(maps.Keys(of)), manyRows) {
		var there []string
		err := tx.Model(&Erased{}).
			Where("studio_id = ? AND hash IN ?", sc.StudioID, some).
			Limit(manyRows).
			Pluck("hash", &there).
			Error
		if err != nil {
			return nil, err
		}
		for _, h := range there {
			out[of[h]] = true
		}
	}
	return out, nil
}

// ErasedOf tells which of some people, by their ids, were erased in a studio.
func (s *Store) ErasedOf(ctx context.Context, sc Scope, ids []string) (map[string]bool, error) {
	return erased(s.db.WithContext(ctx), sc, ids)
}

// forget takes those out of a file who were erased here: in classes that come with it they are
// nobody, as erasing would have made them, and in classes that are here they are not there twice.
func (i *importer) forget(e *Everything) error {
	for n := range e.Erased {
		e.Erased[n].Row = i.row()
	}
	if len(e.Erased) > 0 {
		known := i.tx.Clauses(clause.OnConflict{DoNothing: true})
		if err := known.CreateInBatches(&e.Erased, manyRows).Error; err != nil {
			return err
		}
	}
	ids := make([]string, 0, len(e.People))
	for _, p := range e.People {
		ids = append(ids, p.PublicID)
	}
	gone, err := erased(i.tx, i.sc, ids)
	if err != nil || len(gone) == 0 {
		return err
	}
	e.People = slices.DeleteFunc(e.People, func(p PersonRows) bool { return gone[p.PublicID] })
	var classes []string
	for _, k := range e.Classes {
		classes = append(classes, k.PublicID)
	}
	there, err := i.found(&Occurrence{}, "0", classes)
	if err != nil {
		return err
	}
	for n := range e.Classes {
		k := &e.Classes[n]
		fresh := map[string]string{}
		for m := range k.People {
			if p := &k.People[m]; gone[p.PersonPublicID] {
				fresh[p.PublicID] = drawID()
				p.PublicID, p.PersonPublicID = fresh[p.PublicID], ""
			}
		}
		_, here := there[k.PublicID]
		for old, id := range fresh {
			if err := k.nameless(old, id); err != nil {
				return err
			}
			if here {
				k.People = slices.DeleteFunc(k.People, func(p Attendee) bool { return p.PublicID == id })
				k.Lines = slices.DeleteFunc(k.Lines, func(l LogLine) bool { return l.Subject == id })
				k.Past = slices.DeleteFunc(k.Past, func(l LogLinePast) bool { return l.Subject == id })
			}
		}
	}
	return nil
}

// nameless puts another id in the place of a participant's, as erasing does.
func (k *ClassRows) nameless(old, fresh string) error {
	put := func(b []byte) []byte { return bytes.ReplaceAll(b, []byte(old), []byte(fresh)) }
	for n := range k.Versions {
		v := &k.Versions[n]
		v.Document, v.Ops, v.Inverse = put(v.Document), put(v.Ops), put(v.Inverse)
		if bytes.Contains(v.Notes, []byte(old)) {
			v.Notes = []byte("[]")
		}
	}
	for n := range k.Runs {
		r := &k.Runs[n]
		if bytes.Contains(r.Plan, []byte(old)) {
			var err error
			if r.Plan, err = run.Nameless(r.Plan, old, fresh); err != nil {
				return err
			}
		}
		for m := range r.Events {
			if r.Events[m].Party == old {
				r.Events[m].Party = fresh
			}
		}
	}
	for n := range k.Lines {
		if l := &k.Lines[n]; l.Subject == old {
			l.Subject, l.ResistanceG, l.Felt = fresh, 0, Felt{}
		}
	}
	for n := range k.Past {
		if l := &k.Past[n]; l.Subject == old {
			l.Subject, l.Felt = fresh, Felt{}
		}
	}
	return nil
}
