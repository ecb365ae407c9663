// Go's decoders of JSON behind one program; the first argument names which.
package main

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"os"
	"reflect"
	"runtime"
	"sort"
	"strconv"
	"strings"

	"nachklang"

	simplejson "github.com/bitly/go-simplejson"
	jsoniter "github.com/json-iterator/go"
	"github.com/tidwall/gjson"
	"github.com/valyala/fastjson"
)

// spelled is a number kept as its source text.
type spelled string

// codec is what one library does in one mode; nil where it does not.
type codec struct {
	version         string
	cannotRepresent string
	modes           []string
	load            func(document []byte, mode string) (any, error)
	dump            func(value any, mode string) ([]byte, error)
	bind            func(document []byte, record any, mode string) error
	sequence        func(stream io.Reader, mode string, take func(value any)) error
}

func refused(err error) error {
	if err == nil {
		return nil
	}
	var syntax *json.SyntaxError
	if errors.As(err, &syntax) {
		// The count of bytes read when it failed: the last of them is to blame, unless there is no more to read.
		if strings.Contains(err.Error(), "unexpected end") {
			return nachklang.Rejected{Message: err.Error(), Offset: &syntax.Offset}
		}
		before := syntax.Offset - 1
		return nachklang.Rejected{Message: err.Error(), Offset: &before}
	}
	return nachklang.Rejected{Message: err.Error()}
}

// refusedAfter: a stream may hold further documents; one document ends where nothing but white space follows.
func refusedAfter(decoder *json.Decoder) error {
	if _, err := decoder.Token(); err != io.EOF {
		offset := decoder.InputOffset()
		return nachklang.Rejected{Message: "the stream goes on after the document", Offset: &offset}
	}
	return nil
}

func standard() codec {
	return codec{
		version:         "encoding-json " + strings.TrimPrefix(runtime.Version(), "go"),
		cannotRepresent: "order duplicates",
		modes: []string{"float", "number-text: decode round-trip", "stream: decode round-trip encode sequence open-stream", "indented: encode", "html-off: encode", "records: bind bind-round-trip bind-encode", "records-strict: bind",
			"records-reused: bind"},
		load: func(document []byte, mode string) (any, error) {
			var value any
			if mode != "number-text" && mode != "stream" {
				return value, refused(json.Unmarshal(document, &value))
			}
			decoder := json.NewDecoder(bytes.NewReader(document))
			if mode == "number-text" {
				decoder.UseNumber()
			}
			if err := decoder.Decode(&value); err != nil {
				return nil, refused(err)
			}
			return value, refusedAfter(decoder)
		},
		bind: func(document []byte, record any, mode string) error {
			if mode != "records-strict" {
				return refused(json.Unmarshal(document, record))
			}
			decoder := json.NewDecoder(bytes.NewReader(document))
			decoder.DisallowUnknownFields()
			if err := decoder.Decode(record); err != nil {
				return refused(err)
			}
			return refusedAfter(decoder)
		},
		sequence: func(stream io.Reader, _ string, take func(value any)) error {
			decoder := json.NewDecoder(stream)
			return each(func(value *any) error { return decoder.Decode(value) }, take)
		},
		dump: func(value any, mode string) ([]byte, error) {
			switch mode {
			case "indented":
				out, err := json.MarshalIndent(value, "", "  ")
				return out, refused(err)
			case "html-off", "stream":
				var out bytes.Buffer
				encoder := json.NewEncoder(&out)
				encoder.SetEscapeHTML(mode != "html-off")
				err := encoder.Encode(value)
				return out.Bytes(), refused(err)
			}
			out, err := json.Marshal(value)
			return out, refused(err)
		},
	}
}

// each decodes one document after another until the end of the text.
func each(decode func(value *any) error, take func(value any)) error {
	for {
		var value any
		if err := decode(&value); err == io.EOF {
			return nil
		} else if err != nil {
			return refused(err)
		}
		take(value)
	}
}

