package store

import (
	"cmp"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"errors"
	"fmt"
	"maps"
	"slices"
	"time"

	"github.com/pressly/goose/v3"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
)

// peopleMigration is the number of the migration that makes people of the names that
// participants had. It is no statement: who a name is, the core says.
const peopleMigration = 41

// goMigrations are those that are no files.
func (s *Store) goMigrations() []*goose.Migration {
	return []*goose.Migration{goose.NewGoMigration(peopleMigration,
		&goose.GoFunc{RunDB: func(ctx context.Context, db *sql.DB) error { return s.makePeople(ctx, db) }},
		&goose.GoFunc{RunDB: func(ctx context.Context, db *sql.DB) error {
			_, err := db.ExecContext(
				ctx,
				"/* every studio at once */ UPDATE participant p JOIN person q ON q.studio_id = p.studio_id AND q.id = p.person_id SET p.name = q.name",
			)
			return err
		}})}
}

// makePeople makes people of names, a studio at a time, each in a transaction of its own.
// What was done is not done again: participants who have their person keep it.
func (s *Store) makePeople(ctx context.Context, db *sql.DB) error {
	var studios []int64
	rows, err := db.QueryContext(ctx, "/* every studio */ SELECT id FROM studio ORDER BY id")
	if err != nil {
		return err
	}
	defer func() { _ = rows.Close() }()
	for rows.Next() {
		var id int64
		if err := rows.Scan(&id); err != nil {
			return err
		}
		studios = append(studios, id)
	}
	if err := errors.Join(rows.Err(), rows.Close()); err != nil {
		return err
	}
	for _, id := range studios {
		tx, err := db.BeginTx(ctx, nil)
		if err != nil {
			return err
		}
		if err := s.makePeopleOf(ctx, tx, id); err != nil {
			return errors.Join(fmt.Errorf("people of studio %d: %w", id, err), tx.Rollback())
		}
		if err := tx.Commit(); err != nil {
			return err
		}
	}
	return nil
}

// named is a participant without a person.
type named struct {
	id, series, class int64
	public, name      string
	lane              moves.Lane
	came              time.Time
}

func (s *Store) makePeopleOf(ctx context.Context, tx *sql.Tx, studio int64) error {
	rows, err := tx.QueryContext(
		ctx,
		`/* a studio at a time */ SELECT p.id, o.series_id, o.id, p.public_id, p.name, p.lane, p.created_at FROM participant p
		JOIN occurrence o ON o.studio_id = p.studio_id AND o.id = p.occurrence_id
		WHERE p.studio_id = ? AND p.person_id IS NULL AND p.name <> ''
		ORDER BY o.series_id, o.local_date, o.local_time, o.id, p.id FOR UPDATE`,
		studio,
	)
	if err != nil {
		return err
	}
	defer func() { _ = rows.Close() }()
	bySeries := map[int64][]named{}
	var series []int64
	for rows.Next() {
		var n named
		if err := rows.Scan(&n.id, &n.series, &n.class, &n.public, &n.name, &n.lane, &n.came); err != nil {
			return err
		}
		if bySeries[n.series] == nil {
			series = append(series, n.series)
		}
		bySeries[n.series] = append(bySeries[n.series], n)
	}
	if err := errors.Join(rows.Err(), rows.Close()); err != nil {
		return err
	}
	for _, id := range series {
		for _, who := range identify(bySeries[id]) {
			if err := makePerson(ctx, tx, studio, id, who); err != nil {
				return err
			}
		}
	}
	return nil
}

// identified are participants who are one person.
type identified struct {
	people.Identity
	publicID     string
	participants []int64
	since        time.Time
}

// identify tells who the participants of a series are, in the order of their classes.
func identify(all []named) []identified {
	var in []people.Appearance
	class := map[int64]int{}
	for _, n := range all {
		if _, seen := class[n.class]; !seen {
			class[n.class] = len(class)
		}
		in = append(in, people.Appearance{Class: class[n.class], Lane: n.lane, Name: n.name})
	}
	var out []identified
	for _, id := range people.Identify(in) {
		x := identified{
			Identity: id,
			publicID: personOf(all[id.Appearances[0]].public),
			since:    all[id.Appearances[0]].came,
		}
		for _, i := range id.Appearances {
			x.participants = append(x.participants, all[i].id)
		}
		out = append(out, x)
	}
	return out
}

