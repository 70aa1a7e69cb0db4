package sqlite

import (
	"context"
	"database/sql"
	"strings"
	"time"

	"amberseal/app/access"
	"amberseal/app/notify"
	"amberseal/app/register"
	"amberseal/core/plan"
)

// Held says since when the messages of an intake are held, or those of the whole house; the zero time where they are not.
func (d *DB) Held(ctx context.Context, intake int64) (since time.Time, err error) {
	r, err := d.prepared(ctx, "SELECT min(since) FROM hold WHERE intake IN (0, ?)", intake)
	at, err := one(r, err, func(r *sql.Rows) (at sql.NullInt64, err error) { return at, r.Scan(&at) })
	return moment(at.Int64), ignoreNone(err)
}

// Holds lists all of a scope; that of the house is for everybody who reads records.
func (d *DB) Holds(ctx context.Context, scope access.Scope) (all []notify.Hold, err error) {
	where, args := among([]string{"1"}, []any{}, "intake", scope)
	r, err := d.read.QueryContext(ctx, "SELECT intake, since FROM hold WHERE intake = 0 OR "+strings.Join(where,
		" AND ")+" ORDER BY intake",
		args...)
	return rows(r, err, func(r *sql.Rows) (h notify.Hold, err error) {
		var since int64
		err = r.Scan(&h.Intake, &since)
		h.Since = moment(since)
		return h, err
	})
}

// Hold holds the messages of an intake, or of the house for 0. Those that are under way go.
func (d *DB) Hold(ctx context.Context, intake int64, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("INSERT INTO hold (intake, since) VALUES (?, ?) ON CONFLICT (intake) DO NOTHING", intake, micros(now))
		return err
	})
}

// Release lets them go: what waited for that is due now, but for what was planned for later.
func (d *DB) Release(ctx context.Context, intake int64, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		if _, err := tx.Exec("DELETE FROM hold WHERE intake = ?", intake); err != nil {
			return err
		}
		_, err := tx.Exec("UPDATE job SET due = max(?1, not_before) WHERE about = 'submission' AND kind = 'notice' AND "+
			"state NOT IN ('done', 'void') AND state = 'ready' AND unsure = 0 AND due > ?1 AND (?2 = 0 OR share = ?2)", micros(now), intake)
		return err
	})
}

// MailDue lets letters be tried at once that wait for their time to be tried again; what was planned for later stays so, and so does what
// may have gone.
func (d *DB) MailDue(ctx context.Context, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("UPDATE job SET due = max(?1, not_before) WHERE (target = 'mail' OR target LIKE 'mail:%') AND "+
			"state = 'ready' AND unsure = 0 AND due > ?1", micros(now))
		return err
	})
}

// WaitingMessages lists notices that are not done, the one that is due first.
func (d *DB) WaitingMessages(ctx context.Context, scope access.Scope, intake int64, limit int) ([]register.WaitingMessage, error) {
	where, args := among([]string{"j.about = 'submission'", "j.kind = 'notice'", "j.state NOT IN ('done', 'void')"}, []any{}, "j.share",
		scope)
	if intake != 0 {
		where, args = append(where, "j.share = ?"), append(args, intake)
	}
	columns := "j." + strings.ReplaceAll(strings.Join(strings.Fields(jobColumns), " "), ", ", ", j.")
	r, err := d.read.QueryContext(ctx, "SELECT "+columns+", s.number, i.name, (SELECT count(*) FROM "+
		"collection c JOIN collected x ON x.collection = c.id WHERE c.job = j.id AND c.job > 0)"+
		" FROM job j INDEXED BY job_open JOIN submission s ON s.id = "+
		"j.subject JOIN intake i ON i.id = s.intake WHERE "+strings.Join(where, " AND ")+" ORDER BY j.due, j.id LIMIT ?", append(args,
		limit)...)
	return rows(r, err, func(r *sql.Rows) (w register.WaitingMessage, err error) {
		w.Job, _, err = scanWaiting(r, &w.Number, &w.Intake, &w.Members)
		return w, err
	})
}

// Stop ends a step of a submission that waits or failed, at somebody's wish.
func (d *DB) Stop(ctx context.Context, submission, job int64, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		var there int
		err := tx.QueryRow("SELECT count(*) FROM job WHERE id = ? AND subject = ? AND about = 'submission' AND state IN "+
			"('waits', 'ready', 'failed')", job, submission).Scan(&there)
		if err != nil || there == 0 {
			return firstError(err, register.NotFound)
		}
		const reason = "Somebody of the house stopped it."
		if err := void(tx, register.Voided, reason, now, "id = ? AND state IN ('waits', 'ready', 'failed')", job); err != nil {
			return err
		}
		return endedOf(tx, job, register.Voided, reason, now)
	})
}

func firstError(all ...error) error {
	for _, err := range all {
		if err != nil {
			return err
		}
	}
	return nil
}

// SentBy gives the job by which a message of a submission went out.
func (d *DB) SentBy(ctx context.Context, submission, message int64) (j register.Job, to []string, err error) {
	m, err := d.Messages(ctx, access.Everywhere, register.MessageQuery{Submission: submission, ID: message, Limit: 1})
	if err != nil || len(m) == 0 {
		return j, nil, firstError(err, register.NotFound)
	}
	r, err := d.read.QueryContext(ctx,
		"SELECT "+jobColumns+" FROM job WHERE id = (SELECT body ->> 'job' FROM fact WHERE subject = ? AND about = "+
			"'submission' AND kind = 'sent' AND body ->> 'record' = ?)", submission, message)
	j, err = one(r, err, scanJob)
	return j, m[0].Everybody(), found(err)
}

// PlanAgain plans a step of the present run of a submission, and tells by whose wish.
func (d *DB) PlanAgain(ctx context.Context, submission int64, steps []plan.Step, by register.Fact, now time.Time) error {
	s, _, err := d.Submission(ctx, submission)
	if err != nil {
		return err
	}
	subject := plan.Subject{About: plan.Submission, ID: submission, Run: s.Revision}
	return d.do(ctx, func(tx txn) error {
		if err := insertJobs(tx, subject, s.IntakeID, steps, now, false); err != nil {
			return err
		}
		return tx.tell(subject, by, now)
	})
}

// toldBy finds a message by a word of its subject, the number of its submission, or an address that it went to. Addresses are JSON, kept as
// bytes, in which LIKE finds nothing; copies come first in what stands besides, which for most messages is not read then.
const toldBy = `(m.subject LIKE ? ESCAPE '\' OR s.number LIKE ? ESCAPE '\' OR CAST(m.recipients AS TEXT) LIKE ? ESCAPE '\' OR
  (CAST(m.others AS TEXT) LIKE '{"copy"%' OR CAST(m.others AS TEXT) LIKE '{"blind"%') AND
  json_extract(CAST(m.others AS TEXT), '$.copy', '$.blind') LIKE ? ESCAPE '\')`