func iterator() codec {
	apis := map[string]jsoniter.API{
		"default":     jsoniter.ConfigDefault,
		"compatible":  jsoniter.ConfigCompatibleWithStandardLibrary,
		"fastest":     jsoniter.ConfigFastest,
		"number-text": jsoniter.Config{UseNumber: true}.Froze(),
	}
	api := func(mode string) jsoniter.API {
		if found, ok := apis[mode]; ok {
			return found
		}
		return jsoniter.ConfigDefault
	}
	return codec{
		version:         "json-iterator 1.1.12",
		cannotRepresent: "order duplicates",
		modes:           []string{"default: decode round-trip encode sequence open-stream", "compatible", "fastest", "number-text: decode round-trip", "records: bind bind-round-trip bind-encode", "records-reused: bind"},
		bind: func(document []byte, record any, _ string) error {
			return refused(jsoniter.ConfigDefault.Unmarshal(document, record))
		},
		load: func(document []byte, mode string) (any, error) {
			var value any
			return value, refused(api(mode).Unmarshal(document, &value))
		},
		sequence: func(stream io.Reader, mode string, take func(value any)) error {
			decoder := api(mode).NewDecoder(stream)
			return each(func(value *any) error { return decoder.Decode(value) }, take)
		},
		dump: func(value any, mode string) ([]byte, error) {
			out, err := api(mode).Marshal(value)
			return out, refused(err)
		},
	}
}

func dynamic() codec {
	return codec{
		version:         "go-simplejson 0.5.0",
		cannotRepresent: "order duplicates",
		load: func(document []byte, _ string) (any, error) {
			value, err := simplejson.NewJson(document)
			if err != nil {
				return nil, refused(err)
			}
			return value.Interface(), nil
		},
		dump: func(value any, _ string) ([]byte, error) {
			held := simplejson.New()
			held.SetPath(nil, value)
			out, err := held.Encode()
			return out, refused(err)
		},
	}
}

// lazy is a value of gjson, walked when it is printed; numberText says that its numbers are shown as they are written.
type lazy struct {
	gjson.Result
	numberText bool
}

func fromGjson(result gjson.Result, numberText bool) any {
	switch result.Type {
	case gjson.Null:
		return nil
	case gjson.True, gjson.False:
		return result.Bool()
	case gjson.Number:
		if numberText {
			return spelled(result.Raw)
		}
		return result.Num
	case gjson.String:
		return result.Str
	}
	return lazy{result, numberText}
}

// Deeper ones are not shown: each level's raw text is parsed anew, to its end.
const deepestShown = 10000

func nesting(document []byte) (deepest int) {
	depth := 0
	for _, c := range document {
		switch c {
		case '[', '{':
			if depth++; depth > deepest {
				deepest = depth
			}
		case ']', '}':
			depth--
		}
	}
	return deepest
}

func gjsonCodec() codec {
	return codec{
		version: "gjson 1.14.4",
		// Parse does not validate, which its documentation leaves to Valid.
		modes: []string{"validated", "validated-number-text", "unvalidated"},
		load: func(document []byte, mode string) (any, error) {
			if mode != "unvalidated" && !gjson.ValidBytes(document) {
				return nil, nachklang.Rejected{Message: "gjson.Valid returned false"}
			}
			return fromGjson(gjson.ParseBytes(document), mode == "validated-number-text"), nil
		},
	}
}

// fast is a value of fastjson; numberText says that its numbers are shown as they are written.
type fast struct {
	*fastjson.Value
	numberText bool
}

func fastjsonCodec() codec {
	return codec{
		version: "fastjson 1.6.3",
		modes:   []string{"parse", "parse-number-text", "validated"},
		load: func(document []byte, mode string) (any, error) {
			if mode == "validated" {
				if err := fastjson.ValidateBytes(document); err != nil {
					return nil, refused(err)
				}
			}
			var parser fastjson.Parser
			value, err := parser.ParseBytes(document)
			if err != nil {
				return nil, refused(err)
			}
			return fast{value, mode == "parse-number-text"}, nil
		},
	}
}

