/**
 * A fetch that tells how much of a request's body has gone out, from 0 to 1: a plain fetch knows no
 * more than that all of it has.
 */
export function telling(sent: (share: number) => void) {
  return (request: Request): Promise<Response> =>
    new Promise((done, failed) => {
      const lost = () => failed(new TypeError("The server does not answer"));
      const x = new XMLHttpRequest();
      x.open(request.method, request.url);
      request.headers.forEach((value, name) => x.setRequestHeader(name, value));
      x.responseType = "blob";
      x.upload.onprogress = (e) => e.lengthComputable && sent(e.loaded / e.total);
      x.onload = () => {
        const headers = new Headers();
        for (const line of x.getAllResponseHeaders().trim().split(/\r?\n/)) {
          const [name = "", ...rest] = line.split(": ");
          headers.append(name, rest.join(": "));
        }
        const empty = x.status === 204 || x.status === 304;
        const { status, statusText } = x;
        done(new Response(empty ? null : (x.response as Blob), { status, statusText, headers }));
      };
      x.onerror = lost;
      x.onabort = () => failed(new DOMException("Stopped", "AbortError"));
      request.signal.addEventListener("abort", () => x.abort());
      request.arrayBuffer().then((body) => x.send(body), failed);
    });
}
