import Button from "@mui/material/Button";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import { api, unwrap } from "../api/client";
import {
  useDocument,
  useFiles,
  useFolder,
  useFolderText,
  useOverview,
  useSite,
} from "../api/queries";
import { sized } from "../files/incoming";
import { tell } from "../shared/notices";
import { ProblemList } from "../shared/ProblemList";
import { Say } from "../shared/Say";

const Diff = lazy(() => import("../shared/editor/Diff"));

/** Where a site is kept in a folder: what stands in the way of the two being one. */
export function KeptFolder() {
  const { data } = useFolder();
  if (!data?.dir) return null;
  return (
    <>
      {data.broken && (
        <Say tone="bad">
          <b>The folder is not followed.</b> {data.broken}
        </Say>
      )}
      {data.problems.length > 0 && (
        <Say tone="bad">
          <b>What is in {data.dir} is not valid.</b> The draft stays as it was until it is.
          <ProblemList problems={data.problems} />
        </Say>
      )}
      {data.conflicts.map((path) => (
        <BothChanged key={path} path={path} />
      ))}
    </>
  );
}

/** A document that was changed in the folder and here: both are shown, and one is taken. */
function BothChanged({ path }: { path: string }) {
  const site = useSite();
  const queries = useQueryClient();
  const [open, setOpen] = useState(false);
  const choose = useMutation({
    mutationFn: async (side: "folder" | "tool") =>
      unwrap(
        await api.POST("/sites/{site}/folder", {
          params: { path: { site } },
          body: { path, side },
        }),
      ),
    onSuccess: async (_, side) => {
      tell(
        side === "folder"
          ? `${path} is as the folder has it. Undo has the other one back.`
          : `${path} is as it was here, in the folder too. What the folder held is in its history.`,
      );
      await queries.invalidateQueries({ queryKey: [site] });
    },
    onError: (e) => tell(e.message, "error"),
  });
  return (
    <>
      <Say
        tone="bad"
        actions={
          <>
            <Button
              variant="outlined"
              color="secondary"
              aria-expanded={open}
              onClick={() => setOpen(!open)}
            >
              {open ? "Hide both" : "Show both"}
            </Button>
            <Button
              variant="outlined"
              color="secondary"
              disabled={choose.isPending || !open}
              onClick={() => choose.mutate("folder")}
            >
              Take the folder&apos;s
            </Button>
            <Button
              variant="contained"
              disabled={choose.isPending || !open}
              onClick={() => choose.mutate("tool")}
            >
              Take the one here
            </Button>
          </>
        }
      >
        <b>{path} was changed in the folder and here.</b> Each stays as it is until one is taken.
      </Say>
      {open && <Both path={path} />}
    </>
  );
}

function Both({ path }: { path: string }) {
  const theirs = useFolderText(path);
  const ours = useDocument(path);
  if (!theirs.data) return null;
  if (theirs.data.base64 !== undefined)
    return <BothFiles path={path} size={theirs.data.size} base64={theirs.data.base64} />;
  if (!ours.data) return null;
  return (
    <div className="panel both-changed">
      <Suspense fallback={<p className="empty">Comparing…</p>}>
        <Diff before={theirs.data.text} after={ours.data.text} label="In the folder, and here" />
      </Suspense>
    </div>
  );
}

/** A file that is no text, in the folder and here: pictures are seen, of all others the size is told. */
function BothFiles({ path, size, base64 }: { path: string; size: number; base64: string }) {
  const files = useFiles();
  const origin = useOverview().data?.site_origin ?? "";
  const here = files.data?.find((f) => f.path === path);
  const type = pictureType(path);
  return (
    <div className="panel both-changed both-files">
      <figure>
        <figcaption>In the folder, {sized(size)}</figcaption>
        {type && <img src={`data:${type};base64,${base64}`} alt={`${path} in the folder`} />}
      </figure>
      <figure>
        <figcaption>Here{here ? `, ${sized(here.size)}` : ": not there"}</figcaption>
        {type && here && (
          <img src={`${origin}${here.url}?${here.hash.slice(0, 8)}`} alt={`${path} here`} />
        )}
      </figure>
    </div>
  );
}

/** The type of a picture by its name; undefined for what is none. */
function pictureType(path: string) {
  const kind = /\.(png|jpe?g|gif|webp|avif)$/i.exec(path)?.[1]?.toLowerCase();
  return kind && `image/${kind === "jpg" ? "jpeg" : kind}`;
}
