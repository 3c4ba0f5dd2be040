package language_test

import (
	"fmt"

	"corpulan/core/language"
)

func ExampleLanguage_ContentStems() {
	fmt.Println(language.For("en").ContentStems("Do I need studded tyres for my e-bike?"))
	fmt.Println(language.For("fr").ContentStems("Faut-il des pneus d'hiver ?"))
	// Output:
	// [need stud tyre bike]
	// [pneu hiv]
}

func ExampleDetect() {
	fmt.Println(language.Detect("Wer im Winter mit dem Fahrrad zur Arbeit fährt, braucht gute Reifen, helles Licht und trockene Schuhe für den Weg."))
	// Output: de
}

func ExampleName() {
	fmt.Println(language.Name(language.Base("pt-BR")))
	// Output: Portuguese
}
