package localdb

import (
	"bytes"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strconv"
	"strings"
	"syscall"
	"time"
)

// process is a MariaDB that runs.
type process struct {
	cmd    *exec.Cmd
	done   chan struct{} // closed when it has ended
	socket string        // folder of the socket, removed at the end
}

// tryLock takes the folder for this copy of the program; nil when another has it.
// The lock ends with the program, however that ends.
func (h home) tryLock() (*os.File, error) {
	if err := os.MkdirAll(h.dir, 0o700); err != nil {
		return nil, fmt.Errorf("the folder for the database: %w", err)
	}
	f, err := os.OpenFile(h.in("lock"), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, fmt.Errorf("the folder for the database: %w", err)
	}
	err = syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB)
	if err == nil {
		return f, nil
	}
	_ = f.Close()
	if errors.Is(err, syscall.EWOULDBLOCK) {
		return nil, nil
	}
	return nil, fmt.Errorf("the folder for the database: %w", err)
}

// start makes the data folder if there is none, ends a server that an earlier run
// left on it, starts one and waits until it answers.
func (h home) start(ctx context.Context) (*process, address, error) {
	binary, err := find("mariadbd", "mariadb-server-core")
	if err != nil {
		return nil, address{}, err
	}
	if err := h.endLeftovers(); err != nil {
		return nil, address{}, err
	}
	if err := h.initialise(ctx); err != nil {
		return nil, address{}, err
	}
	var last error
	for range 3 { // another program may take the port between the look and the start
		at, err := h.settle()
		if err != nil {
			return nil, at, err
		}
		if err := h.writeInit(at.Password); err != nil {
			return nil, at, err
		}
		p, err := h.run(ctx, binary, at)
		if err == nil {
			return p, at, nil
		}
		last = err
	}
	return nil, address{}, last
}

// find looks where Debian puts servers, which is not on everybody's path.
func find(name, pkg string) (string, error) {
	if path, err := exec.LookPath(name); err == nil {
		return path, nil
	}
	for _, dir := range []string{"/usr/sbin", "/usr/bin", "/usr/local/sbin", "/usr/local/bin"} {
		if info, err := os.Stat(filepath.Join(dir, name)); err == nil && !info.IsDir() {
			return filepath.Join(dir, name), nil
		}
	}
	return "", fmt.Errorf("MariaDB's %s is not installed; on Debian: apt-get install %s (or set ARPLIN_DSN to a database of your own)", name, pkg)
}

// initialise creates the system tables once. They are made beside their place, in
// a folder of this try's own, and moved there when complete: a start that was cut
// short leaves nothing half done, and what it left running writes where nobody
// looks.
func (h home) initialise(ctx context.Context) error {
	if isDir(filepath.Join(h.data(), "mysql")) {
		return nil
	}
	if _, err := os.ReadDir(h.data()); !errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("%s is there and holds no whole database; put back what belongs there, or move it away", h.data())
	}
	installer, err := find("mariadb-install-db", "mariadb-server-core")
	if err != nil {
		return err
	}
	if old, err := filepath.Glob(h.in("new-*")); err == nil {
		for _, dir := range old {
			_ = os.RemoveAll(dir)
		}
	}
	fresh, err := os.MkdirTemp(h.dir, "new-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(fresh)
	tmp, data := filepath.Join(fresh, "tmp"), filepath.Join(fresh, "data")
	if err := os.Mkdir(tmp, 0o700); err != nil {
		return err
	}
	args := []string{"--no-defaults", "--datadir=" + data, "--skip-test-db", "--auth-root-authentication-method=socket"}
	cmd := exec.CommandContext(ctx, installer, append(args, asUser()...)...)
	cmd.Env = append(os.Environ(), "TMPDIR="+tmp)
	out, err := runTogether(cmd)
	if err != nil {
		return fmt.Errorf("the database folder could not be made: %w: %s", err, lastLines(string(out), 5))
	}
	return os.Rename(data, h.data())
}

// runTogether runs a command with its children as one group, which ends with this
// program.
func runTogether(cmd *exec.Cmd) ([]byte, error) {
	runtime.LockOSThread() // the parent that the signal is about is the thread
	defer runtime.UnlockOSThread()
	var out bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &out
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true, Pdeathsig: syscall.SIGKILL}
	cmd.Cancel = func() error { return syscall.Kill(-cmd.Process.Pid, syscall.SIGKILL) }
	cmd.WaitDelay = stopTimeout
	err := cmd.Run()
	return out.Bytes(), err
}

func isDir(path string) bool {
	info, err := os.Stat(path)
	return err == nil && info.IsDir()
}

// asUser: mariadbd refuses to run as root unless it is told to.
func asUser() []string {
	if os.Geteuid() == 0 {
		return []string{"--user=root"}
	}
	return nil
}

// writeInit has the server make Arplin's database and user at every start.
func (h home) writeInit(password string) error {
	statements := []string{
		"CREATE DATABASE IF NOT EXISTS " + database + " CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci",
		fmt.Sprintf("CREATE OR REPLACE USER '%s'@'127.0.0.1' IDENTIFIED BY '%s'", user, password),
		fmt.Sprintf("GRANT ALL ON %s.* TO '%s'@'127.0.0.1'", database, user),
	}
	return writeWhole(h.in("init.sql"), []byte(strings.Join(statements, ";\n")+";\n"))
}

