package sqlite

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"sync"
	"time"

	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/plan"
)

const jobColumns = `id, about, subject, run, kind, key, name, share, target, lane, state, due, not_before, expires, every,
  attempts, lost, unsure, since, updated, reason, result, body, needs`

func scanJob(r *sql.Rows) (register.Job, error) {
	j, _, err := scanWaiting(r)
	return j, err
}

// scanWaiting reads a job and what it still waits for, a signal a line.
func scanWaiting(r *sql.Rows) (j register.Job, needs string, err error) {
	var due, notBefore, expires, every, since, updated int64
	var body string
	err = r.Scan(&j.ID, &j.Subject.About, &j.Subject.ID, &j.Subject.Run, &j.Kind, &j.Key, &j.Name, &j.Share, &j.Target, &j.Lane, &j.State, &due, &notBefore, &expires, &every,
		&j.Attempts, &j.Lost, &j.Unsure, &since, &updated, &j.Reason, &j.Result, &body, &needs)
	j.Due, j.NotBefore, j.Expires, j.Every = moment(due), moment(notBefore), moment(expires), time.Duration(every)*time.Microsecond
	j.Since, j.Updated, j.Body = moment(since), moment(updated), []byte(body)
	return j, needs, err
}

// Jobs lists those of a submission's present revision in the order of their plan.
func (d *DB) Jobs(ctx context.Context, submission int64) ([]register.Job, error) {
	r, err := d.prepared(ctx, "SELECT "+jobColumns+` FROM job WHERE subject = ?1 AND about = 'submission'
	  AND run = (SELECT revision FROM submission WHERE id = ?1) ORDER BY id`, submission)
	return rows(r, err, scanJob)
}

// Plan keeps the steps of a subject, but for those that it has.
func (d *DB) Plan(ctx context.Context, s plan.Subject, share int64, steps []plan.Step, now time.Time) error {
	return d.do(ctx, func(tx txn) error { return insertJobs(tx, s, share, steps, now, false) })
}

// insertJobs adds all steps in one statement, and what they wait for in another: there is one for each number of them.
// A subject that is new has no jobs yet, and no signal was given about it.
func insertJobs(tx txn, s plan.Subject, share int64, steps []plan.Step, now time.Time, isNew bool) error {
	if !isNew {
		var err error
		if steps, err = unplanned(tx, s, steps); err != nil {
			return err
		}
	}
	if len(steps) == 0 {
		return nil
	}
	jobs := "INSERT INTO job (about, subject, run, share, since, updated, due, kind, key, name, target, lane, state, needs, body) VALUES "
	common, own := "(?1, ?2, ?3, ?4, ?5, ?5, ?5, ", 8
	timed := slices.ContainsFunc(steps, func(x plan.Step) bool { return !x.NotBefore.IsZero() || !x.Expires.IsZero() || x.Every > 0 })
	if timed { // most are not, and many come at once
		jobs = strings.Replace(jobs, "updated, due, ", "updated, ", 1)
		jobs = strings.Replace(jobs, "body)", "body, due, not_before, expires, every)", 1)
		common, own = "(?1, ?2, ?3, ?4, ?5, ?5, ", 12
	}
	at := micros(now)
	args := []any{s.About, s.ID, s.Run, share, at}
	waits := make([][]plan.Signal, len(steps))
	for i, x := range steps {
		for _, n := range x.Needs {
			given := false
			if !isNew || n.House() {
				var err error
				if given, err = isGiven(tx, needOf(n, s), n); err != nil {
					return err
				}
			}
			if !given {
				waits[i] = append(waits[i], n)
			}
		}
		state := register.Ready
		if len(waits[i]) > 0 {
			state = register.Waits
		}
		args = append(args, x.Kind, x.Key, x.Name, x.Target, x.Lane, state, lines(waits[i]), string(x.Body))
		if timed {
			args = append(args, max(at, micros(x.NotBefore)), micros(x.NotBefore), micros(x.Expires), x.Every.Microseconds())
		}
	}
	done, err := tx.Exec(jobs+strings.ReplaceAll(places(len(steps), own), "(", common), args...)
	if err != nil {
		return err
	}
	last, err := done.LastInsertId()
	for i := range steps {
		for _, n := range waits[i] {
			if n.House() && err == nil {
				// SQLite numbers the rows of a statement one after the other.
				_, err = tx.Exec("INSERT INTO need (signal, job) VALUES (?, ?)", n, last-int64(len(steps)-1-i))
			}
		}
	}
	return err
}

