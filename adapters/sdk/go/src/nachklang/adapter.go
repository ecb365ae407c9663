// The adapter kit for Go: Serve("json", hello, answer), where answer(request) gives the bytes of a reply, or the error Rejected or Unsupported
// (docs/protocol.md). Call your library inside Library(func() …): another error, and a panic that leaves the call, is
// `threw`. A panic anywhere else is a fault of the adapter (`adapter-fault`) and never booked on the library. Field(text) writes a string of a
// trace.
package nachklang

import (
	"bufio"
	"bytes"
	"encoding/binary"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"math"
	"os"
	"reflect"
	"sort"
	"strconv"
	"strings"
	"syscall"
	"time"
)

// Rejected is what a library says against a document; a position that is nil or 0 is not reported.
type Rejected struct {
	Message      string
	Offset       *int64 // in bytes
	Line, Column int
}

func (r Rejected) Error() string { return r.Message }

func (r Rejected) place() string {
	position := ""
	if r.Offset != nil {
		position += fmt.Sprintf(" offset=%d unit=byte", *r.Offset)
	}
	if r.Line > 0 {
		position += fmt.Sprintf(" line=%d", r.Line)
	}
	if r.Column > 0 {
		position += fmt.Sprintf(" column=%d", r.Column)
	}
	return position
}

// Unsupported is why a library cannot be asked this.
type Unsupported struct{ Why string }

func (u Unsupported) Error() string { return u.Why }

// openStream gives a text one byte at a time and stays open behind it: after it was asked for more, what a library hands over comes late.
type openStream struct {
	text  []byte
	asked bool
}

func (s *openStream) Read(into []byte) (int, error) {
	if len(s.text) == 0 {
		s.asked = true
		return 0, io.EOF
	}
	if len(into) == 0 {
		return 0, nil
	}
	into[0], s.text = s.text[0], s.text[1:]
	return 1, nil
}

// Sequence answers "sequence" and "open-stream": load reads one document after another and hands over the trace of each.
func Sequence(request Request, load func(stream io.Reader, take func(trace []byte)) error) ([]byte, error) {
	var out bytes.Buffer
	out.WriteString("[\n")
	open := &openStream{text: request.Document}
	stream := io.Reader(bytes.NewReader(request.Document))
	if request.Operation == "open-stream" {
		stream = open
	}
	_, err := Library(func() (any, error) {
		return nil, load(stream, func(trace []byte) {
			if !open.asked {
				out.Write(trace)
			}
		})
	})
	var no Rejected
	if err != nil && !errors.As(err, &no) {
		return nil, err
	}
	if err != nil && !open.asked {
		out.WriteString("native refused -\n")
	}
	out.WriteString("]\n")
	return out.Bytes(), nil
}

// Field writes a text as a field of a trace.
func Field(text string) string { return "u8:" + hex.EncodeToString([]byte(text)) }

// TextOf reads a field; halves of surrogate pairs become three bytes each, which a string may hold.
func TextOf(fieldText string) (string, error) {
	units, digits, _ := strings.Cut(fieldText, ":")
	raw, err := hex.DecodeString(digits)
	if err != nil || units == "u8" {
		return string(raw), err
	}
	var out []byte
	for width := map[string]int{"u16": 2, "u32": 4}[units]; len(raw) >= width; raw = raw[width:] {
		var c uint32
		if width == 4 {
			c = binary.BigEndian.Uint32(raw)
		} else {
			c = uint32(binary.BigEndian.Uint16(raw))
			if c>>10 == 0x36 && len(raw) >= 4 && raw[2]>>2 == 0x37 {
				c = 0x10000 + (c&0x3ff)<<10 + uint32(binary.BigEndian.Uint16(raw[2:]))&0x3ff
				raw = raw[2:]
			}
		}
		if c >= 0xd800 && c < 0xe000 { // as three bytes, which a Go string may hold
			out = append(out, byte(0xe0|c>>12), byte(0x80|c>>6&0x3f), byte(0x80|c&0x3f))
		} else {
			out = append(out, string(rune(c))...)
		}
	}
	return string(out), nil
}

// failure is what a library does without documenting it.
type failure struct{ message string }

func (f failure) Error() string { return f.message }

