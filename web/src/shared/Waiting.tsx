/** In the place of what has been asked for: that it is awaited, or why it will not come. */
export function Waiting({ error, children }: { error: Error | null; children: string }) {
  return error ? (
    <p className="empty" role="alert">
      {error.message}
    </p>
  ) : (
    <p className="empty" aria-busy="true">
      {children}
    </p>
  );
}
