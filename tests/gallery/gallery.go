// Defects of Go's standard library, each shown by a call without any kit: a line for each, its name and what the library does.
package main

import (
	"encoding/json"
	"fmt"
)

type weights struct {
	Value []int `json:"value"`
}

func main() {
	held := weights{[]int{41}}
	err := json.Unmarshal([]byte(`{"value":[null]}`), &held)
	fmt.Printf("go-earlier-element\t%v, error %v\n", held.Value, err)
}
