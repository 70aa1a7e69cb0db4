// Package bucket is a stand-in for a store that speaks the S3 protocol: one bucket, kept in a file.
package bucket

import (
	"fmt"
	"io"
	"net"
	"net/http"
	"strings"

	"github.com/johannesboyne/gofakes3"
	"github.com/johannesboyne/gofakes3/backend/s3bolt"

	"amberseal/standin/depot"
)

// Name is that of the bucket; User and Secret are taken without being looked at.
const (
	Name   = "records"
	User   = "demo"
	Secret = "demo-secret"
)

// Bucket is the stand-in.
type Bucket struct {
	*depot.Depot
	back gofakes3.Backend
}

// Open makes the stand-in, with what a file holds.
func Open(address, name string) (*Bucket, error) {
	back, err := s3bolt.NewFile(name)
	if err != nil {
		return nil, err
	}
	there, err := back.BucketExists(Name)
	if err == nil && !there {
		err = back.CreateBucket(Name)
	}
	if err != nil {
		return nil, err
	}
	b := &Bucket{&depot.Depot{Path: "bucket", List: "objects", Title: "Stand-in bucket",
		Hint: "A store that speaks the S3 protocol, with one bucket called “" + Name + "”; any access key is taken."},
		&stock{Backend: back}}
	b.Stock, b.Serve = b, b.serve
	return b, b.Depot.Open(address)
}

func (b *Bucket) serve(l net.Listener) {
	fake := gofakes3.New(b.back, gofakes3.WithLogger(gofakes3.DiscardLog()), gofakes3.WithTimeSkewLimit(0))
	writes := func(r *http.Request) bool { return r.Method == http.MethodPut || r.Method == http.MethodPost }
	s := &http.Server{Handler: b.Refuses(fake.Server(), writes, func(w http.ResponseWriter, m depot.Mode) {
		if m == depot.Lying {
			w.Header().Set("ETag", `"00000000000000000000000000000000"`)
			return
		}
		code, status := "AccessDenied", http.StatusForbidden
		if m == depot.Full {
			code, status = "XMinioStorageFull", http.StatusInsufficientStorage
		}
		w.Header().Set("Content-Type", "application/xml")
		w.WriteHeader(status)
		fmt.Fprintf(w, `<?xml version="1.0"?><Error><Code>%s</Code><Message>%[1]s</Message></Error>`, code)
	})}
	s.Serve(l) // ends when the listener closes
}

// Files lists what arrived.
func (b *Bucket) Files() ([]depot.File, error) {
	all, err := b.back.ListBucket(Name, &gofakes3.Prefix{}, gofakes3.ListBucketPage{})
	if err != nil {
		return nil, err
	}
	var out []depot.File
	for _, o := range all.Contents {
		data, about, ok := b.read(o.Key)
		if !ok {
			continue
		}
		out = append(out, depot.File{Path: o.Key, Size: o.Size, SHA256: depot.Sum(data), Changed: o.LastModified.Time, About: about})
	}
	return out, nil
}

// Read gives an object.
func (b *Bucket) Read(key string) ([]byte, bool) {
	data, _, ok := b.read(key)
	return data, ok
}

func (b *Bucket) read(key string) (data []byte, about map[string]string, ok bool) {
	o, err := b.back.GetObject(Name, key, nil)
	if err != nil {
		return nil, nil, false
	}
	data, err = io.ReadAll(o.Contents)
	about = map[string]string{}
	for k, v := range o.Metadata {
		if name, own := strings.CutPrefix(k, "X-Amz-Meta-"); own || strings.EqualFold(k, "X-Amz-Tagging") {
			about[name] = v
		}
	}
	return data, about, err == nil
}
