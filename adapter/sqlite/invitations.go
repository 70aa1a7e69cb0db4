package sqlite

import (
	"context"
	"database/sql"
	"errors"
	"strings"
	"time"

	"amberseal/app/access"
	"amberseal/app/invite"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/core/plan"
)

const invitationColumns = `n.id, n.intake, n.ref, n.links, n.run, n.email, n.words, n.withdrawn, n.sent, coalesce(j.state, ''), ` +
	`coalesce(j.reason, ''), coalesce(s.id, 0), coalesce(s.number, '')
  FROM invitation n LEFT JOIN submission s ON s.id = n.submission
  LEFT JOIN job j ON j.subject = n.id AND j.run = n.run AND j.kind = 'invitation' AND j.key = 'letter' AND j.about = 'invitation'`

func scanInvitation(r scanner) (invite.Invitation, error) {
	var x invite.Invitation
	var withdrawn bool
	var sent int64
	var job register.State
	err := r.Scan(
		&x.ID, &x.IntakeID, &x.Ref, &x.Links, &x.Run, &x.Email, &x.Words, &withdrawn, &sent, &job, &x.Reason, &x.SubmissionID, &x.Number,
	)
	x.Sent = moment(sent)
	switch {
	case withdrawn:
		x.State, x.Reason = invite.Withdrawn, ""
	case job == register.Done:
		x.State = invite.Sent
	case job == register.Failed:
		x.State = invite.Failed
	default:
		x.State = invite.Waits
	}
	return x, found(err)
}

// AddInvitations keeps invitations that are not there yet, with the steps of their letters, and tells how many were new. One that was
// withdrawn and not answered is given anew.
func (d *DB) AddInvitations(ctx context.Context, all []invite.Invitation, letter []plan.Step, now time.Time) (int, error) {
	added := 0
	err := d.do(ctx, func(tx txn) error {
		added = 0
		for _, x := range all {
			subject := plan.Subject{About: plan.Invited}
			err := tx.QueryRow(`INSERT INTO invitation (intake, ref, email, words) VALUES (?1, ?2, ?3, ?4)
			  ON CONFLICT (intake, email) DO UPDATE SET words = excluded.words, withdrawn = 0, run = run + 1
			  WHERE withdrawn = 1 AND submission IS NULL RETURNING id, run`, x.IntakeID, x.Ref, x.Email, x.Words).Scan(&subject.ID,
				&subject.Run)
			if errors.Is(err, sql.ErrNoRows) {
				continue
			}
			if err == nil {
				err = insertJobs(tx, subject, x.IntakeID, letter, now, true)
			}
			if err == nil {
				err = tx.tell(subject, register.Fact{Kind: register.Invited}, now)
			}
			if err != nil {
				return err
			}
			added++
		}
		return nil
	})
	return added, err
}

// Invitation finds one.
func (d *DB) Invitation(ctx context.Context, id int64) (invite.Invitation, error) {
	return scanInvitation(d.read.QueryRowContext(ctx, "SELECT "+invitationColumns+" WHERE n.id = ?", id))
}

// Invitations gives a page of an intake's, the newest first.
func (d *DB) Invitations(ctx context.Context, intake, before int64, limit int) ([]invite.Invitation, error) {
	r, err := d.read.QueryContext(
		ctx, "SELECT "+invitationColumns+" WHERE n.intake = ? AND n.id < ? ORDER BY n.id DESC LIMIT ?", intake, fromTop(before), limit,
	)
	return rows(r, err, func(r *sql.Rows) (invite.Invitation, error) { return scanInvitation(r) })
}

// unsent is true of an invitation whose letter must be sent again by somebody.
const unsent = "j.state = 'failed' AND n.withdrawn = 0 AND n.submission IS NULL"

// UnsentInvitations counts those of a scope whose letters must be sent again by somebody.
func (d *DB) UnsentInvitations(ctx context.Context, scope access.Scope) (n int, err error) {
	where, args := among([]string{unsent, "j.about = 'invitation'"}, []any{}, "n.intake", scope)
	err = d.read.QueryRowContext(ctx, "SELECT count(*) FROM job j JOIN invitation n ON n.id = j.subject AND n.run = j.run WHERE "+
		strings.Join(where, " AND "), args...).Scan(&n)
	return n, err
}

// SentInvitations gives those of all intakes that went out or could not, the newest first.
func (d *DB) SentInvitations(ctx context.Context, scope access.Scope, before int64, limit int) ([]invite.Invitation, error) {
	where, args := among([]string{"(n.sent > 0 OR " + unsent + ")", "n.id < ?"}, []any{fromTop(before)}, "n.intake", scope)
	r, err := d.read.QueryContext(
		ctx,
		"SELECT "+invitationColumns+" WHERE "+strings.Join(where, " AND ")+" ORDER BY n.id DESC LIMIT ?",
		append(args, limit)...)
	return rows(r, err, func(r *sql.Rows) (invite.Invitation, error) { return scanInvitation(r) })
}

// RetryInvitation sends an invitation that was not answered now: one that failed, or waits, or went out before. That is another
// letter.
func (d *DB) RetryInvitation(ctx context.Context, intake, id int64, letter []plan.Step, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		subject, err := changeInvitation(tx, "run = run + 1", intake, id)
		if err != nil {
			return err
		}
		if err := voidSubject(tx, subject, "It is sent anew.", now); err != nil {
			return err
		}
		if err := insertJobs(tx, subject, intake, letter, now, true); err != nil {
			return err
		}
		return tx.tell(subject, register.Fact{Kind: register.Retried}, now)
	})
}

// WithdrawInvitation makes an invitation that was not answered void.
func (d *DB) WithdrawInvitation(ctx context.Context, intake, id int64, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		subject, err := changeInvitation(tx, "withdrawn = 1, links = links + 1", intake, id)
		if err != nil {
			return err
		}
		if err := voidSubject(tx, subject, "The invitation was withdrawn.", now); err != nil {
			return err
		}
		return tx.tell(subject, register.Fact{Kind: register.Withdrawn}, now)
	})
}

// changeInvitation changes one that was neither answered nor withdrawn and gives the subject of its jobs.
func changeInvitation(tx txn, set string, intake, id int64) (plan.Subject, error) {
	s := plan.Subject{About: plan.Invited, ID: id}
	err := tx.QueryRow("UPDATE invitation SET "+set+" WHERE id = ? AND intake = ? AND submission IS NULL AND withdrawn = 0 RETURNING run",
		id, intake).
		Scan(&s.Run)
	return s, found(err)
}

// InvitationByRef finds one by what its link is about.
func (d *DB) InvitationByRef(ctx context.Context, ref string) (invite.Invitation, error) {
	return scanInvitation(d.read.QueryRowContext(ctx, "SELECT "+invitationColumns+" WHERE n.ref = ?", ref))
}

// useInvitation ties an invitation to the submission that answers it; it works once.
func useInvitation(tx txn, intake, submission int64, ref string) error {
	done, err := tx.Exec(
		"UPDATE invitation SET submission = ? WHERE intake = ? AND ref = ? AND withdrawn = 0 AND submission IS NULL", submission, intake,
		ref,
	)
	if err != nil {
		return err
	}
	if n, err := done.RowsAffected(); err != nil || n == 0 {
		return receive.ErrInvitationUsed
	}
	return nil
}