// lines are signals as they are kept.
func lines(all []plan.Signal) string {
	switch len(all) {
	case 0:
		return ""
	case 1:
		return string(all[0])
	}
	text := make([]string, len(all))
	for i, n := range all {
		text[i] = string(n)
	}
	return strings.Join(text, "\n")
}

// unplanned are the steps of a subject that it has no jobs of.
func unplanned(tx txn, s plan.Subject, steps []plan.Step) ([]plan.Step, error) {
	var out []plan.Step
	for _, x := range steps {
		var one int
		err := tx.QueryRow("SELECT 1 FROM job WHERE subject = ? AND run = ? AND kind = ? AND key = ? AND about = ?", s.ID, s.Run, x.Kind, x.Key, s.About).Scan(&one)
		if errors.Is(err, sql.ErrNoRows) {
			out = append(out, x)
		} else if err != nil {
			return nil, err
		}
	}
	return out, nil
}

// places are n rows of placeholders.
func places(n, wide int) string {
	row := "(?" + strings.Repeat(", ?", wide-1) + ")"
	return row + strings.Repeat(", "+row, n-1)
}

// needOf is the subject of a signal that a job about a subject waits for: its own run, or the house.
func needOf(n plan.Signal, s plan.Subject) plan.Subject {
	if n.House() {
		return plan.Subject{About: plan.House}
	}
	return s
}

func isGiven(tx txn, s plan.Subject, n plan.Signal) (bool, error) {
	var one int
	err := tx.QueryRow("SELECT 1 FROM signal WHERE subject = ? AND signal = ? AND run = ? AND about = ?", s.ID, n, s.Run, s.About).Scan(&one)
	return err == nil, ignoreNone(err)
}

// Claim leases jobs that are due, while there is room.
func (d *DB) Claim(ctx context.Context, t work.Terms) ([]register.Job, error) {
	if err := d.expire(ctx, t.Now); err != nil {
		return nil, err
	}
	chosen, err := d.choose(ctx, t)
	if err != nil || len(chosen) == 0 {
		return nil, err
	}
	var jobs []register.Job
	err = d.do(ctx, func(tx txn) error {
		jobs = nil
		for _, j := range chosen {
			r, err := tx.Query("UPDATE job SET state = 'working', attempts = attempts + 1, leased = ?, updated = ? WHERE id = ? AND state = 'ready' RETURNING "+jobColumns,
				micros(t.Until(j.Kind)), micros(t.Now), j.ID)
			got, err := rows(r, err, scanJob)
			if err != nil {
				return err
			}
			jobs = append(jobs, got...)
		}
		return nil
	})
	return jobs, err
}

// choose looks for jobs that are due and takes room for them.
func (d *DB) choose(ctx context.Context, t work.Terms) ([]register.Job, error) {
	r, err := d.prepared(ctx, targetsOfReady+"SELECT target FROM x WHERE target IS NOT NULL")
	targets, err := rows(r, err, func(r *sql.Rows) (target string, err error) { return target, r.Scan(&target) })
	var chosen []register.Job
	for _, lane := range t.Lanes {
		for _, target := range targets {
			if err != nil {
				break
			}
			var some []register.Job
			some, err = d.inTurn(ctx, line{target, lane}, t)
			chosen = append(chosen, some...)
		}
	}
	return chosen, err
}

// targetsOfReady walks over the index of ready jobs in steps, one target after the other.
const targetsOfReady = `WITH RECURSIVE x (target) AS (SELECT min(target) FROM job WHERE state = 'ready'
  UNION ALL SELECT (SELECT min(target) FROM job WHERE state = 'ready' AND target > x.target) FROM x WHERE x.target IS NOT NULL) `

// line is a lane before a target.
type line struct {
	target string
	lane   plan.Lane
}

