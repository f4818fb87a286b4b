// Command fitweights fits the weights of the levels to the chains of an
// orders file, writes them to core/difficulty/weights.json and prints how well orders
// come out that the fit has not seen.
package main

import (
	"fmt"
	"log"
	"os"

	"arplin/core/difficulty"
	"arplin/core/pattern/catalogue"
)

func main() {
	data, err := os.ReadFile("core/difficulty/testdata/orders.json")
	if err != nil {
		log.Fatal(err)
	}
	orders, err := difficulty.ReadOrders(data)
	if err != nil {
		log.Fatal(err)
	}
	if data, err = os.ReadFile("core/difficulty/testdata/ranks.txt"); err != nil {
		log.Fatal(err)
	}
	order, err := difficulty.ReadRanks(data, catalogue.ByTempo)
	if err != nil {
		log.Fatal(err)
	}
	w := difficulty.Fit(orders.Chains, order)
	if err := os.WriteFile("core/difficulty/weights.json", w.Encode(), 0o644); err != nil {
		log.Fatal(err)
	}
	fmt.Printf("held-out share of adjacent pairs %.1f %%, strokes x tempo %.1f %%\n",
		100*difficulty.HeldOut(orders.Chains, order, len(orders.Chains)), 100*difficulty.Baseline(orders.Chains))
}
