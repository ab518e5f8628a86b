-- +goose Up
/* every studio at once */ INSERT IGNORE INTO pain_report (studio_id, line_id, pain, joint, others, created_at) SELECT studio_id, id, pain, joint, others, updated_at FROM log_line WHERE pain <> 'none';

-- +goose Down
/* every studio at once */ UPDATE log_line l JOIN pain_report r ON r.studio_id = l.studio_id AND r.line_id = l.id SET l.pain = r.pain, l.joint = r.joint, l.others = r.others;
