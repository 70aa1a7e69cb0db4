package sqlite

import (
	"context"
	"database/sql"
	"encoding/json"
	"strings"
	"time"

	"amberseal/app/access"
	"amberseal/app/people"
	"amberseal/app/register"
	"amberseal/core/plan"
)

const personColumns = `SELECT p.id, p.email, p.name, p.role, p.ref, p.generation, p.run, p.invited, p.seen, p.hash,
  (SELECT json_group_object(c.intake, c.role) FROM collaborator c WHERE c.person = p.id), coalesce(j.state, ''), coalesce(j.reason, '')
  FROM person p LEFT JOIN job j ON j.subject = p.id AND j.run = p.run AND j.kind = 'welcome' AND j.key = 'letter' AND j.about = 'person'`

func scanPerson(r scanner) (people.Person, string, error) {
	var p people.Person
	var hash, intakes string
	var invited, seen int64
	if err := r.Scan(&p.ID, &p.Email, &p.Name, &p.Role, &p.Ref, &p.Generation, &p.Run, &invited, &seen, &hash, &intakes, &p.Letter,
		&p.Reason); err != nil {
		return p, "", found(err)
	}
	p.Invited, p.Seen, p.Signed = moment(invited), moment(seen), hash != ""
	if intakes == "{}" {
		return p, hash, nil
	}
	return p, hash, json.Unmarshal([]byte(intakes), &p.Intakes)
}

// AddPerson adds somebody, or replaces the name, role and password of the same address; its sessions end then.
func (d *DB) AddPerson(ctx context.Context, p people.Person, hash string, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec(`INSERT INTO person (email, name, role, hash, ref, created) VALUES (?, ?, ?, ?, ?, ?)
		  ON CONFLICT (email) DO UPDATE SET name = excluded.name, role = excluded.role, hash = excluded.hash, generation = generation + 1`,
			p.Email, p.Name, p.Role, hash, p.Ref, micros(now))
		return err
	})
}

// InvitePerson adds somebody without a password, with the steps of their letter.
func (d *DB) InvitePerson(ctx context.Context, p people.Person, letter []plan.Step, now time.Time) (int64, error) {
	s := plan.Subject{About: plan.Person, Run: 1}
	err := d.do(ctx, func(tx txn) error {
		err := tx.QueryRow("INSERT INTO person (email, name, role, hash, ref, run, invited, created) VALUES (?1, ?2, ?3, '', ?4, 1, ?5, "+
			"?5) RETURNING id",
			p.Email, p.Name, p.Role, p.Ref, micros(now)).
			Scan(&s.ID)
		if err != nil && strings.Contains(err.Error(), "person.email") {
			return people.ErrTaken
		}
		if err == nil {
			err = setCollaborations(tx, s.ID, p.Intakes)
		}
		if err == nil {
			err = insertJobs(tx, s, 0, letter, now, true)
		}
		if err == nil {
			err = tx.tell(s, register.Fact{Kind: register.Invited}, now)
		}
		return err
	})
	return s.ID, err
}

// ReinvitePerson plans a further letter; those before are void.
func (d *DB) ReinvitePerson(ctx context.Context, id int64, letter []plan.Step, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		s := plan.Subject{About: plan.Person, ID: id}
		err := tx.QueryRow("UPDATE person SET run = run + 1, invited = ? WHERE id = ? RETURNING run", micros(now), id).Scan(&s.Run)
		if err = found(err); err != nil {
			return err
		}
		if err := voidSubject(tx, plan.Subject{About: plan.Person, ID: id, Run: s.Run - 1}, "A later letter replaced this one.",
			now); err != nil {
			return err
		}
		if err := insertJobs(tx, s, 0, letter, now, true); err != nil {
			return err
		}
		return tx.tell(s, register.Fact{Kind: register.Invited}, now)
	})
}

// setCollaborations makes somebody's roles on single intakes what they are to be. Intakes that are not there are passed over.
func setCollaborations(tx txn, person int64, intakes map[int64]access.Role) error {
	if _, err := tx.Exec("DELETE FROM collaborator WHERE person = ?", person); err != nil {
		return err
	}
	for id, role := range intakes {
		if _, err := tx.Exec("INSERT INTO collaborator (person, intake, role) SELECT ?, id, ? FROM intake WHERE id = ?", person, role,
			id); err != nil {
			return err
		}
	}
	return nil
}

// owned refuses a house without an owner who can sign in.
func owned(tx txn) error {
	var n int
	if err := tx.QueryRow("SELECT count(*) FROM person WHERE role = 'owner' AND hash <> ''").Scan(&n); err != nil {
		return err
	}
	if n == 0 {
		return people.ErrLastOwner
	}
	return nil
}

