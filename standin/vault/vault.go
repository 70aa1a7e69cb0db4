// Package vault is a stand-in for a server that speaks SFTP, in a folder.
package vault

import (
	"crypto/ed25519"
	"crypto/rand"
	"encoding/pem"
	"errors"
	"io"
	"net"
	"os"
	"path/filepath"
	"strings"
	"syscall"

	"github.com/pkg/sftp"
	"golang.org/x/crypto/ssh"

	"amberseal/standin/depot"
)

// User and Password are those that it takes.
const (
	User     = "demo"
	Password = "demo-secret"
)

// Vault is the stand-in.
type Vault struct {
	*depot.Depot
	root *os.Root
	host ssh.Signer
}

// Open makes the stand-in, with what a folder holds. Its host key lies beside the folder.
func Open(address, dir string) (*Vault, error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, err
	}
	root, err := os.OpenRoot(dir)
	if err != nil {
		return nil, err
	}
	host, err := hostKey(filepath.Clean(dir) + ".host-key")
	if err != nil {
		return nil, err
	}
	v := &Vault{&depot.Depot{Path: "vault", List: "files", Title: "Stand-in vault",
		Hint: "A server that speaks SFTP; its user is “" + User + "”, its password “" + Password + "”, its host key " +
			ssh.FingerprintSHA256(host.PublicKey()) + "."}, root, host}
	v.Stock, v.Serve = depot.Folder(dir), v.serve
	return v, v.Depot.Open(address)
}

// hostKey reads the key that the server shows, or makes one.
func hostKey(name string) (ssh.Signer, error) {
	text, err := os.ReadFile(name)
	if err == nil {
		return ssh.ParsePrivateKey(text)
	}
	_, key, err := ed25519.GenerateKey(rand.Reader)
	if err != nil {
		return nil, err
	}
	block, err := ssh.MarshalPrivateKey(key, "")
	if err != nil {
		return nil, err
	}
	if err := os.WriteFile(name, pem.EncodeToMemory(block), 0o600); err != nil {
		return nil, err
	}
	return ssh.NewSignerFromKey(key)
}

// NewHostKey makes the server show another key from now on, as one that was put up anew does.
func (v *Vault) NewHostKey() error {
	_, key, err := ed25519.GenerateKey(rand.Reader)
	if err != nil {
		return err
	}
	if v.host, err = ssh.NewSignerFromKey(key); err != nil {
		return err
	}
	return errors.Join(v.Switch(depot.Off), v.Switch(depot.On))
}

func (v *Vault) serve(l net.Listener) {
	config := &ssh.ServerConfig{PasswordCallback: func(c ssh.ConnMetadata, password []byte) (*ssh.Permissions, error) {
		if c.User() != User || string(password) != Password {
			return nil, errors.New("no such user")
		}
		return nil, nil
	}}
	config.AddHostKey(v.host)
	for {
		c, err := l.Accept()
		if err != nil {
			return // it was switched off
		}
		go v.talk(c, config)
	}
}

func (v *Vault) talk(c net.Conn, config *ssh.ServerConfig) {
	defer c.Close()
	_, channels, requests, err := ssh.NewServerConn(c, config)
	if err != nil {
		return // who it was hears of it
	}
	go ssh.DiscardRequests(requests)
	for n := range channels {
		if n.ChannelType() != "session" {
			n.Reject(ssh.UnknownChannelType, "only sessions")
			continue
		}
		channel, requests, err := n.Accept()
		if err != nil {
			return
		}
		go func() {
			for r := range requests {
				r.Reply(r.Type == "subsystem" && strings.HasSuffix(string(r.Payload), "sftp"), nil)
			}
		}()
		f := files{v}
		go func() {
			sftp.NewRequestServer(channel, sftp.Handlers{FileGet: f, FilePut: f, FileCmd: f, FileList: f}).Serve()
			// RFC 4254 section 6.10: OpenSSH’s client waits for how it ended.
			channel.SendRequest("exit-status", false, ssh.Marshal(struct{ Status uint32 }{0}))
			channel.Close()
		}()
	}
}

