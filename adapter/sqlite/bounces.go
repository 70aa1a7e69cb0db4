package sqlite

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"slices"
	"strings"
	"time"

	"amberseal/app/bounces"
	"amberseal/app/register"
	"amberseal/core/plan"
)

// Bounced marks a message that came back, and leaves a step of its submission that failed for each from whom it did.
func (d *DB) Bounced(ctx context.Context, job int64, mid string, all []bounces.Failure, now time.Time) (number string, err error) {
	err = d.do(ctx, func(tx txn) error {
		var message, submission int64
		var text, to, besides string
		err := tx.QueryRow("SELECT m.id, m.submission, m.returned, m.recipients, m.others, s.number, m.job FROM message m "+
			"JOIN submission s ON s.id = m.submission "+
			"WHERE (?1 > 0 AND m.job = ?1) OR (?2 <> '' AND m.mid = ?2) LIMIT 1", job, mid).Scan(&message, &submission, &text, &to,
			&besides, &number, &job)
		if err != nil {
			return found(err)
		}
		var known []register.Returned
		var envelope register.Message
		var o others
		if err := errors.Join(json.Unmarshal([]byte(text), &known), json.Unmarshal([]byte(to), &envelope.To),
			json.Unmarshal([]byte(besides), &o)); err != nil {
			return err
		}
		envelope.Copy, envelope.Blind = o.Copy, o.Blind
		if all = bounces.Of(envelope.Everybody(), all); len(all) == 0 {
			return bounces.ErrOthers
		}
		r, err := tx.Query("SELECT "+jobColumns+" FROM job WHERE id = ?", job)
		sent, err := one(r, err, scanJob)
		if err != nil {
			return found(err)
		}
		c := plan.Carries{Rule: sent.Key}
		if err := json.Unmarshal(sent.Body, &c); err != nil {
			return err
		}
		if c.Rule == "" {
			c.Rule = sent.Key
		}
		for _, f := range all {
			if slices.ContainsFunc(known, func(k register.Returned) bool { return strings.EqualFold(k.Address, f.Address) }) {
				continue // reports come twice
			}
			known = append(known, register.Returned{Address: f.Address, Reason: f.Reason})
			c.Only = []string{f.Address}
			body, err := json.Marshal(c)
			if err != nil {
				return err
			}
			reason := "It came back from " + f.Address + ", where it was said: " + f.Reason + ". Mend the address; or try again, if it " +
				"should be reached by now."
			at := micros(now)
			if _, err := tx.Exec("INSERT INTO job (about, subject, run, share, since, updated, due, kind, key, name, target, lane, "+
				"state, needs, body, reason) "+
				"VALUES (?1, ?2, ?3, ?4, ?5, ?5, ?5, ?6, ?7, ?8, ?9, 0, 'failed', '', ?10, ?11) ON CONFLICT DO NOTHING",
				sent.Subject.About, sent.Subject.ID, sent.Subject.Run, sent.Share, at, sent.Kind, c.Rule+" returned "+f.Address, sent.Name,
				sent.Target, string(body), reason); err != nil {
				return err
			}
			fact := register.Fact{Kind: register.Bounced, Body: register.FactBody{Job: job, Record: message}, Words: f.Address + ", " +
				f.Reason}
			if err := tx.tell(sent.Subject, fact, now); err != nil {
				return err
			}
		}
		data, err := json.Marshal(known)
		if err != nil {
			return err
		}
		_, err = tx.Exec("UPDATE message SET returned = ? WHERE id = ?", data, message)
		return err
	})
	return number, err
}

// Look is how the last reading of an account's mailbox went.
func (d *DB) Look(ctx context.Context, account string) (bounces.Look, error) {
	r, err := d.prepared(ctx, "SELECT validity, last, at, reason FROM look WHERE account = ?", account)
	l, err := one(r, err, func(r *sql.Rows) (l bounces.Look, err error) {
		var at int64
		err = r.Scan(&l.Validity, &l.Last, &at, &l.Reason)
		l.At = moment(at)
		return l, err
	})
	return l, found(err)
}

// KeepLook keeps it.
func (d *DB) KeepLook(ctx context.Context, account string, l bounces.Look) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("INSERT OR REPLACE INTO look (account, validity, last, at, reason) VALUES (?, ?, ?, ?, ?)", account, l.Validity,
			l.Last, micros(l.At), l.Reason)
		return err
	})
}
