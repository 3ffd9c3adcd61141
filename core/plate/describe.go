package plate

import (
	"fmt"
	"strings"
)

// Describe says in words what of some characters a drawing shows, for who does not see it.
func Describe(t *Tree, what string, characters []string) string {
	said := []string{}
	for _, id := range characters {
		v, ok := t.Shows[id]
		if !ok {
			continue
		}
		_, name, _ := strings.Cut(id, ".")
		name = strings.ReplaceAll(name, "-", " ")
		section, _, _ := strings.Cut(id, ".")
		switch {
		case v.State == "none":
		case v.State != "":
			said = append(said, fmt.Sprintf("%s %s %s", section, name, strings.ReplaceAll(v.State, "-", " ")))
		case v.Value > 0:
			said = append(said, fmt.Sprintf("%s %s %.3g", section, name, v.Value))
		case v.Seen:
			said = append(said, name)
		}
	}
	if len(said) == 0 {
		return fmt.Sprintf("%s of %s: nothing of it is known", what, t.English)
	}
	return fmt.Sprintf("%s of %s: %s", what, t.English, strings.Join(said, ", "))
}
