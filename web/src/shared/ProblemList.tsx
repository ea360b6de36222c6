import type { Finding } from "../api/client";

/** What keeps documents from being saved, each with its place. */
export function ProblemList({ problems }: { problems: Finding[] }) {
  if (problems.length === 0) return null;
  return (
    <ul className="problems" aria-label="Problems">
      {problems.map((p) => (
        <li key={`${p.path}${p.line}${p.column}${p.code}`}>
          <b>
            {p.path}:{p.line}:{p.column}
          </b>{" "}
          {p.message}
        </li>
      ))}
    </ul>
  );
}
