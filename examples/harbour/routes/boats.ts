/** Boats: list, show, create, edit, remove. Whoever changes one is signed in. */
import { type Context, Hono } from 'hono';
import type { Loom } from 'zip-loom';
import type { UploadedFile } from 'zip-loom/forms';
import { addBoat, changeBoat, findBoat, listBoats, removeBoat, restoreBoat } from '../data/boats.ts';
import type { Database } from '../data/database.ts';
import type { Files, KeptFile } from '../data/files.ts';
import { boatForm } from '../forms/forms.ts';
import type { Boat } from '../model.ts';
import { signInFirst } from './people.ts';

interface Needs {
  database: Database;
  files: Files;
  loom: Loom;
  notFound(request: Request): Promise<Response>;
}

/** The form of a boat, which shows the files that it has. */
function formOf({ photo, insurance, ...boat }: Boat) {
  const shown = (file: KeptFile | null, kind: string) => file && { name: file.name, url: `/boats/${boat.id}/${kind}` };
  return boatForm.from(boat, {
    version: boat.revision,
    files: { photo: shown(photo, 'photo'), insurance: shown(insurance, 'insurance') },
  });
}

export function boatRoutes({ database, files, loom, notFound }: Needs): Hono {
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
    const { photo, insurance, ...values } = sent.value;
    const kept = { photo: photo && (await files.keep(photo)), insurance: insurance && (await files.keep(insurance)) };
    const id = await addBoat(
      database,
      { ...values, photo: kept.photo ?? null, insurance: kept.insurance ?? null },
      user.name,
    );
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
    return signInFirst(exchange) ?? exchange.respond('boats/edit', { boat, boatForm: formOf(boat) });
  });

  routes.patch('/:id{[0-9]+}', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const boat = await boatOf(c);
    const sent = await exchange.read(boat ? formOf(boat) : boatForm);
    if (!boat) return notFound(c.req.raw);
    const stop = signInFirst(exchange);
    if (stop) return stop;
    if (!sent.ok) return exchange.respond('boats/edit', { boat, boatForm: sent });
    const { photo, insurance, ...values } = sent.value;
    await changeBoat(database, boat.id, {
      ...values,
      photo: await changed(boat.photo, photo, sent.removed.has('photo')),
      insurance: await changed(boat.insurance, insurance, sent.removed.has('insurance')),
    });
    return exchange.redirect(`/boats/${boat.id}`, { flash: 'Saved.' });
  });

  for (const kind of ['photo', 'insurance'] as const)
    routes.get(`/:id{[0-9]+}/${kind}`, async (c) => {
      const boat = await boatOf(c);
      return (await files.answer(boat?.[kind])) ?? notFound(c.req.raw);
    });

  /** What a boat has after its form was sent: a new file, none, or what it had. */
  const changed = async (before: KeptFile | null, sent: UploadedFile | undefined, isRemoved: boolean) => {
    if (!sent && !isRemoved) return before;
    await files.remove(before);
    return sent ? files.keep(sent) : null;
  };

  routes.delete('/:id{[0-9]+}', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const checked = await exchange.verify();
    if (!checked.ok) return checked.response;
    const stop = signInFirst(exchange);
    if (stop) return stop;
    const boat = await boatOf(c);
    if (!boat) return notFound(c.req.raw);
    await removeBoat(database, boat);
    const action = { label: 'Undo', url: `/boats/${boat.id}/restore` };
    return exchange.redirect('/boats', { flash: { text: `${boat.name} has left the book.`, action } });
  });

  routes.post('/:id{[0-9]+}/restore', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const checked = await exchange.verify();
    if (!checked.ok) return checked.response;
    const stop = signInFirst(exchange);
    if (stop) return stop;
    const boat = await restoreBoat(database, Number(c.req.param('id')));
    const flash = boat ? `${boat.name} is back in the book.` : 'That boat is in the book already.';
    return exchange.redirect(boat ? `/boats/${boat.id}` : '/boats', { flash });
  });

  return routes;
}
