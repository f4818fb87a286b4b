package ladder_test
import ("testing";"fmt";"os";"arplin/core/difficulty";"arplin/core/ladder";"arplin/core/ladder/grow";"arplin/core/ladder/order";"arplin/core/pattern/catalogue")
func TestNames(t *testing.T){
	for _, e := range catalogue.All {
		tk := task(t,e.Pattern,"C | Am | F | G7")
		steps := grow.Build(order.Choice{Order:order.Order(os.Getenv("O")),Size:order.Size(os.Getenv("S")),Chords:order.Chords(os.Getenv("C"))}, tk, difficulty.Fitted, 0)
		fmt.Println("##", e.Pattern)
		for i, s := range steps { w := ladder.Describe(steps,i,tk); if s.Over!=ladder.OneChord && os.Getenv("ALL")=="" {continue}; fmt.Printf("   %-48s %4.1f %-40s | %s | %s\n", difficulty.Coarsest(s.Pattern), s.Level, w.Name, w.Says, s.How()) }
	}
}
