/** Every place where a value may be, and what must hold there for any data. */

import { parse, parseFragment } from 'parse5';
import { createLoom, type Loom, LoomError, TemplateError } from 'zip-loom';
import { quietLogger, secret } from '../support/settings.ts';

/** A template with one value `a` at one place, or with two. */
export interface Place {
  name: string;
  template: string;
  /** What must hold of the printed page beyond its structure; gives the complaint, or nothing. */
  check?: (html: string, a: unknown, b: unknown) => string | undefined;
}

const allowedSchemes = new Set(['http:', 'https:', 'mailto:', 'tel:', 'sms:']);

export const places: Place[] = [
  { name: 'text', template: '<p>${a}</p><b>x</b>' },
  { name: 'text beside an ampersand', template: '<p>&${a};</p>' },
  { name: 'text in a table', template: '<table><tr><td>${a}</td></tr></table>' },
  { name: 'text in a select', template: '<select><option>${a}</option></select>' },
  { name: 'text in SVG', template: '<svg><text>${a}</text><title>${a}</title></svg>' },
  { name: 'text in MathML', template: '<math><mi>${a}</mi><mtext>${a}</mtext></math>' },
  { name: 'text in noscript', template: '<noscript><p>${a}</p></noscript>' },
  { name: 'title', template: '<title>${a}</title><p>x</p>' },
  { name: 'textarea', template: '<textarea>${a}</textarea><p>x</p>' },
  { name: 'pre', template: '<pre>${a}</pre><p>x</p>' },
  { name: 'a whole attribute', template: '<p title=${a}>x</p>' },
  { name: 'a part of an attribute', template: '<p title="a ${a} b">x</p>' },
  { name: 'a part of an unquoted attribute', template: '<p title=a${a}b id=y>x</p>' },
  { name: 'a part of a single-quoted attribute', template: "<p title='\"${a}' id='y'>x</p>" },
  { name: 'an attribute of a void element', template: '<input value=${a} name="n"><p>x</p>' },
  { name: 'a boolean attribute', template: '<input disabled=${a} name="n">' },
  { name: 'an enumerated attribute', template: '<p contenteditable=${a} aria-hidden=${a}>x</p>' },
  { name: 'a token list', template: '<p class=${a}>x</p>' },
  { name: 'tokens of an array', template: '<p class=${[a, "b", [a]]}>x</p>' },
  { name: 'a part of a token list', template: '<p class="a ${a}" id="y">x</p>' },
  { name: 'an address', template: '<a href=${a}>x</a>', check: addressCheck('a', 'href') },
  {
    name: 'an address in quotes, with text behind',
    template: '<a href="${a}/x">x</a>',
    check: addressCheck('a', 'href'),
  },
  { name: 'an address of two values', template: '<a href="${a}${a}">x</a>', check: addressCheck('a', 'href') },
  {
    name: 'an address of two values with a colon',
    template: '<a href="${a}:${a}">x</a>',
    check: addressCheck('a', 'href'),
  },
  { name: 'a segment', template: '<a href="/b/${a}/c">x</a>', check: staysBelow('/b/', '/c') },
  { name: 'two halves of a segment', template: '<a href="/b/${a}${a}/c">x</a>', check: staysBelow('/b/', '/c') },
  { name: 'a query', template: '<a href="/b?q=${a}&r=1">x</a>', check: staysBelow('/b', undefined) },
  { name: 'a fragment', template: '<a href="/b#${a}">x</a>', check: staysBelow('/b', undefined) },
  { name: 'an image', template: '<img src=${a} alt="">', check: addressCheck('img', 'src', true) },
  { name: 'an action', template: '<form action=${a}></form>', check: addressCheck('form', 'action') },
  {
    name: 'an action of a posting form',
    template: '<form action=${a} method="post"></form>',
    check: addressCheck('form', 'action'),
  },
  {
    name: 'an address in SVG',
    template: '<svg><a xlink:href=${a}><text>x</text></a></svg>',
    check: addressCheck('a', 'xlink:href'),
  },
  { name: 'image candidates', template: '<img srcset=${a} alt="">' },
  { name: 'a part of image candidates', template: '<img srcset="${a} 1x, /b.png 2x" alt="">' },
  { name: 'a style', template: '<p style="--depth: ${a}; color: red">x</p>', check: styleCheck(['--depth', 'color']) },
  {
    name: 'a part of a style',
    template: '<p style="width: calc(${a} + 1px); color: red">x</p>',
    check: styleCheck(['width', 'color']),
  },
  { name: 'JSON', template: '<script type="application/json">{"a": ${a}, "b": 1}</script><p>x</p>', check: jsonCheck },
  {
    name: 'a JSON string',
    template: '<script type="application/ld+json">{"a": "x ${a} y", "b": 1}</script><p>x</p>',
    check: jsonCheck,
  },
  { name: 'a list of attributes', template: '<p ${...{ title: a, class: a, "data-x": a, href: a, style: a }}>x</p>' },
  {
    name: 'an address in a list of attributes',
    template: '<a ${...{ href: a }}>x</a>',
    check: addressCheck('a', 'href'),
  },
  { name: 'names of a list of attributes', template: '<p id="y" ${...{ [String(a)]: "v" }}>x</p>', check: noHandlers },
  { name: 'a refresh', template: '<meta http-equiv="refresh" content="5; url=${a}"><p>x</p>' },
  {
    name: 'a script’s address behind a settled origin',
    template: '<script src="/js/${a}.js"></script><p>x</p>',
    check: staysBelow('/js/', undefined, 'script', 'src'),
  },
  { name: 'two segments', template: '<a href="/${a}/${b}">x</a>', check: staysHere('a', 'href') },
  { name: 'a segment at the root', template: '<a href="/${a}/evil.test">x</a>', check: staysHere('a', 'href') },
  {
    name: 'segments with nothing between',
    template: '<a href="/${a}${b}/evil.test/x">x</a>',
    check: staysHere('a', 'href'),
  },
  { name: 'a backslash', template: '<a href="\\${a}\\${b}">x</a>', check: staysHere('a', 'href') },
  { name: 'a tab in an address', template: '<a href="/&#9;${a}/${b}">x</a>', check: staysHere('a', 'href') },
  { name: 'a value, then a path', template: '<a href="${a}/${b}">x</a>', check: followsStart },
  { name: 'a value, then text, then a value', template: '<a href="${a}/x/${b}">x</a>', check: followsStart },
  { name: 'two values', template: '<a href="${a}${b}">x</a>', check: followsStart },
  { name: 'two values, then a path', template: '<a href="${a}${b}/x/${a}">x</a>', check: followsStart },
  { name: 'a value, then the rest of a host', template: '<a href="${a}.evil.test/">x</a>', check: followsStart },
  { name: 'a host', template: '<a href="https://${a}/x">x</a>', check: staysHere('a', 'href', ['x']) },
  {
    name: 'a part of a host',
    template: '<a href="https://${a}.harbour.test/${b}">x</a>',
    check: staysHere('a', 'href', ['x.harbour.test']),
  },
  { name: 'a port', template: '<a href="http://harbour.test:${a}/${b}">x</a>', check: staysHere('a', 'href') },
  { name: 'a user', template: '<a href="http://${a}@harbour.test/${b}">x</a>', check: staysHere('a', 'href') },
  {
    name: 'a scheme without slashes',
    template: '<a href="https:${a}/${b}">x</a>',
    check: staysHere('a', 'href', ['x']),
  },
  { name: 'a scheme in halves', template: '<a href="java${a}:${b}">x</a>', check: addressCheck('a', 'href') },
  {
    name: 'two segments of an action',
    template: '<form action="/${a}/${b}" method="post"></form>',
    check: staysHere('form', 'action'),
  },
  {
    name: 'two segments of a button',
    template: '<button formaction="/${a}/${b}">x</button>',
    check: staysHere('button', 'formaction'),
  },
  { name: 'two segments of an image', template: '<img src="/${a}/${b}" alt="">', check: staysHere('img', 'src') },
  { name: 'path segments', template: '<a href=${urlPath(a, b, "evil.test")}>x</a>', check: staysHere('a', 'href') },
  {
    name: 'path segments behind a slash',
    template: '<a href="/${urlPath(a, b)}">x</a>',
    check: staysHere('a', 'href'),
  },
  {
    name: 'path segments of code',
    template: '<script src="/js/${urlPath(a, b)}"></script>',
    check: staysHere('script', 'src'),
  },
  {
    name: 'a query of the page',
    template: '<a href=${withQuery(b ? "//evil.test/x" : "/x", { a, b })}>x</a>',
    check: staysHere('a', 'href'),
  },
  {
    name: 'candidates of two segments',
    template: '<img srcset="/${a}/${b} 1x, ${a} ${b}w, /x/${b} 2x" alt="">',
    check: candidatesCheck,
  },
  { name: 'tokens of addresses', template: '<a href="/" ping="/${a}/${b} /x">x</a>', check: staysHere('a', 'ping') },
  {
    name: 'where a refresh leads',
    template: '<meta http-equiv="refresh" content="0; url=${a}"><p>x</p>',
    check: refreshCheck,
  },
  {
    name: 'where a refresh leads, in quotes',
    template: `<meta http-equiv="refresh" content="0; url='/\${a}/\${b}'"><p>x</p>`,
    check: refreshCheck,
  },
  {
    name: 'a function of a style in halves',
    template: '<p style="--depth: u${a}(${b}); color: red">x</p>',
    check: styleCheck(['--depth', 'color']),
  },
  {
    name: 'a comment of a style in halves',
    template: '<p style="--depth: /${a}* ${b}*/; color: red">x</p>',
    check: styleCheck(['--depth', 'color']),
  },
  { name: 'a text of a style', template: `<p style="--depth: 'x\${a}'; color: red">x</p>`, check: quotedStyleCheck },
  { name: 'a slot in a drawing', template: '<drawing-box><text>${a}</text><shape-box of=${b}/></drawing-box>' },
  { name: 'a slot in a title', template: '<title-box><template slot="title">${a}</template></title-box>' },
  { name: 'a slot behind <pre>', template: '<pre-box>${a}</pre-box>', check: keepsText },
  { name: 'a call behind <pre>', template: '<pre><slot-box>${a}</slot-box></pre>', check: keepsText },
  {
    name: 'a condition behind <textarea>',
    template: '<pre><template (if true)>${a}</template></pre>',
    check: keepsText,
  },
  { name: 'an argument', template: '<echo-box text=${a} more="x ${a}"/>' },
  { name: 'a list', template: '<ul><li (for one of [a, a])>${one}</li></ul>' },
];

