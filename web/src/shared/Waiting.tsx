import Skeleton from "@mui/material/Skeleton";

/** In the place of what has been asked for: that it is awaited, and about how it will look; or why
 *  it will not come. */
export function Waiting({ error, children }: { error: Error | null; children: string }) {
  return error ? (
    <p className="empty" role="alert">
      {error.message}
    </p>
  ) : (
    <div className="empty waiting" aria-busy="true">
      <p>{children}</p>
      {[42, 88, 76, 64].map((width) => (
        <Skeleton key={width} width={`${width}%`} height={26} animation={false} />
      ))}
    </div>
  );
}
