package sqlite

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"time"

	"amberseal/app/receive"
	"amberseal/app/remind"
	"amberseal/core/ask/form"
	"amberseal/core/link"
	"amberseal/core/plan"
)

// SaveDraft keeps answers that are not handed in. Only a fresh token makes a new entry: with another one an entry is changed that
// is there.
func (d *DB) SaveDraft(ctx context.Context, intake int64, token string, fresh bool, answers form.Raw, now time.Time) error {
	body, err := json.Marshal(answers)
	if err != nil {
		return err
	}
	return d.do(ctx, func(tx txn) error {
		if fresh {
			ref, _ := link.Ref(token)
			_, err := tx.Exec("INSERT INTO draft (hash, ref, intake, answers, updated) VALUES (?, ?, ?, ?, ?)", hashed(token), ref, intake,
				body, micros(now))
			return err
		}
		var id int64
		return found(tx.QueryRow("UPDATE draft SET answers = ?, updated = ? WHERE hash = ? AND intake = ? RETURNING id", body, micros(now),
			hashed(token), intake).Scan(&id))
	})
}

// Draft gives answers that were kept.
func (d *DB) Draft(ctx context.Context, intake int64, token string) (form.Raw, error) {
	var body string
	if err := d.read.QueryRowContext(ctx, "SELECT answers FROM draft WHERE hash = ? AND intake = ?", hashed(token),
		intake).Scan(&body); err != nil {
		return nil, found(err)
	}
	var raw form.Raw
	return raw, json.Unmarshal([]byte(body), &raw)
}

// Remind plans the letter that reminds of kept answers, in the place of one before.
func (d *DB) Remind(ctx context.Context, intake int64, token string, r receive.Reminder, letter []plan.Step, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		var waiting int
		err := tx.QueryRow("SELECT count(*) FROM draft WHERE email = ? AND hash <> ?", r.Email, hashed(token)).Scan(&waiting)
		if err != nil {
			return err
		}
		if waiting >= receive.MostReminders {
			return receive.ErrReminders
		}
		subject := plan.Subject{About: plan.Draft}
		err = tx.QueryRow("UPDATE draft SET email = ?, language = ?, invited = ?, updated = ?, run = run + 1 WHERE hash = ? AND "+
			"intake = ? AND ref <> '' RETURNING id, run", r.Email, r.Language, r.Invited, micros(now), hashed(token), intake).
			Scan(&subject.ID, &subject.Run)
		if err != nil {
			return found(err)
		}
		if err := voidSubject(tx, subject, "Another reminder was asked for.", now); err != nil {
			return err
		}
		return insertJobs(tx, subject, intake, letter, now, true)
	})
}

// Reminded gives the kept answers of which somebody is to be reminded, without what was answered.
func (d *DB) Reminded(ctx context.Context, id int64) (remind.Draft, error) {
	x := remind.Draft{ID: id}
	err := d.read.QueryRowContext(ctx, "SELECT ref, intake, email, language, invited FROM draft WHERE id = ?", id).
		Scan(&x.Ref, &x.IntakeID, &x.Email, &x.Language, &x.Invited)
	return x, found(err)
}

// endDraft forgets a draft that was handed in; nobody is reminded of it.
func endDraft(tx txn, intake int64, token string, now time.Time) error {
	subject := plan.Subject{About: plan.Draft}
	err := tx.QueryRow("DELETE FROM draft WHERE hash = ? AND intake = ? RETURNING id, run", hashed(token), intake).
		Scan(&subject.ID, &subject.Run)
	switch {
	case errors.Is(err, sql.ErrNoRows):
		return nil
	case err != nil || subject.Run == 0:
		return err
	}
	return voidSubject(tx, subject, "It was handed in.", now)
}

// endReminders lets addresses be reminded of nothing more of an intake: what they kept may have come from the device it was kept on.
func endReminders(tx txn, a receive.Arrival) error {
	for _, address := range a.Reminded {
		r, err := tx.Query("UPDATE draft SET email = '', invited = '' WHERE email = ? AND intake = ? RETURNING id, run", address,
			a.Published.IntakeID)
		all, err := rows(r, err, func(r *sql.Rows) (s plan.Subject, err error) {
			s.About = plan.Draft
			return s, r.Scan(&s.ID, &s.Run)
		})
		for _, s := range all {
			if err == nil {
				err = voidSubject(tx, s, "It was handed in.", a.Received)
			}
		}
		if err != nil {
			return err
		}
	}
	return nil
}