// personOf is the id of the person that is made for a participant: the same again for the
// same.
func personOf(participant string) string {
	sum := sha256.Sum256([]byte("person/" + participant))
	return hex.EncodeToString(sum[:13])
}

func makePerson(ctx context.Context, tx *sql.Tx, studio, series int64, who identified) error {
	r, err := tx.ExecContext(
		ctx,
		"/* a studio at a time */ INSERT INTO person (studio_id, public_id, name, same_name, created_at) VALUES (?, ?, ?, ?, ?) ON DUPLICATE KEY UPDATE id = LAST_INSERT_ID(id)",
		studio,
		who.publicID,
		who.Name,
		who.SameName,
		who.since,
	)
	if err != nil {
		return err
	}
	person, err := r.LastInsertId()
	if err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx,
		"/* a studio at a time */ INSERT IGNORE INTO series_member (studio_id, series_id, person_id, created_at) VALUES (?, ?, ?, ?)",
		studio, series, person, who.since); err != nil {
		return err
	}
	for _, p := range who.participants {
		if _, err := tx.ExecContext(ctx, "/* a studio at a time */ UPDATE participant SET person_id = ? WHERE studio_id = ? AND id = ?",
			person, studio, p); err != nil {
			return err
		}
	}
	return nil
}

// MaxPeople bounds the people of a studio.
const MaxPeople = 20_000

// Known is a person with where they were.
type Known struct {
	Person
	Classes  int
	Lane     string // of the last class
	LastDate *time.Time
	Series   string // of the last class
}

// newestClass asks for something of the newest class that a person was in. Not grouped: a
// database that has no room left for a table of its own reads it still.
const newestClass = ` FROM participant p JOIN occurrence o ON o.studio_id = p.studio_id AND o.id = p.occurrence_id
	JOIN series s ON s.studio_id = o.studio_id AND s.id = o.series_id WHERE p.studio_id = q.studio_id AND p.person_id = q.id
	ORDER BY o.local_date DESC, o.local_time DESC, o.id DESC LIMIT 1)`

// personQuery reads people with their newest class.
const personQuery = `SELECT q.*, (SELECT COUNT(*) FROM participant p WHERE p.studio_id = q.studio_id AND p.person_id = q.id) AS classes,
	(SELECT o.local_date` + newestClass + ` AS last_date, (SELECT p.lane` + newestClass + ` AS lane, (SELECT s.name` + newestClass + ` AS series
	FROM person q WHERE q.studio_id = ? AND `

// People lists the people of a studio by name, or those of one name where it is said.
func (s *Store) People(ctx context.Context, sc Scope, name string) ([]Known, error) {
	where, args := "q.name >= ?", []any{sc.StudioID, name}
	if name != "" {
		where = "q.name = ?"
	}
	var out []Known
	err := s.db.WithContext(ctx).
		Raw(personQuery+where+" ORDER BY q.name, q.id LIMIT 1000", args...).
		Scan(&out).
		Error
	return out, err
}

// Person finds one by their id.
func (s *Store) Person(ctx context.Context, sc Scope, publicID string) (Known, error) {
	var out []Known
	err := s.db.WithContext(ctx).
		Raw(personQuery+"q.public_id = ?", sc.StudioID, publicID).
		Scan(&out).
		Error
	if err != nil {
		return Known{}, err
	}
	if len(out) == 0 {
		return Known{}, ErrNotFound
	}
	return out[0], nil
}

// AttendedRow is a class that a person was in.
type AttendedRow struct {
	PublicID   string // of the participant
	Lane       string
	Occurrence string
	ClassName  string
	LocalDate  time.Time
}

// Attended lists the classes that a person was in, the newest first, at most 500.
func (s *Store) Attended(ctx context.Context, sc Scope, publicID string) ([]AttendedRow, error) {
	var out []AttendedRow
	err := s.db.WithContext(ctx).
		Raw(`SELECT p.public_id, p.lane, o.public_id AS occurrence, o.name AS class_name, o.local_date
		FROM person q JOIN participant p ON p.studio_id = q.studio_id AND p.person_id = q.id
		JOIN occurrence o ON o.studio_id = p.studio_id AND o.id = p.occurrence_id
		WHERE q.studio_id = ? AND q.public_id = ? ORDER BY o.local_date DESC, o.local_time DESC, p.id DESC LIMIT 500`, sc.StudioID, publicID).
		Scan(&out).
		Error
	return out, err
}

