// Package bucket files in a bucket of a store that speaks the S3 protocol.
package bucket

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"strings"

	"github.com/minio/minio-go/v7"
	"github.com/minio/minio-go/v7/pkg/credentials"

	"amberseal/adapter/reach"
	"amberseal/app/file"
	"amberseal/app/work"
	"amberseal/core/destination"
	"amberseal/core/words/quote"
)

// Bucket is a place. What is written is there whole or not at all: that is the protocol's own.
type Bucket struct {
	d      destination.Destination
	client *minio.Client
}

// Open makes one; nothing is reached yet.
func Open(d destination.Destination, secret string) (*Bucket, error) {
	u, err := url.Parse(d.Address)
	if err != nil {
		return nil, err
	}
	client, err := minio.New(u.Host, &minio.Options{
		Creds: credentials.NewStaticV4(d.User, secret, ""), Secure: u.Scheme == "https", Region: d.Region, Transport: reach.Transport(),
		BucketLookup: minio.BucketLookupPath,
		MaxRetries:   3, // a connection that was kept may be closed by now; what was taken after all is found to be ours
	})
	return &Bucket{d, client}, err
}

// Create writes a file under a name that nobody has. The store decides that itself (If-None-Match, RFC 9110 section 13.1.2).
func (b *Bucket) Create(ctx context.Context, name string, f file.File) error {
	return b.put(ctx, name, f, func(o *minio.PutObjectOptions) { o.SetMatchETagExcept("*") })
}

// Replace writes over what is there.
func (b *Bucket) Replace(ctx context.Context, name string, f file.File) error {
	return b.put(ctx, name, f, func(*minio.PutObjectOptions) {})
}

// ReadTagged gives a file with its ETag.
func (b *Bucket) ReadTagged(ctx context.Context, name string, most int) (data []byte, tag string, err error) {
	ctx, cancel := reach.Within(ctx, most)
	defer cancel()
	o, there, _, err := minio.Core{Client: b.client}.GetObject(ctx, b.d.Bucket, b.d.Below(name), minio.GetObjectOptions{})
	if err != nil {
		return nil, "", b.told(ctx, err)
	}
	defer o.Close()
	data, err = file.ReadAll(o, most)
	return data, there.ETag, b.told(ctx, err)
}

// ReplaceTagged writes over what has an ETag. The store decides that itself (If-Match, RFC 9110 section 13.1.1).
func (b *Bucket) ReplaceTagged(ctx context.Context, name, tag string, f file.File) error {
	err := b.put(ctx, name, f, func(o *minio.PutObjectOptions) { o.SetMatchETag(tag) })
	if errors.Is(err, file.Taken) {
		return file.Other
	}
	return err
}

// untagged is what a tag cannot hold (Amazon S3 User Guide, “Object tagging”; from memory).
var untagged = regexp.MustCompile(`[^\p{L}\p{N} +=._:/@-]`)

func (b *Bucket) put(ctx context.Context, name string, f file.File, condition func(*minio.PutObjectOptions)) error {
	ctx, cancel := reach.Within(ctx, len(f.Data))
	defer cancel()
	o := minio.PutObjectOptions{ContentType: f.Type, DisableMultipart: true, SendContentMd5: true, UserMetadata: map[string]string{},
		UserTags: map[string]string{}}
	for k, v := range f.About {
		o.UserMetadata[k] = url.PathEscape(v) // headers carry ASCII
	}
	for _, k := range []string{"number", "intake"} { // what people sort by; a store takes ten tags at most
		if v := f.About[k]; v != "" {
			o.UserTags[k] = untagged.ReplaceAllString(v, "-")
		}
	}
	condition(&o)
	key := b.d.Below(name)
	put := func() error {
		_, err := b.client.PutObject(ctx, b.d.Bucket, key, bytes.NewReader(f.Data), int64(len(f.Data)), o)
		return err
	}
	err := put()
	if code := minio.ToErrorResponse(err).Code; code == "AccessDenied" || code == "NotImplemented" {
		o.UserTags = nil // tags are a right of their own, and not every store has them
		err = put()
	}
	if err != nil {
		return b.told(ctx, err)
	}
	there, err := b.stat(ctx, name)
	if errors.Is(err, file.Gone) || err == nil && there.Size != int64(len(f.Data)) {
		return reach.Lies(b.where(), name)
	}
	return err
}

// Read gives a file.
func (b *Bucket) Read(ctx context.Context, name string, most int) ([]byte, error) {
	data, _, err := b.ReadTagged(ctx, name, most)
	return data, err
}

const mostMoved = 256 << 20 // bytes: the store has no word for another name, so that the file is read and written

