package main

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/go-sql-driver/mysql"
)

// node is a MariaDB of a Galera cluster on loopback. Its four ports are its own,
// as they would be 3306, 4567, 4568 and 4444 on a machine of its own.
type node struct {
	dir                  string
	sql, group, ist, sst int
	cmd                  *exec.Cmd
	ended                chan struct{}
}

// cluster is three nodes.
type cluster struct {
	nodes []*node
	tools string // what the Debian packages hold, unpacked
	who   *syscall.Credential
}

const clusterPassword = "of-the-cluster"

// newCluster makes the folders of three nodes. The daemon must not run as root: then
// it is nobody.
func newCluster(dir string) (*cluster, error) {
	tools, err := filepath.Abs("var/cluster-tools")
	if err != nil {
		return nil, err
	}
	c := &cluster{tools: tools}
	if os.Geteuid() == 0 {
		nobody, err := user.Lookup("nobody")
		if err != nil {
			return nil, err
		}
		uid, errUID := strconv.Atoi(nobody.Uid)
		gid, errGID := strconv.Atoi(nobody.Gid)
		if err := errors.Join(errUID, errGID); err != nil {
			return nil, err
		}
		c.who = &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)} //nolint:gosec // ids are small
	}
	for i := range 3 {
		n := &node{dir: filepath.Join(dir, fmt.Sprint("node", i+1))}
		for _, port := range []*int{&n.sql, &n.group, &n.ist, &n.sst} {
			if *port, err = freePort(); err != nil {
				return nil, err
			}
		}
		for _, sub := range []string{"", "tmp"} {
			if err := os.MkdirAll(filepath.Join(n.dir, sub), 0o755); err != nil {
				return nil, err
			}
			if c.who != nil {
				if err := os.Chown(filepath.Join(n.dir, sub), int(c.who.Uid), int(c.who.Gid)); err != nil {
					return nil, err
				}
			}
		}
		out, err := c.command(n, "mariadb-install-db", "--no-defaults", "--datadir="+filepath.Join(n.dir, "data"), "--skip-test-db", "--auth-root-authentication-method=socket").CombinedOutput()
		if err != nil {
			return nil, fmt.Errorf("a node's folder: %w: %s", err, out)
		}
		c.nodes = append(c.nodes, n)
	}
	init := fmt.Sprintf("CREATE DATABASE IF NOT EXISTS arplin CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;\nCREATE OR REPLACE USER 'arplin'@'127.0.0.1' IDENTIFIED BY '%s';\nGRANT ALL ON arplin.* TO 'arplin'@'127.0.0.1';\n", clusterPassword)
	if err := os.WriteFile(filepath.Join(c.nodes[0].dir, "init.sql"), []byte(init), 0o644); err != nil { //nolint:gosec // nobody reads it
		return nil, err
	}
	if err := c.start(0, true); err != nil {
		return nil, err
	}
	for i := 1; i < 3; i++ {
		if err := c.start(i, false); err != nil {
			return nil, err
		}
	}
	return c, nil
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

// command runs a program of the packages as the cluster's user, with the scripts
// on its path.
func (c *cluster) command(n *node, name string, args ...string) *exec.Cmd {
	path := filepath.Join(c.tools, "usr/bin") + ":" + filepath.Join(c.tools, "usr/sbin") + ":/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin"
	full := name
	for _, dir := range strings.Split(path, ":") {
		if _, err := os.Stat(filepath.Join(dir, name)); err == nil {
			full = filepath.Join(dir, name)
			break
		}
	}
	cmd := exec.Command(full, args...)
	cmd.Env = []string{"PATH=" + path, "TMPDIR=" + filepath.Join(n.dir, "tmp"), "HOME=" + n.dir}
	cmd.Dir = n.dir
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true, Credential: c.who}
	return cmd
}

func (c *cluster) members() string {
	var list []string
	for _, n := range c.nodes {
		list = append(list, fmt.Sprintf("127.0.0.1:%d", n.group))
	}
	return strings.Join(list, ",")
}