// NamePerson gives a person a name, and says that they are no other of that name.
func (s *Store) NamePerson(ctx context.Context, sc Scope, publicID, name string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		p, err := lock[Person](tx, sc, publicID)
		if err != nil {
			return err
		}
		if err := tx.Model(&p).Select("Name", "SameName").Updates(Person{Name: name}).Error; err != nil {
			return err
		}
		return raiseSeriesOf(tx, sc, p.ID)
	})
}

// raiseSeriesOf changes the stamps of all series that a person is in.
func raiseSeriesOf(tx *gorm.DB, sc Scope, person int64) error {
	return tx.Exec(`UPDATE series s JOIN series_member m ON m.studio_id = s.studio_id AND m.series_id = s.id
		SET s.stamp = ? WHERE m.studio_id = ? AND m.person_id = ?`, newStamp(), sc.StudioID, person).Error
}

// ErrTogether means that two people were in one class, so that they cannot be one.
var ErrTogether = errors.New("they were in one class together")

// JoinPeople makes two people one: what the other did is the first's.
func (s *Store) JoinPeople(ctx context.Context, sc Scope, publicID, otherID string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		// Locked in one order, whoever is joined to whom.
		first, second := min(publicID, otherID), max(publicID, otherID)
		a, err := lock[Person](tx, sc, first)
		if err != nil {
			return err
		}
		b, err := lock[Person](tx, sc, second)
		if err != nil {
			return err
		}
		stays, goes := a, b
		if a.PublicID != publicID {
			stays, goes = b, a
		}
		if stays.ID == goes.ID {
			return ErrConflict
		}
		var both int64
		err = tx.Raw(`SELECT COUNT(*) FROM participant p JOIN participant q ON q.studio_id = p.studio_id AND q.occurrence_id = p.occurrence_id
			WHERE p.studio_id = ? AND p.person_id = ? AND q.person_id = ?`, sc.StudioID, stays.ID, goes.ID).
			Scan(&both).
			Error
		if err != nil {
			return err
		}
		if both > 0 {
			return ErrTogether
		}
		if err := errors.Join(raiseSeriesOf(tx, sc, stays.ID), raiseSeriesOf(tx, sc, goes.ID)); err != nil {
			return err
		}
		for _, q := range []string{
			"UPDATE participant SET person_id = @stays WHERE studio_id = @studio AND person_id = @goes",
			"INSERT IGNORE INTO series_member (studio_id, series_id, person_id, created_at) SELECT studio_id, series_id, @stays, created_at FROM series_member WHERE studio_id = @studio AND person_id = @goes",
			"DELETE FROM series_member WHERE studio_id = @studio AND person_id = @goes",
			"DELETE FROM person WHERE studio_id = @studio AND id = @goes",
		} {
			err := tx.Exec(q, map[string]any{"studio": sc.StudioID, "stays": stays.ID, "goes": goes.ID}).Error
			if err != nil {
				return err
			}
		}
		return settleName(tx, sc, stays)
	})
}

// settleName takes the mark off a person who is the only one of the name.
func settleName(tx *gorm.DB, sc Scope, p Person) error {
	var n int64
	err := tx.Model(&Person{}).Where("studio_id = ? AND name = ?", sc.StudioID, p.Name).Count(&n).Error
	if err != nil || n > 1 {
		return err
	}
	return tx.Model(&p).Select("SameName").Updates(Person{}).Error
}

