package sqlite

import (
	"context"
	"database/sql"
	"errors"
	"slices"
	"strings"
	"time"

	"amberseal/app/register"
	"amberseal/core/plan"
)

const jobColumns = `id, about, subject, run, kind, key, name, share, target, lane, state, due, not_before, expires, every,
  attempts, lost, unsure, since, updated, reason, result, body, needs`

func scanJob(r *sql.Rows) (register.Job, error) {
	j, _, err := scanWaiting(r)
	return j, err
}

// scanWaiting reads a job and what it still waits for, a signal a line; and into more what stands behind those columns.
func scanWaiting(r *sql.Rows, more ...any) (j register.Job, needs string, err error) {
	var due, notBefore, expires, every, since, updated int64
	var body string
	err = r.Scan(append([]any{
		&j.ID, &j.Subject.About, &j.Subject.ID, &j.Subject.Run, &j.Kind, &j.Key, &j.Name, &j.Share, &j.Target, &j.Lane, &j.State, &due,
		&notBefore, &expires, &every, &j.Attempts, &j.Lost, &j.Unsure, &since, &updated, &j.Reason, &j.Result, &body, &needs,
	}, more...)...)
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
		err := tx.QueryRow("SELECT 1 FROM job WHERE subject = ? AND run = ? AND kind = ? AND key = ? AND about = ?", s.ID, s.Run, x.Kind,
			x.Key, s.About).
			Scan(&one)
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
	err := tx.QueryRow("SELECT 1 FROM signal WHERE subject = ? AND signal = ? AND run = ? AND about = ?", s.ID, n, s.Run,
		s.About).Scan(&one)
	return err == nil, ignoreNone(err)
}

// void ends jobs, with a fact for each.
func void(tx txn, kind register.FactKind, reason string, now time.Time, where string, args ...any) error {
	r, err := tx.Query(
		"UPDATE job SET state = 'void', needs = '', reason = ?, updated = ? WHERE "+where+" RETURNING "+jobColumns,
		append([]any{reason, micros(now)}, args...)...)
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

// voidSubject leaves the steps of collections, which tell of other subjects too.
func voidSubject(tx txn, s plan.Subject, reason string, now time.Time) error {
	return void(
		tx, register.Voided, reason, now, "subject = ? AND about = ? AND run <= ? AND state NOT IN ('done', 'void') AND NOT "+isCollected,
		s.ID, s.About, s.Run,
	)
}

// isCollected finds steps that plan.Collected made: in no other key is such a word.
const isCollected = "(key LIKE '% collected %')"
