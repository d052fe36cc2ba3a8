package main
import ("fmt";"os";"rooktrail/internal/core/change/proposal";"rooktrail/internal/core/file/text")
func main(){ f,_:=os.Open("/tmp/q/x.diff"); p,err:=proposal.ReadDiff(f,"t",func(p string)(*text.Document,error){fmt.Println("read",p);return text.Load("/tmp/q/"+p)}); fmt.Println(err,p.Warnings); for _,x:=range p.Files{fmt.Printf("%+v\n",*x)}}
