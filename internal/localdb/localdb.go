// Package localdb starts and stops a private MariaDB on loopback, from Debian's
// server binaries, for the demo and for tests. No system service is touched.
package localdb

import (
	"context"
	"crypto/rand"
	"database/sql"
	"encoding/hex"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"time"

	"github.com/go-sql-driver/mysql"
)

// Options say where and how the server runs.
type Options struct {
	// Dir holds the data, the password and the log; it is made when missing.
	Dir string
	// Fast gives up durability for speed: tests only.
	Fast bool
	// Flags are further flags of the server: tests only.
	Flags []string
}

// Server is a running private server. It is started again when it dies before
// Stop.
type Server struct {
	opt      Options
	socket   string
	port     int
	password string
	lock     *os.File

	mu       sync.Mutex
	cmd      *exec.Cmd
	stopping bool
	answered bool
	ended    chan struct{} // closed when the supervisor has finished
}

// User is the account of the program; it may make databases named like it.
const User = "nimbleanvil"

// Start brings the server up and waits until it answers. An orphan left by a
// killed program is stopped first; a folder in use by a living program is
// refused. The caller owns the server and must Stop it.
func Start(ctx context.Context, opt Options) (*Server, error) {
	dir, err := filepath.Abs(opt.Dir)
	if err != nil {
		return nil, err
	}
	opt.Dir = dir
	if err := os.MkdirAll(dir, 0o755); err != nil { //nolint:gosec // an unprivileged server must enter it
		return nil, err
	}
	s := &Server{opt: opt, ended: make(chan struct{})}
	if err := s.acquire(); err != nil {
		return nil, err
	}
	if err := s.prepare(ctx); err != nil {
		s.release()
		return nil, err
	}
	if err := s.launch(); err != nil {
		s.release()
		return nil, err
	}
	go s.supervise()
	if err := s.await(ctx); err != nil {
		s.Stop()
		return nil, fmt.Errorf("%w\n%s", err, s.logTail())
	}
	return s, nil
}

// acquire takes the folder's lock, which the system frees when the program dies
// in whatever way, and stops an orphaned server.
func (s *Server) acquire() error {
	f, err := os.OpenFile(filepath.Join(s.opt.Dir, "lock"), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return err
	}
	if err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		_ = f.Close()
		return fmt.Errorf("another program is using the database in %s", s.opt.Dir)
	}
	s.lock = f
	b, err := os.ReadFile(s.path("pid"))
	if err != nil {
		return nil
	}
	pid, err := strconv.Atoi(strings.TrimSpace(string(b)))
	if err != nil || !s.owns(pid) {
		return nil
	}
	slog.Info("stopping a database left behind", "pid", pid)
	_ = syscall.Kill(pid, syscall.SIGTERM)
	for range 600 {
		if !s.owns(pid) {
			return nil
		}
		time.Sleep(50 * time.Millisecond)
	}
	return fmt.Errorf("the database left behind (pid %d) does not stop", pid)
}

// owns tells whether a process is a server on this folder.
func (s *Server) owns(pid int) bool {
	b, err := os.ReadFile(fmt.Sprintf("/proc/%d/cmdline", pid))
	return err == nil && strings.Contains(string(b), "--datadir="+s.path("data"))
}

func (s *Server) release() { _ = s.lock.Close() }

func (s *Server) path(name string) string { return filepath.Join(s.opt.Dir, name) }

