/** A region that is asked for alone is what it is in its page, whatever is in it and around it, and nothing else is run for it. */
import { describe, expect, test } from '@jest/globals';
import { type DefaultTreeAdapterTypes, parse, serializeOuter } from 'parse5';
import { createLoom } from 'zip-loom';
import { quietLogger } from '../support/settings.ts';

const later = <Value>(value: Value) => new Promise<Value>((resolve) => setTimeout(resolve, 2, value));
async function* slowly<Value>(values: readonly Value[]) {
  for (const value of values) yield await later(value);
}

const partials = {
  'partials/word-box.html': '<meta (takes word)><b (region box-${word})>${word}<i (region inside-${word})>!</i></b>',
  'partials/plain-box.html': '<meta (takes word)><b>${word}</b>',
  'partials/slot-box.html': '<section><slot></slot></section>',
  'layouts/site-layout.html':
    '<!doctype html><html><body><nav (region nav)>n<b (region deep)>d</b></nav><main><slot></slot></main><p (region foot)>f</p></body></html>',
};

const pages: Array<[name: string, page: string]> = [
  ['one in another', '<div (region a)>1<p (region b)>2<b (region c)>3</b></p>4</div><p (region d)>5</p>'],
  ['in calls', '<div (region a)><word-box word="x"></word-box></div><word-box word="y"></word-box>'],
  ['in slots', '<slot-box><p (region a)>1<b (region b)>2</b></p></slot-box><slot-box><p (region c)>3</p></slot-box>'],
  [
    'in lists',
    '<ul (region list)><li (for x of xs) (region row-${x})>${x}<b (region in-${x})>b</b></li></ul><p (region z)>z</p>',
  ],
  ['in choices', '<div (region a)><p (if xs.length) (region b)>1</p><p (else) (region c)>2</p></div>'],
  [
    'that wait',
    '<div (region a)><p (await x = later(1)) (region b)>${x}</p></div><p (await y = later(2)) (region c)>${y}</p>',
  ],
  ['in what waits', '<div (await x = later(1))><p (region a)>${x}<b (region b)>2</b></p></div><p (region c)>3</p>'],
  [
    'one after another that wait',
    '<p (await x = later(1))><b (region a)>${x}</b></p><p (await y = later(2))><b (region b)>${y}</b></p>',
  ],
  [
    'in lists that come',
    '<ul (region a)><li (for x of slow()) (region row-${x})>${x}</li></ul><ol><li (for y of slow()) (region other-${y})>${y}</li></ol>',
  ],
  ['in a layout', '<p (region a)>1<b (region b)>2</b></p><word-box word="w"></word-box>'],
  [
    'in what failed',
    '<div (await x = failing()) (region a)>${x}</div><p (catch error) (region b)>failed<b (region c)>c</b></p>',
  ],
];

interface Element {
  attrs?: Array<{ name: string; value: string }>;
  childNodes?: Element[];
  content?: Element;
}

/** The regions of a page by their names, without what differs from answer to answer. */
function regionsOf(html: string): Map<string, string> {
  const found = new Map<string, string>();
  const visit = (element: Element) => {
    element.attrs = element.attrs?.filter(({ name }) => name !== 'data-loom-mark') ?? [];
    for (const inner of element.childNodes ?? []) visit(inner);
    if (element.content) visit(element.content);
    const name = element.attrs.find((attribute) => attribute.name === 'data-loom-region')?.value;
    if (name !== undefined) found.set(name, serializeOuter(element as unknown as DefaultTreeAdapterTypes.Element));
  };
  visit(parse(html) as unknown as Element);
  return found;
}

describe('regions', () => {
  test.each(pages)('%s', async (_name, page) => {
    const takes = '<meta (takes xs, later, slow, failing)>';
    const loom = await createLoom({
      sources: { ...partials, 'pages/page.html': takes + page },
      layouts: { '**': page.includes('word="w"') ? 'site-layout' : 'none' },
      logger: quietLogger,
    });
    const data = () => ({
      xs: [1, 2, 3],
      later,
      slow: () => slowly([1, 2]),
      failing: () => later(0).then(() => Promise.reject(new Error('no'))),
    });
    const whole = regionsOf(await loom.render('page', data()));
    expect(whole.size).toBeGreaterThan(1);
    for (const [region, markup] of whole) {
      const request = new Request('http://harbour.test/', { headers: { 'loom-only': region, 'loom-page': 'page' } });
      const answer = await (await loom.respond(request, 'page', data())).text();
      expect([region, regionsOf(answer).get(region)]).toEqual([region, markup]);
    }
  });

  test('what comes after it is not run: neither calls nor lists nor what waits', async () => {
    const loom = await createLoom({
      sources: {
        ...partials,
        'pages/page.html':
          '<meta (takes run)><p (region a)>1</p><plain-box word=${run("call")}></plain-box><b (for x of run("list"))>${x}</b><p (await x = run("await")) (region b)>${x}</p>',
      },
      logger: quietLogger,
    });
    const ran: string[] = [];
    const run = (what: string) => {
      ran.push(what);
      return [];
    };
    const request = new Request('http://harbour.test/', { headers: { 'loom-only': 'a', 'loom-page': 'page' } });
    await (await loom.respond(request, 'page', { run })).text();
    expect(ran).toEqual([]);
  });
});
