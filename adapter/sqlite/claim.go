package sqlite

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"sync"
	"time"

	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/plan"
)

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
			r, err := tx.Query(
				"UPDATE job SET state = 'working', attempts = attempts + 1, leased = ?, updated = ? WHERE id = ? AND state = 'ready' "+
					"RETURNING "+jobColumns,
				micros(t.Until(j.Kind)), micros(t.Now), j.ID,
			)
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
	  UNION ALL SELECT (SELECT min(share) FROM job WHERE state = 'ready' AND target = ?1 AND lane = ?2 AND share > x.share) FROM x `+
		`WHERE x.share IS NOT NULL)
	  SELECT share FROM x WHERE share IS NOT NULL AND EXISTS (SELECT 1 FROM job WHERE state = 'ready' AND target = ?1 AND lane = ?2 AND `+
		`share = x.share AND due <= ?3)
	  ORDER BY share <= ?4, share`, l.target, l.lane, micros(t.Now), d.turns.last(l))
	shares, err := rows(r, err, func(r *sql.Rows) (share int64, err error) { return share, r.Scan(&share) })
	var chosen []register.Job
	for round := 0; len(shares) > 0 && err == nil; round++ {
		left := shares[:0]
		for _, share := range shares {
			r, err := d.prepared(
				ctx,
				"SELECT "+jobColumns+" FROM job WHERE state = 'ready' AND target = ? AND lane = ? AND share = ? AND due <= ? ORDER BY "+
					"due LIMIT 1 OFFSET ?",
				l.target, l.lane, share, micros(t.Now), round,
			)
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
		return void(tx, register.Expired, "Its time was over.", now, "expires > 0 AND state IN ('waits', 'ready') AND expires <= ?",
			micros(now))
	})
}

// NextDue is when the next job becomes due after a time, or is past its time.
func (d *DB) NextDue(ctx context.Context, after time.Time) (time.Time, bool, error) {
	r, err := d.prepared(ctx, targetsOfReady+`, y (target, lane, share) AS (
	  SELECT target, lane, (SELECT min(share) FROM job WHERE state = 'ready' AND target = x.target AND lane = l.lane)
	    FROM x, (SELECT 0 AS lane UNION ALL SELECT 1) l WHERE x.target IS NOT NULL
	  UNION ALL SELECT target, lane, (SELECT min(share) FROM job WHERE state = 'ready' AND target = y.target AND lane = y.lane AND `+
		`share > y.share)
	    FROM y WHERE y.share IS NOT NULL)
	  SELECT min(due) FROM (SELECT (SELECT min(due) FROM job WHERE state = 'ready' AND target = y.target AND lane = y.lane AND share = `+
		`y.share AND due > ?1) AS due
	      FROM y WHERE y.share IS NOT NULL
	    UNION ALL SELECT min(expires) FROM job WHERE expires > 0 AND state IN ('waits', 'ready'))`, micros(after))
	due, err := one(r, err, func(r *sql.Rows) (at sql.NullInt64, err error) { return at, r.Scan(&at) })
	return moment(due.Int64), due.Valid, err
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
		reason := fmt.Sprintf(
			"The program ended %d times while it was doing this, so that it may be what ends it. Look into the log before you try "+
				"it again.",
			mostLost,
		)
		r, err := tx.Query(
			"UPDATE job SET state = 'failed', lost = 0, reason = ?, updated = ? WHERE state NOT IN ('done', 'void') AND state = 'ready' "+
				"AND lost >= ? RETURNING "+jobColumns,
			reason, micros(now), mostLost,
		)
		given, err := rows(r, err, scanJob)
		for _, j := range given {
			err = errors.Join(err, tx.tell(j.Subject, register.Fact{Kind: register.GivenUp, Body: register.FactBody{Job: j.ID},
				Words: reason}, now))
		}
		return err
	})
}

// Lapse takes back leases that ran out.
func (d *DB) Lapse(ctx context.Context, now time.Time) error {
	var n int
	if err := d.read.QueryRowContext(ctx, "SELECT count(*) FROM job WHERE state NOT IN ('done', 'void') AND state = 'working' AND "+
		"leased <= ?", micros(now)).Scan(&n); err != nil ||
		n == 0 {
		return err
	}
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec(
			"UPDATE job SET state = 'ready', due = max(?1, not_before) WHERE state NOT IN ('done', 'void') AND state = 'working' AND "+
				"leased <= ?1",
			micros(now),
		)
		return err
	})
}

// PullBack makes jobs due that are due later and were not planned for later: a clock that fell would put them off. Those that were never
// tried are due now, the others at the latest time that a pause can end.
func (d *DB) PullBack(ctx context.Context, now, latest time.Time) error {
	const due = "CASE WHEN attempts = 0 AND lost = 0 AND reason = '' THEN ?1 ELSE ?2 END"
	return d.do(ctx, func(tx txn) error {
		at := micros(latest)
		if _, err := tx.Exec("UPDATE job SET due = max("+due+", not_before) WHERE state NOT IN ('done', 'void') AND state = 'ready' AND "+
			"unsure = 0 AND due > max("+due+", not_before)", micros(now), at); err != nil {
			return err
		}
		_, err := tx.Exec("UPDATE outage SET until = ?1 WHERE until > ?1", at)
		return err
	})
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
