/** Forms in several steps, forms of a record that others change meanwhile, and forms that count once. */
import { beforeEach, describe, expect, test } from '@jest/globals';
import { createLoom, type Loom, type LoomOptions } from 'zip-loom';
import { defineForm, type FormDefinition } from 'zip-loom/forms';
import { createVisitor, type Page, type Visitor } from 'zip-loom/testing';
import { z } from 'zod';
import { quietLogger, secret } from '../support/settings.ts';

const stayForm = defineForm(
  'stay',
  z
    .object({
      from: z.iso.date(),
      nights: z.int().min(1),
      crew: z.array(z.object({ name: z.string().min(2) })).min(1),
      paper: z.file().optional(),
      note: z.string().max(9).optional(),
      agreed: z.literal(true),
    })
    .refine(({ nights, crew }) => nights < 9 || crew.length < 2, {
      path: ['nights'],
      message: 'Too long for so many.',
    }),
);
const steps = [
  { name: 'dates', fields: ['from', 'nights', 'paper'] },
  { name: 'crewList', fields: ['crew'] },
  { name: 'terms', fields: ['note', 'agreed'], label: 'The terms' },
];

const sources = {
  'pages/stay.html': `<meta (takes stayForm)>
<ol><li (for step of stayForm.steps) aria-current=\${step.isCurrent ? 'step' : null}>\${step.number} \${step.label}\${step.isDone && ' ✓'}</li></ol>
<form (bind stayForm) method="post"><form-fields></form-fields><button (back)>Back</button><button>\${stayForm.step?.isLast ? 'Send' : 'Next'}</button></form>`,
  'pages/boat.html': `<meta (takes boatForm)>
<form (bind boatForm) method="post"><form-fields except="hidden"></form-fields><button>Save</button></form>`,
};

let esme: Visitor;
let read: unknown;
let loom: Loom;
let form: FormDefinition;
let page: string;
let options: object | undefined;
let model: object | undefined;
let done: number;
/** Whether the visitor’s session is another from now on. */
let renews = false;
let answer: 'redirect' | 'fail' | 'refuse';

const start = async (more: LoomOptions = {}) => {
  loom = await createLoom({ sources, secret, logger: quietLogger, ...more });
  esme = createVisitor(async (request: Request) => {
    await using exchange = await loom.exchange(request);
    if (renews) exchange.rotateSession();
    const bound = form.from(model, options);
    const show = (shown: unknown) => exchange.respond(page, { [page === 'stay' ? 'stayForm' : 'boatForm']: shown });
    if (request.method !== 'POST') return show(bound);
    const sent = await exchange.read(bound);
    read = sent.ok
      ? sent.value
      : { status: sent.status, edited: sent.edited, repeated: sent.repeated, errors: sent.errors };
    if (!sent.ok) return show(sent);
    if (answer === 'fail') throw new Error('The disk is full.');
    if (answer === 'refuse') return show(sent.refuse('', 'Not now.'));
    done++;
    return exchange.redirect('/');
  });
};
beforeEach(async () => {
  form = stayForm.steps(steps);
  page = 'stay';
  options = undefined;
  model = undefined;
  done = 0;
  answer = 'redirect';
  await start();
});

const current = (shown: Page) => shown.text('[aria-current=step]');

