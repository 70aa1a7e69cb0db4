package sqlite

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/plan"
)

const stepColumns = "id, submission, kind, key, name, needs, state, attempts, since, unsure, due, reason, result, updated"

func scanStep(r *sql.Rows) (register.Step, error) {
	var s register.Step
	var needs string
	var since, due, updated int64
	if err := r.Scan(&s.ID, &s.SubmissionID, &s.Kind, &s.Key, &s.Name, &needs, &s.State, &s.Attempts, &since, &s.Unsure, &due, &s.Reason, &s.Result, &updated); err != nil {
		return s, err
	}
	s.Since, s.Due, s.Updated = moment(since), moment(due), moment(updated)
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

// NextDue is when the next step of a kind is due.
func (d *DB) NextDue(ctx context.Context, kind plan.Kind) (time.Time, bool, error) {
	return nextDue(d.read.QueryRowContext(ctx, "SELECT min(due) FROM step WHERE kind = ? AND state IN ('ready', 'working')", kind))
}

func nextDue(r scanner) (time.Time, bool, error) {
	var due sql.NullInt64
	err := r.Scan(&due)
	return moment(due.Int64), due.Valid, err
}

func ignoreNone(err error) error {
	if err == sql.ErrNoRows {
		return nil
	}
	return err
}

// end ends a lease, unless somebody else has taken it over.
func end(tx txn, s register.Step, set string, args ...any) (bool, error) {
	done, err := tx.Exec("UPDATE step SET lost = 0, "+set+" WHERE id = ? AND state = 'working' AND attempts = ?", append(args, s.ID, s.Attempts)...)
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
		_, err := tx.Exec(`UPDATE step SET missing = missing - 1, state = CASE WHEN missing <= 1 THEN 'ready' ELSE state END, due = ?1, since = ?1
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
		if _, err = tx.Exec("INSERT INTO message (submission, name, recipients, subject, text, html, attached, sent) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
			s.SubmissionID, m.Name, to, m.Subject, m.Text, m.HTML, attached, micros(m.Sent)); err != nil {
			return err
		}
		return addRecipients(tx, m.To, m.Sent)
	case o.Filed != nil:
		_, err := tx.Exec("INSERT INTO filed (submission, path, size, at) SELECT ?1, ?2, ?3, ?4 WHERE NOT EXISTS (SELECT 1 FROM filed WHERE submission = ?1 AND path = ?2)",
			s.SubmissionID, o.Filed.Path, o.Filed.Size, micros(o.Filed.At))
		return err
	}
	return nil
}

// recipientsKept is how long it is known who was written to.
const recipientsKept = 24 * time.Hour

func addRecipients(tx txn, to []string, sent time.Time) error {
	if _, err := tx.Exec("DELETE FROM recipient WHERE sent < ?", micros(sent.Add(-recipientsKept))); err != nil {
		return err
	}
	for _, address := range to {
		if _, err := tx.Exec("INSERT INTO recipient (address, sent) VALUES (?, ?)", address, micros(sent)); err != nil {
			return err
		}
	}
	return nil
}

// SentTo counts the messages to an address since a time within the last day.
func (d *DB) SentTo(ctx context.Context, address string, since time.Time) (int, error) {
	var n int
	err := d.read.QueryRowContext(ctx, "SELECT count(*) FROM recipient WHERE address = ? AND sent >= ?", address, micros(since)).Scan(&n)
	return n, err
}

// Later puts a step back until it is due; an outage does not count as an attempt, nor its time. The history
// tells a reason once, not each time.
func (d *DB) Later(ctx context.Context, s register.Step, p work.Pause, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		since := s.Since
		if p.Outage {
			since = now
		}
		held, err := end(tx, s, "state = 'ready', reason = ?, outage = ?, attempts = attempts - ?, unsure = unsure + ?, since = ?, due = ?, updated = ?",
			p.Reason, p.Outage, p.Outage, p.Unsure, micros(since), micros(p.Due), micros(now))
		if err != nil || !held || p.Reason == "" || p.Reason == s.Reason {
			return err
		}
		return addEvent(tx, s.SubmissionID, s.Name+" waits: "+p.Reason, now)
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
		// Both states are named so that the index of open steps is used.
		_, err := tx.Exec("UPDATE step SET due = ?, outage = 0 WHERE kind = ? AND state IN ('ready', 'working') AND state = 'ready' AND outage = 1", micros(now), kind)
		return err
	})
}

// Reclaim takes back the leases of a program that ended without finishing its steps. One that was lost again waits a little
// longer each time, so that what ends the program does not keep the others from their work; after mostLost times it is given up.
func (d *DB) Reclaim(ctx context.Context, now time.Time, mostLost int) error {
	return d.do(ctx, func(tx txn) error {
		if _, err := tx.Exec("UPDATE step SET state = 'ready', due = ?1 + lost * 10000000, lost = lost + 1 WHERE state IN ('ready', 'working') AND state = 'working'", micros(now)); err != nil {
			return err
		}
		reason := fmt.Sprintf("The program ended %d times while it was doing this, so that it may be what ends it. Look into the log before you try it again.", mostLost)
		r, err := tx.Query("UPDATE step SET state = 'failed', lost = 0, reason = ?, updated = ? WHERE state IN ('ready', 'working') AND lost >= ? RETURNING "+stepColumns, reason, micros(now), mostLost)
		given, err := rows(r, err, scanStep)
		for _, s := range given {
			err = errors.Join(err, addEvent(tx, s.SubmissionID, s.Name+" failed: "+reason, now))
		}
		return err
	})
}

// PullBack makes steps due at a time that are due later: a clock that fell would put them off.
func (d *DB) PullBack(ctx context.Context, latest time.Time) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("UPDATE step SET due = ?1 WHERE state IN ('ready', 'working') AND state = 'ready' AND unsure = 0 AND due > ?1", micros(latest))
		return err
	})
}

const tryNow = "UPDATE step SET state = 'ready', attempts = 0, lost = 0, unsure = 0, due = ?1, since = ?1, updated = ?1 WHERE "

// Retry makes a failed or waiting step due now, at somebody's wish.
func (d *DB) Retry(ctx context.Context, submission, step int64, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		done, err := tx.Exec(tryNow+"id = ?2 AND submission = ?3 AND state IN ('failed', 'ready')", micros(now), step, submission)
		if err != nil {
			return err
		}
		if n, err := done.RowsAffected(); err != nil || n == 0 {
			return found(sql.ErrNoRows)
		}
		return addEvent(tx, submission, "Tried again by hand", now)
	})
}

// RetryAll makes all failed steps due now, of one intake where it is not 0, and says how many those are. Steps for which a letter
// may have arrived wait for a decision of their own.
func (d *DB) RetryAll(ctx context.Context, intake int64, now time.Time) (int, error) {
	count := 0
	err := d.do(ctx, func(tx txn) error {
		r, err := tx.Query(tryNow+"state = 'failed' AND unsure = 0 AND (?2 = 0 OR submission IN (SELECT id FROM submission WHERE intake = ?2)) RETURNING "+stepColumns, micros(now), intake)
		steps, err := rows(r, err, scanStep)
		if err != nil {
			return err
		}
		count = len(steps)
		told := map[int64]bool{}
		for _, s := range steps {
			if !told[s.SubmissionID] {
				told[s.SubmissionID] = true
				if err := addEvent(tx, s.SubmissionID, "Tried again by hand, with all that failed", now); err != nil {
					return err
				}
			}
		}
		return nil
	})
	return count, err
}
