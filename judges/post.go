package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"time"

	"amberseal/adapter/smtp"
	"amberseal/app/notify"
	"amberseal/core/account"
)

// The lines of Postfix's own table of services that are other ones here: the port, and no service in a folder of its own.
var (
	regexpSMTP   = regexp.MustCompile(`(?m)^smtp\s+inet.*$`)
	regexpChroot = regexp.MustCompile(`(?m)^(\S+\s+(?:unix|inet|fifo|pass|unix-dgram)\s+\S+\s+\S+)\s+[y-]\s+(.*)$`)
)

// postfix judges our messages by Postfix (Debian) on loopback: it takes them for everybody but whom it does not know, and delivers them
// once, with the subject, the envelope and the attachment as they were handed in.
func postfix(work string) error {
	if os.Getuid() != 0 {
		return unfetched{errors.New("Postfix is run by root alone")}
	}
	port, err := freePort()
	if err != nil {
		return err
	}
	nobody, err := user.Lookup("postfix")
	if err != nil {
		return unfetched{err}
	}
	conf, mail := work+"/conf", work+"/mail"
	for _, dir := range []string{conf, mail, work + "/queue", work + "/data"} {
		if err := os.MkdirAll(dir, 0o755); err != nil {
			return err
		}
	}
	for dir := work; dir != "/tmp" && dir != "/"; dir = filepath.Dir(dir) { // its programs run as somebody else
		if err := os.Chmod(dir, 0o755); err != nil {
			return err
		}
	}
	if out, err := tool("chown", nobody.Uid, mail, work+"/data"); err != nil {
		return fmt.Errorf("%s %w", out, err)
	}
	main := fmt.Sprintf(`compatibility_level = 3.6
queue_directory = %[1]s/queue
data_directory = %[1]s/data
maillog_file = %[1]s/log
maillog_file_prefixes = %[1]s
mail_owner = postfix
setgid_group = postdrop
inet_interfaces = loopback-only
inet_protocols = ipv4
myhostname = post.example
mydestination =
smtputf8_enable = yes
virtual_mailbox_domains = post.example
virtual_mailbox_base = %[1]s/mail
virtual_mailbox_maps = inline:{ {ann@post.example = ann/} {łucja@post.example = lucja/} }
virtual_uid_maps = static:%[2]s
virtual_gid_maps = static:%[3]s
virtual_minimum_uid = 1
smtpd_recipient_restrictions = reject_unauth_destination, reject_unlisted_recipient
`, work, nobody.Uid, nobody.Gid)
	master, err := os.ReadFile("/usr/share/postfix/master.cf.dist")
	if err != nil {
		return unfetched{err}
	}
	services := regexpSMTP.ReplaceAllString(string(master), "127.0.0.1:"+port+" inet n - n - - smtpd")
	services = regexpChroot.ReplaceAllString(services, "$1 n $2")
	for name, data := range map[string]string{"main.cf": main, "master.cf": services} {
		if err := os.WriteFile(conf+"/"+name, []byte(data), 0o644); err != nil {
			return err
		}
	}
	if out, err := tool("postfix", "-c", conf, "start"); err != nil {
		return fmt.Errorf("Postfix does not start: %w\n%s", err, tail(out))
	}
	defer tool("postfix", "-c", conf, "stop")
	if err := answers("127.0.0.1:" + port); err != nil {
		return err
	}
	return delivered("Postfix", work, port, "łucja")
}

// strict judges our messages by OpenSMTPD, which refuses what the grammar of RFC 5321 does. Debian's package cannot stand beside Postfix,
// so that it is unpacked into the judge's own folder and runs in mounts of its own, with the two users that it asks for.
func strict(work string) error {
	if os.Getuid() != 0 {
		return unfetched{errors.New("OpenSMTPD is run by root alone")}
	}
	port, err := freePort()
	if err != nil {
		return err
	}
	for dir := work; dir != "/tmp" && dir != "/"; dir = filepath.Dir(dir) { // its programs run as somebody else
		if err := os.Chmod(dir, 0o755); err != nil {
			return err
		}
	}
	if err := os.Mkdir(work+"/mail", 0o700); err != nil {
		return err
	}
	if err := os.Chmod(work+"/mail", 0o777); err != nil {
		return err
	}
	conf := fmt.Sprintf(`listen on 127.0.0.1 port %[1]s hostname post.example
table users { "ann@post.example" = "nobody", "lucja@post.example" = "nobody" }
action "keep" maildir "%[2]s/mail/%%{dest.user}" virtual <users>
match from any for domain "post.example" action "keep"
`, port, work)
	for name, data := range map[string]string{"smtpd.conf": conf, "run": strictRun} {
		if err := os.WriteFile(work+"/"+name, []byte(data), 0o644); err != nil {
			return err
		}
	}
	get := exec.Command("apt-get", "download", "-q", "opensmtpd", "libevent-2.1-7", "libdb5.3")
	get.Dir = work
	if out, err := get.CombinedOutput(); err != nil {
		return unfetched{fmt.Errorf("OpenSMTPD cannot be fetched: %w\n%s", err, tail(string(out)))}
	}
	packed, _ := filepath.Glob(work + "/*.deb")
	for _, name := range packed {
		if err := fetch("dpkg", "-x", name, work+"/root"); err != nil {
			return err
		}
	}
	if out, err := tool("unshare", "--mount", "true"); err != nil {
		return unfetched{fmt.Errorf("OpenSMTPD needs mounts of its own, which this machine does not give: %w\n%s", err, out)}
	}
	log, err := os.Create(work + "/log")
	if err != nil {
		return err
	}
	defer log.Close()
	daemon := exec.Command("unshare", "--mount", "--pid", "--fork", "--kill-child", "bash", work+"/run", work)
	daemon.Stdout, daemon.Stderr = log, log
	if err := daemon.Start(); err != nil {
		return err
	}
	defer func() { daemon.Process.Kill(); daemon.Wait() }()
	if err := answers("127.0.0.1:" + port); err != nil {
		said, _ := os.ReadFile(work + "/log")
		return fmt.Errorf("OpenSMTPD does not start: %w\n%s", err, tail(string(said)))
	}
	return delivered("OpenSMTPD", work, port, "lucja") // it knows no letters but those of ASCII before the @
}

