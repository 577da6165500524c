/** Debian’s Chromium, as it comes for programs: `CHROMIUM` names another. */
import { type Browser, chromium } from 'playwright-core';

/** Starts Chromium without a window; the caller closes it. */
export function openBrowser(): Promise<Browser> {
  return chromium.launch({
    executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium-headless-shell',
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
}