/** A loom with a page for each place; `place-0` and on. */
/** A page for each place, and what the pages call: path below the templates folder → source. */
export function placeSources(): Record<string, string> {
  const sources: Record<string, string> = {
    'partials/echo-box.html': '<meta (takes text, more)><p title=${text}>${more}${text}</p>',
    'partials/slot-box.html': '<slot></slot>',
    'partials/pre-box.html': '<pre><slot></slot></pre>',
    'partials/title-box.html': '<title>A <slot name="title">B</slot></title><p>x</p>',
    'partials/drawing-box.html': '<svg><g><slot></slot></g></svg>',
    'partials/shape-box.html': '<meta (takes of)><path d=${of}></path><text>${of}</text>',
  };
  for (const [index, { template }] of places.entries())
    sources[`pages/place-${index}.html`] = `<meta (takes a, b)>${template}`;
  return sources;
}

export function placesLoom(): Promise<Loom> {
  return createLoom({ sources: placeSources(), secret, logger: quietLogger });
}

/**
 * Renders one place with some data and compares it with harmless data.
 * @returns the complaint, or `undefined` when all holds. A value that is refused with an error of ours holds too.
 */
export function tryPlace(loom: Loom, index: number, a: unknown, b: unknown = a): string | undefined {
  const place = places[index]!;
  let html: string;
  try {
    html = loom.renderSync(`place-${index}`, { a, b });
  } catch (error) {
    if (error instanceof TemplateError && error.code !== 'failed-expression') return undefined;
    if (error instanceof LoomError) return undefined;
    return `threw ${String(error)}`;
  }
  if (!html.isWellFormed()) return 'is not well-formed Unicode';
  const harmless = harmlessStructure(loom, index);
  const actual = structureOf(html);
  if (!isAlike(harmless, actual)) return `has another structure: ${html}`;
  return place.check?.(html, a, b);
}