// prepare makes the data folder on the first start, the password, and the
// statements that create the account.
func (s *Server) prepare(ctx context.Context) error {
	secret := s.path("secret")
	if b, err := os.ReadFile(secret); err == nil {
		s.password = strings.TrimSpace(string(b))
	} else {
		raw := make([]byte, 16)
		if _, err := rand.Read(raw); err != nil {
			return err
		}
		s.password = hex.EncodeToString(raw)
		if err := os.WriteFile(secret, []byte(s.password+"\n"), 0o600); err != nil {
			return err
		}
	}
	if s.socket == "" {
		short, err := os.MkdirTemp("", "na") // a socket's path may have 107 bytes at the most
		if err != nil {
			return err
		}
		if err := s.give(short); err != nil {
			return err
		}
		s.socket = filepath.Join(short, "s")
	}
	init := fmt.Sprintf("CREATE USER IF NOT EXISTS %[1]s@'127.0.0.1' IDENTIFIED BY '%[2]s';\nGRANT ALL ON `%[1]s%%`.* TO %[1]s@'127.0.0.1';\nCREATE DATABASE IF NOT EXISTS %[1]s;\n", User, s.password)
	if err := os.WriteFile(s.path("init.sql"), []byte(init), 0o600); err != nil {
		return err
	}
	if err := s.give(s.path("init.sql")); err != nil {
		return err
	}
	// A server that starts removes what others of its kind left in the folder of
	// temporary files, also what they still use: each has a folder of its own.
	if err := os.MkdirAll(s.path("tmp"), 0o750); err != nil {
		return err
	}
	if err := s.give(s.path("tmp")); err != nil {
		return err
	}
	if _, err := os.Stat(s.path("data/mysql")); err == nil {
		return nil
	}
	if err := os.MkdirAll(s.path("data"), 0o750); err != nil {
		return err
	}
	if err := s.give(s.path("data")); err != nil {
		return err
	}
	me, err := user.Current()
	if err != nil {
		return err
	}
	args := append([]string{"--no-defaults", "--datadir=" + s.path("data"), "--tmpdir=" + s.path("tmp"), "--auth-root-authentication-method=socket",
		"--auth-root-socket-user=" + me.Username, "--skip-test-db"}, runAs()...)
	out, err := exec.CommandContext(ctx, program("mariadb-install-db"), args...).CombinedOutput() //nolint:gosec // fixed program
	if err != nil {
		// Nothing half made is left for the next start to trip over.
		_ = os.RemoveAll(s.path("data"))
		return fmt.Errorf("mariadb-install-db (Debian package mariadb-server-core): %w\n%s", err, out)
	}
	return nil
}

// unprivileged names the account that serves when the program runs as root.
func unprivileged() (*user.User, bool) {
	if os.Getuid() != 0 {
		return nil, false
	}
	for _, name := range []string{"mysql", "nobody"} {
		if u, err := user.Lookup(name); err == nil {
			return u, true
		}
	}
	return nil, false
}

func runAs() []string {
	if u, ok := unprivileged(); ok {
		return []string{"--user=" + u.Username}
	}
	return nil
}

// program finds a server binary; Debian keeps some where ordinary users do not
// look.
func program(name string) string {
	if path, err := exec.LookPath(name); err == nil {
		return path
	}
	return filepath.Join("/usr/sbin", name)
}

// Reachable tells whether the account that serves could enter a folder: as root
// the server runs as somebody unprivileged, who may not pass a closed parent such
// as root's home.
func Reachable(dir string) bool {
	if os.Getuid() != 0 {
		return true
	}
	dir, err := filepath.Abs(dir)
	if err != nil {
		return false
	}
	for ; ; dir = filepath.Dir(dir) {
		if i, err := os.Stat(dir); err == nil && i.Mode().Perm()&0o001 == 0 {
			return false
		}
		if dir == filepath.Dir(dir) {
			return true
		}
	}
}

// give hands a file or folder to the account that serves.
func (s *Server) give(path string) error {
	u, ok := unprivileged()
	if !ok {
		return nil
	}
	uid, err := strconv.Atoi(u.Uid)
	if err != nil {
		return err
	}
	return os.Chown(path, uid, -1)
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer func() { _ = l.Close() }()
	addr, ok := l.Addr().(*net.TCPAddr)
	if !ok {
		return 0, errors.New("no port")
	}
	return addr.Port, nil
}