func children(value any) (open string, names []string, values []any, container bool) {
	switch held := value.(type) {
	case []any:
		return "[", nil, held, true
	case map[string]any:
		for name := range held {
			names = append(names, name)
		}
		sort.Strings(names)
		for _, name := range names {
			values = append(values, held[name])
		}
		return "{", names, values, true
	case lazy:
		held.ForEach(func(key, inner gjson.Result) bool {
			names = append(names, key.Str)
			values = append(values, fromGjson(inner, held.numberText))
			return true
		})
		if held.IsArray() {
			return "[", nil, values, true
		}
		return "{", names, values, true
	case fast:
		switch held.Type() {
		case fastjson.TypeArray:
			for _, inner := range held.GetArray() {
				values = append(values, fast{inner, held.numberText})
			}
			return "[", nil, values, true
		case fastjson.TypeObject:
			held.GetObject().Visit(func(key []byte, inner *fastjson.Value) {
				names = append(names, string(key))
				values = append(values, fast{inner, held.numberText})
			})
			return "{", names, values, true
		}
	}
	return "", nil, nil, false
}

func binary64(value float64) string { return fmt.Sprintf("binary64 %016x", math.Float64bits(value)) }

func scalar(value any) string {
	switch held := value.(type) {
	case nil:
		return "null"
	case bool:
		return strconv.FormatBool(held)
	case float64:
		return binary64(held)
	case json.Number:
		return "spelled " + nachklang.Field(string(held))
	case spelled:
		return "spelled " + nachklang.Field(string(held))
	case string:
		return "str " + nachklang.Field(held)
	case fast:
		switch held.Type() {
		case fastjson.TypeNull:
			return "null"
		case fastjson.TypeTrue:
			return "true"
		case fastjson.TypeFalse:
			return "false"
		case fastjson.TypeString:
			text, _ := held.StringBytes()
			return "str " + nachklang.Field(string(text))
		}
		if number, err := held.Float64(); err == nil && !held.numberText {
			return binary64(number)
		}
		return "spelled " + nachklang.Field(string(held.MarshalTo(nil)))
	}
	return fmt.Sprintf("native %T -", value)
}

// printValue walks with a stack of its own.
func printValue(root any, out *bytes.Buffer) {
	type level struct {
		closer string
		names  []string
		values []any
		next   int
	}
	stack := []level{{values: []any{root}}}
	for len(stack) > 0 {
		top := &stack[len(stack)-1]
		if top.next == len(top.values) {
			if top.closer != "" {
				out.WriteString(top.closer + "\n")
			}
			stack = stack[:len(stack)-1]
			continue
		}
		at := top.next
		top.next++
		if top.closer == "}" {
			out.WriteString("key " + nachklang.Field(top.names[at]) + "\n")
		}
		open, names, values, container := children(top.values[at])
		if !container {
			out.WriteString(scalar(top.values[at]) + "\n")
			continue
		}
		out.WriteString(open + "\n")
		stack = append(stack, level{closer: map[string]string{"[": "]", "{": "}"}[open], names: names, values: values})
	}
}

// valueOf builds the value that a trace tells, to be encoded.
func valueOf(trace []byte) (any, error) {
	type level struct {
		array  bool
		values []any
		object map[string]any
		name   string
	}
	var levels []level
	var done any
	for _, line := range strings.Split(strings.TrimSuffix(string(trace), "\n"), "\n") {
		word, rest, _ := strings.Cut(line, " ")
		switch word {
		case "key":
			if !strings.Contains(rest, ":") {
				return nil, nachklang.Unsupported{Why: "names are strings here"}
			}
			levels[len(levels)-1].name, _ = nachklang.TextOf(rest)
			continue
		case "[", "{":
			levels = append(levels, level{array: word == "[", values: []any{}, object: map[string]any{}})
			continue
		case "]":
			done = levels[len(levels)-1].values
			levels = levels[:len(levels)-1]
		case "}":
			done = levels[len(levels)-1].object
			levels = levels[:len(levels)-1]
		case "null":
			done = nil
		case "true", "false":
			done = word == "true"
		case "str":
			done, _ = nachklang.TextOf(rest)
		case "binary64", "binary32":
			bits, _ := strconv.ParseUint(rest, 16, 64)
			if done = math.Float64frombits(bits); word == "binary32" {
				done = math.Float32frombits(uint32(bits))
			}
		case "int":
			done = json.Number(rest)
		default:
			return nil, nachklang.Unsupported{Why: "no value for " + line}
		}
		if len(levels) == 0 {
			break
		}
		top := &levels[len(levels)-1]
		if top.array {
			top.values = append(top.values, done)
		} else if _, twice := top.object[top.name]; twice {
			return nil, nachklang.Unsupported{Why: "a map holds a name once"}
		} else {
			top.object[top.name] = done
		}
	}
	return done, nil
}

