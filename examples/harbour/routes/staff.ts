/** The harbour office: who comes and goes, and answers to those who asked for a stay. */
import { Hono } from 'hono';
import type { Exchange, Loom } from 'zip-loom';
import type { Board } from '../board.ts';
import type { Database } from '../data/database.ts';
import { answerStay, dayInHarbour, staysToCome } from '../data/stays.ts';
import { answerForm } from '../forms/forms.ts';
import { keepOut } from './people.ts';

interface Needs {
  database: Database;
  loom: Loom;
  board: Board;
  /** The day in the harbour, as an ISO date. */
  today(): string;
  notFound(request: Request): Promise<Response>;
}

/** So many stays are on the desk at a time. */
const staysOnDesk = 20;

export function staffRoutes({ database, loom, board, today, notFound }: Needs): Hono {
  const routes = new Hono();

  const stop = (exchange: Exchange) => keepOut(exchange, notFound);

  routes.get('/', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    return (
      stop(exchange) ?? exchange.respond('staff/today', { day: await dayInHarbour(database, today()), today: today() })
    );
  });

  routes.get('/stays', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    return (
      stop(exchange) ?? exchange.respond('staff/stays', { stays: await staysToCome(database, today(), staysOnDesk) })
    );
  });

  routes.patch('/stays/:id{[0-9]+}', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const sent = await exchange.read(answerForm, { only: ['status'] });
    const stopped = stop(exchange);
    if (stopped) return stopped;
    if (!sent.ok) return exchange.redirect('/staff/stays', { flash: 'That answer could not be read.' });
    const stay = await answerStay(database, Number(c.req.param('id')), sent.value.status);
    if (!stay) return notFound(c.req.raw);
    if (stay !== 'taken') await board.stayAnswered(stay);
    const flash =
      stay === 'taken'
        ? { text: 'Another boat has that berth on one of these nights.', role: 'alert' as const }
        : `${stay.boat} is ${stay.status}.`;
    return exchange.redirect('/staff/stays', { flash });
  });

  return routes;
}