// PartPerson makes somebody else, by an id, of a person in some classes, by the ids of the
// participants there.
func (s *Store) PartPerson(ctx context.Context, sc Scope, publicID, newID string, participants []string) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		p, err := lock[Person](tx, sc, publicID)
		if err != nil {
			return err
		}
		if err := checkCapacity[Person](tx, sc, "", 0, MaxPeople); err != nil {
			return err
		}
		other := Person{Row: Row{StudioID: sc.StudioID}, PublicID: newID, Name: p.Name, CreatedAt: s.now().UTC()}
		if err := tx.Create(&other).Error; err != nil {
			return err
		}
		r := tx.Model(&Participant{}).
			Where("studio_id = ? AND person_id = ? AND public_id IN ?", sc.StudioID, p.ID, participants).
			Update("person_id", other.ID)
		if r.Error != nil {
			return r.Error
		}
		if r.RowsAffected != int64(len(participants)) {
			return ErrNotFound
		}
		err = tx.Exec(`INSERT IGNORE INTO series_member (studio_id, series_id, person_id, created_at)
			SELECT p.studio_id, o.series_id, p.person_id, ? FROM participant p JOIN occurrence o ON o.studio_id = p.studio_id AND o.id = p.occurrence_id
			WHERE p.studio_id = ? AND p.person_id = ?`, s.now().UTC(), sc.StudioID, other.ID).Error
		return errors.Join(err, raiseSeriesOf(tx, sc, p.ID), raiseSeriesOf(tx, sc, other.ID))
	})
}

// bearer is somebody of a series who bears a name.
type bearer struct {
	Person
	Lane string
	Here bool
}

// recognized gives the person of a name that is put into a lane of a class, made where
// nobody of the series is it.
func (s *Store) recognized(tx *gorm.DB, sc Scope, o Occurrence, participant, name, lane string) (int64, error) {
	var all []bearer
	err := tx.Raw(`SELECT q.*, (SELECT p.lane`+newestClass+` AS lane, EXISTS (SELECT 1 FROM participant p
		WHERE p.studio_id = q.studio_id AND p.person_id = q.id AND p.occurrence_id = @class AND p.public_id <> @self) AS here
		FROM series_member m JOIN person q ON q.studio_id = m.studio_id AND q.id = m.person_id
		WHERE m.studio_id = @studio AND m.series_id = @series AND q.name = @name ORDER BY q.id`,
		map[string]any{"studio": sc.StudioID, "series": o.SeriesID, "class": o.ID, "self": participant, "name": name}).
		Scan(&all).
		Error
	if err != nil {
		return 0, err
	}
	bearers := make([]people.Bearer, 0, len(all))
	for _, b := range all {
		bearers = append(bearers, people.Bearer{Person: b.PublicID, Lane: moves.Lane(b.Lane), Here: b.Here})
	}
	who, sameName := people.Recognize(bearers, moves.Lane(lane))
	for _, b := range all {
		if sameName && !b.SameName {
			if err := tx.Model(&Person{}).Where("studio_id = ? AND id = ?", sc.StudioID, b.ID).Update("same_name", true).Error; err != nil {
				return 0, err
			}
		}
		if b.PublicID == who {
			return b.ID, nil
		}
	}
	if err := checkCapacity[Person](tx, sc, "", 0, MaxPeople); err != nil {
		return 0, err
	}
	p := Person{
		Row: Row{StudioID: sc.StudioID}, PublicID: personOf(participant), Name: name, SameName: sameName,
		CreatedAt: s.now().UTC(),
	}
	// A participant who was somebody else before: the id of that person is taken.
	var taken int64
	if err := tx.Model(&Person{}).Where("studio_id = ? AND public_id = ?", sc.StudioID, p.PublicID).Count(&taken).Error; err != nil {
		return 0, err
	}
	if taken > 0 {
		p.PublicID = drawID()
	}
	err = s.addMember(tx, sc, o.SeriesID, &p)
	return p.ID, err
}

// addMember makes a person who is in a series.
func (s *Store) addMember(tx *gorm.DB, sc Scope, series int64, p *Person) error {
	if err := tx.Create(p).Error; err != nil {
		return err
	}
	m := SeriesMember{Row: Row{StudioID: sc.StudioID}, SeriesID: series, PersonID: p.ID, CreatedAt: s.now().UTC()}
	return tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&m).Error
}

// drawID draws an id of 26 characters.
func drawID() string {
	var b [13]byte
	_, _ = rand.Read(b[:]) // never fails
	return hex.EncodeToString(b[:])
}

