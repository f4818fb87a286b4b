package main

import (
	"context"
	"errors"
	"fmt"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"time"
)

// program is the built program.
const program = "bin/arplin"

// copyOf is a copy of the program that is running.
type copyOf struct {
	cmd     *exec.Cmd
	address string
	env     []string
	log     string
}

func freeAddress() (string, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", err
	}
	defer l.Close()
	return l.Addr().String(), nil
}

// newCopy starts "arplin serve" with an environment.
func newCopy(log string, env ...string) (*copyOf, error) {
	address, err := freeAddress()
	if err != nil {
		return nil, err
	}
	c := &copyOf{address: address, log: log, env: append(env, "ARPLIN_LISTEN="+address, "ARPLIN_SIGNIN_TRIES=1000")}
	return c, c.start()
}

func (c *copyOf) start() error {
	log, err := os.OpenFile(c.log, os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	defer log.Close()
	c.cmd = exec.Command(program, "serve")
	c.cmd.Env = append(os.Environ(), c.env...)
	c.cmd.Stdout, c.cmd.Stderr = log, log
	return c.cmd.Start()
}

// kill ends the process at once. It is no power cut: what the machine has in its page cache stays.
func (c *copyOf) kill() {
	_ = c.cmd.Process.Kill()
	_ = c.cmd.Wait()
}

func (c *copyOf) stop() {
	_ = c.cmd.Process.Signal(os.Interrupt)
	_ = c.cmd.Wait()
}

// healthy waits until an address answers that it is well.
func healthy(ctx context.Context, address string) error {
	ctx, cancel := context.WithTimeout(ctx, 90*time.Second)
	defer cancel()
	client := &http.Client{Timeout: 3 * time.Second}
	for {
		req, err := http.NewRequestWithContext(ctx, http.MethodHead, "http://"+address+"/healthz", nil)
		if err != nil {
			return err
		}
		res, err := client.Do(req)
		if err == nil {
			_ = res.Body.Close()
			if res.StatusCode == http.StatusOK {
				return nil
			}
			err = errors.New(res.Status)
		}
		select {
		case <-ctx.Done():
			return fmt.Errorf("%s is not well: %w", address, err)
		case <-time.After(100 * time.Millisecond):
		}
	}
}

func workFolder(name string) (string, error) {
	dir, err := filepath.Abs(filepath.Join("var", name))
	if err != nil {
		return "", err
	}
	if err := os.RemoveAll(dir); err != nil {
		return "", err
	}
	return dir, os.MkdirAll(dir, 0o755)
}
