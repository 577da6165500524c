/** Debian's Chromium for tests. */
import { type Browser, chromium } from 'playwright-core';

/** Starts Chromium without a window; the caller closes it. */
export function openBrowser(): Promise<Browser> {
  return chromium.launch({
    executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
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
