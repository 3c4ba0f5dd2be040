package main
import ("os";"testing")
func init(){ os.Chdir("..") }
func TestZZ(t *testing.T){ if err:=printListed(os.Stdout,"evaluate/fields",true); err!=nil {t.Fatal(err)} }
