// Package instrument listens to what foresters hold and wear: satellite receivers, calipers,
// laser hypsometers, and weather stations. It says how each does and what it read last;
// nothing is kept of a reading until somebody takes it.
//
//	instrument.go   what an instrument is, how it does, what it read
//	hub.go          listens to several at once, and tells who watches
//	line.go         those that send lines, over TCP or a serial line
//	receiver.go     a satellite receiver: fixes from sentences, and what is wrong with them
//	station/        a weather station, by OGC SensorThings
//	nmea/, plain/   how lines are read
//	simulate/       instruments that do not exist, with their faults
package instrument
