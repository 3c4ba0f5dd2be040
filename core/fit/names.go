package fit

import "corpulan/core/message"

// PartName is the name of a part as it is shown.
func PartName(part string) message.Message {
	return map[string]message.Message{Terms: "Terms", Sections: "Sections", Questions: "Questions", Entities: "Names", Things: "Things", Length: "Length", Form: "Form"}[part]
}
