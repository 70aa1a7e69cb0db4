package sqlite

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"amberseal/app/access"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/plan"
)

// end ends a lease, unless somebody else has taken it over or the job was voided.
func end(tx txn, j register.Job, set string, args ...any) (bool, error) {
	done, err := tx.Exec(
		"UPDATE job SET lost = 0, "+set+" WHERE id = ? AND state = 'working' AND attempts = ?",
		append(args, j.ID, j.Attempts)...)
	if err != nil {
		return false, err
	}
	n, err := done.RowsAffected()
	return n == 1, err
}

// again is when a job that recurs is due next: its state and times then.
const again = "state = 'ready', attempts = 0, unsure = 0, due = ?, not_before = ?, since = ?, updated = ?"

func nextTime(j register.Job, now time.Time) []any {
	next := micros(plan.Next(j.Due, j.Every, now))
	return []any{next, next, next, micros(now)}
}

// Finish writes down what came out and releases the jobs that waited for it. What left the house is written down also
// when the job is somebody else's by now, or was voided.
func (d *DB) Finish(ctx context.Context, j register.Job, o work.Outcome, t work.Terms) (released []register.Job, err error) {
	err = d.do(ctx, func(tx txn) error {
		released = nil
		set, args := "state = 'done', reason = '', result = ?, updated = ?", []any{o.Result, micros(t.Now)}
		if j.Every > 0 {
			set, args = "reason = '', result = ?, "+again, append([]any{o.Result}, nextTime(j, t.Now)...)
		}
		held, err := end(tx, j, set, args...)
		if err != nil {
			return err
		}
		if err := keepAll(tx, j, o.Records, held, t.Now); err != nil || !held {
			return err
		}
		if released, err = give(tx, j.Subject, o.Signals, t); err != nil {
			return err
		}
		for _, v := range o.Void {
			if err := void(tx, register.Voided, v.Reason, t.Now, "subject = ? AND about = ? AND run = ? AND kind = ? AND key = ? AND "+
				"state NOT IN ('done', 'void')",
				j.Subject.ID, j.Subject.About, j.Subject.Run, v.Kind, v.Key); err != nil {
				return err
			}
		}
		return insertJobs(tx, j.Subject, j.Share, o.Then, t.Now, false)
	})
	return released, err
}

