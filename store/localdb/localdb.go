package localdb

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"os"
	"path/filepath"
	"strconv"
	"sync"
	"time"

	"github.com/go-sql-driver/mysql"
)

const (
	startTimeout = 60 * time.Second // a recovery after a crash may take long on a slow disk
	stopTimeout  = 20 * time.Second
	database     = "arplin"
	user         = "arplin"
)

// pauses before a server that has ended is started again; after the last, no more.
var pauses = []time.Duration{
	100 * time.Millisecond, 500 * time.Millisecond, time.Second, 2 * time.Second, 5 * time.Second, 10 * time.Second, 30 * time.Second,
	time.Minute, time.Minute, time.Minute, time.Minute, time.Minute, time.Minute, time.Minute, time.Minute, time.Minute, time.Minute,
}

// Server is a MariaDB that this program started and watches, or one that another
// copy of it has on the same folder and that this one has joined.
type Server struct {
	DSN string // for store.Open

	home    home
	lock    *os.File // held by the copy that runs the server; nil for one that joined
	mu      sync.Mutex
	process *process
	says    string        // why it does not answer; empty while it does
	stop    chan struct{} // closed by Stop
	ended   chan struct{} // closed when nothing watches any more
}

// address is how copies of the program reach the server of a folder. It lasts as
// long as the folder: a server that is started again is where it was.
type address struct {
	Port     int    `json:"port"`
	Password string `json:"password"`
}

// Start starts a server on a folder, which is made if there is none, or joins the
// one that another copy of the program runs there. Only a server without its
// program is ended.
// It keeps so many MB of its tables in memory, where that is said.
func Start(ctx context.Context, dir string, memory ...MB) (*Server, error) {
	return start(ctx, dir, false, memory...)
}

// MB is memory in megabytes.
type MB int

// UsualMemory is enough for a school: what it reads of a week.
const UsualMemory MB = 64

// StartTied starts one that ends with the program even when that is killed: for tests, after which
// nobody comes to join it or to end it.
func StartTied(ctx context.Context, dir string, memory ...MB) (*Server, error) {
	return start(ctx, dir, true, memory...)
}

func start(ctx context.Context, dir string, tied bool, memory ...MB) (*Server, error) {
	h, err := newHome(dir)
	if err != nil {
		return nil, err
	}
	h.tied = tied
	for _, mb := range memory {
		h.memory = mb
	}
	s := &Server{home: h, stop: make(chan struct{}), ended: make(chan struct{})}
	for began := time.Now(); ; {
		if s.lock, err = h.tryLock(); err != nil {
			return nil, h.orFull(err)
		}
		if s.lock != nil {
			return s, h.orFull(s.own(ctx))
		}
		if at, err := h.address(); err == nil && ping(ctx, at.dsn()) == nil {
			s.DSN = at.dsn()
			go s.follow()
			return s, nil
		}
		if time.Since(began) > startTimeout {
			return nil, h.orFull(fmt.Errorf("another Arplin has the folder %s, and its database does not answer; end that one first", h.dir))
		}
		select {
		case <-ctx.Done():
			return nil, ctx.Err()
		case <-time.After(100 * time.Millisecond):
		}
	}
}

// own starts the server of a folder whose lock is held, and watches it.
func (s *Server) own(ctx context.Context) error {
	p, at, err := s.home.start(ctx)
	if err != nil {
		s.unlock()
		return err
	}
	s.mu.Lock()
	s.process, s.DSN = p, at.dsn()
	s.mu.Unlock()
	go s.watch()
	return nil
}

func (s *Server) unlock() {
	if s.lock != nil {
		_ = s.lock.Close() // which frees it
		s.lock = nil
	}
}

// watch starts the server again when it ends by itself, with growing pauses.
func (s *Server) watch() {
	defer close(s.ended)
	for {
		select {
		case <-s.stop:
			return
		case <-s.current().done:
		}
		select {
		case <-s.stop:
			return
		default:
		}
		slog.Error("the database has ended", "log", s.home.log())
		if !s.restart() {
			return
		}
		slog.Info("the database runs again")
		s.say("")
	}
}

func (s *Server) current() *process {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.process
}

func (s *Server) say(says string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.says = says
}

// Says is a sentence about a server that does not answer; empty while it does.
func (s *Server) Says() string {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.says
}