func (b *Bucket) stat(ctx context.Context, name string) (minio.ObjectInfo, error) {
	ctx, cancel := reach.Within(ctx, 0)
	defer cancel()
	there, err := b.client.StatObject(ctx, b.d.Bucket, b.d.Below(name), minio.StatObjectOptions{})
	return there, b.told(ctx, err)
}

// Move gives a file another name.
func (b *Bucket) Move(ctx context.Context, from, to string) error {
	there, err := b.stat(ctx, from)
	if err != nil {
		return err
	}
	data, err := b.Read(ctx, from, int(min(there.Size, mostMoved)))
	if err != nil {
		return err
	}
	if err := b.Create(ctx, to, file.File{Data: data}); err != nil {
		return err
	}
	return b.Remove(ctx, from)
}

// Remove takes a file away.
func (b *Bucket) Remove(ctx context.Context, name string) error {
	ctx, cancel := reach.Within(ctx, 0)
	defer cancel()
	return b.told(ctx, b.client.RemoveObject(ctx, b.d.Bucket, b.d.Below(name), minio.RemoveObjectOptions{}))
}

// List gives the files below a folder.
func (b *Bucket) List(ctx context.Context, folder string) ([]file.Entry, error) {
	ctx, cancel := reach.Within(ctx, reach.Listing)
	defer cancel()
	root := b.d.Below("")
	prefix := b.d.Below(folder)
	if prefix != "" {
		prefix += "/"
	}
	var all []file.Entry
	for o := range b.client.ListObjects(ctx, b.d.Bucket, minio.ListObjectsOptions{Prefix: prefix, Recursive: true}) {
		if o.Err != nil {
			return nil, b.told(ctx, o.Err)
		}
		name := strings.TrimPrefix(strings.TrimPrefix(o.Key, root), "/")
		if len(all) == file.MostListed {
			return nil, reach.Told(ctx, b.where(), reach.ErrTooMuch)
		}
		if file.Usable(name) {
			all = append(all, file.Entry{Path: name, Size: o.Size})
		}
	}
	return all, b.told(ctx, ctx.Err())
}

// KeepsVersions reports whether the bucket keeps what was under a name before.
func (b *Bucket) KeepsVersions(ctx context.Context) (bool, error) {
	ctx, cancel := reach.Within(ctx, 0)
	defer cancel()
	v, err := b.client.GetBucketVersioning(ctx, b.d.Bucket)
	if code := minio.ToErrorResponse(err).Code; code == "NotImplemented" || code == "MethodNotAllowed" {
		return false, nil
	}
	return v.Enabled(), b.told(ctx, err)
}

// Link is a file's address.
func (b *Bucket) Link(name string) string {
	base := b.d.Reach
	if base == "" {
		base = strings.TrimSuffix(b.d.Address, "/") + "/" + b.d.Bucket
	}
	return reach.Link(base, b.d.Below(name))
}

func (b *Bucket) where() string { return "The bucket “" + b.d.Bucket + "” at " + b.d.Address }

// told is an error as people are told of it.
func (b *Bucket) told(ctx context.Context, err error) error {
	if err == nil {
		return nil
	}
	if ctx.Err() != nil {
		return reach.Told(ctx, b.where(), err)
	}
	r := minio.ToErrorResponse(err)
	out := func(reason string) error { return work.Again{Reason: b.where() + " " + reason, Outage: true} }
	switch {
	case r.Code == "PreconditionFailed" || r.StatusCode == http.StatusPreconditionFailed || r.StatusCode == http.StatusConflict:
		return file.Taken
	case r.Code == "NoSuchBucket":
		return out("is not there. Make it, or write another name.")
	case r.Code == "NoSuchKey" || r.StatusCode == http.StatusNotFound && r.Code != "":
		return file.Gone
	case r.Code == "InvalidAccessKeyId" || r.Code == "SignatureDoesNotMatch" || r.StatusCode == http.StatusUnauthorized:
		return out("refuses the access key or its secret. Set them right; what waits is filed then.")
	case r.Code == "XMinioStorageFull" || r.Code == "QuotaExceeded" || r.StatusCode == http.StatusInsufficientStorage:
		return out("is full. Make room there; what waits is filed then.")
	case r.Code == "AccessDenied" || r.Code == "AllAccessDisabled" || r.StatusCode == http.StatusForbidden &&
		r.Code != "RequestTimeTooSkewed":
		return out("does not let this access key do it. Give it the right to write, read, list and delete there.")
	case r.Code == "RequestTimeTooSkewed":
		return out("says that our clocks differ too much. Set the clock of this machine or of the store right.")
	case r.StatusCode >= 500:
		return out(fmt.Sprintf("answers with a fault of its own (%d %s).", r.StatusCode, quote.Cut(r.Code)))
	case r.StatusCode >= 400:
		return work.GiveUp{Reason: b.where() + " refuses it: " + quote.Words(r.Message) + "."}
	}
	return reach.Told(ctx, b.where(), err)
}
