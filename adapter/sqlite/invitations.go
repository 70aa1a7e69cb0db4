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

const invitationColumns = `n.id, n.intake, n.ref, n.links, n.email, n.words, n.state, n.attempts, n.since, n.reason, n.sent, coalesce(s.id, 0), coalesce(s.number, '')
  FROM invitation n LEFT JOIN submission s ON s.id = n.submission`

func scanInvitation(r scanner) (invite.Invitation, error) {
	var x invite.Invitation
	var since, sent int64
	err := r.Scan(&x.ID, &x.IntakeID, &x.Ref, &x.Links, &x.Email, &x.Words, &x.State, &x.Attempts, &since, &x.Reason, &sent, &x.SubmissionID, &x.Number)
	x.Since, x.Sent = moment(since), moment(sent)
	return x, found(err)
}

// AddInvitations keeps invitations that are not there yet and tells how many were new. One that was withdrawn and not answered
// is given anew.
func (d *DB) AddInvitations(ctx context.Context, all []invite.Invitation, now time.Time) (int, error) {
	added := 0
	err := d.do(ctx, func(tx txn) error {
		for _, x := range all {
			done, err := tx.Exec(`INSERT INTO invitation (intake, ref, email, words, state, since, due) VALUES (?1, ?2, ?3, ?4, 'waits', ?5, ?5)
			  ON CONFLICT (intake, email) DO UPDATE SET words = excluded.words, state = 'waits', attempts = 0, reason = '', since = excluded.since, due = excluded.due
			  WHERE state = 'withdrawn' AND submission IS NULL`, x.IntakeID, x.Ref, x.Email, x.Words, micros(now))
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
	r, err := d.read.QueryContext(ctx, "SELECT "+invitationColumns+" WHERE n.intake = ? AND n.id < ? ORDER BY n.id DESC LIMIT ?", intake, fromTop(before), limit)
	return rows(r, err, func(r *sql.Rows) (invite.Invitation, error) { return scanInvitation(r) })
}

// SentInvitations gives those of all intakes that went out, the newest first.
func (d *DB) SentInvitations(ctx context.Context, before int64, limit int) ([]invite.Invitation, error) {
	r, err := d.read.QueryContext(ctx, "SELECT "+invitationColumns+" WHERE n.sent > 0 AND n.id < ? ORDER BY n.id DESC LIMIT ?", fromTop(before), limit)
	return rows(r, err, func(r *sql.Rows) (invite.Invitation, error) { return scanInvitation(r) })
}

// DueInvitations gives those to be sent now, the longest waiting first.
func (d *DB) DueInvitations(ctx context.Context, now time.Time, limit int) ([]invite.Invitation, error) {
	r, err := d.read.QueryContext(ctx, "SELECT "+invitationColumns+" WHERE n.state = 'waits' AND n.due <= ? ORDER BY n.due LIMIT ?", micros(now), limit)
	return rows(r, err, func(r *sql.Rows) (invite.Invitation, error) { return scanInvitation(r) })
}

// NextInvitation is when the next invitation is to be sent.
func (d *DB) NextInvitation(ctx context.Context) (time.Time, bool, error) {
	return nextDue(d.read.QueryRowContext(ctx, "SELECT min(due) FROM invitation WHERE state = 'waits'"))
}

// SetInvitation writes down how sending ended, unless it was withdrawn meanwhile.
func (d *DB) SetInvitation(ctx context.Context, x invite.Invitation, due time.Time) error {
	return d.do(ctx, func(tx txn) error {
		sent := int64(0)
		if !x.Sent.IsZero() {
			sent = micros(x.Sent)
			if err := addRecipients(tx, []string{x.Email}, x.Sent); err != nil {
				return err
			}
		}
		_, err := tx.Exec("UPDATE invitation SET state = ?, attempts = ?, reason = ?, since = ?, sent = ?, due = ? WHERE id = ? AND state = 'waits'", x.State, x.Attempts, x.Reason, micros(x.Since), sent, micros(due), x.ID)
		return err
	})
}

// RetryInvitation sends an invitation that was not answered now: one that failed, or waits, or went out before.
func (d *DB) RetryInvitation(ctx context.Context, intake, id int64, now time.Time) error {
	return d.changeInvitation(ctx, "UPDATE invitation SET state = 'waits', attempts = 0, reason = '', since = ?1, due = ?1 WHERE id = ?2 AND intake = ?3 AND submission IS NULL AND state <> 'withdrawn'", intake, id, now)
}

// WithdrawInvitation makes an invitation that was not answered void.
func (d *DB) WithdrawInvitation(ctx context.Context, intake, id int64, now time.Time) error {
	return d.changeInvitation(ctx, "UPDATE invitation SET state = 'withdrawn', links = links + 1, reason = '', due = ?1 WHERE id = ?2 AND intake = ?3 AND submission IS NULL AND state <> 'withdrawn'", intake, id, now)
}

func (d *DB) changeInvitation(ctx context.Context, change string, intake, id int64, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		done, err := tx.Exec(change, micros(now), id, intake)
		if err != nil {
			return err
		}
		if n, err := done.RowsAffected(); err != nil || n == 0 {
			return found(sql.ErrNoRows)
		}
		return nil
	})
}

// InvitationByRef finds one by what its link is about.
func (d *DB) InvitationByRef(ctx context.Context, ref string) (invite.Invitation, error) {
	return scanInvitation(d.read.QueryRowContext(ctx, "SELECT "+invitationColumns+" WHERE n.ref = ?", ref))
}

// useInvitation ties an invitation to the submission that answers it; it works once.
func useInvitation(tx txn, intake, submission int64, ref string) error {
	done, err := tx.Exec("UPDATE invitation SET submission = ? WHERE intake = ? AND ref = ? AND state <> 'withdrawn' AND submission IS NULL", submission, intake, ref)
	if err != nil {
		return err
	}
	if n, err := done.RowsAffected(); err != nil || n == 0 {
		return receive.ErrInvitationUsed
	}
	return nil
}

// SaveDraft keeps answers that are not handed in, and forgets those nobody came back to. Only a fresh token makes a new entry:
// with another one an entry is changed that is there.
func (d *DB) SaveDraft(ctx context.Context, intake int64, token string, fresh bool, answers form.Raw, now, before time.Time) error {
	body, err := json.Marshal(answers)
	if err != nil {
		return err
	}
	return d.do(ctx, func(tx txn) error {
		if _, err := tx.Exec("DELETE FROM draft WHERE updated < ?", micros(before)); err != nil {
			return err
		}
		if !fresh {
			done, err := tx.Exec("UPDATE draft SET answers = ?, updated = ? WHERE hash = ? AND intake = ?", body, micros(now), hashed(token), intake)
			if err != nil {
				return err
			}
			if n, err := done.RowsAffected(); err != nil || n == 0 {
				return found(sql.ErrNoRows)
			}
			return nil
		}
		_, err := tx.Exec("INSERT INTO draft (hash, intake, answers, updated) VALUES (?, ?, ?, ?)", hashed(token), intake, body, micros(now))
		return err
	})
}

// Draft gives answers that were kept.
func (d *DB) Draft(ctx context.Context, intake int64, token string) (form.Raw, error) {
	var body string
	if err := d.read.QueryRowContext(ctx, "SELECT answers FROM draft WHERE hash = ? AND intake = ?", hashed(token), intake).Scan(&body); err != nil {
		return nil, found(err)
	}
	var raw form.Raw
	return raw, json.Unmarshal([]byte(body), &raw)
}
