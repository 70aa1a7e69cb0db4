package mailbox

import (
	"bytes"
	"errors"
	"io"
	"os"
	"time"
)

// kept is where a message lies in the file of letters. What a list shows of it is read when it is asked for.
type kept struct {
	at     time.Time
	offset int64
	size   int
	read   *Message
}

// The file is an mbox (RFC 4155), with one more > before each line that begins like the first line of a message, behind any number
// of them: common practice, from memory.
const (
	begins  = "From mailbox@localhost "
	onlyAsc = "Mon Jan _2 15:04:05 2006"
)

// openLetters opens or makes a file of letters and finds those that lie there.
func openLetters(name string) (*os.File, []kept, error) {
	f, err := os.OpenFile(name, os.O_RDWR|os.O_CREATE|os.O_APPEND, 0o600)
	if err != nil {
		return nil, nil, err
	}
	data, err := io.ReadAll(f)
	if err != nil {
		return nil, nil, errors.Join(err, f.Close())
	}
	var all []kept
	for offset := 0; offset < len(data); {
		line, _, _ := bytes.Cut(data[offset:], []byte("\n"))
		at, err := time.Parse(begins+onlyAsc, string(line))
		if err != nil {
			break // not ours, or cut off
		}
		from := offset + len(line) + 1
		size := bytes.Index(data[min(from, len(data)):], []byte("\n\n"+begins))
		if size < 0 {
			if !bytes.HasSuffix(data[min(from, len(data)):],
				[]byte("\n\n")) { // cut off while it was written: nobody was told that it was taken
				return f, all, f.Truncate(int64(offset))
			}
			size = len(data) - from - 2
		}
		all = append(all, kept{at: at, offset: int64(from), size: size})
		offset = from + size + 2
	}
	return f, all, nil
}

// add puts a message at the end of a file of letters.
func add(f *os.File, raw []byte, at time.Time) (kept, error) {
	end, err := f.Seek(0, io.SeekEnd)
	if err != nil {
		return kept{}, err
	}
	head := begins + at.Format(onlyAsc) + "\n"
	body := quoted(raw)
	entry := make([]byte, 0, len(head)+len(body)+2)
	entry = append(append(append(entry, head...), body...), "\n\n"...)
	if _, err := f.Write(entry); err != nil {
		return kept{}, err
	}
	return kept{at: at, offset: end + int64(len(head)), size: len(body)}, nil
}

// raw reads a message back.
func (k kept) raw(f *os.File) ([]byte, error) {
	data := make([]byte, k.size)
	if _, err := f.ReadAt(data, k.offset); err != nil {
		return nil, err
	}
	return unquoted(data), nil
}

var from = []byte("From ")

// quoted puts a > before every line that begins with any number of them and “From ”.
func quoted(raw []byte) []byte {
	return eachLine(raw, func(out, line []byte) []byte {
		if bytes.HasPrefix(bytes.TrimLeft(line, ">"), from) {
			out = append(out, '>')
		}
		return append(out, line...)
	})
}

// unquoted takes it away again.
func unquoted(data []byte) []byte {
	return eachLine(data, func(out, line []byte) []byte {
		if line[0] == '>' && bytes.HasPrefix(bytes.TrimLeft(line, ">"), from) {
			line = line[1:]
		}
		return append(out, line...)
	})
}

// eachLine writes lines anew, where one of them needs it.
func eachLine(data []byte, write func(out, line []byte) []byte) []byte {
	if !bytes.Contains(data, from) {
		return data
	}
	var out []byte
	for line := range bytes.Lines(data) {
		out = write(out, line)
	}
	return out
}
