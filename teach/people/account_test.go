package people_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"arplin/store/storetest"
	"arplin/teach"
	"arplin/teach/people"
)

func TestMain(m *testing.M) { storetest.Main(m) }

// A password that is guessed costs memory. Source: OWASP Password Storage Cheat Sheet, Argon2id: 46 MiB where it is
// gone through once.
func TestAHashCostsMemory(t *testing.T) {
	assert.GreaterOrEqual(t, people.Hashing.Memory, uint32(46<<10))
	assert.GreaterOrEqual(t, people.Hashing.Iterations, uint32(1))
}

// Source: RFC 8265, UsernameCaseMapped; RFC 5322, addr-spec.
func TestAddress(t *testing.T) {
	for typed, want := range map[string]string{
		" Anna@School.Example ":         "anna@school.example",
		"\uff41nna@school.example":      "anna@school.example",
		"zo\u00eb@school.example":       "zo\u00eb@school.example",
		"zoe\u0308@school.example":      "zo\u00eb@school.example",
		"anna+choir@school.example":     "anna+choir@school.example",
		"an\u200bna@school.example":     "",
		"Anna <anna@school.example>":    "",
		"anna":                          "",
		"":                              "",
		"anna@school.example, b@c.test": "",
	} {
		got, err := people.Address(typed)
		if want == "" {
			assert.ErrorContains(t, err, "is not a mail address", typed)
			continue
		}
		require.NoError(t, err, typed)
		assert.Equal(t, want, got)
	}
}

func TestAccounts(t *testing.T) {
	if testing.Short() {
		t.Skip("in make test")
	}
	on, ctx := teach.New(storetest.Open(t)), t.Context()
	for _, c := range []struct{ email, name, password, want string }{
		{"not one", "Anna", "long enough", "is not a mail address"},
		{"accounts@arplin.test", " \u200b ", "long enough", "a teacher's name has 1 to 80 characters"},
		{"accounts@arplin.test", "Anna", "too short", "a password has 10 characters or more"},
	} {
		_, err := on.People.AddTeacher(ctx, c.email, c.name, c.password)
		assert.ErrorContains(t, err, c.want)
	}
	id, err := on.People.AddTeacher(ctx, "Accounts@Arplin.test", "  Anna   B ", "long enough")
	require.NoError(t, err)
	_, err = on.People.AddTeacher(ctx, "accounts@arplin.test", "Anna", "long enough")
	assert.ErrorContains(t, err, "there is a teacher with the address accounts@arplin.test already")
	teacher, err := on.People.SignIn(ctx, "ACCOUNTS@arplin.test", "long enough")
	require.NoError(t, err)
	assert.Equal(t, "Anna B", teacher.Name)
	_, err = on.People.ChangePassword(ctx, teacher, "not that one", "another one here")
	assert.ErrorContains(t, err, "that isn’t your current password")
	epoch, err := on.People.ChangePassword(ctx, teacher, "long enough", "another one here")
	require.NoError(t, err)
	assert.Equal(t, teacher.Epoch+1, epoch)
	for email, password := range map[string]string{"accounts@arplin.test": "long enough", "nobody@arplin.test": "nobody has this password", "none": "another one here"} {
		_, err = on.People.SignIn(ctx, email, password)
		assert.ErrorIs(t, err, people.ErrWrong, email)
	}
	_, err = on.People.SetPassword(ctx, id, "from the command")
	require.NoError(t, err)
	_, err = on.People.SignIn(ctx, "accounts@arplin.test", "from the command")
	assert.NoError(t, err)
}
