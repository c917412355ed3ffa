// What pages of the tests are spared where a test is about something else. Each runs in the page before Fendro.

/** The browser was told to spare data: nothing is fetched ahead. */
export function spareData(): void {
  Object.defineProperty(navigator, 'connection', { value: { saveData: true } });
}

/** Sounds that come decoded (plain-sounds.ts) pass as they are, where the decoding worker would write them once more. */
export function passDecodedSounds(): void {
  globalThis.Worker = new Proxy(Worker, {
    construct(target, [address, options]: [string | URL, WorkerOptions?]) {
      if (options?.name !== 'decode') return new target(address, options);
      const passing = new EventTarget();
      const postMessage = (data: unknown): void => {
        setTimeout(() => passing.dispatchEvent(new MessageEvent('message', { data })));
      };
      return Object.assign(passing, { postMessage, terminate: () => undefined });
    },
  });
}
