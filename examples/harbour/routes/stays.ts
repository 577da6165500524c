/** Asking for a stay: in two steps for visitors, on one page in the office. */
import { Hono } from 'hono';
import type { Exchange, Loom } from 'zip-loom';
import type { Accepted } from 'zip-loom/forms';
import { berthsOfPontoon } from '../data/berths.ts';
import { boatChoice, boatsByName } from '../data/boats.ts';
import type { Database } from '../data/database.ts';
import { addStay } from '../data/stays.ts';
import { createStayForm, type StayForm, type StayFormDefinition, staySteps } from '../forms/stay-form.ts';
import { signInFirst } from './people.ts';

interface Needs {
  database: Database;
  loom: Loom;
  notFound(request: Request): Promise<Response>;
}

/** `2026-06-12` → `12 June`. */
const dayInWords = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', timeZone: 'UTC' });

export function stayRoutes({ database, loom, notFound }: Needs): Hono {
  const routes = new Hono();
  const stayForm = createStayForm({
    berthsOf: (pontoon) => berthsOfPontoon(database, pontoon),
    findBoats: (text) => boatsByName(database, text),
    boatOf: (id) => boatChoice(database, id),
  });
  const visitorsForm = stayForm.steps(staySteps);

  /** How the office likes its forms. */
  const lookOf = (wanted: string | undefined) =>
    ['table', 'inline', 'stacked'].find((look) => look === wanted) ?? 'table';

  /** Saves a stay, or shows again why not. */
  const save = async (
    exchange: Exchange,
    sent: Accepted<'stay', object, NonNullable<StayFormDefinition['output']>>,
    status: 'requested' | 'accepted',
    { again, to }: { again(form: StayForm): Promise<Response>; to: string },
  ): Promise<Response> => {
    const { berth, boat, from, until, crew } = sent.value;
    const taken = await addStay(database, { berthId: berth, boatId: boat, from, until, crew, status });
    if (taken) return again(sent.refuse('berth', `Taken on ${dayInWords.format(new Date(taken))}.`) as StayForm);
    return exchange.redirect(to, {
      flash: status === 'accepted' ? 'The stay is in the book.' : 'The office has your request.',
    });
  };

  routes.get('/stays/new', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const { pontoon, berth } = c.req.query();
    const values = { pontoon: pontoon as 'A', ...(berth ? { berth: Number(berth) } : {}) };
    return (
      signInFirst(exchange) ?? exchange.respond('stays/new', { stayForm: visitorsForm.blank(pontoon ? values : {}) })
    );
  });

  routes.post('/stays', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const sent = await exchange.read(visitorsForm);
    const stop = signInFirst(exchange, '/stays/new');
    if (stop) return stop;
    const again = (form: StayForm) => exchange.respond('stays/new', { stayForm: form });
    if (sent.repeated) return exchange.redirect('/berths');
    if (!sent.ok) return again(sent);
    return save(exchange, sent, 'requested', { again, to: `/berths/${sent.value.berth}` });
  });

  /** What the list of boats offers while somebody types. */
  routes.get('/stays/boats', async (c) =>
    loom.respond(c.req.raw, 'stays/boats', { boats: await boatsByName(database, c.req.query('text') ?? '') }),
  );

  routes.get('/staff/stays/new', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    if (!exchange.context.user?.isStaff) return signInFirst(exchange) ?? notFound(c.req.raw);
    return exchange.respond('staff/new-stay', { stayForm: stayForm.blank(), look: lookOf(c.req.query('look')) });
  });

  routes.post('/staff/stays', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const sent = await exchange.read(stayForm);
    if (!exchange.context.user?.isStaff) return signInFirst(exchange) ?? notFound(c.req.raw);
    const look = lookOf(c.req.query('look'));
    const again = (form: StayForm) => exchange.respond('staff/new-stay', { stayForm: form, look });
    if (sent.repeated) return exchange.redirect('/staff/stays');
    if (!sent.ok) return again(sent);
    return save(exchange, sent, 'accepted', { again, to: '/staff/stays' });
  });

  return routes;
}
