// Package away is what a device does with the part of a book that it took along: it
// keeps in mind where home is and who may send, and tells home what was entered
// meanwhile, and hears what is new, whenever home can be reached.
//
//	device.go       the device: what it holds, how it stands, who is at work on it
//	meet.go         meeting home
//	home.go         home, over HTTP
package away
