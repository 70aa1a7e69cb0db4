package sheets_test

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"reflect"
	"strings"
	"testing"
	"time"

	"amberseal/app/register"
	"amberseal/app/sheets"
	"amberseal/core/ask/form"
	"amberseal/core/words/house"
)

func write(w io.Writer, t sheets.Table, list []register.Submission) error {
	sheet := sheets.NewCSV(w, t.Head())
	for _, s := range list {
		if err := sheet.Add(t.Line(s, "")); err != nil {
			return err
		}
	}
	return sheet.Close()
}

// Python's csv module, Go's encoding/csv and SQLite's shell, three independent readers, get back what was answered, and no cell that a
// spreadsheet would run.
func TestSheet(t *testing.T) {
	old := form.Form{
		Fields: []form.Field{{Key: "name", Kind: form.ShortText, Label: "Name"}, {Key: "fax", Kind: form.ShortText, Label: "Fax"}},
	}
	now := form.Form{Fields: []form.Field{
		{Key: "about", Kind: form.Section, Label: "About you"},
		{Key: "name", Kind: form.ShortText, Label: "Your name"},
		{Key: "price", Kind: form.Money, Label: "Price"},
		{Key: "note", Kind: form.LongText, Label: "=Note"},
	}}
	h := house.New()
	h.Zone = "Europe/Berlin"
	at := time.Date(2026, 11, 24, 23, 30, 0, 0, time.UTC)
	list := []register.Submission{
		{
			Number:   "A-1",
			Version:  1,
			Received: at,
			Answers:  form.Raw{"name": json.RawMessage(`"Łucja \"L\""`), "fax": json.RawMessage(`"+49 30 1234"`)},
		},
		{
			Number:   "A-2",
			Version:  2,
			Received: at,
			Answers: form.Raw{"name": json.RawMessage(`"@SUM(1)"`), "price": json.RawMessage(`"-1234.50"`),
				"note": json.RawMessage(`"a, b\n=c"`)},
		},
	}
	var b bytes.Buffer
	if err := write(&b, sheets.Whole(h, map[int]form.Form{1: old, 2: now}), list); err != nil {
		t.Fatal(err)
	}
	again, err := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(b.Bytes(), []byte("\uFEFF")))).ReadAll()
	if err != nil {
		t.Fatal(err)
	}
	file := filepath.Join(t.TempDir(), "sheet.csv")
	if err := os.WriteFile(file, b.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	shell, err := exec.Command("sqlite3", "-json", ":memory:", ".import --csv "+file+" t", "SELECT * FROM t").Output()
	var third []map[string]string
	if err == nil {
		err = json.Unmarshal(shell, &third)
	}
	if err != nil || len(third) != 2 {
		t.Fatalf("SQLite reads %s, %v", shell, err)
	}
	cmd := exec.Command(
		"python3", "-c",
		`import csv,io,json,sys; print(json.dumps(list(csv.reader(io.StringIO(sys.stdin.buffer.read().decode("utf-8-sig"), newline="")))))`,
	)
	cmd.Stdin = &b
	out, err := cmd.Output()
	var got [][]string
	if err == nil {
		err = json.Unmarshal(out, &got)
	}
	want := [][]string{
		{"Number", "Received", "Your name", "Price", "'=Note", "Fax"},
		{"A-1", "2026-11-25T00:30:00+01:00", `Łucja "L"`, "", "", "+49 30 1234"},
		{"A-2", "2026-11-25T00:30:00+01:00", "'@SUM(1)", "-1234.50", "a, b\n'=c", ""},
	}
	if err != nil || !reflect.DeepEqual(got, want) || !reflect.DeepEqual(again, want) {
		t.Errorf("%q, %q, %v", got, again, err)
	}
	for i, line := range third {
		for n, head := range want[0] {
			if line[head] != want[i+1][n] {
				t.Errorf("SQLite reads %q in %q, not %q", line[head], head, want[i+1][n])
			}
		}
	}
}

// Read with the separators that spreadsheets use in other languages, no cell begins as a formula does.
func TestNoFormulaSlipsIn(t *testing.T) {
	f := form.Form{Fields: []form.Field{{Key: "name", Kind: form.LongText, Label: "Name"}}}
	var list []register.Submission
	const plain = "Bring:\n- bow\n- rosin; -20 %\n+ a case, 1.5 kg;12"
	for _, name := range []string{"x;=1+1", "=1+1", "\u200b=1+1", "＝1+1", "a\n=1+1", "a\t@SUM(1)", " +1+1", "a;\"=1", "-2+3", "a|=1", plain,
		"a\n- cmd|' /C calc'!A0", "a\n-2+3+cmd|' /C calc'!A0", "- x\n- =1+1", "a; - SUM(1)", "a\r-B1", "- bow"} {
		text, err := json.Marshal(name)
		if err != nil {
			t.Fatal(err)
		}
		list = append(list, register.Submission{Number: "A", Version: 1, Answers: form.Raw{"name": text}})
	}
	var b bytes.Buffer
	if err := write(&b, sheets.Whole(house.New(), map[int]form.Form{1: f}), list); err != nil {
		t.Fatal(err)
	}
	if !strings.Contains(b.String(), `"`+plain+`"`) {
		t.Errorf("a list of words is not as it was answered: %s", b.String())
	}
	cmd := exec.Command("python3", "-c", `
import csv, io, re, sys
text = sys.stdin.buffer.read().decode("utf-8-sig")
for sep in ",;\t|":
    for row in csv.reader(io.StringIO(text, newline=""), delimiter=sep):
        for cell in row:
            plain = re.match(r'^\s*[+-]?[0-9][0-9 .,]*%?$', cell) or re.match(r'^\s*[+-] [^|!()=@＝]*$', cell)
            if re.match(r'^[\s\u200b\ufeff]*[=+@＝-]', cell) and not plain:
                print(repr(sep), repr(cell))`)
	cmd.Stdin = &b
	if out, err := cmd.CombinedOutput(); err != nil || len(out) > 0 {
		t.Errorf("%v\n%s", err, out)
	}
}
