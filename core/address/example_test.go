package address_test

import (
	"fmt"

	"corpulan/core/address"
)

func ExampleSame() {
	fmt.Println(address.Same("http://www.northlane.example/guide/", "https://northlane.example/guide?utm_source=mail#top"))
	fmt.Println(address.Same("https://northlane.example/guide?page=1", "https://northlane.example/guide?page=2"))
	// Output:
	// true
	// false
}

func ExampleAddress_Site() {
	a := address.Parse("https://shop.northlane.co.uk/lamps")
	fmt.Println(a.Host(), a.Site(), a.SiteLabel())
	// Output: shop.northlane.co.uk northlane.co.uk northlane
}
