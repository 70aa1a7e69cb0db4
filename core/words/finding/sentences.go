package finding

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"regexp"
)

//go:embed sentences.json
var file []byte

// sentence says what is wrong and how to mend it. {name} stands for the value of that name.
type sentence struct {
	Message string `json:"message"`
	Mend    string `json:"mend"`
}

var sentences = read()

func read() map[string]sentence {
	var all map[string]sentence
	if err := json.Unmarshal(file, &all); err != nil {
		panic("finding: sentences.json: " + err.Error())
	}
	return all
}

// coded makes the finding of a code. One without a sentence says its code: the finding itself must not be lost.
func coded(place string, level Level, code string, pairs []any) Finding {
	f := Finding{Place: place, Level: level, Code: code}
	for i := 0; i+1 < len(pairs); i += 2 {
		if f.Values == nil {
			f.Values = map[string]string{}
		}
		f.Values[fmt.Sprint(pairs[i])] = fmt.Sprint(pairs[i+1])
	}
	s, ok := sentences[code]
	if !ok {
		s.Message = code
	}
	f.Message, f.Mend = f.fill(s.Message), f.fill(s.Mend)
	return f
}

var braces = regexp.MustCompile(`\{[a-z]+[0-9]*\}`)

// fill writes the values into a sentence. What stands in braces and is no value stays.
func (f Finding) fill(s string) string {
	return braces.ReplaceAllStringFunc(s, func(part string) string {
		if v, ok := f.Values[part[1:len(part)-1]]; ok {
			return v
		}
		return part
	})
}
