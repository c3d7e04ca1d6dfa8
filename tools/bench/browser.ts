/** Debian's Chromium, quiet on a closed network. */
export const CHROMIUM = {
  executablePath: process.env['CLEAR_MARK_CHROMIUM'] ?? '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-sync',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-default-apps',
    '--no-default-browser-check',
    '--disable-features=OptimizationHints,MediaRouter,Translate',
  ],
};
