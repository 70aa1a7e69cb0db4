package bucket_test

import (
	"errors"
	"fmt"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"strings"
	"testing"

	"amberseal/adapter/bucket"
	"amberseal/app/file"
	"amberseal/app/file/filetest"
	"amberseal/app/work"
	"amberseal/core/destination"
	standin "amberseal/standin/bucket"
	"amberseal/standin/depot/depottest"
)

func TestPlace(t *testing.T) {
	filetest.TestPlace(t, func(t *testing.T) filetest.Place {
		s, err := standin.Open("127.0.0.1:0", filepath.Join(t.TempDir(), "stock"))
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(s.Close)
		p, err := bucket.Open(destination.Destination{Kind: destination.Bucket, Address: "http://" + s.Address(), Bucket: standin.Name,
			Region: "eu-central-1", User: standin.User}, standin.Secret)
		if err != nil {
			t.Fatal(err)
		}
		return depottest.Place(p, s.Depot)
	})
}

// What a store refuses is told in plain words, each an outage that ends when it is mended; the codes are those of the protocol.
func TestWhatAStoreRefuses(t *testing.T) {
	for code, x := range map[string]struct {
		status int
		says   string
	}{
		"RequestTimeTooSkewed":  {403, "our clocks differ too much"},
		"InvalidAccessKeyId":    {403, "refuses the access key"},
		"SignatureDoesNotMatch": {403, "refuses the access key"},
		"NoSuchBucket":          {404, "is not there"},
		"QuotaExceeded":         {403, "is full"},
		"AccessDenied":          {403, "does not let this access key"},
	} {
		s := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Type", "application/xml")
			w.WriteHeader(x.status)
			fmt.Fprintf(w, `<?xml version="1.0"?><Error><Code>%s</Code><Message>no</Message></Error>`, code)
		}))
		p, err := bucket.Open(destination.Destination{Kind: destination.Bucket, Address: s.URL, Bucket: "records", Region: "eu-central-1",
			User: "x"}, "y")
		if err != nil {
			t.Fatal(err)
		}
		err = p.Create(t.Context(), "a.pdf", file.File{Data: []byte("x")})
		var again work.Again
		if !errors.As(err, &again) || !again.Outage || !strings.Contains(again.Reason, x.says) {
			t.Errorf("%s is told as %v", code, err)
		}
		s.Close()
	}
}
