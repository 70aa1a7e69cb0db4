package main

import (
	"bytes"
	"encoding/json"
	"image"
	"image/color"
	"image/png"
	"os/exec"
	"testing"
	"time"
)

// A picture of the house comes with its message, smaller than it was where it was large, and where Python's email package looks for what
// the page speaks of (RFC 2387, RFC 2392); the document goes along as before.
func TestAPictureComesWithItsMessage(t *testing.T) {
	t.Parallel()
	h := startProgram(t, "--empty")
	h.signIn()
	img := image.NewGray(image.Rect(0, 0, 2176, 200))
	for x := range 2176 {
		img.SetGray(x, x%200, color.Gray{Y: 200})
	}
	var file bytes.Buffer
	if err := png.Encode(&file, img); err != nil {
		t.Fatal(err)
	}
	var added struct{ Name string }
	h.call("POST", "/api/pictures", file.String(), &added)
	h.desk(`[{"key":"n","name":"N","to":"{{email}}","subject":"{{@number}}","message":"Dear {{name}}.","attach":[{"document":"receipt"}],
		"pictures":[{"picture":"`+added.Name+`","alt":"A line"}]}]`, `[]`)
	h.send("ann@reader.example")
	soon(t, 20*time.Second, "the message goes", func() bool { return len(h.mailTo("ann@reader.example")) == 1 })
	_, raw := h.try("GET", "/standin/mailbox/messages/"+h.mailTo("ann@reader.example")[0].ID, nil)
	cmd := exec.Command("python3", "-c", `
import sys, json, re, struct, email, email.policy
m = email.message_from_bytes(sys.stdin.buffer.read(), policy=email.policy.default)
page = m.get_body(('related', 'html'))
parts = list(m.walk())
html = next(p for p in parts if p.get_content_type() == 'text/html').get_content()
name = re.search(r'src="cid:([^"]+)"', html).group(1)
held = [p for p in parts if p['content-id'] == '<' + name + '>']
size = struct.unpack('>II', held[0].get_content()[16:24])
print(json.dumps({'defects': [str(d) for p in parts for d in p.defects], 'held': len(held), 'type': held[0].get_content_type(),
  'width': size[0], 'height': size[1], 'text': m.get_body(('plain',)).get_content(),
  'attached': [p.get_content_type() for p in parts if p.get_content_disposition() == 'attachment']}))`)
	cmd.Stdin = bytes.NewReader(raw)
	out, err := cmd.Output()
	var got struct {
		Defects, Attached   []string
		Held, Width, Height int
		Type, Text          string
	}
	if err != nil || json.Unmarshal(out, &got) != nil || len(got.Defects) > 0 || got.Held != 1 || got.Type != "image/png" ||
		got.Width != 1088 || got.Height != 100 || got.Text != "[A line]\r\n\r\nDear Łucja Brzęk.\r\n" || len(got.Attached) != 1 ||
		got.Attached[0] != "application/pdf" {
		t.Errorf("python reads %s: %v\n%.3000s", out, err, raw)
	}
}