// Library calls into the library under test. A panic that leaves the call, and an error that is neither Rejected nor Unsupported, is the
// library's (`threw`); one that comes from anywhere else is a fault of the adapter and never booked on the library.
func Library[Result any](call func() (Result, error)) (result Result, err error) {
	defer func() {
		if problem := recover(); problem != nil {
			err = failure{fmt.Sprintf("panic: %v", problem)}
		}
	}()
	result, err = call()
	var no Rejected
	var not Unsupported
	if err != nil && !errors.As(err, &no) && !errors.As(err, &not) {
		err = failure{err.Error()}
	}
	return result, err
}

// Request is one operation on one document.
type Request struct {
	Operation string
	Document  []byte
	Mode      string
	Record    string // the record type, of bind and bind-round-trip
	Show      bool   // whether the value is wanted
}

// Answer does what a request asks: the reply's bytes, or Rejected, Unsupported, or what Library returned.
type Answer func(request Request) ([]byte, error)

func (answer Answer) ask(request Request) (body []byte, err error) {
	defer func() {
		if problem := recover(); problem != nil {
			err = fmt.Errorf("panic: %v", problem)
		}
	}()
	return answer(request)
}

// reply gives the kind, the body and the place of what an answer was.
func reply(body []byte, err error) (string, []byte, string) {
	var no Rejected
	var not Unsupported
	switch {
	case err == nil:
		return "accepted", body, ""
	case errors.As(err, &no):
		return "rejected", []byte(no.Message), no.place()
	case errors.As(err, &not):
		return "unsupported", []byte(not.Why), ""
	}
	var threw failure
	if errors.As(err, &threw) {
		return "threw", []byte(err.Error()), ""
	}
	return "adapter-fault", []byte(err.Error()), ""
}

// PrintRecord writes a record as the lines of a trace: each field under the name that its tag of this key gives it.
func PrintRecord(record any, tagKey string, out *bytes.Buffer) {
	printRecord(reflect.Indirect(reflect.ValueOf(record)), tagKey, out)
}

func printRecord(value reflect.Value, tagKey string, out *bytes.Buffer) {
	if instant, ok := value.Interface().(time.Time); ok {
		out.WriteString("native instant " + Field(instant.UTC().Format("2006-01-02T15:04:05.999999999Z07:00")) + "\n")
		return
	}
	if octets, ok := value.Interface().([]byte); ok && octets != nil {
		out.WriteString("native bytes " + Field(string(octets)) + "\n")
		return
	}
	switch value.Kind() {
	case reflect.Struct:
		out.WriteString("{\n")
		for i := 0; i < value.NumField(); i++ {
			member := value.Type().Field(i)
			if member.Name == "XMLName" { // of the element, not of a field
				continue
			}
			name, _, _ := strings.Cut(member.Tag.Get(tagKey), ",")
			out.WriteString("key " + Field(name) + "\n")
			printRecord(value.Field(i), tagKey, out)
		}
		out.WriteString("}\n")
	case reflect.Map:
		if value.IsNil() {
			out.WriteString("null\n")
			return
		}
		out.WriteString("{\n")
		names := value.MapKeys()
		sort.Slice(names, func(i, j int) bool { return names[i].Int() < names[j].Int() })
		for _, name := range names {
			fmt.Fprintf(out, "key int %d\n", name.Int())
			printRecord(value.MapIndex(name), tagKey, out)
		}
		out.WriteString("}\n")
	case reflect.Slice:
		if value.IsNil() {
			out.WriteString("null\n")
			return
		}
		out.WriteString("[\n")
		for i := 0; i < value.Len(); i++ {
			printRecord(value.Index(i), tagKey, out)
		}
		out.WriteString("]\n")
	case reflect.Pointer:
		if value.IsNil() {
			out.WriteString("null\n")
			return
		}
		printRecord(value.Elem(), tagKey, out)
	case reflect.Bool:
		fmt.Fprintf(out, "%t\n", value.Bool())
	case reflect.Float64:
		fmt.Fprintf(out, "binary64 %016x\n", math.Float64bits(value.Float()))
	case reflect.String:
		out.WriteString("str " + Field(value.String()) + "\n")
	default:
		fmt.Fprintf(out, "int %d\n", value.Int())
	}
}