// inTurn takes jobs of a line, one of each share after the other, beginning behind the share that was the last one before.
func (d *DB) inTurn(ctx context.Context, l line, t work.Terms) ([]register.Job, error) {
	r, err := d.prepared(ctx, `WITH RECURSIVE x (share) AS (
	  SELECT min(share) FROM job WHERE state = 'ready' AND target = ?1 AND lane = ?2
	  UNION ALL SELECT (SELECT min(share) FROM job WHERE state = 'ready' AND target = ?1 AND lane = ?2 AND share > x.share) FROM x WHERE x.share IS NOT NULL)
	  SELECT share FROM x WHERE share IS NOT NULL AND EXISTS (SELECT 1 FROM job WHERE state = 'ready' AND target = ?1 AND lane = ?2 AND share = x.share AND due <= ?3)
	  ORDER BY share <= ?4, share`, l.target, l.lane, micros(t.Now), d.turns.last(l))
	shares, err := rows(r, err, func(r *sql.Rows) (share int64, err error) { return share, r.Scan(&share) })
	var chosen []register.Job
	for round := 0; len(shares) > 0 && err == nil; round++ {
		left := shares[:0]
		for _, share := range shares {
			r, err := d.prepared(ctx, "SELECT "+jobColumns+" FROM job WHERE state = 'ready' AND target = ? AND lane = ? AND share = ? AND due <= ? ORDER BY due LIMIT 1 OFFSET ?",
				l.target, l.lane, share, micros(t.Now), round)
			due, err := rows(r, err, scanJob)
			if err != nil {
				return chosen, err
			}
			if len(due) == 0 {
				continue
			}
			left = append(left, share)
			if t.Room(due[0]) {
				chosen = append(chosen, due[0])
				d.turns.took(l, share)
			} else if due[0].Lost == 0 {
				return chosen, nil
			}
		}
		shares = left
	}
	return chosen, err
}

// expire makes void what is past its time.
func (d *DB) expire(ctx context.Context, now time.Time) error {
	r, err := d.prepared(ctx, "SELECT 1 FROM job WHERE expires > 0 AND state IN ('waits', 'ready') AND expires <= ? LIMIT 1", micros(now))
	if _, err := one(r, err, func(r *sql.Rows) (any int, err error) { return any, r.Scan(&any) }); err != nil {
		return ignoreNone(err)
	}
	return d.do(ctx, func(tx txn) error {
		return void(tx, register.Expired, "Its time was over.", now, "expires > 0 AND state IN ('waits', 'ready') AND expires <= ?", micros(now))
	})
}

// void ends jobs, with a fact for each.
func void(tx txn, kind register.FactKind, reason string, now time.Time, where string, args ...any) error {
	r, err := tx.Query("UPDATE job SET state = 'void', needs = '', reason = ?, updated = ? WHERE "+where+" RETURNING "+jobColumns, append([]any{reason, micros(now)}, args...)...)
	ended, err := rows(r, err, scanJob)
	for _, j := range ended {
		if err != nil {
			return err
		}
		f := register.Fact{Kind: kind, Body: register.FactBody{Job: j.ID}}
		if kind == register.Voided {
			f.Words = reason
		}
		err = tx.tell(j.Subject, f, now)
	}
	return err
}

// Void ends the jobs of a subject that are not done, up to its run.
func (d *DB) Void(ctx context.Context, s plan.Subject, reason string, now time.Time) error {
	return d.do(ctx, func(tx txn) error { return voidSubject(tx, s, reason, now) })
}

func voidSubject(tx txn, s plan.Subject, reason string, now time.Time) error {
	return void(tx, register.Voided, reason, now, "subject = ? AND about = ? AND run <= ? AND state NOT IN ('done', 'void')", s.ID, s.About, s.Run)
}

// NextDue is when the next job becomes due after a time, or is past its time.
func (d *DB) NextDue(ctx context.Context, after time.Time) (time.Time, bool, error) {
	r, err := d.prepared(ctx, targetsOfReady+`, y (target, lane, share) AS (
	  SELECT target, lane, (SELECT min(share) FROM job WHERE state = 'ready' AND target = x.target AND lane = l.lane)
	    FROM x, (SELECT 0 AS lane UNION ALL SELECT 1) l WHERE x.target IS NOT NULL
	  UNION ALL SELECT target, lane, (SELECT min(share) FROM job WHERE state = 'ready' AND target = y.target AND lane = y.lane AND share > y.share)
	    FROM y WHERE y.share IS NOT NULL)
	  SELECT min(due) FROM (SELECT (SELECT min(due) FROM job WHERE state = 'ready' AND target = y.target AND lane = y.lane AND share = y.share AND due > ?1) AS due
	      FROM y WHERE y.share IS NOT NULL
	    UNION ALL SELECT min(expires) FROM job WHERE expires > 0 AND state IN ('waits', 'ready'))`, micros(after))
	due, err := one(r, err, func(r *sql.Rows) (at sql.NullInt64, err error) { return at, r.Scan(&at) })
	return moment(due.Int64), due.Valid, err
}

