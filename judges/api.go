package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"time"
)

// python makes a surrounding with the judges from PyPI once, and gives its folder of programs.
func python(work string) (string, error) {
	env := filepath.Dir(work) + "/python"
	if _, err := os.Stat(env); err == nil {
		return env + "/bin/", nil
	}
	if err := fetch("python3", "-m", "venv", env); err != nil {
		return "", err
	}
	return env + "/bin/", fetch(env+"/bin/pip", "install", "-q",
		"-r", "judges/api/requirements.txt", "-r", "judges/readers/requirements.txt")
}

// schemas judges the schema of each form with answers that it must take and refuse.
func schemas(work string) error {
	bin, err := python(work)
	if err != nil {
		return err
	}
	files, err := filepath.Glob("demo/intakes/*.json")
	if err != nil {
		return err
	}
	for _, file := range files {
		slug := strings.TrimSuffix(filepath.Base(file), ".json")
		schema, err := tool("bin/amberseal", "schema", "--intake", file)
		if err != nil {
			return fmt.Errorf("%s: %w", schema, err)
		}
		wrong, err := spoiled("demo/answers/" + slug + ".json")
		if err != nil {
			return err
		}
		given, err := filepath.Glob("demo/answers/" + slug + "*.json")
		if err != nil {
			return err
		}
		put := map[string][]byte{slug + ".schema.json": []byte(schema), slug + ".wrong.json": wrong}
		for i, name := range given {
			if put[fmt.Sprintf("%s.answers%d.json", slug, i)], err = os.ReadFile(name); err != nil {
				return err
			}
		}
		for name, data := range put {
			if err := os.WriteFile(work+"/"+name, data, 0o600); err != nil {
				return err
			}
		}
	}
	out, err := tool(bin+"python", "judges/api/schemas.py", work)
	fmt.Print(out)
	return err
}

// spoiled are answers with one thing wrong in each.
func spoiled(file string) ([]byte, error) {
	var answers map[string]any
	if err := read(file, &answers); err != nil {
		return nil, err
	}
	var out []map[string]any
	with := func(key string, value any) {
		x := map[string]any{}
		for k, v := range answers {
			x[k] = v
		}
		x[key] = value
		out = append(out, x)
	}
	with("not_asked", 1)
	with("email", "nobody")
	for key, v := range answers { // an answer of another sort
		if _, ok := v.(map[string]any); ok {
			with(key, "words")
		} else {
			with(key, map[string]any{"x": 1})
		}
	}
	return json.Marshal(out)
}

// description judges a demo house by the description of its interface: no answer may be undescribed, and none an error of
// the server.
func description(work string) error {
	bin, err := python(work)
	if err != nil {
		return err
	}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return err
	}
	address := l.Addr().String()
	l.Close()
	demo := exec.Command("bin/amberseal", "demo", "--listen", address)
	var said bytes.Buffer
	demo.Stdout, demo.Stderr = &said, &said
	if err := demo.Start(); err != nil {
		return err
	}
	defer func() {
		demo.Process.Signal(os.Interrupt)
		demo.Wait()
	}()
	cookie, err := signedIn("http://" + address)
	if err != nil {
		return fmt.Errorf("%w\n%s", err, said.String())
	}
	out, err := tool(
		bin+"schemathesis", "--config-file", "judges/api/schemathesis.toml", "run", "web/api/openapi.yaml", "-u", "http://"+address,
		"-H", "Cookie: "+cookie, "-H", "Origin: http://"+address,
	)
	if err != nil {
		fmt.Print(out)
		return err
	}
	fmt.Println(tail(out))
	return nil
}

// signedIn waits for the house and signs its owner in.
func signedIn(site string) (cookie string, err error) {
	for range 150 {
		var resp *http.Response
		body := strings.NewReader(`{"email":"owner@tarnhollow.example","password":"amber-and-paper"}`)
		if resp, err = http.Post(site+"/api/session", "application/json", body); err == nil {
			resp.Body.Close()
			for _, c := range resp.Cookies() {
				if c.Name == "amberseal" {
					return c.Name + "=" + c.Value, nil
				}
			}
			err = fmt.Errorf("the house answered %s", resp.Status)
		}
		time.Sleep(200 * time.Millisecond)
	}
	return "", err
}
