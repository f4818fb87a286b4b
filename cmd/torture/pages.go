package main
import "context"
func torturePages(ctx context.Context) error { return nil }
