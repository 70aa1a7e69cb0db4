package sqlite

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"time"
	"unicode"

	"amberseal/app/access"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/core/intake"
	"amberseal/core/plan"
)

// Accept takes a submission in: its number, answers, words and steps in one commit.
func (d *DB) Accept(ctx context.Context, a receive.Arrival) (receive.Kept, error) {
	kept := receive.Kept{Ref: a.Ref, Links: 1}
	answers, err := bodyOf(a)
	if err != nil {
		return kept, err
	}
	err = d.do(ctx, func(tx txn) error {
		if a.Once != "" {
			var before receive.Kept
			var hash string
			err := tx.QueryRow("SELECT number, ref, links, body_hash FROM submission WHERE intake = ? AND once = ?", a.Published.IntakeID,
				a.Once).
				Scan(&before.Number, &before.Ref, &before.Links, &hash)
			if err == nil {
				if hash != answers.hash {
					return receive.ErrOtherBody
				}
				kept = before
				return nil
			}
			if !errors.Is(err, sql.ErrNoRows) {
				return err
			}
		}
		if err := within(tx, a); err != nil {
			return err
		}
		var n int64
		err := tx.QueryRow("INSERT INTO counter (intake, series, n) VALUES (?, ?, 1) ON CONFLICT (intake, series) DO UPDATE SET n = n + "+
			"1 RETURNING n", a.Published.IntakeID, a.Series).
			Scan(&n)
		if err != nil {
			return err
		}
		if a.Draft != "" {
			if err := endDraft(tx, a.Published.IntakeID, a.Draft, a.Received); err != nil {
				return err
			}
		}
		if err := endReminders(tx, a); err != nil {
			return err
		}
		kept.Number = a.NumberOf(n)
		return insertSubmission(tx, a, kept.Number, answers)
	})
	return kept, err
}

// body is answers as they are kept. The hash tells two bodies apart by the answers' meaning: JSON writes maps in order of keys.
type body struct {
	text []byte
	hash string
}

func bodyOf(a receive.Arrival) (body, error) {
	text, err := json.Marshal(a.Answers)
	sum := sha256.Sum256(text)
	return body{text, hex.EncodeToString(sum[:])}, err
}

// Correct puts corrected answers in the place of a submission's as its next revision, which it gives: what was not done of
// the one before is void, and the steps are those of the arrival. What was made and sent before stays. Equal answers change nothing.
func (d *DB) Correct(ctx context.Context, a receive.Arrival, id int64) (revision int, err error) {
	answers, err := bodyOf(a)
	if err != nil {
		return 0, err
	}
	err = d.do(ctx, func(tx txn) error {
		var number, hash string
		err := tx.QueryRow("SELECT number, body_hash, revision FROM submission WHERE id = ? AND intake = ?", id, a.Published.IntakeID).
			Scan(&number, &hash, &revision)
		if err != nil {
			return found(err)
		}
		if hash == answers.hash {
			return nil
		}
		if revision > receive.MostCorrections {
			return receive.ErrCorrections
		}
		if err := unlike(tx, a, id); err != nil {
			return err
		}
		if err := voidSubject(tx, plan.Subject{About: plan.Submission, ID: id, Run: revision}, a.Void, a.Received); err != nil {
			return err
		}
		for _, q := range []string{"DELETE FROM unique_answer WHERE submission = ?", "DELETE FROM submission_words WHERE rowid = ?"} {
			if _, err := tx.Exec(q, id); err != nil {
				return err
			}
		}
		if _, err := tx.Exec("UPDATE submission SET version = ?, person = ?, answers = ?, body_hash = ?, own = ?, language = ?, "+
			"revision = revision + 1 WHERE id = ?",
			a.Published.Version, a.Person, answers.text, answers.hash, a.Own, a.Language, id); err != nil {
			return err
		}
		revision++
		if _, err := tx.Exec("UPDATE job SET run = ?1 WHERE subject = ?2 AND about = 'submission' AND run < ?1 AND state NOT IN "+
			"('done', 'void') AND "+isCollected, revision, id); err != nil {
			return err // what is collected goes on, and is seen where the submission is
		}
		return attach(tx, a, id, revision, number)
	})
	return revision, err
}

