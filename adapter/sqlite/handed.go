package sqlite

import (
	"context"
	"database/sql"
	"encoding/json"
	"time"

	"amberseal/app/handing"
	"amberseal/app/register"
	"amberseal/core/plan"
)

// AddHanded keeps files that messages give by links, but for those that it has.
func (d *DB) AddHanded(ctx context.Context, all []handing.Handed) error {
	return d.do(ctx, func(tx txn) error {
		for _, x := range all {
			body, err := json.Marshal(x.What)
			if err != nil {
				return err
			}
			if _, err := tx.Exec("INSERT INTO handed (ref, submission, run, links, body, made, expires, most) "+
				"VALUES (?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (ref) DO NOTHING",
				x.Ref, x.SubmissionID, x.Run, x.Links, body, micros(x.Made), micros(x.Expires), x.Most); err != nil {
				return err
			}
		}
		return nil
	})
}

const handedColumns = "SELECT id, ref, submission, run, links, body, made, expires, most, opened, last, withdrawn FROM handed WHERE "

func scanHanded(r *sql.Rows) (x handing.Handed, err error) {
	var body string
	var made, expires, last int64
	if err = r.Scan(&x.ID, &x.Ref, &x.SubmissionID, &x.Run, &x.Links, &body, &made, &expires, &x.Most, &x.Opened, &last,
		&x.Withdrawn); err != nil {
		return x, err
	}
	x.Made, x.Expires, x.Last = moment(made), moment(expires), moment(last)
	return x, json.Unmarshal([]byte(body), &x.What)
}

// Handed gives what a ref names.
func (d *DB) Handed(ctx context.Context, ref string) (handing.Handed, error) {
	r, err := d.prepared(ctx, handedColumns+"ref = ?", ref)
	x, err := one(r, err, scanHanded)
	return x, found(err)
}

// HandedOf lists what was given of a submission, the newest first.
func (d *DB) HandedOf(ctx context.Context, submission int64) ([]handing.Handed, error) {
	r, err := d.read.QueryContext(ctx, handedColumns+"submission = ? ORDER BY id DESC LIMIT 200", submission)
	return rows(r, err, scanHanded)
}

// TakeHanded counts an opening, where one is left and the time is not over.
func (d *DB) TakeHanded(ctx context.Context, ref string, now time.Time) (taken bool, err error) {
	err = d.do(ctx, func(tx txn) error {
		taken = false
		r, err := tx.Query("UPDATE handed SET opened = opened + 1, last = ?1 WHERE ref = ?2 AND withdrawn = 0 AND "+
			"(most = 0 OR opened < most) "+
			"AND (expires = 0 OR expires > ?1) AND links = (SELECT links FROM submission s WHERE s.id = submission) "+
			"RETURNING id, ref, submission, run, links, body, made, expires, most, opened, last, withdrawn", micros(now), ref)
		all, err := rows(r, err, scanHanded)
		if err != nil || len(all) == 0 {
			return err
		}
		taken = true
		x := all[0]
		return tx.tell(plan.Subject{About: plan.Submission, ID: x.SubmissionID, Run: x.Run},
			register.Fact{Kind: register.Opened, Body: register.FactBody{Record: x.ID}, Words: x.What.Name}, now)
	})
	return taken, err
}

// WithdrawHanded makes the link of a file void.
func (d *DB) WithdrawHanded(ctx context.Context, submission, id int64, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		r, err := tx.Query("UPDATE handed SET withdrawn = 1 WHERE id = ? AND submission = ? RETURNING id, ref, submission, "+
			"run, links, body, made, expires, most, opened, last, withdrawn", id, submission)
		all, err := rows(r, err, scanHanded)
		if err == nil && len(all) == 0 {
			return register.NotFound
		}
		if err != nil {
			return err
		}
		return tx.tell(plan.Subject{About: plan.Submission, ID: submission, Run: all[0].Run},
			register.Fact{Kind: register.Unlinked, Body: register.FactBody{Record: id}, Words: all[0].What.Name}, now)
	})
}
