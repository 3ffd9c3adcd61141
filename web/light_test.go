package web_test

import "palethicket/book"

func init() { book.HashLightly() }
