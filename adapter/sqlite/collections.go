package sqlite

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"time"

	"amberseal/app/register"
	"amberseal/core/plan"
)

// gather puts a submission into the open collection of its notice, or into a new one. What an earlier run of it left in open ones goes.
func gather(tx txn, s plan.Subject, x *register.Gathered, now time.Time) (id int64, err error) {
	if _, err := tx.Exec("DELETE FROM collected WHERE submission = ? AND collection IN (SELECT id FROM collection WHERE intake = ? AND "+
		"notice = ? AND closed = 0)", s.ID, x.Intake, x.Notice); err != nil {
		return 0, err
	}
	// One whose step was stopped goes no more.
	err = tx.QueryRow("SELECT c.id FROM collection c LEFT JOIN job j ON j.id = c.job WHERE c.intake = ? AND c.notice = ? AND c.whom = ? "+
		"AND c.closed = 0 AND (c.job = 0 OR j.state IN ('ready', 'waits')) ORDER BY c.id DESC LIMIT 1", x.Intake, x.Notice, x.Whom).
		Scan(&id)
	if errors.Is(err, sql.ErrNoRows) {
		err = tx.QueryRow("INSERT INTO collection (intake, notice, whom) VALUES (?, ?, ?) RETURNING id", x.Intake, x.Notice,
			x.Whom).Scan(&id)
	}
	if err != nil {
		return 0, err
	}
	documents, err := json.Marshal(append([]string{}, x.Documents...))
	if err != nil {
		return 0, err
	}
	if _, err := tx.Exec("INSERT INTO collected (collection, submission, run, documents) VALUES (?, ?, ?, ?)", id, s.ID, s.Run,
		documents); err != nil {
		return 0, err
	}
	var many int
	var job int64
	if err := tx.QueryRow("SELECT (SELECT count(*) FROM collected WHERE collection = ?1), job FROM collection WHERE id = ?1", id).
		Scan(&many, &job); err != nil {
		return 0, err
	}
	if job == 0 {
		step := plan.Collected(x.Account, x.Notice, x.Name, id, x.Due)
		if err := insertJobs(tx, s, x.Intake, []plan.Step{step}, now, false); err != nil {
			return 0, err
		}
		if _, err := tx.Exec("UPDATE collection SET job = (SELECT id FROM job WHERE subject = ? AND run = ? AND kind = ? AND key = ? AND "+
			"about = ?) WHERE id = ?", s.ID, s.Run, step.Kind, step.Key, s.About, id); err != nil {
			return 0, err
		}
	}
	if many < x.Most {
		return id, nil
	}
	if _, err := tx.Exec("UPDATE collection SET closed = 1 WHERE id = ?", id); err != nil {
		return 0, err
	}
	at := micros(now)
	_, err = tx.Exec("UPDATE job SET state = 'ready', needs = '', due = ?1, since = ?1, updated = ?1 WHERE id = (SELECT job FROM "+
		"collection WHERE id = ?2) AND state = 'waits' AND needs = ?3", at, id, plan.Full)
	return id, err
}

// Collection closes a collection and gives what is in it, the earliest submission first.
func (d *DB) Collection(ctx context.Context, id int64) ([]register.Member, error) {
	if err := d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("UPDATE collection SET closed = 1 WHERE id = ?", id)
		return err
	}); err != nil {
		return nil, err
	}
	r, err := d.read.QueryContext(ctx, "SELECT submission, run, documents FROM collected WHERE collection = ? ORDER BY submission", id)
	return rows(r, err, func(r *sql.Rows) (t register.Member, err error) {
		var documents string
		if err := r.Scan(&t.Submission, &t.Run, &documents); err != nil {
			return t, err
		}
		return t, json.Unmarshal([]byte(documents), &t.Documents)
	})
}

// toldOf writes into the history of every submission that a message tells of that it went out.
func toldOf(tx txn, s plan.Subject, message int64, x *register.Message) error {
	for _, t := range x.Of {
		if t.Submission == s.ID {
			continue // its own history has it from the step
		}
		f := x.Fact()
		f.Body.Job, f.Body.Record = x.Job, message
		if err := tx.tell(plan.Subject{About: plan.Submission, ID: t.Submission, Run: t.Run}, f, x.Sent); err != nil {
			return err
		}
	}
	return nil
}

// endedOf writes into the history of every other submission that a message was to tell of that it does not go: it was stopped, or given up.
func endedOf(tx txn, job int64, kind register.FactKind, reason string, now time.Time) error {
	r, err := tx.Query("SELECT d.submission, d.run, s.number FROM collection c JOIN collected d ON d.collection = c.id "+
		"JOIN job j ON j.id = c.job JOIN submission s ON s.id = j.subject WHERE c.job = ? AND d.submission <> j.subject "+
		"ORDER BY d.submission", job)
	var with string
	all, err := rows(r, err, func(r *sql.Rows) (s plan.Subject, err error) {
		s.About = plan.Submission
		err = r.Scan(&s.ID, &s.Run, &with)
		return s, err
	})
	for _, s := range all {
		if err == nil {
			words := "The message that was to tell of it together with others stands with " + with + ". " + reason
			err = tx.tell(s, register.Fact{Kind: kind, Body: register.FactBody{Job: job}, Words: words}, now)
		}
	}
	return err
}
