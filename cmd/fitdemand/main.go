// Command fitdemand fits the weights of the demand model to the chains of an
// orders file, writes them to core/demand/weights.json and prints how well orders
// come out that the fit has not seen.
package main

import (
	"fmt"
	"log"
	"os"

	"arplin/core/demand"
)

func main() {
	data, err := os.ReadFile("core/demand/testdata/orders.json")
	if err != nil {
		log.Fatal(err)
	}
	orders, err := demand.ReadOrders(data)
	if err != nil {
		log.Fatal(err)
	}
	w := demand.Fit(orders.Chains)
	if err := os.WriteFile("core/demand/weights.json", w.Encode(), 0o644); err != nil {
		log.Fatal(err)
	}
	fmt.Printf("held-out share of adjacent pairs %.1f %%, strokes x tempo %.1f %%\n",
		100*demand.HeldOut(orders.Chains), 100*demand.Baseline(orders.Chains))
}