// keepAll writes down what a job left behind, and that in the history.
func keepAll(tx txn, j register.Job, records []register.Record, held bool, now time.Time) (err error) {
	for _, x := range records {
		if !held && inside(x) {
			continue
		}
		f := x.Fact()
		f.Body.Job = j.ID
		if f.Body.Record, err = keep(tx, j.Subject, x, now); err == nil {
			err = tx.tell(j.Subject, f, now)
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// inside reports whether a record is of something that stays in the house: where the job is somebody else's by now it did not happen.
func inside(x register.Record) bool {
	switch x.(type) {
	case *register.Document, *register.Gathered:
		return true
	}
	return false
}

// Signal gives signals about a subject.
func (d *DB) Signal(ctx context.Context, s plan.Subject, signals []plan.Signal, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		_, err := give(tx, s, signals, work.Terms{Now: now, Room: func(register.Job) bool { return false }})
		return err
	})
}

// give remembers signals and releases what waited for them: what there is room for is leased at once.
func give(tx txn, s plan.Subject, signals []plan.Signal, t work.Terms) (leased []register.Job, err error) {
	for _, n := range signals {
		if _, err := tx.Exec("INSERT OR IGNORE INTO signal (about, subject, run, signal) VALUES (?, ?, ?, ?)", s.About, s.ID, s.Run,
			n); err != nil {
			return nil, err
		}
		where, args := "subject = ? AND run = ? AND about = ? AND state = 'waits'", []any{s.ID, s.Run, s.About}
		if n.House() {
			where, args = "id IN (SELECT job FROM need WHERE signal = ?) AND state = 'waits'", []any{n}
		}
		r, err := tx.Query("SELECT "+jobColumns+" FROM job WHERE "+where+" ORDER BY id", args...)
		type waiting struct {
			register.Job
			needs string
		}
		all, err := rows(r, err, func(r *sql.Rows) (w waiting, err error) { w.Job, w.needs, err = scanWaiting(r); return w, err })
		for _, w := range all {
			needs := strings.Split(w.needs, "\n")
			left := slices.DeleteFunc(slices.Clone(needs), func(x string) bool { return x == string(n) })
			if err != nil || len(left) == len(needs) {
				continue
			}
			var j *register.Job
			if j, err = release(tx, w.Job, left, t); j != nil {
				leased = append(leased, *j)
			}
		}
		if err == nil && n.House() {
			_, err = tx.Exec("DELETE FROM need WHERE signal = ?", n)
		}
		if err != nil {
			return nil, err
		}
	}
	return leased, nil
}

// release leaves a job the signals that it still waits for. One that waits for nothing more is ready, or leased where it is due and
// there is room: then it is given.
func release(tx txn, j register.Job, needs []string, t work.Terms) (*register.Job, error) {
	if len(needs) > 0 {
		_, err := tx.Exec("UPDATE job SET needs = ?, updated = ? WHERE id = ?", strings.Join(needs, "\n"), micros(t.Now), j.ID)
		return nil, err
	}
	j.Due = t.Now
	if j.NotBefore.After(t.Now) {
		j.Due = j.NotBefore
	}
	j.State, j.Since, j.Updated = register.Ready, j.Due, t.Now
	leased := time.Time{}
	if !j.Due.After(t.Now) && t.Room(j) {
		j.State, leased = register.Working, t.Until(j.Kind)
		j.Attempts++
	}
	_, err := tx.Exec("UPDATE job SET needs = '', state = ?, due = ?, since = ?, leased = ?, attempts = ?, updated = ? WHERE id = ?",
		j.State, micros(j.Due), micros(j.Since), micros(leased), j.Attempts, micros(t.Now), j.ID)
	if err != nil || j.State == register.Ready {
		return nil, err
	}
	return &j, nil
}

// keep writes down what a job left behind and gives its number.
func keep(tx txn, s plan.Subject, x register.Record, now time.Time) (id int64, err error) {
	switch x := x.(type) {
	case *register.Document:
		err = tx.QueryRow("INSERT INTO document (submission, revision, key, name, file_name, pages, size, made, code, sha256) VALUES "+
			"(?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10) RETURNING id",
			s.ID, s.Run, x.Key, x.Name, x.FileName, x.Pages, x.Size, micros(x.Made), x.Code, register.Sum(x.PDF)).Scan(&id)
		if err == nil {
			_, err = tx.Exec("INSERT INTO pdf (document, bytes) VALUES (?, ?)", id, x.PDF)
		}
		if err == nil && len(x.Word) > 0 {
			_, err = tx.Exec("INSERT INTO docx (document, bytes) VALUES (?, ?)", id, x.Word)
		}
		return 0, err // its key and its run name it
	case *register.Message:
		return keepMessage(tx, s, x)
	case *register.Gathered:
		return gather(tx, s, x, now)
	case *register.Filed:
		err = tx.QueryRow("SELECT id FROM filed WHERE submission = ? AND path = ? AND destination = ?", s.ID, x.Path,
			x.Destination).Scan(&id)
		if errors.Is(err, sql.ErrNoRows) {
			return id, tx.QueryRow("INSERT INTO filed (submission, path, size, at, destination, title, link, sha256) VALUES "+
				"(?, ?, ?, ?, ?, ?, ?, ?) RETURNING id",
				s.ID, x.Path, x.Size, micros(x.At), x.Destination, x.Title, x.Link, x.SHA256).Scan(&id)
		}
		if err == nil { // filed again under the name that it had, such as a revision in its place
			_, err = tx.Exec("UPDATE filed SET size = ?, at = ?, title = ?, link = ?, sha256 = ?, standing = '' WHERE id = ?",
				x.Size, micros(x.At), x.Title, x.Link, x.SHA256, id)
		}
		return id, err
	case *register.ReminderSent:
		if _, err := tx.Exec("UPDATE draft SET email = '', invited = '' WHERE id = ?", s.ID); err != nil { // it is needed no more
			return 0, err
		}
		return 0, addRecipients(tx, x.To, x.At)
	case *register.InvitationSent:
		if s.About == plan.Invited {
			if _, err := tx.Exec("UPDATE invitation SET sent = ? WHERE id = ?", micros(x.At), s.ID); err != nil {
				return 0, err
			}
		}
		return 0, addRecipients(tx, []string{x.Email}, x.At)
	}
	return 0, fmt.Errorf("a %T cannot be kept", x)
}

// others are those of a message besides whom it is to.
type others struct {
	Copy    []string `json:"copy,omitempty"`
	Blind   []string `json:"blind,omitempty"`
	ReplyTo []string `json:"replyTo,omitempty"`

	FromName string `json:"fromName,omitempty"`
	From     string `json:"from,omitempty"`
}

func keepMessage(tx txn, s plan.Subject, x *register.Message) (id int64, err error) {
	var columns [3][]byte
	besides := others{x.Copy, x.Blind, x.ReplyTo, x.FromName, x.From}
	for i, v := range []any{append([]string{}, x.To...), append([]string{}, x.Attached...), besides} {
		if columns[i], err = json.Marshal(v); err != nil {
			return 0, err
		}
	}
	if err = tx.QueryRow("INSERT INTO message (submission, name, recipients, subject, text, html, attached, sent, others, job, mid) "+
		"VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) RETURNING id",
		s.ID, x.Name, columns[0], x.Subject, x.Text, x.HTML, columns[1], micros(x.Sent), columns[2], x.Job, x.MID).Scan(&id); err != nil {
		return 0, err
	}
	return id, errors.Join(addRecipients(tx, x.Everybody(), x.Sent), toldOf(tx, s, id, x))
}

func addRecipients(tx txn, to []string, sent time.Time) error {
	for _, address := range to {
		if _, err := tx.Exec("INSERT INTO recipient (address, sent) VALUES (?, ?)", address, micros(sent)); err != nil {
			return err
		}
	}
	return nil
}

// SentTo counts the messages to an address since a time within the last day.
func (d *DB) SentTo(ctx context.Context, address string, since time.Time) (int, error) {
	r, err := d.prepared(ctx, "SELECT count(*) FROM recipient WHERE address = ? AND sent >= ?", address, micros(since))
	return one(r, err, func(r *sql.Rows) (n int, err error) { return n, r.Scan(&n) })
}

// Later puts a job back until it is due; an outage does not count as an attempt, nor its time. The history
// tells a reason once, not each time.
func (d *DB) Later(ctx context.Context, j register.Job, p work.Pause, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		since := j.Since
		if p.Outage {
			since = now
		}
		held, err := end(
			tx, j, "state = 'ready', reason = ?, attempts = attempts - ?, unsure = unsure + ?, since = ?, due = max(?, not_before), "+
				"not_before = CASE WHEN ? THEN max(?, not_before) ELSE not_before END, updated = ?",
			p.Reason, p.Outage, p.Unsure, micros(since), micros(p.Due), p.Planned, micros(p.Due), micros(now),
		)
		if err != nil || !held || p.Reason == "" || p.Reason == j.Reason {
			return err
		}
		return tx.tell(j.Subject, register.Fact{Kind: register.PutOff, Body: register.FactBody{Job: j.ID}, Words: p.Reason}, now)
	})
}

