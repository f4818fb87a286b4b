package home

import (
	"context"
	"crypto/hmac"
	"crypto/sha256"
	"encoding/base32"
	"strings"
	"time"

	"arplin/core/plan"
	"arplin/store"
	"arplin/store/ref"
	"arplin/teach/answer"
	"arplin/teach/people"
)

// Link is a student's link as the teacher sees it.
type Link struct {
	store.PhoneLink
	Name   string // of the student
	Secret string // what its address ends with; empty for a link that opens nothing
	Over   bool   // its last day has passed
}

// Path is the address of the link on this site.
func (l Link) Path() string { return "/p/" + l.Secret }

// letters are those of a secret: none of them looks like another on paper.
var letters = base32.NewEncoding("abcdefghijkmnpqrstuvwxyz23456789").WithPadding(base32.NoPadding)

// secretOf makes the 128 bits of a link from the school's key and the link's nonce: whoever reads the
// table alone opens nothing, and a sheet can be printed again.
func secretOf(key []byte, nonce [16]byte) string {
	mac := hmac.New(sha256.New, key)
	mac.Write([]byte("phone"))
	mac.Write(nonce[:])
	return letters.EncodeToString(mac.Sum(nil)[:16])
}

// digestOf is what is kept of a secret. As it is typed from paper, case, spaces and hyphens do not count.
func digestOf(secret string) [32]byte {
	secret = strings.NewReplacer("-", "", " ", "").Replace(strings.ToLower(secret))
	return sha256.Sum256([]byte(secret))
}

// digest says what is looked up of a nonce.
func digest(key []byte) func([16]byte) [32]byte {
	return func(nonce [16]byte) [32]byte { return digestOf(secretOf(key, nonce)) }
}

// Links are the links of a class in its order. Who has none yet gets one, until the end of the term.
func (t *Room) Links(ctx context.Context, teacher ref.Teacher, c people.Class, now time.Time) (list []Link, err error) {
	key, err := t.schoolKey(ctx)
	if err != nil {
		return nil, err
	}
	by, err := t.Store.PhoneLinks(ctx, teacher, c.ID)
	if err != nil {
		return nil, err
	}
	var without []ref.Student
	for _, st := range c.Students {
		if _, has := by[st.ID]; !has {
			without = append(without, st.ID)
		}
	}
	if len(without) > 0 {
		ends, err := t.ends(ctx, teacher, c, by, now)
		if err != nil {
			return nil, err
		}
		if err := t.Store.GivePhoneLinks(ctx, teacher, without, ends, now, digest(key)); err != nil {
			return nil, err
		}
		if by, err = t.Store.PhoneLinks(ctx, teacher, c.ID); err != nil {
			return nil, err
		}
	}
	for _, st := range c.Students {
		l := Link{PhoneLink: by[st.ID], Name: st.Name}
		l.Over = !l.Revoked && !l.Open(now)
		if l.Open(now) {
			l.Secret = secretOf(key, l.Nonce)
		}
		list = append(list, l)
	}
	return list, nil
}

// LinkOf is the link of one student of a class; with an empty secret where it opens nothing.
func (t *Room) LinkOf(ctx context.Context, teacher ref.Teacher, c people.Class, student ref.Student, now time.Time) (Link, error) {
	list, err := t.Links(ctx, teacher, c, now)
	for _, l := range list {
		if l.Student == student {
			return l, err
		}
	}
	return Link{}, err
}

// ends is the day on which new links of a class end: when the others do, with the concert, or at the end of
// a usual term.
func (t *Room) ends(ctx context.Context, teacher ref.Teacher, c people.Class, others map[ref.Student]store.PhoneLink, now time.Time) (latest time.Time, err error) {
	for _, l := range others {
		if l.Ends.After(now) && l.Ends.After(latest) {
			latest = l.Ends
		}
	}
	if !latest.IsZero() {
		return latest, nil
	}
	term, err := t.Store.TermOf(ctx, teacher, c.ID)
	if known, err := answer.Found(err); err != nil {
		return time.Time{}, err
	} else if known && term.Concert.After(now) {
		return term.Concert, nil
	}
	return now.AddDate(0, 0, 7*plan.UsualTerm), nil
}

// Renew gives a student another link, or with 0 everyone of a class; those before open nothing any more.
func (t *Room) Renew(ctx context.Context, teacher ref.Teacher, c people.Class, student ref.Student, now time.Time) error {
	key, err := t.schoolKey(ctx)
	if err != nil {
		return err
	}
	by, err := t.Store.PhoneLinks(ctx, teacher, c.ID)
	if err != nil {
		return err
	}
	ends, err := t.ends(ctx, teacher, c, by, now)
	if err != nil {
		return err
	}
	var ids []ref.Student
	for _, st := range c.Students {
		if student == 0 || st.ID == student {
			ids = append(ids, st.ID)
		}
	}
	return t.Store.RenewPhoneLinks(ctx, teacher, ids, ends, now, digest(key))
}

// Revoke ends a student's link at once, or with 0 all links of a class.
func (t *Room) Revoke(ctx context.Context, teacher ref.Teacher, c people.Class, student ref.Student) error {
	return t.Store.RevokePhoneLinks(ctx, teacher, c.ID, student)
}

// longestLink bounds how far ahead links end.
const longestLink = 366 * 24 * time.Hour

// End sets the last day on which the links of a class open.
func (t *Room) End(ctx context.Context, teacher ref.Teacher, c people.Class, day string, now time.Time) error {
	ends, err := time.ParseInLocation(time.DateOnly, day, now.Location())
	switch {
	case err != nil:
		return answer.Refuse("choose the day on which the links end")
	case ends.AddDate(0, 0, 1).Before(now):
		return answer.Refuse("that day is over. To end the links today, press “Turn off all links”")
	case ends.Sub(now) > longestLink:
		return answer.Refuse("choose a day within a year")
	}
	return t.Store.EndPhoneLinks(ctx, teacher, c.ID, ends)
}

// Takes is whether the students of a class may send recordings.
func (t *Room) Takes(ctx context.Context, teacher ref.Teacher, c people.Class) (bool, error) {
	return t.Store.PhoneTakes(ctx, teacher, c.ID)
}

// LetTakes lets the students of a class send recordings, or no longer.
func (t *Room) LetTakes(ctx context.Context, teacher ref.Teacher, c people.Class, on bool) error {
	return t.Store.SetPhoneTakes(ctx, teacher, c.ID, on)
}

// Whose finds whose phone a secret opens; store.ErrNotFound for nobody's.
func (t *Room) Whose(ctx context.Context, secret string, now time.Time) (store.Phone, error) {
	if len(secret) < 20 || len(secret) > 60 {
		return store.Phone{}, store.ErrNotFound
	}
	return t.Store.PhoneBy(ctx, digestOf(secret), now)
}