// files answers the protocol's requests in the folder, and nowhere else.
type files struct{ *Vault }

func within(path string) string {
	if path = strings.Trim(path, "/"); path == "" {
		return "."
	}
	return path
}

func (f files) refused(writes bool) error {
	switch m := f.Mode(); {
	case m == depot.Forbidden:
		return sftp.ErrSSHFxPermissionDenied
	case m == depot.Full && writes:
		return syscall.ENOSPC
	}
	return nil
}

func (f files) Fileread(r *sftp.Request) (io.ReaderAt, error) {
	if err := f.refused(false); err != nil {
		return nil, err
	}
	if f.Mode() == depot.Endless {
		return endless{}, nil
	}
	return f.root.Open(within(r.Filepath))
}

func (f files) Filewrite(r *sftp.Request) (io.WriterAt, error) {
	if err := f.refused(true); err != nil {
		return nil, err
	}
	if f.Mode() == depot.Lying {
		return nowhere{}, nil
	}
	flags := os.O_WRONLY
	p := r.Pflags()
	for _, x := range []struct {
		on   bool
		flag int
	}{{p.Creat, os.O_CREATE}, {p.Trunc, os.O_TRUNC}, {p.Excl, os.O_EXCL}} {
		if x.on {
			flags |= x.flag
		}
	}
	return f.root.OpenFile(within(r.Filepath), flags, 0o600)
}

// nowhere is where a liar writes.
type nowhere struct{}

func (nowhere) WriteAt(b []byte, _ int64) (int, error) { return len(b), nil }

func (f files) Filecmd(r *sftp.Request) error {
	if err := f.refused(r.Method != "Remove" && r.Method != "Rmdir"); err != nil {
		return err
	}
	if f.Mode() == depot.Lying {
		return nil
	}
	switch at := within(r.Filepath); r.Method {
	case "Mkdir":
		return f.root.Mkdir(at, 0o700)
	case "Remove", "Rmdir":
		return f.root.Remove(at)
	case "Rename":
		if _, err := f.root.Lstat(within(r.Target)); err == nil {
			return os.ErrExist
		}
		return f.root.Rename(at, within(r.Target))
	case "Setstat":
		return nil
	}
	return sftp.ErrSSHFxOpUnsupported
}

// PosixRename renames over what is there.
func (f files) PosixRename(r *sftp.Request) error {
	if f.Mode() == depot.Lying {
		return nil
	}
	return f.root.Rename(within(r.Filepath), within(r.Target))
}

func (f files) Filelist(r *sftp.Request) (sftp.ListerAt, error) {
	if err := f.refused(false); err != nil {
		return nil, err
	}
	at := within(r.Filepath)
	if r.Method == "Stat" {
		about, err := f.root.Stat(at)
		return listed{about}, err
	}
	if r.Method != "List" {
		return nil, sftp.ErrSSHFxOpUnsupported
	}
	dir, err := f.root.Open(at)
	if err != nil {
		return nil, err
	}
	defer dir.Close()
	if about, err := f.root.Stat("."); f.Mode() == depot.Endless && err == nil {
		return endless{about}, nil
	}
	all, err := dir.Readdir(-1)
	return listed(all), err
}

// listed are entries of a folder, given by their places.
type listed []os.FileInfo

func (l listed) ListAt(to []os.FileInfo, from int64) (int, error) {
	if from >= int64(len(l)) {
		return 0, io.EOF
	}
	n := copy(to, l[from:])
	if n < len(to) {
		return n, io.EOF
	}
	return n, nil
}

// endless is a file or a folder without an end.
type endless struct{ entry os.FileInfo }

func (endless) ReadAt(b []byte, _ int64) (int, error) { return len(b), nil }

func (e endless) ListAt(to []os.FileInfo, _ int64) (int, error) {
	for i := range to {
		to[i] = e.entry
	}
	return len(to), nil
}
