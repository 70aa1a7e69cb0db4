package sqlite

import (
	"context"
	"database/sql"
	"encoding/json"
	"time"

	"amberseal/core/account"
)

// Accounts lists the house's mail accounts: the one that is the rule first, then by name.
func (d *DB) Accounts(ctx context.Context) ([]account.Account, error) {
	r, err := d.read.QueryContext(ctx, "SELECT body FROM account ORDER BY coalesce(body ->> 'rule', 0) DESC, body ->> 'name', key")
	return rows(r, err, scanAccount)
}

// Account gives one.
func (d *DB) Account(ctx context.Context, key string) (account.Account, error) {
	r, err := d.prepared(ctx, "SELECT body FROM account WHERE key = ?", key)
	x, err := one(r, err, scanAccount)
	return x, found(err)
}

// RuleAccount gives the one that is the rule.
func (d *DB) RuleAccount(ctx context.Context) (account.Account, error) {
	r, err := d.prepared(ctx, "SELECT body FROM account WHERE body ->> 'rule' LIMIT 1")
	x, err := one(r, err, scanAccount)
	return x, found(err)
}

func scanAccount(r *sql.Rows) (x account.Account, err error) {
	var body string
	if err = r.Scan(&body); err == nil {
		err = json.Unmarshal([]byte(body), &x)
	}
	return x, err
}

// SetAccount keeps one in place of that of its key. One that is the rule ends that of every other; the first is the rule.
func (d *DB) SetAccount(ctx context.Context, x account.Account, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		var others int
		if err := tx.QueryRow("SELECT count(*) FROM account WHERE key <> ?1 AND body ->> 'rule'", x.Key).Scan(&others); err != nil {
			return err
		}
		x.Rule = x.Rule || others == 0
		body, err := json.Marshal(x)
		if err != nil {
			return err
		}
		if x.Rule {
			if _, err := tx.Exec("UPDATE account SET body = json_remove(body, '$.rule')"); err != nil {
				return err
			}
		}
		_, err = tx.Exec("INSERT OR REPLACE INTO account (key, body, changed) VALUES (?, ?, ?)", x.Key, body, micros(now))
		return err
	})
}

// RemoveAccount forgets one, with its outage. Where it was the rule, another is.
func (d *DB) RemoveAccount(ctx context.Context, key, target string) error {
	return d.do(ctx, func(tx txn) error {
		done, err := tx.Exec("DELETE FROM account WHERE key = ?", key)
		if err != nil {
			return err
		}
		if _, err := tx.Exec("DELETE FROM outage WHERE target = ?", target); err != nil {
			return err
		}
		if _, err := tx.Exec("UPDATE account SET body = json_set(body, '$.rule', json('true')) WHERE NOT EXISTS (SELECT 1 FROM account " +
			"WHERE body ->> 'rule') AND key = (SELECT min(key) FROM account)"); err != nil {
			return err
		}
		return some(done)
	})
}
