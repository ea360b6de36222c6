package block

import (
	"testing"

	"github.com/stretchr/testify/require"

	"brickshelf/internal/core/markup"
)

// What is written in backquotes is shown as it is spelled where that is safe, and otherwise as the value that
// it spells.
func TestAValueAsItIsWritten(t *testing.T) {
	for _, c := range []struct {
		typ     Type
		before  string // what stands before the value
		written string
		ctx     markup.Context
		want    string
	}{
		{Text, "", "a&nbsp;b", markup.InText, "a&nbsp;b"},
		{Text, "", `say "so"`, markup.InText, `say "so"`},
		{Text, "", "a<b", markup.InText, "a&lt;b"},
		{Text, "", "it's", markup.InTitle, "it's"},
		{Text, "", "a</title>", markup.InTitle, "a&lt;/title&gt;"},
		{Rich, "", "<br /><b id=x>a", markup.InText, "<br /><b id=x>a"},
		{Rich, "", "<b>a</b>", markup.InTitle, "&lt;b&gt;a&lt;/b&gt;"},
		{Rich, `<a title="`, `<b class="x">`, markup.InAttr, `<a title="&lt;b class=&#34;x&#34;&gt;&lt;/b&gt;`},
		{Text, `<a title="`, "it's", markup.InAttr, `<a title="it's`},
		{Text, `<a title='`, "it's", markup.InAttr, `<a title='it&#39;s`},
		{Text, `<a title='`, `a"b`, markup.InAttr, `<a title='a"b`},
		{Text, `<a title="a `, "it's", markup.InAttr, `<a title="a it&#39;s`},
		{Text, `<a title="`, "a<b>&eacute;", markup.InAttr, `<a title="a<b>&eacute;`},
		{Link, `<a href="`, "x y.html?a&b", markup.InURL, `<a href="x y.html?a&b`},
		{Text, `<a href="`, "javascript&colon;x", markup.InURL, `<a href="#`},
		{Text, `<a href="`, `a"b`, markup.InURL, `<a href="a%22b`},
		{Text, `<a href="`, "é", markup.InURLOpen, `<a href="é`},
		{Text, `<a href="java`, "script&colon;x", markup.InURLOpen, `<a href="javascript%3Ax`},
		{Text, `<a href="/a/`, "é", markup.InURLPath, `<a href="/a/é`},
		{Text, `<a href="/`, "&#47;host", markup.InURLPath, `<a href="/%2Fhost`},
		{Text, `<a href="?`, "a&b", markup.InURLQuery, `<a href="?a%26b`},
		{Text, `<i style="`, "a:b", markup.InStyle, `<i style="`},
		{Text, `<!--`, "a--b", markup.InComment, `<!--a&#45;&#45;b`},
	} {
		text := markup.Parse([]byte("@{x a=" + markup.QuoteWritten(c.written) + " /}"))
		require.Empty(t, text.Errors)
		arg, _ := text.Nodes[0].Arg("a")
		require.Equal(t, c.written, arg.Written)
		v, err := NewReader().Argument(&Field{Name: "a", Type: c.typ}, arg)
		if c.typ == Link {
			require.NoError(t, err)
		}
		require.Equal(t, c.want, string(Append([]byte(c.before), v, c.ctx)), "%v", c)
	}
}

// The value is what the spelling says, so that forms and conditions see no difference.
func TestTheValueOfWhatIsWritten(t *testing.T) {
	f := &Field{Name: "a", Type: Text}
	arg := markup.Parse([]byte("@{x a=`Fish &amp; chips` /}")).Nodes[0].Args[0].Value
	require.Equal(t, "Fish & chips", arg.Text)
	v, err := NewReader().Argument(f, arg)
	require.NoError(t, err)
	require.Equal(t, "Fish & chips", v.Text)
	require.Equal(t, "Fish & chips", v.Plain())
	verbatim, err := Verbatim.Argument(f, arg)
	require.NoError(t, err)
	require.Nil(t, verbatim.More, "what is written anew keeps no spelling")
	link, err := NewReader().Argument(&Field{Name: "a", Type: Link}, arg)
	require.NoError(t, err)
	require.Equal(t, "Fish & chips", link.Plain())
	_, err = NewReader().Argument(&Field{Name: "a", Type: Number}, arg)
	require.Error(t, err)
	_, err = NewReader().Argument(&Field{Name: "a", Type: Text, Max: "3"}, arg)
	require.Error(t, err, "limits hold for it as well")
}

func TestItemsAsTheyAreWritten(t *testing.T) {
	f := &Field{Name: "a", Type: List, Fields: []*Field{{Name: "label", Type: Text}, {Name: "to", Type: Link}}}
	arg := markup.Parse([]byte("@{x a=[{\"label\":`Fish&nbsp;&amp; chips`,\"to\":`x?a&b`}] /}")).Nodes[0].Args[0].Value
	v, err := NewReader().Argument(f, arg)
	require.NoError(t, err)
	require.Equal(t, []any{map[string]any{"label": "Fish\u00a0& chips", "to": "x?a&b"}}, v.Plain())
	item := v.Items()[0]
	require.Equal(t, "Fish&nbsp;&amp; chips", string(Append(nil, item.Member("label"), markup.InText)))
	require.Equal(t, `<a href="x?a&b`, string(Append([]byte(`<a href="`), item.Member("to"), markup.InURL)))
	_, err = NewReader().Argument(&Field{Name: "a", Type: List, Fields: []*Field{{Name: "label", Type: List}}}, arg)
	require.Error(t, err, "a text is no list")
}
