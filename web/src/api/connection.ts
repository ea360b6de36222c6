/** Whether the server can be reached, as the stream of events knows it. */
let gone = false;
let timer: ReturnType<typeof setTimeout> | undefined;
const listeners = new Set<() => void>();

/** Milliseconds for which a stream may be away before that is said. */
const patience = 1500;

function put(value: boolean) {
  if (gone === value) return;
  gone = value;
  for (const told of listeners) told();
}

export const connection = {
  subscribe: (told: () => void) => {
    listeners.add(told);
    return () => void listeners.delete(told);
  },
  gone: () => gone,
  lost: () => {
    timer ??= setTimeout(() => put(true), patience);
  },
  back: () => {
    clearTimeout(timer);
    timer = undefined;
    put(false);
  },
};
