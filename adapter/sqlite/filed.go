package sqlite

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"math"
	"strings"
	"time"
	"unicode/utf8"

	"amberseal/app/access"
	"amberseal/app/register"
	"amberseal/core/plan"
)

const filedColumns = "SELECT f.id, f.submission, s.number, i.name, f.destination, f.title, f.path, f.link, f.sha256, f.size, f.at, " +
	"f.standing " +
	"FROM filed f JOIN submission s ON s.id = f.submission JOIN intake i ON i.id = s.intake WHERE "

func scanFiled(r *sql.Rows) (x register.Filed, err error) {
	var at int64
	err = r.Scan(&x.ID, &x.SubmissionID, &x.Number, &x.Intake, &x.Destination, &x.Title, &x.Path, &x.Link, &x.SHA256, &x.Size, &at,
		&x.Standing)
	x.At = moment(at)
	return x, err
}

// latest leaves out what another file has taken the name of.
const latest = "NOT EXISTS (SELECT 1 FROM filed g WHERE g.destination = f.destination AND g.path = f.path AND g.id <> f.id AND g.at > f.at)"

// inFolder asks for paths in and below a folder of a destination, which a slash ends.
func inFolder(where []string, args []any, destination, folder string) ([]string, []any) {
	if destination != "" {
		where, args = append(where, "f.destination = ?"), append(args, destination)
	}
	if folder != "" {
		where, args = append(where, "f.path >= ?", "f.path < ?"), append(args, folder, beyond(folder))
	}
	return where, args
}

// beyond is the first path behind those in a folder: no sign is between the slash and the nought.
func beyond(folder string) string { return strings.TrimSuffix(folder, "/") + "0" }

// slashed is a folder as paths begin that lie in it.
func slashed(folder string) string {
	if folder == "" {
		return ""
	}
	return folder + "/"
}

// FiledFolders gives a page of the folders in a folder of a destination, in the order of their paths, or of the destinations: those that
// hold files of a scope. It goes from name to name, so that what lies in them costs nothing.
func (d *DB) FiledFolders(ctx context.Context, scope access.Scope, q register.FolderQuery) ([]register.FiledFolder, error) {
	var out []register.FiledFolder
	begin := slashed(q.Folder)
	for after := q.After; len(out) < q.Limit; after = out[len(out)-1].Name {
		name, destination, folder, err := d.nextFolder(ctx, scope, q.Destination, begin, after)
		if errors.Is(err, sql.ErrNoRows) {
			break
		}
		if err != nil {
			return nil, err
		}
		x := register.FiledFolder{Name: name}
		count := func(table string, where ...string) (n int, err error) {
			from, where, args := filedOf(table, scope, where, nil)
			where, args = inFolder(where, args, destination, folder)
			return n, d.read.QueryRowContext(ctx, "SELECT count(*) FROM (SELECT DISTINCT f.path FROM "+from+" WHERE "+
				strings.Join(where, " AND ")+" LIMIT ?)", append(args, register.MostCounted+1)...).Scan(&n)
		}
		if x.Files, err = count("filed f INDEXED BY filed_path"); err == nil {
			x.Amiss, err = count("filed f INDEXED BY filed_amiss", amissOnly, latest) // few are
		}
		if err != nil {
			return nil, err
		}
		out = append(out, x)
	}
	return out, nil
}

// nextFolder is the name of the folder behind one, or of the destination behind one, and where what lies in it is.
func (d *DB) nextFolder(ctx context.Context, scope access.Scope, in, begin, after string) (name, destination, folder string, err error) {
	if in == "" {
		from, where, args := filedOf("filed f", scope, []string{"f.destination > ?"}, []any{after})
		err = d.read.QueryRowContext(ctx, "SELECT f.destination FROM "+from+" WHERE "+strings.Join(where, " AND ")+
			" ORDER BY f.destination LIMIT 1", args...).Scan(&name)
		return name, name, "", err
	}
	from, where, args := filedOf("filed f", scope, []string{"instr(substr(f.path, ?), '/') > 0"}, []any{utf8.RuneCountInString(begin) + 1})
	start := begin
	if after != "" {
		start = beyond(begin + after + "/")
	}
	where, args = append(where, "f.destination = ?", "f.path >= ?"), append(args, in, start) // one bound on each side, as the index takes
	if begin != "" {
		where, args = append(where, "f.path < ?"), append(args, beyond(begin))
	}
	var path string
	if err := d.read.QueryRowContext(ctx, "SELECT f.path FROM "+from+" WHERE "+strings.Join(where, " AND ")+
		" ORDER BY f.path LIMIT 1", args...).Scan(&path); err != nil {
		return "", "", "", err
	}
	name, _, _ = strings.Cut(strings.TrimPrefix(path, begin), "/")
	return name, in, begin + name + "/", nil
}

// filedOf asks for files of a scope.
func filedOf(table string, scope access.Scope, where []string, args []any) (string, []string, []any) {
	if scope.All {
		return table, where, args
	}
	where, args = among(where, args, "s.intake", scope)
	return table + " CROSS JOIN submission s ON s.id = f.submission", where, args // in this order
}

