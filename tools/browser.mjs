/**
 * How the browser is started for tests, pictures and measurements. Debian's shell without a window: the same browser, but
 * for the parts of its own interface, which took a fifth of the tests' time.
 */
export const BROWSER = {
  executablePath: '/usr/bin/chromium-headless-shell',
  args: [
    '--headless',
    '--no-sandbox',
    '--disable-gpu',
    // There is no graphics card: a separate process for drawing would only cost messages.
    '--in-process-gpu',
    // Letters are as wide as in the browser with a window.
    '--font-render-hinting=none',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
};