// SetPerson changes name, role and roles on intakes.
func (d *DB) SetPerson(ctx context.Context, p people.Person) error {
	return d.do(ctx, func(tx txn) error {
		done, err := tx.Exec("UPDATE person SET name = ?, role = ? WHERE id = ?", p.Name, p.Role, p.ID)
		if err == nil {
			err = some(done)
		}
		if err == nil {
			err = setCollaborations(tx, p.ID, p.Intakes)
		}
		if err == nil {
			err = owned(tx)
		}
		return err
	})
}

// some is NotFound where a statement changed nothing.
func some(done sql.Result) error {
	n, err := done.RowsAffected()
	if err == nil && n == 0 {
		err = register.NotFound
	}
	return err
}

// RemovePerson forgets somebody; a letter that has not gone is void.
func (d *DB) RemovePerson(ctx context.Context, id int64, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		var run int
		if err := tx.QueryRow("SELECT run FROM person WHERE id = ?", id).Scan(&run); err != nil {
			return found(err)
		}
		s := plan.Subject{About: plan.Person, ID: id, Run: run}
		if err := voidSubject(tx, s, "Its person does not work here any more.", now); err != nil {
			return err
		}
		if _, err := tx.Exec("DELETE FROM collaborator WHERE person = ?", id); err != nil {
			return err
		}
		if _, err := tx.Exec("DELETE FROM person WHERE id = ?", id); err != nil {
			return err
		}
		if err := endSessions(tx, id); err != nil {
			return err
		}
		if err := owned(tx); err != nil {
			return err
		}
		return tx.tell(s, register.Fact{Kind: register.Removed}, now)
	})
}

// SetPassword gives a new one where the generation is still the one that was looked at.
func (d *DB) SetPassword(ctx context.Context, id int64, generation int, hash string) error {
	return d.do(ctx, func(tx txn) error {
		done, err := tx.Exec("UPDATE person SET hash = ?, generation = generation + 1 WHERE id = ? AND generation = ?", hash, id,
			generation)
		if err != nil {
			return err
		}
		if n, err := done.RowsAffected(); err != nil || n == 0 {
			return people.ErrLink
		}
		return nil
	})
}

// EndSessions ends all of somebody's sessions.
func (d *DB) EndSessions(ctx context.Context, id int64) (generation int, err error) {
	err = d.do(ctx, func(tx txn) error {
		err := tx.QueryRow("UPDATE person SET generation = generation + 1 WHERE id = ? RETURNING generation", id).Scan(&generation)
		if err != nil {
			return found(err)
		}
		return endSessions(tx, id)
	})
	return generation, err
}

func endSessions(tx txn, person int64) error {
	_, err := tx.Exec("DELETE FROM session WHERE person = ?", person)
	return err
}

// SawPerson notes when somebody was there last.
func (d *DB) SawPerson(ctx context.Context, id int64, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("UPDATE person SET seen = ? WHERE id = ?", micros(now), id)
		return err
	})
}

// PersonByEmail finds somebody and the hash of their password.
func (d *DB) PersonByEmail(ctx context.Context, email string) (people.Person, string, error) {
	return scanPerson(d.read.QueryRowContext(ctx, personColumns+" WHERE p.email = ?", email))
}

// PersonByRef finds somebody by what their link is about.
func (d *DB) PersonByRef(ctx context.Context, ref string) (people.Person, error) {
	p, _, err := scanPerson(d.read.QueryRowContext(ctx, personColumns+" WHERE p.ref = ?", ref))
	return p, err
}

// Person finds somebody.
func (d *DB) Person(ctx context.Context, id int64) (people.Person, error) {
	p, _, err := scanPerson(d.read.QueryRowContext(ctx, personColumns+" WHERE p.id = ?", id))
	return p, err
}

// People lists them by name, behind the name and ID of after.
func (d *DB) People(ctx context.Context, after people.Person, limit int) ([]people.Person, error) {
	const behind = " WHERE (p.name COLLATE NOCASE, p.id) > (?, ?) ORDER BY p.name COLLATE NOCASE, p.id LIMIT ?"
	r, err := d.read.QueryContext(ctx, personColumns+behind, after.Name, after.ID, limit)
	return rows(r, err, func(r *sql.Rows) (people.Person, error) {
		p, _, err := scanPerson(r)
		return p, err
	})
}

// StaffAddresses are those of everybody who works in the house and has one of some roles in it, or is named.
func (d *DB) StaffAddresses(ctx context.Context, roles, named []string) ([]string, error) {
	asked, err := json.Marshal([][]string{append([]string{}, roles...), append([]string{}, named...)})
	if err != nil {
		return nil, err
	}
	r, err := d.read.QueryContext(ctx, "SELECT email FROM person WHERE hash <> '' AND (role IN (SELECT value FROM json_each(?1, '$[0]')) "+
		"OR lower(email) IN (SELECT lower(value) FROM json_each(?1, '$[1]'))) ORDER BY id", asked)
	return rows(r, err, func(r *sql.Rows) (address string, err error) { return address, r.Scan(&address) })
}
