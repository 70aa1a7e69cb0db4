package sqlite

import (
	"context"
	"database/sql"
	"encoding/json"
	"time"

	"amberseal/app/invite"
	"amberseal/app/receive"
	"amberseal/core/form"
)

const invitationColumns = `n.id, n.intake, n.token, n.email, n.link, n.state, n.attempts, n.reason, n.sent, coalesce(s.id, 0), coalesce(s.number, '')
  FROM invitation n LEFT JOIN submission s ON s.id = n.submission`

func scanInvitation(r *sql.Rows) (invite.Invitation, error) {
	var x invite.Invitation
	var sent int64
	err := r.Scan(&x.ID, &x.IntakeID, &x.Token, &x.Email, &x.Link, &x.State, &x.Attempts, &x.Reason, &sent, &x.SubmissionID, &x.Number)
	if sent > 0 {
		x.Sent = moment(sent)
	}
	return x, err
}

// AddInvitations keeps invitations that are not there yet and tells how many were new.
func (d *DB) AddInvitations(ctx context.Context, all []invite.Invitation, now time.Time) (int, error) {
	added := 0
	err := d.do(ctx, func(tx txn) error {
		for _, x := range all {
			done, err := tx.Exec("INSERT INTO invitation (intake, token, email, link, state, due) VALUES (?, ?, ?, ?, 'waits', ?) ON CONFLICT (intake, email) DO NOTHING",
				x.IntakeID, x.Token, x.Email, x.Link, micros(now))
			if err != nil {
				return err
			}
			n, err := done.RowsAffected()
			if err != nil {
				return err
			}
			added += int(n)
		}
		return nil
	})
	return added, err
}

// Invitations gives a page of an intake's, the newest first.
func (d *DB) Invitations(ctx context.Context, intake, before int64, limit int) ([]invite.Invitation, error) {
	r, err := d.read.QueryContext(ctx, "SELECT "+invitationColumns+" WHERE n.intake = ?1 AND (?2 = 0 OR n.id < ?2) ORDER BY n.id DESC LIMIT ?3", intake, before, limit)
	return rows(r, err, scanInvitation)
}

// DueInvitations gives those to be sent now, the longest waiting first.
func (d *DB) DueInvitations(ctx context.Context, now time.Time, limit int) ([]invite.Invitation, error) {
	r, err := d.read.QueryContext(ctx, "SELECT "+invitationColumns+" WHERE n.state = 'waits' AND n.due <= ? ORDER BY n.due LIMIT ?", micros(now), limit)
	return rows(r, err, scanInvitation)
}

// SetInvitation writes down how sending ended.
func (d *DB) SetInvitation(ctx context.Context, x invite.Invitation, due time.Time) error {
	return d.do(ctx, func(tx txn) error {
		sent := int64(0)
		if !x.Sent.IsZero() {
			sent = micros(x.Sent)
		}
		_, err := tx.Exec("UPDATE invitation SET state = ?, attempts = ?, reason = ?, sent = ?, due = ? WHERE id = ?", x.State, x.Attempts, x.Reason, sent, micros(due), x.ID)
		return err
	})
}

// RetryInvitation makes an invitation that failed or waits due now.
func (d *DB) RetryInvitation(ctx context.Context, intake, id int64, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		done, err := tx.Exec("UPDATE invitation SET state = 'waits', attempts = 0, due = ? WHERE id = ? AND intake = ? AND state <> 'sent'", micros(now), id, intake)
		if err != nil {
			return err
		}
		if n, err := done.RowsAffected(); err != nil || n == 0 {
			return found(sql.ErrNoRows)
		}
		return nil
	})
}

// InvitationOpen reports whether a token is an invitation to the intake that was not answered yet.
func (d *DB) InvitationOpen(ctx context.Context, intake int64, token string) (bool, error) {
	var one int
	err := d.read.QueryRowContext(ctx, "SELECT 1 FROM invitation WHERE intake = ? AND token = ? AND submission IS NULL", intake, token).Scan(&one)
	return err == nil, ignoreNone(err)
}

// useInvitation ties an invitation to the submission that answers it; it works once.
func useInvitation(tx txn, intake, submission int64, token string) error {
	done, err := tx.Exec("UPDATE invitation SET submission = ? WHERE intake = ? AND token = ? AND submission IS NULL", submission, intake, token)
	if err != nil {
		return err
	}
	if n, err := done.RowsAffected(); err != nil || n == 0 {
		return receive.ErrInvitation
	}
	return nil
}

// SaveDraft keeps answers that are not handed in, and forgets those nobody came back to.
func (d *DB) SaveDraft(ctx context.Context, intake int64, token string, answers form.Raw, now, before time.Time) error {
	body, err := json.Marshal(answers)
	if err != nil {
		return err
	}
	return d.do(ctx, func(tx txn) error {
		if _, err := tx.Exec("DELETE FROM draft WHERE updated < ?", micros(before)); err != nil {
			return err
		}
		_, err := tx.Exec("INSERT INTO draft (token, intake, answers, updated) VALUES (?, ?, ?, ?) ON CONFLICT (token) DO UPDATE SET answers = excluded.answers, updated = excluded.updated WHERE intake = excluded.intake",
			token, intake, body, micros(now))
		return err
	})
}

// Draft gives answers that were kept.
func (d *DB) Draft(ctx context.Context, intake int64, token string) (form.Raw, error) {
	var body string
	if err := d.read.QueryRowContext(ctx, "SELECT answers FROM draft WHERE token = ? AND intake = ?", token, intake).Scan(&body); err != nil {
		return nil, found(err)
	}
	var raw form.Raw
	return raw, json.Unmarshal([]byte(body), &raw)
}