// end ends a lease, unless somebody else has taken it over or the job was voided.
func end(tx txn, j register.Job, set string, args ...any) (bool, error) {
	done, err := tx.Exec("UPDATE job SET lost = 0, "+set+" WHERE id = ? AND state = 'working' AND attempts = ?", append(args, j.ID, j.Attempts)...)
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
		for _, x := range o.Records {
			if _, inside := x.(*register.Document); inside && !held {
				continue
			}
			f := x.Fact()
			f.Body.Job = j.ID
			if f.Body.Record, err = keep(tx, j.Subject, x); err == nil {
				err = tx.tell(j.Subject, f, t.Now)
			}
			if err != nil {
				return err
			}
		}
		if !held {
			return nil
		}
		if released, err = give(tx, j.Subject, o.Signals, t); err != nil {
			return err
		}
		for _, v := range o.Void {
			if err := void(tx, register.Voided, v.Reason, t.Now, "subject = ? AND about = ? AND run = ? AND kind = ? AND key = ? AND state NOT IN ('done', 'void')",
				j.Subject.ID, j.Subject.About, j.Subject.Run, v.Kind, v.Key); err != nil {
				return err
			}
		}
		return insertJobs(tx, j.Subject, j.Share, o.Then, t.Now, false)
	})
	return released, err
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
		if _, err := tx.Exec("INSERT OR IGNORE INTO signal (about, subject, run, signal) VALUES (?, ?, ?, ?)", s.About, s.ID, s.Run, n); err != nil {
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
func keep(tx txn, s plan.Subject, x register.Record) (id int64, err error) {
	switch x := x.(type) {
	case *register.Document:
		err = tx.QueryRow("INSERT INTO document (submission, revision, key, name, file_name, pages, size, made, code, sha256) VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10) RETURNING id",
			s.ID, s.Run, x.Key, x.Name, x.FileName, x.Pages, x.Size, micros(x.Made), x.Code, sumOf(x.PDF)).Scan(&id)
		if err == nil {
			_, err = tx.Exec("INSERT INTO pdf (document, bytes) VALUES (?, ?)", id, x.PDF)
		}
		return 0, err // its key and its run name it
	case *register.Message:
		to, err := json.Marshal(x.To)
		if err != nil {
			return 0, err
		}
		attached, err := json.Marshal(append([]string{}, x.Attached...))
		if err != nil {
			return 0, err
		}
		if err = tx.QueryRow("INSERT INTO message (submission, name, recipients, subject, text, html, attached, sent) VALUES (?, ?, ?, ?, ?, ?, ?, ?) RETURNING id",
			s.ID, x.Name, to, x.Subject, x.Text, x.HTML, attached, micros(x.Sent)).Scan(&id); err != nil {
			return 0, err
		}
		return id, addRecipients(tx, x.To, x.Sent)
	case *register.Filed:
		err = tx.QueryRow("SELECT id FROM filed WHERE submission = ? AND path = ?", s.ID, x.Path).Scan(&id)
		if errors.Is(err, sql.ErrNoRows) {
			err = tx.QueryRow("INSERT INTO filed (submission, path, size, at) VALUES (?, ?, ?, ?) RETURNING id", s.ID, x.Path, x.Size, micros(x.At)).Scan(&id)
		}
		return id, err
	case *register.InvitationSent:
		if _, err := tx.Exec("UPDATE invitation SET sent = ? WHERE id = ?", micros(x.At), s.ID); err != nil {
			return 0, err
		}
		return 0, addRecipients(tx, []string{x.Email}, x.At)
	}
	return 0, fmt.Errorf("a %T cannot be kept", x)
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
		held, err := end(tx, j, "state = 'ready', reason = ?, attempts = attempts - ?, unsure = unsure + ?, since = ?, due = max(?, not_before), updated = ?",
			p.Reason, p.Outage, p.Unsure, micros(since), micros(p.Due), micros(now))
		if err != nil || !held || p.Reason == "" || p.Reason == j.Reason {
			return err
		}
		return tx.tell(j.Subject, register.Fact{Kind: register.PutOff, Body: register.FactBody{Job: j.ID}, Words: p.Reason}, now)
	})
}