// Filed gives a page of what was filed in a scope, the newest first: at one destination where one is named, in one folder of it, and with
// some words in its path or the submission's number where some are given.
func (d *DB) Filed(ctx context.Context, scope access.Scope, q register.FiledQuery) ([]register.Filed, error) {
	where, args := among([]string{"f.id < ?"}, []any{fromTop(q.Before)}, "s.intake", scope)
	where, args = inFolder(where, args, q.Destination, slashed(q.Folder))
	if q.Here {
		where = append(where, "instr(substr(f.path, ?), '/') = 0", latest)
		args = append(args, utf8.RuneCountInString(slashed(q.Folder))+1)
	}
	if q.Amiss {
		where = append(where, "f.standing <> ''")
	}
	if q.Submission != 0 {
		where, args = append(where, "f.submission = ?"), append(args, q.Submission)
	}
	for _, word := range strings.Fields(q.Words) {
		where = append(where, "(f.path LIKE ? ESCAPE '\\' OR s.number LIKE ? ESCAPE '\\')")
		args = append(args, like(word), like(word))
	}
	r, err := d.read.QueryContext(ctx, filedColumns+strings.Join(where, " AND ")+" ORDER BY f.id DESC LIMIT ?", append(args, q.Limit)...)
	return rows(r, err, scanFiled)
}

// Uncompared gives files that were not compared since a time and lie not at some destinations, the longest uncompared first. A file
// whose name was given to another since is none of them.
func (d *DB) Uncompared(ctx context.Context, since time.Time, but []string, limit int) ([]register.Filed, error) {
	left, err := json.Marshal(append([]string{}, but...))
	if err != nil {
		return nil, err
	}
	r, err := d.read.QueryContext(ctx, filedColumns+"f.checked < ? AND f.sha256 <> '' AND "+
		"f.destination NOT IN (SELECT value FROM json_each(?)) AND "+latest+" ORDER BY f.checked LIMIT ?", micros(since), left, limit)
	return rows(r, err, scanFiled)
}

// KeepStanding keeps how a file lay there. The history tells it where it is another than before and not as it should be.
func (d *DB) KeepStanding(ctx context.Context, x register.Filed, standing, words string, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		if _, err := tx.Exec("UPDATE filed SET standing = ?, checked = ? WHERE id = ?", standing, micros(now), x.ID); err != nil {
			return err
		}
		if standing == "" || standing == x.Standing {
			return nil
		}
		s := plan.Subject{About: plan.Submission, ID: x.SubmissionID}
		if err := tx.QueryRow("SELECT revision FROM submission WHERE id = ?", x.SubmissionID).Scan(&s.Run); err != nil {
			return err
		}
		return tx.tell(s, register.Fact{Kind: register.Amiss, Body: register.FactBody{Record: x.ID}, Words: words}, now)
	})
}

// amissOnly are the files that are not as they were filed. Those that could not be looked at are none of them.
const amissOnly = "f.standing <> '' AND f.standing <> 'unread'"

// AmissIn counts the files of a scope that are not as they were filed.
func (d *DB) AmissIn(ctx context.Context, scope access.Scope) (n int, err error) {
	where, args := among([]string{amissOnly}, []any{}, "s.intake", scope)
	err = d.read.QueryRowContext(ctx, "SELECT count(*) FROM filed f JOIN submission s ON s.id = f.submission WHERE "+
		strings.Join(where, " AND "), args...).Scan(&n)
	return n, err
}

// Original gives the bytes that a file of a submission had when it was filed, by their sum: those of a document, of a file that was
// sent, or of a fixed file of the house.
func (d *DB) Original(ctx context.Context, submission int64, sum string) ([]byte, error) {
	r, err := d.read.QueryContext(ctx,
		"SELECT p.bytes FROM document d JOIN pdf p ON p.document = d.id WHERE d.submission = ?1 AND d.sha256 = ?2 "+
			"UNION ALL SELECT w.bytes FROM document d JOIN docx w ON w.document = d.id WHERE d.submission = ?1 AND sha256(w.bytes) = ?2 "+
			"UNION ALL SELECT u.data FROM upload u WHERE u.submission = ?1 AND sha256(u.data) = ?2 "+
			"UNION ALL SELECT x.data FROM fixed x WHERE sha256(x.data) = ?2 LIMIT 1", submission, sum)
	data, err := one(r, err, func(r *sql.Rows) (data []byte, err error) { return data, r.Scan(&data) })
	return data, found(err)
}

// FiledFile gives one file of a submission that was filed.
func (d *DB) FiledFile(ctx context.Context, submission, id int64) (register.Filed, error) {
	r, err := d.read.QueryContext(ctx, filedColumns+"f.id = ? AND f.submission = ?", id, submission)
	x, err := one(r, err, scanFiled)
	return x, found(err)
}

// FiledLink is where the first file of a submission at a destination is opened, or empty.
func (d *DB) FiledLink(ctx context.Context, submission int64, destination string) (string, error) {
	r, err := d.prepared(ctx, "SELECT link FROM filed WHERE submission = ? AND destination = ? ORDER BY id LIMIT 1", submission,
		destination)
	link, err := one(r, err, func(r *sql.Rows) (link string, err error) { return link, r.Scan(&link) })
	return link, ignoreNone(err)
}

// like is a word as LIKE finds it anywhere, whatever signs it has.
func like(word string) string {
	return "%" + strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(word) + "%"
}

// fromTop is the ID before which a page begins: 0 asks for the first page.
func fromTop(before int64) int64 {
	if before == 0 {
		return math.MaxInt64
	}
	return before
}
