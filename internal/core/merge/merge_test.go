package merge_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"brickshelf/internal/core/merge"
)

// shown writes pieces as one reads them, with what is in conflict in brackets.
func shown(pieces []merge.Piece) string {
	var b strings.Builder
	for _, p := range pieces {
		if p.Conflict {
			b.WriteString("[" + p.Base + "|" + p.Ours + "|" + p.Theirs + "]")
		} else {
			b.WriteString(p.Text)
		}
	}
	return b.String()
}

func TestThree(t *testing.T) {
	for name, c := range map[string]struct{ base, ours, theirs, want string }{
		"nothing":                   {"", "", "", ""},
		"one line each":             {"a\nb\nc\n", "A\nb\nc\n", "a\nb\nC\n", "A\nb\nC\n"},
		"neighbouring lines":        {"a\nb\n", "A\nb\n", "a\nB\n", "A\nB\n"},
		"the same in both":          {"a\nb\n", "x\nb\n", "x\nb\n", "x\nb\n"},
		"words of one line":         {"open from nine to five", "open from ten to five", "open from nine to six", "open from ten to six"},
		"an attribute and a text":   {`<a class="x" href="/y/">Go</a>`, `<a class="x wide" href="/y/">Go</a>`, `<a class="x" href="/y/">Go on</a>`, `<a class="x wide" href="/y/">Go on</a>`},
		"two attributes of one tag": {`<i a="1" b="1">`, `<i a="2" b="1">`, `<i a="1" b="2">`, `<i a="2" b="2">`},
		"the same word":             {"open at nine", "open at ten", "open at eight", "open at [nine|ten|eight]"},
		"a sentence written anew":   {"we sail at dawn for Inver", "boats go at noon for Inver", "all leave at night for Inver", "[we sail at dawn|boats go at noon|all leave at night] for Inver"},
		"gone and changed":          {"a\nb\nc\n", "a\nc\n", "a\nB\nc\n", "a\n[b\n||B\n]c\n"},
		"put in at one place":       {"a\nb\n", "a\nx\nb\n", "a\ny\nb\n", "a\n[|x\n|y\n]b\n"},
		"put in at two places":      {"a\nb\n", "x\na\nb\n", "a\nb\ny\n", "x\na\nb\ny\n"},
		"a line end of its own":     {"a\r\nb\r\n", "a\r\nB\r\n", "A\r\nb\r\n", "A\r\nB\r\n"},
		"a call and its argument":   {`@{b n="1" /}<p>`, `@{b n="2" /}<p>`, `@{b n="1" /}<p class="x">`, `@{b n="2" /}<p class="x">`},
		"marks of another program":  {"a\n", "<<<<<<< a\n", "a\n=======\n", "<<<<<<< a\n=======\n"},
		"no UTF-8":                  {"caf\xe9 at nine", "caf\xe9 at ten", "the caf\xe9 at nine", "the caf\xe9 at ten"},
	} {
		t.Run(name, func(t *testing.T) {
			require.Equal(t, c.want, shown(merge.Three(c.base, c.ours, c.theirs)))
		})
	}
}

// aText draws a text of few words and lines, so that much is alike.
func aText(t *rapid.T, label string) string {
	word := rapid.SampledFrom([]string{"a", "b ", "c\n", "<i>", "</i>", "\xe9", " x=\"1\"", "@{b /}", "\n", "\r\n", "é"})
	return strings.Join(rapid.SliceOfN(word, 0, 14).Draw(t, label), "")
}

func TestMergingIsWhatItMustBe(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		base, ours, theirs := aText(t, "base"), aText(t, "ours"), aText(t, "theirs")
		require.Equal(t, ours, shown(merge.Three(base, ours, base)), "nothing was changed there")
		require.Equal(t, theirs, shown(merge.Three(base, base, theirs)), "nothing was changed here")
		require.Equal(t, ours, shown(merge.Three(base, ours, ours)), "both are the same")

		pieces := merge.Three(base, ours, theirs)
		var here, there, was string
		for i, p := range pieces {
			require.False(t, p == merge.Piece{}, "none is empty")
			require.False(t, i > 0 && !p.Conflict && !pieces[i-1].Conflict, "none could be one with the last")
			if p.Conflict {
				require.NotEqual(t, p.Ours, p.Theirs)
				require.NotEqual(t, p.Base, p.Ours)
				require.NotEqual(t, p.Base, p.Theirs)
			}
			here, there, was = here+p.Ours, there+p.Theirs, was+p.Base
		}
		require.Equal(t, []string{ours, theirs, base}, []string{here, there, was}, "nothing is lost")
		// The other way about the same is merged and in conflict.
		var turned []merge.Piece
		for _, p := range merge.Three(base, theirs, ours) {
			p.Ours, p.Theirs = p.Theirs, p.Ours
			turned = append(turned, p)
		}
		require.Equal(t, merge.Conflicts(pieces), merge.Conflicts(turned))
	})
}

