package studio

import (
	"context"
	"encoding/json"
	"fmt"

	"nimbleanvil/internal/core/fault"
	"nimbleanvil/internal/core/moves"
	"nimbleanvil/internal/core/people"
	"nimbleanvil/internal/names"
	"nimbleanvil/internal/store"
)

// Regular is somebody who comes to a group's classes.
type Regular struct {
	PersonID string `json:"personId"`
	Name     string `json:"name"`
	Lane     string `json:"lane" enum:"ground,middle,reach" doc:"of their last class, Ground before that; held at Ground, that"`
	Out      bool   `json:"out,omitempty" doc:"not in the class until cleared"`
	Ground   bool   `json:"ground,omitempty" doc:"at Ground until cleared"`
	// ParticipantID is who they are in the class, where they are in it.
	ParticipantID string `json:"participantId,omitempty"`
}

// AttendanceInput says who is in a class, and who is not after all.
type AttendanceInput struct {
	Here []AttendeeInput `json:"here" maxItems:"500"`
	Gone []PublicID      `json:"gone,omitempty" nullable:"false" maxItems:"500" doc:"participants who are taken out"`
}

// AttendeeInput is somebody in a class, by an id as a participant that is made anew.
type AttendeeInput struct {
	ID       string     `json:"id" pattern:"^[0-9a-z]{26}$"`
	PersonID string     `json:"personId,omitempty" pattern:"^([0-9a-z]{26})?$" doc:"who it is"`
	Name     names.Name `json:"name,omitempty" doc:"of a drop-in, where it is known"`
	Lane     string     `json:"lane" enum:"ground,middle,reach"`
}

// Regulars lists those of a class's group.
func (s Studio) Regulars(ctx context.Context, occurrence string) ([]Regular, error) {
	c, err := s.store.Class(ctx, s.scope, occurrence)
	if err != nil {
		return nil, err
	}
	rows, err := s.store.Regulars(ctx, s.scope, c.Occurrence)
	out := []Regular{}
	for _, r := range rows {
		x := Regular{PersonID: r.PublicID, Name: r.Name, Lane: r.Lane, ParticipantID: r.Participant}
		var spared people.Spared
		if err := json.Unmarshal(r.Spared, &spared); err != nil {
			return out, err
		}
		x.Out, x.Ground = spared.Out, spared.Ground
		if x.Lane == "" || x.Ground {
			x.Lane = string(moves.Ground)
		}
		out = append(out, x)
	}
	return out, err
}

// PutAttendance says who is in a class, all or none.
func (s Studio) PutAttendance(
	ctx context.Context,
	occurrence string,
	in AttendanceInput,
	wrong *fault.List,
) (Occurrence, error) {
	rows := make([]store.Attendee, 0, len(in.Here))
	for i, x := range in.Here {
		row, err := s.attendee(
			ctx,
			x.ID,
			ParticipantInput{x.Name, x.PersonID, x.Lane},
			fmt.Sprintf("here[%d].", i),
			wrong,
		)
		if err != nil {
			return Occurrence{}, err
		}
		rows = append(rows, row)
	}
	if err := wrong.Err(); err != nil {
		return Occurrence{}, err
	}
	if err := s.store.PutAttendance(ctx, s.scope, occurrence, rows, plainIDs(in.Gone)); err != nil {
		return Occurrence{}, err
	}
	c, err := s.store.Class(ctx, s.scope, occurrence)
	return occurrenceOf(c), err
}

// attendee reads who somebody in a class is: nobody who is not cleared, and at Ground who is
// held there.
func (s Studio) attendee(
	ctx context.Context, id string, in ParticipantInput, at string, wrong *fault.List,
) (store.Attendee, error) {
	row := store.Attendee{
		Participant: store.Participant{PublicID: id, Lane: in.Lane}, Name: string(in.Name), PersonPublicID: in.PersonID,
	}
	if in.PersonID == "" {
		return row, nil
	}
	k, err := s.store.Person(ctx, s.scope, in.PersonID)
	if err != nil {
		return row, err
	}
	facts, err := knownFacts(k)
	if facts.Spared.Out {
		wrong.Note(at+"personId", k.Name+" is not in the class until cleared: see their health questions", in.PersonID)
	}
	if facts.Spared.Ground {
		row.Lane = string(moves.Ground)
	}
	return row, err
}