// within holds the submission against what the intake allows: its limit, and answers that no two submissions share.
func within(tx txn, a receive.Arrival) error {
	if a.Limit > 0 {
		var n int
		if err := tx.QueryRow("SELECT coalesce(sum(n), 0) FROM counter WHERE intake = ?", a.Published.IntakeID).Scan(&n); err != nil {
			return err
		}
		if n >= a.Limit {
			return receive.ErrFull
		}
	}
	return unlike(tx, a, 0)
}

// unlike refuses answers that another submission has given and that can be given once.
func unlike(tx txn, a receive.Arrival, own int64) error {
	for _, u := range a.Unique {
		var one int
		err := tx.QueryRow("SELECT 1 FROM unique_answer WHERE intake = ? AND field = ? AND value = ? AND submission <> ?",
			a.Published.IntakeID, u.Field, u.Value, own).
			Scan(&one)
		if err == nil {
			return receive.Taken{Field: u.Field}
		}
		if !errors.Is(err, sql.ErrNoRows) {
			return err
		}
	}
	return nil
}

func insertSubmission(tx txn, a receive.Arrival, number string, answers body) error {
	once := sql.NullString{String: a.Once, Valid: a.Once != ""}
	at := micros(a.Received)
	done, err := tx.Exec(
		"INSERT INTO submission (intake, version, number, person, ref, answers, received, once, body_hash, own, language) VALUES "+
			"(?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
		a.Published.IntakeID, a.Published.Version, number, a.Person, a.Ref, answers.text, at, once, answers.hash, a.Own, a.Language,
	)
	if err != nil {
		return err
	}
	id, err := done.LastInsertId()
	if err != nil {
		return err
	}
	tx.end.counted = append(tx.end.counted, a.Published.IntakeID)
	if a.Invited != "" {
		if err := useInvitation(tx, a.Published.IntakeID, id, a.Invited); err != nil {
			return err
		}
	}
	return attach(tx, a, id, 1, number)
}

// attach adds what hangs on a revision of a submission: its words, jobs, files, answers that can be given once, and a line of its
// history.
func attach(tx txn, a receive.Arrival, id int64, revision int, number string) error {
	tx.find(id, a.Published.IntakeID, number+"\n"+a.Words)
	subject := plan.Subject{About: plan.Submission, ID: id, Run: revision}
	if err := insertJobs(tx, subject, a.Published.IntakeID, a.Steps, a.Received, true); err != nil {
		return err
	}
	if err := takeUploads(tx, id, a.Answers.Files()); err != nil {
		return err
	}
	for _, u := range a.Unique {
		if _, err := tx.Exec("INSERT INTO unique_answer (intake, field, value, submission) VALUES (?, ?, ?, ?)", a.Published.IntakeID,
			u.Field, u.Value, id); err != nil {
			return err
		}
	}
	return tx.tell(subject, a.Fact, a.Received)
}

const submissionColumns = "s.id, s.intake, i.name, i.slug, s.version, s.number, s.person, s.ref, s.links, s.answers, s.received, " +
	"s.revision, s.own, s.language"

func scanSubmission(r scanner) (register.Submission, error) {
	var s register.Submission
	var answers string
	var received int64
	err := r.Scan(
		&s.ID, &s.IntakeID, &s.IntakeName, &s.Slug, &s.Version, &s.Number, &s.Person, &s.Ref, &s.Links, &answers, &received, &s.Revision,
		&s.Own, &s.Language,
	)
	if err != nil {
		return s, found(err)
	}
	s.Received = moment(received)
	return s, json.Unmarshal([]byte(answers), &s.Answers)
}

