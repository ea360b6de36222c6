import { Link } from "react-router";

/** The product's mark, which leads somewhere; bare it stands without the product's name. */
export function Brand({ to, bare = false }: { to: string; bare?: boolean }) {
  return (
    <Link className="brand" to={to} aria-label="Brick Shelf">
      <svg width="26" height="20" viewBox="0 0 26 20" aria-hidden>
        <g>
          <rect width="12" height="5" rx="1" />
          <rect x="14" width="12" height="5" rx="1" />
          <rect x="5" y="7" width="16" height="5" rx="1" />
        </g>
        <rect className="base" y="15" width="26" height="3" rx="1" />
      </svg>
      {!bare && "Brick Shelf"}
    </Link>
  );
}
