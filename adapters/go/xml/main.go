// Go's encoding/xml: its tokens, strict and not, and what it decodes into records.
package main

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"runtime"
	"strings"

	"nachklang"
)

func maybeNamespaced(name xml.Name) string {
	return "- " + nachklang.Field(name.Local) + " " + nachklang.Field(name.Space)
}

func refusedAt(problem error, decoder *xml.Decoder) error {
	var syntax *xml.SyntaxError
	if errors.As(problem, &syntax) {
		line, column := decoder.InputPos()
		return nachklang.Rejected{Message: syntax.Msg, Line: line, Column: column}
	}
	return nachklang.Rejected{Message: problem.Error()}
}

// printToken writes the lines of a token and tells how much deeper the next one is. Text outside of the root is white space.
func printToken(out *bytes.Buffer, token xml.Token, depth int) int {
	switch t := token.(type) {
	case xml.StartElement:
		fmt.Fprintln(out, "elem", maybeNamespaced(t.Name))
		for _, a := range t.Attr {
			switch {
			case a.Name.Space == "xmlns":
				fmt.Fprintln(out, "ns", nachklang.Field(a.Name.Local), nachklang.Field(a.Value))
			case a.Name.Space == "" && a.Name.Local == "xmlns":
				fmt.Fprintln(out, "ns", nachklang.Field(""), nachklang.Field(a.Value))
			default:
				fmt.Fprintln(out, "attr", maybeNamespaced(a.Name), nachklang.Field(a.Value), "-")
			}
		}
		return 1
	case xml.EndElement:
		fmt.Fprintln(out, "end")
		return -1
	case xml.CharData:
		if depth > 0 {
			fmt.Fprintln(out, "text", nachklang.Field(string(t)))
		}
	case xml.Comment:
		fmt.Fprintln(out, "comment", nachklang.Field(string(t)))
	case xml.ProcInst:
		if t.Target != "xml" {
			fmt.Fprintln(out, "pi", nachklang.Field(t.Target), nachklang.Field(string(t.Inst)))
		}
	}
	return 0
}

// anyElement takes an element with all that is in it, as it is decoded.
type anyElement struct{ trace bytes.Buffer }

func (e *anyElement) UnmarshalXML(decoder *xml.Decoder, start xml.StartElement) error {
	for depth := printToken(&e.trace, start, 0); depth > 0; {
		token, problem := decoder.Token()
		if problem != nil {
			return problem
		}
		depth += printToken(&e.trace, token, depth)
	}
	return nil
}

// sequence decodes one element after another from a stream, as Decoder.Decode is made for.
func sequence(stream io.Reader, mode string, take func(trace []byte)) error {
	decoder := xml.NewDecoder(stream)
	decoder.Strict = mode != "lax"
	for {
		var element anyElement
		if problem := decoder.Decode(&element); problem == io.EOF {
			return nil
		} else if problem != nil {
			return refusedAt(problem, decoder)
		}
		take(element.trace.Bytes())
	}
}

func decode(document []byte, mode string, show bool) ([]byte, error) {
	decoder := xml.NewDecoder(bytes.NewReader(document))
	decoder.Strict = mode != "lax"
	var out bytes.Buffer
	depth := 0
	for {
		token, problem := decoder.Token()
		if problem == io.EOF {
			break
		}
		if problem != nil {
			return nil, refusedAt(problem, decoder)
		}
		if !show {
			continue
		}
		depth += printToken(&out, token, depth)
	}
	if show && out.Len() == 0 {
		out.WriteString("text u8:\n") // accepted, and nothing in it
	}
	return out.Bytes(), nil
}

// Tokens are written as its user hands them over. Names are reported in their expanded form; the library chooses prefixes and declarations.
func encode(value string) ([]byte, error) {
	var out bytes.Buffer
	encoder := xml.NewEncoder(&out)
	lines := strings.Split(strings.TrimSuffix(value, "\n"), "\n")
	var open []xml.Name
	for i, line := range lines {
		words := strings.Split(line, " ")
		fields := make([]string, 5)
		for j := 1; j < len(words); j++ {
			if strings.Contains(words[j], ":") {
				text, err := nachklang.TextOf(words[j])
				if err != nil {
					return nil, err
				}
				fields[j-1] = text
			}
		}
		var token xml.Token
		switch words[0] {
		case "elem":
			start := xml.StartElement{Name: xml.Name{Space: fields[2], Local: fields[1]}}
			for _, next := range lines[i+1:] {
				parts := strings.Split(next, " ")
				if parts[0] != "attr" && parts[0] != "ns" {
					break
				}
				if parts[0] == "ns" {
					continue
				}
				local, e1 := nachklang.TextOf(parts[2])
				space, e2 := nachklang.TextOf(parts[3])
				text, e3 := nachklang.TextOf(parts[4])
				if e1 != nil || e2 != nil || e3 != nil {
					return nil, nachklang.Unsupported{Why: "a field is missing"}
				}
				start.Attr = append(start.Attr, xml.Attr{Name: xml.Name{Space: space, Local: local}, Value: text})
			}
			open = append(open, start.Name)
			token = start
		case "attr", "ns":
			continue
		case "end":
			token = xml.EndElement{Name: open[len(open)-1]}
			open = open[:len(open)-1]
		case "text":
			token = xml.CharData(fields[0])
		case "comment":
			token = xml.Comment(fields[0])
		case "pi":
			token = xml.ProcInst{Target: fields[0], Inst: []byte(fields[1])}
		default:
			return nil, nachklang.Unsupported{Why: "no " + words[0] + " is written here"}
		}
		if err := encoder.EncodeToken(token); err != nil {
			return nil, nachklang.Rejected{Message: err.Error()}
		}
	}
	if err := encoder.Flush(); err != nil {
		return nil, nachklang.Rejected{Message: err.Error()}
	}
	return out.Bytes(), nil
}

func answer(request nachklang.Request) ([]byte, error) {
	// Almost every line of these calls the library.
	switch request.Operation {
	case "decode":
		return nachklang.Library(func() ([]byte, error) { return decode(request.Document, request.Mode, request.Show) })
	case "encode":
		return nachklang.Library(func() ([]byte, error) { return encode(string(request.Document)) })
	case "sequence", "open-stream":
		return nachklang.Sequence(request, func(stream io.Reader, take func(trace []byte)) error { return sequence(stream, request.Mode, take) })
	case "bind", "bind-round-trip", "bind-encode":
		return bind(request)
	}
	return nil, nachklang.Unsupported{}
}

func main() {
	version := strings.TrimPrefix(runtime.Version(), "go")
	nachklang.Serve("xml", "implementation go-encoding-xml "+version+
		"\nxml decode\ncannot-represent cdata doctype prefixes\nsetting namespaces=on\nmode strict\nxml decode encode sequence open-stream\nmode lax\nsetting purpose=lax\nmode records\nxml bind bind-round-trip bind-encode\nmode records-reused\nxml bind\n", answer)
}
