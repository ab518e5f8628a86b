package studio

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/store"
)

// spare is what the core makes of health records.
var spare = store.Spare{Of: spareOf, Carry: carry}

// carry makes a record of what somebody is spared; none where that is nothing.
func carry(spared []byte) ([]store.HealthRecord, error) {
	var h people.HealthRecord
	if err := json.Unmarshal(spared, &h.Carried); err != nil || !h.Carried.Any() {
		return nil, err
	}
	data, err := json.Marshal(h)
	return []store.HealthRecord{{LocalDate: h.Carried.Asked.Time(), Data: data}}, err
}

// spareOf works out what leaves somebody's health.
func spareOf(rows []store.HealthRecord) ([]byte, error) {
	records, err := healthRecords(rows)
	if err != nil {
		return nil, err
	}
	return json.Marshal(people.HealthOf(records).Spared)
}

func healthRecords(rows []store.HealthRecord) ([]people.HealthRecord, error) {
	var err error
	out := make([]people.HealthRecord, 0, len(rows))
	for _, r := range rows {
		var h people.HealthRecord
		err = errors.Join(err, json.Unmarshal(r.Data, &h))
		h.Day = dayOf(r.LocalDate)
		out = append(out, h)
	}
	return out, err
}

// HealthQuestions are the questions as they are asked, in their order.
type HealthQuestions struct {
	Version   int               `json:"version" doc:"of their text: an answer says which one was read"`
	Stops     []people.Question `json:"stops" doc:"a yes keeps somebody out of the class until they are cleared"`
	Others    []people.Question `json:"others" doc:"a yes keeps them at Ground until then"`
	Clearers  []people.Clearer  `json:"clearers"`
	AgainDays int               `json:"againDays" doc:"after how many days they are asked again"`
}

// Questions gives the health questions.
func (s Studio) Questions() HealthQuestions {
	return HealthQuestions{
		Version: people.QuestionsVersion, Stops: people.Stops, Others: people.Questions[len(people.Stops):],
		Clearers: people.Clearers, AgainDays: people.AskedAgainAfter,
	}
}

// HealthInput is an answer to the questions, a clearance, or that something has changed: one of
// them.
type HealthInput struct {
	Date      string          `json:"date" format:"date" doc:"not after today"`
	Answers   *AnswersInput   `json:"answers,omitempty"`
	Clearance *ClearanceInput `json:"clearance,omitempty"`
	Changed   bool            `json:"changed,omitempty" doc:"something has changed: the questions are asked anew"`
}

// AnswersInput are the questions answered with yes; all others are answered with no.
type AnswersInput struct {
	Version int      `json:"version" minimum:"1"`
	Yes     []string `json:"yes" maxItems:"12"`
}

// ClearanceInput says who cleared somebody, and what they are still to be spared.
type ClearanceInput struct {
	By    string   `json:"by" enum:"doctor,physiotherapist,midwife,other-licensed"`
	Keeps []string `json:"keeps,omitempty" nullable:"false" maxItems:"40"`
}

// Health is how somebody stands with the questions, and all that was answered.
type Health struct {
	Out    bool            `json:"out"`
	Ground bool            `json:"ground"`
	Limits []moves.LimitID `json:"limits"`
	ToAsk  bool            `json:"toAsk"`
	Asked  string          `json:"asked,omitempty" doc:"when the questions were answered last"`
	// Cleared is when somebody cleared them, and it stands; By is who.
	Cleared string            `json:"cleared,omitempty" format:"date"`
	By      people.Clearer    `json:"by,omitempty"`
	Yes     []people.Question `json:"yes" doc:"that count now"`
	// Records are all of it, the newest first.
	Records []HealthEntry `json:"records"`
}

// HealthEntry is one record of somebody's health.
type HealthEntry struct {
	ID   string `json:"id"`
	Date string `json:"date" format:"date"`
	people.HealthRecord
}

// Health reads how somebody stands.
func (s Studio) Health(ctx context.Context, person string) (Health, error) {
	rows, err := s.store.Health().Of(ctx, s.scope, person)
	if err != nil {
		return Health{}, err
	}
	all, err := healthRecords(rows)
	if err != nil {
		return Health{}, err
	}
	day, err := s.today(ctx)
	h := people.HealthOf(all)
	out := Health{
		Out: h.Out, Ground: h.Ground, Limits: append([]moves.LimitID{}, h.Limits...), ToAsk: h.Due(day),
		Yes: append([]people.Question{}, h.Yes...), Records: []HealthEntry{},
	}
	if h.Asked > 0 {
		out.Asked = h.Asked.String()
	}
	if c := h.Cleared; c != nil {
		out.Cleared, out.By = dateOf(c.Day), c.By
	}
	for i := len(rows) - 1; i >= 0; i-- {
		out.Records = append(
			out.Records,
			HealthEntry{rows[i].PublicID, rows[i].LocalDate.Format(time.DateOnly), all[i]},
		)
	}
	return out, err
}

// PutHealth keeps what somebody answered or who cleared them, once.
func (s Studio) PutHealth(ctx context.Context, person, id string, in HealthInput, wrong *fault.List) (Health, error) {
	date, err := s.pastDay(ctx, in.Date, wrong)
	if err != nil {
		return Health{}, err
	}
	h := people.HealthRecord{Changed: in.Changed}
	if a := in.Answers; a != nil {
		h.Answers = &people.Answers{Version: a.Version, Yes: []people.Question{}}
		for _, q := range a.Yes {
			h.Answers.Yes = append(h.Answers.Yes, people.Question(q))
		}
	}
	if c := in.Clearance; c != nil {
		h.Clearance = &people.Clearance{By: people.Clearer(c.By), Keeps: []moves.LimitID{}}
		for _, l := range c.Keeps {
			h.Clearance.Keeps = append(h.Clearance.Keeps, moves.LimitID(l))
		}
	}
	for _, f := range h.Check() {
		if wrong.Good(f.Path) {
			wrong.Note(f.Path, f.Message, f.Value)
		}
	}
	if err := wrong.Err(); err != nil {
		return Health{}, err
	}
	row := store.HealthRecord{PublicID: id, LocalDate: date}
	if row.Data, err = json.Marshal(h); err != nil {
		return Health{}, err
	}
	if err := s.store.Health().Put(ctx, s.scope, person, row, spare); err != nil {
		return Health{}, err
	}
	return s.Health(ctx, person)
}

// RemoveHealth takes a record back.
func (s Studio) RemoveHealth(ctx context.Context, person, id string) (Health, error) {
	if err := s.store.Health().Remove(ctx, s.scope, person, id, spare); err != nil {
		return Health{}, err
	}
	return s.Health(ctx, person)
}

// pastDay reads a day that is not after today.
func (s Studio) pastDay(ctx context.Context, text string, wrong *fault.List) (time.Time, error) {
	date, err := names.Day(text)
	if err != nil {
		if wrong.Good("date") {
			wrong.Note("date", err.Error(), text)
		}
		return date, nil
	}
	day, err := s.today(ctx)
	if err == nil && dayOf(date) > day {
		wrong.Note("date", "not after today", text)
	}
	return date, err
}
