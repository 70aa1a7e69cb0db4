package main

import (
	"bytes"
	"context"
	"crypto/ed25519"
	"encoding/pem"
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"strings"
	"time"

	"golang.org/x/crypto/ssh"

	"amberseal/adapter/bucket"
	"amberseal/adapter/share"
	"amberseal/adapter/vault"
	"amberseal/app/file"
	"amberseal/app/register"
	"amberseal/core/destination"
	"amberseal/core/filing"
	standinbucket "amberseal/standin/bucket"
	standinshare "amberseal/standin/share"
	standinvault "amberseal/standin/vault"
)

// names are paths as rules make them.
var names = []string{"Repairs/2026/TH-1 Łucja Brzęk.pdf", "Repairs/2026/TH-1 Łucja Brzęk – answers.json", "top.pdf"}

func content(name string) []byte { return bytes.Repeat([]byte(name+"\n"), 5000) }

// clients judges what is filed at the stand-ins by clients that know nothing of us: s3cmd, cadaver and OpenSSH's sftp (Debian) find every
// file under its name, with its bytes; litmus holds the stand-in for a share against WebDAV.
func clients(work string) error {
	b, err := standinbucket.Open("127.0.0.1:0", work+"/bucket.db")
	if err != nil {
		return err
	}
	defer b.Close()
	s, err := standinshare.Open("127.0.0.1:0", work+"/share")
	if err != nil {
		return err
	}
	defer s.Close()
	v, err := standinvault.Open("127.0.0.1:0", work+"/vault")
	if err != nil {
		return err
	}
	defer v.Close()
	at := []destination.Destination{
		{Kind: destination.Bucket, Address: "http://" + b.Address(), Bucket: standinbucket.Name, Region: "us-east-1",
			User: standinbucket.User},
		{Kind: destination.Share, Address: "http://" + s.Address(), User: standinshare.User},
		{Kind: destination.Vault, Address: v.Address(), User: standinvault.User},
	}
	inBucket, err := bucket.Open(at[0], standinbucket.Secret)
	if err != nil {
		return err
	}
	inShare, err := share.Open(at[1], standinshare.Password)
	if err != nil {
		return err
	}
	inVault, err := vault.Open(at[2], standinvault.Password, func(string) error { return nil })
	if err != nil {
		return err
	}
	defer inVault.Close()
	for _, p := range []file.Place{inBucket, inShare, inVault} {
		for _, name := range names {
			x := file.File{Data: content(name), Type: "application/pdf"}
			if _, err := file.Put(context.Background(), p, name, x, filing.Number); err != nil {
				return err
			}
		}
	}
	if err := byS3cmd(work, b.Address()); err != nil {
		return err
	}
	if err := byCadaver(work, s.Address()); err != nil {
		return err
	}
	if err := bySFTP(work, v.Address()); err != nil {
		return err
	}
	cmd := exec.CommandContext(within(), "litmus", "-k", "http://"+s.Address()+"/", standinshare.User, standinshare.Password)
	cmd.Dir, cmd.Env = work, append(os.Environ(), "TESTS=basic copymove")
	out, err := cmd.CombinedOutput()
	fmt.Println(tail(string(out)))
	if err != nil {
		return fmt.Errorf("litmus found fault: %w", err)
	}
	fmt.Println("s3cmd, cadaver and sftp found", len(names), "of", len(names), "files each, with their bytes")
	return nil
}

// within is the time that a client has: one that waits for ever judges nothing.
func within() context.Context {
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	time.AfterFunc(time.Minute, cancel)
	return ctx
}

// same compares files that a client fetched.
func same(client, folder string, names []string) error {
	for _, name := range names {
		got, err := os.ReadFile(filepath.Join(folder, filepath.Base(name)))
		if err != nil || !bytes.Equal(got, content(name)) {
			return fmt.Errorf("%s fetched another file for %q: %d bytes, %v", client, name, len(got), err)
		}
	}
	return nil
}

