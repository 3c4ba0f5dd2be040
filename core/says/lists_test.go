package says

import _ "corpulan/lists" // the word lists that lie beside the program