// Fail gives a job up; one that recurs is tried at its next time.
func (d *DB) Fail(ctx context.Context, j register.Job, reason string, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		set, args := "state = 'failed', reason = ?, updated = ?", []any{reason, micros(now)}
		if j.Every > 0 {
			set, args = "reason = ?, "+again, append([]any{reason}, nextTime(j, now)...)
		}
		held, err := end(tx, j, set, args...)
		if err != nil || !held {
			return err
		}
		return tx.tell(j.Subject, register.Fact{Kind: register.GivenUp, Body: register.FactBody{Job: j.ID}, Words: reason}, now)
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
		  ON CONFLICT (target) DO UPDATE SET since = excluded.since, until = excluded.until, knocks = excluded.knocks, reason = excluded.reason`,
			target, micros(o.Since), micros(o.Until), o.Knocks, o.Reason)
		return err
	})
}

// Reclaim takes back the leases of a program that ended without finishing its jobs. What was lost waits ten seconds after each
// start for each time that it was, so that what ends the program does not keep the others from their work, and nothing is blamed
// for a program that somebody kills again and again; after mostLost times it is given up.
func (d *DB) Reclaim(ctx context.Context, now time.Time, mostLost int) error {
	return d.do(ctx, func(tx txn) error {
		for _, q := range []string{
			"UPDATE job SET state = 'ready', due = ?1, lost = lost + 1 WHERE state NOT IN ('done', 'void') AND state = 'working'",
			"UPDATE job SET due = max(due, ?1 + lost * 10000000) WHERE state NOT IN ('done', 'void') AND state = 'ready' AND lost > 0",
		} {
			if _, err := tx.Exec(q, micros(now)); err != nil {
				return err
			}
		}
		reason := fmt.Sprintf("The program ended %d times while it was doing this, so that it may be what ends it. Look into the log before you try it again.", mostLost)
		r, err := tx.Query("UPDATE job SET state = 'failed', lost = 0, reason = ?, updated = ? WHERE state NOT IN ('done', 'void') AND state = 'ready' AND lost >= ? RETURNING "+jobColumns, reason, micros(now), mostLost)
		given, err := rows(r, err, scanJob)
		for _, j := range given {
			err = errors.Join(err, tx.tell(j.Subject, register.Fact{Kind: register.GivenUp, Body: register.FactBody{Job: j.ID}, Words: reason}, now))
		}
		return err
	})
}

// Lapse takes back leases that ran out.
func (d *DB) Lapse(ctx context.Context, now time.Time) error {
	var n int
	if err := d.read.QueryRowContext(ctx, "SELECT count(*) FROM job WHERE state NOT IN ('done', 'void') AND state = 'working' AND leased <= ?", micros(now)).Scan(&n); err != nil || n == 0 {
		return err
	}
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("UPDATE job SET state = 'ready', due = max(?1, not_before) WHERE state NOT IN ('done', 'void') AND state = 'working' AND leased <= ?1", micros(now))
		return err
	})
}

// PullBack makes jobs due at a time that are due later and were not planned for later: a clock that fell would put them off.
func (d *DB) PullBack(ctx context.Context, latest time.Time) error {
	return d.do(ctx, func(tx txn) error {
		at := micros(latest)
		if _, err := tx.Exec("UPDATE job SET due = max(?1, not_before) WHERE state NOT IN ('done', 'void') AND state = 'ready' AND unsure = 0 AND due > max(?1, not_before)", at); err != nil {
			return err
		}
		_, err := tx.Exec("UPDATE outage SET until = ?1 WHERE until > ?1", at)
		return err
	})
}

const tryNow = "UPDATE job SET state = 'ready', attempts = 0, lost = 0, unsure = 0, due = max(?1, not_before), since = ?1, updated = ?1 WHERE "

// Retry makes a failed or waiting job of a submission due now, at somebody's wish.
func (d *DB) Retry(ctx context.Context, submission, job int64, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		r, err := tx.Query(tryNow+"id = ?2 AND subject = ?3 AND about = 'submission' AND state IN ('failed', 'ready') RETURNING "+jobColumns, micros(now), job, submission)
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
func (d *DB) RetryAll(ctx context.Context, intake int64, now time.Time) (int, error) {
	count := 0
	err := d.do(ctx, func(tx txn) error {
		r, err := tx.Query(tryNow+"state = 'failed' AND about = 'submission' AND unsure = 0 AND (?2 = 0 OR share = ?2) RETURNING "+jobColumns, micros(now), intake)
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

// turns remember whose turn was the last one in each line.
type turns struct {
	mu sync.Mutex
	of map[line]int64
}

func (t *turns) last(l line) int64 {
	t.mu.Lock()
	defer t.mu.Unlock()
	return t.of[l]
}

func (t *turns) took(l line, share int64) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if t.of == nil {
		t.of = map[line]int64{}
	}
	t.of[l] = share
}
