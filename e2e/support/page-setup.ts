// Scripts that run in a page before Fendro starts. They skip work that most tests are not about.

/** Turns the browser's data saver on, so that Fendro fetches nothing ahead. */
export function saveData(): void {
  Object.defineProperty(navigator, 'connection', { value: { saveData: true } });
}

/** Replaces the decode worker by one that returns its input: the test server sends decoded sounds (plain-sounds.ts). */
export function skipDecoding(): void {
  globalThis.Worker = new Proxy(Worker, {
    construct(target, [address, options]: [string | URL, WorkerOptions?]) {
      if (options?.name !== 'decode') return new target(address, options);
      const echo = new EventTarget();
      const postMessage = (data: unknown): void => {
        setTimeout(() => echo.dispatchEvent(new MessageEvent('message', { data })));
      };
      return Object.assign(echo, { postMessage, terminate: () => undefined });
    },
  });
}
