// The record types of docs/records-of-fields.md, as an application declares them.
package main

import "time"

type oneInt32 struct {
	Value int32 `json:"value"`
}
type oneInt64 struct {
	Value int64 `json:"value"`
}
type oneBinary64 struct {
	Value float64 `json:"value"`
}
type oneBoolean struct {
	Value bool `json:"value"`
}
type oneText struct {
	Value string `json:"value"`
}
type oneList struct {
	Value []int32 `json:"value"`
}
type oneRecord struct {
	Value oneInt32 `json:"value"`
}
type oneInstant struct {
	Value time.Time `json:"value"`
}
type oneBytes struct {
	Value []byte `json:"value"`
}
type oneMap struct {
	Value map[int32]int32 `json:"value"`
}
type bell struct {
	Name     string  `json:"name"`
	WeightKg int32   `json:"weight_kg"`
	HumHz    float64 `json:"hum_hz"`
	Note     *string `json:"note"`
}

// newRecord gives a pointer to an empty record of a type; nil if there is none of that name.
func newRecord(name string) any {
	switch name {
	case "one-int32":
		return new(oneInt32)
	case "one-int64":
		return new(oneInt64)
	case "one-binary64":
		return new(oneBinary64)
	case "one-boolean":
		return new(oneBoolean)
	case "one-text":
		return new(oneText)
	case "one-list":
		return new(oneList)
	case "one-record":
		return new(oneRecord)
	case "one-instant":
		return new(oneInstant)
	case "one-bytes":
		return new(oneBytes)
	case "one-map":
		return new(oneMap)
	case "bell":
		return new(bell)
	}
	return nil
}

// earlier gives the document that a record holds before it is decoded into once more.
func earlier(name string) []byte {
	return []byte(map[string]string{"one-int32": `{"value":41}`, "one-int64": `{"value":41}`, "one-binary64": `{"value":41.5}`,
		"one-boolean": `{"value":true}`, "one-text": `{"value":"earlier"}`, "one-list": `{"value":[41]}`, "one-record": `{"value":{"value":41}}`,
		"one-instant": `{"value":"1902-06-01T12:00:00Z"}`, "one-bytes": `{"value":"KQ=="}`, "one-map": `{"value":{"41":41}}`,
		"bell": `{"name":"Clara","weight_kg":41,"hum_hz":41.5,"note":"earlier"}`}[name])
}
