package main

import (
	"context"
	"flag"
	"fmt"
	"io"
	"path/filepath"
	"slices"
	"syscall"
	"time"

	"amberseal/adapter/backup"
	"amberseal/adapter/sqlite"
)

// houseIn is where the parts of a house lie.
func houseIn(data, cabinet string) backup.House {
	if cabinet == "" {
		cabinet = filepath.Join(data, cabinetFolder)
	}
	return backup.House{Data: data, Database: databaseFile, Files: []string{secretFile, cabinetNote}, Cabinet: cabinet}
}

// writeBackup puts a whole house, running or not, into one file.
func writeBackup(ctx context.Context, args []string, stdout, stderr io.Writer) error {
	flags := flag.NewFlagSet("amberseal backup", flag.ContinueOnError)
	data := flags.String("data", "amberseal-data", "the `FOLDER` that holds the house; it may be running")
	cabinet := flags.String("cabinet", "", "the `FOLDER` documents are filed in; “cabinet” in the data folder when left out")
	to := flags.String("to", "", "the `FILE` to write, such as house-2026-11-27.tar")
	if err := parse(flags, args, stderr); err != nil {
		return err
	}
	if err := needed("backup", map[string]string{"to": *to}); err != nil {
		return err
	}
	syscall.Umask(0o077)
	w, err := backup.Write(ctx, houseIn(*data, *cabinet), *to)
	if err != nil {
		return err
	}
	fmt.Fprintf(stdout, "%s holds the house: %d files, %d MB, read again and right.\n", *to, w.Files, (w.Bytes+1<<20-1)>>20)
	return nil
}

// readBackup makes a house of a backup.
func readBackup(ctx context.Context, args []string, stdout, stderr io.Writer) error {
	flags := flag.NewFlagSet("amberseal restore", flag.ContinueOnError)
	from := flags.String("from", "", "the backup's `FILE`")
	data := flags.String("data", "", "the `FOLDER` to put the house in; it must be empty or not there yet")
	cabinet := flags.String("cabinet", "", "the `FOLDER` for its documents; “cabinet” in the data folder when left out")
	if err := parse(flags, args, stderr); err != nil {
		return err
	}
	if err := needed("restore", map[string]string{"from": *from, "data": *data}); err != nil {
		return err
	}
	syscall.Umask(0o077)
	w, err := backup.Restore(ctx, *from, houseIn(*data, *cabinet))
	if err != nil {
		return err
	}
	fmt.Fprintf(stdout, "%s holds the house again: %d files, %d MB, each as it was written.\n", *data, w.Files, (w.Bytes+1<<20-1)>>20)
	if slices.Contains(w.Missing, secretFile) {
		fmt.Fprintln(stdout, "The backup holds no secret: another is made, and no link that was ever sent opens any more.")
	}
	if err := rested(ctx, *data, stdout); err != nil {
		return err
	}
	fmt.Fprintln(
		stdout,
		"It rests when it is started: nothing is sent or filed, and its forms take nothing, until an owner lets it act on the Desk and "+
			"says how many numbers may have been given since the backup.",
	)
	return nil
}

// rested lets a restored house rest, and tells which of its secrets must be entered again. The key is no part of a backup.
func rested(ctx context.Context, data string, stdout io.Writer) error {
	db, err := sqlite.Open(ctx, filepath.Join(data, databaseFile))
	if err != nil {
		return err
	}
	defer db.Close()
	if err := db.Rest(ctx, time.Now()); err != nil {
		return err
	}
	s, err := openSafe(data, db)
	if err != nil {
		return err
	}
	return sayLost(ctx, s, stdout)
}