func (s *Server) restart() bool {
	for n, pause := range pauses {
		s.say(fmt.Sprintf("Arplin’s own database has ended and is being started again (try %d of %d). Wait a moment and try again.", n+1, len(pauses)))
		select {
		case <-s.stop:
			return false
		case <-time.After(pause):
		}
		ctx, cancel := context.WithTimeout(context.Background(), startTimeout)
		p, _, err := s.home.start(ctx)
		cancel()
		if err == nil {
			s.mu.Lock()
			s.process = p
			s.mu.Unlock()
			return true
		}
		slog.Error("the database does not start", "error", err)
	}
	s.say("Arplin’s own database does not start any more. Whoever runs Arplin finds the reason in the database’s log, mends it, and starts Arplin again.")
	slog.Error("the database is not tried any more; start Arplin again", "log", s.home.log())
	return false
}

// follow waits in a copy that has joined until the one that runs the server has
// gone, and takes its place.
func (s *Server) follow() {
	for {
		select {
		case <-s.stop:
			close(s.ended)
			return
		case <-time.After(time.Second):
		}
		lock, err := s.home.tryLock()
		if err != nil || lock == nil {
			continue
		}
		s.lock = lock
		s.say("The Arplin that had started the database has ended; this one takes it over. Wait a moment and try again.")
		slog.Info("taking the database over")
		gone := make(chan struct{})
		close(gone)
		s.mu.Lock()
		s.process = &process{done: gone}
		s.mu.Unlock()
		s.watch()
		return
	}
}

// Stop ends the server in order and waits for it. One that was joined goes on.
func (s *Server) Stop() error {
	close(s.stop)
	<-s.ended
	defer s.unlock()
	if p := s.current(); p != nil {
		return p.end()
	}
	return nil
}

// Remove deletes a folder with its database. One that is in use is left alone.
func Remove(dir string) error {
	h, err := newHome(dir)
	if err != nil {
		return err
	}
	lock, err := h.tryLock()
	if err != nil {
		return err
	}
	if lock == nil {
		return fmt.Errorf("another Arplin runs on the folder %s; end that one first", h.dir)
	}
	defer lock.Close()
	if err := h.endLeftovers(); err != nil {
		return err
	}
	return os.RemoveAll(h.dir)
}

func (a address) dsn() string {
	cfg := mysql.NewConfig()
	cfg.User, cfg.Passwd, cfg.DBName = user, a.Password, database
	cfg.Net, cfg.Addr = "tcp", net.JoinHostPort("127.0.0.1", strconv.Itoa(a.Port))
	return cfg.FormatDSN()
}

// address reads where the folder's server is.
func (h home) address() (a address, err error) {
	text, err := os.ReadFile(h.in("server.json"))
	if err != nil {
		return a, err
	}
	if err := json.Unmarshal(text, &a); err != nil {
		return a, fmt.Errorf("%s: %w", h.in("server.json"), err)
	}
	if a.Port == 0 || a.Password == "" {
		return a, errors.New("the address is not whole")
	}
	return a, nil
}

// settle keeps the address of before, or another where its port is taken, and
// writes it down, for Arplin and for MariaDB's own client.
func (h home) settle() (address, error) {
	at, err := h.address()
	if err != nil {
		at = address{Password: rand.Text()}
	}
	if at.Port, err = freePort(at.Port); err != nil {
		return at, err
	}
	text, err := json.Marshal(at)
	if err != nil {
		return at, err
	}
	if err := writeWhole(h.in("server.json"), text); err != nil {
		return at, err
	}
	client := fmt.Sprintf("[client]\nprotocol=tcp\nhost=127.0.0.1\nport=%d\nuser=%s\npassword=%s\n\n[mysql]\ndatabase=%s\n", at.Port, user, at.Password, database)
	return at, writeWhole(h.in("client.cnf"), []byte(client))
}

// writeWhole writes a file that nobody sees half done.
func writeWhole(path string, text []byte) error {
	if err := os.WriteFile(path+".new", text, 0o600); err != nil {
		return err
	}
	return os.Rename(path+".new", path)
}

// freePort is the wanted port when nobody has it, else another.
func freePort(wanted int) (int, error) {
	l, err := net.Listen("tcp", net.JoinHostPort("127.0.0.1", strconv.Itoa(wanted)))
	if err != nil && wanted != 0 {
		l, err = net.Listen("tcp", "127.0.0.1:0")
	}
	if err != nil {
		return 0, fmt.Errorf("no free port on loopback: %w", err)
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

// home is the folder of a server.
type home struct {
	dir    string
	tied   bool // the server ends with the program, however that ends
	memory MB   // of its tables
}

func newHome(dir string) (home, error) {
	dir, err := filepath.Abs(dir)
	if err != nil {
		return home{}, err
	}
	return home{dir: dir}, nil
}

func (h home) in(name string) string { return filepath.Join(h.dir, name) }
func (h home) data() string          { return h.in("data") }
func (h home) log() string           { return h.in("mariadb.log") }
