/** All arrivals: some at first, and more when somebody asks. */
import { Hono } from 'hono';
import { type Loom, put } from 'zip-loom';
import { latestArrivals } from '../data/arrivals.ts';
import type { Database } from '../data/database.ts';

interface Needs {
  database: Database;
  loom: Loom;
  now(): Date;
}

/** So many come at a time. */
const step = 20;

/** More than this are too many for a page. */
const most = 2000;

export function arrivalRoutes({ database, loom, now }: Needs): Hono {
  const routes = new Hono();

  routes.get('/', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const wanted = Number.parseInt(c.req.query('show') ?? '', 10) || step;
    const show = Math.min(Math.max(step, wanted), most);
    // The URL says how many are shown, so that the page is the same when it is loaded again.
    const arrivals = await latestArrivals(database, now(), show + 1);
    const next = arrivals.length > show && show < most ? show + step : undefined;
    const shown = arrivals.slice(0, show);
    return exchange.changes(
      function* () {
        for (const arrival of shown.slice(-step)) yield put('arrival-row', { arrival }).atEndOf('arrivals-rows');
        yield put('more-arrivals', { next }).inside('more-arrivals');
      },
      { fallback: exchange.page('arrivals', { arrivals: shown, next }) },
    );
  });

  return routes;
}
