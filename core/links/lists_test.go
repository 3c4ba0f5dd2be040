package links_test

import _ "corpulan/lists" // the word lists that lie beside the program
