/** In place of a rendering: why there is none. */
export function NotShown({ what, problem }: { what: string; problem: string }) {
  return (
    <p className="not-shown" role="status">
      {what} cannot be shown: {problem}
      {/[.?]$/.test(problem) ? "" : "."}
    </p>
  );
}
