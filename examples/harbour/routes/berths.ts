/** Berths: searching, showing, watching. */
import { type Context, Hono } from 'hono';
import type { Loom } from 'zip-loom';
import { findBerth, searchBerths, staysOfBerth } from '../data/berths.ts';
import { commentsOfBerth } from '../data/comments.ts';
import type { Database } from '../data/database.ts';
import { unwatch, watch, watchOf } from '../data/watches.ts';
import { searchForm } from '../forms/forms.ts';
import { signInFirst } from './people.ts';

interface Needs {
  database: Database;
  loom: Loom;
  /** The day in the harbour, as an ISO date. */
  today(): string;
  notFound(request: Request): Promise<Response>;
}

export function berthRoutes({ database, loom, today, notFound }: Needs): Hono {
  const routes = new Hono();

  routes.get('/', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const sent = await exchange.readQuery(searchForm);
    // A search that cannot be read shows what is wrong with it, beside all berths.
    const found = await searchBerths(database, sent.ok ? sent.value : { free: false, page: 1 }, today());
    return exchange.respond('berths/list', { ...found, searchForm: sent }, { status: 200 });
  });

  routes.get('/:id{[0-9]+}', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const berth = await findBerth(database, Number(c.req.param('id')), today());
    if (!berth) return notFound(c.req.raw);
    const stays = await staysOfBerth(database, berth.id, today());
    const comments = await commentsOfBerth(database, berth.id);
    return exchange.respond('berths/show', {
      berth,
      stays,
      comments,
      ...(await watchOf(database, berth.id, exchange.context.user?.id)),
    });
  });

  /** Begins or ends watching, and shows the berth again. */
  const change = (action: typeof watch) => async (c: Context) => {
    const exchange = await loom.exchange(c.req.raw);
    const checked = await exchange.verify();
    if (!checked.ok) return checked.response;
    const id = Number(c.req.param('id'));
    const { user } = exchange.context;
    if (!user) return signInFirst(exchange, `/berths/${id}`)!;
    await action(database, id, user.id);
    return exchange.redirect(`/berths/${id}`);
  };
  routes.put('/:id{[0-9]+}/watch', change(watch));
  routes.delete('/:id{[0-9]+}/watch', change(unwatch));

  return routes;
}
