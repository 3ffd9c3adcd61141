package flora_test

import (
	"fmt"
	"log"

	"palethicket/core/flora"
	files "palethicket/flora"
)

// A flora is read whole, or refused with the file and line of all that is wrong.
func ExampleLoad() {
	f, err := flora.Load(files.Files)
	if err != nil {
		log.Fatal(err)
	}
	among, err := f.Among("", "") // the home region
	if err != nil {
		log.Fatal(err)
	}
	fmt.Println(f.Taxon("Juglans nigra").Called(among.Region))
	// Output: black walnut
}