// The submissions of which a job is open, and those of which one failed.
const (
	openOnes = "SELECT subject FROM job WHERE state NOT IN ('done', 'void') AND about = 'submission' AND " + nowOrPast
	// What was planned for later and was not touched yet leaves nothing unfinished.
	nowOrPast = "NOT (not_before > 0 AND state = 'ready' AND attempts = 0 AND reason = '') AND " +
		"NOT (state = 'waits' AND " + isCollected + ")"
	failedOnes = "SELECT subject FROM job WHERE state = 'failed' AND about = 'submission'"
)

// Entries gives a page of the register without its answers, the newest first.
func (d *DB) Entries(ctx context.Context, q register.Query) ([]register.Entry, error) {
	from, where, args := "submission s JOIN intake i ON i.id = s.intake", []string{"1"}, []any{}
	order, id := "s.id", "s.id"
	if match := ftsMatch(q); match != "" {
		order, id = "w.rowid", "+w.rowid" // the plus keeps the index of words from being opened anew for each of them
		from = "submission_words w CROSS JOIN submission s ON s.id = w.rowid JOIN intake i ON i.id = s.intake"
		where, args = append(where, "submission_words MATCH ?"), append(args, match)
	}
	where, args = among(where, args, "s.intake", q.Scope)
	if q.Intake != 0 {
		where, args = append(where, "s.intake = ?"), append(args, q.Intake)
	}
	if q.Before != 0 {
		where, args = append(where, order+" < ?"), append(args, q.Before)
	}
	switch q.State { // what is open is new, as a rule: what is older than all of it is not looked through
	case "failed":
		where = append(where, id+" IN ("+failedOnes+")", order+" >= (SELECT min(subject) FROM ("+failedOnes+"))")
	case "unfinished":
		where = append(where, id+" IN ("+openOnes+")", id+" NOT IN ("+failedOnes+")",
			order+" >= (SELECT min(subject) FROM ("+openOnes+"))")
	}
	columns := strings.Replace(submissionColumns, "s.answers", "'{}'", 1) // which a line does not show, and which can be large
	r, err := d.prepared(
		ctx,
		"SELECT "+columns+" FROM "+from+" WHERE "+strings.Join(where, " AND ")+" ORDER BY "+order+" DESC LIMIT ?",
		append(args, q.Limit)...)
	entries, err := rows(r, err, func(r *sql.Rows) (register.Entry, error) {
		s, err := scanSubmission(r)
		return register.Entry{Submission: s}, err
	})
	if err != nil {
		return nil, err
	}
	return entries, d.jobsOf(ctx, entries)
}

// jobsOf reads the jobs of a page of entries at once.
func (d *DB) jobsOf(ctx context.Context, entries []register.Entry) error {
	if len(entries) == 0 {
		return nil
	}
	at := make(map[int64]int, len(entries))
	ids := make([]any, len(entries))
	for i, e := range entries {
		at[e.ID], ids[i] = i, e.ID
	}
	r, err := d.prepared(
		ctx,
		"SELECT "+jobColumns+" FROM job WHERE about = 'submission' AND subject IN (?"+strings.Repeat(", ?", len(ids)-1)+
			") ORDER BY subject, id",
		ids...)
	all, err := rows(r, err, scanJob)
	for _, j := range all {
		if e := &entries[at[j.Subject.ID]]; j.Subject.Run == e.Revision {
			e.Jobs = append(e.Jobs, j)
		}
	}
	return err
}

// Answered gives a page of an intake's submissions without their jobs, the oldest first, with an ID above after.
func (d *DB) Answered(ctx context.Context, intake, after int64, limit int) ([]register.Submission, error) {
	r, err := d.read.QueryContext(
		ctx,
		"SELECT "+submissionColumns+" FROM submission s JOIN intake i ON i.id = s.intake WHERE s.intake = ? AND s.id > ? ORDER BY "+
			"s.id LIMIT ?",
		intake, after, limit,
	)
	return rows(r, err, func(r *sql.Rows) (register.Submission, error) { return scanSubmission(r) })
}