/** What each place is with harmless data, worked out once. */
const harmlessStructures = new Map<number, Structure[]>();

function harmlessStructure(loom: Loom, index: number): Structure[] {
  let structure = harmlessStructures.get(index);
  if (!structure) {
    structure = structureOf(loom.renderSync(`place-${index}`, { a: 'x', b: 'x' }));
    harmlessStructures.set(index, structure);
  }
  return structure;
}

/** An element by name, the names of its attributes, and its elements. */
interface Structure {
  name: string;
  attributes: string[];
  children: Structure[];
}

interface ParsedNode {
  nodeName: string;
  attrs?: Array<{ name: string; value: string; prefix?: string }>;
  childNodes?: ParsedNode[];
  content?: ParsedNode;
}

function structureOf(html: string): Structure[] {
  return elementsOf(parseFragment(html) as unknown as ParsedNode);
}

function elementsOf(node: ParsedNode): Structure[] {
  return (
    (node.content ?? node).childNodes?.flatMap((child) => {
      if (child.nodeName === '#text') return [];
      const attributes = (child.attrs ?? []).map((attribute) =>
        attribute.prefix ? `${attribute.prefix}:${attribute.name}` : attribute.name,
      );
      return [{ name: child.nodeName, attributes: attributes.sort(), children: elementsOf(child) }];
    }) ?? []
  );
}