func byS3cmd(work, address string) error {
	folder := work + "/s3cmd"
	if err := os.Mkdir(folder, 0o700); err != nil {
		return err
	}
	args := []string{"--config", "/dev/null", "--no-ssl", "--host", address, "--host-bucket", address, "--access_key", standinbucket.User,
		"--secret_key", standinbucket.Secret, "--region", "us-east-1"}
	listed, err := tool("s3cmd", append(args, "ls", "-r", "s3://"+standinbucket.Name)...)
	if err != nil {
		return fmt.Errorf("s3cmd lists nothing: %w\n%s", err, tail(listed))
	}
	for _, name := range names {
		if !strings.Contains(listed, "/"+name+"\n") {
			return fmt.Errorf("s3cmd does not list %q:\n%s", name, listed)
		}
		out, err := tool("s3cmd", append(args, "get", "s3://"+standinbucket.Name+"/"+name, filepath.Join(folder, filepath.Base(name)))...)
		if err != nil {
			return fmt.Errorf("s3cmd: %w\n%s", err, tail(out))
		}
	}
	return same("s3cmd", folder, names)
}

func byCadaver(work, address string) error {
	folder := work + "/cadaver"
	if err := os.Mkdir(folder, 0o700); err != nil {
		return err
	}
	host, _, err := net.SplitHostPort(address)
	if err != nil {
		return err
	}
	secret := fmt.Sprintf("machine %s\nlogin %s\npassword %s\n", host, standinshare.User, standinshare.Password)
	if err := os.WriteFile(folder+"/.netrc", []byte(secret), 0o600); err != nil {
		return err
	}
	var say strings.Builder
	for _, name := range names {
		fmt.Fprintf(&say, "get \"%s\" \"%s\"\n", name, filepath.Base(name))
	}
	cmd := exec.CommandContext(within(), "cadaver", "http://"+address+"/")
	cmd.Dir, cmd.Stdin, cmd.Env = folder, strings.NewReader(say.String()+"quit\n"), append(os.Environ(), "HOME="+folder)
	if out, err := cmd.CombinedOutput(); err != nil {
		return fmt.Errorf("cadaver: %w\n%s", err, tail(string(out)))
	}
	return same("cadaver", folder, names)
}

func bySFTP(work, address string) error {
	folder := work + "/sftp"
	if err := os.Mkdir(folder, 0o700); err != nil {
		return err
	}
	host, port, err := net.SplitHostPort(address)
	if err != nil {
		return err
	}
	ask := folder + "/ask"
	if err := os.WriteFile(ask, []byte("#!/bin/sh\necho '"+standinvault.Password+"'\n"), 0o700); err != nil {
		return err
	}
	var say strings.Builder
	for _, name := range names {
		fmt.Fprintf(&say, "get \"%s\" \"%s\"\n", name, filepath.Base(name))
	}
	cmd := exec.CommandContext(within(), "sftp", "-F", "none", "-P", port, "-o", "StrictHostKeyChecking=no",
		"-o", "UserKnownHostsFile=/dev/null", standinvault.User+"@"+host)
	cmd.Dir, cmd.Stdin = folder, strings.NewReader(say.String()+"quit\n")
	cmd.Env = append(os.Environ(), "SSH_ASKPASS="+ask, "SSH_ASKPASS_REQUIRE=force")
	if out, err := cmd.CombinedOutput(); err != nil {
		return fmt.Errorf("sftp: %w\n%s", err, tail(string(out)))
	}
	return same("sftp", folder, names)
}

// freePort is one that nobody listens at.
func freePort() (string, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", err
	}
	defer l.Close()
	_, port, err := net.SplitHostPort(l.Addr().String())
	return port, err
}

// answers waits until something listens.
func answers(address string) error {
	for range 100 {
		if c, err := net.DialTimeout("tcp", address, time.Second); err == nil {
			return c.Close()
		}
		time.Sleep(100 * time.Millisecond)
	}
	return fmt.Errorf("nothing listens at %s", address)
}