// FillRecord fills the fields of a record with those of a trace, by the names that their tags of this key give them.
func FillRecord(record any, tagKey string, trace string) error {
	lines := strings.Split(strings.TrimSuffix(trace, "\n"), "\n")
	_, err := fillRecord(reflect.ValueOf(record).Elem(), tagKey, lines)
	return err
}

// fillRecord gives the lines behind the value that it took.
func fillRecord(value reflect.Value, tagKey string, lines []string) ([]string, error) {
	word, rest, _ := strings.Cut(lines[0], " ")
	kind := value.Kind()
	switch {
	case word == "null" && (kind == reflect.Pointer || kind == reflect.Slice):
		return lines[1:], nil
	case kind == reflect.Pointer:
		value.Set(reflect.New(value.Type().Elem()))
		return fillRecord(value.Elem(), tagKey, lines)
	case word == "{" && kind == reflect.Struct:
		return fillFields(value, tagKey, lines[1:])
	case word == "[" && kind == reflect.Slice:
		value.Set(reflect.MakeSlice(value.Type(), 0, 0))
		var err error
		for lines = lines[1:]; err == nil && lines[0] != "]"; {
			element := reflect.New(value.Type().Elem()).Elem()
			lines, err = fillRecord(element, tagKey, lines)
			value.Set(reflect.Append(value, element))
		}
		return lines[1:], err
	case word == "str" && kind == reflect.String:
		text, err := TextOf(rest)
		value.SetString(text)
		return lines[1:], err
	case word == "binary64" && kind == reflect.Float64:
		bits, err := strconv.ParseUint(rest, 16, 64)
		value.SetFloat(math.Float64frombits(bits))
		return lines[1:], err
	case word == "int" && kind == reflect.Float64:
		number, err := strconv.ParseFloat(rest, 64)
		value.SetFloat(number)
		return lines[1:], err
	case word == "int" && value.CanInt():
		number, err := strconv.ParseInt(rest, 10, 64)
		value.SetInt(number)
		return lines[1:], err
	case (word == "true" || word == "false") && kind == reflect.Bool:
		value.SetBool(word == "true")
		return lines[1:], nil
	}
	return nil, Unsupported{Why: "a field of this type holds no " + word}
}

func fillFields(value reflect.Value, tagKey string, lines []string) ([]string, error) {
	for lines[0] != "}" {
		_, key, _ := strings.Cut(lines[0], " ")
		wanted, err := TextOf(key)
		lines = lines[1:]
		for i := 0; err == nil && i < value.NumField(); i++ {
			member := value.Type().Field(i)
			if name, _, _ := strings.Cut(member.Tag.Get(tagKey), ","); name == wanted && member.Name != "XMLName" {
				lines, err = fillRecord(value.Field(i), tagKey, lines)
			}
		}
		if err != nil {
			return nil, err
		}
	}
	return lines[1:], nil
}

// Serve says the hello's lines after the first, and answers requests until the input ends. What a library prints goes to standard error.
func Serve(format string, hello string, answer Answer) {
	number, _ := syscall.Dup(1)
	_ = syscall.Dup2(2, 1)
	replies := bufio.NewWriterSize(os.NewFile(uintptr(number), "replies"), 1<<16)
	fmt.Fprintf(replies, "nachklang-adapter 1\n%s\n", hello)
	replies.Flush()
	requests := bufio.NewReaderSize(os.Stdin, 1<<16)
	for {
		head, err := requests.ReadString('\n')
		if err != nil {
			return
		}
		words := strings.Split(strings.TrimSuffix(head, "\n"), " ")
		length, _ := strconv.Atoi(words[2])
		request := Request{Operation: words[0], Document: make([]byte, length), Show: true}
		if _, err := io.ReadFull(requests, request.Document); err != nil {
			os.Exit(2)
		}
		id, known := "0", words[1] == format
		for _, word := range words[3:] {
			key, value, _ := strings.Cut(word, "=")
			switch key {
			case "id":
				id = value
			case "mode":
				request.Mode = value
			case "record":
				request.Record = value
			case "show":
				request.Show = value != "nothing"
			default:
				known = false
			}
		}
		kind, body, position := "unsupported", []byte(nil), ""
		if known {
			kind, body, position = reply(answer.ask(request))
		}
		fmt.Fprintf(replies, "%s %d id=%s%s\n", kind, len(body), id, position)
		replies.Write(body)
		if requests.Buffered() == 0 {
			replies.Flush()
		}
	}
}
