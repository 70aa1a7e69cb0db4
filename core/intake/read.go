package intake

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
)

// Read reads a design, of this version of the format or an earlier one: the one way in, for files, imports, the API and the database.
// Names that the format does not have, names that stand twice and values of another sort are errors, to the innermost; the error is
// a Misread that says where.
func Read(data []byte) (Design, error) {
	var d Design
	head := struct {
		Version *int `json:"amberseal"`
	}{}
	err := json.Unmarshal(data, &head)
	var syntax *json.SyntaxError
	switch {
	case errors.As(err, &syntax):
		return d, misread(data, syntax.Offset-1, "", strings.TrimPrefix(syntax.Error(), "json: "))
	case err != nil || head.Version == nil:
		return d, misread(data, 0, "amberseal", `a design begins with { "amberseal": and the version of its format`)
	case *head.Version > Version || *head.Version < 1:
		message := fmt.Sprintf("the design is of version %d of the format; this program reads up to version %d", *head.Version, Version)
		return d, misread(data, 0, "amberseal", message)
	}
	if err := checkShape(data, *head.Version); err != nil {
		return d, err
	}
	if data, err = upgrade(data, *head.Version); err != nil {
		return d, misread(data, 0, "", err.Error())
	}
	type plain Design // which reads itself no more
	if err := json.Unmarshal(data, (*plain)(&d)); err != nil {
		return d, misread(data, 0, "", err.Error())
	}
	return d, nil
}

// UnmarshalJSON is Read.
func (d *Design) UnmarshalJSON(data []byte) (err error) {
	*d, err = Read(data)
	return err
}

// Misread is the error of a design that cannot be read.
type Misread struct {
	Line, Column int    // of the text that was read, from 1
	Path         string // of what stands there, such as documents[0].blocks[3].text; or empty
	Message      string
}

func (m Misread) Error() string {
	at := ""
	if m.Path != "" {
		at = " (" + m.Path + ")"
	}
	return fmt.Sprintf("line %d, column %d%s: %s", m.Line, m.Column, at, m.Message)
}

func misread(data []byte, offset int64, path, message string) Misread {
	before := data[:min(max(offset, 0), int64(len(data)))]
	return Misread{
		Line: bytes.Count(before, []byte("\n")) + 1, Column: len(before) - bytes.LastIndexByte(before, '\n'),
		Path: path, Message: message,
	}
}
