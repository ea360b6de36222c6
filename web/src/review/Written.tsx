import Button from "@mui/material/Button";
import { useMutation } from "@tanstack/react-query";
import { api, unwrap, type Review } from "../api/client";
import { useRefresh } from "../api/changes";
import { useSite } from "../api/queries";
import { Say } from "../shared/Say";
import { tell } from "../shared/notices";

/** Where what is published did not reach the folder that it is written to, why, and the way on. */
export function Written({ review }: { review: Review }) {
  const site = useSite();
  const refresh = useRefresh();
  const again = useMutation({
    mutationFn: async () =>
      unwrap(await api.POST("/sites/{site}/writing", { params: { path: { site } } })),
    onSuccess: async (w) => {
      await refresh();
      if (w.problem === "") tell(`Release ${w.release} is written to ${w.folder}`);
    },
    onError: (e) => tell(e.message, "error"),
  });
  const w = review.writing;
  if (!w || (w.problem === "" && w.aside.length === 0)) return null;
  if (w.problem === "")
    return (
      <Say tone="quiet">
        {w.aside.join(", ")} had been edited in {w.folder}.{" "}
        {w.aside.length === 1 ? "It was" : "They were"} put right; what stood there is kept in its
        folder .shelf/aside.
      </Say>
    );
  return (
    <Say
      tone="bad"
      actions={
        <Button variant="outlined" disabled={again.isPending} onClick={() => again.mutate()}>
          Try again
        </Button>
      }
    >
      <b>
        Release {w.release} is published, and not yet written to {w.folder}:
      </b>{" "}
      {w.problem}
    </Say>
  );
}
