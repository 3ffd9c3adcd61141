// Package opfs has SQLite keep its files in a browser's origin-private file system, by
// synchronous access handles, which a worker alone can have
// (https://fs.spec.whatwg.org/#api-filesystemsyncaccesshandle). Only one worker of a
// device has a book open; all its connections share one handle for each file.
//
//	files.go        files and their handles
//	locks.go        who of the connections may read and write
package opfs

// Name is what SQLite is told to find a book in this storage.
const Name = "opfs"
