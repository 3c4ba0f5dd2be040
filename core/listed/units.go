package listed

import (
	"strings"
	"sync"

	"corpulan/core/text"
)

// measure is a unit as pages write it, and how many of the base unit it is.
type measure struct {
	base  string
	times float64
}

// units are common units with their base, by SI; the pound, the ounce and the inch by the International Yard and Pound Agreement
// of 1959. Names as Unicode's CLDR has them in the eight languages, and short ones of the trade.
var units = []struct {
	measure
	names string
}{
	{measure{"g", 1}, "g gr gram grams gramm gramme grammes gramo gramos grammo grammi grama gramas"},
	{measure{"g", 1000}, "kg kilo kilos kilogram kilograms kilogramm kilogramme kilogrammes kilogramo kilogramos chilogrammo chilogrammi chilo chili quilo quilos quilograma quilogramas"},
	{measure{"g", 453.59237}, "lb lbs pound pounds pfund livre livres libra libras libbra libbre pond pund"},
	{measure{"g", 28.349523125}, "oz ounce ounces unze unzen once onces onza onzas oncia onça onças uns"},
	{measure{"mm", 1}, "mm millimeter millimeters millimetre millimetres millimètre millimètres milímetro milímetros millimetro millimetri"},
	{measure{"mm", 10}, "cm centimeter centimeters centimetre centimetres zentimeter centimètre centimètres centímetro centímetros centimetro centimetri"},
	{measure{"mm", 25.4}, "in inch inches zoll po pouce pouces pulgada pulgadas pollice pollici pol polegada polegadas tum"},
	{measure{"mm", 1000}, "m meter meters metre metres mètre mètres metro metros metri"},
	{measure{"mm", 1e6}, "km kilometer kilometers kilometre kilometres kilomètre kilomètres kilómetro kilómetros chilometro chilometri quilômetro quilômetros quilómetro quilómetros"},
	{measure{"min", 1}, "min mins minute minutes minuten minuto minutos minuti minut minuter"},
	{measure{"min", 60}, "h hr hrs hour hours std stunde stunden heure heures hora horas ora ore uur uren tim timme timmar"},
	{measure{"ml", 1}, "ml milliliter milliliters millilitre millilitres mililitro mililitros millilitro millilitri"},
	{measure{"ml", 10}, "cl centiliter centilitre"},
	{measure{"ml", 1000}, "l liter liters litre litres litro litros litri"},
	{measure{"lumen", 1}, "lm lumen lumens lúmenes lúmens"},
	{measure{"w", 1}, "w watt watts vatio vatios"},
	{measure{"w", 1000}, "kw"},
	{measure{"mah", 1}, "mah"},
	{measure{"wh", 1}, "wh"},
	{measure{"db", 1}, "db decibel decibels dezibel décibel décibels decibelios decibéis"},
	{measure{"gb", 1}, "gb go gigabyte gigabytes gigaoctet gigaoctets"},
	{measure{"gb", 1000}, "tb to terabyte terabytes"},
}

// measures are the units by their names, folded.
var measures = sync.OnceValue(func() map[string]measure {
	all := map[string]measure{}
	for _, u := range units {
		for name := range strings.FieldsSeq(u.names) {
			all[text.Fold(name)] = u.measure
		}
	}
	return all
})
