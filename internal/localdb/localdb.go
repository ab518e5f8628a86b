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
	"unicode"

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
	cmd      *exec.Cmd // nil while none runs
	stopping bool
	answered bool
	well     bool          // it has answered since it was last started
	stop     chan struct{} // closed when the server is told to stop
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
	// The server's own scripts take a path apart at blanks, and as root they give its
	// parts, which are other folders, to another account.
	if strings.ContainsFunc(
		dir,
		func(r rune) bool { return unicode.IsSpace(r) || strings.ContainsRune(`'"\$*?[`+"`", r) },
	) {
		return nil, fmt.Errorf("the folder of the database cannot have blanks, quotes or wildcards in its name: %q",
			dir)
	}
	opt.Dir = dir
	if err := os.MkdirAll(dir, 0o755); err != nil { // an unprivileged server must enter it
		return nil, err
	}
	s := &Server{opt: opt, stop: make(chan struct{}), ended: make(chan struct{})}
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
	// It holds the password, and has been read.
	if err := os.Remove(s.path("init.sql")); err != nil {
		s.Stop()
		return nil, err
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
	if err := s.stopLeftBehind(); err != nil {
		s.release()
		return err
	}
	return nil
}

// stopLeftBehind stops what a killed program left running on the folder: its server, or
// the installation of one.
func (s *Server) stopLeftBehind() error {
	for try := range 600 {
		left := s.leftBehind()
		if len(left) == 0 {
			return nil
		}
		if try == 0 {
			slog.Info("stopping a database left behind", "pids", left)
		}
		for _, pid := range left {
			switch {
			case try%10 == 0 && try < 400:
				_ = syscall.Kill(pid, syscall.SIGTERM)
			case try == 400: // 20 s: it does not mean to
				_ = syscall.Kill(pid, syscall.SIGKILL)
			}
		}
		time.Sleep(50 * time.Millisecond)
	}
	return fmt.Errorf("the database left behind in %s does not stop", s.opt.Dir)
}

// leftBehind lists the processes that work on the folder.
func (s *Server) leftBehind() []int {
	var out []int
	all, _ := filepath.Glob("/proc/[0-9]*/cmdline")
	for _, path := range all {
		b, err := os.ReadFile(path)
		if err != nil {
			continue
		}
		for _, arg := range strings.Split(string(b), "\x00") {
			if arg == "--datadir="+s.path("data") || arg == "--datadir="+s.path("data.new") {
				if pid, err := strconv.Atoi(filepath.Base(filepath.Dir(path))); err == nil {
					out = append(out, pid)
				}
				break
			}
		}
	}
	return out
}

func (s *Server) release() { _ = s.lock.Close() }

func (s *Server) path(name string) string { return filepath.Join(s.opt.Dir, name) }

// prepare makes the data folder on the first start, the password, and a folder for the
// socket.
func (s *Server) prepare(ctx context.Context) error {
	if err := s.secret(); err != nil {
		return err
	}
	if err := s.socketFolder(); err != nil {
		return err
	}
	// A server that starts removes what others of its kind left in the folder of
	// temporary files, also what they still use: each has a folder of its own.
	if err := s.folder("tmp"); err != nil {
		return err
	}
	if _, err := os.Stat(s.path("data/mysql")); err == nil {
		return nil
	}
	if _, err := os.Stat(s.path("data/" + User)); err == nil {
		return fmt.Errorf(
			"the data folder %s has databases and no accounts: put it aside, or restore a backup into a new one",
			s.path("data"),
		)
	}
	// What is there was never finished, by a program that did not install beside.
	if err := os.RemoveAll(s.path("data")); err != nil {
		return err
	}
	return s.install(ctx)
}

// secret reads the account's password, or makes one: the server is told it at every start.
func (s *Server) secret() error {
	if b, err := os.ReadFile(s.path("secret")); err == nil {
		if s.password = strings.TrimSpace(string(b)); len(s.password) == 32 {
			return nil // what a power cut cut short is made anew
		}
	}
	raw := make([]byte, 16)
	if _, err := rand.Read(raw); err != nil {
		return err
	}
	s.password = hex.EncodeToString(raw)
	return s.write("secret", s.password+"\n")
}

