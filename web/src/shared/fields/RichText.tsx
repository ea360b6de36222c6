import Bold from "@mui/icons-material/FormatBold";
import Bullets from "@mui/icons-material/FormatListBulleted";
import Italic from "@mui/icons-material/FormatItalic";
import LinkIcon from "@mui/icons-material/Link";
import Numbers from "@mui/icons-material/FormatListNumbered";
import Quote from "@mui/icons-material/FormatQuote";
import Title from "@mui/icons-material/Title";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import { EditorContent, useEditor, useEditorState, type Editor } from "@tiptap/react";
import StarterKit from "@tiptap/starter-kit";
import { useEffect, useRef, useState, type ReactNode } from "react";
import type { Option } from "./choices";
import { Picked } from "./Picked";
import { inLine, keeps, unwrapped } from "./richText";

const kit = [
  StarterKit.configure({
    link: { openOnClick: false, autolink: false, HTMLAttributes: { target: null, rel: null } },
    heading: { levels: [2, 3, 4] },
    underline: false,
    codeBlock: false,
    trailingNode: false,
  }),
];

interface Props {
  label: string;
  value: string;
  change: (value: string) => void;
  pages: Option[];
  /** Told where the editor would lose something of the value. */
  loses: () => void;
}

/** A rich text as one reads it. What it cannot hold it does not touch: it says so before a key is
 *  pressed. */
export function RichText({ label, value, change, pages, loses }: Props) {
  const made = useRef(value);
  const line = useRef(inLine(value));
  const editor = useEditor({
    extensions: kit,
    content: value,
    editorProps: {
      attributes: {
        "aria-label": label,
        role: "textbox",
        "aria-multiline": "true",
        class: "rich-page",
      },
    },
    onUpdate: ({ editor }) => {
      made.current = unwrapped(editor.getHTML(), line.current);
      change(made.current);
    },
  });
  useEffect(() => {
    if (editor.isDestroyed) return; // it was shown late: another one takes its place at once
    if (!keeps(value, unwrapped(editor.getHTML(), line.current))) {
      if (value !== made.current) {
        line.current = inLine(value);
        made.current = value;
        editor.commands.setContent(value, { emitUpdate: false });
      }
      if (!keeps(value, unwrapped(editor.getHTML(), line.current))) loses();
    }
  }, [editor, value, loses]);
  return (
    <div className="rich-text">
      <Tools editor={editor} pages={pages} />
      <EditorContent editor={editor} />
    </div>
  );
}

function Tools({ editor, pages }: { editor: Editor; pages: Option[] }) {
  const [to, setTo] = useState<string | null>(null);
  const on = useEditorState({
    editor,
    selector: ({ editor: e }) => ({
      bold: e.isActive("bold"),
      italic: e.isActive("italic"),
      title: e.isActive("heading"),
      bullets: e.isActive("bulletList"),
      numbers: e.isActive("orderedList"),
      quote: e.isActive("blockquote"),
      link: e.isActive("link"),
      href: String(e.getAttributes("link").href ?? ""),
    }),
  });
  const chain = () => editor.chain().focus();
  return (
    <>
      <div className="rich-tools" role="toolbar" aria-label="Form of the words">
        <Tool name="Bold" on={on.bold} press={() => chain().toggleBold().run()}>
          <Bold fontSize="small" />
        </Tool>
        <Tool name="Italic" on={on.italic} press={() => chain().toggleItalic().run()}>
          <Italic fontSize="small" />
        </Tool>
        <Tool name="Heading" on={on.title} press={() => chain().toggleHeading({ level: 3 }).run()}>
          <Title fontSize="small" />
        </Tool>
        <Tool name="List" on={on.bullets} press={() => chain().toggleBulletList().run()}>
          <Bullets fontSize="small" />
        </Tool>
        <Tool name="Numbered list" on={on.numbers} press={() => chain().toggleOrderedList().run()}>
          <Numbers fontSize="small" />
        </Tool>
        <Tool name="Quotation" on={on.quote} press={() => chain().toggleBlockquote().run()}>
          <Quote fontSize="small" />
        </Tool>
        <Tool name="Link" on={on.link} press={() => setTo(to === null ? on.href : null)}>
          <LinkIcon fontSize="small" />
        </Tool>
      </div>
      {to !== null && (
        <form
          className="rich-link"
          onSubmit={(e) => {
            e.preventDefault();
            if (to === "") chain().extendMarkRange("link").unsetLink().run();
            else chain().extendMarkRange("link").setLink({ href: to }).run();
            setTo(null);
          }}
        >
          <Picked
            label="The words lead to"
            error={false}
            helperText="a page, or any address; nothing takes the link away"
            value={to}
            change={setTo}
            options={pages}
          />
          <Button type="submit" size="small" variant="outlined" color="secondary">
            Set it
          </Button>
        </form>
      )}
    </>
  );
}

function Tool({
  name,
  on,
  press,
  children,
}: {
  name: string;
  on: boolean;
  press: () => void;
  children: ReactNode;
}) {
  return (
    <IconButton
      size="small"
      aria-label={name}
      aria-pressed={on}
      color={on ? "primary" : "default"}
      onMouseDown={(e) => e.preventDefault()} // what is selected stays so
      onClick={press}
    >
      {children}
    </IconButton>
  );
}