// Fail gives a job up; one that recurs is tried at its next time.
func (d *DB) Fail(ctx context.Context, j register.Job, reason string, left []register.Record, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		set, args := "state = 'failed', reason = ?, updated = ?", []any{reason, micros(now)}
		if j.Every > 0 {
			set, args = "reason = ?, "+again, append([]any{reason}, nextTime(j, now)...)
		}
		held, err := end(tx, j, set, args...)
		if err == nil {
			err = keepAll(tx, j, left, held, now)
		}
		if err != nil || !held {
			return err
		}
		f := register.Fact{Kind: register.GivenUp, Body: register.FactBody{Job: j.ID}, Words: reason}
		return errors.Join(tx.tell(j.Subject, f, now), endedOf(tx, j.ID, register.GivenUp, reason, now))
	})
}

// Outages are the targets that do not answer.
func (d *DB) Outages(ctx context.Context) (map[string]work.Outage, error) {
	r, err := d.read.QueryContext(ctx, "SELECT target, since, until, knocks, reason FROM outage")
	out := map[string]work.Outage{}
	_, err = rows(r, err, func(r *sql.Rows) (struct{}, error) {
		var target string
		var o work.Outage
		var since, until int64
		err := r.Scan(&target, &since, &until, &o.Knocks, &o.Reason)
		o.Since, o.Until = moment(since), moment(until)
		out[target] = o
		return struct{}{}, err
	})
	return out, err
}

