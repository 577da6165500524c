/** Berths: searching, showing, watching. */
import { type Context, Hono } from 'hono';
import type { Exchange, Loom } from 'zip-loom';
import { findBerth, searchBerths, staysOfBerth } from '../data/berths.ts';
import { addComment, commentsOfBerth, pictureOf } from '../data/comments.ts';
import type { Database } from '../data/database.ts';
import type { Files } from '../data/files.ts';
import { unwatch, watch, watchOf } from '../data/watches.ts';
import { type CommentForm, commentForm, searchForm } from '../forms/forms.ts';
import type { Berth } from '../model.ts';
import { signInFirst } from './people.ts';

interface Needs {
  database: Database;
  files: Files;
  loom: Loom;
  now(): Date;
  /** The day in the harbour, as an ISO date. */
  today(): string;
  notFound(request: Request): Promise<Response>;
}

export function berthRoutes({ database, files, loom, now, today, notFound }: Needs): Hono {
  const routes = new Hono();

  routes.get('/', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const sent = await exchange.readQuery(searchForm);
    // A search that cannot be read shows what is wrong with it, beside all berths.
    const found = await searchBerths(database, sent.ok ? sent.value : { free: false, page: 1 }, today());
    return exchange.respond('berths/list', { ...found, searchForm: sent }, { status: 200 });
  });

  const berthOf = (c: Context) => findBerth(database, Number(c.req.param('id')), today());

  const show = async (exchange: Exchange, berth: Berth, form: CommentForm = commentForm.blank()) =>
    exchange.respond('berths/show', {
      berth,
      stays: await staysOfBerth(database, berth.id, today()),
      comments: await commentsOfBerth(database, berth.id),
      commentForm: form,
      ...(await watchOf(database, berth.id, exchange.context.user?.id)),
    });

  routes.get('/:id{[0-9]+}', async (c) => {
    const berth = await berthOf(c);
    return berth ? show(await loom.exchange(c.req.raw), berth) : notFound(c.req.raw);
  });

  routes.post('/:id{[0-9]+}/comments', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const berth = await berthOf(c);
    const sent = await exchange.read(commentForm);
    if (!berth) return notFound(c.req.raw);
    const { user } = exchange.context;
    if (!user) return signInFirst(exchange, `/berths/${berth.id}`)!;
    if (!sent.ok) return show(exchange, berth, sent);
    const { text, picture } = sent.value;
    await addComment(database, {
      berthId: berth.id,
      author: user.name,
      at: now().toISOString(),
      text,
      picture: picture ? await files.keep(picture) : null,
    });
    return exchange.redirect(`/berths/${berth.id}#comments-title`, { flash: 'Thank you for the remark.' });
  });

  routes.get('/:id{[0-9]+}/comments/:comment{[0-9]+}/picture', async (c) => {
    const [berth, comment] = [Number(c.req.param('id')), Number(c.req.param('comment'))];
    return (await files.answer(await pictureOf(database, berth, comment))) ?? notFound(c.req.raw);
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
