package text

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestWithoutNumber(t *testing.T) {
	for heading, want := range map[string]string{
		"3. Lights": "Lights", "Step 4: Dress in layers": "Dress in layers", "Schritt 2) Kette ölen": "Kette ölen", "2 lights are better": "2 lights are better",
		"Route 66": "Route 66", "Version 2.1": "Version 2.1", "10:": "10:", "Mudguards": "Mudguards",
		"13.3.3. Page-Level Locks": "Page-Level Locks", "5.0 Writing to a file": "Writing to a file", "Step 7 to 9: put away": "Put away", "Chapter 2. Locks": "Locks", "A. Notes": "Notes",
		"B) Öl": "Öl", "(4) Chains": "Chains", "iv. Salt": "Salt", "2.1.2.": "2.1.2.", "Étape 3 : huiler": "Huiler", "I am cold": "I am cold", "A bike in winter": "A bike in winter",
		"12.1.3.\u00a0RAID ou LVM ?": "RAID ou LVM ?", "II. Huiler la chaîne": "Huiler la chaîne", "#3: Lamps": "Lamps", "Nr. 2: Kette": "Kette", "N° 4 – La chaîne": "La chaîne",
		"1 – Lamps": "Lamps", "2024 – a year of ice": "2024 – a year of ice", "24-hour lamps": "24-hour lamps", "Tip #7: oil it": "Oil it", "XL. or M?": "XL. or M?",
	} {
		assert.Equal(t, want, WithoutNumber(heading), heading)
	}
}