func (h home) run(ctx context.Context, binary string, at address) (*process, error) {
	// Socket paths have a length limit that a deep folder would break.
	socket, err := os.MkdirTemp("", "arplin-db-")
	if err != nil {
		return nil, err
	}
	// Two servers that share a folder for temporary tables, as tests in parallel
	// would, take each other's tables away.
	if err := os.MkdirAll(h.in("tmp"), 0o700); err != nil {
		return nil, err
	}
	args := append([]string{
		"--no-defaults", h.datadir(), "--bind-address=127.0.0.1", "--port=" + strconv.Itoa(at.Port),
		"--socket=" + filepath.Join(socket, "db.sock"), "--pid-file=" + h.in("mariadb.pid"), "--init-file=" + h.in("init.sql"),
		"--log-error=" + h.log(), "--tmpdir=" + h.in("tmp"), "--skip-name-resolve", "--skip-log-bin", fmt.Sprintf("--innodb-buffer-pool-size=%dM", max(UsualMemory, h.memory)),
		"--innodb-log-file-size=16M", "--max-connections=100", "--default-time-zone=+00:00", "--performance-schema=OFF",
	}, asUser()...)
	p := &process{cmd: exec.Command(binary, args...), done: make(chan struct{}), socket: socket}
	// A group of its own, so that Ctrl-C in the terminal reaches the program
	// first, which then stops the server in order.
	p.cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	if h.tied {
		p.cmd.SysProcAttr.Pdeathsig = syscall.SIGKILL // one that is still starting can lose a milder one, and stay
	}
	begun := make(chan error)
	go func() {
		runtime.LockOSThread() // the parent whose death the signal is about is the thread: it lasts as long as the server
		err := p.cmd.Start()
		if begun <- err; err == nil {
			_ = p.cmd.Wait()
			close(p.done)
		}
	}()
	if err := <-begun; err != nil {
		return nil, fmt.Errorf("MariaDB does not start: %w", err)
	}
	if err := p.await(ctx, at.dsn()); err != nil {
		_ = p.end()
		return nil, fmt.Errorf("MariaDB does not answer: %w; its log is %s: %s", err, h.log(), tail(h.log()))
	}
	return p, nil
}

func (h home) datadir() string { return "--datadir=" + h.data() }

// await asks until the server answers Arplin's user, whom the init file makes
// last.
func (p *process) await(ctx context.Context, dsn string) error {
	ctx, cancel := context.WithTimeout(ctx, startTimeout)
	defer cancel()
	for {
		err := ping(ctx, dsn)
		if err == nil {
			return nil
		}
		select {
		case <-p.done:
			return errors.New("it ended at once")
		case <-ctx.Done():
			return err
		case <-time.After(50 * time.Millisecond):
		}
	}
}

func ping(ctx context.Context, dsn string) error {
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		return err
	}
	defer db.Close()
	return db.PingContext(ctx)
}

// end stops the server in order and waits for it.
func (p *process) end() error {
	if p.cmd == nil {
		return nil
	}
	defer os.RemoveAll(p.socket)
	_ = p.cmd.Process.Signal(syscall.SIGTERM)
	select {
	case <-p.done:
		return nil
	case <-time.After(stopTimeout):
		_ = p.cmd.Process.Kill()
		return errors.New("MariaDB did not stop in time and was ended")
	}
}

// endLeftovers stops servers that still run on our data folder, because the
// program before us was killed. Two servers on one folder would ruin it. One that
// is just starting may not hear the first time, so it is told again; one that does
// not hear at all is killed, which its log of changes is made for.
func (h home) endLeftovers() error {
	began := time.Now()
	for left := h.leftovers(); len(left) > 0; left = h.leftovers() {
		signal := syscall.SIGTERM
		switch waited := time.Since(began); {
		case waited > stopTimeout:
			return fmt.Errorf("a MariaDB of an earlier run (process %d) does not stop; end it and start again", left[0])
		case waited > stopTimeout/2:
			signal = syscall.SIGKILL
		}
		for _, pid := range left {
			_ = syscall.Kill(pid, signal)
		}
		time.Sleep(200 * time.Millisecond)
	}
	return nil
}

// leftovers looks through all processes: a server that was killed young has
// written its number nowhere yet.
func (h home) leftovers() (pids []int) {
	entries, err := os.ReadDir("/proc")
	if err != nil {
		return nil
	}
	for _, e := range entries {
		pid, err := strconv.Atoi(e.Name())
		if err != nil {
			continue
		}
		cmdline, err := os.ReadFile(filepath.Join("/proc", e.Name(), "cmdline"))
		if err == nil && strings.Contains(string(cmdline), "\x00"+h.datadir()+"\x00") {
			pids = append(pids, pid)
		}
	}
	return pids
}

func tail(path string) string {
	text, err := os.ReadFile(path)
	if err != nil {
		return ""
	}
	return lastLines(string(text), 3)
}

func lastLines(s string, n int) string {
	lines := strings.Split(strings.TrimSpace(s), "\n")
	return strings.Join(lines[max(0, len(lines)-n):], " / ")
}
