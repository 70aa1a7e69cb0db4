package sqlite

import (
	"context"
	"crypto/rand"
	"database/sql"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"amberseal/app/access"
	"amberseal/app/receive"
	"amberseal/app/workshop"
	"amberseal/core/intake"
	"amberseal/core/link"
)

// Submissions are counted as they come; what is open is few, and is counted from the jobs that are.
const standingColumns = `SELECT i.id, i.name, i.slug, i.revision, i.version, i.published, i.state, i.opened, i.updated,
  coalesce((SELECT submissions FROM tally WHERE intake = i.id), 0),
  coalesce((SELECT n FROM unfinished WHERE intake = i.id), 0), coalesce((SELECT n FROM failed WHERE intake = i.id), 0)`

const openJobs = `WITH
  failed AS MATERIALIZED (SELECT share AS intake, count(*) n FROM (
    SELECT DISTINCT share, subject FROM job WHERE state = 'failed' AND about = 'submission') GROUP BY share),
  unfinished AS MATERIALIZED (SELECT share AS intake, count(*) n FROM (
    SELECT DISTINCT share, subject FROM job WHERE state NOT IN ('done',
	'void') AND about = 'submission' AND ` + nowOrPast + `) GROUP BY share) `

type scanner interface{ Scan(...any) error }

// scanStanding reads where an intake stands, and what is asked for besides.
func scanStanding(r scanner, more ...any) (workshop.Standing, error) {
	var i workshop.Standing
	var opened, updated int64
	err := r.Scan(append([]any{
		&i.ID, &i.Name, &i.Slug, &i.Revision, &i.Version, &i.Published, &i.State, &opened, &updated, &i.Submissions, &i.Unfinished,
		&i.Failed,
	}, more...)...)
	i.Opened, i.Updated = moment(opened), moment(updated)
	if strings.HasPrefix(i.Slug, noAddress) {
		i.Slug = ""
	}
	return i, found(err)
}

// Intakes lists those of a scope, the last changed first, behind a position.
func (d *DB) Intakes(ctx context.Context, scope access.Scope, after workshop.Position, limit int) ([]workshop.Standing, error) {
	where, args := among([]string{"1"}, nil, "i.id", scope)
	if after.ID != 0 {
		where, args = append(where, "(i.updated, i.id) < (?, ?)"), append(args, micros(after.Updated), after.ID)
	}
	r, err := d.prepared(ctx, openJobs+standingColumns+" FROM intake i WHERE "+strings.Join(where, " AND ")+
		" ORDER BY i.updated DESC, i.id DESC LIMIT ?", append(args, limit)...)
	return rows(r, err, func(r *sql.Rows) (workshop.Standing, error) { return scanStanding(r) })
}

// Intake finds one.
func (d *DB) Intake(ctx context.Context, id int64) (workshop.Intake, error) {
	var i workshop.Intake
	var body string
	r, err := d.prepared(ctx, openJobs+standingColumns+`, i.design,
	  coalesce((SELECT json_extract(v.design, '$.slug') FROM version v WHERE v.intake = i.id AND v.version = i.version), '')
	  FROM intake i WHERE i.id = ?`, id)
	var address string
	i.Standing, err = one(r, err, func(r *sql.Rows) (workshop.Standing, error) { return scanStanding(r, &body, &address) })
	if err = found(err); err != nil {
		return i, err
	}
	i.Address = address
	if err := json.Unmarshal([]byte(body), &i.Design); err != nil {
		return i, fmt.Errorf("the design of intake %d is damaged: %w", id, err)
	}
	return i, nil
}

// AddIntake keeps a new one as a draft.
func (d *DB) AddIntake(ctx context.Context, x intake.Design, now time.Time) (workshop.Intake, error) {
	body, err := json.Marshal(x)
	if err != nil {
		return workshop.Intake{}, err
	}
	var id int64
	err = d.do(ctx, func(tx txn) error {
		if err := freeAddress(tx, x.Slug, 0); err != nil {
			return err
		}
		return slugError(
			tx.QueryRow("INSERT INTO intake (slug, name, design, revision, state, created, updated) VALUES (?, ?, ?, 1, ?, ?, ?) "+
				"RETURNING id",
				draftAddress(x.Slug), x.Name, body, workshop.Draft, micros(now), micros(now)).Scan(&id),
		)
	})
	if err != nil {
		return workshop.Intake{}, err
	}
	return d.Intake(ctx, id)
}

// freeAddress refuses an address under which another intake is or was published.
func freeAddress(tx txn, slug string, own int64) error {
	var one int
	err := tx.QueryRow("SELECT 1 FROM address WHERE slug = ? AND intake <> ?", slug, own).Scan(&one)
	if err == nil {
		return workshop.ErrSlugTaken
	}
	return ignoreNone(err)
}

// noAddress begins what stands for the address of a draft that has none.
const noAddress = "\x00"

// draftAddress keeps drafts apart by their addresses. Several may have none yet.
func draftAddress(slug string) string {
	if slug == "" {
		return noAddress + link.NewRef(rand.Reader)
	}
	return slug
}

func slugError(err error) error {
	if err != nil && strings.Contains(err.Error(), "intake.slug") {
		return workshop.ErrSlugTaken
	}
	return err
}

