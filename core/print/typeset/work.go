package typeset

import (
	"errors"
	"strconv"
)

// MaxPages is how many pages a document may have; of one that would have more Set makes nothing and says so.
const MaxPages = 5_000

// MostWork is how many characters are shaped for a document, each as often as it is tried: a file of a few kilobytes can ask for more of
// them than a machine does in a day.
const MostWork = 16_000_000

// TooLong is the error of a document that passes MaxPages, or MostWork. Block is the one that passed the limit.
type TooLong struct {
	Block string
	Work  bool
}

func (e TooLong) Error() string {
	if e.Work {
		return "the document takes too much work to set: more than " + strconv.Itoa(MostWork/1_000_000) +
			" million letters, each as often as it is tried"
	}
	return "the document would have more than " + strconv.Itoa(MaxPages) + " pages"
}

// ErrStopped is the error of a document that nobody waits for any more.
var ErrStopped = errors.New("the setting was stopped")

// spend counts characters that are about to be shaped. It ends the setting where they are too many, or where it was stopped.
func (s *setter) spend(letters int) {
	if s.work -= letters; s.work < 0 {
		panic(TooLong{Work: true})
	}
	select {
	case <-s.done:
		panic(ErrStopped)
	default:
	}
}