/** The same elements; attributes that a value may leave out may be missing, never others. */
function isAlike(harmless: Structure[], actual: Structure[]): boolean {
  if (harmless.length !== actual.length) return false;
  return harmless.every((one, index) => {
    const other = actual[index]!;
    const fixed = one.attributes.filter((name) => name === 'x');
    const allowed = new Set([...one.attributes, ...(fixed.length > 0 ? other.attributes : [])]);
    return (
      one.name === other.name &&
      other.attributes.every((name) => allowed.has(name)) &&
      isAlike(one.children, other.children)
    );
  });
}

function attributeIn(html: string, element: string, name: string): string | undefined {
  const find = (node: ParsedNode): string | undefined => {
    if (node.nodeName === element) {
      const found = node.attrs?.find(
        (attribute) => (attribute.prefix ? `${attribute.prefix}:${attribute.name}` : attribute.name) === name,
      );
      if (found) return found.value;
    }
    for (const child of node.childNodes ?? []) {
      const value = find(child);
      if (value !== undefined) return value;
    }
    return undefined;
  };
  return find(parse(html) as unknown as ParsedNode);
}

function addressCheck(element: string, name: string, isImage = false) {
  return (html: string): string | undefined => {
    const value = attributeIn(html, element, name);
    if (value === undefined || value === 'about:blank#refused-url') return undefined;
    // As browsers read it: with the URL standard’s own parser.
    const url = read(value);
    if (!url || allowedSchemes.has(url.protocol)) return undefined;
    if (isImage && /^data:image\//i.test(url.href)) return undefined;
    return `lets ${url.protocol} pass: ${html}`;
  };
}

function staysBelow(start: string, end: string | undefined, element = 'a', name = 'href') {
  return (html: string): string | undefined => {
    const value = attributeIn(html, element, name);
    if (value === undefined || value === 'about:blank#refused-url') return undefined;
    const { origin, pathname } = new URL(value, 'http://harbour.test/deep/er/');
    const holds =
      origin === 'http://harbour.test' && pathname.startsWith(start) && (end === undefined || pathname.endsWith(end));
    return holds ? undefined : `leads elsewhere: ${html}`;
  };
}

/** Declarations as CSS Syntax reads them, as far as strings, brackets, escapes and comments go. */
function styleCheck(names: string[]) {
  return (html: string): string | undefined => {
    const value = attributeIn(html, 'p', 'style') ?? '';
    if (/[\\"'{}@<]|\/\*|url\s*\(/i.test(value)) return `holds what may leave a declaration: ${html}`;
    let depth = 0;
    let declaration = '';
    for (const character of `${value};`) {
      if (character === '(') depth++;
      if (character === ')') depth--;
      if (character === ';' && depth === 0) {
        const name = declaration.split(':')[0]!.trim();
        if (name !== '' && !names.includes(name)) return `declares ${name}: ${html}`;
        declaration = '';
      } else declaration += character;
    }
    return depth === 0 && declaration === '' ? undefined : `leaves a bracket open: ${html}`;
  };
}

function jsonCheck(html: string): string | undefined {
  const text = /<script[^>]*>([\s\S]*?)<\/script>/.exec(html)?.[1] ?? '';
  const value = JSON.parse(text) as { b?: unknown };
  if (/[<>&\u2028\u2029]/.test(text)) return `is not closed: ${html}`;
  return Object.keys(value).join() === 'a,b' && value.b === 1 ? undefined : `is other JSON: ${html}`;
}

function noHandlers(html: string): string | undefined {
  const node = parseFragment(html) as unknown as ParsedNode;
  const names = node.childNodes?.[0]?.attrs?.map((attribute) => attribute.name) ?? [];
  return names.some((name) => name.startsWith('on') || name === 'srcdoc') ? `sets a handler: ${html}` : undefined;
}

/** URLs that no data may lead to another site. */
function staysHere(element: string, name: string, allowed: string[] = []) {
  return (html: string): string | undefined => {
    const value = attributeIn(html, element, name);
    return value === undefined || isHere(value, allowed) ? undefined : `leads elsewhere: ${html}`;
  };
}

/** What the one trusted URL of the data leads to where a host may be. */
const trustedHost = 'fine';

/** Whether browsers stay on the site with a URL, whatever page it is on; one that they cannot read leads nowhere. */
function isHere(address: string, allowed: string[] = []): boolean {
  return ['http://harbour.test/deep/er/', 'https://harbour.test//evil.test/x'].every((base) => {
    const url = read(address, base);
    if (!url) return true;
    const { protocol, host } = url;
    return (
      protocol === 'about:' ||
      ((protocol === 'http:' || protocol === 'https:') && [...allowed, 'harbour.test', trustedHost].includes(host))
    );
  });
}

/** Where a URL begins with a value, the value alone says which host it leads to. */
function followsStart(html: string, a: unknown): string | undefined {
  const value = attributeIn(html, 'a', 'href');
  const base = 'http://harbour.test/deep/er/';
  const url = value === undefined ? undefined : read(value, base);
  if (!url || value === 'about:blank#refused-url') return addressCheck('a', 'href')(html);
  const start = printed(a);
  const expected = read(start, base)?.host;
  const { host } = url;
  return host === expected || host === 'harbour.test' ? addressCheck('a', 'href')(html) : `leads to ${host}: ${html}`;
}

/** A URL as the URL standard reads it; `URL.canParse` is not to be relied on in every version of Node. */
export function read(address: string, base?: string): URL | undefined {
  try {
    return new URL(address, base);
  } catch {
    return undefined;
  }
}

/** A value as it is printed where a URL begins. */
function printed(value: unknown): string {
  if (Array.isArray(value)) return value.map(printed).join('');
  if (value instanceof URL) return value.href;
  return ['string', 'number', 'bigint'].includes(typeof value) ? String(value) : '';
}

/** URLs of image candidates, read as HTML §4.8.4.2.2 says. Only the one that is a value alone may lead elsewhere. */
function candidatesCheck(html: string): string | undefined {
  const list = attributeIn(html, 'img', 'srcset') ?? '';
  // ASCII whitespace alone, which is less than that of a regular expression.
  const addresses = list
    .split(/,(?=[\t\n\f\r ])/)
    .map((one) => one.replace(/^[\t\n\f\r ]+/, '').split(/[\t\n\f\r ]/)[0]!);
  if (addresses.length !== 3) return `has ${addresses.length} candidates: ${html}`;
  return isHere(addresses[0]!) && isHere(addresses[2]!) ? undefined : `leads elsewhere: ${html}`;
}

/** HTML §4.2.5.3, “shared declarative refresh steps”, from after `url=`. */
function refreshCheck(html: string): string | undefined {
  const content = attributeIn(html, 'meta', 'content') ?? '';
  const written = content.replace(/^0; url=/, '');
  const quote = /^['"]/.exec(written)?.[0];
  const address = quote ? (written.slice(1).split(quote)[0] ?? '') : written;
  return isHere(address) ? undefined : `leads elsewhere: ${html}`;
}

/** A value in a string of CSS can neither end it nor go on after its line. */
function quotedStyleCheck(html: string): string | undefined {
  const value = attributeIn(html, 'p', 'style') ?? '';
  return /^(?:--depth: 'x[^'\\\n\r\f]*';)? color: red$/.test(value) ? undefined : `leaves the string: ${html}`;
}

/** What is inside `<pre>` is the value, its first line break too. */
function keepsText(html: string, a: unknown): string | undefined {
  if (typeof a !== 'string') return undefined;
  const pre = (parseFragment(html) as unknown as ParsedNode).childNodes?.find((node) => node.nodeName === 'pre');
  const text = (pre?.childNodes ?? []).map((node) => (node as { value?: string }).value ?? '').join('');
  const read = a.toWellFormed().replace(/\r\n?/g, '\n').replaceAll('\0', '');
  return text === read ? undefined : `is ${JSON.stringify(text)}: ${html}`;
}
