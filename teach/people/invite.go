package people

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"time"

	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
)

// InvitedFor is how long a link to an account holds.
const InvitedFor = 14 * 24 * time.Hour

// Invite makes a link's secret, 128 random bits: for a new account, or for a teacher who cannot get in. Only
// its digest is kept.
func (t *Room) Invite(ctx context.Context, teacher ref.Teacher, now time.Time) (secret string, err error) {
	var bits [16]byte
	_, _ = rand.Read(bits[:]) // never fails
	secret = base64.RawURLEncoding.EncodeToString(bits[:])
	return secret, t.Store.AddInvitation(ctx, sha256.Sum256([]byte(secret)), store.Invitation{Teacher: teacher, Expires: now.Add(InvitedFor)}, now)
}

// InviteBack makes a link for the teacher of an address.
func (t *Room) InviteBack(ctx context.Context, email string, now time.Time) (secret string, err error) {
	address, err := Address(email)
	if err != nil {
		return "", err
	}
	teacher, err := t.Store.TeacherByEmail(ctx, address)
	if known, err := answer.Found(err); err != nil {
		return "", err
	} else if !known {
		return "", answer.Refuse("there’s no teacher with the address %s", address)
	}
	return t.Invite(ctx, teacher.ID, now)
}

// RemoveSample takes the teacher's sample class out again, with its songs.
func (t *Room) RemoveSample(ctx context.Context, teacher ref.Teacher) error {
	return t.Store.RemoveSample(ctx, teacher)
}

// HasSample reports a class to look around in.
func (t *Room) HasSample(ctx context.Context, teacher ref.Teacher) (ref.Class, error) {
	id, err := t.Store.SampleOf(ctx, teacher)
	if known, err := answer.Found(err); !known {
		return 0, err
	}
	return id, nil
}

// Invited is what a link's secret allows: a new account where the teacher is 0.
func (t *Room) Invited(ctx context.Context, secret string, now time.Time) (store.Teacher, error) {
	in, err := t.Store.InvitationBy(ctx, sha256.Sum256([]byte(secret)), now)
	if err != nil || in.Teacher == 0 {
		return store.Teacher{}, err
	}
	return t.Store.Teacher(ctx, in.Teacher)
}

// Accept takes a link: it makes the account, or gives the teacher another password, which signs out every
// other browser. What was typed is checked before the link is used up.
func (t *Room) Accept(ctx context.Context, secret, email, name, password string, now time.Time) (teacher store.Teacher, err error) {
	digest := sha256.Sum256([]byte(secret))
	in, err := t.Store.InvitationBy(ctx, digest, now)
	if err != nil {
		return teacher, err
	}
	if in.Teacher == 0 {
		id, err := t.AddTeacher(ctx, email, name, password)
		if err != nil {
			return teacher, err
		}
		if err := t.Store.UseInvitation(ctx, digest, now); err != nil { // somebody was faster with it: one link, one account
			_ = t.Store.ArchiveTeacher(ctx, id, true)
			_ = t.Store.DeleteTeacher(ctx, id)
			return teacher, err
		}
		return t.Store.Teacher(ctx, id)
	}
	if _, err := hashPassword(ctx, password); err != nil {
		return teacher, err
	}
	if err := t.Store.UseInvitation(ctx, digest, now); err != nil {
		return teacher, err
	}
	if _, err := t.SetPassword(ctx, in.Teacher, password); err != nil {
		return teacher, err
	}
	return t.Store.Teacher(ctx, in.Teacher)
}
