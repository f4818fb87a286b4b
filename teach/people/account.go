package people

import (
	"context"
	"errors"
	"fmt"
	"net/mail"
	"strings"
	"sync"

	"github.com/alexedwards/argon2id"
	"golang.org/x/sync/semaphore"
	"golang.org/x/text/secure/precis"

	"arplin/letters"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
)

// MinPassword is the shortest password, in characters.
const MinPassword = 10

// maxPassword bounds what is hashed.
const maxPassword = 1000

// maxName is the longest name of a teacher, in letters.
const maxName = 80

// hashing bounds how many passwords are hashed at a time: each takes 64 MB.
var hashing = semaphore.NewWeighted(4)

// Address is a mail address in the one form in which it is kept and looked up:
// width and capitals do not count, accents do, and signs that nobody sees are
// refused (RFC 8265, UsernameCaseMapped).
func Address(typed string) (string, error) {
	address, err := precis.UsernameCaseMapped.String(strings.TrimSpace(typed))
	if err != nil {
		return "", answer.Refuse("%q is not a mail address", typed)
	}
	parsed, err := mail.ParseAddress(address)
	if err != nil || parsed.Address != address || len(address) > 190 {
		return "", answer.Refuse("%q is not a mail address", typed)
	}
	return address, nil
}

// AddTeacher makes an account.
func (t *Room) AddTeacher(ctx context.Context, email, name, password string) (ref.Teacher, error) {
	address, err := Address(email)
	if err != nil {
		return 0, err
	}
	name = strings.Join(strings.Fields(letters.Clean(name)), " ")
	if n := letters.Count(name); n == 0 || n > maxName {
		return 0, answer.Refuse("a teacher's name has 1 to %d characters", maxName)
	}
	hash, err := hashPassword(ctx, password)
	if err != nil {
		return 0, err
	}
	id, err := t.Store.AddTeacher(ctx, address, name, hash)
	if errors.Is(err, store.ErrTaken) {
		return 0, answer.Refuse("there is a teacher with the address %s already", address)
	}
	return id, err
}

// SignIn finds the teacher of an address and a password; ErrWrong says no more
// than that they do not belong together.
func (t *Room) SignIn(ctx context.Context, email, password string) (store.Teacher, error) {
	teacher, err := store.Teacher{PasswordHash: nobodysHash()}, error(store.ErrNotFound)
	if address, bad := Address(email); bad == nil {
		teacher, err = t.Store.TeacherByEmail(ctx, address)
	}
	known, err := answer.Found(err)
	if err != nil {
		return store.Teacher{}, err
	}
	if !known {
		teacher = store.Teacher{PasswordHash: nobodysHash()} // takes as long as a wrong password
	}
	if err := checkPassword(ctx, password, teacher.PasswordHash); err != nil {
		return store.Teacher{}, err
	}
	if !known {
		return store.Teacher{}, ErrWrong
	}
	return teacher, nil
}

// ErrWrong: address and password do not belong together.
var ErrWrong = errors.New("wrong email or password")

// ChangePassword stores another password for a teacher who knows the one of now.
// All sessions of before have ended then; the epoch is of the new ones.
func (t *Room) ChangePassword(ctx context.Context, teacher store.Teacher, now, next string) (epoch int, err error) {
	if err := checkPassword(ctx, now, teacher.PasswordHash); errors.Is(err, ErrWrong) {
		return 0, answer.Refuse("that isn’t your current password. Nothing was changed")
	} else if err != nil {
		return 0, err
	}
	return t.SetPassword(ctx, teacher.ID, next)
}

// SetPassword stores another password.
func (t *Room) SetPassword(ctx context.Context, id ref.Teacher, next string) (epoch int, err error) {
	hash, err := hashPassword(ctx, next)
	if err != nil {
		return 0, err
	}
	return t.Store.SetPassword(ctx, id, hash)
}

// Hashing is what a new password's hash costs; a hash that is stored says itself what it cost. Tests of
// pages, which sign in by the hundred, lower it.
var Hashing = argon2id.DefaultParams

func hashPassword(ctx context.Context, password string) (string, error) {
	if n := letters.Count(password); n < MinPassword || len(password) > maxPassword {
		return "", answer.Refuse("a password has %d characters or more, and at most %d", MinPassword, maxPassword)
	}
	if err := hashing.Acquire(ctx, 1); err != nil {
		return "", err
	}
	defer hashing.Release(1)
	return argon2id.CreateHash(password, Hashing)
}

func checkPassword(ctx context.Context, password, hash string) error {
	if len(password) > maxPassword {
		return ErrWrong
	}
	if err := hashing.Acquire(ctx, 1); err != nil {
		return err
	}
	defer hashing.Release(1)
	matches, err := argon2id.ComparePasswordAndHash(password, hash)
	if err != nil {
		return fmt.Errorf("the stored password: %w", err)
	}
	if !matches {
		return ErrWrong
	}
	return nil
}

// nobodysHash is what a password is held against where there is no account. It is made when it is
// first wanted: a command that asks for a chord does not wait for it.
var nobodysHash = sync.OnceValue(func() string {
	hash, err := argon2id.CreateHash("nobody has this password", Hashing)
	if err != nil {
		panic(err)
	}
	return hash
})

// CloseAccount archives an account, or opens it again.
func (t *Room) CloseAccount(ctx context.Context, id ref.Teacher, closed bool) error {
	return t.Store.ArchiveTeacher(ctx, id, closed)
}

// DeleteAccount deletes an archived account and everything in it, for good: its address is typed.
func (t *Room) DeleteAccount(ctx context.Context, teacher store.Teacher, typed string) error {
	if typed != teacher.Email {
		return answer.Refuse("nothing was deleted. Type %s to delete the account for good", teacher.Email)
	}
	return t.Store.DeleteTeacher(ctx, teacher.ID)
}
