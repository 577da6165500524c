/**
 * What surrounds the code that the chapters show, as a small site: its data, its forms, a request that is being
 * answered. A block that names one of these without making it gets it from here.
 */
import { createServer } from 'node:http';
import { expect as jestExpect } from 'expect';
import { Hono } from 'hono';
import { createLoom } from 'zip-loom';
import { defineForm } from 'zip-loom/forms';
import { createVisitor } from 'zip-loom/testing';
import { z } from 'zod';
import type { User } from './users.ts';

export { trustedHTML } from 'zip-loom';
export type { User } from './users.ts';

export const berths = [{ id: 1, name: 'A1', free: true }];
export const boat = {
  id: 7,
  name: 'Quiet Tern',
  length: 7.5,
  kind: 'sail' as const,
  updatedAt: '2026-06-12T14:00:00Z',
};
export const boats = [boat];
export const arrival = { id: 7, boat: 'Quiet Tern', at: '2026-06-12T14:05:00Z' };
export const names = ['Ada'];
export const text = 'name,length\nQuiet Tern,7.5\n';
export const bytes = Uint8Array.of(137, 80, 78, 71, 13, 10, 26, 10);

export const expect = jestExpect;
export const test = (_name: string, body: () => Promise<void>) => body();

export const schema = z.object({
  pontoon: z.string().optional(),
  berth: z.string().optional(),
  owner: z.string().optional(),
});
export const boatForm = defineForm(
  'boat',
  z.object({
    name: z.string().min(2, 'A boat’s name has at least two letters.'),
    length: z.number().optional(),
    kind: z.enum(['sail', 'motor', 'rowing']).optional(),
    photo: z.file().max(1_000_000).optional(),
  }),
);
const signInForm = defineForm(
  'sign-in',
  z.object({ email: z.email(), password: z.string(), next: z.string().optional() }),
);
export const stayForm = defineForm(
  'stay',
  z.object({ from: z.iso.date(), until: z.iso.date(), crew: z.array(z.object({ name: z.string().min(2) })) }),
);
export const importForm = defineForm('import', z.object({ text: z.string() }));
export const detailsForm = defineForm('details', z.object({ name: z.string() }));

export const berthsOf = (pontoon: string) => [`${pontoon}1`, `${pontoon}2`];
export const people = {
  find: (text: string) => [{ value: '1', label: `${text} Ada` }],
  byId: (id: string) => ({ value: id, label: 'Ada' }),
  byPassword: async (_email: string, password: string): Promise<User | undefined> =>
    password === 'low-water' ? { name: 'Ada', isStaff: true } : undefined,
};
export const userOf = (request: Request): User | null =>
  request.headers.has('cookie') ? { name: 'Ada', isStaff: true } : null;
export async function save(_values: object): Promise<void> {}
export async function* importBoats(text: string, _signal: AbortSignal) {
  for (const line of text.split('\n')) yield { line };
}
export async function arrivalsUpTo(count: number) {
  return { shown: [arrival], fresh: [arrival], next: count + 20 };
}

export const database = { close: async () => {} };
export const helpers = {};
export const context = () => ({ user: null });
export const loom = await createLoom({
  templates: 'templates',
  layouts: { '**': 'site-layout' },
  mode: 'development',
  logger: false,
});
export const server = createServer();

const add = async (request: Request) => {
  const exchange = await loom.exchange(request);
  if (request.method === 'GET') return exchange.respond('boats/new', { boatForm: boatForm.blank() });
  const sent = await exchange.read(boatForm);
  if (!sent.ok) return exchange.respond('boats/new', { boatForm: sent });
  return exchange.redirect('/boats/7', { flash: `${sent.value.name} is in the book.` });
};
const signIn = async (request: Request) => {
  const exchange = await loom.exchange(request);
  if (request.method === 'GET') return exchange.respond('sign-in', { signInForm: signInForm.blank() });
  const sent = await exchange.read(signInForm);
  return sent.ok ? exchange.redirect('/') : exchange.respond('sign-in', { signInForm: sent });
};

function site(): Hono {
  const app = new Hono();
  app.all('/boats/new', (c) => add(c.req.raw));
  app.all('/sign-in', (c) => signIn(c.req.raw));
  app.get('/', (c) => loom.respond(c.req.raw, 'home', { berths }));
  app.get('/boats/:id', (c) => loom.respond(c.req.raw, 'boats/show', { boat: { ...boat, name: 'Grey Heron' } }));
  app.post('/boats/:id', (c) => add(c.req.raw));
  app.get('/boats/:id/edit', (c) => loom.respond(c.req.raw, 'boats/edit', { boat, boatForm: boatForm.from(boat) }));
  return app;
}

export let app = site();

/** Each chapter has a site of its own. */
export function begin(): void {
  app = site();
}

export let request = new Request('http://localhost/');
export let exchange = await loom.exchange(request);

/** What each block answers: a visitor asks for a page, or has just sent a form. */
export async function arrive(sent: boolean): Promise<void> {
  request = new Request('http://localhost/boats/new');
  const visitor = createVisitor((asked: Request) => {
    if (asked.method === 'POST') request = asked.clone();
    return add(asked);
  });
  if (sent) await visitor.submit('/boats/new', { name: 'Grey Heron', length: 7, kind: 'sail' });
  exchange = await loom.exchange(request);
}
