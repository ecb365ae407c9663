// Go's encoding/xml: its tokens, strict and not.
package main

import (
	"bufio"
	"bytes"
	"encoding/hex"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"os"
	"runtime"
	"strconv"
	"strings"
	"syscall"
)

func field(text string) string { return "u8:" + hex.EncodeToString([]byte(text)) }

func maybeNamespaced(name xml.Name) string { return "- " + field(name.Local) + " " + field(name.Space) }

func decode(document []byte, mode string, show bool) (trace []byte, line int, column int, err error) {
	decoder := xml.NewDecoder(bytes.NewReader(document))
	decoder.Strict = mode != "lax"
	var out bytes.Buffer
	depth, roots := 0, 0
	for {
		token, problem := decoder.Token()
		if problem == io.EOF {
			break
		}
		if problem != nil {
			line, column = decoder.InputPos()
			return nil, line, column, problem
		}
		if !show {
			continue
		}
		switch t := token.(type) {
		case xml.StartElement:
			depth++
			roots++
			fmt.Fprintln(&out, "elem", maybeNamespaced(t.Name))
			for _, a := range t.Attr {
				switch {
				case a.Name.Space == "xmlns":
					fmt.Fprintln(&out, "ns", field(a.Name.Local), field(a.Value))
				case a.Name.Space == "" && a.Name.Local == "xmlns":
					fmt.Fprintln(&out, "ns", field(""), field(a.Value))
				default:
					fmt.Fprintln(&out, "attr", maybeNamespaced(a.Name), field(a.Value), "-")
				}
			}
		case xml.EndElement:
			depth--
			fmt.Fprintln(&out, "end")
		case xml.CharData:
			if depth > 0 {
				fmt.Fprintln(&out, "text", field(string(t)))
			}
		case xml.Comment:
			fmt.Fprintln(&out, "comment", field(string(t)))
		case xml.ProcInst:
			if t.Target != "xml" {
				fmt.Fprintln(&out, "pi", field(t.Target), field(string(t.Inst)))
			}
		}
	}
	if show && out.Len() == 0 {
		out.WriteString("text u8:\n") // accepted, and nothing in it
	}
	return out.Bytes(), 0, 0, nil
}

func textOf(field string) (string, error) {
	units, digits, _ := strings.Cut(field, ":")
	raw, err := hex.DecodeString(digits)
	if err != nil || units != "u8" {
		return "", errors.New("strings are bytes here")
	}
	return string(raw), nil
}

// Tokens are written as its user hands them over. Names are told by their expanded form; prefixes and declarations are the library's affair.
func encode(value string) ([]byte, error, string) {
	var out bytes.Buffer
	encoder := xml.NewEncoder(&out)
	lines := strings.Split(strings.TrimSuffix(value, "\n"), "\n")
	var open []xml.Name
	for i, line := range lines {
		words := strings.Split(line, " ")
		fields := make([]string, 5)
		for j := 1; j < len(words); j++ {
			if strings.Contains(words[j], ":") {
				text, err := textOf(words[j])
				if err != nil {
					return nil, nil, err.Error()
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
				local, e1 := textOf(parts[2])
				space, e2 := textOf(parts[3])
				text, e3 := textOf(parts[4])
				if e1 != nil || e2 != nil || e3 != nil {
					return nil, nil, "strings are bytes here"
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
			return nil, nil, "no " + words[0] + " is written here"
		}
		if err := encoder.EncodeToken(token); err != nil {
			return nil, err, ""
		}
	}
	if err := encoder.Flush(); err != nil {
		return nil, err, ""
	}
	return out.Bytes(), nil, ""
}

func main() {
	kept, _ := syscall.Dup(1)
	syscall.Dup2(2, 1)
	replies, input := bufio.NewWriter(os.NewFile(uintptr(kept), "replies")), bufio.NewReader(os.Stdin)
	fmt.Fprintf(replies, "nachklang-adapter 1\nimplementation go-encoding-xml %s\nxml decode\nlacks cdata doctype prefixes\nsetting namespaces=on\nmode strict\nxml decode encode\nmode lax\n\n",
		strings.TrimPrefix(runtime.Version(), "go"))
	replies.Flush()
	for {
		head, err := input.ReadString('\n')
		if err != nil {
			return
		}
		words := strings.Split(strings.TrimSuffix(head, "\n"), " ")
		length, _ := strconv.Atoi(words[2])
		document := make([]byte, length)
		if _, err := io.ReadFull(input, document); err != nil {
			os.Exit(2)
		}
		id, mode, show, known := "0", "", true, (words[0] == "decode" || words[0] == "encode") && words[1] == "xml"
		for _, word := range words[3:] {
			key, value, _ := strings.Cut(word, "=")
			switch key {
			case "id":
				id = value
			case "mode":
				mode = value
			case "show":
				show = value != "nothing"
			default:
				known = false
			}
		}
		kind, told, body := "unsupported", "", []byte(nil)
		if known && words[0] == "encode" {
			written, err, why := encode(string(document))
			switch {
			case why != "":
				body = []byte(why)
			case err != nil:
				kind, body = "rejected", []byte(err.Error())
			default:
				kind, body = "accepted", written
			}
		} else if known {
			trace, line, column, err := decode(document, mode, show)
			var syntax *xml.SyntaxError
			switch {
			case err == nil:
				kind, body = "accepted", trace
			case errors.As(err, &syntax):
				kind, body, told = "rejected", []byte(syntax.Msg), fmt.Sprintf(" line=%d column=%d", line, column)
			default:
				kind, body = "rejected", []byte(err.Error())
			}
		}
		fmt.Fprintf(replies, "%s %d id=%s%s\n", kind, len(body), id, told)
		replies.Write(body)
		replies.Flush()
	}
}
