package produce

import (
	"context"
	"errors"
	"fmt"
	"sync"

	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/ask/form"
	"amberseal/core/print/paper"
)

// sources are what a document is made of, as they lie on a shelf. They remember what could not be read: paper goes on without a picture,
// which is right for a proof, and a document that is sent and filed is whole or is not made. They are safe for many goroutines.
type sources struct {
	read paper.Pictures

	mu     sync.Mutex
	failed error    // the first that may pass
	gone   []string // files of the submission that are not there
}

func newSources(ctx context.Context, shelf Shelf) *sources {
	return &sources{read: Pictures(ctx, shelf)}
}

// picture is paper.Pictures.
func (s *sources) picture(name string) ([]byte, error) {
	data, err := s.read(name)
	if err == nil {
		return data, nil
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	id, answered := paper.FileID(name)
	switch {
	case !errors.Is(err, register.NotFound):
		if s.failed == nil {
			s.failed = err
		}
	case answered:
		s.gone = append(s.gone, id)
	}
	return nil, err
}

// verdict is nil where all was read, and else work.Again, work.GiveUp or the context's error.
func (s *sources) verdict(ctx context.Context, answers form.Answers) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	switch {
	case ctx.Err() != nil:
		return ctx.Err()
	case s.failed != nil:
		return work.Again{Reason: fmt.Sprintf("Something that the document is made of could not be read (%v).", s.failed)}
	case len(s.gone) > 0:
		name := s.gone[0]
		for _, f := range answers.Files() {
			if f.ID == name {
				name = f.Name
			}
		}
		return work.GiveUp{
			Reason: "The file “" + name + "”, which was sent with the answers, is not there any more, so that the document " +
				"would lack it.",
		}
	}
	return nil
}
