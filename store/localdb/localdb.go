package localdb

import (
	"context"
	"crypto/rand"
	"database/sql"
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/go-sql-driver/mysql"
)

const (
	startTimeout = 60 * time.Second // a recovery after a crash may take long on a slow disk
	stopTimeout  = 20 * time.Second
	database     = "arplin"
	user         = "arplin"
)

// Server is a running MariaDB.
type Server struct {
	DSN    string // for store.Open
	cmd    *exec.Cmd
	done   chan struct{} // closed when the process has ended
	socket string        // folder of the socket, removed at the end
}

// Start makes the data folder if there is none, ends a server that an earlier
// run left on it, starts one on a free port and waits until it answers.
func Start(ctx context.Context, dir string) (*Server, error) {
	binary, err := find("mariadbd", "mariadb-server-core")
	if err != nil {
		return nil, err
	}
	dir, err = filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	data := filepath.Join(dir, "data")
	if err := endLeftover(dir, data); err != nil {
		return nil, err
	}
	if err := initialise(ctx, dir, data); err != nil {
		return nil, err
	}
	password, err := writeInitFile(dir)
	if err != nil {
		return nil, err
	}
	var last error
	for range 3 { // another program may take the port between the look and the start
		s, err := start(ctx, binary, dir, data, password)
		if err == nil {
			return s, nil
		}
		last = err
	}
	return nil, last
}

// Remove ends a server that an earlier run left and deletes its folder.
func Remove(dir string) error {
	dir, err := filepath.Abs(dir)
	if err != nil {
		return err
	}
	if err := endLeftover(dir, filepath.Join(dir, "data")); err != nil {
		return err
	}
	return os.RemoveAll(dir)
}

// find looks where Debian puts servers, which is not on everybody's path.
func find(name, pkg string) (string, error) {
	if path, err := exec.LookPath(name); err == nil {
		return path, nil
	}
	for _, dir := range []string{"/usr/sbin", "/usr/bin", "/usr/local/sbin", "/usr/local/bin"} {
		if path := filepath.Join(dir, name); isFile(path) {
			return path, nil
		}
	}
	return "", fmt.Errorf("MariaDB's %s is not installed; on Debian: apt-get install %s (or set ARPLIN_DSN to a database of your own)", name, pkg)
}

func isFile(path string) bool {
	info, err := os.Stat(path)
	return err == nil && !info.IsDir()
}

// initialise creates the system tables once. They are made beside their place
// and moved there when complete, so that a start that was cut short leaves
// nothing half done.
func initialise(ctx context.Context, dir, data string) error {
	if isDir(filepath.Join(data, "mysql")) {
		return nil
	}
	installer, err := find("mariadb-install-db", "mariadb-server-core")
	if err != nil {
		return err
	}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return fmt.Errorf("the folder for the database: %w", err)
	}
	fresh := data + ".new"
	if err := os.RemoveAll(fresh); err != nil {
		return err
	}
	tmp, err := ownTemp(dir)
	if err != nil {
		return err
	}
	args := []string{"--no-defaults", "--datadir=" + fresh, "--skip-test-db", "--auth-root-authentication-method=socket"}
	cmd := exec.CommandContext(ctx, installer, append(args, asUser()...)...)
	cmd.Env = append(os.Environ(), "TMPDIR="+tmp)
	out, err := cmd.CombinedOutput()
	if err != nil {
		return fmt.Errorf("the database folder could not be made: %w: %s", err, lastLines(string(out), 5))
	}
	return os.Rename(fresh, data)
}