// SetOutage keeps a target's outage; the zero one ends it.
func (d *DB) SetOutage(ctx context.Context, target string, o work.Outage) error {
	return d.do(ctx, func(tx txn) error {
		if o.Knocks == 0 {
			_, err := tx.Exec("DELETE FROM outage WHERE target = ?", target)
			return err
		}
		_, err := tx.Exec(`INSERT INTO outage (target, since, until, knocks, reason) VALUES (?, ?, ?, ?, ?)
		  ON CONFLICT (target) DO UPDATE SET since = excluded.since, until = excluded.until, knocks = excluded.knocks, reason = `+
			`excluded.reason`,
			target, micros(o.Since), micros(o.Until), o.Knocks, o.Reason)
		return err
	})
}

const tryNow = "UPDATE job SET state = 'ready', attempts = 0, lost = 0, unsure = 0, due = max(?1, not_before), since = ?1, updated = " +
	"?1 WHERE "

// Retry makes a failed or waiting job of a submission due now, at somebody's wish.
func (d *DB) Retry(ctx context.Context, submission, job int64, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		r, err := tx.Query(
			tryNow+"id = ?2 AND subject = ?3 AND about = 'submission' AND state IN ('failed', 'ready') RETURNING "+jobColumns,
			micros(now), job,
			submission,
		)
		tried, err := rows(r, err, scanJob)
		if err != nil || len(tried) == 0 {
			return errors.Join(err, noneFound(len(tried)))
		}
		return tx.tell(tried[0].Subject, register.Fact{Kind: register.Retried, Body: register.FactBody{Job: job}}, now)
	})
}

// noneFound is the error of a change that found nothing to be changed.
func noneFound(n int) error {
	if n == 0 {
		return register.NotFound
	}
	return nil
}

// RetryAll makes all failed jobs of submissions due now, of one intake where it is not 0, and says how many those are. Jobs for which
// a letter may have arrived wait for a decision of their own.
func (d *DB) RetryAll(ctx context.Context, scope access.Scope, intake int64, now time.Time) (int, error) {
	count := 0
	err := d.do(ctx, func(tx txn) error {
		where, args := among([]string{"state = 'failed' AND about = 'submission' AND unsure = 0"}, []any{micros(now)}, "share", scope)
		if intake != 0 {
			where, args = append(where, "share = ?"), append(args, intake)
		}
		r, err := tx.Query(tryNow+strings.Join(where, " AND ")+" RETURNING "+jobColumns, args...)
		jobs, err := rows(r, err, scanJob)
		if err != nil {
			return err
		}
		count = len(jobs)
		told := map[int64]bool{}
		for _, j := range jobs {
			if !told[j.Subject.ID] {
				told[j.Subject.ID] = true
				if err := tx.tell(j.Subject, register.Fact{Kind: register.Retried, Body: register.FactBody{All: true}}, now); err != nil {
					return err
				}
			}
		}
		return nil
	})
	return count, err
}