func (s *Server) launch() error {
	s.mu.Lock()
	if !s.answered {
		// Until it has answered, each try takes a port anew: somebody may have taken
		// the last one between the look and the bind.
		p, err := freePort()
		if err != nil {
			s.mu.Unlock()
			return err
		}
		s.port = p
	}
	s.mu.Unlock()
	args := append([]string{"--no-defaults", "--datadir=" + s.path("data"), "--tmpdir=" + s.path("tmp"), "--socket=" + s.socket, "--pid-file=" + s.path("data/pid"),
		"--bind-address=127.0.0.1", "--port=" + strconv.Itoa(s.port), "--log-error=" + s.path("data/err.log"), "--skip-name-resolve",
		"--character-set-server=utf8mb4", "--collation-server=utf8mb4_unicode_520_ci", "--default-time-zone=+00:00",
		"--init-file=" + s.path("init.sql")}, runAs()...)
	if s.opt.Fast {
		args = append(args, "--innodb-flush-log-at-trx-commit=0", "--innodb-doublewrite=0", "--innodb-flush-method=nosync",
			"--innodb-log-file-size=64M", "--performance-schema=0", "--skip-log-bin")
	}
	cmd := exec.Command(program("mariadbd"), append(args, s.opt.Flags...)...) //nolint:gosec // fixed program
	// A group of its own: Ctrl-C reaches the program first, which drains and then
	// stops the server.
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	if err := cmd.Start(); err != nil {
		return fmt.Errorf("mariadbd (Debian package mariadb-server-core): %w", err)
	}
	s.mu.Lock()
	s.cmd = cmd
	s.mu.Unlock()
	return os.WriteFile(s.path("pid"), []byte(strconv.Itoa(cmd.Process.Pid)+"\n"), 0o600)
}

func (s *Server) supervise() {
	defer close(s.ended)
	for {
		s.mu.Lock()
		cmd := s.cmd
		s.mu.Unlock()
		err := cmd.Wait()
		s.mu.Lock()
		stopping := s.stopping
		s.mu.Unlock()
		if stopping {
			return
		}
		slog.Warn("the private database ended; starting it again", "error", err)
		time.Sleep(200 * time.Millisecond)
		if err := s.launch(); err != nil {
			slog.Error("the private database does not start", "error", err)
			return
		}
	}
}

func (s *Server) await(ctx context.Context) error {
	var err error
	for range 1200 {
		if err = s.ping(ctx); err == nil {
			s.mu.Lock()
			s.answered = true
			s.mu.Unlock()
			return nil
		}
		select {
		case <-s.ended:
			return errors.New("the private database does not start")
		case <-ctx.Done():
			return ctx.Err()
		case <-time.After(50 * time.Millisecond):
		}
	}
	return fmt.Errorf("the private database does not answer: %w", err)
}

func (s *Server) ping(ctx context.Context) error {
	db, err := sql.Open("mysql", s.DSN(User))
	if err != nil {
		return err
	}
	defer func() { _ = db.Close() }()
	return db.PingContext(ctx)
}

func (s *Server) logTail() string {
	b, _ := os.ReadFile(s.path("data/err.log"))
	if len(b) > 2000 {
		b = b[len(b)-2000:]
	}
	return string(b)
}

// Stop ends the server and waits until it is gone.
func (s *Server) Stop() {
	s.mu.Lock()
	s.stopping = true
	cmd := s.cmd
	s.mu.Unlock()
	_ = cmd.Process.Signal(syscall.SIGTERM)
	select {
	case <-s.ended:
	case <-time.After(30 * time.Second):
		_ = cmd.Process.Kill()
		<-s.ended
	}
	_ = os.Remove(s.path("pid"))
	_ = os.RemoveAll(filepath.Dir(s.socket))
	s.release()
}

// DSN gives the address of a database on the server.
func (s *Server) DSN(database string) string {
	s.mu.Lock()
	port := s.port
	s.mu.Unlock()
	c := mysql.NewConfig()
	c.User, c.Passwd, c.Net, c.Addr, c.DBName = User, s.password, "tcp", net.JoinHostPort("127.0.0.1", strconv.Itoa(port)), database
	return c.FormatDSN()
}

// Admin gives the address for whoever runs the server: the account that started
// it, over the socket only.
func (s *Server) Admin() (string, error) {
	me, err := user.Current()
	if err != nil {
		return "", err
	}
	c := mysql.NewConfig()
	c.User, c.Net, c.Addr = me.Username, "unix", s.socket
	return c.FormatDSN(), nil
}

// Fresh makes an empty database of a name of its own and gives its address.
func (s *Server) Fresh(ctx context.Context) (string, error) {
	raw := make([]byte, 6)
	if _, err := rand.Read(raw); err != nil {
		return "", err
	}
	name := User + "_" + hex.EncodeToString(raw)
	db, err := sql.Open("mysql", s.DSN(User))
	if err != nil {
		return "", err
	}
	defer func() { _ = db.Close() }()
	if _, err := db.ExecContext(ctx, "CREATE DATABASE `"+name+"`"); err != nil {
		return "", err
	}
	return s.DSN(name), nil
}
