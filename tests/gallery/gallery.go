// Defects of Go's libraries, each shown by a call without any kit: a line for each, its name and what the library does.
package main

import (
	"encoding/json"
	"fmt"
	"io"
	"strings"
	"time"

	jsoniter "github.com/json-iterator/go"
)

type weights struct {
	Value []int `json:"value"`
}

func main() {
	held := weights{[]int{41}}
	err := json.Unmarshal([]byte(`{"value":[null]}`), &held)
	fmt.Printf("go-earlier-element\t%v, error %v\n", held.Value, err)
	var cast struct {
		Value time.Time `json:"value"`
	}
	err = json.Unmarshal([]byte(`{"value":"1953-04-07\u005405:30:00Z"}`), &cast)
	fmt.Printf("go-escaped-date\terror %v\n", err)
	err = json.Unmarshal([]byte(`{"value":"2024-02-28T12:00:00+25:00"}`), &cast)
	fmt.Printf("go-offset\t%v, error %v\n", cast.Value.UTC().Format(time.RFC3339), err)
	decoder := jsoniter.NewDecoder(strings.NewReader("[1]\n"))
	values := []any{}
	for err = nil; err == nil; {
		var value any
		if err = decoder.Decode(&value); err == nil {
			values = append(values, value)
		}
	}
	fmt.Printf("json-iterator-last-line-end\t%v, end of file: %v\n", values, err == io.EOF)
}
