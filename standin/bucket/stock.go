package bucket

import (
	"bytes"
	"io"
	"slices"
	"sync"

	"github.com/johannesboyne/gofakes3"
)

// stock keeps objects in a file of bolt. What s3bolt gives out lies in the file's own mapped pages, which a later write moves or
// writes over while somebody still reads them; so it is copied while nobody writes.
type stock struct {
	gofakes3.Backend
	mu sync.RWMutex
}

func (s *stock) GetObject(bucket, key string, part *gofakes3.ObjectRangeRequest) (*gofakes3.Object, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	o, err := s.Backend.GetObject(bucket, key, part)
	if err != nil {
		return nil, err
	}
	data, err := io.ReadAll(o.Contents)
	o.Contents, o.Hash = io.NopCloser(bytes.NewReader(data)), slices.Clone(o.Hash)
	return o, err
}

func (s *stock) HeadObject(bucket, key string) (*gofakes3.Object, error) {
	s.mu.RLock()
	defer s.mu.RUnlock()
	o, err := s.Backend.HeadObject(bucket, key)
	if err != nil {
		return nil, err
	}
	o.Hash = slices.Clone(o.Hash)
	return o, nil
}

func (s *stock) PutObject(bucket, key string, about map[string]string, in io.Reader, size int64,
	only *gofakes3.PutConditions) (gofakes3.PutObjectResult, error) {
	data, err := io.ReadAll(io.LimitReader(in, size+1)) // before the lock: a slow sender keeps nobody waiting
	if err != nil {
		return gofakes3.PutObjectResult{}, err
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.Backend.PutObject(bucket, key, about, bytes.NewReader(data), size, only)
}

func (s *stock) DeleteObject(bucket, key string) (gofakes3.ObjectDeleteResult, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.Backend.DeleteObject(bucket, key)
}

func (s *stock) DeleteMulti(bucket string, keys ...string) (gofakes3.MultiDeleteResult, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.Backend.DeleteMulti(bucket, keys...)
}

func (s *stock) CopyObject(bucket, key, toBucket, toKey string, about map[string]string) (gofakes3.CopyObjectResult, error) {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.Backend.CopyObject(bucket, key, toBucket, toKey, about)
}