// Edits of different lines never meet.
func TestEditsOfDifferentLinesAreBothMade(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 8).Draw(t, "lines")
		base, ours, theirs, want := make([]string, n), make([]string, n), make([]string, n), make([]string, n)
		for i := range n {
			line := rapid.StringMatching(`[a-z]{8}`).Draw(t, "line") + "\n"
			base[i], ours[i], theirs[i], want[i] = line, line, line, line
			switch rapid.IntRange(0, 2).Draw(t, "who") {
			case 1:
				ours[i] = rapid.SampledFrom([]string{"", "ours " + line, "new\n" + line, line + "more\n"}).Draw(t, "ours")
				want[i] = ours[i]
			case 2:
				theirs[i] = rapid.SampledFrom([]string{"", "theirs " + line}).Draw(t, "theirs")
				want[i] = theirs[i]
			}
		}
		text := func(l []string) string { return strings.Join(l, "") }
		pieces := merge.Three(text(base), text(ours), text(theirs))
		if merge.Conflicts(pieces) == 0 {
			require.Equal(t, text(want), shown(pieces))
		}
	})
}

func TestTwo(t *testing.T) {
	for name, c := range map[string]struct{ a, b, want string }{
		"the same":             {"<b>x</b>", "<b>x</b>", "<b>x</b>"},
		"a word":               {"<b>one x</b>", "<b>two x</b>", "<b>[|one|two] x</b>"},
		"a phrase":             {"<b>one of the x</b>", "<b>two of the y</b>", "<b>[|one of the x|two of the y]</b>"},
		"an attribute":         {`<i class="a b">t`, `<i class="a c">u`, `<i class="a [|b|c]">[|t|u]`},
		"nothing in common":    {"a", "<b>", "[|a|<b>]"},
		"something is missing": {"a b", "a", "a[| b|]"},
	} {
		t.Run(name, func(t *testing.T) { require.Equal(t, c.want, shown(merge.Two(c.a, c.b))) })
	}
	rapid.Check(t, func(t *rapid.T) {
		a, b := aText(t, "a"), aText(t, "b")
		var x, y string
		for _, p := range merge.Two(a, b) {
			x, y = x+p.Ours, y+p.Theirs
			require.Equal(t, p.Conflict, p.Ours != p.Theirs)
		}
		require.Equal(t, []string{a, b}, []string{x, y})
		require.Zero(t, merge.Conflicts(merge.Two(a, a)))
	})
}

func TestResolved(t *testing.T) {
	pieces := merge.Three("at nine\nx\nat five\n", "at ten\nx\nat six\n", "at eight\nx\nat four\n")
	require.Equal(t, 2, merge.Conflicts(pieces))
	require.Equal(t, "at ten\nx\nat four\n", merge.Resolved(pieces, []string{"ten", "four"}))
}

func TestTextsWithNothingInCommonAreOneConflict(t *testing.T) {
	long := func(word string) string { return strings.Repeat(word+" ", 20_000) }
	pieces := merge.Three(long("a"), long("b"), long("c"))
	require.Len(t, pieces, 1)
	require.True(t, pieces[0].Conflict)
}

func FuzzThree(f *testing.F) {
	f.Add("a\nb", "a\nc", "x\nb")
	f.Add("<a b=\"1\">", "<a b='2'>", "\xff@{")
	f.Fuzz(func(t *testing.T, base, ours, theirs string) {
		pieces := merge.Three(base, ours, theirs)
		with := make([]string, merge.Conflicts(pieces))
		merge.Resolved(pieces, with)
		if got := shown(merge.Three(base, ours, base)); got != ours {
			t.Fatalf("%q is not %q", got, ours)
		}
	})
}
