// The record types of docs/records-of-fields.md, as an application declares them for encoding/xml.
package main

import (
	"bytes"
	"encoding/xml"
	"errors"
	"strconv"

	"nachklang"
)

type oneInt32 struct {
	XMLName xml.Name `xml:"record"`
	Value   int32    `xml:"value"`
}
type oneInt64 struct {
	XMLName xml.Name `xml:"record"`
	Value   int64    `xml:"value"`
}
type oneBinary64 struct {
	XMLName xml.Name `xml:"record"`
	Value   float64  `xml:"value"`
}
type oneBoolean struct {
	XMLName xml.Name `xml:"record"`
	Value   bool     `xml:"value"`
}
type oneText struct {
	XMLName xml.Name `xml:"record"`
	Value   string   `xml:"value"`
}
type oneList struct {
	XMLName xml.Name `xml:"record"`
	Value   []int32  `xml:"value"`
}
type inner struct {
	Value int32 `xml:"value"`
}
type oneRecord struct {
	XMLName xml.Name `xml:"record"`
	Value   inner    `xml:"value"`
}
type oneAttribute struct {
	XMLName xml.Name `xml:"record"`
	Value   int32    `xml:"value,attr"`
}
type oneAttributeText struct {
	XMLName xml.Name `xml:"record"`
	Value   string   `xml:"value,attr"`
}
type bell struct {
	XMLName  xml.Name `xml:"bell"`
	Name     string   `xml:"name"`
	WeightKg int32    `xml:"weight_kg"`
	HumHz    float64  `xml:"hum_hz"`
	Note     *string  `xml:"note"`
}

var recordTypes = map[string]func() any{
	"one-int32":          func() any { return new(oneInt32) },
	"one-int64":          func() any { return new(oneInt64) },
	"one-binary64":       func() any { return new(oneBinary64) },
	"one-boolean":        func() any { return new(oneBoolean) },
	"one-text":           func() any { return new(oneText) },
	"one-list":           func() any { return new(oneList) },
	"one-record":         func() any { return new(oneRecord) },
	"one-attribute":      func() any { return new(oneAttribute) },
	"one-attribute-text": func() any { return new(oneAttributeText) },
	"bell":               func() any { return new(bell) },
}

// earlier has the documents that a record holds before it is decoded into once more.
var earlier = map[string]string{
	"one-int32": "<record><value>41</value></record>", "one-int64": "<record><value>41</value></record>",
	"one-binary64": "<record><value>41.5</value></record>", "one-boolean": "<record><value>true</value></record>",
	"one-text": "<record><value>earlier</value></record>", "one-list": "<record><value>41</value></record>",
	"one-record":    "<record><value><value>41</value></value></record>",
	"one-attribute": `<record value="41"/>`, "one-attribute-text": `<record value="earlier"/>`,
	"bell": "<bell><name>Clara</name><weight_kg>41</weight_kg><hum_hz>41.5</hum_hz><note>earlier</note></bell>",
}

// refused gives what the library documents as a refusal; another error stays what it is.
func refused(err error) error {
	var syntax *xml.SyntaxError
	var number *strconv.NumError
	var unmarshal xml.UnmarshalError
	switch {
	case err == nil:
		return nil
	case errors.As(err, &syntax):
		return nachklang.Rejected{Message: syntax.Msg, Line: syntax.Line}
	case errors.As(err, &number), errors.As(err, &unmarshal):
		return nachklang.Rejected{Message: err.Error()}
	}
	return err
}

func written(record any) ([]byte, error) {
	return nachklang.Library(func() ([]byte, error) { return xml.Marshal(record) })
}

// bind decodes into a record and prints it, or writes it.
func bind(request nachklang.Request) ([]byte, error) {
	newRecord := recordTypes[request.Record]
	if newRecord == nil {
		return nil, nachklang.Unsupported{Why: "no such record type"}
	}
	record := newRecord()
	if request.Operation == "bind-encode" {
		if err := nachklang.FillRecord(record, "xml", string(request.Document)); err != nil {
			return nil, err
		}
		return written(record)
	}
	if _, err := nachklang.Library(func() (any, error) {
		if request.Mode == "records-reused" {
			if err := xml.Unmarshal([]byte(earlier[request.Record]), record); err != nil {
				return nil, err
			}
		}
		return nil, refused(xml.Unmarshal(request.Document, record))
	}); err != nil {
		return nil, err
	}
	if request.Operation == "bind-round-trip" {
		return written(record)
	}
	var out bytes.Buffer
	if request.Show {
		nachklang.PrintRecord(record, "xml", &out)
	}
	return out.Bytes(), nil
}
