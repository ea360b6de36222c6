import Checkbox from "@mui/material/Checkbox";
import Chip from "@mui/material/Chip";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import type { Words, WordsFound } from "../api/words";
import { inWords, type DocumentClass } from "./spots";

interface Props {
  words: Words;
  set: (w: Words) => void;
  replacement: string | null;
  replace: (to: string) => void;
  found: WordsFound;
  onlyIn: (classes: DocumentClass[]) => void;
}

const ways = [
  ["case", "Same capitals"],
  ["whole", "Whole words"],
  ["pattern", "Regular expression"],
  ["written", "Also in code"],
] as const;

/** What to look for, how and where, and what is to stand there. */
export function WordsForm({ words, set, replacement, replace, found, onlyIn }: Props) {
  const only = words.in ?? [];
  const classes = [
    ...found.classes,
    ...only.filter((c) => !found.classes.some((f) => f.class === c)).map(none),
  ];
  return (
    <div className="words-form">
      <TextField
        size="small"
        label="Find"
        autoFocus
        value={words.text}
        onChange={(e) => set({ ...words, text: e.target.value })}
        slotProps={{ htmlInput: { spellCheck: false, maxLength: 1000 } }}
      />
      <TextField
        size="small"
        label="Replace with"
        value={replacement ?? ""}
        placeholder={replacement === "" ? "nothing" : ""}
        onChange={(e) => replace(e.target.value)}
        slotProps={{
          htmlInput: { spellCheck: false },
          inputLabel: replacement === "" ? { shrink: true } : {},
        }}
        helperText={words.pattern ? "$1 is what the first group found" : ""}
      />
      <div className="words-ways" role="group" aria-label="How to look">
        {ways.map(([way, name]) => (
          <FormControlLabel
            key={way}
            control={
              <Checkbox
                size="small"
                checked={words[way] ?? false}
                onChange={(e) => set({ ...words, [way]: e.target.checked })}
              />
            }
            label={name}
          />
        ))}
      </div>
      {classes.length > 0 && (
        <div className="words-ways" role="group" aria-label="Where to look">
          <span className="soft">In</span>
          {classes.map(({ class: c, documents }) => (
            <Chip
              key={c}
              size="small"
              variant={only.includes(c) ? "filled" : "outlined"}
              aria-pressed={only.includes(c)}
              label={inWords(c, documents)}
              onClick={() => onlyIn(only.includes(c) ? only.filter((o) => o !== c) : [...only, c])}
            />
          ))}
          {only.length > 0 && (
            <button type="button" className="plain word" onClick={() => onlyIn([])}>
              Everywhere
            </button>
          )}
        </div>
      )}
    </div>
  );
}

const none = (c: DocumentClass) => ({ class: c, documents: 0, spots: 0 });
