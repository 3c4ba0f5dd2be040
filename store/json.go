package store

import (
	"database/sql/driver"
	"encoding/json"
	"fmt"
)

// JSONType is a column that holds a value as JSON.
type JSONType[T any] struct{ data T }

// NewJSONType is a column with a value.
func NewJSONType[T any](data T) JSONType[T] { return JSONType[T]{data} }

// Data is the value of the column.
func (j JSONType[T]) Data() T { return j.data }

// Value is what the database takes.
func (j JSONType[T]) Value() (driver.Value, error) { return asJSON(j.data) }

// Scan takes what the database gives.
func (j *JSONType[T]) Scan(value any) error { return fromJSON(value, &j.data) }

// MarshalJSON is the value's.
func (j JSONType[T]) MarshalJSON() ([]byte, error) { return json.Marshal(j.data) }

// UnmarshalJSON is the value's.
func (j *JSONType[T]) UnmarshalJSON(b []byte) error { return json.Unmarshal(b, &j.data) }

// JSONSlice is a column that holds a list as JSON.
type JSONSlice[T any] []T

// NewJSONSlice is a column with a list.
func NewJSONSlice[T any](list []T) JSONSlice[T] { return JSONSlice[T](list) }

// Value is what the database takes; JSON's null for no list.
func (j JSONSlice[T]) Value() (driver.Value, error) { return asJSON([]T(j)) }

// Scan takes what the database gives.
func (j *JSONSlice[T]) Scan(value any) error { return fromJSON(value, (*[]T)(j)) }

// JSON is a column of JSON that is not taken apart.
type JSON json.RawMessage

// Value is what the database takes; nothing for an empty one.
func (j JSON) Value() (driver.Value, error) {
	if len(j) == 0 {
		return nil, nil
	}
	return string(j), nil
}

// Scan takes what the database gives; what holds nothing is JSON's null.
func (j *JSON) Scan(value any) error {
	switch v := value.(type) {
	case nil:
		*j = JSON("null")
	case []byte:
		*j = append(JSON(nil), v...)
	case string:
		*j = JSON(v)
	default:
		return fmt.Errorf("store: %T is no JSON", value)
	}
	return nil
}

// MarshalJSON is the JSON itself.
func (j JSON) MarshalJSON() ([]byte, error) { return json.RawMessage(j).MarshalJSON() }

// UnmarshalJSON keeps the JSON as it is.
func (j *JSON) UnmarshalJSON(b []byte) error { return (*json.RawMessage)(j).UnmarshalJSON(b) }

// What GORM calls the columns.
func (JSONType[T]) GormDataType() string  { return "json" }
func (JSONSlice[T]) GormDataType() string { return "json" }
func (JSON) GormDataType() string         { return "json" }

// asJSON is a value as text, which the database's driver takes for json and jsonb alike.
func asJSON(v any) (driver.Value, error) {
	b, err := json.Marshal(v)
	if err != nil {
		return nil, fmt.Errorf("store: %T as JSON: %w", v, err)
	}
	return string(b), nil
}

func fromJSON(value, into any) error {
	switch v := value.(type) {
	case []byte:
		return json.Unmarshal(v, into)
	case string:
		return json.Unmarshal([]byte(v), into)
	}
	return fmt.Errorf("store: %T is no JSON", value)
}
