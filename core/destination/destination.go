// Package destination says where the house files: the settings of a place and their checks. It reaches nothing.
package destination

import (
	"crypto/sha256"
	"encoding/base64"
	"net/netip"
	"net/url"
	"path"
	"regexp"
	"slices"
	"strings"

	"amberseal/core/words/finding"
)

// Kind is what sort of place it is.
type Kind string

// The kinds.
const (
	Folder Kind = "folder" // a folder of the machine on which the program runs
	Bucket Kind = "bucket" // of a store that speaks the S3 protocol
	Share  Kind = "share"  // WebDAV (RFC 4918)
	Vault  Kind = "vault"  // SFTP (draft-ietf-secsh-filexfer-02), over SSH
)

// Kinds are all of them, in the order in which they are shown.
var Kinds = []Kind{Folder, Bucket, Share, Vault}

// Destination is a place of the house's. Its JSON is the body of the API's destination; its password lies in the safe.
type Destination struct {
	Key     string `json:"key"`
	Name    string `json:"name"`
	Kind    Kind   `json:"kind"`
	Address string `json:"address,omitempty"` // https address of a bucket's server or a share; host and port of a vault
	Bucket  string `json:"bucket,omitempty"`
	Region  string `json:"region,omitempty"`  // of a bucket
	Folder  string `json:"folder,omitempty"`  // below which everything lies; of a folder the folder itself
	User    string `json:"user,omitempty"`    // of a bucket the access key's name
	HostKey string `json:"hostKey,omitempty"` // of a vault: its key as it was shown first, as in an authorized_keys line
	Reach   string `json:"reach,omitempty"`   // the address under which people open what lies there, where it has one of its own
}

// ForgetKey instead of a host key says that the one which is shown next is to be taken.
const ForgetKey = "forget"

// SecretName is the name of its password in the safe.
func (d Destination) SecretName() string { return "destination/" + d.Key }

// Door names the server that its password is for: its kind, where it is, and of a vault the key that it showed first.
func (d Destination) Door() string {
	name := string(d.Kind) + " " + d.Address
	if d.Kind == Vault && d.HostKey != "" && d.HostKey != ForgetKey {
		name += " " + Fingerprint(d.HostKey)
	}
	return name
}

// Cabinet is the key of the destination that each house has by itself.
const Cabinet = "cabinet"

var (
	key    = regexp.MustCompile(`^[a-z][a-z0-9-]{0,39}$`)
	bucket = regexp.MustCompile(`^[a-z0-9][a-z0-9.-]{1,61}[a-z0-9]$`) // Amazon S3 User Guide, “Bucket naming rules”; from memory
)

// Check finds what is wrong. Places begin with destination/. Without encryption only this machine is reached, as the stand-ins are.
func (d Destination) Check() finding.List {
	var l finding.List
	if !key.MatchString(d.Key) {
		l.Fault("destination/key", "destination.key-unusable")
	}
	if strings.TrimSpace(d.Name) == "" {
		l.Fault("destination/name", "destination.no-name")
	}
	switch d.Kind {
	case Folder:
		if !path.IsAbs(d.Folder) || strings.ContainsRune(d.Folder, 0) {
			l.Fault("destination/folder", "destination.folder-not-whole")
		}
	case Bucket, Share:
		d.checkAddress(&l)
		if d.Kind == Bucket && !bucket.MatchString(d.Bucket) {
			l.Fault("destination/bucket", "destination.bucket-unusable")
		}
	case Vault:
		if host, _ := d.HostPort(); host == "" || strings.ContainsAny(d.Address, "/@ ") {
			l.Fault("destination/address", "destination.no-host")
		}
		if d.User == "" {
			l.Fault("destination/user", "destination.no-user")
		}
	default:
		l.Fault("destination/kind", "destination.unknown-kind", "kind", string(d.Kind))
	}
	if d.Kind != Folder && (strings.Contains("/"+d.Folder+"/", "/../") || strings.ContainsRune(d.Folder, 0)) {
		l.Fault("destination/folder", "destination.folder-outside")
	}
	if d.Reach != "" {
		if u, err := url.Parse(d.Reach); err != nil || u.Host == "" && u.Scheme != "file" ||
			!slices.Contains([]string{"http", "https", "file", "smb"}, u.Scheme) {
			l.Fault("destination/reach", "destination.reach-unusable")
		}
	}
	return l
}

func (d Destination) checkAddress(l *finding.List) {
	u, err := url.Parse(d.Address)
	switch {
	case err != nil || u.Host == "" || u.User != nil || u.Scheme != "https" && u.Scheme != "http":
		l.Fault("destination/address", "destination.address-unusable")
	case u.Scheme == "http" && !loopback(u.Hostname()):
		l.Fault("destination/address", "destination.address-in-the-clear")
	}
}

// loopback reports whether a host is this machine: what is sent there crosses no line.
func loopback(host string) bool {
	ip, err := netip.ParseAddr(host)
	return host == "localhost" || err == nil && ip.IsLoopback()
}

// HostPort are those of a vault's address; SSH's port is 22 (RFC 4251 section 9.3.1 names the assignment).
func (d Destination) HostPort() (host, port string) {
	u := url.URL{Host: d.Address}
	if port = u.Port(); port == "" {
		port = "22"
	}
	return u.Hostname(), port
}

// Below is the path of a file below the destination's folder.
func (d Destination) Below(name string) string {
	return strings.TrimPrefix(path.Join("/", d.Folder, name), "/")
}

// Fingerprint is a vault's key as people compare it: as OpenSSH writes it, the SHA-256 in base64 without its end.
func Fingerprint(hostKey string) string {
	parts := strings.Fields(hostKey)
	if len(parts) < 2 {
		return "unreadable"
	}
	blob, err := base64.StdEncoding.DecodeString(parts[1])
	if err != nil {
		return "unreadable"
	}
	sum := sha256.Sum256(blob)
	return "SHA256:" + base64.RawStdEncoding.EncodeToString(sum[:])
}
