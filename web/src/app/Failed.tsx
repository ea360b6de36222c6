import Button from "@mui/material/Button";
import { isRouteErrorResponse, Link, useLocation, useParams, useRouteError } from "react-router";

/** In the place of a place that cannot be shown: why, and the ways on. What was typed and
 *  not saved is kept in this browser and is there again. */
export function Failed() {
  const error = useRouteError();
  const { site } = useParams();
  const { pathname } = useLocation();
  const missing = isRouteErrorResponse(error) && error.status === 404;
  return (
    <div className="empty" role="alert">
      <h1 dir="auto">
        {missing ? "Nothing stands at this address" : "This place could not be shown"}
      </h1>
      <p>{missing ? pathname : error instanceof Error ? error.message : String(error)}</p>
      <p>
        {!missing && (
          <>
            <Button variant="contained" onClick={() => location.reload()}>
              Load it anew
            </Button>{" "}
          </>
        )}
        <Link to={site ? `/${site}` : "/?all"}>{site ? `To ${site}` : "To the sites"}</Link>
      </p>
    </div>
  );
}

/** The same where even the bench could not be drawn. */
export function NoBench() {
  return (
    <main>
      <Failed />
    </main>
  );
}

/** Where an address leads to no place. */
export function nowhere(): never {
  // eslint-disable-next-line @typescript-eslint/only-throw-error -- as the router wants it
  throw new Response(null, { status: 404 });
}
