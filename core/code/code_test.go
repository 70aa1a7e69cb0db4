package code_test

import (
	"fmt"

	"amberseal/core/code"
)

func ExampleMake() {
	s, err := code.Make(code.QR, "https://tarnhollow.example", 1)
	fmt.Println(s.Width == s.Height, len(s.Boxes) > 100, err)
	_, err = code.Make(code.EAN13, "4006381333932", 10)
	fmt.Println(err != nil)
	// Output:
	// true true <nil>
	// true
}