// ownTemp is a folder for temporary tables. Two servers that share one, as
// tests in parallel would, take each other's tables away.
func ownTemp(dir string) (string, error) {
	tmp := filepath.Join(dir, "tmp")
	return tmp, os.MkdirAll(tmp, 0o700)
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

// writeInitFile has the server make Arplin's database and user at every start,
// with a password of that start.
func writeInitFile(dir string) (password string, err error) {
	password = rand.Text()
	statements := []string{
		"CREATE DATABASE IF NOT EXISTS " + database + " CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci",
		fmt.Sprintf("CREATE OR REPLACE USER '%s'@'127.0.0.1' IDENTIFIED BY '%s'", user, password),
		fmt.Sprintf("GRANT ALL ON %s.* TO '%s'@'127.0.0.1'", database, user),
	}
	return password, os.WriteFile(filepath.Join(dir, "init.sql"), []byte(strings.Join(statements, ";\n")+";\n"), 0o600)
}

func start(ctx context.Context, binary, dir, data, password string) (*Server, error) {
	port, err := freePort()
	if err != nil {
		return nil, err
	}
	// Socket paths have a length limit that a deep folder would break.
	socket, err := os.MkdirTemp("", "arplin-db-")
	if err != nil {
		return nil, err
	}
	tmp, err := ownTemp(dir)
	if err != nil {
		return nil, err
	}
	logPath := filepath.Join(dir, "mariadb.log")
	args := append([]string{
		"--no-defaults", "--datadir=" + data, "--bind-address=127.0.0.1", "--port=" + strconv.Itoa(port),
		"--socket=" + filepath.Join(socket, "db.sock"), "--pid-file=" + pidFile(dir), "--init-file=" + filepath.Join(dir, "init.sql"),
		"--log-error=" + logPath, "--tmpdir=" + tmp, "--skip-name-resolve", "--skip-log-bin", "--innodb-buffer-pool-size=64M",
		"--innodb-log-file-size=16M", "--max-connections=100", "--default-time-zone=+00:00", "--performance-schema=OFF",
	}, asUser()...)
	s := &Server{done: make(chan struct{}), socket: socket}
	s.cmd = exec.Command(binary, args...)
	// A group of its own, so that Ctrl-C in the terminal reaches the program
	// first, which then stops the server in order.
	s.cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	if err := s.cmd.Start(); err != nil {
		return nil, fmt.Errorf("MariaDB does not start: %w", err)
	}
	go func() {
		_ = s.cmd.Wait()
		close(s.done)
	}()
	s.DSN = dsn(port, password)
	if err := s.await(ctx); err != nil {
		_ = s.Stop()
		return nil, fmt.Errorf("MariaDB does not answer: %w; its log is %s: %s", err, logPath, tail(logPath))
	}
	return s, nil
}

func dsn(port int, password string) string {
	cfg := mysql.NewConfig()
	cfg.User, cfg.Passwd, cfg.DBName = user, password, database
	cfg.Net, cfg.Addr = "tcp", net.JoinHostPort("127.0.0.1", strconv.Itoa(port))
	return cfg.FormatDSN()
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, fmt.Errorf("no free port on loopback: %w", err)
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

// await pings until the server answers with Arplin's user, which the init file
// makes last.
func (s *Server) await(ctx context.Context) error {
	ctx, cancel := context.WithTimeout(ctx, startTimeout)
	defer cancel()
	db, err := sql.Open("mysql", s.DSN)
	if err != nil {
		return err
	}
	defer db.Close()
	for {
		err := db.PingContext(ctx)
		if err == nil {
			return nil
		}
		select {
		case <-s.done:
			return errors.New("it ended at once")
		case <-ctx.Done():
			return err
		case <-time.After(50 * time.Millisecond):
		}
	}
}

// Done is closed when the server has ended, by Stop or by itself.
func (s *Server) Done() <-chan struct{} { return s.done }

// Stop ends the server in order and waits for it.
func (s *Server) Stop() error {
	defer os.RemoveAll(s.socket)
	_ = s.cmd.Process.Signal(syscall.SIGTERM)
	select {
	case <-s.done:
		return nil
	case <-time.After(stopTimeout):
		_ = s.cmd.Process.Kill()
		return errors.New("MariaDB did not stop in time and was ended")
	}
}

func pidFile(dir string) string { return filepath.Join(dir, "mariadb.pid") }

// endLeftover stops a server that still runs on our data folder, because the
// program before us was killed. Two servers on one folder would ruin it.
func endLeftover(dir, data string) error {
	text, err := os.ReadFile(pidFile(dir))
	if err != nil {
		return nil // none was left
	}
	pid, err := strconv.Atoi(strings.TrimSpace(string(text)))
	if err != nil || !isOurs(pid, data) {
		return nil
	}
	process, err := os.FindProcess(pid)
	if err != nil {
		return nil
	}
	_ = process.Signal(syscall.SIGTERM)
	for deadline := time.Now().Add(stopTimeout); time.Now().Before(deadline); time.Sleep(50 * time.Millisecond) {
		if !isOurs(pid, data) {
			return nil
		}
	}
	return fmt.Errorf("a MariaDB of an earlier run (process %d) does not stop; end it and start again", pid)
}

// isOurs looks whether the process is a MariaDB on our data folder; the number
// alone may long belong to another program.
func isOurs(pid int, data string) bool {
	cmdline, err := os.ReadFile(fmt.Sprintf("/proc/%d/cmdline", pid))
	return err == nil && strings.Contains(string(cmdline), "--datadir="+data+"\x00")
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
