package sqlite

import (
	"context"
	"crypto/rand"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"amberseal/app/register"
	"amberseal/core/plan"
)

// chain is the last fact, on which the next hangs. Only the goroutine that commits groups uses it.
type chain struct {
	id   int64
	hash string
}

// lastFact reads the end of the chain.
func lastFact(db *sql.DB) (c chain, err error) {
	err = db.QueryRow("SELECT id, hash FROM fact ORDER BY id DESC LIMIT 1").Scan(&c.id, &c.hash)
	return c, ignoreNone(err)
}

// digest is the sum of a body behind its salt: without both nobody can guess it.
func digest(salt, body string) string { return sum(salt + body) }

// hold is the hash of a fact that hangs on another's.
func hold(before string, id, at int64, s plan.Subject, kind register.FactKind, digest string) string {
	return sum(fmt.Sprintf("%s%d %d %s %d %d %s %s", before, id, at, s.About, s.ID, s.Run, kind, digest))
}

func sum(text string) string { return register.Sum([]byte(text)) }

// tell adds a fact to those of the group; it is written at the group's end. Words are kept apart.
func (t txn) tell(s plan.Subject, f register.Fact, at time.Time) error {
	if f.Words != "" {
		if err := t.QueryRow("INSERT INTO said (words) VALUES (?) RETURNING id", f.Words).Scan(&f.Body.Said); err != nil {
			return err
		}
	}
	f.Subject, f.At = s, at
	t.end.facts = append(t.end.facts, f)
	return nil
}

// writeFacts chains the group's facts and writes them.
func (t txn) writeFacts() error {
	last := t.end.last
	for _, f := range t.end.facts {
		body, err := json.Marshal(f.Body)
		if err != nil {
			return err
		}
		random := make([]byte, 16)
		rand.Read(random) // never fails
		salt := hex.EncodeToString(random)
		d, at := digest(salt, string(body)), micros(f.At)
		last.hash = hold(last.hash, last.id+1, at, f.Subject, f.Kind, d)
		last.id++
		if _, err := t.Exec("INSERT INTO fact (id, at, about, subject, run, kind, body, salt, digest, hash) VALUES (?, ?, ?, ?, ?, ?, "+
			"?, ?, ?, ?)",
			last.id, at, f.Subject.About, f.Subject.ID, f.Subject.Run, f.Kind, string(body), salt, d, last.hash); err != nil {
			return err
		}
	}
	t.end.next = last
	return nil
}

// History is a submission's, the first line first.
func (d *DB) History(ctx context.Context, submission int64) ([]register.Line, error) {
	r, err := d.read.QueryContext(
		ctx,
		`SELECT f.id, f.at, f.run, f.kind, f.body, coalesce(j.name, ''), coalesce(m.recipients, '[]'), `+
			`coalesce(CASE c.destination WHEN 'cabinet' THEN c.path ELSE c.destination || ': ' || c.path END, ''), `+
			`coalesce(s.words, '')
	  FROM fact f LEFT JOIN job j ON j.id = f.body ->> 'job'
	  LEFT JOIN message m ON f.kind = 'sent' AND m.id = f.body ->> 'record' LEFT JOIN filed c ON f.kind = 'filed' AND c.id = f.body ->> `+
			`'record'
	  LEFT JOIN said s ON s.id = f.body ->> 'said' WHERE f.subject = ? AND f.about = 'submission' ORDER BY f.id`,
		submission,
	)
	return rows(r, err, func(r *sql.Rows) (register.Line, error) {
		l := register.Line{Fact: register.Fact{Subject: plan.Subject{About: plan.Submission, ID: submission}}}
		var at int64
		var body sql.NullString
		var to string
		if err := r.Scan(&l.ID, &at, &l.Subject.Run, &l.Kind, &body, &l.Job, &to, &l.Path, &l.Words); err != nil {
			return l, err
		}
		l.At, l.Erased = moment(at), !body.Valid
		if l.Erased {
			return l, nil
		}
		return l, errors.Join(json.Unmarshal([]byte(body.String), &l.Body), json.Unmarshal([]byte(to), &l.To))
	})
}

// checkFacts follows the chain of facts from its beginning. A body that was erased breaks nothing; one that was changed does, and
// so does a fact that is missing, moved or new.
func checkFacts(ctx context.Context, db *sql.DB) error {
	var kept bool
	if err := db.QueryRowContext(ctx, "SELECT EXISTS (SELECT 1 FROM sqlite_master WHERE name = 'fact')").Scan(&kept); err != nil || !kept {
		return err // a house of a time before facts
	}
	r, err := db.QueryContext(ctx, "SELECT id, at, about, subject, run, kind, body, salt, digest, hash FROM fact ORDER BY id")
	if err != nil {
		return err
	}
	defer r.Close()
	var last chain
	for r.Next() {
		var id, at int64
		var s plan.Subject
		var kind register.FactKind
		var body, salt sql.NullString
		var sum, hash string
		if err := r.Scan(&id, &at, &s.About, &s.ID, &s.Run, &kind, &body, &salt, &sum, &hash); err != nil {
			return err
		}
		switch {
		case id != last.id+1:
			return fmt.Errorf("the history is damaged: after fact %d comes %d", last.id, id)
		case body.Valid && digest(salt.String, body.String) != sum:
			return fmt.Errorf("the history is damaged: what fact %d says was changed", id)
		case hold(last.hash, id, at, s, kind, sum) != hash:
			return fmt.Errorf("the history is damaged: fact %d was changed, or one before it", id)
		}
		last = chain{id, hash}
	}
	return r.Err()
}