// ftsMatch asks for every word of a query as a beginning, quoted, so that no sign has a meaning of its own, and for its intake, so that
// the lines of others are passed over in the index. It is empty where there is no word.
func ftsMatch(q register.Query) string {
	var words []string
	for _, w := range strings.FieldsFunc(q.Words, func(r rune) bool { return unicode.IsSpace(r) || unicode.IsControl(r) }) {
		words = append(words, `"`+strings.ReplaceAll(w, `"`, `""`)+`"*`)
	}
	if len(words) == 0 {
		return ""
	}
	match := "words : (" + strings.Join(words, " ") + ")"
	if q.Intake != 0 {
		match += fmt.Sprintf(` AND intake : "%d"`, q.Intake)
	}
	return match
}

// among adds the condition that an intake is in a scope, where that leaves any out.
func among(where []string, args []any, column string, s access.Scope) ([]string, []any) {
	if s.All {
		return where, args
	}
	if len(s.Intakes) == 0 {
		return append(where, "0"), args
	}
	for _, id := range s.Intakes {
		args = append(args, id)
	}
	return append(where, column+" IN (?"+strings.Repeat(", ?", len(s.Intakes)-1)+")"), args
}

// Count counts what is in a scope; All stops at 10,001, which says that there are more than 10,000. Whatever failed is open.
func (d *DB) Count(ctx context.Context, scope access.Scope) (register.Counts, error) {
	var args []any
	of := func(column string) string {
		var where []string
		if where, args = among(where, args, column, scope); len(where) == 0 {
			return "1"
		}
		return where[0]
	}
	r, err := d.prepared(ctx, `SELECT (SELECT count(*) FROM (SELECT 1 FROM submission WHERE `+of("intake")+` LIMIT 10001)),
	  (SELECT count(*) FROM (SELECT DISTINCT share, subject FROM job WHERE state = 'failed' AND about = 'submission' AND `+of("share")+`)),
	  (SELECT count(*) FROM (SELECT DISTINCT share, subject FROM job WHERE state NOT IN ('done', 'void') AND about = 'submission' AND `+
		nowOrPast+" AND "+of("share")+`)),
	  (SELECT count(*) FROM intake WHERE `+of("id")+`)`, args...)
	return one(r, err, func(r *sql.Rows) (c register.Counts, err error) {
		err = r.Scan(&c.All, &c.Failed, &c.Unfinished, &c.Intakes)
		c.Unfinished -= c.Failed
		return c, err
	})
}

// IntakeOf tells to which intake a submission belongs.
func (d *DB) IntakeOf(ctx context.Context, submission int64) (id int64, err error) {
	return id, found(d.read.QueryRowContext(ctx, "SELECT intake FROM submission WHERE id = ?", submission).Scan(&id))
}

// Submission finds one with the design it answered.
func (d *DB) Submission(ctx context.Context, id int64) (register.Submission, intake.Design, error) {
	return d.submission(ctx, "s.id = ?", id)
}

// SubmissionByRef finds one by what its personal links are about.
func (d *DB) SubmissionByRef(ctx context.Context, ref string) (register.Submission, intake.Design, error) {
	return d.submission(ctx, "s.ref = ?", ref)
}

// Went gives the keys of the notices of a submission that were sent.
func (d *DB) Went(ctx context.Context, submission int64) ([]string, error) {
	r, err := d.prepared(
		ctx,
		"SELECT DISTINCT key FROM job WHERE subject = ? AND about = 'submission' AND kind = 'notice' AND state = 'done'",
		submission,
	)
	return rows(r, err, func(r *sql.Rows) (key string, err error) { return key, r.Scan(&key) })
}

