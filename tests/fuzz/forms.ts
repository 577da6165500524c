/**
 * Forms made of pieces that may lead elsewhere, and a model of what browsers do with them (HTML §4.10.21.3, URL §4.4), written
 * apart from the library.
 */

import { parse } from 'parse5';
import { createLoom, TemplateError } from 'zip-loom';
import type { Random } from '../../examples/harbour/data/random.ts';
import { quietLogger, secret } from '../support/settings.ts';
import { read } from './places.ts';

const site = 'http://harbour.test';

interface Node {
  nodeName: string;
  attrs?: Array<{ name: string; value: string }>;
  childNodes?: Node[];
  parentNode?: Node;
}

function elementsOf(node: Node): Node[] {
  return [...(node.attrs ? [node] : []), ...(node.childNodes ?? []).flatMap(elementsOf)];
}

const attribute = (node: Node | undefined, name: string) => node?.attrs?.find((one) => one.name === name)?.value;

function formOf(node: Node): Node | undefined {
  for (let one = node.parentNode; one; one = one.parentNode) if (one.nodeName === 'form') return one;
  return undefined;
}

/** Whether any way to send the form shows its fields to another site, or in a URL. */
export function leaks(html: string, page: string): boolean {
  const elements = elementsOf(parse(html) as unknown as Node);
  const href = attribute(
    elements.find((one) => one.nodeName === 'base' && attribute(one, 'href') !== undefined),
    'href',
  );
  const base = (href === undefined ? undefined : read(href, page)?.href) ?? page;
  const form = elements.find((one) => one.nodeName === 'form')!;
  const submitters = elements.filter((one) => {
    const type = attribute(one, 'type')?.toLowerCase();
    const submits =
      one.nodeName === 'button'
        ? !type || type === 'submit'
        : one.nodeName === 'input' && (type === 'submit' || type === 'image');
    const owner = attribute(one, 'form');
    return submits && (owner === undefined ? formOf(one) === form : owner === attribute(form, 'id'));
  });
  return [undefined, ...submitters].some((submitter) => {
    const method = (attribute(submitter, 'formmethod') ?? attribute(form, 'method') ?? 'get').toLowerCase();
    if (method === 'dialog') return false;
    if (method !== 'post') return true;
    const action = attribute(submitter, 'formaction') ?? attribute(form, 'action') ?? '';
    const target = action === '' ? page : read(action, base)?.href;
    // A URL that cannot be read is not followed.
    if (target === undefined) return false;
    const { origin, protocol, searchParams } = new URL(target);
    // A link that led to the page may have put a method into its URL.
    if (action === '' && searchParams.has('_method')) return true;
    return origin !== site || !/^https?:$/.test(protocol);
  });
}

export const holdsToken = (html: string) => html.includes('name="loom-token"');

const addresses = [
  ...'x /x ?q #a // /// \\\\ /\\ \\/ http: http:// http:/ https:// //evil.test evil.test harbour.test http://harbour.test'.split(
    ' ',
  ),
  ...'/.// /..// :80 :81 @ @evil.test ?_method=delete mailto:a javascript:1 data:x blob:http://harbour.test/x . ..'.split(
    ' ',
  ),
  '\t',
  '\n',
  '\u0001',
  ' ',
  '',
];
const methods = ['post', 'post', 'POST', 'get', 'dialog', 'put', 'patch', '', ' post'];

/** A URL in place of an attribute: written, or as a value. */
function addressOf(random: Random): { text: string; isValue: boolean } {
  const text = Array.from({ length: random.between(0, 4) }, () => random.pick(addresses)).join('');
  return { text, isValue: random.between(0, 1) === 1 };
}

/** A page with one form, its buttons and perhaps bases, in any order. */
function formPage(random: Random): { page: string; values: Record<string, string> } {
  const values: Record<string, string> = {};
  const attribute = (name: string, { text, isValue }: { text: string; isValue: boolean }) => {
    const key = `a${Object.keys(values).length}`;
    values[key] = text;
    if (isValue) return ` ${name}=\${data.${key}}`;
    return ` ${name}="${text.replace(/[&"<$\u0000-\u0020]/g, (one) => `&#${one.charCodeAt(0)};`)}"`;
  };
  const maybe = (text: () => string) => (random.between(0, 2) === 0 ? text() : '');
  const button = (owner: string) => {
    const more = maybe(() => ` formmethod="${random.pick(methods)}"`);
    const where = maybe(() => attribute('formaction', addressOf(random)));
    return random.pick([`<button${owner}${where}${more}>x</button>`, `<input type="submit"${where}${owner}${more}>`]);
  };
  const inside = maybe(() => button(''));
  const action = maybe(() => attribute('action', addressOf(random)));
  const method = random.pick(methods);
  const form = `<form id="f"${action} method="${method}">${inside}</form>`;
  const others = [
    maybe(() => button(' form="f"')),
    maybe(() => button(' form="g"')),
    maybe(() => `<base href="${random.pick(['/x/', 'https://evil.test/', 'x', '//evil.test'])}">`),
  ];
  const pieces = [form, ...others];
  const first = random.between(0, pieces.length - 1);
  return { page: [...pieces.slice(first), ...pieces.slice(0, first)].join(''), values };
}

/** Shows a random form, and tells what is wrong with it, if anything. */
export async function tryForm(random: Random): Promise<string | undefined> {
  const { page, values } = formPage(random);
  const query = random.pick(['', '?b=c', '?_method=delete', '?a&_method=put&b']);
  const url = site + random.pick(['/', '/boats/1', '//evil.test/x']) + query;
  try {
    const loom = await createLoom({
      sources: { 'pages/page.html': `<meta (takes data)>${page}` },
      secret,
      logger: quietLogger,
    });
    const html = await (await loom.respond(new Request(url), 'page', { data: values })).text();
    return holdsToken(html) && leaks(html, url) ? `leaks at ${url}: ${html}` : undefined;
  } catch (error) {
    return error instanceof TemplateError ? undefined : `threw ${String(error)}: ${page}`;
  }
}
