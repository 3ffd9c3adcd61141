package flora_test
import ("testing";"palethicket/core/flora";files "palethicket/flora";"github.com/stretchr/testify/require")
func TestX(t *testing.T){ f,err:=flora.Load(files.Files); require.NoError(t,err); t.Log(len(f.Taxa)); for _,x:=range f.Taxa{t.Log(x.Name,x.Known())}}