// openSSH judges our filing by SFTP by OpenSSH's server (Debian): names that are taken, swaps, moves and listings, and what lies on its
// disk.
func openSSH(work string) error {
	me, err := user.Current()
	if err != nil {
		return err
	}
	public, private, err := ed25519.GenerateKey(nil)
	if err != nil {
		return err
	}
	block, err := ssh.MarshalPrivateKey(private, "judge")
	if err != nil {
		return err
	}
	key, err := ssh.NewPublicKey(public)
	if err != nil {
		return err
	}
	port, err := freePort()
	if err != nil {
		return err
	}
	conf := fmt.Sprintf(`ListenAddress 127.0.0.1
Port %s
HostKey %[2]s/host
AuthorizedKeysFile %[2]s/authorized
PidFile none
StrictModes no
UsePAM no
PermitRootLogin prohibit-password
Subsystem sftp /usr/lib/openssh/sftp-server
`, port, work)
	for name, data := range map[string][]byte{
		"host": pem.EncodeToMemory(block), "authorized": ssh.MarshalAuthorizedKey(key), "conf": []byte(conf),
	} {
		if err := os.WriteFile(work+"/"+name, data, 0o600); err != nil {
			return err
		}
	}
	if err := os.MkdirAll("/run/sshd", 0o755); err != nil && me.Uid == "0" { // where it gives up its rights
		return err
	}
	sshd := exec.Command("/usr/sbin/sshd", "-D", "-e", "-f", work+"/conf")
	var said bytes.Buffer
	sshd.Stderr = &said
	if err := sshd.Start(); err != nil {
		return unfetched{err}
	}
	defer func() { sshd.Process.Kill(); sshd.Wait() }()
	address := "127.0.0.1:" + port
	if err := answers(address); err != nil {
		return fmt.Errorf("%w\n%s", err, tail(said.String()))
	}
	d := destination.Destination{Kind: destination.Vault, Address: address, User: me.Username, Folder: work + "/filed"}
	if err := os.Mkdir(work+"/filed", 0o700); err != nil {
		return err
	}
	p, err := vault.Open(d, string(pem.EncodeToMemory(block)), func(string) error { return nil })
	if err != nil {
		return err
	}
	defer p.Close()
	ctx := context.Background()
	for range 2 { // equal bytes are there once
		for _, name := range names {
			if _, err := file.Put(ctx, p, name, file.File{Data: content(name)}, filing.Number); err != nil {
				return fmt.Errorf("%w\n%s", err, tail(said.String()))
			}
		}
	}
	second, err := file.Put(ctx, p, "top.pdf", file.File{Data: []byte("other")}, filing.Number)
	if err != nil || second != "top (2).pdf" {
		return fmt.Errorf("a name that was taken gave %q, %v", second, err)
	}
	sums := []string{register.Sum([]byte("other"))}
	if err := file.Swap(ctx, p, second, sums, file.File{Data: []byte("swapped")}); err != nil {
		return err
	}
	if err := file.Swap(ctx, p, second, sums, file.File{Data: []byte("again")}); !errors.Is(err, file.Other) {
		return fmt.Errorf("a file that was another one was swapped: %v", err)
	}
	if _, err := file.Put(ctx, p, second, file.File{Data: []byte("newest")}, filing.Version); err != nil {
		return err
	}
	all, err := p.List(ctx, "")
	if err != nil || len(all) != 5 {
		return fmt.Errorf("it lists %+v, %v", all, err)
	}
	for name, want := range map[string]string{
		second: "newest", "top (2) (version 2).pdf": "swapped", names[0]: string(content(names[0])),
	} {
		if got, err := os.ReadFile(filepath.Join(d.Folder, name)); err != nil || string(got) != want {
			return fmt.Errorf("%q has %d bytes on its disk, %v", name, len(got), err)
		}
	}
	fmt.Println("OpenSSH’s server holds 5 of 5 files as they were filed")
	return nil
}
