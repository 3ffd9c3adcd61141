package away_test

import "palethicket/book"

func init() { book.HashLightly() }
