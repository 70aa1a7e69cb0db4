package bounces_test

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"amberseal/app/bounces"
	"amberseal/app/register"
	"amberseal/core/link"
)

// told is a report in the form of RFC 3464, section 2.
func told(to, id, reason string, addresses ...string) []byte {
	var fields strings.Builder
	for _, a := range addresses {
		fmt.Fprintf(
			&fields,
			"Final-Recipient: rfc822; %s\r\nAction: failed\r\nStatus: 5.1.1\r\nDiagnostic-Code: smtp; %s\r\n\r\n",
			a,
			reason,
		)
	}
	return []byte("To: " + to + "\r\nContent-Type: multipart/report; report-type=delivery-status; boundary=x\r\n\r\n" +
		"--x\r\nContent-Type: message/delivery-status\r\n\r\nReporting-MTA: dns; a.example\r\n\r\n" + fields.String() +
		"--x\r\nContent-Type: message/rfc822\r\n\r\nMessage-ID: <" + id + ">\r\n\r\n--x--\r\n")
}

// ledger has one message, by which some were written to.
type ledger struct {
	readers []string
	marked  []bounces.Failure
	job     int64
}

func (l *ledger) Bounced(_ context.Context, job int64, mid string, all []bounces.Failure, _ time.Time) (string, error) {
	if job != l.job && mid != "mid" {
		return "", register.NotFound
	}
	l.marked = bounces.Of(l.readers, all)
	if len(l.marked) == 0 {
		return "", bounces.ErrOthers
	}
	return "N-1", nil
}

// A report is anybody's word: it is believed of a message that it can prove to have had, of those whom that went to, and in few words.
func TestWhatAReportIsBelieved(t *testing.T) {
	secret := link.Secret("0123456789abcdef0123456789abcdef")
	l := &ledger{readers: []string{"Ann@reader.example", "lu@münchen.example"}, job: 7}
	taker := bounces.Taker{Store: l, Secret: secret, Now: time.Now}
	ours := secret.Return("back@house.example", 7)
	forged := strings.Replace(ours, "+7", "+8", 1)
	many := make([]string, 40_000)
	for i := range many {
		many[i] = fmt.Sprintf("reader%d@evil.example", i)
	}
	for _, c := range []struct {
		what string
		raw  []byte
		want error
		of   []string
	}{
		{"its reader", told(ours, "", "550 no", "ann@READER.example"), nil, []string{"Ann@reader.example"}},
		{"a domain as the wire has it", told(ours, "", "550 no", "lu@xn--mnchen-3ya.example"), nil, []string{"lu@münchen.example"}},
		{"by the Message-ID", told("x@house.example", "mid@house.example", "no", "ann@reader.example"), nil,
			[]string{"Ann@reader.example"}},
		{"twice", told(ours, "", "550 no", "ann@reader.example", "ANN@reader.example"), nil, []string{"Ann@reader.example"}},
		{"somebody else's address", told(ours, "", "550 no", "attacker@evil.example"), bounces.ErrOthers, nil},
		{"the same by the Message-ID", told("x@y.example", "mid@z", "no", "attacker@evil.example"), bounces.ErrOthers, nil},
		{"one more beside a reader", told(ours, "", "no", "ann@reader.example", "attacker@evil.example"), nil,
			[]string{"Ann@reader.example"}},
		{"forty thousand", told(ours, "", "550 no", many...), bounces.ErrOthers, nil},
		{"a return address without its proof", told("back+7-0000000000000000@house.example", "", "no", "ann@reader.example"),
			register.NotFound, nil},
		{"the proof of another message", told(forged, "", "no", "ann@reader.example"), register.NotFound, nil},
	} {
		l.marked = nil
		_, err := taker.Take(t.Context(), c.raw)
		var of []string
		for _, f := range l.marked {
			of = append(of, f.Address)
		}
		if !errors.Is(err, c.want) || !slices.Equal(of, c.of) {
			t.Errorf("%s: %v, of %v; want %v, of %v", c.what, err, of, c.want, c.of)
		}
	}
	long := "550 call +44 900; or open https://evil.example/login?x=1 and” www.evil.example/pay " + strings.Repeat("z", 5000)
	r, err := bounces.Read(told(ours, "", long, "ann@reader.example"))
	if err != nil || len(r.Failures) != 1 {
		t.Fatal(r, err)
	}
	reason := r.Failures[0].Reason
	if strings.Contains(reason, "evil.example") || len([]rune(reason)) > 202 || !strings.HasPrefix(reason, "“550 call") ||
		strings.Count(reason, "”") != 1 {
		t.Errorf("a stranger's words are told as %q", reason)
	}
}