func (c codec) answer(request nachklang.Request) ([]byte, error) {
	load := func() (any, error) {
		return nachklang.Library(func() (any, error) { return c.load(request.Document, request.Mode) })
	}
	dump := func(value any) ([]byte, error) {
		return nachklang.Library(func() ([]byte, error) { return c.dump(value, request.Mode) })
	}
	switch operation := request.Operation; {
	case (operation == "bind" || operation == "bind-round-trip") && c.bind != nil:
		record := newRecord(request.Record)
		if record == nil {
			return nil, nachklang.Unsupported{Why: "no such record type"}
		}
		_, err := nachklang.Library(func() (any, error) {
			if request.Mode == "records-reused" {
				if err := c.bind(earlier(request.Record), record, request.Mode); err != nil {
					return nil, err
				}
			}
			return nil, c.bind(request.Document, record, request.Mode)
		})
		if err == nil && operation == "bind-round-trip" {
			return dump(reflect.ValueOf(record).Elem().Interface())
		}
		if err != nil || !request.Show {
			return nil, err
		}
		var out bytes.Buffer
		nachklang.PrintRecord(record, "json", &out)
		return out.Bytes(), nil
	case operation == "bind-encode" && c.bind != nil:
		record := newRecord(request.Record)
		if record == nil {
			return nil, nachklang.Unsupported{Why: "no such record type"}
		}
		if err := nachklang.FillRecord(record, "json", string(request.Document)); err != nil {
			return nil, err
		}
		return dump(reflect.ValueOf(record).Elem().Interface())
	case (operation == "sequence" || operation == "open-stream") && c.sequence != nil:
		return nachklang.Sequence(request, func(stream io.Reader, take func(trace []byte)) error {
			return c.sequence(stream, request.Mode, func(value any) {
				var trace bytes.Buffer
				printValue(value, &trace)
				take(trace.Bytes())
			})
		})
	case operation == "decode":
		value, err := load()
		if err != nil {
			return nil, err
		}
		if held, isLazy := value.(lazy); isLazy && request.Show && nesting([]byte(held.Raw)) > deepestShown {
			return nil, nachklang.Unsupported{Why: "taking it apart parses every level anew"}
		}
		var out bytes.Buffer
		if request.Show {
			printValue(value, &out)
		}
		return out.Bytes(), nil
	case operation == "round-trip" && c.dump != nil:
		value, err := load()
		if err != nil {
			return nil, err
		}
		return dump(value)
	case operation == "encode" && c.dump != nil:
		value, err := valueOf(request.Document)
		if err != nil {
			return nil, err
		}
		return dump(value)
	}
	return nil, nachklang.Unsupported{Why: "this library does not do that here"}
}

func (c codec) hello(engine string) string {
	var out strings.Builder
	fmt.Fprintf(&out, "implementation %s\njson decode", c.version)
	if c.dump != nil {
		out.WriteString(" round-trip encode")
	}
	out.WriteString("\n")
	if engine != "" {
		out.WriteString("engine " + engine + "\n")
	}
	if c.cannotRepresent != "" {
		out.WriteString("cannot-represent " + c.cannotRepresent + "\n")
	}
	for _, mode := range c.modes {
		// A name, and what it does where that is not all: "indented: encode".
		name, operations, own := strings.Cut(mode, ": ")
		out.WriteString("mode " + name + "\n")
		if own {
			out.WriteString("json " + operations + "\n")
		}
	}
	return out.String()
}

func main() {
	codecs := map[string]func() codec{"standard": standard, "iterator": iterator, "dynamic": dynamic, "gjson": gjsonCodec, "fastjson": fastjsonCodec}
	c, engine := codecs[os.Args[1]](), ""
	if os.Args[1] == "dynamic" {
		engine = "encoding-json " + runtime.Version()
	}
	nachklang.Serve("json", c.hello(engine), c.answer)
}