// write makes a small file of the folder whole or not at all.
func (s *Server) write(name, text string) error {
	f, err := os.OpenFile(s.path(name+".new"), os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	_, err = f.WriteString(text)
	if err = errors.Join(err, f.Sync(), f.Close()); err != nil {
		return err
	}
	return os.Rename(s.path(name+".new"), s.path(name))
}

// socketFolder makes a short folder for the socket, whose path may have 107 bytes at the
// most, and takes away the one of a program that was killed.
func (s *Server) socketFolder() error {
	short := filepath.Join(os.TempDir(), "na")
	if b, err := os.ReadFile(s.path("socket")); err == nil && strings.HasPrefix(string(b), short) {
		_ = os.RemoveAll(string(b))
	}
	dir, err := os.MkdirTemp("", "na")
	if err != nil {
		return err
	}
	if err := errors.Join(s.give(dir), s.write("socket", dir)); err != nil {
		return err
	}
	s.socket = filepath.Join(dir, "s")
	return nil
}

func (s *Server) folder(name string) error {
	return errors.Join(os.MkdirAll(s.path(name), 0o750), s.give(s.path(name)))
}

// install makes the data folder beside and renames it when it is done and on disk: a
// folder of the name is whole, whenever the power was cut.
func (s *Server) install(ctx context.Context) error {
	if err := errors.Join(os.RemoveAll(s.path("data.new")), s.folder("data.new")); err != nil {
		return err
	}
	me, err := user.Current()
	if err != nil {
		return err
	}
	args := append(
		[]string{
			"--no-defaults",
			"--datadir=" + s.path("data.new"),
			"--tmpdir=" + s.path("tmp"),
			"--auth-root-authentication-method=socket",
			"--auth-root-socket-user=" + me.Username,
			"--skip-test-db",
		},
		runAs()...)
	out, err := exec.CommandContext(ctx, program("mariadb-install-db"), args...).
		CombinedOutput()
		// fixed program
	if err != nil {
		_ = os.RemoveAll(s.path("data.new"))
		return fmt.Errorf("mariadb-install-db (Debian package mariadb-server-core): %w\n%s", err, out)
	}
	if !s.opt.Fast {
		syscall.Sync()
	}
	return os.Rename(s.path("data.new"), s.path("data"))
}

// startFile writes what the server does at its start: it makes the account, and gives it
// the password of the secret file, which may be new.
func (s *Server) startFile() error {
	text := fmt.Sprintf(
		"CREATE USER IF NOT EXISTS %[1]s@'127.0.0.1' IDENTIFIED BY '%[2]s';\nALTER USER %[1]s@'127.0.0.1' IDENTIFIED BY '%[2]s';\n"+
			"GRANT ALL ON `%[1]s%%`.* TO %[1]s@'127.0.0.1';\nCREATE DATABASE IF NOT EXISTS %[1]s;\n",
		User,
		s.password,
	)
	return errors.Join(s.write("init.sql", text), s.give(s.path("init.sql")))
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

// errStopping ends the supervision.
var errStopping = errors.New("told to stop")

func (s *Server) launch() error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.stopping {
		return errStopping
	}
	if !s.answered {
		// Until it has answered, each try takes a port anew: somebody may have taken
		// the last one between the look and the bind.
		p, err := freePort()
		if err != nil {
			return err
		}
		s.port = p
	}
	if err := s.startFile(); err != nil {
		return err
	}
	args := append(
		[]string{
			"--no-defaults",
			"--datadir=" + s.path("data"),
			"--tmpdir=" + s.path("tmp"),
			"--socket=" + s.socket,
			"--pid-file=" + s.path("data/pid"),
			"--bind-address=127.0.0.1",
			"--port=" + strconv.Itoa(s.port),
			"--log-error=" + s.path("data/err.log"),
			"--skip-name-resolve",
			"--character-set-server=utf8mb4",
			"--collation-server=utf8mb4_unicode_520_ci",
			"--default-time-zone=+00:00",
			"--init-file=" + s.path("init.sql"),
		},
		runAs()...)
	if s.opt.Fast {
		args = append(args, "--innodb-flush-log-at-trx-commit=0", "--innodb-doublewrite=0",
			"--innodb-flush-method=nosync", "--innodb-log-file-size=64M", "--performance-schema=0", "--skip-log-bin")
	}
	cmd := exec.Command(program("mariadbd"), append(args, s.opt.Flags...)...) // fixed program
	// A group of its own: Ctrl-C reaches the program first, which drains and then
	// stops the server.
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	if err := cmd.Start(); err != nil {
		return fmt.Errorf("mariadbd (Debian package mariadb-server-core): %w", err)
	}
	if err := s.write("pid", strconv.Itoa(cmd.Process.Pid)+"\n"); err != nil {
		_ = cmd.Process.Kill() // nobody could find it later
		_ = cmd.Wait()
		return err
	}
	s.cmd = cmd
	return nil
}

// How often a server that never answered is tried, and how long is waited before one that
// ended is started again: longer each time, until it answers.
const (
	firstTries  = 5
	shortestGap = 200 * time.Millisecond
	longestGap  = 10 * time.Second
)

// supervise starts the server again whenever it ends, until told to stop.
func (s *Server) supervise() {
	defer close(s.ended)
	gap, tries := shortestGap, 0
	for {
		s.mu.Lock()
		cmd := s.cmd
		s.mu.Unlock()
		if cmd != nil {
			err := cmd.Wait()
			s.mu.Lock()
			s.cmd = nil
			stopping, answered, well := s.stopping, s.answered, s.well
			s.well = false
			s.mu.Unlock()
			if well {
				gap = shortestGap
			}
			if tries++; stopping || !answered && tries >= firstTries {
				return
			}
			slog.Warn("the private database ended; starting it again", "error", err, "in", gap)
		}
		select {
		case <-s.stop:
			return
		case <-time.After(gap):
		}
		gap = min(2*gap, longestGap)
		if err := s.launch(); errors.Is(err, errStopping) {
			return
		} else if err != nil {
			slog.Error("the private database does not start", "error", err, "again in", gap)
		}
		s.mu.Lock()
		again := s.answered
		s.mu.Unlock()
		if again {
			go s.forget()
		}
	}
}

// forget takes the start file away once the server has read it and answers.
func (s *Server) forget() {
	for range 600 {
		select {
		case <-s.stop:
			return
		case <-time.After(100 * time.Millisecond):
		}
		if s.ping(context.Background()) == nil {
			_ = os.Remove(s.path("init.sql"))
			s.mu.Lock()
			s.well = true
			s.mu.Unlock()
			return
		}
	}
}

func (s *Server) await(ctx context.Context) error {
	var err error
	for range 1200 {
		if err = s.ping(ctx); err == nil {
			s.mu.Lock()
			s.answered, s.well = true, true
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

// patience with a server that is told to end, and how often it is told. One that has only
// just begun may not hear it, or never come to its end; it has taken no work yet, and what
// it did before it recovers at the next start, so that it may be killed soon.
const (
	patience      = 30 * time.Second
	patienceEarly = 3 * time.Second
	tellGap       = 500 * time.Millisecond
)

// end waits until the supervision has ended, and the server with it.
func (s *Server) end(cmd *exec.Cmd) {
	s.mu.Lock()
	most := patience
	if !s.well {
		most = patienceEarly
	}
	s.mu.Unlock()
	for waited := time.Duration(0); ; waited += tellGap {
		if cmd != nil && waited < most {
			_ = cmd.Process.Signal(syscall.SIGTERM)
		} else if cmd != nil {
			_ = cmd.Process.Kill()
		}
		select {
		case <-s.ended:
			return
		case <-time.After(tellGap):
		}
	}
}

// Stop ends the server, or the attempts to start it, and waits until it is gone.
func (s *Server) Stop() {
	s.mu.Lock()
	cmd := s.cmd
	if !s.stopping {
		s.stopping = true
		close(s.stop)
	}
	s.mu.Unlock()
	s.end(cmd)
	for _, name := range []string{"pid", "init.sql", "socket"} {
		_ = os.Remove(s.path(name))
	}
	_ = os.RemoveAll(filepath.Dir(s.socket))
	s.release()
}

// DSN gives the address of a database on the server.
func (s *Server) DSN(database string) string {
	s.mu.Lock()
	port := s.port
	s.mu.Unlock()
	c := mysql.NewConfig()
	c.User, c.Passwd, c.Net, c.Addr, c.DBName = User, s.password, "tcp", net.JoinHostPort("127.0.0.1",
		strconv.Itoa(port)), database
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
