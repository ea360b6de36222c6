import Close from "@mui/icons-material/Close";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import LinearProgress from "@mui/material/LinearProgress";
import { useMutation, useQueries } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useSave } from "../api/changes";
import { tellSaved } from "../shared/notices";
import { batches, sized, worthKnowing, wrongWith, type Incoming, type SiteFile } from "./incoming";

interface Props {
  coming: Incoming[];
  set: (list: Incoming[]) => void;
  files: SiteFile[];
  done: (path: string) => void;
}

/** What comes in, before it is put there: what replaces something, what cannot be. */
export function Arriving({ coming, set, files, done }: Props) {
  const save = useSave();
  const [at, setAt] = useState({ sent: 0, bytes: 0, all: false });
  const stop = useRef(new AbortController());
  const there = useRef(new Set<File>()); // what has been put there already
  const told = useQueries({
    queries: coming.map((c) => ({
      queryKey: ["incoming", c.path, c.file.size, c.file.lastModified],
      queryFn: async () => ({ wrong: await wrongWith(c), know: await worthKnowing(c) }),
      gcTime: 0,
    })),
  });
  const good = coming.filter((_, i) => told[i]?.data?.wrong === "");
  const parts = batches(good, files);
  const count = parts.reduce((n, p) => n + p.length, 0);
  const total = parts.flat().reduce((n, f) => n + f.file.size, 0);
  const send = useMutation({
    mutationFn: async () => {
      stop.current = new AbortController();
      const { signal } = stop.current;
      there.current = new Set();
      let [sent, bytes] = [0, 0];
      setAt({ sent, bytes, all: false });
      for (const part of parts) {
        const changes = [];
        for (const { path, before, file } of part) {
          if (signal.aborted) return null;
          changes.push({ path, before, base64: await base64(file) });
        }
        const [one] = part;
        const title =
          part.length === 1 && one
            ? `${one.before ? "Replace" : "Put"} ${one.path}`
            : `Put ${part.length} files`;
        // What has gone out whole is saved: only what is on its way can be called back.
        const onTheWay = new AbortController();
        const call = () => onTheWay.abort();
        signal.addEventListener("abort", call);
        const size = part.reduce((n, f) => n + f.file.size, 0);
        const saved = await save
          .mutateAsync({
            title,
            changes,
            signal: onTheWay.signal,
            sent: (share) => {
              if (share === 1) signal.removeEventListener("abort", call);
              setAt({ sent, bytes: bytes + share * size, all: share === 1 });
            },
          })
          .catch((e: unknown) => {
            if (onTheWay.signal.aborted) return null;
            throw e;
          });
        if (!saved) return null;
        tellSaved(saved.title);
        for (const { file } of part) there.current.add(file);
        sent += part.length;
        bytes += size;
        setAt({ sent, bytes, all: false });
      }
      return parts[0]?.[0]?.path ?? "";
    },
    onSuccess: (first) => {
      if (first === null) return;
      set([]);
      done(first);
    },
    // Stopped or failed: what is not there yet is asked about again.
    onSettled: (first) => {
      if (!first) set(coming.filter((c) => !there.current.has(c.file)));
    },
  });
  return (
    <form
      className="arriving"
      aria-label="Files that come in"
      onSubmit={(e) => {
        e.preventDefault();
        send.mutate();
      }}
    >
      <ul>
        {coming.map((c, i) => {
          const now = told[i]?.data;
          return (
            <li key={`${i} ${c.path}`}>
              <span>
                <code>{c.path}</code> <span className="soft">{sized(c.file.size)}</span>
                {now?.wrong && <span className="bad-text"> {now.wrong}; it is left out</span>}
                {now?.know && <span className="soft"> {now.know}</span>}
              </span>
              {c.clash && !now?.wrong && (
                <TextField
                  select
                  size="small"
                  label="One stands there"
                  value={c.clash}
                  sx={{ width: 160 }}
                  onChange={(e) =>
                    set(
                      coming.map((o, j) =>
                        j === i ? { ...o, clash: e.target.value as Incoming["clash"] } : o,
                      ),
                    )
                  }
                >
                  <MenuItem value="replace">Replace it</MenuItem>
                  <MenuItem value="beside">Keep both</MenuItem>
                  <MenuItem value="leave">Leave this out</MenuItem>
                </TextField>
              )}
              <IconButton
                size="small"
                aria-label={`Leave out ${c.path}`}
                onClick={() => set(coming.filter((_, j) => j !== i))}
              >
                <Close fontSize="small" />
              </IconButton>
            </li>
          );
        })}
      </ul>
      {send.isPending && (
        <LinearProgress
          variant="determinate"
          value={(100 * at.bytes) / Math.max(total, 1)}
          aria-label="Files sent"
        />
      )}
      {send.isPending && (
        <p>
          {at.sent} of {count} put there, {sized(at.bytes)} of {sized(total)} sent
          {at.all && "; saving"}…
        </p>
      )}
      <p role="status">{send.error && <span className="bad-text">{send.error.message}</span>}</p>
      <span>
        <Button type="submit" variant="contained" disabled={count === 0 || send.isPending}>
          Put {count === 1 ? "1 file" : `${count} files`} there
        </Button>{" "}
        <Button
          color="secondary"
          onClick={() => {
            stop.current.abort();
            if (!send.isPending) set([]);
          }}
        >
          {send.isPending ? "Stop" : "Leave it"}
        </Button>
      </span>
    </form>
  );
}

/** The bytes of a file as base64. */
async function base64(file: File): Promise<string> {
  const url = await new Promise<string>((done, failed) => {
    const reader = new FileReader();
    reader.onload = () => done(reader.result as string);
    reader.onerror = () => failed(reader.error ?? new Error(`${file.name} cannot be read`));
    reader.readAsDataURL(file);
  });
  return url.slice(url.indexOf(",") + 1);
}
