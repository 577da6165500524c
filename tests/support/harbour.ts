/** The harbour on a port of its own, with a clock that is still. */

import { mkdtempSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { serve } from '@hono/node-server';
import type { Page } from 'playwright-core';
import { createHarbour } from '../../examples/harbour/app.ts';
import { demoStart } from '../../examples/harbour/data/calendar.ts';
import { openDatabase } from '../../examples/harbour/data/database.ts';
import { secret } from './settings.ts';

export interface OpenHarbour {
  /** `http://127.0.0.1:…` without a slash at its end. */
  address: string;
  /** Where files are that were sent and not taken yet. */
  uploads: string;
  /** Moves the clock, in milliseconds. */
  advance(milliseconds: number): void;
  /** A boat comes in. */
  arrive(): Promise<void>;
  close(): Promise<void>;
}

/**
 * @param scripts whether browsers may run any: a policy is the one way to switch them off that all engines have
 * @param listen is told of every request
 */
export async function openHarbour({
  weatherDelay = 0,
  scripts = true,
  listen = () => {},
}: {
  weatherDelay?: number;
  scripts?: boolean;
  listen?: (request: Request) => void;
} = {}): Promise<OpenHarbour> {
  const uploads = join(mkdtempSync(join(tmpdir(), 'tern-uploads-')), 'uploads');
  const { database, files, close } = await openDatabase();
  let advanced = 0;
  const harbour = await createHarbour({
    database,
    files,
    uploads,
    now: () => new Date(demoStart.getTime() + advanced),
    mode: 'production',
    weatherDelay,
    importDelay: 20,
    logger: { warn: () => {}, error: (details) => console.error(details) },
    secret,
    assets: resolve('build/harbour'),
  });
  const fetch = async (request: Request) => {
    listen(request);
    const response = await harbour.fetch(request);
    if (!scripts) response.headers.append('content-security-policy', "script-src 'none'");
    return response;
  };
  const server = serve({ fetch, port: 0, hostname: '127.0.0.1' });
  await new Promise((listening) => server.once('listening', listening));
  const { port } = server.address() as AddressInfo;
  return {
    address: `http://127.0.0.1:${port}`,
    uploads,
    advance(milliseconds) {
      advanced += milliseconds;
    },
    arrive: () => harbour.board.arrive(),
    async close() {
      await harbour.channels.close();
      if ('closeAllConnections' in server) server.closeAllConnections();
      await new Promise((closed) => server.close(closed));
      await close();
      rmSync(dirname(uploads), { recursive: true, force: true });
    },
  };
}

/** Signs in by the page for it. */
export async function signIn(page: Page, email = 'esme@tern.example'): Promise<void> {
  await page.goto('/sign-in');
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill('low-water');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL('**/');
}