// SubmissionByOnce finds a submission of an intake by the key that its sender gave it.
func (d *DB) SubmissionByOnce(ctx context.Context, intake int64, once string) (register.Submission, intake.Design, error) {
	return d.submission(ctx, "s.intake = ? AND s.once = ?", intake, once)
}

// WithdrawLinks makes all personal links of a submission void.
func (d *DB) WithdrawLinks(ctx context.Context, submission int64, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		done, err := tx.Exec("UPDATE submission SET links = links + 1 WHERE id = ?", submission)
		if err != nil {
			return err
		}
		if n, err := done.RowsAffected(); err != nil || n == 0 {
			return found(sql.ErrNoRows)
		}
		return tx.tell(plan.Subject{About: plan.Submission, ID: submission}, register.Fact{Kind: register.Unlinked}, now)
	})
}

func (d *DB) submission(ctx context.Context, where string, args ...any) (register.Submission, intake.Design, error) {
	r, err := d.prepared(ctx, "SELECT "+submissionColumns+" FROM submission s JOIN intake i ON i.id = s.intake WHERE "+where, args...)
	s, err := one(r, err, func(r *sql.Rows) (register.Submission, error) { return scanSubmission(r) })
	if err = found(err); err != nil {
		return s, intake.Design{}, err
	}
	x, err := d.version(ctx, s.IntakeID, s.Version)
	return s, x, err
}

// ofSubmission finds the messages of a submission: its own, and those that tell of it among others.
const ofSubmission = "(m.submission = ? OR m.id IN (SELECT body ->> 'record' FROM fact WHERE subject = ? AND about = 'submission' AND " +
	"kind = 'sent'))"

// Messages gives a page of what was sent in a scope, the newest first.
func (d *DB) Messages(ctx context.Context, scope access.Scope, q register.MessageQuery) ([]register.Message, error) {
	where, args := among([]string{"1"}, []any{}, "s.intake", scope)
	for _, x := range []struct { // one statement for all would read every message there is
		is    int64
		where string
	}{{q.Submission, ofSubmission}, {q.Intake, "s.intake = ?"}, {q.ID, "m.id = ?"}, {q.Before, "m.id < ?"}} {
		if x.is != 0 {
			where = append(where, x.where)
			for range strings.Count(x.where, "?") {
				args = append(args, x.is)
			}
		}
	}
	for _, word := range strings.Fields(q.Words) {
		where = append(where, toldBy)
		args = append(args, like(word), like(word), like(word), like(word))
	}
	r, err := d.read.QueryContext(
		ctx,
		"SELECT m.id, m.submission, s.number, i.name, m.name, m.recipients, m.subject, m.text, m.html, m.attached, m.sent, "+
			"m.others, m.returned, m.mid "+
			"FROM message m JOIN submission s ON s.id = m.submission JOIN intake i ON i.id = s.intake WHERE "+strings.Join(
			where,
			" AND ",
		)+" ORDER BY m.id DESC LIMIT ?",
		append(args, q.Limit)...)
	return rows(r, err, func(r *sql.Rows) (register.Message, error) {
		var m register.Message
		var to, attached, besides, returned string
		var sent int64
		if err := r.Scan(&m.ID, &m.SubmissionID, &m.Number, &m.Intake, &m.Name, &to, &m.Subject, &m.Text, &m.HTML, &attached,
			&sent, &besides, &returned, &m.MID); err != nil {
			return m, err
		}
		m.Sent = moment(sent)
		var o others
		err := errors.Join(json.Unmarshal([]byte(to), &m.To), json.Unmarshal([]byte(attached), &m.Attached),
			json.Unmarshal([]byte(besides), &o), json.Unmarshal([]byte(returned), &m.Returned))
		m.Copy, m.Blind, m.ReplyTo, m.FromName, m.From = o.Copy, o.Blind, o.ReplyTo, o.FromName, o.From
		return m, err
	})
}
