package watch_test

import (
	"sync"
	"testing"
	"testing/synctest"
	"time"

	"amberseal/app/watch"
)

// Whoever listens wakes after a change, once for many that came while it was busy, and nobody waits for those who do not look.
func TestListening(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		var hub watch.Hub
		hub.Changed() // nobody is there
		idle, end := hub.Listen()
		defer end()
		woken, stop := hub.Listen()
		count := 0
		var done sync.WaitGroup
		done.Go(func() {
			for {
				select {
				case <-woken:
					count++
				case <-time.After(time.Minute):
					return
				}
			}
		})
		for range 3 {
			synctest.Wait()
			hub.Changed()
		}
		synctest.Wait()
		stop()
		hub.Changed()
		done.Wait()
		if count != 3 {
			t.Errorf("a listener woke %d times", count)
		}
		select {
		case <-idle:
		default:
			t.Error("one that was busy is told nothing")
		}
		select {
		case <-idle:
			t.Error("many changes are told more than once")
		default:
		}
	})
}

func TestManyComeAndGo(t *testing.T) {
	var hub watch.Hub
	var all sync.WaitGroup
	for range 50 {
		all.Go(func() {
			for range 50 {
				changed, end := hub.Listen()
				hub.Changed()
				<-changed
				end()
				end() // twice does no harm
			}
		})
	}
	all.Wait()
}
