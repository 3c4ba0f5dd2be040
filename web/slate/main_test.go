package slate_test

import (
	"testing"

	"corpulan/store/storetest"
)

func TestMain(m *testing.M) { storetest.Main(m) }