// start starts a node; the first one of all begins the cluster, the others join it.
func (c *cluster) start(i int, first bool) error {
	n := c.nodes[i]
	args := []string{
		"--no-defaults", "--datadir=" + filepath.Join(n.dir, "data"), "--bind-address=127.0.0.1", "--port=" + strconv.Itoa(n.sql),
		"--socket=" + filepath.Join(n.dir, "db.sock"), "--pid-file=" + filepath.Join(n.dir, "mariadb.pid"), "--log-error=" + filepath.Join(n.dir, "mariadb.log"),
		"--tmpdir=" + filepath.Join(n.dir, "tmp"), "--skip-name-resolve", "--innodb-buffer-pool-size=64M", "--max-connections=100", "--default-time-zone=+00:00",
		"--performance-schema=OFF", "--binlog-format=ROW", "--innodb-autoinc-lock-mode=2",
		"--wsrep-on=ON", "--wsrep-provider=" + filepath.Join(c.tools, "usr/lib/galera/libgalera_smm.so"), "--wsrep-cluster-name=arplin",
		"--wsrep-cluster-address=gcomm://" + c.members(), "--wsrep-node-name=" + filepath.Base(n.dir), fmt.Sprintf("--wsrep-node-address=127.0.0.1:%d", n.group),
		"--wsrep-sst-method=rsync", fmt.Sprintf("--wsrep-sst-receive-address=127.0.0.1:%d", n.sst), "--wsrep-slave-threads=2",
		fmt.Sprintf("--wsrep-provider-options=base_port=%d;gmcast.listen_addr=tcp://127.0.0.1:%d;ist.recv_addr=127.0.0.1:%d;gcache.size=64M;evs.keepalive_period=PT0.5S;evs.suspect_timeout=PT2S;evs.inactive_timeout=PT4S;evs.inactive_check_period=PT0.5S", n.group, n.group, n.ist),
	}
	if first {
		args = append(args, "--wsrep-new-cluster", "--init-file="+filepath.Join(n.dir, "init.sql"))
	}
	n.cmd, n.ended = c.command(n, "mariadbd", args...), make(chan struct{})
	if err := n.cmd.Start(); err != nil {
		return err
	}
	go func() {
		_ = n.cmd.Wait()
		close(n.ended)
	}()
	if err := n.await(); err != nil {
		text, _ := os.ReadFile(filepath.Join(n.dir, "mariadb.log"))
		return fmt.Errorf("node %d: %w\n%s", i+1, err, text[max(0, len(text)-3000):])
	}
	return nil
}

func (n *node) dsn() string {
	cfg := mysql.NewConfig()
	cfg.User, cfg.Passwd, cfg.DBName = "arplin", clusterPassword, "arplin"
	cfg.Net, cfg.Addr = "tcp", fmt.Sprintf("127.0.0.1:%d", n.sql)
	cfg.Timeout, cfg.ReadTimeout = 2*time.Second, 10*time.Second
	return cfg.FormatDSN()
}

// await waits until the node has all that the others have.
func (n *node) await() error {
	db, err := sql.Open("mysql", n.dsn())
	if err != nil {
		return err
	}
	defer db.Close()
	last := errors.New("nothing")
	for began := time.Now(); time.Since(began) < 90*time.Second; time.Sleep(200 * time.Millisecond) {
		select {
		case <-n.ended:
			return errors.New("it ended at once")
		default:
		}
		var name, state string
		if last = db.QueryRow("SHOW STATUS LIKE 'wsrep_local_state_comment'").Scan(&name, &state); last == nil && state == "Synced" {
			return nil
		}
	}
	return fmt.Errorf("it does not come up: %w", last)
}

func (n *node) signal(s syscall.Signal) { _ = syscall.Kill(n.cmd.Process.Pid, s) }

// kill ends the process of a node at once. It is no power cut: what the machine has in its page
// cache stays.
func (n *node) kill() {
	n.signal(syscall.SIGKILL)
	<-n.ended
}

func (c *cluster) stop() {
	for _, n := range c.nodes {
		if n.cmd == nil || n.ended == nil {
			continue
		}
		n.signal(syscall.SIGCONT)
		n.signal(syscall.SIGTERM)
		select {
		case <-n.ended:
		case <-time.After(15 * time.Second):
			n.signal(syscall.SIGKILL)
		}
	}
}

// dsnFrom names all nodes for the program, beginning with one.
func (c *cluster) dsnFrom(first int) string {
	var list []string
	for i := range c.nodes {
		list = append(list, fmt.Sprintf("127.0.0.1:%d", c.nodes[(first+i)%len(c.nodes)].sql))
	}
	return fmt.Sprintf("arplin:%s@tcp(%s)/arplin", clusterPassword, strings.Join(list, ","))
}

// proxy starts HAProxy before the copies.
func proxy(ctx context.Context, dir string, copies []*copyOf) (address string, stop func(), err error) {
	if address, err = freeAddress(); err != nil {
		return "", nil, err
	}
	var b strings.Builder
	fmt.Fprintf(&b, "global\n  maxconn 500\ndefaults\n  mode http\n  timeout connect 1s\n  timeout client 30s\n  timeout server 20s\n  retries 3\n  option redispatch\n  option forwardfor\nfrontend pages\n  bind %s\n  default_backend copies\nbackend copies\n  balance roundrobin\n  option httpchk HEAD /healthz\n", address)
	for i, c := range copies {
		fmt.Fprintf(&b, "  server copy%d %s check inter 500ms fall 2 rise 1\n", i+1, c.address)
	}
	path := filepath.Join(dir, "haproxy.cfg")
	if err := os.WriteFile(path, []byte(b.String()), 0o600); err != nil {
		return "", nil, err
	}
	binary, err := exec.LookPath("haproxy")
	if err != nil {
		binary = "/usr/sbin/haproxy"
	}
	cmd := exec.CommandContext(ctx, binary, "-db", "-q", "-f", path)
	log, err := os.Create(filepath.Join(dir, "haproxy.log"))
	if err != nil {
		return "", nil, err
	}
	cmd.Stdout, cmd.Stderr = log, log
	if err := cmd.Start(); err != nil {
		return "", nil, fmt.Errorf("haproxy: %w", err)
	}
	return address, func() { _ = cmd.Process.Kill(); _ = cmd.Wait(); _ = log.Close() }, nil
}
