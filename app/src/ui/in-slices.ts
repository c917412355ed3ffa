/** How long one slice of the work may hold the page up. */
const SLICE_MS = 10;

/** Lets everything else that waits have its turn. Timers would be slowed down where the page is hidden. */
const breath = (): Promise<void> =>
  typeof MessageChannel === 'undefined'
    ? Promise.resolve()
    : new Promise((resolve) => {
        const { port1, port2 } = new MessageChannel();
        port1.onmessage = () => {
          port1.close();
          resolve();
        };
        port2.postMessage(null);
      });

/** Does a work step by step, in slices so short that the page goes on meanwhile. */
export async function inSlices<T>(work: Generator<void, T>): Promise<T> {
  for (let since = performance.now(); ;) {
    const step = work.next();
    if (step.done) return step.value;
    if (performance.now() - since < SLICE_MS) continue;
    await breath();
    since = performance.now();
  }
}