// SetDesign keeps the draft that was made on a revision.
func (d *DB) SetDesign(ctx context.Context, id int64, revision int, x intake.Design, now time.Time) (workshop.Intake, error) {
	body, err := json.Marshal(x)
	if err != nil {
		return workshop.Intake{}, err
	}
	err = d.do(ctx, func(tx txn) error {
		if err := freeAddress(tx, x.Slug, id); err != nil {
			return err
		}
		done, err := tx.Exec(
			"UPDATE intake SET design = ?, name = ?, slug = ?, revision = revision + 1, updated = ? WHERE id = ? AND revision = ?", body,
			x.Name,
			draftAddress(x.Slug), micros(now), id, revision,
		)
		if err != nil {
			return slugError(err)
		}
		return changedOne(tx, done, id)
	})
	if err != nil {
		return workshop.Intake{}, err
	}
	return d.Intake(ctx, id)
}

// changedOne tells a stale revision from an intake that is not there.
func changedOne(tx txn, done sql.Result, id int64) error {
	if n, err := done.RowsAffected(); err != nil || n == 1 {
		return err
	}
	var one int
	if err := tx.QueryRow("SELECT 1 FROM intake WHERE id = ?", id).Scan(&one); err != nil {
		return found(err)
	}
	return workshop.ErrStale
}

// Publish makes the draft of a revision the next version.
func (d *DB) Publish(ctx context.Context, id int64, revision int, now time.Time) (workshop.Intake, error) {
	err := d.do(ctx, func(tx txn) error {
		done, err := tx.Exec(
			"UPDATE intake SET version = version + 1, published = revision, updated = ? WHERE id = ? AND revision = ?", micros(now), id,
			revision,
		)
		if err != nil {
			return err
		}
		if err := changedOne(tx, done, id); err != nil {
			return err
		}
		if _, err = tx.Exec("INSERT INTO version (intake, version, design, created) SELECT id, version, design, ? FROM intake "+
			"WHERE id = ?", micros(now), id); err != nil {
			return err
		}
		_, err = tx.Exec(
			"INSERT INTO address (slug, intake, since) SELECT json_extract(design, '$.slug'), id, ? FROM intake WHERE id = ? ON "+
				"CONFLICT (slug) DO UPDATE SET since = excluded.since",
			micros(now), id,
		)
		return err
	})
	d.published.forget()
	if err != nil {
		return workshop.Intake{}, err
	}
	return d.Intake(ctx, id)
}

// Versions lists what was published, the newest first.
func (d *DB) Versions(ctx context.Context, id int64) ([]workshop.Version, error) {
	r, err := d.read.QueryContext(ctx, "SELECT version, created, design FROM version WHERE intake = ? ORDER BY version DESC", id)
	return rows(r, err, func(r *sql.Rows) (workshop.Version, error) {
		var v workshop.Version
		var created int64
		var body string
		if err := r.Scan(&v.Number, &created, &body); err != nil {
			return v, err
		}
		v.Published = moment(created)
		return v, json.Unmarshal([]byte(body), &v.Design)
	})
}

// SetState opens or closes an intake.
func (d *DB) SetState(ctx context.Context, id int64, s workshop.State, now time.Time) (workshop.Intake, error) {
	err := d.do(ctx, func(tx txn) error {
		_, err := tx.Exec(
			"UPDATE intake SET opened = CASE WHEN ?1 = 'open' AND state <> 'open' THEN ?2 ELSE opened END, state = ?1, updated = ?2 "+
				"WHERE id = ?3",
			s, micros(now), id,
		)
		return err
	})
	d.published.forget()
	if err != nil {
		return workshop.Intake{}, err
	}
	return d.Intake(ctx, id)
}

// Published is the version respondents see at an address: the one it was published under last, or an earlier one.
func (d *DB) Published(ctx context.Context, slug string) (receive.Published, error) {
	return d.published.get(slug, func() (receive.Published, error) {
		var p receive.Published
		err := d.read.QueryRowContext(ctx, "SELECT i.id, i.version, i.state FROM address a JOIN intake i ON i.id = a.intake WHERE "+
			"a.slug = ?", slug).
			Scan(&p.IntakeID, &p.Version, &p.State)
		if err != nil {
			return p, found(err)
		}
		p.Design, err = d.version(ctx, p.IntakeID, p.Version)
		return p, err
	})
}

// Earlier is a version that was published before, and when the next one took its place.
func (d *DB) Earlier(ctx context.Context, id int64, number int) (intake.Design, time.Time, error) {
	var until int64
	err := d.read.QueryRowContext(ctx, "SELECT created FROM version WHERE intake = ? AND version = ?", id, number+1).Scan(&until)
	if err != nil {
		return intake.Design{}, time.Time{}, found(err)
	}
	x, err := d.version(ctx, id, number)
	return x, moment(until), err
}

type versionKey struct {
	intake  int64
	version int
}

type version = intake.Design

// version reads a published design. Published designs never change, so that each is read once;
// callers must not change what they get.
func (d *DB) version(ctx context.Context, id int64, number int) (intake.Design, error) {
	return d.versions.get(versionKey{id, number}, func() (version, error) {
		var body string
		if err := d.read.QueryRowContext(ctx, "SELECT design FROM version WHERE intake = ? AND version = ?", id,
			number).Scan(&body); err != nil {
			return intake.Design{}, found(err)
		}
		var x intake.Design
		if err := json.Unmarshal([]byte(body), &x); err != nil {
			return x, fmt.Errorf("version %d of intake %d is damaged: %w", number, id, err)
		}
		return x, nil
	})
}
