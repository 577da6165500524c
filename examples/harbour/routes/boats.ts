/** Boats: list, show, create, edit, remove. Whoever changes one is signed in. */
import { type Context, Hono } from 'hono';
import type { Loom } from 'zip-loom';
import { addBoat, changeBoat, findBoat, listBoats, removeBoat } from '../data/boats.ts';
import type { Database } from '../data/database.ts';
import { boatForm } from '../forms/forms.ts';
import { signInFirst } from './people.ts';

interface Needs {
  database: Database;
  loom: Loom;
  notFound(request: Request): Promise<Response>;
}

export function boatRoutes({ database, loom, notFound }: Needs): Hono {
  const routes = new Hono();
  const boatOf = (c: Context) => findBoat(database, Number(c.req.param('id')));

  routes.get('/', async (c) => {
    const page = Number.parseInt(c.req.query('page') ?? '1', 10) || 1;
    return loom.respond(c.req.raw, 'boats/list', await listBoats(database, page));
  });

  routes.get('/new', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    return signInFirst(exchange) ?? exchange.respond('boats/new', { boatForm: boatForm.blank({ kind: 'sail' }) });
  });

  routes.post('/', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const sent = await exchange.read(boatForm);
    const { user } = exchange.context;
    if (!user) return signInFirst(exchange)!;
    if (!sent.ok) return exchange.respond('boats/new', { boatForm: sent });
    const id = await addBoat(database, sent.value, user.name);
    return exchange.redirect(`/boats/${id}`, { flash: `${sent.value.name} is in the book.` });
  });

  routes.get('/:id{[0-9]+}', async (c) => {
    const boat = await boatOf(c);
    return boat ? loom.respond(c.req.raw, 'boats/show', { boat }) : notFound(c.req.raw);
  });

  routes.get('/:id{[0-9]+}/edit', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const boat = await boatOf(c);
    if (!boat) return notFound(c.req.raw);
    return signInFirst(exchange) ?? exchange.respond('boats/edit', { boat, boatForm: boatForm.from(boat) });
  });

  routes.patch('/:id{[0-9]+}', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const boat = await boatOf(c);
    const sent = await exchange.read(boat ? boatForm.from(boat) : boatForm);
    if (!boat) return notFound(c.req.raw);
    const stop = signInFirst(exchange);
    if (stop) return stop;
    if (!sent.ok) return exchange.respond('boats/edit', { boat, boatForm: sent });
    await changeBoat(database, boat.id, sent.value);
    return exchange.redirect(`/boats/${boat.id}`, { flash: 'Saved.' });
  });

  routes.delete('/:id{[0-9]+}', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const checked = await exchange.verify();
    if (!checked.ok) return checked.response;
    const stop = signInFirst(exchange);
    if (stop) return stop;
    const boat = await boatOf(c);
    if (!boat) return notFound(c.req.raw);
    await removeBoat(database, boat.id);
    return exchange.redirect('/boats', { flash: `${boat.name} has left the book.` });
  });

  return routes;
}