describe('steps', () => {
  test('are shown one after another, each judged by itself; back loses nothing', async () => {
    let shown = await esme.visit('/');
    expect([current(shown), shown.texts('li'), shown.attribute('button[value=back]', 'disabled')]).toEqual([
      '1 Dates',
      ['1 Dates', '2 Crew list', '3 The terms'],
      '',
    ]);
    shown = await shown.submit({ nights: 0 });
    expect([shown.status, current(shown), shown.errors('nights')]).toEqual([
      422,
      '1 Dates',
      ['Please enter 1 or more.'],
    ]);
    shown = await shown.submit({ from: '2026-06-12', nights: 3 });
    expect([shown.status, current(shown), read]).toEqual([
      200,
      '2 Crew list',
      { status: 200, edited: true, repeated: false, errors: {} },
    ]);
    expect(shown.attribute('[autofocus]', 'name')).toBe('crew[0].name');
    shown = await shown.submit({ 'crew[0].name': 'A' }, { button: 'Add' });
    expect([current(shown), shown.value('crew[0].name')]).toEqual(['2 Crew list', 'A']);
    shown = await shown.submit({ 'crew[1].name': 'Bo' }, { button: 'Back' });
    expect([current(shown), shown.value('from'), shown.value('nights')]).toEqual(['1 Dates', '2026-06-12', '3']);
    shown = await shown.submit({ nights: 4 });
    expect([shown.value('crew[0].name'), shown.value('crew[1].name')]).toEqual(['A', 'Bo']);
    shown = await shown.submit({});
    expect([shown.status, shown.errors('crew[0].name')]).toEqual([422, ['Please use at least 2 characters.']]);
    shown = await shown.submit({ 'crew[0].name': 'Ada' });
    expect([current(shown), shown.texts('li')[0]]).toEqual(['3 The terms', '1 Dates ✓']);
    await shown.submit({ agreed: true, note: 'late' });
    expect(read).toEqual({
      from: '2026-06-12',
      nights: 4,
      crew: [{ name: 'Ada' }, { name: 'Bo' }],
      note: 'late',
      agreed: true,
    });
  });

  test('go back to the one that is wrong when all of them are there', async () => {
    let shown = await esme.submit('/', { from: '2026-06-12', nights: 9 });
    shown = await shown.submit({ 'crew[0].name': 'Ada' }, { button: 'Add' });
    shown = await shown.submit({ 'crew[1].name': 'Bo' });
    shown = await shown.submit({ agreed: true });
    expect([current(shown), shown.errors('nights')]).toEqual(['1 Dates', ['Too long for so many.']]);
    shown = await (await (await shown.submit({ nights: 2 })).submit({})).submit({});
    expect(read).toMatchObject({ nights: 2, agreed: true });
  });

  test('keep files', async () => {
    const paper = new File(['%PDF-1.4 paper'], 'paper.pdf', { type: 'application/pdf' });
    let shown = await esme.submit('/', { from: '2026-06-12', nights: 1, paper });
    shown = await shown.submit({ 'crew[0].name': 'Ada' }, { button: 'Back' });
    expect(shown.has('paper.pdf has arrived')).toBe(true);
    shown = await (await shown.submit({})).submit({});
    await shown.submit({ agreed: true });
    expect(read).toMatchObject({ paper: { name: 'paper.pdf', size: 14 } });
  });

  test('lose nothing when the session has ended meanwhile', async () => {
    const first = await esme.submit('/', { from: '2026-06-12', nights: 1 });
    const last = await first.submit({ 'crew[0].name': 'Ada' });
    renews = true;
    await esme.visit('/');
    renews = false;
    const refused = await last.submit({ agreed: true });
    // Nothing of it is proved any more: it is shown again step by step.
    expect([refused.status, current(refused), refused.value('from')]).toEqual([403, '1 Dates', '2026-06-12']);
    const crew = await refused.submit({});
    expect([current(crew), crew.value('crew[0].name')]).toEqual(['2 Crew list', 'Ada']);
    const terms = await crew.submit({});
    expect([current(terms), terms.value('agreed')]).toEqual(['3 The terms', 'true']);
    await terms.submit({});
    expect(read).toMatchObject({ from: '2026-06-12', crew: [{ name: 'Ada' }], agreed: true });
  });

  test.each([
    ['a field that there is not', [{ name: 'a', fields: ['form'] }], /Did you mean “from”/],
    ['a field of a row', [{ name: 'a', fields: ['crew[].name'] }], /a group or a list goes whole/],
    [
      'a field twice',
      [
        { name: 'a', fields: ['from'] },
        { name: 'b', fields: ['from'] },
      ],
      /each field is in one step/,
    ],
    ['nothing', [], /list of steps/],
    ['no steps', ['from'], /list of steps/],
  ])('refuse %s', (_, wrong, message) => {
    expect(() => stayForm.steps(wrong as never)).toThrow(message);
  });
});

