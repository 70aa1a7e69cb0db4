package file

import (
	"context"
	"errors"
	"mime"
	"path"

	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/filing"
)

// Standing is how a file lies where it was filed.
type Standing string

// The standings.
const (
	Same    Standing = "same"    // byte for byte
	Changed Standing = "changed" // other bytes have its name
	Lost    Standing = "lost"    // nothing has its name
	Unknown Standing = "unknown" // nobody can say, with a reason
)

// Entries is what the inventory needs of the store. Look-ups of nothing give register.NotFound.
type Entries interface {
	FiledFile(ctx context.Context, submission, id int64) (register.Filed, error)
	Original(ctx context.Context, submission int64, sum string) ([]byte, error)
}

// Inventory looks whether what was filed still lies there, and puts back what does not.
type Inventory struct {
	Store  Entries
	Places Places
}

// Read gives a file as it lies at its destination; Gone where nothing does.
func (v *Inventory) Read(ctx context.Context, submission, id int64) (register.Filed, []byte, error) {
	x, err := v.Store.FiledFile(ctx, submission, id)
	if err != nil {
		return x, nil, err
	}
	p, err := v.Places.Place(ctx, x.Destination)
	if err != nil {
		return x, nil, err
	}
	data, err := p.Read(ctx, x.Path)
	return x, data, err
}

// Check says how a file lies. The reason is that of Unknown.
func (v *Inventory) Check(ctx context.Context, submission, id int64) (s Standing, reason string, err error) {
	x, data, err := v.Read(ctx, submission, id)
	var again work.Again
	switch {
	case x.ID == 0:
		return "", "", err
	case errors.Is(err, Gone):
		return Lost, "", nil
	case errors.Is(err, register.NotFound):
		return Unknown, "The house has no such destination any more.", nil
	case errors.As(err, &again):
		return Unknown, again.Reason, nil
	case err != nil:
		return "", "", err
	case x.SHA256 == "":
		return Unknown, "It was filed before sums of files were kept.", nil
	case register.Sum(data) == x.SHA256:
		return Same, "", nil
	}
	return Changed, "", nil
}

// ErrNoOriginal is the error of a file of which the house has no copy.
var ErrNoOriginal = errors.New("the house has no copy of these bytes, so that it cannot put them back")

// PutBack files a file anew as it was. What lies under its name is kept beside it.
func (v *Inventory) PutBack(ctx context.Context, submission, id int64) error {
	x, err := v.Store.FiledFile(ctx, submission, id)
	if err != nil {
		return err
	}
	data, err := v.Store.Original(ctx, submission, x.SHA256)
	if errors.Is(err, register.NotFound) {
		return ErrNoOriginal
	}
	if err != nil {
		return err
	}
	p, err := v.Places.Place(ctx, x.Destination)
	if err != nil {
		return err
	}
	f := File{Data: data, Type: mime.TypeByExtension(path.Ext(x.Path)), About: map[string]string{"number": x.Number, "title": x.Title}}
	_, err = Put(ctx, p, x.Path, f, filing.Version)
	return err
}
