package main

import (
	"container/list"
	"net"
	"net/http"
	"sync"
)

// connsMost is how many connections are held at once. It leaves room for files under the usual
// limit of 1024.
const connsMost = 600

// conns closes the connections that have been silent longest when there are too many, so that
// those who say nothing keep nobody out.
type conns struct {
	most int

	mu     sync.Mutex
	silent *list.List // of net.Conn, the longest first
	at     map[net.Conn]*list.Element
	busy   map[net.Conn]bool
}

// mostConns keeps a server within so many connections.
func mostConns(srv *http.Server, most int) *http.Server {
	c := &conns{most: most, silent: list.New(), at: map[net.Conn]*list.Element{}, busy: map[net.Conn]bool{}}
	srv.ConnState = c.changed
	return srv
}

func (c *conns) changed(conn net.Conn, to http.ConnState) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if e := c.at[conn]; e != nil {
		c.silent.Remove(e)
	}
	delete(c.at, conn)
	delete(c.busy, conn)
	switch to {
	case http.StateNew, http.StateIdle:
		c.at[conn] = c.silent.PushBack(conn)
	case http.StateActive:
		c.busy[conn] = true
	}
	for len(c.at)+len(c.busy) > c.most && c.silent.Len() > 0 {
		oldest := c.silent.Remove(c.silent.Front()).(net.Conn)
		delete(c.at, oldest)
		_ = oldest.Close() // who held it notices
	}
}
