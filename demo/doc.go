// Package demo fills an empty book with the Lantern Creek watershed forest, an
// invented woodland of a water company in the hills of south-western Wisconsin.
// Places, people and trees are made up.
//
//	demo.go         the whole forest
//	woods.go        stands and what grows in them; draw.go a tree and its looks
//	terrain.go      the map; picture.go photographs
package demo
