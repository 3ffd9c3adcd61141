package exchange

import "io"

// A device has no place for the file that a GeoPackage is made in.

func readGeoPackage([]byte) (*Sheet, error) { return nil, ErrAtHome }

func writeGeoPackage(io.Writer, Trees, About) error { return ErrAtHome }
