package reach_test

import (
	"context"
	"errors"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"amberseal/adapter/reach"
	"amberseal/app/work"
)

// Why a server cannot be reached is said in plain words, as an outage; a stop of ours is none.
func TestWhyAServerIsNotReached(t *testing.T) {
	secure := httptest.NewTLSServer(http.NotFoundHandler())
	defer secure.Close()
	plain := httptest.NewServer(http.NotFoundHandler())
	defer plain.Close()
	broken := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		c, _, err := http.NewResponseController(w).Hijack()
		if err == nil {
			c.Close()
		}
	}))
	defer broken.Close()
	slow := httptest.NewServer(http.HandlerFunc(func(_ http.ResponseWriter, r *http.Request) { <-r.Context().Done() }))
	defer slow.Close()
	client := &http.Client{Transport: reach.Transport()}
	for address, says := range map[string]string{
		secure.URL: "certificate that is not to be trusted", "https://" + plain.Listener.Addr().String(): "does not speak TLS",
		"http://127.0.0.1:1": "nothing listens there", "http://nowhere.invalid": "", broken.URL: "broke the connection off",
		slow.URL: "answers too slowly",
	} {
		ctx, cancel := context.WithTimeout(t.Context(), 2*time.Second)
		r, err := http.NewRequestWithContext(ctx, "GET", address, nil)
		if err != nil {
			t.Fatal(err)
		}
		_, err = client.Do(r)
		var again work.Again
		if told := reach.Told(ctx, "It", err); !errors.As(told, &again) || !again.Outage || !strings.Contains(again.Reason, says) {
			t.Errorf("%s: %v of %v", address, told, err)
		}
		cancel()
	}
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	if err := reach.Told(ctx, "It", ctx.Err()); !errors.Is(err, context.Canceled) || errors.As(err, new(work.Again)) {
		t.Errorf("a stop is told as %v", err)
	}
}
