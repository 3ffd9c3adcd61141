// Command palethicket names leafless trees from partial looks and keeps the
// record.
//
//	main.go         the commands
//	open.go         a book and what it is read with
//	serve.go        serve and demo; crew.go who may sign in
//	files.go        import and export; safe.go backup, restore and check
//	flora.go        questions about the flora; identify.go records answered; calibrate.go
package main
