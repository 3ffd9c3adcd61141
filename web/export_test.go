package web

import (
	"maps"
	"slices"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"
)

// Access lists the operations that are registered on a router, by path: what each is, its least
// role, who is answered while they check, whether a token will do, and whether a device answers.
func (s *Server) Access(r chi.Router) (lines [][]string) {
	paths := s.API(r).OpenAPI().Paths
	for _, path := range slices.Sorted(maps.Keys(paths)) {
		p := paths[path]
		for _, op := range []*huma.Operation{p.Get, p.Post, p.Put, p.Patch, p.Delete} {
			if op == nil {
				continue
			}
			a := op.Metadata[accessKey].(access)
			check := "answered by the check"
			switch {
			case a.scope&notInCheck != 0:
				check = "refused"
			case a.scope&whole != 0:
				check = "answered by the whole book"
			}
			yes := func(is bool) string {
				if is {
					return "yes"
				}
				return "no"
			}
			lines = append(lines, []string{op.Method + " " + path, string(a.role), check, yes(a.role == anybody || a.scope&byToken != 0),
				yes(a.scope&onlyHome == 0)})
		}
	}
	return lines
}
