package web

import (
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
)

// errCursor is that of a cursor which no page of the list gave.
var errCursor = errors.New("the cursor is from elsewhere; begin again without it")

// cursor says where the next page of a list begins: behind a position, which may be gone by then.
func cursor(list string, position ...any) *string {
	data, err := json.Marshal(append([]any{list}, position...))
	if err != nil { // no position has anything that JSON cannot say
		panic(err)
	}
	s := base64.RawURLEncoding.EncodeToString(data)
	return &s
}

// readCursor reads the position that a cursor of the list holds. Without one nothing is read. The error is errCursor for one of another
// list and for anything that was never given out.
func readCursor(list string, given *string, position ...any) error {
	if given == nil || *given == "" {
		return nil
	}
	data, err := base64.RawURLEncoding.DecodeString(*given)
	if err != nil {
		return fmt.Errorf("%w (%v)", errCursor, err)
	}
	var parts []json.RawMessage
	var of string
	if json.Unmarshal(data, &parts) != nil || len(parts) != len(position)+1 || json.Unmarshal(parts[0], &of) != nil || of != list {
		return errCursor
	}
	for i, into := range position {
		if json.Unmarshal(parts[i+1], into) != nil {
			return errCursor
		}
	}
	return nil
}

// pageOf parts what is one more than a page from the page, and gives the cursor behind the page where there is more.
func pageOf[T any](list string, all []T, size int, position func(T) []any) ([]T, *string) {
	if len(all) <= size {
		return all, nil
	}
	all = all[:size]
	return all, cursor(list, position(all[size-1])...)
}
