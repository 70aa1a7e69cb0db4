package sqlite

import (
	"context"
	"database/sql"
	"encoding/json"
	"time"

	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/plan"
)

const stepColumns = "id, submission, kind, key, name, needs, state, attempts, due, reason, result, updated"

func scanStep(r *sql.Rows) (register.Step, error) {
	var s register.Step
	var needs string
	var due, updated int64
	if err := r.Scan(&s.ID, &s.SubmissionID, &s.Kind, &s.Key, &s.Name, &needs, &s.State, &s.Attempts, &due, &s.Reason, &s.Result, &updated); err != nil {
		return s, err
	}
	s.Due, s.Updated = moment(due), moment(updated)
	return s, json.Unmarshal([]byte(needs), &s.Needs)
}

// Steps lists a submission's steps in the order of its plan.
func (d *DB) Steps(ctx context.Context, submission int64) ([]register.Step, error) {
	r, err := d.read.QueryContext(ctx, "SELECT "+stepColumns+" FROM step WHERE submission = ? ORDER BY id", submission)
	return rows(r, err, scanStep)
}

// Claim leases steps that are due, also those whose lease ran out.
func (d *DB) Claim(ctx context.Context, kind plan.Kind, most int, now time.Time, lease time.Duration) ([]work.Job, error) {
	const due = " FROM step WHERE kind = ?1 AND state IN ('ready', 'working') AND due <= ?2"
	var one int
	if err := d.read.QueryRowContext(ctx, "SELECT 1"+due+" LIMIT 1", kind, micros(now)).Scan(&one); err != nil {
		return nil, ignoreNone(err)
	}
	var steps []register.Step
	err := d.do(ctx, func(tx txn) error {
		r, err := tx.Query("UPDATE step SET state = 'working', attempts = attempts + 1, due = ?3, updated = ?2 WHERE id IN (SELECT id"+due+" ORDER BY due LIMIT ?4) RETURNING "+stepColumns,
			kind, micros(now), micros(now.Add(lease)), most)
		steps, err = rows(r, err, scanStep)
		return err
	})
	if err != nil || len(steps) == 0 {
		return nil, err
	}
	h, err := d.House(ctx)
	if err != nil {
		return nil, err
	}
	jobs := make([]work.Job, 0, len(steps))
	for _, s := range steps {
		sub, x, err := d.Submission(ctx, s.SubmissionID)
		if err != nil {
			return nil, err
		}
		jobs = append(jobs, work.Job{Step: s, Submission: sub, Design: x, House: h})
	}
	return jobs, nil
}

func ignoreNone(err error) error {
	if err == sql.ErrNoRows {
		return nil
	}
	return err
}

// end ends a lease, unless somebody else has taken it over.
func end(tx txn, s register.Step, set string, args ...any) (bool, error) {
	done, err := tx.Exec("UPDATE step SET "+set+" WHERE id = ? AND state = 'working' AND attempts = ?", append(args, s.ID, s.Attempts)...)
	if err != nil {
		return false, err
	}
	n, err := done.RowsAffected()
	return n == 1, err
}

// Finish writes down what came out and releases the steps that waited for it. What left the house is written down also
// when the step is somebody else's by now, or was taken away by a correction.
func (d *DB) Finish(ctx context.Context, s register.Step, o work.Outcome, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		held, err := end(tx, s, "state = 'done', reason = '', outage = 0, result = ?, updated = ?", o.Result, micros(now))
		if err != nil || !held && o.Message == nil && o.Filed == nil {
			return err
		}
		if err := keep(tx, s, o); err != nil {
			return err
		}
		return addEvent(tx, s.SubmissionID, o.Happened, now)
	})
}

func keep(tx txn, s register.Step, o work.Outcome) error {
	switch {
	case o.Document != nil:
		x := o.Document
		if _, err := tx.Exec("INSERT INTO document (submission, revision, key, name, file_name, pages, size, made, pdf, code, sha256) VALUES (?1, (SELECT revision FROM submission WHERE id = ?1), ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, sha256(?8))",
			s.SubmissionID, x.Key, x.Name, x.FileName, x.Pages, x.Size, micros(x.Made), x.PDF, x.Code); err != nil {
			return err
		}
		_, err := tx.Exec(`UPDATE step SET missing = missing - 1, state = CASE WHEN missing <= 1 THEN 'ready' ELSE state END, due = ?1
		  WHERE submission = ?2 AND state = 'waits' AND EXISTS (SELECT 1 FROM json_each(needs) WHERE value = ?3)`, micros(x.Made), s.SubmissionID, x.Key)
		return err
	case o.Message != nil:
		m := o.Message
		to, err := json.Marshal(m.To)
		if err != nil {
			return err
		}
		attached, err := json.Marshal(append([]string{}, m.Attached...))
		if err != nil {
			return err
		}
		_, err = tx.Exec("INSERT INTO message (submission, name, recipients, subject, text, html, attached, sent) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
			s.SubmissionID, m.Name, to, m.Subject, m.Text, m.HTML, attached, micros(m.Sent))
		return err
	case o.Filed != nil:
		_, err := tx.Exec("INSERT INTO filed (submission, path, size, at) SELECT ?1, ?2, ?3, ?4 WHERE NOT EXISTS (SELECT 1 FROM filed WHERE submission = ?1 AND path = ?2)",
			s.SubmissionID, o.Filed.Path, o.Filed.Size, micros(o.Filed.At))
		return err
	}
	return nil
}

// Later puts a step back until it is due; an outage does not count as an attempt. The history
// tells a reason once, not each time.
func (d *DB) Later(ctx context.Context, s register.Step, reason string, outage bool, due, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		held, err := end(tx, s, "state = 'ready', reason = ?, outage = ?, attempts = attempts - ?, due = ?, updated = ?", reason, outage, outage, micros(due), micros(now))
		if err != nil || !held || reason == "" || reason == s.Reason {
			return err
		}
		return addEvent(tx, s.SubmissionID, s.Name+" waits: "+reason, now)
	})
}

// Fail gives a step up.
func (d *DB) Fail(ctx context.Context, s register.Step, reason string, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		held, err := end(tx, s, "state = 'failed', reason = ?, outage = 0, updated = ?", reason, micros(now))
		if err != nil || !held {
			return err
		}
		return addEvent(tx, s.SubmissionID, s.Name+" failed: "+reason, now)
	})
}

// EndOutage makes every step due that waited for a service to come back.
func (d *DB) EndOutage(ctx context.Context, kind plan.Kind, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("UPDATE step SET due = ?, outage = 0 WHERE kind = ? AND state = 'ready' AND outage = 1", micros(now), kind)
		return err
	})
}

// Reclaim takes back the leases of a program that ended without finishing its steps.
func (d *DB) Reclaim(ctx context.Context, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("UPDATE step SET state = 'ready', due = ? WHERE state = 'working'", micros(now))
		return err
	})
}

// Retry makes a failed or waiting step due now, at somebody's wish.
func (d *DB) Retry(ctx context.Context, submission, step int64, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		done, err := tx.Exec("UPDATE step SET state = 'ready', attempts = 0, due = ?, updated = ? WHERE id = ? AND submission = ? AND state IN ('failed', 'ready')", micros(now), micros(now), step, submission)
		if err != nil {
			return err
		}
		if n, err := done.RowsAffected(); err != nil || n == 0 {
			return found(sql.ErrNoRows)
		}
		return addEvent(tx, submission, "Tried again by hand", now)
	})
}
