package book_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
)

const password = "seven cold mornings"

func TestCrew(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	ctx := t.Context()
	wren := book.NewMember{Name: "Wren Halloran", Role: book.Lead, Password: password}
	require.ErrorIs(
		t,
		b.AddMember(ctx, book.NewMember{Name: "Tobias Okafor", Role: book.Observer, Password: password}),
		book.ErrLastLead,
		"the first is a lead",
	)
	require.NoError(t, b.AddMember(ctx, wren))
	for _, same := range []string{"wren halloran", "WrenHalloran", " WREN  halloran "} {
		require.ErrorIs(t, b.AddMember(ctx, book.NewMember{Name: same, Role: book.Reader, Password: password}), book.ErrNameTaken)
	}
	var field *book.FieldError
	require.ErrorAs(t, b.AddMember(ctx, book.NewMember{Name: "Marit Sandoval", Role: book.Reader, Password: "short"}), &field)
	require.Equal(t, "password", field.Field)

	hash, err := b.PasswordOf(ctx, "Wren Halloran")
	require.NoError(t, err)
	require.Regexp(t, `^\$argon2id\$v=19\$m=65536,t=3,p=2\$`, hash, "RFC 9106's second choice, two lanes")
	require.NotContains(t, hash, password)

	for _, try := range []struct{ name, password string }{{"Wren Halloran", "seven cold evenings"}, {"Nobody", password}, {"", ""}} {
		_, _, err := b.SignIn(ctx, try.name, try.password)
		require.ErrorIs(t, err, book.ErrWrongPassword, "a wrong name and a wrong password sound alike")
	}
	token, who, err := b.SignIn(ctx, "wren halloran", password)
	require.NoError(t, err)
	require.Equal(t, book.Lead, who.Role)
	who, err = b.SignedIn(ctx, token)
	require.NoError(t, err)
	require.Equal(t, "Wren Halloran", who.Name)
	_, err = b.SignedIn(ctx, token+"x")
	require.ErrorIs(t, err, book.ErrSignedOut)

	require.ErrorIs(t, b.ChangeMember(ctx, "Wren Halloran", book.MemberChange{Role: book.Reader}), book.ErrLastLead)
	_, err = b.SignedIn(ctx, token)
	require.NoError(t, err, "a change that was refused signs nobody out")
	require.NoError(t, b.ChangeMember(ctx, "Wren Halloran", book.MemberChange{Password: "eight cold mornings"}))
	_, err = b.SignedIn(ctx, token)
	require.ErrorIs(t, err, book.ErrSignedOut, "a new password signs out everywhere")
	token, _, err = b.SignIn(ctx, "Wren Halloran", "eight cold mornings")
	require.NoError(t, err)
	require.NoError(t, b.SignOut(ctx, token))
	_, err = b.SignedIn(ctx, token)
	require.ErrorIs(t, err, book.ErrSignedOut)
}

func TestRoles(t *testing.T) {
	t.Parallel()
	require.True(t, book.MayDo(book.Lead, book.Observer))
	require.True(t, book.MayDo(book.Observer, book.Observer))
	require.False(t, book.MayDo(book.Reader, book.Observer))
	require.False(t, book.MayDo("", book.Reader))
}

// TestCommonPasswords: what is guessed first is refused, however often it is repeated to be long enough.
func TestCommonPasswords(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	for word, ok := range map[string]bool{"passwordpassword": false, "PassWordPassWordPass": false, "123456123456123456": false,
		"qwertyuiopqwertyuiop": false, "seven cold mornings": true, "password of a cold morning": true} {
		err := b.AddMember(t.Context(), book.NewMember{Name: word, Role: book.Lead, Password: word})
		if ok {
			require.NoError(t, err, word)
		} else {
			require.ErrorContains(t, err, "too common", word)
		}
	}
}