// people brings the people of a file and who they are in its classes, and gives the keys of
// the participants. Where a file says no more than a name, the name says who it is.
func (i *importer) people(s *Store, e Everything) (map[string]keyed, error) {
	now := s.now().UTC()
	persons := make([]Person, 0, len(e.People))
	for _, p := range e.People {
		p.Row, p.CreatedAt = i.row(), now
		persons = append(persons, p)
	}
	named, err := i.namedPeople(e, now)
	if err != nil {
		return nil, err
	}
	keys, _, err := insertMissing(
		i,
		"0",
		append(persons, named...),
		func(p Person) string { return p.PublicID },
		&i.done.Persons,
	)
	if err != nil {
		return nil, err
	}
	var rows []Participant
	for _, k := range e.Classes {
		for _, p := range k.People {
			p.Row, p.OccurrenceID = i.row(), k.ID
			if q, ok := keys[p.PersonPublicID]; ok {
				p.PersonID = &q.ID
			}
			rows = append(rows, p.Participant)
		}
	}
	who, _, err := insertMissing(
		i,
		"occurrence_id",
		rows,
		func(r Participant) string { return r.PublicID },
		&i.done.People,
	)
	if err != nil {
		return nil, err
	}
	for _, p := range rows { // an id is one person's in one class
		if who[p.PublicID].Parent != p.OccurrenceID {
			return nil, fmt.Errorf("person %s: %w", p.PublicID, ErrConflict)
		}
	}
	return who, i.tx.Exec(`INSERT IGNORE INTO series_member (studio_id, series_id, person_id, created_at)
		SELECT DISTINCT p.studio_id, o.series_id, p.person_id, ? FROM participant p JOIN occurrence o ON o.studio_id = p.studio_id AND o.id = p.occurrence_id
		WHERE p.studio_id = ? AND p.person_id IS NOT NULL`, now, i.sc.StudioID).Error
}

// namedPeople makes people of those participants of a file of whom it says the name only,
// series by series, and notes with each who they are. Somebody of the series who is the
// only one of the name, and in none of the classes, is it.
func (i *importer) namedPeople(e Everything, now time.Time) ([]Person, error) {
	bySeries := map[int64][]named{}
	at := map[int64]*Attendee{}
	for _, c := range slices.SortedFunc(slices.Values(indexes(e.Classes)), func(a, b int) int {
		x, y := e.Classes[a], e.Classes[b]
		return cmp.Or(x.LocalDate.Compare(y.LocalDate), cmp.Compare(x.LocalTime, y.LocalTime), cmp.Compare(a, b))
	}) {
		k := &e.Classes[c]
		for n := range k.People {
			p := &k.People[n]
			if p.PersonPublicID == "" && p.Name != "" {
				id := int64(len(at))
				at[id] = p
				bySeries[k.SeriesID] = append(
					bySeries[k.SeriesID],
					named{
						id:     id,
						series: k.SeriesID,
						class:  k.ID,
						public: p.PublicID,
						name:   p.Name,
						lane:   moves.Lane(p.Lane),
					},
				)
			}
		}
	}
	var out []Person
	for _, series := range slices.Sorted(maps.Keys(bySeries)) {
		known, err := i.members(series)
		if err != nil {
			return nil, err
		}
		for _, who := range identify(bySeries[series]) {
			id := who.publicID
			if k := known[who.Name]; len(k) == 1 && !who.SameName {
				id = k[0]
			}
			out = append(
				out,
				Person{Row: i.row(), PublicID: id, Name: who.Name, SameName: who.SameName, CreatedAt: now},
			)
			for _, p := range who.participants {
				at[p].PersonPublicID = id
			}
		}
	}
	return out, nil
}

func indexes[T any](of []T) []int {
	out := make([]int, len(of))
	for i := range of {
		out[i] = i
	}
	return out
}

// members gives the people of a series by name.
func (i *importer) members(series int64) (map[string][]string, error) {
	var rows []Person
	err := i.tx.Raw(`SELECT q.* FROM series_member m JOIN person q ON q.studio_id = m.studio_id AND q.id = m.person_id
		WHERE m.studio_id = ? AND m.series_id = ? ORDER BY q.id LIMIT ?`, i.sc.StudioID, series, MaxPeople).
		Scan(&rows).
		Error
	out := map[string][]string{}
	for _, r := range rows {
		out[r.Name] = append(out[r.Name], r.PublicID)
	}
	return out, err
}
