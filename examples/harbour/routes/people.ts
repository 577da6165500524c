/** Signing in and out, and the profile with its two forms. */
import { Hono } from 'hono';
import type { Exchange, Loom } from 'zip-loom';
import type { Database } from '../data/database.ts';
import { changeDetails, changePassword, isPassword, signIn } from '../data/people.ts';
import { detailsForm, passwordForm, signInForm } from '../forms/forms.ts';
import type { Sessions } from '../sessions.ts';

/** Sends visitors who are not signed in to sign in; they come back to the page, or to the one with the form. */
export function signInFirst(exchange: Exchange, back = comeBack(exchange)): Response | undefined {
  if (exchange.context.user) return undefined;
  return exchange.redirect(`/sign-in?next=${encodeURIComponent(back)}`, { flash: 'Please sign in first.' });
}

/** A page can be shown again, what was sent cannot. */
function comeBack({ request }: Exchange): string {
  const { pathname, search } = new URL(request.url);
  return request.method === 'GET' ? pathname + search : '/';
}

interface Needs {
  database: Database;
  loom: Loom;
  sessions: Sessions;
}

/** What keeps a visitor out of the office; others than staff do not learn that it is there. */
export function keepOut(
  exchange: Exchange,
  notFound: (request: Request) => Promise<Response>,
): Response | Promise<Response> | undefined {
  const { user } = exchange.context;
  if (!user) return signInFirst(exchange);
  return user.isStaff ? undefined : notFound(exchange.request);
}

export function peopleRoutes({ database, loom, sessions }: Needs): Hono {
  const routes = new Hono();

  routes.get('/sign-in', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    return exchange.respond('sign-in', { signInForm: signInForm.blank({ next: c.req.query('next') }) });
  });

  routes.post('/sign-in', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const sent = await exchange.read(signInForm);
    if (!sent.ok) return exchange.respond('sign-in', { signInForm: sent });
    const person = await signIn(database, sent.value.email, sent.value.password);
    if (!person)
      return exchange.respond('sign-in', {
        signInForm: sent.refuse('', 'This e-mail and this password do not belong together.'),
      });
    exchange.rotateSession();
    const response = exchange.redirect(sent.value.next ?? '/', { flash: `Welcome aboard, ${person.name}.` });
    response.headers.append('set-cookie', await sessions.begin(person.id));
    return response;
  });

  routes.post('/sign-out', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const checked = await exchange.verify();
    if (!checked.ok) return checked.response;
    exchange.rotateSession();
    const response = exchange.redirect('/', { flash: 'You are signed out. Fair winds.' });
    response.headers.append('set-cookie', await sessions.end(c.req.raw));
    return response;
  });

  routes.get('/profile', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const { user } = exchange.context;
    if (!user) return signInFirst(exchange)!;
    return exchange.respond('profile', { detailsForm: detailsForm.from(user), passwordForm: passwordForm.blank() });
  });

  routes.post('/profile', async (c) => {
    const exchange = await loom.exchange(c.req.raw);
    const { user } = exchange.context;
    const sent = await exchange.readOneOf([user ? detailsForm.from(user) : detailsForm, passwordForm]);
    if (!user) return signInFirst(exchange)!;
    if (sent.name === 'details') {
      if (!sent.ok) return exchange.respond('profile', { detailsForm: sent, passwordForm: passwordForm.blank() });
      await changeDetails(database, user.id, sent.value);
      return exchange.redirect('/profile', { flash: 'Your details are saved.' });
    }
    const isRight = sent.ok && (await isPassword(database, user.id, sent.value.current));
    const shown = sent.ok && !isRight ? sent.refuse('current', 'This is not your password.') : sent;
    if (!shown.ok) return exchange.respond('profile', { detailsForm: detailsForm.from(user), passwordForm: shown });
    await changePassword(database, user.id, shown.value.next);
    exchange.rotateSession();
    return exchange.redirect('/profile', { flash: 'Your password is changed.' });
  });

  return routes;
}