describe('a record that changes meanwhile', () => {
  const boatForm = defineForm(
    'boat',
    z.object({
      name: z.string().min(2),
      length: z.number(),
      fast: z.boolean(),
      about: z.string().optional(),
      crew: z.array(z.object({ name: z.string() })),
      hidden: z.string().optional(),
    }),
    { kinds: { about: 'long-text' } },
  );
  const tern = { name: 'Tern', length: 7.5, fast: false, about: 'a\nb', crew: [{ name: 'Ada' }], hidden: 'x' };
  beforeEach(() => {
    form = boatForm;
    page = 'boat';
    model = tern;
    options = { version: new Date(1000) };
  });
  const change = (changes: object) => {
    model = { ...tern, ...changes };
    options = { version: new Date(2000) };
  };

  test('nothing is asked where it has not changed, or only where the page does not look', async () => {
    const shown = await esme.visit('/');
    await shown.submit({ name: 'Gull' });
    expect(read).toMatchObject({ name: 'Gull', about: 'a\nb' });
    change({ hidden: 'y' });
    await shown.submit({ name: 'Gull' });
    expect(read).toMatchObject({ name: 'Gull', hidden: 'y' });
  });

  test('both values are shown where both have changed a field; sent once more, it is taken', async () => {
    const shown = await esme.visit('/');
    change({ name: 'Skua', fast: true });
    const asked = await shown.submit({ name: 'Gull', length: 8 });
    expect([asked.status, asked.value('name'), asked.errors('name')]).toEqual([
      409,
      'Gull',
      ['Somebody else has changed this to “Skua” meanwhile. Send the form again to keep what you entered.'],
    ]);
    expect(asked.has('Somebody else has changed this meanwhile. Please look at the marked fields')).toBe(true);
    // What only the other has changed is taken over.
    expect([asked.value('fast'), asked.value('length')]).toEqual(['true', '8']);
    await asked.submit({});
    expect(read).toMatchObject({ name: 'Gull', length: 8, fast: true });
  });

  test('who has changed something else is asked too, and sees what is there now', async () => {
    const shown = await esme.visit('/');
    change({ about: 'new', crew: [{ name: 'Ada' }, { name: 'Bo' }] });
    const asked = await shown.submit({ name: 'Gull' });
    expect([asked.status, asked.value('about'), asked.value('crew[1].name')]).toEqual([409, 'new', 'Bo']);
    await asked.submit({});
    expect(read).toMatchObject({ name: 'Gull', about: 'new', crew: [{ name: 'Ada' }, { name: 'Bo' }] });
  });

  test('a try that fails for another reason forgets nothing of it', async () => {
    const shown = await esme.visit('/');
    const wrong = await shown.submit({ name: 'x' });
    change({ length: 9 });
    const asked = await wrong.submit({ name: 'Gull', length: 8 });
    expect([asked.status, asked.errors('length').length]).toEqual([409, 1]);
    // It changes once more while the visitor thinks.
    change({ length: 10 });
    options = { version: new Date(3000) };
    expect((await asked.submit({})).status).toBe(409);
  });

  test('two who have changed it to the same agree', async () => {
    const shown = await esme.visit('/');
    change({ name: 'Gull' });
    await shown.submit({ name: 'Gull' });
    expect(read).toMatchObject({ name: 'Gull' });
  });
});

describe('a form that counts once', () => {
  beforeEach(() => {
    form = defineForm('order', z.object({ note: z.string().min(2) }), { once: true });
    page = 'boat';
    sources['pages/boat.html'] =
      '<meta (takes boatForm)><form (bind boatForm) method="post"><p (errors)></p><input name="note"><button>Save</button></form>';
    return start();
  });

  test('is taken once from each page', async () => {
    const shown = await esme.visit('/');
    const [, again] = await Promise.all([shown.submit({ note: 'ok' }), shown.submit({ note: 'ok' })]);
    expect([done, again.status, again.has('This form was sent already.')]).toEqual([1, 409, true]);
    expect(read).toMatchObject({ repeated: true });
    await (await esme.visit('/')).submit({ note: 'ok' });
    expect(done).toBe(2);
  });

  test('is not used up by a try that was refused, or that failed', async () => {
    const shown = await esme.visit('/');
    await shown.submit({ note: 'x' });
    answer = 'refuse';
    expect((await shown.submit({ note: 'ok' })).status).toBe(422);
    answer = 'fail';
    await expect(shown.submit({ note: 'ok' })).rejects.toThrow('The disk is full.');
    answer = 'redirect';
    await shown.submit({ note: 'ok' });
    expect(done).toBe(1);
  });

  test('on several machines that share what they remember', async () => {
    const taken = new Set<string>();
    const idempotency = {
      take: async (key: string) => !taken.has(key) && taken.add(key).size > 0,
      release: async (key: string) => void taken.delete(key),
    };
    await start({ idempotency });
    const shown = await esme.visit('/');
    await shown.submit({ note: 'ok' });
    expect([taken.size, (await shown.submit({ note: 'ok' })).status]).toEqual([1, 409]);
  });
});

test('what is wrong with a field that the page does not show is said by the form', async () => {
  form = defineForm('order', z.object({ note: z.string(), weight: z.number() }), { labels: { weight: 'Weight, t' } });
  page = 'boat';
  sources['pages/boat.html'] =
    '<meta (takes boatForm)><form (bind boatForm) method="post"><ul (errors)></ul><input name="note"></form>';
  await start();
  const shown = await esme.submit('/', { note: 'x' });
  expect(shown.texts('ul li')).toEqual(['Weight, t: This field is required.']);
});