// strictRun gives the daemon the folders and users that it has by its making, in mounts that nobody else sees.
const strictRun = `set -e
mount --make-rprivate /
for d in /var/spool /var/lib /run /usr/libexec; do mount -t tmpfs -o mode=755 tmpfs $d; done
mkdir -p /usr/libexec/opensmtpd /var/lib/opensmtpd/empty
mount --bind $1/root/usr/libexec/opensmtpd /usr/libexec/opensmtpd
cp /etc/passwd /etc/group $1
for n in opensmtpd opensmtpq; do
  [ $n = opensmtpd ] && id=901 || id=902
  echo "$n:x:$id:$id::/var/lib/opensmtpd/empty:/bin/false" >> $1/passwd
  echo "$n:x:$id:" >> $1/group
done
mount --bind $1/passwd /etc/passwd
mount --bind $1/group /etc/group
export LD_LIBRARY_PATH=$(echo $1/root/usr/lib/*-linux-gnu)
exec $1/root/usr/sbin/smtpd -d -f $1/smtpd.conf
`

// delivered hands a message over for three recipients, one of them unknown, and reads what the two others got.
func delivered(server, work, port, second string) error {
	n := 0
	fmt.Sscan(port, &n)
	p, err := smtp.New(smtp.Account{Account: account.Account{Host: "127.0.0.1", Port: n, Protection: account.None}}, 1)
	if err != nil {
		return err
	}
	defer p.Close()
	l := notify.Letter{
		ID: "judged", FromName: "Bräu & Söhne, GmbH", From: "desk@post.example", Return: "desk+1-abc@post.example",
		To:      []string{"ann@post.example", "nobody@post.example", second + "@post.example"},
		Subject: "Größe: “ähm” – 価格", Text: ".\n..\nDear Łucja,\n",
		HTML: "<p>Dear Łucja,</p>", Date: time.Now(),
		Attached: []notify.Attachment{{Name: "Angebot – Łucja.pdf", Type: "application/pdf", Data: content("x")}},
	}
	var partly notify.Partly
	err = p.Send(context.Background(), l)
	if !errors.As(err, &partly) || !slices.Equal(partly.Left, []string{"nobody@post.example"}) {
		return fmt.Errorf("of three recipients, one of them unknown: %v", err)
	}
	for _, box := range []string{"ann", "lucja"} {
		var found []string
		for range 100 {
			if found, _ = filepath.Glob(work + "/mail/" + box + "/new/*"); len(found) > 0 {
				break
			}
			time.Sleep(100 * time.Millisecond)
		}
		if len(found) != 1 {
			log, _ := os.ReadFile(work + "/log")
			return fmt.Errorf("%s has %d messages:\n%s", box, len(found), tail(string(log)))
		}
		out, err := tool("python3", "-c", `
import email, email.policy, sys
m = email.message_from_bytes(open(sys.argv[1], "rb").read(), policy=email.policy.default)
a = [p for p in m.iter_attachments()]
print(m["return-path"], m["subject"], a[0].get_filename(), len(a[0].get_payload(decode=True)),
    m.get_body(("plain",)).get_content().strip(), sep="|")
`, found[0])
		want := fmt.Sprintf("<desk+1-abc@post.example>|%s|%s|%d|%s", l.Subject, l.Attached[0].Name, len(l.Attached[0].Data),
			strings.TrimSpace(l.Text))
		if err != nil || strings.TrimSpace(out) != want {
			raw, _ := os.ReadFile(found[0])
			return fmt.Errorf("%s reads %s\nnot %s\nof %.1200s", box, out, want, raw)
		}
	}
	fmt.Println(server, "took the message for two of three, and delivered it once to each")
	return nil
}
