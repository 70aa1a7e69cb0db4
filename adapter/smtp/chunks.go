package smtp

import (
	"bytes"
	"errors"
	"fmt"
	"net/textproto"
)

// chunkSize is how much of a letter is sent at once where the server takes chunks (RFC 3030): most letters are one of them.
const chunkSize = 512 << 10

// chunks hands a letter over with BDAT: its bytes are counted and not looked through for dots, at both ends.
type chunks struct {
	text    *textproto.Conn
	part    func() error // before each part of a chunk
	ending  func() error // before the last part of the last chunk, and for its answer
	waiting []byte
	taken   int  // chunks that the server took
	cr      bool // the byte before was the first of a line's end
}

// Write takes a part of the letter. Lines end with CR LF, as RFC 5321 section 2.3.8 asks.
func (c *chunks) Write(b []byte) (int, error) {
	n := len(b)
	for len(b) > 0 {
		i := bytes.IndexByte(b, '\n')
		if i < 0 {
			c.waiting, c.cr = append(c.waiting, b...), b[len(b)-1] == '\r'
			break
		}
		c.waiting = append(c.waiting, b[:i]...)
		if i > 0 && b[i-1] != '\r' || i == 0 && !c.cr {
			c.waiting = append(c.waiting, '\r')
		}
		c.waiting, c.cr, b = append(c.waiting, '\n'), false, b[i+1:]
	}
	for len(c.waiting) > chunkSize {
		if err := c.send(c.waiting[:chunkSize], false); err != nil {
			return 0, err
		}
		c.waiting = append(c.waiting[:0], c.waiting[chunkSize:]...)
	}
	return n, nil
}

// Close sends the last chunk and waits until the server has taken the letter.
func (c *chunks) Close() error { return c.send(c.waiting, true) }

func (c *chunks) send(b []byte, last bool) error {
	command := fmt.Sprintf("BDAT %d\r\n", len(b))
	if last {
		command = fmt.Sprintf("BDAT %d LAST\r\n", len(b))
	}
	id := c.text.Next()
	c.text.StartRequest(id)
	err := c.write([]byte(command), b, last)
	c.text.EndRequest(id)
	if err != nil {
		return err
	}
	c.text.StartResponse(id)
	defer c.text.EndResponse(id)
	if _, _, err = c.text.ReadResponse(250); err == nil {
		c.taken++
	}
	return err
}

func (c *chunks) write(command, b []byte, last bool) error {
	if _, err := c.text.W.Write(command); err != nil {
		return err
	}
	for first := true; first || len(b) > 0; first = false {
		n := min(len(b), partSize)
		before := c.part
		if last && n == len(b) {
			before = c.ending
		}
		if err := before(); err != nil {
			return err
		}
		if _, err := c.text.W.Write(b[:n]); err != nil {
			return err
		}
		if err := c.text.W.Flush(); err != nil {
			return err
		}
		b = b[n:]
	}
	return nil
}

// unknown reports whether a server that said that it takes chunks does not know the word after all; nothing of the letter is taken then.
func (c *chunks) unknown(err error) bool {
	var said *textproto.Error
	return c.taken == 0 && errors.As(err, &said) && (said.Code == 500 || said.Code == 502 || said.Code == 504)
}
