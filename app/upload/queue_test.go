package upload

import (
	"context"
	"errors"
	"strings"
	"sync/atomic"
	"testing"
	"testing/synctest"
	"time"
)

// Whoever sends many pictures at once waits behind themselves: somebody else is next, six of a client wait at most, and who waits too long
// or leaves gives its place up. Time is that of the bubble.
func TestEachClientStandsInTheQueueOnce(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		var q queue
		var order []string
		enter := func(ctx context.Context, client string, takes time.Duration) error {
			leave, err := q.enter(ctx, client)
			if err != nil {
				return err
			}
			order = append(order, client)
			time.Sleep(takes)
			leave()
			return nil
		}
		var busy atomic.Int32
		for range 8 {
			go func() {
				if errors.Is(enter(t.Context(), "a", time.Second), ErrBusy) {
					busy.Add(1)
				}
			}()
		}
		synctest.Wait()
		if busy.Load() != 2 {
			t.Errorf("%d of eight at once were told that many wait", busy.Load())
		}
		if err := enter(t.Context(), "b", time.Second); err != nil {
			t.Error(err)
		}
		time.Sleep(time.Minute)
		synctest.Wait()
		if got := strings.Join(order, ""); got != "abaaaaa" {
			t.Errorf("their turns were %s", got)
		}

		order = nil
		go enter(t.Context(), "slow", 40*time.Second)
		synctest.Wait()
		left, cancel := context.WithCancel(t.Context())
		time.AfterFunc(time.Second, cancel)
		if err := enter(left, "c", time.Second); !errors.Is(err, context.Canceled) {
			t.Errorf("who left: %v", err)
		}
		begun := time.Now()
		if err := enter(t.Context(), "d", time.Second); !errors.Is(err, ErrBusy) || time.Since(begun) != longestTurn {
			t.Errorf("who waited too long: %v after %s", err, time.Since(begun))
		}
		time.Sleep(time.Minute)
		synctest.Wait()
		if len(q.of) != 0 {
			t.Errorf("%d clients stand in a queue that nobody is in", len(q.of))
		}
		if err := enter(t.Context(), "d", time.Second); err != nil {
			t.Error(err)
		}
	})
}
